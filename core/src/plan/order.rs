//! The order in which a chosen set is bought.

use super::Ready;
use super::check::Checker;
use crate::quantity::Mass;
use petgraph::algo::kosaraju_scc;
use petgraph::graph::{DiGraph, NodeIndex};
use std::cmp::Reverse;
use std::collections::{BinaryHeap, HashMap};

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
        let mut ranked = set.to_vec();
        ranked.sort_by_key(|&swap| self.rank_of[swap]);
        in_turn(self.ready, &ranked).into_iter().flat_map(|group| group.swaps).collect()
    }

    /// The base weight after each of these swaps, made one after the other, kits too.
    pub fn bases(&self, order: &[usize]) -> Vec<Mass> {
        let checker = Checker::new(self.ready);
        (1..=order.len()).map(|made| checker.base_after(&order[..made])).collect()
    }
}

/// Swaps that require each other, and so are bought together.
pub(super) struct Group {
    /// In the order that was asked for.
    pub swaps: Vec<usize>,
    /// The groups that it requires, by their position.
    pub after: Vec<usize>,
}

/// The swaps of `wanted` in groups: none before one that it requires, else in their order. What they require beside these is left aside.
pub(super) fn in_turn(ready: &Ready<'_>, wanted: &[usize]) -> Vec<Group> {
    let place: HashMap<usize, usize> = wanted.iter().enumerate().map(|(at, swap)| (*swap, at)).collect();
    let required = |at: usize| {
        let ids = &ready.problem().swaps[wanted[at]].requires;
        ids.iter().filter_map(|id| place.get(&ready.swap_index(id)?).copied())
    };
    let mut graph = DiGraph::<(), ()>::with_capacity(wanted.len(), 0);
    wanted.iter().for_each(|_| _ = graph.add_node(()));
    for at in 0..wanted.len() {
        required(at).for_each(|other| _ = graph.add_edge(NodeIndex::new(at), NodeIndex::new(other), ()));
    }
    let mut together: Vec<Vec<usize>> =
        kosaraju_scc(&graph).into_iter().map(|nodes| nodes.into_iter().map(NodeIndex::index).collect()).collect();
    let mut group_of = vec![0; wanted.len()];
    for (group, members) in together.iter_mut().enumerate() {
        members.sort_unstable();
        members.iter().for_each(|&at| group_of[at] = group);
    }
    let after: Vec<Vec<usize>> = together
        .iter()
        .enumerate()
        .map(|(group, members)| {
            let all = members.iter().flat_map(|&at| required(at)).map(|at| group_of[at]);
            let mut others: Vec<usize> = all.filter(|other| *other != group).collect();
            others.sort_unstable();
            others.dedup();
            others
        })
        .collect();
    let order = each_after(&after, |group| together[group].first().copied());
    let mut position = vec![0; together.len()];
    order.iter().enumerate().for_each(|(at, &group)| position[group] = at);
    let group = |group: usize| Group {
        swaps: together[group].iter().map(|&at| wanted[at]).collect(),
        after: after[group].iter().map(|&other| position[other]).collect(),
    };
    order.into_iter().map(group).collect()
}

/// Positions of `after`, each after those that it names, of those that may be next the one of the least key first.
pub(super) fn each_after<K: Ord>(after: &[Vec<usize>], key: impl Fn(usize) -> K) -> Vec<usize> {
    let mut waits_for: Vec<usize> = after.iter().map(Vec::len).collect();
    let mut before: Vec<Vec<usize>> = vec![Vec::new(); after.len()];
    after.iter().enumerate().for_each(|(at, all)| all.iter().for_each(|&other| before[other].push(at)));
    let next = |at: usize| Reverse((key(at), at));
    let mut free: BinaryHeap<_> = (0..after.len()).filter(|&at| waits_for[at] == 0).map(next).collect();
    let mut order = Vec::with_capacity(after.len());
    while let Some(Reverse((_, at))) = free.pop() {
        order.push(at);
        for &other in &before[at] {
            waits_for[other] -= 1;
            if waits_for[other] == 0 {
                free.push(next(other));
            }
        }
    }
    order
}
