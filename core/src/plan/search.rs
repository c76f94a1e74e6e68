//! The search: by labels, the frontier of each component, block by block, and the sum of the components; where sets are coupled too much
//! for that, by branch and bound ([`sweep`]).

use super::Ready;
use super::check::Checker;
use super::frontier::Frontier;
use super::model::{Reduced, reduced};
use super::ranking_alone::RankingAlone;
use super::subject::Subject;
use crate::quantity::{Mass, Money};
use kevyt_solver::{Best, Least, Limits, NO_LIMIT, Objective, Solver, Stopped, Work, by_labels, sweep};
use std::collections::HashSet;

/// The frontier of a problem; `alone` is what the ranking alone buys.
pub(super) fn frontier(
    ready: &Ready<'_>,
    alone: &RankingAlone,
    limits: &Limits,
    should_stop: &dyn Fn() -> bool,
) -> Frontier {
    let mut work = Work::new(limits, should_stop);
    let Some(reduced) = reduced(ready, &mut work) else {
        return Frontier::none();
    };
    let problem = ready.problem();
    let known = || by_ranking(ready, alone, &reduced);
    pareto_frontier(ready, &reduced, (problem.target, problem.budget), known, &mut work)
}

/// The frontier of a model. Where labels don't do, the cheapest set at or under the target and the lightest within the budget are asked first;
/// `known` is a set to begin with.
pub(super) fn pareto_frontier(
    subject: &impl Subject,
    reduced: &Reduced,
    (target, budget): (Mass, Money),
    known: impl FnOnce() -> Option<Best>,
    work: &mut Work<'_>,
) -> Frontier {
    let (model, words) = (&reduced.model, reduced.model.words());
    match by_labels(model, words, work) {
        Ok((used, sets)) => Frontier::proved(subject, reduced, &used, &sets),
        Err(Stopped) => {
            let mass = (target - subject.base()).mg() - reduced.pinned_mass;
            let cost = budget.minor() - reduced.pinned_cost;
            let swept = sweep(&Solver::new(model, words), mass, cost, known().as_ref(), &mut work.again());
            Frontier::swept(subject, reduced, &swept)
        }
    }
}

/// What the cheapest allowed set costs, at any budget; `None` if no set is allowed.
pub(super) fn cheapest(
    ready: &Ready<'_>,
    limits: &Limits,
    should_stop: &dyn Fn() -> bool,
) -> Result<Option<Money>, Stopped> {
    let mut work = Work::new(limits, should_stop);
    let Some(Reduced { model, pinned_cost, .. }) = reduced(ready, &mut work) else { return Ok(None) };
    let objective = Objective { least: Least::Cost, limit: NO_LIMIT };
    let solution = Solver::new(&model, model.words()).solve(objective, None, &mut work.again());
    match (solution.best, solution.bound) {
        (best, None) => Ok(best.map(|best| Money::from_minor(best.cost + pinned_cost))),
        (_, Some(_)) => Err(Stopped),
    }
}

/// What the ranking alone buys, as the model has it: an allowed set within the budget, to begin with.
fn by_ranking(ready: &Ready<'_>, alone: &RankingAlone, reduced: &Reduced) -> Option<Best> {
    let swaps = alone.swaps.as_ref()?;
    // It does not mind what is to be met.
    Checker::new(ready).allowed(swaps).ok()?;
    let bought: HashSet<usize> = swaps.iter().copied().collect();
    let (model, words) = (&reduced.model, reduced.model.words());
    let mut best = Best {
        cost: alone.net.minor() - reduced.pinned_cost,
        mass: (alone.base - ready.base()).mg() - reduced.pinned_mass,
        made: 0,
        set: vec![0; words],
    };
    for variable in 0..model.swaps.len() {
        if model.swaps[variable].swap.is_some_and(|swap| bought.contains(&swap)) {
            let (made, set) = model.mark(variable, words);
            best.made += made;
            best.set.iter_mut().zip(set).for_each(|(all, word)| *all |= word);
        }
    }
    Some(best)
}
