//! Gear: list, add, quick line, edit, several at once, remove.

use super::history::{Changed, Recorder};
use super::{Caller, InField, ServiceError, Services, counted, kits, lists, weigh};
use crate::store::id::{GearId, ListId};
use crate::store::lists::Counts;
use crate::store::weighings::{self, Weighed, WeighingRecord};
use crate::store::{Page, StoreError, Stored, gear};
use diesel::MysqlConnection;
use kevyt_core::exchange::{QuickLine, Read};
use kevyt_core::gear::{
    Acquired, Claim, DEFAULT_STEP, Gear, Jobs, Makers, Name, Status, System, Tags, Weighing, Weight, WeightSource,
};
use kevyt_core::limits;
use kevyt_core::quantity::{Mass, Money, PriceRange};
use std::collections::HashMap;

/// A change of one field: left alone, cleared, or set.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub enum Patch<T> {
    /// As it is.
    #[default]
    Keep,
    /// Nothing any more.
    Clear,
    /// This.
    Set(T),
}

/// A change of a thing, as typed.
#[derive(Debug, Clone, Default)]
pub struct GearChange {
    /// Its name.
    pub name: Option<String>,
    /// Its system.
    pub system: Option<System>,
    /// Pieces owned.
    pub count: Option<u32>,
    /// Weight of one piece, as typed.
    pub weight: Patch<String>,
    /// Where the weight comes from.
    pub source: Option<WeightSource>,
    /// The maker's figure for one piece, as typed.
    pub claimed: Patch<String>,
    /// Price paid for one piece, a figure or a range, as typed.
    pub paid: Patch<String>,
    /// How it was come by.
    pub acquired: Option<Acquired>,
    /// What one piece would bring, as typed.
    pub resale: Patch<String>,
    /// What has become of it.
    pub status: Option<Status>,
    /// Where it is kept.
    pub kept_at: Option<String>,
    /// Words that it is found by, as typed.
    pub tags: Option<String>,
    /// Nights of use.
    pub nights: Option<u32>,
    /// Jobs that it does.
    pub provides: Option<Jobs>,
    /// Jobs that it needs.
    pub needs: Option<Jobs>,
}

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

/// What a change of a thing did, in a sentence.
fn said(before: &Gear, after: &Gear) -> String {
    let name = after.name.as_str();
    let typed = |weight: &Option<Weight>| weight.as_ref().map_or("unknown".to_owned(), |weight| weight.typed.clone());
    if before.name != after.name {
        return format!("{} renamed to {name}.", before.name.as_str());
    }
    if before.weight != after.weight {
        return format!("Weight of {name}: {} to {}.", typed(&before.weight), typed(&after.weight));
    }
    let fields = [
        ("system", before.system != after.system),
        ("count", before.count != after.count),
        ("price", before.paid != after.paid || before.acquired != after.acquired),
        ("worth", before.resale != after.resale),
        ("status", before.status != after.status),
        ("place", before.kept_at != after.kept_at),
        ("tags", before.tags != after.tags),
        ("nights", before.nights != after.nights),
        ("maker's figure", before.claimed != after.claimed),
        ("jobs", before.provides != after.provides || before.needs != after.needs),
    ];
    let changed: Vec<&str> = fields.into_iter().filter(|field| field.1).map(|field| field.0).collect();
    format!("{name}: {} changed.", changed.join(", "))
}

fn apply(thing: &mut Gear, change: &GearChange, caller: Caller) -> Result<(), ServiceError> {
    let currency = caller.preferences.currency;
    if let Some(name) = &change.name {
        thing.name = Name::new(name).in_field("name")?;
    }
    thing.system = change.system.unwrap_or(thing.system);
    if let Some(count) = change.count {
        thing.count = in_count("count", count, 1)?;
    }
    thing.paid = patched(&change.paid, thing.paid.take(), |typed| PriceRange::parse(typed, currency).in_field("paid"))?;
    thing.acquired = change.acquired.unwrap_or(thing.acquired);
    thing.resale =
        patched(&change.resale, thing.resale.take(), |typed| Money::parse(typed, currency).in_field("resale"))?;
    thing.claimed = patched(&change.claimed, thing.claimed.take(), |typed| {
        let unit = Mass::parse(typed, caller.preferences.mass.table_unit()).in_field("claimed")?;
        Ok(Claim { unit, typed: typed.trim().to_owned() })
    })?;
    thing.weight = weight(&change.weight, change.source, thing.weight.take(), caller)?;
    thing.status = change.status.unwrap_or(thing.status);
    if let Some(kept_at) = &change.kept_at {
        thing.kept_at = in_kept_at(kept_at)?;
    }
    if let Some(tags) = &change.tags {
        thing.tags = in_tags("tags", tags)?;
    }
    if let Some(nights) = change.nights {
        if nights > limits::NIGHTS {
            let detail = format!("{nights} nights can't be taken. Type a number from 0 to {}.", limits::NIGHTS);
            return Err(ServiceError::invalid("nights", "out_of_range", detail));
        }
        thing.nights = nights;
    }
    if let Some(provides) = &change.provides {
        thing.provides = in_jobs("provides", provides)?;
    }
    if let Some(needs) = &change.needs {
        thing.needs = in_jobs("needs", needs)?;
    }
    Ok(())
}

fn patched<T>(
    patch: &Patch<String>,
    now: Option<T>,
    read: impl FnOnce(&str) -> Result<T, ServiceError>,
) -> Result<Option<T>, ServiceError> {
    match patch {
        Patch::Keep => Ok(now),
        Patch::Clear => Ok(None),
        Patch::Set(typed) => read(typed).map(Some),
    }
}

fn in_tags(field: &str, typed: &str) -> Result<Tags, ServiceError> {
    Tags::parse(typed).map_err(|why| ServiceError::invalid(field, "tags", why))
}

fn in_kept_at(typed: &str) -> Result<String, ServiceError> {
    let typed = typed.trim();
    if typed.chars().count() > limits::KEPT_AT {
        let detail = format!("The place is too long. Type at most {} characters.", limits::KEPT_AT);
        return Err(ServiceError::invalid("kept_at", "too_long", detail));
    }
    Ok(typed.to_owned())
}

/// The weight after a change. A new figure without a source keeps the source that the old one had; one over a derived
/// figure is weighed.
pub(super) fn weight(
    typed: &Patch<String>,
    source: Option<WeightSource>,
    now: Option<Weight>,
    caller: Caller,
) -> Result<Option<Weight>, ServiceError> {
    let source_now = now.as_ref().map(|weight| weight.source).filter(|source| *source != WeightSource::Derived);
    match typed {
        Patch::Clear => Ok(None),
        Patch::Keep => Ok(now.map(|weight| match source {
            Some(source) if source != weight.source => Weight { source, half_width: None, ..weight },
            _ => weight,
        })),
        Patch::Set(typed) => {
            let source = source.or(source_now).unwrap_or(WeightSource::Weighed);
            Weight::parse(typed, caller.preferences.mass.table_unit(), source).in_field("weight").map(Some)
        }
    }
}

/// A count between `least` and the limit.
pub(super) fn in_count(field: &str, count: u32, least: u32) -> Result<u32, ServiceError> {
    if (least..=limits::COUNT).contains(&count) {
        return Ok(count);
    }
    let detail = format!("{count} pieces can't be taken. Type a count from {least} to {}.", limits::COUNT);
    Err(ServiceError::invalid(field, "out_of_range", detail))
}

/// Amounts of jobs within the limits; amounts of zero are left out.
pub(super) fn in_jobs(field: &str, jobs: &Jobs) -> Result<Jobs, ServiceError> {
    if jobs.len() > limits::JOBS {
        let detail = format!("{} jobs are too many for one thing. Name at most {}.", jobs.len(), limits::JOBS);
        return Err(ServiceError::invalid(field, "too_many", detail));
    }
    if let Some((job, amount)) = jobs.iter().find(|(_, amount)| !(0..=limits::JOB_AMOUNT).contains(*amount)) {
        let detail = format!("{amount} of {} can't be taken. Type from 0 to {}.", job.as_str(), limits::JOB_AMOUNT);
        return Err(ServiceError::invalid(field, "out_of_range", detail));
    }
    Ok(jobs.iter().filter(|(_, amount)| **amount > 0).map(|(job, amount)| (job.clone(), *amount)).collect())
}
