//! `/api/year`: the lists of the coming twelve months, planned together.

use super::App;
use super::guard::SignedIn;
use super::lists::ListOut;
use super::plan::{OutcomeWord, PointOut};
use super::plan_key::PlanKey;
use super::problem::ProblemDoc;
use super::sure::percent;
use super::swaps::SwapOut;
use actix_web::http::header::ContentType;
use actix_web::web::Data;
use actix_web::{HttpResponse, get};
use kevyt_core::gear::Counting;
use kevyt_core::plan::Outcome;
use kevyt_core::quantity::{Mass, Money};
use kevyt_service::stored::{GearId, SwapId};
use kevyt_service::year::{Year, YearHolding, YearList, YearNights, YearSwap};
use serde::Serialize;
use utoipa::ToSchema;

/// The lists of the coming twelve months and one budget for them: which purchases bring each to its target for the least money, or take off
/// the most gram-nights for the money. A gram-night is a gram that is carried for a night; here they are in milligrams times nights.
#[derive(Serialize, ToSchema)]
#[schema(as = Year)]
pub struct YearOut {
    /// Another number when something was written that it hangs on.
    revision: i64,
    /// Those with nights, the earliest trip first. Other figures name a list by its place here.
    lists: Vec<YearListOut>,
    /// The other lists: no nights were said for them, and no trip to come has them.
    others: Vec<YearNightsOut>,
    /// What could be changed; other figures name a swap by its place here. Where several lists have the same swap it stands once.
    swaps: Vec<YearSwapOut>,
    /// Every set that no other beats in money and gram-nights, cheapest first; `base_mg` is milligrams times nights over all lists.
    frontier: Vec<PointOut>,
    /// Whether the frontier is proved to be whole.
    proved: bool,
    plan: YearPlanOut,
    /// What all lists weigh as they stand, in milligrams times nights.
    gram_nights_mg: i64,
    /// The most money to spend, in minor units; null for no limit.
    budget_minor: Option<i64>,
    /// What swaps that were done since it was said have taken of it.
    spent_minor: i64,
    /// Which figure of each weight counts: the most careful one that any of the lists counts by.
    counting: Counting,
    /// What keeping things costs that are worth something, dearest over the year first; at most 60.
    holdings: Vec<HoldingOut>,
}

/// Something that is owned and worth something, over the coming twelve months. What it is worth falls by its system's rate
/// (`worth_falls_percent` of the settings) from the day on which it was said; what it falls by is what keeping it costs.
#[derive(Serialize, ToSchema)]
#[schema(as = YearHolding)]
pub struct HoldingOut {
    gear: GearId,
    name: String,
    /// The key of its system.
    system: &'static str,
    /// All pieces that are owned; the money is of all of them.
    pieces: u32,
    /// Places of the lists that it is on.
    lists: Vec<usize>,
    /// When it was said what it is worth, as YYYY-MM-DD; null if nobody knows, and then it counts as said today.
    said_on: Option<String>,
    now_minor: i64,
    /// In a year; nothing once it is worn out.
    then_minor: i64,
    /// For how many nights it is carried, until it is worn out.
    nights: u32,
    /// Whether it is worn out before the year is over.
    wears_out: bool,
    /// What keeping it costs for each of them; null without any.
    per_night_minor: Option<i64>,
    /// Whether nothing would be lacking without it: no list of the year has it, or it may be left out of those that do.
    may_go: bool,
    /// Of the swaps in its place that can be compared and leave no list shorter of what its trip asks for, the one that costs least over the year.
    swap: Option<SwapInsteadOut>,
}

/// A swap in the place of something: what is paid for it less what it brings, and what of all that is owned is worth less in a year.
#[derive(Serialize, ToSchema)]
#[schema(as = SwapInstead)]
pub struct SwapInsteadOut {
    /// Its place among the year's swaps.
    swap: usize,
    costs_minor: i64,
    /// For each night that the thing is carried; null without any.
    per_night_minor: Option<i64>,
}

/// A list and its nights.
#[derive(Serialize, ToSchema)]
#[schema(as = YearNights)]
pub struct YearNightsOut {
    list: ListOut,
    /// Nights in the coming twelve months: as they were said, or those of the trips to come.
    nights: u32,
    /// Those of the trips to come.
    trip_nights: u32,
    /// The first day of the first of them, as YYYY-MM-DD.
    first_on: Option<String>,
}

/// A list of the year.
#[derive(Serialize, ToSchema)]
#[schema(as = YearList)]
pub struct YearListOut {
    #[serde(flatten)]
    of: YearNightsOut,
    base_mg: i64,
    planned_mg: i64,
    /// The base weight to reach; null without a target, or where the list's is of its loaded weight or of the heavy few.
    base_target_mg: Option<i64>,
    /// By how much the planned base weight is above the target; 0 without one.
    short_by_mg: i64,
    /// How many carried things have no weight; they count as nothing.
    unknown: usize,
    /// The chance that the planned base weight is at or under the target, in per cent; null without a target, or while a carried weight is
    /// unknown.
    chance_percent: Option<i64>,
}

/// A swap over the year.
#[derive(Serialize, ToSchema)]
#[schema(as = YearSwap)]
pub struct YearSwapOut {
    swap: SwapOut,
    /// The same swap as other lists of these have it.
    same: Vec<SwapId>,
    /// Whether it acts on each of the lists: where they have what it takes off. What is left out, put on, shared or borrowed is of its own
    /// list alone.
    acts: Vec<bool>,
    /// What it takes off the base weight of each of them by itself; null while a weight is unknown.
    savings_mg: Vec<Option<i64>>,
    /// What it saves over all nights by itself, in milligrams times nights; null while a figure is missing.
    saves_mg_nights: Option<i64>,
    net_minor: Option<i64>,
    /// Its place by gram-nights for the money, from 1; null where it is ruled out, acts nowhere, or a figure is missing.
    place: Option<usize>,
    /// What falls shorter of what is asked on which list with it alone.
    loses: Vec<YearLossOut>,
}

/// What falls shorter on a list.
#[derive(Serialize, ToSchema)]
#[schema(as = YearLoss)]
pub struct YearLossOut {
    list: usize,
    /// `warmth`, `ground`, or the key of a job.
    meet: String,
}

/// The plan of a year.
#[derive(Serialize, ToSchema)]
#[schema(as = YearPlan)]
pub struct YearPlanOut {
    outcome: OutcomeWord,
    /// Whether any list has a target; without one the fewest gram-nights are asked for.
    has_target: bool,
    /// In buying order; null if there is no plan.
    swaps: Option<Vec<usize>>,
    net_minor: i64,
    /// Milligrams times nights over all lists.
    gram_nights_mg: i64,
    /// Over budget: how much more it takes for all lists to reach their targets.
    more_minor: Option<i64>,
    /// Whether it is proved that no other set does better.
    proved: bool,
}

impl From<YearNights> for YearNightsOut {
    fn from(of: YearNights) -> YearNightsOut {
        let first_on = of.first_on.map(|day| day.to_string());
        YearNightsOut { list: of.list.into(), nights: of.nights, trip_nights: of.of_trips, first_on }
    }
}

impl From<YearList> for YearListOut {
    fn from(list: YearList) -> YearListOut {
        let target = list.of.list.value.base_target();
        YearListOut {
            base_mg: list.base.mg(),
            planned_mg: list.planned.mg(),
            base_target_mg: target.map(Mass::mg),
            short_by_mg: target.map_or(0, |target| (list.planned - target).mg().max(0)),
            unknown: list.unknown,
            chance_percent: list.chance.map(percent),
            of: list.of.into(),
        }
    }
}

impl From<YearSwap> for YearSwapOut {
    fn from(of: YearSwap) -> YearSwapOut {
        YearSwapOut {
            swap: SwapOut::from(&of.swap),
            same: of.same,
            acts: of.acts,
            savings_mg: of.savings.into_iter().map(|saving| saving.map(|saving| saving.mg())).collect(),
            saves_mg_nights: of.worth.map(|(saved, _)| saved.mg()),
            net_minor: of.worth.map(|(_, net)| net.minor()),
            place: of.place,
            loses: of.loses.into_iter().map(|(list, meet)| YearLossOut { list, meet: meet.into() }).collect(),
        }
    }
}

impl From<YearHolding> for HoldingOut {
    fn from(of: YearHolding) -> HoldingOut {
        HoldingOut {
            per_night_minor: of.by_night().map(Money::minor),
            gear: of.gear,
            name: of.name,
            system: of.system.key(),
            pieces: of.pieces,
            lists: of.lists,
            said_on: of.said_on.map(|day| day.to_string()),
            now_minor: of.held.now.minor(),
            then_minor: of.held.then.minor(),
            nights: of.held.nights,
            wears_out: of.held.wears_out,
            may_go: of.may_go,
            swap: of.swap.map(|instead| SwapInsteadOut {
                swap: instead.swap,
                costs_minor: instead.costs.minor(),
                per_night_minor: instead.by_night.map(Money::minor),
            }),
        }
    }
}

impl From<Year> for YearOut {
    fn from(year: Year) -> YearOut {
        let plan = year.plan;
        YearOut {
            revision: year.revision,
            plan: YearPlanOut {
                outcome: OutcomeWord::from(&plan.outcome),
                has_target: year.lists.iter().any(|list| list.of.list.value.base_target().is_some()),
                swaps: plan.swaps,
                net_minor: plan.net.minor(),
                gram_nights_mg: plan.gram_nights.mg(),
                more_minor: if let Outcome::OverBudget { more } = plan.outcome { Some(more.minor()) } else { None },
                proved: plan.is_proved,
            },
            lists: year.lists.into_iter().map(YearListOut::from).collect(),
            others: year.others.into_iter().map(YearNightsOut::from).collect(),
            swaps: year.swaps.into_iter().map(YearSwapOut::from).collect(),
            frontier: year.points.into_iter().map(PointOut::from).collect(),
            proved: year.proved,
            gram_nights_mg: year.gram_nights.mg(),
            budget_minor: year.budget.map(Money::minor),
            spent_minor: year.spent.minor(),
            counting: year.counting,
            holdings: year.holdings.into_iter().map(HoldingOut::from).collect(),
        }
    }
}

/// Plans the lists of the coming twelve months together, for one budget.
#[utoipa::path(get, path = "/api/year", tag = "plan",
    responses((status = 200, body = YearOut), (status = 422, body = ProblemDoc), (status = 503, body = ProblemDoc)))]
#[get("/year")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn) -> Result<HttpResponse, ProblemDoc> {
    let body = app.planned(caller, PlanKey::Year).await?;
    Ok(HttpResponse::Ok().insert_header(ContentType::json()).body(body))
}
