//! Where light is to be had: things that weigh much more than a light one of their kind. Places to look for swaps, never swaps: a light one
//! may be less warm, smaller or less durable.

use crate::gear::{Kind, Typical};
use crate::list::Thing;
use crate::quantity::Mass;

/// A thing beside what others of its kind weigh and cost.
#[derive(Debug, Clone, Copy)]
pub struct Lighter {
    /// Its position.
    pub thing: usize,
    /// Its kind.
    pub kind: &'static Kind,
    /// What a light one weighs: as said, or as such things do.
    pub light: Mass,
    /// A usual one.
    pub usual: Typical,
    /// What a light one in the place of each carried piece would save.
    pub saving: Mass,
}

/// The least that is worth a look.
const LEAST: Mass = Mass::from_mg(50_000);
/// The most that are named.
const MOST: usize = 8;

/// Of some things those that are at least a quarter heavier than a light one of their kind, most grams first. `said` is what somebody has
/// found a light one of a kind to weigh.
pub fn lighter_of_their_kind(
    things: &[Thing],
    own: &[usize],
    said: impl Fn(&'static Kind) -> Option<Mass>,
) -> Vec<Lighter> {
    let found = own.iter().filter_map(|&at| {
        let thing = &things[at];
        let kind = thing.identity.kind?;
        let [light, usual, _] = kind.typical?;
        let light = said(kind).unwrap_or(light.mass);
        let over = thing.line.unit()? - light;
        let saving = over.times(thing.line.counts.carried);
        let is_worth = over.mg() * 4 >= light.mg() && saving >= LEAST && !thing.identity.keep;
        is_worth.then_some(Lighter { thing: at, kind, light, usual, saving })
    });
    let mut found: Vec<Lighter> = found.collect();
    found.sort_by_key(|one| (std::cmp::Reverse(one.saving), one.thing));
    found.truncate(MOST);
    found
}
