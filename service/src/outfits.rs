//! Whole outfits side by side: what each list weighs, what it cost, what it holds and how warm it is.

use super::sheet::Sheet;
use super::year::with_nights;
use super::{Caller, ServiceError, Services};
use kevyt_core::caution::{CautionId, Level};
use kevyt_core::gear::Status;
use kevyt_core::quantity::{Mass, Money};
use kevyt_store::id::ListId;
use std::collections::{HashMap, HashSet};

/// The most lists that stand side by side.
pub const MOST: usize = 4;

/// A list as an outfit: what of it the caller carries and wears.
pub struct Outfit {
    /// All of it.
    pub sheet: Sheet,
    /// What it costs: what was paid, and of what is only wished for what it would.
    pub costs: Money,
    /// What of that is owned.
    pub owned: Money,
    /// Things of which no price is known.
    pub unpriced: usize,
    /// Nights in the coming twelve months.
    pub nights: u32,
    /// Cautions that are more than reminders.
    pub cautions: Vec<CautionId>,
}

/// From one outfit to the next dearer one.
pub struct Between {
    /// Their places among the outfits.
    pub cheaper: usize,
    /// The dearer one.
    pub dearer: usize,
    /// How much more it costs.
    pub more: Money,
    /// How much less it weighs; below nothing where it is heavier.
    pub lighter: Mass,
}

impl Services {
    /// Lists of the caller's, or that they have joined, as outfits, and the steps from each to the next dearer one.
    pub fn outfits(&self, caller: Caller, ids: &[ListId]) -> Result<(Vec<Outfit>, Vec<Between>), ServiceError> {
        if ids.len() > MOST || ids.iter().collect::<HashSet<_>>().len() < ids.len() {
            let detail = format!("{} lists can't be compared. Name up to {MOST}, each once.", ids.len());
            return Err(ServiceError::invalid("lists", "too_many", detail));
        }
        let nights: HashMap<ListId, u32> =
            self.read(|c| Ok(with_nights(c, caller)?.into_iter().map(|of| (of.list.id, of.nights)).collect()))?;
        let outfit = |id: &ListId| {
            let sheet = self.worked_out(self.sheet(caller, *id)?);
            Ok(outfit(sheet, nights.get(id).copied().unwrap_or(0)))
        };
        let outfits: Vec<Outfit> = ids.iter().map(outfit).collect::<Result<_, ServiceError>>()?;
        let mut by_cost: Vec<usize> = (0..outfits.len()).collect();
        by_cost.sort_by_key(|at| outfits[*at].costs);
        let step = |pair: &[usize]| {
            let (cheaper, dearer) = (&outfits[pair[0]], &outfits[pair[1]]);
            Between {
                cheaper: pair[0],
                dearer: pair[1],
                more: dearer.costs - cheaper.costs,
                lighter: cheaper.sheet.totals.base - dearer.sheet.totals.base,
            }
        };
        let steps = by_cost.windows(2).map(step).collect();
        Ok((outfits, steps))
    }
}

fn outfit(sheet: Sheet, nights: u32) -> Outfit {
    let (mut costs, mut owned, mut unpriced) = (Money::ZERO, Money::ZERO, 0);
    let mine = sheet.lines.iter().zip(&sheet.things).filter(|(_, thing)| thing.carrier.walker() == sheet.me);
    for (line, thing) in mine {
        let pieces = thing.line.counts.pieces() - thing.line.counts.left;
        if pieces == 0 {
            continue;
        }
        let gear = &line.line.value.gear.value;
        let Some(price) = gear.paid.filter(|_| line.shows_price) else {
            unpriced += 1;
            continue;
        };
        let price = price.expected().times(pieces);
        costs = costs + price;
        if gear.status != Status::Wished {
            owned = owned + price;
        }
    }
    // Acknowledged or not: what was acknowledged on one list is no less so on another.
    let all = sheet.trip.iter().flat_map(|trip| &trip.cautions).map(|one| &one.caution);
    let cautions = all.filter(|caution| caution.level > Level::Note).map(|caution| caution.id).collect();
    Outfit { sheet, costs, owned, unpriced, nights, cautions }
}
