//! The heaviest start against a share of body weight, a fifth unless the walker says otherwise: a rule of thumb for loads that are carried for
//! days. Said only to walkers who entered what they weigh.

use super::{Caution, CautionId, Level, Situation};

/// Raised above the share; what is over is rounded up to the milligram.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let Some(body) = situation.sleeper.body.map(crate::quantity::Mass::mg) else { return Vec::new() };
    let (heaviest, share) = (situation.days.heaviest.mg(), body.saturating_mul(situation.sleeper.body_percent()));
    let over = heaviest.saturating_mul(100) - share;
    let caution = || Caution::new(CautionId::BodyLoad, Level::Amber).figures(heaviest, share / 100, (over + 99) / 100);
    (over > 0).then(caution).into_iter().collect()
}
