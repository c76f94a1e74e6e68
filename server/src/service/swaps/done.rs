//! Doing a swap: what goes on becomes gear, what comes off has a fate; and taking that back.

use super::typed::amount;
use super::{FullSwap, one};
use crate::service::gear::Rewrite;
use crate::service::sheet::Laid;
use crate::service::{InField, ServiceError, Write, lists as list_rules};
use crate::store::id::{GearId, LineId, ListId, SwapId};
use crate::store::lines::{self, LineState, StoredLine};
use crate::store::swaps::{self, Came, Done, Fate, Gone, SwapRecord, Was};
use crate::store::{StoreError, Stored, gear, walkers};
use chrono::Utc;
use kevyt_core::exchange::{propose, read_price};
use kevyt_core::gear::{Acquired, Claim, Gear, Status, Weight, WeightSource};
use kevyt_core::list::{Counts, Place, added_up};
use kevyt_core::quantity::{Mass, Money, PriceRange};
use kevyt_core::swap::{Candidate, SwapKind};

/// How a swap was done, as typed; what is left out is as it was planned.
#[derive(Debug, Clone, Default)]
pub struct Doing {
    /// What was paid for one piece of each thing that goes on, in their order.
    pub paid: Vec<String>,
    /// Delivery.
    pub delivery: Option<String>,
    /// What becomes of each thing that comes off, in their order.
    pub fates: Vec<Fate>,
    /// What was got for all that was sold.
    pub got: Option<String>,
}

impl Write<'_> {
    /// Does a swap that was read at `version`: its list is as it would be, its candidates are gear to be weighed.
    pub fn do_swap(&mut self, id: SwapId, version: i32, doing: &Doing) -> Result<FullSwap, ServiceError> {
        let FullSwap { swap, candidates, unavailable } = one(self.c, self.caller, id)?;
        if swap.version != version {
            return Err(StoreError::Stale(swap.version).into());
        }
        if let Some(why) = unavailable {
            return Err(ServiceError::invalid("swap", "not_possible", why));
        }
        let mut record = swap.value;
        if record.done.is_some() {
            let detail = format!("{} is done already.", record.name.as_str());
            return Err(ServiceError::invalid("swap", "done", detail));
        }
        self.touch([id])?;
        let currency = self.caller.preferences.currency;
        let base_before_mg = self.base_of(record.list)?.mg();
        let fates = fates(&record, doing);
        let got = match &doing.got {
            Some(typed) => amount("got", typed, currency)?,
            None if fates.contains(&Fate::Sold) => record.resale,
            None => Money::ZERO,
        };
        let there = lines::of_list(self.c, self.caller.access, record.list)?;
        let line_of = |line: LineId| there.iter().find(|other| other.id == line).ok_or(StoreError::NotFound);
        let is_trimmed = fates.first() == Some(&Fate::Trimmed);
        let mut gone = Vec::new();
        for (at, (&(line, qty, place), fate)) in record.remove.iter().zip(&fates).enumerate() {
            let line = line_of(line)?;
            if *fate != Fate::Trimmed {
                self.take_off(record.list, line, qty, place, &format!("remove[{at}].qty"))?;
            }
            let becomes =
                candidates.first().filter(|_| *fate == Fate::Trimmed).map(|candidate| &candidate.value.weight);
            let was = self.meets(line.value.gear.id, *fate, qty, becomes)?;
            gone.push(Gone { gear: line.value.gear.id, qty, place, fate: *fate, was });
        }
        let mut paid = match &doing.delivery {
            Some(typed) => amount("delivery", typed, currency)?,
            None => record.delivery,
        };
        let mut came = Vec::new();
        for (at, (&(_, qty, place), candidate)) in record.add.iter().zip(&candidates).enumerate() {
            let price = match doing.paid.get(at).filter(|typed| !typed.trim().is_empty()) {
                Some(typed) => read_price(typed, currency).in_field(&format!("paid[{at}]"))?,
                None => PriceRange::exact(candidate.value.price.map(PriceRange::expected).unwrap_or_default()),
            };
            paid = paid + price.expected().times(qty);
            if is_trimmed {
                continue;
            }
            let gone_line = record.remove.get(at).or(record.remove.first()).map(|side| line_of(side.0)).transpose()?;
            let at_home = self.at_home(&there, &candidate.value, qty)?;
            let owned = at_home.is_some();
            let gear = at_home.unwrap_or_else(GearId::fresh);
            if !owned {
                let gone = gone_line.map(|line| &line.value.gear.value);
                let thing = became(&candidate.value, qty, price, record.kind, gone);
                self.insert_gear(vec![(gear, thing)])?;
            }
            let carried = gone_line.map(|line| line.value.carried);
            list_rules::place(self, record.list, gear, Counts::in_place(place, qty), carried, None)?;
            came.push(Came { gear, qty, place, owned });
        }
        let base_after_mg = self.base_of(record.list)?.mg();
        let (at, paid_minor, got_minor) = (Utc::now().naive_utc(), paid.minor(), got.minor());
        let name = record.name.as_str().to_owned();
        record.done = Some(Done { at, paid_minor, got_minor, base_before_mg, base_after_mg, gone, came });
        swaps::update(self.c, self.caller.access, id, version, &record)?;
        self.describe(format!("{name} done."));
        one(self.c, self.caller, id)
    }

    /// Takes back that a swap was done: what came off is on the list again, what went on is out of the inventory, whatever was changed of
    /// it since.
    pub fn undo_swap(&mut self, id: SwapId, version: i32) -> Result<FullSwap, ServiceError> {
        let mut record = swaps::get(self.c, self.caller.access, id)?.value;
        let Some(done) = record.done.take() else {
            let detail = format!("{} is not done.", record.name.as_str());
            return Err(ServiceError::invalid("swap", "not_done", detail));
        };
        self.touch([id])?;
        for Came { gear: thing, owned, .. } in &done.came {
            if *owned {
                let line = lines::of_gear(self.c, record.list, *thing)?.filter(|line| line.is_on);
                if let Some(line) = line {
                    self.touch([line.id])?;
                    lines::remove(self.c, line.id, line.version)?;
                }
            } else if let Some(thing) = gear::several(self.c, self.caller.access, &[*thing])?.pop() {
                self.remove_gear(thing.id, thing.version)?;
            }
        }
        for Gone { gear: thing, qty, place, fate, was } in &done.gone {
            let Some(now) = gear::several(self.c, self.caller.access, &[*thing])?.pop() else { continue };
            if let Some(was) = was {
                let mut after = now.value.clone();
                after.status = was.status;
                after.count = after.count.max(was.count);
                if *fate == Fate::Trimmed {
                    after.weight = was.weight.as_ref().map(|(mg, typed, source)| Weight {
                        unit: Mass::from_mg(*mg),
                        typed: typed.clone(),
                        source: *source,
                        band: None,
                    });
                }
                self.write_gear(vec![Rewrite { id: now.id, version: now.version, before: now.value, after }])?;
            }
            if *fate != Fate::Trimmed
                && let Some(line) = lines::of_gear(self.c, record.list, *thing)?
            {
                self.put_on(&line, *qty, *place)?;
            }
        }
        swaps::update(self.c, self.caller.access, id, version, &record)?;
        self.describe(format!("{} no longer done.", record.name.as_str()));
        one(self.c, self.caller, id)
    }

    /// The thing at home that a candidate is: of its name, not on the list, with as many pieces, where the candidate costs nothing.
    fn at_home(&mut self, on: &[StoredLine], candidate: &Candidate, qty: u32) -> Result<Option<GearId>, ServiceError> {
        if candidate.price.is_none_or(|price| price.high() > Money::ZERO) {
            return Ok(None);
        }
        let shelf = gear::shelf(self.c, self.caller.access)?;
        let is_it = |thing: &&Stored<GearId, Gear>| {
            let is_off = on.iter().all(|line| line.value.gear.id != thing.id);
            is_off && thing.value.name == candidate.name && thing.value.count >= qty
        };
        Ok(shelf.iter().find(is_it).map(|thing| thing.id))
    }

    /// The base weight of a list of the caller's.
    fn base_of(&mut self, list: ListId) -> Result<Mass, ServiceError> {
        let (_, to) = walkers::open(self.c, self.caller.access, list)?;
        let laid = Laid::out(self.c, self.caller, to)?;
        Ok(added_up(laid.mine().iter().map(|thing| &thing.line), &laid.kits).0.base)
    }

    /// Takes pieces off a line; a line without a piece goes.
    fn take_off(
        &mut self,
        list: ListId,
        line: &StoredLine,
        qty: u32,
        place: Place,
        field: &str,
    ) -> Result<(), ServiceError> {
        let now = lines::of_gear(self.c, list, line.value.gear.id)?.ok_or(StoreError::NotFound)?;
        let Some(left) = now.counts.at(place).checked_sub(qty) else {
            let detail = format!(
                "{} of {} are taken off and {} are there. Change the swap, or the list.",
                qty,
                line.value.gear.value.name.as_str(),
                now.counts.at(place)
            );
            return Err(ServiceError::invalid(field, "more_than_there", detail));
        };
        let counts = now.counts.with(place, left);
        self.touch([now.id])?;
        lines::update(self.c, now.id, now.version, counts, now.carried)?;
        if counts.pieces() == 0 {
            lines::remove(self.c, now.id, now.version + 1)?;
        }
        Ok(())
    }

    fn put_on(&mut self, line: &LineState, qty: u32, place: Place) -> Result<(), ServiceError> {
        let counts = if line.is_on { line.counts } else { Counts::default() };
        let counts = counts.with(place, counts.at(place) + qty);
        self.touch([line.id])?;
        Ok(lines::update(self.c, line.id, line.version, counts, line.carried)?)
    }

    /// Lets a thing meet its fate; how it stood before, if that changes it.
    fn meets(
        &mut self,
        id: GearId,
        fate: Fate,
        qty: u32,
        becomes: Option<&Option<Weight>>,
    ) -> Result<Option<Was>, ServiceError> {
        let now = gear::get(self.c, self.caller.access, id)?;
        let mut after = now.value.clone();
        let status = match fate {
            Fate::Kept | Fate::Elsewhere => return Ok(None),
            Fate::Trimmed => {
                after.weight = becomes.cloned().flatten();
                after.status
            }
            Fate::Sold => Status::Sold,
            Fate::Given => Status::Given,
            Fate::WornOut => Status::WornOut,
        };
        // Of several pieces those that stay are still owned.
        if fate != Fate::Trimmed && qty < after.count {
            after.count -= qty;
        } else {
            after.status = status;
        }
        let weight = now.value.weight.as_ref().map(|weight| (weight.unit.mg(), weight.typed.clone(), weight.source));
        let was = Was { status: now.value.status, count: now.value.count, weight };
        self.write_gear(vec![Rewrite { id, version: now.version, before: now.value, after }])?;
        Ok(Some(was))
    }
}

/// What becomes of each thing that comes off: as said, or as it was planned.
fn fates(record: &SwapRecord, doing: &Doing) -> Vec<Fate> {
    let planned = match record.kind {
        SwapKind::Trim if record.remove.len() == 1 && record.add.len() == 1 => Fate::Trimmed,
        _ if record.resale > Money::ZERO => Fate::Sold,
        _ => Fate::Kept,
    };
    let of = |at: usize| doing.fates.get(at).copied().unwrap_or(planned);
    let all = (0..record.remove.len()).map(of);
    // Only what a trim makes lighter is the same thing after.
    all.map(|fate| if fate == Fate::Trimmed && planned != Fate::Trimmed { Fate::Kept } else { fate }).collect()
}

/// The thing that a candidate becomes, in the system of what it takes the place of.
fn became(candidate: &Candidate, qty: u32, price: PriceRange, kind: SwapKind, gone: Option<&Gear>) -> Gear {
    let mut thing = Gear::named(candidate.name.clone());
    let proposed = || propose(candidate.name.as_str()).map(|proposal| proposal.system);
    thing.system = gone.map(|gone| gone.system).or_else(proposed).unwrap_or(thing.system);
    thing.count = qty;
    thing.weight.clone_from(&candidate.weight);
    // The maker's word stays beside what one's own scale will say.
    let claim = candidate.weight.as_ref().filter(|weight| weight.source == WeightSource::Maker);
    thing.claimed = claim.map(|weight| Claim { unit: weight.unit, typed: weight.typed.clone() });
    thing.paid = Some(price);
    thing.acquired = if kind == SwapKind::Make { Acquired::Made } else { Acquired::New };
    thing.provides.clone_from(&candidate.provides);
    thing.needs.clone_from(&candidate.needs);
    thing.facts = candidate.facts;
    thing
}
