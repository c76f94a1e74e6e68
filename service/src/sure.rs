//! How sure the points of a plan's frontier are.

use super::points::{point, shown};
use kevyt_core::plan::{Answer, BuyingOrder, Point, PointChance, Ready, sureness};
use kevyt_core::quantity::Money;
use kevyt_store::id::GearId;

/// How sure the points of a frontier are.
pub struct Sure {
    /// Of the points that were given, in their order.
    pub points: Vec<PointChance>,
    /// For each of [`LEVELS`], the first point that is so sure, and its swaps in buying order; `None` if no point is.
    pub levels: Vec<Option<(Point, Vec<usize>)>>,
    /// What not knowing things costs, dearest first.
    pub doubts: Vec<Doubt>,
}

/// How sure a plan may be asked to be: a chance, or even at worst.
pub const LEVELS: [Option<f64>; 4] = [Some(0.5), Some(0.8), Some(0.9), None];

/// What not knowing the weight of a thing costs.
pub struct Doubt {
    /// Its line.
    pub line: String,
    /// What it is.
    pub gear: GearId,
    /// Its name.
    pub name: String,
    /// By how much cheaper a plan that is sure would be.
    pub costs: Money,
}

/// How sure the points are; `own` has the lines by their ids, with gear and name.
pub(super) fn sure(
    ready: &Ready<'_>,
    answer: &Answer,
    order: &BuyingOrder<'_, '_>,
    own: &[(String, GearId, String)],
    is_over: &dyn Fn() -> bool,
) -> Option<Sure> {
    let found = sureness(ready, &answer.frontier, is_over);
    let target = ready.problem().target;
    if found.points.is_empty() {
        return None;
    }
    let first = |level: Option<f64>| match level {
        Some(chance) => found.first(chance),
        None => found.points.iter().position(|point| point.worst <= target),
    };
    let doubts = found.doubts.iter().filter_map(|(id, costs)| {
        let (line, gear, name) = own.iter().find(|(line, ..)| *line == id.0)?;
        Some(Doubt { line: line.clone(), gear: *gear, name: name.clone(), costs: *costs })
    });
    Some(Sure {
        points: shown(answer).map(|at| found.points[at]).collect(),
        levels: LEVELS.map(|level| first(level).map(|at| point(answer, order, at))).into(),
        doubts: doubts.collect(),
    })
}
