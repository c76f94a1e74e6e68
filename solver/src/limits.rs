//! How much work a search may do.

/// Limits of one search. The same limits give the same answer on every machine; a deadline is the caller's `should_stop`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Limits {
    /// The most labels (partial plans) weighed up in all, before branch and bound takes over.
    pub most_work: u64,
    /// The most labels that one fold starts from while conditions are open. Comparing them takes time that grows with
    /// their square.
    pub most_open: usize,
    /// The most steps of branch and bound, where labels are too many: about half a minute.
    pub most_steps: usize,
    /// The most numbers of 8 bytes that the labels of one fold may take: what bounds the memory of a search.
    pub most_cells: usize,
}

impl Default for Limits {
    fn default() -> Self {
        Limits { most_work: 400_000_000, most_open: 60_000, most_steps: 2_000_000_000, most_cells: 32_000_000 }
    }
}
