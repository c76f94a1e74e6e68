//! Answers to requests that changed something, kept so that a retry gets the same one.

use super::StoreError;
use super::access::Access;
use super::id::ChangeId;
use super::schema::answered;
use crate::account::Digest;
use chrono::{Duration, Utc};
use diesel::prelude::*;

/// How long an answer is kept, in hours: 31 days. What a phone did without network it sends again after the trip.
const HOURS: i64 = 31 * 24;

/// What names a request: a digest of its address and its idempotency key; and a digest of what it asks for, where that is known.
#[derive(Debug, Clone, Copy)]
pub struct Request {
    /// Its name.
    pub key: Digest,
    /// What it asks for.
    pub asked: Option<Digest>,
}

/// The change that a request made, and the body of the answer to it.
pub type KeptAnswer = (Option<ChangeId>, String);

/// The answer to a request that was carried out already.
///
/// # Errors
/// [`StoreError::OtherRequest`] if another one was, under the same name.
pub fn find(c: &mut MysqlConnection, access: Access, request: Request) -> Result<Option<KeptAnswer>, StoreError> {
    let found: Option<(Option<ChangeId>, String, Option<Vec<u8>>)> = answered::table
        .find((access.account(), &request.key[..]))
        .select((answered::change_id, answered::body, answered::asked))
        .first(c)
        .optional()?;
    let Some((change, body, asked)) = found else { return Ok(None) };
    let is_other = asked.zip(request.asked).is_some_and(|(then, now)| then != now);
    if is_other { Err(StoreError::OtherRequest) } else { Ok(Some((change, body))) }
}

/// Keeps an answer.
pub fn insert(
    c: &mut MysqlConnection,
    access: Access,
    request: Request,
    (change, body): &KeptAnswer,
) -> Result<(), StoreError> {
    diesel::insert_into(answered::table)
        .values((
            answered::account_id.eq(access.account()),
            answered::request.eq(&request.key[..]),
            answered::change_id.eq(change),
            answered::body.eq(body),
            answered::answered_at.eq(Utc::now().naive_utc()),
            answered::asked.eq(request.asked.map(|asked| asked.to_vec())),
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
