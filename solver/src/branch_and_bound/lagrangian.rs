//! Lagrangian bounds: multipliers, and the reduced costs of choices under them.

use super::relaxation::{Program, SCALE};
use super::{Choice, Domains, Search};
use crate::work::{Stopped, Work};

/// Steps of work that a relaxation counts as, for each choice in it.
const RELAXATION: usize = 800;
/// A higher reduced cost than any set has.
const ENOUGH: i128 = i128::MAX / 4;
/// Steps of reduced cost that sets are counted by.
const STEPS: usize = 256;

/// What one more of the limited figure, and of what is left of each condition, counts for.
#[derive(Debug, Clone, Default)]
pub(super) struct Multipliers {
    pub limit: i128,
    pub conditions: Vec<i128>,
}

/// What the multipliers of a node say.
pub(super) struct LagrangianBound<'p> {
    pub multipliers: &'p Multipliers,
    /// By block and choice: how far it lies over the block's best.
    pub reduced_costs: Vec<Vec<i128>>,
    /// The best of each block.
    pub bests: Vec<i128>,
    /// What no set of the node is better than.
    pub bound: i128,
}

impl LagrangianBound<'_> {
    /// Removes each choice whose reduced cost alone is more than what lies between. How many there were.
    pub(super) fn fix_by_reduced_cost(&self, domains: &mut Domains, gap: i128) -> usize {
        let mut removed = 0;
        for (choices, reduced_costs) in domains.iter_mut().zip(&self.reduced_costs) {
            for (is_possible, reduced_cost) in choices.iter_mut().zip(reduced_costs) {
                removed += usize::from(*is_possible && *reduced_cost > gap);
                *is_possible &= *reduced_cost <= gap;
            }
        }
        removed
    }

    /// How high a reduced cost a node is enumerated with: all that lies between if the sets are few, else as much as makes them few.
    pub(super) fn enumerable_gap(
        &self,
        domains: &Domains,
        gap: Option<i128>,
        most_sets: u64,
        work: &mut Work<'_>,
    ) -> Result<(i128, bool), Stopped> {
        let open = || {
            let blocks = domains.iter().zip(&self.reduced_costs);
            blocks.map(|(domains, reduced_costs)| {
                domains
                    .iter()
                    .zip(reduced_costs)
                    .filter(|(is_possible, _)| **is_possible)
                    .map(|(_, reduced_cost)| *reduced_cost)
            })
        };
        let all =
            gap.unwrap_or_else(|| open().map(|reduced_costs| reduced_costs.max().unwrap_or(0)).sum::<i128>()).max(1);
        let steps = i128::try_from(STEPS).unwrap_or(1);
        let mut most = all;
        loop {
            work.step(domains.len() * STEPS)?;
            let mut counted = vec![0_u64; STEPS + 1];
            counted[0] = 1;
            for reduced_costs in open() {
                let mut next = vec![0_u64; STEPS + 1];
                for step in reduced_costs.filter_map(|reduced_cost| usize::try_from(reduced_cost * steps / most).ok()) {
                    for from in 0..(STEPS + 1).saturating_sub(step) {
                        next[from + step] = next[from + step].saturating_add(counted[from]);
                    }
                }
                counted = next;
            }
            let mut sum = 0_u64;
            let many = counted.iter().position(|sets| {
                sum = sum.saturating_add(*sets);
                sum > most_sets
            });
            let Some(many) = many else {
                // With nothing known to be better than, no set of them is too much.
                let is_all = most == all;
                return Ok((if is_all && gap.is_none() { ENOUGH } else { most }, is_all));
            };
            let within = most * i128::try_from(many).unwrap_or(0) / steps;
            // Where the steps were too coarse to tell, finer ones.
            if many >= STEPS / 8 || most < steps {
                return Ok((within, false));
            }
            most = within + most / steps;
        }
    }
}

/// Multipliers, and the choice (of which block) that a relaxation is least sure of.
pub(super) type Relaxation = (Multipliers, Option<(usize, usize)>);

impl Search<'_, '_> {
    /// The multipliers of a node from its relaxation, and the choice (of which block) that the relaxation is least sure of. `None` if
    /// nothing of the node is possible.
    pub(super) fn relax(&self, domains: &Domains, work: &mut Work<'_>) -> Result<Option<Relaxation>, Stopped> {
        let solver = self.solver;
        let mut program = Program::default();
        let mut column = vec![Vec::new(); domains.len()];
        let (mut fixed, mut most) = (0, 0);
        let mut columns = Vec::new();
        let mut limited = Vec::new();
        for (block, choices) in domains.iter().enumerate() {
            column[block] = vec![usize::MAX; choices.len()];
            let open: Vec<usize> = (0..choices.len()).filter(|&at| choices[at]).collect();
            let takes = |&at: &usize| self.figures(solver.blocks[block][at].cost, solver.blocks[block][at].mass).1;
            most += open.iter().map(takes).max().unwrap_or(0);
            for &at in &open {
                let choice = &solver.blocks[block][at];
                let (mut least, takes) = self.figures(choice.cost, choice.mass);
                if let Some(line) = self.line {
                    least += i64::try_from(i128::from(takes) * line / SCALE).unwrap_or(0);
                }
                if open.len() == 1 {
                    fixed += takes;
                } else {
                    column[block][at] = columns.len();
                    limited.push((columns.len(), takes));
                    columns.push((block, at));
                    program.costs.push(least);
                }
            }
            if open.len() > 1 {
                program.blocks.push(open.len());
            }
        }
        let is_limited = self.line.is_none() && most > self.limit;
        if is_limited {
            program.rows.push((self.limit - fixed, limited));
        }
        let mut in_program = Vec::new();
        for (at, condition) in solver.conditions.iter().enumerate() {
            let (mut slack, mut worst, mut terms) = (condition.slack, condition.slack, Vec::new());
            for (block, does) in &condition.blocks {
                let open =
                    || does.iter().zip(&column[*block]).zip(&domains[*block]).filter(|(_, is_possible)| **is_possible);
                worst += open().map(|((does, _), _)| *does).min().unwrap_or(0);
                for ((does, column), _) in open() {
                    if *column == usize::MAX {
                        slack += does;
                    } else if *does != 0 {
                        terms.push((*column, -does));
                    }
                }
            }
            if worst < 0 {
                program.rows.push((slack, terms));
                in_program.push(at);
            }
        }
        work.step(RELAXATION * columns.len())?;
        let relaxed = if columns.is_empty() { None } else { program.relax(work)? };
        let mut multipliers = Multipliers { limit: 0, conditions: vec![0; solver.conditions.len()] };
        if let Some(relaxed) = &relaxed {
            let (of_limit, of_conditions) = relaxed.multipliers.split_at(usize::from(is_limited));
            multipliers.limit = of_limit.first().copied().unwrap_or(0);
            for (at, multiplier) in in_program.iter().zip(of_conditions) {
                multipliers.conditions[*at] = *multiplier;
            }
            if relaxed.is_impossible {
                if self.lagrangian_bound(domains, &multipliers, false).bound > 0 {
                    return Ok(None);
                }
                multipliers = Multipliers { limit: 0, conditions: vec![0; solver.conditions.len()] };
            }
        }
        multipliers.limit = self.line.unwrap_or(multipliers.limit);
        // Where the solver came to nothing the node is split all the same.
        let least_sure = relaxed.and_then(|relaxed| relaxed.least_sure).unwrap_or(0);
        Ok(Some((multipliers, columns.get(least_sure).copied())))
    }

    /// What multipliers come to, in whole numbers; without the figure that is to be the least they say whether anything is possible.
    pub(super) fn lagrangian_bound<'p>(
        &self,
        domains: &Domains,
        multipliers: &'p Multipliers,
        with_least: bool,
    ) -> LagrangianBound<'p> {
        let solver = self.solver;
        let Multipliers { limit, conditions } = multipliers;
        let mut reduced_costs: Vec<Vec<i128>> = solver
            .blocks
            .iter()
            .map(|block| {
                let price = |choice: &Choice| {
                    let (least, takes) = self.figures(choice.cost, choice.mass);
                    let least = if with_least { i128::from(least) * SCALE } else { 0 };
                    least + i128::from(takes) * limit
                };
                block.iter().map(price).collect()
            })
            .collect();
        let mut bound = -i128::from(self.limit) * limit;
        for (condition, multiplier) in solver.conditions.iter().zip(conditions) {
            if *multiplier != 0 {
                bound -= i128::from(condition.slack) * multiplier;
                for (block, does) in &condition.blocks {
                    reduced_costs[*block]
                        .iter_mut()
                        .zip(does)
                        .for_each(|(price, does)| *price -= i128::from(*does) * multiplier);
                }
            }
        }
        let mut bests = Vec::with_capacity(reduced_costs.len());
        for (prices, domains) in reduced_costs.iter_mut().zip(domains) {
            let open = prices.iter().zip(domains).filter(|(_, is_possible)| **is_possible).map(|(price, _)| *price);
            let best = open.min().unwrap_or(0);
            bound += best;
            bests.push(best);
            prices.iter_mut().for_each(|price| *price -= best);
        }
        LagrangianBound { multipliers, reduced_costs, bests, bound }
    }
}
