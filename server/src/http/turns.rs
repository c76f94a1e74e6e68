//! Turns: one at a time for each account, or whatever else they are of.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, PoisonError, Weak};
use tokio::sync::{Mutex as Lock, OwnedMutexGuard};

/// A turn for each account that has somebody waiting.
pub struct Turns<K>(Mutex<HashMap<K, Weak<Turn>>>);

impl<K> Default for Turns<K> {
    fn default() -> Turns<K> {
        Turns(Mutex::default())
    }
}

/// The turn of an account.
#[derive(Default)]
pub struct Turn {
    lock: Arc<Lock<()>>,
    /// How many are in a hurry to have it.
    hurried: AtomicUsize,
}

/// From this many on, turns that nobody waits for any more are cleared away before another is made.
const MANY: usize = 1_000;

impl<K: Eq + Hash> Turns<K> {
    /// The turn of an account.
    pub fn of(&self, access: K) -> Arc<Turn> {
        let mut turns = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(turn) = turns.get(&access).and_then(Weak::upgrade) {
            return turn;
        }
        if turns.len() >= MANY {
            turns.retain(|_, turn| turn.strong_count() > 0);
        }
        let turn = Arc::new(Turn::default());
        turns.insert(access, Arc::downgrade(&turn));
        turn
    }
}

impl Turn {
    /// Waits for the turn, which lasts as long as what is given. Meanwhile whoever has it sees whether this is in a hurry.
    pub async fn wait(self: &Arc<Turn>, in_a_hurry: bool) -> OwnedMutexGuard<()> {
        let _hurry = in_a_hurry.then(|| Hurry::new(self));
        Arc::clone(&self.lock).lock_owned().await
    }

    /// Whether somebody waits for it in a hurry.
    pub fn is_wanted(&self) -> bool {
        self.hurried.load(Ordering::Relaxed) > 0
    }
}

/// One that waits in a hurry, until it need not any more.
struct Hurry<'t>(&'t Turn);

impl Hurry<'_> {
    fn new(turn: &Turn) -> Hurry<'_> {
        turn.hurried.fetch_add(1, Ordering::Relaxed);
        Hurry(turn)
    }
}

impl Drop for Hurry<'_> {
    fn drop(&mut self) {
        self.0.hurried.fetch_sub(1, Ordering::Relaxed);
    }
}
