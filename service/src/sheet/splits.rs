//! Even splits that were found, shared by the caller for the same one.

use kevyt_core::quantity::Mass;
use kevyt_core::steps::Steps;
use kevyt_core::together::{SPLIT_STEPS, Split, even_split};
use lru::LruCache;
use std::num::NonZero;
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

/// What a split is of: own loads, body weights, shared masses.
type SplitKey = (Vec<Mass>, Vec<Option<Mass>>, Vec<Mass>);

/// The most splits that are kept.
const KEPT: NonZero<usize> = NonZero::new(256).unwrap();

/// Splits by what they are of. One that is being calculated is waited for by others who ask for it.
pub struct Splits(Mutex<LruCache<SplitKey, Arc<OnceLock<Option<Split>>>>>);

impl Default for Splits {
    fn default() -> Splits {
        Splits(Mutex::new(LruCache::new(KEPT)))
    }
}

impl Splits {
    /// The most even split, within the steps that one may take.
    pub fn even(&self, own: Vec<Mass>, bodies: Vec<Option<Mass>>, shared: Vec<Mass>) -> Option<Split> {
        let asked = (own, bodies, shared);
        let split = {
            let mut kept = self.0.lock().unwrap_or_else(PoisonError::into_inner);
            Arc::clone(kept.get_or_insert(asked.clone(), Arc::default))
        };
        let (own, bodies, shared) = &asked;
        split.get_or_init(|| even_split(own, bodies, shared, &mut Steps::up_to(SPLIT_STEPS))).clone()
    }
}
