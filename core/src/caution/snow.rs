//! Snow underfoot and nothing for the feet. Axe and traction need practice, which no list carries.

use super::{AT_HAND, Caution, CautionId, Level, Situation};
use crate::list::Thing;

/// Raised where nothing carried or worn gives traction.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let lacks = situation.trip.snow && situation.positions(&AT_HAND, helps).is_empty();
    lacks.then(|| Caution::new(CautionId::Snow, Level::Red)).into_iter().collect()
}

pub(super) fn helps(thing: &Thing) -> bool {
    thing.provides("traction") > 0
}
