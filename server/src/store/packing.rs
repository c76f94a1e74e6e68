//! How lists are being packed, in the database. It has no versions: what somebody ticks stands beside what others tick, and whoever says
//! last where a thing goes has said so.

use super::StoreError;
use super::access::ToList;
use super::convert::{from_word, word};
use super::id::LineId;
use super::schema::{list_line, packing};
use diesel::prelude::*;
use diesel::sql_types::{Binary, Bool, Nullable, Text};
use kevyt_core::pack::{Said, Zone};
use std::collections::HashMap;

/// The lines of a list of which anything was said.
pub fn of_list(c: &mut MysqlConnection, to: ToList) -> Result<HashMap<LineId, Said>, StoreError> {
    let rows: Vec<(LineId, Option<String>, bool)> = packing::table
        .filter(packing::list_id.eq(to.list()))
        .select((packing::line_id, packing::zone, packing::is_in))
        .load(c)?;
    let read = |(line, zone, is_in): (LineId, Option<String>, bool)| {
        let zone = zone.map(|zone| from_word("packing.zone", &zone)).transpose()?;
        Ok((line, Said { zone, is_in }))
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
    let there: i64 = list_line::table
        .filter(list_line::id.eq(line))
        .filter(list_line::list_id.eq(to.list()))
        .filter(list_line::removed_at.is_null())
        .count()
        .get_result(c)?;
    if there == 0 {
        return Err(StoreError::NotFound);
    }
    diesel::sql_query(
        "INSERT INTO packing (line_id, list_id, zone, is_in) \
         SELECT id, list_id, ?, ? FROM list_line WHERE id = ? AND list_id = ? AND removed_at IS NULL \
         ON DUPLICATE KEY UPDATE zone = IF(?, VALUES(zone), packing.zone), is_in = IF(?, VALUES(is_in), packing.is_in)",
    )
    .bind::<Nullable<Text>, _>(zone.flatten().map(word))
    .bind::<Bool, _>(is_in.unwrap_or_default())
    .bind::<Binary, _>(line)
    .bind::<Binary, _>(to.list())
    .bind::<Bool, _>(zone.is_some())
    .bind::<Bool, _>(is_in.is_some())
    .execute(c)?;
    Ok(())
}

/// Takes the ticks of some lines of a list away; where things go stays.
pub fn unpack(c: &mut MysqlConnection, to: ToList, lines: &[LineId]) -> Result<(), StoreError> {
    let ticked = packing::table.filter(packing::list_id.eq(to.list())).filter(packing::line_id.eq_any(lines));
    diesel::update(ticked).set(packing::is_in.eq(false)).execute(c)?;
    Ok(())
}
