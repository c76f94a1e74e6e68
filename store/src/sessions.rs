//! Sessions and failed attempts to sign in, in the database.

use super::StoreError;
use super::access::Access;
use super::accounts::{Account, AccountRow};
use super::id::{AccountId, SessionId};
use super::schema::{account, session, sign_in_failure};
use crate::account::Digest;
use chrono::{Duration, NaiveDateTime, Utc};
use diesel::prelude::*;

/// How long a session lasts at most, in days.
pub const LONGEST_DAYS: i64 = 90;
/// How long a session lasts that nobody uses, in days.
pub const IDLE_DAYS: i64 = 30;
/// How exactly it is known when a session was used last, in minutes: no page costs a write for it more often.
const SEEN_MINUTES: i64 = 5;

/// A session, for its owner to recognise.
#[derive(Debug, Clone, PartialEq, Eq, Queryable, Selectable)]
#[diesel(table_name = session, check_for_backend(diesel::mysql::Mysql))]
pub struct Session {
    /// Its id; says nothing of its token.
    pub id: SessionId,
    /// What the browser called itself.
    pub device: String,
    /// When it was begun.
    pub started_at: NaiveDateTime,
    /// When it was used last, to some minutes.
    pub seen_at: NaiveDateTime,
}

/// Adds a session.
pub fn insert(c: &mut MysqlConnection, token: Digest, account: AccountId, device: &str) -> Result<(), StoreError> {
    let now = Utc::now().naive_utc();
    diesel::insert_into(session::table)
        .values((
            session::token_hash.eq(&token[..]),
            session::account_id.eq(account),
            session::id.eq(SessionId::fresh()),
            session::device.eq(device.chars().take(200).collect::<String>()),
            session::started_at.eq(now),
            session::seen_at.eq(now),
            session::expires_at.eq(now + Duration::days(LONGEST_DAYS)),
        ))
        .execute(c)?;
    Ok(())
}

/// What a token opens, the session it is of, and the account. Notes that it is used.
pub fn enter(c: &mut MysqlConnection, token: Digest) -> Result<(Access, SessionId, Account), StoreError> {
    let now = Utc::now().naive_utc();
    let (row, id, seen_at): (AccountRow, SessionId, NaiveDateTime) = session::table
        .inner_join(account::table)
        .filter(session::token_hash.eq(&token[..]))
        .filter(session::expires_at.gt(now))
        .filter(session::seen_at.gt(now - Duration::days(IDLE_DAYS)))
        .filter(account::disabled_at.is_null())
        .select((AccountRow::as_select(), session::id, session::seen_at))
        .first(c)?;
    if seen_at < now - Duration::minutes(SEEN_MINUTES) {
        let mine = session::table.filter(session::token_hash.eq(&token[..]));
        // What is asked for does not hang on this: where it can't be noted, it is the next time.
        if let Err(error) = diesel::update(mine).set(session::seen_at.eq(now)).execute(c) {
            tracing::warn!("when a session was used could not be noted: {error}");
        }
    }
    let account = row.read()?;
    Ok((Access::of_account(account.id), id, account.value))
}

/// The sessions of an account that still last, the one used last first.
pub fn all(c: &mut MysqlConnection, access: Access) -> Result<Vec<Session>, StoreError> {
    let now = Utc::now().naive_utc();
    Ok(session::table
        .filter(session::account_id.eq(access.account()))
        .filter(session::expires_at.gt(now))
        .filter(session::seen_at.gt(now - Duration::days(IDLE_DAYS)))
        .order((session::seen_at.desc(), session::id.desc()))
        .select(Session::as_select())
        .load(c)?)
}

/// Ends the session of a token.
pub fn end(c: &mut MysqlConnection, token: Digest) -> Result<(), StoreError> {
    diesel::delete(session::table.filter(session::token_hash.eq(&token[..]))).execute(c)?;
    Ok(())
}

/// Ends one session of an account.
pub fn end_one(c: &mut MysqlConnection, access: Access, id: SessionId) -> Result<(), StoreError> {
    let mine = session::table.filter(session::id.eq(id)).filter(session::account_id.eq(access.account()));
    if diesel::delete(mine).execute(c)? == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// Ends every session of an account.
pub fn end_all(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    diesel::delete(session::table.filter(session::account_id.eq(access.account()))).execute(c)?;
    Ok(())
}

/// Attempts of a subject since a time.
pub fn attempts_since(c: &mut MysqlConnection, subject: Digest, since: NaiveDateTime) -> Result<i64, StoreError> {
    let mine = sign_in_failure::table.filter(sign_in_failure::subject.eq(&subject[..]));
    Ok(mine.filter(sign_in_failure::failed_at.gt(since)).count().get_result(c)?)
}

/// Counts an attempt.
pub fn insert_attempt(c: &mut MysqlConnection, subject: Digest) -> Result<(), StoreError> {
    diesel::insert_into(sign_in_failure::table)
        .values((sign_in_failure::subject.eq(&subject[..]), sign_in_failure::failed_at.eq(Utc::now().naive_utc())))
        .execute(c)?;
    Ok(())
}

/// Clears away sessions that are over and attempts that no longer count, a batch at a time.
pub fn clear(c: &mut MysqlConnection, attempts_before: NaiveDateTime) -> Result<usize, StoreError> {
    use diesel::sql_types::Datetime;
    let now = Utc::now().naive_utc();
    let sessions = diesel::sql_query("DELETE FROM session WHERE expires_at < ? OR seen_at < ? LIMIT 1000")
        .bind::<Datetime, _>(now)
        .bind::<Datetime, _>(now - Duration::days(IDLE_DAYS))
        .execute(c)?;
    let attempts = diesel::sql_query("DELETE FROM sign_in_failure WHERE failed_at < ? LIMIT 1000")
        .bind::<Datetime, _>(attempts_before)
        .execute(c)?;
    Ok(sessions + attempts)
}
