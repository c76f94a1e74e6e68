//! What the target of a list is of: its base weight, or another figure of it.

use super::Caller;
use super::sheet::ListSnapshot;
use super::swaps::FullSwap;
use kevyt_core::gear::System;
use kevyt_core::list::{Thing, is_heavy};
use kevyt_core::plan::{HeavyFew, Problem, ProblemError, TargetOf};
use kevyt_core::swap::SwapId as CoreSwapId;
use kevyt_store::id::LineId;
use std::collections::HashMap;

/// Which of a list and of what its swaps put on are of the heavy few. What has no kind is of the system of what it replaces.
pub(super) fn heavy_few(caller: Caller, snapshot: &ListSnapshot, swaps: &[FullSwap]) -> HeavyFew {
    let settings = caller.settings;
    let is_heavy = |thing: &Thing| is_heavy(thing, settings.heavy_four, settings.small_parts);
    let systems: HashMap<LineId, System> =
        snapshot.lines.iter().zip(&snapshot.things).map(|(line, thing)| (line.line.id, thing.system)).collect();
    let lines = snapshot.things.iter().filter(|thing| is_heavy(thing)).map(|thing| thing.line.id.clone()).collect();
    let additions = swaps.iter().flat_map(|full| {
        let replaced = full.swap.value.remove.first().and_then(|(line, ..)| systems.get(line).copied());
        let (id, makers) = (CoreSwapId(full.swap.id.to_string()), &snapshot.makers);
        full.candidates.iter().enumerate().filter_map(move |(at, candidate)| {
            let mut thing = candidate.value.brought_by(snapshot.me, makers);
            if candidate.value.identity.kind.is_none_or(|kind| kind.is_none()) {
                thing.system = replaced.unwrap_or(thing.system);
            }
            is_heavy(&thing).then(|| (id.clone(), at))
        })
    });
    HeavyFew { additions: additions.collect(), lines }
}

/// The problem whose base weight is what the target is of; `None` where that is its base weight.
pub(super) fn aimed(problem: &Problem, heavy: &HeavyFew) -> Result<Option<Problem>, ProblemError> {
    match problem.terms.target_of {
        TargetOf::Base => Ok(None),
        TargetOf::Loaded => problem.loaded().map(Some),
        TargetOf::HeavyFew => problem.heavy_few(heavy).map(Some),
    }
}
