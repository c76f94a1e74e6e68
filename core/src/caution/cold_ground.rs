//! What lies between the sleeper and the ground: R of all pads, against what the expected low asks, less the sleeper's own offset: a rule of
//! thumb, straight lines between a few points; R as makers measure it (one standard since 2020; older figures are not comparable).

use super::{AT_HAND, Caution, CautionId, Level, Situation, cold_back};
use crate::list::Thing;

const JOB: &str = "ground_insulation";

/// At these lows (tenths of a degree) so many tenths of R; as much as the first above it, as the last below it.
const POINTS: [(i64, i64); 7] = [(150, 10), (100, 15), (50, 25), (0, 35), (-70, 45), (-150, 55), (-250, 65)];

/// Tenths of R that a low asks of somebody with an offset, rounded up.
pub(crate) fn asked(low: i64, offset: i64) -> i64 {
    let at = low - offset;
    let [(warmest, least), .., (_, most)] = POINTS;
    if at >= warmest {
        return least;
    }
    let between = POINTS.windows(2).find_map(|points| match points {
        &[(warm, less), (cold, more)] if at >= cold => {
            let (below, span) = (warm - at, warm - cold);
            Some(less + (below * (more - less) + span - 1) / span)
        }
        _ => None,
    });
    between.unwrap_or(most)
}

/// Raised below what the low asks; not in a hammock with an underquilt.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    if cold_back::hangs(situation) {
        return Vec::new();
    }
    let asked = asked(situation.trip.low_tenth_c, situation.sleeper.offset);
    let there = situation.sum(JOB, &AT_HAND);
    let caution = || Caution {
        of: situation.positions(&AT_HAND, helps),
        ..Caution::new(CautionId::ColdGround, Level::Amber).figures(there, asked, asked - there)
    };
    (there < asked).then(caution).into_iter().collect()
}

/// Tenths of R of all pads.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    Some(situation.sum(JOB, &AT_HAND))
}

pub(super) fn helps(thing: &Thing) -> bool {
    thing.provides(JOB) > 0
}
