//! Turns: one at a time for each account.

use crate::store::access::Access;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError, Weak};
use tokio::sync::Mutex as Turn;

/// A turn for each account that has somebody waiting.
#[derive(Default)]
pub struct Turns(Mutex<HashMap<Access, Weak<Turn<()>>>>);

/// From this many on, turns that nobody waits for any more are cleared away before another is made.
const MANY: usize = 1_000;

impl Turns {
    /// The turn of an account; whoever locks it has it.
    pub fn of(&self, access: Access) -> Arc<Turn<()>> {
        let mut turns = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(turn) = turns.get(&access).and_then(Weak::upgrade) {
            return turn;
        }
        if turns.len() >= MANY {
            turns.retain(|_, turn| turn.strong_count() > 0);
        }
        let turn = Arc::new(Turn::new(()));
        turns.insert(access, Arc::downgrade(&turn));
        turn
    }
}
