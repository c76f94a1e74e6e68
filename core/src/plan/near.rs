//! Near misses: the net cost at which each open swap would come into the plan, or fall out of it.
//!
//! Each is a search or two with the swap made, or not made, whatever it costs. Most of them are answered all at once; for the others the
//! frontier has sets that answer them well enough to begin with, and multipliers of one search do for the next.

use super::frontier::Frontier;
use super::model::{Reduced, reduced};
use super::{Answer, Outcome, Plan, Problem, Ready};
use crate::limits;
use crate::quantity::Money;
use crate::swap::{Swap, SwapState};
use kevyt_solver::{Best, Forced, Least, Limits, Objective, Solver, Stopped, Work};
use std::collections::HashMap;

/// The break-even price of a swap: what it takes for it to come into a plan, or to drop out.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BreakEven {
    /// At this net cost it comes in (if it is not in the plan) or falls out.
    At(Money),
    /// Nothing works without it, whatever it costs.
    Needed,
    /// Nothing works with it, whatever it costs.
    Never,
}

/// An open swap and what it takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NearMiss {
    /// The swap.
    pub swap: usize,
    /// What it takes.
    pub break_even: BreakEven,
}

/// What ends at a break-even price, for a swap of the plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum EndedBy {
    /// Another set is better from there on.
    Others,
    /// The budget ends there.
    Budget,
}

/// The break-even price of a swap, as a net cost: the one at which it comes in, or up to which it stays in a plan, the budget minded, and what ends
/// it. `None` where nothing works without it or with it, and where only a budget would end it and there is none.
pub fn break_even_price(problem: &Problem, plan: &Plan, near: &NearMiss, net_now: Money) -> Option<(Money, EndedBy)> {
    let BreakEven::At(at) = near.break_even else { return None };
    let is_in = plan.swaps.as_ref().is_some_and(|swaps| swaps.contains(&near.swap));
    let budget = Some(problem.budget).filter(|budget| budget.minor() < limits::MONEY_MINOR);
    if plan.outcome != Outcome::TargetMet {
        return budget.map(|_| (at, if is_in { EndedBy::Budget } else { EndedBy::Others }));
    }
    let left = budget.filter(|_| is_in).map(|budget| net_now + (budget - plan.net));
    Some(left.filter(|left| *left < at).map_or((at, EndedBy::Others), |left| (left, EndedBy::Budget)))
}

/// Which way a swap's price would have to move to change the plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[cfg_attr(feature = "schema", derive(serde::Serialize, utoipa::ToSchema), serde(rename_all = "snake_case"))]
pub enum Side {
    /// It comes in below the break-even price.
    BuyBelow,
    /// It drops out above it.
    DropAbove,
}

/// Which way the price of a swap would have to move to the net cost `at`; `None` where no price does, such as one below nothing. `price_at` is
/// that of its one new thing there.
pub fn side(is_in: bool, net_now: Money, at: Money, price_at: Option<Money>) -> Option<Side> {
    if is_in {
        return (at > net_now).then_some(Side::DropAbove);
    }
    (at < net_now && price_at.is_none_or(|price| price > Money::ZERO)).then_some(Side::BuyBelow)
}

/// The price of one piece now, and at a net cost of the swap, with resale, delivery and hours as they are: whole minor units that are enough.
/// `None` where other than one thing with a price goes on.
pub fn price_at(swap: &Swap, net_now: Money, at: Money) -> Option<(Money, Money)> {
    let [one] = swap.add.as_slice() else { return None };
    let now = one.price?.expected();
    let more = (at - net_now).minor().div_euclid(i64::from(one.qty.max(1)));
    Some((now, now + Money::from_minor(more)))
}

/// The near misses of an answer, in the order of ids. None if the list is at the target already, if pins clash, or while the plan is not proved;
/// of a search that is stopped, those known by then.
pub fn near_misses(
    ready: &Ready<'_>,
    answer: &Answer,
    limits: &Limits,
    should_stop: &dyn Fn() -> bool,
) -> Vec<NearMiss> {
    let is_open =
        matches!(answer.plan.outcome, Outcome::TargetMet | Outcome::OverBudget { .. } | Outcome::OutOfReach { .. });
    let mut work = Work::new(limits, should_stop);
    let (Some(planned), true, Some(reduced)) = (&answer.plan.swaps, is_open, reduced(ready, &mut work)) else {
        return Vec::new();
    };
    if answer.plan.gap.is_some() {
        return Vec::new();
    }
    let swaps = &ready.problem().swaps;
    let mut open: Vec<usize> = (0..swaps.len())
        .filter(|&swap| swaps[swap].state == SwapState::Open && ready.worths()[swap].complete().is_some())
        .collect();
    open.sort_by(|&a, &b| swaps[a].id.cmp(&swaps[b].id));
    let near = Near::new(ready, answer, &reduced);
    let mut found = Vec::with_capacity(open.len());
    // Stopped, it has what it has.
    let _: Result<(), Stopped> = near.break_evens(&open, planned, &mut found, &mut work.again());
    found
}

struct Near<'n, 'a> {
    ready: &'n Ready<'a>,
    answer: &'n Answer,
    reduced: &'n Reduced,
    solver: Solver<'n>,
    /// The variable of each swap that may still be made.
    variable: Vec<Option<usize>>,
    /// By point of the frontier and variable: whether it is made there.
    made: Vec<Vec<bool>>,
    /// The cheapest set within a mass, with a swap or without, where it is known already.
    known: HashMap<(i64, Forced), i64>,
}

/// A figure that is the least for a search: cost and mass.
type Figures = (i64, i64);

impl<'n, 'a> Near<'n, 'a> {
    fn new(ready: &'n Ready<'a>, answer: &'n Answer, reduced: &'n Reduced) -> Near<'n, 'a> {
        let model = &reduced.model;
        let mut variable = vec![None; ready.problem().swaps.len()];
        for (at, swap) in model.swaps.iter().enumerate().filter_map(|(at, one)| Some((at, one.swap?))) {
            variable[swap] = Some(at);
        }
        let frontier: &Frontier = &answer.frontier;
        let made = (0..frontier.points().len()).map(|at| {
            let mut made = vec![false; model.swaps.len()];
            frontier.swaps(at).into_iter().filter_map(|swap| variable[swap]).for_each(|variable| made[variable] = true);
            made
        });
        let words = model.words();
        Near {
            ready,
            answer,
            reduced,
            solver: Solver::new(model, words),
            made: made.collect(),
            known: HashMap::new(),
            variable,
        }
    }

    fn break_evens(
        mut self,
        open: &[usize],
        planned: &[usize],
        found: &mut Vec<NearMiss>,
        work: &mut Work<'_>,
    ) -> Result<(), Stopped> {
        let met = self.answer.plan.outcome == Outcome::TargetMet;
        // What is asked about most swaps is asked about all of them at once.
        let variables: Vec<(usize, bool)> =
            open.iter().filter_map(|swap| Some((self.variable[*swap]?, planned.contains(swap)))).collect();
        let masses = if met { vec![self.mass_of_target()] } else { vec![self.planned().1, self.planned().1 - 1] };
        let wanted =
            variables.into_iter().filter(|(_, is_in)| met || !is_in).map(|(variable, is_in)| (variable, !is_in));
        let wanted: Vec<Forced> = wanted.collect();
        for mass in masses {
            let costs = self.solver.each(mass, &wanted, work)?;
            let found = wanted.iter().zip(costs).filter_map(|(only, cost)| Some(((mass, *only), cost?)));
            self.known.extend(found);
        }
        for &swap in open {
            let break_even = match (self.variable[swap], planned.contains(&swap)) {
                // No allowed set has it.
                (None, _) => BreakEven::Never,
                (Some(variable), is_in) if met => self.to_the_target(variable, is_in, work)?,
                (Some(variable), is_in) => self.to_the_lightest(variable, is_in, work)?,
            };
            found.push(NearMiss { swap, break_even });
        }
        Ok(())
    }

    fn mass_of_target(&self) -> i64 {
        (self.ready.problem().target - self.ready.base()).mg() - self.reduced.pinned_mass
    }

    fn budget(&self) -> i64 {
        self.ready.problem().budget.minor() - self.reduced.pinned_cost
    }

    /// The plan's own figures, as the model has them.
    fn planned(&self) -> Figures {
        let plan = &self.answer.plan;
        (plan.net.minor() - self.reduced.pinned_cost, (plan.base - self.ready.base()).mg() - self.reduced.pinned_mass)
    }

    /// The best allowed set in one figure within a limit of the other, with a swap or without.
    fn best(&self, least: Least, limit: i64, only: Forced, work: &mut Work<'_>) -> Result<Option<Figures>, Stopped> {
        let points = self.answer.frontier.points().iter().zip(&self.made);
        let known = points.filter(|(_, made)| made[only.0] == only.1).map(|(point, _)| Best {
            cost: point.net.minor() - self.reduced.pinned_cost,
            mass: (point.base - self.ready.base()).mg() - self.reduced.pinned_mass,
            made: 0,
            set: Vec::new(),
        });
        let known = match least {
            Least::Cost => known.filter(|best| best.mass <= limit).min_by_key(|best| (best.cost, best.mass)),
            Least::Mass => known.filter(|best| best.cost <= limit).min_by_key(|best| (best.mass, best.cost)),
        };
        let solution = self.solver.solve_with(Objective { least, limit }, Some(only), known, work);
        if solution.bound.is_some() { Err(Stopped) } else { Ok(solution.best.map(|best| (best.cost, best.mass))) }
    }

    /// What the cheapest allowed set within a mass costs, with a swap or without.
    fn cheapest(&self, mass: i64, only: Forced, work: &mut Work<'_>) -> Result<Option<i64>, Stopped> {
        match self.known.get(&(mass, only)) {
            Some(cost) => Ok(Some(*cost)),
            None => Ok(self.best(Least::Cost, mass, only, work)?.map(|(cost, _)| cost)),
        }
    }

    /// At a plan that meets the target: the cheapest to the target without it, less the cheapest to the target with it at no cost.
    fn to_the_target(&self, variable: usize, is_in: bool, work: &mut Work<'_>) -> Result<BreakEven, Stopped> {
        let Some(other) = self.cheapest(self.mass_of_target(), (variable, !is_in), work)? else {
            return Ok(if is_in { BreakEven::Needed } else { BreakEven::Never });
        };
        let planned = self.planned().0;
        let (without, with) = if is_in { (other, planned) } else { (planned, other) };
        Ok(self.at(without - with, variable))
    }

    /// At any other plan: the most that it may cost for the lightest set within the budget to have it.
    fn to_the_lightest(&self, variable: usize, is_in: bool, work: &mut Work<'_>) -> Result<BreakEven, Stopped> {
        let without =
            if is_in { self.best(Least::Mass, self.budget(), (variable, false), work)? } else { Some(self.planned()) };
        let Some((cost, mass)) = without else { return Ok(BreakEven::Needed) };
        let lighter = self.cheapest(mass - 1, (variable, true), work)?;
        let as_light = self.cheapest(mass, (variable, true), work)?;
        let ways = [lighter.map(|with| self.budget() - with), as_light.map(|with| cost - with)];
        let most = ways.into_iter().flatten().max();
        Ok(most.map_or(BreakEven::Never, |most| self.at(most, variable)))
    }

    /// `more` than it costs now.
    fn at(&self, more: i64, variable: usize) -> BreakEven {
        let swap = self.reduced.model.swaps[variable].swap;
        let now = swap.and_then(|swap| self.ready.worths()[swap].net).unwrap_or_default();
        BreakEven::At(Money::from_minor(more) + now)
    }
}
