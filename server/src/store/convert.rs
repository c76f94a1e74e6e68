//! Column values ↔ core types.

use super::StoreError;
use kevyt_core::gear::{Jobs, Name, Weight};
use kevyt_core::quantity::{Mass, Money, PriceRange};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;

/// The word that an enum is kept as: the one it has on the wire.
pub(super) fn word<T: Serialize>(value: T) -> String {
    match serde_json::to_value(value) {
        Ok(Value::String(word)) => word,
        other => unreachable!("only enums of words are kept this way, not {other:?}"),
    }
}

/// The enum kept as a word.
pub(super) fn from_word<T: DeserializeOwned>(column: &'static str, word: &str) -> Result<T, StoreError> {
    serde_json::from_value(Value::String(word.to_owned())).map_err(|_| StoreError::Corrupt(column))
}

/// Amounts of jobs as JSON text.
pub(super) fn jobs_text(jobs: &Jobs) -> String {
    let pairs = jobs.iter().map(|(job, amount)| (job.as_str().to_owned(), Value::from(*amount)));
    Value::Object(pairs.collect()).to_string()
}

/// Amounts of jobs out of JSON text.
pub(super) fn jobs(column: &'static str, text: &str) -> Result<Jobs, StoreError> {
    serde_json::from_str(text).map_err(|_| StoreError::Corrupt(column))
}

/// A name out of its column.
pub(super) fn name(column: &'static str, text: &str) -> Result<Name, StoreError> {
    Name::new(text).map_err(|_| StoreError::Corrupt(column))
}

/// A price or range out of its two columns, which are both there or neither.
pub(super) fn price(
    column: &'static str,
    low: Option<i64>,
    high: Option<i64>,
) -> Result<Option<PriceRange>, StoreError> {
    match (low, high) {
        (None, None) => Ok(None),
        (Some(low), Some(high)) => PriceRange::new(Money::from_minor(low), Money::from_minor(high))
            .map(Some)
            .ok_or(StoreError::Corrupt(column)),
        _ => Err(StoreError::Corrupt(column)),
    }
}

/// A weight out of its columns; the first three are all there or none.
pub(super) fn weight(
    column: &'static str,
    mg: Option<i64>,
    typed: Option<String>,
    source: Option<String>,
    half_width_mg: Option<i64>,
) -> Result<Option<Weight>, StoreError> {
    match (mg, typed, source) {
        (Some(mg), Some(typed), Some(source)) => {
            let half_width = half_width_mg.map(Mass::from_mg);
            Ok(Some(Weight { unit: Mass::from_mg(mg), typed, source: from_word(column, &source)?, half_width }))
        }
        (None, None, None) => Ok(None),
        _ => Err(StoreError::Corrupt(column)),
    }
}
