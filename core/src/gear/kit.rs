//! Kits: things weighed together.

use super::weighing::per_piece;
use super::{Band, WeightSource};
use crate::quantity::Mass;
use std::collections::HashMap;
use std::hash::Hash;

/// A part of a kit, as far as its own figure goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Part {
    /// Pieces of it in the kit.
    pub count: u32,
    /// What one piece weighs and where that comes from, if known. A derived figure comes from the kit, so it counts as unknown.
    pub weight: Option<(Mass, WeightSource)>,
    /// When it was last weighed, on any clock that the kit shares.
    pub weighed_at: Option<i64>,
}

/// A kit's figures side by side.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KitFigures {
    /// The exact sum of the parts that are known.
    pub parts: Mass,
    /// Parts without a figure of their own.
    pub unknown: usize,
    /// Whether the kit's own weighing counts rather than the sum: it is newer than every weighing of a part, or a part
    /// is unknown.
    pub own_counts: bool,
    /// What counts: the kit's own weighing or the sum of the parts.
    pub figure: Mass,
    /// The kit's weighing less the sum, where every part was weighed too.
    pub difference: Option<Mass>,
    /// The one unknown part, by position, and what one piece of it weighs: the kit less the other parts.
    pub derived: Option<(usize, Mass)>,
    /// The known parts weigh more than the kit, so that nothing can be derived: one of the figures is wrong.
    pub contradicts: bool,
}

/// Sets a kit's own weighing (the newest, with its time) against its parts.
pub fn kit_figures(own: Option<(Mass, i64)>, parts: &[Part]) -> KitFigures {
    let own_figure = |part: &Part| part.weight.filter(|(_, source)| *source != WeightSource::Derived);
    let known: Mass = parts.iter().filter_map(|part| own_figure(part).map(|(unit, _)| unit.times(part.count))).sum();
    let unknown: Vec<usize> =
        parts.iter().enumerate().filter(|(_, part)| own_figure(part).is_none()).map(|(at, _)| at).collect();
    let Some((kit, at)) = own else {
        return KitFigures {
            parts: known,
            unknown: unknown.len(),
            own_counts: false,
            figure: known,
            difference: None,
            derived: None,
            contradicts: false,
        };
    };
    let all_weighed = parts.iter().all(|part| part.weight.is_some_and(|(_, source)| source == WeightSource::Weighed));
    let newest = parts.iter().filter_map(|part| part.weighed_at).max();
    let own_counts = !unknown.is_empty() || newest.is_none_or(|newest| at > newest);
    let rest = kit - known;
    let derived = match *unknown.as_slice() {
        [one] if rest >= Mass::ZERO => parts.get(one).map(|part| (one, per_piece(rest, part.count))),
        _ => None,
    };
    KitFigures {
        parts: known,
        unknown: unknown.len(),
        own_counts,
        figure: if own_counts { kit } else { known },
        difference: all_weighed.then_some(rest),
        derived,
        contradicts: !unknown.is_empty() && rest < Mass::ZERO,
    }
}

/// The doubt of one piece of a derived part: all `count` of them are lighter where the kit was lighter or the others were heavier than
/// their figures, and the other way round. `others` are the bands of the other parts, all pieces of each together.
pub fn derived_band(kit: Band, others: impl IntoIterator<Item = Band>, count: u32) -> Band {
    let whole =
        others.into_iter().fold(kit, |band, other| Band { low: band.low - other.high, high: band.high - other.low });
    // Never narrower than it is: half a milligram is too little to say either way, so each end is rounded outwards.
    let pieces = i64::from(count.max(1));
    let outwards =
        |mass: Mass| Mass::from_mg(mass.mg().div_euclid(pieces) + i64::from(mass.mg().rem_euclid(pieces) != 0));
    Band { low: Mass::ZERO - outwards(Mass::ZERO - whole.low), high: outwards(whole.high) }
}

/// Positions of the kits that are whole among `pieces`. Each piece counts in one kit only, in the first that is whole.
pub fn whole<'k, K: Eq + Hash + 'k>(
    mut pieces: HashMap<&'k K, u32>,
    kits: impl IntoIterator<Item = &'k [(K, u32)]>,
) -> Vec<usize> {
    let mut found = Vec::new();
    for (at, parts) in kits.into_iter().enumerate() {
        let mut left = pieces.clone();
        let taken = parts.iter().all(|(part, count)| match left.get_mut(part) {
            Some(there) if *there >= *count => {
                *there -= count;
                true
            }
            _ => false,
        });
        if taken && !parts.is_empty() {
            pieces = left;
            found.push(at);
        }
    }
    found
}
