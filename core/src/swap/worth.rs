//! What a swap saves and costs.

use super::Swap;
use crate::list::{Line, LineId, Place};
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
/// the last rounded up to the minor unit. Lines that the swap names and `lines` lacks count as missing weights.
pub fn worth(swap: &Swap, lines: &HashMap<&LineId, &Line>, hour_rate: Money) -> Worth {
    let mut missing = Vec::new();
    let (mut saving, mut everything) = (Mass::ZERO, Mass::ZERO);
    for removal in &swap.remove {
        let line = lines.get(&removal.line);
        let Some(unit) = line.and_then(|line| line.unit) else {
            missing.push(Missing::Weight(line.map_or_else(|| removal.line.0.clone(), |line| line.name.clone())));
            continue;
        };
        let mass = unit.times(removal.qty);
        everything = everything + mass;
        if removal.from == Place::Carried {
            saving = saving + mass;
        }
    }
    let hours = (swap.tenth_hours.saturating_mul(hour_rate.minor()) + 9).div_euclid(10);
    let mut net = swap.delivery - swap.resale + Money::from_minor(hours);
    let mut priced = true;
    for addition in &swap.add {
        match addition.unit {
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
