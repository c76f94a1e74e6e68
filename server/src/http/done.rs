//! What a swap that is done came to.

use kevyt_service::stored::{Done, GearId};
use serde::Serialize;
use utoipa::ToSchema;

/// What was done when a swap was made for good.
#[derive(Serialize, ToSchema)]
#[schema(as = Done)]
pub struct DoneOut {
    /// When, UTC.
    at: String,
    paid_minor: i64,
    got_minor: i64,
    base_before_mg: i64,
    base_after_mg: i64,
    /// The things that went on.
    came: Vec<GearId>,
}

impl From<&Done<GearId>> for DoneOut {
    fn from(done: &Done<GearId>) -> DoneOut {
        DoneOut {
            at: done.at.and_utc().to_rfc3339(),
            paid_minor: done.paid_minor,
            got_minor: done.got_minor,
            base_before_mg: done.base_before_mg,
            base_after_mg: done.base_after_mg,
            came: done.came.iter().map(|came| came.gear).collect(),
        }
    }
}
