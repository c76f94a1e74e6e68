//! Connections and migrations.

use super::StoreError;
use diesel::connection::SimpleConnection;
use diesel::r2d2::{ConnectionManager, CustomizeConnection, Error as PoolError};
use diesel::sql_types::{Integer, Nullable};
use diesel::{Connection as _, MysqlConnection, QueryableByName, RunQueryDsl, sql_query};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use std::time::Duration;

/// The schema, up and down. Every statement of it may be run again, so that a server that was ended half way goes on.
pub const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");

/// Connections that are kept open.
pub type Pool = diesel::r2d2::Pool<ConnectionManager<MysqlConnection>>;

/// How long a server waits for another one that is bringing the database up to date, in seconds.
const MIGRATION_WAIT: i32 = 120;

/// Sets what every connection needs: UTC, strict values, messages in English (they are read in `error.rs`), no statement that
/// runs for minutes and no peer that is waited for so long. Reading committed rows keeps writers of one account, who wait for each other,
/// from locking gaps between the rows of others.
#[derive(Debug)]
struct Session;

impl CustomizeConnection<MysqlConnection, PoolError> for Session {
    fn on_acquire(&self, connection: &mut MysqlConnection) -> Result<(), PoolError> {
        let settings = "SET time_zone = '+00:00', max_statement_time = 15, lc_messages = 'en_US', \
            sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE', tx_isolation = 'READ-COMMITTED', \
            innodb_lock_wait_timeout = 10, lock_wait_timeout = 10, net_read_timeout = 10, net_write_timeout = 10";
        connection.batch_execute(settings).map_err(PoolError::QueryError)
    }
}

/// Brings the database up to date and opens the pool.
///
/// # Errors
/// A sentence for whoever started the program.
pub fn connect(url: &str) -> Result<Pool, String> {
    let mut connection = MysqlConnection::establish(url)
        .map_err(|error| format!("The database at KEVYT_DATABASE_URL can't be reached: {error}"))?;
    migrate(&mut connection).map_err(|error| format!("The database can't be brought up to date: {error}"))?;
    drop(connection);
    Pool::builder()
        .max_size(10)
        .min_idle(Some(1))
        .connection_timeout(Duration::from_secs(5))
        .connection_customizer(Box::new(Session))
        .build(ConnectionManager::new(url))
        .map_err(|error| format!("The database at KEVYT_DATABASE_URL can't be reached: {error}"))
}

#[derive(QueryableByName)]
struct Locked {
    #[diesel(sql_type = Nullable<Integer>)]
    got: Option<i32>,
}

/// Runs what is missing of the migrations, one server at a time. The lock goes with the connection.
fn migrate(c: &mut MysqlConnection) -> Result<(), Box<dyn std::error::Error + Send + Sync>> {
    let lock = format!("SELECT GET_LOCK(CONCAT('kevyt migrations ', MD5(DATABASE())), {MIGRATION_WAIT}) AS got");
    if sql_query(lock).get_result::<Locked>(c)?.got != Some(1) {
        return Err(format!("another server has been at it for {MIGRATION_WAIT} s").into());
    }
    c.run_pending_migrations(MIGRATIONS)?;
    Ok(())
}

/// Begins a transaction of several reads that see one state of the database.
pub(crate) fn begin_snapshot(c: &mut MysqlConnection) -> Result<(), StoreError> {
    Ok(c.batch_execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")?)
}
