//! How the plan of a list is asked for, beside target and budget.

use kevyt_core::gear::Counting;
use kevyt_core::plan::Terms;
use kevyt_core::swap::RankBy;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Money as it comes in, month by month.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PurseIn {
    /// There already, as typed.
    pub(super) now: String,
    /// More each month, as typed.
    pub(super) month: String,
    /// How many months after its swap a resale is paid; 0 to 120.
    pub(super) resale_after_months: u32,
}

/// How a plan is asked for, beside target and budget.
#[derive(Serialize, ToSchema)]
#[schema(as = Terms)]
pub struct TermsOut {
    pub(super) counting: Counting,
    pub(super) rank_by: RankBy,
    pub(super) purse: Option<PurseOut>,
}

/// Money as it comes in, month by month.
#[derive(Serialize, ToSchema)]
#[schema(as = Purse)]
pub struct PurseOut {
    pub(super) now_minor: i64,
    pub(super) month_minor: i64,
    pub(super) resale_after_months: u32,
}

impl From<Terms> for TermsOut {
    fn from(terms: Terms) -> TermsOut {
        let purse = terms.purse.map(|purse| PurseOut {
            now_minor: purse.now.minor(),
            month_minor: purse.month.minor(),
            resale_after_months: purse.resale_after,
        });
        TermsOut { counting: terms.counting, rank_by: terms.rank_by, purse }
    }
}
