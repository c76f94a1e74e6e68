//! Connections and migrations.

use diesel::connection::SimpleConnection;
use diesel::r2d2::{ConnectionManager, CustomizeConnection, Error as PoolError};
use diesel::{Connection as _, MysqlConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use std::time::Duration;

/// The schema, up and down.
pub const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");

/// Connections that are kept open.
pub type Pool = diesel::r2d2::Pool<ConnectionManager<MysqlConnection>>;

/// Sets what every connection needs: UTC, strict values, and no statement that runs for minutes.
#[derive(Debug)]
struct Session;

impl CustomizeConnection<MysqlConnection, PoolError> for Session {
    fn on_acquire(&self, connection: &mut MysqlConnection) -> Result<(), PoolError> {
        let settings = "SET time_zone = '+00:00', max_statement_time = 15, sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE'";
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
    connection
        .run_pending_migrations(MIGRATIONS)
        .map_err(|error| format!("The database can't be brought up to date: {error}"))?;
    drop(connection);
    Pool::builder()
        .max_size(10)
        .min_idle(Some(1))
        .connection_timeout(Duration::from_secs(5))
        .connection_customizer(Box::new(Session))
        .build(ConnectionManager::new(url))
        .map_err(|error| format!("The database at KEVYT_DATABASE_URL can't be reached: {error}"))
}
