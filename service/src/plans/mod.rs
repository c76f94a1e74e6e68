//! The ranking and the plan of a list.

pub(super) mod problem;

use super::aim::{aimed, heavy_few};
use super::points::{point, shown};
use super::sheet::ListSnapshot;
use super::sure::{Sure, sure};
use super::swaps::{FullSwap, full_swaps};
use super::{Caller, ServiceError, Services};
use diesel::MysqlConnection;
use kevyt_core::gear::{Counting, Need};
use kevyt_core::list::{Line, LineId as CoreLineId, Thing, Totals};
use kevyt_core::plan::months::{self, Bought, Soonest};
use kevyt_core::plan::{
    Answer, BreakEven, BuyingOrder, EndedBy, Limits, Meet, MeetCost, Plan, Point, ProblemError, RankingAlone, Ready,
    Short, Side, break_even_price, chance, clears, keeps, loses, meet_costs, near_misses, price_at, shorts, side,
    solve, target_without,
};
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::steps::Steps;
use kevyt_core::swap::{ChoiceGroup, Gains, Ranked, Worth, choices};
use kevyt_store::access::ToList;
use kevyt_store::account::digest;
use kevyt_store::id::{GearId, LineId, ListId, SwapId};
use kevyt_store::lists::{self, StoredList};
use kevyt_store::swaps::Done;
use kevyt_store::walkers;
use problem::problem;
use std::collections::HashMap;
use std::time::{Duration, Instant};

/// How long a plan is searched for while somebody waits; then the best so far is brought to an end, in half a second, and shown with its
/// gap.
pub(super) const SEARCH_TIMEOUT: Duration = Duration::from_millis(2_500);
/// How long the soonest months are.
const MONTHS_TIMEOUT: Duration = Duration::from_millis(500);
/// How long it is calculated after that what it costs to meet more.
const MEETS_TIMEOUT: Duration = Duration::from_millis(500);
/// How long it is calculated after that how sure the points of the frontier are.
const SURE_TIMEOUT: Duration = Duration::from_millis(500);
/// How long near misses are searched for after that.
const NEAR_TIMEOUT: Duration = Duration::from_millis(1_000);
/// Open labels at a time while somebody waits: a fold of more would outlast [`SEARCH_TIMEOUT`].
pub(super) const MOST_OPEN: usize = 20_000;

/// A list, its swaps, and what core says of them. Swaps are named by their position in [`Planned::swaps`].
pub struct Planned {
    /// The list.
    pub list: StoredList,
    /// Things on it.
    pub things: usize,
    /// Its sums.
    pub totals: Totals,
    /// How many weights are unknown that the figure of its target hangs on.
    pub unknown: usize,
    /// The figure that its target is of, as it stands.
    pub aim: Mass,
    /// Kits that count in them as they were weighed together: name, weighing, and that less what the parts add up to.
    pub kits: Vec<(String, Mass, Mass)>,
    /// Its swaps that can be made.
    pub swaps: Vec<FullSwap>,
    /// Its swaps that can't, each with the reason; no part of the ranking or the plan.
    pub unavailable: Vec<FullSwap>,
    /// Its swaps that are done.
    pub done: Vec<FullSwap>,
    /// What they have taken of the budget.
    pub spent: Money,
    /// The ranking.
    pub ranking: Vec<RankedSwap>,
    /// Choices for the same gear.
    pub choices: Vec<ChoiceGroup>,
    /// The frontier, cheapest first, each point's swaps in buying order.
    pub points: Vec<(Point, Vec<usize>)>,
    /// Whether it was searched to its end.
    pub proved: bool,
    /// The plan, its swaps in buying order. Without a target it is asked for the lightest, without a budget for any price.
    pub plan: Plan,
    /// The base weight after each swap of the plan.
    pub bases: Vec<Mass>,
    /// What is short on the list as it stands, and by how much.
    pub short: Vec<Short>,
    /// By how much the plan clears the target, counted each way.
    pub clears: Vec<(Counting, Mass)>,
    /// In which month each swap of the plan is bought, in their order, and with all of them bought as soon as can be; `None` where no
    /// money a month is said, or where it takes longer than is planned for.
    pub months: Months,
    /// What buying down the ranking would do.
    pub ranking_alone: RankingAlone,
    /// The chance that the plan's base weight is at or under the target.
    pub chance: Option<f64>,
    /// What it costs to bring what the plan leaves alone, wants first, then the dearest.
    pub keeps: Vec<Kept>,
    /// What the target would be without the dearest of these wants, and their names.
    pub without_wants: Option<(Mass, Vec<String>)>,
}

/// A row of the ranking.
pub struct RankedSwap {
    /// Where the swap stands.
    pub row: Ranked,
    /// What it is worth.
    pub worth: Worth,
    /// What it changes of warmth and water.
    pub gains: Gains,
    /// What falls shorter of what the trip asks with it alone.
    pub loses: Vec<Meet>,
}

/// What is calculated behind a plan.
pub struct Later {
    /// What it takes for swaps to come into it, or to fall out.
    pub near: Vec<Near>,
    /// What it would cost to meet what is short today.
    pub meets: Vec<MeetCost>,
    /// How sure the points of the frontier are; `None` without a target, while a carried weight is unknown, or if there was no time.
    pub sure: Option<Sure>,
}

/// Something that a plan leaves alone, and by how much it would be cheaper without it.
pub struct Kept {
    /// Its line.
    pub line: String,
    /// Its name.
    pub name: String,
    /// Whether it is needed.
    pub need: Need,
    /// What it weighs, all carried pieces.
    pub mass: Mass,
    /// What that costs.
    pub costs: Money,
}

/// What it takes for a swap to come into a plan, or to fall out of it.
pub struct Near {
    /// The swap.
    pub swap: SwapId,
    /// What it takes.
    pub break_even: BreakEven,
    /// The net cost that people are told, and what ends there.
    pub at: Option<(Money, EndedBy)>,
    /// The price of its one new thing now, and then.
    pub prices: Option<(Money, Money)>,
    /// Which way its price would have to move; `None` where no price changes the plan.
    pub side: Option<Side>,
}

/// When what a plan chooses is bought.
#[derive(Default)]
pub struct Months {
    /// In buying order.
    pub in_order: Option<Vec<Bought>>,
    /// All as soon as can be, as far as that is known.
    pub soonest: Option<Soonest>,
}

/// Whether the plan, and what follows it, is to be stopped.
#[derive(Clone, Copy)]
pub struct Stops<'s> {
    /// The plan itself.
    pub plan: &'s dyn Fn() -> bool,
    /// What it would cost to meet more, and the near misses.
    pub rest: &'s dyn Fn() -> bool,
}

impl Services {
    /// What tells whether anything was written since that the plan of a list hangs on, whoever wrote it: a number that is another then.
    pub fn revision(&self, caller: Caller, id: ListId) -> Result<i64, ServiceError> {
        self.read(|c| {
            let (_, to) = walkers::open(c, caller.access, id)?;
            revision(c, to)
        })
    }

    /// Ranks and plans a list, until it is told to stop, and tells the plan with the revision of the account that it is of. Then it
    /// works out what it would cost to meet more, and the near misses, until it is told to stop those, and gives those that were found.
    pub fn plan(
        &self,
        caller: Caller,
        id: ListId,
        stops: Stops<'_>,
        tell: impl FnOnce(i64, Planned) -> Result<(), ServiceError>,
    ) -> Result<Later, ServiceError> {
        let (caller, revision, list, snapshot, swaps) = self.read(|c| {
            let caller = caller.renewed(c)?;
            lists::get(c, caller.access, id)?;
            let (list, to) = walkers::open(c, caller.access, id)?;
            let revision = revision(c, to)?;
            Ok((caller, revision, list, ListSnapshot::load(c, caller, to)?, full_swaps(c, caller, id)?))
        })?;
        let (done, swaps): (Vec<_>, Vec<_>) = swaps.into_iter().partition(|swap| swap.swap.value.done.is_some());
        let (unavailable, swaps): (Vec<_>, Vec<_>) = swaps.into_iter().partition(|swap| swap.unavailable.is_some());
        let ids: Vec<SwapId> = swaps.iter().map(|swap| swap.swap.id).collect();
        let things = snapshot.things.iter().filter(|thing| thing.carrier.walker() == snapshot.me).count();
        let needs: HashMap<CoreLineId, Need> =
            snapshot.things.iter().map(|thing| (thing.line.id.clone(), thing.identity.need())).collect();
        let own: Vec<(String, GearId, String)> = snapshot
            .lines
            .iter()
            .zip(&snapshot.things)
            .map(|(line, thing)| (thing.line.id.0.clone(), line.line.value.gear.id, thing.line.name.clone()))
            .collect();
        let gains = gains(&snapshot, &swaps);
        let heavy = heavy_few(caller, &snapshot, &swaps);
        let counting = list.value.terms.counting;
        let problem = problem(caller, &list.value, snapshot, &swaps, spent(&done));
        let has_target = list.value.target.is_some();
        let internal = |error: &dyn std::fmt::Display| ServiceError::Internal(error.to_string());
        let not_planned = |error: ProblemError| {
            ServiceError::invalid("list", "not_planned", format!("This list can't be planned. {error}"))
        };
        let asked = aimed(&problem, &heavy).map_err(not_planned)?.map(|asked| asked.counted(counting));
        let problem = problem.counted(counting);
        // As the list stands, and as its target asks: the same where that is of base weight.
        let stands = Ready::new(&problem).map_err(not_planned)?;
        let asked = asked.as_ref().map(Ready::new).transpose().map_err(not_planned)?;
        let ready = asked.as_ref().unwrap_or(&stands);
        let until = Instant::now() + SEARCH_TIMEOUT;
        let limits = Limits { most_open: MOST_OPEN, ..Limits::default() };
        let answer =
            solve(ready, &limits, &|| (stops.plan)() || Instant::now() > until).map_err(|fault| internal(&fault))?;
        let order = BuyingOrder::new(ready);
        let kits =
            stands.whole_kits().iter().map(|whole| (whole.kit.name.clone(), whole.kit.weighed, whole.correction));
        let loses = loses(&stands);
        let ranked = |row: Ranked| {
            let gains = gains.get(row.swap).copied().unwrap_or_default();
            let loses = loses.get(row.swap).cloned().unwrap_or_default();
            stands.worths().get(row.swap).cloned().map(|worth| RankedSwap { row, worth, gains, loses })
        };
        let plan = Plan { swaps: answer.plan.swaps.as_deref().map(|set| order.of(set)), ..answer.plan.clone() };
        let clears = match &answer.plan.swaps {
            Some(set) if list.value.target.is_some() => {
                clears(ready, set).map_err(|error| internal(&error))?.into_iter().collect()
            }
            _ => Vec::new(),
        };
        let months = match (problem.terms.purse, plan.swaps.as_deref()) {
            (Some(purse), Some(set)) => {
                let until = Instant::now() + MONTHS_TIMEOUT;
                let is_over = || (stops.plan)() || Instant::now() > until;
                let mut steps = Steps::new(months::MONTHS_STEPS, &is_over);
                let soonest = months::soonest(ready, set, purse, &mut steps);
                Months { in_order: months::by_order(ready, set, purse), soonest: Some(soonest) }
            }
            _ => Months::default(),
        };
        let keeps = kept_things(ready, &answer, &needs);
        let planned = Planned {
            chance: answer
                .plan
                .swaps
                .as_deref()
                .filter(|_| list.value.target.is_some())
                .and_then(|set| chance(ready, set)),
            without_wants: without_wants(ready, &keeps),
            keeps,
            short: shorts(&stands),
            clears,
            months,
            spent: spent(&done),
            done,
            bases: plan.swaps.as_deref().map(|set| order.bases(set)).unwrap_or_default(),
            things,
            totals: stands.totals(),
            unknown: stands.totals().unknown.min(ready.totals().unknown),
            aim: ready.base(),
            kits: kits.collect(),
            ranking: stands.ranking().into_iter().filter_map(ranked).collect(),
            choices: choices(&problem.swaps, stands.worths(), stands.lines()),
            points: shown(&answer).map(|at| point(&answer, &order, at)).collect(),
            proved: answer.frontier.is_proved(),
            plan,
            ranking_alone: answer.ranking_alone.clone(),
            list,
            swaps,
            unavailable,
        };
        tell(revision, planned)?;
        let until = Instant::now() + MEETS_TIMEOUT;
        let meets = meet_costs(ready, &answer, &limits, &|| (stops.rest)() || Instant::now() > until);
        let until = Instant::now() + SURE_TIMEOUT;
        let is_over = || (stops.rest)() || Instant::now() > until;
        let sure = has_target.then(|| sure(ready, &answer, &order, &own, &is_over)).flatten();
        let until = Instant::now() + NEAR_TIMEOUT;
        let near = near_misses(ready, &answer, &limits, &|| (stops.rest)() || Instant::now() > until);
        let near = near.into_iter().map(|miss| {
            let now = ready.worths()[miss.swap].net;
            let at = now.and_then(|now| break_even_price(&problem, &answer.plan, &miss, now));
            let prices = now.zip(at).and_then(|(now, (at, _))| price_at(&problem.swaps[miss.swap], now, at));
            let is_in = answer.plan.swaps.as_ref().is_some_and(|swaps| swaps.contains(&miss.swap));
            let side = now.zip(at).and_then(|(now, (at, _))| side(is_in, now, at, prices.map(|(_, then)| then)));
            Near { swap: ids[miss.swap], break_even: miss.break_even, at, prices, side }
        });
        Ok(Later { near: near.collect(), meets, sure })
    }
}

fn revision(c: &mut MysqlConnection, to: ToList) -> Result<i64, ServiceError> {
    let all = walkers::revisions(c, to)?.into_iter().map(|(account, revision)| format!("{account} {revision}"));
    let [a, b, c, d, e, f, ..] = digest(all.collect::<Vec<_>>().join(", "));
    // 48 bits: exact in every client.
    Ok(i64::from_be_bytes([0, 0, a, b, c, d, e, f]))
}

/// What each swap changes of warmth and water.
fn gains(snapshot: &ListSnapshot, swaps: &[FullSwap]) -> Vec<Gains> {
    let things: HashMap<LineId, &Thing> =
        snapshot.lines.iter().zip(&snapshot.things).map(|(line, thing)| (line.line.id, thing)).collect();
    let of = |full: &FullSwap| {
        let record = &full.swap.value;
        let gone = record.remove.iter().filter_map(|&(line, qty, _)| Some((*things.get(&line)?, qty)));
        let come = record.add.iter().zip(&full.candidates).map(|(&(_, qty, _), candidate)| (&candidate.value, qty));
        Gains::of(&gone.collect::<Vec<_>>(), &come.collect::<Vec<_>>())
    };
    swaps.iter().map(of).collect()
}

/// The most things of which it is told what they cost to bring.
const MOST_KEPT: usize = 40;

/// What it costs to bring what a plan leaves alone, as far as it costs something.
fn kept_things(ready: &Ready<'_>, answer: &Answer, needs: &HashMap<CoreLineId, Need>) -> Vec<Kept> {
    let lines: HashMap<&CoreLineId, &Line> = ready.problem().lines.iter().map(|line| (&line.id, line)).collect();
    let all = keeps(ready, answer).into_iter().filter(|(_, costs)| *costs > Money::ZERO);
    let mut all: Vec<Kept> = all
        .filter_map(|(id, costs)| {
            let line = lines.get(id)?;
            let mass = line.unit().unwrap_or_default().times(line.counts.carried);
            // What a target of another figure brings beside the list's own lines can't stay at home.
            let need = *needs.get(id)?;
            Some(Kept { line: id.0.clone(), name: line.name.clone(), need, mass, costs })
        })
        .collect();
    all.sort_by_key(|kept| (kept.need != Need::Want, std::cmp::Reverse(kept.costs)));
    all.truncate(MOST_KEPT);
    all
}

/// How many wants the target is told without.
const WANTS: usize = 3;

/// What the target would be without the dearest wants, those that weigh the same in every plan.
fn without_wants(ready: &Ready<'_>, keeps: &[Kept]) -> Option<(Mass, Vec<String>)> {
    let wants = keeps.iter().filter(|kept| kept.need == Need::Want);
    let wants: Vec<(CoreLineId, &str)> =
        wants.map(|kept| (CoreLineId(kept.line.clone()), kept.name.as_str())).collect();
    let (lines, target) = target_without(ready, wants.iter().map(|(id, _)| id), WANTS);
    let names = wants.iter().filter(|(id, _)| lines.contains(&id)).map(|(_, name)| (*name).to_owned());
    (!lines.is_empty()).then(|| (target, names.collect()))
}

/// What the swaps that are done have taken of the budget.
fn spent(done: &[FullSwap]) -> Money {
    done.iter().filter_map(|swap| swap.swap.value.done.as_ref()).map(Done::spent).sum()
}
