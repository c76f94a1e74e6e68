//! Ways of treating water: one can break, freeze or run out. Boiling is one where there is heat and a pot; it takes gas that the trip's
//! need does not have in it.

use super::{COMING, Caution, CautionId, Level, Situation};
use crate::list::Thing;

const JOB: &str = "water_treatment";
/// Ways that it takes for one to stand in for another.
const TWO: i64 = 2;

/// Raised without any, and with only one.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let ways = ways(situation);
    let level = match ways {
        ..=0 => Level::Red,
        1 => Level::Amber,
        _ => return Vec::new(),
    };
    let caution = Caution::new(CautionId::WaterTreatment, level).figures(ways, TWO, TWO - ways);
    vec![Caution { of: situation.positions(&COMING, |thing| thing.provides(JOB) > 0), ..caution }]
}

/// What pieces do of it together, and boiling.
fn ways(situation: &Situation<'_>) -> i64 {
    let boils = ["heat", "pot"].iter().all(|job| situation.sum(job, &COMING) > 0);
    situation.sum(JOB, &COMING).saturating_add(i64::from(boils))
}

/// Ways of treating water.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    Some(ways(situation))
}

pub(super) fn helps(thing: &Thing) -> bool {
    ["heat", "pot", JOB].iter().any(|job| thing.provides(job) > 0)
}
