//! What of the gear was used on which trips, and what was not.

use super::{Mark, Taken, Walk};
use std::collections::BTreeMap;

/// On so many trips something has to be carried unused before it is proposed for leaving out.
pub const LEAST_UNUSED: usize = 2;

/// What trips say of a thing. Trips are named by their positions, each once, in their order.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Habit {
    /// It came along and was used.
    pub used_on: Vec<usize>,
    /// It came along and was not.
    pub unused_on: Vec<usize>,
    /// Nights of the trips on which it was used.
    pub nights: u32,
    /// What else was said of it, and on which trips.
    pub marks: BTreeMap<Mark, Vec<usize>>,
}

impl Habit {
    /// Trips on which it was wished for.
    pub fn missed_on(&self) -> &[usize] {
        self.marks.get(&Mark::Wished).map_or(&[], Vec::as_slice)
    }

    /// On how many trips it was carried, if it was on enough of them, never used, and never missed.
    pub fn never_used(&self) -> Option<usize> {
        let is_so = self.used_on.is_empty() && self.unused_on.len() >= LEAST_UNUSED && self.missed_on().is_empty();
        is_so.then_some(self.unused_on.len())
    }
}

/// What trips say of each thing that is owned. What nobody has said anything of counts as neither used nor unused.
pub fn habits<K: Ord + Copy>(walks: &[Walk<K>]) -> BTreeMap<K, Habit> {
    let mut habits: BTreeMap<K, Habit> = BTreeMap::new();
    for (at, walk) in walks.iter().enumerate() {
        let note = |trips: &mut Vec<usize>| {
            if trips.last() != Some(&at) {
                trips.push(at)
            }
        };
        for (gear, thing) in walk.things.iter().filter_map(|thing| Some((thing.gear?, thing))) {
            let Taken { pieces, verdict, .. } = thing;
            let habit = habits.entry(gear).or_default();
            match verdict.used.filter(|_| *pieces > 0) {
                Some(true) => {
                    note(&mut habit.used_on);
                    habit.nights = habit.nights.saturating_add(walk.nights);
                }
                Some(false) => note(&mut habit.unused_on),
                None => {}
            }
            verdict.marks.iter().for_each(|mark| note(habit.marks.entry(*mark).or_default()));
        }
    }
    habits
}
