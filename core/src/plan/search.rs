//! The search: the frontier of each component, block by block, and the sum of the components.
//!
//! Where a limit ends it first, two things are carried to the end instead: a thinned set of labels, which gives allowed
//! sets, and the same labels with the open rows let go, which gives a bound that no allowed set can pass. The distance
//! between the two is the gap.

use super::blocks::{Component, components};
use super::frontier::Frontier;
use super::labels::{Labels, Move, StageRow, Start, bits};
use super::rows::{Model, Row, model};
use super::work::{Stopped, Work};
use super::{Options, Ready};
use std::collections::BTreeMap;

/// Steps that may still be done once a limit has been reached, shared by the folds that are left: about half a second.
const GRACE: usize = 100_000_000;
/// Labels kept per fold then, at most.
const THINNED: usize = 2_000;

/// What is known of a part: allowed sets, and a bound (cost, mass) if those are not proved best.
struct Found {
    sets: Labels,
    bound: Option<Labels>,
}

/// The frontier of a problem.
pub(super) fn frontier(ready: &Ready<'_>, options: &Options, should_stop: &dyn Fn() -> bool) -> Frontier {
    let mut work = Work::new(options, should_stop);
    let Some(model) = model(ready, &mut work) else {
        return Frontier::none();
    };
    let words = model.swaps.len().div_ceil(64);
    let components = components(&model, &mut work);
    let blocks: usize = components.iter().map(|component| component.blocks.len()).sum();
    let mut rush = Rush::new(blocks + components.len());
    let mut parts: Vec<Found> =
        components.iter().map(|component| of_component(&model, component, words, &mut work, &mut rush)).collect();
    parts.sort_by_key(|part| part.sets.len());
    let proved = parts.iter().all(|part| part.bound.is_none());
    let used = compact(&mut parts, words);
    let words = used.len().div_ceil(64);

    let mut sets = Labels::nothing(words);
    let mut bound = (!proved).then(|| Labels::nothing(0));
    for part in &parts {
        let moves = part.sets.moves();
        let exact = match bound {
            None => work.fold(sets.len(), false, moves.len()).and_then(|()| sets.fold(&moves, &[], &mut work)),
            Some(_) => Err(Stopped),
        };
        match exact {
            Ok(folded) => sets = folded,
            Err(Stopped) => {
                let so_far = bound.unwrap_or_else(|| lower(&sets));
                let of_part = lower(part.bound.as_ref().unwrap_or(&part.sets));
                bound = Some(rush.bound(&so_far, &of_part.moves()));
                sets = rush.sets(&sets, &thinned(&part.sets, rush.share().isqrt()).moves(), &[]);
            }
        }
    }
    Frontier::new(ready, &model, &used, &sets, bound.as_ref())
}

fn of_component(model: &Model, component: &Component, words: usize, work: &mut Work<'_>, rush: &mut Rush) -> Found {
    let mut stages = Stages::new(model, component, words);
    let mut sets = Labels::nothing(words);
    let mut bound: Option<Labels> = None;
    while let Some((moves, rows)) = stages.next() {
        let exact = match bound {
            None => work
                .step(rows.len() * moves.len())
                .and_then(|()| work.fold(sets.len(), sets.width > 0, moves.len()))
                .and_then(|()| sets.fold(&moves, &rows, work)),
            Some(_) => Err(Stopped),
        };
        match exact {
            Ok(folded) => sets = folded,
            Err(Stopped) => {
                let free: Vec<Move> =
                    moves.iter().map(|mv| Move { set: Vec::new(), changes: Vec::new(), ..mv.clone() }).collect();
                bound = Some(rush.bound(&bound.unwrap_or_else(|| lower(&sets)), &free));
                sets = rush.sets(&sets, &moves, &rows);
            }
        }
    }
    Found { sets, bound }
}

/// Getting to an end once a limit was reached: allowed sets from few labels, and a bound from all of them with the rows let go. Its
/// work is bounded by [`GRACE`], shared by the folds that are left.
struct Rush {
    folds: usize,
    steps: usize,
    keep: usize,
}

impl Rush {
    fn new(folds: usize) -> Rush {
        Rush { folds, steps: GRACE, keep: THINNED }
    }

    /// The steps of one fold. Half of what is left stays for trying the last one again.
    fn share(&self) -> usize {
        self.steps / (self.folds + 2)
    }

    /// Folds as many labels as its share of the steps allows: fewer where comparing them takes too long, more again after that.
    fn sets(&mut self, sets: &Labels, moves: &[Move], rows: &[StageRow]) -> Labels {
        self.folds = self.folds.saturating_sub(1);
        while self.keep > 1 {
            let share = self.share();
            let mut work = Work::short(share);
            let folded = thinned(sets, self.keep).fold(moves, rows, &mut work);
            self.steps -= share - work.steps_left();
            if let Ok(folded) = folded {
                self.keep = (self.keep + self.keep / 2).min(THINNED);
                return folded;
            }
            self.keep /= 2;
        }
        self.keep = 2;
        unlimited(|work| thinned(sets, 1).fold(moves, rows, work))
    }

    fn bound(&self, bound: &Labels, moves: &[Move]) -> Labels {
        let most = (self.share() / moves.len().max(1)).clamp(1, THINNED);
        unlimited(|work| lower_to(bound, most).fold(moves, &[], work))
    }
}

/// At most `keep` labels, spread over the cost; at least half of them such that making nothing more is allowed.
fn thinned(labels: &Labels, keep: usize) -> Labels {
    if labels.len() <= keep {
        return labels.clone();
    }
    let (done, open): (Vec<usize>, Vec<usize>) =
        (0..labels.len()).partition(|&at| labels.state(at).iter().all(|&balance| balance >= 0));
    let half = keep / 2;
    let from_done = done.len().min(keep - open.len().min(half));
    let mut kept = spread(&done, from_done);
    kept.extend(spread(&open, keep - from_done));
    kept.sort_unstable();
    labels.select(&kept)
}

/// Work whose size is bounded by what goes into it.
fn unlimited(fold: impl FnOnce(&mut Work<'_>) -> Result<Labels, Stopped>) -> Labels {
    // No limit can be reached.
    fold(&mut Work::short(usize::MAX)).unwrap_or_default()
}

/// The stages of a component, block by block: the moves (make none, or one of the block) and the rows that are open before it or
/// touched by it.
struct Stages<'m> {
    model: &'m Model,
    component: &'m Component,
    words: usize,
    next: usize,
    /// For each row what each later block can do to it, the next one last.
    effects: Vec<Vec<Effect>>,
    /// The most that the blocks in `effects` can add to each row, and take from it.
    rescue: Vec<i64>,
    need: Vec<i64>,
    /// For each block the rows that it is the first to touch.
    begins: Vec<Vec<usize>>,
    open: Vec<usize>,
}

/// What one block can do to a row, making at most one of its swaps.
struct Effect {
    stage: usize,
    least: i64,
    most: i64,
}

impl<'m> Stages<'m> {
    fn new(model: &'m Model, component: &'m Component, words: usize) -> Stages<'m> {
        let mut stage_of = vec![usize::MAX; model.swaps.len()];
        for (stage, block) in component.blocks.iter().enumerate() {
            block.iter().for_each(|&variable| stage_of[variable] = stage);
        }
        let effects: Vec<Vec<Effect>> = component.rows.iter().map(|row| effects(row, &stage_of)).collect();
        let mut begins = vec![Vec::new(); component.blocks.len()];
        for (row, effects) in effects.iter().enumerate() {
            if let Some(first) = effects.last() {
                begins[first.stage].push(row);
            }
        }
        Stages {
            rescue: effects.iter().map(|effects| effects.iter().map(|effect| effect.most).sum()).collect(),
            need: effects.iter().map(|effects| effects.iter().map(|effect| -effect.least).sum()).collect(),
            next: 0,
            open: Vec::new(),
            model,
            component,
            words,
            effects,
            begins,
        }
    }

    fn next(&mut self) -> Option<(Vec<Move>, Vec<StageRow>)> {
        let stage = self.next;
        let block = self.component.blocks.get(stage)?;
        self.next += 1;
        let was_open = self.open.len();
        let mut active = std::mem::take(&mut self.open);
        active.append(&mut self.begins[stage]);
        let mut rows = Vec::with_capacity(active.len());
        for (at, &row) in active.iter().enumerate() {
            if self.effects[row].last().is_some_and(|effect| effect.stage == stage)
                && let Some(effect) = self.effects[row].pop()
            {
                self.rescue[row] -= effect.most;
                self.need[row] += effect.least;
            }
            let slack = self.component.rows[row].slack;
            rows.push(StageRow {
                start: if at < was_open { Start::Column(at) } else { Start::Slack(slack) },
                rescue: self.rescue[row],
                need: self.need[row],
                stays: !self.effects[row].is_empty(),
            });
        }
        let none = Move { cost: 0, mass: 0, made: 0, set: vec![0; self.words], changes: vec![0; active.len()] };
        let made = block.iter().map(|&variable| {
            let mut set = vec![0; self.words];
            set[variable / 64] = 1_u64 << (63 - variable % 64);
            let swap = &self.model.swaps[variable];
            let changes = active.iter().map(|&row| coefficient(&self.component.rows[row], variable)).collect();
            Move { cost: swap.cost, mass: swap.mass, made: 1, set, changes }
        });
        let moves = std::iter::once(none).chain(made).collect();
        self.open = active.into_iter().zip(&rows).filter(|(_, row)| row.stays).map(|(row, _)| row).collect();
        Some((moves, rows))
    }
}

/// What each block does to a row, the last block first.
fn effects(row: &Row, stage_of: &[usize]) -> Vec<Effect> {
    let mut by_stage: BTreeMap<usize, (i64, i64)> = BTreeMap::new();
    for &(variable, coefficient) in &row.terms {
        let (least, most) = by_stage.entry(stage_of[variable]).or_default();
        (*least, *most) = ((*least).min(coefficient), (*most).max(coefficient));
    }
    by_stage.into_iter().rev().map(|(stage, (least, most))| Effect { stage, least, most }).collect()
}

fn coefficient(row: &Row, variable: usize) -> i64 {
    row.terms.binary_search_by_key(&variable, |&(variable, _)| variable).map_or(0, |at| row.terms[at].1)
}

/// Renumbers the bits of all sets so that only variables that some set uses have one. Returns those variables, ascending.
fn compact(parts: &mut [Found], words: usize) -> Vec<usize> {
    let mut any = vec![0_u64; words];
    for part in parts.iter() {
        for set in (0..part.sets.len()).map(|at| part.sets.set(at)) {
            any.iter_mut().zip(set).for_each(|(any, word)| *any |= word);
        }
    }
    let used: Vec<usize> = bits(&any).collect();
    let fewer = used.len().div_ceil(64);
    for part in parts {
        let mut sets = vec![0_u64; part.sets.len() * fewer];
        for at in 0..part.sets.len() {
            for bit in bits(part.sets.set(at)) {
                let bit = used.partition_point(|&variable| variable < bit);
                sets[at * fewer + bit / 64] |= 1_u64 << (63 - bit % 64);
            }
        }
        (part.sets.sets, part.sets.words) = (sets, fewer);
    }
    used
}

fn spread(positions: &[usize], most: usize) -> Vec<usize> {
    if positions.len() <= most {
        return positions.to_vec();
    }
    (0..most).map(|at| positions[at * (positions.len() - 1) / (most - 1).max(1)]).collect()
}

/// Cost and mass alone, as a staircase.
fn without_sets(labels: &Labels) -> Labels {
    let bare = Labels { width: 0, words: 0, balances: Vec::new(), sets: Vec::new(), ..labels.clone() };
    unlimited(|work| bare.fold(&Labels::nothing(0).moves(), &[], work))
}

/// Cost and mass alone, as a staircase of at most [`THINNED`] points that none of the labels lies below or left of.
fn lower(labels: &Labels) -> Labels {
    lower_to(&without_sets(labels), THINNED)
}

/// At most `most` points that no point of this staircase lies below or left of: each stands for a run of them with the lowest cost and
/// the lowest mass of the run.
fn lower_to(staircase: &Labels, most: usize) -> Labels {
    let run = staircase.len().div_ceil(most.max(1)).max(1);
    let mut out = Labels::default();
    for at in (0..staircase.len()).step_by(run) {
        let last = (at + run).min(staircase.len()) - 1;
        out.cost.push(staircase.cost[at]);
        out.mass.push(staircase.mass[last]);
        out.made.push(0);
    }
    out
}
