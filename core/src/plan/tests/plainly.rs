//! The rules of an allowed set and its figures once more, in the plainest way and from the problem alone: nothing of the planner, the
//! ranking or the sums of a list is used.

use crate::gear::RatingKind;
use crate::list::{Line, LineId, Place, WeighedKit};
use crate::plan::{Hung, Meet, Problem, Warmth};
use crate::swap::{Swap, SwapState};
use std::collections::{BTreeMap, BTreeSet};

/// What a set of swaps costs, the base weight after it, and the swaps by index, in the order of their ids.
pub type Solution = (i64, i64, Vec<usize>);

const PLACES: [Place; 3] = [Place::Carried, Place::Worn, Place::UsedUp];

fn there(line: &Line, place: Place) -> i64 {
    i64::from(match place {
        Place::Carried => line.counts.carried,
        Place::Worn => line.counts.worn,
        Place::UsedUp => line.counts.used_up,
        Place::Apart | Place::Left => unreachable!("not counted"),
    })
}

/// What is carried of a line after some swaps; less than none if they take more than there is.
fn carried_after(problem: &Problem, id: &str, set: &[usize]) -> i64 {
    let line = problem.lines.iter().find(|line| line.id.0 == id).unwrap();
    let removed = set.iter().flat_map(|&at| &problem.swaps[at].remove);
    let removed = removed.filter(|removal| removal.line.0 == id && removal.from == Place::Carried);
    there(line, Place::Carried) - removed.map(|removal| i64::from(removal.qty)).sum::<i64>()
}

/// What kits add after some swaps, each as it was weighed where enough of each part is carried that no newer one has.
fn of_kits(problem: &Problem, set: &[usize]) -> i64 {
    let mut counted: Vec<&WeighedKit> = Vec::new();
    for kit in &problem.kits {
        let is_there = |(line, qty): &(LineId, u32)| {
            let newer = counted.iter().flat_map(|kit| &kit.parts).filter(|(part, _)| part == line);
            let free = carried_after(problem, &line.0, set) - newer.map(|(_, qty)| i64::from(*qty)).sum::<i64>();
            free >= i64::from(*qty)
        };
        if kit.parts.iter().all(is_there) {
            counted.push(kit);
        }
    }
    counted.into_iter().map(|kit| correction(problem, kit)).sum()
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
    base_after(problem, &[])
}

/// The base weight of the list as it stands after some swaps, unknown weights as nothing.
pub fn base_after(problem: &Problem, set: &[usize]) -> i64 {
    let lines = problem
        .lines
        .iter()
        .map(|line| line.weight.map_or(0, |weight| weight.unit.mg()) * carried_after(problem, &line.id.0, set));
    let added = set.iter().flat_map(|&at| &problem.swaps[at].add).filter(|addition| addition.place == Place::Carried);
    let added = added.map(|addition| addition.weight.map_or(0, |weight| weight.unit.mg()) * i64::from(addition.qty));
    lines.sum::<i64>() + added.sum::<i64>() + of_kits(problem, set)
}

/// What a swap costs; `None` if a weight or a price on either side is unknown.
pub fn net(problem: &Problem, swap: &Swap) -> Option<i64> {
    let mut net = swap.delivery.minor() - swap.resale.minor();
    for removal in &swap.remove {
        unit(problem, &removal.line.0)?;
    }
    for addition in &swap.add {
        addition.weight?;
        let price = addition.price?;
        // The middle of the range, rounded up.
        let expected = (price.low().minor() + price.high().minor() + 1).div_euclid(2);
        net += expected * i64::from(addition.qty);
    }
    let tenths = swap.tenth_hours * problem.hour_rate.minor();
    Some(net + tenths.div_euclid(10) + i64::from(tenths.rem_euclid(10) > 0))
}

/// The place that a swap's things are sent from, in small letters with single spaces.
pub fn sent_from(swap: &Swap) -> Option<String> {
    let words: Vec<_> = swap.ordered_from.as_ref()?.split(' ').filter(|word| !word.is_empty()).collect();
    Some(words.join(" ").to_lowercase())
}

/// What is saved by ordering together: of each place all deliveries but the dearest.
fn shared_delivery(problem: &Problem, set: &[usize]) -> i64 {
    let mut by_place: BTreeMap<String, Vec<i64>> = BTreeMap::new();
    for swap in set.iter().map(|&at| &problem.swaps[at]) {
        if let Some(place) = sent_from(swap) {
            by_place.entry(place).or_default().push(swap.delivery.minor());
        }
    }
    by_place.values().map(|deliveries| deliveries.iter().sum::<i64>() - deliveries.iter().max().unwrap()).sum()
}

/// How short the list is of each job after some swaps.
pub fn shortfalls(problem: &Problem, set: &[usize]) -> BTreeMap<String, i64> {
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

/// What packs carry comfortably, in milligrams, and what of the list is in them: today, and after some swaps.
pub fn loads(problem: &Problem, set: &[usize]) -> ((i64, i64), (i64, i64)) {
    let grams = |jobs: &crate::gear::Jobs| jobs.iter().filter(|(job, _)| job.as_str() == "load").map(|(_, g)| *g).sum();
    let in_pack = |place| place == Place::Carried || place == Place::UsedUp;
    let (mut load, mut mass) = (0, 0);
    for line in &problem.lines {
        let grams: i64 = grams(&line.provides);
        load += grams * 1_000 * PLACES.iter().map(|place| there(line, *place)).sum::<i64>();
        mass += (there(line, Place::Carried) + there(line, Place::UsedUp)) * unit(problem, &line.id.0).unwrap_or(0);
    }
    let (mut load_after, mut mass_after) = (load, mass + of_kits(problem, set));
    for swap in set.iter().map(|&at| &problem.swaps[at]) {
        let on: i64 = swap.add.iter().map(|one| grams(&one.provides) * i64::from(one.qty)).sum::<i64>();
        let mut off = 0;
        for removal in &swap.remove {
            let line = problem.lines.iter().find(|line| line.id == removal.line).unwrap();
            off += grams(&line.provides) * i64::from(removal.qty);
            let is_supply = line.tags.has("food") || line.tags.has("water");
            if in_pack(removal.from) && !is_supply {
                let gas = problem.gas.get(&removal.line).map_or(0, |gas| gas.mg());
                mass_after -=
                    unit(problem, &removal.line.0).map_or(0, |unit| 0.max(unit - gas)) * i64::from(removal.qty);
            }
        }
        for addition in swap.add.iter().filter(|addition| in_pack(addition.place)) {
            let shell = addition.weight.map_or(0, |weight| 0.max(weight.unit.mg() - addition.gas.mg()));
            mass_after += shell * i64::from(addition.qty);
        }
        let is_unknown = on == 0 && !swap.add.is_empty();
        load_after += if is_unknown { 0 } else { (on - off) * 1_000 };
    }
    ((load, mass + of_kits(problem, &[])), (load_after, mass_after))
}

/// Whether the heaviest start weighs no more over the load after some swaps than it does today.
pub fn is_carried(problem: &Problem, set: &[usize]) -> bool {
    let Some(heaviest) = problem.heaviest_start else { return true };
    let ((load, mass), (load_after, mass_after)) = loads(problem, set);
    let over = |start: i64, load: i64| (start - load).max(0);
    load == 0 || over(heaviest.mg() + mass_after - mass, load_after) <= over(heaviest.mg(), load)
}

/// What is there at night after some swaps: what it is to the night, its tenths of R, and its pieces.
fn at_night(problem: &Problem, set: &[usize]) -> Vec<(Warmth, i64, i64)> {
    let night = problem.night.as_ref().unwrap();
    let r = |jobs: &crate::gear::Jobs| {
        jobs.iter().filter(|(job, _)| job.as_str() == "ground_insulation").map(|(_, tenths)| *tenths).sum::<i64>()
    };
    let is_out = |place| place == Place::Carried || place == Place::Worn;
    let mut there = Vec::new();
    for line in &problem.lines {
        let removed = set.iter().flat_map(|&at| &problem.swaps[at].remove);
        let removed = removed.filter(|removal| removal.line == line.id && is_out(removal.from));
        let taken: i64 = removed.map(|removal| i64::from(removal.qty)).sum();
        let warmth = night.lines.get(&line.id).copied().unwrap_or_default();
        there.push((warmth, r(&line.provides), i64::from(line.counts.carried + line.counts.worn) - taken));
    }
    for &swap in set {
        for (at, addition) in problem.swaps[swap].add.iter().enumerate().filter(|(_, one)| is_out(one.place)) {
            let warmth = night.additions.get(&(problem.swaps[swap].id.clone(), at)).copied().unwrap_or_default();
            there.push((warmth, r(&addition.provides), i64::from(addition.qty)));
        }
    }
    there.retain(|(_, _, pieces)| *pieces > 0);
    there
}

/// How far the bed and the floor stay above the low, `None` where nothing is rated; and whether the floor hangs.
pub fn felt(problem: &Problem, set: &[usize]) -> (Option<i64>, Option<i64>, bool) {
    let (night, there) = (problem.night.as_ref().unwrap(), at_night(problem, set));
    let comfort = |warmth: &Warmth| {
        let rating = warmth.rating?;
        let more = match rating.kind {
            RatingKind::Comfort => 0,
            RatingKind::Limit | RatingKind::Unknown => 55,
            RatingKind::Extreme => return None,
        };
        Some(rating.at.tenths() + more + night.offset)
    };
    let is = |warmth: &Warmth, hung| warmth.hung == Some(hung);
    let beds = there.iter().enumerate().filter(|(_, (warmth, ..))| !is(warmth, Hung::Underquilt));
    let warm = beds.filter_map(|(bed, (warmth, ..))| {
        let others = there.iter().enumerate().filter(|(at, (other, ..))| *at != bed && other.hung.is_none());
        Some(comfort(warmth)? - others.map(|(_, (other, ..))| other.adds).sum::<i64>())
    });
    let over = |warmest: i64| 0.max(warmest - night.low);
    let cold = warm.min().map(over);
    let has = |hung| there.iter().any(|(warmth, ..)| is(warmth, hung));
    if has(Hung::Hammock) && has(Hung::Underquilt) {
        let under = there.iter().filter(|(warmth, ..)| is(warmth, Hung::Underquilt));
        return (cold, under.filter_map(|(warmth, ..)| comfort(warmth)).min().map(over), true);
    }
    let r: i64 = there.iter().map(|(_, tenths, pieces)| tenths * pieces).sum();
    (cold, Some(0.max(night.ground - r)), false)
}

/// Whether the night is no worse after some swaps than today, and what is to be met is.
fn is_slept(problem: &Problem, set: &[usize]) -> bool {
    let of_jobs = problem.terms.meet.iter().all(|meet| match meet {
        Meet::Job(job) => shortfalls(problem, set).get(job.as_str()).is_none_or(|short| *short == 0),
        Meet::Warmth | Meet::Ground => true,
    });
    if problem.night.is_none() {
        return of_jobs;
    }
    let ((cold, floor, hangs), (cold_now, floor_now, hangs_now)) = (felt(problem, set), felt(problem, &[]));
    let at_most = |now: Option<i64>, then: Option<i64>| now.is_none_or(|now| then.is_some_and(|then| then <= now));
    let is_floored = if hangs == hangs_now { at_most(floor_now, floor) } else { floor == Some(0) };
    let met = |what: &Meet, is_met: bool| is_met || !problem.terms.meet.contains(what);
    of_jobs
        && at_most(cold_now, cold)
        && is_floored
        && met(&Meet::Warmth, cold == Some(0))
        && met(&Meet::Ground, floor == Some(0))
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
    if !is_carried(problem, set) || !is_slept(problem, set) {
        return None;
    }
    let mut today = shortfalls(problem, &[]);
    if problem.heaviest_start.is_some() && loads(problem, &[]).0.0 > 0 {
        today.insert("load".to_owned(), i64::MAX);
    }
    if shortfalls(problem, set).into_iter().any(|(job, short)| short > today.get(&job).copied().unwrap_or(0)) {
        return None;
    }
    Some((net_of(problem, set)?, base_after(problem, set)))
}

/// What a set costs; `None` if a weight or a price of it is unknown.
pub fn net_of(problem: &Problem, set: &[usize]) -> Option<i64> {
    let nets: Option<Vec<i64>> = set.iter().map(|&at| net(problem, &problem.swaps[at])).collect();
    Some(nets?.into_iter().sum::<i64>() - shared_delivery(problem, set))
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
