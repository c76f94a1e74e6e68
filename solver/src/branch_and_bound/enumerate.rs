//! All sets of a node that can be good enough, as labels that are dropped once their own bound is too high.

use super::lagrangian::LagrangianBound;
use super::relaxation::SCALE;
use super::{Best, Domains, Search};
use crate::blocks::{Component, closing_order};
use crate::constraint::Constraint;
use crate::labels::Labels;
use crate::stages::Stages;
use crate::work::{Stopped, Work};
use std::collections::BTreeSet;

/// Steps and numbers of 8 bytes that enumerating a node may take.
pub(super) const PART: (usize, usize) = (30_000_000, 4_000_000);

/// A node, of which the sets are enumerated whose reduced costs add up to no more than `within`.
#[derive(Clone, Copy)]
pub(super) struct Node<'n> {
    pub domains: &'n Domains,
    pub lagrangian: &'n LagrangianBound<'n>,
    pub within: i128,
}

/// What is left to decide at a node.
pub(super) struct Rest {
    pub component: Component,
    /// The condition of each of the component's rows.
    pub conditions: Vec<usize>,
    /// The block of each of the component's.
    pub order: Vec<usize>,
}

impl Search<'_, '_> {
    /// Enumerates the sets of a node. `None` if that takes more than so many steps or cells.
    pub(super) fn enumerate(
        &self,
        node: Node<'_>,
        (steps, cells): (usize, usize),
        work: &mut Work<'_>,
    ) -> Result<Option<Labels>, Stopped> {
        let mut part = work.part(steps, cells);
        let labels = self.labels(node, &mut part);
        work.step(steps - part.steps_left())?;
        Ok(labels.ok())
    }

    fn labels(&self, node: Node<'_>, work: &mut Work<'_>) -> Result<Labels, Stopped> {
        let (open, made, mut labels) = self.decided(node.domains);
        let rest = self.rest(node, &open, &made, work);
        let mut left_best: i128 = open.iter().map(|&block| node.lagrangian.bests[block]).sum();
        let mut stages = Stages::new(self.solver.model, &rest.component, self.solver.words);
        for (at, &block) in rest.order.iter().enumerate() {
            left_best -= node.lagrangian.bests[block];
            let (moves, rows) = stages.take(at);
            let keep = self.within(node, &rest, &stages, left_best);
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

    /// Whether labels may yet be of a set that is enumerated; `left_best` is the best of the blocks to come.
    pub(super) fn within(
        &self,
        Node { lagrangian, within, .. }: Node<'_>,
        rest: &Rest,
        stages: &Stages<'_>,
        left_best: i128,
    ) -> impl Fn(i64, i64, &[i64]) -> bool {
        let worth = |row: usize| lagrangian.multipliers.conditions[rest.conditions[row]];
        let waiting: i128 = stages.waiting().map(|row| worth(row) * i128::from(rest.component.rows[row].slack)).sum();
        let limit = lagrangian.multipliers.limit;
        let to_come = left_best - waiting - i128::from(self.limit) * limit;
        let open: Vec<i128> = stages.open().iter().map(|&row| worth(row)).collect();
        let (ceiling, least) = (lagrangian.bound + within, self.least);
        move |cost: i64, mass: i64, state: &[i64]| {
            let (least, takes) = least.figures(cost, mass);
            let held: i128 = open.iter().zip(state).map(|(worth, left)| worth * i128::from(*left)).sum();
            i128::from(least) * SCALE + i128::from(takes) * limit - held + to_come <= ceiling
        }
    }

    /// What is left to decide: `open` blocks, with what is `made` for sure.
    pub(super) fn rest(&self, node: Node<'_>, open: &[usize], made: &[bool], work: &mut Work<'_>) -> Rest {
        let (solver, domains) = (self.solver, node.domains);
        let worth = &node.lagrangian.multipliers.conditions;
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
        Rest { component: Component { blocks, must, rows }, conditions, order }
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
