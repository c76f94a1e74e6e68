//! The schema: what every start brings up to date. Forward only: to go back, a backup is restored (`docs/running.md`).

use diesel::migration::Result;
use diesel::sql_types::{Integer, Nullable};
use diesel::{MysqlConnection, QueryableByName, RunQueryDsl, sql_query};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};

/// The steps of the schema. Every statement of them may be run again, so that a server that was ended half way goes on.
pub const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");

/// How long a server waits for another one that is bringing the database up to date, in seconds.
const WAIT: i32 = 120;

#[derive(QueryableByName)]
struct Locked {
    #[diesel(sql_type = Nullable<Integer>)]
    got: Option<i32>,
}

/// Runs what is missing of the steps, one server at a time. The lock goes with the connection.
///
/// # Errors
/// What the database said, or that another server is still at it.
pub fn migrate(c: &mut MysqlConnection) -> Result<()> {
    let lock = format!("SELECT GET_LOCK(CONCAT('kevyt migrations ', MD5(DATABASE())), {WAIT}) AS got");
    if sql_query(lock).get_result::<Locked>(c)?.got != Some(1) {
        return Err(format!("another server has been at it for {WAIT} s").into());
    }
    c.run_pending_migrations(MIGRATIONS)?;
    Ok(())
}
