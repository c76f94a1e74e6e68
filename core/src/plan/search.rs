//! The search: the frontier of each component, block by block, and the sum of the components.
//!
//! Where a limit ends it first, two things are carried to the end instead: a thinned set of labels, which gives allowed
//! sets, and the same labels with the open rows let go, which gives a bound that no allowed set can pass. The distance
//! between the two is the gap.

use super::blocks::{Component, components};
use super::frontier::Frontier;
use super::labels::{Labels, Move, StageRow, Start};
use super::rows::{Model, Row, model};
use super::{Options, Ready};

/// Labels kept per fold once a limit has been reached.
const THINNED: usize = 2_000;

/// What is left of the limits.
struct Work<'s> {
    left: u64,
    most_open: usize,
    should_stop: &'s dyn Fn() -> bool,
    stopped: bool,
}

impl Work<'_> {
    /// Whether these labels may still be folded with this many moves.
    fn allows(&mut self, labels: &Labels, moves: usize) -> bool {
        let count = |n: usize| u64::try_from(n).unwrap_or(u64::MAX);
        let asked = count(labels.len()).saturating_mul(count(moves));
        let too_many_open = labels.width > 0 && labels.len() > self.most_open;
        self.stopped |= too_many_open || asked > self.left || (self.should_stop)();
        self.left = self.left.saturating_sub(asked);
        !self.stopped
    }
}

/// What is known of a part: allowed sets, and a bound (cost, mass) if those are not proved best.
struct Found {
    sets: Labels,
    bound: Option<Labels>,
}

/// The frontier of a problem.
pub(super) fn frontier(ready: &Ready<'_>, options: &Options, should_stop: &dyn Fn() -> bool) -> Frontier {
    let Some(model) = model(ready) else {
        return Frontier::none();
    };
    let mut work = Work { left: options.most_work, most_open: options.most_open, should_stop, stopped: false };
    let words = model.swaps.len().div_ceil(64);
    let mut parts: Vec<Found> =
        components(&model).iter().map(|component| of_component(&model, component, words, &mut work)).collect();
    parts.sort_by_key(|part| part.sets.len());
    let proved = parts.iter().all(|part| part.bound.is_none());
    let used = compact(&mut parts, words);
    let words = used.len().div_ceil(64);

    let mut sets = Labels::nothing(words);
    let mut bound = (!proved).then(|| Labels::nothing(0));
    for part in &parts {
        let moves = part.sets.moves();
        if bound.is_none() && !work.allows(&sets, moves.len()) {
            bound = Some(without_sets(&sets));
        }
        if let Some(so_far) = bound {
            bound = Some(
                lower(&so_far).fold(&lower(&without_sets(part.bound.as_ref().unwrap_or(&part.sets))).moves(), &[]),
            );
            sets = thinned(&sets).fold(&thinned(&part.sets).moves(), &[]);
        } else {
            sets = sets.fold(&moves, &[]);
        }
    }
    Frontier::new(ready, &model, &used, &sets, bound.as_ref())
}

fn of_component(model: &Model, component: &Component, words: usize, work: &mut Work<'_>) -> Found {
    let stages = stages(model, component, words);
    let mut sets = Labels::nothing(words);
    let mut bound: Option<Labels> = None;
    for (moves, rows) in &stages {
        if bound.is_none() && !work.allows(&sets, moves.len()) {
            bound = Some(without_sets(&sets));
        }
        if let Some(so_far) = bound {
            let free: Vec<Move> =
                moves.iter().map(|mv| Move { set: Vec::new(), changes: Vec::new(), ..mv.clone() }).collect();
            bound = Some(lower(&so_far).fold(&free, &[]));
            sets = thinned(&sets);
        }
        sets = sets.fold(moves, rows);
    }
    Found { sets, bound }
}

/// For each block the moves (make none, or one of it) and the rows that are open before it or touched by it.
fn stages(model: &Model, component: &Component, words: usize) -> Vec<(Vec<Move>, Vec<StageRow>)> {
    let blocks = &component.blocks;
    let effects: Vec<Vec<Effect>> = component.rows.iter().map(|row| effects(row, blocks, model.swaps.len())).collect();
    let mut stages = Vec::with_capacity(blocks.len());
    let mut open: Vec<usize> = Vec::new();
    for (stage, block) in blocks.iter().enumerate() {
        let active: Vec<usize> = (0..component.rows.len())
            .filter(|&row| open.contains(&row) || effects[row].iter().any(|effect| effect.stage == stage))
            .collect();
        let rows: Vec<StageRow> = active
            .iter()
            .map(|&row| {
                let later = effects[row].iter().filter(|effect| effect.stage > stage);
                StageRow {
                    start: match open.iter().position(|&other| other == row) {
                        Some(column) => Start::Column(column),
                        None => Start::Slack(component.rows[row].slack),
                    },
                    rescue: later.clone().map(|effect| effect.most).sum(),
                    need: later.clone().map(|effect| -effect.least).sum(),
                    stays: later.count() > 0,
                }
            })
            .collect();
        let none = Move { cost: 0, mass: 0, made: 0, set: vec![0; words], changes: vec![0; active.len()] };
        let made = block.iter().map(|&variable| {
            let mut set = vec![0; words];
            set[variable / 64] = 1_u64 << (63 - variable % 64);
            let swap = &model.swaps[variable];
            let changes = active.iter().map(|&row| coefficient(&component.rows[row], variable)).collect();
            Move { cost: swap.cost, mass: swap.mass, made: 1, set, changes }
        });
        stages.push((std::iter::once(none).chain(made).collect(), rows.clone()));
        open = active.into_iter().zip(rows).filter(|(_, row)| row.stays).map(|(row, _)| row).collect();
    }
    stages
}

/// What one block can do to a row, making at most one of its swaps.
struct Effect {
    stage: usize,
    least: i64,
    most: i64,
}

fn effects(row: &Row, blocks: &[Vec<usize>], variables: usize) -> Vec<Effect> {
    let mut coefficients = vec![0; variables];
    row.terms.iter().for_each(|&(variable, coefficient)| coefficients[variable] = coefficient);
    let of_block = |(stage, block): (usize, &Vec<usize>)| {
        let found = block.iter().map(|&variable| coefficients[variable]);
        let (least, most) = found.fold((0, 0), |(least, most): (i64, i64), c| (least.min(c), most.max(c)));
        (least < 0 || most > 0).then_some(Effect { stage, least, most })
    };
    blocks.iter().enumerate().filter_map(of_block).collect()
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

/// The positions of the bits that are set, ascending.
pub(super) fn bits(set: &[u64]) -> impl Iterator<Item = usize> {
    set.iter().enumerate().flat_map(|(at, &word)| {
        let mut left = word;
        std::iter::from_fn(move || {
            let bit = usize::try_from(left.leading_zeros()).ok().filter(|&bit| bit < 64)?;
            left ^= 1 << (63 - bit);
            Some(at * 64 + bit)
        })
    })
}

/// At most [`THINNED`] labels, spread over the cost; at least half of them such that making nothing more is allowed.
fn thinned(labels: &Labels) -> Labels {
    if labels.len() <= THINNED {
        return labels.clone();
    }
    let (done, open): (Vec<usize>, Vec<usize>) =
        (0..labels.len()).partition(|&at| labels.state(at).iter().all(|&balance| balance >= 0));
    let half = THINNED / 2;
    let from_done = done.len().min(THINNED - open.len().min(half));
    let mut keep = spread(&done, from_done);
    keep.extend(spread(&open, THINNED - from_done));
    keep.sort_unstable();
    labels.select(&keep)
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
    bare.fold(&Labels::nothing(0).moves(), &[])
}

/// At most [`THINNED`] points that no point of this staircase lies below or left of: each stands for a run of them with
/// the lowest cost and the lowest mass of the run.
fn lower(staircase: &Labels) -> Labels {
    let run = staircase.len().div_ceil(THINNED).max(1);
    let mut out = Labels::default();
    for at in (0..staircase.len()).step_by(run) {
        let last = (at + run).min(staircase.len()) - 1;
        out.cost.push(staircase.cost[at]);
        out.mass.push(staircase.mass[last]);
        out.made.push(0);
    }
    out
}
