//! Lines of pack lists in the database.

mod elsewhere;
mod log;
mod weights;

pub use elsewhere::{Need, lists_with, needed_elsewhere, pieces};
pub use weights::{LineWeight, Load, loads, weights};

use super::access::{Access, ToList};
use super::gear::GearRow;
use super::id::{AccountId, GearId, LineId, ListId, WalkerId};
use super::schema::{gear, list_line, list_walker};
use super::stored::StoredAsJson;
use super::upsert::{ROWS, upsert};
use super::{StoreError, Stored, all_at, changed};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::gear::{Gear, Identity};
use kevyt_core::list::Counts;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// Who carries a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Carried {
    /// Whether it serves all walkers, so that any of them could carry it.
    pub shared: bool,
    /// Who carries it; if none is named, its owner.
    pub by: Option<WalkerId>,
}

/// A line with its gear.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ListLine {
    /// The gear.
    pub gear: Stored<GearId, Gear>,
    /// Its counts.
    pub counts: Counts,
    /// Who carries it.
    pub carried: Carried,
}

/// A line as it is stored.
pub type StoredLine = Stored<LineId, ListLine>;

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = list_line, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct LineRow {
    id: LineId,
    list_id: ListId,
    gear_id: GearId,
    carried: u32,
    worn: u32,
    used_up: u32,
    #[serde(default)]
    apart: u32,
    #[serde(default)]
    left_home: u32,
    #[serde(default)]
    shared: bool,
    #[serde(default)]
    walker_id: Option<WalkerId>,
    version: i32,
}

impl LineRow {
    fn new(
        list_id: ListId,
        (id, version): (LineId, i32),
        gear_id: GearId,
        counts: Counts,
        carried: Carried,
    ) -> LineRow {
        let Counts { carried: on_back, worn, used_up, apart, left } = counts;
        LineRow {
            id,
            list_id,
            gear_id,
            carried: on_back,
            worn,
            used_up,
            apart,
            left_home: left,
            shared: carried.shared,
            walker_id: carried.by,
            version,
        }
    }

    pub(super) fn counts(&self) -> Counts {
        let LineRow { carried, worn, used_up, apart, left_home, .. } = *self;
        Counts { carried, worn, used_up, apart, left: left_home }
    }

    fn carried(&self) -> Carried {
        Carried { shared: self.shared, by: self.walker_id }
    }
}

/// The lines of a list, by system and name of their gear. The caller has made sure that the list is the account's.
pub fn of_list(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<Vec<StoredLine>, StoreError> {
    let rows: Vec<(LineRow, GearRow)> = list_line::table
        .inner_join(gear::table)
        .filter(list_line::list_id.eq(list))
        .filter(list_line::removed_at.is_null())
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .order((gear::system, gear::name, gear::id))
        .select((LineRow::as_select(), GearRow::as_select()))
        .load(c)?;
    rows.into_iter()
        .map(|(line, gear)| {
            let (counts, carried) = (line.counts(), line.carried());
            Ok(Stored { id: line.id, version: line.version, value: ListLine { gear: gear.read()?, counts, carried } })
        })
        .collect()
}

/// The lines of all who walk on a list, by system and name of their gear, each with whose the gear is. Of who has left, nothing.
pub fn of_everyone(c: &mut MysqlConnection, to: ToList) -> Result<Vec<(AccountId, StoredLine)>, StoreError> {
    let rows: Vec<(LineRow, GearRow)> = list_line::table
        .inner_join(gear::table)
        .filter(shown(to))
        .order((gear::system, gear::name, gear::id))
        .select((LineRow::as_select(), GearRow::as_select()))
        .load(c)?;
    rows.into_iter()
        .map(|(line, gear)| {
            let (counts, carried, whose) = (line.counts(), line.carried(), gear.account());
            let value = ListLine { gear: gear.read()?, counts, carried };
            Ok((whose, Stored { id: line.id, version: line.version, value }))
        })
        .collect()
}

/// What is shown of a list to those who walk on it.
#[diesel::dsl::auto_type(no_type_alias)]
fn shown(to: ToList) -> _ {
    let (list, owner): (ListId, AccountId) = (to.list(), to.owner());
    let walking = list_walker::table
        .filter(list_walker::list_id.eq(list))
        .filter(list_walker::removed_at.is_null())
        .filter(list_walker::account_id.is_not_null())
        .select(list_walker::account_id.assume_not_null());
    list_line::list_id
        .eq(list)
        .and(list_line::removed_at.is_null())
        .and(gear::account_id.eq(owner).or(gear::account_id.eq_any(walking)))
        .and(gear::removed_at.is_null())
}

/// Whose gear some lines of a list are, what it is, and who carries it, in their order; nobody says otherwise until the transaction ends.
pub fn carriers(
    c: &mut MysqlConnection,
    to: ToList,
    lines: &[LineId],
) -> Result<Vec<(AccountId, String, Carried)>, StoreError> {
    let rows: Vec<(LineId, AccountId, String, bool, Option<WalkerId>)> = list_line::table
        .inner_join(gear::table)
        .filter(shown(to))
        .filter(list_line::id.eq_any(lines))
        .select((list_line::id, gear::account_id, gear::name, list_line::shared, list_line::walker_id))
        .for_update()
        .load(c)?;
    let mut found: HashMap<LineId, _> =
        rows.into_iter().map(|(id, owner, name, shared, by)| (id, (owner, name, Carried { shared, by }))).collect();
    lines.iter().map(|line| found.remove(line).ok_or(StoreError::NotFound)).collect()
}

/// Writes who carries a line of a list that is shared by walkers, whoever owns its gear; read at `version`.
pub fn carry(
    c: &mut MysqlConnection,
    to: ToList,
    id: LineId,
    version: i32,
    carried: Carried,
) -> Result<(), StoreError> {
    let line = list_line::table.filter(list_line::id.eq(id)).filter(list_line::list_id.eq(to.list()));
    let updated = diesel::update(line.filter(list_line::version.eq(version)).filter(list_line::removed_at.is_null()))
        .set((
            list_line::shared.eq(carried.shared),
            list_line::walker_id.eq(carried.by),
            list_line::version.eq(version + 1),
        ))
        .execute(c)?;
    changed(updated, || line.select(list_line::version).first(c))
}

/// The line of a thing on a list as it stands, also one that was taken off: its id, counts and version, and whether it is there.
#[derive(Debug, Clone, Copy)]
pub struct LineState {
    /// Its id.
    pub id: LineId,
    /// Its version.
    pub version: i32,
    /// How its pieces count, or did.
    pub counts: Counts,
    /// Who carries it, or did.
    pub carried: Carried,
    /// Whether it is on the list.
    pub is_on: bool,
}

/// The line of a thing on a list, on it or taken off.
pub fn of_gear(c: &mut MysqlConnection, list: ListId, gear: GearId) -> Result<Option<LineState>, StoreError> {
    Ok(of_things(c, list, &[gear])?.remove(&gear))
}

/// The lines of some things on a list, on it or taken off.
pub fn of_things(
    c: &mut MysqlConnection,
    list: ListId,
    things: &[GearId],
) -> Result<HashMap<GearId, LineState>, StoreError> {
    let found: Vec<(LineRow, Option<NaiveDateTime>)> = list_line::table
        .filter(list_line::list_id.eq(list))
        .filter(list_line::gear_id.eq_any(things))
        .select((LineRow::as_select(), list_line::removed_at))
        .load(c)?;
    let state = |(row, removed_at): (LineRow, Option<NaiveDateTime>)| {
        let (counts, carried) = (row.counts(), row.carried());
        (row.gear_id, LineState { id: row.id, version: row.version, counts, carried, is_on: removed_at.is_none() })
    };
    Ok(found.into_iter().map(state).collect())
}

/// How a line stands whose gear is there.
#[derive(Debug, Clone)]
pub struct Standing {
    /// The gear's name.
    pub name: String,
    /// Whether it is on its list.
    pub is_on: bool,
    /// Whether the gear is to stay as it is.
    pub keep: bool,
}

/// Of some lines those whose gear is there.
pub fn standing(
    c: &mut MysqlConnection,
    access: Access,
    lines: &[LineId],
) -> Result<HashMap<LineId, Standing>, StoreError> {
    let rows: Vec<(LineId, String, String, Option<NaiveDateTime>)> = list_line::table
        .inner_join(gear::table)
        .filter(list_line::id.eq_any(lines))
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .select((list_line::id, gear::name, gear::identity, list_line::removed_at))
        .load(c)?;
    let standing = |(id, name, identity, removed_at): (LineId, String, String, Option<NaiveDateTime>)| {
        let keep = Identity::read("gear.identity", &identity)?.keep;
        Ok((id, Standing { name, is_on: removed_at.is_none(), keep }))
    };
    rows.into_iter().map(standing).collect()
}

/// Lines that were taken off a list while their gear stayed: line, gear, and how its pieces counted.
pub fn taken_off(
    c: &mut MysqlConnection,
    access: Access,
    list: ListId,
) -> Result<Vec<(LineId, GearId, Counts)>, StoreError> {
    let rows: Vec<LineRow> = list_line::table
        .inner_join(gear::table)
        .filter(list_line::list_id.eq(list))
        .filter(list_line::removed_at.is_not_null())
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .order(gear::id)
        .select(LineRow::as_select())
        .load(c)?;
    Ok(rows.into_iter().map(|row| (row.id, row.gear_id, row.counts())).collect())
}

/// Adds lines with their counts, to a list that has none of their gear; the last says whether a line is on the list or was taken off.
pub fn insert(
    c: &mut MysqlConnection,
    list: ListId,
    lines: &[(LineId, GearId, Counts, Carried, bool)],
) -> Result<(), StoreError> {
    let now = Utc::now().naive_utc();
    for lines in lines.chunks(ROWS) {
        let rows: Vec<_> = lines
            .iter()
            .map(|&(id, gear_id, counts, carried, is_on)| {
                let removed_at = (!is_on).then_some(now);
                (LineRow::new(list, (id, 1), gear_id, counts, carried), list_line::removed_at.eq(removed_at))
            })
            .collect();
        diesel::insert_into(list_line::table).values(rows).execute(c)?;
    }
    Ok(())
}

/// Writes the counts of a line that was read at `version`, and puts it on its list if it was taken off. The caller has made sure that
/// the list is the account's.
pub fn update(
    c: &mut MysqlConnection,
    id: LineId,
    version: i32,
    counts: Counts,
    carried: Carried,
) -> Result<(), StoreError> {
    let line = list_line::table.filter(list_line::id.eq(id));
    let updated = diesel::update(line.filter(list_line::version.eq(version)))
        .set((
            list_line::carried.eq(counts.carried),
            list_line::worn.eq(counts.worn),
            list_line::used_up.eq(counts.used_up),
            list_line::apart.eq(counts.apart),
            list_line::left_home.eq(counts.left),
            list_line::shared.eq(carried.shared),
            list_line::walker_id.eq(carried.by),
            list_line::version.eq(version + 1),
            list_line::removed_at.eq(None::<NaiveDateTime>),
        ))
        .execute(c)?;
    changed(updated, || line.select(list_line::version).first(c))
}

/// Writes the counts of lines, each over what was read at its version, all or none, and puts those on the list that were taken off.
pub fn recount(c: &mut MysqlConnection, list: ListId, lines: &[(LineState, GearId, Counts)]) -> Result<(), StoreError> {
    for lines in lines.chunks(ROWS) {
        // Who carries a line another walker may say meanwhile, whose writes do not wait for those of this account.
        let there: Vec<(LineId, i32)> = list_line::table
            .filter(list_line::id.eq_any(lines.iter().map(|(line, ..)| line.id)))
            .select((list_line::id, list_line::version))
            .for_update()
            .load(c)?;
        all_at(&there, lines.iter().map(|(line, ..)| (line.id, line.version)))?;
        let rows = lines.iter().map(|&(line, gear, counts)| {
            let row = LineRow::new(list, (line.id, line.version + 1), gear, counts, line.carried);
            (row, list_line::removed_at.eq(None::<NaiveDateTime>))
        });
        upsert(list_line::table, rows.collect()).execute(c)?;
    }
    Ok(())
}

/// Takes a line that was read at `version` off its list; the counts stay for when it comes back.
pub fn remove(c: &mut MysqlConnection, id: LineId, version: i32) -> Result<(), StoreError> {
    let line = list_line::table.filter(list_line::id.eq(id)).filter(list_line::removed_at.is_null());
    let updated = diesel::update(line.filter(list_line::version.eq(version)))
        .set((list_line::removed_at.eq(Some(Utc::now().naive_utc())), list_line::version.eq(version + 1)))
        .execute(c)?;
    changed(updated, || line.select(list_line::version).first(c))
}

/// How many lines a list has.
pub fn count(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<usize, StoreError> {
    let mine = list_line::table.inner_join(gear::table).filter(list_line::list_id.eq(list));
    let shown = mine.filter(list_line::removed_at.is_null()).filter(gear::removed_at.is_null());
    let count: i64 = shown.filter(gear::account_id.eq(access.account())).count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
}
