//! Kits on a list: where things that were weighed together count as they were weighed.

use super::{Line, LineId, Place};
use crate::gear::whole;
use crate::quantity::Mass;
use std::collections::HashMap;

/// A kit whose own weighing counts ([`crate::gear::kit_figures`]), over the lines of a list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WeighedKit {
    /// What it is called.
    pub name: String,
    /// What all of it weighed.
    pub weighed: Mass,
    /// Its lines and the pieces of each.
    pub parts: Vec<(LineId, u32)>,
}

/// A kit that is whole in one place of a list.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct WholeKit<'a> {
    /// The kit.
    pub kit: &'a WeighedKit,
    /// Where all of it counts.
    pub place: Place,
    /// Its weighing less what its parts add up to, unknown ones as nothing: what the sums of the lines lack.
    pub correction: Mass,
}

/// The kits that are whole on a list: every part with all its pieces in one place, each kit once. Of two that share pieces, the one that
/// comes first in `kits` counts; the newest weighing should stand first.
pub fn whole_kits<'a>(lines: &HashMap<&LineId, &Line>, kits: &'a [WeighedKit]) -> Vec<WholeKit<'a>> {
    let mut open: Vec<&WeighedKit> = kits.iter().collect();
    let mut found = Vec::new();
    for place in Place::COUNTED {
        let there = lines.iter().map(|(id, line)| (*id, line.counts.at(place))).collect();
        let at = whole(there, open.iter().map(|kit| kit.parts.as_slice()));
        // From the back, so that the positions before stay.
        let mut here: Vec<&WeighedKit> = at.into_iter().rev().map(|at| open.remove(at)).collect();
        here.reverse();
        found.extend(here.into_iter().map(|kit| {
            let unit = |id| lines.get(id).and_then(|line| line.unit()).unwrap_or_default();
            let parts: Mass = kit.parts.iter().map(|(id, count)| unit(id).times(*count)).sum();
            WholeKit { kit, place, correction: kit.weighed - parts }
        }));
    }
    found
}

/// Pieces of `line` in `place` that count in `kits`, so that their own weight is not needed.
pub fn in_kits(line: &LineId, place: Place, kits: &[WholeKit<'_>]) -> u32 {
    let parts = kits.iter().filter(|whole| whole.place == place).flat_map(|whole| &whole.kit.parts);
    parts.filter(|(part, _)| part == line).map(|(_, count)| count).sum()
}
