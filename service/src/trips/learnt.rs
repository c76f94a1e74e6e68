//! What the trips of an account teach. Whatever it says is core's; here the trips are brought together, and it is told of which gear.

use crate::{Caller, ServiceError, Services, Write};
use diesel::MysqlConnection;
use kevyt_core::gear::Gear;
use kevyt_core::limits;
use kevyt_core::swap::may_be_left_out;
use kevyt_core::walked::{Habit, Mark, Offset, Rates, Slept, Walk, habits, offset, rates, slept};
use kevyt_store::event::Event;
use kevyt_store::id::{GearId, SilencedId, TripId, TripThingId};
use kevyt_store::trips::{self, StoredTrip, TripThing};
use kevyt_store::{Stored, candidates, gear, lessons};
use std::collections::{BTreeMap, BTreeSet, HashMap};

/// What trips say of a thing that is owned.
pub struct OfThing {
    /// The thing.
    pub gear: Stored<GearId, Gear>,
    /// What was said of it.
    pub habit: Habit,
    /// The nights in it, if it is a bag or quilt.
    pub slept: Option<Slept>,
    /// Whether Kevyt may propose to leave it out: nothing of safety, medicine or warmth.
    pub may_be_left_out: bool,
}

/// Something that was wished for and is not owned.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Wished {
    /// What it is.
    pub name: String,
    /// On which trips, by their positions.
    pub on: Vec<usize>,
    /// Whether it is owned by now, or there is a swap that would bring it.
    pub is_seen_to: bool,
}

/// The trips of an account and what they teach. Trips are named by their positions in [`Learnt::trips`].
pub struct Learnt {
    /// The trips, earliest first, each with how many things came along and how many of them were judged.
    pub trips: Vec<(StoredTrip, usize, usize)>,
    /// Of each thing of which anything was said.
    pub things: Vec<OfThing>,
    /// What was wished for and is not owned.
    pub wished: Vec<Wished>,
    /// What nights say of the sleeper, and the estimate.
    pub offset: (Offset, Option<i64>),
    /// Rates of one's own.
    pub rates: Rates,
    /// Lessons that are not to be said again.
    pub silenced: Vec<String>,
}

impl Services {
    /// The trips of the caller, and what they teach.
    pub fn learnt(&self, caller: Caller) -> Result<Learnt, ServiceError> {
        self.read(|c| {
            let (trips, things) = (trips::all(c, caller.access)?, trips::of_account(c, caller.access)?);
            let walked = Walked::of(&trips, &things);
            let mut of_gear = habits(&walked.walks);
            of_gear.retain(|_, habit| habit != &Habit::default());
            let mut nights = slept(&walked.walks);
            let ids: Vec<GearId> = of_gear.keys().copied().collect();
            let owned = gear::several(c, caller.access, &ids)?.into_iter();
            let mut of_things: Vec<OfThing> = owned
                .filter_map(|gear| {
                    let (habit, slept) = (of_gear.remove(&gear.id)?, nights.remove(&gear.id));
                    let may_be_left_out = may_be_left_out(&gear.value);
                    Some(OfThing { habit, slept, may_be_left_out, gear })
                })
                .collect();
            of_things.sort_by_key(|of| of.gear.id);
            let wished = wished(c, caller, &things, &walked.at)?;
            let mut counts: HashMap<TripId, (usize, usize)> = HashMap::new();
            for thing in things.iter().map(|thing| &thing.value).filter(|thing| thing.along() > 0) {
                let (all, judged) = counts.entry(thing.trip).or_default();
                *all += 1;
                *judged += usize::from(thing.verdict.used.is_some());
            }
            let (offset, rates) = (offset(&walked.walks), rates(&walked.walks));
            let estimate = offset.estimate(caller.settings.sleeper_offset_tenth_c);
            let offset = (offset, estimate);
            let trips = trips.into_iter().map(|trip| {
                let (all, judged) = counts.get(&trip.id).copied().unwrap_or_default();
                (trip, all, judged)
            });
            let trips = trips.collect();
            let silenced = lessons::silenced(c, caller.access)?;
            Ok(Learnt { trips, things: of_things, wished, offset, rates, silenced })
        })
    }
}

impl Write<'_> {
    /// Says all lessons again.
    pub(crate) fn forget_silenced(&mut self) -> Result<(), ServiceError> {
        let ids = lessons::silenced_ids(self.c, self.caller.access)?;
        self.touch(ids.iter().copied())?;
        Ok(lessons::say_again(self.c, self.caller.access)?)
    }

    /// Silences a lesson for good.
    pub fn silence_lesson(&mut self, lesson: &str) -> Result<(), ServiceError> {
        let lesson = lesson.trim();
        let silenced = lessons::silenced(self.c, self.caller.access)?;
        if silenced.iter().any(|known| known == lesson) {
            return Ok(());
        }
        let is_key = !lesson.is_empty() && lesson.chars().count() <= limits::NAME + 20;
        if !is_key || silenced.len() >= limits::SILENCED_LESSONS {
            let detail = "There is no such lesson. Load the page again.";
            return Err(ServiceError::invalid("lesson", "unknown", detail));
        }
        let id = SilencedId::fresh();
        self.touch([id])?;
        lessons::silence(self.c, self.caller.access, &[(id, lesson.to_owned())])?;
        self.log(Event::LessonDismissed {});
        Ok(())
    }
}

/// The lesson that a thing was never used, as it is silenced.
pub fn never_used(gear: GearId) -> String {
    format!("unused {gear}")
}

/// What trips say of each thing, as far as it is not silenced: for proposals.
pub(crate) fn habits_of(
    c: &mut MysqlConnection,
    caller: Caller,
) -> Result<BTreeMap<GearId, (Habit, bool)>, ServiceError> {
    let (trips, things) = (trips::all(c, caller.access)?, trips::of_account(c, caller.access)?);
    let silenced = lessons::silenced(c, caller.access)?;
    let habits = habits(&Walked::of(&trips, &things).walks).into_iter();
    Ok(habits.map(|(gear, habit)| (gear, (habit, silenced.contains(&never_used(gear))))).collect())
}

/// Trips as core looks at them.
struct Walked {
    walks: Vec<Walk<GearId>>,
    /// The position of each.
    at: HashMap<TripId, usize>,
}

impl Walked {
    fn of(trips: &[StoredTrip], things: &[Stored<TripThingId, TripThing>]) -> Walked {
        let at: HashMap<TripId, usize> = trips.iter().enumerate().map(|(at, trip)| (trip.id, at)).collect();
        let walk = |trip: &StoredTrip| Walk {
            nights: trip.value.nights,
            met: trip.value.met,
            used_up: trip.value.used_up,
            planned: trip.value.planned.clone(),
            things: Vec::new(),
        };
        let mut walks: Vec<Walk<GearId>> = trips.iter().map(walk).collect();
        for thing in things {
            if let Some(walk) = at.get(&thing.value.trip).and_then(|at| walks.get_mut(*at)) {
                walk.things.push(thing.value.taken());
            }
        }
        Walked { walks, at }
    }
}

fn wished(
    c: &mut MysqlConnection,
    caller: Caller,
    things: &[Stored<TripThingId, TripThing>],
    at: &HashMap<TripId, usize>,
) -> Result<Vec<Wished>, ServiceError> {
    // By name, whatever its capitals.
    let mut wished: BTreeMap<String, (&str, BTreeSet<usize>)> = BTreeMap::new();
    let things = things.iter().map(|thing| &thing.value);
    for thing in things.filter(|thing| thing.gear.is_none() && thing.verdict.marks.contains(&Mark::Wished)) {
        let name = thing.name.as_str();
        wished.entry(name.to_lowercase()).or_insert((name, BTreeSet::new())).1.extend(at.get(&thing.trip));
    }
    if wished.is_empty() {
        return Ok(Vec::new());
    }
    let names: Vec<&str> = wished.keys().map(String::as_str).collect();
    let mut there = candidates::named(c, caller.access, &names)?;
    there.extend(gear::named(c, caller.access, &names)?);
    let there: BTreeSet<String> = there.iter().map(|name| name.to_lowercase()).collect();
    let wished = wished.into_iter().map(|(key, (name, on))| Wished {
        name: name.to_owned(),
        on: on.into_iter().collect(),
        is_seen_to: there.contains(&key),
    });
    Ok(wished.collect())
}
