//! How cold it may really get for one's own bag or quilt, and how cold one sleeps.

use super::{Mark, Walk};
use crate::quantity::div_half_even;
use std::collections::BTreeMap;

/// The nights in a bag or quilt. Temperatures in tenths of a degree Celsius, trips by their positions.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Slept {
    /// The lowest that was met on a trip on which it was warm enough, and that trip.
    pub comfortable: Option<(i64, usize)>,
    /// And on one on which it was too cold.
    pub uncomfortable: Option<(i64, usize)>,
}

/// The nights in each bag and quilt that was used on a trip whose low is known.
pub fn slept<K: Ord + Copy>(walks: &[Walk<K>]) -> BTreeMap<K, Slept> {
    let mut all: BTreeMap<K, Slept> = BTreeMap::new();
    for (at, walk) in walks.iter().enumerate() {
        let Some(low) = walk.met.low_tenth_c else { continue };
        for thing in walk.things.iter().filter(|thing| thing.is_bed && thing.was_used()) {
            let Some(gear) = thing.gear else { continue };
            let slept = all.entry(gear).or_default();
            let was_cold = thing.verdict.marks.contains(&Mark::TooCold);
            let coldest = if was_cold { &mut slept.uncomfortable } else { &mut slept.comfortable };
            if coldest.is_none_or(|(known, _)| low < known) {
                *coldest = Some((low, at));
            }
        }
    }
    all
}

/// What nights say of the sleeper's own offset: what is to be added to a rating of comfort, in tenths of a degree.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Offset {
    /// It is more than this: it was too cold, so far above the rating.
    pub more_than: Option<(i64, usize)>,
    /// It is at most this: it was warm enough, so far above the rating.
    pub at_most: Option<(i64, usize)>,
}

impl Offset {
    /// The estimate, once some night was too cold: half way between the two, rounded half to even. Cold nights alone say only that it is more,
    /// so that it is never less than what is set `now`. Nights that contradict each other are met half way, too.
    pub fn estimate(&self, now: i64) -> Option<i64> {
        let (more_than, _) = self.more_than?;
        let Some((at_most, _)) = self.at_most else { return Some(more_than.max(now)) };
        i64::try_from(div_half_even(i128::from(more_than) + i128::from(at_most), 2)).ok()
    }

    /// Whether it was too cold where, by another night, it would have been warm enough.
    pub fn is_contradicted(&self) -> bool {
        matches!((self.more_than, self.at_most), (Some((more, _)), Some((most, _))) if more >= most)
    }
}

/// What the nights of trips say of the sleeper. On each trip the warmest bag or quilt that was used counts, with what liners and the like
/// that were used add to it; it was too cold if one of them is said to have been.
pub fn offset<K>(walks: &[Walk<K>]) -> Offset {
    let mut offset = Offset::default();
    for (at, walk) in walks.iter().enumerate() {
        let used = || walk.things.iter().filter(|thing| thing.was_used());
        let comfort = used().filter_map(|thing| Some(thing.rating()?.comfort_and_limit()?.0)).min();
        let Some((low, comfort)) = walk.met.low_tenth_c.zip(comfort) else { continue };
        let adds: i64 = used().filter_map(|thing| thing.facts.warms).sum();
        let above = low - (comfort - adds);
        let sleeps = |thing: &&super::Taken<K>| thing.rating().is_some() || thing.facts.warms.is_some();
        if used().filter(sleeps).any(|thing| thing.verdict.marks.contains(&Mark::TooCold)) {
            if offset.more_than.is_none_or(|(known, _)| above > known) {
                offset.more_than = Some((above, at));
            }
        } else if offset.at_most.is_none_or(|(known, _)| above < known) {
            offset.at_most = Some((above, at));
        }
    }
    offset
}
