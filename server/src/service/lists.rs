//! Pack lists: the lists, their lines, the question.

use super::gear::{Patch, in_count, in_jobs};
use super::{Caller, InField, ServiceError, Services};
use crate::store::id::{GearId, ListId};
use crate::store::lists::{self, Counts, PackList, StoredLine, StoredList};
use crate::store::{Stored, gear};
use diesel::MysqlConnection;
use kevyt_core::gear::{Jobs, Name};
use kevyt_core::limits;
use kevyt_core::quantity::{Mass, Money};

/// The longest note, in characters.
const NOTE: usize = 200;

/// A change of a list, as typed.
#[derive(Debug, Clone, Default)]
pub struct ListChange {
    /// Its name.
    pub name: Option<String>,
    /// A line about the trip.
    pub note: Option<String>,
    /// The base weight to reach, as typed.
    pub target: Patch<String>,
    /// The most money to spend, as typed.
    pub budget: Patch<String>,
    /// What an hour of making is worth, as typed.
    pub hour_rate: Option<String>,
    /// What the trip requires.
    pub requires: Option<Jobs>,
}

impl Services {
    /// All lists.
    pub fn lists(&self, caller: Caller) -> Result<Vec<StoredList>, ServiceError> {
        Ok(lists::all(&mut *self.connection()?, caller.account)?)
    }

    /// One list with its lines.
    pub fn list(&self, caller: Caller, id: ListId) -> Result<(StoredList, Vec<StoredLine>), ServiceError> {
        let mut c = self.connection()?;
        Ok((lists::get(&mut c, caller.account, id)?, lists::lines(&mut c, caller.account, id)?))
    }

    /// Adds a list.
    pub fn add_list(&self, caller: Caller, name: &str, change: &ListChange) -> Result<StoredList, ServiceError> {
        let name = Name::new(name).in_field("name")?;
        let mut list = PackList::empty(name);
        apply(&mut list, change, caller)?;
        let id = ListId::fresh();
        self.transaction(|c| {
            lists::insert(c, caller.account, id, &list)?;
            Ok(Stored { id, version: 1, value: list })
        })
    }

    /// Changes a list that was read at `version`.
    pub fn change_list(
        &self,
        caller: Caller,
        id: ListId,
        version: i32,
        change: &ListChange,
    ) -> Result<StoredList, ServiceError> {
        self.transaction(|c| {
            let mut stored = lists::get(c, caller.account, id)?;
            apply(&mut stored.value, change, caller)?;
            lists::update(c, caller.account, id, version, &stored.value)?;
            Ok(Stored { version: version + 1, ..stored })
        })
    }

    /// Takes a list out of sight.
    pub fn remove_list(&self, caller: Caller, id: ListId, version: i32) -> Result<(), ServiceError> {
        self.transaction(|c| Ok(lists::remove(c, caller.account, id, version)?))
    }

    /// Brings a removed list back.
    pub fn restore_list(&self, caller: Caller, id: ListId) -> Result<(), ServiceError> {
        self.transaction(|c| Ok(lists::restore(c, caller.account, id)?))
    }

    /// Puts gear on a list, or changes how it counts there. No more pieces than are owned.
    pub fn put_line(
        &self,
        caller: Caller,
        list: ListId,
        id: GearId,
        counts: Counts,
        version: Option<i32>,
    ) -> Result<(), ServiceError> {
        in_count("carried", counts.carried, 0)?;
        in_count("worn", counts.worn, 0)?;
        in_count("used_up", counts.used_up, 0)?;
        self.transaction(|c| {
            let thing = gear::get(c, caller.account, id)?.value;
            let pieces = counts.carried + counts.worn + counts.used_up;
            if pieces > thing.count {
                let detail = format!(
                    "{pieces} of {} are more than the {} owned. Type at most {}, or change how many are owned.",
                    thing.name.as_str(),
                    thing.count,
                    thing.count
                );
                return Err(ServiceError::invalid("carried", "more_than_owned", detail));
            }
            place(c, caller, list, id, counts, version)
        })
    }

    /// Takes gear off a list.
    pub fn remove_line(&self, caller: Caller, list: ListId, id: GearId) -> Result<(), ServiceError> {
        self.transaction(|c| {
            lists::get(c, caller.account, list)?;
            Ok(lists::remove_line(c, list, id)?)
        })
    }
}

/// Puts a thing of the caller's on a list of theirs, while there is room.
pub(super) fn place(
    c: &mut MysqlConnection,
    caller: Caller,
    list: ListId,
    id: GearId,
    counts: Counts,
    version: Option<i32>,
) -> Result<(), ServiceError> {
    lists::get(c, caller.account, list)?;
    let lines = lists::lines(c, caller.account, list)?;
    if lines.len() >= limits::LINES && !lines.iter().any(|line| line.value.gear.id == id) {
        let detail =
            format!("This list has {} things on it, the most that are taken. Take some off first.", lines.len());
        return Err(ServiceError::invalid("list", "too_many", detail));
    }
    Ok(lists::put_line(c, list, id, counts, version)?)
}

fn apply(list: &mut PackList, change: &ListChange, caller: Caller) -> Result<(), ServiceError> {
    let currency = caller.preferences.currency;
    if let Some(name) = &change.name {
        list.name = Name::new(name).in_field("name")?;
    }
    if let Some(note) = &change.note {
        if note.chars().count() > NOTE {
            return Err(ServiceError::invalid(
                "note",
                "too_long",
                format!("The note is too long. Type at most {NOTE} characters."),
            ));
        }
        list.note = note.trim().to_owned();
    }
    match &change.target {
        Patch::Keep => {}
        Patch::Clear => list.target = None,
        Patch::Set(typed) => {
            let mass = Mass::parse(typed, caller.preferences.mass.total_unit()).in_field("target")?;
            list.target = Some((mass, typed.trim().to_owned()));
        }
    }
    match &change.budget {
        Patch::Keep => {}
        Patch::Clear => list.budget = None,
        Patch::Set(typed) => list.budget = Some(Money::parse(typed, currency).in_field("budget")?),
    }
    if let Some(typed) = &change.hour_rate {
        list.hour_rate = Money::parse(typed, currency).in_field("hour_rate")?;
    }
    if let Some(requires) = &change.requires {
        list.requires = in_jobs("requires", requires)?;
    }
    Ok(())
}
