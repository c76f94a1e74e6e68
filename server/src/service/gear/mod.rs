//! Gear: list, add, quick line, edit, several at once, remove.

mod change;

pub use change::{GearChange, Patch};
pub(super) use change::{in_count, in_jobs, weight};

use super::history::{Changed, Recorder};
use super::{Caller, InField, ServiceError, Services, counted, kits, lists, weigh};
use crate::store::id::{GearId, ListId};
use crate::store::lists::Counts;
use crate::store::weighings::{self, Weighed, WeighingRecord};
use crate::store::{Page, StoreError, Stored, gear};
use change::{apply, in_kept_at, in_tags, said};
use diesel::MysqlConnection;
use kevyt_core::exchange::{QuickLine, Read};
use kevyt_core::gear::{Claim, DEFAULT_STEP, Gear, Makers, Name, Status, System, Weighing, Weight, WeightSource};
use std::collections::HashMap;

/// A change of several things at once.
#[derive(Debug, Clone, Default)]
pub struct BulkChange {
    /// Their system.
    pub system: Option<System>,
    /// What has become of them.
    pub status: Option<Status>,
    /// Tags to add, as typed.
    pub add_tags: Option<String>,
    /// Tags to take off, as typed.
    pub remove_tags: Option<String>,
    /// Where they are kept.
    pub kept_at: Option<String>,
    /// Whether they go.
    pub remove: bool,
}

/// Part of the inventory.
pub struct GearPage {
    /// Its things, by system and name.
    pub things: Vec<Stored<GearId, Gear>>,
    /// Things in all.
    pub total: i64,
    /// The account's record of makers' figures.
    pub makers: Makers,
}

impl Services {
    /// One page of gear.
    pub fn gear_page(&self, caller: Caller, page: Page) -> Result<GearPage, ServiceError> {
        let mut c = self.connection()?;
        let (things, total) = gear::page(&mut c, caller.account, page)?;
        Ok(GearPage { things, total, makers: weigh::makers(&mut c, caller)? })
    }

    /// One thing.
    pub fn gear(&self, caller: Caller, id: GearId) -> Result<Stored<GearId, Gear>, ServiceError> {
        Ok(gear::get(&mut *self.connection()?, caller.account, id)?)
    }

    /// Adds a thing from its fields.
    pub fn add_gear(
        &self,
        caller: Caller,
        name: &str,
        change: &GearChange,
    ) -> Result<Changed<Stored<GearId, Gear>>, ServiceError> {
        let mut thing = Gear::named(Name::new(name).in_field("name")?);
        apply(&mut thing, change, caller)?;
        self.store_new(caller, thing, None)
    }

    /// Reads a quick line without adding anything.
    pub fn read_quick_line(&self, caller: Caller, line: &str) -> QuickLine {
        QuickLine::read(line, caller.preferences.currency)
    }

    /// Adds what a quick line says, and puts it on a list (carried) if one is named.
    pub fn add_quick_line(
        &self,
        caller: Caller,
        line: &str,
        list: Option<ListId>,
    ) -> Result<Changed<Stored<GearId, Gear>>, ServiceError> {
        let read = self.read_quick_line(caller, line);
        if let Some(refused) = read.chips.iter().find_map(|chip| match &chip.read {
            Read::Refused(why) => Some(why.clone()),
            _ => None,
        }) {
            return Err(ServiceError::invalid("line", "refused", refused));
        }
        let mut thing = Gear::named(Name::new(&read.name).in_field("line")?);
        thing.system = read.system.unwrap_or(System::Other);
        thing.count = read.count;
        thing.paid = read.price;
        thing.acquired = read.acquired;
        thing.provides = read.provides;
        thing.weight = read.weight;
        self.store_new(caller, thing, list)
    }

    fn store_new(
        &self,
        caller: Caller,
        thing: Gear,
        list: Option<ListId>,
    ) -> Result<Changed<Stored<GearId, Gear>>, ServiceError> {
        let id = GearId::fresh();
        self.transaction(|c| {
            let mut recorder = Recorder::new(caller.account);
            insert(c, caller, &mut recorder, vec![(id, thing)])?;
            let stored = gear::get(c, caller.account, id)?;
            if let Some(list) = list {
                let counts = Counts { carried: stored.value.count, worn: 0, used_up: 0 };
                lists::place(c, caller, &mut recorder, list, id, counts, None)?;
            }
            recorder.finish(c, &format!("{} added.", stored.value.name.as_str()), stored)
        })
    }

    /// Changes a thing that was read at `version`.
    pub fn change_gear(
        &self,
        caller: Caller,
        id: GearId,
        version: i32,
        change: &GearChange,
    ) -> Result<Changed<Stored<GearId, Gear>>, ServiceError> {
        self.transaction(|c| {
            let before = gear::get(c, caller.account, id)?.value;
            let mut after = before.clone();
            apply(&mut after, change, caller)?;
            let mut recorder = Recorder::new(caller.account);
            write(c, caller, &mut recorder, vec![Rewrite { id, version, before: before.clone(), after }])?;
            let stored = gear::get(c, caller.account, id)?;
            recorder.finish(c, &said(&before, &stored.value), stored)
        })
    }

    /// Changes or removes several things, each as it was read at its version, all or none.
    pub fn change_several(
        &self,
        caller: Caller,
        things: &[(GearId, i32)],
        change: &BulkChange,
    ) -> Result<Changed<usize>, ServiceError> {
        let tags = |typed: &Option<String>, field: &str| {
            typed.as_deref().map(|typed| in_tags(field, typed)).transpose().map(Option::unwrap_or_default)
        };
        let (add, remove) = (tags(&change.add_tags, "add_tags")?, tags(&change.remove_tags, "remove_tags")?);
        let kept_at = change.kept_at.as_deref().map(in_kept_at).transpose()?;
        let ids: Vec<GearId> = things.iter().map(|thing| thing.0).collect();
        self.transaction(|c| {
            let there = gear::several(c, caller.account, &ids)?.into_iter().map(|thing| (thing.id, thing.value));
            let there: HashMap<GearId, Gear> = there.collect();
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, ids.iter().copied())?;
            for (id, version) in things {
                let before = there.get(id).ok_or(StoreError::NotFound)?;
                if change.remove {
                    gear::remove(c, caller.account, *id, *version)?;
                    continue;
                }
                let mut after = before.clone();
                after.system = change.system.unwrap_or(after.system);
                after.status = change.status.unwrap_or(after.status);
                if let Some(kept_at) = &kept_at {
                    after.kept_at.clone_from(kept_at);
                }
                let words = before.tags.words().iter().chain(add.words()).filter(|tag| !remove.words().contains(tag));
                after.tags = in_tags("add_tags", &words.cloned().collect::<Vec<_>>().join(" "))?;
                if after != *before {
                    gear::update(c, caller.account, *id, *version, &after)?;
                }
            }
            if change.remove {
                kits::rederive(c, caller, &mut recorder, &ids)?;
            }
            let done = if change.remove { "removed" } else { "changed" };
            recorder.finish(c, &format!("{} {done}.", counted(ids.len(), "thing")), ids.len())
        })
    }

    /// Takes a thing out of sight.
    pub fn remove_gear(&self, caller: Caller, id: GearId, version: i32) -> Result<Changed<()>, ServiceError> {
        self.transaction(|c| {
            let thing = gear::get(c, caller.account, id)?.value;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            gear::remove(c, caller.account, id, version)?;
            kits::rederive(c, caller, &mut recorder, &[id])?;
            recorder.finish(c, &format!("{} removed.", thing.name.as_str()), ())
        })
    }

    /// Brings a removed thing back.
    pub fn restore_gear(&self, caller: Caller, id: GearId) -> Result<(), ServiceError> {
        self.transaction(|c| Ok(gear::restore(c, caller.account, id)?))
    }
}

/// Adds things. A weight that is said to be weighed is kept as a weighing.
pub(super) fn insert(
    c: &mut MysqlConnection,
    caller: Caller,
    recorder: &mut Recorder,
    mut things: Vec<(GearId, Gear)>,
) -> Result<(), ServiceError> {
    let weighings: Vec<WeighingRecord> =
        things.iter_mut().filter_map(|(id, thing)| settle_weight(*id, None, thing)).collect();
    recorder.touch(c, things.iter().map(|thing| thing.0))?;
    recorder.touch(c, weighings.iter().map(|record| record.id))?;
    gear::insert(c, caller.account, &things)?;
    Ok(weighings::insert(c, caller.account, &weighings)?)
}

/// A thing to be written over what it was.
pub(super) struct Rewrite {
    pub id: GearId,
    /// The version that it was read at.
    pub version: i32,
    pub before: Gear,
    pub after: Gear,
}

/// Writes things over what they were, all or none. A new weight that is said to be weighed is kept as a weighing.
pub(super) fn write(
    c: &mut MysqlConnection,
    caller: Caller,
    recorder: &mut Recorder,
    mut things: Vec<Rewrite>,
) -> Result<(), ServiceError> {
    let settled = things.iter_mut().filter_map(|thing| {
        let before = thing.before.weight.as_ref();
        settle_weight(thing.id, before, &mut thing.after)
    });
    let weighings: Vec<WeighingRecord> = settled.collect();
    recorder.touch(c, things.iter().map(|thing| thing.id))?;
    recorder.touch(c, weighings.iter().map(|record| record.id))?;
    weighings::insert(c, caller.account, &weighings)?;
    for Rewrite { id, version, after, .. } in &things {
        gear::update(c, caller.account, *id, *version, after)?;
    }
    let reweighed = things.iter().filter(|thing| thing.before.weight != thing.after.weight).map(|thing| thing.id);
    kits::rederive(c, caller, recorder, &reweighed.collect::<Vec<_>>())
}

/// Sees to what hangs on a new weight: a maker's figure is kept as the claim; one that is said to be weighed is a weighing
/// of one piece on a scale of which nothing is known.
fn settle_weight(id: GearId, before: Option<&Weight>, after: &mut Gear) -> Option<WeighingRecord> {
    let weight = after.weight.as_mut().filter(|weight| Some(&**weight) != before)?;
    match weight.source {
        WeightSource::Maker => {
            after.claimed = Some(Claim { unit: weight.unit, typed: weight.typed.clone() });
            None
        }
        WeightSource::Weighed => {
            let step = weight.half_width.unwrap_or(DEFAULT_STEP);
            let weighing = Weighing { total: weight.unit, pieces: 1, step };
            weight.half_width = Some(weighing.half_width());
            Some(weigh::record(Weighed::Gear(id), weighing, weight.typed.clone(), weigh::TYPED.to_owned()))
        }
        WeightSource::Estimate | WeightSource::Derived => None,
    }
}
