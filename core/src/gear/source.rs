//! Where a weight comes from.

use serde::{Deserialize, Serialize};

/// The source of a unit weight. An unknown weight has no source.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum WeightSource {
    /// Put on a scale by the walker.
    Weighed,
    /// The maker's figure.
    Maker,
    /// A guess.
    Estimate,
    /// Worked out: what a weighed kit has over its other parts.
    Derived,
}
