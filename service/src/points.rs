//! The points of a frontier that are given, and what is chosen at each.

use kevyt_core::plan::{Answer, BuyingOrder, Point};

/// The most points of the frontier that are given; of a longer one, every n-th and the plan's own.
const MOST_POINTS: usize = 1_500;

/// The points of a frontier that are given.
pub(super) fn shown(answer: &Answer) -> impl Iterator<Item = usize> {
    let (all, plan) = (answer.frontier.points(), &answer.plan);
    every_so_many(all.len(), |at| (all[at].net, all[at].base) == (plan.net, plan.base))
}

/// Of so many points of a frontier those that are given.
pub(super) fn every_so_many(points: usize, is_plan: impl Fn(usize) -> bool) -> impl Iterator<Item = usize> {
    let every = points.div_ceil(MOST_POINTS).max(1);
    (0..points).filter(move |at| at % every == 0 || at + 1 == points || is_plan(*at))
}

pub(super) fn point(answer: &Answer, order: &BuyingOrder<'_, '_>, at: usize) -> (Point, Vec<usize>) {
    (answer.frontier.points()[at], order.of(&answer.frontier.swaps(at)))
}
