//! Answers that are not made again until something is written that they hang on.

use super::plan_key::PlanKey;
use bytes::Bytes;
use kevyt_service::stored::{Access, Page};
use lru::LruCache;
use std::sync::{Mutex, PoisonError};

/// The most bytes of answers that are kept; of more, those that were asked for least recently go.
const MOST_BYTES: usize = 24 * 1024 * 1024;

/// What answers are kept by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum AnswerKey {
    /// A plan.
    Planned(PlanKey),
    /// Part of the inventory.
    Gear(Page),
}

/// Answers by account and what was asked, each with the revision that it is of.
pub struct Kept(Mutex<Answers>);

struct Answers {
    by_key: LruCache<(Access, AnswerKey), (i64, Bytes)>,
    bytes: usize,
}

impl Default for Kept {
    fn default() -> Kept {
        Kept(Mutex::new(Answers { by_key: LruCache::unbounded(), bytes: 0 }))
    }
}

impl Kept {
    /// The answer of this revision.
    pub fn get(&self, access: Access, key: AnswerKey, revision: i64) -> Option<Bytes> {
        let mut answers = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        answers.by_key.get(&(access, key)).filter(|answer| answer.0 == revision).map(|answer| answer.1.clone())
    }

    /// Keeps an answer in the place of the one before.
    pub fn put(&self, access: Access, key: AnswerKey, revision: i64, answer: Bytes) {
        let mut answers = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        answers.bytes += answer.len();
        if let Some((_, (_, old))) = answers.by_key.push((access, key), (revision, answer)) {
            answers.bytes -= old.len();
        }
        while answers.bytes > MOST_BYTES
            && let Some((_, (_, oldest))) = answers.by_key.pop_lru()
        {
            answers.bytes -= oldest.len();
        }
    }
}
