//! One question, answered exactly: the set that is best in one figure, within a limit of the other.
//!
//! Branch and bound. At each node what can't be is struck out, the linear relaxation gives a multiplier for every row, and the multipliers
//! a bound: no allowed set of the node is better than the sum of each block's best. How far an option lies over its block's best is its
//! regret; only sets whose regrets add up to no more than what lies between the bound and the best set known can be better. Where those are
//! few they are all gone through, as labels that are dropped as soon as their own bound passes the best set known; else the node is
//! split by the option that the relaxation is least sure of.

mod cover;
mod each;
mod prices;
mod relaxation;
mod strike;
mod through;

use super::blocks::partition;
use super::constraint::Constraint;
use super::rows::Model;
use super::work::{Stopped, Work};
pub(super) use cover::{Corners, Covered};
pub(super) use each::Only;
use prices::{Multipliers, Priced};
use relaxation::SCALE;
use std::cell::RefCell;
use std::cmp::Ordering;
use through::{PART, best_sets};

/// Sets that all are gone through, about: few of them live on as labels.
const ALL: u64 = 2_000_000;
/// Sets that are gone through in search of a better one.
const SOME: [u64; 2] = [200, 20_000];
/// Choices struck out that make another relaxation worth it.
const MANY_STRUCK: usize = 20;

/// Which figure is to be the least.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Least {
    /// The cost, within a mass.
    Cost,
    /// The mass, within a cost.
    Mass,
}

impl Least {
    /// The figure that is to be the least, and the one that is limited.
    pub(super) fn figures(self, cost: i64, mass: i64) -> (i64, i64) {
        match self {
            Least::Cost => (cost, mass),
            Least::Mass => (mass, cost),
        }
    }
}

/// A set as the model has it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Best {
    pub cost: i64,
    pub mass: i64,
    pub made: u32,
    pub set: Vec<u64>,
}

/// What came of a question.
#[derive(Debug, Clone)]
pub(super) struct Asked {
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

/// A model as blocks of choices and conditions between them, ready for questions.
pub(super) struct Questions<'m> {
    model: &'m Model,
    words: usize,
    blocks: Vec<Vec<Choice>>,
    /// The block of each variable, and its choice there.
    block_of: Vec<(usize, usize)>,
    conditions: Vec<Condition<'m>>,
    /// Multipliers of a question for the cheapest: those of one beside it are much the same.
    remembered: RefCell<Option<Multipliers>>,
}

/// No limit, far from what could overflow.
pub(super) const NO_LIMIT: i64 = i64::MAX / 4;

impl<'m> Questions<'m> {
    pub fn new(model: &'m Model, words: usize) -> Questions<'m> {
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
        Questions {
            model,
            words,
            blocks: blocks.iter().map(choices).collect(),
            block_of,
            conditions,
            remembered: RefCell::default(),
        }
    }

    /// The choice of a block that is decided.
    fn only(&self, block: usize, alive: &[bool]) -> Option<&Choice> {
        alive.iter().position(|is_alive| *is_alive).map(|at| &self.blocks[block][at])
    }

    /// For the least cost, without a limit.
    fn search(&self) -> Search<'_, 'm> {
        Search { questions: self, least: Least::Cost, limit: NO_LIMIT, best: None, last_bound: None, line: None }
    }

    /// Everything that may be chosen.
    fn everything(&self) -> Alive {
        self.blocks.iter().map(|block| vec![true; block.len()]).collect()
    }

    fn remember(&self, multipliers: &Multipliers) {
        *self.remembered.borrow_mut() = Some(multipliers.clone());
    }

    /// The best set in one figure whose other is at most `limit`; between sets that are as good, the one that is better in the other, then
    /// the one with fewer swaps, then the one whose ids come first. `known` is a set that is known to be allowed.
    pub fn ask(&self, least: Least, limit: i64, known: Option<Best>, work: &mut Work<'_>) -> Asked {
        self.ask_with(least, limit, None, known, work)
    }

    /// As [`Questions::ask`], of the sets alone in which a variable is made, or is not.
    pub fn ask_with(
        &self,
        least: Least,
        limit: i64,
        only: Option<Only>,
        known: Option<Best>,
        work: &mut Work<'_>,
    ) -> Asked {
        let mut search = Search { least, limit, best: known, ..self.search() };
        let mut all = self.everything();
        if let Some((variable, is_made)) = only {
            let (block, choice) = self.block_of[variable];
            all[block].iter_mut().enumerate().for_each(|(at, is_alive)| *is_alive = (at == choice) == is_made);
        }
        let mut open = vec![(i128::MIN, all)];
        let mut stopped = None;
        let mut given = if least == Least::Cost { self.remembered.borrow().clone() } else { None };
        while let Some((bound, alive)) = open.pop() {
            if search.is_beaten(bound) {
                continue;
            }
            match search.node(alive, given.take(), work) {
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
        Asked { best: search.best, bound: stopped }
    }
}

/// What is still possible at a node: by block, which of its choices.
type Alive = Vec<Vec<bool>>;

/// The two nodes that one falls into by a choice of a block: with it, and without.
fn in_two(alive: Alive, (block, choice): (usize, usize)) -> (Alive, Alive) {
    let (mut with, mut without) = (alive.clone(), alive);
    with[block].iter_mut().enumerate().for_each(|(at, is_alive)| *is_alive &= at == choice);
    without[block][choice] = false;
    (with, without)
}

struct Search<'q, 'm> {
    questions: &'q Questions<'m>,
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

    /// Sees to a node: goes through it, or gives the two that it falls into. `given` are multipliers to be tried before the node's own.
    fn node(
        &mut self,
        mut alive: Alive,
        mut given: Option<Multipliers>,
        work: &mut Work<'_>,
    ) -> Result<Option<(Alive, Alive)>, Stopped> {
        loop {
            if !self.strike_out(&mut alive, self.limit, work)? {
                return Ok(None);
            }
            let is_given = given.is_some();
            let (multipliers, split) = match given.take() {
                Some(multipliers) => (multipliers, None),
                None => match self.relax(&alive, work)? {
                    Some(relaxed) => relaxed,
                    None => return Ok(None),
                },
            };
            if self.last_bound.is_none() && self.least == Least::Cost {
                self.questions.remember(&multipliers);
            }
            let mut struck = 0;
            loop {
                let priced = self.add_up(&alive, &multipliers, true);
                if self.is_beaten(priced.bound) {
                    return Ok(None);
                }
                self.last_bound = Some(priced.bound);
                let between = self.between(&priced);
                if let Some(between) = between {
                    struck += priced.strike_out(&mut alive, between);
                }
                let before = self.best.clone();
                let (within, is_all) = self.few(&alive, &priced, between, ALL, work)?;
                if is_all && let Some(labels) = self.go_through(&alive, &priced, within, PART, work)? {
                    best_sets(&labels).for_each(|set| self.take(set));
                    return Ok(None);
                }
                // A few may do to find a better one, with which there are fewer left; else more.
                for some in SOME {
                    let (within, _) = self.few(&alive, &priced, between, some, work)?;
                    if let Some(labels) = self.go_through(&alive, &priced, within, PART, work)? {
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
            if is_given || struck > MANY_STRUCK {
                // With less of it left, or multipliers of its own, the node may be gone through yet.
                continue;
            }
            return Ok(split.map(|split| in_two(alive, split)));
        }
    }

    /// What lies between the bound of a node and the best set known.
    fn between(&self, priced: &Priced<'_>) -> Option<i128> {
        let best = self.best.as_ref()?;
        Some(i128::from(self.figures(best.cost, best.mass).0) * SCALE - priced.bound)
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
