//! What base weight has come down, for how much money, and what had been promised.

use crate::quantity::{Mass, Money};
use serde::{Deserialize, Serialize};

/// What changed a base weight.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Cause {
    /// A swap was done, or that was taken back.
    Swap,
    /// Something was weighed.
    Weighed,
    /// Something comes along that did not.
    Added,
    /// Something stays home, or was taken off.
    LeftOut,
    /// The list is counted another way.
    Counted,
    /// Anything else: a weight that was typed, who carries it, a change taken back.
    Changed,
}

/// A swap that was done.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Shed {
    /// The base weight before.
    pub before: Mass,
    /// And after, with the weights that were stated then.
    pub after: Mass,
    /// By how much what it brought, and is carried, weighs more than was stated; below zero if it is lighter.
    pub heavier_by: Mass,
    /// What it cost, less what it brought.
    pub net: Money,
}

/// What swaps did together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Progress {
    /// Base weight that was promised to go.
    pub promised: Mass,
    /// That really went, as far as the new things were weighed since.
    pub shed: Mass,
    /// Money that it took, less what came in; below zero if more came in.
    pub net: Money,
}

/// What swaps that were done have done together.
pub fn progress(swaps: impl IntoIterator<Item = Shed>) -> Progress {
    swaps.into_iter().fold(Progress::default(), |sum, swap| {
        let promised = swap.before - swap.after;
        Progress {
            promised: sum.promised + promised,
            shed: sum.shed + (promised - swap.heavier_by),
            net: sum.net + swap.net,
        }
    })
}
