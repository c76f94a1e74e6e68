//! The heaviest start against what the pack carries comfortably: what is carried and used up, with the food, water and gas that the trip
//! takes. The comfortable load is the maker's, or the walker's own.

use super::{AT_HAND, Caution, CautionId, Level, Situation};
use crate::quantity::Mass;

/// Raised above the packs' loads together, if any says one.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let heaviest = situation.days.heaviest.mg();
    let Some(comfortable) = situation.comfortable().map(Mass::mg).filter(|comfortable| heaviest > *comfortable) else {
        return Vec::new();
    };
    let of = situation.positions(&AT_HAND, |thing| thing.provides("load") > 0);
    let caution = Caution::new(CautionId::Load, Level::Amber).figures(heaviest, comfortable, heaviest - comfortable);
    vec![Caution { of, ..caution }]
}
