//! The same problem once for each of many swaps: the cheapest set with it, or without it.
//!
//! What they have in common is calculated once. All blocks but one are enumerated near the bound of the common problem, for each block in
//! turn, halves of the blocks at a time, so that what is left to do for a swap is to add its own block.

use super::enumerate::{Node, Rest};
use super::relaxation::SCALE;
use super::{Search, Solver};
use crate::labels::{Labels, Move, StageConstraint, Start};
use crate::stages::Stages;
use crate::work::{Stopped, Work};

/// Sets that are enumerated at first, about, and how many times as many after that.
const FIRST: u64 = 1_000;
const MORE: u64 = 30;
/// Times that they are enumerated.
const TIMES: u32 = 3;
/// Steps and numbers of 8 bytes that one time may take.
const PART: (usize, usize) = (60_000_000, 4_000_000);

/// A variable, and whether it is to be made.
pub type Forced = (usize, bool);

impl Solver<'_> {
    /// For each of `wanted` the least cost, within a mass, of the allowed sets in which a variable is made or is not; `None` where that
    /// takes a solve of its own.
    pub fn each(&self, mass: i64, wanted: &[Forced], work: &mut Work<'_>) -> Result<Vec<Option<i64>>, Stopped> {
        let mut found = vec![None; wanted.len()];
        let search = Search { limit: mass, ..self.search() };
        let mut domains = self.full_domains();
        if !search.propagate(&mut domains, mass, work)? {
            return Ok(found);
        }
        let Some((multipliers, _)) = search.relax(&domains, work)? else { return Ok(found) };
        self.remember(&multipliers);
        let lagrangian = search.lagrangian_bound(&domains, &multipliers, true);
        for time in 0..TIMES {
            let (within, _) = lagrangian.enumerable_gap(&domains, None, FIRST * MORE.pow(time), work)?;
            let mut part = work.part(PART.0, PART.1);
            let node = Node { domains: &domains, lagrangian: &lagrangian, within };
            let gone = search.force_each(node, wanted, &mut found, &mut part);
            work.step(PART.0 - part.steps_left())?;
            if gone.is_err() || found.iter().all(Option::is_some) {
                break;
            }
        }
        Ok(found)
    }
}

/// What every part of the way shares.
struct Halving<'w, 's> {
    search: &'w Search<'w, 's>,
    node: Node<'w>,
    rest: &'w Rest,
    wanted: &'w [Forced],
}

/// Labels of some of the blocks, and the stages of the others.
#[derive(Clone)]
struct Partial<'w> {
    labels: Labels,
    stages: Stages<'w>,
}

impl Search<'_, '_> {
    fn force_each(
        &self,
        node: Node<'_>,
        wanted: &[Forced],
        found: &mut [Option<i64>],
        work: &mut Work<'_>,
    ) -> Result<(), Stopped> {
        let (open, made, labels) = self.decided(node.domains);
        let rest = self.rest(node, &open, &made, work);
        let stages = Stages::new(self.solver.model, &rest.component, self.solver.words);
        let halving = Halving { search: self, node, rest: &rest, wanted };
        let blocks = 0..rest.order.len();
        let all: Vec<usize> = blocks.clone().filter(|&at| halving.wants(at, found).next().is_some()).collect();
        // What nobody asks for is in every one.
        let unwanted: Vec<usize> = blocks.filter(|at| !all.contains(at)).collect();
        let partial = halving.add(&unwanted, Partial { labels, stages }, &all, work)?;
        halving.halve(&all, &partial, found, work)
    }
}

impl<'w> Halving<'w, '_> {
    /// What is asked of a block and isn't known, by number.
    fn wants(&self, at: usize, found: &[Option<i64>]) -> impl Iterator<Item = usize> {
        let block = self.rest.order[at];
        let of_block = move |number: &usize| self.search.solver.block_of[self.wanted[*number].0].0 == block;
        let open: Vec<usize> = (0..self.wanted.len()).filter(|&number| found[number].is_none()).collect();
        open.into_iter().filter(of_block)
    }

    /// `partial` holds all blocks but those `left`.
    fn halve(
        &self,
        left: &[usize],
        partial: &Partial<'w>,
        found: &mut [Option<i64>],
        work: &mut Work<'_>,
    ) -> Result<(), Stopped> {
        match left {
            [] => Ok(()),
            [only] => {
                let own = partial.stages.clone().take(*only);
                let wanted: Vec<usize> = self.wants(*only, found).collect();
                for number in wanted {
                    found[number] = self.with_block(self.wanted[number], &partial.labels, &own, work)?;
                }
                Ok(())
            }
            _ => {
                let (first, second) = left.split_at(left.len() / 2);
                for (stay, go) in [(first, second), (second, first)] {
                    let partial = self.add(go, partial.clone(), stay, work)?;
                    self.halve(stay, &partial, found, work)?;
                }
                Ok(())
            }
        }
    }

    /// The labels with more blocks; `left` are to come.
    fn add(
        &self,
        more: &[usize],
        Partial { mut labels, mut stages }: Partial<'w>,
        left: &[usize],
        work: &mut Work<'_>,
    ) -> Result<Partial<'w>, Stopped> {
        let best = |at: &usize| self.node.lagrangian.bests[self.rest.order[*at]];
        let mut left_best: i128 = more.iter().chain(left).map(best).sum();
        for at in more {
            left_best -= best(at);
            let (moves, rows) = stages.take(*at);
            let keep = self.search.within(self.node, self.rest, &stages, left_best);
            work.step(labels.len() * moves.len())?;
            labels = labels.fold_within(&moves, &rows, &keep, work)?;
        }
        Ok(Partial { labels, stages })
    }

    /// The cheapest of the labels with the moves of a variable's own block, if nothing that was left out can be cheaper.
    fn with_block(
        &self,
        (variable, is_made): Forced,
        labels: &Labels,
        (moves, rows): &(Vec<Move>, Vec<StageConstraint>),
        work: &mut Work<'_>,
    ) -> Result<Option<i64>, Stopped> {
        let solver = self.search.solver;
        let (block, choice) = solver.block_of[variable];
        let Node { domains, lagrangian, within } = self.node;
        // The moves are the choices that are left, in their order.
        let choices = (0..solver.blocks[block].len()).filter(|&other| domains[block][other]);
        let mut least: Option<i64> = None;
        let mut reduced_cost: Option<i128> = None;
        for (mv, other) in moves.iter().zip(choices).filter(|(_, other)| (*other == choice) == is_made) {
            let of_choice = lagrangian.reduced_costs[block][other];
            reduced_cost = Some(reduced_cost.map_or(of_choice, |reduced_cost| reduced_cost.min(of_choice)));
            work.step(labels.len() * (rows.len() + 1))?;
            let allowed = (0..labels.len()).filter(|&label| {
                labels.mass[label] + mv.mass <= self.search.limit
                    && rows.iter().zip(&mv.changes).all(|(row, change)| {
                        let before = match row.start {
                            Start::Column(column) => labels.state(label)[column],
                            Start::Slack(slack) => slack,
                        };
                        before + change >= 0
                    })
            });
            least = allowed.map(|label| labels.cost[label] + mv.cost).chain(least).min();
        }
        let reached = reduced_cost.map(|reduced_cost| lagrangian.bound + reduced_cost + within);
        Ok(least.filter(|cost| reached.is_some_and(|reached| i128::from(*cost) * SCALE <= reached)))
    }
}
