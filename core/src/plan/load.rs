//! The load that packs carry comfortably, against the heaviest start: a pack may not be planned that the rest of the plan is too heavy for.
//!
//! What goes into the pack is what is carried or used up. A swap that takes a pack off and puts one on of which nobody knows the load
//! leaves the load as it is: what is not known is not held against it.

use super::Ready;
use crate::gear::{Jobs, Known};
use crate::list::{Line, Place};
use crate::quantity::Mass;
use crate::swap::Swap;
use kevyt_solver::Constraint;

/// What packs do, in grams.
pub(super) const JOB: &str = "load";

/// Whether it counts: the heaviest start and a load are known.
pub(super) fn counts(ready: &Ready<'_>) -> bool {
    ready.problem().heaviest_start.is_some() && carried_comfortably(ready) > 0
}

/// By how much the heaviest start is under the load, in milligrams; below 0 where it is over it, none where it does not count.
pub(super) fn left(ready: &Ready<'_>) -> Option<i64> {
    let heaviest = ready.problem().heaviest_start.filter(|_| counts(ready))?;
    Some(carried_comfortably(ready) - heaviest.mg())
}

/// By how much the heaviest start may get heavier, in milligrams; none where it does not count.
pub(super) fn spare(ready: &Ready<'_>) -> Option<i64> {
    let spare = left(ready)?;
    // Required to be met, it may not be over at all.
    Some(if ready.jobs_to_meet().any(|job| job.as_str() == JOB) { spare } else { spare.max(0) })
}

/// By how many grams, a part of one as a whole, the heaviest start is over the load; below 0 where it is under it. `None` where it does not
/// count.
pub(super) fn over(ready: &Ready<'_>) -> Option<i64> {
    Some(-left(ready)?.div_euclid(1_000))
}

/// What a swap adds to that, kits aside.
pub(super) fn change(ready: &Ready<'_>, swap: &Swap) -> i64 {
    let (mut off, mut on, mut mass) = (0, 0, 0);
    for removal in &swap.remove {
        let Some(line) = ready.lines().get(&removal.line) else { continue };
        off += load(&line.provides) * i64::from(removal.qty);
        if is_in_the_pack(removal.from) && !is_supply(line) {
            let gas = ready.problem().gas.get(&removal.line).copied();
            mass += without(gas.unwrap_or_default(), line.weight) * i64::from(removal.qty);
        }
    }
    for addition in &swap.add {
        on += load(&addition.provides) * i64::from(addition.qty);
        if is_in_the_pack(addition.place) {
            mass -= without(addition.gas, addition.weight) * i64::from(addition.qty);
        }
    }
    mass + if on == 0 && !swap.add.is_empty() { 0 } else { on - off }
}

/// The condition as a row; `kits` are the changes of base weight of the variables after the swaps, to a list that is so much heavier.
pub(super) fn row(ready: &Ready<'_>, kits: &[i64], heavier: i64) -> Option<Constraint> {
    let slack = spare(ready)? - heavier;
    let swaps = &ready.problem().swaps;
    let of_swaps = swaps.iter().map(|swap| change(ready, swap));
    let of_kits = kits.iter().map(|mass| -mass);
    Some(Constraint::new(slack, of_swaps.chain(of_kits).enumerate()))
}

fn carried_comfortably(ready: &Ready<'_>) -> i64 {
    ready.problem().lines.iter().map(|line| load(&line.provides) * line.counts.at_work()).sum()
}

/// In milligrams.
fn load(provides: &Jobs) -> i64 {
    provides.iter().filter(|(job, _)| job.as_str() == JOB).map(|(_, grams)| grams * 1_000).sum()
}

/// What a piece weighs without the gas in it, never below nothing.
fn without(gas: Mass, weight: Option<Known>) -> i64 {
    weight.map_or(0, |weight| (weight.unit - gas).mg().max(0))
}

pub(super) fn is_in_the_pack(place: Place) -> bool {
    matches!(place, Place::Carried | Place::UsedUp)
}

/// Whether the heaviest start has all of it from the trip.
pub(super) fn is_supply(line: &Line) -> bool {
    line.tags.has("food") || line.tags.has("water")
}
