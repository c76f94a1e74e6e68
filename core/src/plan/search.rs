//! The search: by labels, the frontier of each component, block by block, and the sum of the components; where sets are coupled too much
//! for that, by branch and bound ([`super::sweep`]).

use super::blocks::{Component, components};
use super::check::Checker;
use super::frontier::Frontier;
use super::labels::{Labels, bits};
use super::model::{Model, model};
use super::ranking_alone::RankingAlone;
use super::solver::{Best, Least, NO_LIMIT, Objective, Solver};
use super::stages::Stages;
use super::subject::Subject;
use super::sweep::sweep;
use super::work::{Stopped, Work};
use super::{Limits, Ready};
use crate::quantity::{Mass, Money};
use std::collections::HashSet;

/// Steps that labels with conditions open may take: about a fifth of a second. Where they don't do, branch and bound is quicker.
const COUPLED: usize = 40_000_000;

/// The frontier of a problem; `alone` is what the ranking alone buys.
pub(super) fn frontier(
    ready: &Ready<'_>,
    alone: &RankingAlone,
    limits: &Limits,
    should_stop: &dyn Fn() -> bool,
) -> Frontier {
    let mut work = Work::new(limits, should_stop);
    let Some(model) = model(ready, &mut work) else {
        return Frontier::none();
    };
    let problem = ready.problem();
    let known = || by_ranking(ready, alone, &model, model.words());
    pareto_frontier(ready, &model, (problem.target, problem.budget), known, &mut work)
}

/// The frontier of a model. Where labels don't do, the cheapest set at or under the target and the lightest within the budget are asked first;
/// `known` is a set to begin with.
pub(super) fn pareto_frontier(
    subject: &impl Subject,
    model: &Model,
    (target, budget): (Mass, Money),
    known: impl FnOnce() -> Option<Best>,
    work: &mut Work<'_>,
) -> Frontier {
    let words = model.words();
    match by_labels(model, words, work) {
        Ok((used, sets)) => Frontier::proved(subject, model, &used, &sets),
        Err(Stopped) => {
            let mass = (target - subject.base()).mg() - model.pinned_mass;
            let cost = budget.minor() - model.pinned_cost;
            let swept = sweep(&Solver::new(model, words), mass, cost, known().as_ref(), &mut work.again());
            Frontier::swept(subject, model, swept)
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
    let Some(model) = model(ready, &mut work) else { return Ok(None) };
    let words = model.words();
    let solution =
        Solver::new(&model, words).solve(Objective { least: Least::Cost, limit: NO_LIMIT }, None, &mut work.again());
    match (solution.best, solution.bound) {
        (best, None) => Ok(best.map(|best| Money::from_minor(best.cost + model.pinned_cost))),
        (_, Some(_)) => Err(Stopped),
    }
}

/// What the ranking alone buys, as the model has it: an allowed set within the budget, to begin with.
fn by_ranking(ready: &Ready<'_>, alone: &RankingAlone, model: &Model, words: usize) -> Option<Best> {
    let swaps = alone.swaps.as_ref()?;
    // It does not mind what is to be met.
    Checker::new(ready).allowed(swaps).ok()?;
    let bought: HashSet<usize> = swaps.iter().copied().collect();
    let mut best = Best {
        cost: alone.net.minor() - model.pinned_cost,
        mass: (alone.base - ready.base()).mg() - model.pinned_mass,
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

/// All of it by labels, and which variables their sets use.
fn by_labels(model: &Model, words: usize, work: &mut Work<'_>) -> Result<(Vec<usize>, Labels), Stopped> {
    let components = components(model, work);
    let mut coupled = work.part(COUPLED, usize::MAX);
    let of_components = components.iter().map(|component| {
        let work = if component.rows.is_empty() { &mut *work } else { &mut coupled };
        of_component(model, component, words, work)
    });
    let mut parts = of_components.collect::<Result<Vec<Labels>, Stopped>>()?;
    parts.sort_by_key(Labels::len);
    let used = compact(&mut parts, words);
    let mut sets = Labels::nothing(used.len().div_ceil(64));
    for part in &parts {
        let moves = part.moves();
        work.fold(sets.len(), false, moves.len())?;
        sets = sets.fold(&moves, &[], work)?;
    }
    Ok((used, sets))
}

fn of_component(model: &Model, component: &Component, words: usize, work: &mut Work<'_>) -> Result<Labels, Stopped> {
    let mut stages = Stages::new(model, component, words);
    let mut sets = Labels::nothing(words);
    for block in 0..component.blocks.len() {
        let (moves, rows) = stages.take(block);
        work.step(rows.len() * moves.len())?;
        work.fold(sets.len(), sets.width > 0, moves.len())?;
        sets = sets.fold(&moves, &rows, work)?;
    }
    Ok(sets)
}

/// Renumbers the bits of all sets so that only variables that some set uses have one. Returns those variables, ascending.
fn compact(parts: &mut [Labels], words: usize) -> Vec<usize> {
    let mut any = vec![0_u64; words];
    for part in parts.iter() {
        for set in (0..part.len()).map(|at| part.set(at)) {
            any.iter_mut().zip(set).for_each(|(any, word)| *any |= word);
        }
    }
    let used: Vec<usize> = bits(&any).collect();
    let fewer = used.len().div_ceil(64);
    for part in parts {
        let mut sets = vec![0_u64; part.len() * fewer];
        for at in 0..part.len() {
            for bit in bits(part.set(at)) {
                let bit = used.partition_point(|&variable| variable < bit);
                sets[at * fewer + bit / 64] |= 1_u64 << (63 - bit % 64);
            }
        }
        (part.sets, part.words) = (sets, fewer);
    }
    used
}
