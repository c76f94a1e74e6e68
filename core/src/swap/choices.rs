//! Choices for the same gear: which is beaten, which is never the best step, and what each step's extra grams cost.

use super::{Removal, Swap, SwapState, Worth};
use crate::list::{Line, LineId, Place};
use crate::quantity::{Mass, Money};
use std::collections::{BTreeMap, HashMap};

/// How a choice stands among the others for the same gear.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Standing {
    /// A step on the way from cheapest to lightest.
    Step(Step),
    /// Another saves no less and costs no more, and one of the two is strictly better: the index of that swap.
    BeatenBy(usize),
    /// It lies under the straight line between two others: going further, or less far, is always the better use of money.
    NeverBestStep,
    /// Keeping what is there saves no less and costs no more.
    BeatenByKeeping,
}

/// What a step adds to the one before (or to keeping what is there, for the first).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Step {
    /// Grams more.
    pub extra_saving: Mass,
    /// Money more.
    pub extra_net: Money,
}

/// Two or more swaps for exactly the same gear, of which one can be made.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ChoiceGroup {
    /// Indexes of the swaps with how they stand: steps first, from cheapest to lightest, then the others by saving.
    pub choices: Vec<(usize, Standing)>,
}

/// Groups swaps that take exactly the same pieces off and can't both be made. Incomplete and ruled-out swaps are left out.
pub fn choices(swaps: &[Swap], worths: &[Worth], lines: &HashMap<&LineId, &Line>) -> Vec<ChoiceGroup> {
    let mut groups: BTreeMap<Vec<(&LineId, Place, u32)>, Vec<usize>> = BTreeMap::new();
    for (index, swap) in swaps.iter().enumerate() {
        if swap.state != SwapState::RuledOut && worths[index].complete().is_some() && once_only(&swap.remove, lines) {
            groups.entry(same_gear(&swap.remove)).or_default().push(index);
        }
    }
    groups.into_values().filter(|group| group.len() > 1).map(|group| compare(&group, worths)).collect()
}

/// What is taken off, in an order of its own.
fn same_gear(remove: &[Removal]) -> Vec<(&LineId, Place, u32)> {
    let mut sorted: Vec<_> = remove.iter().map(|removal| (&removal.line, removal.from, removal.qty)).collect();
    sorted.sort();
    sorted
}

/// Whether taking these pieces off twice would take more than is there.
fn once_only(remove: &[Removal], lines: &HashMap<&LineId, &Line>) -> bool {
    remove.iter().any(|removal| {
        let there = lines.get(&removal.line).map_or(0, |line| line.counts.at(removal.from));
        u64::from(removal.qty) * 2 > u64::from(there)
    })
}

/// A point of the frontier: what is paid and what is saved. `swap` is none for keeping what is there.
#[derive(Clone, Copy)]
struct Point {
    swap: Option<usize>,
    saving: i128,
    net: i128,
}

fn compare(group: &[usize], worths: &[Worth]) -> ChoiceGroup {
    let mut points = vec![Point { swap: None, saving: 0, net: 0 }];
    points.extend(group.iter().filter_map(|&swap| {
        let (saving, net) = worths[swap].complete()?;
        Some(Point { swap: Some(swap), saving: saving.mg().into(), net: net.minor().into() })
    }));
    points.sort_by_key(|point| (point.net, -point.saving, point.swap));

    let mut others: Vec<(i128, usize, Standing)> = Vec::new();
    let mut hull: Vec<Point> = Vec::new();
    let mut best: Option<Point> = None;
    for point in points {
        // Sorted by cost, so an earlier point that saves as much beats this one, unless both figures are equal.
        if let Some(winner) =
            best.filter(|best| best.saving >= point.saving && (best.saving, best.net) != (point.saving, point.net))
        {
            let standing = winner.swap.map_or(Standing::BeatenByKeeping, Standing::BeatenBy);
            others.extend(point.swap.map(|swap| (point.saving, swap, standing)));
            continue;
        }
        best = Some(point);
        while let &[.., before, last] = hull.as_slice() {
            let under = (last.saving - before.saving) * (point.net - before.net)
                < (point.saving - before.saving) * (last.net - before.net);
            if !under {
                break;
            }
            if let Some(Point { swap: Some(swap), saving, .. }) = hull.pop() {
                others.push((saving, swap, Standing::NeverBestStep));
            }
        }
        hull.push(point);
    }

    let mut before = Point { swap: None, saving: 0, net: 0 };
    let mut choices = Vec::new();
    for point in hull {
        if let Some(swap) = point.swap {
            let held = |extra: i128| i64::try_from(extra).unwrap_or(i64::MAX);
            choices.push((
                swap,
                Standing::Step(Step {
                    extra_saving: Mass::from_mg(held(point.saving - before.saving)),
                    extra_net: Money::from_minor(held(point.net - before.net)),
                }),
            ));
        }
        before = point;
    }
    others.sort_by_key(|&(saving, swap, _)| (-saving, swap));
    choices.extend(others.into_iter().map(|(_, swap, standing)| (swap, standing)));
    ChoiceGroup { choices }
}
