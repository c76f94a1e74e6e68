//! The schema, up and down: what every start brings up to date, and what takes it back for an older version of Kevyt.
//!
//! On its way down a step first copies each table with anything in it beside itself (`later_<version>_<table>`), and on its way up again it
//! puts back from there what the older schema had no place for. So going back loses nothing. What an older version wrote meanwhile stands.

use diesel::connection::{BoxableConnection, SimpleConnection};
use diesel::migration::{Migration, MigrationMetadata, MigrationName, MigrationSource, MigrationVersion, Result};
use diesel::mysql::Mysql;
use diesel::sql_types::{BigInt, Bool, Integer, Nullable, Text};
use diesel::{MysqlConnection, QueryableByName, RunQueryDsl, sql_query};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use std::collections::BTreeMap;
use std::time::{Duration, Instant};

/// The steps of the schema. Every statement of them may be run again, so that a server that was ended half way goes on.
#[derive(Debug, Clone, Copy)]
pub struct Migrations;

const STEPS: EmbeddedMigrations = embed_migrations!("migrations");

/// How long a server waits for another one that is bringing the database up to date, in seconds.
const WAIT: i32 = 120;

/// What the names of copies begin with.
const LATER: &str = "later_";

impl MigrationSource<Mysql> for Migrations {
    fn migrations(&self) -> Result<Vec<Box<dyn Migration<Mysql>>>> {
        let steps = MigrationSource::<Mysql>::migrations(&STEPS)?;
        Ok(steps.into_iter().map(|step| -> Box<dyn Migration<Mysql>> { Box::new(Step(step)) }).collect())
    }
}

/// Runs what is missing of the steps, one server at a time. The lock goes with the connection.
///
/// # Errors
/// What the database said, or that another server is still at it.
pub fn migrate(c: &mut MysqlConnection) -> Result<()> {
    lock(c)?;
    c.run_pending_migrations(Migrations)?;
    // What was kept for a step is of use until the step is marked as done.
    let copies = tables(c, LATER)?;
    drop_tables(c, &copies)
}

/// Takes the database back to a step, which is the last one then. No server may run.
///
/// # Errors
/// What the database said, that somebody else is connected to it, that there is no such step, or that there are steps of a newer version.
pub fn go_back(c: &mut MysqlConnection, to: &str) -> Result<()> {
    let steps = Migrations.migrations()?;
    let names: Vec<String> = steps.iter().map(|step| step.name().to_string()).collect();
    let Some(at) = names.iter().position(|name| name == to) else {
        return Err(format!("\"{to}\" is not a step of the schema. Say one of {}", names.join(", ")).into());
    };
    let known = |version: &MigrationVersion<'_>| steps.iter().any(|step| step.name().version() == *version);
    if let Some(newer) = c.applied_migrations()?.iter().find(|version| !known(version)) {
        return Err(format!(
            "it has a step ({newer}) that this version of Kevyt does not know. Use the newest that ran on it"
        )
        .into());
    }
    wait_until_alone(c)?;
    // What was cut off when it was last taken back is whole then.
    migrate(c)?;
    for step in steps[at + 1..].iter().rev() {
        c.revert_migration(step)?;
    }
    Ok(())
}

#[derive(QueryableByName)]
struct Locked {
    #[diesel(sql_type = Nullable<Integer>)]
    got: Option<i32>,
}

fn lock(c: &mut MysqlConnection) -> Result<()> {
    let lock = format!("SELECT GET_LOCK(CONCAT('kevyt migrations ', MD5(DATABASE())), {WAIT}) AS got");
    if sql_query(lock).get_result::<Locked>(c)?.got != Some(1) {
        return Err(format!("another server has been at it for {WAIT} s").into());
    }
    Ok(())
}

/// How long whoever is connected to the database may take to leave it.
const LEAVING: Duration = Duration::from_secs(3);

/// Waits until nobody else is connected to the database, as servers are.
fn wait_until_alone(c: &mut MysqlConnection) -> Result<()> {
    let others =
        "SELECT COUNT(*) AS many FROM information_schema.processlist WHERE db = DATABASE() AND id <> CONNECTION_ID()";
    let begun = Instant::now();
    loop {
        let Others { many } = sql_query(others).get_result(c)?;
        if many == 0 {
            return Ok(());
        }
        if begun.elapsed() > LEAVING {
            return Err(format!("it is in use, by {many} connections. Stop every server first").into());
        }
        std::thread::sleep(Duration::from_millis(100));
    }
}

#[derive(QueryableByName)]
struct Others {
    #[diesel(sql_type = BigInt)]
    many: i64,
}

/// A step that loses nothing.
struct Step(Box<dyn Migration<Mysql>>);

impl Migration<Mysql> for Step {
    fn run(&self, c: &mut dyn BoxableConnection<Mysql>) -> Result<()> {
        self.0.run(c)?;
        put_back(mysql(c)?, &self.copies())
    }

    fn revert(&self, c: &mut dyn BoxableConnection<Mysql>) -> Result<()> {
        let copies = self.copies();
        let any = copy(mysql(c)?, &copies)?;
        // From here on the step is to be done again, wherever this is ended.
        let version = self.0.name().version();
        c.batch_execute(&format!("DELETE FROM __diesel_schema_migrations WHERE version = '{version}'"))?;
        self.0.revert(c)?;
        if any { note_older(mysql(c)?, &copies) } else { Ok(()) }
    }

    fn metadata(&self) -> &dyn MigrationMetadata {
        self.0.metadata()
    }

    fn name(&self) -> &dyn MigrationName {
        self.0.name()
    }
}

impl Step {
    /// What the names of its copies begin with, and the name of the table of the columns that the older schema has.
    fn copies(&self) -> String {
        format!("{LATER}{}", self.0.name().version())
    }
}

fn mysql(c: &mut dyn BoxableConnection<Mysql>) -> Result<&mut MysqlConnection> {
    c.downcast_mut().ok_or_else(|| "not a connection to MariaDB".into())
}

fn copy_of(copies: &str, table: &str) -> String {
    format!("{copies}_{table}")
}

#[derive(QueryableByName)]
struct Table {
    #[diesel(sql_type = Text)]
    name: String,
}

#[derive(QueryableByName)]
struct Column {
    #[diesel(sql_type = Text)]
    in_table: String,
    #[diesel(sql_type = Text)]
    name: String,
    #[diesel(sql_type = Bool)]
    is_key: bool,
    /// As SQL. A column that must be given a value has none.
    #[diesel(sql_type = Nullable<Text>)]
    default_value: Option<String>,
}

/// The columns of each table, Diesel's own table left out.
fn columns(c: &mut MysqlConnection) -> Result<BTreeMap<String, Vec<Column>>> {
    let all = "SELECT table_name AS in_table, column_name AS name, column_key = 'PRI' AS is_key, column_default AS default_value \
        FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name NOT LIKE '\\_\\_%' ORDER BY table_name, column_name";
    let mut tables: BTreeMap<String, Vec<Column>> = BTreeMap::new();
    for column in sql_query(all).load::<Column>(c)? {
        tables.entry(column.in_table.clone()).or_default().push(column);
    }
    Ok(tables)
}

/// The tables whose names begin so; Diesel's own left out.
fn tables(c: &mut MysqlConnection, beginning: &str) -> Result<Vec<String>> {
    let all = "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name NOT LIKE '\\_\\_%'";
    let names = sql_query(all).load::<Table>(c)?.into_iter().map(|table| table.name);
    Ok(names.filter(|name| name.starts_with(beginning)).collect())
}

fn drop_tables(c: &mut MysqlConnection, tables: &[String]) -> Result<()> {
    for table in tables {
        c.batch_execute(&format!("DROP TABLE IF EXISTS {table}"))?;
    }
    Ok(())
}

/// Copies each table with anything in it; says whether there was one. Copies that are there are of a time that is over.
fn copy(c: &mut MysqlConnection, copies: &str) -> Result<bool> {
    let old = tables(c, copies)?;
    drop_tables(c, &old)?;
    let mut any = false;
    for table in tables(c, "")?.iter().filter(|table| !table.starts_with(LATER)) {
        let row = sql_query(format!("SELECT 'a row' AS name FROM {table} LIMIT 1")).load::<Table>(c)?;
        if !row.is_empty() {
            let copy = copy_of(copies, table);
            c.batch_execute(&format!("CREATE TABLE {copy} LIKE {table}; INSERT INTO {copy} SELECT * FROM {table}"))?;
            any = true;
        }
    }
    Ok(any)
}

/// Writes down which columns the older schema has, and whether the step has rewritten values in them; and drops the copies that hold nothing more.
fn note_older(c: &mut MysqlConnection, copies: &str) -> Result<()> {
    c.batch_execute(&format!(
        "CREATE OR REPLACE TABLE {copies} (PRIMARY KEY (in_table, name)) AS SELECT table_name AS in_table, column_name AS name, FALSE AS is_rewritten \
        FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name NOT LIKE 'later\\_%'"
    ))?;
    let all = columns(c)?;
    for (table, now) in &all {
        let copy = copy_of(copies, table);
        let Some(then) = all.get(&copy) else { continue };
        let both: Vec<&str> = now
            .iter()
            .map(|column| column.name.as_str())
            .filter(|name| then.iter().any(|one| one.name == *name))
            .collect();
        let differs = both.iter().map(|name| format!("MAX(NOT t.{name} <=> k.{name}) AS {name}")).collect::<Vec<_>>();
        let which = both.iter().map(|name| format!("WHEN '{name}' THEN d.{name}")).collect::<Vec<_>>();
        c.batch_execute(&format!(
            "UPDATE {copies} AS o JOIN (SELECT {} FROM {}) AS d SET o.is_rewritten = IFNULL(CASE o.name {} END, FALSE) WHERE o.in_table = '{table}'",
            differs.join(", "),
            joined(table, &copy, now),
            which.join(" ")
        ))?;
    }
    let older = older(c, copies)?;
    let nothing_more = |table: &str, then: &[Column]| {
        then.iter().all(|column| older.get(&(table.to_owned(), column.name.clone())) == Some(&false))
    };
    let needless = all.keys().map(|table| (table, copy_of(copies, table)));
    let needless = needless.filter(|(table, copy)| all.get(copy).is_some_and(|then| nothing_more(table, then)));
    let needless: Vec<String> = needless.map(|(_, copy)| copy).collect();
    drop_tables(c, &needless)
}

/// A table as `t` beside its copy as `k`, row by row.
fn joined(table: &str, copy: &str, columns: &[Column]) -> String {
    let keys: Vec<&str> = columns.iter().filter(|column| column.is_key).map(|column| column.name.as_str()).collect();
    format!("{table} AS t JOIN {copy} AS k USING ({})", keys.join(", "))
}

/// Puts back what is only in copies. It may be done again, wherever it was ended.
///
/// A column that the older schema did not have is as it was, and a value that the step down has rewritten too, unless the older version has
/// changed the row (by its version): then what the step up works out from what stands now goes before. Rows that the older version removed
/// stay away, with all that hangs on them.
fn put_back(c: &mut MysqlConnection, copies: &str) -> Result<()> {
    if tables(c, copies)?.is_empty() {
        return Ok(());
    }
    let all = columns(c)?;
    // Without it the step was ended on its way down, and nothing has been written since.
    let older = if all.contains_key(copies) { older(c, copies)? } else { BTreeMap::new() };
    let was = |table: &str, column: &Column| older.get(&(table.to_owned(), column.name.clone())).copied();
    let kept: Vec<(&String, &Vec<Column>, String)> = all
        .iter()
        .map(|(table, columns)| (table, columns, copy_of(copies, table)))
        .filter(|(.., copy)| all.contains_key(copy))
        .collect();

    let gone = kept.iter().filter(|(table, columns, _)| columns.iter().all(|column| was(table, column).is_none()));
    let rows: Vec<String> = gone
        .map(|(table, columns, copy)| {
            let names = columns.iter().map(|column| column.name.as_str()).collect::<Vec<_>>().join(", ");
            format!("INSERT IGNORE INTO {table} ({names}) SELECT {names} FROM {copy}")
        })
        .collect();
    // A row waits for those that it hangs on.
    loop {
        let mut came = 0;
        for statement in &rows {
            came += sql_query(statement).execute(c)?;
        }
        if came == 0 {
            break;
        }
    }

    for (table, columns, copy) in &kept {
        let has_version = columns.iter().any(|column| column.name == "version");
        let values = columns.iter().filter(|column| !column.is_key).filter_map(|column| {
            let Column { name, default_value, .. } = column;
            let untouched = if has_version { "t.version = k.version" } else { "FALSE" };
            let lost = match (was(table, column), default_value) {
                (None, Some(value)) if !value.contains('(') => format!("t.{name} <=> {value} OR {untouched}"),
                (None, _) => "TRUE".to_owned(),
                (Some(true), _) => untouched.to_owned(),
                (Some(false), _) => return None,
            };
            Some(format!("t.{name} = IF({lost}, k.{name}, t.{name})"))
        });
        let values: Vec<String> = values.collect();
        if !values.is_empty() {
            c.batch_execute(&format!("UPDATE IGNORE {} SET {}", joined(table, copy, columns), values.join(", ")))?;
        }
    }
    Ok(())
}

#[derive(QueryableByName)]
struct Older {
    #[diesel(sql_type = Text)]
    in_table: String,
    #[diesel(sql_type = Text)]
    name: String,
    #[diesel(sql_type = Bool)]
    is_rewritten: bool,
}

/// The columns that the older schema has, and whether the step down has rewritten values in them.
fn older(c: &mut MysqlConnection, copies: &str) -> Result<BTreeMap<(String, String), bool>> {
    let all = sql_query(format!("SELECT in_table, name, is_rewritten FROM {copies}")).load::<Older>(c)?;
    Ok(all.into_iter().map(|Older { in_table, name, is_rewritten }| ((in_table, name), is_rewritten)).collect())
}
