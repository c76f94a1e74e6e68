//! A pack list as it stands: lines, counts and sums.

use crate::gear::Jobs;
use crate::quantity::Mass;
use serde::{Deserialize, Serialize};

/// The id of a line, as the problem names it.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(transparent)]
pub struct LineId(pub String);

/// Where pieces of a line count.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Place {
    /// In the pack: base weight.
    #[default]
    Carried,
    /// On the walker.
    Worn,
    /// Consumed on the way: food, water, gas.
    UsedUp,
}

/// Pieces of one thing on a pack list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Line {
    /// Its id.
    pub id: LineId,
    /// What it is.
    pub name: String,
    /// Pieces carried.
    pub carried: u32,
    /// Pieces worn.
    pub worn: u32,
    /// Pieces used up.
    pub used_up: u32,
    /// What one piece weighs; `None` if nobody knows yet.
    pub unit: Option<Mass>,
    /// What one piece does.
    pub provides: Jobs,
    /// What one piece needs to do it.
    pub needs: Jobs,
}

/// The sums of a list. Unknown weights count as nothing, so each is "at least" while [`Totals::unknown`] is above zero.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Totals {
    /// Carried.
    pub base: Mass,
    /// Carried and used up.
    pub pack: Mass,
    /// Carried, used up and worn: skin-out.
    pub everything: Mass,
    /// Lines with pieces on them whose weight is unknown.
    pub unknown: usize,
}

impl Line {
    /// Pieces in one place.
    pub fn count(&self, place: Place) -> u32 {
        match place {
            Place::Carried => self.carried,
            Place::Worn => self.worn,
            Place::UsedUp => self.used_up,
        }
    }

    /// Pieces in all places.
    pub fn pieces(&self) -> i64 {
        i64::from(self.carried) + i64::from(self.worn) + i64::from(self.used_up)
    }
}

/// The exact sums of the lines.
pub fn totals<'a>(lines: impl IntoIterator<Item = &'a Line>) -> Totals {
    let mut sums = Totals::default();
    for line in lines {
        let unit = line.unit.unwrap_or_default();
        let (carried, worn, used_up) = (unit.times(line.carried), unit.times(line.worn), unit.times(line.used_up));
        sums.base = sums.base + carried;
        sums.pack = sums.pack + carried + used_up;
        sums.everything = sums.everything + carried + used_up + worn;
        sums.unknown += usize::from(line.unit.is_none() && line.pieces() > 0);
    }
    sums
}
