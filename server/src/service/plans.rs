//! The ranking and the plan of a list.

use super::sheet::Laid;
use super::swaps::{FullSwap, full_swaps};
use super::{Caller, ServiceError, Services, weights};
use crate::store::id::{GearId, LineId, ListId, SwapId};
use crate::store::lines::StoredLine;
use crate::store::lists::{self, PackList, StoredList};
use crate::store::{accounts, swaps, walkers};
use diesel::MysqlConnection;
use kevyt_core::gear::{Counting, Makers};
use kevyt_core::limits;
use kevyt_core::list::{LineId as CoreLineId, Totals, WeighedKit};
use kevyt_core::plan::{Answer, BuyingOrder, Options, Plan, Point, Problem, RankingAlone, Ready, solve};
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::{ChoiceGroup, RankBy, Ranked, Removal, Swap, SwapId as CoreSwapId, Worth, choices};
use kevyt_core::together::lines_of;
use kevyt_core::trip::required;
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
    /// The base weight after each swap of the plan.
    pub bases: Vec<Mass>,
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
        let (revision, list, laid, swaps) = self.read(|c| {
            let revision = accounts::revision(c, caller.access)?;
            lists::get(c, caller.access, id)?;
            let (list, to) = walkers::open(c, caller.access, id)?;
            Ok((revision, list, Laid::out(c, caller, to)?, full_swaps(c, caller, id)?))
        })?;
        let (unavailable, swaps): (Vec<_>, Vec<_>) = swaps.into_iter().partition(|swap| swap.unavailable.is_some());
        let things = laid.things.iter().filter(|thing| thing.carrier.walker() == laid.me).count();
        let problem = problem(caller, &list.value, laid, &swaps);
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
            bases: plan.swaps.as_deref().map(|set| order.bases(set)).unwrap_or_default(),
            things,
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
pub(super) fn weighed_kits<'a>(
    c: &mut MysqlConnection,
    caller: Caller,
    lines: impl IntoIterator<Item = &'a StoredLine>,
) -> Result<Vec<WeighedKit>, ServiceError> {
    let line_of: HashMap<GearId, LineId> = lines.into_iter().map(|line| (line.value.gear.id, line.id)).collect();
    let kits = weights::counting(weights::load(c, caller, None)?).into_iter().filter_map(|(kit, weighing)| {
        let part = |(id, count): &(GearId, u32)| Some((CoreLineId(line_of.get(id)?.to_string()), *count));
        let parts = kit.parts.iter().map(part).collect::<Option<_>>()?;
        Some(WeighedKit { name: kit.name.as_str().to_owned(), weighed: weighing.total, parts })
    });
    Ok(kits.collect())
}

fn problem(caller: Caller, list: &PackList, laid: Laid, swaps: &[FullSwap]) -> Problem {
    let (lines, require) = lines_of(laid.things, laid.me, required(list.trip.as_ref(), &list.requires));
    Problem {
        currency: caller.preferences.currency,
        lines,
        kits: laid.kits,
        swaps: core_swaps(swaps, &laid.makers),
        require,
        target: list.target.as_ref().map_or(Mass::ZERO, |(mass, _)| *mass),
        budget: list.budget.unwrap_or(Money::from_minor(limits::MONEY_MINOR)),
        hour_rate: list.hour_rate,
        counting: Counting::Stated,
        rank_by: RankBy::Base,
        purse: None,
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
