//! What a swap saves and costs.

use super::Swap;
use crate::gear::Known;
use crate::list::{Line, LineId, LinkedKits, Place, WholeKit, whole_kits_among};
use crate::quantity::{Mass, Money, PriceRange};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// Which saving ranks.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum RankBy {
    /// That of base weight.
    #[default]
    Base,
    /// That of everything worn and carried.
    Everything,
}

impl RankBy {
    /// Whether what is in a place counts for it.
    fn counts(self, place: Place) -> bool {
        self == RankBy::Everything || place == Place::Carried
    }
}

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
    /// Which of the two savings ranks.
    pub rank_by: RankBy,
    /// Where the saving that ranks and the net cost may lie; `None` while anything is missing.
    pub range: Option<Range>,
}

/// From where to where a saving and a net cost may lie: weights by their bands, everything wrong the way that matters; prices by their
/// ranges.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Range {
    /// The least that it may save.
    pub saving_low: Mass,
    /// The most that it may save.
    pub saving_high: Mass,
    /// The least that it may cost.
    pub net_low: Money,
    /// The most that it may cost.
    pub net_high: Money,
}

impl Worth {
    /// What is known to the milligram and the minor unit, whatever ranks.
    pub fn exact(saving: Mass, net: Money) -> Worth {
        let range = Range { saving_low: saving, saving_high: saving, net_low: net, net_high: net };
        let (saving, rank_by) = (Some(saving), RankBy::Base);
        Worth { saving, saving_everything: saving, net: Some(net), missing: Vec::new(), rank_by, range: Some(range) }
    }

    /// The saving that ranks and the net cost, if nothing is missing.
    pub fn complete(&self) -> Option<(Mass, Money)> {
        let saving = match self.rank_by {
            RankBy::Base => self.saving,
            RankBy::Everything => self.saving_everything,
        };
        saving.zip(self.net)
    }
}

/// Computes what `swap` saves and costs. `hour_rate` is what an hour of making is worth, in money.
///
/// The saving is the base weight of the list less that of the list with this swap done: what is carried of the pieces taken off less what
/// is carried of those put on, and a kit that it breaks counts as its parts then, or an older one takes its place. A swap that takes off more
/// than there is breaks no kit. `kits` are those of the list, whole or not.
/// net = Σ expected price × count + delivery − resale + hours × rate, the last rounded up to the minor unit. Lines that the swap names and
/// `lines` lacks count as missing weights.
pub fn worth(
    swap: &Swap,
    lines: &HashMap<&LineId, &Line>,
    kits: &LinkedKits<'_>,
    hour_rate: Money,
    rank_by: RankBy,
) -> Worth {
    let missing = missing(swap, lines);
    let (before, after) = kits_before_and_after(swap, lines, kits);
    let of_kits = |rank_by: RankBy| {
        let counted = |kits: &[WholeKit<'_>]| -> Mass {
            kits.iter().filter(|whole| rank_by.counts(whole.place)).map(|whole| whole.correction).sum()
        };
        counted(&before) - counted(&after)
    };
    let saving = |rank_by, off: Figure, on: Figure| pieces(swap, lines, rank_by, off, on) + of_kits(rank_by);
    let stated = |rank_by| saving(rank_by, |known| known.unit, |known| known.unit);
    let hours = (swap.tenth_hours.saturating_mul(hour_rate.minor()) + 9).div_euclid(10);
    let net = |price: fn(PriceRange) -> Money| {
        let additions = swap.add.iter().filter_map(|addition| Some(price(addition.price?).times(addition.qty)));
        additions.sum::<Money>() + swap.delivery - swap.resale + Money::from_minor(hours)
    };
    let is_weighed = !missing.iter().any(|missing| matches!(missing, Missing::Weight(_)));
    let is_priced = !missing.iter().any(|missing| matches!(missing, Missing::Price(_)));
    Worth {
        saving: is_weighed.then(|| stated(RankBy::Base)),
        saving_everything: is_weighed.then(|| stated(RankBy::Everything)),
        net: is_priced.then(|| net(PriceRange::expected)),
        range: missing.is_empty().then(|| Range {
            saving_low: saving(rank_by, Known::low, Known::high),
            saving_high: saving(rank_by, Known::high, Known::low),
            net_low: net(PriceRange::low),
            net_high: net(PriceRange::high),
        }),
        missing,
        rank_by,
    }
}

/// What must be known before a swap can be ranked.
fn missing(swap: &Swap, lines: &HashMap<&LineId, &Line>) -> Vec<Missing> {
    let mut missing = Vec::new();
    for removal in &swap.remove {
        let line = lines.get(&removal.line);
        if line.and_then(|line| line.weight).is_none() {
            missing.push(Missing::Weight(line.map_or_else(|| removal.line.0.clone(), |line| line.name.clone())));
        }
    }
    for addition in &swap.add {
        if addition.weight.is_none() {
            missing.push(Missing::Weight(addition.name.clone()));
        }
        if addition.price.is_none() {
            missing.push(Missing::Price(addition.name.clone()));
        }
    }
    missing
}

/// One of the figures of a weight.
type Figure = fn(Known) -> Mass;

/// What the pieces of a swap save of base weight, kits aside and unknown weights as nothing.
pub(crate) fn plain_saving(swap: &Swap, lines: &HashMap<&LineId, &Line>) -> Mass {
    pieces(swap, lines, RankBy::Base, |known| known.unit, |known| known.unit)
}

/// What the pieces of a swap save, kits aside: by `off` of what it takes off, and by `on` of what it puts on.
fn pieces(swap: &Swap, lines: &HashMap<&LineId, &Line>, rank_by: RankBy, off: Figure, on: Figure) -> Mass {
    let removed = swap.remove.iter().filter(|removal| rank_by.counts(removal.from)).map(|removal| {
        let known = lines.get(&removal.line).and_then(|line| line.weight);
        known.map(off).unwrap_or_default().times(removal.qty)
    });
    let added = swap.add.iter().filter(|addition| rank_by.counts(addition.place));
    let added = added.map(|addition| addition.weight.map(on).unwrap_or_default().times(addition.qty));
    removed.sum::<Mass>() - added.sum::<Mass>()
}

/// The kits that are whole without a swap and with it, of those that it may matter to; none if it takes off more than there is.
fn kits_before_and_after<'k>(
    swap: &Swap,
    lines: &HashMap<&LineId, &Line>,
    kits: &LinkedKits<'k>,
) -> (Vec<WholeKit<'k>>, Vec<WholeKit<'k>>) {
    let touched = kits.of(swap.remove.iter().map(|removal| &removal.line));
    if touched.is_empty() {
        return (Vec::new(), Vec::new());
    }
    let there = |line: &LineId, place| lines.get(line).map_or(0, |line| line.counts.at(place));
    let mut taken: HashMap<(&LineId, Place), u32> = HashMap::new();
    for removal in &swap.remove {
        let taken = taken.entry((&removal.line, removal.from)).or_default();
        *taken = taken.saturating_add(removal.qty);
    }
    if taken.iter().any(|((line, place), taken)| *taken > there(line, *place)) {
        return (Vec::new(), Vec::new());
    }
    let left = |line: &LineId, place| there(line, place) - taken.get(&(line, place)).copied().unwrap_or(0);
    let (before, mut after) = (whole_kits_among(there, lines, touched.clone()), whole_kits_among(left, lines, touched));
    // One that is broken where it was carried does not come up among what is worn or used up, of pieces that were there already.
    let stays = |then: &WholeKit<'_>, now: &WholeKit<'_>| then.place == now.place || now.place == Place::Carried;
    after.retain(|now| before.iter().all(|then| !std::ptr::eq(then.kit, now.kit) || stays(then, now)));
    (before, after)
}
