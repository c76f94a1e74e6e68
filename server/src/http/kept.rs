//! Answers, and parts of them, that are not made again until something is written that they hang on.

use lru::LruCache;
use std::hash::Hash;
use std::sync::{Mutex, PoisonError};

/// Answers by what was asked and whose they are, each with the revision that it is of; things by themselves, each with its version.
pub struct Kept<K, A> {
    /// The most bytes of answers; of more, those that were asked for least recently go.
    most_bytes: usize,
    /// How many bytes an answer has.
    bytes_of: fn(&A) -> usize,
    answers: Mutex<Answers<K, A>>,
}

struct Answers<K, A> {
    by_key: LruCache<K, (i64, A)>,
    bytes: usize,
}

impl<K: Eq + Hash, A: Clone> Kept<K, A> {
    /// With room for so many bytes.
    pub fn new(most_bytes: usize, bytes_of: fn(&A) -> usize) -> Kept<K, A> {
        Kept { most_bytes, bytes_of, answers: Mutex::new(Answers { by_key: LruCache::unbounded(), bytes: 0 }) }
    }

    /// The answer of this revision.
    pub fn get(&self, key: &K, revision: i64) -> Option<A> {
        let mut answers = self.answers.lock().unwrap_or_else(PoisonError::into_inner);
        answers.by_key.get(key).filter(|answer| answer.0 == revision).map(|answer| answer.1.clone())
    }

    /// Keeps an answer in the place of the one before. One that has no room even alone is not kept: it would push all others out first.
    pub fn put(&self, key: K, revision: i64, answer: A) {
        let bytes = (self.bytes_of)(&answer);
        if bytes > self.most_bytes {
            return;
        }
        let mut answers = self.answers.lock().unwrap_or_else(PoisonError::into_inner);
        answers.bytes += bytes;
        if let Some((_, (_, old))) = answers.by_key.push(key, (revision, answer)) {
            answers.bytes -= (self.bytes_of)(&old);
        }
        while answers.bytes > self.most_bytes
            && let Some((_, (_, oldest))) = answers.by_key.pop_lru()
        {
            answers.bytes -= (self.bytes_of)(&oldest);
        }
    }
}
