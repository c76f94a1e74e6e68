//! A swap that is done: what goes on becomes gear, what comes off has a fate; and taking that back.

use super::{FullSwap, one};
use crate::fields::{amount, in_day};
use crate::gear::Rewrite;
use crate::lines::{LinePut, place as place_on};
use crate::sheet::base_of;
use crate::weights::rederive;
use crate::{InField, ServiceError, Write};
use chrono::Utc;
use kevyt_core::exchange::read_price;
use kevyt_core::gear::{Gear, Name, Status, System, Weight, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::{Counts, Place};
use kevyt_core::quantity::{Money, PriceRange};
use kevyt_core::swap::{Candidate, SwapKind};
use kevyt_store::event::Event;
use kevyt_store::id::{GearId, KitId, LineId, ListId, SwapId};
use kevyt_store::lines::{self, LineState, StoredLine};
use kevyt_store::swaps::{self, Also, Done, Fate, PriorState, PriorWeight, PutOn, SwapRecord, TakenOff};
use kevyt_store::{StoreError, Stored, gear, kits, lists as store_lists};
use serde::Deserialize;
use utoipa::ToSchema;

/// How a swap was done, as typed; what is left out is as it was planned.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = CompletionIn)]
pub struct Completion {
    /// What was paid for one piece of each thing that goes on, in their order.
    #[serde(default)]
    pub paid: Vec<String>,
    /// Delivery.
    pub delivery: Option<String>,
    /// What becomes of each thing that comes off, in their order.
    #[serde(default)]
    pub fates: Vec<Fate>,
    /// What was got for all that was sold.
    pub got: Option<String>,
    /// Whose it is, of something borrowed or hired: kept in its note.
    pub lender: Option<String>,
    /// Until when, as YYYY-MM-DD.
    pub until: Option<String>,
    /// Other lists of the caller's on which the same is swapped.
    #[serde(default)]
    pub lists: Vec<ListId>,
}

impl Completion {
    /// Whose a borrowed thing is and until when, as its note has it.
    fn terms(&self) -> Result<String, ServiceError> {
        let typed = |text: &Option<String>| text.as_deref().map(str::trim).unwrap_or_default().to_owned();
        let (lender, until) = (typed(&self.lender), typed(&self.until));
        let from = if lender.is_empty() {
            None
        } else {
            Some(format!("from {}", Name::new(&lender).in_field("lender")?.as_str()))
        };
        let until = if until.is_empty() { None } else { Some(format!("until {}", in_day("until", &until)?)) };
        Ok(from.into_iter().chain(until).collect::<Vec<_>>().join(", "))
    }
}

impl Write<'_> {
    /// Does a swap that was read at `version`: its list is as it would be, its candidates are gear to be weighed.
    pub fn do_swap(&mut self, id: SwapId, version: i32, doing: &Completion) -> Result<FullSwap, ServiceError> {
        let FullSwap { swap, candidates, unavailable, resale } = one(self.c, self.caller, id)?;
        let swap = swap.at(version)?;
        if let Some(why) = unavailable {
            return Err(ServiceError::invalid("swap", "not_possible", why.to_string()));
        }
        let mut record = swap.value;
        if record.done.is_some() {
            let detail = format!("{} is done already.", record.name.as_str());
            return Err(ServiceError::invalid("swap", "done", detail));
        }
        self.touch([id])?;
        let currency = self.caller.preferences.currency;
        let base_before_mg = base_of(self.c, self.caller, record.list)?.0.mg();
        let there = lines::of_list(self.c, self.caller.access, record.list)?;
        let fates = fates(&record, resale.brings, &there, doing);
        let got = match &doing.got {
            Some(typed) => amount("got", typed, currency)?,
            None if fates.contains(&Fate::Sold) => resale.brings,
            None => Money::ZERO,
        };
        let line_of = |line: LineId| there.iter().find(|other| other.id == line).ok_or(StoreError::NotFound);
        let is_trimmed = fates.first() == Some(&Fate::Trimmed);
        let (mut gone, mut taken_apart) = (Vec::new(), Vec::new());
        for (at, (&(line, qty, place), fate)) in record.remove.iter().zip(&fates).enumerate() {
            let line = line_of(line)?;
            if *fate != Fate::Trimmed {
                self.take_off(record.list, line, (qty, place), &format!("remove[{at}].qty"))?;
            }
            let becomes =
                candidates.first().filter(|_| *fate == Fate::Trimmed).map(|candidate| &candidate.value.weight);
            let was = self.meets(line.value.gear.id, *fate, qty, becomes)?;
            if *fate == Fate::Trimmed {
                taken_apart = self.take_apart(line.value.gear.id)?;
            }
            gone.push(TakenOff { gear: line.value.gear.id, qty, place, fate: *fate, was });
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
                let candidate = &candidate.value;
                let of_kind = candidate.identity.kind.filter(|kind| !kind.is_none()).map(|kind| kind.system);
                let system = of_kind.or(gone_line.map(|line| line.value.gear.value.system));
                let mut thing = candidate.got(qty, price, record.kind, system.unwrap_or(System::Other));
                if record.kind == SwapKind::Borrow {
                    thing.note = doing.terms()?;
                }
                self.insert_gear(vec![(gear, thing)])?;
            }
            let carried = gone_line.map(|line| line.value.carried);
            place_on(
                self,
                record.list,
                gear,
                LinePut { counts: Counts::in_place(place, qty), carried, version: None },
            )?;
            came.push(PutOn { gear, qty, place, owned });
        }
        let base_after_mg = base_of(self.c, self.caller, record.list)?.0.mg();
        let also = self.on_other_lists(&record, &gone, &came, &doing.lists)?;
        let (at, paid_minor, got_minor) = (Utc::now().naive_utc(), paid.minor(), got.minor());
        let name = record.name.as_str().to_owned();
        let kits = taken_apart;
        record.done = Some(Done { at, paid_minor, got_minor, base_before_mg, base_after_mg, gone, came, kits, also });
        swaps::update(self.c, self.caller.access, id, version, &record)?;
        self.log(Event::SwapDone { swap: name });
        one(self.c, self.caller, id)
    }

    /// Takes back that a swap was done: what came off is on the list again, what went on is out of the inventory, whatever was changed of
    /// it since.
    pub fn undo_swap(&mut self, id: SwapId, version: i32) -> Result<FullSwap, ServiceError> {
        let mut record = swaps::get(self.c, self.caller.access, id)?.at(version)?.value;
        let Some(done) = record.done.take() else {
            let detail = format!("{} is not done.", record.name.as_str());
            return Err(ServiceError::invalid("swap", "not_done", detail));
        };
        self.touch([id])?;
        for PutOn { gear: thing, owned, .. } in &done.came {
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
        for TakenOff { gear: thing, qty, place, fate, was } in &done.gone {
            let Some(now) = gear::several(self.c, self.caller.access, &[*thing])?.pop() else { continue };
            if let Some(was) = was {
                let mut after = now.value.clone();
                if *qty < was.count && *fate != Fate::Trimmed {
                    after.count = after.count.saturating_add(*qty).min(limits::COUNT);
                } else if status_of(*fate) == Some(after.status) {
                    after.status = was.status;
                }
                if let Some(weight) = &was.weight {
                    // As it was: nobody has weighed it, or said it, anew.
                    weight.give_back(&mut after);
                    self.touch([now.id])?;
                    gear::update(self.c, self.caller.access, &[(now.id, now.version, &after)])?;
                    rederive(self, &[now.id])?;
                } else {
                    self.write_gear(vec![Rewrite { id: now.id, version: now.version, before: now.value, after }])?;
                }
            }
            if *fate != Fate::Trimmed
                && let Some(line) = lines::of_gear(self.c, record.list, *thing)?
            {
                let owned = gear::get(self.c, self.caller.access, *thing)?.value.count;
                self.put_on(&line, *qty, *place, owned)?;
            }
        }
        for Also { list, off } in &done.also {
            self.back_on_other_list(*list, off, &done.came)?;
        }
        self.put_together(&done.kits)?;
        swaps::update(self.c, self.caller.access, id, version, &record)?;
        self.log(Event::SwapNotDone { swap: record.name.as_str().to_owned() });
        one(self.c, self.caller, id)
    }

    /// Swaps the same on other lists: what came off is off them too, what went on is on.
    fn on_other_lists(
        &mut self,
        record: &SwapRecord,
        gone: &[TakenOff<GearId>],
        came: &[PutOn<GearId>],
        lists: &[ListId],
    ) -> Result<Vec<Also>, ServiceError> {
        let mut also: Vec<Also> = Vec::new();
        for &list in lists {
            if list == record.list || also.iter().any(|other| other.list == list) {
                let detail = "A list was named twice, or is the one that the swap is of. Name each other list once.";
                return Err(ServiceError::invalid("lists", "named_twice", detail));
            }
            let name = store_lists::get(self.c, self.caller.access, list)?.value.name;
            let there = lines::of_list(self.c, self.caller.access, list)?;
            let mut off = Vec::new();
            let mut carried = None;
            for TakenOff { gear, qty, place, fate, .. } in gone {
                let line = there.iter().find(|line| line.value.gear.id == *gear);
                let from = line.and_then(|line| {
                    let has = |place: &Place| line.value.counts.at(*place) >= *qty;
                    Some(*place).filter(has).or_else(|| Place::COUNTED.into_iter().find(has)).map(|from| (line, from))
                });
                let Some((line, from)) = from else {
                    let detail =
                        format!("{} doesn't have what this swap takes off. Leave that list out.", name.as_str());
                    return Err(ServiceError::invalid("lists", "not_there", detail));
                };
                carried = carried.or(Some(line.value.carried));
                // What was made lighter stays, and is lighter there too.
                if *fate != Fate::Trimmed {
                    self.take_off(list, line, (*qty, from), "lists")?;
                    off.push((*gear, *qty, from));
                }
            }
            let home = gone.first().map(|gone| gone.place);
            let is_on = |gear: &GearId| there.iter().any(|line| line.value.gear.id == *gear);
            for PutOn { gear, qty, place, .. } in came.iter().filter(|came| !is_on(&came.gear)) {
                // In the place of what came off, unless it is put elsewhere.
                let place = if Some(*place) == home { off.first().map_or(*place, |(.., from)| *from) } else { *place };
                place_on(self, list, *gear, LinePut { counts: Counts::in_place(place, *qty), carried, version: None })?;
            }
            also.push(Also { list, off });
        }
        Ok(also)
    }

    /// Takes back what a swap did to another list than its own, while that is there.
    fn back_on_other_list(
        &mut self,
        list: ListId,
        off: &[(GearId, u32, Place)],
        came: &[PutOn<GearId>],
    ) -> Result<(), ServiceError> {
        if matches!(store_lists::get(self.c, self.caller.access, list), Err(StoreError::NotFound)) {
            return Ok(());
        }
        for PutOn { gear, .. } in came.iter().filter(|came| came.owned) {
            if let Some(line) = lines::of_gear(self.c, list, *gear)?.filter(|line| line.is_on) {
                self.touch([line.id])?;
                lines::remove(self.c, line.id, line.version)?;
            }
        }
        for (thing, qty, place) in off {
            let owned = gear::several(self.c, self.caller.access, &[*thing])?.pop();
            if let Some((line, owned)) = lines::of_gear(self.c, list, *thing)?.zip(owned) {
                self.put_on(&line, *qty, *place, owned.value.count)?;
            }
        }
        Ok(())
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

    /// Takes pieces off a line; a line without a piece goes.
    fn take_off(
        &mut self,
        list: ListId,
        line: &StoredLine,
        (qty, place): (u32, Place),
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

    /// Puts pieces on a line, no more than are owned and not on it yet.
    fn put_on(&mut self, line: &LineState, qty: u32, place: Place, owned: u32) -> Result<(), ServiceError> {
        let counts = if line.is_on { line.counts } else { Counts::default() };
        let more = qty.min(owned.saturating_sub(counts.pieces()));
        let counts = counts.with(place, counts.at(place) + more);
        if more == 0 || counts == line.counts && line.is_on {
            return Ok(());
        }
        self.touch([line.id])?;
        Ok(lines::update(self.c, line.id, line.version, counts, line.carried)?)
    }

    /// Takes the kits of a thing apart: what they weighed says nothing of it any more.
    fn take_apart(&mut self, thing: GearId) -> Result<Vec<KitId>, ServiceError> {
        let of_thing = kits::containing(self.c, self.caller.access, &[thing])?;
        for kit in kits::all(self.c, self.caller.access, Some(&of_thing))? {
            self.remove_kit(kit.id, kit.version)?;
        }
        Ok(of_thing)
    }

    fn put_together(&mut self, of: &[KitId]) -> Result<(), ServiceError> {
        self.touch(of.iter().copied())?;
        for kit in of {
            kits::bring_back(self.c, self.caller.access, *kit)?;
        }
        let parts = kits::parts_of(self.c, self.caller.access, of)?;
        rederive(self, &parts)
    }

    /// Lets a thing meet its fate; how it stood before, if that changes it.
    fn meets(
        &mut self,
        id: GearId,
        fate: Fate,
        qty: u32,
        becomes: Option<&Option<Weight>>,
    ) -> Result<Option<PriorState>, ServiceError> {
        let now = gear::get(self.c, self.caller.access, id)?;
        let mut after = now.value.clone();
        match (fate, status_of(fate)) {
            // One that nobody knows yet is no reason to forget the one before. What the maker says is not of it any more, and no maker says what
            // it weighs now.
            (Fate::Trimmed, _) => {
                let guess = |weight: Weight| match weight.source {
                    WeightSource::Maker => Weight { source: WeightSource::Estimate, ..weight },
                    _ => weight,
                };
                after.weight = becomes.cloned().flatten().map(guess).or(after.weight);
                after.claimed = None;
            }
            (_, None) => return Ok(None),
            // Of several pieces those that stay are still owned.
            (_, Some(_)) if qty < after.count => after.count -= qty,
            (_, Some(status)) => after.status = status,
        }
        let weight = (fate == Fate::Trimmed).then(|| PriorWeight::of(&now.value));
        let was = PriorState { status: now.value.status, count: now.value.count, weight };
        self.write_gear(vec![Rewrite { id, version: now.version, before: now.value, after }])?;
        Ok(Some(was))
    }
}

/// The status of a thing that has met its fate, if that changes it.
fn status_of(fate: Fate) -> Option<Status> {
    match fate {
        Fate::Sold => Some(Status::Sold),
        Fate::Given => Some(Status::Given),
        Fate::WornOut => Some(Status::WornOut),
        Fate::Kept | Fate::Elsewhere | Fate::Trimmed => None,
    }
}

/// What becomes of each thing that comes off: as said, or as it was planned.
fn fates(record: &SwapRecord, brings: Money, there: &[StoredLine], doing: &Completion) -> Vec<Fate> {
    // A trim of all its pieces makes the thing itself lighter.
    let is_whole = |&(line, qty, _): &(LineId, u32, Place)| {
        there.iter().any(|other| other.id == line && other.value.gear.value.count == qty)
    };
    let planned = match (record.kind, record.remove.as_slice(), record.add.as_slice()) {
        (SwapKind::Trim, [side], [_]) if is_whole(side) => Fate::Trimmed,
        _ if brings > Money::ZERO => Fate::Sold,
        _ => Fate::Kept,
    };
    let of = |at: usize| match (planned, doing.fates.get(at)) {
        (Fate::Trimmed, _) | (_, None | Some(Fate::Trimmed)) => planned,
        (_, Some(said)) => *said,
    };
    (0..record.remove.len()).map(of).collect()
}
