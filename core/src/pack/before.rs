//! What is to be done before leaving, from the things themselves and from the trip.

use crate::gear::known_job;
use crate::list::{Place, Thing};
use crate::trip::{Held, Supplies, Trip};
use serde::{Deserialize, Serialize};

/// What is to be done.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Task {
    /// Charge it.
    Charge,
    /// Fill it with water.
    Fill,
    /// See what is left in the can: on a scale its shell is known.
    Refill,
    /// Buy it.
    Buy,
    /// Weigh it: nobody knows what it weighs.
    Weigh,
    /// Get it on the way: gas may not travel by plane, and not on every train.
    OnTheWay,
    /// Anything else that the walker has written down.
    Other,
}

/// Something to be done that the walker has written down.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Noted {
    /// What it is known by.
    pub id: String,
    /// What sort it is.
    pub task: Task,
    /// What is to be done.
    pub what: String,
    /// Who does it; empty for the walker.
    #[serde(default)]
    pub by: String,
    /// Whether it is done.
    #[serde(default)]
    pub done: bool,
}

/// A task, and what it is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ToDo {
    /// What is to be done.
    pub task: Task,
    /// The thing, by its position; `None` for what the trip takes beyond what the list has.
    pub of: Option<usize>,
    /// How much, where that is known: millilitres to fill, milligrams of food or gas to buy.
    pub amount: Option<i64>,
}

/// What is to be done, task by task, things in their order. Of a trip that is known, bottles are filled only with what it takes at the
/// start, and food and gas that the list lacks are got.
pub fn to_do(things: &[Thing], trip: Option<&Trip>) -> Vec<ToDo> {
    let coming = || things.iter().enumerate().filter(|(_, thing)| thing.is_in(&Place::COUNTED));
    let mut all = Vec::new();
    let mut add = |task, of, amount| all.push(ToDo { task, of, amount });
    let supplies = trip.map(Supplies::of);
    let mut water = trip.zip(supplies.as_ref()).map(|(trip, supplies)| supplies.water_on(1, trip));
    for (at, thing) in coming() {
        let pieces = thing.line.counts.at_work();
        if thing.provides("power") > 0 || thing.line.needs.contains_key("power") {
            add(Task::Charge, Some(at), None);
        }
        let holds = thing.provides("water_carried").saturating_mul(pieces);
        if holds > 0 && water != Some(0) {
            let takes = water.map(|water| water.min(holds));
            water = water.zip(takes).map(|(water, takes)| water - takes);
            add(Task::Fill, Some(at), takes);
        }
        if thing.facts.contents.is_some() {
            add(Task::Refill, Some(at), None);
            add(Task::OnTheWay, Some(at), None);
        }
        if thing.line.weight.is_none() {
            add(Task::Weigh, Some(at), None);
        }
    }
    if let Some(supplies) = supplies {
        let there: Vec<&Thing> = coming().map(|(_, thing)| thing).collect();
        let held = Held::by(&there);
        let food = supplies.food_by_carry.first().map_or(0, |first| (*first - held.food).mg());
        let gas = (supplies.gas - held.gas).mg();
        for (task, lacking) in [(Task::Buy, food), (Task::OnTheWay, gas)] {
            if lacking > 0 {
                add(task, None, Some(lacking));
            }
        }
    }
    all.sort_by_key(|todo| todo.task);
    all
}

/// Whether a thing does a job of safety, or is medical.
pub(super) fn is_for_safety(thing: &Thing) -> bool {
    let mut jobs = thing.line.provides.iter().filter(|(_, amount)| **amount > 0);
    thing.has("medical") || jobs.any(|(job, _)| known_job(job).is_some_and(|known| known.safety))
}
