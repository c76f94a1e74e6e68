//! Swaps with their candidates, and which of them can be made.

use super::{FullSwap, Unavailable};
use crate::{Caller, ServiceError};
use diesel::MysqlConnection;
use kevyt_core::quantity::Money;
use kevyt_core::swap::{Elsewhere, Resale, resale};
use kevyt_store::id::{CandidateId, LineId, ListId, SwapId};
use kevyt_store::lines::{Need, Standing};
use kevyt_store::swaps::{self, SwapRecord};
use kevyt_store::{StoreError, Stored, candidates, lines, lists};
use std::collections::{HashMap, HashSet};

/// A list's swaps with their candidates, those that can't be made too.
pub fn full_swaps(c: &mut MysqlConnection, caller: Caller, list: ListId) -> Result<Vec<FullSwap>, ServiceError> {
    full_swaps_among(c, caller, list, &HashSet::new())
}

/// The same of a list that is planned together with others: what those need is for that plan to say, and keeps nothing from being sold here.
pub fn full_swaps_among(
    c: &mut MysqlConnection,
    caller: Caller,
    list: ListId,
    others: &HashSet<ListId>,
) -> Result<Vec<FullSwap>, ServiceError> {
    let records = swaps::of_list(c, caller.access, list)?;
    let mut full = with_candidates(c, caller, records)?;
    let lines = removal_lines(c, caller, &full)?;
    // What takes off something that was removed from the inventory is out of sight with it.
    full.retain(|swap| swap.swap.value.remove.iter().all(|(line, ..)| lines.contains_key(line)));
    judge(c, caller, &mut full, &lines)?;
    say_what_it_brings(c, caller, list, others, &mut full)?;
    Ok(full)
}

/// One swap with its candidates.
pub(super) fn one(c: &mut MysqlConnection, caller: Caller, id: SwapId) -> Result<FullSwap, ServiceError> {
    let swap = swaps::get(c, caller.access, id)?;
    let list = swap.value.list;
    let mut closure = vec![swap];
    // What it requires, and what that requires.
    loop {
        let known: HashSet<SwapId> = closure.iter().map(|swap| swap.id).collect();
        let next = closure.iter().flat_map(|swap| swap.value.requires.iter().copied());
        let next: Vec<SwapId> = next.filter(|other| !known.contains(other)).collect();
        let found = swaps::several(c, caller.access, &next)?;
        if found.is_empty() {
            break;
        }
        closure.extend(found);
    }
    let mut full = with_candidates(c, caller, closure)?;
    let lines = removal_lines(c, caller, &full)?;
    let is_shown = |swap: &FullSwap| swap.swap.value.remove.iter().all(|(line, ..)| lines.contains_key(line));
    full.retain(|swap| swap.swap.id == id || is_shown(swap));
    judge(c, caller, &mut full, &lines)?;
    say_what_it_brings(c, caller, list, &HashSet::new(), &mut full)?;
    full.into_iter().find(|swap| swap.swap.id == id).ok_or(StoreError::NotFound.into())
}

/// The lines that swaps take off whose gear is there.
fn removal_lines(
    c: &mut MysqlConnection,
    caller: Caller,
    swaps: &[FullSwap],
) -> Result<HashMap<LineId, Standing>, ServiceError> {
    let ids = swaps.iter().flat_map(|swap| swap.swap.value.remove.iter().map(|side| side.0));
    Ok(lines::standing(c, caller.access, &ids.collect::<Vec<_>>())?)
}

/// Notes what the things bring that swaps take off, and which lists beside `others` could not do without them.
fn say_what_it_brings(
    c: &mut MysqlConnection,
    caller: Caller,
    list: ListId,
    others: &HashSet<ListId>,
    swaps: &mut [FullSwap],
) -> Result<(), ServiceError> {
    let sells = |swap: &SwapRecord| swap.resale > Money::ZERO && swap.done.is_none();
    let mut selling: Vec<&mut FullSwap> = swaps.iter_mut().filter(|swap| sells(&swap.swap.value)).collect();
    if selling.is_empty() {
        return Ok(());
    }
    let takes = lists::get(c, caller.access, list)?.value.terms.selling;
    let lines: Vec<LineId> = selling.iter().flat_map(|swap| swap.swap.value.remove.iter().map(|side| side.0)).collect();
    let mut needs = lines::needed_elsewhere(c, caller.access, &lines)?;
    needs.retain(|need| !others.contains(&need.of));
    for swap in &mut selling {
        let record = &swap.swap.value;
        let taken = |line| record.remove.iter().filter(|side| side.0 == line).map(|side| side.1).sum();
        let elsewhere = needs.iter().map(|need| {
            let Need { line, list, pieces, owned, .. } = need.clone();
            Elsewhere { list, pieces, owned, taken: taken(line) }
        });
        swap.resale = resale(record.resale, takes, &elsewhere.collect::<Vec<_>>(), record.sells_needed);
    }
    Ok(())
}

/// Notes which swaps can't be made, and why: a line that one takes off is not on the list or its gear is to be kept, or a swap that it requires is gone or can't
/// be made itself.
fn judge(
    c: &mut MysqlConnection,
    caller: Caller,
    swaps: &mut [FullSwap],
    lines: &HashMap<LineId, Standing>,
) -> Result<(), ServiceError> {
    for swap in swaps.iter_mut().filter(|swap| swap.swap.value.done.is_none()) {
        let standing = || swap.swap.value.remove.iter().filter_map(|(line, ..)| lines.get(line));
        let off = standing().find(|line| !line.is_on);
        let off = off.map(|line| Unavailable::OffList { thing: line.name.clone() });
        let kept = standing().find(|line| line.keep).map(|line| Unavailable::Kept { thing: line.name.clone() });
        swap.unavailable = off.or(kept);
    }
    let there: HashSet<SwapId> = swaps.iter().map(|swap| swap.swap.id).collect();
    let required = || swaps.iter().flat_map(|swap| swap.swap.value.requires.iter().copied());
    let names = swaps::names(c, caller.access, &required().collect::<Vec<_>>())?;
    // Whoever requires one of these can't be made either: from each to those that require it.
    let mut requiring: HashMap<SwapId, Vec<usize>> = HashMap::new();
    for (at, swap) in swaps.iter().enumerate() {
        swap.swap.value.requires.iter().for_each(|other| requiring.entry(*other).or_default().push(at));
    }
    let gone = required().filter(|other| !there.contains(other)).collect::<HashSet<_>>();
    let out = swaps.iter().filter(|swap| swap.unavailable.is_some()).map(|swap| swap.swap.id);
    let mut waiting: Vec<SwapId> = gone.iter().copied().chain(out).collect();
    while let Some(other) = waiting.pop() {
        let swap_name = names.get(&other).cloned().unwrap_or_default();
        for at in requiring.get(&other).into_iter().flatten() {
            if let Some(swap) = swaps.get_mut(*at).filter(|swap| swap.unavailable.is_none()) {
                let of = swap_name.clone();
                swap.unavailable = Some(match gone.contains(&other) {
                    true => Unavailable::RequiresRemoved { swap: of },
                    false => Unavailable::RequiresUnavailable { swap: of },
                });
                waiting.push(swap.swap.id);
            }
        }
    }
    Ok(())
}

fn with_candidates(
    c: &mut MysqlConnection,
    caller: Caller,
    records: Vec<Stored<SwapId, SwapRecord>>,
) -> Result<Vec<FullSwap>, ServiceError> {
    let ids: Vec<CandidateId> = records.iter().flat_map(|swap| swap.value.add.iter().map(|(id, _, _)| *id)).collect();
    let found = candidates::by_id(c, caller.access, &ids)?;
    records
        .into_iter()
        .map(|swap| {
            let candidates = swap.value.add.iter().map(|(id, _, _)| found.get(id).cloned().ok_or(StoreError::Dangling));
            Ok(FullSwap {
                candidates: candidates.collect::<Result<_, _>>()?,
                swap,
                unavailable: None,
                resale: Resale::default(),
            })
        })
        .collect()
}
