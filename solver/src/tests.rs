//! The parts of the search, each on its own.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use crate::blocks::components;
use crate::labels::{Move, StageConstraint, Start};
use crate::{Constraint, Labels, Limits, Model, Stopped, Variable, Work, bits};

fn row(slack: i64, terms: &[(usize, i64)]) -> Constraint {
    Constraint { slack, terms: terms.to_vec() }
}

fn model(swaps: usize, rows: Vec<Constraint>) -> Model {
    let swaps = (0..swaps).map(|swap| Variable { swap: Some(swap), cost: 1, mass: -1 }).collect();
    Model { swaps, rows }
}

/// The blocks of each component, in the order of the search, and how many rows hold between them.
fn parts(model: &Model) -> Vec<(Vec<Vec<usize>>, usize)> {
    components(model, &mut Work::new(&Limits::default(), &|| false))
        .into_iter()
        .map(|component| (component.blocks, component.rows.len()))
        .collect()
}

#[test]
fn choices_for_one_thing_are_one_block_without_a_row() {
    let choices = row(1, &[(0, -1), (1, -1), (2, -1)]);
    assert_eq!(parts(&model(4, vec![choices])), [(vec![vec![0, 1, 2]], 0), (vec![vec![3]], 0)]);
}

#[test]
fn two_pieces_of_a_thing_are_no_choice_but_share_a_row() {
    let bottles = row(2, &[(0, -1), (1, -1), (2, -1)]);
    let found = parts(&model(3, vec![bottles]));
    assert_eq!(found.len(), 1);
    assert_eq!((found[0].0.len(), found[0].1), (3, 1));
}

#[test]
fn a_swap_for_two_things_ties_their_choices_together() {
    let pots = row(1, &[(0, -1), (1, -1), (4, -1)]);
    let mugs = row(1, &[(2, -1), (4, -1)]);
    let found = parts(&model(5, vec![pots, mugs]));
    assert_eq!(found.len(), 2, "{found:?}");
    let tied = found.iter().find(|(blocks, _)| blocks.contains(&vec![0, 1, 4])).unwrap();
    assert_eq!((tied.0.len(), tied.1), (2, 1), "the pots are a block; the mug's row holds between it and swap 2");
    assert!(found.contains(&(vec![vec![3]], 0)));
}

#[test]
fn rows_are_closed_as_early_as_they_can_be() {
    // A job runs over all four; a condition ties 0 and 3. Between them nothing else should be opened.
    let job = row(1, &[(0, -1), (1, -1), (2, -1), (3, -1)]);
    let tie = row(0, &[(0, 1), (3, -1)]);
    let component =
        components(&model(4, vec![row(2, &job.terms), tie]), &mut Work::new(&Limits::default(), &|| false)).remove(0);
    let order: Vec<usize> = component.blocks.into_iter().map(|block| block[0]).collect();
    let place = |swap| order.iter().position(|&other| other == swap).unwrap();
    assert_eq!(place(0).abs_diff(place(3)), 1, "{order:?}");
}

#[test]
fn bits_are_read_from_the_first() {
    assert_eq!(bits(&[1 << 63, 1]).collect::<Vec<_>>(), [0, 127]);
    assert_eq!(bits(&[0, u64::MAX]).count(), 64);
    assert_eq!(bits(&[]).count(), 0);
}

impl Labels {
    fn folded(&self, moves: &[Move], rows: &[StageConstraint]) -> Labels {
        self.fold(moves, rows, &mut Work::new(&Limits::default(), &|| false)).unwrap()
    }
}

#[test]
fn work_ends_at_its_limits_and_when_it_is_told_to() {
    let limits = Limits { most_work: 100, most_open: 5, most_cells: 50, ..Limits::default() };
    let mut work = Work::new(&limits, &|| false);
    assert_eq!((work.fold(5, true, 10), work.hold(50)), (Ok(()), Ok(())));
    assert_eq!(work.fold(6, true, 1), Err(Stopped), "too many open");
    assert_eq!(work.step(0), Err(Stopped), "once stopped, always");
    assert_eq!(Work::new(&limits, &|| false).fold(101, false, 1), Err(Stopped));
    assert_eq!(Work::new(&limits, &|| false).hold(51), Err(Stopped));
    // Whether to stop is asked every so often, however the work is cut.
    let asked = std::cell::Cell::new(0);
    let ask = || asked.replace(asked.get() + 1) == 2;
    let mut work = Work::new(&limits, &ask);
    let done = (0..).take_while(|_| work.step(1_000).is_ok()).count();
    assert_eq!((asked.get(), done), (3, 2_000));
}

fn step(cost: i64, mass: i64, bit: usize, changes: &[i64]) -> Move {
    Move { cost, mass, made: 1, set: vec![1 << (63 - bit)], changes: changes.to_vec() }
}

fn none(changes: usize) -> Move {
    Move { cost: 0, mass: 0, made: 0, set: vec![0], changes: vec![0; changes] }
}

/// Cost, mass and set of each label.
fn shown(labels: &Labels) -> Vec<(i64, i64, Vec<usize>)> {
    (0..labels.cost.len()).map(|at| (labels.cost[at], labels.mass[at], bits(labels.set(at)).collect())).collect()
}

#[test]
fn a_fold_keeps_the_frontier_and_the_better_of_equals() {
    let first = Labels::nothing(1).folded(&[none(0), step(5, -5, 1, &[]), step(5, -4, 0, &[])], &[]);
    assert_eq!(shown(&first), [(0, 0, vec![]), (5, -5, vec![1])]);
    // Swap 2 costs and saves as much as swap 1: of the two alone, the smaller id.
    let both = first.folded(&[none(0), step(5, -5, 2, &[])], &[]);
    assert_eq!(shown(&both), [(0, 0, vec![]), (5, -5, vec![1]), (10, -10, vec![1, 2])]);
    let mirrored =
        Labels::nothing(1).folded(&[none(0), step(5, -5, 2, &[])], &[]).folded(&[none(0), step(5, -5, 1, &[])], &[]);
    assert_eq!(shown(&mirrored), shown(&both), "whatever order they come in");
}

#[test]
fn an_open_row_keeps_what_may_still_be_needed_and_no_more() {
    let open = |start, most_to_come, need| StageConstraint { start, most_to_come, need, stays: true };
    // One stake to spare. Swap 0 is dearer and no lighter than swap 1, but leaves more stakes.
    let moves = [none(1), step(9, -5, 0, &[1]), step(5, -5, 1, &[-1])];
    let kept = Labels::nothing(1).folded(&moves, &[open(Start::Slack(1), 0, 9)]);
    assert_eq!(shown(&kept).len(), 3, "each may be the one that lets a later swap in");
    assert_eq!((0..3).map(|at| kept.state(at)[0]).collect::<Vec<_>>(), [1, 0, 2]);
    // Later swaps take one at most: two to spare are no better than one.
    let clipped = Labels::nothing(1).folded(&moves, &[open(Start::Slack(1), 0, 1)]);
    assert_eq!((0..clipped.cost.len()).map(|at| clipped.state(at)[0]).collect::<Vec<_>>(), [1, 0, 1]);
    // Nothing later needs any: the dearer one is dominated.
    let closed = Labels::nothing(1).folded(&moves, &[StageConstraint { stays: false, ..open(Start::Slack(1), 0, 0) }]);
    assert_eq!(shown(&closed), [(0, 0, vec![]), (5, -5, vec![1])]);
}

#[test]
fn a_label_that_no_later_block_can_mend_is_dropped() {
    let row = |most_to_come| StageConstraint { start: Start::Slack(0), most_to_come, need: 0, stays: true };
    let moves = [none(1), step(5, -5, 0, &[-2])];
    assert_eq!(Labels::nothing(1).folded(&moves, &[row(1)]).cost.len(), 1);
    let hoping = Labels::nothing(1).folded(&moves, &[row(2)]);
    assert_eq!(hoping.cost.len(), 2);
    // What mends it comes, or does not.
    let last = StageConstraint { start: Start::Column(0), most_to_come: 0, need: 0, stays: false };
    let ended = hoping.folded(&[none(1), step(1, 0, 1, &[2])], &[last]);
    assert_eq!(shown(&ended), [(0, 0, vec![]), (6, -5, vec![0, 1])]);
}
