//! How lists are being packed, in the database. It has no versions: what somebody ticks stands beside what others tick, and whoever says
//! last where a thing goes has said so.

use super::StoreError;
use super::access::{Access, ToList};
use super::convert::{from_json, from_word, json_text, word};
use super::id::{AccountId, LineId, ListId};
use super::schema::{list_line, packing, packing_run};
use super::stored::StoredAsJson;
use diesel::prelude::*;
use diesel::sql_types::{Binary, Bool, Nullable, Text};
use kevyt_core::pack::{Noted, PackingNote, Zone};
use std::collections::{BTreeMap, HashMap};

/// How one walker packs a list, beside what is said of its lines.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Run {
    /// What the scale showed, as typed; empty for nothing.
    pub reading: String,
    /// What it showed of the walker alone, as typed.
    pub of_me: String,
    /// What zones hold, where the walker says so, in millilitres.
    pub zones: BTreeMap<Zone, i64>,
    /// What they have written down to do, in its order.
    pub to_do: Vec<Noted>,
}

/// The lines of a list of which anything was said.
pub fn of_list(c: &mut MysqlConnection, to: ToList) -> Result<HashMap<LineId, PackingNote>, StoreError> {
    type Row = (LineId, Option<String>, Option<i32>, bool);
    let rows: Vec<Row> = packing::table
        .filter(packing::list_id.eq(to.list()))
        .select((packing::line_id, packing::zone, packing::place, packing::is_in))
        .load(c)?;
    let read = |(line, zone, place, is_in): Row| {
        let zone = zone.map(|zone| from_word("packing.zone", &zone)).transpose()?;
        Ok((line, PackingNote { zone, place, is_in }))
    };
    rows.into_iter().map(read).collect()
}

/// Says of a line of the list whether it is in, or where it goes (nowhere of its own: as proposed), or both; what is left out stays. In one
/// statement, so that two who tick at once both have ticked.
pub fn put(
    c: &mut MysqlConnection,
    to: ToList,
    line: LineId,
    is_in: Option<bool>,
    zone: Option<Option<Zone>>,
) -> Result<(), StoreError> {
    there(c, to, &[line])?;
    // Where it goes anew it has no place yet.
    diesel::sql_query(
        "INSERT INTO packing (line_id, list_id, zone, is_in) \
         SELECT id, list_id, ?, ? FROM list_line WHERE id = ? AND list_id = ? AND removed_at IS NULL \
         ON DUPLICATE KEY UPDATE place = IF(?, NULL, packing.place), zone = IF(?, VALUES(zone), packing.zone), \
         is_in = IF(?, VALUES(is_in), packing.is_in)",
    )
    .bind::<Nullable<Text>, _>(zone.flatten().map(word))
    .bind::<Bool, _>(is_in.unwrap_or_default())
    .bind::<Binary, _>(line)
    .bind::<Binary, _>(to.list())
    .bind::<Bool, _>(zone.is_some())
    .bind::<Bool, _>(zone.is_some())
    .bind::<Bool, _>(is_in.is_some())
    .execute(c)?;
    Ok(())
}

/// Puts lines of the list into a zone, in this order.
pub fn order(c: &mut MysqlConnection, to: ToList, zone: Zone, lines: &[LineId]) -> Result<(), StoreError> {
    there(c, to, lines)?;
    let said: Vec<(LineId, PackingNote)> = (0..)
        .zip(lines)
        .map(|(at, line)| (*line, PackingNote { zone: Some(zone), place: Some(at), is_in: false }))
        .collect();
    let rows: Vec<_> = said.iter().map(|(line, said)| columns(to, *line, said)).collect();
    diesel::insert_into(packing::table)
        .values(rows)
        .on_conflict(diesel::dsl::DuplicatedKeys)
        .do_update()
        .set((packing::zone.eq(word(zone)), packing::place.eq(diesel::dsl::sql("VALUES(place)"))))
        .execute(c)?;
    Ok(())
}

/// Notes what is said of lines of which nothing was said yet.
pub fn insert(c: &mut MysqlConnection, to: ToList, said: &[(LineId, PackingNote)]) -> Result<(), StoreError> {
    let rows: Vec<_> = said.iter().map(|(line, said)| columns(to, *line, said)).collect();
    diesel::insert_into(packing::table).values(rows).execute(c)?;
    Ok(())
}

type Columns = (
    diesel::dsl::Eq<packing::line_id, LineId>,
    diesel::dsl::Eq<packing::list_id, ListId>,
    diesel::dsl::Eq<packing::zone, Option<String>>,
    diesel::dsl::Eq<packing::place, Option<i32>>,
    diesel::dsl::Eq<packing::is_in, bool>,
);

fn columns(to: ToList, line: LineId, said: &PackingNote) -> Columns {
    (
        packing::line_id.eq(line),
        packing::list_id.eq(to.list()),
        packing::zone.eq(said.zone.map(word)),
        packing::place.eq(said.place),
        packing::is_in.eq(said.is_in),
    )
}

/// Refuses lines that are not on the list.
fn there(c: &mut MysqlConnection, to: ToList, lines: &[LineId]) -> Result<(), StoreError> {
    let there: i64 = list_line::table
        .filter(list_line::id.eq_any(lines))
        .filter(list_line::list_id.eq(to.list()))
        .filter(list_line::removed_at.is_null())
        .count()
        .get_result(c)?;
    if usize::try_from(there).is_ok_and(|there| there == lines.len()) { Ok(()) } else { Err(StoreError::NotFound) }
}

/// Takes the ticks of some lines of a list away; where things go stays.
pub fn unpack(c: &mut MysqlConnection, to: ToList, lines: &[LineId]) -> Result<(), StoreError> {
    let ticked = packing::table.filter(packing::list_id.eq(to.list())).filter(packing::line_id.eq_any(lines));
    diesel::update(ticked).set(packing::is_in.eq(false)).execute(c)?;
    Ok(())
}

/// How the caller packs a list.
pub fn run(c: &mut MysqlConnection, access: Access, to: ToList) -> Result<Run, StoreError> {
    let mine = packing_run::table.find((to.list(), access.account()));
    let row: Option<(String, String, String, String)> = mine
        .select((packing_run::reading, packing_run::of_me, packing_run::zones, packing_run::to_do))
        .first(c)
        .optional()?;
    row.map_or_else(
        || Ok(Run::default()),
        |(reading, of_me, zones, to_do)| {
            let zones = from_json("packing_run.zones", &zones)?;
            Ok(Run { reading, of_me, zones, to_do: Vec::read("packing_run.to_do", &to_do)? })
        },
    )
}

/// Waits until nobody else writes how the caller packs a list: for reading, changing and writing it in one transaction.
pub fn lock_run(c: &mut MysqlConnection, access: Access, to: ToList) -> Result<(), StoreError> {
    diesel::sql_query(
        "INSERT INTO packing_run (list_id, account_id) VALUES (?, ?) ON DUPLICATE KEY UPDATE list_id = list_id",
    )
    .bind::<Binary, _>(to.list())
    .bind::<Binary, _>(access.account())
    .execute(c)?;
    let mine = packing_run::table.find((to.list(), access.account()));
    mine.for_update().select(packing_run::account_id).first::<AccountId>(c)?;
    Ok(())
}

/// Writes how the caller packs a list, after [`lock_run`].
pub fn write_run(c: &mut MysqlConnection, access: Access, to: ToList, run: &Run) -> Result<(), StoreError> {
    diesel::update(packing_run::table.find((to.list(), access.account())))
        .set((
            packing_run::reading.eq(&run.reading),
            packing_run::of_me.eq(&run.of_me),
            packing_run::zones.eq(json_text(&run.zones)),
            packing_run::to_do.eq(run.to_do.text()),
        ))
        .execute(c)?;
    Ok(())
}
