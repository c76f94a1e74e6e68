//! A component as stages for labels.

use crate::blocks::Component;
use crate::constraint::Constraint;
use crate::labels::{Move, StageConstraint, Start};
use crate::model::Model;
use std::collections::BTreeMap;

/// The stages of a component, block by block: the moves (make one of the block, or none if that may be) and the rows that are open before it or
/// touched by it. Blocks come in any order, each once.
#[derive(Clone)]
pub struct Stages<'m> {
    model: &'m Model,
    component: &'m Component,
    words: usize,
    /// What each block can do to the rows that it touches.
    touches: Vec<Vec<Touch>>,
    /// For each row how many blocks that touch it are to come, the most that they can add to it, and the most that they can take.
    coming: Vec<usize>,
    most_to_come: Vec<i64>,
    need: Vec<i64>,
    begun: Vec<bool>,
    open: Vec<usize>,
}

/// What one block can do to a row, making at most one of its swaps.
#[derive(Clone, Copy)]
struct Touch {
    row: usize,
    least: i64,
    most: i64,
}

impl<'m> Stages<'m> {
    pub fn new(model: &'m Model, component: &'m Component, words: usize) -> Stages<'m> {
        let mut block_of = vec![usize::MAX; model.swaps.len()];
        for (block, variables) in component.blocks.iter().enumerate() {
            variables.iter().for_each(|&variable| block_of[variable] = block);
        }
        let rows = component.rows.len();
        let mut touches = vec![Vec::new(); component.blocks.len()];
        let (mut coming, mut most_to_come, mut need) = (vec![0; rows], vec![0; rows], vec![0; rows]);
        for (row, terms) in component.rows.iter().enumerate() {
            for (block, (least, most)) in by_block(terms, &block_of) {
                touches[block].push(Touch { row, least, most });
                coming[row] += 1;
                most_to_come[row] += most;
                need[row] -= least;
            }
        }
        let begun = vec![false; rows];
        Stages { model, component, words, touches, coming, most_to_come, need, begun, open: Vec::new() }
    }

    /// The moves of a block, and the rows before them.
    pub fn take(&mut self, block: usize) -> (Vec<Move>, Vec<StageConstraint>) {
        let was_open = self.open.len();
        let mut active = std::mem::take(&mut self.open);
        for Touch { row, least, most } in &self.touches[block] {
            self.coming[*row] -= 1;
            self.most_to_come[*row] -= most;
            self.need[*row] += least;
            if !std::mem::replace(&mut self.begun[*row], true) {
                active.push(*row);
            }
        }
        let mut rows = Vec::with_capacity(active.len());
        for (at, &row) in active.iter().enumerate() {
            let slack = self.component.rows[row].slack;
            rows.push(StageConstraint {
                start: if at < was_open { Start::Column(at) } else { Start::Slack(slack) },
                most_to_come: self.most_to_come[row],
                need: self.need[row],
                stays: self.coming[row] > 0,
            });
        }
        let none = (!self.component.must[block]).then(|| Move {
            cost: 0,
            mass: 0,
            made: 0,
            set: vec![0; self.words],
            changes: vec![0; active.len()],
        });
        let made = self.component.blocks[block].iter().map(|&variable| {
            let (made, set) = self.model.mark(variable, self.words);
            let swap = &self.model.swaps[variable];
            let changes = active.iter().map(|&row| coefficient(&self.component.rows[row], variable)).collect();
            Move { cost: swap.cost, mass: swap.mass, made, set, changes }
        });
        let moves = none.into_iter().chain(made).collect();
        self.open = active.into_iter().zip(&rows).filter(|(_, row)| row.stays).map(|(row, _)| row).collect();
        (moves, rows)
    }

    /// The rows that are still open, in the order of the labels' balances.
    pub fn open(&self) -> &[usize] {
        &self.open
    }

    /// The rows that no block so far has touched.
    pub fn waiting(&self) -> impl Iterator<Item = usize> {
        (0..self.begun.len()).filter(|&row| !self.begun[row] && self.coming[row] > 0)
    }
}

/// The least and the most that each block does to a row.
fn by_block(row: &Constraint, block_of: &[usize]) -> BTreeMap<usize, (i64, i64)> {
    let mut by_block: BTreeMap<usize, (i64, i64)> = BTreeMap::new();
    for &(variable, coefficient) in &row.terms {
        let (least, most) = by_block.entry(block_of[variable]).or_default();
        (*least, *most) = ((*least).min(coefficient), (*most).max(coefficient));
    }
    by_block
}

fn coefficient(row: &Constraint, variable: usize) -> i64 {
    row.terms.binary_search_by_key(&variable, |&(variable, _)| variable).map_or(0, |at| row.terms[at].1)
}
