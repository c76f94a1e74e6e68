//! `/api/lists/{id}/plan`: what the beam, the ranking and the plan show, in one answer.

use super::App;
use super::guard::SignedIn;
use super::lists::ListOut;
use super::plan_key::PlanKey;
use super::problem::ProblemDoc;
use super::ranking::RankedOut;
use super::sure::percent;
use super::swaps::SwapOut;
use actix_web::http::header::ContentType;
use actix_web::web::{Data, Path};
use actix_web::{HttpResponse, get};
use kevyt_core::gear::{Counting, Need};
use kevyt_core::plan::months::Bought;
use kevyt_core::plan::{Outcome, Plan, Point, Short};
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::Standing;
use kevyt_service::plans::{Kept, Months, Planned};
use kevyt_service::stored::ListId;
use serde::Serialize;
use utoipa::ToSchema;

/// A list ranked and planned. Swaps are named by their position in `swaps`.
#[derive(Serialize, ToSchema)]
#[schema(as = PlanAnswer)]
pub struct PlanOut {
    list: ListOut,
    /// Things on the list.
    things: usize,
    /// Things with an unknown weight that the target's figure hangs on: while there are some, it is "at least".
    unknown: usize,
    /// Base weight now.
    base_mg: i64,
    /// What the target is of (`terms.target_of` of the list), now. `base_mg` of the frontier and the plan, and all that hangs on them, are this
    /// figure after their swaps; the ranking stays one of base weight.
    aim_mg: i64,
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
    /// What the target would be without the dearest of these that are wants, at most three, of those that weigh the same in every plan.
    without_wants: Option<WithoutWantsOut>,
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

/// A target without some wants.
#[derive(Serialize, ToSchema)]
#[schema(as = WithoutWants)]
pub struct WithoutWantsOut {
    target_mg: i64,
    /// Their names, the dearest first.
    names: Vec<String>,
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
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ListId>) -> Result<HttpResponse, ProblemDoc> {
    let body = app.planned(caller, PlanKey::Plan(*id)).await?;
    Ok(HttpResponse::Ok().insert_header(ContentType::json()).body(body))
}

impl PlanOut {
    pub(super) fn new(revision: i64, planned: Planned) -> PlanOut {
        let alone = planned.ranking_alone;
        PlanOut {
            things: planned.things,
            unknown: planned.unknown,
            base_mg: planned.totals.base.mg(),
            aim_mg: planned.aim.mg(),
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
            without_wants: planned
                .without_wants
                .map(|(target, names)| WithoutWantsOut { target_mg: target.mg(), names }),
            short: planned.short.into_iter().map(ShortOut::from).collect(),
            plan: ChosenOut::new(planned.plan, &planned.bases, &planned.clears, &planned.months),
            list: planned.list.into(),
        }
    }
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
