//! What is kept as JSON, in types of its own: core's may change, and what is in the database is still read. Each names the fields of core's, so that one that
//! core gains, loses or makes of another type does not compile before it is said here how it is kept.

use super::StoreError;
use super::convert::{from_json, json_text};
use kevyt_core::caution::{KnownCaution, Level};
use kevyt_core::gear::{Acquired, Counting, Facts, Identity, Job, Jobs, Kind, Need, Rating, RatingKind, Start};
use kevyt_core::list::{Place, Switch, Way};
use kevyt_core::pack::{Noted, Task};
use kevyt_core::plan::{Meet, Purse, TargetOf, Terms};
use kevyt_core::quantity::{Mass, Money, Temperature};
use kevyt_core::swap::{RankBy, Seen, Selling};
use kevyt_core::trip::{Counted, Device, Food, Trip};
use kevyt_core::walked::{Met, UsedUp};
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use serde_with::de::DeserializeAsWrap;
use serde_with::ser::SerializeAsWrap;
use serde_with::{As, DeserializeAs, SerializeAs};
use std::collections::BTreeSet;

/// What is kept in a column as JSON.
pub(super) trait StoredAsJson: Sized {
    /// The text of the column.
    fn text(&self) -> String;

    /// Out of the text of a column.
    fn read(column: &'static str, text: &str) -> Result<Self, StoreError>;
}

macro_rules! stored {
    ($($stored:ident: $core:ty),* $(,)?) => {$(
        impl SerializeAs<$core> for $stored {
            fn serialize_as<S: Serializer>(value: &$core, serializer: S) -> Result<S::Ok, S::Error> {
                $stored::serialize(value, serializer)
            }
        }

        impl<'de> DeserializeAs<'de, $core> for $stored {
            fn deserialize_as<D: Deserializer<'de>>(deserializer: D) -> Result<$core, D::Error> {
                $stored::deserialize(deserializer)
            }
        }

        impl StoredAsJson for $core {
            fn text(&self) -> String {
                json_text(&SerializeAsWrap::<$core, $stored>::new(self))
            }

            fn read(column: &'static str, text: &str) -> Result<$core, StoreError> {
                Ok(from_json::<DeserializeAsWrap<$core, $stored>>(column, text)?.into_inner())
            }
        }

        impl StoredAsJson for Vec<$core> {
            fn text(&self) -> String {
                json_text(&SerializeAsWrap::<Vec<$core>, Vec<$stored>>::new(self))
            }

            fn read(column: &'static str, text: &str) -> Result<Vec<$core>, StoreError> {
                Ok(from_json::<DeserializeAsWrap<Vec<$core>, Vec<$stored>>>(column, text)?.into_inner())
            }
        }
    )*};
}

stored!(
    StoredCounted: Counted,
    StoredDevice: Device,
    StoredFacts: Facts,
    StoredFood: Food,
    StoredIdentity: Identity,
    StoredKnownCaution: KnownCaution,
    StoredMet: Met,
    StoredNoted: Noted,
    StoredPurse: Purse,
    StoredRating: Rating,
    StoredSeen: Seen,
    StoredSelling: Selling,
    StoredSwitch: Switch,
    StoredTerms: Terms,
    StoredTrip: Trip,
    StoredUsedUp: UsedUp,
    StoredWay: Way,
);

#[derive(Serialize, Deserialize)]
#[serde(remote = "Rating", deny_unknown_fields)]
struct StoredRating {
    kind: RatingKind,
    #[serde(rename = "tenth_c")]
    at: Temperature,
}

#[derive(Default, Serialize, Deserialize)]
#[serde(remote = "Facts", default, deny_unknown_fields)]
struct StoredFacts {
    #[serde(with = "As::<Option<StoredRating>>", skip_serializing_if = "Option::is_none")]
    rating: Option<Rating>,
    #[serde(rename = "warms_tenth_c", skip_serializing_if = "Option::is_none")]
    warms: Option<i64>,
    #[serde(rename = "contents_mg", skip_serializing_if = "Option::is_none")]
    contents: Option<Mass>,
}

#[derive(Default, Serialize, Deserialize)]
#[serde(remote = "Identity", default, deny_unknown_fields)]
struct StoredIdentity {
    #[serde(skip_serializing_if = "Option::is_none")]
    kind: Option<&'static Kind>,
    #[serde(skip_serializing_if = "Option::is_none")]
    need: Option<Need>,
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    keep: bool,
    #[serde(skip_serializing_if = "Option::is_none")]
    start: Option<Start>,
    #[serde(skip_serializing_if = "BTreeSet::is_empty")]
    assumed: BTreeSet<Job>,
    #[serde(skip_serializing_if = "Option::is_none")]
    made_tenth_hours: Option<u32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    lasts_nights: Option<u32>,
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Switch", deny_unknown_fields)]
struct StoredSwitch {
    tag: String,
    place: Place,
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Way", deny_unknown_fields)]
struct StoredWay {
    key: String,
    #[serde(with = "As::<Vec<StoredSwitch>>")]
    places: Vec<Switch>,
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Purse")]
struct StoredPurse {
    #[serde(rename = "now_minor")]
    now: Money,
    #[serde(rename = "month_minor")]
    month: Money,
    #[serde(rename = "resale_after_months")]
    resale_after: u32,
    #[serde(rename = "spent_then_minor", default, skip_serializing_if = "Option::is_none")]
    spent_then: Option<Money>,
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Seen", deny_unknown_fields)]
struct StoredSeen {
    #[serde(default)]
    place: String,
    #[serde(default)]
    on: Option<String>,
    #[serde(default)]
    sold: Acquired,
}

#[derive(Default, Serialize, Deserialize)]
#[serde(remote = "Selling", default)]
struct StoredSelling {
    fee_tenths: u32,
    #[serde(rename = "postage_minor")]
    postage: Money,
}

#[derive(Default, Serialize, Deserialize)]
#[serde(remote = "Terms", default)]
struct StoredTerms {
    counting: Counting,
    rank_by: RankBy,
    #[serde(skip_serializing_if = "is_base")]
    target_of: TargetOf,
    #[serde(with = "As::<Option<StoredPurse>>")]
    purse: Option<Purse>,
    #[serde(with = "StoredSelling")]
    selling: Selling,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    meet: Vec<Meet>,
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "KnownCaution", deny_unknown_fields)]
struct StoredKnownCaution {
    key: String,
    level: Level,
    short: Option<i64>,
    main: Option<String>,
    things: usize,
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Food", untagged, deny_unknown_fields)]
enum StoredFood {
    Weight { mg_per_day: i64 },
    Energy { kcal_per_day: i64, kcal_per_100g: i64 },
    Meals { mg_per_meal: i64 },
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Device", deny_unknown_fields)]
struct StoredDevice {
    #[serde(default, skip_serializing_if = "String::is_empty")]
    name: String,
    mwh: i64,
    charges: u32,
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Counted", deny_unknown_fields)]
struct StoredCounted {
    tag: String,
    per_day: u32,
}

/// Of what an older version did not ask about, what it went by.
#[derive(Serialize, Deserialize)]
#[serde(remote = "Trip", deny_unknown_fields)]
struct StoredTrip {
    days: u32,
    #[serde(default = "three")]
    first_day_meals: u32,
    #[serde(default = "three")]
    last_day_meals: u32,
    #[serde(default)]
    resupply_days: Vec<u32>,
    #[serde(with = "StoredFood")]
    food: Food,
    #[serde(default)]
    stretch_m: i64,
    #[serde(default)]
    pace_m_per_hour: i64,
    #[serde(default)]
    water_ml_per_hour: Option<i64>,
    #[serde(default)]
    camp_ml: i64,
    #[serde(default)]
    start_ml: i64,
    #[serde(default = "one")]
    stretch_day: u32,
    #[serde(default)]
    boil_ml_per_day: i64,
    #[serde(default = "twelve_grams")]
    gas_mg_per_l: i64,
    #[serde(default = "a_fifth")]
    gas_reserve_percent: i64,
    #[serde(default, with = "As::<Vec<StoredDevice>>")]
    devices: Vec<Device>,
    #[serde(default = "two_thirds")]
    bank_percent: i64,
    #[serde(default, with = "As::<Vec<StoredCounted>>", skip_serializing_if = "Vec::is_empty")]
    counted: Vec<Counted>,
    low_tenth_c: i64,
    high_tenth_c: i64,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    rain: bool,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    insects: bool,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    alone: bool,
    #[serde(default)]
    snow: bool,
    #[serde(default)]
    container_compulsory: bool,
    #[serde(default)]
    flight: bool,
    #[serde(default)]
    fire_ban: bool,
    #[serde(default)]
    requires: Jobs,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "serde asks for a reference")]
fn is_base(target_of: &TargetOf) -> bool {
    *target_of == TargetOf::Base
}
const fn one() -> u32 {
    1
}
const fn three() -> u32 {
    3
}
const fn twelve_grams() -> i64 {
    12_000
}
const fn a_fifth() -> i64 {
    20
}
const fn two_thirds() -> i64 {
    65
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Noted", deny_unknown_fields)]
struct StoredNoted {
    id: String,
    task: Task,
    what: String,
    #[serde(default)]
    by: String,
    #[serde(default)]
    done: bool,
}

#[derive(Default, Serialize, Deserialize)]
#[serde(remote = "Met", default, deny_unknown_fields)]
struct StoredMet {
    low_tenth_c: Option<i64>,
    rain: Option<bool>,
    stretch_m: Option<i64>,
}

#[derive(Default, Serialize, Deserialize)]
#[serde(remote = "UsedUp", default, deny_unknown_fields)]
struct StoredUsedUp {
    gas_taken_mg: Option<i64>,
    gas_back_mg: Option<i64>,
    boiled_ml: Option<i64>,
    food_taken_mg: Option<i64>,
    food_back_mg: Option<i64>,
    drunk_ml: Option<i64>,
    walked_min: Option<i64>,
    power_taken_mwh: Option<i64>,
    power_back_mwh: Option<i64>,
}
