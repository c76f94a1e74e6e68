//! What a piece on a list is known to weigh.

use super::{Band, Makers, Weight, WeightSource};
use crate::limits;
use crate::quantity::Mass;
use serde::{Deserialize, Serialize};

/// Which figure of each weight counts.
/// From the least to the most careful.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Counting {
    /// As stated.
    #[default]
    Stated,
    /// As expected.
    Expected,
    /// The heaviest that it may be.
    Worst,
}

impl Counting {
    /// Every one.
    pub const ALL: [Counting; 3] = [Counting::Stated, Counting::Expected, Counting::Worst];
}

/// What one piece of something is known to weigh, as far as lists, swaps and plans ask: the figure, and how far to trust it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Known {
    /// The figure that counts: as stated, unless a plan counts on another ([`Known::counted`]).
    pub unit: Mass,
    /// The figure as stated.
    pub stated: Mass,
    /// Where the true mass may lie, against the figure that counts.
    pub band: Band,
    /// The figure as expected: a maker's is moved by the account's own median.
    pub expected: Mass,
    /// Where it comes from; `None` where nobody says so, as in a problem file.
    pub source: Option<WeightSource>,
}

impl Known {
    /// A figure that is taken for exact.
    pub const fn exactly(unit: Mass) -> Known {
        Known { unit, stated: unit, band: Band { low: Mass::ZERO, high: Mass::ZERO }, expected: unit, source: None }
    }

    /// The same, with another of its figures counting. What it may weigh stays where it is.
    #[must_use]
    pub fn counted(self, counting: Counting) -> Known {
        let unit = match counting {
            Counting::Stated => self.stated,
            Counting::Expected => self.expected,
            Counting::Worst => self.high(),
        };
        Known { unit, band: Band { low: self.low() - unit, high: self.high() - unit }, ..self }
    }

    /// The lightest that one piece may be; never below nothing.
    pub fn low(self) -> Mass {
        (self.unit + self.band.low).max(Mass::ZERO)
    }

    /// The heaviest that one piece may be.
    pub fn high(self) -> Mass {
        self.unit + self.band.high
    }
}

impl Makers {
    /// What is known of a weight, by the account's own record of makers' figures.
    pub fn known(&self, weight: &Weight) -> Known {
        // However wrong a record of a few pairs is, nothing weighs less than nothing, or more than anybody lifts.
        let most = Mass::from_mg(limits::MASS_MG);
        let band = self.band(weight);
        Known {
            unit: weight.unit,
            stated: weight.unit,
            band: Band { low: band.low.max(Mass::ZERO - weight.unit), high: band.high.min(most) },
            expected: self.expected(weight).clamp(Mass::ZERO, weight.unit + most),
            source: Some(weight.source),
        }
    }
}
