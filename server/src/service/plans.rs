//! The ranking and the plan of a list.

use super::swaps::{FullSwap, full_swaps};
use super::{Caller, ServiceError, Services, weights};
use crate::store::id::{GearId, LineId, ListId, SwapId};
use crate::store::lines::{self, ListLine, StoredLine};
use crate::store::lists::{self, PackList, StoredList};
use crate::store::{accounts, swaps};
use diesel::MysqlConnection;
use kevyt_core::gear::Makers;
use kevyt_core::limits;
use kevyt_core::list::{Line, LineId as CoreLineId, Totals, WeighedKit};
use kevyt_core::plan::{Answer, BuyingOrder, Options, Plan, Point, Problem, RankingAlone, Ready, solve};
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::{ChoiceGroup, Ranked, Removal, Swap, SwapId as CoreSwapId, Worth, choices};
use std::collections::{HashMap, HashSet};
use std::time::{Duration, Instant};

/// How long a plan is searched for while somebody waits; then the best so far is brought to an end, in half a second, and shown with its
/// gap.
const PATIENCE: Duration = Duration::from_millis(2_500);
/// Open labels at a time while somebody waits: a fold of more would outlast [`PATIENCE`].
const MOST_OPEN: usize = 20_000;

/// The most points of the frontier that are given; of a longer one, every n-th and the plan's own.
const MOST_POINTS: usize = 3_000;

/// A list, its swaps, and what core says of them. Swaps are named by their position in [`Planned::swaps`].
pub struct Planned {
    /// The list.
    pub list: StoredList,
    /// Things on it.
    pub things: usize,
    /// Its sums.
    pub totals: Totals,
    /// Kits that count in them as they were weighed together: name, weighing, and that less what the parts add up to.
    pub kits: Vec<(String, Mass, Mass)>,
    /// Its swaps that can be made.
    pub swaps: Vec<FullSwap>,
    /// Its swaps that can't, each with the reason; no part of the ranking or the plan.
    pub unavailable: Vec<FullSwap>,
    /// The ranking, each row with what the swap is worth.
    pub ranking: Vec<(Ranked, Worth)>,
    /// Choices for the same gear.
    pub choices: Vec<ChoiceGroup>,
    /// The frontier, cheapest first, each point's swaps in buying order.
    pub points: Vec<(Point, Vec<usize>)>,
    /// Whether it was searched to its end.
    pub proved: bool,
    /// The plan, its swaps in buying order. Without a target it is asked for the lightest, without a budget for any price.
    pub plan: Plan,
    /// What buying down the ranking would do.
    pub ranking_alone: RankingAlone,
}

impl Services {
    /// What tells whether anything of an account was written since.
    pub fn revision(&self, caller: Caller) -> Result<i64, ServiceError> {
        Ok(accounts::revision(&mut *self.connection()?, caller.access)?)
    }

    /// Ranks and plans a list, until it is told to stop; gives the revision of the account that it is of, too.
    pub fn plan(
        &self,
        caller: Caller,
        id: ListId,
        should_stop: &dyn Fn() -> bool,
    ) -> Result<(i64, Planned), ServiceError> {
        let (revision, list, lines, swaps, kits, makers) = self.read(|c| {
            let revision = accounts::revision(c, caller.access)?;
            let list = lists::get(c, caller.access, id)?;
            let lines = lines::of_list(c, caller.access, id)?;
            let kits = weighed_kits(c, caller, &lines)?;
            Ok((revision, list, lines, full_swaps(c, caller, id)?, kits, weights::makers(c, caller)?))
        })?;
        let (unavailable, swaps): (Vec<_>, Vec<_>) = swaps.into_iter().partition(|swap| swap.unavailable.is_some());
        let problem = problem(caller, &list.value, &lines, kits, &swaps, &makers);
        let internal = |error: &dyn std::fmt::Display| ServiceError::Internal(error.to_string());
        let ready = Ready::new(&problem).map_err(|error| internal(&error))?;
        let until = Instant::now() + PATIENCE;
        let options = Options { most_open: MOST_OPEN, ..Options::default() };
        let answer =
            solve(&ready, &options, &|| should_stop() || Instant::now() > until).map_err(|fault| internal(&fault))?;
        let order = BuyingOrder::new(&ready);
        let kits = ready.kits().iter().map(|whole| (whole.kit.name.clone(), whole.kit.weighed, whole.correction));
        let worth = |row: Ranked| ready.worths().get(row.swap).cloned().map(|worth| (row, worth));
        let plan = Plan { swaps: answer.plan.swaps.as_deref().map(|set| order.of(set)), ..answer.plan.clone() };
        let planned = Planned {
            things: lines.len(),
            totals: ready.totals(),
            kits: kits.collect(),
            ranking: ready.ranking().into_iter().filter_map(worth).collect(),
            choices: choices(&problem.swaps, ready.worths(), ready.lines()),
            points: points(&answer, &order),
            proved: answer.frontier.is_proved(),
            plan,
            ranking_alone: answer.ranking_alone,
            list,
            swaps,
            unavailable,
        };
        Ok((revision, planned))
    }
}

/// The points of a frontier that are given.
fn points(answer: &Answer, order: &BuyingOrder<'_, '_>) -> Vec<(Point, Vec<usize>)> {
    let (all, plan) = (answer.frontier.points(), &answer.plan);
    let every = all.len().div_ceil(MOST_POINTS).max(1);
    let shown = all.iter().enumerate().filter(|(at, point)| {
        at % every == 0 || at + 1 == all.len() || (point.net, point.base) == (plan.net, plan.base)
    });
    shown.map(|(at, point)| (*point, order.of(&answer.frontier.swaps(at)))).collect()
}

/// Kits that count as they were weighed and have all their parts on the list, the newest weighing first.
fn weighed_kits(
    c: &mut MysqlConnection,
    caller: Caller,
    lines: &[StoredLine],
) -> Result<Vec<WeighedKit>, ServiceError> {
    let line_of: HashMap<GearId, LineId> = lines.iter().map(|line| (line.value.gear.id, line.id)).collect();
    let kits = weights::counting(weights::load(c, caller, None)?).into_iter().filter_map(|(kit, weighing)| {
        let part = |(id, count): &(GearId, u32)| Some((CoreLineId(line_of.get(id)?.to_string()), *count));
        let parts = kit.parts.iter().map(part).collect::<Option<_>>()?;
        Some(WeighedKit { name: kit.name.as_str().to_owned(), weighed: weighing.total, parts })
    });
    Ok(kits.collect())
}

fn problem(
    caller: Caller,
    list: &PackList,
    lines: &[StoredLine],
    kits: Vec<WeighedKit>,
    swaps: &[FullSwap],
    makers: &Makers,
) -> Problem {
    Problem {
        currency: caller.preferences.currency,
        lines: lines.iter().map(|line| core_line(line, makers)).collect(),
        kits,
        swaps: core_swaps(swaps, makers),
        require: list.requires.clone(),
        target: list.target.as_ref().map_or(Mass::ZERO, |(mass, _)| *mass),
        budget: list.budget.unwrap_or(Money::from_minor(limits::MONEY_MINOR)),
        hour_rate: list.hour_rate,
    }
}

fn core_line(line: &StoredLine, makers: &Makers) -> Line {
    let ListLine { gear, counts } = &line.value;
    Line {
        id: CoreLineId(line.id.to_string()),
        name: gear.value.name.as_str().to_owned(),
        carried: counts.carried,
        worn: counts.worn,
        used_up: counts.used_up,
        apart: 0,
        left: 0,
        weight: gear.value.weight.as_ref().map(|weight| makers.known(weight)),
        tags: gear.value.tags.clone(),
        provides: gear.value.provides.clone(),
        needs: gear.value.needs.clone(),
    }
}

/// Swaps as core knows them; an exclusion of what can't be made anyway is none.
fn core_swaps(swaps: &[FullSwap], makers: &Makers) -> Vec<Swap> {
    let there: HashSet<SwapId> = swaps.iter().map(|swap| swap.swap.id).collect();
    swaps.iter().map(|swap| core_swap(swap, &there, makers)).collect()
}

fn core_swap(full: &FullSwap, there: &HashSet<SwapId>, makers: &Makers) -> Swap {
    let swaps::SwapRecord { name, kind, state, delivery, resale, tenth_hours, .. } = &full.swap.value;
    let record = &full.swap.value;
    let ids = |others: &[SwapId]| {
        others.iter().filter(|other| there.contains(other)).map(|other| CoreSwapId(other.to_string())).collect()
    };
    let remove =
        record.remove.iter().map(|&(line, qty, from)| Removal { line: CoreLineId(line.to_string()), qty, from });
    let sides = record.add.iter().zip(&full.candidates);
    Swap {
        id: CoreSwapId(full.swap.id.to_string()),
        name: name.as_str().to_owned(),
        kind: *kind,
        state: *state,
        remove: remove.collect(),
        add: sides.map(|(&(_, qty, place), candidate)| candidate.value.on_list(qty, place, makers)).collect(),
        delivery: *delivery,
        resale: *resale,
        tenth_hours: *tenth_hours,
        requires: ids(&record.requires),
        excludes: ids(&record.excludes),
    }
}
