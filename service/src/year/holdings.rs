//! What it costs to keep what one owns, over the nights to come, and what a swap would cost instead.

use super::YearSwap;
use crate::Caller;
use crate::sheet::SheetLine;
use chrono::{DateTime, NaiveDate};
use kevyt_core::gear::{Gear, System};
use kevyt_core::quantity::Money;
use kevyt_core::swap::{Held, Holding, SwapKind, SwapState, by_night, may_be_left_out, swap_costs, worth_after};
use kevyt_store::Stored;
use kevyt_store::id::{GearId, LineId};
use std::collections::HashMap;

/// The most things of which it is told.
const MOST: usize = 60;

/// Something that is worth something, over the coming twelve months.
pub struct YearHolding {
    /// The thing.
    pub gear: GearId,
    /// Its name.
    pub name: String,
    /// Its system, whose rate counts.
    pub system: System,
    /// How many pieces there are.
    pub pieces: u32,
    /// The places of the lists that it is on.
    pub lists: Vec<usize>,
    /// When it was said what it is worth.
    pub said_on: Option<NaiveDate>,
    /// What it is worth, and for how many nights it is carried.
    pub held: Holding,
    /// Whether nothing would be lacking without it: no list has it, or it may be left out of those that do.
    pub may_go: bool,
    /// The swap in its place that costs least over the year.
    pub swap: Option<SwapInstead>,
}

impl YearHolding {
    /// What a night costs with it.
    pub fn by_night(&self) -> Option<Money> {
        by_night(self.held.costs(), self.held.nights)
    }
}

/// A swap in the place of something.
#[derive(Debug, Clone, Copy)]
pub struct SwapInstead {
    /// Its place among the year's.
    pub swap: usize,
    /// What it costs over the year.
    pub costs: Money,
    /// And by night.
    pub by_night: Option<Money>,
}

/// What one owns that is worth something, and the lists that carry it.
pub(super) struct Shelf {
    caller: Caller,
    today: NaiveDate,
    gear: HashMap<GearId, Gear>,
    lists: HashMap<GearId, (u32, Vec<usize>)>,
    gear_of: HashMap<LineId, GearId>,
}

impl Shelf {
    pub fn new(caller: Caller, owned: Vec<Stored<GearId, Gear>>, today: NaiveDate) -> Shelf {
        let gear = owned.into_iter().map(|stored| (stored.id, stored.value));
        Shelf {
            caller,
            today,
            gear: gear.filter(|(_, gear)| gear.status.is_at_hand()).collect(),
            lists: HashMap::new(),
            gear_of: HashMap::new(),
        }
    }

    /// A list of the year, its place, and what is on it.
    pub fn carry(&mut self, at: usize, nights: u32, lines: &[SheetLine]) {
        for line in lines.iter().map(|line| &line.line) {
            let (id, counts) = (line.value.gear.id, line.value.counts);
            self.gear_of.insert(line.id, id);
            if counts.pieces() > counts.left {
                let (sum, lists) = self.lists.entry(id).or_default();
                *sum += nights;
                lists.push(at);
            }
        }
    }

    /// What keeping each of them costs, dearest first, beside the swap that costs least. `sells` says of a swap whether what comes off is sold.
    pub fn holdings(self, swaps: &[YearSwap], sells: impl Fn(usize) -> bool) -> Vec<YearHolding> {
        let mut best: HashMap<GearId, SwapInstead> = HashMap::new();
        for (at, one) in swaps.iter().enumerate() {
            let Some((id, costs)) = self.instead(one, sells(at)) else { continue };
            let nights = self.lists.get(&id).map_or(0, |(nights, _)| *nights);
            let found = SwapInstead { swap: at, costs, by_night: by_night(costs, nights) };
            let kept = best.entry(id).or_insert(found);
            if found.costs < kept.costs {
                *kept = found;
            }
        }
        let mut all: Vec<YearHolding> = self.gear.iter().map(|(id, gear)| self.holding(*id, gear, &best)).collect();
        all.retain(|one| one.held.now > Money::ZERO);
        all.sort_by(|a, b| (b.held.costs(), &a.name, a.gear.0).cmp(&(a.held.costs(), &b.name, b.gear.0)));
        all.truncate(MOST);
        all
    }

    fn holding(&self, id: GearId, gear: &Gear, best: &HashMap<GearId, SwapInstead>) -> YearHolding {
        let lists = self.lists.get(&id).map(|(_, lists)| lists.clone()).unwrap_or_default();
        YearHolding {
            gear: id,
            name: gear.name.as_str().to_owned(),
            system: gear.system,
            pieces: gear.count,
            said_on: said_on(gear),
            held: self.held(id, gear),
            may_go: lists.is_empty() || may_be_left_out(gear),
            lists,
            swap: best.get(&id).copied(),
        }
    }

    fn held(&self, id: GearId, gear: &Gear) -> Holding {
        let days = said_on(gear).map_or(0, |on| (self.today - on).num_days());
        let held = Held {
            said: gear.resale.unwrap_or_default().times(gear.count),
            days: u32::try_from(days).unwrap_or(0),
            percent: self.caller.settings.worth_falls_percent.of(gear.system),
            used: gear.nights,
            lasts: gear.identity.lasts_nights,
        };
        held.over(self.lists.get(&id).map_or(0, |(nights, _)| *nights))
    }

    /// The thing that a swap takes off, and what it costs over the year; `None` where a figure is missing, where it puts nothing of the same
    /// sort in its place, where it takes other things too or only some of the pieces, where it acts on fewer lists than have it, or where it
    /// leaves one of them shorter of what its trip asks for.
    fn instead(&self, one: &YearSwap, is_sold: bool) -> Option<(GearId, Money)> {
        let record = &one.swap.swap.value;
        let is_another = matches!(record.kind, SwapKind::Replace | SwapKind::Combine | SwapKind::Make);
        let (_, net) = one.worth.filter(|_| is_another && record.state != SwapState::RuledOut)?;
        let [(line, qty, _)] = record.remove.as_slice() else { return None };
        let id = *self.gear_of.get(line)?;
        let gear = self.gear.get(&id)?;
        let (_, lists) = self.lists.get(&id)?;
        let is_whole = *qty == gear.count && lists.iter().all(|list| one.acts[*list]);
        if record.add.is_empty() || !one.loses.is_empty() || !is_whole {
            return None;
        }
        // What is made is no money again.
        let is_made = record.kind == SwapKind::Make;
        let new = record.add.iter().zip(&one.swap.candidates).filter(|_| !is_made).map(|(&(_, qty, _), candidate)| {
            let candidate = &candidate.value;
            let system = candidate.identity.kind.map_or(gear.system, |kind| kind.system);
            let price = candidate.price.map(|price| price.expected().times(qty)).unwrap_or_default();
            worth_after(price, self.caller.settings.worth_falls_percent.of(system), 365)
        });
        Some((id, swap_costs(net, self.held(id, gear), is_sold, new.sum())))
    }
}

fn said_on(gear: &Gear) -> Option<NaiveDate> {
    DateTime::from_timestamp_micros(gear.resale_at?).map(|at| at.date_naive())
}
