//! Safety jobs that the trip or the gear asks for and nothing on the list does.

use super::{Caution, CautionId, Level, Situation};
use crate::gear::Job;
use crate::list::Thing;

/// The jobs that most accident reports wish somebody had done. Traction and axe are asked for by `snow`.
const JOBS: [&str; 10] = [
    "call_for_help",
    "fire",
    "first_aid",
    "ground_insulation",
    "light",
    "rain_shell",
    "shelter",
    "sleep_insulation",
    "water_treatment",
    "way_finding",
];

/// Of these a caution is amber: what else there is may do.
const AMBER: [&str; 2] = ["call_for_help", "fire"];

/// Raised for each shortfall of one of them.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let lacking = situation.shortfalls().into_iter().filter(|(job, _)| JOBS.contains(&job.as_str()));
    let caution = |(job, short): (Job, i64)| {
        let level = if AMBER.contains(&job.as_str()) { Level::Amber } else { Level::Red };
        let caution = Caution::new(CautionId::Essentials, level);
        Caution { short: Some(short), job: Some(job), ..caution }
    };
    lacking.map(caution).collect()
}

pub(super) fn helps(thing: &Thing) -> bool {
    JOBS.iter().any(|job| thing.provides(job) > 0)
}
