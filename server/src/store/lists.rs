//! Pack lists and their lines in the database.

use super::convert::{KILOGRAMS_OR_POUNDS, jobs, jobs_text, name, with_units};
use super::gear::GearRow;
use super::id::{AccountId, GearId, LineId, ListId};
use super::schema::{gear, list_line, pack_list};
use super::state::{Fields, Logged};
use super::{StoreError, Stored, changed};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::gear::{Gear, Jobs, Name};
use kevyt_core::quantity::{Mass, Money};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use uuid::Uuid;

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
pub(super) struct ListRow {
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
pub(super) struct LineRow {
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

/// How many lists an account has.
pub fn count(c: &mut MysqlConnection, account: AccountId) -> Result<usize, StoreError> {
    let mine = pack_list::table.filter(pack_list::account_id.eq(account)).filter(pack_list::removed_at.is_null());
    let count: i64 = mine.count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
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

/// The line of a thing on a list as it stands, also one that was taken off: its id, counts and version, and whether it is there.
#[derive(Debug, Clone, Copy)]
pub struct Standing {
    /// Its id.
    pub id: LineId,
    /// Its version.
    pub version: i32,
    /// How its pieces count, or did.
    pub counts: Counts,
    /// Whether it is on the list.
    pub is_on: bool,
}

/// The line of a thing on a list, on it or taken off.
pub fn line_of(c: &mut MysqlConnection, list: ListId, gear: GearId) -> Result<Option<Standing>, StoreError> {
    let found: Option<(LineRow, Option<NaiveDateTime>)> = list_line::table
        .filter(list_line::list_id.eq(list))
        .filter(list_line::gear_id.eq(gear))
        .select((LineRow::as_select(), list_line::removed_at))
        .first(c)
        .optional()?;
    Ok(found.map(|(row, removed_at)| Standing {
        id: row.id,
        version: row.version,
        counts: Counts { carried: row.carried, worn: row.worn, used_up: row.used_up },
        is_on: removed_at.is_none(),
    }))
}

/// Of some lines those whose gear is there: its name, and whether the line is on its list.
pub fn standing(
    c: &mut MysqlConnection,
    account: AccountId,
    lines: &[LineId],
) -> Result<HashMap<LineId, (String, bool)>, StoreError> {
    let rows: Vec<(LineId, String, Option<NaiveDateTime>)> = list_line::table
        .inner_join(gear::table)
        .filter(list_line::id.eq_any(lines))
        .filter(gear::account_id.eq(account))
        .filter(gear::removed_at.is_null())
        .select((list_line::id, gear::name, list_line::removed_at))
        .load(c)?;
    Ok(rows.into_iter().map(|(id, name, removed_at)| (id, (name, removed_at.is_none()))).collect())
}

/// Lists of an account that have more lines or swaps than they may: their names.
pub fn overfull(
    c: &mut MysqlConnection,
    account: AccountId,
    most_lines: usize,
    most_swaps: usize,
) -> Result<Vec<String>, StoreError> {
    #[derive(QueryableByName)]
    struct Name {
        #[diesel(sql_type = diesel::sql_types::Text)]
        name: String,
    }
    let shown = "SELECT l.name FROM pack_list l WHERE l.account_id = ? AND l.removed_at IS NULL AND (";
    let lines = "(SELECT COUNT(*) FROM list_line i JOIN gear g ON g.id = i.gear_id \
        WHERE i.list_id = l.id AND i.removed_at IS NULL AND g.removed_at IS NULL) > ?";
    let swaps = "(SELECT COUNT(*) FROM swap s WHERE s.list_id = l.id AND s.removed_at IS NULL) > ?";
    let most = |most: usize| i64::try_from(most).unwrap_or(i64::MAX);
    let rows: Vec<Name> = diesel::sql_query(format!("{shown}{lines} OR {swaps})"))
        .bind::<diesel::sql_types::Binary, _>(account)
        .bind::<diesel::sql_types::Bigint, _>(most(most_lines))
        .bind::<diesel::sql_types::Bigint, _>(most(most_swaps))
        .load(c)?;
    Ok(rows.into_iter().map(|row| row.name).collect())
}

/// Lines that were taken off a list while their gear stayed: line, gear, and how its pieces counted.
pub fn taken_off(
    c: &mut MysqlConnection,
    account: AccountId,
    list: ListId,
) -> Result<Vec<(LineId, GearId, Counts)>, StoreError> {
    let rows: Vec<(LineId, GearId, u32, u32, u32)> = list_line::table
        .inner_join(gear::table)
        .filter(list_line::list_id.eq(list))
        .filter(list_line::removed_at.is_not_null())
        .filter(gear::account_id.eq(account))
        .filter(gear::removed_at.is_null())
        .order(gear::id)
        .select((list_line::id, list_line::gear_id, list_line::carried, list_line::worn, list_line::used_up))
        .load(c)?;
    let counts = |(line, gear, carried, worn, used_up)| (line, gear, Counts { carried, worn, used_up });
    Ok(rows.into_iter().map(counts).collect())
}

/// Adds lines with their counts, to a list that has none of their gear; the last says whether a line is on the list or was taken off.
pub fn insert_lines(
    c: &mut MysqlConnection,
    list: ListId,
    lines: &[(LineId, GearId, Counts, bool)],
) -> Result<(), StoreError> {
    let now = Utc::now().naive_utc();
    for lines in lines.chunks(500) {
        let rows: Vec<_> = lines
            .iter()
            .map(|&(id, gear_id, Counts { carried, worn, used_up }, is_on)| {
                let removed_at = (!is_on).then_some(now);
                (
                    LineRow { id, list_id: list, gear_id, carried, worn, used_up, version: 1 },
                    list_line::removed_at.eq(removed_at),
                )
            })
            .collect();
        diesel::insert_into(list_line::table).values(rows).execute(c)?;
    }
    Ok(())
}

/// Writes the counts of a line that was read at `version`, and puts it on its list if it was taken off. The caller has made sure that
/// the list is the account's.
pub fn update_line(c: &mut MysqlConnection, id: LineId, version: i32, counts: Counts) -> Result<(), StoreError> {
    let line = list_line::table.filter(list_line::id.eq(id));
    let updated = diesel::update(line.filter(list_line::version.eq(version)))
        .set((
            list_line::carried.eq(counts.carried),
            list_line::worn.eq(counts.worn),
            list_line::used_up.eq(counts.used_up),
            list_line::version.eq(version + 1),
            list_line::removed_at.eq(None::<NaiveDateTime>),
        ))
        .execute(c)?;
    changed(updated, || line.select(list_line::version).first(c))
}

/// Takes a line that was read at `version` off its list; the counts stay for when it comes back.
pub fn remove_line(c: &mut MysqlConnection, id: LineId, version: i32) -> Result<(), StoreError> {
    let line = list_line::table.filter(list_line::id.eq(id)).filter(list_line::removed_at.is_null());
    let updated = diesel::update(line.filter(list_line::version.eq(version)))
        .set((list_line::removed_at.eq(Some(Utc::now().naive_utc())), list_line::version.eq(version + 1)))
        .execute(c)?;
    changed(updated, || line.select(list_line::version).first(c))
}

/// How many lines a list has.
pub fn count_lines(c: &mut MysqlConnection, account: AccountId, list: ListId) -> Result<usize, StoreError> {
    let mine = list_line::table.inner_join(gear::table).filter(list_line::list_id.eq(list));
    let shown = mine.filter(list_line::removed_at.is_null()).filter(gear::removed_at.is_null());
    let count: i64 = shown.filter(gear::account_id.eq(account)).count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
}

/// The lists that some lines are of.
pub fn of_lines(c: &mut MysqlConnection, account: AccountId, lines: &[LineId]) -> Result<Vec<ListId>, StoreError> {
    let mine = list_line::table.inner_join(pack_list::table).filter(pack_list::account_id.eq(account));
    Ok(mine.filter(list_line::id.eq_any(lines)).select(list_line::list_id).distinct().load(c)?)
}

/// The pieces of some things on each list that has them: thing, name of the list, pieces.
pub fn pieces(
    c: &mut MysqlConnection,
    account: AccountId,
    things: &[GearId],
) -> Result<Vec<(GearId, String, u32)>, StoreError> {
    let rows: Vec<(GearId, String, u32, u32, u32)> = list_line::table
        .inner_join(gear::table)
        .inner_join(pack_list::table)
        .filter(list_line::gear_id.eq_any(things))
        .filter(list_line::removed_at.is_null())
        .filter(gear::account_id.eq(account))
        .filter(pack_list::removed_at.is_null())
        .select((list_line::gear_id, pack_list::name, list_line::carried, list_line::worn, list_line::used_up))
        .load(c)?;
    Ok(rows.into_iter().map(|(gear, list, carried, worn, used_up)| (gear, list, carried + worn + used_up)).collect())
}

impl Logged for ListRow {
    const FORM: u64 = 1;

    /// Form 0 had targets without the unit that was meant.
    fn upgrade(_: u64, fields: &mut Fields) {
        with_units(fields, &[("target_typed", "target_mg")], KILOGRAMS_OR_POUNDS);
    }

    fn stand(
        c: &mut MysqlConnection,
        account: AccountId,
        ids: &[Uuid],
    ) -> Result<Vec<(Uuid, Self, Option<NaiveDateTime>)>, StoreError> {
        let ids: Vec<ListId> = ids.iter().copied().map(ListId).collect();
        let rows: Vec<(ListRow, Option<NaiveDateTime>)> = pack_list::table
            .filter(pack_list::id.eq_any(ids))
            .filter(pack_list::account_id.eq(account))
            .select((ListRow::as_select(), pack_list::removed_at))
            .load(c)?;
        Ok(rows.into_iter().map(|(row, removed_at)| (row.id.0, row, removed_at)).collect())
    }

    fn put(
        self,
        c: &mut MysqlConnection,
        account: AccountId,
        id: Uuid,
        removed_at: Option<NaiveDateTime>,
    ) -> Result<(), StoreError> {
        let id = ListId(id);
        let mine = || pack_list::table.filter(pack_list::id.eq(id)).filter(pack_list::account_id.eq(account));
        let version: i32 = mine().select(pack_list::version).first(c)?;
        let row = ListRow { id, account_id: account, version: version + 1, ..self };
        diesel::update(mine()).set((row, pack_list::removed_at.eq(removed_at))).execute(c)?;
        Ok(())
    }
}

impl Logged for LineRow {
    fn stand(
        c: &mut MysqlConnection,
        account: AccountId,
        ids: &[Uuid],
    ) -> Result<Vec<(Uuid, Self, Option<NaiveDateTime>)>, StoreError> {
        let ids: Vec<LineId> = ids.iter().copied().map(LineId).collect();
        let rows: Vec<(LineRow, Option<NaiveDateTime>)> = list_line::table
            .inner_join(gear::table)
            .filter(list_line::id.eq_any(ids))
            .filter(gear::account_id.eq(account))
            .select((LineRow::as_select(), list_line::removed_at))
            .load(c)?;
        Ok(rows.into_iter().map(|(row, removed_at)| (row.id.0, row, removed_at)).collect())
    }

    fn put(
        self,
        c: &mut MysqlConnection,
        account: AccountId,
        id: Uuid,
        removed_at: Option<NaiveDateTime>,
    ) -> Result<(), StoreError> {
        let id = LineId(id);
        let mine = list_line::table.inner_join(gear::table).filter(gear::account_id.eq(account));
        let version: i32 = mine.filter(list_line::id.eq(id)).select(list_line::version).first(c)?;
        let row = LineRow { id, version: version + 1, ..self };
        diesel::update(list_line::table.filter(list_line::id.eq(id)))
            .set((row, list_line::removed_at.eq(removed_at)))
            .execute(c)?;
        Ok(())
    }
}
