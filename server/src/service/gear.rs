//! Gear: list, add, quick line, edit, remove, bring back.

use super::{Caller, InField, ServiceError, Services, lists};
use crate::store::id::{GearId, ListId};
use crate::store::lists::Counts;
use crate::store::{Page, Stored, gear};
use kevyt_core::exchange::{QuickLine, Read};
use kevyt_core::gear::{Gear, Jobs, Name, System, Weight, WeightSource};
use kevyt_core::limits;
use kevyt_core::quantity::Money;

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
    /// Price paid for one piece, as typed.
    pub paid: Patch<String>,
    /// What one piece would bring, as typed.
    pub resale: Patch<String>,
    /// Jobs that it does.
    pub provides: Option<Jobs>,
    /// Jobs that it needs.
    pub needs: Option<Jobs>,
}

impl Services {
    /// One page of gear and how many things there are.
    pub fn gear_page(&self, caller: Caller, page: Page) -> Result<(Vec<Stored<GearId, Gear>>, i64), ServiceError> {
        Ok(gear::page(&mut *self.connection()?, caller.account, page)?)
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
    ) -> Result<Stored<GearId, Gear>, ServiceError> {
        let mut thing = blank(Name::new(name).in_field("name")?);
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
    ) -> Result<Stored<GearId, Gear>, ServiceError> {
        let read = self.read_quick_line(caller, line);
        if let Some(refused) = read.chips.iter().find_map(|chip| match &chip.read {
            Read::Refused(why) => Some(why.clone()),
            _ => None,
        }) {
            return Err(ServiceError::invalid("line", "refused", refused));
        }
        let mut thing = blank(Name::new(&read.name).in_field("line")?);
        thing.system = read.system.unwrap_or(System::Other);
        thing.count = read.count;
        thing.paid = read.price;
        // A figure that somebody types here is one they know; "maker" or "estimate" can be said afterwards.
        thing.weight = read.mass.map(|(unit, typed)| Weight { unit, typed, source: WeightSource::Weighed });
        self.store_new(caller, thing, list)
    }

    fn store_new(
        &self,
        caller: Caller,
        thing: Gear,
        list: Option<ListId>,
    ) -> Result<Stored<GearId, Gear>, ServiceError> {
        let id = GearId::fresh();
        self.transaction(|c| {
            gear::insert(c, caller.account, &[(id, thing.clone())])?;
            if let Some(list) = list {
                lists::place(c, caller, list, id, Counts { carried: thing.count, worn: 0, used_up: 0 }, None)?;
            }
            Ok(Stored { id, version: 1, value: thing })
        })
    }

    /// Changes a thing that was read at `version`.
    pub fn change_gear(
        &self,
        caller: Caller,
        id: GearId,
        version: i32,
        change: &GearChange,
    ) -> Result<Stored<GearId, Gear>, ServiceError> {
        self.transaction(|c| {
            let mut stored = gear::get(c, caller.account, id)?;
            apply(&mut stored.value, change, caller)?;
            gear::update(c, caller.account, id, version, &stored.value)?;
            Ok(Stored { version: version + 1, ..stored })
        })
    }

    /// Takes a thing out of sight.
    pub fn remove_gear(&self, caller: Caller, id: GearId, version: i32) -> Result<(), ServiceError> {
        self.transaction(|c| Ok(gear::remove(c, caller.account, id, version)?))
    }

    /// Brings a removed thing back.
    pub fn restore_gear(&self, caller: Caller, id: GearId) -> Result<(), ServiceError> {
        self.transaction(|c| Ok(gear::restore(c, caller.account, id)?))
    }
}

fn blank(name: Name) -> Gear {
    Gear {
        name,
        system: System::Other,
        count: 1,
        weight: None,
        paid: None,
        resale: None,
        provides: Jobs::new(),
        needs: Jobs::new(),
    }
}

fn apply(thing: &mut Gear, change: &GearChange, caller: Caller) -> Result<(), ServiceError> {
    if let Some(name) = &change.name {
        thing.name = Name::new(name).in_field("name")?;
    }
    if let Some(system) = change.system {
        thing.system = system;
    }
    if let Some(count) = change.count {
        thing.count = in_count("count", count, 1)?;
    }
    let money = |field: &str, patch: &Patch<String>, now: Option<Money>| match patch {
        Patch::Keep => Ok(now),
        Patch::Clear => Ok(None),
        Patch::Set(typed) => Money::parse(typed, caller.preferences.currency).in_field(field).map(Some),
    };
    thing.paid = money("paid", &change.paid, thing.paid)?;
    thing.resale = money("resale", &change.resale, thing.resale)?;
    thing.weight = weight(&change.weight, change.source, thing.weight.take(), caller)?;
    if let Some(provides) = &change.provides {
        thing.provides = in_jobs("provides", provides)?;
    }
    if let Some(needs) = &change.needs {
        thing.needs = in_jobs("needs", needs)?;
    }
    Ok(())
}

/// The weight after a change. A new figure without a source keeps the source that the old one had.
pub(super) fn weight(
    typed: &Patch<String>,
    source: Option<WeightSource>,
    now: Option<Weight>,
    caller: Caller,
) -> Result<Option<Weight>, ServiceError> {
    let source_now = now.as_ref().map(|weight| weight.source);
    match typed {
        Patch::Clear => Ok(None),
        Patch::Keep => Ok(now.map(|weight| Weight { source: source.unwrap_or(weight.source), ..weight })),
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
