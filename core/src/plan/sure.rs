//! How sure each point of a frontier is, which is the first that makes the target nine times in ten, and what not knowing a weight costs.

use super::chance::Carried;
use super::{Frontier, Ready};
use crate::gear::{WeightSource, root_up, square};
use crate::list::LineId;
use crate::quantity::{Mass, Money};

/// The chance that is asked of a plan that is sure: nine times in ten.
pub const SURE: f64 = 0.9;

/// Things of which it is asked what not knowing them costs: those that err most.
const DOUBTS: usize = 40;

/// How sure a point is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PointChance {
    /// The chance that its base weight is at or under the target, within a hundredth.
    pub chance: f64,
    /// From where to where its base weight likely lies: errors that are independent of one another.
    pub likely: (Mass, Mass),
    /// What it weighs if everything is as heavy as it may be.
    pub worst: Mass,
}

/// How sure the points of a frontier are.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Sureness {
    /// Each point's; empty if a carried weight is unknown, or there was no time for all.
    pub points: Vec<PointChance>,
    /// What not knowing things costs, dearest first: by how much cheaper the first point of nine chances in ten would be if the thing weighed
    /// what is expected of it, for certain.
    pub doubts: Vec<(LineId, Money)>,
}

impl Sureness {
    /// The first point with at least so much of a chance. A set beside the frontier may be as sure for less.
    pub fn first(&self, chance: f64) -> Option<usize> {
        self.points.iter().position(|point| point.chance >= chance)
    }
}

/// How sure the points of a frontier are, as far as there is time.
pub fn sureness(ready: &Ready<'_>, frontier: &Frontier, should_stop: &dyn Fn() -> bool) -> Sureness {
    let target = ready.problem().target;
    let carried = |at: usize| Carried::after(ready.problem(), &frontier.swaps(at)).filter(|_| !should_stop());
    let mut sure = Sureness::default();
    for (at, point) in frontier.points().iter().enumerate() {
        let Some(after) = carried(at) else { return Sureness::default() };
        sure.points.push(PointChance {
            chance: after.roughly_at_or_under(target),
            likely: likely(point.base, &after),
            worst: worst(point.base, &after),
        });
    }
    let Some(first) = sure.first(SURE) else { return sure };
    let mut doubtful = doubtful(ready);
    for at in 0..first {
        let Some(after) = carried(at).filter(|_| !doubtful.is_empty()) else { break };
        let saved = frontier.points()[first].net - frontier.points()[at].net;
        doubtful.retain(|&line| {
            let is_sure =
                !should_stop() && after.knowing(line).is_some_and(|after| after.roughly_at_or_under(target) >= SURE);
            sure.doubts.extend(is_sure.then(|| (line.clone(), saved)));
            !is_sure
        });
    }
    sure.doubts.sort_by_key(|(_, costs)| -costs.minor());
    sure
}

/// From where to where it likely lies: around the figure as stated, whichever counts.
fn likely(base: Mass, carried: &Carried<'_>) -> (Mass, Mass) {
    let (mut stated, mut below, mut above) = (base, 0, 0);
    for (_, known, pieces) in &carried.things {
        let times = |mass: Mass| Mass::from_mg(mass.mg() * pieces);
        stated = stated + times(known.stated - known.unit);
        below += square(times((known.low() - known.stated).min(Mass::ZERO)));
        above += square(times((known.high() - known.stated).max(Mass::ZERO)));
    }
    (stated - root_up(below), stated + root_up(above))
}

/// What it weighs with everything as heavy as it may be.
fn worst(base: Mass, carried: &Carried<'_>) -> Mass {
    let over = carried.things.iter().map(|(_, known, pieces)| Mass::from_mg(known.band.high.mg() * pieces));
    over.fold(base, |sum, over| sum + over)
}

/// The carried lines that nobody has weighed, those that err most first.
fn doubtful<'p>(ready: &Ready<'p>) -> Vec<&'p LineId> {
    let lines = ready.problem().lines.iter().filter(|line| line.counts.carried > 0);
    let mut wide: Vec<(i64, &LineId)> = lines
        .filter_map(|line| {
            let known = line.weight.filter(|known| known.source != Some(WeightSource::Weighed))?;
            let width = (known.band.high - known.band.low).mg() * i64::from(line.counts.carried);
            (width > 0).then_some((width, &line.id))
        })
        .collect();
    wide.sort_by_key(|(width, _)| -width);
    wide.into_iter().take(DOUBTS).map(|(_, line)| line).collect()
}
