//! Which set of swaps: problem → model → search ([`kevyt_solver`]) → frontier → outcome.
//!
//! [`solve`] finds, exactly, every allowed set of swaps that no other beats in both money and base weight, and reads the
//! plan for the target and budget off that frontier. Integers throughout, so "best" is proved, not approximated.

mod chance;
mod check;
mod frontier;
mod keeps;
mod kits;
pub mod lists;
mod load;
mod loses;
mod meets;
mod model;
pub mod months;
mod near;
mod night;
mod order;
mod outcome;
mod parcels;
mod problem;
mod problem_check;
mod ranking_alone;
mod ready;
mod search;
mod subject;
mod sure;
mod target_of;

#[cfg(test)]
mod tests;

pub use chance::chance;
pub use check::{Broken, Verified};
pub use frontier::{Frontier, Gap, Point};
pub use keeps::{keeps, target_without};
pub use kevyt_solver::Limits;
pub use loses::loses;
pub use meets::{Meet, MeetCost, Short, meet_costs, shorts};
pub use near::{BreakEven, EndedBy, NearMiss, Side, break_even_price, near_misses, price_at, side};
pub use night::{Hung, Night, Warmth};
pub use order::BuyingOrder;
pub use outcome::{Outcome, Plan};
pub use problem::{Problem, ProblemError, Purse, Terms};
pub use ranking_alone::RankingAlone;
pub use ready::Ready;
pub use sure::{PointChance, SURE, Sureness, sureness};
pub use target_of::{HeavyFew, TargetOf};

use crate::gear::Counting;
use crate::quantity::{Mass, Money};
use crate::swap::Swap;
use frontier::WithoutMeet;
use std::collections::BTreeSet;

/// The answer to a problem.
#[derive(Debug, Clone)]
pub struct Answer {
    /// Every allowed set that no other beats, cheapest first. Empty if no set is allowed.
    pub frontier: Frontier,
    /// The plan for the problem's target and budget.
    pub plan: Plan,
    /// What buying down the ranking would do.
    pub ranking_alone: RankingAlone,
}

/// The search went wrong in a way that is a fault of Kevyt's, never an answer.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("internal error: an answer failed its own check ({0:?})")]
pub struct Fault(pub Broken);

/// Solves a problem. `should_stop` is asked now and then; once it says yes, the best found so far is returned with an
/// honest gap.
///
/// # Errors
/// [`Fault`] if an answer fails its check against the problem as it was given.
pub fn solve(ready: &Ready<'_>, limits: &Limits, should_stop: &dyn Fn() -> bool) -> Result<Answer, Fault> {
    let problem = ready.problem();
    let ranking_alone = ranking_alone::buy(ready, problem.target, problem.budget);
    let frontier = search::frontier(ready, &ranking_alone, limits, should_stop);
    subject::check_frontier(ready, &frontier).map_err(Fault)?;
    let mut frontier = frontier;
    if !problem.terms.meet.is_empty() && frontier.lightest_within(problem.budget).is_none() {
        frontier.without_meet = without_meet(problem, &frontier, limits, should_stop);
    }
    let plan = plan_for(ready, &frontier, problem.target, problem.budget);
    Ok(Answer { frontier, plan, ranking_alone })
}

/// What there would be if nothing were to be met; `None` if it is not known within the limits.
fn without_meet(
    problem: &Problem,
    frontier: &Frontier,
    limits: &Limits,
    should_stop: &dyn Fn() -> bool,
) -> Option<WithoutMeet> {
    let cheapest = |meet: Vec<Meet>| {
        // Each is a problem made ready anew: the question whether to stop comes first.
        if should_stop() {
            return None;
        }
        let asked = Problem { terms: Terms { meet, ..problem.terms.clone() }, ..problem.clone() };
        search::cheapest(&Ready::new(&asked).ok()?, limits, should_stop).ok()
    };
    let all: BTreeSet<&Meet> = problem.terms.meet.iter().collect();
    let mut unmet = Vec::new();
    if frontier.points().is_empty() {
        for meet in &all {
            if cheapest(vec![(*meet).clone()])?.is_none() {
                unmet.push((*meet).clone());
            }
        }
        if unmet.is_empty() {
            unmet = all.into_iter().cloned().collect();
        }
    }
    unmet.sort_by(|a, b| a.key().cmp(b.key()));
    Some(WithoutMeet { cheapest: cheapest(Vec::new())?, unmet })
}

/// By how much a set of swaps clears the target, counted each way: target − base weight of the list after it.
pub fn clears(ready: &Ready<'_>, set: &[usize]) -> Result<[(Counting, Mass); 3], ProblemError> {
    let problem = ready.problem();
    // What else there is to make says nothing of what the list weighs after these.
    let made = |at: &usize| Swap { requires: Vec::new(), excludes: Vec::new(), ..problem.swaps[*at].clone() };
    let made: Vec<Swap> = set.iter().map(made).collect();
    let every: Vec<usize> = (0..made.len()).collect();
    let mut counted = Problem { swaps: made, ..problem.clone() };
    let mut cleared = Counting::ALL.map(|counting| (counting, Mass::ZERO));
    for (counting, clears) in &mut cleared {
        counted = counted.counted(*counting);
        *clears = problem.target - check::Checker::new(&Ready::new(&counted)?).base_after(&every);
    }
    Ok(cleared)
}

/// Reads the plan for any target and budget off a frontier of the same problem.
pub fn plan_for(ready: &Ready<'_>, frontier: &Frontier, target: Mass, budget: Money) -> Plan {
    outcome::read(ready, frontier, target, budget)
}
