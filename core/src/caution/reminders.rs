//! What is said whatever the figures: of gear that was made or is new, of medicine, of what one of two would lack, and of local rules.

use super::{COMING, Caution, CautionId, Level, Measure, Situation, cautions};
use crate::gear::Job;
use crate::list::{Place, Thing};
use std::collections::BTreeMap;

/// What is known of a thing beside its line: whether it was made at home, and the nights it has behind it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Behind {
    /// Whether it was made at home.
    pub is_made: bool,
    /// Nights of use.
    pub nights: u32,
}

/// Jobs that a night or a day depends on: what does them is tried near home first.
const TRIED_FIRST: [&str; 6] = ["shelter", "sleep_insulation", "ground_insulation", "load", "water_treatment", "heat"];
/// Kinds that are tried near home first, too.
const SHOES: [&str; 2] = ["trail_shoes", "boots"];
/// Jobs whose amounts other cautions rest on.
const MEASURED: [&str; 5] = ["ground_insulation", "load", "room", "water_carried", "power"];

/// Reminders for a list; `behind` stands beside its things, `lacking` is what each walker would lack alone.
pub fn reminders(situation: &Situation<'_>, behind: &[Behind], lacking: &[Vec<Job>]) -> Vec<Caution> {
    let new = |made: bool| {
        situation
            .positions(&[Place::Carried, Place::Worn], |thing| {
                let is_shoe = thing.identity.kind.is_some_and(|kind| SHOES.contains(&kind.key));
                is_shoe || TRIED_FIRST.iter().any(|job| thing.provides(job) > 0)
            })
            .into_iter()
            .filter(move |at| behind.get(*at).is_some_and(|behind| behind.nights == 0 && behind.is_made == made))
    };
    let note = |id: CautionId, of: Vec<usize>| {
        (!of.is_empty()).then(|| Caution { of, ..Caution::new(id, Level::Note) }).into_iter()
    };
    let medical = situation.positions(&Place::ALL, |thing| thing.has("medical"));
    let apart = lacking.iter().enumerate().flat_map(|(walker, jobs)| jobs.iter().map(move |job| (walker, job)));
    let shared = apart.map(|(walker, job)| Caution {
        job: Some(job.clone()),
        found: i64::try_from(walker).ok(),
        ..Caution::new(CautionId::SharedGear, Level::Amber)
    });
    let raised = cautions(situation);
    let of_assumed = MEASURED.iter().filter_map(|job| assumed(situation, &raised, &Job::new(job)?));
    let mut all: Vec<Caution> = of_assumed.collect();
    all.extend(note(CautionId::MadeGear, new(true).collect()));
    all.extend(note(CautionId::Medical, medical));
    all.push(Caution::new(CautionId::Rules, Level::Note));
    all.extend(shared);
    all.extend(note(CautionId::Untested, new(false).collect()));
    all
}

/// What rests on amounts of a job that nobody has confirmed, said whether or not a caution is raised; and how much would be short without them,
/// where it is they that quiet a caution that is not `raised`.
fn assumed(situation: &Situation<'_>, raised: &[Caution], job: &Job) -> Option<Caution> {
    let is_assumed = |thing: &Thing| thing.identity.assumed.contains(job) && thing.provides(job.as_str()) > 0;
    let of = situation.positions(&COMING, is_assumed);
    if of.is_empty() {
        return None;
    }
    let found = of.iter().map(|at| {
        let thing = situation.things[*at];
        thing.provides(job.as_str()).saturating_mul(thing.line.counts.at_work())
    });
    let found = found.fold(0, i64::saturating_add);
    let bare = of.iter().map(|&at| {
        let mut thing = situation.things[at].clone();
        thing.line.provides.remove(job);
        (at, thing)
    });
    let bare: BTreeMap<usize, Thing> = bare.collect();
    let things = situation.things.iter().enumerate().map(|(at, thing)| bare.get(&at).unwrap_or(thing));
    let mut without = Situation { things: things.collect(), ..situation.clone() };
    if let Some(sum) = without.balance.get_mut(job) {
        *sum = sum.saturating_add(found);
    }
    let is_new = |one: &Caution| !raised.iter().any(|raised| (raised.id, &raised.job) == (one.id, &one.job));
    let quieted = cautions(&without).into_iter().find(|one| is_new(one) && one.short.is_some());
    let short = quieted.and_then(|one| match one.id.measure() {
        // A job counts grams.
        Measure::Mass => one.short.map(|mg| mg.saturating_add(999) / 1_000),
        _ => one.short,
    });
    Some(Caution {
        job: Some(job.clone()),
        found: Some(found),
        short,
        of,
        ..Caution::new(CautionId::Assumed, Level::Note)
    })
}
