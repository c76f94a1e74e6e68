//! Who somebody is: name, preferences, session tokens.

mod name;
mod token;

pub use name::AccountName;
pub use token::{Digest, Token, digest};

use kevyt_core::caution::Sleeper;
use kevyt_core::gear::WeightSource;
use kevyt_core::quantity::{Currency, Mass, MassStyle, MassUnit, Units};
use kevyt_core::swap::FallRates;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

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

    /// A mass in a sentence: exact grams, or ounces.
    pub fn text(self, mass: Mass) -> String {
        match self {
            MassSystem::Metric => mass.in_grams(),
            MassSystem::PoundsAndOunces | MassSystem::DecimalPounds => mass.format(MassStyle::TableOz),
        }
    }

    /// The system of temperatures, volumes and distances that goes with it.
    pub fn units(self) -> Units {
        match self {
            MassSystem::Metric => Units::Metric,
            MassSystem::PoundsAndOunces | MassSystem::DecimalPounds => Units::Imperial,
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(default, deny_unknown_fields)]
pub struct Settings {
    /// Where a weight comes from that is merely typed; null as long as nobody has said so.
    pub typed_weights: Option<TypedWeights>,
    /// What is added to ratings of warmth, in tenths of a degree Celsius: 50 for who sleeps cold, -30 for who sleeps warm.
    pub sleeper_offset_tenth_c: i64,
    /// What the walker weighs, in milligrams; null if nobody said.
    pub body_mg: Option<i64>,
    /// The share of that above which a load is told, in percent; a fifth where nobody said.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub body_percent: Option<u32>,
    /// Whether the pad counts among the heavy few.
    pub heavy_four: bool,
    /// Whether small parts (stakes, poles, ground sheet, liner, pillow) count with the system that they belong to.
    pub small_parts: bool,
    /// Whether pairs of a maker's figure and a weighing that are over 40 % apart count too.
    pub keeps_far_pairs: bool,
    /// Under how many milligrams of base weight a list is of the lightest class, the next, and the third.
    pub class_mg: [i64; 3],
    /// The most money to spend over all lists of the coming twelve months; null for no limit.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub year_budget: Option<YearBudget>,
    /// By how much of itself a worth falls in a year, in per cent, by the keys of systems; a system that is not named has its usual rate.
    #[schema(value_type = BTreeMap<String, u32>)]
    pub worth_falls_percent: FallRates,
}

/// Money for all lists of the coming twelve months.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct YearBudget {
    /// In minor units.
    pub minor: i64,
    /// When it was first said, in seconds since 1970, UTC: what swaps that are done since have taken is taken off it.
    pub said_at: i64,
}

/// What an account has found a light thing of a kind to weigh and cost, in the place of the typical figures.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TypicalFigure {
    /// What it weighs, in milligrams.
    pub mg: i64,
    /// What it costs, in minor units; null if nobody said.
    pub minor: Option<i64>,
}

/// The same by the keys of kinds.
pub type OwnTypical = BTreeMap<String, TypicalFigure>;

/// Where weights come from that are merely typed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TypedWeights {
    /// Off one's own scale.
    Weighed,
    /// The maker's figure.
    Maker,
}

/// Where the classes of base weight end until somebody says otherwise: round figures in kilograms, or in pounds (5, 10 and 20).
const CLASSES_IN_KG: [i64; 3] = [2_300_000, 4_500_000, 9_000_000];
const CLASSES_IN_LB: [i64; 3] = [2_267_962, 4_535_924, 9_071_847];

impl Default for Settings {
    fn default() -> Settings {
        Settings {
            typed_weights: None,
            sleeper_offset_tenth_c: 0,
            body_mg: None,
            body_percent: None,
            heavy_four: false,
            small_parts: false,
            keeps_far_pairs: false,
            class_mg: CLASSES_IN_KG,
            year_budget: None,
            worth_falls_percent: FallRates::default(),
        }
    }
}

impl Settings {
    /// The same with classes that nobody has changed at round figures of the account's units.
    #[must_use]
    pub fn in_units(self, mass: MassSystem) -> Settings {
        let class_mg = match mass.units() {
            _ if ![CLASSES_IN_KG, CLASSES_IN_LB].contains(&self.class_mg) => self.class_mg,
            Units::Metric => CLASSES_IN_KG,
            Units::Imperial => CLASSES_IN_LB,
        };
        Settings { class_mg, ..self }
    }

    /// The one as whom the walker sleeps and carries.
    pub fn sleeper(&self) -> Sleeper {
        Sleeper {
            offset: self.sleeper_offset_tenth_c,
            body: self.body_mg.map(Mass::from_mg),
            body_percent: self.body_percent,
        }
    }

    /// Where a weight comes from that is merely typed: the maker, whose figure is the more doubtful, until somebody says otherwise.
    pub fn typed_weights(&self) -> WeightSource {
        match self.typed_weights {
            Some(TypedWeights::Weighed) => WeightSource::Weighed,
            Some(TypedWeights::Maker) | None => WeightSource::Maker,
        }
    }
}
