//! Accounts in the database.

use super::access::Access;
use super::convert::{from_json, from_word, json_text, word};
use super::id::{AccountId, GearId, TripId};
use super::schema::{account, gear, trip};
use super::state::{AuditSnapshot, Audited};
use super::{StoreError, Stored, changed};
use crate::account::{MassSystem, OwnTypical, Preferences, Settings};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use diesel::sql_types::{Bigint, Datetime, Nullable, Text};
use kevyt_core::quantity::Currency;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// Who somebody is and how they count.
#[derive(Debug, Clone)]
pub struct Account {
    /// The name they sign in with.
    pub name: String,
    /// The hash of their password, with its parameters.
    pub password_hash: String,
    /// Their units.
    pub preferences: Preferences,
    /// Their settings.
    pub settings: Settings,
    /// Whether nobody may come in for now.
    pub is_disabled: bool,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = account, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct AccountRow {
    id: AccountId,
    name: String,
    password_hash: String,
    mass_unit: String,
    currency: String,
    settings: String,
    version: i32,
    created_at: NaiveDateTime,
    disabled_at: Option<NaiveDateTime>,
}

impl AccountRow {
    pub(super) fn read(self) -> Result<Stored<AccountId, Account>, StoreError> {
        let preferences = Preferences {
            mass: from_word::<MassSystem>("account.mass_unit", &self.mass_unit)?,
            currency: Currency::from_code(&self.currency).ok_or(StoreError::Corrupt("account.currency"))?,
        };
        let settings: Settings = from_json("account.settings", &self.settings)?;
        let settings = settings.in_units(preferences.mass);
        let is_disabled = self.disabled_at.is_some();
        let value = Account { name: self.name, password_hash: self.password_hash, preferences, settings, is_disabled };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

/// Adds an account. A name that is taken is [`StoreError::Duplicate`].
pub fn insert(c: &mut MysqlConnection, value: &Account) -> Result<Access, StoreError> {
    let id = AccountId::fresh();
    let row = AccountRow {
        id,
        name: value.name.clone(),
        password_hash: value.password_hash.clone(),
        mass_unit: word(value.preferences.mass),
        currency: value.preferences.currency.code().to_owned(),
        settings: json_text(&value.settings),
        version: 1,
        created_at: Utc::now().naive_utc(),
        disabled_at: None,
    };
    diesel::insert_into(account::table).values(row).execute(c)?;
    Ok(Access::of_account(id))
}

/// The account of a name.
pub fn by_name(c: &mut MysqlConnection, name: &str) -> Result<Stored<AccountId, Account>, StoreError> {
    let row: AccountRow = account::table.filter(account::name.eq(name)).select(AccountRow::as_select()).first(c)?;
    row.read()
}

/// The account of the caller.
pub fn get(c: &mut MysqlConnection, access: Access) -> Result<Stored<AccountId, Account>, StoreError> {
    let row: AccountRow =
        account::table.filter(account::id.eq(access.account())).select(AccountRow::as_select()).first(c)?;
    row.read()
}

/// Waits until nobody else writes anything of an account, and keeps everybody from it until the transaction ends. Counts the
/// account's revision up, so that other processes and nodes that write it meanwhile find out.
pub fn lock(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    let mine = account::table.filter(account::id.eq(access.account()));
    let locked = diesel::update(mine).set(account::revision.eq(account::revision + 1)).execute(c)?;
    if locked == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// The revision of an account: the same as before if nothing of it was written since.
pub fn revision(c: &mut MysqlConnection, access: Access) -> Result<i64, StoreError> {
    Ok(account::table.filter(account::id.eq(access.account())).select(account::revision).first(c)?)
}

/// Writes the preferences and settings of an account that was read at `version`.
pub fn set_preferences(
    c: &mut MysqlConnection,
    access: Access,
    version: i32,
    preferences: Preferences,
    settings: Settings,
) -> Result<(), StoreError> {
    let updated =
        diesel::update(account::table.filter(account::id.eq(access.account())).filter(account::version.eq(version)))
            .set((
                account::mass_unit.eq(word(preferences.mass)),
                account::currency.eq(preferences.currency.code()),
                account::settings.eq(json_text(&settings)),
                account::version.eq(version + 1),
            ))
            .execute(c)?;
    changed(updated, || account::table.filter(account::id.eq(access.account())).select(account::version).first(c))
}

/// What the caller has found light things of a kind to weigh and cost.
pub fn typical(c: &mut MysqlConnection, access: Access) -> Result<OwnTypical, StoreError> {
    let mine = account::table.filter(account::id.eq(access.account()));
    let text: String = mine.select(account::typical).first(c)?;
    serde_json::from_str(&text).map_err(|_| StoreError::Corrupt("account.typical"))
}

/// Writes that; its row is to be locked.
pub fn set_typical(c: &mut MysqlConnection, access: Access, typical: &OwnTypical) -> Result<(), StoreError> {
    let text = serde_json::to_string(typical).unwrap_or_else(|_| "{}".to_owned());
    let mine = account::table.filter(account::id.eq(access.account()));
    diesel::update(mine).set(account::typical.eq(text)).execute(c)?;
    Ok(())
}

/// What of an account the change log follows.
#[derive(Serialize, Deserialize)]
pub(super) struct AccountState {
    mass: MassSystem,
    /// ISO 4217 code.
    currency: String,
    settings: Settings,
    typical: OwnTypical,
}

impl Audited for AccountState {
    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError> {
        if !ids.contains(&access.account().0) {
            return Ok(Vec::new());
        }
        let Stored { id, value, .. } = get(c, access)?;
        let Preferences { mass, currency } = value.preferences;
        let typical = typical(c, access)?;
        let state = AccountState { mass, currency: currency.code().to_owned(), settings: value.settings, typical };
        Ok(vec![(id.0, state, None)])
    }

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        for (_, state, _) in objects {
            let currency = Currency::from_code(&state.currency).ok_or(StoreError::Corrupt("change_item.state"))?;
            let version = get(c, access)?.version;
            set_preferences(c, access, version, Preferences { mass: state.mass, currency }, state.settings)?;
            set_typical(c, access, &state.typical)?;
        }
        Ok(())
    }
}

/// Writes a new password hash.
pub fn set_password(c: &mut MysqlConnection, access: Access, hash: &str) -> Result<(), StoreError> {
    diesel::update(account::table.filter(account::id.eq(access.account())))
        .set(account::password_hash.eq(hash))
        .execute(c)?;
    Ok(())
}

/// Lets nobody into an account any more, or lets people in again.
pub fn set_disabled(c: &mut MysqlConnection, access: Access, is_disabled: bool) -> Result<(), StoreError> {
    let since = is_disabled.then(|| Utc::now().naive_utc());
    diesel::update(account::table.filter(account::id.eq(access.account())))
        .set(account::disabled_at.eq(since))
        .execute(c)?;
    Ok(())
}

/// Things or trips removed at a time with what hangs on them, so that no statement takes long.
const REMOVED: usize = 500;

/// Removes an account with everything that is its own but its change log, which is cleared before (`history::clear_of`).
pub fn remove(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    let things: Vec<GearId> = gear::table.filter(gear::account_id.eq(access.account())).select(gear::id).load(c)?;
    for some in things.chunks(REMOVED) {
        diesel::delete(gear::table.filter(gear::id.eq_any(some))).execute(c)?;
    }
    let trips: Vec<TripId> = trip::table.filter(trip::account_id.eq(access.account())).select(trip::id).load(c)?;
    for some in trips.chunks(REMOVED) {
        diesel::delete(trip::table.filter(trip::id.eq_any(some))).execute(c)?;
    }
    diesel::delete(account::table.filter(account::id.eq(access.account()))).execute(c)?;
    Ok(())
}

/// An account as the operator sees it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, QueryableByName)]
pub struct Overview {
    /// The name that is signed in with.
    #[diesel(sql_type = Text)]
    pub name: String,
    /// When it was made (UTC).
    #[diesel(sql_type = Datetime)]
    pub created_at: NaiveDateTime,
    /// When it was used last, to some minutes (UTC), if a session is left that says so.
    #[diesel(sql_type = Nullable<Datetime>)]
    pub seen_at: Option<NaiveDateTime>,
    /// Since when nobody may come in (UTC).
    #[diesel(sql_type = Nullable<Datetime>)]
    pub disabled_at: Option<NaiveDateTime>,
    /// Things that it has.
    #[diesel(sql_type = Bigint)]
    pub things: i64,
    /// Lists that it has.
    #[diesel(sql_type = Bigint)]
    pub lists: i64,
}

/// What opens the account of a name, for the operator.
pub fn access_of(c: &mut MysqlConnection, name: &str) -> Result<Access, StoreError> {
    Ok(Access::of_account(by_name(c, name)?.id))
}

/// All accounts by name.
pub fn overview(c: &mut MysqlConnection) -> Result<Vec<Overview>, StoreError> {
    let all = "SELECT a.name, a.created_at, a.disabled_at, \
        (SELECT MAX(s.seen_at) FROM session s WHERE s.account_id = a.id) AS seen_at, \
        (SELECT COUNT(*) FROM gear g WHERE g.account_id = a.id AND g.removed_at IS NULL) AS things, \
        (SELECT COUNT(*) FROM pack_list l WHERE l.account_id = a.id AND l.removed_at IS NULL) AS lists \
        FROM account a ORDER BY a.name";
    Ok(diesel::sql_query(all).load(c)?)
}
