//! What the use cases take and give of the store: types without a query. Whoever stands on the services needs nothing else of it.

pub use kevyt_store::access::{Access, Role};
pub use kevyt_store::accounts::{Account, Overview};
pub use kevyt_store::event::Entry;
pub use kevyt_store::history::{About, Change, Which};
pub use kevyt_store::id::{
    AccountId, CandidateId, ChangeId, GearId, KeptPlanId, KitId, LineId, LinkId, ListId, SessionId, SwapId, TripId,
    TripThingId, WalkerId, WeighingId,
};
pub use kevyt_store::idempotency::Request;
pub use kevyt_store::kept_plans::KeptPlan;
pub use kevyt_store::lines::{Carried, ListLine, StoredLine};
pub use kevyt_store::links::Link;
pub use kevyt_store::lists::StoredList;
pub use kevyt_store::offers::{Figures, PriceSeen, Trouble};
pub use kevyt_store::sessions::LONGEST_DAYS;
pub use kevyt_store::swaps::{Done, Fate};
pub use kevyt_store::trips::{StoredTrip, TripThing};
pub use kevyt_store::walkers::StoredWalker;
pub use kevyt_store::weighings::{Weighed, WeighingRecord};
pub use kevyt_store::{CONNECTIONS, Page, StoreError, Stored};
