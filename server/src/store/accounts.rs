//! Accounts, sessions and failed sign-ins in the database.

use super::convert::{from_word, word};
use super::id::AccountId;
use super::schema::{account, session, sign_in_failure};
use super::{StoreError, Stored, changed};
use crate::account::{MassSystem, Preferences};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::quantity::Currency;

/// A SHA-256 digest of a token, or of what failed sign-ins are counted by.
pub type Digest = [u8; 32];

/// Who somebody is and how they count.
#[derive(Debug, Clone)]
pub struct Account {
    /// The name they sign in with.
    pub name: String,
    /// The hash of their password, with its parameters.
    pub password_hash: String,
    /// Their units.
    pub preferences: Preferences,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = account, check_for_backend(diesel::mysql::Mysql))]
struct AccountRow {
    id: AccountId,
    name: String,
    password_hash: String,
    mass_unit: String,
    currency: String,
    version: i32,
    created_at: NaiveDateTime,
}

impl AccountRow {
    fn read(self) -> Result<Stored<AccountId, Account>, StoreError> {
        let preferences = Preferences {
            mass: from_word::<MassSystem>("account.mass_unit", &self.mass_unit)?,
            currency: Currency::from_code(&self.currency).ok_or(StoreError::Corrupt("account.currency"))?,
        };
        let value = Account { name: self.name, password_hash: self.password_hash, preferences };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

/// Adds an account. A name that is taken is [`StoreError::Duplicate`].
pub fn insert(c: &mut MysqlConnection, id: AccountId, value: &Account) -> Result<(), StoreError> {
    let row = AccountRow {
        id,
        name: value.name.clone(),
        password_hash: value.password_hash.clone(),
        mass_unit: word(value.preferences.mass),
        currency: value.preferences.currency.code().to_owned(),
        version: 1,
        created_at: Utc::now().naive_utc(),
    };
    diesel::insert_into(account::table).values(row).execute(c)?;
    Ok(())
}

/// The account of a name.
pub fn by_name(c: &mut MysqlConnection, name: &str) -> Result<Stored<AccountId, Account>, StoreError> {
    let row: AccountRow = account::table.filter(account::name.eq(name)).select(AccountRow::as_select()).first(c)?;
    row.read()
}

/// The account of an id.
pub fn get(c: &mut MysqlConnection, id: AccountId) -> Result<Stored<AccountId, Account>, StoreError> {
    let row: AccountRow = account::table.filter(account::id.eq(id)).select(AccountRow::as_select()).first(c)?;
    row.read()
}

/// Writes the preferences of an account that was read at `version`.
pub fn set_preferences(
    c: &mut MysqlConnection,
    id: AccountId,
    version: i32,
    preferences: Preferences,
) -> Result<(), StoreError> {
    let updated = diesel::update(account::table.filter(account::id.eq(id)).filter(account::version.eq(version)))
        .set((
            account::mass_unit.eq(word(preferences.mass)),
            account::currency.eq(preferences.currency.code()),
            account::version.eq(version + 1),
        ))
        .execute(c)?;
    changed(updated, || account::table.filter(account::id.eq(id)).select(account::version).first(c))
}

/// Writes a new password hash and ends every session but `kept`.
pub fn set_password(c: &mut MysqlConnection, id: AccountId, hash: &str, kept: Digest) -> Result<(), StoreError> {
    diesel::update(account::table.filter(account::id.eq(id))).set(account::password_hash.eq(hash)).execute(c)?;
    diesel::delete(session::table.filter(session::account_id.eq(id)).filter(session::token_hash.ne(&kept[..])))
        .execute(c)?;
    Ok(())
}

/// Adds a session and clears expired ones away.
pub fn insert_session(
    c: &mut MysqlConnection,
    token: Digest,
    account: AccountId,
    expires_at: NaiveDateTime,
) -> Result<(), StoreError> {
    diesel::delete(session::table.filter(session::expires_at.lt(Utc::now().naive_utc()))).execute(c)?;
    diesel::insert_into(session::table)
        .values((
            session::token_hash.eq(&token[..]),
            session::account_id.eq(account),
            session::expires_at.eq(expires_at),
        ))
        .execute(c)?;
    Ok(())
}

/// Whose session a token is.
pub fn session_account(c: &mut MysqlConnection, token: Digest) -> Result<Stored<AccountId, Account>, StoreError> {
    let row: AccountRow = session::table
        .inner_join(account::table)
        .filter(session::token_hash.eq(&token[..]))
        .filter(session::expires_at.gt(Utc::now().naive_utc()))
        .select(AccountRow::as_select())
        .first(c)?;
    row.read()
}

/// Ends a session.
pub fn delete_session(c: &mut MysqlConnection, token: Digest) -> Result<(), StoreError> {
    diesel::delete(session::table.filter(session::token_hash.eq(&token[..]))).execute(c)?;
    Ok(())
}

/// Failed sign-ins of a subject since a time.
pub fn failures_since(c: &mut MysqlConnection, subject: Digest, since: NaiveDateTime) -> Result<i64, StoreError> {
    let mine = sign_in_failure::table.filter(sign_in_failure::subject.eq(&subject[..]));
    Ok(mine.filter(sign_in_failure::failed_at.gt(since)).count().get_result(c)?)
}

/// Counts a failed sign-in, and clears away those from before `since`.
pub fn insert_failure(c: &mut MysqlConnection, subject: Digest, since: NaiveDateTime) -> Result<(), StoreError> {
    diesel::delete(sign_in_failure::table.filter(sign_in_failure::failed_at.lt(since))).execute(c)?;
    diesel::insert_into(sign_in_failure::table)
        .values((sign_in_failure::subject.eq(&subject[..]), sign_in_failure::failed_at.eq(Utc::now().naive_utc())))
        .execute(c)?;
    Ok(())
}
