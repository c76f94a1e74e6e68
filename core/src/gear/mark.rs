//! Marks: what else is so of a thing, where a rule asks for it. A mark is kept and sent as a tag of its own key; people read what it means.

use super::{Jobs, Tags};
use serde::Serialize;

/// A mark of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
pub struct Mark {
    /// The tag that it is kept as.
    pub key: &'static str,
    /// What is so, and what follows from it.
    pub name: &'static str,
}

const fn mark(key: &'static str, name: &'static str) -> Mark {
    Mark { key, name }
}

/// What food has.
pub(crate) const FOOD: &str = "food";
/// What prescribed medicine has.
pub(crate) const MEDICAL: &str = "medical";
/// What is carried in the hope that it stays unused.
pub(crate) const EMERGENCY: &str = "emergency";
/// What holds water, but none to drink.
const NOT_FOR_DRINKING: &str = "not_for_drinking";

/// Every mark, in the order in which they are offered.
pub const MARKS: &[Mark] = &[
    mark("poles", "walking poles: in the hand, some count them as worn"),
    mark("pocket", "in a trouser pocket: some count it as worn"),
    mark("consumables", "used up slowly, such as soap or sunscreen"),
    mark("section_only", "for one section only, such as an ice axe"),
    mark(FOOD, "food: counts as the trip’s food"),
    mark("water", "water: counts as the trip’s water"),
    mark("gas_can", "gas can: its gas is used up, its shell stays"),
    mark("container", "food container that animals can’t open"),
    mark("hollow_fibre", "fibre filter: freezing ruins it"),
    mark(NOT_FOR_DRINKING, "not for drinking: holds no drinking water"),
    mark("hammock", "hammock: an underquilt takes the pad’s place"),
    mark("underquilt", "underquilt: keeps the back warm in a hammock"),
    mark(MEDICAL, "medicine: never proposed to stay home"),
    mark(EMERGENCY, "for emergencies: unused is as it should be"),
];

/// What a thing with these tags does of its jobs: what is not for drinking carries no water.
pub(crate) fn done_with(provides: &Jobs, tags: &Tags) -> Jobs {
    let mut done = provides.clone();
    if tags.has(NOT_FOR_DRINKING) {
        done.remove("water_carried");
    }
    done
}

impl Tags {
    /// The marks among them.
    pub fn marks(&self) -> impl Iterator<Item = &'static Mark> {
        MARKS.iter().filter(|mark| self.has(mark.key))
    }

    /// The walker's own words among them.
    pub fn own(&self) -> impl Iterator<Item = &str> {
        let words = self.words().iter().map(String::as_str);
        words.filter(|word| MARKS.iter().all(|mark| mark.key != *word))
    }
}
