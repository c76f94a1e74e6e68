//! Gear: list, add, quick line, edit, several at once, remove.

mod change;

pub use change::GearChange;

use super::fields::{in_kept_at, in_tags};
use super::weights::{self, makers, rederive};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services, lines};
use crate::fields::in_system;
use change::{apply, event_of};
use chrono::Utc;
use kevyt_core::exchange::{QuickLine, take_kind_of_name};
use kevyt_core::gear::{Gear, Makers, Name, Need, Start, Status, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::Counts;
use kevyt_core::quantity::Money;
use kevyt_store::event::Event;
use kevyt_store::id::{GearId, ListId};
use kevyt_store::weighings::{self, WeighingRecord};
use kevyt_store::{Page, StoreError, Stored, accounts, gear};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::ToSchema;

/// A change of several things at once, all or none. Absent fields stay.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = BulkIn)]
pub struct BulkChange {
    /// The things, each with the version it was read at.
    pub things: Vec<ThingAt>,
    /// The key of their system.
    pub system: Option<String>,
    /// What has become of them.
    pub status: Option<Status>,
    /// Tags to add, as typed.
    pub add_tags: Option<String>,
    /// Tags to take off, as typed.
    pub remove_tags: Option<String>,
    /// Where they are kept.
    pub kept_at: Option<String>,
    /// Whether those without a kind take the one that their name says.
    #[serde(default)]
    pub take_kinds: bool,
    /// Whether they are needed.
    pub need: Option<Need>,
    /// Whether they stay as they are.
    pub keep: Option<bool>,
    /// Whether they go.
    #[serde(default)]
    pub remove: bool,
}

/// A thing and the version it was read at.
#[derive(Debug, Clone, Copy, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ThingAt {
    /// The thing.
    pub id: GearId,
    /// Its version.
    pub version: i32,
}

/// Part of the inventory.
pub struct GearPage<K> {
    /// The account's revision.
    pub revision: i64,
    /// What is known of its things, by system and name.
    pub things: Vec<K>,
    /// Things in all.
    pub total: i64,
    /// The account's record of makers' figures.
    pub makers: Makers,
}

/// Of so many things that are not known the whole page is read: to name each takes longer.
const MANY_UNKNOWN: usize = 500;

impl Services {
    /// One page of gear. A thing of which enough is `known` at its version is not read; of the others that is `made` of what is read.
    pub fn gear_page<K>(
        &self,
        caller: Caller,
        page: Page,
        known: impl Fn(GearId, i32) -> Option<K>,
        made: impl Fn(&Stored<GearId, Gear>) -> Result<K, ServiceError>,
    ) -> Result<GearPage<K>, ServiceError> {
        let (things, read, of_all) = self.read(|c| {
            let caller = caller.renewed(c)?;
            let revision = accounts::revision(c, caller.access)?;
            let (versions, total) = gear::versions(c, caller.access, page)?;
            let things: Vec<_> = versions.into_iter().map(|(id, version)| (id, known(id, version))).collect();
            let unknown: Vec<GearId> = things.iter().filter(|thing| thing.1.is_none()).map(|thing| thing.0).collect();
            let read = match unknown.len() {
                0 => Vec::new(),
                1..MANY_UNKNOWN => gear::several(c, caller.access, &unknown)?,
                _ => gear::page(c, caller.access, page)?,
            };
            Ok((things, read, (revision, total, makers(c, caller)?)))
        })?;
        let read: HashMap<GearId, _> = read.into_iter().map(|thing| (thing.id, thing)).collect();
        let of_thing = |(id, known): (GearId, Option<K>)| match known {
            Some(known) => Some(Ok(known)),
            None => read.get(&id).map(&made),
        };
        let things = things.into_iter().filter_map(of_thing).collect::<Result<_, _>>()?;
        let (revision, total, makers) = of_all;
        Ok(GearPage { revision, things, total, makers })
    }

    /// One thing.
    pub fn gear(&self, caller: Caller, id: GearId) -> Result<Stored<GearId, Gear>, ServiceError> {
        Ok(gear::get(&mut *self.connection()?, caller.access, id)?)
    }

    /// Reads a quick line without adding anything. A weight of which the line does not say where it comes from comes from `source`, or
    /// from where the account says that typed weights come from.
    pub fn read_quick_line(&self, caller: Caller, line: &str, source: Option<WeightSource>) -> QuickLine {
        read_line(caller, line, source)
    }
}

fn read_line(caller: Caller, line: &str, source: Option<WeightSource>) -> QuickLine {
    QuickLine::read(line, caller.preferences.currency, source.unwrap_or(caller.settings.typed_weights()))
}

impl Write<'_> {
    /// Adds a thing from its fields.
    pub fn add_gear(&mut self, name: &str, change: &GearChange) -> Result<Stored<GearId, Gear>, ServiceError> {
        let mut thing = Gear::named(Name::new(name).in_field("name")?);
        apply(&mut thing, change, self.caller)?;
        self.add_one(thing, None, None)
    }

    /// Adds what a quick line says, and puts it on a list (carried) if one is named.
    pub fn add_quick_line(
        &mut self,
        line: &str,
        source: Option<WeightSource>,
        list: Option<ListId>,
    ) -> Result<Stored<GearId, Gear>, ServiceError> {
        let read = read_line(self.caller, line, source);
        if let Some(refused) = read.refusal() {
            return Err(ServiceError::invalid("line", "refused", refused.to_owned()));
        }
        let thing = read.thing(Name::new(&read.name).in_field("line")?);
        self.add_one(thing, list, read.start)
    }

    /// Adds a thing, and puts it on a list if one is named: where it was said to start, or where such things do.
    fn add_one(
        &mut self,
        thing: Gear,
        list: Option<ListId>,
        said: Option<Start>,
    ) -> Result<Stored<GearId, Gear>, ServiceError> {
        let id = GearId::fresh();
        self.insert_gear(vec![(id, thing.clone())])?;
        if let Some(list) = list {
            let counts = match said {
                Some(start) => Counts::starting(start, thing.count),
                None => lines::starting(self, list, &thing, thing.count)?,
            };
            lines::place(self, list, id, lines::LinePut { counts, ..lines::LinePut::default() })?;
        }
        let stored = gear::get(self.c, self.caller.access, id)?;
        self.log(Event::ThingAdded { thing: stored.value.name.as_str().to_owned() });
        Ok(stored)
    }

    /// Changes a thing that was read at `version`.
    pub fn change_gear(
        &mut self,
        id: GearId,
        version: i32,
        change: &GearChange,
    ) -> Result<Stored<GearId, Gear>, ServiceError> {
        let before = gear::get(self.c, self.caller.access, id)?.at(version)?.value;
        let mut after = before.clone();
        apply(&mut after, change, self.caller)?;
        self.write_gear(vec![Rewrite { id, version, before: before.clone(), after }])?;
        let stored = gear::get(self.c, self.caller.access, id)?;
        self.log(event_of(&before, &stored.value));
        Ok(stored)
    }

    /// Changes or removes several things, each as it was read at its version, all or none; gives those that stay as they are now.
    pub fn change_several(&mut self, change: &BulkChange) -> Result<Vec<ThingAt>, ServiceError> {
        let things: Vec<(GearId, i32)> = change.things.iter().map(|thing| (thing.id, thing.version)).collect();
        let system = change.system.as_deref().map(in_system).transpose()?;
        let tags = |typed: &Option<String>, field: &str| {
            typed.as_deref().map(|typed| in_tags(field, typed)).transpose().map(Option::unwrap_or_default)
        };
        let (add, remove) = (tags(&change.add_tags, "add_tags")?, tags(&change.remove_tags, "remove_tags")?);
        let kept_at = change.kept_at.as_deref().map(in_kept_at).transpose()?;
        let ids: Vec<GearId> = things.iter().map(|thing| thing.0).collect();
        let access = self.caller.access;
        let there = gear::several(self.c, access, &ids)?.into_iter().map(|thing| (thing.id, thing.value));
        let there: HashMap<GearId, Gear> = there.collect();
        self.touch(ids.iter().copied())?;
        let mut now = change.things.clone();
        if change.remove {
            gear::remove(self.c, access, &things)?;
            rederive(self, &ids)?;
            now.clear();
        } else {
            let mut changed = Vec::new();
            for thing in &mut now {
                let ThingAt { id, version } = *thing;
                let before = there.get(&id).ok_or(StoreError::NotFound)?;
                let mut after = before.clone();
                after.system = system.unwrap_or(after.system);
                after.status = change.status.unwrap_or(after.status);
                if let Some(kept_at) = &kept_at {
                    after.kept_at.clone_from(kept_at);
                }
                if change.take_kinds && after.identity.kind.is_none() {
                    take_kind_of_name(&mut after);
                }
                after.identity.need = change.need.or(after.identity.need);
                after.identity.keep = change.keep.unwrap_or(after.identity.keep);
                let words = after.tags.words().iter().chain(add.words()).filter(|tag| !remove.words().contains(tag));
                after.tags = in_tags("add_tags", &words.cloned().collect::<Vec<_>>().join(" "))?;
                if after != *before {
                    changed.push((id, version, after));
                    thing.version += 1;
                }
            }
            let rows: Vec<_> = changed.iter().map(|(id, version, after)| (*id, *version, after)).collect();
            gear::update(self.c, access, &rows)?;
        }
        let things = ids.len();
        self.log(if change.remove { Event::ThingsRemoved { things } } else { Event::ThingsChanged { things } });
        Ok(now)
    }

    /// Takes a thing out of sight.
    pub fn remove_gear(&mut self, id: GearId, version: i32) -> Result<(), ServiceError> {
        let thing = gear::get(self.c, self.caller.access, id)?.value;
        self.touch([id])?;
        gear::remove(self.c, self.caller.access, &[(id, version)])?;
        rederive(self, &[id])?;
        self.log(Event::ThingRemoved { thing: thing.name.as_str().to_owned() });
        Ok(())
    }

    /// Adds things. A weight that is said to be weighed is kept as a weighing.
    pub(super) fn insert_gear(&mut self, mut things: Vec<(GearId, Gear)>) -> Result<(), ServiceError> {
        check_room(self, things.len())?;
        things.iter_mut().for_each(|(_, thing)| date_worth(thing, None));
        let resolved = things.iter_mut().filter_map(|(id, thing)| weights::resolve(*id, None, thing));
        let weighings: Vec<WeighingRecord> = resolved.collect();
        // Weighings of new things are not followed: they come and go with the things.
        self.touch(things.iter().map(|thing| thing.0))?;
        gear::insert(self.c, self.caller.access, &things)?;
        Ok(weighings::insert(self.c, self.caller.access, &weighings)?)
    }

    /// Writes things over what they were, all or none. A new weight that is said to be weighed is kept as a weighing.
    pub(super) fn write_gear(&mut self, mut things: Vec<Rewrite>) -> Result<(), ServiceError> {
        things.iter_mut().for_each(|thing| date_worth(&mut thing.after, thing.before.resale));
        let resolved = things.iter_mut().filter_map(|thing| {
            let before = thing.before.weight.as_ref();
            weights::resolve(thing.id, before, &mut thing.after)
        });
        let weighings: Vec<WeighingRecord> = resolved.collect();
        self.touch(things.iter().map(|thing| thing.id))?;
        self.touch(weighings.iter().map(|record| record.id))?;
        weighings::insert(self.c, self.caller.access, &weighings)?;
        let rows: Vec<_> = things.iter().map(|thing| (thing.id, thing.version, &thing.after)).collect();
        gear::update(self.c, self.caller.access, &rows)?;
        let fewer = things.iter().filter(|thing| thing.after.count < thing.before.count).map(|thing| thing.id);
        lines::check_counts(self, &fewer.collect::<Vec<_>>())?;
        let weighs_other =
            |thing: &&Rewrite| thing.before.weight != thing.after.weight || thing.before.claimed != thing.after.claimed;
        let reweighed: Vec<GearId> = things.iter().filter(weighs_other).map(|thing| thing.id).collect();
        if reweighed.is_empty() { Ok(()) } else { rederive(self, &reweighed) }
    }
}

/// What it is worth is dated where it is said anew.
fn date_worth(thing: &mut Gear, before: Option<Money>) {
    thing.resale_at = match thing.resale {
        None => None,
        Some(_) if thing.resale_at.is_some() && thing.resale == before => thing.resale_at,
        Some(_) => Some(Utc::now().timestamp_micros()),
    };
}

/// Refuses `more` things than an account may have.
fn check_room(w: &mut Write<'_>, more: usize) -> Result<(), ServiceError> {
    let there = gear::count(w.c, w.caller.access)?;
    if there + more <= limits::THINGS {
        return Ok(());
    }
    let detail =
        format!("You have {there} things, and {} are the most that are kept. Remove some first.", limits::THINGS);
    Err(ServiceError::invalid("name", "too_many", detail))
}

/// A thing to be written over what it was.
pub(super) struct Rewrite {
    pub id: GearId,
    /// The version that it was read at.
    pub version: i32,
    pub before: Gear,
    pub after: Gear,
}
