//! A pack list as it stands: lines, counts and sums.

mod counts;
mod heavy;
mod kits;
mod thing;
mod ways;

pub use counts::Counts;
pub use heavy::{class, heavy_few, is_heavy};
pub use kits::{LinkedKits, WeighedKit, WholeKit, in_kits, whole_kits, whole_kits_among, without_overlinked};

pub use thing::{Carrier, Thing, balance, count_jobs, job_sum};
pub use ways::{CONTAINER, GAS_CAN, Switch, Way, counted_by};

use crate::gear::{Jobs, Known, Tags};
use crate::quantity::Mass;
use serde::{Deserialize, Serialize};

/// The id of a line, as the problem names it.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(transparent)]
pub struct LineId(pub String);

/// Where pieces of a line count.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Place {
    /// In the pack: base weight.
    #[default]
    Carried,
    /// On the walker.
    Worn,
    /// Consumed on the way: food, water, gas.
    UsedUp,
    /// In no sum, beside the totals as a figure of its own: an ice axe for one section.
    Apart,
    /// On the list, but staying home.
    Left,
}

impl Place {
    /// Every place.
    pub const ALL: [Place; 5] = [Place::Carried, Place::Worn, Place::UsedUp, Place::Apart, Place::Left];
    /// The places that come along and count in some sum; what a swap takes off is in one of them.
    pub const COUNTED: [Place; 3] = [Place::Carried, Place::Worn, Place::UsedUp];
}

/// Pieces of one thing on a pack list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Line {
    /// Its id.
    pub id: LineId,
    /// What it is.
    pub name: String,
    /// Its pieces by place.
    pub counts: Counts,
    /// What one piece weighs; `None` if nobody knows yet.
    pub weight: Option<Known>,
    /// Words that say how it counts, such as `poles` or `gas_can`.
    pub tags: Tags,
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
    /// What stands apart.
    pub apart: Mass,
    /// The lightest and the heaviest that base weight may be, everything wrong the same way.
    pub base_low: Mass,
    /// The heaviest.
    pub base_high: Mass,
    /// Lines with pieces on them whose weight is unknown.
    pub unknown: usize,
}

impl Totals {
    /// Adds what lies in a place.
    pub fn add(&mut self, mass: Mass, place: Place) {
        match place {
            Place::Carried => {
                self.base = self.base + mass;
                self.pack = self.pack + mass;
                self.everything = self.everything + mass;
            }
            Place::UsedUp => {
                self.pack = self.pack + mass;
                self.everything = self.everything + mass;
            }
            Place::Worn => self.everything = self.everything + mass,
            Place::Apart => self.apart = self.apart + mass,
            Place::Left => {}
        }
    }
}

impl Line {
    /// What one piece weighs as stated; `None` if nobody knows yet.
    pub fn unit(&self) -> Option<Mass> {
        self.weight.map(|weight| weight.unit)
    }

    /// Whether every piece counts in one of `kits`.
    fn is_in_kits(&self, kits: &[WholeKit<'_>]) -> bool {
        Place::COUNTED
            .into_iter()
            .chain([Place::Apart])
            .all(|place| self.counts.at(place) <= in_kits(&self.id, place, kits))
    }
}

/// The exact sums of the lines, where `kits` (of the same lines) count as they were weighed together.
pub fn totals<'a>(lines: impl IntoIterator<Item = &'a Line>, kits: &[WholeKit<'_>]) -> Totals {
    let mut sums = Totals::default();
    for line in lines {
        let unit = line.unit().unwrap_or_default();
        Place::ALL.into_iter().for_each(|place| sums.add(unit.times(line.counts.at(place)), place));
        if let Some(weight) = line.weight {
            sums.base_low = sums.base_low + weight.low().times(line.counts.carried);
            sums.base_high = sums.base_high + weight.high().times(line.counts.carried);
        }
        sums.unknown += usize::from(line.weight.is_none() && !line.is_in_kits(kits));
    }
    for whole in kits {
        // A kit has no band of its own.
        sums.add(whole.correction, whole.place);
        if whole.place == Place::Carried {
            sums.base_low = sums.base_low + whole.correction;
            sums.base_high = sums.base_high + whole.correction;
        }
    }
    sums
}

/// The exact sums of lines, and the kits that are whole on them and count as they were weighed together.
pub fn added_up<'a, 'k>(
    lines: impl IntoIterator<Item = &'a Line> + Clone,
    kits: &'k [WeighedKit],
) -> (Totals, Vec<WholeKit<'k>>) {
    let by_id = lines.clone().into_iter().map(|line| (&line.id, line)).collect();
    let whole = whole_kits(&by_id, kits);
    (totals(lines, &whole), whole)
}
