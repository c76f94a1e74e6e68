//! Many points of a frontier at once: every set near a line that none beats.
//!
//! Along a line a unit of mass counts for so much cost, and every set has one price. All sets up to a ceiling are enumerated: at once where
//! that is little; else by branch and bound, where each node has multipliers of its own for its conditions.

use super::enumerate::{Node, best_sets};
use super::lagrangian::{LagrangianBound, Multipliers};
use super::relaxation::SCALE;
use super::{Best, Domains, NO_LIMIT, Search, Solver, branch_on};
use crate::work::{Stopped, Work};
use std::cmp::Ordering;

/// Sets that are enumerated at first, about.
const FIRST_SETS: u64 = 20_000;
/// Steps and numbers of 8 bytes that enumerating a node may take, before it is split.
const NODE: (usize, usize) = (2_000_000, 4_000_000);
/// Steps that branching may take for one box.
const MOST: usize = 1_500_000_000;

/// Two neighbours of the frontier, as cost and mass, between which there may be more.
pub type Corners = [(i64, i64); 2];

/// All sets whose price is no more than a ceiling.
#[derive(Debug)]
pub struct Covered {
    line: Line,
    ceiling: i128,
    /// Those of them that none beats, the cheapest first.
    pub sets: Vec<Best>,
}

impl Covered {
    /// Whether any set between two neighbours would be among the sets.
    pub fn reaches(&self, corners: Corners) -> bool {
        self.line.corner(corners) <= self.ceiling
    }

    /// Takes a set, unless it lies over the ceiling or one is as good.
    fn take(&mut self, set: Best) {
        if self.line.price((set.cost, set.mass)) > self.ceiling {
            return;
        }
        let at = self.sets.partition_point(|other| other.cost < set.cost);
        let is_beaten = |other: &Best| {
            other.mass < set.mass
                || other.mass == set.mass
                    && (other.cost < set.cost
                        || other.made.cmp(&set.made).then_with(|| set.set.cmp(&other.set)) != Ordering::Greater)
        };
        let before = at.checked_sub(1).map(|before| &self.sets[before]);
        let same = self.sets.get(at).filter(|other| other.cost == set.cost);
        if before.into_iter().chain(same).any(is_beaten) {
            return;
        }
        let beaten = self.sets[at..].iter().take_while(|other| other.mass >= set.mass).count();
        self.sets.splice(at..at + beaten, [set]);
    }
}

/// What a unit of mass counts for, times [`SCALE`], and the mass that it is counted from.
#[derive(Debug, Clone, Copy)]
struct Line {
    a_mass_costs: i128,
    mass: i64,
}

impl Line {
    fn price(self, (cost, mass): (i64, i64)) -> i128 {
        i128::from(cost) * SCALE + self.a_mass_costs * i128::from(mass - self.mass)
    }

    /// The price of the worst there can be between two neighbours.
    fn corner(self, [from, to]: Corners) -> i128 {
        self.price((to.0 - 1, from.1 - 1))
    }
}

impl Solver<'_> {
    /// What there is in the box `at` of those that are open, and in others that lie no further from the line which the multipliers for
    /// its middle give: more and more, until something lies in the box or nothing can. `None` where that takes too much.
    pub fn cover(&self, open: &[Corners], at: usize, work: &mut Work<'_>) -> Result<Option<Covered>, Stopped> {
        let [from, to] = open[at];
        let mass = to.1 + (from.1 - to.1) / 2;
        let search = Search { limit: mass, ..self.search() };
        let mut domains = self.full_domains();
        if !search.propagate(&mut domains, NO_LIMIT, work)? {
            return Ok(None);
        }
        let Some((multipliers, _)) = search.relax(&domains, work)? else {
            return Ok(None);
        };
        self.remember(&multipliers);
        let search = Search { line: Some(multipliers.limit), ..search };
        let line = Line { a_mass_costs: multipliers.limit, mass };
        let lagrangian = search.lagrangian_bound(&domains, &multipliers, true);
        let mut covered = Covered { line, ceiling: lagrangian.bound, sets: Vec::new() };
        let mut within = lagrangian.enumerable_gap(&domains, None, FIRST_SETS, work)?.0.max(SCALE);
        let to_close = line.corner(open[at]) - lagrangian.bound;
        // With the box goes what is closed by little more.
        let more = lagrangian.bound + to_close + to_close / 8;
        let corners = open.iter().map(|corners| line.corner(*corners)).filter(|corner| *corner <= more);
        let most = corners.max().unwrap_or(more) - lagrangian.bound;
        let mut part = work.part(MOST, usize::MAX);
        let mut done = Ok(());
        while done.is_ok() {
            covered.ceiling = lagrangian.bound + within;
            done = search.branch(&domains, &multipliers, &mut covered, &mut part);
            if covered.reaches(open[at]) || covered.sets.iter().any(|set| set.cost < to.0 && set.mass < from.1) {
                break;
            }
            within = if within < to_close / 2 { within * 2 } else { most };
        }
        work.step(MOST - part.steps_left())?;
        Ok(done.is_ok().then_some(covered))
    }
}

impl Search<'_, '_> {
    /// Enumerates all sets up to the ceiling.
    fn branch(
        &self,
        domains: &Domains,
        multipliers: &Multipliers,
        covered: &mut Covered,
        work: &mut Work<'_>,
    ) -> Result<(), Stopped> {
        let mut nodes = vec![(domains.clone(), multipliers.clone())];
        while let Some((mut domains, given)) = nodes.pop() {
            // The multipliers of the node before are at hand and often do to see that there is nothing, or to make the node smaller.
            if self.bound_node(&mut domains, &given, covered.ceiling, work)?.is_none() {
                continue;
            }
            let Some((own, split)) = self.relax(&domains, work)? else { continue };
            let Some(lagrangian) = self.bound_node(&mut domains, &own, covered.ceiling, work)? else { continue };
            let node = Node { domains: &domains, lagrangian: &lagrangian, within: covered.ceiling - lagrangian.bound };
            // The longer it takes, the more may be enumerated at once: splitting does not seem to help.
            let part = (NODE.0 + (MOST - work.steps_left()) / 16, NODE.1);
            if let Some(labels) = self.enumerate(node, part, work)? {
                best_sets(&labels).for_each(|set| covered.take(set));
                continue;
            }
            let (with, without) = branch_on(domains, split.ok_or(Stopped)?);
            nodes.push((without, own.clone()));
            nodes.push((with, own));
        }
        Ok(())
    }

    /// Bounds a node, and removes what no set up to a ceiling has. `None` if nothing can.
    fn bound_node<'p>(
        &self,
        domains: &mut Domains,
        multipliers: &'p Multipliers,
        ceiling: i128,
        work: &mut Work<'_>,
    ) -> Result<Option<LagrangianBound<'p>>, Stopped> {
        let lagrangian = self.lagrangian_bound(domains, multipliers, true);
        if lagrangian.bound > ceiling {
            return Ok(None);
        }
        lagrangian.fix_by_reduced_cost(domains, ceiling - lagrangian.bound);
        Ok(self.propagate(domains, NO_LIMIT, work)?.then_some(lagrangian))
    }
}
