//! All sets of a node that can be good enough, as labels that are dropped once their own bound is too high.

use super::super::blocks::{Component, closing_order};
use super::super::constraint::Constraint;
use super::super::labels::Labels;
use super::super::stages::Stages;
use super::super::work::{Stopped, Work};
use super::lagrangian::LagrangianBound;
use super::relaxation::SCALE;
use super::{Best, Domains, Search};
use std::collections::BTreeSet;

/// Steps and numbers of 8 bytes that enumerating a node may take.
pub(super) const PART: (usize, usize) = (30_000_000, 4_000_000);

impl Search<'_, '_> {
    /// Enumerates all sets of a node whose reduced costs add up to no more than `within`. `None` if that takes more than so many steps or cells.
    pub(super) fn enumerate(
        &self,
        domains: &Domains,
        lagrangian: &LagrangianBound<'_>,
        within: i128,
        (steps, cells): (usize, usize),
        work: &mut Work<'_>,
    ) -> Result<Option<Labels>, Stopped> {
        let mut part = work.part(steps, cells);
        let labels = self.labels(domains, lagrangian, within, &mut part);
        work.step(steps - part.steps_left())?;
        Ok(labels.ok())
    }

    fn labels(
        &self,
        domains: &Domains,
        lagrangian: &LagrangianBound<'_>,
        within: i128,
        work: &mut Work<'_>,
    ) -> Result<Labels, Stopped> {
        let (open, made, mut labels) = self.decided(domains);
        let (component, conditions, order) =
            self.component(domains, &open, &made, &lagrangian.multipliers.conditions, work);
        let mut left_best: i128 = open.iter().map(|&block| lagrangian.bests[block]).sum();
        let mut stages = Stages::new(self.solver.model, &component, self.solver.words);
        for (at, block) in order.into_iter().enumerate() {
            left_best -= lagrangian.bests[block];
            let (moves, rows) = stages.take(at);
            let keep = self.within(lagrangian, within, left_best, &stages, &component, &conditions);
            work.step(labels.len() * moves.len())?;
            labels = labels.fold_within(&moves, &rows, &keep, work)?;
        }
        Ok(labels)
    }

    /// The blocks that are open, which variables are made for sure, and the label of what is decided: where labels start.
    pub(super) fn decided(&self, domains: &Domains) -> (Vec<usize>, Vec<bool>, Labels) {
        let (solver, words) = (self.solver, self.solver.words);
        let is_open = |block: usize| domains[block].iter().filter(|is_possible| **is_possible).count() > 1;
        let (open, fixed): (Vec<usize>, Vec<usize>) = (0..domains.len()).partition(|&block| is_open(block));
        let mut labels = Labels::nothing(words);
        let mut made = vec![false; solver.model.swaps.len()];
        for choice in fixed.iter().filter_map(|&block| solver.decided(block, &domains[block])) {
            let Some(variable) = choice.variable else { continue };
            let (counts, set) = solver.model.mark(variable, words);
            made[variable] = true;
            labels.cost[0] += choice.cost;
            labels.mass[0] += choice.mass;
            labels.made[0] += counts;
            labels.sets.iter_mut().zip(set).for_each(|(word, more)| *word |= more);
        }
        (open, made, labels)
    }

    /// Whether labels may yet be of a set whose reduced costs add up to no more than `within`; `left_best` is the best of the blocks to come.
    pub(super) fn within(
        &self,
        lagrangian: &LagrangianBound<'_>,
        within: i128,
        left_best: i128,
        stages: &Stages<'_>,
        component: &Component,
        conditions: &[usize],
    ) -> impl Fn(i64, i64, &[i64]) -> bool {
        let worth = |row: usize| lagrangian.multipliers.conditions[conditions[row]];
        let waiting: i128 = stages.waiting().map(|row| worth(row) * i128::from(component.rows[row].slack)).sum();
        let limit = lagrangian.multipliers.limit;
        let rest = left_best - waiting - i128::from(self.limit) * limit;
        let open: Vec<i128> = stages.open().iter().map(|&row| worth(row)).collect();
        let (ceiling, least) = (lagrangian.bound + within, self.least);
        move |cost: i64, mass: i64, state: &[i64]| {
            let (least, takes) = least.figures(cost, mass);
            let held: i128 = open.iter().zip(state).map(|(worth, left)| worth * i128::from(*left)).sum();
            i128::from(least) * SCALE + i128::from(takes) * limit - held + rest <= ceiling
        }
    }

    /// What is left to decide as a component, the condition of each of its rows, and the block of each of its own.
    pub(super) fn component(
        &self,
        domains: &Domains,
        open: &[usize],
        made: &[bool],
        worth: &[i128],
        work: &mut Work<'_>,
    ) -> (Component, Vec<usize>, Vec<usize>) {
        let solver = self.solver;
        let mut rows_of = vec![Vec::new(); domains.len()];
        let (mut rows, mut conditions, mut touching) = (Vec::new(), Vec::new(), Vec::new());
        for (at, condition) in solver.conditions.iter().enumerate() {
            let row = condition.row;
            let slack =
                row.slack + row.terms.iter().filter(|(variable, _)| made[*variable]).map(|(_, c)| c).sum::<i64>();
            let is_left = |variable: usize| {
                let (block, choice) = solver.block_of[variable];
                domains[block][choice] && !made[variable]
            };
            let terms: Vec<(usize, i64)> = row.terms.iter().copied().filter(|term| is_left(term.0)).collect();
            // One that can't be broken any more still stands in the prices if it has a multiplier.
            if worth[at] != 0 || slack + terms.iter().map(|(_, c)| (*c).min(0)).sum::<i64>() < 0 {
                let touched: BTreeSet<usize> = terms.iter().map(|(variable, _)| solver.block_of[*variable].0).collect();
                touched.iter().for_each(|block| rows_of[*block].push(rows.len()));
                rows.push(Constraint { slack, terms });
                conditions.push(at);
                touching.push(touched);
            }
        }
        let order = closing_order(open, &rows_of, &touching, work);
        let variables = |&block: &usize| {
            let choices = solver.blocks[block].iter().zip(&domains[block]).filter(|(_, is_possible)| **is_possible);
            choices.filter_map(|(choice, _)| choice.variable).collect()
        };
        let blocks = order.iter().map(variables).collect();
        let must = order.iter().map(|&block| !domains[block][0]).collect();
        (Component { blocks, must, rows }, conditions, order)
    }
}

/// The labels with no condition open as sets.
pub(super) fn best_sets(labels: &Labels) -> impl Iterator<Item = Best> {
    (0..labels.len()).map(|at| Best {
        cost: labels.cost[at],
        mass: labels.mass[at],
        made: labels.made[at],
        set: labels.set(at).to_vec(),
    })
}
