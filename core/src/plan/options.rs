//! How much work a search may do.

/// Limits of one search. The same limits give the same answer on every machine; a deadline is the caller's `should_stop`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Options {
    /// The most labels (partial plans) weighed up in all.
    pub most_work: u64,
    /// The most labels that one fold starts from while conditions are open. Comparing them takes time that grows with
    /// their square, and `should_stop` is asked only between folds, so this also bounds how late a stop can come.
    pub most_open: usize,
}

impl Default for Options {
    fn default() -> Self {
        Options { most_work: 400_000_000, most_open: 60_000 }
    }
}
