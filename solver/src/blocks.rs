//! The order of the search: swaps in blocks of which at most one is made, blocks in components that share no condition.

use crate::constraint::Constraint;
use crate::model::Model;
use crate::work::Work;
use std::collections::BTreeSet;

/// Part of the problem that shares no condition with the rest.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Component {
    /// Blocks in the order of the search. A block is a set of variables of which at most one is made.
    pub blocks: Vec<Vec<usize>>,
    /// Of which block one has to be made.
    pub must: Vec<bool>,
    /// The rows that hold between blocks.
    pub rows: Vec<Constraint>,
}

/// Splits a model into components.
pub fn components(model: &Model, work: &mut Work<'_>) -> Vec<Component> {
    let (blocks, block_of) = blocks(model);
    let rows = between_blocks(model, &block_of);
    let touching: Vec<BTreeSet<usize>> =
        rows.iter().map(|row| row.terms.iter().map(|&(swap, _)| block_of[swap]).collect()).collect();
    let mut rows_of: Vec<Vec<usize>> = vec![Vec::new(); blocks.len()];
    for (row, touched) in touching.iter().enumerate() {
        touched.iter().for_each(|&block| rows_of[block].push(row));
    }

    let mut seen = vec![false; blocks.len()];
    let mut components = Vec::new();
    for first in 0..blocks.len() {
        if std::mem::replace(&mut seen[first], true) {
            continue;
        }
        let (mut members, mut member_rows) = (vec![first], BTreeSet::new());
        let mut next = 0;
        while let Some(&block) = members.get(next) {
            next += 1;
            for &row in &rows_of[block] {
                if member_rows.insert(row) {
                    members.extend(touching[row].iter().filter(|&&other| !std::mem::replace(&mut seen[other], true)));
                }
            }
        }
        let order = closing_order(&members, &rows_of, &touching, work);
        components.push(Component {
            must: vec![false; order.len()],
            blocks: order.into_iter().map(|block| blocks[block].clone()).collect(),
            rows: member_rows.into_iter().map(|row| rows[row].clone()).collect(),
        });
    }
    components
}

/// The blocks of a model, and the rows that hold between them.
pub fn partition(model: &Model) -> (Vec<Vec<usize>>, Vec<&Constraint>) {
    let (blocks, block_of) = blocks(model);
    let rows = between_blocks(model, &block_of);
    (blocks, rows)
}

fn between_blocks<'m>(model: &'m Model, block_of: &[usize]) -> Vec<&'m Constraint> {
    model.rows.iter().filter(|row| !holds_within_a_block(row, block_of)).collect()
}

/// Variables in blocks, from rows of which any two terms together are too many; the rest alone.
fn blocks(model: &Model) -> (Vec<Vec<usize>>, Vec<usize>) {
    let mut at_most_one: Vec<&Constraint> = model.rows.iter().filter(|row| is_at_most_one(row)).collect();
    at_most_one.sort_by_key(|row| std::cmp::Reverse(row.terms.len()));
    let mut block_of = vec![usize::MAX; model.swaps.len()];
    let mut blocks: Vec<Vec<usize>> = Vec::new();
    let singles = (0..model.swaps.len()).map(|swap| vec![swap]);
    for members in at_most_one.into_iter().map(|row| row.terms.iter().map(|&(swap, _)| swap).collect()).chain(singles) {
        let members: Vec<usize> = members;
        let free: Vec<usize> = members.into_iter().filter(|&swap| block_of[swap] == usize::MAX).collect();
        if !free.is_empty() {
            free.iter().for_each(|&swap| block_of[swap] = blocks.len());
            blocks.push(free);
        }
    }
    (blocks, block_of)
}

fn is_at_most_one(row: &Constraint) -> bool {
    let mut taken: Vec<i64> = row.terms.iter().map(|&(_, coefficient)| -coefficient).collect();
    taken.sort_unstable();
    matches!(taken.as_slice(), [first, second, ..] if *first > 0 && first + second > row.slack)
}

/// Whether making at most one of a block is enough to keep a row: all its terms are in the block and each alone keeps it.
fn holds_within_a_block(row: &Constraint, block_of: &[usize]) -> bool {
    let mut blocks = row.terms.iter().map(|&(swap, _)| block_of[swap]);
    let Some(first) = blocks.next() else {
        return true;
    };
    blocks.all(|block| block == first) && row.slack >= 0 && row.terms.iter().all(|(_, c)| row.slack + c >= 0)
}

/// Orders blocks so that few rows are open at a time: at each step the block that leaves the fewest open. Told to stop, it takes the
/// rest as they come: any order is right.
pub fn closing_order(
    members: &[usize],
    rows_of: &[Vec<usize>],
    touching: &[BTreeSet<usize>],
    work: &mut Work<'_>,
) -> Vec<usize> {
    let mut left: Vec<usize> = touching.iter().map(BTreeSet::len).collect();
    let mut open = vec![false; touching.len()];
    let mut waiting: Vec<usize> = members.to_vec();
    let mut order = Vec::with_capacity(members.len());
    let cost = |block: usize, left: &[usize], open: &[bool]| -> (i64, usize) {
        let change = rows_of[block]
            .iter()
            .map(|&row| i64::from(!open[row] && left[row] > 1) - i64::from(open[row] && left[row] == 1));
        let widest = rows_of[block].iter().map(|&row| left[row]).max().unwrap_or(0);
        (change.sum(), widest)
    };
    loop {
        let looked_at: usize = waiting.iter().map(|&block| rows_of[block].len() + 1).sum();
        if work.step(looked_at).is_err() {
            order.append(&mut waiting);
        }
        let Some(at) = (0..waiting.len()).min_by_key(|&at| (cost(waiting[at], &left, &open), waiting[at])) else {
            break;
        };
        let block = waiting.swap_remove(at);
        for &row in &rows_of[block] {
            left[row] -= 1;
            open[row] = left[row] > 0;
        }
        order.push(block);
    }
    order
}
