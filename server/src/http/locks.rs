//! A lock for each account, or for whatever else: one at a time has it, and urgent waiters are told of.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, PoisonError, Weak};
use tokio::sync::{Mutex as AsyncMutex, OwnedMutexGuard};

/// A lock for each key that somebody waits for.
pub struct Locks<K>(Mutex<HashMap<K, Weak<Lock>>>);

impl<K> Default for Locks<K> {
    fn default() -> Locks<K> {
        Locks(Mutex::default())
    }
}

/// The lock of one key.
#[derive(Default)]
pub struct Lock {
    mutex: Arc<AsyncMutex<()>>,
    /// How many urgent requests wait for it.
    urgent: AtomicUsize,
}

/// From this many on, locks that nobody waits for any more are cleared away before another is made.
const MANY: usize = 1_000;

impl<K: Eq + Hash> Locks<K> {
    /// The lock of a key.
    pub fn of(&self, key: K) -> Arc<Lock> {
        let mut locks = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(lock) = locks.get(&key).and_then(Weak::upgrade) {
            return lock;
        }
        if locks.len() >= MANY {
            locks.retain(|_, lock| lock.strong_count() > 0);
        }
        let lock = Arc::new(Lock::default());
        locks.insert(key, Arc::downgrade(&lock));
        lock
    }
}

impl Lock {
    /// Waits for the lock, which is held as long as what is given. The holder can ask meanwhile whether somebody urgent waits.
    pub async fn wait(self: &Arc<Lock>, is_urgent: bool) -> OwnedMutexGuard<()> {
        let _urgent = is_urgent.then(|| Urgent::new(self));
        Arc::clone(&self.mutex).lock_owned().await
    }

    /// Whether somebody urgent waits for it.
    pub fn is_wanted(&self) -> bool {
        self.urgent.load(Ordering::Relaxed) > 0
    }
}

/// An urgent waiter, counted until it waits no longer.
struct Urgent<'l>(&'l Lock);

impl Urgent<'_> {
    fn new(lock: &Lock) -> Urgent<'_> {
        lock.urgent.fetch_add(1, Ordering::Relaxed);
        Urgent(lock)
    }
}

impl Drop for Urgent<'_> {
    fn drop(&mut self) {
        self.0.urgent.fetch_sub(1, Ordering::Relaxed);
    }
}
