//! Packing, trips and what they teach, imported from an account file.

use super::file::*;
use super::import::{Import, ListAt, at_most, key, mass, out_of_range, sum, time};
use super::trips_file::*;
use crate::fields::{check_facts, in_count, in_day, in_jobs, in_nights, in_note, in_thing_note, in_trip};
use crate::{InField, ServiceError, Write, packing as packing_rules};
use kevyt_core::gear::{Name, Tags};
use kevyt_core::limits;
use kevyt_core::list::Counts;
use kevyt_core::pack::PackingNote;
use kevyt_core::quantity::Mass;
use kevyt_core::walked::Verdict;
use kevyt_store::bases::{self, BasePoint};
use kevyt_store::event::{ENTRY_BYTES, Entry};
use kevyt_store::id::{GearId, LineId, ListId, SilencedId, TripId, TripThingId};
use kevyt_store::trips::{self, TripRecord, TripThing};
use kevyt_store::{lessons, packing, walkers};
use std::collections::HashMap;

/// The most base weights of one list in a file.
const BASES: usize = 5_000;

impl Import {
    /// How a list is packed, and the base weights that it had.
    pub(super) fn import_packing(
        &self,
        w: &mut Write<'_>,
        ListAt { path, id: list, entry }: ListAt<'_>,
        lines: &HashMap<GearId, LineId>,
    ) -> Result<(), ServiceError> {
        let (_, to) = walkers::open(w.c, w.caller.access, list)?;
        let said = entry.lines.iter().filter_map(|line| {
            let packed = line.packed.as_ref()?;
            let at = lines.get(self.gear.get(&line.gear)?)?;
            Some((*at, PackingNote { zone: packed.zone, place: packed.place, is_in: packed.is_in }))
        });
        let said: Vec<(LineId, PackingNote)> = said.collect();
        if !said.is_empty() {
            packing::insert(w.c, to, &said)?;
        }
        if let Some(PackingEntry { reading, of_me, zones, to_do }) = entry.packing.clone() {
            let run = packing::Run { reading, of_me, zones, to_do };
            packing_rules::check(w.caller, &run).map_err(|error| error.under(&format!("{path}.packing")))?;
            packing::lock_run(w.c, w.caller.access, to)?;
            packing::write_run(w.c, w.caller.access, to, &run)?;
        }
        at_most(&format!("{path}.history"), entry.history.len(), BASES)?;
        let point = |(at, point): (usize, &BaseEntry)| {
            let path = format!("{path}.history[{at}]");
            let (base, what) = (Mass::from_mg(sum(&path, point.base_mg)?), point.what.chars().take(300).collect());
            let (at, entry) = (time(&path, point.at)?, point.entry.clone());
            let bytes = entry.as_ref().map_or(0, Entry::bytes);
            if bytes > ENTRY_BYTES {
                let detail = format!("At {path}.entry: {bytes} bytes are too long. At most {ENTRY_BYTES} are taken.");
                return Err(ServiceError::invalid(format!("{path}.entry"), "too_long", detail));
            }
            Ok((list, BasePoint { at, base, unknown: point.unknown, cause: point.cause, entry, what }))
        };
        let points = entry.history.iter().enumerate().map(point).collect::<Result<Vec<_>, ServiceError>>()?;
        Ok(bases::insert(w.c, w.caller.access, &points)?)
    }

    /// The trips, and the lessons that are not to be said again.
    pub(super) fn import_trips(
        &self,
        w: &mut Write<'_>,
        file: &AccountFile,
        lists: &[ListId],
    ) -> Result<(), ServiceError> {
        at_most("trips", file.trips.len(), limits::TRIPS)?;
        for (at, entry) in file.trips.iter().enumerate() {
            let path = format!("trips[{at}]");
            let list = entry.list.map(|at| {
                lists.get(at).copied().ok_or_else(|| key(&path, &at.to_string(), "names no list of the file"))
            });
            let trip = TripRecord {
                list: list.transpose()?,
                name: Name::new(&entry.name).in_field(&path)?,
                starts_on: in_day(&path, &entry.starts_on.to_string())?,
                nights: in_nights(&path, entry.nights)?,
                people: in_note(&path, &entry.people)?,
                note: in_thing_note(&path, &entry.note)?,
                kept_at: entry.kept_at.map(|at| time(&path, at)).transpose()?,
                base: entry.base_mg.map(|mg| sum(&path, mg)).transpose()?.map(Mass::from_mg),
                planned: entry.planned.clone().map(|trip| in_trip(&format!("{path}.planned"), trip)).transpose()?,
                met: entry.met,
                used_up: entry.used_up,
            };
            if !(trip.met.is_possible() && trip.used_up.is_possible()) {
                return Err(out_of_range(&path, "a figure of what was met or used up"));
            }
            let id = TripId::fresh();
            at_most(&format!("{path}.things"), entry.things.len(), limits::TRIP_THINGS)?;
            let thing = |(at, thing): (usize, &TripThingEntry)| {
                Ok((TripThingId::fresh(), self.trip_thing(&format!("{path}.things[{at}]"), id, thing)?))
            };
            let things = entry.things.iter().enumerate().map(thing).collect::<Result<Vec<_>, ServiceError>>()?;
            w.touch([id])?;
            w.touch(things.iter().map(|(id, _)| *id))?;
            trips::insert(w.c, w.caller.access, id, &trip)?;
            trips::insert_things(w.c, w.caller.access, &things)?;
        }
        at_most("silenced", file.silenced.len(), limits::SILENCED_LESSONS)?;
        let lesson = |lesson: &String| match lesson.strip_prefix("unused ").and_then(|key| self.gear.get(key)) {
            Some(gear) => format!("unused {gear}"),
            None => lesson.chars().take(limits::NAME + 20).collect(),
        };
        let silenced: Vec<_> = file.silenced.iter().map(|of| (SilencedId::fresh(), lesson(of))).collect();
        w.touch(silenced.iter().map(|(id, _)| *id))?;
        if silenced.is_empty() { Ok(()) } else { Ok(lessons::silence(w.c, w.caller.access, &silenced)?) }
    }

    fn trip_thing(&self, path: &str, trip: TripId, entry: &TripThingEntry) -> Result<TripThing, ServiceError> {
        let TripThingEntry { carried, worn, used_up, apart, left, .. } = *entry;
        for pieces in [carried, worn, used_up, apart, left] {
            in_count(path, pieces, 0)?;
        }
        if entry.nights > limits::TRIP_NIGHTS {
            return Err(out_of_range(path, entry.nights));
        }
        let unit: Option<Mass> = entry.unit_mg.map(|mg| mass(path, mg)).transpose()?;
        Ok(TripThing {
            trip,
            gear: entry.gear.as_ref().map(|gear| self.thing(path, gear)).transpose()?,
            name: Name::new(&entry.name).in_field(path)?,
            system: entry.system,
            counts: Counts { carried, worn, used_up, apart, left },
            unit: unit.zip(entry.source),
            tags: Tags::parse(&entry.tags.join(" ")).map_err(|why| ServiceError::invalid(path, "tags", why))?,
            provides: in_jobs(path, &entry.provides)?,
            facts: check_facts(path, entry.facts)?,
            is_in: entry.is_in,
            verdict: Verdict { used: entry.used, marks: entry.marks.clone() },
            note: in_thing_note(path, &entry.note)?,
            nights: entry.nights,
        })
    }
}
