//! The heaviest start against a share of body weight, a fifth unless the walker says otherwise: a rule of thumb for loads that are carried for
//! days. Said only to walkers who entered what they weigh.

use super::{Caution, CautionId, Level, Situation};
use crate::quantity::Mass;

/// Raised above the share.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let heaviest = situation.days.heaviest.mg();
    let limit = situation.body_limit().map(Mass::mg).filter(|limit| heaviest > *limit);
    let caution =
        limit.map(|limit| Caution::new(CautionId::BodyLoad, Level::Amber).figures(heaviest, limit, heaviest - limit));
    caution.into_iter().collect()
}
