//! A list as it would stand after some swaps: what it weighs, what it can do, which cautions that raises and quiets. And plans that are kept by
//! name, to be compared so.

use super::sheet::{ListSnapshot, asked};
use super::swaps::{FullSwap, full_swaps};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use chrono::Utc;
use kevyt_core::caution::{Caution, Situation, cautions};
use kevyt_core::gear::{Job, Jobs, Name, System};
use kevyt_core::limits;
use kevyt_core::list::{Carrier, Counts, LineId as CoreLineId, Place, Thing, Totals, added_up, job_sum};
use kevyt_core::quantity::Mass;
use kevyt_core::swap::{Removal, applied};
use kevyt_core::together::serving;
use kevyt_core::trip::Trip;
use kevyt_store::event::Event;
use kevyt_store::id::{KeptPlanId, ListId, SwapId};
use kevyt_store::kept_plans::{self, KeptPlan};
use kevyt_store::lists::PackList;
use kevyt_store::{StoreError, Stored, lists, swaps, walkers};
use std::collections::{BTreeSet, HashMap};

/// A list before and after some swaps.
#[derive(Debug, Clone)]
pub struct After {
    /// What it adds up to.
    pub totals: (Totals, Totals),
    /// What the caller carries of it after.
    pub carried: Vec<CarriedAfter>,
    /// The names of its things, by position.
    pub names: (Vec<String>, Vec<String>),
    /// Jobs of which the things do another amount after: before, after, and what is asked of them after.
    pub jobs: Vec<(Job, i64, i64, i64)>,
    /// Cautions that are raised, or worse: as they are after, and as they were. `None` until somebody says what the trip is.
    pub raised: Option<Vec<(Caution, Option<Caution>)>>,
    /// Cautions that are quieted, or less: as they were, and as they are after.
    pub quieted: Vec<(Caution, Option<Caution>)>,
}

/// A thing that is carried after some swaps.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CarriedAfter {
    /// The line, or the candidate that goes on.
    pub id: String,
    /// Its name.
    pub name: String,
    /// Its system; of what goes on without a kind, that of the first thing that comes off.
    pub system: System,
    /// Pieces that are carried.
    pub pieces: u32,
    /// What they weigh; `None` if nobody knows.
    pub mass: Option<Mass>,
}

/// A list and some of its swaps as they were read, to be worked out without a connection.
pub struct AfterRead {
    list: PackList,
    snapshot: ListSnapshot,
    chosen: Vec<FullSwap>,
    caller: Caller,
}

impl AfterRead {
    /// The list before and after the swaps.
    pub fn work_out(&self) -> After {
        let things = (self.snapshot.things.clone(), things_after(&self.snapshot, &self.chosen));
        let (asked, trip) = asked(&self.list);
        let view = |things: &[Thing]| list_view(&self.snapshot, things, &asked, trip.as_ref(), self.caller);
        let at = (view(&things.0), view(&things.1));
        let jobs: BTreeSet<&Job> = at.0.does.keys().chain(at.1.does.keys()).collect();
        let amount = |jobs: &Jobs, job: &Job| jobs.get(job).copied().unwrap_or_default();
        let jobs = jobs
            .into_iter()
            .map(|job| (job.clone(), amount(&at.0.does, job), amount(&at.1.does, job), amount(&at.1.asks, job)));
        let jobs = jobs.filter(|(_, before, after, _)| before != after).collect();
        let is_same = |a: &Caution, b: &Caution| (a.id, &a.job) == (b.id, &b.job);
        let weight = |caution: &Caution| (caution.level, caution.short);
        let moved = |here: &[Caution], there: &[Caution]| -> Vec<(Caution, Option<Caution>)> {
            let other = |caution: &Caution| there.iter().find(|other| is_same(caution, other)).cloned();
            let all = here.iter().map(|caution| (caution.clone(), other(caution)));
            all.filter(|(caution, other)| other.as_ref().is_none_or(|other| weight(caution) > weight(other))).collect()
        };
        After {
            carried: carried_after(&self.snapshot, &things.1),
            raised: trip.is_some().then(|| moved(&at.1.cautions, &at.0.cautions)),
            quieted: moved(&at.0.cautions, &at.1.cautions),
            totals: (at.0.totals, at.1.totals),
            names: (at.0.names, at.1.names),
            jobs,
        }
    }
}

impl Services {
    /// Reads a list and some of its swaps, each once.
    pub fn read_after(&self, caller: Caller, id: ListId, chosen: &[SwapId]) -> Result<AfterRead, ServiceError> {
        if chosen.iter().collect::<BTreeSet<_>>().len() != chosen.len() {
            return Err(ServiceError::invalid("swaps", "named_twice", "A swap is named twice. Name each once."));
        }
        self.read(|c| {
            let list = lists::get(c, caller.access, id)?.value;
            let (_, to) = walkers::open(c, caller.access, id)?;
            let snapshot = ListSnapshot::load(c, caller, to)?;
            let mut all: HashMap<SwapId, FullSwap> =
                full_swaps(c, caller, id)?.into_iter().map(|full| (full.swap.id, full)).collect();
            let chosen = chosen.iter().map(|id| all.remove(id).ok_or(StoreError::NotFound));
            Ok(AfterRead { list, snapshot, chosen: chosen.collect::<Result<_, _>>()?, caller })
        })
    }

    /// The kept plans of a list, oldest first.
    pub fn kept_plans(&self, caller: Caller, list: ListId) -> Result<Vec<Stored<KeptPlanId, KeptPlan>>, ServiceError> {
        self.read(|c| {
            lists::get(c, caller.access, list)?;
            Ok(kept_plans::of_list(c, caller.access, list)?)
        })
    }
}

impl Write<'_> {
    /// Keeps a plan by name.
    pub fn keep_plan(
        &mut self,
        list: ListId,
        name: &str,
        chosen: &[SwapId],
    ) -> Result<Stored<KeptPlanId, KeptPlan>, ServiceError> {
        let access = self.caller.access;
        let name = Name::new(name).in_field("name")?;
        lists::get(self.c, access, list)?;
        if kept_plans::of_list(self.c, access, list)?.len() >= limits::KEPT_PLANS {
            let detail =
                format!("{} plans of one list are the most that are kept. Remove one first.", limits::KEPT_PLANS);
            return Err(ServiceError::invalid("name", "too_many", detail));
        }
        let distinct: BTreeSet<SwapId> = chosen.iter().copied().collect();
        let known = swaps::on_list(self.c, access, list, chosen)?;
        if distinct.len() != chosen.len() || known.len() != chosen.len() || chosen.len() > limits::SWAPS {
            let detail = "A plan names swaps of its list, each once. Load the page again.";
            return Err(ServiceError::invalid("swaps", "not_on_list", detail));
        }
        let id = KeptPlanId::fresh();
        self.touch([id])?;
        let plan = KeptPlan { list, name, swaps: chosen.to_vec(), kept_at: Utc::now().naive_utc() };
        kept_plans::insert(self.c, access, id, &plan)?;
        self.log(Event::PlanKept { plan: plan.name.as_str().to_owned() });
        Ok(kept_plans::get(self.c, access, id)?)
    }

    /// Takes a kept plan out of sight.
    pub fn remove_kept_plan(&mut self, id: KeptPlanId, version: i32) -> Result<(), ServiceError> {
        let name = kept_plans::get(self.c, self.caller.access, id)?.value.name;
        self.touch([id])?;
        kept_plans::remove(self.c, self.caller.access, id, version)?;
        self.log(Event::PlanRemoved { plan: name.as_str().to_owned() });
        Ok(())
    }
}

/// What is seen of a list.
struct ListView {
    totals: Totals,
    names: Vec<String>,
    does: Jobs,
    asks: Jobs,
    cautions: Vec<Caution>,
}

fn list_view(snapshot: &ListSnapshot, things: &[Thing], asked: &Jobs, trip: Option<&Trip>, caller: Caller) -> ListView {
    let at = serving(things, snapshot.me);
    let serving: Vec<Thing> = at.iter().map(|at| things[*at].clone()).collect();
    let mine: Vec<Thing> = things.iter().filter(|thing| thing.carrier.walker() == snapshot.me).cloned().collect();
    let (totals, _) = added_up(mine.iter().map(|thing| &thing.line), &snapshot.kits);
    let named: BTreeSet<&Job> = serving.iter().flat_map(|thing| thing.line.provides.keys()).collect();
    let does = named.into_iter().map(|job| (job.clone(), job_sum(&serving, job.as_str(), &Place::COUNTED))).collect();
    let mut asks = asked.clone();
    for thing in &serving {
        for (job, amount) in &thing.line.needs {
            *asks.entry(job.clone()).or_default() += amount * thing.line.counts.at_work();
        }
    }
    let mut cautions = match trip {
        Some(trip) => cautions(&Situation::new(&serving, &mine, trip, caller.settings.sleeper())),
        None => Vec::new(),
    };
    cautions.iter_mut().flat_map(|caution| &mut caution.of).for_each(|position| *position = at[*position]);
    ListView { totals, names: things.iter().map(|thing| thing.line.name.clone()).collect(), does, asks, cautions }
}

/// What the caller carries after some swaps.
fn carried_after(snapshot: &ListSnapshot, things: &[Thing]) -> Vec<CarriedAfter> {
    let mine = things.iter().filter(|thing| thing.carrier.walker() == snapshot.me && thing.line.counts.carried > 0);
    let carried = mine.map(|thing| CarriedAfter {
        id: thing.line.id.0.clone(),
        name: thing.line.name.clone(),
        system: thing.system,
        pieces: thing.line.counts.carried,
        mass: thing.line.weight.map(|known| known.unit.times(thing.line.counts.carried)),
    });
    let mut carried: Vec<CarriedAfter> = carried.collect();
    carried.sort_by_key(|thing| thing.system);
    carried
}

/// The things on a list after some swaps. What goes on in the place of something shared is shared too.
fn things_after(snapshot: &ListSnapshot, chosen: &[FullSwap]) -> Vec<Thing> {
    let sides = chosen.iter().map(|full| {
        let value = &full.swap.value;
        let remove: Vec<Removal> = value
            .remove
            .iter()
            .map(|&(line, qty, from)| Removal { line: CoreLineId(line.to_string()), qty, from })
            .collect();
        let gone = remove.first().and_then(|gone| snapshot.things.iter().find(|thing| thing.line.id == gone.line));
        let carrier = gone.map_or(Carrier::Own(snapshot.me), |gone| gone.carrier);
        let add = value.add.iter().zip(&full.candidates).map(|(&(id, qty, place), candidate)| {
            let mut thing = candidate.value.brought_by(snapshot.me, &snapshot.makers);
            thing.line.id = CoreLineId(id.to_string());
            thing.line.counts = Counts::in_place(place, qty);
            thing.carrier = carrier;
            if candidate.value.identity.kind.is_none() {
                thing.system = gone.map_or(thing.system, |gone| gone.system);
            }
            thing
        });
        (remove, add.collect::<Vec<_>>())
    });
    let sides: Vec<_> = sides.collect();
    applied(&snapshot.things, sides.iter().map(|(remove, add)| (remove.as_slice(), add.clone())))
}
