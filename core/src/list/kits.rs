//! Kits on a list: where things that were weighed together count as they were weighed.

use super::{Line, LineId, Place};
use crate::gear::whole;
use crate::limits;
use crate::quantity::Mass;
use std::collections::{BTreeSet, HashMap};

/// A kit whose own weighing counts ([`crate::gear::kit_figures`]), over the lines of a list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WeighedKit {
    /// What it is called.
    pub name: String,
    /// What all of it weighed.
    pub weighed: Mass,
    /// Its lines and the pieces of each.
    pub parts: Vec<(LineId, u32)>,
}

impl WeighedKit {
    /// What it weighed less what its parts add up to, unknown ones as nothing.
    pub fn correction(&self, lines: &HashMap<&LineId, &Line>) -> Mass {
        let unit = |id| lines.get(id).and_then(|line| line.unit()).unwrap_or_default();
        self.weighed - self.parts.iter().map(|(id, count)| unit(id).times(*count)).sum()
    }
}

/// A kit that is whole in one place of a list.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct WholeKit<'a> {
    /// The kit.
    pub kit: &'a WeighedKit,
    /// Where all of it counts.
    pub place: Place,
    /// Its weighing less what its parts add up to, unknown ones as nothing: what the sums of the lines lack.
    pub correction: Mass,
}

/// The kits that are whole on a list: every part with all its pieces in one place, each kit once. Of two that share pieces, the one that
/// comes first in `kits` counts; the newest weighing should stand first.
pub fn whole_kits<'a>(lines: &HashMap<&LineId, &Line>, kits: &'a [WeighedKit]) -> Vec<WholeKit<'a>> {
    let there = |id: &LineId, place| lines.get(id).map_or(0, |line| line.counts.at(place));
    whole_kits_among(there, lines, kits.iter().collect())
}

/// As [`whole_kits`], with so many pieces of each line in each place as `there` says.
pub fn whole_kits_among<'a>(
    there: impl Fn(&LineId, Place) -> u32,
    lines: &HashMap<&LineId, &Line>,
    mut open: Vec<&'a WeighedKit>,
) -> Vec<WholeKit<'a>> {
    let mut found = Vec::new();
    for place in Place::COUNTED {
        let parts = open.iter().flat_map(|kit| &kit.parts).map(|(id, _)| (id, there(id, place))).collect();
        let at = whole(parts, open.iter().map(|kit| kit.parts.as_slice()));
        // From the back, so that the positions before stay.
        let mut here: Vec<&WeighedKit> = at.into_iter().rev().map(|at| open.remove(at)).collect();
        here.reverse();
        found.extend(here.into_iter().map(|kit| WholeKit { kit, place, correction: kit.correction(lines) }));
    }
    found
}

/// Kits by the lines that are their parts: those that share one, or that others between them link, belong together.
#[derive(Debug)]
pub struct LinkedKits<'a> {
    kits: &'a [WeighedKit],
    /// Positions of kits.
    groups: Vec<BTreeSet<usize>>,
    group_of: HashMap<&'a LineId, usize>,
}

impl<'a> LinkedKits<'a> {
    /// Of all kits of a list, the newest weighing first. One that would be linked to too many is left out ([`limits::LINKED_KITS`]).
    pub fn new(kits: &'a [WeighedKit]) -> LinkedKits<'a> {
        let mut groups: Vec<BTreeSet<usize>> = Vec::new();
        let mut group_of: HashMap<&LineId, usize> = HashMap::new();
        for (at, kit) in kits.iter().enumerate() {
            let linked: BTreeSet<usize> =
                kit.parts.iter().filter_map(|(line, _)| group_of.get(line).copied()).collect();
            let mut together: BTreeSet<usize> = linked.iter().flat_map(|group| &groups[*group]).copied().collect();
            if together.len() >= limits::LINKED_KITS {
                continue;
            }
            linked.into_iter().for_each(|group| groups[group].clear());
            together.insert(at);
            group_of.extend(together.iter().flat_map(|at| &kits[*at].parts).map(|(line, _)| (line, groups.len())));
            groups.push(together);
        }
        LinkedKits { kits, groups, group_of }
    }

    /// Positions of those that are not left out.
    pub fn kept(&self) -> BTreeSet<usize> {
        self.groups.iter().flatten().copied().collect()
    }

    /// Those that what becomes of `lines` may matter to, the newest weighing first in each group.
    pub fn of<'l>(&self, lines: impl IntoIterator<Item = &'l LineId>) -> Vec<&'a WeighedKit> {
        let groups: BTreeSet<usize> = lines.into_iter().filter_map(|line| self.group_of.get(line).copied()).collect();
        groups.into_iter().flat_map(|group| &self.groups[group]).map(|at| &self.kits[*at]).collect()
    }
}

/// The kits of a list without those that are left out of it.
pub fn without_overlinked(kits: Vec<WeighedKit>) -> Vec<WeighedKit> {
    let kept = LinkedKits::new(&kits).kept();
    kits.into_iter().enumerate().filter(|(at, _)| kept.contains(at)).map(|(_, kit)| kit).collect()
}

/// Pieces of `line` in `place` that count in `kits`, so that their own weight is not needed.
pub fn in_kits(line: &LineId, place: Place, kits: &[WholeKit<'_>]) -> u32 {
    let parts = kits.iter().filter(|whole| whole.place == place).flat_map(|whole| &whole.kit.parts);
    parts.filter(|(part, _)| part == line).map(|(_, count)| count).sum()
}
