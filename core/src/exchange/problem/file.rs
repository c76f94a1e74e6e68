//! The fields of a problem file, as they are written.

use crate::gear::{Counting, Jobs, Rating};
use crate::list::{Counts, LineId, Place};
use crate::plan::Purse;
use crate::quantity::Money;
use crate::swap::{RankBy, SwapId, SwapKind, SwapState};
use serde::Deserialize;
use std::collections::BTreeMap;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct ProblemFile {
    pub format: String,
    pub currency: String,
    pub lines: Vec<LineFile>,
    #[serde(default)]
    pub kits: Vec<KitFile>,
    pub swaps: Vec<SwapFile>,
    #[serde(default)]
    pub require: Jobs,
    pub heaviest_start_mg: Option<i64>,
    pub target_mg: Option<i64>,
    pub budget_minor: i64,
    #[serde(default)]
    pub hour_minor: i64,
    pub counting: Option<Counting>,
    pub rank_by: Option<RankBy>,
    pub money: Option<PurseFile>,
    pub sleep: Option<SleepFile>,
    #[serde(default)]
    pub meet: Vec<String>,
    pub lists: Option<Vec<ListFile>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct ListFile {
    pub id: String,
    pub nights: u32,
    pub target_mg: Option<i64>,
    pub counts: BTreeMap<LineId, CountsFile>,
    #[serde(default)]
    pub require: Jobs,
    pub sleep: Option<SleepFile>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct CountsFile {
    #[serde(default)]
    pub carried: u32,
    #[serde(default)]
    pub worn: u32,
    #[serde(default)]
    pub used_up: u32,
}

impl From<&CountsFile> for Counts {
    fn from(file: &CountsFile) -> Counts {
        Counts { carried: file.carried, worn: file.worn, used_up: file.used_up, ..Counts::default() }
    }
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct SleepFile {
    pub low_tenth_c: i64,
    #[serde(default)]
    pub offset_tenth_c: i64,
    #[serde(default)]
    pub ground_tenth_r: i64,
}

#[derive(Deserialize, Clone, Copy)]
#[serde(rename_all = "snake_case")]
pub(super) enum HungFile {
    Hammock,
    Underquilt,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct PurseFile {
    pub now_minor: i64,
    pub month_minor: i64,
    pub resale_after_months: u32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct LineFile {
    pub id: LineId,
    pub name: String,
    #[serde(default)]
    pub carried: u32,
    #[serde(default)]
    pub worn: u32,
    #[serde(default)]
    pub used_up: u32,
    pub unit_mg: Option<i64>,
    pub low_mg: Option<i64>,
    pub high_mg: Option<i64>,
    pub expected_mg: Option<i64>,
    #[serde(default)]
    pub provides: Jobs,
    #[serde(default)]
    pub needs: Jobs,
    pub rating: Option<Rating>,
    pub warms_tenth_c: Option<i64>,
    pub is: Option<HungFile>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct KitFile {
    pub name: String,
    pub mg: i64,
    pub parts: Vec<PartFile>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct PartFile {
    pub line: LineId,
    pub qty: u32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct SwapFile {
    pub id: SwapId,
    pub name: String,
    pub kind: SwapKind,
    #[serde(default)]
    pub state: SwapState,
    #[serde(default)]
    pub remove: Vec<RemovalFile>,
    #[serde(default)]
    pub add: Vec<AdditionFile>,
    #[serde(default)]
    pub delivery_minor: i64,
    pub ordered_from: Option<String>,
    #[serde(default)]
    pub resale_minor: i64,
    #[serde(default)]
    pub tenth_hours: i64,
    #[serde(default)]
    pub requires: Vec<SwapId>,
    #[serde(default)]
    pub excludes: Vec<SwapId>,
    pub lists: Option<Vec<String>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct RemovalFile {
    pub line: LineId,
    pub qty: u32,
    pub from: Option<Place>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct AdditionFile {
    pub name: String,
    pub qty: u32,
    pub unit_mg: Option<i64>,
    pub low_mg: Option<i64>,
    pub high_mg: Option<i64>,
    pub expected_mg: Option<i64>,
    pub price_minor: Option<(i64, i64)>,
    #[serde(rename = "as")]
    pub place: Option<Place>,
    #[serde(default)]
    pub provides: Jobs,
    #[serde(default)]
    pub needs: Jobs,
    pub rating: Option<Rating>,
    pub warms_tenth_c: Option<i64>,
    pub is: Option<HungFile>,
}

impl From<PurseFile> for Purse {
    fn from(file: PurseFile) -> Purse {
        Purse {
            now: Money::from_minor(file.now_minor),
            month: Money::from_minor(file.month_minor),
            resale_after: file.resale_after_months,
            spent_then: None,
        }
    }
}
