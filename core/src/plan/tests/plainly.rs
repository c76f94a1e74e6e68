//! The rules of an allowed set and its figures once more, in the plainest way and from the problem alone: nothing of the planner, the
//! ranking or the sums of a list is used.

use crate::list::{Line, Place, WeighedKit};
use crate::plan::Problem;
use crate::swap::{Swap, SwapState};
use std::collections::{BTreeMap, BTreeSet};

/// What a set of swaps costs, the base weight after it, and the swaps by index, in the order of their ids.
pub type Solution = (i64, i64, Vec<usize>);

const PLACES: [Place; 3] = [Place::Carried, Place::Worn, Place::UsedUp];

fn there(line: &Line, place: Place) -> i64 {
    i64::from(match place {
        Place::Carried => line.carried,
        Place::Worn => line.worn,
        Place::UsedUp => line.used_up,
        Place::Apart | Place::Left => unreachable!("not counted"),
    })
}

/// Takes the pieces of kits out of some pieces, the first kit first; gives those that were whole.
fn whole<'k>(mut pieces: BTreeMap<&'k str, i64>, kits: &[&'k WeighedKit]) -> Vec<&'k WeighedKit> {
    let mut found = Vec::new();
    for kit in kits {
        let mut wanted: BTreeMap<&str, i64> = BTreeMap::new();
        for (line, qty) in &kit.parts {
            *wanted.entry(&line.0).or_default() += i64::from(*qty);
        }
        if wanted.iter().all(|(line, qty)| pieces.get(line).copied().unwrap_or(0) >= *qty) {
            for (line, qty) in wanted {
                *pieces.get_mut(line).unwrap() -= qty;
            }
            found.push(*kit);
        }
    }
    found
}

/// Each kit that is whole somewhere on the list, and where.
fn kits_on_list(problem: &Problem) -> Vec<(&WeighedKit, Place)> {
    let mut left: Vec<&WeighedKit> = problem.kits.iter().collect();
    let mut found = Vec::new();
    for place in PLACES {
        let pieces = problem.lines.iter().map(|line| (line.id.0.as_str(), there(line, place))).collect();
        for kit in whole(pieces, &left) {
            left.retain(|other| !std::ptr::eq(*other, kit));
            found.push((kit, place));
        }
    }
    found
}

fn unit(problem: &Problem, id: &str) -> Option<i64> {
    problem.lines.iter().find(|line| line.id.0 == id)?.weight.map(|weight| weight.unit.mg())
}

/// What a kit weighed over what its parts add up to, those of unknown weight as nothing.
fn correction(problem: &Problem, kit: &WeighedKit) -> i64 {
    let parts = kit.parts.iter().map(|(line, qty)| unit(problem, &line.0).unwrap_or(0) * i64::from(*qty));
    kit.weighed.mg() - parts.sum::<i64>()
}

pub fn base(problem: &Problem) -> i64 {
    let lines: i64 = problem
        .lines
        .iter()
        .map(|line| line.weight.map_or(0, |weight| weight.unit.mg()) * i64::from(line.carried))
        .sum();
    let kits = kits_on_list(problem).into_iter().filter(|(_, place)| *place == Place::Carried);
    lines + kits.map(|(kit, _)| correction(problem, kit)).sum::<i64>()
}

/// What a swap saves and costs; `None` if a weight or a price is unknown.
fn worth(problem: &Problem, swap: &Swap) -> Option<(i64, i64)> {
    let (mut saving, mut net) = (0, swap.delivery.minor() - swap.resale.minor());
    let on_list = kits_on_list(problem);
    for place in PLACES {
        let mut taken: BTreeMap<&str, i64> = BTreeMap::new();
        for removal in swap.remove.iter().filter(|removal| removal.from == place) {
            *taken.entry(&removal.line.0).or_default() += i64::from(removal.qty);
        }
        let here: Vec<&WeighedKit> = on_list.iter().filter(|(_, at)| *at == place).map(|(kit, _)| *kit).collect();
        let kits = whole(taken, &here);
        for removal in swap.remove.iter().filter(|removal| removal.from == place) {
            let in_kits: i64 = kits
                .iter()
                .flat_map(|kit| &kit.parts)
                .filter(|(line, _)| *line == removal.line)
                .map(|(_, qty)| i64::from(*qty))
                .sum();
            let mass = match unit(problem, &removal.line.0) {
                Some(unit) => unit * i64::from(removal.qty),
                None if i64::from(removal.qty) <= in_kits => 0,
                None => return None,
            };
            saving += if place == Place::Carried { mass } else { 0 };
        }
        if place == Place::Carried {
            saving += kits.iter().map(|kit| correction(problem, kit)).sum::<i64>();
        }
    }
    for addition in &swap.add {
        let price = addition.price?;
        // The middle of the range, rounded up.
        let expected = (price.low().minor() + price.high().minor() + 1).div_euclid(2);
        net += expected * i64::from(addition.qty);
        let mass = addition.weight?.unit.mg() * i64::from(addition.qty);
        saving -= if addition.place == Place::Carried { mass } else { 0 };
    }
    let tenths = swap.tenth_hours * problem.hour_rate.minor();
    Some((saving, net + tenths.div_euclid(10) + i64::from(tenths.rem_euclid(10) > 0)))
}

/// How short the list is of each job after some swaps.
fn shortfalls(problem: &Problem, set: &[usize]) -> BTreeMap<String, i64> {
    let mut short: BTreeMap<String, i64> = BTreeMap::new();
    let mut ask = |job: &crate::gear::Job, amount: i64| *short.entry(job.as_str().to_owned()).or_default() += amount;
    for (job, amount) in &problem.require {
        ask(job, *amount);
    }
    let on_list = problem.lines.iter().map(|line| {
        let removed = set.iter().flat_map(|&at| &problem.swaps[at].remove).filter(|removal| removal.line == line.id);
        let pieces: i64 = PLACES.iter().map(|place| there(line, *place)).sum();
        (&line.provides, &line.needs, pieces - removed.map(|removal| i64::from(removal.qty)).sum::<i64>())
    });
    let added = set.iter().flat_map(|&at| &problem.swaps[at].add);
    let added = added.map(|addition| (&addition.provides, &addition.needs, i64::from(addition.qty)));
    for (provides, needs, pieces) in on_list.chain(added) {
        provides.iter().for_each(|(job, amount)| ask(job, -amount * pieces));
        needs.iter().for_each(|(job, amount)| ask(job, amount * pieces));
    }
    short.values_mut().for_each(|short| *short = (*short).max(0));
    short
}

/// A set's figures, if it is allowed.
pub fn allowed(problem: &Problem, set: &[usize]) -> Option<(i64, i64)> {
    let made: BTreeSet<&str> = set.iter().map(|&at| problem.swaps[at].id.0.as_str()).collect();
    let is_made = |id: &crate::swap::SwapId| made.contains(id.0.as_str());
    for (at, swap) in problem.swaps.iter().enumerate() {
        let is_in = set.contains(&at);
        let wrong = match swap.state {
            SwapState::Pinned => !is_in,
            SwapState::RuledOut => is_in,
            SwapState::Open => false,
        };
        if wrong || (is_in && (!swap.requires.iter().all(is_made) || swap.excludes.iter().any(is_made))) {
            return None;
        }
    }
    for line in &problem.lines {
        for place in PLACES {
            let removed = set.iter().flat_map(|&at| &problem.swaps[at].remove);
            let removed = removed.filter(|removal| removal.line == line.id && removal.from == place);
            if removed.map(|removal| i64::from(removal.qty)).sum::<i64>() > there(line, place) {
                return None;
            }
        }
    }
    let today = shortfalls(problem, &[]);
    if shortfalls(problem, set).into_iter().any(|(job, short)| short > today.get(&job).copied().unwrap_or(0)) {
        return None;
    }
    let worths: Option<Vec<(i64, i64)>> = set.iter().map(|&at| worth(problem, &problem.swaps[at])).collect();
    let worths = worths?;
    let saved: i64 = worths.iter().map(|worth| worth.0).sum();
    Some((worths.iter().map(|worth| worth.1).sum(), base(problem) - saved))
}

/// Every subset, one by one: those that no other beats, cheapest first, by the documented order of ties.
pub fn frontier(problem: &Problem) -> Vec<Solution> {
    let swaps = &problem.swaps;
    let mut all: Vec<Solution> = Vec::new();
    for mask in 0..1_usize << swaps.len() {
        let mut set: Vec<usize> = (0..swaps.len()).filter(|at| mask >> at & 1 == 1).collect();
        set.sort_by(|&a, &b| swaps[a].id.cmp(&swaps[b].id));
        if let Some((net, base)) = allowed(problem, &set) {
            all.push((net, base, set));
        }
    }
    let ids = |set: &[usize]| set.iter().map(|&at| swaps[at].id.0.clone()).collect::<Vec<_>>();
    all.sort_by_key(|(net, base, set)| (*net, *base, set.len(), ids(set)));
    let mut lightest = i64::MAX;
    all.retain(|(_, base, _)| {
        let is_lighter = *base < lightest;
        lightest = lightest.min(*base);
        is_lighter
    });
    all
}
