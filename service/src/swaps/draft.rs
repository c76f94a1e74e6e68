//! A swap as it is typed.

use crate::fields::{FactsDraft, JobAmounts};
use kevyt_core::gear::{Jobs, WeightSource};
use kevyt_core::list::Place;
use kevyt_core::swap::{Seen, SwapKind, SwapState};
use kevyt_store::id::{CandidateId, LineId, SwapId};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A swap as typed.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = SwapIn)]
pub struct SwapDraft {
    /// Its name; made of its sides if none is typed.
    pub name: Option<String>,
    /// Its kind.
    pub kind: SwapKind,
    /// Open, pinned or ruled out.
    #[serde(default)]
    pub state: SwapState,
    /// What comes off.
    #[serde(default)]
    pub remove: Vec<RemovalDraft>,
    /// What goes on.
    #[serde(default)]
    pub add: Vec<AdditionDraft>,
    /// Delivery; empty for none.
    #[serde(default)]
    pub delivery: String,
    /// What the removed gear brings before fees; empty for nothing.
    #[serde(default)]
    pub resale: String,
    /// Whether that counts though another list needs the gear.
    #[serde(default)]
    pub sells_needed: bool,
    /// Hours of making, with at most one decimal; empty for none.
    #[serde(default)]
    pub hours: String,
    /// Swaps that must be made with it.
    #[serde(default)]
    pub requires: Vec<SwapId>,
    /// Swaps that can't be made with it.
    #[serde(default)]
    pub excludes: Vec<SwapId>,
}

/// Pieces that come off.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = Removal)]
pub struct RemovalDraft {
    /// Of which line.
    pub line: LineId,
    /// How many.
    pub qty: u32,
    /// From where.
    #[serde(default)]
    pub from: Place,
}

/// A candidate that goes on, as typed: a new one, or one that is there, written as it is given.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = AdditionIn)]
pub struct AdditionDraft {
    /// One that is there.
    pub candidate: Option<CandidateRef>,
    /// Its name.
    pub name: String,
    /// Weight of one piece; empty if unknown.
    #[serde(default)]
    pub weight: String,
    /// Where the weight comes from.
    pub source: Option<WeightSource>,
    /// Price of one piece or a range; empty if unknown.
    #[serde(default)]
    pub price: String,
    /// Where and when that price was seen; the day as YYYY-MM-DD, sold as `new`, `used` or `sale`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seen: Option<Seen>,
    /// What a shop knows it by, so that its price is followed there; at most 40 characters.
    #[serde(default)]
    pub offer: Option<String>,
    /// Jobs that it does.
    #[serde(default)]
    #[schema(value_type = JobAmounts)]
    pub provides: Jobs,
    /// Jobs that it needs.
    #[serde(default)]
    #[schema(value_type = JobAmounts)]
    pub needs: Jobs,
    /// What a trip asks of it, taken as a whole; as it was unless given.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub facts: Option<FactsDraft>,
    /// The key of its kind; as it was unless given.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub kind: Option<String>,
    /// Jobs whose amounts come from the kind and nobody has confirmed; taken with `kind`.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub assumed: Vec<String>,
    /// Its marks, all of them; as they were unless given.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub marks: Option<Vec<String>>,
    /// Pieces.
    pub qty: u32,
    /// Where they count.
    #[serde(default)]
    pub place: Place,
}

/// A candidate as it was read.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CandidateRef {
    /// The candidate.
    pub id: CandidateId,
    /// The version it was read at.
    pub version: i32,
}
