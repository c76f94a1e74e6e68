//! What plans are asked for and kept by.

use super::Caller;
use kevyt_service::stored::ListId;
use kevyt_service::{ServiceError, Services};

/// A plan that can be asked for, and that answers are kept by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum PlanKey {
    /// The plan of a list.
    Plan(ListId),
    /// Its near misses.
    NearMisses(ListId),
    /// The plan of the year's lists.
    Year,
}

impl PlanKey {
    /// What tells whether anything was written since that it hangs on.
    pub fn revision(self, services: &Services, caller: Caller) -> Result<i64, ServiceError> {
        match self {
            PlanKey::Plan(list) | PlanKey::NearMisses(list) => services.revision(caller, list),
            PlanKey::Year => services.year_revision(caller),
        }
    }
}
