//! How the plan of a list is asked for, beside target and budget.

use kevyt_core::gear::Counting;
use kevyt_core::plan::{TargetOf, Terms};
use kevyt_core::quantity::Money;
use kevyt_core::swap::RankBy;
use serde::Serialize;
use utoipa::ToSchema;

/// How a plan is asked for, beside target and budget.
#[derive(Serialize, ToSchema)]
#[schema(as = Terms)]
pub struct TermsOut {
    pub(super) counting: Counting,
    pub(super) rank_by: RankBy,
    /// What the target is of.
    pub(super) target_of: TargetOf,
    pub(super) purse: Option<PurseOut>,
    /// What selling takes off each resale.
    pub(super) selling: SellingOut,
    /// What the plan must leave nothing short of: `warmth`, `ground`, keys of jobs.
    pub(super) meet: Vec<String>,
}

/// What selling takes.
#[derive(Serialize, ToSchema)]
#[schema(as = Selling)]
pub struct SellingOut {
    /// The seller's fee in tenths of a per cent of the price, 0 to 500.
    pub(super) fee_tenths: u32,
    pub(super) postage_minor: i64,
}

/// Money as it comes in, month by month.
#[derive(Serialize, ToSchema)]
#[schema(as = Purse)]
pub struct PurseOut {
    pub(super) now_minor: i64,
    pub(super) month_minor: i64,
    pub(super) resale_after_months: u32,
    /// What had been spent on the list when `now_minor` was said; what was spent since is there no more. Null if that is not counted.
    pub(super) spent_then_minor: Option<i64>,
}

impl From<Terms> for TermsOut {
    fn from(terms: Terms) -> TermsOut {
        let purse = terms.purse.map(|purse| PurseOut {
            now_minor: purse.now.minor(),
            month_minor: purse.month.minor(),
            resale_after_months: purse.resale_after,
            spent_then_minor: purse.spent_then.map(Money::minor),
        });
        let selling = SellingOut { fee_tenths: terms.selling.fee_tenths, postage_minor: terms.selling.postage.minor() };
        TermsOut {
            counting: terms.counting,
            rank_by: terms.rank_by,
            target_of: terms.target_of,
            purse,
            selling,
            meet: terms.meet.into_iter().map(String::from).collect(),
        }
    }
}
