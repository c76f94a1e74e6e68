//! Who walks on a list. What somebody with an account is to a list is decided here; what a link opens, in `links`.

use super::access::{Access, Role, ToList};
use super::id::{AccountId, ListId, WalkerId};
use super::lists::{ListRow, StoredList};
use super::schema::{account, list_walker, pack_list};
use super::state::{AuditSnapshot, Audited};
use super::{StoreError, Stored, changed};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::quantity::Mass;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// One who walks.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Walker {
    /// The name that the others see.
    pub name: String,
    /// What the walker weighs, if anybody said.
    pub body: Option<Mass>,
    /// The account behind it, if there is one.
    pub account: Option<AccountId>,
    /// Whether the others see what this one's gear cost.
    pub shows_prices: bool,
}

/// A walker as it is stored.
pub type StoredWalker = Stored<WalkerId, Walker>;

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = list_walker, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct WalkerRow {
    id: WalkerId,
    list_id: ListId,
    name: String,
    body_mg: Option<i64>,
    #[diesel(column_name = account_id)]
    walker_account: Option<AccountId>,
    shows_prices: bool,
    version: i32,
}

impl WalkerRow {
    fn new(list: ListId, id: WalkerId, version: i32, walker: &Walker) -> WalkerRow {
        WalkerRow {
            id,
            list_id: list,
            name: walker.name.clone(),
            body_mg: walker.body.map(Mass::mg),
            walker_account: walker.account,
            shows_prices: walker.shows_prices,
            version,
        }
    }

    fn read(self) -> StoredWalker {
        let value = Walker {
            name: self.name,
            body: self.body_mg.map(Mass::from_mg),
            account: self.walker_account,
            shows_prices: self.shows_prices,
        };
        Stored { id: self.id, version: self.version, value }
    }
}

/// A list that the caller owns or has joined, and what they are to it.
pub fn open(c: &mut MysqlConnection, access: Access, id: ListId) -> Result<(StoredList, ToList), StoreError> {
    let (row, owner): (ListRow, AccountId) = pack_list::table
        .filter(pack_list::id.eq(id))
        .filter(pack_list::removed_at.is_null())
        .select((ListRow::as_select(), pack_list::account_id))
        .first(c)?;
    let joined = || joined(access.account()).filter(list_walker::list_id.eq(id)).select(list_walker::id);
    let role =
        if owner == access.account() { Role::Owner } else { joined().first::<WalkerId>(c).map(|_| Role::Partner)? };
    Ok((row.read()?, ToList::new(id, owner, role, true)))
}

/// Seats of an account on lists.
#[diesel::dsl::auto_type(no_type_alias)]
fn joined(account: AccountId) -> _ {
    list_walker::table.filter(list_walker::account_id.eq(account)).filter(list_walker::removed_at.is_null())
}

/// Lists of others that the caller has joined, with the owner's name, oldest first.
pub fn joined_lists(c: &mut MysqlConnection, access: Access) -> Result<Vec<(StoredList, String)>, StoreError> {
    let rows: Vec<(ListRow, String)> = list_walker::table
        .inner_join(pack_list::table.inner_join(account::table))
        .filter(list_walker::account_id.eq(access.account()))
        .filter(list_walker::removed_at.is_null())
        .filter(pack_list::removed_at.is_null())
        .filter(pack_list::account_id.ne(access.account()))
        .order(pack_list::id)
        .select((ListRow::as_select(), account::name))
        .load(c)?;
    rows.into_iter().map(|(row, owner)| Ok((row.read()?, owner))).collect()
}

/// The walkers of a list, the owner first.
pub fn of_list(c: &mut MysqlConnection, to: ToList) -> Result<Vec<StoredWalker>, StoreError> {
    let rows: Vec<WalkerRow> = list_walker::table
        .filter(list_walker::list_id.eq(to.list()))
        .filter(list_walker::removed_at.is_null())
        .order(list_walker::id)
        .select(WalkerRow::as_select())
        .load(c)?;
    let mut walkers: Vec<StoredWalker> = rows.into_iter().map(WalkerRow::read).collect();
    walkers.sort_by_key(|walker| walker.value.account != Some(to.owner()));
    Ok(walkers)
}

/// What tells whether anything was written since of anybody whose rows a list has: their accounts with their revisions, in order.
pub fn revisions(c: &mut MysqlConnection, to: ToList) -> Result<Vec<(AccountId, i64)>, StoreError> {
    let mut walking: Vec<AccountId> = list_walker::table
        .filter(list_walker::list_id.eq(to.list()))
        .filter(list_walker::removed_at.is_null())
        .filter(list_walker::account_id.is_not_null())
        .select(list_walker::account_id.assume_not_null())
        .load(c)?;
    walking.push(to.owner());
    revisions_of(c, walking)
}

/// The same of all lists of an account.
pub fn revisions_of_all(c: &mut MysqlConnection, access: Access) -> Result<Vec<(AccountId, i64)>, StoreError> {
    let mut walking: Vec<AccountId> = list_walker::table
        .inner_join(pack_list::table)
        .filter(pack_list::account_id.eq(access.account()))
        .filter(pack_list::removed_at.is_null())
        .filter(list_walker::removed_at.is_null())
        .filter(list_walker::account_id.is_not_null())
        .select(list_walker::account_id.assume_not_null())
        .load(c)?;
    walking.push(access.account());
    revisions_of(c, walking)
}

fn revisions_of(c: &mut MysqlConnection, accounts: Vec<AccountId>) -> Result<Vec<(AccountId, i64)>, StoreError> {
    Ok(account::table
        .filter(account::id.eq_any(accounts))
        .order(account::id)
        .select((account::id, account::revision))
        .load(c)?)
}

/// Adds a walker.
pub fn insert(c: &mut MysqlConnection, to: ToList, id: WalkerId, walker: &Walker) -> Result<(), StoreError> {
    diesel::insert_into(list_walker::table).values(WalkerRow::new(to.list(), id, 1, walker)).execute(c)?;
    Ok(())
}

/// Writes a walker that was read at `version`.
pub fn update(
    c: &mut MysqlConnection,
    to: ToList,
    id: WalkerId,
    version: i32,
    walker: &Walker,
) -> Result<(), StoreError> {
    let row = list_walker::table.filter(list_walker::id.eq(id)).filter(list_walker::list_id.eq(to.list()));
    let updated =
        diesel::update(row.filter(list_walker::version.eq(version)).filter(list_walker::removed_at.is_null()))
            .set(WalkerRow::new(to.list(), id, version + 1, walker))
            .execute(c)?;
    changed(updated, || row.select(list_walker::version).first(c))
}

/// Takes a walker off a list.
pub fn remove(c: &mut MysqlConnection, to: ToList, id: WalkerId) -> Result<(), StoreError> {
    let row = list_walker::table.filter(list_walker::id.eq(id)).filter(list_walker::list_id.eq(to.list()));
    diesel::update(row.filter(list_walker::removed_at.is_null()))
        .set((list_walker::removed_at.eq(Utc::now().naive_utc()), list_walker::version.eq(list_walker::version + 1)))
        .execute(c)?;
    Ok(())
}

/// Names of accounts.
pub fn account_name(c: &mut MysqlConnection, id: AccountId) -> Result<String, StoreError> {
    Ok(account::table.filter(account::id.eq(id)).select(account::name).first(c)?)
}

impl Audited for WalkerRow {
    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError> {
        let ids: Vec<WalkerId> = ids.iter().copied().map(WalkerId).collect();
        let rows: Vec<(WalkerRow, Option<NaiveDateTime>)> = list_walker::table
            .inner_join(pack_list::table)
            .filter(list_walker::id.eq_any(ids))
            .filter(pack_list::account_id.eq(access.account()).or(list_walker::account_id.eq(access.account())))
            .select((WalkerRow::as_select(), list_walker::removed_at))
            .load(c)?;
        Ok(rows.into_iter().map(|(row, removed_at)| (row.id.0, row, removed_at)).collect())
    }

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        for (id, row, removed_at) in objects {
            let id = WalkerId(id);
            // The owner puts any walker back, who has joined changes the own seat; the seat stays with the account that has it now. Who has left
            // does not come back by it.
            let own_seat = list_walker::account_id.eq(access.account()).and(list_walker::removed_at.is_null());
            let (version, account): (i32, Option<AccountId>) = list_walker::table
                .inner_join(pack_list::table)
                .filter(list_walker::id.eq(id))
                .filter(pack_list::account_id.eq(access.account()).or(own_seat.assume_not_null()))
                .select((list_walker::version, list_walker::account_id))
                .first(c)?;
            let row = WalkerRow { id, version: version + 1, walker_account: account, ..row };
            diesel::update(list_walker::table.filter(list_walker::id.eq(id)))
                .set((row, list_walker::removed_at.eq(removed_at)))
                .execute(c)?;
        }
        Ok(())
    }
}
