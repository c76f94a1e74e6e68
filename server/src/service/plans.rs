//! The ranking and the plan of a list.

use super::swaps::{FullSwap, full_swaps};
use super::{Caller, ServiceError, Services, weights};
use crate::store::id::{GearId, LineId, ListId, SwapId};
use crate::store::lists::{self, ListLine, PackList, StoredLine, StoredList};
use crate::store::swaps;
use diesel::MysqlConnection;
use kevyt_core::limits;
use kevyt_core::list::{Line, LineId as CoreLineId, WeighedKit};
use kevyt_core::plan::{Answer, Options, Problem, Ready, solve};
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::{Removal, Swap, SwapId as CoreSwapId};
use std::collections::{HashMap, HashSet};
use std::time::{Duration, Instant};

/// How long a plan may take while somebody waits; then the best so far is shown with its gap.
const PATIENCE: Duration = Duration::from_secs(3);
/// Open labels at a time while somebody waits: a fold of more would outlast [`PATIENCE`].
const MOST_OPEN: usize = 20_000;

/// A list, its swaps, and what core says of them.
pub struct Planned {
    /// The list.
    pub list: StoredList,
    /// Its lines.
    pub lines: Vec<StoredLine>,
    /// Its swaps, in the order of [`Planned::problem`]'s.
    pub swaps: Vec<FullSwap>,
    /// Its swaps that can't be made, each with the reason; no part of the problem.
    pub unavailable: Vec<FullSwap>,
    /// The problem as core was asked it. Without a target it is asked for the lightest, without a
    /// budget for any price.
    pub problem: Problem,
    /// The answer.
    pub answer: Answer,
}

impl Services {
    /// Ranks and plans a list.
    pub fn plan(&self, caller: Caller, id: ListId) -> Result<Planned, ServiceError> {
        let (list, lines, swaps, kits) = self.read(|c| {
            let list = lists::get(c, caller.account, id)?;
            let lines = lists::lines(c, caller.account, id)?;
            let kits = weighed_kits(c, caller, &lines)?;
            Ok((list, lines, full_swaps(c, caller, id)?, kits))
        })?;
        let (unavailable, swaps): (Vec<_>, Vec<_>) = swaps.into_iter().partition(|swap| swap.unavailable.is_some());
        let problem = problem(caller, &list.value, &lines, kits, &swaps);
        let ready = Ready::new(&problem).map_err(|error| ServiceError::Internal(error.to_string()))?;
        let until = Instant::now() + PATIENCE;
        let options = Options { most_open: MOST_OPEN, ..Options::default() };
        let answer = solve(&ready, &options, &|| Instant::now() > until)
            .map_err(|fault| ServiceError::Internal(fault.to_string()))?;
        Ok(Planned { list, lines, swaps, unavailable, problem, answer })
    }
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
) -> Problem {
    Problem {
        currency: caller.preferences.currency,
        lines: lines.iter().map(core_line).collect(),
        kits,
        swaps: core_swaps(swaps),
        require: list.requires.clone(),
        target: list.target.as_ref().map_or(Mass::ZERO, |(mass, _)| *mass),
        budget: list.budget.unwrap_or(Money::from_minor(limits::MONEY_MINOR)),
        hour_rate: list.hour_rate,
    }
}

fn core_line(line: &StoredLine) -> Line {
    let ListLine { gear, counts } = &line.value;
    Line {
        id: CoreLineId(line.id.to_string()),
        name: gear.value.name.as_str().to_owned(),
        carried: counts.carried,
        worn: counts.worn,
        used_up: counts.used_up,
        unit: gear.value.weight.as_ref().map(|weight| weight.unit),
        provides: gear.value.provides.clone(),
        needs: gear.value.needs.clone(),
    }
}

/// Swaps as core knows them; an exclusion of what can't be made anyway is none.
fn core_swaps(swaps: &[FullSwap]) -> Vec<Swap> {
    let there: HashSet<SwapId> = swaps.iter().map(|swap| swap.swap.id).collect();
    swaps.iter().map(|swap| core_swap(swap, &there)).collect()
}

fn core_swap(full: &FullSwap, there: &HashSet<SwapId>) -> Swap {
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
        add: sides.map(|(&(_, qty, place), candidate)| candidate.value.on_list(qty, place)).collect(),
        delivery: *delivery,
        resale: *resale,
        tenth_hours: *tenth_hours,
        requires: ids(&record.requires),
        excludes: ids(&record.excludes),
    }
}
