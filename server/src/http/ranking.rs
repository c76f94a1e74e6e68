//! A row of the ranking, as it is given.

use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::{Class, Missing};
use kevyt_service::plans::RankedSwap;
use serde::Serialize;
use utoipa::ToSchema;

/// A row of the ranking.
#[derive(Serialize, ToSchema)]
#[schema(as = Ranked)]
pub struct RankedOut {
    swap: usize,
    class: Class,
    place: Option<usize>,
    /// 1 + the swaps that are surely better, and 1 + those that could be.
    best_place: Option<usize>,
    worst_place: Option<usize>,
    /// From where to where what ranks may lie: weights by their doubt, prices by their ranges.
    saving_low_mg: Option<i64>,
    saving_high_mg: Option<i64>,
    net_low_minor: Option<i64>,
    net_high_minor: Option<i64>,
    saving_mg: Option<i64>,
    saving_everything_mg: Option<i64>,
    net_minor: Option<i64>,
    /// What must be known before it can be ranked.
    missing: Vec<String>,
    /// By how many tenths of a degree Celsius a colder night is still comfortable than before; below 0 where it is less. Absent where either side
    /// is not rated.
    #[serde(skip_serializing_if = "Option::is_none")]
    warmth_tenth_c: Option<i64>,
    /// Tenths of R that it gains between the back and the ground, or loses.
    #[serde(skip_serializing_if = "is_zero")]
    ground_tenth_r: i64,
    /// Millilitres of drinking water that it gains, or loses.
    #[serde(skip_serializing_if = "is_zero")]
    water_ml: i64,
    /// What of the trip's asks falls shorter than today with this swap alone: `warmth`, `ground`, or keys of jobs.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    loses: Vec<String>,
}

impl From<RankedSwap> for RankedOut {
    fn from(RankedSwap { row, worth, gains, loses }: RankedSwap) -> RankedOut {
        let word = |missing: Missing| match missing {
            Missing::Weight(name) => format!("weight of {name}"),
            Missing::Price(name) => format!("price of {name}"),
        };
        RankedOut {
            swap: row.swap,
            class: row.class,
            place: row.place.map(|places| places.place),
            best_place: row.place.map(|places| places.best),
            worst_place: row.place.map(|places| places.worst),
            saving_low_mg: worth.range.map(|range| range.saving_low.mg()),
            saving_high_mg: worth.range.map(|range| range.saving_high.mg()),
            net_low_minor: worth.range.map(|range| range.net_low.minor()),
            net_high_minor: worth.range.map(|range| range.net_high.minor()),
            saving_mg: worth.saving.map(Mass::mg),
            saving_everything_mg: worth.saving_everything.map(Mass::mg),
            net_minor: worth.net.map(Money::minor),
            missing: worth.missing.into_iter().map(word).collect(),
            warmth_tenth_c: gains.warmth.filter(|tenths| *tenths != 0),
            ground_tenth_r: gains.ground,
            water_ml: gains.water,
            loses: loses.into_iter().map(String::from).collect(),
        }
    }
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "as serde calls it")]
fn is_zero(amount: &i64) -> bool {
    *amount == 0
}
