//! What a trip asks of single things beside their weight and jobs: ratings of warmth, and the gas in a can.

use crate::quantity::{Mass, Temperature};
use serde::{Deserialize, Serialize};

/// What the temperature that a sleeping bag or quilt is sold with stands for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum RatingKind {
    /// Most people sleep through the night, lying relaxed.
    Comfort,
    /// Many still sleep, curled up.
    Limit,
    /// Survival with harm. Nothing is planned on it.
    Extreme,
    /// Nobody says which; taken for a limit.
    Unknown,
}

/// The rating of a sleeping bag, quilt or underquilt.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Rating {
    /// What the temperature stands for.
    pub kind: RatingKind,
    /// The temperature.
    #[serde(rename = "tenth_c")]
    pub at: Temperature,
}

/// How far the limit of a rating lies under its comfort, in tenths of a degree: a rule of thumb from bags that state both.
pub const COMFORT_OVER_LIMIT: i64 = 55;

impl Rating {
    /// Comfort and limit, in tenths of a degree; the one that is not stated is [`COMFORT_OVER_LIMIT`] away. `None` for an extreme
    /// rating.
    pub fn comfort_and_limit(self) -> Option<(i64, i64)> {
        let at = self.at.tenths();
        match self.kind {
            RatingKind::Comfort => Some((at, at - COMFORT_OVER_LIMIT)),
            RatingKind::Limit | RatingKind::Unknown => Some((at + COMFORT_OVER_LIMIT, at)),
            RatingKind::Extreme => None,
        }
    }
}

/// What a trip asks of one piece of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(default, deny_unknown_fields)]
pub struct Facts {
    /// How warm it is rated; `None` if it is no bag or quilt, or nobody knows.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rating: Option<Rating>,
    /// What it adds to the bag or quilt it is used with, in tenths of a degree: a liner, a jacket worn to bed.
    #[serde(rename = "warms_tenth_c", skip_serializing_if = "Option::is_none")]
    pub warms: Option<i64>,
    /// The gas in one full can.
    #[serde(rename = "contents_mg", skip_serializing_if = "Option::is_none")]
    pub contents: Option<Mass>,
}

impl Facts {
    /// Whether nothing is known.
    pub fn is_empty(&self) -> bool {
        *self == Facts::default()
    }
}
