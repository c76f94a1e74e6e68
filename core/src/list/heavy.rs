//! The heavy few: what most of a base weight is, and the class that a base weight is of.

use super::Thing;
use crate::gear::System;
use crate::quantity::Mass;

/// Whether a thing is one of the heavy few: pack, shelter or sleep insulation, with `four` a pad too. With `small_parts` all else of these
/// systems counts with them: stakes, poles, ground sheet, liner, pillow.
pub fn is_heavy(thing: &Thing, four: bool, small_parts: bool) -> bool {
    let is_of_them = matches!(thing.system, System::Pack | System::Shelter | System::Sleep);
    if thing.provides("ground_insulation") > 0 {
        return is_of_them && four;
    }
    match thing.system {
        _ if small_parts => is_of_them,
        System::Pack => thing.provides("room") > 0 || thing.provides("load") > 0,
        System::Shelter => thing.provides("shelter") > 0,
        System::Sleep => thing.provides("sleep_insulation") > 0,
        _ => false,
    }
}

/// What the heavy few weigh as carried ([`is_heavy`]).
pub fn heavy_few<'a>(things: impl IntoIterator<Item = &'a Thing>, four: bool, small_parts: bool) -> Mass {
    let heavy = things.into_iter().filter(|thing| is_heavy(thing, four, small_parts));
    heavy.map(|thing| thing.unit().times(thing.line.counts.carried)).sum()
}

/// The class of a base weight, 0 the lightest: how many of the thresholds it is not under.
pub fn class(base: Mass, under: &[Mass]) -> usize {
    under.iter().filter(|threshold| base >= **threshold).count()
}
