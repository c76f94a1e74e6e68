//! Packing, trips and what they teach, read into an account file.

use super::keys::Keys;
use super::trips_file::*;
use crate::{Caller, ServiceError};
use diesel::MysqlConnection;
use kevyt_core::list::Counts;
use kevyt_core::quantity::Mass;
use kevyt_store::access::ToList;
use kevyt_store::id::{GearId, ListId, TripId};
use kevyt_store::packing::Run;
use kevyt_store::trips::{self, StoredTrip, TripThing};
use kevyt_store::{bases, lessons, packing};
use std::collections::HashMap;

/// The base weights that a list had.
pub(super) fn history(c: &mut MysqlConnection, caller: Caller, list: ListId) -> Result<Vec<BaseEntry>, ServiceError> {
    let points = bases::of_list(c, caller.access, list, 5_000)?.into_iter().map(|point| BaseEntry {
        at: point.at,
        base_mg: point.base.mg(),
        unknown: point.unknown,
        cause: point.cause,
        entry: point.entry,
        what: point.what,
    });
    Ok(points.collect())
}

/// How the caller packs a list, if they have noted anything.
pub(super) fn run(c: &mut MysqlConnection, caller: Caller, to: ToList) -> Result<Option<PackingEntry>, ServiceError> {
    let run = packing::run(c, caller.access, to)?;
    let is_noted = run != Run::default();
    let Run { reading, of_me, zones, to_do } = run;
    Ok(is_noted.then_some(PackingEntry { reading, of_me, zones, to_do }))
}

/// The trips of the account; `lists` in the order of the file.
pub(super) fn trips(
    c: &mut MysqlConnection,
    caller: Caller,
    lists: &[ListId],
    of_things: &Keys<GearId>,
) -> Result<Vec<TripEntry>, ServiceError> {
    let mut things: HashMap<TripId, Vec<TripThingEntry>> = HashMap::new();
    for stored in trips::of_account(c, caller.access)? {
        things.entry(stored.value.trip).or_default().push(thing_entry(stored.value, of_things));
    }
    let mut all = trips::all(c, caller.access)?;
    // In the order in which they were made, so that those of one day stay in theirs.
    all.sort_by_key(|trip| trip.id);
    Ok(all.into_iter().map(|trip| trip_entry(trip, lists, &mut things)).collect())
}

fn trip_entry(stored: StoredTrip, lists: &[ListId], things: &mut HashMap<TripId, Vec<TripThingEntry>>) -> TripEntry {
    let trip = stored.value;
    TripEntry {
        name: trip.name.as_str().to_owned(),
        list: trip.list.and_then(|list| lists.iter().position(|other| *other == list)),
        starts_on: trip.starts_on,
        nights: trip.nights,
        people: trip.people,
        note: trip.note,
        kept_at: trip.kept_at,
        base_mg: trip.base.map(Mass::mg),
        planned: trip.planned,
        met: trip.met,
        used_up: trip.used_up,
        things: things.remove(&stored.id).unwrap_or_default(),
    }
}

fn thing_entry(thing: TripThing, of_things: &Keys<GearId>) -> TripThingEntry {
    let Counts { carried, worn, used_up, apart, left } = thing.counts;
    TripThingEntry {
        gear: thing.gear.and_then(|gear| of_things.key(gear)),
        name: thing.name.as_str().to_owned(),
        system: thing.system,
        carried,
        worn,
        used_up,
        apart,
        left,
        unit_mg: thing.unit.map(|(mass, _)| mass.mg()),
        source: thing.unit.map(|(_, source)| source),
        tags: thing.tags.words().to_vec(),
        provides: thing.provides,
        facts: thing.facts,
        is_in: thing.is_in,
        used: thing.verdict.used,
        marks: thing.verdict.marks,
        note: thing.note,
        nights: thing.nights,
    }
}

/// The lessons that are not to be said again, gear by its key.
pub(super) fn silenced(
    c: &mut MysqlConnection,
    caller: Caller,
    of_things: &Keys<GearId>,
) -> Result<Vec<String>, ServiceError> {
    let lesson = |lesson: String| {
        let gear = lesson.strip_prefix("unused ").and_then(|id| id.parse().ok()).map(GearId);
        gear.and_then(|gear| of_things.key(gear)).map_or(lesson, |key| format!("unused {key}"))
    };
    Ok(lessons::silenced(c, caller.access)?.into_iter().map(lesson).collect())
}
