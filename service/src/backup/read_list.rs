//! A list with its lines and swaps, read into an account file.

use super::file::*;
use super::keys::Keys;
use super::read_trips;
use super::trips_file::PackedEntry;
use crate::swaps::FullSwap;
use crate::{Caller, ServiceError};
use diesel::MysqlConnection;
use kevyt_core::list::{Counts, Place};
use kevyt_core::pack::PackingNote;
use kevyt_core::quantity::{Mass, Money};
use kevyt_store::id::{CandidateId, GearId, LineId, ListId, SwapId};
use kevyt_store::lines::{self, Carried, StoredLine};
use kevyt_store::lists::StoredList;
use kevyt_store::walkers::{self, StoredWalker};
use kevyt_store::{kept_plans, packing, swaps};
use std::collections::{HashMap, HashSet};

/// A list, its swaps in the order in which they were made; `keys` are those of the account's things and candidates.
pub(super) fn list(
    c: &mut MysqlConnection,
    caller: Caller,
    list: StoredList,
    swaps: &[FullSwap],
    keys: (&Keys<GearId>, &Keys<CandidateId>),
) -> Result<ListEntry, ServiceError> {
    let (_, to) = walkers::open(c, caller.access, list.id)?;
    let walking = walkers::of_list(c, to)?;
    let packed = packing::of_list(c, to)?;
    let lines = Lines::read(c, caller, list.id, swaps)?;
    let required: Vec<SwapId> = swaps.iter().flat_map(|swap| swap.swap.value.requires.iter().copied()).collect();
    let named = Named {
        gear_of: lines.gear_of(),
        things: keys.0,
        candidates: keys.1,
        swaps: Keys::new('s', swaps.iter().map(|swap| swap.swap.id)),
        names: swaps::names(c, caller.access, &required)?,
    };
    let kept_plans = kept_plans::of_list(c, caller.access, list.id)?.into_iter().map(|kept| KeptPlanEntry {
        name: kept.value.name.as_str().to_owned(),
        swaps: kept.value.swaps.iter().filter_map(|swap| named.swaps.key(*swap)).collect(),
        at: kept.value.kept_at,
    });
    let kept_plans = kept_plans.collect();
    let (packing, history) = (read_trips::run(c, caller, to)?, read_trips::history(c, caller, list.id)?);
    let lines = lines.entries(keys.0, &walking, &packed);
    let walkers = walking
        .into_iter()
        .map(|walker| WalkerEntry { name: walker.value.name, body_mg: walker.value.body.map(Mass::mg) });
    let value = list.value;
    Ok(ListEntry {
        name: value.name.as_str().to_owned(),
        note: value.note,
        target: value.target.map(|(mass, typed)| FigureEntry { mg: mass.mg(), typed }),
        budget_minor: value.budget.map(Money::minor),
        hour_rate_minor: value.hour_rate.minor(),
        requires: value.requires,
        trip: value.trip,
        way: value.way,
        ways: value.ways,
        terms: value.terms,
        silenced: value.silenced,
        known: value.known,
        year_nights: value.year_nights,
        archived: value.archived,
        walkers: walkers.collect(),
        lines,
        swaps: swaps.iter().map(|swap| named.swap(swap)).collect(),
        kept_plans,
        packing,
        history,
    })
}

/// The lines that are on a list, and those that were taken off and that a swap still takes off.
struct Lines {
    on: Vec<StoredLine>,
    off: Vec<(LineId, GearId, Counts)>,
}

impl Lines {
    fn read(c: &mut MysqlConnection, caller: Caller, list: ListId, swaps: &[FullSwap]) -> Result<Lines, ServiceError> {
        let on = lines::of_list(c, caller.access, list)?;
        let named: HashSet<LineId> =
            swaps.iter().flat_map(|swap| swap.swap.value.remove.iter().map(|side| side.0)).collect();
        let mut off = lines::taken_off(c, caller.access, list)?;
        off.retain(|line| named.contains(&line.0));
        Ok(Lines { on, off })
    }

    fn gear_of(&self) -> HashMap<LineId, GearId> {
        let on = self.on.iter().map(|line| (line.id, line.value.gear.id));
        on.chain(self.off.iter().map(|line| (line.0, line.1))).collect()
    }

    fn entries(
        self,
        things: &Keys<GearId>,
        walking: &[StoredWalker],
        packed: &HashMap<LineId, PackingNote>,
    ) -> Vec<LineEntry> {
        let on = self.on.iter().map(|line| {
            let note = packed.get(&line.id);
            let note = note.map(|note| PackedEntry { zone: note.zone, place: note.place, is_in: note.is_in });
            (line.value.gear.id, line.value.counts, line.value.carried, note, false)
        });
        let off = self.off.into_iter().map(|(_, gear, counts)| (gear, counts, Carried::default(), None, true));
        let mut all: Vec<_> = on.chain(off).collect();
        all.sort_by_key(|line| things.place(line.0));
        let entries = all.into_iter().filter_map(|(gear, counts, carrier, packed, off)| {
            let Counts { carried, worn, used_up, apart, left } = counts;
            let gear = things.key(gear)?;
            let walker = carrier.by.and_then(|by| walking.iter().position(|walker| walker.id == by));
            Some(LineEntry { gear, carried, worn, used_up, apart, left, shared: carrier.shared, walker, packed, off })
        });
        entries.collect()
    }
}

/// What the swaps of a list name, with the keys that stand for it in the file.
struct Named<'k> {
    gear_of: HashMap<LineId, GearId>,
    things: &'k Keys<GearId>,
    candidates: &'k Keys<CandidateId>,
    swaps: Keys<SwapId>,
    /// Of swaps that others require, those that are gone too.
    names: HashMap<SwapId, String>,
}

impl Named<'_> {
    fn swap(&self, full: &FullSwap) -> SwapEntry {
        let value = &full.swap.value;
        let side = |what: Option<String>, qty: u32, place: Place| Some(SideEntry { what: what?, qty, place });
        let thing = |line: &LineId| self.gear_of.get(line).and_then(|gear| self.things.key(*gear));
        let comes_off = value.remove.iter().filter_map(|&(line, qty, place)| side(thing(&line), qty, place));
        let goes_on = value.add.iter().filter_map(|&(id, qty, place)| side(self.candidates.key(id), qty, place));
        let keys = |ids: &[SwapId]| {
            let mut ids = ids.to_vec();
            ids.sort_by_key(|id| self.swaps.place(*id));
            ids.into_iter().filter_map(|id| self.swaps.key(id)).collect()
        };
        let gone = value.requires.iter().filter(|id| self.swaps.place(**id).is_none());
        SwapEntry {
            key: self.swaps.key(full.swap.id).unwrap_or_default(),
            name: value.name.as_str().to_owned(),
            kind: value.kind,
            state: value.state,
            remove: comes_off.collect(),
            add: goes_on.collect(),
            delivery_minor: value.delivery.minor(),
            resale_minor: value.resale.minor(),
            sells_needed: value.sells_needed,
            tenth_hours: value.tenth_hours,
            requires: keys(&value.requires),
            requires_gone: gone.filter_map(|id| self.names.get(id).cloned()).collect(),
            excludes: keys(&value.excludes),
            done: value.done.clone().map(|done| done.named(|gear| self.things.key(gear))),
        }
    }
}
