//! Trips: coming and walked, the list as it was, and what was said of it after.

mod debrief;
mod learnt;

pub use debrief::{ThingDebrief, Wish};
pub(super) use learnt::habits_of;
pub use learnt::{Learnt, OfThing, Wished};

use super::fields::{Patch, in_day, in_nights, in_note, in_thing_note};
use super::sheet::ListSnapshot;
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use chrono::Utc;
use kevyt_core::gear::Name;
use kevyt_core::limits;
use kevyt_core::walked::{Met, UsedUp, WalkFigure, take};
use kevyt_store::event::Event;
use kevyt_store::id::{ListId, TripId, TripThingId};
use kevyt_store::trips::{self, StoredTrip, TripRecord, TripThing};
use kevyt_store::{Stored, packing, walkers};
use serde::Deserialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A trip with its things.
pub type FullTrip = (StoredTrip, Vec<Stored<TripThingId, TripThing>>);

/// A change of a trip, as typed; what is left out stays.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = TripIn)]
pub struct TripChange {
    /// Its name.
    pub name: Option<String>,
    /// The first day, as YYYY-MM-DD.
    pub starts_on: Option<String>,
    /// Nights.
    pub nights: Option<u32>,
    /// Who comes along, in words.
    pub people: Option<String>,
    /// A line about it.
    pub note: Option<String>,
    /// Whether it rained; null if nobody knows.
    #[serde(default)]
    #[schema(value_type = Option<bool>)]
    pub rain: Patch<bool>,
    /// What was met and used up; an empty text for what nobody knows.
    #[serde(default)]
    #[schema(value_type = BTreeMap<String, String>)]
    pub figures: BTreeMap<WalkFigure, String>,
}

impl Services {
    /// One trip with its things.
    pub fn trip(&self, caller: Caller, id: TripId) -> Result<FullTrip, ServiceError> {
        self.read(|c| Ok((trips::get(c, caller.access, id)?, trips::of_trip(c, caller.access, id)?)))
    }
}

impl Write<'_> {
    /// Adds a trip of a list, to come until its list is kept.
    pub fn add_trip(&mut self, list: ListId, change: &TripChange) -> Result<StoredTrip, ServiceError> {
        let (of, _) = walkers::open(self.c, self.caller.access, list)?;
        let there = trips::count(self.c, self.caller.access)?;
        if there >= limits::TRIPS {
            let detail = format!("You have {there} trips, and that is the most that are kept. Remove one first.");
            return Err(ServiceError::invalid("name", "too_many", detail));
        }
        let Some(starts_on) = &change.starts_on else {
            return Err(ServiceError::invalid("starts_on", "not_a_day", "The first day is missing. Choose it."));
        };
        let nights = of.value.trip.as_ref().map_or(1, |trip| trip.days.saturating_sub(1));
        let mut trip = TripRecord {
            list: Some(list),
            name: of.value.name,
            starts_on: in_day("starts_on", starts_on)?,
            nights,
            people: String::new(),
            note: String::new(),
            kept_at: None,
            base: None,
            planned: None,
            met: Met::default(),
            used_up: UsedUp::default(),
        };
        apply(&mut trip, change, self.caller)?;
        let id = TripId::fresh();
        self.touch([id])?;
        trips::insert(self.c, self.caller.access, id, &trip)?;
        self.log(Event::TripAdded { trip: trip.name.as_str().to_owned() });
        Ok(Stored { id, version: 1, value: trip })
    }

    /// Changes a trip that was read at `version`.
    pub fn change_trip(&mut self, id: TripId, version: i32, change: &TripChange) -> Result<StoredTrip, ServiceError> {
        let mut stored = trips::get(self.c, self.caller.access, id)?;
        let nights = stored.value.nights;
        self.touch([id])?;
        apply(&mut stored.value, change, self.caller)?;
        trips::update(self.c, self.caller.access, id, version, &stored.value)?;
        if stored.value.nights != nights {
            let things = trips::of_trip(self.c, self.caller.access, id)?;
            self.give_nights(&stored.value, things)?;
        }
        self.log(Event::TripChanged { trip: stored.value.name.as_str().to_owned() });
        Ok(Stored { version: version + 1, ..stored })
    }

    /// Keeps the list of a trip as it is now, with what of it is ticked as in the pack: whatever happens to the gear later, the trip has it so.
    pub fn keep_trip(&mut self, id: TripId, version: i32) -> Result<StoredTrip, ServiceError> {
        let mut stored = trips::get(self.c, self.caller.access, id)?;
        if stored.value.kept_at.is_some() {
            let detail = "The list of this trip is kept already.";
            return Err(ServiceError::invalid("trip", "kept", detail));
        }
        let Some(list) = stored.value.list else {
            let detail = "The list of this trip is gone. Add the trip anew from another list.";
            return Err(ServiceError::invalid("list", "gone", detail));
        };
        let (of, to) = walkers::open(self.c, self.caller.access, list)?;
        let snapshot = ListSnapshot::load(self.c, self.caller, to)?;
        let packed = packing::of_list(self.c, to)?;
        let mine =
            snapshot.lines.iter().zip(&snapshot.things).filter(|(_, thing)| thing.carrier.walker() == snapshot.me);
        let kept = mine.map(|(line, _)| {
            let stored = &line.line.value.gear;
            let own = (line.owner == self.caller.access.account()).then_some(stored.id);
            let is_in = packed.get(&line.line.id).is_some_and(|said| said.is_in);
            let thing = TripThing { is_in, ..TripThing::of(id, own, &stored.value, line.line.value.counts) };
            (TripThingId::fresh(), thing)
        });
        let kept: Vec<_> = kept.collect();
        self.touch([id])?;
        self.touch(kept.iter().map(|(id, _)| *id))?;
        trips::insert_things(self.c, self.caller.access, &kept)?;
        let base = snapshot.totals().base;
        let value = &mut stored.value;
        (value.kept_at, value.base, value.planned) = (Some(Utc::now().naive_utc()), Some(base), of.value.trip);
        trips::update(self.c, self.caller.access, id, version, value)?;
        self.log(Event::TripKept { trip: stored.value.name.as_str().to_owned() });
        Ok(Stored { version: version + 1, ..stored })
    }

    /// Takes a trip out of sight, and the nights that it gave its gear with it.
    pub fn remove_trip(&mut self, id: TripId, version: i32) -> Result<(), ServiceError> {
        let trip = trips::get(self.c, self.caller.access, id)?.value;
        self.touch([id])?;
        let name = trip.name.as_str().to_owned();
        let things = trips::of_trip(self.c, self.caller.access, id)?;
        self.give_nights(&TripRecord { nights: 0, ..trip }, things)?;
        trips::remove(self.c, self.caller.access, id, version)?;
        self.log(Event::TripRemoved { trip: name });
        Ok(())
    }
}

fn apply(trip: &mut TripRecord, change: &TripChange, caller: Caller) -> Result<(), ServiceError> {
    if let Some(name) = &change.name {
        trip.name = Name::new(name).in_field("name")?;
    }
    if let Some(day) = &change.starts_on {
        trip.starts_on = in_day("starts_on", day)?;
    }
    if let Some(nights) = change.nights {
        trip.nights = in_nights("nights", nights)?;
    }
    if let Some(people) = &change.people {
        trip.people = in_note("people", people)?;
    }
    if let Some(note) = &change.note {
        trip.note = in_thing_note("note", note)?;
    }
    match &change.rain {
        Patch::Keep => {}
        Patch::Clear => trip.met.rain = None,
        Patch::Set(rain) => trip.met.rain = Some(*rain),
    }
    let preferences = caller.preferences;
    for (figure, typed) in &change.figures {
        let key = serde_json::to_value(figure).unwrap_or_default();
        let field = format!("figures.{}", key.as_str().unwrap_or_default());
        let both = (&mut trip.met, &mut trip.used_up);
        take(both, *figure, typed, preferences.mass.units(), preferences.mass.table_unit()).in_field(&field)?;
    }
    Ok(())
}
