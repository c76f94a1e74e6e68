//! Gas, stoves and lighters on a flight or under a fire ban. Airlines and local law decide; Kevyt only reminds.

use super::{COMING, Caution, CautionId, Level, Situation};
use crate::list::GAS_CAN;

/// Raised where a can, or anything that makes heat or fire, comes along.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    if !(situation.trip.flight || situation.trip.fire_ban) {
        return Vec::new();
    }
    let of = situation
        .positions(&COMING, |thing| thing.has(GAS_CAN) || thing.provides("heat") > 0 || thing.provides("fire") > 0);
    let caution = Caution::new(CautionId::Flame, Level::Amber);
    if of.is_empty() { Vec::new() } else { vec![Caution { of, ..caution }] }
}
