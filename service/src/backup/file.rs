//! The types of `kevyt-account/1`. `docs/account.schema.json` is made from them.

use super::trips_file::{BaseEntry, PackedEntry, PackingEntry, TripEntry};
use chrono::NaiveDateTime;
use kevyt_core::caution::KnownCaution;
use kevyt_core::gear::{Acquired, Facts, Identity, Job, Jobs, Status, System, WeightSource, present_key};
use kevyt_core::list::{Place, Way};
use kevyt_core::plan::Terms;
use kevyt_core::swap::{Seen, SwapKind, SwapState};
use kevyt_core::trip::Trip;
use kevyt_store::swaps::Done;
use schemars::JsonSchema;
use serde::de::{Error, MapAccess, Visitor};
use serde::{Deserialize, Deserializer, Serialize};

/// The value of `format`.
pub const FORMAT: &str = "kevyt-account/1";

/// Everything of an account but its name and password. Masses in milligrams, money in minor units of `currency`, times in
/// UTC. Keys tie parts of the file together and mean nothing outside it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct AccountFile {
    /// `kevyt-account/1`.
    pub format: String,
    /// The ISO 4217 code of all its money.
    pub currency: String,
    /// All gear.
    pub gear: Vec<GearEntry>,
    /// Things weighed together.
    pub kits: Vec<KitEntry>,
    /// What could be got.
    pub candidates: Vec<CandidateEntry>,
    /// Pack lists with their swaps.
    pub lists: Vec<ListEntry>,
    /// Trips, coming and walked, in the order in which they were made.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub trips: Vec<TripEntry>,
    /// Lessons of trips that are not to be said again; gear by its key.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub silenced: Vec<String>,
}

/// A thing.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct GearEntry {
    /// Its key in this file.
    pub key: String,
    /// What it is.
    pub name: String,
    /// The key of its system.
    pub system: System,
    /// Pieces owned.
    pub count: u32,
    /// What one piece weighs, if known.
    pub weight: Option<WeightEntry>,
    /// What was said of its weight last, other than by weighing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stated: Option<StatedEntry>,
    /// The maker's figure for one piece.
    pub claimed: Option<FigureEntry>,
    /// What one piece cost.
    pub paid: Option<PriceEntry>,
    /// new, used, sale, gift, made or borrowed.
    pub acquired: Acquired,
    /// What one piece would bring.
    pub resale_minor: Option<i64>,
    /// When that was said (UTC).
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub resale_at: Option<NaiveDateTime>,
    /// owned, lent, for_sale, sold, given, worn_out or wished.
    pub status: Status,
    /// Where it is kept.
    pub kept_at: String,
    /// What there is to say of it in words; files before there were notes have none.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// Words that it is found by.
    pub tags: Vec<String>,
    /// Nights of use.
    pub nights: u32,
    /// Jobs that one piece does, and how much.
    #[serde(deserialize_with = "each_once")]
    pub provides: Jobs,
    /// Jobs that one piece needs, and how much.
    #[serde(deserialize_with = "each_once")]
    pub needs: Jobs,
    /// What a trip asks of one piece: `rating` (`kind` comfort, limit, extreme or unknown; `tenth_c`), `warms_tenth_c`, `contents_mg`.
    #[serde(default, skip_serializing_if = "Facts::is_empty")]
    pub facts: Facts,
    /// What it is: `kind` (its key), `need` (need, want or undecided), `keep`, `start` (carried, worn, worn_one, used_up or apart), `assumed`
    /// (jobs whose amounts nobody has confirmed), `made_tenth_hours`, `lasts_nights`.
    #[serde(default, skip_serializing_if = "Identity::is_empty")]
    pub identity: Identity,
    /// Its weighings, newest first.
    pub weighings: Vec<WeighingEntry>,
}

/// What one piece weighs.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WeightEntry {
    /// As held.
    pub mg: i64,
    /// As typed.
    pub typed: String,
    /// weighed, maker, estimate or derived.
    pub source: WeightSource,
    /// How far it may be off either way, where it was weighed.
    pub half_width_mg: Option<i64>,
    /// How far it may lie below and above, where it was calculated and that is not the same.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub doubt: Option<DoubtEntry>,
}

/// How far below and above its figure a weight may lie.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct DoubtEntry {
    /// Below.
    pub below_mg: i64,
    /// Above.
    pub above_mg: i64,
}

/// What was said of a weight.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct StatedEntry {
    /// The figure; null if it was said to be unknown.
    pub weight: Option<WeightEntry>,
    /// When, in UTC.
    pub at: NaiveDateTime,
}

/// A mass.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FigureEntry {
    /// As held.
    pub mg: i64,
    /// As typed.
    pub typed: String,
}

/// A price or range; both ends are the same for a price.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PriceEntry {
    /// The lowest.
    pub low_minor: i64,
    /// The highest.
    pub high_minor: i64,
}

/// A weighing.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WeighingEntry {
    /// All pieces together.
    pub total_mg: i64,
    /// Pieces on the scale.
    pub pieces: u32,
    /// The scale's step.
    pub step_mg: i64,
    /// As typed or shown.
    pub typed: String,
    /// Which scale.
    pub scale: String,
    /// When, in UTC: `2026-09-01T17:20:00`.
    pub at: NaiveDateTime,
}

/// A kit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct KitEntry {
    /// Its name.
    pub name: String,
    /// Keys of its things and pieces of each.
    pub parts: Vec<PartEntry>,
    /// Its weighings, newest first.
    pub weighings: Vec<WeighingEntry>,
}

/// A part of a kit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PartEntry {
    /// The key of a thing.
    pub gear: String,
    /// Pieces.
    pub count: u32,
}

/// Something that could be got.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct CandidateEntry {
    /// Its key in this file.
    pub key: String,
    /// What it is.
    pub name: String,
    /// What one piece weighs, if known.
    pub weight: Option<WeightEntry>,
    /// What one piece costs, if known.
    pub price: Option<PriceEntry>,
    /// Where and when that price was seen, if anybody said: `place`, `on` (YYYY-MM-DD or null), `sold` (new, used or sale).
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub seen: Option<Seen>,
    /// What a shop knows it by, if its price is followed there.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub offer: Option<String>,
    /// Jobs that one piece does.
    #[serde(deserialize_with = "each_once")]
    pub provides: Jobs,
    /// Jobs that one piece needs.
    #[serde(deserialize_with = "each_once")]
    pub needs: Jobs,
    /// What a trip asks of one piece, as for gear.
    #[serde(default, skip_serializing_if = "Facts::is_empty")]
    pub facts: Facts,
    /// Words that it is found by, and marks.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
    /// What it is, as of gear.
    #[serde(default, skip_serializing_if = "Identity::is_empty")]
    pub identity: Identity,
}

/// A pack list.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ListEntry {
    /// Its name.
    pub name: String,
    /// A line about the trip.
    pub note: String,
    /// The base weight to reach.
    pub target: Option<FigureEntry>,
    /// The most money to spend.
    pub budget_minor: Option<i64>,
    /// What an hour of making is worth.
    pub hour_rate_minor: i64,
    /// Jobs that the trip requires.
    #[serde(deserialize_with = "each_once")]
    pub requires: Jobs,
    /// The trip, as in kevyt-list/1; null until somebody says what it is.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub trip: Option<Trip>,
    /// The way of counting that new lines follow.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub way: String,
    /// Ways of counting of the walker's own: `key` and `places`, each a `tag` and a `place`.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub ways: Vec<Way>,
    /// How its plan is asked for: `counting`, `rank_by` and `purse`, as in kevyt-problem/2.
    #[serde(default, skip_serializing_if = "is_default")]
    pub terms: Terms,
    /// Cautions that were acknowledged, as they stood then: `key`, `level`, `short`, `main`, `things`.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub known: Vec<KnownCaution>,
    /// Proposals that are not to be made again.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub silenced: Vec<String>,
    /// Nights of the coming twelve months for which it is carried; left out where its trips to come say it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub year_nights: Option<u32>,
    /// Whether it is archived.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub archived: bool,
    /// Who walks, the owner first; none where nobody else does.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub walkers: Vec<WalkerEntry>,
    /// What is on it.
    pub lines: Vec<LineEntry>,
    /// Its swaps.
    pub swaps: Vec<SwapEntry>,
    /// Plans that were kept, oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub kept_plans: Vec<KeptPlanEntry>,
    /// How its walker packs it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub packing: Option<PackingEntry>,
    /// The base weights that it had, oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub history: Vec<BaseEntry>,
}

/// A plan that was kept by name.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct KeptPlanEntry {
    /// Its name.
    pub name: String,
    /// Keys of its swaps.
    pub swaps: Vec<String>,
    /// When it was kept, UTC.
    pub at: NaiveDateTime,
}

/// One who walks.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct WalkerEntry {
    /// The name.
    pub name: String,
    /// What the walker weighs.
    pub body_mg: Option<i64>,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "serde asks for a reference")]
fn is_zero(count: &u32) -> bool {
    *count == 0
}

/// A line of a pack list.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct LineEntry {
    /// The key of a thing.
    pub gear: String,
    /// Pieces carried.
    pub carried: u32,
    /// Pieces worn.
    pub worn: u32,
    /// Pieces used up.
    pub used_up: u32,
    /// Pieces in no sum, beside the totals.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub apart: u32,
    /// Pieces that stay home.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub left: u32,
    /// Whether it serves all walkers.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub shared: bool,
    /// Who carries it, by place among the list's walkers, 0 being the first.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub walker: Option<usize>,
    /// What was said of it when it was packed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub packed: Option<PackedEntry>,
    /// Whether it was taken off the list, and is named only because a swap takes it off.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
}

/// A swap.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SwapEntry {
    /// Its key in this file.
    pub key: String,
    /// Its name.
    pub name: String,
    /// replace, leave_out, trim, make, combine, share, borrow or add.
    pub kind: SwapKind,
    /// open, pinned or ruled_out.
    pub state: SwapState,
    /// What comes off: keys of things on the list.
    pub remove: Vec<SideEntry>,
    /// What goes on: keys of candidates.
    pub add: Vec<SideEntry>,
    /// Delivery.
    pub delivery_minor: i64,
    /// What the removed gear brings, before fees.
    pub resale_minor: i64,
    /// Whether that counts though another list needs the gear.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub sells_needed: bool,
    /// Tenths of an hour of making.
    pub tenth_hours: i64,
    /// Keys of swaps of the same list that must be made with it.
    pub requires: Vec<String>,
    /// Names of swaps that must be made with it and are gone, so that it can't be made.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub requires_gone: Vec<String>,
    /// Keys of swaps of the same list that can't be made with it.
    pub excludes: Vec<String>,
    /// What was done, if it was made for good; things by their keys.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub done: Option<Done<String>>,
}

/// An entry on one side of a swap.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SideEntry {
    /// The key of a thing or a candidate.
    pub what: String,
    /// Pieces.
    pub qty: u32,
    /// carried, worn or used_up.
    pub place: Place,
}

/// Amounts of jobs, each job once.
fn each_once<'de, D: Deserializer<'de>>(deserializer: D) -> Result<Jobs, D::Error> {
    struct EachOnce;
    impl<'de> Visitor<'de> for EachOnce {
        type Value = Jobs;

        fn expecting(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
            f.write_str("an object of jobs and amounts")
        }

        fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<Jobs, A::Error> {
            let mut jobs = Jobs::new();
            while let Some((named, amount)) = map.next_entry::<Job, i64>()? {
                // Files from before the open formats settled the keys have others.
                let job = Job::new(present_key(named.as_str())).unwrap_or(named);
                if let Some(twice) = jobs.insert(job.clone(), amount).map(|_| job) {
                    return Err(A::Error::custom(format!("the job {} stands twice", twice.as_str())));
                }
            }
            Ok(jobs)
        }
    }
    deserializer.deserialize_map(EachOnce)
}

/// The JSON Schema of [`AccountFile`].
pub fn schema() -> serde_json::Value {
    schemars::schema_for!(AccountFile).to_value()
}

fn is_default<T: Default + PartialEq>(value: &T) -> bool {
    *value == T::default()
}
