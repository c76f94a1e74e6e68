//! What it would cost to meet, too, something that is short today.

use super::{Answer, Meet, Options, Outcome, Problem, Ready, Terms, shorts, solve};
use crate::quantity::{Mass, Money};

/// A plan that meets one thing more.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MeetCost {
    /// What it would meet.
    pub meet: Meet,
    /// What would come of it: no set meets it, or only ones beyond the budget, or there is a plan.
    pub outcome: Outcome,
    /// How much more that plan costs, below nothing if it is cheaper; `None` where there is none.
    pub more: Option<Money>,
    /// How much more its base weight is.
    pub heavier: Option<Mass>,
}

/// Of each thing that is short today and not asked to be met yet, what the plan would cost that meets it beside what is. What is not known before
/// it is to stop is left out.
pub fn meet_costs(
    ready: &Ready<'_>,
    answer: &Answer,
    options: &Options,
    should_stop: &dyn Fn() -> bool,
) -> Vec<MeetCost> {
    let problem = ready.problem();
    let mut costs = Vec::new();
    if answer.plan.swaps.is_none() || answer.plan.gap.is_some() {
        return costs;
    }
    for (meet, _) in shorts(ready).into_iter().filter(|(meet, _)| !problem.terms.meet.contains(meet)) {
        let asked = problem.terms.meet.iter().cloned().chain([meet.clone()]).collect();
        let asked = Problem { terms: Terms { meet: asked, ..problem.terms.clone() }, ..problem.clone() };
        // Each is a problem made ready anew: the question whether to stop comes first.
        if should_stop() {
            break;
        }
        let Ok(ready) = Ready::new(&asked) else { continue };
        let Ok(found) = solve(&ready, options, should_stop) else { continue };
        if found.plan.gap.is_some() || found.plan.outcome == Outcome::Unresolved {
            continue;
        }
        let is_plan = found.plan.swaps.is_some();
        costs.push(MeetCost {
            meet,
            outcome: found.plan.outcome,
            more: is_plan.then(|| found.plan.net - answer.plan.net),
            heavier: is_plan.then(|| found.plan.base - answer.plan.base),
        });
    }
    costs
}
