//! Column values ↔ core types.

use super::StoreError;
use kevyt_core::gear::{Jobs, Name, Weight};
use kevyt_core::quantity::Mass;
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

/// A weight out of its three columns, which are all there or none.
pub(super) fn weight(
    column: &'static str,
    mg: Option<i64>,
    typed: Option<String>,
    source: Option<String>,
) -> Result<Option<Weight>, StoreError> {
    match (mg, typed, source) {
        (Some(mg), Some(typed), Some(source)) => {
            Ok(Some(Weight { unit: Mass::from_mg(mg), typed, source: from_word(column, &source)? }))
        }
        (None, None, None) => Ok(None),
        _ => Err(StoreError::Corrupt(column)),
    }
}
