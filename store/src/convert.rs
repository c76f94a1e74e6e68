//! Column values ↔ core types.

use super::StoreError;
use super::state::Fields;
use kevyt_core::gear::{Band, Jobs, Name, Weight, present_key};
use kevyt_core::quantity::{Mass, MassUnit, Money, PriceRange};
use serde::Serialize;
use serde::de::value::StrDeserializer;
use serde::de::{DeserializeOwned, IntoDeserializer};
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
    let word: StrDeserializer<'_, serde::de::value::Error> = word.into_deserializer();
    T::deserialize(word).map_err(|_| StoreError::Corrupt(column))
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

/// What is kept as JSON text: types of the store, and plain words, figures, and lists and maps of them. Core's own are [`super::stored`].
pub(super) fn json_text<T: Serialize>(value: &T) -> String {
    serde_json::to_string(value).unwrap_or_else(|_| unreachable!("only plain structures are kept this way"))
}

/// What is kept as JSON text, out of it.
pub(super) fn from_json<T: DeserializeOwned>(column: &'static str, text: &str) -> Result<T, StoreError> {
    serde_json::from_str(text).map_err(|_| StoreError::Corrupt(column))
}

/// Nothing known: states of the change log before there were facts have none.
pub(super) fn no_facts() -> String {
    "{}".to_owned()
}

/// Gives the jobs in some fields of an old state the keys that they have now.
pub(super) fn with_present_keys(fields: &mut Fields, names: &[&str]) {
    for name in names {
        let Some(Ok(jobs)) = fields.get(*name).and_then(Value::as_str).map(serde_json::from_str::<Fields>) else {
            continue;
        };
        let renamed = jobs.into_iter().map(|(key, amount)| (present_key(&key).to_owned(), amount)).collect();
        fields.insert((*name).to_owned(), Value::from(Value::Object(renamed).to_string()));
    }
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
    band: Option<Band>,
) -> Result<Option<Weight>, StoreError> {
    match (mg, typed, source) {
        (Some(mg), Some(typed), Some(source)) => {
            Ok(Some(Weight { unit: Mass::from_mg(mg), typed, source: from_word(column, &source)?, band }))
        }
        (None, None, None) => Ok(None),
        _ => Err(StoreError::Corrupt(column)),
    }
}

/// Units in which a weight of one piece was typed without naming them.
pub(super) const GRAMS_OR_OUNCES: [MassUnit; 2] = [MassUnit::G, MassUnit::Oz];
/// Units in which a target was.
pub(super) const KILOGRAMS_OR_POUNDS: [MassUnit; 2] = [MassUnit::Kg, MassUnit::Lb];

/// Puts the unit that was meant behind the bare figures of an old state: the one in which the text has the mass that was held. Each
/// pair names the text and the mass, in milligrams.
pub(super) fn with_units(fields: &mut Fields, pairs: &[(&str, &str)], units: [MassUnit; 2]) {
    for (typed, mg) in pairs {
        let Some(text) = fields.get(*typed).and_then(Value::as_str) else { continue };
        let Some(held) = fields.get(*mg).and_then(Value::as_i64).map(Mass::from_mg) else { continue };
        let meant = Mass::typed_as(text, held, units);
        fields.insert((*typed).to_owned(), Value::from(meant));
    }
}
