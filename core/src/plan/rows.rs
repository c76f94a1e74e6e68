//! The conditions of an allowed set as rows of integers, reduced to what can still matter.
//!
//! Every condition has one form: slack + Σ coefficient × (1 if the swap is made) ≥ 0.
//!
//! | condition | row |
//! | --- | --- |
//! | a line has only so many pieces in a place | pieces − Σ taken ≥ 0 |
//! | s requires r | made(r) − made(s) ≥ 0 |
//! | s excludes t | 1 − made(s) − made(t) ≥ 0 |
//! | a job's shortfall may not grow | max(0, balance today) + Σ change ≥ 0 |

use super::Ready;
use super::work::Work;
use crate::gear::Job;
use crate::list::{LineId, Place};
use crate::swap::{Swap, SwapState};
use std::collections::{BTreeMap, BTreeSet};

/// One condition over variables (positions in [`Model::swaps`]).
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Row {
    pub slack: i64,
    /// By variable, ascending, no zeros.
    pub terms: Vec<(usize, i64)>,
}

/// A swap that may or may not be made.
#[derive(Debug, Clone, Copy)]
pub(super) struct Variable {
    /// Its index in the problem.
    pub swap: usize,
    pub cost: i64,
    /// Change of base weight, in milligrams.
    pub mass: i64,
}

/// What is left to decide once pinned swaps are made and hopeless ones set aside.
#[derive(Debug)]
pub(super) struct Model {
    /// In the order of their ids, so that comparing sets by position compares them by id.
    pub swaps: Vec<Variable>,
    pub rows: Vec<Row>,
    /// Pinned swaps, as indexes in the problem.
    pub pinned: Vec<usize>,
    pub pinned_cost: i64,
    pub pinned_mass: i64,
}

/// Every condition, over the problem's own swap indexes.
pub(super) fn all_rows(ready: &Ready<'_>) -> Vec<Row> {
    let problem = ready.problem();
    let mut taken: BTreeMap<(&LineId, Place), BTreeMap<usize, i64>> = BTreeMap::new();
    let mut change: BTreeMap<&Job, BTreeMap<usize, i64>> = BTreeMap::new();
    let mut excluded: BTreeSet<(usize, usize)> = BTreeSet::new();
    let mut rows = Vec::new();
    for (index, swap) in problem.swaps.iter().enumerate() {
        for removal in &swap.remove {
            *taken.entry((&removal.line, removal.from)).or_default().entry(index).or_default() -=
                i64::from(removal.qty);
        }
        for (job, amount) in job_changes(ready, swap) {
            change.entry(job).or_default().insert(index, amount);
        }
        for required in swap.requires.iter().filter_map(|id| ready.swap_index(id)) {
            rows.push(row(0, [(index, -1), (required, 1)]));
        }
        for other in swap.excludes.iter().filter_map(|id| ready.swap_index(id)) {
            excluded.insert((index.min(other), index.max(other)));
        }
    }
    rows.extend(excluded.into_iter().map(|(a, b)| row(1, [(a, -1), (b, -1)])));
    rows.extend(taken.into_iter().map(|((line, place), terms)| {
        let there = ready.lines().get(line).map_or(0, |line| line.count(place));
        row(i64::from(there), terms)
    }));
    rows.extend(change.into_iter().map(|(job, terms)| row(balance(ready, job).max(0), terms)));
    rows
}

fn row(slack: i64, terms: impl IntoIterator<Item = (usize, i64)>) -> Row {
    let mut terms: Vec<_> = terms.into_iter().filter(|&(_, coefficient)| coefficient != 0).collect();
    terms.sort_unstable();
    Row { slack, terms }
}

/// Σ provided − Σ needed − required of a job, over the list as it stands.
fn balance(ready: &Ready<'_>, job: &Job) -> i64 {
    let problem = ready.problem();
    let of_lines: i64 = problem
        .lines
        .iter()
        .map(|line| line.pieces() * (line.provides.get(job).unwrap_or(&0) - line.needs.get(job).unwrap_or(&0)))
        .sum();
    of_lines - problem.require.get(job).unwrap_or(&0)
}

/// What making a swap adds to each job's balance.
fn job_changes<'a>(ready: &Ready<'a>, swap: &'a Swap) -> BTreeMap<&'a Job, i64> {
    let mut changes: BTreeMap<&Job, i64> = BTreeMap::new();
    let removed = swap.remove.iter().filter_map(|removal| {
        let line = ready.lines().get(&removal.line)?;
        Some((&line.provides, &line.needs, -i64::from(removal.qty)))
    });
    let added = swap.add.iter().map(|addition| (&addition.provides, &addition.needs, i64::from(addition.qty)));
    for (provides, needs, pieces) in removed.chain(added) {
        for (job, amount) in provides {
            *changes.entry(job).or_default() += pieces * amount;
        }
        for (job, amount) in needs {
            *changes.entry(job).or_default() -= pieces * amount;
        }
    }
    changes
}

/// Builds the model: pins made, hopeless swaps and idle rows dropped. `None` if no set is allowed.
pub(super) fn model(ready: &Ready<'_>, work: &mut Work<'_>) -> Option<Model> {
    let problem = ready.problem();
    let mut alive: Vec<bool> = Vec::with_capacity(problem.swaps.len());
    let (mut pinned, mut pinned_cost, mut pinned_mass) = (Vec::new(), 0, 0);
    for (index, (swap, worth)) in problem.swaps.iter().zip(ready.worths()).enumerate() {
        alive.push(swap.state == SwapState::Open && worth.complete().is_some());
        if swap.state == SwapState::Pinned {
            let (saving, net) = worth.complete()?;
            pinned.push(index);
            pinned_cost += net.minor();
            pinned_mass -= saving.mg();
        }
    }
    let mut rows = all_rows(ready);
    for row in &mut rows {
        make_pinned(row, &pinned, &alive);
    }
    set_aside(&mut rows, &mut alive, work)?;

    let mut kept: Vec<usize> = (0..problem.swaps.len()).filter(|&index| alive[index]).collect();
    kept.sort_by(|&a, &b| problem.swaps[a].id.cmp(&problem.swaps[b].id));
    let mut position = vec![usize::MAX; problem.swaps.len()];
    for (at, &index) in kept.iter().enumerate() {
        position[index] = at;
    }
    for row in &mut rows {
        row.terms.iter_mut().for_each(|(swap, _)| *swap = position[*swap]);
        row.terms.sort_unstable();
    }
    let swaps = kept.into_iter().filter_map(|swap| {
        let (saving, net) = ready.worths()[swap].complete()?;
        Some(Variable { swap, cost: net.minor(), mass: -saving.mg() })
    });
    Some(Model { swaps: swaps.collect(), rows, pinned, pinned_cost, pinned_mass })
}

/// Takes pinned swaps into a row's slack and leaves only swaps that may still be made.
fn make_pinned(row: &mut Row, pinned: &[usize], alive: &[bool]) {
    row.slack += row.terms.iter().filter(|(swap, _)| pinned.binary_search(swap).is_ok()).map(|(_, c)| c).sum::<i64>();
    row.terms.retain(|&(swap, _)| alive[swap]);
}

/// The pinned swaps that count against the first condition which can't hold with all of them, whatever else is made.
pub(super) fn pins_against_a_row(ready: &Ready<'_>) -> Option<Vec<usize>> {
    let swaps = &ready.problem().swaps;
    let pinned: Vec<usize> = (0..swaps.len()).filter(|&index| swaps[index].state == SwapState::Pinned).collect();
    let alive: Vec<bool> = (0..swaps.len())
        .map(|index| swaps[index].state == SwapState::Open && ready.worths()[index].complete().is_some())
        .collect();
    all_rows(ready).into_iter().find_map(|row| {
        let mut left = row.clone();
        make_pinned(&mut left, &pinned, &alive);
        let best = left.slack + left.terms.iter().map(|(_, c)| (*c).max(0)).sum::<i64>();
        let against = row.terms.iter().filter(|(swap, c)| *c < 0 && pinned.binary_search(swap).is_ok());
        (best < 0).then(|| against.map(|&(swap, _)| swap).collect())
    })
}

/// Drops, until nothing changes, swaps that no allowed set can have and rows that nothing can break.
/// `None` if a row can't hold whatever is made. Told to stop, it leaves some of them: the search is right with them too.
fn set_aside(rows: &mut Vec<Row>, alive: &mut [bool], work: &mut Work<'_>) -> Option<()> {
    loop {
        let mut changed = false;
        for row in rows.iter_mut() {
            let is_stopped = work.step(row.terms.len()).is_err();
            row.terms.retain(|&(swap, _)| alive[swap]);
            let best: i64 = row.slack + row.terms.iter().map(|(_, c)| (*c).max(0)).sum::<i64>();
            if best < 0 {
                return None;
            }
            if is_stopped {
                continue;
            }
            for &(swap, coefficient) in &row.terms {
                if best + coefficient.min(0) < 0 {
                    alive[swap] = false;
                    changed = true;
                }
            }
        }
        rows.retain(|row| row.slack + row.terms.iter().map(|(_, c)| (*c).min(0)).sum::<i64>() < 0);
        if !changed {
            return Some(());
        }
    }
}
