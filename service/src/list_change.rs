//! A change of a list, as it is typed.

use crate::fields::{JobAmounts, Patch, some_jobs};
use kevyt_core::gear::{Counting, Jobs};
use kevyt_core::list::Way;
use kevyt_core::plan::TargetOf;
use kevyt_core::swap::RankBy;
use kevyt_core::trip::{Figure, Trip};
use serde::Deserialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A change of a list, as typed: absent fields stay, null clears.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = ListIn)]
pub struct ListChange {
    /// Its name.
    pub name: Option<String>,
    /// A line about the trip.
    pub note: Option<String>,
    /// The base weight to reach; a bare number is in kilograms or pounds.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub target: Patch<String>,
    /// The most money to spend.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub budget: Patch<String>,
    /// What an hour of making is worth.
    pub hour_rate: Option<String>,
    /// What the trip requires, as far as the walker says so.
    #[serde(default, deserialize_with = "some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    pub requires: Option<Jobs>,
    /// The trip, as in kevyt-list/1, whole; what is in its `requires` is left out.
    #[serde(default)]
    #[schema(value_type = Option<Trip>)]
    pub trip: Patch<Trip>,
    /// Figures of the trip, as typed, each by its name in `Figure`. Bare numbers are in the account's units.
    #[serde(default)]
    pub figures: BTreeMap<Figure, String>,
    /// What is charged on the trip; all of it.
    pub devices: Option<Vec<DeviceDraft>>,
    /// Counting rules of the walker's own.
    pub ways: Option<Vec<Way>>,
    /// Which figure of each weight the plan counts on.
    pub counting: Option<Counting>,
    /// Which saving ranks.
    pub rank_by: Option<RankBy>,
    /// What the target is of.
    pub target_of: Option<TargetOf>,
    /// Money as it comes in.
    #[serde(default)]
    #[schema(value_type = Option<PurseChange>)]
    pub purse: Patch<PurseChange>,
    /// What selling takes.
    pub selling: Option<SellingChange>,
    /// What the plan must leave nothing short of: `warmth`, `ground`, keys of jobs; an empty list for nothing.
    pub meet: Option<Vec<String>>,
    /// Nights of the coming twelve months for which it is carried; null, and its trips to come say it.
    #[serde(default)]
    #[schema(value_type = Option<u32>)]
    pub year_nights: Patch<u32>,
    /// Whether it is archived.
    pub archived: Option<bool>,
}

/// Something that is charged on a trip, as typed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = DeviceIn)]
pub struct DeviceDraft {
    /// What it is.
    #[serde(default)]
    pub name: String,
    /// One charge: `15 Wh`, `4000 mAh`; a bare number is in watt hours.
    pub charge: String,
    /// Charges over the trip.
    pub charges: u32,
}

/// Money as it comes in, month by month, as typed. What is left out stays as it is, or is nothing.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = PurseIn)]
pub struct PurseChange {
    /// There already.
    pub now: Option<String>,
    /// More each month.
    pub month: Option<String>,
    /// How many months after its swap a resale is paid; 0 to 120.
    pub resale_after_months: Option<u32>,
}

/// What selling takes, as typed. What is left out stays as it is.
#[derive(Debug, Clone, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = SellingIn)]
pub struct SellingChange {
    /// The seller's fee in per cent of the price: `10`, `8.5 %`, up to 50; empty for none.
    pub fee: Option<String>,
    /// Postage; empty for none.
    pub postage: Option<String>,
}
