//! How sure the points of a plan's frontier are, as it is given.

use kevyt_core::plan::{Point, PointChance};
use kevyt_service::stored::GearId;
use kevyt_service::sure::{Doubt, LEVELS, Sure};
use serde::Serialize;
use utoipa::ToSchema;

/// How sure the points of a frontier are.
#[derive(Serialize, ToSchema)]
#[schema(as = Sure)]
pub struct SureOut {
    /// In the order of the plan's frontier.
    points: Vec<PointChanceOut>,
    /// The first points of the frontier that are at or under the target in 5, 8 and 9 of 10 cases, and at worst; those left out that no point
    /// is. A set beside the frontier may be as sure for less.
    levels: Vec<LevelOut>,
    /// What not knowing things costs, dearest first: by how much cheaper the point of 9 in 10 would be if the thing weighed what is expected of
    /// it, for certain.
    doubts: Vec<DoubtOut>,
}

/// How sure a point is.
#[derive(Serialize, ToSchema)]
#[schema(as = PointChance)]
pub struct PointChanceOut {
    /// In hundredths, within one.
    chance_percent: i64,
    /// From where to where its base weight likely lies: errors that are independent of one another.
    low_mg: i64,
    high_mg: i64,
}

/// The first point of the frontier that is so sure.
#[derive(Serialize, ToSchema)]
#[schema(as = SureLevel)]
pub struct LevelOut {
    /// The chance in hundredths; null for even at worst.
    at_least_percent: Option<i64>,
    net_minor: i64,
    base_mg: i64,
    /// The swaps to make, in buying order.
    swaps: Vec<usize>,
}

/// What not knowing the weight of a thing costs.
#[derive(Serialize, ToSchema)]
#[schema(as = Doubt)]
pub struct DoubtOut {
    line: String,
    gear: GearId,
    name: String,
    costs_minor: i64,
}

impl From<Sure> for SureOut {
    fn from(Sure { points, levels, doubts }: Sure) -> SureOut {
        let point = |PointChance { chance, likely: (low, high), .. }: PointChance| PointChanceOut {
            chance_percent: percent(chance),
            low_mg: low.mg(),
            high_mg: high.mg(),
        };
        let level = |(level, found): (Option<f64>, Option<(Point, Vec<usize>)>)| {
            let (point, swaps) = found?;
            Some(LevelOut {
                at_least_percent: level.map(percent),
                net_minor: point.net.minor(),
                base_mg: point.base.mg(),
                swaps,
            })
        };
        let doubt =
            |Doubt { line, gear, name, costs }: Doubt| DoubtOut { line, gear, name, costs_minor: costs.minor() };
        SureOut {
            points: points.into_iter().map(point).collect(),
            levels: LEVELS.into_iter().zip(levels).filter_map(level).collect(),
            doubts: doubts.into_iter().map(doubt).collect(),
        }
    }
}

/// A chance in whole per cent.
#[allow(
    clippy::as_conversions,
    clippy::cast_possible_truncation,
    clippy::float_arithmetic,
    reason = "a chance is told in tenths"
)]
pub(super) fn percent(chance: f64) -> i64 {
    (chance * 100.0).round() as i64
}
