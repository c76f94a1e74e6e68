//! Starting: several servers at once on an empty database, and one that was ended half way through bringing it up to date.

use diesel::connection::SimpleConnection;
use diesel::sql_types::Text;
use diesel::{Connection, MysqlConnection, QueryableByName, RunQueryDsl, sql_query};
use diesel_migrations::MigrationHarness;
use kevyt::{Settings, open};
use kevyt_testbed::Stage;
use std::collections::BTreeSet;

#[derive(QueryableByName, PartialEq, Debug)]
struct Column {
    #[diesel(sql_type = Text)]
    said: String,
}

const SCHEMA: &str = "SELECT CONCAT_WS(' ', table_name, column_name, column_type, is_nullable, IFNULL(column_default, '-'), IFNULL(collation_name, '-')) AS said \
    FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name NOT LIKE '\\_\\_%' ORDER BY table_name, ordinal_position";

/// An empty database beside that of a stage; gone with it.
pub struct Empty<'s> {
    stage: &'s Stage,
    name: String,
    pub url: String,
}

impl<'s> Empty<'s> {
    pub fn beside(stage: &'s Stage) -> Empty<'s> {
        let name = format!("kevyt_test_{}", uuid::Uuid::now_v7().simple());
        let mut c = MysqlConnection::establish(stage.database_url()).unwrap();
        c.batch_execute(&format!("CREATE DATABASE {name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")).unwrap();
        let (base, _) = stage.database_url().rsplit_once('/').unwrap();
        Empty { stage, url: format!("{base}/{name}"), name }
    }

    fn settings(&self) -> Settings {
        Settings { database_url: self.url.clone(), ..Settings::default() }
    }

    fn connection(&self) -> MysqlConnection {
        MysqlConnection::establish(&self.url).unwrap()
    }
}

impl Drop for Empty<'_> {
    fn drop(&mut self) {
        let mut c = MysqlConnection::establish(self.stage.database_url()).unwrap();
        c.batch_execute(&format!("DROP DATABASE {}", self.name)).unwrap();
    }
}

#[test]
fn servers_that_start_at_once_on_an_empty_database_all_start() {
    let stage = Stage::start(false);
    for _ in 0..3 {
        let empty = Empty::beside(&stage);
        std::thread::scope(|scope| {
            let starts: Vec<_> = (0..4).map(|_| scope.spawn(|| open(&empty.settings()).map(|_| ()))).collect();
            for start in starts {
                assert_eq!(start.join().unwrap(), Ok(()));
            }
        });
    }
}

/// Wherever a server was ended in its first migrations, the next one goes on from there and comes to the same schema.
#[test]
fn a_server_that_was_ended_while_it_migrated_goes_on() {
    let stage = Stage::start(false);
    let whole: Vec<Column> =
        sql_query(SCHEMA).load(&mut MysqlConnection::establish(stage.database_url()).unwrap()).unwrap();
    let migrations = ups();
    for (at, all) in migrations.iter().enumerate() {
        // After the first statement, half way, and after the last, before the migration is marked as done.
        for done in BTreeSet::from([1, all.len().div_ceil(2), all.len()]) {
            let empty = Empty::beside(&stage);
            // The migrations before are done, and marked; of this one only some statements are.
            let mut c = empty.connection();
            for _ in 0..at {
                c.run_next_migration(kevyt_store::MIGRATIONS).unwrap();
            }
            for statement in &all[..done] {
                c.batch_execute(statement).unwrap_or_else(|error| panic!("{statement}: {error}"));
            }
            open(&empty.settings())
                .map(|_| ())
                .unwrap_or_else(|why| panic!("after {done} statements of migration {}: {why}", at + 1));
            let now: Vec<Column> = sql_query(SCHEMA).load(&mut c).unwrap();
            assert_eq!(now, whole, "after {done} statements of migration {}", at + 1);
        }
    }
}

/// What developers go back by: every migration is taken back, and done again.
#[test]
fn the_schema_is_taken_down_and_comes_to_the_same_again() {
    let stage = Stage::start(false);
    let mut c = MysqlConnection::establish(stage.database_url()).unwrap();
    let whole: Vec<Column> = sql_query(SCHEMA).load(&mut c).unwrap();
    c.revert_all_migrations(kevyt_store::MIGRATIONS).unwrap();
    assert_eq!(sql_query(SCHEMA).load::<Column>(&mut c).unwrap(), []);
    c.run_pending_migrations(kevyt_store::MIGRATIONS).unwrap();
    assert_eq!(sql_query(SCHEMA).load::<Column>(&mut c).unwrap(), whole);
}

/// The statements of each step of the schema.
pub fn ups() -> Vec<Vec<String>> {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../store/migrations");
    let mut folders: Vec<_> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    folders.sort();
    let statements = |text: String| {
        let lines = text.lines().filter(|line| !line.trim_start().starts_with("--")).collect::<Vec<_>>().join("\n");
        lines.split(';').map(str::trim).filter(|one| !one.is_empty()).map(str::to_owned).collect()
    };
    folders.iter().map(|folder| statements(std::fs::read_to_string(folder.join("up.sql")).unwrap())).collect()
}
