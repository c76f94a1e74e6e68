//! A component as stages for labels.

use super::blocks::Component;
use super::labels::{Move, StageRow, Start};
use super::rows::{Model, Row};
use std::collections::BTreeMap;

/// The stages of a component, block by block: the moves (make one of the block, or none if that may be) and the rows that are open before it or
/// touched by it.
pub(super) struct Stages<'m> {
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
    pub fn new(model: &'m Model, component: &'m Component, words: usize) -> Stages<'m> {
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

    pub fn next(&mut self) -> Option<(Vec<Move>, Vec<StageRow>)> {
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
        let none = (!self.component.must[stage]).then(|| Move {
            cost: 0,
            mass: 0,
            made: 0,
            set: vec![0; self.words],
            changes: vec![0; active.len()],
        });
        let made = block.iter().map(|&variable| {
            let (made, set) = self.model.mark(variable, self.words);
            let swap = &self.model.swaps[variable];
            let changes = active.iter().map(|&row| coefficient(&self.component.rows[row], variable)).collect();
            Move { cost: swap.cost, mass: swap.mass, made, set, changes }
        });
        let moves = none.into_iter().chain(made).collect();
        self.open = active.into_iter().zip(&rows).filter(|(_, row)| row.stays).map(|(row, _)| row).collect();
        Some((moves, rows))
    }

    /// The rows that are still open, in the order of the labels' balances.
    pub fn open(&self) -> &[usize] {
        &self.open
    }

    /// The rows that no block so far has touched.
    pub fn waiting(&self) -> impl Iterator<Item = usize> {
        self.begins[self.next..].iter().flatten().copied()
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
