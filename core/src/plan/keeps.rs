//! What it costs to bring what a plan leaves alone.

use super::{Answer, Outcome, Ready};
use crate::list::LineId;
use crate::quantity::{Mass, Money};
use crate::swap::SwapState;
use std::collections::HashSet;

/// By how much a plan that meets the target would be cheaper without each line that no swap of it takes anything off, in the order of the
/// lines. Nothing at another outcome, or while the frontier is not proved.
pub fn keeps<'a>(ready: &Ready<'a>, answer: &Answer) -> Vec<(&'a LineId, Money)> {
    let problem = ready.problem();
    let met = answer.plan.outcome == Outcome::TargetMet && answer.frontier.is_proved();
    let Some(planned) = answer.plan.swaps.as_ref().filter(|_| met) else { return Vec::new() };
    let taken: HashSet<&LineId> =
        planned.iter().flat_map(|&swap| &problem.swaps[swap].remove).map(|removal| &removal.line).collect();
    let carried = problem.lines.iter().filter(|line| line.counts.carried > 0 && !taken.contains(&line.id));
    let costs = carried.filter_map(|line| {
        let without = problem.target + line.unit()?.times(line.counts.carried);
        let cheapest = answer.frontier.points()[answer.frontier.cheapest_at_or_under(without)?];
        Some((&line.id, answer.plan.net - cheapest.net))
    });
    costs.collect()
}

/// What the target would be if the first so many of some lines stayed at home. Only those count that come off every set alike: no swap that may
/// be made takes any of them, and they are no part of a weighed kit.
pub fn target_without<'l>(
    ready: &Ready<'_>,
    lines: impl IntoIterator<Item = &'l LineId>,
    most: usize,
) -> (Vec<&'l LineId>, Mass) {
    let problem = ready.problem();
    let may = problem.swaps.iter().filter(|swap| swap.state != SwapState::RuledOut);
    let mut changed: HashSet<&LineId> = may.flat_map(|swap| &swap.remove).map(|removal| &removal.line).collect();
    changed.extend(problem.kits.iter().flat_map(|kit| &kit.parts).map(|(line, _)| line));
    let weighs = |line: &LineId| {
        let line = ready.lines().get(line)?;
        Some(line.unit()?.times(line.counts.carried))
    };
    let alike = lines.into_iter().filter(|line| !changed.contains(line));
    let (lines, masses): (Vec<&LineId>, Vec<Mass>) =
        alike.filter_map(|line| Some((line, weighs(line)?))).take(most).unzip();
    (lines, masses.into_iter().fold(problem.target, |sum, mass| sum + mass))
}
