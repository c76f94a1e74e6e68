//! What reading a file would do to what is there.

use super::Row;
use crate::gear::Gear;
use std::collections::{HashMap, HashSet};

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

/// What each line would do. A line means the thing of the same name, case aside; of several, one of the line's system
/// first, and each thing is meant once: a second line of a name means the second thing.
pub fn compare<Id: Copy + Eq + std::hash::Hash>(existing: &[(Id, Gear)], rows: &[Row]) -> Vec<Outcome<Id>> {
    let mut by_name: HashMap<String, Vec<&(Id, Gear)>> = HashMap::new();
    for thing in existing {
        by_name.entry(thing.1.name.as_str().to_lowercase()).or_default().push(thing);
    }
    let mut meant = HashSet::new();
    rows.iter()
        .map(|row| {
            let same_name = by_name.get(&row.name.as_str().to_lowercase()).map_or(&[][..], Vec::as_slice);
            let free: Vec<&&(Id, Gear)> = same_name.iter().filter(|(id, _)| !meant.contains(id)).collect();
            let of_system = free.iter().find(|(_, gear)| row.system() == Some(gear.system));
            let Some((id, before)) = of_system.or_else(|| free.first()) else {
                let mut thing = Gear::named(row.name.clone());
                row.apply(&mut thing);
                return Outcome::Add(thing);
            };
            meant.insert(*id);
            let mut after = before.clone();
            row.apply(&mut after);
            if after == *before { Outcome::Same(*id) } else { Outcome::Change(*id, after) }
        })
        .collect()
}
