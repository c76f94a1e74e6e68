//! A list as it stands after some swaps.

use super::Removal;
use crate::list::Thing;

/// The things on a list after swaps: each takes pieces off, never more than there are, and puts things on. Things without a piece left are
/// gone.
pub fn applied<'s>(things: &[Thing], swaps: impl IntoIterator<Item = (&'s [Removal], Vec<Thing>)>) -> Vec<Thing> {
    let mut after = things.to_vec();
    for (remove, add) in swaps {
        for removal in remove {
            if let Some(thing) = after.iter_mut().find(|thing| thing.line.id == removal.line) {
                let left = thing.line.counts.at(removal.from).saturating_sub(removal.qty);
                thing.line.counts = thing.line.counts.with(removal.from, left);
            }
        }
        after.extend(add);
    }
    after.retain(|thing| thing.line.counts.pieces() > 0);
    after
}
