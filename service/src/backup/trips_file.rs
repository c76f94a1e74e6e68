//! The parts of `kevyt-account/1` about packing and trips.

use chrono::{NaiveDate, NaiveDateTime};
use kevyt_core::gear::{Facts, Jobs, System, WeightSource};
use kevyt_core::pack::{Noted, Zone};
use kevyt_core::trip::Trip;
use kevyt_core::walked::{Cause, Mark, Met, UsedUp};
use kevyt_store::event::Entry;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};

/// How its walker packs a list.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, JsonSchema)]
#[serde(default, deny_unknown_fields)]
pub struct PackingEntry {
    /// What the scale showed, as typed.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub reading: String,
    /// What it showed of the walker alone.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub of_me: String,
    /// What zones hold, where the walker says so, in millilitres.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub zones: BTreeMap<Zone, i64>,
    /// What is written down to do: `id`, `task`, `what`, `by`, `done`.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub to_do: Vec<Noted>,
}

/// What was said of a line when it was packed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackedEntry {
    /// Where it goes, if somebody said so.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub zone: Option<Zone>,
    /// Where it stands there.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub place: Option<i32>,
    /// Whether it is in.
    pub is_in: bool,
}

/// A base weight that a list had.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct BaseEntry {
    /// When, in UTC.
    pub at: NaiveDateTime,
    /// The base weight.
    pub base_mg: i64,
    /// Things whose weight was unknown.
    #[serde(default)]
    pub unknown: u32,
    /// swap, weighed, added, `left_out`, counted or changed.
    pub cause: Cause,
    /// What was done; left out where it is not known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub entry: Option<Entry>,
    /// What the walker says of a day before, or what was done in a sentence of an older version.
    pub what: String,
}

/// A trip.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct TripEntry {
    /// Its name.
    pub name: String,
    /// The list that it is of, by its place among the lists of the file; null if that is gone.
    pub list: Option<usize>,
    /// The first day, YYYY-MM-DD.
    pub starts_on: NaiveDate,
    /// Nights.
    pub nights: u32,
    /// Who came along.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub people: String,
    /// A line about it.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// When its list was kept as it was, in UTC; null while it is to come.
    #[serde(default)]
    pub kept_at: Option<NaiveDateTime>,
    /// The base weight of that list.
    #[serde(default)]
    pub base_mg: Option<i64>,
    /// What it was planned with, as in kevyt-list/1.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub planned: Option<Trip>,
    /// What was met: `low_tenth_c`, `rain`, `stretch_m`.
    #[serde(default)]
    pub met: Met,
    /// What was taken of supplies and brought back, in milligrams, millilitres, minutes and milliwatt hours.
    #[serde(default)]
    pub used_up: UsedUp,
    /// Its things as they were, in the order in which they were kept.
    #[serde(default)]
    pub things: Vec<TripThingEntry>,
}

/// A thing on a trip.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct TripThingEntry {
    /// The key of the gear; null for what is not owned, or not any more.
    pub gear: Option<String>,
    /// What it was.
    pub name: String,
    /// The key of its system.
    pub system: System,
    /// Pieces carried, worn, used up, apart, and left at home.
    #[serde(default)]
    pub carried: u32,
    /// Worn.
    #[serde(default)]
    pub worn: u32,
    /// Used up.
    #[serde(default)]
    pub used_up: u32,
    /// Apart.
    #[serde(default)]
    pub apart: u32,
    /// Left at home.
    #[serde(default)]
    pub left: u32,
    /// What one piece weighed, and where that came from.
    #[serde(default)]
    pub unit_mg: Option<i64>,
    /// weighed, maker, estimate or derived.
    #[serde(default)]
    pub source: Option<WeightSource>,
    /// Its tags.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
    /// What one piece did.
    #[serde(default, skip_serializing_if = "Jobs::is_empty")]
    pub provides: Jobs,
    /// What a trip asked of it.
    #[serde(default, skip_serializing_if = "Facts::is_empty")]
    pub facts: Facts,
    /// Whether it was ticked as in the pack.
    #[serde(default)]
    pub is_in: bool,
    /// Whether it was used.
    #[serde(default)]
    pub used: Option<bool>,
    /// wished, failed, `too_cold`, `too_heavy`, lent, lost.
    #[serde(default, skip_serializing_if = "BTreeSet::is_empty")]
    pub marks: BTreeSet<Mark>,
    /// The same in words.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// Nights of the trip that its gear has been given.
    #[serde(default)]
    pub nights: u32,
}
