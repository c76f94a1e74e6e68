//! Kits that count as they were weighed, as choices of the model: *the kit is broken*, with its constraints ([`super::model`] has the table).

use super::Ready;
use crate::list::{LineId, Place};
use crate::quantity::Mass;
use kevyt_solver::Constraint;
use std::collections::{BTreeMap, HashMap};

/// What swaps take from each line and place, by swap.
pub(super) type Taken<'a> = BTreeMap<(&'a LineId, Place), BTreeMap<usize, i64>>;

/// What every swap takes.
pub(super) fn taken<'a>(ready: &Ready<'a>) -> Taken<'a> {
    let mut taken: Taken<'_> = BTreeMap::new();
    for (index, swap) in ready.problem().swaps.iter().enumerate() {
        for removal in &swap.remove {
            *taken.entry((&removal.line, removal.from)).or_default().entry(index).or_default() +=
                i64::from(removal.qty);
        }
    }
    taken
}

/// What follows for the kits that swaps can break.
#[derive(Default)]
pub(super) struct OfKits {
    /// The change of base weight of each variable, numbered after the swaps.
    pub masses: Vec<i64>,
    pub rows: Vec<Constraint>,
    /// What those that are broken today would add to the base weight if they were not.
    pub waiting: i64,
}

/// By line the kits that count, or may come to count, and have pieces of it: the choice *it is broken*, none where nothing can break it, and how
/// many pieces.
type Newer<'a> = HashMap<&'a LineId, Vec<(Option<usize>, i64)>>;

/// The choices and constraints of the kits that swaps can break.
pub(super) fn of_kits<'a>(ready: &Ready<'a>, taken: &Taken<'a>) -> OfKits {
    let swaps = ready.problem().swaps.len();
    let mut found = OfKits::default();
    let mut newer: Newer<'_> = HashMap::new();
    let kits = &ready.problem().kits;
    let mut shared: HashMap<&LineId, usize> = HashMap::new();
    kits.iter().flat_map(|kit| &kit.parts).for_each(|(line, _)| *shared.entry(line).or_default() += 1);
    for kit in kits {
        let is_linked = kit.parts.iter().any(|(line, _)| shared[line] > 1);
        let correction = kit.correction(ready.lines());
        let parts: Option<Vec<Part<'_>>> =
            kit.parts.iter().map(|(line, qty)| part(ready, taken, &newer, line, *qty)).collect();
        // Without enough of a part it never counts; and without weight of its own it doesn't matter, if no other waits for it.
        let Some(parts) = parts.filter(|_| is_linked || correction != Mass::ZERO) else { continue };
        let at_risk: Vec<&Part<'_>> =
            parts.iter().filter(|part| part.takes.is_some() || !part.newer.is_empty()).collect();
        let mut have = |broken| {
            let pieces = kit.parts.iter().map(|(line, qty)| (line, (broken, i64::from(*qty))));
            pieces.for_each(|(line, pieces)| newer.entry(line).or_default().push(pieces));
        };
        if at_risk.is_empty() {
            have(None);
            continue;
        }
        let broken = swaps + found.masses.len();
        have(Some(broken));
        found.masses.push(-correction.mg());
        let is_whole =
            ready.whole_kits().iter().any(|whole| std::ptr::eq(whole.kit, kit) && whole.place == Place::Carried);
        if !is_whole {
            found.waiting += correction.mg();
        }
        for part in &at_risk {
            found.rows.push(Constraint::new(part.spare - part.in_newer(), part.less().chain([(broken, part.qty)])));
        }
        if is_linked || correction > Mass::ZERO {
            // It is broken only if a part is missing.
            let mut missing: BTreeMap<usize, i64> = BTreeMap::from([(broken, -1)]);
            let mut sure = 0;
            for part in &at_risk {
                let more = part.less().map(|(variable, pieces)| (variable, -pieces));
                if part.spare == 0 {
                    sure += part.in_newer();
                    more.for_each(|(variable, pieces)| *missing.entry(variable).or_default() += pieces);
                } else {
                    let short = swaps + found.masses.len();
                    found.masses.push(0);
                    found.rows.push(Constraint::new(part.in_newer(), more.chain([(short, -(part.spare + 1))])));
                    missing.insert(short, 1);
                }
            }
            found.rows.push(Constraint::new(sure, missing));
        }
    }
    found
}

/// A part of a kit: who else may have its pieces.
struct Part<'t> {
    qty: i64,
    /// How many pieces more than the kit needs nothing that is sure has.
    spare: i64,
    /// What swaps take.
    takes: Option<&'t BTreeMap<usize, i64>>,
    /// The choices *it is broken* of newer kits that have pieces of it, and how many.
    newer: Vec<(usize, i64)>,
}

impl Part<'_> {
    /// All pieces in newer kits.
    fn in_newer(&self) -> i64 {
        self.newer.iter().map(|(_, pieces)| pieces).sum()
    }

    /// How many pieces each choice leaves more: swaps leave less, and newer kits that are broken give theirs back.
    fn less(&self) -> impl Iterator<Item = (usize, i64)> {
        let takes = self.takes.into_iter().flatten().map(|(swap, pieces)| (*swap, -pieces));
        takes.chain(self.newer.iter().copied())
    }
}

/// `None` where there are never enough pieces.
fn part<'t, 'a>(
    ready: &Ready<'a>,
    taken: &'t Taken<'a>,
    newer: &Newer<'a>,
    line: &'a LineId,
    qty: u32,
) -> Option<Part<'t>> {
    let carried = ready.lines().get(line).map_or(0, |line| i64::from(line.counts.carried));
    let newer = newer.get(line).into_iter().flatten().copied();
    let (may_break, stay): (Vec<_>, Vec<_>) = newer.partition(|(broken, _)| broken.is_some());
    let spare = carried - i64::from(qty) - stay.iter().map(|(_, pieces)| pieces).sum::<i64>();
    (spare >= 0).then(|| Part {
        qty: qty.into(),
        spare,
        takes: taken.get(&(line, Place::Carried)),
        newer: may_break.into_iter().filter_map(|(broken, pieces)| Some((broken?, pieces))).collect(),
    })
}
