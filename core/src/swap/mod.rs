//! Swaps: what comes off a list and what goes on, what that saves and costs, and which to make first.

mod applied;
mod candidate;
mod choices;
mod gains;
mod keeping;
mod light;
mod proposals;
mod ranking;
mod resale;
mod wait;
mod worth;

#[cfg(test)]
mod tests;

pub use applied::applied;
pub use candidate::{Candidate, Seen, ordered_from};
pub use choices::{ChoiceGroup, Standing, Step, choices};
pub use gains::Gains;
pub use keeping::{FallRates, Held, Holding, by_night, swap_costs, worth_after};
pub use light::{Lighter, lighter_of_their_kind};
pub use proposals::{Learnt, Looked, PROPOSAL_STEPS, Proposal, Why, may_be_left_out, proposals};
pub use ranking::{Class, Ranked, class, rank};
pub use resale::{Elsewhere, Resale, Selling, resale};
pub use wait::{PriceSpell, TRIED_DAYS, Wait, does_what_is_short, wait};
pub(crate) use worth::plain_saving;
pub use worth::{Missing, Range, RankBy, Worth, worth};

use crate::gear::{Jobs, Known};
use crate::list::{LineId, Place};
use crate::quantity::{Mass, Money, PriceRange};
use serde::{Deserialize, Serialize};

/// The id of a swap. Ids are compared as text where everything else ties.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(transparent)]
pub struct SwapId(pub String);

/// What sort of change a swap is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum SwapKind {
    /// Something else in its place.
    Replace,
    /// Nothing in its place.
    LeaveOut,
    /// The same, lighter: cut, decanted, straps off.
    Trim,
    /// Something made.
    Make,
    /// One thing for the jobs of several.
    Combine,
    /// A part of something shared with a partner.
    Share,
    /// Borrowed or hired.
    Borrow,
    /// A heavier, safer or kinder list.
    Add,
}

/// What the walker has said about a swap.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum SwapState {
    /// Nothing: the planner decides.
    #[default]
    Open,
    /// It is made, whatever else.
    Pinned,
    /// It is not made.
    RuledOut,
}

/// Pieces that a swap takes off a line.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Removal {
    /// The line.
    pub line: LineId,
    /// How many pieces; at least 1.
    pub qty: u32,
    /// Off which of its counts.
    pub from: Place,
}

/// Pieces that a swap puts on the list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Addition {
    /// What it is.
    pub name: String,
    /// How many pieces; at least 1.
    pub qty: u32,
    /// What one piece weighs, if known.
    pub weight: Option<Known>,
    /// What one piece costs, if known.
    pub price: Option<PriceRange>,
    /// Where it will count.
    pub place: Place,
    /// What one piece does.
    pub provides: Jobs,
    /// What one piece needs.
    pub needs: Jobs,
    /// The gas in one full piece, if it is a can: the heaviest start has its gas from the trip.
    pub gas: Mass,
}

impl Addition {
    /// What one piece weighs as stated; `None` if nobody knows yet.
    pub fn unit(&self) -> Option<Mass> {
        self.weight.map(|weight| weight.unit)
    }
}

/// What delivery from a place is shared by: the place in small letters and single spaces. None where delivery costs nothing.
pub fn parcel(place: &str, delivery: Money) -> Option<String> {
    let place = place.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase();
    (delivery > Money::ZERO && !place.is_empty()).then_some(place)
}

/// A change of a pack list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Swap {
    /// Its id.
    pub id: SwapId,
    /// What it is called.
    pub name: String,
    /// Its sort.
    pub kind: SwapKind,
    /// Pinned, ruled out or open.
    pub state: SwapState,
    /// What comes off.
    pub remove: Vec<Removal>,
    /// What goes on.
    pub add: Vec<Addition>,
    /// Delivery, for the whole swap.
    pub delivery: Money,
    /// Where what goes on is ordered, if it comes from one place: what comes from there together is sent together.
    pub ordered_from: Option<String>,
    /// What the removed gear brings, after fees.
    pub resale: Money,
    /// Tenths of an hour of making.
    pub tenth_hours: i64,
    /// Swaps that must be made with it.
    pub requires: Vec<SwapId>,
    /// Swaps that can't be made with it; holds both ways.
    pub excludes: Vec<SwapId>,
}

impl Swap {
    /// What its delivery is shared by ([`parcel`]).
    pub fn parcel(&self) -> Option<String> {
        parcel(self.ordered_from.as_deref()?, self.delivery)
    }
}
