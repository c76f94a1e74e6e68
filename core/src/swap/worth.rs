//! What a swap saves and costs.

use super::Swap;
use crate::gear::whole;
use crate::list::{Line, LineId, Place, WholeKit, in_kits};
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
/// saving = Σ carried removed − Σ carried added; net = Σ expected price × count + delivery − resale + hours × rate,
/// the last rounded up to the minor unit. A kit of `kits` that is taken off whole saves what it weighed; a part taken out of
/// one saves its own weight, so that what stays counts as the kit less that part. Lines that the swap names and `lines`
/// lacks count as missing weights.
pub fn worth(swap: &Swap, lines: &HashMap<&LineId, &Line>, kits: &[WholeKit<'_>], hour_rate: Money) -> Worth {
    let mut missing = Vec::new();
    let (mut saving, mut everything) = (Mass::ZERO, Mass::ZERO);
    let taken = taken_whole(swap, kits);
    for removal in &swap.remove {
        let line = lines.get(&removal.line);
        let unit = line.and_then(|line| line.unit());
        if unit.is_none() && removal.qty > in_kits(&removal.line, removal.from, &taken) {
            missing.push(Missing::Weight(line.map_or_else(|| removal.line.0.clone(), |line| line.name.clone())));
            continue;
        }
        let mass = unit.unwrap_or_default().times(removal.qty);
        everything = everything + mass;
        if removal.from == Place::Carried {
            saving = saving + mass;
        }
    }
    for whole in taken {
        everything = everything + whole.correction;
        if whole.place == Place::Carried {
            saving = saving + whole.correction;
        }
    }
    let hours = (swap.tenth_hours.saturating_mul(hour_rate.minor()) + 9).div_euclid(10);
    let mut net = swap.delivery - swap.resale + Money::from_minor(hours);
    let mut priced = true;
    for addition in &swap.add {
        match addition.unit() {
            Some(unit) => {
                let mass = unit.times(addition.qty);
                everything = everything - mass;
                if addition.place == Place::Carried {
                    saving = saving - mass;
                }
            }
            None => missing.push(Missing::Weight(addition.name.clone())),
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

/// The kits that a swap takes off the list whole.
fn taken_whole<'k>(swap: &Swap, kits: &[WholeKit<'k>]) -> Vec<WholeKit<'k>> {
    let mut taken = Vec::new();
    for place in Place::COUNTED {
        let of_place: Vec<&WholeKit<'k>> = kits.iter().filter(|whole| whole.place == place).collect();
        let mut pieces: HashMap<&LineId, u32> = HashMap::new();
        for removal in swap.remove.iter().filter(|removal| removal.from == place) {
            *pieces.entry(&removal.line).or_default() += removal.qty;
        }
        let at = whole(pieces, of_place.iter().map(|whole| whole.kit.parts.as_slice()));
        taken.extend(at.into_iter().filter_map(|at| of_place.get(at)).copied());
    }
    taken
}
