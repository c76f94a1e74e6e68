//! Packed sizes of what goes into the pack, against its room. Only as good as the sizes that are known: things without one take none.

use super::{COMING, Caution, CautionId, Level, Situation};
use crate::list::Thing;

const JOB: &str = "room";

/// Raised where they are more than the room, if any pack says its room.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let room = situation.sum(JOB, &COMING);
    let needs = |thing: &&Thing| {
        let one = thing.line.needs.get(JOB).copied().unwrap_or_default();
        one.saturating_mul(i64::from(thing.line.counts.packed()))
    };
    let packed = situation.things.iter().map(needs).fold(0, i64::saturating_add);
    if room <= 0 || packed <= room {
        return Vec::new();
    }
    let of = situation.positions(&COMING, |thing| thing.provides(JOB) > 0);
    vec![Caution { of, ..Caution::new(CautionId::Room, Level::Amber).figures(packed, room, packed - room) }]
}
