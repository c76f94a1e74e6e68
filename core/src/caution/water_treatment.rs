//! Ways of treating water, by the piece: one can break, freeze or run out.

use super::{COMING, Caution, CautionId, Level, Situation};
use crate::list::Thing;

/// Pieces that it takes for one to stand in for another.
const TWO: i64 = 2;

/// Raised without any, and with only one.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let pieces = pieces(situation);
    let level = match pieces {
        ..=0 => Level::Red,
        1 => Level::Amber,
        _ => return Vec::new(),
    };
    let caution = Caution::new(CautionId::WaterTreatment, level).figures(pieces, TWO, TWO - pieces);
    vec![Caution { of: situation.positions(&COMING, helps), ..caution }]
}

fn pieces(situation: &Situation<'_>) -> i64 {
    situation.things.iter().filter(|thing| helps(thing)).map(|thing| thing.line.counts.at_work()).sum()
}

/// Pieces that treat water.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    Some(pieces(situation))
}

pub(super) fn helps(thing: &Thing) -> bool {
    thing.provides("water_treatment") > 0
}
