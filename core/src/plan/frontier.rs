//! The Pareto frontier, from the cheapest allowed set to the lightest.

use super::Meet;
use super::model::Reduced;
use super::subject::Subject;
use crate::quantity::{Mass, Money};
use kevyt_solver::{Labels, Swept, bits};

/// What one set of swaps costs and where it gets the base weight.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Point {
    /// Net cost.
    pub net: Money,
    /// Base weight after.
    pub base: Mass,
}

/// Every allowed set that no other beats in net cost and base weight, cheapest first.
///
/// Between sets with equal figures: fewer swaps, then the smaller sorted list of ids.
#[derive(Debug, Clone)]
pub struct Frontier {
    points: Vec<Point>,
    words: usize,
    sets: Vec<u64>,
    /// The swap (index in the problem) of each bit of a set.
    swap_of_bit: Vec<usize>,
    pinned: Vec<usize>,
    /// The place of each swap of the problem in the order of ids.
    place_of: Vec<usize>,
    bound: Option<Vec<Point>>,
    /// What there would be without what is to be met, where none that meets it is known within the budget.
    pub(super) without_meet: Option<WithoutMeet>,
}

/// What there would be if nothing were to be met.
#[derive(Debug, Clone)]
pub(super) struct WithoutMeet {
    /// What the cheapest allowed set costs; `None` if none is allowed either.
    pub cheapest: Option<Money>,
    /// What no set meets even alone, or else, where no set meets all of it, all of it.
    pub unmet: Vec<Meet>,
}

/// What may still be found by a search that was ended early: no allowed set is better than the plan by more than this.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Gap {
    /// Grams that may still be saved within the same money.
    pub mass: Mass,
    /// Money that may still be saved at the same base weight.
    pub money: Money,
}

impl Frontier {
    pub(super) fn none() -> Frontier {
        Frontier {
            points: Vec::new(),
            words: 0,
            sets: Vec::new(),
            swap_of_bit: Vec::new(),
            pinned: Vec::new(),
            place_of: Vec::new(),
            bound: None,
            without_meet: None,
        }
    }

    /// A frontier that is whole; `used` says which variable each bit of its sets stands for.
    pub(super) fn proved(subject: &impl Subject, reduced: &Reduced, used: &[usize], sets: &Labels) -> Frontier {
        let figures = sets.cost.iter().zip(&sets.mass);
        let points = figures.map(|(cost, mass)| point(subject.base(), reduced, *cost, *mass)).collect();
        let swap_of_bit = used.iter().filter_map(|&variable| reduced.model.swaps[variable].swap).collect();
        Frontier {
            points,
            words: sets.words,
            sets: sets.sets.clone(),
            swap_of_bit,
            ..Frontier::empty(subject, reduced)
        }
    }

    /// What is known of a frontier.
    pub(super) fn swept(subject: &impl Subject, reduced: &Reduced, swept: &Swept) -> Frontier {
        let bound = swept.bound(&reduced.model);
        let points = |figures: Vec<(i64, i64)>| -> Vec<Point> {
            figures.into_iter().map(|(cost, mass)| point(subject.base(), reduced, cost, mass)).collect()
        };
        let swap_of_bit: Vec<usize> = reduced.model.swaps.iter().map_while(|variable| variable.swap).collect();
        let allowed = subject.checker();
        let known = swept.known(|found| {
            let made = bits(&found.set).map(|bit| swap_of_bit[bit]);
            let set: Vec<usize> = made.chain(reduced.pinned.iter().copied()).collect();
            let figures = allowed(&set).ok()?;
            let mass = (figures.base - subject.base()).mg() - reduced.pinned_mass;
            Some((figures.net.minor() - reduced.pinned_cost, mass))
        });
        Frontier {
            points: points(known.iter().map(|set| (set.cost, set.mass)).collect()),
            words: reduced.model.words(),
            sets: known.iter().flat_map(|set| set.set.iter().copied()).collect(),
            swap_of_bit,
            bound: bound.map(points),
            ..Frontier::empty(subject, reduced)
        }
    }

    fn empty(subject: &impl Subject, reduced: &Reduced) -> Frontier {
        let swaps = subject.swaps();
        let mut by_id: Vec<usize> = (0..swaps.len()).collect();
        by_id.sort_by(|&a, &b| swaps[a].id.cmp(&swaps[b].id));
        let mut place_of = vec![0; swaps.len()];
        by_id.iter().enumerate().for_each(|(place, &swap)| place_of[swap] = place);
        Frontier { pinned: reduced.pinned.clone(), place_of, ..Frontier::none() }
    }

    /// The points, cheapest first: cost rises and base weight falls.
    pub fn points(&self) -> &[Point] {
        &self.points
    }

    /// The set at a point: indexes of swaps in the problem, in the order of their ids.
    pub fn swaps(&self, at: usize) -> Vec<usize> {
        let set = &self.sets[at * self.words..(at + 1) * self.words];
        let mut swaps: Vec<usize> =
            bits(set).map(|bit| self.swap_of_bit[bit]).chain(self.pinned.iter().copied()).collect();
        // Bits stand in the order of ids already; pinned swaps have to be put between.
        if !self.pinned.is_empty() {
            swaps.sort_by_key(|&swap| self.place_of[swap]);
        }
        swaps
    }

    /// Whether every point is proved to be beaten by no allowed set.
    pub fn is_proved(&self) -> bool {
        self.bound.is_none()
    }

    /// The cheapest point at or under a base weight.
    pub fn cheapest_at_or_under(&self, base: Mass) -> Option<usize> {
        cheapest_at_or_under(&self.points, base)
    }

    /// The lightest point within an amount of money.
    pub fn lightest_within(&self, budget: Money) -> Option<usize> {
        lightest_within(&self.points, budget)
    }

    /// How far the point at `at` may be from the best, or `None` if it is proved.
    pub fn gap(&self, at: usize) -> Option<Gap> {
        let bound = self.bound.as_ref()?;
        let point = self.points[at];
        let lightest = lightest_within(bound, point.net).map_or(point.base, |at| bound[at].base);
        let cheapest = cheapest_at_or_under(bound, point.base).map_or(point.net, |at| bound[at].net);
        let gap = Gap { mass: point.base - lightest, money: point.net - cheapest };
        (gap.mass > Mass::ZERO || gap.money > Money::ZERO).then_some(gap)
    }

    /// Whether a set at or under a base weight may still be found where none is known.
    pub(super) fn may_reach(&self, base: Mass) -> bool {
        self.bound.as_ref().is_some_and(|bound| cheapest_at_or_under(bound, base).is_some())
    }

    /// Whether a set within an amount of money may still be found where none is known.
    pub(super) fn may_afford(&self, budget: Money) -> bool {
        self.bound.as_ref().is_some_and(|bound| lightest_within(bound, budget).is_some())
    }

    /// Whether a set that is lighter than the lightest known may still be found.
    pub(super) fn may_be_lighter(&self) -> bool {
        let lightest = |points: &[Point]| points.last().map(|point| point.base);
        self.bound.as_ref().is_some_and(|bound| lightest(bound) < lightest(&self.points))
    }
}

fn point(base: Mass, reduced: &Reduced, cost: i64, mass: i64) -> Point {
    Point { net: Money::from_minor(cost + reduced.pinned_cost), base: base + Mass::from_mg(mass + reduced.pinned_mass) }
}

fn cheapest_at_or_under(points: &[Point], base: Mass) -> Option<usize> {
    let at = points.partition_point(|point| point.base > base);
    (at < points.len()).then_some(at)
}

fn lightest_within(points: &[Point], budget: Money) -> Option<usize> {
    points.partition_point(|point| point.net <= budget).checked_sub(1)
}
