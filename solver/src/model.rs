//! What is searched: variables and the constraints between them.

use crate::constraint::Constraint;

/// A swap that may or may not be made, or what follows for a kit or a parcel.
#[derive(Debug, Clone, Copy)]
pub struct Variable {
    /// Its index in the problem; none for a kit or a parcel.
    pub swap: Option<usize>,
    /// What making it costs.
    pub cost: i64,
    /// Change of base weight, in milligrams.
    pub mass: i64,
}

/// What is to be decided.
#[derive(Debug)]
pub struct Model {
    /// Swaps in the order of their ids, so that comparing sets by position compares them by id; then what there is of kits and parcels.
    pub swaps: Vec<Variable>,
    /// What has to hold of them.
    pub rows: Vec<Constraint>,
}

impl Model {
    /// Words of a set: a bit a swap. What follows for kits, parcels and the night comes behind the swaps and has none.
    pub fn words(&self) -> usize {
        self.swaps.partition_point(|variable| variable.swap.is_some()).div_ceil(64)
    }

    /// A variable as a set of its own: how many swaps that is, and its bit. What follows for a kit or a parcel leaves no mark.
    pub fn mark(&self, variable: usize, words: usize) -> (u32, Vec<u64>) {
        let mut set = vec![0; words];
        if self.swaps[variable].swap.is_none() {
            return (0, set);
        }
        set[variable / 64] = 1 << (63 - variable % 64);
        (1, set)
    }
}
