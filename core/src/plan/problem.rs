//! The problem as it is given.

use super::Meet;
use super::TargetOf;
use super::night::Night;
use crate::gear::{Counting, Jobs};
use crate::list::{Line, LineId, WeighedKit};
use crate::quantity::{Currency, Mass, Money};
use crate::swap::{RankBy, Selling, Swap};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// A pack list, its swaps, and the question.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Problem {
    /// The currency of all money in it.
    pub currency: Currency,
    /// The list as it stands.
    pub lines: Vec<Line>,
    /// Kits whose own weighing counts where they are whole on the list, the newest first.
    pub kits: Vec<WeighedKit>,
    /// What could be changed.
    pub swaps: Vec<Swap>,
    /// What the trip requires.
    pub require: Jobs,
    /// What the pack weighs at its heaviest start with the list as it stands, food, water and gas in it; none if nobody knows. Then the load
    /// that packs carry comfortably is held against it.
    pub heaviest_start: Option<Mass>,
    /// The gas in one full piece of the lines that are cans: the heaviest start has its gas from the trip.
    pub gas: HashMap<LineId, Mass>,
    /// The night to get through; none if none is asked about.
    pub night: Option<Night>,
    /// The base weight to reach.
    pub target: Mass,
    /// The most money to spend.
    pub budget: Money,
    /// What an hour of making is worth; zero if nothing.
    pub hour_rate: Money,
    /// How it is asked for, beside target and budget.
    pub terms: Terms,
}

/// How a plan is asked for, beside target and budget.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(default)]
pub struct Terms {
    /// Which figure of each weight counts. In a [`Problem`] lines and additions are counted so already ([`Problem::counted`]).
    pub counting: Counting,
    /// Which saving ranks. What a plan is about is base weight, unless its target is of another figure.
    pub rank_by: RankBy,
    /// What the target is of. A [`Problem`] is put so that its base weight is that ([`Problem::loaded`], [`Problem::heavy_few`]).
    #[serde(skip_serializing_if = "TargetOf::is_base")]
    pub target_of: TargetOf,
    /// The money as it comes in, if somebody said.
    pub purse: Option<Purse>,
    /// What selling takes. In a [`Problem`] it is taken off each resale already.
    pub selling: Selling,
    /// What a plan must leave nothing short of, each once. In a [`Problem`] it is what of it is asked about.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub meet: Vec<Meet>,
}

/// Money that comes in month by month.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
pub struct Purse {
    /// There already.
    #[serde(rename = "now_minor")]
    pub now: Money,
    /// More of it each month from the next one on.
    #[serde(rename = "month_minor")]
    pub month: Money,
    /// How many months after its swap a resale is paid.
    #[serde(rename = "resale_after_months")]
    pub resale_after: u32,
    /// What had been spent on the list when it was said what is there already; `None` where nothing is counted as spent since.
    #[serde(rename = "spent_then_minor", default, skip_serializing_if = "Option::is_none")]
    pub spent_then: Option<Money>,
}

impl Purse {
    /// The same with what is left of it when so much has been spent on the list.
    #[must_use]
    pub fn left(self, spent: Money) -> Purse {
        let since = self.spent_then.map_or(Money::ZERO, |then| spent - then);
        Purse { now: (self.now - since).max(Money::ZERO), spent_then: self.spent_then.map(|_| spent), ..self }
    }
}

impl Problem {
    /// The same problem with another figure of each weight counting.
    #[must_use]
    pub fn counted(mut self, counting: Counting) -> Problem {
        let additions = self.swaps.iter_mut().flat_map(|swap| &mut swap.add).map(|addition| &mut addition.weight);
        let lines = self.lines.iter_mut().map(|line| &mut line.weight);
        lines.chain(additions).flatten().for_each(|known| *known = known.counted(counting));
        self.terms.counting = counting;
        self
    }
}

/// What is wrong with a problem: where, and what was expected there.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{path}: expected {expected}, found {found}")]
pub struct ProblemError {
    /// The JSON path of the value (`swaps[3].remove[0].line`).
    pub path: String,
    /// What would be accepted.
    pub expected: String,
    /// What is there.
    pub found: String,
}
