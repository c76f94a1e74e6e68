//! The whole frontier where sets are coupled too much for labels alone: the two answers first, then outwards from them.
//!
//! Between two neighbours of the frontier lies a box in which there may be more. A box is closed by what enumerates all sets near the
//! line between its corners, or else by a search for what comes next after its first corner.

use crate::branch_and_bound::{Best, Corners, Covered, Least, NO_LIMIT, Objective, Solution, Solver};
use crate::model::{Model, Variable};
use crate::work::{Stopped, Work};

/// Steps that a first look may take: some milliseconds.
const GRACE: usize = 20_000_000;

/// What is known of a frontier.
#[derive(Debug)]
pub struct Swept {
    /// Points that are proved, the cheapest first.
    pub points: Vec<Best>,
    /// Whether nothing lies between each point and the next; before the first and after the last one too.
    pub closed: Vec<bool>,
    /// The two searches that came first.
    first: Vec<First>,
}

/// One of the two searches, its limit and its result.
#[derive(Debug)]
struct First {
    least: Least,
    limit: i64,
    solution: Solution,
}

impl Swept {
    /// The points that are proved, and the best of what was found beside them, those with their `figures`: what was found by the way may pay
    /// for a parcel that nothing comes in.
    pub fn known(&self, figures: impl Fn(&Best) -> Option<(i64, i64)>) -> Vec<Best> {
        let found = self.first.iter().map(|first| &first.solution).filter(|solution| solution.bound.is_some());
        let mut known: Vec<Best> = self.points.clone();
        for best in found.filter_map(|solution| solution.best.clone()) {
            let Some((cost, mass)) = figures(&best) else { continue };
            let best = Best { cost, mass, ..best };
            if known.iter().all(|other| other.cost > best.cost || other.mass > best.mass) {
                known.retain(|other| other.cost < best.cost || other.mass < best.mass);
                known.push(best);
            }
        }
        known.sort_by_key(|best| best.cost);
        known
    }

    /// Figures that no allowed set lies below, as a frontier; `None` if the points are all there are.
    pub fn bound(&self, model: &Model) -> Option<Vec<(i64, i64)>> {
        if self.closed.iter().all(|is_closed| *is_closed) {
            return None;
        }
        // What making all that brings something would come to.
        let least =
            |figure: fn(&Variable) -> i64| model.swaps.iter().map(figure).map(|figure| figure.min(0)).sum::<i64>();
        let (cost, mass) = (least(|variable| variable.cost), least(|variable| variable.mass));
        let mut bound = Vec::new();
        for (at, is_closed) in self.closed.iter().enumerate() {
            let before = at.checked_sub(1).map(|before| &self.points[before]);
            let after = self.points.get(at);
            if !is_closed {
                let corner = (before.map_or(cost, |point| point.cost + 1), after.map_or(mass, |point| point.mass + 1));
                let narrowed =
                    |corners: Vec<_>, first: &First| corners.into_iter().flat_map(|at| first.narrow(at)).collect();
                let mut corners: Vec<(i64, i64)> = self.first.iter().fold(vec![corner], narrowed);
                corners.retain(|corner| {
                    before.is_none_or(|point| point.mass > corner.1) && after.is_none_or(|point| point.cost > corner.0)
                });
                bound.append(&mut corners);
            }
            bound.extend(after.map(|point| (point.cost, point.mass)));
        }
        Some(bound)
    }
}

impl First {
    /// What is left of all that lies at or above a corner, as corners: within its limit nothing lies below the search's bound.
    fn narrow(&self, (cost, mass): (i64, i64)) -> Vec<(i64, i64)> {
        let (limit, least) = (self.limit, self.solution.bound.unwrap_or(i64::MIN));
        match self.least {
            Least::Cost if mass <= limit && cost < least => vec![(cost, limit + 1), (least, mass)],
            Least::Mass if cost <= limit && mass < least => vec![(cost, least), (limit + 1, mass)],
            _ => vec![(cost, mass)],
        }
    }
}

/// Solves for both answers, then fills the frontier in for as long as there is work left. `alone` is an allowed set, better than none where nothing
/// else is found.
pub fn sweep(solver: &Solver<'_>, mass: i64, cost: i64, alone: Option<&Best>, work: &mut Work<'_>) -> Swept {
    let mut swept = Swept { points: Vec::new(), closed: vec![false], first: Vec::new() };
    let mut known = None;
    for (least, limit) in [(Least::Cost, mass), (Least::Mass, cost)] {
        let mut solution = first(solver, Objective { least, limit }, known, work);
        if solution.best.is_none() && solution.bound.is_some() {
            solution.best = alone.cloned().filter(|best| least.figures(best.cost, best.mass).1 <= limit);
        }
        known = solution.best.clone().filter(|best| best.cost <= cost);
        if let (Some(best), None) = (&solution.best, solution.bound) {
            swept.put(best.clone());
        }
        swept.first.push(First { least, limit, solution });
    }
    // Told to stop, it has what it has: the boxes that are open say so.
    let _: Result<(), Stopped> = swept.fill(solver, work);
    swept
}

/// Solves for one of the two answers. Told to stop before anything is found, it still looks for a little while.
pub fn first(solver: &Solver<'_>, objective: Objective, known: Option<Best>, work: &mut Work<'_>) -> Solution {
    let solution = solver.solve(objective, known, work);
    if solution.best.is_none() && solution.bound.is_some() {
        return solver.solve(objective, None, &mut Work::short(GRACE));
    }
    solution
}

impl Swept {
    /// Puts a proved point among the others. The box that it lies in becomes two.
    fn put(&mut self, point: Best) {
        let at = self.points.partition_point(|other| other.cost < point.cost);
        if self.points.get(at).is_some_and(|other| other.cost == point.cost) {
            return;
        }
        let was_closed = self.closed[at];
        self.closed.insert(at, was_closed);
        self.points.insert(at, point);
    }

    fn fill(&mut self, solver: &Solver<'_>, work: &mut Work<'_>) -> Result<(), Stopped> {
        // Where the answer is: boxes near it come first.
        let middle = self.points.first().map(|point| point.cost);
        for (least, at_front) in [(Least::Cost, true), (Least::Mass, false)] {
            let solution = solver.solve(Objective { least, limit: NO_LIMIT }, None, work);
            if solution.bound.is_some() {
                return Err(Stopped);
            }
            let Some(end) = solution.best else {
                // No set is allowed at all.
                self.closed = vec![true];
                return Ok(());
            };
            self.put(end);
            let end = if at_front { 0 } else { self.points.len() };
            self.closed[end] = true;
        }
        let middle = middle.unwrap_or(self.points[0].cost);
        while let Some(at) = self.nearest_open(middle) {
            work.step(1)?;
            let (first, last) = (self.points[at - 1].clone(), self.points[at].clone());
            let open: Vec<usize> = (1..self.points.len()).filter(|&at| !self.closed[at]).collect();
            let corners: Vec<Corners> = open.iter().map(|&at| self.corners(at)).collect();
            let place = open.iter().position(|&other| other == at).unwrap_or(0);
            if let Some(covered) = solver.cover(&corners, place, work)? {
                self.take(&covered);
            } else {
                // The cheapest that is lighter than the first: the last, or a point between.
                let solution = solver.solve(Objective { least: Least::Cost, limit: first.mass - 1 }, Some(last), work);
                let (Some(next), None) = (solution.best, solution.bound) else { return Err(Stopped) };
                self.put(next);
                self.closed[at] = true;
            }
        }
        Ok(())
    }

    /// The points that a box lies between.
    fn corners(&self, at: usize) -> Corners {
        [&self.points[at - 1], &self.points[at]].map(|point| (point.cost, point.mass))
    }

    /// The open box nearest to a cost.
    fn nearest_open(&self, cost: i64) -> Option<usize> {
        let distance = |at: &usize| {
            let (from, to) = (self.points[at - 1].cost, self.points[*at].cost);
            if to < cost { cost - to } else { (from - cost).max(0) }
        };
        (1..self.points.len()).filter(|&at| !self.closed[at]).min_by_key(distance)
    }

    /// Takes what was enumerated, and closes the boxes that it reaches to the far corner of.
    fn take(&mut self, covered: &Covered) {
        covered.sets.iter().for_each(|set| self.put(set.clone()));
        for at in 1..self.points.len() {
            self.closed[at] |= covered.reaches(self.corners(at));
        }
    }
}
