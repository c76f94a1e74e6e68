//! What people are told beside an answer for several lists: the ranking, the order in which a set is bought, and what it does to each list.

use super::super::{Meet, chance, loses, order};
use super::{ReadyList, ReadyLists};
use crate::quantity::{Mass, Money};
use crate::swap::{Ranked, Worth, rank};

/// Orders sets of swaps of several lists.
#[derive(Debug)]
pub struct ListsOrder<'r, 'a> {
    ready: &'r ReadyLists<'a>,
    /// The place of each swap in the ranking, incomplete ones included.
    rank_of: Vec<usize>,
}

impl<'r, 'a> ListsOrder<'r, 'a> {
    /// For the swaps of these lists.
    pub fn new(ready: &'r ReadyLists<'a>) -> ListsOrder<'r, 'a> {
        let mut rank_of = vec![0; ready.swaps().len()];
        ready.ranking().iter().enumerate().for_each(|(at, row)| rank_of[row.swap] = at);
        ListsOrder { ready, rank_of }
    }

    /// A set by gram-nights for the money, free ones first, none before one that it requires.
    pub fn of(&self, set: &[usize]) -> Vec<usize> {
        let mut ranked = set.to_vec();
        ranked.sort_by_key(|&swap| self.rank_of[swap]);
        order::in_turn(&self.ready.whole, &ranked).into_iter().flat_map(|group| group.swaps).collect()
    }
}

impl ReadyLists<'_> {
    /// The ranking: by gram-nights saved for the money, as one of a single list is by grams.
    pub fn ranking(&self) -> Vec<Ranked> {
        let worth = |swap: usize| {
            let plain = &self.whole.worths()[swap];
            match self.worth(swap) {
                Some((saving, net)) => Worth::exact(saving, net),
                None => Worth { saving: None, saving_everything: None, range: None, ..plain.clone() },
            }
        };
        let worths: Vec<Worth> = (0..self.swaps().len()).map(worth).collect();
        rank(self.swaps(), &worths)
    }

    /// What a swap saves of the base weight of each list, alone: nothing where it doesn't act, `None` while a weight is unknown.
    pub fn savings(&self, swap: usize) -> Vec<Option<Mass>> {
        let saving = |list: &ReadyList<'_>| match list.acts[swap] {
            true => list.ready.worths()[swap].saving,
            false => Some(Mass::ZERO),
        };
        self.lists.iter().map(saving).collect()
    }

    /// Whether what a swap takes off is sold: no list keeps it, and somebody said what it brings.
    pub fn sells(&self, swap: usize) -> bool {
        self.swaps()[swap].resale > Money::ZERO
    }

    /// How many carried things of a list have no weight.
    pub fn unknown(&self, list: usize) -> usize {
        self.lists[list].ready.totals().unknown
    }

    /// The chance that a list's base weight after a set is at or under its target; `None` without a target, or while a carried weight is
    /// unknown.
    pub fn chance(&self, list: usize, set: &[usize]) -> Option<f64> {
        let list = &self.lists[list];
        list.target.and_then(|_| chance(&list.ready, set))
    }

    /// Of each swap what falls shorter of what is asked on each list with it alone: the list, and what.
    pub fn loses(&self) -> Vec<Vec<(usize, Meet)>> {
        let mut all = vec![Vec::new(); self.swaps().len()];
        for (at, list) in self.lists.iter().enumerate() {
            for (swap, lost) in loses(&list.ready).into_iter().enumerate().filter(|(swap, _)| list.acts[*swap]) {
                all[swap].extend(lost.into_iter().map(|meet| (at, meet)));
            }
        }
        all
    }
}
