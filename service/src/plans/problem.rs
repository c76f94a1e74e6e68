//! The problem that a list and its swaps are to core.

use crate::Caller;
use crate::sheet::ListSnapshot;
use crate::swaps::FullSwap;
use kevyt_core::gear::{Facts, Makers};
use kevyt_core::limits;
use kevyt_core::list::{LineId as CoreLineId, Thing};
use kevyt_core::plan::{Meet, Night, Problem, Terms};
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::swap::{Removal, Swap, SwapId as CoreSwapId, ordered_from};
use kevyt_core::together::lines_of;
use kevyt_core::trip::{Supplies, day_by_day, kept};
use kevyt_store::id::SwapId;
use kevyt_store::lists::PackList;
use kevyt_store::swaps::SwapRecord;
use std::collections::HashSet;

/// A list with its swaps that can be made, what is spent already taken off its budget.
pub(super) fn problem(
    caller: Caller,
    list: &PackList,
    snapshot: ListSnapshot,
    swaps: &[FullSwap],
    spent: Money,
) -> Problem {
    let heaviest =
        list.trip.as_ref().map(|trip| day_by_day(snapshot.of(snapshot.me), trip, &Supplies::of(trip)).heaviest);
    let in_can = |thing: &Thing| Some((thing.line.id.clone(), thing.facts.contents?));
    let gas = snapshot.things.iter().filter_map(in_can).collect();
    let core_swaps = core_swaps(swaps, &snapshot.makers);
    let sleeper = caller.settings.sleeper();
    let mut night = list.trip.as_ref().and_then(|trip| Night::of_trip(trip, sleeper, &snapshot.things, snapshot.me));
    if let Some(night) = &mut night {
        for (full, swap) in swaps.iter().zip(&core_swaps) {
            let facts: Vec<Facts> = full.candidates.iter().map(|candidate| candidate.value.facts).collect();
            night.add(swap, &facts);
        }
    }
    let (lines, require) = lines_of(snapshot.things, snapshot.me, kept(list.trip.as_ref(), &list.requires));
    // Where nobody sleeps out there is no night to be warm in.
    let has_night = night.is_some();
    let is_asked = |meet: &Meet| has_night || matches!(meet, Meet::Job(_));
    let terms = Terms {
        purse: list.terms.purse.map(|purse| purse.left(spent)),
        meet: list.terms.meet.iter().filter(|meet| is_asked(meet)).cloned().collect(),
        ..list.terms.clone()
    };
    Problem {
        night,
        currency: caller.preferences.currency,
        lines,
        kits: snapshot.kits,
        swaps: core_swaps,
        require,
        heaviest_start: heaviest,
        gas,
        target: list.target.as_ref().map_or(Mass::ZERO, |(mass, _)| *mass),
        budget: list.budget.map_or(Money::from_minor(limits::MONEY_MINOR), |budget| (budget - spent).max(Money::ZERO)),
        hour_rate: list.hour_rate,
        terms,
    }
}

/// Swaps as core knows them; an exclusion of what can't be made anyway is none.
pub(crate) fn core_swaps(swaps: &[FullSwap], makers: &Makers) -> Vec<Swap> {
    let there: HashSet<SwapId> = swaps.iter().map(|swap| swap.swap.id).collect();
    swaps.iter().map(|swap| core_swap(swap, &there, makers)).collect()
}

fn core_swap(full: &FullSwap, there: &HashSet<SwapId>, makers: &Makers) -> Swap {
    let SwapRecord { name, kind, state, delivery, tenth_hours, .. } = &full.swap.value;
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
        ordered_from: ordered_from(full.candidates.iter().map(|candidate| &candidate.value)),
        resale: full.resale.brings,
        tenth_hours: *tenth_hours,
        requires: ids(&record.requires),
        excludes: ids(&record.excludes),
    }
}
