//! What base weight has come down, for how much money, and what had been promised.

use crate::list::Counts;
use crate::quantity::{Mass, Money};
use serde::{Deserialize, Serialize};
use std::cmp::Ordering;

/// What changed a base weight.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
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
    /// Something counts elsewhere: worn instead of carried, or all by another way of counting.
    Counted,
    /// Anything else: a weight that was typed, who carries it.
    Changed,
    /// What the walker says of a day before.
    Earlier,
}

impl Cause {
    /// What it is to a base weight that pieces of a line stand elsewhere than they did; a line that is not there has none.
    pub fn of_move(before: Counts, after: Counts) -> Cause {
        let beside = |counts: Counts| i64::from(counts.worn) + i64::from(counts.used_up) + i64::from(counts.apart);
        match after.carried.cmp(&before.carried) {
            Ordering::Less if beside(after) <= beside(before) => Cause::LeftOut,
            Ordering::Greater if beside(after) >= beside(before) => Cause::Added,
            Ordering::Equal => Cause::Changed,
            _ => Cause::Counted,
        }
    }
}

/// A swap that was done.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Shed {
    /// The base weight before.
    pub before: Mass,
    /// And after, with the weights that were stated then.
    pub after: Mass,
    /// What it put on the walker's back.
    pub came: Vec<PutOnWeight>,
    /// What it cost, less what it brought.
    pub net: Money,
}

/// Something that a swap put on.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PutOnWeight {
    /// Pieces.
    pub pieces: u32,
    /// What one was stated to weigh; `None` if nobody knew.
    pub stated: Option<Mass>,
    /// What it is known to weigh now; `None` if nobody knows, or it is gone.
    pub now: Option<Mass>,
}

impl PutOnWeight {
    /// By how much it weighs more than it was counted with.
    fn heavier_by(&self) -> Mass {
        self.now.map_or(Mass::ZERO, |now| (now - self.stated.unwrap_or_default()).times(self.pieces))
    }
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
            shed: sum.shed + promised - swap.came.iter().map(PutOnWeight::heavier_by).sum(),
            net: sum.net + swap.net,
        }
    })
}
