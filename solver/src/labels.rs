//! Partial plans and how they grow: one fold adds a block, or a whole component's frontier.
//!
//! A label is a set of swaps over the blocks seen so far: what it costs, what it does to the base weight, and for each row
//! still open what is left of it (its balance, clipped where more can't matter any more). Label a dominates b if it costs
//! no more, is no heavier and has no less left of any row, and either is strictly better in cost or mass or has the set
//! that wins ties: then whatever completes b completes a at least as well.

use crate::work::{Stopped, Work};
use rustc_hash::FxHashMap;
use std::cmp::Ordering;

/// Labels over one set of open rows, stored by column.
#[derive(Debug, Clone, Default)]
pub struct Labels {
    /// How many rows are open.
    pub width: usize,
    /// Words per set.
    pub words: usize,
    /// What each label costs.
    pub cost: Vec<i64>,
    /// Its change of mass.
    pub mass: Vec<i64>,
    /// How many swaps a set has.
    pub made: Vec<u32>,
    /// `width` balances a label.
    pub balances: Vec<i64>,
    /// `words` words a label: variable 0 is the highest bit, so of two sets of one size the larger number is the one
    /// whose sorted ids come first.
    pub sets: Vec<u64>,
}

/// One way to go on from every label.
#[derive(Debug, Clone)]
pub struct Move {
    pub cost: i64,
    pub mass: i64,
    pub made: u32,
    pub set: Vec<u64>,
    /// Change of each row in [`Stage::rows`]; empty if there are none.
    pub changes: Vec<i64>,
}

/// A row that is open before a fold or touched by it.
#[derive(Debug, Clone, Copy)]
pub struct StageConstraint {
    /// Its column among the labels' balances, or the slack that it starts with.
    pub start: Start,
    /// The most that later blocks can add to it.
    pub most_to_come: i64,
    /// The most that later blocks can take from it.
    pub need: i64,
    /// Whether it stays open.
    pub stays: bool,
}

#[derive(Debug, Clone, Copy)]
pub enum Start {
    Column(usize),
    Slack(i64),
}

/// What a [`Candidate`] takes, in numbers of 8 bytes.
const CANDIDATE_CELLS: usize = 5;

/// A label to be: its figures, and where its set comes from.
#[derive(Clone, Copy)]
struct Candidate {
    cost: i64,
    mass: i64,
    parent: usize,
    step: usize,
    state: usize,
}

impl Labels {
    /// One label: nothing made.
    pub fn nothing(words: usize) -> Labels {
        Labels { words, cost: vec![0], mass: vec![0], made: vec![0], sets: vec![0; words], ..Labels::default() }
    }

    /// How many there are.
    pub(crate) fn len(&self) -> usize {
        self.cost.len()
    }

    /// The set of a label.
    pub fn set(&self, at: usize) -> &[u64] {
        &self.sets[at * self.words..(at + 1) * self.words]
    }

    /// What is left of the open rows.
    pub fn state(&self, at: usize) -> &[i64] {
        &self.balances[at * self.width..(at + 1) * self.width]
    }

    /// The labels as moves for another fold.
    pub fn moves(&self) -> Vec<Move> {
        (0..self.len())
            .map(|at| Move {
                cost: self.cost[at],
                mass: self.mass[at],
                made: self.made[at],
                set: self.set(at).to_vec(),
                changes: Vec::new(),
            })
            .collect()
    }

    /// Every label with every move, less those that can't keep a row or are dominated. Sorted by cost, then mass.
    pub fn fold(&self, moves: &[Move], rows: &[StageConstraint], work: &mut Work<'_>) -> Result<Labels, Stopped> {
        self.fold_within(moves, rows, &|_, _, _| true, work)
    }

    /// As [`Labels::fold`], of those alone that `keep` wants, by cost, mass and what is left of the rows that stay open.
    pub fn fold_within(
        &self,
        moves: &[Move],
        rows: &[StageConstraint],
        keep: &dyn Fn(i64, i64, &[i64]) -> bool,
        work: &mut Work<'_>,
    ) -> Result<Labels, Stopped> {
        if rows.is_empty() && self.is_frontier() {
            let mut merged = self.merged(moves, work)?;
            merged.retain(|candidate| keep(candidate.cost, candidate.mass, &[]));
            return Ok(self.grown(&merged, moves, &States::default(), 0));
        }
        let width = rows.iter().filter(|row| row.stays).count();
        let (states, candidates) = self.candidates(moves, rows, keep, work)?;
        let kept = states.undominated(candidates, width, |a, b| self.tie(moves, a, b), work)?;
        work.hold(kept.len().saturating_mul(width + self.words + 3))?;
        Ok(self.grown(&kept, moves, &states, width))
    }

    /// The labels that candidates become.
    fn grown(&self, kept: &[Candidate], moves: &[Move], states: &States, width: usize) -> Labels {
        let mut out = Labels { width, words: self.words, ..Labels::default() };
        out.cost.reserve_exact(kept.len());
        out.mass.reserve_exact(kept.len());
        out.sets.reserve_exact(kept.len() * self.words);
        for candidate in kept {
            let step = &moves[candidate.step];
            out.cost.push(candidate.cost);
            out.mass.push(candidate.mass);
            out.made.push(self.made[candidate.parent] + step.made);
            out.balances.extend_from_slice(states.state(candidate.state, width));
            out.sets.extend(self.set(candidate.parent).iter().zip(&step.set).map(|(a, b)| a | b));
        }
        out
    }

    fn is_frontier(&self) -> bool {
        let costs = self.cost.windows(2).all(|pair| pair[0] < pair[1]);
        self.width == 0 && costs && self.mass.windows(2).all(|pair| pair[0] > pair[1])
    }

    /// With no row open, every move shifts the frontier: the lower hull of the shifted copies, merged two at a time, is
    /// what [`States::undominated`] would keep, without making and sorting all candidates first.
    fn merged(&self, moves: &[Move], work: &mut Work<'_>) -> Result<Vec<Candidate>, Stopped> {
        let mut merged: Vec<Candidate> = Vec::new();
        for (step, mv) in moves.iter().enumerate() {
            let shifted = |parent: usize| Candidate {
                cost: self.cost[parent] + mv.cost,
                mass: self.mass[parent] + mv.mass,
                parent,
                step,
                state: 0,
            };
            work.step(merged.len() + self.len())?;
            work.hold((merged.len() + self.len()).saturating_mul(CANDIDATE_CELLS))?;
            let mut both = Vec::with_capacity(merged.len() + self.len());
            let mut lightest = i64::MAX;
            let mut keep = |candidate: Candidate| {
                if candidate.mass < lightest {
                    lightest = candidate.mass;
                    both.push(candidate);
                }
            };
            let mut next = 0;
            for &old in &merged {
                while next < self.len() {
                    let new = shifted(next);
                    let order =
                        (new.cost, new.mass).cmp(&(old.cost, old.mass)).then_with(|| self.tie(moves, &new, &old));
                    if order.is_gt() {
                        break;
                    }
                    keep(new);
                    next += 1;
                }
                keep(old);
            }
            (next..self.len()).for_each(|parent| keep(shifted(parent)));
            merged = both;
        }
        Ok(merged)
    }

    fn candidates(
        &self,
        moves: &[Move],
        rows: &[StageConstraint],
        keep: &dyn Fn(i64, i64, &[i64]) -> bool,
        work: &mut Work<'_>,
    ) -> Result<(States, Vec<Candidate>), Stopped> {
        let mut states = States::default();
        let mut candidates = Vec::new();
        let mut state: Vec<i64> = Vec::with_capacity(rows.len());
        for (step, mv) in moves.iter().enumerate() {
            'labels: for parent in 0..self.len() {
                work.step(1 + rows.len())?;
                state.clear();
                for (row, change) in rows.iter().zip(&mv.changes) {
                    let before = match row.start {
                        Start::Column(column) => self.balances[parent * self.width + column],
                        Start::Slack(slack) => slack,
                    };
                    let left = before + change;
                    if left + row.most_to_come < 0 {
                        continue 'labels;
                    }
                    if row.stays {
                        state.push(left.min(row.need));
                    }
                }
                let (cost, mass) = (self.cost[parent] + mv.cost, self.mass[parent] + mv.mass);
                if !keep(cost, mass, &state) {
                    continue;
                }
                let state = states.intern(&state);
                // A state is held twice, once to be found by.
                work.hold(candidates.len().saturating_mul(CANDIDATE_CELLS) + states.balances.len() * 2)?;
                candidates.push(Candidate { cost, mass, parent, step, state });
            }
        }
        Ok((states, candidates))
    }

    /// Between equal figures: fewer swaps, then the set whose sorted ids come first.
    fn tie(&self, moves: &[Move], a: &Candidate, b: &Candidate) -> Ordering {
        let made = |c: &Candidate| self.made[c.parent] + moves[c.step].made;
        let words = |c: &Candidate| self.set(c.parent).iter().zip(&moves[c.step].set).map(|(a, b)| a | b);
        made(a).cmp(&made(b)).then_with(|| words(b).cmp(words(a)))
    }
}

/// The distinct balances of the open rows that labels have.
#[derive(Default)]
struct States {
    numbers: FxHashMap<Box<[i64]>, usize>,
    balances: Vec<i64>,
}

impl States {
    fn intern(&mut self, state: &[i64]) -> usize {
        if state.is_empty() {
            return 0;
        }
        if let Some(&number) = self.numbers.get(state) {
            return number;
        }
        let number = self.numbers.len();
        self.numbers.insert(state.into(), number);
        self.balances.extend_from_slice(state);
        number
    }

    fn state(&self, number: usize, width: usize) -> &[i64] {
        &self.balances[number * width..(number + 1) * width]
    }

    fn undominated(
        &self,
        mut candidates: Vec<Candidate>,
        width: usize,
        tie: impl Fn(&Candidate, &Candidate) -> Ordering,
        work: &mut Work<'_>,
    ) -> Result<Vec<Candidate>, Stopped> {
        // Stable, because the moves come as sorted runs: merging runs is what this sort is quick at.
        candidates.sort_by(|a, b| (a.cost, a.mass).cmp(&(b.cost, b.mass)).then_with(|| tie(a, b)));
        let mut lightest = vec![i64::MAX; self.numbers.len().max(1)];
        // States with a label kept, those that dominated lately in front.
        let mut alive: Vec<usize> = Vec::new();
        candidates.retain(|candidate| {
            if work.is_stopped() {
                return false;
            }
            // Candidates come by cost, mass and tie, so one kept earlier dominates if it is no heavier and its balances are no less.
            if lightest[candidate.state] <= candidate.mass {
                return false;
            }
            if width > 0 {
                let state = self.state(candidate.state, width);
                let mut compared = 1;
                let dominator = alive.iter().position(|&other| {
                    let mut numbers = self.state(other, width).iter().zip(state);
                    lightest[other] <= candidate.mass && {
                        let holds = numbers.all(|(a, b)| a >= b);
                        compared += width - numbers.len();
                        holds
                    }
                });
                // The answer is asked for at the next candidate.
                let _ = work.step(compared + alive.len() / 4);
                if let Some(at) = dominator {
                    alive.swap(at, at / 2);
                    return false;
                }
                if lightest[candidate.state] == i64::MAX {
                    alive.push(candidate.state);
                }
            }
            lightest[candidate.state] = candidate.mass;
            true
        });
        work.step(0)?;
        Ok(candidates)
    }
}

/// The positions of the bits that are set, ascending.
pub fn bits(set: &[u64]) -> impl Iterator<Item = usize> {
    set.iter().enumerate().flat_map(|(at, &word)| {
        let mut left = word;
        std::iter::from_fn(move || {
            let bit = usize::try_from(left.leading_zeros()).ok().filter(|&bit| bit < 64)?;
            left ^= 1 << (63 - bit);
            Some(at * 64 + bit)
        })
    })
}
