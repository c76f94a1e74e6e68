//! A list as it stands after some swaps.

use super::Removal;
use crate::list::{LineId, Thing};
use std::collections::HashMap;

/// The things on a list after swaps: each takes pieces off, never more than there are, and puts things on. Things without a piece left are
/// gone.
pub fn applied<'s>(things: &[Thing], swaps: impl IntoIterator<Item = (&'s [Removal], Vec<Thing>)>) -> Vec<Thing> {
    let positions: HashMap<&LineId, usize> =
        things.iter().enumerate().map(|(position, thing)| (&thing.line.id, position)).collect();
    let mut after = things.to_vec();
    for (remove, add) in swaps {
        for removal in remove {
            if let Some(position) = positions.get(&removal.line) {
                let counts = &mut after[*position].line.counts;
                let left = counts.at(removal.from).saturating_sub(removal.qty);
                *counts = counts.with(removal.from, left);
            }
        }
        after.extend(add);
    }
    after.retain(|thing| thing.line.counts.pieces() > 0);
    after
}
