//! A container is compulsory, and none comes along. Limits: none but the tag `container`; local rules say which containers count.

use super::{Caution, CautionId, Level, Situation};
use crate::list::{CONTAINER, Place, Thing};

/// Raised where nothing tagged as a container is carried, or apart for the section that asks for it.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let there = situation.positions(&[Place::Carried, Place::Apart], |thing| thing.has(CONTAINER));
    let lacks = situation.trip.container_compulsory && there.is_empty();
    lacks.then(|| Caution::new(CautionId::Animals, Level::Red)).into_iter().collect()
}

pub(super) fn helps(thing: &Thing) -> bool {
    thing.has(CONTAINER)
}
