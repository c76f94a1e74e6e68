//! One weighing on a scale.

use super::{Band, Weight, WeightSource};
use crate::quantity::{Mass, div_half_even};

/// The step of a scale of which nothing is known: a kitchen scale's.
pub const DEFAULT_STEP: Mass = Mass::from_mg(1_000);

/// Above this a scale is trusted to half a per cent at best (section 2 of the rules).
const HEAVY: Mass = Mass::from_mg(2_000_000);

/// What a scale showed, for some pieces on it at a time.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Weighing {
    /// All pieces together, without what they lay in.
    pub total: Mass,
    /// Pieces on the scale; at least 1.
    pub pieces: u32,
    /// The scale's step.
    pub step: Mass,
}

impl Weighing {
    /// One piece: the total over the pieces, half to even to the milligram.
    pub fn unit(self) -> Mass {
        per_piece(self.total, self.pieces)
    }

    /// Half the width of the doubt of one piece: the scale's step, at least 0.5 % of a total above 2 kg, over the pieces.
    pub fn half_width(self) -> Mass {
        let share = if self.total > HEAVY { Mass::from_mg(self.total.mg() / 200) } else { Mass::ZERO };
        per_piece(self.step.max(share), self.pieces)
    }

    /// The figure that it gives for one piece: as `typed` if one was weighed, else the share in grams.
    pub fn weight(self, typed: &str) -> Weight {
        let typed = if self.pieces == 1 { typed.to_owned() } else { self.unit().in_grams() };
        Weight { unit: self.unit(), typed, source: WeightSource::Weighed, band: Some(Band::even(self.half_width())) }
    }
}

/// A share of what several pieces weigh, half to even to the milligram.
pub(super) fn per_piece(total: Mass, pieces: u32) -> Mass {
    let mg = div_half_even(i128::from(total.mg()), i128::from(pieces.max(1)));
    // A part of an i64 is one.
    Mass::from_mg(i64::try_from(mg).unwrap_or(i64::MAX))
}
