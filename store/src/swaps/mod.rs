//! Swaps in the database.

mod done;
mod log;

pub use done::{Also, Done, Fate, PriorState, PriorWeight, PutOn, TakenOff};
pub(super) use log::SwapLog;

use super::access::Access;
use super::convert::{from_word, name, word};
use super::id::{AccountId, CandidateId, GearId, LineId, ListId, SwapId};
use super::schema::{pack_list, swap, swap_add, swap_link, swap_remove};
use super::upsert::ROWS;
use super::versioned::versioned;
use super::{StoreError, Stored};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::gear::Name;
use kevyt_core::list::Place;
use kevyt_core::quantity::Money;
use kevyt_core::swap::{SwapKind, SwapState};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// A swap as it is kept: it names lines and candidates by id.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SwapRecord {
    /// The list it changes.
    pub list: ListId,
    /// Its name.
    pub name: Name,
    /// Its kind.
    pub kind: SwapKind,
    /// Open, pinned or ruled out.
    pub state: SwapState,
    /// Delivery.
    pub delivery: Money,
    /// What the removed gear brings, before fees.
    pub resale: Money,
    /// Whether that counts though another list needs the gear.
    pub sells_needed: bool,
    /// Tenths of an hour of making.
    pub tenth_hours: i64,
    /// What comes off: line, pieces, from where.
    pub remove: Vec<(LineId, u32, Place)>,
    /// What goes on: candidate, pieces, where to.
    pub add: Vec<(CandidateId, u32, Place)>,
    /// Swaps that must be made with it; those that were removed stay named.
    pub requires: Vec<SwapId>,
    /// Swaps that can't be made with it; those that were removed stay named.
    pub excludes: Vec<SwapId>,
    /// What was done; `None` while it is a plan.
    pub done: Option<Done<GearId>>,
}

/// How one swap names another.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Relation {
    Requires,
    Excludes,
}

#[derive(Queryable, Selectable, Insertable, AsChangeset)]
#[diesel(table_name = swap, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
struct SwapRow {
    id: SwapId,
    account_id: AccountId,
    list_id: ListId,
    name: String,
    kind: String,
    state: String,
    delivery_minor: i64,
    resale_minor: i64,
    sells_needed: bool,
    tenth_hours: i64,
    done: Option<String>,
    version: i32,
}

versioned!(swap, SwapId);

/// The swaps of a list, oldest first: one query for them and one for each of their sides.
pub fn of_list(
    c: &mut MysqlConnection,
    access: Access,
    list: ListId,
) -> Result<Vec<Stored<SwapId, SwapRecord>>, StoreError> {
    let rows: Vec<SwapRow> = swap::table
        .filter(swap::list_id.eq(list))
        .filter(swap::account_id.eq(access.account()))
        .filter(swap::removed_at.is_null())
        .select(SwapRow::as_select())
        .order(swap::id)
        .load(c)?;
    with_sides(c, rows)
}

/// One swap.
pub fn get(c: &mut MysqlConnection, access: Access, id: SwapId) -> Result<Stored<SwapId, SwapRecord>, StoreError> {
    let row: SwapRow = swap::table
        .filter(swap::id.eq(id))
        .filter(swap::account_id.eq(access.account()))
        .filter(swap::removed_at.is_null())
        .select(SwapRow::as_select())
        .first(c)?;
    with_sides(c, vec![row])?.pop().ok_or(StoreError::NotFound)
}

/// Those of some swaps that are not removed.
pub fn several(
    c: &mut MysqlConnection,
    access: Access,
    ids: &[SwapId],
) -> Result<Vec<Stored<SwapId, SwapRecord>>, StoreError> {
    if ids.is_empty() {
        return Ok(Vec::new());
    }
    let rows: Vec<SwapRow> = swap::table
        .filter(swap::id.eq_any(ids))
        .filter(swap::account_id.eq(access.account()))
        .filter(swap::removed_at.is_null())
        .select(SwapRow::as_select())
        .load(c)?;
    with_sides(c, rows)
}

fn with_sides(c: &mut MysqlConnection, rows: Vec<SwapRow>) -> Result<Vec<Stored<SwapId, SwapRecord>>, StoreError> {
    let ids: Vec<SwapId> = rows.iter().map(|row| row.id).collect();
    let removes: Vec<(SwapId, LineId, u32, String)> = swap_remove::table
        .filter(swap_remove::swap_id.eq_any(&ids))
        .select((swap_remove::swap_id, swap_remove::line_id, swap_remove::qty, swap_remove::place))
        .order(swap_remove::id)
        .load(c)?;
    let adds: Vec<(SwapId, CandidateId, u32, String)> = swap_add::table
        .filter(swap_add::swap_id.eq_any(&ids))
        .select((swap_add::swap_id, swap_add::candidate_id, swap_add::qty, swap_add::place))
        .order(swap_add::id)
        .load(c)?;
    let links: Vec<(SwapId, SwapId, String)> = swap_link::table
        .filter(swap_link::swap_id.eq_any(&ids))
        .select((swap_link::swap_id, swap_link::other_id, swap_link::relation))
        .order((swap_link::swap_id, swap_link::other_id))
        .load(c)?;

    let mut out = Vec::with_capacity(rows.len());
    let mut at: HashMap<SwapId, usize> = HashMap::new();
    for row in rows {
        at.insert(row.id, out.len());
        let value = SwapRecord {
            list: row.list_id,
            name: name("swap.name", &row.name)?,
            kind: from_word("swap.kind", &row.kind)?,
            state: from_word("swap.state", &row.state)?,
            delivery: Money::from_minor(row.delivery_minor),
            resale: Money::from_minor(row.resale_minor),
            sells_needed: row.sells_needed,
            tenth_hours: row.tenth_hours,
            done: row
                .done
                .map(|text| serde_json::from_str(&text))
                .transpose()
                .map_err(|_| StoreError::Corrupt("swap.done"))?,
            remove: Vec::new(),
            add: Vec::new(),
            requires: Vec::new(),
            excludes: Vec::new(),
        };
        out.push(Stored { id: row.id, version: row.version, value });
    }
    for (id, line, qty, place) in removes {
        out[at[&id]].value.remove.push((line, qty, from_word("swap_remove.place", &place)?));
    }
    for (id, candidate, qty, place) in adds {
        out[at[&id]].value.add.push((candidate, qty, from_word("swap_add.place", &place)?));
    }
    for (id, other, relation) in links {
        let value = &mut out[at[&id]].value;
        match from_word("swap_link.relation", &relation)? {
            Relation::Requires => value.requires.push(other),
            Relation::Excludes => value.excludes.push(other),
        }
    }
    Ok(out)
}

/// Adds swaps with their sides. The caller has made sure that their lines and candidates are the account's, and other swaps too, or
/// among these.
pub fn insert(c: &mut MysqlConnection, access: Access, swaps: &[(SwapId, SwapRecord)]) -> Result<(), StoreError> {
    for swaps in swaps.chunks(ROWS) {
        let rows: Vec<SwapRow> = swaps.iter().map(|(id, record)| row(access, *id, 1, record)).collect();
        diesel::insert_into(swap::table).values(rows).execute(c)?;
    }
    let swaps: Vec<_> = swaps.iter().map(|(id, record)| (*id, record)).collect();
    insert_sides(c, &swaps)
}

/// Writes a swap that was read at `version`, sides and all.
pub fn update(
    c: &mut MysqlConnection,
    access: Access,
    id: SwapId,
    version: i32,
    record: &SwapRecord,
) -> Result<(), StoreError> {
    write(c, access, (id, version), row(access, id, version + 1, record))?;
    replace_sides(c, id, record)
}

fn replace_sides(c: &mut MysqlConnection, id: SwapId, record: &SwapRecord) -> Result<(), StoreError> {
    diesel::delete(swap_remove::table.filter(swap_remove::swap_id.eq(id))).execute(c)?;
    diesel::delete(swap_add::table.filter(swap_add::swap_id.eq(id))).execute(c)?;
    diesel::delete(swap_link::table.filter(swap_link::swap_id.eq(id))).execute(c)?;
    insert_sides(c, &[(id, record)])
}

/// Pins, rules out or opens a swap that was read at `version`.
pub fn set_state(
    c: &mut MysqlConnection,
    access: Access,
    id: SwapId,
    version: i32,
    state: SwapState,
) -> Result<(), StoreError> {
    write(c, access, (id, version), (swap::state.eq(word(state)), swap::version.eq(version + 1)))
}

/// Takes a swap out of sight.
pub fn remove(c: &mut MysqlConnection, access: Access, id: SwapId, version: i32) -> Result<(), StoreError> {
    take_off(c, access, id, version)
}

/// Takes swaps out of sight, whatever their versions.
pub fn remove_several(c: &mut MysqlConnection, access: Access, ids: &[SwapId]) -> Result<(), StoreError> {
    diesel::update(swap::table.filter(swap::id.eq_any(ids)).filter(swap::account_id.eq(access.account())))
        .filter(swap::removed_at.is_null())
        .set((swap::removed_at.eq(Some(Utc::now().naive_utc())), swap::version.eq(swap::version + 1)))
        .execute(c)?;
    Ok(())
}

/// The names of some swaps, removed ones too.
pub fn names(c: &mut MysqlConnection, access: Access, ids: &[SwapId]) -> Result<HashMap<SwapId, String>, StoreError> {
    let rows: Vec<(SwapId, String)> = swap::table
        .filter(swap::id.eq_any(ids))
        .filter(swap::account_id.eq(access.account()))
        .select((swap::id, swap::name))
        .load(c)?;
    Ok(rows.into_iter().collect())
}

/// Those of some swaps that are on a list and not removed.
pub fn on_list(
    c: &mut MysqlConnection,
    access: Access,
    list: ListId,
    ids: &[SwapId],
) -> Result<Vec<SwapId>, StoreError> {
    Ok(swap::table
        .filter(swap::id.eq_any(ids))
        .filter(swap::list_id.eq(list))
        .filter(swap::account_id.eq(access.account()))
        .filter(swap::removed_at.is_null())
        .select(swap::id)
        .load(c)?)
}

/// How many swaps a list has.
pub fn count(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<usize, StoreError> {
    let mine = swap::table.filter(swap::list_id.eq(list)).filter(swap::account_id.eq(access.account()));
    let count: i64 = mine.filter(swap::removed_at.is_null()).count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
}

/// What the swaps of a list that are done have taken.
pub fn spent(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<Money, StoreError> {
    let mine = swap::table.filter(swap::list_id.eq(list)).filter(swap::account_id.eq(access.account()));
    let done: Vec<Option<String>> =
        mine.filter(swap::removed_at.is_null()).filter(swap::done.is_not_null()).select(swap::done).load(c)?;
    let read = |text: String| serde_json::from_str::<Done<GearId>>(&text).map_err(|_| StoreError::Corrupt("swap.done"));
    done.into_iter().flatten().map(|text| Ok(read(text)?.spent())).sum()
}

/// What swaps that were done since then have taken, on all lists of the account that are there.
pub fn spent_since(c: &mut MysqlConnection, access: Access, since: NaiveDateTime) -> Result<Money, StoreError> {
    let there =
        pack_list::table.filter(pack_list::account_id.eq(access.account())).filter(pack_list::removed_at.is_null());
    let mine = swap::table.filter(swap::account_id.eq(access.account()));
    let done: Vec<Option<String>> = mine
        .filter(swap::list_id.eq_any(there.select(pack_list::id)))
        .filter(swap::removed_at.is_null())
        .filter(swap::done.is_not_null())
        .select(swap::done)
        .load(c)?;
    let read = |text: String| serde_json::from_str::<Done<GearId>>(&text).map_err(|_| StoreError::Corrupt("swap.done"));
    let done: Vec<Done<GearId>> = done.into_iter().flatten().map(read).collect::<Result<_, _>>()?;
    Ok(done.iter().filter(|done| done.at >= since).map(Done::spent).sum())
}

/// How many entries the sides of a list's swaps and the links between them have.
pub fn entries(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<usize, StoreError> {
    let mine = || {
        let of_list = swap::table.filter(swap::list_id.eq(list)).filter(swap::account_id.eq(access.account()));
        of_list.filter(swap::removed_at.is_null()).select(swap::id)
    };
    let off: i64 = swap_remove::table.filter(swap_remove::swap_id.eq_any(mine())).count().get_result(c)?;
    let on: i64 = swap_add::table.filter(swap_add::swap_id.eq_any(mine())).count().get_result(c)?;
    let links: i64 = swap_link::table.filter(swap_link::swap_id.eq_any(mine())).count().get_result(c)?;
    Ok(usize::try_from(off + on + links).unwrap_or(usize::MAX))
}

fn row(access: Access, id: SwapId, version: i32, record: &SwapRecord) -> SwapRow {
    SwapRow {
        id,
        account_id: access.account(),
        list_id: record.list,
        name: record.name.as_str().to_owned(),
        kind: word(record.kind),
        state: word(record.state),
        delivery_minor: record.delivery.minor(),
        resale_minor: record.resale.minor(),
        sells_needed: record.sells_needed,
        tenth_hours: record.tenth_hours,
        done: record.done.as_ref().and_then(|done| serde_json::to_string(done).ok()),
        version,
    }
}

/// Adds the sides of swaps, and what they require and exclude; those swaps have to be there.
fn insert_sides(c: &mut MysqlConnection, swaps: &[(SwapId, &SwapRecord)]) -> Result<(), StoreError> {
    let (mut removes, mut adds, mut links) = (Vec::new(), Vec::new(), Vec::new());
    for (id, record) in swaps {
        removes.extend(record.remove.iter().map(|&(line, qty, place)| {
            (
                swap_remove::swap_id.eq(*id),
                swap_remove::line_id.eq(line),
                swap_remove::qty.eq(qty),
                swap_remove::place.eq(word(place)),
            )
        }));
        adds.extend(record.add.iter().map(|&(candidate, qty, place)| {
            (
                swap_add::swap_id.eq(*id),
                swap_add::candidate_id.eq(candidate),
                swap_add::qty.eq(qty),
                swap_add::place.eq(word(place)),
            )
        }));
        for (others, relation) in [(&record.requires, Relation::Requires), (&record.excludes, Relation::Excludes)] {
            links.extend(others.iter().map(|&other| {
                (swap_link::swap_id.eq(*id), swap_link::other_id.eq(other), swap_link::relation.eq(word(relation)))
            }));
        }
    }
    for removes in removes.chunks(ROWS) {
        diesel::insert_into(swap_remove::table).values(removes.to_vec()).execute(c)?;
    }
    for adds in adds.chunks(ROWS) {
        diesel::insert_into(swap_add::table).values(adds.to_vec()).execute(c)?;
    }
    for links in links.chunks(ROWS) {
        diesel::insert_into(swap_link::table).values(links.to_vec()).execute(c)?;
    }
    Ok(())
}
