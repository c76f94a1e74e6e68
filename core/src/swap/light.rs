//! Where light is to be had: things that weigh much more than a light one of their kind. Places to look for swaps, never swaps: a light one
//! may be less warm, smaller or less durable.

use crate::gear::Typical;
use crate::list::Thing;
use crate::quantity::Mass;

/// A thing beside what others of its kind weigh and cost.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Lighter {
    /// Its position.
    pub thing: usize,
    /// A light one.
    pub light: Typical,
    /// A usual one.
    pub usual: Typical,
    /// What a light one in the place of each carried piece would save.
    pub saving: Mass,
}

/// The least that is worth a look.
const LEAST: Mass = Mass::from_mg(50_000);
/// The most that are named.
const MOST: usize = 8;

/// Of some things those that are at least a quarter heavier than a light one of their kind, most grams first.
pub fn lighter_of_their_kind(things: &[Thing], own: &[usize]) -> Vec<Lighter> {
    let found = own.iter().filter_map(|&at| {
        let thing = &things[at];
        let [light, usual, _] = thing.identity.kind?.typical?;
        let over = thing.line.unit()? - light.mass;
        let saving = over.times(thing.line.counts.carried);
        let is_worth = over.mg() * 4 >= light.mass.mg() && saving >= LEAST && !thing.identity.keep;
        is_worth.then_some(Lighter { thing: at, light, usual, saving })
    });
    let mut found: Vec<Lighter> = found.collect();
    found.sort_by_key(|one| (std::cmp::Reverse(one.saving), one.thing));
    found.truncate(MOST);
    found
}
