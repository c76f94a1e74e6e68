//! Answers to requests that changed something, kept so that a retry gets the same one.

use super::StoreError;
use super::access::Access;
use super::id::ChangeId;
use super::schema::answered;
use chrono::{Duration, Utc};
use diesel::prelude::*;

/// How long an answer is kept, in hours: longer than any client retries.
const HOURS: i64 = 48;

/// What names a request: a digest of its address and its idempotency key.
pub type RequestKey = [u8; 32];

/// The change that a request made, and the body of the answer to it.
pub type Answered = (Option<ChangeId>, String);

/// The answer to a request that was carried out already.
pub fn find(c: &mut MysqlConnection, access: Access, request: RequestKey) -> Result<Option<Answered>, StoreError> {
    Ok(answered::table
        .find((access.account(), &request[..]))
        .select((answered::change_id, answered::body))
        .first(c)
        .optional()?)
}

/// Keeps an answer.
pub fn insert(
    c: &mut MysqlConnection,
    access: Access,
    request: RequestKey,
    (change, body): &Answered,
) -> Result<(), StoreError> {
    diesel::insert_into(answered::table)
        .values((
            answered::account_id.eq(access.account()),
            answered::request.eq(&request[..]),
            answered::change_id.eq(change),
            answered::body.eq(body),
            answered::answered_at.eq(Utc::now().naive_utc()),
        ))
        .execute(c)?;
    Ok(())
}

/// Clears old answers away, a batch at a time.
pub fn clear(c: &mut MysqlConnection) -> Result<usize, StoreError> {
    let before = Utc::now().naive_utc() - Duration::hours(HOURS);
    Ok(diesel::sql_query("DELETE FROM answered WHERE answered_at < ? LIMIT 1000")
        .bind::<diesel::sql_types::Datetime, _>(before)
        .execute(c)?)
}
