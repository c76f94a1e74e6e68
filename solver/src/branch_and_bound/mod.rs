//! One problem, solved exactly: the set that is best in one figure, within a limit of the other.
//!
//! Branch and bound. At each node the domains are propagated, the linear relaxation gives a multiplier for every row, and the multipliers
//! a Lagrangian bound: no allowed set of the node is better than the sum of each block's best. How far an option lies over its block's best is its
//! reduced cost; only sets whose reduced costs add up to no more than what lies between the bound and the best set known can be better. Where those are
//! few they are all enumerated, as labels that are dropped as soon as their own bound passes the best set known; else the node is
//! split by the option that the relaxation is least sure of.

mod cover;
mod each;
mod enumerate;
mod lagrangian;
mod propagate;
mod relaxation;

use crate::blocks::partition;
use crate::constraint::Constraint;
use crate::model::Model;
use crate::work::{Stopped, Work};
pub use cover::{Corners, Covered};
pub use each::Forced;
use enumerate::{Node, PART, best_sets};
use lagrangian::{LagrangianBound, Multipliers};
use relaxation::SCALE;
use std::cell::RefCell;
use std::cmp::Ordering;

/// Sets that all are enumerated, about: few of them live on as labels.
const MOST_SETS: u64 = 2_000_000;
/// Sets that are enumerated in search of a better one.
const FEWER_SETS: [u64; 2] = [200, 20_000];
/// Choices removed that make another relaxation worth it.
const MANY_REMOVED: usize = 20;

/// Which figure is to be the least.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Least {
    /// The cost, within a mass.
    Cost,
    /// The mass, within a cost.
    Mass,
}

impl Least {
    /// The figure that is to be the least, and the one that is limited.
    pub fn figures(self, cost: i64, mass: i64) -> (i64, i64) {
        match self {
            Least::Cost => (cost, mass),
            Least::Mass => (mass, cost),
        }
    }
}

/// What is solved for.
#[derive(Debug, Clone, Copy)]
pub struct Objective {
    /// The figure that is to be the least.
    pub least: Least,
    /// The most of the other figure.
    pub limit: i64,
}

/// A set as the model has it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Best {
    /// What it costs.
    pub cost: i64,
    /// Its change of mass.
    pub mass: i64,
    /// How many swaps it has.
    pub made: u32,
    /// Its swaps, a bit each: [`bits`](crate::bits).
    pub set: Vec<u64>,
}

/// The result of one solve.
#[derive(Debug, Clone)]
pub struct Solution {
    /// The best set that was found.
    pub best: Option<Best>,
    /// What no allowed set is better than, in the figure that was to be the least; `None` if that is the best set itself, or if it is proved
    /// that there is none.
    pub bound: Option<i64>,
}

/// A way that a block can be decided: one of its swaps, or none.
struct Choice {
    variable: Option<usize>,
    cost: i64,
    mass: i64,
}

/// A condition, with what each choice of each block that it touches does to it.
struct Condition<'m> {
    row: &'m Constraint,
    slack: i64,
    blocks: Vec<(usize, Vec<i64>)>,
}

/// A model as blocks of choices and conditions between them, ready to be solved.
pub struct Solver<'m> {
    model: &'m Model,
    words: usize,
    blocks: Vec<Vec<Choice>>,
    /// The block of each variable, and its choice there.
    block_of: Vec<(usize, usize)>,
    conditions: Vec<Condition<'m>>,
    /// Multipliers of a search for the cheapest: those of the next one are much the same.
    last_multipliers: RefCell<Option<Multipliers>>,
}

/// No limit, far from what could overflow.
pub const NO_LIMIT: i64 = i64::MAX / 4;

impl<'m> Solver<'m> {
    /// Of a model whose sets have so many words.
    pub fn new(model: &'m Model, words: usize) -> Solver<'m> {
        let (blocks, rows) = partition(model);
        let mut block_of = vec![(0, 0); model.swaps.len()];
        for (block, variables) in blocks.iter().enumerate() {
            variables.iter().enumerate().for_each(|(at, &variable)| block_of[variable] = (block, at + 1));
        }
        let conditions = rows.into_iter().map(|row| {
            let mut touched: Vec<(usize, Vec<i64>)> = Vec::new();
            for &(variable, coefficient) in &row.terms {
                let (block, choice) = block_of[variable];
                let at = touched.iter().position(|(other, _)| *other == block).unwrap_or_else(|| {
                    touched.push((block, vec![0; blocks[block].len() + 1]));
                    touched.len() - 1
                });
                touched[at].1[choice] = coefficient;
            }
            Condition { row, slack: row.slack, blocks: touched }
        });
        let conditions = conditions.collect::<Vec<_>>();
        let choices = |variables: &Vec<usize>| {
            let none = Choice { variable: None, cost: 0, mass: 0 };
            let made = variables.iter().map(|&variable| {
                let swap = &model.swaps[variable];
                Choice { variable: Some(variable), cost: swap.cost, mass: swap.mass }
            });
            std::iter::once(none).chain(made).collect()
        };
        Solver {
            model,
            words,
            blocks: blocks.iter().map(choices).collect(),
            block_of,
            conditions,
            last_multipliers: RefCell::default(),
        }
    }

    /// The choice of a block that is decided.
    fn decided(&self, block: usize, domains: &[bool]) -> Option<&Choice> {
        domains.iter().position(|is_possible| *is_possible).map(|at| &self.blocks[block][at])
    }

    /// For the least cost, without a limit.
    fn search(&self) -> Search<'_, 'm> {
        Search { solver: self, least: Least::Cost, limit: NO_LIMIT, best: None, last_bound: None, line: None }
    }

    /// Everything that may be chosen.
    fn full_domains(&self) -> Domains {
        self.blocks.iter().map(|block| vec![true; block.len()]).collect()
    }

    fn remember(&self, multipliers: &Multipliers) {
        *self.last_multipliers.borrow_mut() = Some(multipliers.clone());
    }

    /// The best set of an objective; between sets that are as good, the one that is better in the limited figure, then the one with fewer
    /// swaps, then the one whose ids come first. `known` is a set that is known to be allowed.
    pub fn solve(&self, objective: Objective, known: Option<Best>, work: &mut Work<'_>) -> Solution {
        self.solve_with(objective, None, known, work)
    }

    /// As [`Solver::solve`], of the sets alone in which a variable is made, or is not.
    pub fn solve_with(
        &self,
        Objective { least, limit }: Objective,
        only: Option<Forced>,
        known: Option<Best>,
        work: &mut Work<'_>,
    ) -> Solution {
        let mut search = Search { least, limit, best: known, ..self.search() };
        let mut all = self.full_domains();
        if let Some((variable, is_made)) = only {
            let (block, choice) = self.block_of[variable];
            all[block].iter_mut().enumerate().for_each(|(at, is_possible)| *is_possible = (at == choice) == is_made);
        }
        let mut open = vec![(i128::MIN, all)];
        let mut stopped = None;
        let mut given = if least == Least::Cost { self.last_multipliers.borrow().clone() } else { None };
        while let Some((bound, domains)) = open.pop() {
            if search.is_beaten(bound) {
                continue;
            }
            match search.node(domains, given.take(), work) {
                Ok(Some((first, second))) => {
                    let bound = search.last_bound.unwrap_or(bound);
                    open.push((bound, second));
                    open.push((bound, first));
                }
                Ok(None) => {}
                Err(Stopped) => {
                    let least = open.iter().map(|(bound, _)| *bound).chain([bound]).min().unwrap_or(bound);
                    stopped = Some(i64::try_from(least.div_euclid(SCALE)).unwrap_or(i64::MIN));
                    break;
                }
            }
        }
        Solution { best: search.best, bound: stopped }
    }
}

/// What is still possible at a node: by block, which of its choices.
type Domains = Vec<Vec<bool>>;

/// The two nodes that one is branched into by a choice of a block: with it, and without.
fn branch_on(domains: Domains, (block, choice): (usize, usize)) -> (Domains, Domains) {
    let (mut with, mut without) = (domains.clone(), domains);
    with[block].iter_mut().enumerate().for_each(|(at, is_possible)| *is_possible &= at == choice);
    without[block][choice] = false;
    (with, without)
}

struct Search<'q, 'm> {
    solver: &'q Solver<'m>,
    least: Least,
    limit: i64,
    best: Option<Best>,
    last_bound: Option<i128>,
    /// What one more of the limited figure counts for, where that is settled and there is no limit.
    line: Option<i128>,
}

impl Search<'_, '_> {
    /// The figure that is to be the least, and the one that is limited.
    fn figures(&self, cost: i64, mass: i64) -> (i64, i64) {
        self.least.figures(cost, mass)
    }

    /// Whether nothing that is no better than this bound can be as good as the best set known.
    fn is_beaten(&self, bound: i128) -> bool {
        self.best.as_ref().is_some_and(|best| bound > i128::from(self.figures(best.cost, best.mass).0) * SCALE)
    }

    /// Handles a node: enumerates it, or gives the two that it is branched into. `given` are multipliers to be tried before the node's own.
    fn node(
        &mut self,
        mut domains: Domains,
        mut given: Option<Multipliers>,
        work: &mut Work<'_>,
    ) -> Result<Option<(Domains, Domains)>, Stopped> {
        loop {
            if !self.propagate(&mut domains, self.limit, work)? {
                return Ok(None);
            }
            let is_given = given.is_some();
            let (multipliers, split) = match given.take() {
                Some(multipliers) => (multipliers, None),
                None => match self.relax(&domains, work)? {
                    Some(relaxed) => relaxed,
                    None => return Ok(None),
                },
            };
            if self.last_bound.is_none() && self.least == Least::Cost {
                self.solver.remember(&multipliers);
            }
            let mut removed = 0;
            loop {
                let lagrangian = self.lagrangian_bound(&domains, &multipliers, true);
                if self.is_beaten(lagrangian.bound) {
                    return Ok(None);
                }
                self.last_bound = Some(lagrangian.bound);
                let gap = self.gap_to_best(&lagrangian);
                if let Some(gap) = gap {
                    removed += lagrangian.fix_by_reduced_cost(&mut domains, gap);
                }
                let before = self.best.clone();
                let (within, is_all) = lagrangian.enumerable_gap(&domains, gap, MOST_SETS, work)?;
                let node = Node { domains: &domains, lagrangian: &lagrangian, within };
                if is_all && let Some(labels) = self.enumerate(node, PART, work)? {
                    best_sets(&labels).for_each(|set| self.take(set));
                    return Ok(None);
                }
                // A few may do to find a better one, with which there are fewer left; else more.
                for some in FEWER_SETS {
                    let (within, _) = lagrangian.enumerable_gap(&domains, gap, some, work)?;
                    if let Some(labels) = self.enumerate(Node { within, ..node }, PART, work)? {
                        best_sets(&labels).for_each(|set| self.take(set));
                    }
                    if self.best != before {
                        break;
                    }
                }
                if self.best == before {
                    break;
                }
            }
            if is_given || removed > MANY_REMOVED {
                // With less of it left, or multipliers of its own, the node may be enumerated yet.
                continue;
            }
            return Ok(split.map(|split| branch_on(domains, split)));
        }
    }

    /// What lies between the bound of a node and the best set known.
    fn gap_to_best(&self, lagrangian: &LagrangianBound<'_>) -> Option<i128> {
        let best = self.best.as_ref()?;
        Some(i128::from(self.figures(best.cost, best.mass).0) * SCALE - lagrangian.bound)
    }

    /// Takes a set if it is the best so far.
    fn take(&mut self, found: Best) {
        let (_, takes) = self.figures(found.cost, found.mass);
        let is_better = |best: &Best| {
            let order = self.figures(found.cost, found.mass).cmp(&self.figures(best.cost, best.mass));
            order.then(found.made.cmp(&best.made)).then_with(|| best.set.cmp(&found.set)) == Ordering::Less
        };
        if takes <= self.limit && self.best.as_ref().is_none_or(is_better) {
            self.best = Some(found);
        }
    }
}
