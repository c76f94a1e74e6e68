//! An account as a file. Things, lists and swaps stand in the order in which they were made and have keys by that order, so that a file
//! that was imported into another account is the same when it is read out of that.

use super::file::*;
use super::keys::Keys;
use super::{read_list, read_trips};
use crate::swaps::full_swaps;
use crate::{Caller, ServiceError};
use chrono::{DateTime, NaiveDateTime};
use diesel::MysqlConnection;
use kevyt_core::gear::{Gear, Stated, Weight};
use kevyt_core::quantity::{Mass, Money, PriceRange};
use kevyt_core::swap::Candidate;
use kevyt_store::id::{CandidateId, GearId, KitId};
use kevyt_store::weighings::{self, Weighed, WeighingRecord};
use kevyt_store::{Stored, gear, kits, lists};
use std::collections::{BTreeMap, HashMap};

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
        let swaps = full_swaps(c, caller, list.id)?;
        on_lists.push((list, swaps));
    }
    let candidates: BTreeMap<CandidateId, Candidate> = on_lists
        .iter()
        .flat_map(|(_, swaps)| swaps.iter().flat_map(|swap| &swap.candidates))
        .map(|candidate| (candidate.id, candidate.value.clone()))
        .collect();
    let of_candidates = Keys::new('c', candidates.keys().copied());
    let (mut entries, mut list_ids) = (Vec::new(), Vec::new());
    for (list, swaps) in on_lists {
        list_ids.push(list.id);
        entries.push(read_list::list(c, caller, list, &swaps, (&of_things, &of_candidates))?);
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
