//! Whether a set of swaps is allowed, straight from the problem and apart from the search.

use super::Meet;
use super::Ready;
use super::load;
use super::night::Nights;
use crate::gear::{Job, Jobs, Known};
use crate::list::{LineId, Place, WeighedKit};
use crate::quantity::{Mass, Money};
use crate::swap::{Swap, SwapId, SwapState};
use std::collections::HashMap;

/// The condition that a set breaks, or what is wrong with an answer.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Broken {
    /// A pinned swap (by index) is missing.
    PinMissing(usize),
    /// A ruled-out swap is in it.
    RuledOut(usize),
    /// A swap with an unknown weight or price is in it.
    Incomplete(usize),
    /// More pieces come off a line than are there.
    Line(LineId),
    /// A swap is in it without one that it requires.
    Requires(usize),
    /// Two swaps exclude each other.
    Excludes(usize, usize),
    /// A job would fall shorter than it does today.
    Job(Job),
    /// The night would be colder than today.
    Night,
    /// Something is short that is to be met (by its place among what is).
    Unmet(usize),
    /// The heaviest start would weigh more over the packs' load than it does today.
    Load,
    /// The figures claimed for a set are not its figures.
    Figures,
    /// The points of a frontier are no frontier: one beats another.
    NotAFrontier,
}

/// The figures of a set that was found to be allowed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Verified {
    /// Net cost.
    pub net: Money,
    /// Base weight after.
    pub base: Mass,
}

/// What one swap does, in the numbers of [`Checker`].
struct Effects {
    /// What is carried of its pieces, those put on less those taken off; `None` while a figure is missing.
    carried: Option<Mass>,
    net: Option<Money>,
    takes: Vec<(usize, u64)>,
    changes: Vec<(usize, i64)>,
    /// By how much less of what it carries well the pack has in it, in milligrams, kits aside.
    lighter: i64,
    requires: Vec<usize>,
    excludes: Vec<usize>,
}

/// Checks sets of swaps against one problem. Lines by place and jobs are numbered once, so that thousands of sets are
/// checked in little time.
pub(super) struct Checker<'r, 'a> {
    ready: &'r Ready<'a>,
    effects: Vec<Effects>,
    /// Each line and place that some swap takes from, and the pieces there.
    places: Vec<(&'a LineId, u64)>,
    /// Each job that some swap changes, and max(0, balance today): how much it may lose.
    jobs: Vec<(&'a Job, i64)>,
    pinned: Vec<usize>,
    /// By how much the heaviest start may get heavier, where that is known.
    load: Option<i64>,
    /// The night, if one is asked about.
    nights: Option<Nights<'a>>,
    /// What is to be met of jobs that no swap changes, and is not.
    unmet: Option<usize>,
    /// What the carried lines weigh, each by itself.
    lines: Mass,
    /// What is carried of each line that is part of a kit, and its place, if some swap takes from it.
    parts: Vec<(u64, Option<usize>)>,
    /// Kits, the newest weighing first: by how much what they weighed differs from their parts, and of each part how much they need.
    kits: Vec<(Mass, Vec<(usize, u64)>)>,
    /// What kits add to the base weight today.
    kits_today: Mass,
}

impl<'r, 'a> Checker<'r, 'a> {
    pub fn new(ready: &'r Ready<'a>) -> Self {
        let problem = ready.problem();
        let spare = spare(ready);
        let to_meet: Vec<&Job> = ready.jobs_to_meet().collect();
        let has_load = load::counts(ready);
        let mut place_numbers: HashMap<(&LineId, Place), usize> = HashMap::new();
        let mut job_numbers: HashMap<&Job, usize> = HashMap::new();
        let (mut places, mut jobs) = (Vec::new(), Vec::new());
        let mut effects = Vec::with_capacity(problem.swaps.len());
        for (index, swap) in problem.swaps.iter().enumerate() {
            let (mut takes, mut changes) = (Vec::new(), Vec::new());
            let mut change = |job: &'a Job, by: i64| {
                if has_load && job.as_str() == load::JOB {
                    return;
                }
                let number = *job_numbers.entry(job).or_insert_with(|| {
                    let spare = spare.get(job).copied().unwrap_or(0);
                    jobs.push((job, if to_meet.contains(&job) { spare } else { spare.max(0) }));
                    jobs.len() - 1
                });
                changes.push((number, by));
            };
            for removal in &swap.remove {
                let line = ready.lines().get(&removal.line).copied();
                let number = *place_numbers.entry((&removal.line, removal.from)).or_insert_with(|| {
                    places.push((&removal.line, u64::from(line.map_or(0, |line| line.counts.at(removal.from)))));
                    places.len() - 1
                });
                takes.push((number, u64::from(removal.qty)));
                if let Some(line) = line {
                    line.provides.iter().for_each(|(job, amount)| change(job, -amount * i64::from(removal.qty)));
                    line.needs.iter().for_each(|(job, amount)| change(job, amount * i64::from(removal.qty)));
                }
            }
            for addition in &swap.add {
                addition.provides.iter().for_each(|(job, amount)| change(job, amount * i64::from(addition.qty)));
                addition.needs.iter().for_each(|(job, amount)| change(job, -amount * i64::from(addition.qty)));
            }
            let numbers = |ids: &[SwapId]| ids.iter().filter_map(|id| ready.swap_index(id)).collect();
            effects.push(Effects {
                carried: carried(ready, swap),
                net: ready.worths()[index].net,
                takes,
                changes,
                lighter: lighter(ready, swap),
                requires: numbers(&swap.requires),
                excludes: numbers(&swap.excludes),
            });
        }
        let is_pinned = |&index: &usize| problem.swaps[index].state == SwapState::Pinned;
        let pinned = (0..problem.swaps.len()).filter(is_pinned).collect();
        let is_unmet = |meet: &Meet| {
            let Meet::Job(job) = meet else { return false };
            let is_load = has_load && job.as_str() == load::JOB;
            !is_load && !job_numbers.contains_key(job) && spare.get(job).copied().unwrap_or(0) < 0
        };
        let unmet = problem.terms.meet.iter().position(is_unmet);
        let units = problem.lines.iter().map(|line| line.unit().unwrap_or_default().times(line.counts.carried));
        let (mut parts, mut part_numbers) = (Vec::new(), HashMap::new());
        let mut part = |line: &'a LineId| {
            *part_numbers.entry(line).or_insert_with(|| {
                let carried = ready.lines().get(line).map_or(0, |line| line.counts.carried);
                parts.push((u64::from(carried), place_numbers.get(&(line, Place::Carried)).copied()));
                parts.len() - 1
            })
        };
        let mut of_kit = |kit: &'a WeighedKit| {
            let parts = kit.parts.iter().map(|(line, qty)| (part(line), u64::from(*qty))).collect();
            (kit.correction(ready.lines()), parts)
        };
        let kits = problem.kits.iter().map(&mut of_kit).collect();
        let lines = units.sum();
        let mut checker = Checker {
            ready,
            effects,
            places,
            jobs,
            pinned,
            load: load::spare(ready),
            nights: Nights::new(ready),
            unmet,
            lines,
            parts,
            kits,
            kits_today: Mass::ZERO,
        };
        checker.kits_today = checker.of_kits(&vec![0; checker.places.len()]);
        checker
    }

    /// The base weight of the list as it stands after a set, kits too.
    pub fn base_after(&self, set: &[usize]) -> Mass {
        let mut taken = vec![0_u64; self.places.len()];
        let mut base = self.lines;
        for &index in set {
            self.effects[index].takes.iter().for_each(|&(place, pieces)| taken[place] += pieces);
            base = base + self.effects[index].carried.unwrap_or_default();
        }
        base + self.of_kits(&taken)
    }

    /// What the kits add that are whole once so much is taken from each place; each piece counts in the first of them.
    fn of_kits(&self, taken: &[u64]) -> Mass {
        let left = |&(there, place): &(u64, Option<usize>)| there.saturating_sub(place.map_or(0, |place| taken[place]));
        let mut left: Vec<u64> = self.parts.iter().map(left).collect();
        let mut sum = Mass::ZERO;
        for (correction, parts) in self.kits.iter().filter(|(_, parts)| !parts.is_empty()) {
            if parts.iter().all(|&(part, needed)| left[part] >= needed) {
                parts.iter().for_each(|&(part, needed)| left[part] -= needed);
                sum = sum + *correction;
            }
        }
        sum
    }

    /// By how much the heaviest start may still get heavier after a set, of which kits add so much to the base weight.
    fn load_left(&self, set: &[usize], of_kits: Mass) -> Option<i64> {
        let made = set.iter().map(|&index| self.effects[index].lighter);
        Some(self.load? + made.sum::<i64>() - (of_kits - self.kits_today).mg())
    }

    /// Whether a set leaves the night no worse than it is today.
    pub fn sleeps(&self, set: &[usize]) -> bool {
        self.nights.as_ref().is_none_or(|nights| nights.after(set).is_no_worse(nights.today))
    }

    /// Whether the packs carry a set as well as they carry the list today.
    pub fn carries(&self, set: &[usize]) -> bool {
        let mut taken = vec![0_u64; self.places.len()];
        set.iter().flat_map(|&index| &self.effects[index].takes).for_each(|&(place, pieces)| taken[place] += pieces);
        self.load_left(set, self.of_kits(&taken)).is_none_or(|left| left >= 0)
    }

    /// The figures of `set` (indexes of swaps) if it is allowed, or the first condition that it breaks.
    pub fn allowed(&self, set: &[usize]) -> Result<Verified, Broken> {
        let net = self.agreed(set)?;
        Ok(Verified { net, base: self.carried_after(set)? })
    }

    /// What a set costs, if its swaps agree with one another: what is pinned is in it, nothing that is ruled out or not known, and what each
    /// requires.
    pub fn agreed(&self, set: &[usize]) -> Result<Money, Broken> {
        let mut made = vec![false; self.effects.len()];
        set.iter().for_each(|&index| made[index] = true);
        if let Some(&pin) = self.pinned.iter().find(|&&pin| !made[pin]) {
            return Err(Broken::PinMissing(pin));
        }
        let mut net = Money::ZERO;
        let mut parcels: HashMap<String, Vec<Money>> = HashMap::new();
        for &index in set {
            let (effects, swap) = (&self.effects[index], &self.ready.problem().swaps[index]);
            if swap.state == SwapState::RuledOut {
                return Err(Broken::RuledOut(index));
            }
            let (_, cost) = effects.carried.zip(effects.net).ok_or(Broken::Incomplete(index))?;
            net = net + cost;
            if let Some(place) = swap.parcel() {
                parcels.entry(place).or_default().push(swap.delivery);
            }
            if !effects.requires.iter().all(|&other| made[other]) {
                return Err(Broken::Requires(index));
            }
            if let Some(&other) = effects.excludes.iter().find(|&&other| made[other]) {
                return Err(Broken::Excludes(index, other));
            }
        }
        // Of all that come in one parcel the dearest delivery is paid.
        for deliveries in parcels.values() {
            let dearest = deliveries.iter().copied().max().unwrap_or_default();
            net = net - deliveries.iter().copied().sum() + dearest;
        }
        Ok(net)
    }

    /// The base weight of the list after a set, if the list allows it: its pieces, jobs, load and night, and what is to be met.
    pub fn carried_after(&self, set: &[usize]) -> Result<Mass, Broken> {
        let mut base = self.lines;
        let mut taken = vec![0_u64; self.places.len()];
        let mut left: Vec<i64> = self.jobs.iter().map(|&(_, spare)| spare).collect();
        for &index in set {
            let effects = &self.effects[index];
            base = base + effects.carried.ok_or(Broken::Incomplete(index))?;
            effects.takes.iter().for_each(|&(place, pieces)| taken[place] += pieces);
            effects.changes.iter().for_each(|&(job, by)| left[job] += by);
        }
        let of_kits = self.of_kits(&taken);
        base = base + of_kits;
        if self.load_left(set, of_kits).is_some_and(|left| left < 0) {
            return Err(Broken::Load);
        }
        if let Some(at) = self.unmet {
            return Err(Broken::Unmet(at));
        }
        if let Some(nights) = &self.nights {
            let night = nights.after(set);
            if !night.is_no_worse(nights.today) {
                return Err(Broken::Night);
            }
            if let Some(at) = self.ready.problem().terms.meet.iter().position(|meet| !night.meets(meet)) {
                return Err(Broken::Unmet(at));
            }
        }
        if let Some((&(line, _), _)) = self.places.iter().zip(taken).find(|((_, there), taken)| taken > there) {
            return Err(Broken::Line(line.clone()));
        }
        match self.jobs.iter().zip(left).find(|(_, left)| *left < 0) {
            Some(((job, _), _)) => Err(Broken::Job((*job).clone())),
            None => Ok(base),
        }
    }
}

/// What is carried of a swap's pieces, those put on less those taken off; `None` if one of them, wherever it counts, has no weight.
fn carried(ready: &Ready<'_>, swap: &Swap) -> Option<Mass> {
    let mut sum = Mass::ZERO;
    for removal in &swap.remove {
        let mass = ready.lines().get(&removal.line)?.unit()?.times(removal.qty);
        sum = if removal.from == Place::Carried { sum - mass } else { sum };
    }
    for addition in &swap.add {
        let mass = addition.unit()?.times(addition.qty);
        sum = if addition.place == Place::Carried { sum + mass } else { sum };
    }
    Some(sum)
}

/// What a swap adds to the load that packs carry well, where that of the new pack is known, less what it puts into the pack, shells of cans
/// without their gas, food and water aside.
fn lighter(ready: &Ready<'_>, swap: &Swap) -> i64 {
    let shell = |weight: Option<Known>, gas: Mass| (weight.map_or(0, |known| known.unit.mg()) - gas.mg()).max(0);
    let carries =
        |provides: &Jobs| provides.iter().find(|(job, _)| job.as_str() == "load").map_or(0, |(_, grams)| grams * 1_000);
    let (mut packed, mut load) = (0, Some(0));
    for addition in &swap.add {
        let pieces = i64::from(addition.qty);
        if addition.place == Place::Carried || addition.place == Place::UsedUp {
            packed += shell(addition.weight, addition.gas) * pieces;
        }
        load = load.map(|load| load + carries(&addition.provides) * pieces);
    }
    if !swap.add.is_empty() && load == Some(0) {
        load = None;
    }
    for removal in &swap.remove {
        let Some(line) = ready.lines().get(&removal.line) else { continue };
        let pieces = i64::from(removal.qty);
        let has_own = line.tags.has("food") || line.tags.has("water");
        if !has_own && (removal.from == Place::Carried || removal.from == Place::UsedUp) {
            let gas = ready.problem().gas.get(&line.id).copied().unwrap_or_default();
            packed -= shell(line.weight, gas) * pieces;
        }
        load = load.map(|load| load - carries(&line.provides) * pieces);
    }
    load.unwrap_or(0) - packed
}

/// Provided − needed − required of every job, over the list as it stands.
fn spare<'a>(ready: &Ready<'a>) -> HashMap<&'a Job, i64> {
    let mut balance: HashMap<&Job, i64> = HashMap::new();
    for line in &ready.problem().lines {
        line.provides
            .iter()
            .for_each(|(job, amount)| *balance.entry(job).or_default() += amount * line.counts.at_work());
        line.needs.iter().for_each(|(job, amount)| *balance.entry(job).or_default() -= amount * line.counts.at_work());
    }
    ready.problem().require.iter().for_each(|(job, amount)| *balance.entry(job).or_default() -= amount);
    balance
}
