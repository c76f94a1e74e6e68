//! A pack list as it stands: lines, counts and sums.

mod kits;

pub use kits::{WeighedKit, WholeKit, in_kits, whole_kits};

use crate::gear::Jobs;
use crate::quantity::Mass;
use serde::{Deserialize, Serialize};

/// The id of a line, as the problem names it.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(transparent)]
pub struct LineId(pub String);

/// Where pieces of a line count.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
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

impl Place {
    /// Every place.
    pub const ALL: [Place; 3] = [Place::Carried, Place::Worn, Place::UsedUp];
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

impl Totals {
    fn add(&mut self, mass: Mass, place: Place) {
        self.everything = self.everything + mass;
        if place != Place::Worn {
            self.pack = self.pack + mass;
        }
        if place == Place::Carried {
            self.base = self.base + mass;
        }
    }
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

    /// Whether every piece counts in one of `kits`.
    fn is_in_kits(&self, kits: &[WholeKit<'_>]) -> bool {
        Place::ALL.into_iter().all(|place| self.count(place) <= in_kits(&self.id, place, kits))
    }

    /// Pieces in all places.
    pub fn pieces(&self) -> i64 {
        i64::from(self.carried) + i64::from(self.worn) + i64::from(self.used_up)
    }
}

/// The exact sums of the lines, where `kits` (of the same lines) count as they were weighed together.
pub fn totals<'a>(lines: impl IntoIterator<Item = &'a Line>, kits: &[WholeKit<'_>]) -> Totals {
    let mut sums = Totals::default();
    for line in lines {
        let unit = line.unit.unwrap_or_default();
        sums.add(unit.times(line.carried), Place::Carried);
        sums.add(unit.times(line.worn), Place::Worn);
        sums.add(unit.times(line.used_up), Place::UsedUp);
        sums.unknown += usize::from(line.unit.is_none() && !line.is_in_kits(kits));
    }
    kits.iter().for_each(|whole| sums.add(whole.correction, whole.place));
    sums
}
