//! `/api/lists/{id}/plan`: what the beam, the ranking and the plan show, in one answer.

use super::lists::ListOut;
use super::planner::Part;
use super::problem::ProblemDoc;
use super::sure::SureOut;
use super::swaps::SwapOut;
use super::{App, Caller};
use crate::service::plans::{Kept, Later, Months, Near, Planned, RankedSwap};
use crate::store::id::{ListId, SwapId};
use actix_web::http::header::ContentType;
use actix_web::web::{Data, Path};
use actix_web::{HttpResponse, get};
use kevyt_core::gear::{Counting, Need};
use kevyt_core::plan::months::Bought;
use kevyt_core::plan::{Keeps, MeetCost, Outcome, Plan, Point, Short, Turn};
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::{Class, Missing, Standing};
use serde::Serialize;
use utoipa::ToSchema;

/// A list ranked and planned. Swaps are named by their position in `swaps`.
#[derive(Serialize, ToSchema)]
#[schema(as = PlanAnswer)]
pub struct PlanOut {
    list: ListOut,
    /// Things on the list.
    things: usize,
    /// Things with an unknown weight: while there are some, every sum is "at least".
    unknown: usize,
    /// Base weight now.
    base_mg: i64,
    pack_mg: i64,
    everything_mg: i64,
    /// Kits that count in these sums as they were weighed together.
    kits: Vec<KitOnListOut>,
    swaps: Vec<SwapOut>,
    /// Swaps that can't be made, each with the reason; no part of the ranking or the plan.
    unavailable: Vec<SwapOut>,
    /// Swaps that are done, the newest last.
    done: Vec<SwapOut>,
    /// What they have taken of the budget: paid, less what was got.
    spent_minor: i64,
    ranking: Vec<RankedOut>,
    choices: Vec<Vec<ChoiceOut>>,
    /// Every allowed set that no other beats, cheapest first.
    frontier: Vec<PointOut>,
    /// Whether the frontier was searched to its end.
    proved: bool,
    plan: ChosenOut,
    /// Counted up by whatever is written in the account: near misses of the same revision are of this plan.
    revision: i64,
    ranking_alone: Option<AloneOut>,
    /// In how many of a hundred cases the scale would find the plan at or under the target; null without a target, or with a weight unknown.
    chance_percent: Option<i64>,
    /// What it costs to bring what the plan leaves alone: wants first, then the dearest.
    keeps: Vec<KeptOut>,
    /// What is short on the list as it stands, each to be met by the plan if that is asked for.
    short: Vec<ShortOut>,
}

/// Something that the plan leaves alone, and what bringing it costs of the plan.
#[derive(Serialize, ToSchema)]
#[schema(as = Kept)]
pub struct KeptOut {
    line: String,
    name: String,
    need: Need,
    /// All carried pieces.
    mass_mg: i64,
    /// By how much the plan would be cheaper without it.
    costs_minor: i64,
}

/// Something that is short.
#[derive(Serialize, ToSchema)]
#[schema(as = Short)]
pub struct ShortOut {
    /// `warmth`, `ground`, or the key of a job.
    meet: String,
    /// By how much: warmth in tenths of a degree Celsius, ground in tenths of R, or of a degree where it hangs, a job in its unit. Null where no
    /// bed, or no underquilt, is rated.
    short: Option<i64>,
    /// Whether it is what keeps the back warm in a hammock.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    #[schema(required = false)]
    hangs: bool,
}

impl From<Short> for ShortOut {
    fn from(Short { meet, by, hangs }: Short) -> ShortOut {
        ShortOut { meet: meet.into(), short: by, hangs }
    }
}

/// A kit that counts as it was weighed together.
#[derive(Serialize, ToSchema)]
#[schema(as = KitOnList)]
pub struct KitOnListOut {
    name: String,
    weighed_mg: i64,
    /// Its weighing less what its parts add up to, unknown ones as nothing.
    correction_mg: i64,
}

/// A row of the ranking.
#[derive(Serialize, ToSchema)]
#[schema(as = Ranked)]
pub struct RankedOut {
    swap: usize,
    class: Class,
    place: Option<usize>,
    /// 1 + the swaps that are surely better, and 1 + those that could be.
    best_place: Option<usize>,
    worst_place: Option<usize>,
    /// From where to where what ranks may lie: weights by their doubt, prices by their ranges.
    saving_low_mg: Option<i64>,
    saving_high_mg: Option<i64>,
    net_low_minor: Option<i64>,
    net_high_minor: Option<i64>,
    saving_mg: Option<i64>,
    saving_everything_mg: Option<i64>,
    net_minor: Option<i64>,
    /// What must be known before it can be ranked.
    missing: Vec<String>,
    /// By how many tenths of a degree Celsius a colder night is still comfortable than before; below 0 where it is less. Absent where either side
    /// is not rated.
    #[serde(skip_serializing_if = "Option::is_none")]
    warmth_tenth_c: Option<i64>,
    /// Tenths of R that it gains between the back and the ground, or loses.
    #[serde(skip_serializing_if = "is_zero")]
    ground_tenth_r: i64,
    /// Millilitres of drinking water that it gains, or loses.
    #[serde(skip_serializing_if = "is_zero")]
    water_ml: i64,
    /// What of the trip's asks falls shorter than today with this swap alone: `warmth`, `ground`, or keys of jobs.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    loses: Vec<String>,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "as serde calls it")]
fn is_zero(amount: &i64) -> bool {
    *amount == 0
}

/// One of several choices for the same gear.
#[derive(Serialize, ToSchema)]
#[schema(as = Choice)]
pub struct ChoiceOut {
    swap: usize,
    standing: StandingWord,
    /// The swap that beats it.
    by: Option<usize>,
    /// What a step adds to the one before.
    extra_saving_mg: Option<i64>,
    extra_net_minor: Option<i64>,
}

#[derive(Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum StandingWord {
    Step,
    Beaten,
    BeatenByKeeping,
    NeverBestStep,
}

/// A point of the frontier; its swaps in buying order.
#[derive(Serialize, ToSchema)]
#[schema(as = FrontierPoint)]
pub struct PointOut {
    net_minor: i64,
    base_mg: i64,
    swaps: Vec<usize>,
}

/// The plan for the list's target and budget.
#[derive(Serialize, ToSchema)]
#[schema(as = ChosenPlan)]
pub struct ChosenOut {
    outcome: OutcomeWord,
    /// In buying order; null if there is no plan.
    swaps: Option<Vec<usize>>,
    /// The base weight after each of them, kits too.
    bases_mg: Vec<i64>,
    net_minor: i64,
    base_mg: i64,
    short_by_mg: i64,
    /// Over budget: how much more the target takes.
    more_minor: Option<i64>,
    /// Out of reach: the lightest that these swaps allow.
    lightest_mg: Option<i64>,
    /// Pins clash: which.
    pins: Vec<usize>,
    /// Pins clash over money: the least that they cost.
    least_minor: Option<i64>,
    /// Pins clash over a job: the one of which less would be left than today.
    lost_job: Option<String>,
    /// Unmet: what of that which is to be met no set meets even alone, or else all of it.
    unmet: Vec<String>,
    /// Not proved: how much lighter the best may be.
    gap_mg: Option<i64>,
    gap_minor: Option<i64>,
    /// Target − base weight, counted each way; empty without a target.
    clears: Vec<ClearsOut>,
    /// In which month each of `swaps` is bought, 0 is now; null where no money a month is said, or where it takes over five years.
    months: Option<Vec<u32>>,
    /// The order and months in which all are bought as soon as can be, where that is sooner.
    soonest: Option<Vec<BoughtOut>>,
    /// Whether it is known that they can't be bought sooner than that, or at all; not where the search for it took too long.
    soonest_proved: bool,
}

/// By how much a plan clears the target.
#[derive(Serialize, ToSchema)]
#[schema(as = Clears)]
pub struct ClearsOut {
    counting: Counting,
    mg: i64,
}

/// A swap and the month in which it is bought.
#[derive(Serialize, ToSchema)]
#[schema(as = Bought)]
pub struct BoughtOut {
    swap: usize,
    month: u32,
}

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
    why: Option<NearWhy>,
}

/// The near misses of a plan, and what it would cost to meet more.
#[derive(Serialize, ToSchema)]
#[schema(as = NearMisses)]
pub struct NearMissesOut {
    /// That of the plan.
    revision: i64,
    /// Those that were worked out in time.
    near_misses: Vec<NearMissOut>,
    /// What it would cost to meet what is short today, as far as it was worked out in time.
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
    fn from(Near { swap, turn, told, prices }: Near) -> NearMissOut {
        let why = match turn {
            Turn::At(_) => None,
            Turn::Needed => Some(NearWhy::Needed),
            Turn::Never => Some(NearWhy::Never),
        };
        let by = told.map(|(_, by)| match by {
            Keeps::Others => NearBy::Others,
            Keeps::Budget => NearBy::Budget,
        });
        NearMissOut {
            swap,
            at_minor: told.map(|(at, _)| at.minor()),
            by,
            price_minor: prices.map(|(now, _)| now.minor()),
            price_at_minor: prices.map(|(_, then)| then.minor()),
            why,
        }
    }
}

#[derive(Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum OutcomeWord {
    AlreadyMet,
    TargetMet,
    OverBudget,
    OutOfReach,
    PinsClash,
    Unmet,
    TooDear,
    Unresolved,
}

/// What buying down the ranking would do.
#[derive(Serialize, ToSchema)]
#[schema(as = RankingAlone)]
pub struct AloneOut {
    swaps: Vec<usize>,
    net_minor: i64,
    base_mg: i64,
    met: bool,
}

/// Ranks and plans a list.
#[utoipa::path(get, path = "/api/lists/{id}/plan", tag = "plan",
    responses((status = 200, body = PlanOut), (status = 404, body = ProblemDoc), (status = 503, body = ProblemDoc)))]
#[get("/lists/{id}/plan")]
pub async fn get(app: Data<App>, caller: Caller, id: Path<ListId>) -> Result<HttpResponse, ProblemDoc> {
    let body = app.planned(caller, *id, Part::Plan).await?;
    Ok(HttpResponse::Ok().insert_header(ContentType::json()).body(body))
}

/// What it takes for each open swap to come into the plan, or to fall out of it, and what it costs to meet more: to be asked for once the plan is there, as it may take
/// a second longer.
#[utoipa::path(get, path = "/api/lists/{id}/plan/near-misses", tag = "plan",
    responses((status = 200, body = NearMissesOut), (status = 404, body = ProblemDoc), (status = 503, body = ProblemDoc)))]
#[get("/lists/{id}/plan/near-misses")]
pub async fn near_misses(app: Data<App>, caller: Caller, id: Path<ListId>) -> Result<HttpResponse, ProblemDoc> {
    let body = app.planned(caller, *id, Part::NearMisses).await?;
    Ok(HttpResponse::Ok().insert_header(ContentType::json()).body(body))
}

impl PlanOut {
    pub(super) fn new(revision: i64, planned: Planned) -> PlanOut {
        let alone = planned.ranking_alone;
        PlanOut {
            things: planned.things,
            unknown: planned.totals.unknown,
            base_mg: planned.totals.base.mg(),
            pack_mg: planned.totals.pack.mg(),
            everything_mg: planned.totals.everything.mg(),
            kits: planned.kits.into_iter().map(KitOnListOut::from).collect(),
            swaps: planned.swaps.iter().map(SwapOut::from).collect(),
            unavailable: planned.unavailable.iter().map(SwapOut::from).collect(),
            spent_minor: planned.spent.minor(),
            done: planned.done.iter().map(SwapOut::from).collect(),
            revision,
            ranking: planned.ranking.into_iter().map(RankedOut::from).collect(),
            choices: planned.choices.into_iter().map(|group| group.choices.into_iter().map(choice).collect()).collect(),
            frontier: planned.points.into_iter().map(PointOut::from).collect(),
            proved: planned.proved,
            ranking_alone: alone.swaps.map(|swaps| AloneOut {
                swaps,
                net_minor: alone.net.minor(),
                base_mg: alone.base.mg(),
                met: alone.met,
            }),
            chance_percent: planned.chance.map(percent),
            keeps: planned.keeps.into_iter().map(KeptOut::from).collect(),
            short: planned.short.into_iter().map(ShortOut::from).collect(),
            plan: ChosenOut::new(planned.plan, &planned.bases, &planned.clears, &planned.months),
            list: planned.list.into(),
        }
    }
}

/// A chance in whole per cent.
#[allow(
    clippy::as_conversions,
    clippy::cast_possible_truncation,
    clippy::float_arithmetic,
    reason = "a chance is told in tenths"
)]
pub(super) fn percent(chance: f64) -> i64 {
    (chance * 100.0).round() as i64
}

impl From<Kept> for KeptOut {
    fn from(kept: Kept) -> KeptOut {
        let Kept { line, name, need, mass, costs } = kept;
        KeptOut { line, name, need, mass_mg: mass.mg(), costs_minor: costs.minor() }
    }
}

impl From<(String, Mass, Mass)> for KitOnListOut {
    fn from((name, weighed, correction): (String, Mass, Mass)) -> KitOnListOut {
        KitOnListOut { name, weighed_mg: weighed.mg(), correction_mg: correction.mg() }
    }
}

impl From<RankedSwap> for RankedOut {
    fn from(RankedSwap { row, worth, gains, loses }: RankedSwap) -> RankedOut {
        let word = |missing: Missing| match missing {
            Missing::Weight(name) => format!("weight of {name}"),
            Missing::Price(name) => format!("price of {name}"),
        };
        RankedOut {
            swap: row.swap,
            class: row.class,
            place: row.place.map(|places| places.place),
            best_place: row.place.map(|places| places.best),
            worst_place: row.place.map(|places| places.worst),
            saving_low_mg: worth.range.map(|range| range.saving_low.mg()),
            saving_high_mg: worth.range.map(|range| range.saving_high.mg()),
            net_low_minor: worth.range.map(|range| range.net_low.minor()),
            net_high_minor: worth.range.map(|range| range.net_high.minor()),
            saving_mg: worth.saving.map(Mass::mg),
            saving_everything_mg: worth.saving_everything.map(Mass::mg),
            net_minor: worth.net.map(Money::minor),
            missing: worth.missing.into_iter().map(word).collect(),
            warmth_tenth_c: gains.warmth.filter(|tenths| *tenths != 0),
            ground_tenth_r: gains.ground,
            water_ml: gains.water,
            loses: loses.into_iter().map(String::from).collect(),
        }
    }
}

impl From<(Point, Vec<usize>)> for PointOut {
    fn from((point, swaps): (Point, Vec<usize>)) -> PointOut {
        PointOut { net_minor: point.net.minor(), base_mg: point.base.mg(), swaps }
    }
}

fn choice((swap, standing): (usize, Standing)) -> ChoiceOut {
    let plain = |standing| ChoiceOut { swap, standing, by: None, extra_saving_mg: None, extra_net_minor: None };
    match standing {
        Standing::Step(step) => ChoiceOut {
            extra_saving_mg: Some(step.extra_saving.mg()),
            extra_net_minor: Some(step.extra_net.minor()),
            ..plain(StandingWord::Step)
        },
        Standing::BeatenBy(by) => ChoiceOut { by: Some(by), ..plain(StandingWord::Beaten) },
        Standing::BeatenByKeeping => plain(StandingWord::BeatenByKeeping),
        Standing::NeverBestStep => plain(StandingWord::NeverBestStep),
    }
}

impl From<&Outcome> for OutcomeWord {
    fn from(outcome: &Outcome) -> OutcomeWord {
        match outcome {
            Outcome::AlreadyMet => OutcomeWord::AlreadyMet,
            Outcome::TargetMet => OutcomeWord::TargetMet,
            Outcome::OverBudget { .. } => OutcomeWord::OverBudget,
            Outcome::OutOfReach { .. } => OutcomeWord::OutOfReach,
            Outcome::PinsClash { .. } => OutcomeWord::PinsClash,
            Outcome::Unmet { .. } => OutcomeWord::Unmet,
            Outcome::TooDear { .. } => OutcomeWord::TooDear,
            Outcome::Unresolved => OutcomeWord::Unresolved,
        }
    }
}

impl ChosenOut {
    fn new(plan: Plan, bases: &[Mass], clears: &[(Counting, Mass)], months: &Months) -> ChosenOut {
        let month_of = |swap: &usize| {
            let bought = months.in_order.as_ref()?;
            bought.iter().find(|(other, _)| other == swap).map(|(_, month)| *month)
        };
        let last = |bought: &Vec<Bought>| Some(bought.last()?.1);
        let bought = months.soonest.as_ref().and_then(|soonest| soonest.bought.as_ref());
        let is_sooner = match (bought.and_then(last), months.in_order.as_ref().and_then(last)) {
            (Some(soonest), Some(in_order)) => soonest < in_order,
            (soonest, _) => soonest.is_some(),
        };
        let soonest = bought.into_iter().flatten().map(|&(swap, month)| BoughtOut { swap, month });
        let (mut more_minor, mut lightest_mg, mut pins, mut least_minor) = (None, None, Vec::new(), None);
        let (mut lost_job, mut unmet) = (None, Vec::new());
        let outcome = OutcomeWord::from(&plan.outcome);
        match plan.outcome {
            Outcome::OverBudget { more } | Outcome::TooDear { more } => more_minor = Some(more.minor()),
            Outcome::OutOfReach { lightest } => lightest_mg = Some(lightest.mg()),
            Outcome::PinsClash { pins: clashing, least, job } => {
                lost_job = job.map(|job| job.as_str().to_owned());
                pins = clashing;
                least_minor = least.map(Money::minor);
            }
            Outcome::Unmet { unmet: all } => unmet = all.into_iter().map(String::from).collect(),
            Outcome::AlreadyMet | Outcome::TargetMet | Outcome::Unresolved => {}
        }
        ChosenOut {
            outcome,
            months: plan.swaps.as_ref().and_then(|swaps| swaps.iter().map(month_of).collect()),
            soonest: is_sooner.then(|| soonest.collect()),
            soonest_proved: months.soonest.as_ref().is_none_or(|soonest| soonest.is_proved),
            clears: clears.iter().map(|(counting, mass)| ClearsOut { counting: *counting, mg: mass.mg() }).collect(),
            swaps: plan.swaps,
            bases_mg: bases.iter().map(|base| base.mg()).collect(),
            net_minor: plan.net.minor(),
            base_mg: plan.base.mg(),
            short_by_mg: plan.short_by.mg(),
            more_minor,
            lightest_mg,
            pins,
            least_minor,
            lost_job,
            unmet,
            gap_mg: plan.gap.map(|gap| gap.mass.mg()),
            gap_minor: plan.gap.map(|gap| gap.money.minor()),
        }
    }
}
