//! Keys of an account file in the place of ids.

use std::collections::HashMap;

/// Keys of a kind, by the order in which its ids were made.
pub(super) struct Keys<I>(HashMap<I, usize>, char);

impl<I: Copy + Eq + std::hash::Hash> Keys<I> {
    pub(super) fn new(letter: char, ids: impl IntoIterator<Item = I>) -> Keys<I> {
        Keys(ids.into_iter().enumerate().map(|(at, id)| (id, at)).collect(), letter)
    }

    pub(super) fn place(&self, id: I) -> Option<usize> {
        self.0.get(&id).copied()
    }

    pub(super) fn key(&self, id: I) -> Option<String> {
        Some(format!("{}{}", self.1, self.place(id)? + 1))
    }
}
