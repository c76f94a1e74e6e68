//! What lies between the sleeper and the ground: R of all pads, against steps by the expected low. The steps are a rule of thumb for
//! average sleepers; R as makers measure it (one standard since 2020; older figures are not comparable).

use super::{COMING, Caution, CautionId, Level, Situation, cold_back};
use crate::list::Thing;

const JOB: &str = "ground_insulation";

/// From this low up (tenths of a degree), so many tenths of R.
const STEPS: [(i64, i64); 5] = [(100, 15), (50, 25), (0, 35), (-70, 45), (-150, 55)];
/// Below all of them.
const COLDEST: i64 = 65;

/// Tenths of R that a low asks for.
fn asked(low: i64) -> i64 {
    STEPS.iter().find(|(from, _)| low >= *from).map_or(COLDEST, |(_, tenths)| *tenths)
}

/// Raised below the step of the low; not in a hammock with an underquilt.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    if cold_back::hangs(situation) {
        return Vec::new();
    }
    let (there, asked) = (situation.sum(JOB, &COMING), asked(situation.trip.low_tenth_c));
    let caution = || Caution {
        of: situation.positions(&COMING, helps),
        ..Caution::new(CautionId::ColdGround, Level::Amber).figures(there, asked, asked - there)
    };
    (there < asked).then(caution).into_iter().collect()
}

/// Tenths of R of all pads.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    Some(situation.sum(JOB, &COMING))
}

pub(super) fn helps(thing: &Thing) -> bool {
    thing.provides(JOB) > 0
}
