//! What server processes write to find out whether the database can be written.

use super::StoreError;
use super::schema::server_beat;
use chrono::{Duration, Utc};
use diesel::prelude::*;
use uuid::Uuid;

/// After how many hours a process that has not been heard of is forgotten.
const FORGOTTEN_HOURS: i64 = 24;

/// Writes that a server is well.
pub fn beat(c: &mut MysqlConnection, server: Uuid) -> Result<(), StoreError> {
    let row = (server_beat::server.eq(server.as_bytes().to_vec()), server_beat::beat_at.eq(Utc::now().naive_utc()));
    diesel::replace_into(server_beat::table).values(row).execute(c)?;
    Ok(())
}

/// Forgets processes that are over.
pub fn clear(c: &mut MysqlConnection) -> Result<usize, StoreError> {
    let long_ago = Utc::now().naive_utc() - Duration::hours(FORGOTTEN_HOURS);
    Ok(diesel::delete(server_beat::table.filter(server_beat::beat_at.lt(long_ago))).execute(c)?)
}
