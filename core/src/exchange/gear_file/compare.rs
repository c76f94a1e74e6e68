//! What reading a file would do to what is there.

use super::Row;
use crate::gear::{Gear, System};
use std::collections::{HashMap, VecDeque};

/// What a line would do.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Outcome<Id> {
    /// A thing that is not there yet.
    Add(Gear),
    /// A thing that is there, as it would be afterwards.
    Change(Id, Gear),
    /// A thing that is there just so.
    Same(Id),
}

/// Things of one name that no line has meant yet, in their order; by position among all things.
#[derive(Default)]
struct SameName {
    all: VecDeque<usize>,
    of_system: HashMap<System, VecDeque<usize>>,
}

/// What each line would do. A line means the thing of the same name, case aside; of several, one of the line's system
/// first, and each thing is meant once: a second line of a name means the second thing.
pub fn compare<Id: Copy>(existing: &[(Id, Gear)], rows: &[Row]) -> Vec<Outcome<Id>> {
    let mut by_name: HashMap<String, SameName> = HashMap::new();
    for (at, (_, thing)) in existing.iter().enumerate() {
        let same_name = by_name.entry(thing.name.as_str().to_lowercase()).or_default();
        same_name.all.push_back(at);
        same_name.of_system.entry(thing.system).or_default().push_back(at);
    }
    let mut meant = vec![false; existing.len()];
    rows.iter()
        .map(|row| {
            let found = by_name.get_mut(&row.name.as_str().to_lowercase()).and_then(|same_name| {
                let of_system = row.system().and_then(|system| same_name.of_system.get_mut(&system));
                of_system
                    .and_then(|things| first_free(things, &meant))
                    .or_else(|| first_free(&mut same_name.all, &meant))
            });
            let Some((at, (id, before))) = found.and_then(|at| Some((at, existing.get(at)?))) else {
                return Outcome::Add(row.thing());
            };
            if let Some(meant) = meant.get_mut(at) {
                *meant = true;
            }
            let mut after = before.clone();
            row.apply(&mut after);
            if after == *before { Outcome::Same(*id) } else { Outcome::Change(*id, after) }
        })
        .collect()
}

/// The first of some things that no line has meant; those before it are not looked at again.
fn first_free(things: &mut VecDeque<usize>, meant: &[bool]) -> Option<usize> {
    while let Some(at) = things.pop_front() {
        if meant.get(at) == Some(&false) {
            return Some(at);
        }
    }
    None
}
