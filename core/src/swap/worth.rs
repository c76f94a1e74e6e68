//! What a swap saves and costs.

use super::Swap;
use crate::list::{Line, LineId, Place, WholeKit};
use crate::quantity::{Mass, Money};
use std::collections::HashMap;

/// A figure without which a swap can't be ranked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Missing {
    /// The weight of the named thing.
    Weight(String),
    /// The price of the named thing.
    Price(String),
}

/// What a swap saves and costs, as far as it is known.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Worth {
    /// Base weight saved; negative if the list gets heavier. `None` while a weight is missing.
    pub saving: Option<Mass>,
    /// Saving on everything worn and carried, used-up things included.
    pub saving_everything: Option<Mass>,
    /// Money it takes; negative if it brings some. `None` while a price is missing.
    pub net: Option<Money>,
    /// What is missing.
    pub missing: Vec<Missing>,
}

impl Worth {
    /// Saving and net cost, if nothing is missing.
    pub fn complete(&self) -> Option<(Mass, Money)> {
        self.saving.zip(self.net)
    }
}

/// Computes what `swap` saves and costs. `hour_rate` is what an hour of making is worth, in money.
///
/// The saving is the base weight of the list less that of the list with this swap done: what is carried of the pieces taken off less what
/// is carried of those put on, and a kit that it breaks counts as its parts then. A swap that takes off more than there is breaks no kit.
/// net = Σ expected price × count + delivery − resale + hours × rate, the last rounded up to the minor unit. Lines that the swap names and
/// `lines` lacks count as missing weights.
pub fn worth(swap: &Swap, lines: &HashMap<&LineId, &Line>, kits: &[WholeKit<'_>], hour_rate: Money) -> Worth {
    let mut missing = Vec::new();
    for removal in &swap.remove {
        let line = lines.get(&removal.line);
        if line.and_then(|line| line.unit()).is_none() {
            missing.push(Missing::Weight(line.map_or_else(|| removal.line.0.clone(), |line| line.name.clone())));
        }
    }
    let (mut saving, mut everything) = plain_saving(swap, lines);
    for whole in broken(swap, lines, kits) {
        everything = everything + whole.correction;
        if whole.place == Place::Carried {
            saving = saving + whole.correction;
        }
    }
    let hours = (swap.tenth_hours.saturating_mul(hour_rate.minor()) + 9).div_euclid(10);
    let mut net = swap.delivery - swap.resale + Money::from_minor(hours);
    let mut priced = true;
    for addition in &swap.add {
        if addition.unit().is_none() {
            missing.push(Missing::Weight(addition.name.clone()));
        }
        match addition.price {
            Some(price) => net = net + price.expected().times(addition.qty),
            None => {
                priced = false;
                missing.push(Missing::Price(addition.name.clone()));
            }
        }
    }
    let weighed = !missing.iter().any(|missing| matches!(missing, Missing::Weight(_)));
    Worth {
        saving: weighed.then_some(saving),
        saving_everything: weighed.then_some(everything),
        net: priced.then_some(net),
        missing,
    }
}

/// What the pieces of a swap save, kits aside and unknown weights as nothing: of base weight, and of everything worn and carried.
pub(crate) fn plain_saving(swap: &Swap, lines: &HashMap<&LineId, &Line>) -> (Mass, Mass) {
    let (mut saving, mut everything) = (Mass::ZERO, Mass::ZERO);
    let mut count = |place: Place, mass: Mass| {
        everything = everything + mass;
        if place == Place::Carried {
            saving = saving + mass;
        }
    };
    for removal in &swap.remove {
        let unit = lines.get(&removal.line).and_then(|line| line.unit()).unwrap_or_default();
        count(removal.from, unit.times(removal.qty));
    }
    for addition in &swap.add {
        count(addition.place, Mass::ZERO - addition.unit().unwrap_or_default().times(addition.qty));
    }
    (saving, everything)
}

/// The kits that a swap breaks; none if it takes off more than there is.
fn broken<'k>(swap: &Swap, lines: &HashMap<&LineId, &Line>, kits: &[WholeKit<'k>]) -> Vec<WholeKit<'k>> {
    let mut left: HashMap<(&LineId, Place), i64> = HashMap::new();
    for removal in &swap.remove {
        let there = lines.get(&removal.line).map_or(0, |line| i64::from(line.counts.at(removal.from)));
        *left.entry((&removal.line, removal.from)).or_insert(there) -= i64::from(removal.qty);
    }
    if left.values().any(|left| *left < 0) {
        return Vec::new();
    }
    let is_broken = |whole: &&WholeKit<'k>| {
        let mut parts = whole.kit.parts.iter();
        parts.any(|(line, qty)| left.get(&(line, whole.place)).is_some_and(|left| *left < i64::from(*qty)))
    };
    kits.iter().filter(is_broken).copied().collect()
}
