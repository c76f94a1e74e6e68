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
//! | nor what the heaviest start weighs over the packs' load | max(0, load − heaviest start today) + Σ change ≥ 0 ([`super::load`]) |
//!
//! A kit that counts as it was weighed is one more choice, *the kit is broken*, which changes the base weight by what its parts weigh
//! apart. It has a place among the variables and is no swap:
//!
//! | condition | row |
//! | --- | --- |
//! | it is broken if a part is missing | spare pieces − Σ taken + pieces of the kit × broken ≥ 0 |
//! | it is broken only if one is (where that makes the list lighter) | Σ missing − broken ≥ 0 |
//! | a part is missing only if so many are taken | Σ taken − (spare pieces + 1) × missing ≥ 0 |
//!
//! An older kit that shares parts with a newer one counts where that is broken: what the newer kit has of a part is as if it were taken,
//! pieces × (1 − broken), and each of them is broken only if a part is missing, whatever that weighs.
//!
//! What the night asks is in [`super::night`].
//!
//! So is *a parcel from a place*, which costs its delivery once for all that come in it ([`super::parcels`]).

use super::Ready;
use super::kits::{OfKits, of_kits, taken};
use super::load;
use super::night::Nights;
use super::parcels::{self, Shared};
use crate::gear::Job;
use crate::swap::{Swap, SwapState};
use kevyt_solver::{Constraint, Model, Variable, Work};
use std::collections::{BTreeMap, BTreeSet};

/// What is left to decide once pinned swaps are made and hopeless ones set aside.
#[derive(Debug)]
pub(super) struct Reduced {
    pub model: Model,
    /// Pinned swaps, as indexes in the problem.
    pub pinned: Vec<usize>,
    pub pinned_cost: i64,
    pub pinned_mass: i64,
}

/// Every condition of an allowed set but the load's and the night's, over the problem's own swap indexes; with what is to be met of jobs, or
/// without.
pub(super) fn all_constraints(ready: &Ready<'_>, meets: bool) -> Vec<Constraint> {
    let mut rows = constraints_of_swaps(ready);
    rows.extend(constraints_of_jobs(ready, meets).into_iter().map(|(_, row)| row));
    rows
}

/// What swaps say to each other, and the pieces that are there.
fn constraints_of_swaps(ready: &Ready<'_>) -> Vec<Constraint> {
    let mut rows = constraints_between_swaps(ready);
    rows.extend(taken(ready).into_iter().map(|((line, place), takes)| {
        let there = ready.lines().get(line).map_or(0, |line| line.counts.at(place));
        Constraint::new(i64::from(there), takes.into_iter().map(|(swap, pieces)| (swap, -pieces)))
    }));
    rows
}

/// What swaps say to each other.
pub(super) fn constraints_between_swaps(ready: &Ready<'_>) -> Vec<Constraint> {
    let mut excluded: BTreeSet<(usize, usize)> = BTreeSet::new();
    let mut rows = Vec::new();
    for (index, swap) in ready.problem().swaps.iter().enumerate() {
        for required in swap.requires.iter().filter_map(|id| ready.swap_index(id)) {
            rows.push(Constraint::new(0, [(index, -1), (required, 1)]));
        }
        for other in swap.excludes.iter().filter_map(|id| ready.swap_index(id)) {
            excluded.insert((index.min(other), index.max(other)));
        }
    }
    rows.extend(excluded.into_iter().map(|(a, b)| Constraint::new(1, [(a, -1), (b, -1)])));
    rows
}

/// What jobs ask: no more short of one than today, and of one that is to be met nothing.
fn constraints_of_jobs<'a>(ready: &Ready<'a>, meets: bool) -> Vec<(&'a Job, Constraint)> {
    let mut change: BTreeMap<&Job, BTreeMap<usize, i64>> = BTreeMap::new();
    for (index, swap) in ready.problem().swaps.iter().enumerate() {
        for (job, amount) in job_changes(ready, swap) {
            change.entry(job).or_default().insert(index, amount);
        }
    }
    let to_meet: BTreeSet<&Job> = ready.jobs_to_meet().filter(|_| meets).collect();
    for job in &to_meet {
        change.entry(job).or_default();
    }
    let has_load = load::counts(ready);
    let asked = change.into_iter().filter(|(job, _)| !(has_load && job.as_str() == load::JOB));
    let slack = |job: &Job| {
        let balance = balance(ready, job);
        if to_meet.contains(job) { balance } else { balance.max(0) }
    };
    asked.map(|(job, terms)| (job, Constraint::new(slack(job), terms))).collect()
}

/// Σ provided − Σ needed − required of a job, over the list as it stands.
pub(super) fn balance(ready: &Ready<'_>, job: &Job) -> i64 {
    let problem = ready.problem();
    let of_lines: i64 = problem
        .lines
        .iter()
        .map(|line| line.counts.at_work() * (line.provides.get(job).unwrap_or(&0) - line.needs.get(job).unwrap_or(&0)))
        .sum();
    of_lines - problem.require.get(job).unwrap_or(&0)
}

/// What making a swap adds to each job's balance.
pub(super) fn job_changes<'a>(ready: &Ready<'a>, swap: &'a Swap) -> BTreeMap<&'a Job, i64> {
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

/// The conditions of one list, and the choices that follow for it: numbered after the swaps.
pub(super) struct OfList {
    /// The change of base weight of each choice that follows.
    pub masses: Vec<i64>,
    pub rows: Vec<Constraint>,
    /// What kits that are broken today would add to the base weight if they were not.
    pub waiting: i64,
}

/// What is to hold on a list: pieces, jobs, kits, load and night.
pub(super) fn of_list(ready: &Ready<'_>) -> OfList {
    let problem = ready.problem();
    let OfKits { mut masses, rows: kit_rows, waiting } = of_kits(ready, &taken(ready));
    let mut rows = all_constraints(ready, true);
    rows.extend(load::row(ready, &masses, waiting));
    rows.extend(kit_rows);
    let first = problem.swaps.len() + masses.len();
    let (of_night, night_rows) =
        Nights::new(ready).map_or((0, Vec::new()), |nights| nights.rows(first, &problem.terms.meet));
    rows.extend(night_rows);
    masses.resize(masses.len() + of_night, 0);
    OfList { masses, rows, waiting }
}

/// Builds the model of one list. `None` if no set is allowed.
pub(super) fn reduced(ready: &Ready<'_>, work: &mut Work<'_>) -> Option<Reduced> {
    let savings: Vec<i64> = ready.plain_savings().iter().map(|saving| saving.mg()).collect();
    assemble(ready, &savings, of_list(ready), work)
}

/// Builds a model: pins made, hopeless swaps and idle rows dropped. `savings` are the swaps' own; parcels come behind what follows for lists. `None` if
/// no set is allowed.
pub(super) fn assemble(
    ready: &Ready<'_>,
    savings: &[i64],
    OfList { masses, mut rows, waiting }: OfList,
    work: &mut Work<'_>,
) -> Option<Reduced> {
    let problem = ready.problem();
    let mut alive: Vec<bool> = Vec::with_capacity(problem.swaps.len());
    let (mut pinned, mut pinned_cost, mut pinned_mass) = (Vec::new(), 0, waiting);
    for (index, (swap, worth)) in problem.swaps.iter().zip(ready.worths()).enumerate() {
        alive.push(swap.state == SwapState::Open && worth.complete().is_some());
        if swap.state == SwapState::Pinned {
            pinned.push(index);
            pinned_cost += worth.complete()?.1.minor();
            pinned_mass -= savings[index];
        }
    }
    let first = problem.swaps.len() + masses.len();
    let is_wanted = |index: usize| alive[index] || problem.swaps[index].state == SwapState::Pinned;
    let Shared { costs: parcel_costs, rows: parcel_rows, of_swap } = parcels::shared(ready, first, is_wanted);
    pinned_cost -= pinned.iter().map(|&index| of_swap[index]).sum::<i64>();
    alive.resize(first + parcel_costs.len(), true);
    rows.extend(parcel_rows);
    for row in &mut rows {
        make_pinned(row, &pinned, &alive);
    }
    set_aside(&mut rows, &mut alive, work)?;

    let mut kept: Vec<usize> = (0..problem.swaps.len()).filter(|&index| alive[index]).collect();
    kept.sort_by(|&a, &b| problem.swaps[a].id.cmp(&problem.swaps[b].id));
    kept.extend((problem.swaps.len()..alive.len()).filter(|&index| alive[index]));
    let mut position = vec![usize::MAX; alive.len()];
    for (at, &index) in kept.iter().enumerate() {
        position[index] = at;
    }
    for row in &mut rows {
        row.terms.iter_mut().for_each(|(swap, _)| *swap = position[*swap]);
        row.terms.sort_unstable();
    }
    let swaps = kept.into_iter().filter_map(|index| match index.checked_sub(problem.swaps.len()) {
        Some(follows) => Some(match masses.get(follows) {
            Some(mass) => Variable { swap: None, cost: 0, mass: *mass },
            None => Variable { swap: None, cost: parcel_costs[follows - masses.len()], mass: 0 },
        }),
        None => {
            let cost = ready.worths()[index].complete()?.1.minor() - of_swap[index];
            Some(Variable { swap: Some(index), cost, mass: -savings[index] })
        }
    });
    Some(Reduced { model: Model { swaps: swaps.collect(), rows }, pinned, pinned_cost, pinned_mass })
}

/// Takes pinned swaps into a row's slack and leaves only swaps that may still be made.
fn make_pinned(row: &mut Constraint, pinned: &[usize], alive: &[bool]) {
    row.slack += row.terms.iter().filter(|(swap, _)| pinned.binary_search(swap).is_ok()).map(|(_, c)| c).sum::<i64>();
    row.terms.retain(|&(swap, _)| alive[swap]);
}

/// The pinned swaps that count against the first condition which can't hold with all of them, whatever else is made; and the job, if it
/// is one.
pub(super) fn pins_against_a_constraint<'a>(ready: &Ready<'a>) -> Option<(Vec<usize>, Option<&'a Job>)> {
    let swaps = &ready.problem().swaps;
    let pinned: Vec<usize> = (0..swaps.len()).filter(|&index| swaps[index].state == SwapState::Pinned).collect();
    let alive: Vec<bool> = (0..swaps.len())
        .map(|index| swaps[index].state == SwapState::Open && ready.worths()[index].complete().is_some())
        .collect();
    // A kit that is broken may make the pack lighter than its pieces say: what is made of the load is no clash by itself.
    let of_jobs = constraints_of_jobs(ready, false).into_iter().map(|(job, row)| (Some(job), row));
    constraints_of_swaps(ready).into_iter().map(|row| (None, row)).chain(of_jobs).find_map(|(job, row)| {
        let mut left = row.clone();
        make_pinned(&mut left, &pinned, &alive);
        let best = left.slack + left.terms.iter().map(|(_, c)| (*c).max(0)).sum::<i64>();
        let against = row.terms.iter().filter(|(swap, c)| *c < 0 && pinned.binary_search(swap).is_ok());
        (best < 0).then(|| (against.map(|&(swap, _)| swap).collect(), job))
    })
}

/// Drops, until nothing changes, swaps that no allowed set can have and rows that nothing can break.
/// `None` if a row can't hold whatever is made. Told to stop, it leaves some of them: the search is right with them too.
fn set_aside(rows: &mut Vec<Constraint>, alive: &mut [bool], work: &mut Work<'_>) -> Option<()> {
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
