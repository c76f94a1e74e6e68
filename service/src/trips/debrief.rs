//! What is said of the things of a trip, one after the other.

use crate::fields::{Patch, in_thing_note};
use crate::{InField, ServiceError, Write};
use kevyt_core::gear::Name;
use kevyt_core::limits;
use kevyt_core::list::Counts;
use kevyt_core::walked::{Mark, Verdict};
use kevyt_store::event::Event;
use kevyt_store::id::{GearId, TripId, TripThingId};
use kevyt_store::trips::{self, TripRecord, TripThing};
use kevyt_store::{Stored, gear};
use serde::Deserialize;
use std::collections::{BTreeMap, HashMap};
use utoipa::ToSchema;

/// What is said of a thing; what is left out stays.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = SaidIn)]
pub struct ThingDebrief {
    /// Whether it was used; null to say nothing of it.
    #[serde(default)]
    #[schema(value_type = Option<bool>)]
    pub used: Patch<bool>,
    /// Marks to set or to take away.
    #[serde(default)]
    #[schema(value_type = BTreeMap<String, bool>)]
    pub marks: BTreeMap<Mark, bool>,
    /// A line of words.
    pub note: Option<String>,
}

/// Something that was wished for.
#[derive(Debug, Clone)]
pub enum Wish {
    /// Something that is owned and stayed at home.
    Owned(GearId),
    /// Something that is not.
    Named(String),
}

impl Write<'_> {
    /// Says something of a thing of a trip. The last word counts, field by field, whatever was said elsewhere meanwhile.
    pub fn say_of(
        &mut self,
        trip: TripId,
        id: TripThingId,
        said: &ThingDebrief,
    ) -> Result<Stored<TripThingId, TripThing>, ServiceError> {
        let record = trips::get(self.c, self.caller.access, trip)?.value;
        let mut stored = trips::thing(self.c, self.caller.access, trip, id)?;
        let value = &mut stored.value;
        match said.used {
            Patch::Keep => {}
            Patch::Clear => value.verdict.used = None,
            Patch::Set(used) => value.verdict.used = Some(used),
        }
        for (mark, is_so) in &said.marks {
            if *is_so {
                value.verdict.marks.insert(*mark)
            } else {
                value.verdict.marks.remove(mark)
            };
        }
        if let Some(note) = &said.note {
            value.note = in_thing_note("note", note)?;
        }
        let (used, marks) = (value.verdict.used, value.verdict.marks.iter().copied().collect());
        let (thing, name) = (value.name.as_str().to_owned(), record.name.as_str().to_owned());
        self.log(Event::ThingJudged { thing, trip: name, used, marks });
        self.touch([id])?;
        trips::update_things(self.c, self.caller.access, std::slice::from_ref(&stored))?;
        stored.version += 1;
        self.give_nights(&record, vec![stored])?;
        Ok(trips::thing(self.c, self.caller.access, trip, id)?)
    }

    /// Notes something that was wished for on a trip: what stands among its things is marked, anything else is added to them.
    pub fn wish(&mut self, trip: TripId, wish: &Wish) -> Result<Stored<TripThingId, TripThing>, ServiceError> {
        let record = trips::get(self.c, self.caller.access, trip)?.value;
        let wished = match wish {
            Wish::Owned(id) => {
                let gear = gear::get(self.c, self.caller.access, *id)?;
                TripThing::of(trip, Some(gear.id), &gear.value, Counts::default())
            }
            Wish::Named(name) => TripThing::named(trip, Name::new(name).in_field("name")?),
        };
        let there = trips::of_trip(self.c, self.caller.access, trip)?;
        let same_name = |thing: &TripThing| thing.name.as_str().to_lowercase() == wished.name.as_str().to_lowercase();
        let is_it = |thing: &&Stored<TripThingId, TripThing>| match wished.gear {
            Some(gear) => thing.value.gear == Some(gear),
            None => same_name(&thing.value),
        };
        if let Some(thing) = there.iter().find(is_it) {
            let said = ThingDebrief { marks: BTreeMap::from([(Mark::Wished, true)]), ..ThingDebrief::default() };
            return self.say_of(trip, thing.id, &said);
        }
        if there.len() >= limits::TRIP_THINGS {
            let detail = format!("A trip has at most {} things. Remove one first.", limits::TRIP_THINGS);
            return Err(ServiceError::invalid("name", "too_many", detail));
        }
        let verdict = Verdict { used: None, marks: [Mark::Wished].into() };
        let id = TripThingId::fresh();
        self.touch([id])?;
        let (thing, name) = (wished.name.as_str().to_owned(), record.name.as_str().to_owned());
        self.log(Event::ThingWished { thing, trip: name });
        trips::insert_things(self.c, self.caller.access, &[(id, TripThing { verdict, ..wished })])?;
        Ok(trips::thing(self.c, self.caller.access, trip, id)?)
    }

    /// Takes something that was only wished for off a trip. What came along stays: it was there.
    pub fn unwish(&mut self, trip: TripId, id: TripThingId) -> Result<(), ServiceError> {
        let thing = trips::thing(self.c, self.caller.access, trip, id)?.value;
        if thing.counts.pieces() > 0 {
            let detail = format!("{} was on the list of this trip, and stays there.", thing.name.as_str());
            return Err(ServiceError::invalid("thing", "kept", detail));
        }
        self.touch([id])?;
        trips::remove_thing(self.c, self.caller.access, id)?;
        self.log(Event::WishRemoved { thing: thing.name.as_str().to_owned() });
        Ok(())
    }

    /// Gives the gear of some things of a trip the nights that it was used, less those that it was given before.
    pub(super) fn give_nights(
        &mut self,
        trip: &TripRecord,
        things: Vec<Stored<TripThingId, TripThing>>,
    ) -> Result<(), ServiceError> {
        let due = |thing: &TripThing| if thing.verdict.used == Some(true) { trip.nights } else { 0 };
        let other =
            things.into_iter().filter(|thing| thing.value.gear.is_some() && due(&thing.value) != thing.value.nights);
        let other: Vec<_> = other.collect();
        let ids: Vec<GearId> = other.iter().filter_map(|thing| thing.value.gear).collect();
        if ids.is_empty() {
            return Ok(());
        }
        let access = self.caller.access;
        let mut owned: HashMap<GearId, _> =
            gear::several(self.c, access, &ids)?.into_iter().map(|gear| (gear.id, gear)).collect();
        self.touch(owned.keys().copied())?;
        self.touch(other.iter().map(|thing| thing.id))?;
        let (mut given, mut noted) = (Vec::new(), Vec::new());
        for mut thing in other {
            let nights = due(&thing.value);
            // What is not owned any more has no nights to be given.
            let Some(mut stored) = thing.value.gear.and_then(|id| owned.remove(&id)) else { continue };
            let without = stored.value.nights.saturating_sub(thing.value.nights);
            stored.value.nights = without.saturating_add(nights).min(limits::NIGHTS);
            thing.value.nights = stored.value.nights - without.min(stored.value.nights);
            given.push(stored);
            noted.push(thing);
        }
        let rows: Vec<_> = given.iter().map(|gear| (gear.id, gear.version, &gear.value)).collect();
        gear::update(self.c, access, &rows)?;
        trips::update_things(self.c, access, &noted)?;
        Ok(())
    }
}
