//! The plan: what the frontier says to a target and a budget.

use super::Meet;
use super::frontier::WithoutMeet;
use super::{Frontier, Gap, Ready};
use crate::gear::Job;
use crate::quantity::{Mass, Money};
use crate::swap::SwapState;

/// How the question comes out.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Outcome {
    /// The list is at or under the target as it is, and nothing is pinned.
    AlreadyMet,
    /// The plan is the cheapest set at or under the target.
    TargetMet,
    /// The target can be reached, for `more` money than the budget; the plan is the lightest set within it.
    OverBudget {
        /// What is missing.
        more: Money,
    },
    /// No set reaches the target; the plan is the lightest within the budget.
    OutOfReach {
        /// The lightest base weight that these swaps allow at any price.
        lightest: Mass,
    },
    /// The pinned swaps can't be made within the rules and the budget.
    PinsClash {
        /// Those that clash, as indexes of swaps.
        pins: Vec<usize>,
        /// If it is the money: the least that a set with all of them costs.
        least: Option<Money>,
        /// If it is a job: the one that would fall shorter than today.
        job: Option<Job>,
    },
    /// No allowed set leaves nothing short of all that is to be met, though some are allowed otherwise.
    Unmet {
        /// What no set meets even alone; or all of it, where each can be met but not all together.
        unmet: Vec<Meet>,
    },
    /// What is to be met can be, for `more` money than the budget; without it, some set is within the budget.
    TooDear {
        /// What is missing.
        more: Money,
    },
    /// A limit ended the search before it was known; the plan is the best set found, if any was.
    Unresolved,
}

/// The plan for one target and budget.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Plan {
    /// How it comes out.
    pub outcome: Outcome,
    /// The swaps to make, as indexes in the order of their ids; `None` if there is no plan.
    pub swaps: Option<Vec<usize>>,
    /// What they cost.
    pub net: Money,
    /// The base weight after them.
    pub base: Mass,
    /// How far the base weight stays above the target.
    pub short_by: Mass,
    /// How far the plan may be from the best; `None` if it is proved.
    pub gap: Option<Gap>,
}

pub(super) fn read(ready: &Ready<'_>, frontier: &Frontier, target: Mass, budget: Money) -> Plan {
    let pinned = pinned(ready);
    if pinned.is_empty() && ready.base() <= target && super::check::Checker::new(ready).allowed(&[]).is_ok() {
        let base = ready.base();
        return Plan {
            outcome: Outcome::AlreadyMet,
            swaps: Some(Vec::new()),
            net: Money::ZERO,
            base,
            short_by: Mass::ZERO,
            gap: None,
        };
    }
    let no_plan = |outcome| Plan {
        outcome,
        swaps: None,
        net: Money::ZERO,
        base: ready.base(),
        short_by: (ready.base() - target).max(Mass::ZERO),
        gap: None,
    };
    let (Some(first), Some(last)) = (frontier.points().first(), frontier.points().last()) else {
        if !frontier.is_proved() {
            return no_plan(Outcome::Unresolved);
        }
        match &frontier.without_meet {
            Some(WithoutMeet { cheapest: Some(_), unmet }) => {
                return no_plan(Outcome::Unmet { unmet: unmet.clone() });
            }
            None if !ready.problem().terms.meet.is_empty() => return no_plan(Outcome::Unresolved),
            _ => {}
        }
        let (pins, job) = clashing(ready, &pinned);
        return no_plan(Outcome::PinsClash { pins, least: None, job });
    };
    let reach = frontier.cheapest_at_or_under(target);
    let Some(within) = frontier.lightest_within(budget) else {
        if frontier.may_afford(budget) {
            return no_plan(Outcome::Unresolved);
        }
        let least = match &frontier.without_meet {
            Some(without) if without.cheapest.is_some_and(|cheapest| cheapest <= budget) => {
                return no_plan(Outcome::TooDear { more: first.net - budget });
            }
            None if !ready.problem().terms.meet.is_empty() => return no_plan(Outcome::Unresolved),
            Some(without) => without.cheapest.unwrap_or(first.net),
            None => first.net,
        };
        return no_plan(Outcome::PinsClash { pins: pinned, least: Some(least), job: None });
    };
    let (at, outcome) = match reach {
        Some(at) if frontier.points()[at].net <= budget => (at, Outcome::TargetMet),
        Some(at) => (within, Outcome::OverBudget { more: frontier.points()[at].net - budget }),
        None if frontier.may_reach(target) || frontier.may_be_lighter() => (within, Outcome::Unresolved),
        None => (within, Outcome::OutOfReach { lightest: last.base }),
    };
    let point = frontier.points()[at];
    Plan {
        outcome,
        swaps: Some(frontier.swaps(at)),
        net: point.net,
        base: point.base,
        short_by: (point.base - target).max(Mass::ZERO),
        gap: frontier.gap(at),
    }
}

fn pinned(ready: &Ready<'_>) -> Vec<usize> {
    let swaps = ready.problem().swaps.iter().enumerate();
    swaps.filter(|(_, swap)| swap.state == SwapState::Pinned).map(|(index, _)| index).collect()
}

/// The pins to name when no allowed set has them all: those with an unknown figure, else those in a condition that can't
/// hold, with the job if it is one, else (they clash only through several conditions at once) all of them.
fn clashing(ready: &Ready<'_>, pinned: &[usize]) -> (Vec<usize>, Option<Job>) {
    let incomplete: Vec<usize> =
        pinned.iter().copied().filter(|&pin| ready.worths()[pin].complete().is_none()).collect();
    if !incomplete.is_empty() {
        return (incomplete, None);
    }
    let against = super::model::pins_against_a_constraint(ready).filter(|(pins, _)| !pins.is_empty());
    against.map_or_else(|| (pinned.to_vec(), None), |(pins, job)| (pins, job.cloned()))
}
