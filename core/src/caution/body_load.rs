//! The heaviest start against a fifth of body weight: a rule of thumb for loads that are carried for days. Said only to walkers who
//! entered what they weigh.

use super::{Caution, CautionId, Level, Situation};

/// One part of so many of body weight.
const PARTS: i64 = 5;

/// Raised above a fifth; what is over is rounded up to the milligram.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let Some(body) = situation.sleeper.body.map(crate::quantity::Mass::mg) else { return Vec::new() };
    let heaviest = situation.days.heaviest.mg();
    let over = heaviest.saturating_mul(PARTS) - body;
    let caution =
        || Caution::new(CautionId::BodyLoad, Level::Amber).figures(heaviest, body / PARTS, (over + PARTS - 1) / PARTS);
    (over > 0).then(caution).into_iter().collect()
}
