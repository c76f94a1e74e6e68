//! Trips that were walked, and what they teach: things that were never used or were missed, how cold it may really get, and one's own rates of
//! food, gas, water and power.

mod figure;
mod habits;
mod progress;
mod rates;
mod sleep;

#[cfg(test)]
mod tests;

pub use figure::{WalkFigure, WalkFigureError, take};
pub use habits::{Habit, LEAST_UNUSED, habits};
pub use progress::{Cause, Progress, PutOnWeight, Shed, progress};
pub use rates::{Own, Rates, rates};
pub use sleep::{Offset, Slept, offset, slept};

use crate::caution::UNDERQUILT;
use crate::gear::{Facts, Jobs, Rating, Tags};
use crate::limits;
use crate::trip::Trip;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// What is said of a thing after a trip, beside whether it was used.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Mark {
    /// It stayed home, or is not owned, and was wished for.
    Wished,
    /// It failed.
    Failed,
    /// It was too cold.
    TooCold,
    /// It was too heavy.
    TooHeavy,
    /// It was lent to somebody.
    Lent,
    /// It was lost.
    Lost,
}

/// The judgement on a thing after a trip.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Verdict {
    /// Whether it was used; `None` until somebody says so.
    pub used: Option<bool>,
    /// What else is said of it.
    pub marks: BTreeSet<Mark>,
}

/// A thing on a trip, as it was then. `K` names the gear.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Taken<K> {
    /// The gear; `None` for what is not owned.
    pub gear: Option<K>,
    /// Pieces that came along.
    pub pieces: i64,
    /// Whether it is a bag or quilt that is slept in, and not one that hangs under a hammock.
    pub is_bed: bool,
    /// What was known of it then.
    pub facts: Facts,
    /// What is said of it since.
    pub verdict: Verdict,
}

impl<K> Taken<K> {
    /// Whether a thing with this tag or these jobs is slept in.
    pub fn is_bed(tags: &Tags, provides: &Jobs, facts: &Facts) -> bool {
        !tags.has(UNDERQUILT) && (facts.rating.is_some() || provides.contains_key("sleep_insulation"))
    }

    /// Whether it came along and was used.
    fn was_used(&self) -> bool {
        self.pieces > 0 && self.verdict.used == Some(true)
    }

    fn rating(&self) -> Option<Rating> {
        self.facts.rating.filter(|_| self.is_bed)
    }
}

/// What was met on a trip.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(default, deny_unknown_fields)]
pub struct Met {
    /// The lowest temperature, in tenths of a degree Celsius.
    pub low_tenth_c: Option<i64>,
    /// Whether it rained.
    pub rain: Option<bool>,
    /// The longest stretch without water, in metres.
    pub stretch_m: Option<i64>,
}

/// What was taken of supplies and brought back.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(default, deny_unknown_fields)]
pub struct UsedUp {
    /// What the cans weighed before, in milligrams.
    pub gas_taken_mg: Option<i64>,
    /// And after.
    pub gas_back_mg: Option<i64>,
    /// What was boiled in all, in millilitres; if nobody said, what the trip was planned with.
    pub boiled_ml: Option<i64>,
    /// Food that was taken, resupplies too, in milligrams.
    pub food_taken_mg: Option<i64>,
    /// What came back of it.
    pub food_back_mg: Option<i64>,
    /// What was drunk on the way, in millilitres.
    pub drunk_ml: Option<i64>,
    /// In so many minutes of walking.
    pub walked_min: Option<i64>,
    /// What the banks held at the start, in milliwatt hours of their rating.
    pub power_taken_mwh: Option<i64>,
    /// And at the end.
    pub power_back_mwh: Option<i64>,
}

impl Met {
    /// Whether every figure is one that a trip can have.
    pub fn is_possible(&self) -> bool {
        let within =
            |figure: Option<i64>, (low, high): (i64, i64)| figure.is_none_or(|figure| (low..=high).contains(&figure));
        within(self.low_tenth_c, limits::TENTHS_OF_DEGREE) && within(self.stretch_m, (0, limits::DISTANCE_M))
    }
}

impl UsedUp {
    /// Whether every figure is one that a trip can have.
    pub fn is_possible(&self) -> bool {
        let within =
            |figures: &[Option<i64>], most: i64| figures.iter().flatten().all(|figure| (0..=most).contains(figure));
        within(&[self.gas_taken_mg, self.gas_back_mg, self.food_taken_mg, self.food_back_mg], limits::MASS_MG)
            && within(&[self.boiled_ml, self.drunk_ml], limits::VOLUME_ML)
            && within(&[self.walked_min], limits::WALKED_MIN)
            && within(&[self.power_taken_mwh, self.power_back_mwh], limits::ENERGY_MWH)
    }
}

/// A trip that was walked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Walk<K> {
    /// Nights.
    pub nights: u32,
    /// What was met.
    pub met: Met,
    /// What was used up.
    pub used_up: UsedUp,
    /// What it was planned with.
    pub planned: Option<Trip>,
    /// What came along or was wished for.
    pub things: Vec<Taken<K>>,
}

impl<K> Walk<K> {
    /// Days, a night having two.
    fn days(&self) -> i64 {
        i64::from(self.nights) + 1
    }
}
