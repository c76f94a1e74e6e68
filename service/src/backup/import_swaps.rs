//! The swaps of an account file, imported: what they take off and put on, what was done, and the plans that name them.

use super::file::*;
use super::import::{GRAMS_OR_OUNCES, Import, ListAt, at_most, key, mass, money, out_of_range, sum, time, typed};
use crate::fields::in_count;
use crate::{InField, ServiceError, Write, swaps as swap_rules};
use kevyt_core::gear::Name;
use kevyt_core::limits;
use kevyt_core::quantity::Money;
use kevyt_core::swap::{SwapKind, SwapState};
use kevyt_store::id::{GearId, KeptPlanId, LineId, ListId, SwapId};
use kevyt_store::kept_plans::{self, KeptPlan};
use kevyt_store::swaps::{self, Done, PriorWeight, SwapRecord};
use std::collections::{HashMap, HashSet};

/// What a swap of the file may name: lines of its list, and the other swaps by their keys.
struct OnList<'f> {
    list: ListId,
    lines: &'f HashMap<GearId, LineId>,
    swaps: &'f HashMap<&'f str, SwapId>,
}

impl Import {
    /// What was done, with all that it names.
    fn done(&self, path: &str, done: Done<String>) -> Result<Done<GearId>, ServiceError> {
        let named = done.gone.iter().map(|gone| &gone.gear).chain(done.came.iter().map(|came| &came.gear));
        for name in named {
            self.thing(path, name)?;
        }
        for figure in [done.paid_minor, done.got_minor, done.base_before_mg, done.base_after_mg] {
            sum(&format!("{path}.done"), figure)?;
        }
        for qty in done.gone.iter().map(|gone| gone.qty).chain(done.came.iter().map(|came| came.qty)) {
            in_count(&format!("{path}.done"), qty, 1)?;
        }
        for was in done.gone.iter().filter_map(|gone| gone.was.as_ref()) {
            in_count(&format!("{path}.done"), was.count, 1)?;
            for weight in was.weight.iter().flat_map(PriorWeight::figures) {
                let held = mass(path, weight.unit.mg())?;
                typed(path, &weight.typed, held, GRAMS_OR_OUNCES)?;
            }
        }
        Ok(done.named(|name| self.gear.get(&name).copied()))
    }

    pub(super) fn import_swaps(
        &self,
        w: &mut Write<'_>,
        ListAt { path, id: list, entry }: ListAt<'_>,
        lines: &HashMap<GearId, LineId>,
    ) -> Result<(), ServiceError> {
        at_most(&format!("{path}.swaps"), entry.swaps.len(), limits::SWAPS)?;
        let mut ids: HashMap<&str, SwapId> = HashMap::new();
        for (at, swap) in entry.swaps.iter().enumerate() {
            if ids.insert(&swap.key, SwapId::fresh()).is_some() {
                return Err(key(&format!("{path}.swaps[{at}]"), &swap.key, "stands twice"));
            }
        }
        let (mut records, mut gone) = (Vec::new(), Vec::new());
        for (at, swap) in entry.swaps.iter().enumerate() {
            let path = format!("{path}.swaps[{at}]");
            let mut record = self.swap_record(&path, swap, &OnList { list, lines, swaps: &ids })?;
            for name in &swap.requires_gone {
                // What is gone is imported as gone, so that what requires it knows its name.
                let stub = gone_swap(&path, list, name)?;
                let id = SwapId::fresh();
                record.requires.push(id);
                gone.push((id, stub));
            }
            records.push((ids[swap.key.as_str()], record));
        }
        let stubs: Vec<SwapId> = gone.iter().map(|(id, _)| *id).collect();
        records.append(&mut gone);
        swaps::insert(w.c, w.caller.access, &records)?;
        if !stubs.is_empty() {
            swaps::remove_several(w.c, w.caller.access, &stubs)?;
        }
        swap_rules::check_entries(w, list)?;
        at_most(&format!("{path}.kept_plans"), entry.kept_plans.len(), limits::KEPT_PLANS)?;
        for (at, plan) in entry.kept_plans.iter().enumerate() {
            let path = format!("{path}.kept_plans[{at}]");
            if let Some(twice) = plan.swaps.iter().enumerate().find(|(at, one)| plan.swaps[..*at].contains(one)) {
                return Err(key(&path, twice.1, "stands twice"));
            }
            let swap = |named: &String| {
                ids.get(named.as_str()).copied().ok_or_else(|| key(&path, named, "names no swap of the list"))
            };
            let kept = KeptPlan {
                list,
                name: Name::new(&plan.name).in_field(&path)?,
                swaps: plan.swaps.iter().map(swap).collect::<Result<_, _>>()?,
                kept_at: time(&path, plan.at)?,
            };
            let id = KeptPlanId::fresh();
            w.touch([id])?;
            kept_plans::insert(w.c, w.caller.access, id, &kept)?;
        }
        Ok(())
    }

    fn swap_record(
        &self,
        path: &str,
        swap: &SwapEntry,
        &OnList { list, lines, swaps: ids }: &OnList<'_>,
    ) -> Result<SwapRecord, ServiceError> {
        swap_rules::check_sides("", swap.remove.len(), swap.add.len()).map_err(|error| error.under(path))?;
        let linked = |field: &str, keys: &[String]| {
            let path = format!("{path}.{field}");
            let is_other = |named: &String| *named != swap.key && ids.contains_key(named.as_str());
            swap_rules::check_links("", keys, is_other).map_err(|error| error.under(&path))?;
            let mut once = HashSet::new();
            if let Some(twice) = keys.iter().find(|named| !once.insert(*named)) {
                return Err(key(&path, twice, "stands twice"));
            }
            Ok(keys.iter().filter_map(|named| ids.get(named.as_str()).copied()).collect::<Vec<_>>())
        };
        let removed = swap.remove.iter().map(|side| {
            let gear = self.thing(path, &side.what)?;
            let line = lines.get(&gear).ok_or_else(|| key(path, &side.what, "is not on the list"))?;
            swap_rules::counted(path, side.place)?;
            Ok((*line, in_count(path, side.qty, 1)?, side.place))
        });
        let added = swap.add.iter().map(|side| {
            let candidate = self.candidates.get(&side.what);
            let candidate = candidate.ok_or_else(|| key(path, &side.what, "names no candidate of the file"))?;
            swap_rules::counted(path, side.place)?;
            Ok((*candidate, in_count(path, side.qty, 1)?, side.place))
        });
        if !(0..=limits::TENTH_HOURS).contains(&swap.tenth_hours) {
            return Err(out_of_range(path, swap.tenth_hours));
        }
        let requires = linked("requires", &swap.requires)?;
        at_most(&format!("{path}.requires"), requires.len() + swap.requires_gone.len(), limits::LINKS)?;
        Ok(SwapRecord {
            list,
            name: Name::new(&swap.name).in_field(path)?,
            kind: swap.kind,
            state: swap.state,
            delivery: money(path, swap.delivery_minor)?,
            resale: money(path, swap.resale_minor)?,
            sells_needed: swap.sells_needed,
            tenth_hours: swap.tenth_hours,
            remove: removed.collect::<Result<_, ServiceError>>()?,
            add: added.collect::<Result<_, ServiceError>>()?,
            requires,
            excludes: linked("excludes", &swap.excludes)?,
            done: swap.done.clone().map(|done| self.done(path, done)).transpose()?,
        })
    }
}

/// A swap of which nothing but the name is left.
fn gone_swap(path: &str, list: ListId, name: &str) -> Result<SwapRecord, ServiceError> {
    Ok(SwapRecord {
        list,
        name: Name::new(name).in_field(path)?,
        kind: SwapKind::Add,
        state: SwapState::Open,
        delivery: Money::ZERO,
        resale: Money::ZERO,
        sells_needed: false,
        tenth_hours: 0,
        remove: Vec::new(),
        add: Vec::new(),
        requires: Vec::new(),
        excludes: Vec::new(),
        done: None,
    })
}
