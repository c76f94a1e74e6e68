//! What was done when a swap was made for good.

use chrono::NaiveDateTime;
use kevyt_core::gear::{Status, WeightSource};
use kevyt_core::list::Place;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What becomes of a thing that a swap takes off its list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Fate {
    /// It stays at home.
    Kept,
    /// It is kept for another list.
    Elsewhere,
    /// It is sold.
    Sold,
    /// It is given away.
    Given,
    /// It is worn out.
    WornOut,
    /// It is the thing that goes on, made lighter.
    Trimmed,
}

/// What was done: `G` names a thing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Done<G> {
    /// When, UTC.
    #[schemars(with = "String")]
    pub at: NaiveDateTime,
    /// What was paid for what goes on, delivery too.
    pub paid_minor: i64,
    /// What was got for what comes off.
    pub got_minor: i64,
    /// The base weight of the list before.
    pub base_before_mg: i64,
    /// And after.
    pub base_after_mg: i64,
    /// What came off.
    pub gone: Vec<Gone<G>>,
    /// What went on.
    pub came: Vec<Came<G>>,
}

/// Something that came off a list.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Gone<G> {
    /// The thing.
    pub gear: G,
    /// Pieces.
    pub qty: u32,
    /// Where they counted: `carried`, `worn` or `used_up`.
    #[schemars(with = "String")]
    pub place: Place,
    /// What becomes of it.
    pub fate: Fate,
    /// How it stood before, where its fate changed that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub was: Option<Was>,
}

/// How a thing stood before a swap was done.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Was {
    /// Its status.
    #[schemars(with = "String")]
    pub status: Status,
    /// Pieces owned.
    pub count: u32,
    /// The weight of one piece, how it was typed, and where it came from.
    #[schemars(with = "Option<(i64, String, String)>")]
    pub weight: Option<(i64, String, WeightSource)>,
}

/// Something that went on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Came<G> {
    /// The thing.
    pub gear: G,
    /// Pieces.
    pub qty: u32,
    /// Where they count.
    #[schemars(with = "String")]
    pub place: Place,
    /// Whether it was owned before, and at home.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub owned: bool,
}

impl<G> Done<G> {
    /// With things named otherwise; those without a name are left out.
    pub fn named<H>(self, name: impl Fn(G) -> Option<H>) -> Done<H> {
        let gone = self
            .gone
            .into_iter()
            .filter_map(|Gone { gear, qty, place, fate, was }| Some(Gone { gear: name(gear)?, qty, place, fate, was }));
        let gone = gone.collect();
        let came = self
            .came
            .into_iter()
            .filter_map(|Came { gear, qty, place, owned }| Some(Came { gear: name(gear)?, qty, place, owned }));
        Done {
            at: self.at,
            paid_minor: self.paid_minor,
            got_minor: self.got_minor,
            base_before_mg: self.base_before_mg,
            base_after_mg: self.base_after_mg,
            gone,
            came: came.collect(),
        }
    }
}
