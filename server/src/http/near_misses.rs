//! `/api/lists/{id}/plan/near-misses`: what is calculated behind a plan.

use super::App;
use super::guard::SignedIn;
use super::plan::OutcomeWord;
use super::plan_key::PlanKey;
use super::problem::ProblemDoc;
use super::sure::SureOut;
use actix_web::http::header::ContentType;
use actix_web::web::{Data, Path};
use actix_web::{HttpResponse, get};
use kevyt_core::plan::{BreakEven, EndedBy, MeetCost, Outcome, Side};
use kevyt_core::quantity::{Mass, Money};
use kevyt_service::plans::{Later, Near};
use kevyt_service::stored::{ListId, SwapId};
use serde::Serialize;
use utoipa::ToSchema;

/// What it takes for a swap to come into the plan, or to fall out of it.
#[derive(Serialize, ToSchema)]
#[schema(as = NearMiss)]
pub struct NearMissOut {
    swap: SwapId,
    /// The net cost at which it comes in, or up to which it stays in, the budget minded; null where none would do, or nothing ends it.
    at_minor: Option<i64>,
    /// What ends there, for a swap of the plan.
    by: Option<NearBy>,
    /// The price of one piece now, and at that net cost, where one thing with a price goes on.
    price_minor: Option<i64>,
    price_at_minor: Option<i64>,
    /// Which way its price would have to move to change the plan; null where no price does.
    side: Option<Side>,
    why: Option<NearWhy>,
}

/// The near misses of a plan, what it would cost to meet more, and how sure its points are.
#[derive(Serialize, ToSchema)]
#[schema(as = NearMisses)]
pub struct NearMissesOut {
    /// That of the plan.
    revision: i64,
    /// Those that were calculated in time.
    near_misses: Vec<NearMissOut>,
    /// What it would cost to meet what is short today, as far as it was calculated in time.
    meet_costs: Vec<MeetCostOut>,
    /// How sure the points of the frontier are to be at or under the target; null without a target, while the weight of something carried is
    /// unknown, or if there was no time.
    sure: Option<SureOut>,
}

/// What the plan would cost that meets one thing more.
#[derive(Serialize, ToSchema)]
#[schema(as = MeetCost)]
pub struct MeetCostOut {
    /// `warmth`, `ground`, or the key of a job.
    meet: String,
    /// How that plan comes out.
    outcome: OutcomeWord,
    /// How much more it costs, below 0 if it is cheaper; null where there is none.
    more_minor: Option<i64>,
    /// How much more its base weight is.
    heavier_mg: Option<i64>,
    /// By how much even the cheapest set that meets it is over the budget, where it is.
    over_minor: Option<i64>,
}

impl NearMissesOut {
    pub(super) fn new(revision: i64, later: Later) -> NearMissesOut {
        NearMissesOut {
            revision,
            near_misses: later.near.into_iter().map(NearMissOut::from).collect(),
            meet_costs: later.meets.into_iter().map(MeetCostOut::from).collect(),
            sure: later.sure.map(SureOut::from),
        }
    }
}

impl From<MeetCost> for MeetCostOut {
    fn from(MeetCost { meet, outcome, more, heavier }: MeetCost) -> MeetCostOut {
        MeetCostOut {
            meet: meet.into(),
            outcome: OutcomeWord::from(&outcome),
            more_minor: more.map(Money::minor),
            heavier_mg: heavier.map(Mass::mg),
            over_minor: if let Outcome::TooDear { more } = outcome { Some(more.minor()) } else { None },
        }
    }
}

/// What keeps a swap from costing more.
#[derive(Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum NearBy {
    /// Another set is better from there on.
    Others,
    /// The budget.
    Budget,
}

#[derive(Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum NearWhy {
    /// Nothing works without it.
    Needed,
    /// Nothing works with it.
    Never,
}

impl From<Near> for NearMissOut {
    fn from(Near { swap, break_even, at, prices, side }: Near) -> NearMissOut {
        let why = match break_even {
            BreakEven::At(_) => None,
            BreakEven::Needed => Some(NearWhy::Needed),
            BreakEven::Never => Some(NearWhy::Never),
        };
        let by = at.map(|(_, by)| match by {
            EndedBy::Others => NearBy::Others,
            EndedBy::Budget => NearBy::Budget,
        });
        NearMissOut {
            swap,
            at_minor: at.map(|(at, _)| at.minor()),
            by,
            price_minor: prices.map(|(now, _)| now.minor()),
            price_at_minor: prices.map(|(_, then)| then.minor()),
            side,
            why,
        }
    }
}

/// What it takes for each open swap to come into the plan, or to fall out of it, what it costs to meet more,
/// and how sure the points of the frontier are: to be asked for once the plan is there, as it may take
/// a second longer.
#[utoipa::path(get, path = "/api/lists/{id}/plan/near-misses", tag = "plan",
    responses((status = 200, body = NearMissesOut), (status = 404, body = ProblemDoc), (status = 503, body = ProblemDoc)))]
#[get("/lists/{id}/plan/near-misses")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ListId>) -> Result<HttpResponse, ProblemDoc> {
    let body = app.planned(caller, PlanKey::NearMisses(*id)).await?;
    Ok(HttpResponse::Ok().insert_header(ContentType::json()).body(body))
}
