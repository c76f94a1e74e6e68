//! Pack lists and their lines in the database.

use super::convert::{jobs, jobs_text, name};
use super::gear::GearRow;
use super::history::{State, StateRow};
use super::id::{AccountId, GearId, LineId, ListId};
use super::schema::{gear, list_line, pack_list};
use super::{StoreError, Stored, changed};
use chrono::Utc;
use diesel::prelude::*;
use kevyt_core::gear::{Gear, Jobs, Name};
use kevyt_core::quantity::{Mass, Money};
use serde::{Deserialize, Serialize};

/// A pack list without its lines.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PackList {
    /// Its name.
    pub name: Name,
    /// A line about the trip.
    pub note: String,
    /// The base weight to reach and how it was typed.
    pub target: Option<(Mass, String)>,
    /// The most money to spend.
    pub budget: Option<Money>,
    /// What an hour of making is worth.
    pub hour_rate: Money,
    /// What the trip requires.
    pub requires: Jobs,
}

impl PackList {
    /// A list without a question yet.
    pub fn empty(name: Name) -> PackList {
        PackList {
            name,
            note: String::new(),
            target: None,
            budget: None,
            hour_rate: Money::ZERO,
            requires: Jobs::new(),
        }
    }
}

/// How many pieces of a line count where.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Counts {
    /// Carried.
    pub carried: u32,
    /// Worn.
    pub worn: u32,
    /// Used up.
    pub used_up: u32,
}

/// A line with its gear.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ListLine {
    /// The gear.
    pub gear: Stored<GearId, Gear>,
    /// Its counts.
    pub counts: Counts,
}

/// A list as it is stored.
pub type StoredList = Stored<ListId, PackList>;
/// A line as it is stored.
pub type StoredLine = Stored<LineId, ListLine>;

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = pack_list, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
struct ListRow {
    id: ListId,
    account_id: AccountId,
    name: String,
    note: String,
    target_mg: Option<i64>,
    target_typed: Option<String>,
    budget_minor: Option<i64>,
    hour_minor: i64,
    requires: String,
    version: i32,
}

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = list_line, check_for_backend(diesel::mysql::Mysql))]
struct LineRow {
    id: LineId,
    list_id: ListId,
    gear_id: GearId,
    carried: u32,
    worn: u32,
    used_up: u32,
    version: i32,
}

impl ListRow {
    fn new(account: AccountId, id: ListId, version: i32, list: &PackList) -> ListRow {
        ListRow {
            id,
            account_id: account,
            name: list.name.as_str().to_owned(),
            note: list.note.clone(),
            target_mg: list.target.as_ref().map(|(mass, _)| mass.mg()),
            target_typed: list.target.as_ref().map(|(_, typed)| typed.clone()),
            budget_minor: list.budget.map(Money::minor),
            hour_minor: list.hour_rate.minor(),
            requires: jobs_text(&list.requires),
            version,
        }
    }

    fn read(self) -> Result<StoredList, StoreError> {
        let value = PackList {
            name: name("pack_list.name", &self.name)?,
            note: self.note,
            target: self.target_mg.map(Mass::from_mg).zip(self.target_typed),
            budget: self.budget_minor.map(Money::from_minor),
            hour_rate: Money::from_minor(self.hour_minor),
            requires: jobs("pack_list.requires", &self.requires)?,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

/// An account's lists, oldest first.
pub fn all(c: &mut MysqlConnection, account: AccountId) -> Result<Vec<StoredList>, StoreError> {
    let rows: Vec<ListRow> = pack_list::table
        .filter(pack_list::account_id.eq(account))
        .filter(pack_list::removed_at.is_null())
        .select(ListRow::as_select())
        .order(pack_list::id)
        .limit(500)
        .load(c)?;
    rows.into_iter().map(ListRow::read).collect()
}

/// One list.
pub fn get(c: &mut MysqlConnection, account: AccountId, id: ListId) -> Result<StoredList, StoreError> {
    let row: ListRow = pack_list::table
        .filter(pack_list::id.eq(id))
        .filter(pack_list::account_id.eq(account))
        .filter(pack_list::removed_at.is_null())
        .select(ListRow::as_select())
        .first(c)?;
    row.read()
}

/// Adds a list.
pub fn insert(c: &mut MysqlConnection, account: AccountId, id: ListId, list: &PackList) -> Result<(), StoreError> {
    diesel::insert_into(pack_list::table).values(ListRow::new(account, id, 1, list)).execute(c)?;
    Ok(())
}

/// Writes a list that was read at `version`.
pub fn update(
    c: &mut MysqlConnection,
    account: AccountId,
    id: ListId,
    version: i32,
    list: &PackList,
) -> Result<(), StoreError> {
    let updated =
        diesel::update(pack_list::table.filter(pack_list::id.eq(id)).filter(pack_list::account_id.eq(account)))
            .filter(pack_list::version.eq(version))
            .filter(pack_list::removed_at.is_null())
            .set(ListRow::new(account, id, version + 1, list))
            .execute(c)?;
    changed(updated, || version_of(c, account, id))
}

/// Takes a list out of sight.
pub fn remove(c: &mut MysqlConnection, account: AccountId, id: ListId, version: i32) -> Result<(), StoreError> {
    let updated =
        diesel::update(pack_list::table.filter(pack_list::id.eq(id)).filter(pack_list::account_id.eq(account)))
            .filter(pack_list::version.eq(version))
            .filter(pack_list::removed_at.is_null())
            .set((pack_list::removed_at.eq(Some(Utc::now().naive_utc())), pack_list::version.eq(version + 1)))
            .execute(c)?;
    changed(updated, || version_of(c, account, id))
}

/// Brings a removed list back.
pub fn restore(c: &mut MysqlConnection, account: AccountId, id: ListId) -> Result<(), StoreError> {
    let updated =
        diesel::update(pack_list::table.filter(pack_list::id.eq(id)).filter(pack_list::account_id.eq(account)))
            .set((
                pack_list::removed_at.eq(None::<chrono::NaiveDateTime>),
                pack_list::version.eq(pack_list::version + 1),
            ))
            .execute(c)?;
    if updated == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

fn version_of(c: &mut MysqlConnection, account: AccountId, id: ListId) -> Result<i32, diesel::result::Error> {
    pack_list::table
        .filter(pack_list::id.eq(id))
        .filter(pack_list::account_id.eq(account))
        .filter(pack_list::removed_at.is_null())
        .select(pack_list::version)
        .first(c)
}

/// The lines of a list, by system and name of their gear. The caller has made sure that the list is the account's.
pub fn lines(c: &mut MysqlConnection, account: AccountId, list: ListId) -> Result<Vec<StoredLine>, StoreError> {
    let rows: Vec<(LineRow, GearRow)> = list_line::table
        .inner_join(gear::table)
        .filter(list_line::list_id.eq(list))
        .filter(list_line::removed_at.is_null())
        .filter(gear::account_id.eq(account))
        .filter(gear::removed_at.is_null())
        .order((gear::system, gear::name, gear::id))
        .select((LineRow::as_select(), GearRow::as_select()))
        .load(c)?;
    rows.into_iter()
        .map(|(line, gear)| {
            let counts = Counts { carried: line.carried, worn: line.worn, used_up: line.used_up };
            Ok(Stored { id: line.id, version: line.version, value: ListLine { gear: gear.read()?, counts } })
        })
        .collect()
}

/// The line of a thing on a list, shown or hidden.
pub fn line_id(c: &mut MysqlConnection, list: ListId, gear: GearId) -> Result<Option<LineId>, StoreError> {
    let line = list_line::table.filter(list_line::list_id.eq(list)).filter(list_line::gear_id.eq(gear));
    Ok(line.select(list_line::id).first(c).optional()?)
}

/// Puts gear on a list with these counts, whether or not it is there; a new line gets the id `new`. `version` is that of the line as it was read, none
/// for a line that the caller has not seen.
pub fn put_line(
    c: &mut MysqlConnection,
    list: ListId,
    gear: GearId,
    counts: Counts,
    version: Option<i32>,
    new: LineId,
) -> Result<(), StoreError> {
    let there: Option<(LineId, i32, bool)> = list_line::table
        .filter(list_line::list_id.eq(list))
        .filter(list_line::gear_id.eq(gear))
        .select((list_line::id, list_line::version, list_line::removed_at.is_null()))
        .for_update()
        .first(c)
        .optional()?;
    let Some((id, now, shown)) = there else {
        let Counts { carried, worn, used_up } = counts;
        let row = LineRow { id: new, list_id: list, gear_id: gear, carried, worn, used_up, version: 1 };
        diesel::insert_into(list_line::table).values(row).execute(c)?;
        return Ok(());
    };
    if shown && version.is_some_and(|version| version != now) {
        return Err(StoreError::Stale(now));
    }
    diesel::update(list_line::table.filter(list_line::id.eq(id)))
        .set((
            list_line::carried.eq(counts.carried),
            list_line::worn.eq(counts.worn),
            list_line::used_up.eq(counts.used_up),
            list_line::version.eq(now + 1),
            list_line::removed_at.eq(None::<chrono::NaiveDateTime>),
        ))
        .execute(c)?;
    Ok(())
}

/// Takes gear off a list; the counts stay for when it comes back.
pub fn remove_line(c: &mut MysqlConnection, list: ListId, gear: GearId) -> Result<(), StoreError> {
    let updated =
        diesel::update(list_line::table.filter(list_line::list_id.eq(list)).filter(list_line::gear_id.eq(gear)))
            .filter(list_line::removed_at.is_null())
            .set((
                list_line::removed_at.eq(Some(Utc::now().naive_utc())),
                list_line::version.eq(list_line::version + 1),
            ))
            .execute(c)?;
    if updated == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// Lists as the change log keeps them, without their lines.
pub(super) fn states(c: &mut MysqlConnection, account: AccountId, ids: &[ListId]) -> Result<Vec<StateRow>, StoreError> {
    let rows: Vec<(ListRow, Option<chrono::NaiveDateTime>)> = pack_list::table
        .filter(pack_list::id.eq_any(ids))
        .filter(pack_list::account_id.eq(account))
        .select((ListRow::as_select(), pack_list::removed_at))
        .load(c)?;
    Ok(rows.into_iter().map(|(row, removed)| (row.id.0, State::of(row, removed))).collect())
}

/// Puts a list back as the change log has it.
pub(super) fn put_state(
    c: &mut MysqlConnection,
    account: AccountId,
    id: ListId,
    state: &State,
) -> Result<(), StoreError> {
    let mine = || pack_list::table.filter(pack_list::id.eq(id)).filter(pack_list::account_id.eq(account));
    let version: i32 = mine().select(pack_list::version).for_update().first(c)?;
    let row = ListRow { id, account_id: account, version: version + 1, ..state.row("change_item.state")? };
    diesel::update(mine()).set((row, pack_list::removed_at.eq(state.removed_at()))).execute(c)?;
    Ok(())
}

/// Lines as the change log keeps them.
pub(super) fn line_states(
    c: &mut MysqlConnection,
    account: AccountId,
    ids: &[LineId],
) -> Result<Vec<StateRow>, StoreError> {
    let rows: Vec<(LineRow, Option<chrono::NaiveDateTime>)> = list_line::table
        .inner_join(gear::table)
        .filter(list_line::id.eq_any(ids))
        .filter(gear::account_id.eq(account))
        .select((LineRow::as_select(), list_line::removed_at))
        .load(c)?;
    Ok(rows.into_iter().map(|(row, removed)| (row.id.0, State::of(row, removed))).collect())
}

/// Puts a line back as the change log has it. The change is the account's, and so is the line that it names.
pub(super) fn put_line_state(
    c: &mut MysqlConnection,
    account: AccountId,
    id: LineId,
    state: &State,
) -> Result<(), StoreError> {
    let mine = list_line::table.inner_join(gear::table).filter(gear::account_id.eq(account));
    let version: i32 = mine.filter(list_line::id.eq(id)).select(list_line::version).first(c)?;
    let row = LineRow { id, version: version + 1, ..state.row("change_item.state")? };
    diesel::update(list_line::table.filter(list_line::id.eq(id)))
        .set((row, list_line::removed_at.eq(state.removed_at())))
        .execute(c)?;
    Ok(())
}
