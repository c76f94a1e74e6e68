//! An account as a file.

use super::file::*;
use crate::service::{Caller, ServiceError};
use crate::store::id::{CandidateId, GearId, KitId, LineId, SwapId};
use crate::store::lists::{self, PackList, StoredLine};
use crate::store::swaps::{self, SwapRecord};
use crate::store::weighings::{self, Weighed, WeighingRecord};
use crate::store::{Stored, candidates, gear, kits};
use diesel::MysqlConnection;
use kevyt_core::gear::{Gear, Weight};
use kevyt_core::list::Place;
use kevyt_core::quantity::{Mass, Money, PriceRange};
use kevyt_core::swap::Candidate;
use std::collections::HashMap;

/// Everything that an account holds.
pub(super) fn account(c: &mut MysqlConnection, caller: Caller) -> Result<AccountFile, ServiceError> {
    let stored = gear::all(c, caller.account)?;
    let kits = kits::all(c, caller.account, None)?;
    let (ids, kit_ids): (Vec<GearId>, Vec<KitId>) =
        (stored.iter().map(|thing| thing.id).collect(), kits.iter().map(|kit| kit.id).collect());
    let mut of_gear: HashMap<GearId, Vec<WeighingEntry>> = HashMap::new();
    let mut of_kit: HashMap<KitId, Vec<WeighingEntry>> = HashMap::new();
    for record in weighings::of(c, caller.account, &ids, &kit_ids)? {
        let entries = match record.of {
            Weighed::Gear(id) => of_gear.entry(id).or_default(),
            Weighed::Kit(id) => of_kit.entry(id).or_default(),
        };
        entries.push(weighing_entry(record));
    }
    let mut file = AccountFile {
        format: FORMAT.to_owned(),
        currency: caller.preferences.currency.code().to_owned(),
        gear: Vec::new(),
        kits: Vec::new(),
        candidates: Vec::new(),
        lists: Vec::new(),
    };
    for list in lists::all(c, caller.account)? {
        let lines = lists::lines(c, caller.account, list.id)?;
        let swaps = swaps::of_list(c, caller.account, list.id)?;
        file.lists.push(list_entry(list.value, &lines, swaps));
    }
    let mut wanted: Vec<CandidateId> = Vec::new();
    for side in file.lists.iter().flat_map(|list| &list.swaps).flat_map(|swap| &swap.add) {
        wanted.extend(uuid::Uuid::parse_str(&side.what).ok().map(CandidateId));
    }
    let mut candidates: Vec<_> = candidates::by_id(c, caller.account, &wanted)?.into_values().collect();
    candidates.sort_by_key(|candidate| candidate.id);
    file.candidates = candidates.into_iter().map(candidate_entry).collect();
    file.kits = kits
        .into_iter()
        .map(|kit| KitEntry {
            name: kit.value.name.as_str().to_owned(),
            parts: kit
                .value
                .parts
                .iter()
                .map(|(id, count)| PartEntry { gear: id.to_string(), count: *count })
                .collect(),
            // In a kit that lacks a part, the weighings say nothing of what is left.
            weighings: of_kit.remove(&kit.id).filter(|_| kit.value.gone == 0).unwrap_or_default(),
        })
        .collect();
    file.gear = stored
        .into_iter()
        .map(|thing| {
            let weighings = of_gear.remove(&thing.id).unwrap_or_default();
            gear_entry(thing, weighings)
        })
        .collect();
    Ok(file)
}

fn weight_entry(weight: Weight) -> WeightEntry {
    let half_width_mg = weight.half_width.map(Mass::mg);
    WeightEntry { mg: weight.unit.mg(), typed: weight.typed, source: weight.source, half_width_mg }
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

fn gear_entry(thing: Stored<GearId, Gear>, weighings: Vec<WeighingEntry>) -> GearEntry {
    let gear = thing.value;
    GearEntry {
        key: thing.id.to_string(),
        name: gear.name.as_str().to_owned(),
        system: gear.system,
        count: gear.count,
        weight: gear.weight.map(weight_entry),
        claimed: gear.claimed.map(|claim| FigureEntry { mg: claim.unit.mg(), typed: claim.typed }),
        paid: gear.paid.map(price_entry),
        acquired: gear.acquired,
        resale_minor: gear.resale.map(Money::minor),
        status: gear.status,
        kept_at: gear.kept_at,
        tags: gear.tags.words().to_vec(),
        nights: gear.nights,
        provides: gear.provides,
        needs: gear.needs,
        weighings,
    }
}

fn candidate_entry(stored: Stored<CandidateId, Candidate>) -> CandidateEntry {
    let candidate = stored.value;
    CandidateEntry {
        key: stored.id.to_string(),
        name: candidate.name.as_str().to_owned(),
        weight: candidate.weight.map(weight_entry),
        price: candidate.price.map(price_entry),
        provides: candidate.provides,
        needs: candidate.needs,
    }
}

fn list_entry(list: PackList, lines: &[StoredLine], swaps: Vec<Stored<SwapId, SwapRecord>>) -> ListEntry {
    let gear_of: HashMap<LineId, GearId> = lines.iter().map(|line| (line.id, line.value.gear.id)).collect();
    let side = |what: String, qty: u32, place: Place| SideEntry { what, qty, place };
    let keys = |ids: &[SwapId]| ids.iter().map(ToString::to_string).collect();
    // A swap whose line is hidden with its gear is hidden too, and so left out.
    let shown = swaps.into_iter().filter(|swap| swap.value.remove.iter().all(|(line, ..)| gear_of.contains_key(line)));
    ListEntry {
        name: list.name.as_str().to_owned(),
        note: list.note,
        target: list.target.map(|(mass, typed)| FigureEntry { mg: mass.mg(), typed }),
        budget_minor: list.budget.map(Money::minor),
        hour_rate_minor: list.hour_rate.minor(),
        requires: list.requires,
        lines: lines
            .iter()
            .map(|line| LineEntry {
                gear: line.value.gear.id.to_string(),
                carried: line.value.counts.carried,
                worn: line.value.counts.worn,
                used_up: line.value.counts.used_up,
            })
            .collect(),
        swaps: shown
            .map(|Stored { id, value, .. }| SwapEntry {
                key: id.to_string(),
                name: value.name.as_str().to_owned(),
                kind: value.kind,
                state: value.state,
                remove: value
                    .remove
                    .iter()
                    .filter_map(|(line, qty, place)| Some(side(gear_of.get(line)?.to_string(), *qty, *place)))
                    .collect(),
                add: value.add.iter().map(|(id, qty, place)| side(id.to_string(), *qty, *place)).collect(),
                delivery_minor: value.delivery.minor(),
                resale_minor: value.resale.minor(),
                tenth_hours: value.tenth_hours,
                requires: keys(&value.requires),
                excludes: keys(&value.excludes),
            })
            .collect(),
    }
}
