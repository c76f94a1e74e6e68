//! The order in which a chosen set is bought.

use super::Ready;
use super::check::Checker;
use crate::quantity::Mass;

/// Orders sets of swaps of one problem.
#[derive(Debug)]
pub struct BuyingOrder<'r, 'a> {
    ready: &'r Ready<'a>,
    /// The place of each swap in the ranking, incomplete ones included.
    rank_of: Vec<usize>,
}

impl<'r, 'a> BuyingOrder<'r, 'a> {
    /// For the swaps of this problem.
    pub fn new(ready: &'r Ready<'a>) -> BuyingOrder<'r, 'a> {
        let mut rank_of = vec![0; ready.problem().swaps.len()];
        ready.ranking().iter().enumerate().for_each(|(rank, row)| rank_of[row.swap] = rank);
        BuyingOrder { ready, rank_of }
    }

    /// The set by grams per money, free ones first, none before one that it requires. Swaps that require each other come
    /// together, the better-ranked first.
    pub fn of(&self, set: &[usize]) -> Vec<usize> {
        let mut waiting = set.to_vec();
        waiting.sort_by_key(|&swap| self.rank_of[swap]);
        let mut order = Vec::with_capacity(set.len());
        while !waiting.is_empty() {
            let is_free = |&swap: &usize| {
                let required = &self.ready.problem().swaps[swap].requires;
                !required.iter().filter_map(|id| self.ready.swap_index(id)).any(|other| waiting.contains(&other))
            };
            let next = waiting.iter().position(is_free).unwrap_or(0);
            order.push(waiting.remove(next));
        }
        order
    }

    /// The base weight after each of these swaps, made one after the other, kits too.
    pub fn bases(&self, order: &[usize]) -> Vec<Mass> {
        let checker = Checker::new(self.ready);
        (1..=order.len()).map(|made| checker.base_after(&order[..made])).collect()
    }
}
