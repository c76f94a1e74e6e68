//! The most even split of shared things: the smallest possible largest share of what walkers carry in what they weigh.

use crate::quantity::Mass;
use crate::steps::{OutOfSteps, Steps};
use std::cmp::{Ordering, Reverse};

/// An answer.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Split {
    /// Who carries each of the shared things.
    pub carriers: Vec<usize>,
    /// The load of the walker with the largest share.
    pub load: i64,
    /// What that walker weighs, or 1 where the loads themselves are compared.
    pub body: i64,
    /// Whether shares are of body weights.
    pub by_body: bool,
    /// Whether it is proved that no split is more even.
    pub is_proved: bool,
}

/// Steps after which a search answers with the best that it has: about a fifth of a second.
pub const SPLIT_STEPS: u64 = 25_000_000;

/// The most things that are split exactly; of more, the lightest are given to the walker with the smallest share at the end.
const EXACT: usize = 36;

/// Splits `shared` masses among walkers with `own` loads that stay with them. A share is load ÷ body weight, or the load itself if any
/// body weight is missing. `None` with fewer than two walkers.
///
/// The first answer gives each thing, the heaviest first, to the walker with the smallest share then, and is made more even in pairs. No
/// split is more even than the heaviest own load, nor than all loads spread like water: an answer that is as even is the best. Else splits up to
/// a ceiling just over that bound are looked for, and up to higher ones, until there is one: low ceilings leave few sets to try. For each
/// walker but the last two every set is tried that leaves the others room for the rest; the last two divide what is left. Both meet
/// in the middle: all sums of one half of the things, in order, against all of the other.
pub fn even_split(own: &[Mass], bodies: &[Option<Mass>], shared: &[Mass], steps: &mut Steps<'_>) -> Option<Split> {
    if own.len() < 2 || own.len() != bodies.len() {
        return None;
    }
    let known = bodies.iter().map(|body| body.map(Mass::mg).filter(|mg| *mg > 0)).collect::<Option<Vec<i64>>>();
    let by_body = known.is_some();
    let bodies = known.unwrap_or_else(|| vec![1; own.len()]);
    let own: Vec<i64> = own.iter().map(|mass| mass.mg()).collect();
    // Who has least room comes first: there are the fewest sets to try.
    let mut walkers: Vec<usize> = (0..own.len()).collect();
    walkers.sort_by(|a, b| compare((own[*b], bodies[*b]), (own[*a], bodies[*a])));
    let mut order: Vec<usize> = (0..shared.len()).collect();
    order.sort_by_key(|at| Reverse(shared[*at]));
    let masses: Vec<i64> = order.iter().map(|at| shared[*at].mg()).collect();
    let (heavy, light) = masses.split_at(masses.len().min(EXACT));
    let mut search = Search {
        bodies: walkers.iter().map(|at| bodies[*at]).collect(),
        own: walkers.iter().map(|at| own[*at]).collect(),
        masses: heavy,
        best: Vec::new(),
        largest: (0, 1),
        taken: vec![0; heavy.len()],
        room: Vec::new(),
        steps,
    };
    search.give(heavy);
    let is_proved = search.run().is_ok();
    search.give(light);
    let is_proved = is_proved && light.is_empty() || search.is_as_even_as_can_be(&masses);
    let mut carriers = vec![0; shared.len()];
    order.iter().zip(&search.best).for_each(|(at, walker)| carriers[*at] = walkers[*walker]);
    let (load, body) = search.largest;
    Some(Split { carriers, load, body, by_body, is_proved })
}

/// A share: load and body weight.
type Share = (i64, i64);

fn compare(a: Share, b: Share) -> Ordering {
    (i128::from(a.0) * i128::from(b.1)).cmp(&(i128::from(b.0) * i128::from(a.1)))
}

fn larger(a: Share, b: Share) -> Share {
    if compare(a, b) == Ordering::Less { b } else { a }
}

fn common_divisor(a: i64, b: i64) -> i64 {
    if b == 0 { a } else { common_divisor(b, a % b) }
}

struct Search<'a, 's, 'm> {
    /// The largest own share first.
    bodies: Vec<i64>,
    own: Vec<i64>,
    /// The heaviest first.
    masses: &'m [i64],
    /// Who carries each mass in the best answer yet, and its largest share.
    best: Vec<usize>,
    largest: Share,
    /// Who carries each mass in the answer that is tried.
    taken: Vec<usize>,
    /// The most of the shared things that each walker may take in the answers that are looked for.
    room: Vec<i64>,
    steps: &'a mut Steps<'s>,
}

impl Search<'_, '_, '_> {
    /// Gives each of more masses to the smallest share, on top of the best answer.
    fn give(&mut self, more: &[i64]) {
        let mut loads = self.own.clone();
        self.masses.iter().zip(&self.best).for_each(|(mass, walker)| loads[*walker] += mass);
        for mass in more {
            let after = |walker: usize| (loads[walker] + mass, self.bodies[walker]);
            let walker = (0..loads.len()).min_by(|a, b| compare(after(*a), after(*b))).unwrap_or_default();
            loads[walker] += mass;
            self.best.push(walker);
        }
        let shares = loads.into_iter().zip(self.bodies.iter().copied());
        self.largest = shares.reduce(larger).unwrap_or((0, 1));
    }

    /// What no split of some masses is more even than: the largest own share; the heaviest mass with the walker with the smallest share with it;
    /// and all loads spread like water, which stands equally high over the own loads that it covers.
    fn bound(&self, masses: &[i64]) -> Share {
        let walkers = || self.own.iter().copied().zip(self.bodies.iter().copied());
        let heaviest = masses.first().copied().unwrap_or_default();
        let with_heaviest = walkers().map(|(own, body)| (own + heaviest, body)).min_by(|a, b| compare(*a, *b));
        let mut covered: Share = (masses.iter().sum(), 0);
        let mut level: Option<Share> = None;
        for (own, body) in walkers().rev() {
            covered = (covered.0 + own, covered.1 + body);
            level = Some(level.map_or(covered, |level| if compare(covered, level).is_lt() { covered } else { level }));
        }
        walkers().chain(with_heaviest).chain(level).reduce(larger).unwrap_or((0, 1))
    }

    fn is_as_even_as_can_be(&self, masses: &[i64]) -> bool {
        compare(self.largest, self.bound(masses)).is_le()
    }

    /// Looks for the most even split, from the first answer on.
    fn run(&mut self) -> Result<(), OutOfSteps> {
        if self.is_as_even_as_can_be(self.masses) {
            return Ok(());
        }
        self.in_pairs()?;
        let bound = self.bound(self.masses);
        let bodies: i64 = self.bodies.iter().sum();
        // Sums of the things are multiples of this; so is what a walker has room for.
        let unit = self.masses.iter().copied().fold(0, common_divisor).max(1);
        let everything: Vec<usize> = (0..self.masses.len()).collect();
        let mut above = 0_i64;
        while !self.is_as_even_as_can_be(self.masses) {
            // The bound and so much more of all that walkers weigh, in one fraction: what it allows is rounded down once.
            let of = i128::from(bound.1) * i128::from(bodies);
            let load = i128::from(bound.0) * i128::from(bodies) + i128::from(above) * i128::from(bound.1);
            let ceiling = |walker: usize| load * i128::from(self.bodies[walker]) / of;
            let within = |walker: usize| i64::try_from(ceiling(walker)).unwrap_or(i64::MAX) - self.own[walker];
            let under = self.under(self.largest);
            let rooms = (0..self.own.len()).map(|walker| within(walker).min(under[walker]));
            let room: Vec<i64> = rooms.map(|room| room.div_euclid(unit) * unit).collect();
            let is_last = room.iter().zip(&under).all(|(room, under)| *room == under.div_euclid(unit) * unit);
            self.room = room;
            let before = self.largest;
            self.from(0, &everything, &mut Vec::new())?;
            // Under the ceiling all splits were looked at, so that the best of those is the best there is; one over it may have been come by.
            let (found, at) = (i128::from(self.largest.0) * of, i128::from(self.largest.1) * load);
            if is_last || self.largest != before && found <= at {
                break;
            }
            above = (above * 2).max(unit);
        }
        Ok(())
    }

    /// The most that each walker may take to stay under a share.
    fn under(&self, (load, body): Share) -> Vec<i64> {
        let most = |walker: usize| {
            let under = i128::from(load) * i128::from(self.bodies[walker]) - 1;
            i64::try_from(under.div_euclid(i128::from(body))).unwrap_or(i64::MAX) - self.own[walker]
        };
        (0..self.own.len()).map(most).collect()
    }

    /// Divides `rest` among the walkers from `first` on, each within the own room.
    fn from(&mut self, first: usize, rest: &[usize], chosen: &mut Vec<(usize, i64)>) -> Result<(), OutOfSteps> {
        let all: i64 = rest.iter().map(|item| self.masses[*item]).sum();
        let (least, most) = self.window(first, all);
        if most < 0 || least > most || self.room[first..].iter().any(|room| *room < 0) {
            return Ok(());
        }
        if first + 2 == self.own.len() {
            return self.between_two(first, rest, chosen);
        }
        let (front, back) = rest.split_at(rest.len() / 2);
        let (low, high) = (self.sums(front)?, self.sums(back)?);
        let search = high.len().ilog2().try_into().unwrap_or(1_usize) + 1;
        for &(sum, set) in &low {
            self.steps.take(search)?;
            // What was found meanwhile may have narrowed the window.
            let (least, most) = self.window(first, all);
            let from = high.partition_point(|(more, _)| sum + more < least);
            for &(more, other) in high[from..].iter().take_while(|(more, _)| sum + more <= most) {
                self.steps.take(rest.len() + self.own.len())?;
                let (least, most) = self.window(first, all);
                if !(least..=most).contains(&(sum + more)) {
                    continue;
                }
                let is_taken = |at: usize| match at.checked_sub(front.len()) {
                    None => set >> at & 1 == 1,
                    Some(at) => other >> at & 1 == 1,
                };
                let (taken, left): (Vec<_>, Vec<_>) = rest.iter().enumerate().partition(|(at, _)| is_taken(*at));
                taken.into_iter().for_each(|(_, item)| self.taken[*item] = first);
                let left: Vec<usize> = left.into_iter().map(|(_, item)| *item).collect();
                chosen.push((first, sum + more));
                let done = self.from(first + 1, &left, chosen);
                chosen.pop();
                done?;
                // Who has chosen already may be over what is left to them since.
                if chosen.iter().any(|(walker, takes)| *takes > self.room[*walker]) {
                    return Ok(());
                }
            }
        }
        Ok(())
    }

    /// Between which masses a walker has to take of what weighs `all`, so that this walker and those after keep within their room.
    fn window(&self, walker: usize, all: i64) -> (i64, i64) {
        let others = self.room[walker + 1..].iter().copied().fold(0, i64::saturating_add);
        (all.saturating_sub(others), self.room[walker])
    }

    /// Divides `rest` between a walker and the next, the last.
    fn between_two(&mut self, walker: usize, rest: &[usize], chosen: &[(usize, i64)]) -> Result<(), OutOfSteps> {
        let (a, b) = (walker, walker + 1);
        let (share, to_a) = self.divided((a, self.own[a]), (b, self.own[b]), rest)?;
        let share_of = |(walker, takes): &(usize, i64)| (self.own[*walker] + takes, self.bodies[*walker]);
        let largest = chosen.iter().map(share_of).fold(share, larger);
        if compare(largest, self.largest) == Ordering::Less {
            self.largest = largest;
            rest.iter().for_each(|item| self.taken[*item] = b);
            to_a.into_iter().for_each(|item| self.taken[item] = a);
            self.best.clone_from(&self.taken);
            let under = self.under(largest);
            self.room.iter_mut().zip(under).for_each(|(room, under)| *room = under.min(*room));
        }
        Ok(())
    }

    /// The most even way to divide some things between two walkers who carry something already: the larger share, and what the first
    /// one takes.
    fn divided(
        &mut self,
        a: (usize, i64),
        b: (usize, i64),
        items: &[usize],
    ) -> Result<(Share, Vec<usize>), OutOfSteps> {
        let (front, back) = items.split_at(items.len() / 2);
        let (low, high) = (self.sums(front)?, self.sums(back)?);
        self.steps.take(2 * (low.len() + high.len()))?;
        let all: i64 = items.iter().map(|item| self.masses[*item]).sum();
        let shares = |to_a: i64| ((a.1 + to_a, self.bodies[a.0]), (b.1 + all - to_a, self.bodies[b.0]));
        let mut found: Option<(Share, usize, usize)> = None;
        // The larger share falls with what a takes until both are even, and rises from there: the best is beside that point.
        let mut top = high.len();
        for &(sum, set) in &low {
            let is_over = |more: i64| {
                let (of_a, of_b) = shares(sum + more);
                compare(of_a, of_b) == Ordering::Greater
            };
            while top > 0 && is_over(high[top - 1].0) {
                top -= 1;
            }
            for at in [top.wrapping_sub(1), top] {
                if let Some(&(more, other)) = high.get(at) {
                    let (of_a, of_b) = shares(sum + more);
                    let share = larger(of_a, of_b);
                    if found.is_none_or(|(best, ..)| compare(share, best) == Ordering::Less) {
                        found = Some((share, set, other));
                    }
                }
            }
        }
        let (share, set, other) = found.unwrap_or(((0, 1), 0, 0));
        let in_set = |items: &[usize], set: usize| {
            items.iter().enumerate().filter(move |(bit, _)| set >> bit & 1 == 1).map(|(_, item)| *item).collect()
        };
        let mut to_a: Vec<usize> = in_set(front, set);
        to_a.extend::<Vec<usize>>(in_set(back, other));
        Ok((share, to_a))
    }

    /// Makes the best answer more even by dividing anew what any two walkers have, until that helps no pair.
    fn in_pairs(&mut self) -> Result<(), OutOfSteps> {
        let walkers = self.own.len();
        let mut helped = true;
        while helped {
            helped = false;
            for (a, b) in (0..walkers).flat_map(|a| (a + 1..walkers).map(move |b| (a, b))) {
                self.steps.take(self.masses.len() + walkers)?;
                let items: Vec<usize> =
                    (0..self.masses.len()).filter(|item| [a, b].contains(&self.best[*item])).collect();
                let load = |walker: usize| {
                    let carried = items.iter().filter(|item| self.best[**item] == walker);
                    self.own[walker] + carried.map(|item| self.masses[*item]).sum::<i64>()
                };
                let now = larger((load(a), self.bodies[a]), (load(b), self.bodies[b]));
                let (share, to_a) = self.divided((a, self.own[a]), (b, self.own[b]), &items)?;
                if compare(share, now) == Ordering::Less {
                    items.iter().for_each(|item| self.best[*item] = b);
                    to_a.into_iter().for_each(|item| self.best[item] = a);
                    self.largest = self.largest_of(&self.best);
                    helped = true;
                }
            }
        }
        Ok(())
    }

    /// The largest share of an answer.
    fn largest_of(&self, carriers: &[usize]) -> Share {
        let mut loads = self.own.clone();
        self.masses.iter().zip(carriers).for_each(|(mass, walker)| loads[*walker] += mass);
        loads.into_iter().zip(self.bodies.iter().copied()).reduce(larger).unwrap_or((0, 1))
    }

    /// The sum of every set of some things, with the set, the lightest first: each thing merges the sums without it and with it.
    fn sums(&mut self, items: &[usize]) -> Result<Vec<(i64, usize)>, OutOfSteps> {
        self.steps.take(2 << items.len())?;
        let mut sums = vec![(0, 0)];
        for (bit, item) in items.iter().enumerate() {
            let mass = self.masses[*item];
            let mut merged = Vec::with_capacity(sums.len() * 2);
            let mut with = sums.iter().map(|(sum, set)| (sum + mass, set | 1 << bit)).peekable();
            for &without in &sums {
                while let Some(lighter) = with.next_if(|with| with.0 < without.0) {
                    merged.push(lighter);
                }
                merged.push(without);
            }
            merged.extend(with);
            sums = merged;
        }
        Ok(sums)
    }
}
