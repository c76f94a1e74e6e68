//! The most even split of shared things: the smallest possible largest share of what walkers carry in what they weigh.

use crate::quantity::Mass;
use std::cmp::Ordering;

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

/// How many steps the search takes before it answers with the best that it has: some tenths of a second.
const STEPS: u64 = 20_000_000;

/// Splits `shared` masses among walkers with `own` loads that stay with them. A share is load ÷ body weight, or the load itself if any
/// body weight is missing. `None` with fewer than two walkers.
///
/// For each walker but the last two, every set of things is tried that could leave all shares under the best found yet; the last two
/// divide the rest. Both meet in the middle: all sums of one half of the things, in order, against all of the other. The first answer
/// gives each thing, the heaviest first, to whoever has the smallest share then, and is made more even in pairs.
pub fn even_split(own: &[Mass], bodies: &[Option<Mass>], shared: &[Mass]) -> Option<Split> {
    if own.len() < 2 || own.len() != bodies.len() {
        return None;
    }
    let known = bodies.iter().map(|body| body.map(Mass::mg).filter(|mg| *mg > 0)).collect::<Option<Vec<i64>>>();
    let by_body = known.is_some();
    let bodies = known.unwrap_or_else(|| vec![1; own.len()]);
    let mut order: Vec<usize> = (0..shared.len()).collect();
    order.sort_by_key(|at| std::cmp::Reverse(shared[*at]));
    let masses: Vec<i64> = order.iter().map(|at| shared[*at].mg()).collect();
    let (masses, light) = masses.split_at(masses.len().min(EXACT));
    let mut search = Search {
        bodies: &bodies,
        own: own.iter().map(|mass| mass.mg()).collect(),
        masses,
        best: Vec::new(),
        largest: (0, 1),
        taken: vec![0; masses.len()],
        steps: STEPS,
    };
    search.give(masses);
    search.in_pairs();
    let everything: Vec<usize> = (0..masses.len()).collect();
    search.from(0, &everything, (0, 1));
    let mut carriers = vec![0; shared.len()];
    let is_proved = search.steps > 0 && light.is_empty();
    search.give(light);
    order.iter().zip(&search.best).for_each(|(at, walker)| carriers[*at] = *walker);
    let (load, body) = search.largest;
    Some(Split { carriers, load, body, by_body, is_proved })
}

/// The most things that are split exactly; of more, the lightest are given to whoever has the smallest share at the end.
const EXACT: usize = 36;

/// A share: load and body weight.
type Share = (i64, i64);

fn compare(a: Share, b: Share) -> Ordering {
    (i128::from(a.0) * i128::from(b.1)).cmp(&(i128::from(b.0) * i128::from(a.1)))
}

fn larger(a: Share, b: Share) -> Share {
    if compare(a, b) == Ordering::Less { b } else { a }
}

struct Search<'a> {
    bodies: &'a [i64],
    own: Vec<i64>,
    /// The heaviest first.
    masses: &'a [i64],
    /// Who carries each mass in the best answer yet, and its largest share.
    best: Vec<usize>,
    largest: Share,
    /// Who carries each mass in the answer that is tried.
    taken: Vec<usize>,
    steps: u64,
}

impl Search<'_> {
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

    /// The most that a walker may have for a share under the best one.
    fn most(&self, walker: usize) -> i64 {
        let (load, body) = self.largest;
        let under = i128::from(load) * i128::from(self.bodies[walker]) - 1;
        i64::try_from(under.div_euclid(i128::from(body))).unwrap_or(i64::MAX)
    }

    /// Divides `rest` among the walkers from `first` on; `so_far` is the largest share of those before.
    fn from(&mut self, first: usize, rest: &[usize], so_far: Share) {
        if compare(so_far, self.largest) != Ordering::Less {
            return;
        }
        if first + 2 == self.own.len() {
            return self.between_two(first, rest, so_far);
        }
        let (front, back) = rest.split_at(rest.len() / 2);
        let (low, high) = (self.sums(front), self.sums(back));
        self.steps = self.steps.saturating_sub(1 << (rest.len() / 2) >> 2);
        let all: i64 = rest.iter().map(|item| self.masses[*item]).sum();
        for &(sum, set) in &low {
            let (least, most) = self.window(first, all);
            let from = high.partition_point(|(more, _)| sum + more < least);
            for &(more, other) in high[from..].iter().take_while(|(more, _)| sum + more <= most) {
                self.steps = self.steps.saturating_sub(1);
                // What was found meanwhile may have narrowed the window.
                let (least, most) = self.window(first, all);
                if self.steps == 0 || sum + more < least || sum + more > most {
                    continue;
                }
                let is_taken = |at: usize| match at.checked_sub(front.len()) {
                    None => set >> at & 1 == 1,
                    Some(at) => other >> at & 1 == 1,
                };
                let (taken, left): (Vec<_>, Vec<_>) = rest.iter().enumerate().partition(|(at, _)| is_taken(*at));
                taken.into_iter().for_each(|(_, item)| self.taken[*item] = first);
                let left: Vec<usize> = left.into_iter().map(|(_, item)| *item).collect();
                let share = larger(so_far, (self.own[first] + sum + more, self.bodies[first]));
                self.from(first + 1, &left, share);
            }
        }
    }

    /// Between which masses a walker has to take of what weighs `all`, so that this walker and those after could stay under the best
    /// answer.
    fn window(&self, walker: usize, all: i64) -> (i64, i64) {
        let room = |walker: usize| self.most(walker) - self.own[walker];
        let others = (walker + 1..self.own.len()).map(room).fold(0, i64::saturating_add);
        (all.saturating_sub(others), room(walker))
    }

    /// Divides `rest` between a walker and the next, the last.
    fn between_two(&mut self, walker: usize, rest: &[usize], so_far: Share) {
        let (a, b) = (walker, walker + 1);
        self.steps = self.steps.saturating_sub(1 << (rest.len() / 2) >> 2);
        let (share, to_a) = self.divided((a, self.own[a]), (b, self.own[b]), rest);
        let largest = larger(share, so_far);
        if compare(largest, self.largest) == Ordering::Less {
            self.largest = largest;
            rest.iter().for_each(|item| self.taken[*item] = b);
            to_a.into_iter().for_each(|item| self.taken[item] = a);
            self.best.clone_from(&self.taken);
        }
    }

    /// The most even way to divide some things between two walkers who carry something already: the larger share, and what the first
    /// one takes.
    fn divided(&self, a: (usize, i64), b: (usize, i64), items: &[usize]) -> (Share, Vec<usize>) {
        let (front, back) = items.split_at(items.len() / 2);
        let (low, high) = (self.sums(front), self.sums(back));
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
        (share, to_a)
    }

    /// Makes the best answer more even by dividing anew what any two walkers have, until that helps no pair.
    fn in_pairs(&mut self) {
        let walkers = self.own.len();
        let mut helped = true;
        while helped {
            helped = false;
            for (a, b) in (0..walkers).flat_map(|a| (a + 1..walkers).map(move |b| (a, b))) {
                let items: Vec<usize> =
                    (0..self.masses.len()).filter(|item| [a, b].contains(&self.best[*item])).collect();
                let load = |walker: usize| {
                    let carried = items.iter().filter(|item| self.best[**item] == walker);
                    self.own[walker] + carried.map(|item| self.masses[*item]).sum::<i64>()
                };
                let now = larger((load(a), self.bodies[a]), (load(b), self.bodies[b]));
                let (share, to_a) = self.divided((a, self.own[a]), (b, self.own[b]), &items);
                if compare(share, now) == Ordering::Less {
                    items.iter().for_each(|item| self.best[*item] = b);
                    to_a.into_iter().for_each(|item| self.best[item] = a);
                    helped = true;
                }
            }
        }
        self.largest = self.largest_of(&self.best);
    }

    /// The largest share of an answer.
    fn largest_of(&self, carriers: &[usize]) -> Share {
        let mut loads = self.own.clone();
        self.masses.iter().zip(carriers).for_each(|(mass, walker)| loads[*walker] += mass);
        loads.into_iter().zip(self.bodies.iter().copied()).reduce(larger).unwrap_or((0, 1))
    }

    /// The sum of every set of some things, with the set, the lightest first: each thing merges the sums without it and with it.
    fn sums(&self, items: &[usize]) -> Vec<(i64, usize)> {
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
        sums
    }
}
