//! In a hammock the underquilt takes the pad's place. Limits: comfort of the warmest underquilt, with the sleeper's own offset; liners
//! lie on top and add nothing below.

use super::warmth::{HAMMOCK, UNDERQUILT, judge, warmest};
use super::{AT_HAND, Caution, CautionId, Situation};
use crate::list::Thing;

/// Whether a hammock and an underquilt come along, so that no pad is asked for.
pub(super) fn hangs(situation: &Situation<'_>) -> bool {
    [HAMMOCK, UNDERQUILT].iter().all(|tag| !situation.positions(&AT_HAND, |thing| thing.has(tag)).is_empty())
}

/// Raised as a cold night is, over underquilts.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    if !hangs(situation) {
        return Vec::new();
    }
    let offset = situation.sleeper.offset;
    judge(CautionId::ColdBack, situation, warmest(situation, |thing| thing.has(UNDERQUILT)), offset, Vec::new())
}

/// Comfort of the warmest underquilt.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    warmest(situation, |thing| thing.has(UNDERQUILT)).map(|found| found.comfort + situation.sleeper.offset)
}

pub(super) fn helps(thing: &Thing) -> bool {
    thing.has(UNDERQUILT) && thing.facts.rating.is_some()
}
