//! Who somebody is: preferences, passwords, session tokens.

mod name;
mod password;
mod token;

pub use name::AccountName;
pub use password::{Passwords, check_new};
pub use token::{Digest, Token, digest};

use kevyt_core::gear::WeightSource;
use kevyt_core::quantity::{Currency, MassUnit};
use serde::{Deserialize, Serialize};

/// The units in which an account types and sees masses.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum MassSystem {
    /// Grams in tables, kilograms in totals.
    Metric,
    /// Ounces in tables, pounds and ounces in totals.
    PoundsAndOunces,
    /// Ounces in tables, decimal pounds in totals.
    DecimalPounds,
}

impl MassSystem {
    /// The unit of a bare number in a table.
    pub fn table_unit(self) -> MassUnit {
        match self {
            MassSystem::Metric => MassUnit::G,
            MassSystem::PoundsAndOunces | MassSystem::DecimalPounds => MassUnit::Oz,
        }
    }

    /// The unit of a bare number where a total is asked for.
    pub fn total_unit(self) -> MassUnit {
        match self {
            MassSystem::Metric => MassUnit::Kg,
            MassSystem::PoundsAndOunces | MassSystem::DecimalPounds => MassUnit::Lb,
        }
    }
}

/// How an account counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Preferences {
    /// Units of mass.
    pub mass: MassSystem,
    /// The one currency of all its money.
    pub currency: Currency,
}

/// What an account has settled once for all.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(default, deny_unknown_fields)]
pub struct Settings {
    /// Where a weight comes from that is merely typed; null as long as nobody has said so.
    pub typed_weights: Option<TypedWeights>,
}

/// Where weights come from that are merely typed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TypedWeights {
    /// Off one's own scale.
    Weighed,
    /// The maker's figure.
    Maker,
}

impl Settings {
    /// Where a weight comes from that is merely typed: the maker, whose figure is the more doubtful, until somebody says otherwise.
    pub fn typed_weights(&self) -> WeightSource {
        match self.typed_weights {
            Some(TypedWeights::Weighed) => WeightSource::Weighed,
            Some(TypedWeights::Maker) | None => WeightSource::Maker,
        }
    }
}
