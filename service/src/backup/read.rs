//! An account as a file. Things, lists and swaps stand in the order in which they were made and have keys by that order, so that a file
//! that was laid into another account is the same when it is read out of that.

use super::file::*;
use super::keys::Keys;
use super::read_trips;
use super::trips_file::PackedEntry;
use crate::swaps::{FullSwap, full_swaps};
use crate::{Caller, ServiceError};
use chrono::{DateTime, NaiveDateTime};
use diesel::MysqlConnection;
use kevyt_core::gear::{Gear, Stated, Weight};
use kevyt_core::list::{Counts, Place};
use kevyt_core::pack::PackingNote;
use kevyt_core::quantity::{Mass, Money, PriceRange};
use kevyt_core::swap::Candidate;
use kevyt_store::id::{CandidateId, GearId, KitId, LineId, SwapId};
use kevyt_store::lists::{self, PackList};
use kevyt_store::walkers::{self, StoredWalker};
use kevyt_store::weighings::{self, Weighed, WeighingRecord};
use kevyt_store::{Stored, gear, kept_plans, kits, lines, packing, swaps};
use std::collections::{BTreeMap, HashMap, HashSet};

/// Everything that an account holds.
pub(super) fn account(c: &mut MysqlConnection, caller: Caller) -> Result<AccountFile, ServiceError> {
    let mut things = gear::all(c, caller.access)?;
    things.sort_by_key(|thing| thing.id);
    let mut kits = kits::all(c, caller.access, None)?;
    kits.sort_by_key(|kit| kit.id);
    let of_things = Keys::new('g', things.iter().map(|thing| thing.id));
    let (ids, kit_ids): (Vec<GearId>, Vec<KitId>) =
        (things.iter().map(|thing| thing.id).collect(), kits.iter().map(|kit| kit.id).collect());
    let mut of_gear: HashMap<GearId, Vec<WeighingEntry>> = HashMap::new();
    let mut of_kit: HashMap<KitId, Vec<WeighingEntry>> = HashMap::new();
    for record in weighings::of(c, caller.access, &ids, &kit_ids)? {
        let entries = match record.of {
            Weighed::Gear(id) => of_gear.entry(id).or_default(),
            Weighed::Kit(id) => of_kit.entry(id).or_default(),
        };
        entries.push(weighing_entry(record));
    }
    let mut on_lists = Vec::new();
    for list in lists::all(c, caller.access)? {
        on_lists.push((full_swaps(c, caller, list.id)?, list));
    }
    let candidates: BTreeMap<CandidateId, Candidate> = on_lists
        .iter()
        .flat_map(|(swaps, _)| swaps.iter().flat_map(|swap| &swap.candidates))
        .map(|candidate| (candidate.id, candidate.value.clone()))
        .collect();
    let of_candidates = Keys::new('c', candidates.keys().copied());
    let (mut entries, mut list_ids) = (Vec::new(), Vec::new());
    for (swaps, list) in on_lists {
        list_ids.push(list.id);
        let (_, to) = walkers::open(c, caller.access, list.id)?;
        let walking = walkers::of_list(c, to)?;
        let packed = packing::of_list(c, to)?;
        let lines = line_entries(c, caller, &list, &swaps, &of_things, (&walking, &packed))?;
        let walkers = walking
            .into_iter()
            .map(|walker| WalkerEntry { name: walker.value.name, body_mg: walker.value.body.map(Mass::mg) });
        let walkers = walkers.collect();
        let required = swaps.iter().flat_map(|swap| swap.swap.value.requires.iter().copied());
        let names = swaps::names(c, caller.access, &required.collect::<Vec<_>>())?;
        let of_swaps = Keys::new('s', swaps.iter().map(|swap| swap.swap.id));
        let swap = |swap| swap_entry(swap, &lines.gear_of, &of_things, &of_candidates, &of_swaps, &names);
        let swaps = swaps.iter().map(swap).collect();
        let kept = kept_plans::of_list(c, caller.access, list.id)?.into_iter().map(|kept| KeptPlanEntry {
            name: kept.value.name.as_str().to_owned(),
            swaps: kept.value.swaps.iter().filter_map(|swap| of_swaps.key(*swap)).collect(),
            at: kept.value.kept_at,
        });
        let kept_plans = kept.collect();
        let (packing, history) = (read_trips::run(c, caller, to)?, read_trips::history(c, caller, list.id)?);
        let entry = list_entry(list.value, walkers, lines.entries, swaps);
        entries.push(ListEntry { kept_plans, packing, history, ..entry });
    }
    let kit_entry = |kit: Stored<KitId, kits::Kit>| {
        // Of a kit that lacks a part, the weighings say nothing of what is left; a kit of one thing is none.
        let weighings = of_kit.remove(&kit.id).filter(|_| kit.value.gone == 0).unwrap_or_default();
        let mut parts = kit.value.parts;
        parts.sort_by_key(|part| of_things.place(part.0));
        let parts = parts.into_iter().filter_map(|(id, count)| Some(PartEntry { gear: of_things.key(id)?, count }));
        let parts: Vec<PartEntry> = parts.collect();
        (parts.len() > 1).then(|| KitEntry { name: kit.value.name.as_str().to_owned(), parts, weighings })
    };
    let kits = kits.into_iter().filter_map(kit_entry).collect();
    let trips = read_trips::trips(c, caller, &list_ids, &of_things)?;
    let silenced = read_trips::silenced(c, caller, &of_things)?;
    let gear = things.into_iter().filter_map(|thing| {
        let weighings = of_gear.remove(&thing.id).unwrap_or_default();
        Some(gear_entry(of_things.key(thing.id)?, thing.value, weighings))
    });
    Ok(AccountFile {
        format: FORMAT.to_owned(),
        currency: caller.preferences.currency.code().to_owned(),
        gear: gear.collect(),
        kits,
        candidates: candidates
            .into_iter()
            .filter_map(|(id, candidate)| Some(candidate_entry(of_candidates.key(id)?, candidate)))
            .collect(),
        lists: entries,
        trips,
        silenced,
    })
}

/// The lines of a list, and the gear of each.
struct Lines {
    entries: Vec<LineEntry>,
    gear_of: HashMap<LineId, GearId>,
}

/// The lines that are on a list, and those that were taken off and that a swap still takes off.
fn line_entries(
    c: &mut MysqlConnection,
    caller: Caller,
    list: &lists::StoredList,
    swaps: &[FullSwap],
    of_things: &Keys<GearId>,
    (walking, packed): (&[StoredWalker], &HashMap<LineId, PackingNote>),
) -> Result<Lines, ServiceError> {
    let on = lines::of_list(c, caller.access, list.id)?;
    let named: HashSet<LineId> =
        swaps.iter().flat_map(|swap| swap.swap.value.remove.iter().map(|side| side.0)).collect();
    let mut off = lines::taken_off(c, caller.access, list.id)?;
    off.retain(|line| named.contains(&line.0));
    let mut gear_of: HashMap<LineId, GearId> = on.iter().map(|line| (line.id, line.value.gear.id)).collect();
    gear_of.extend(off.iter().map(|line| (line.0, line.1)));
    let on = on.iter().map(|line| {
        let said =
            packed.get(&line.id).map(|said| PackedEntry { zone: said.zone, place: said.place, is_in: said.is_in });
        (line.value.gear.id, line.value.counts, line.value.carried, said, false)
    });
    let off = off.into_iter().map(|(_, gear, counts)| (gear, counts, lines::Carried::default(), None, true));
    let mut all: Vec<_> = on.chain(off).collect();
    all.sort_by_key(|line| of_things.place(line.0));
    let entries = all.into_iter().filter_map(|(gear, counts, carrier, packed, off)| {
        let Counts { carried, worn, used_up, apart, left } = counts;
        let gear = of_things.key(gear)?;
        let walker = carrier.by.and_then(|by| walking.iter().position(|walker| walker.id == by));
        Some(LineEntry { gear, carried, worn, used_up, apart, left, shared: carrier.shared, walker, packed, off })
    });
    Ok(Lines { entries: entries.collect(), gear_of })
}

fn weight_entry(weight: Weight) -> WeightEntry {
    let band = weight.band;
    let is_even = |band: &kevyt_core::gear::Band| band.low == Mass::ZERO - band.high;
    WeightEntry {
        mg: weight.unit.mg(),
        typed: weight.typed,
        source: weight.source,
        half_width_mg: band.filter(is_even).map(|band| band.high.mg()),
        doubt: band
            .filter(|band| !is_even(band))
            .map(|band| DoubtEntry { below_mg: -band.low.mg(), above_mg: band.high.mg() }),
    }
}

fn price_entry(price: PriceRange) -> PriceEntry {
    PriceEntry { low_minor: price.low().minor(), high_minor: price.high().minor() }
}

fn weighing_entry(record: WeighingRecord) -> WeighingEntry {
    WeighingEntry {
        total_mg: record.weighing.total.mg(),
        pieces: record.weighing.pieces,
        step_mg: record.weighing.step.mg(),
        typed: record.typed,
        scale: record.scale,
        at: record.at,
    }
}

fn stated_entry(stated: Stated) -> StatedEntry {
    StatedEntry { weight: stated.weight.map(weight_entry), at: time(stated.at) }
}

/// A time of core's clock.
fn time(micros: i64) -> NaiveDateTime {
    DateTime::from_timestamp_micros(micros).unwrap_or(DateTime::UNIX_EPOCH).naive_utc()
}

fn gear_entry(key: String, gear: Gear, weighings: Vec<WeighingEntry>) -> GearEntry {
    GearEntry {
        key,
        name: gear.name.as_str().to_owned(),
        system: gear.system,
        count: gear.count,
        weight: gear.weight.map(weight_entry),
        stated: gear.stated.map(stated_entry),
        claimed: gear.claimed.map(|claim| FigureEntry { mg: claim.unit.mg(), typed: claim.typed }),
        paid: gear.paid.map(price_entry),
        acquired: gear.acquired,
        resale_minor: gear.resale.map(Money::minor),
        resale_at: gear.resale_at.map(time),
        status: gear.status,
        kept_at: gear.kept_at,
        note: gear.note,
        tags: gear.tags.words().to_vec(),
        nights: gear.nights,
        provides: gear.provides,
        needs: gear.needs,
        facts: gear.facts,
        identity: gear.identity,
        weighings,
    }
}

fn candidate_entry(key: String, candidate: Candidate) -> CandidateEntry {
    CandidateEntry {
        key,
        name: candidate.name.as_str().to_owned(),
        weight: candidate.weight.map(weight_entry),
        price: candidate.price.map(price_entry),
        seen: candidate.seen,
        offer: candidate.offer,
        provides: candidate.provides,
        needs: candidate.needs,
        facts: candidate.facts,
        tags: candidate.tags.words().to_vec(),
        identity: candidate.identity,
    }
}

fn swap_entry(
    full: &FullSwap,
    gear_of: &HashMap<LineId, GearId>,
    of_things: &Keys<GearId>,
    of_candidates: &Keys<CandidateId>,
    of_swaps: &Keys<SwapId>,
    names: &HashMap<SwapId, String>,
) -> SwapEntry {
    let value = &full.swap.value;
    let side = |what: Option<String>, qty: u32, place: Place| Some(SideEntry { what: what?, qty, place });
    let comes_off = value
        .remove
        .iter()
        .filter_map(|&(line, qty, place)| side(gear_of.get(&line).and_then(|gear| of_things.key(*gear)), qty, place));
    let goes_on = value.add.iter().filter_map(|&(id, qty, place)| side(of_candidates.key(id), qty, place));
    let keys = |ids: &[SwapId]| {
        let mut ids = ids.to_vec();
        ids.sort_by_key(|id| of_swaps.place(*id));
        ids.into_iter().filter_map(|id| of_swaps.key(id)).collect()
    };
    let gone = value.requires.iter().filter(|id| of_swaps.place(**id).is_none());
    SwapEntry {
        key: of_swaps.key(full.swap.id).unwrap_or_default(),
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
        requires_gone: gone.filter_map(|id| names.get(id).cloned()).collect(),
        excludes: keys(&value.excludes),
        done: value.done.clone().map(|done| done.named(|gear| of_things.key(gear))),
    }
}

fn list_entry(list: PackList, walkers: Vec<WalkerEntry>, lines: Vec<LineEntry>, swaps: Vec<SwapEntry>) -> ListEntry {
    ListEntry {
        name: list.name.as_str().to_owned(),
        note: list.note,
        target: list.target.map(|(mass, typed)| FigureEntry { mg: mass.mg(), typed }),
        budget_minor: list.budget.map(Money::minor),
        hour_rate_minor: list.hour_rate.minor(),
        requires: list.requires,
        trip: list.trip,
        way: list.way,
        ways: list.ways,
        terms: list.terms,
        silenced: list.silenced,
        known: list.known,
        year_nights: list.year_nights,
        archived: list.archived,
        walkers,
        lines,
        swaps,
        kept_plans: Vec::new(),
        packing: None,
        history: Vec::new(),
    }
}
