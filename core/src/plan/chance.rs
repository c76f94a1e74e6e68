//! How likely a plan's base weight is at or under the target.
//!
//! Each thing errs by itself, all pieces of one by the same: with one chance in two evenly between the lightest that it may be and what is
//! expected of it, else evenly between that and the heaviest ([`kevyt_solver::chance_of_sum`]).
#![allow(
    clippy::float_arithmetic,
    clippy::as_conversions,
    clippy::cast_precision_loss,
    reason = "a chance is told in tenths; no other figure comes of it"
)]

use super::{Problem, Ready};
use crate::gear::Known;
use crate::list::{LineId, Place};
use crate::quantity::Mass;
use kevyt_solver::chance_of_sum;
use std::collections::HashMap;

/// Values of the table, where one chance is asked for.
const CELLS: usize = 16_384;
/// Where it is asked of many sets.
const FEW_CELLS: usize = 2_048;

/// What is carried after a set.
#[derive(Debug, Clone)]
pub(super) struct Carried<'p> {
    /// What whole kits weigh.
    kits: Mass,
    /// What else is carried: its line, if it is on the list today, its weight, and the pieces beyond those kits.
    pub things: Vec<(Option<&'p LineId>, Known, i64)>,
}

impl Carried<'_> {
    /// Of what a set leaves carried; `None` if a weight is unknown.
    pub fn after<'p>(problem: &'p Problem, set: &[usize]) -> Option<Carried<'p>> {
        let mut carried: HashMap<&LineId, i64> =
            problem.lines.iter().map(|line| (&line.id, i64::from(line.counts.carried))).collect();
        let swaps = || set.iter().map(|&at| &problem.swaps[at]);
        for removal in swaps().flat_map(|swap| &swap.remove).filter(|removal| removal.from == Place::Carried) {
            carried.entry(&removal.line).and_modify(|left| *left -= i64::from(removal.qty));
        }
        let mut kits = Mass::ZERO;
        let mut pieces = carried.clone();
        for kit in &problem.kits {
            let is_whole =
                kit.parts.iter().all(|(line, qty)| pieces.get(line).is_some_and(|there| *there >= i64::from(*qty)));
            if is_whole && !kit.parts.is_empty() {
                kits = kits + kit.weighed;
                for (line, qty) in &kit.parts {
                    pieces.entry(line).and_modify(|there| *there -= i64::from(*qty));
                }
            }
        }
        let lines = problem.lines.iter().filter(|line| carried[&line.id] > 0);
        let lines = lines.map(|line| Some((Some(&line.id), line.weight?, pieces[&line.id])));
        let added = swaps().flat_map(|swap| &swap.add).filter(|addition| addition.place == Place::Carried);
        let added = added.map(|addition| Some((None, addition.weight?, i64::from(addition.qty))));
        Some(Carried { kits, things: lines.chain(added).collect::<Option<_>>()? })
    }

    /// The same if a line weighed what is expected of it, for certain; `None` if that is not carried.
    pub fn knowing(&self, line: &LineId) -> Option<Carried<'_>> {
        let at = self.things.iter().position(|(of, ..)| *of == Some(line))?;
        let mut known = self.clone();
        known.things[at].1 = Known::exactly(known.things[at].1.expected);
        Some(known)
    }

    /// The chance that it weighs so much or less.
    fn at_or_under(&self, mass: Mass) -> f64 {
        at_most(&self.each(), (mass - self.kits).mg(), CELLS)
    }

    /// The same in less time, still within a hundredth.
    pub fn roughly_at_or_under(&self, mass: Mass) -> f64 {
        at_most(&self.each(), (mass - self.kits).mg(), FEW_CELLS)
    }

    fn each(&self) -> Vec<(Known, i64)> {
        self.things.iter().map(|(_, known, pieces)| (*known, *pieces)).collect()
    }
}

/// The chance that the base weight after a set is at or under the target; `None` if a carried weight is unknown.
pub fn chance(ready: &Ready<'_>, set: &[usize]) -> Option<f64> {
    let problem = ready.problem();
    Some(Carried::after(problem, set)?.at_or_under(problem.target))
}

/// The chance that so many pieces of each thing weigh together so much or less, by a table of so many values.
fn at_most(things: &[(Known, i64)], mg: i64, cells: usize) -> f64 {
    let lowest = |known: &Known| known.low().min(known.expected).mg();
    let surely: i64 = things.iter().map(|(known, pieces)| lowest(known) * pieces).sum();
    // Of each thing over its lowest: what is expected, and the two ends that lie evenly to both sides of it.
    let errs = things.iter().map(|(known, pieces)| {
        let over = |mass: i64| ((mass - lowest(known)) * pieces) as f64;
        [over(known.low().mg()), over(known.expected.mg()), over(known.high().mg())]
    });
    chance_of_sum(errs.collect(), (mg - surely) as f64, cells)
}
