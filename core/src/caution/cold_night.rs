//! The expected low against the sleep system: comfort of a bag or quilt, less what the other things add that warm it, plus the sleeper's own
//! offset; of several the one with which that is least. Comfort and limit are those of a bag tested on a warm pad with base layers on (the usual laboratory standard); an
//! extreme rating is survival and is never planned on; a rating of unknown kind counts as a limit, with comfort 5.5 °C above it.

use super::warmth::{HAMMOCK, UNDERQUILT, Warmest, judge, rated};
use super::{AT_HAND, Caution, CautionId, Situation};
use crate::list::Thing;

fn is_bag(thing: &Thing) -> bool {
    !thing.has(UNDERQUILT)
}

/// What a thing adds to a bag that it lies in; what hangs below adds nothing.
fn adds(thing: &Thing) -> i64 {
    if thing.has(UNDERQUILT) || thing.has(HAMMOCK) { 0 } else { thing.facts.warms.unwrap_or_default() }
}

/// The bag or quilt that is warmest with all else that warms it, by how much it is warmer for that, and what does it. A thing counts once: not
/// in itself, however many pieces there are.
fn system(situation: &Situation<'_>) -> Option<(Warmest, i64, Vec<usize>)> {
    let liners = situation.positions(&AT_HAND, |thing| adds(thing) != 0);
    let all: i64 = liners.iter().map(|at| adds(situation.things[*at])).sum();
    let warmed = |found: Warmest| {
        let others = all - adds(situation.things[found.at]);
        (others, found)
    };
    let systems = rated(situation, is_bag).map(warmed);
    let (others, found) = systems.min_by_key(|(others, found)| (found.comfort - others, found.limit - others))?;
    let beside = liners.into_iter().filter(|at| *at != found.at).collect();
    Some((found, others, beside))
}

/// Raised below comfort, red below limit, and where nothing says how warm it is.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let (warmest, adds, beside) =
        system(situation).map_or((None, 0, Vec::new()), |(found, adds, beside)| (Some(found), adds, beside));
    judge(CautionId::ColdNight, situation, warmest, situation.sleeper.offset - adds, beside)
}

/// Comfort of the sleep system.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    system(situation).map(|(found, adds, _)| found.comfort - adds + situation.sleeper.offset)
}

pub(super) fn helps(thing: &Thing) -> bool {
    (thing.facts.rating.is_some() && is_bag(thing)) || adds(thing) > 0
}
