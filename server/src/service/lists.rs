//! Pack lists: the lists, their lines, the question.

use super::gear::{Patch, in_count, in_jobs};
use super::history::Recorder;
use super::{Caller, InField, ServiceError, Services};
use crate::store::id::{GearId, LineId, ListId};
use crate::store::lists::{self, Counts, PackList, StoredLine, StoredList};
use crate::store::{StoreError, Stored, gear};
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
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            lists::insert(c, caller.account, id, &list)?;
            let said = format!("List {} made.", list.name.as_str());
            Ok(recorder.finish(c, &said, Stored { id, version: 1, value: list })?.value)
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
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            apply(&mut stored.value, change, caller)?;
            lists::update(c, caller.account, id, version, &stored.value)?;
            let said = said(&stored.value, change);
            Ok(recorder.finish(c, &said, Stored { version: version + 1, ..stored })?.value)
        })
    }

    /// Takes a list out of sight.
    pub fn remove_list(&self, caller: Caller, id: ListId, version: i32) -> Result<(), ServiceError> {
        self.transaction(|c| {
            let list = lists::get(c, caller.account, id)?.value;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            lists::remove(c, caller.account, id, version)?;
            recorder.finish(c, &format!("List {} removed.", list.name.as_str()), ())?;
            Ok(())
        })
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
            let mut recorder = Recorder::new(caller.account);
            let name = place(c, caller, &mut recorder, list, id, counts, version)?;
            let Counts { carried, worn, used_up } = counts;
            let said = format!("{} on {name}: {carried} carried, {worn} worn, {used_up} used up.", thing.name.as_str());
            recorder.finish(c, &said, ())?;
            Ok(())
        })
    }

    /// Takes gear off a list.
    pub fn remove_line(&self, caller: Caller, list: ListId, id: GearId) -> Result<(), ServiceError> {
        self.transaction(|c| {
            let name = lists::get(c, caller.account, list)?.value.name;
            let line = lists::line_id(c, list, id)?.ok_or(StoreError::NotFound)?;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [line])?;
            lists::remove_line(c, list, id)?;
            let thing = gear::several(c, caller.account, &[id])?.pop();
            let thing = thing.map_or_else(|| "A thing".to_owned(), |thing| thing.value.name.as_str().to_owned());
            recorder.finish(c, &format!("{thing} taken off {}.", name.as_str()), ())?;
            Ok(())
        })
    }
}

/// What a change of a list did, in a sentence.
fn said(list: &PackList, change: &ListChange) -> String {
    let fields = [
        ("name", change.name.is_some()),
        ("note", change.note.is_some()),
        ("target", change.target != Patch::Keep),
        ("budget", change.budget != Patch::Keep),
        ("hour rate", change.hour_rate.is_some()),
        ("what the trip requires", change.requires.is_some()),
    ];
    let changed: Vec<&str> = fields.into_iter().filter(|field| field.1).map(|field| field.0).collect();
    format!("List {}: {} changed.", list.name.as_str(), changed.join(", "))
}

/// Puts a thing of the caller's on a list of theirs, while there is room; answers with the list's name.
pub(super) fn place(
    c: &mut MysqlConnection,
    caller: Caller,
    recorder: &mut Recorder,
    list: ListId,
    id: GearId,
    counts: Counts,
    version: Option<i32>,
) -> Result<String, ServiceError> {
    let name = lists::get(c, caller.account, list)?.value.name;
    let lines = lists::lines(c, caller.account, list)?;
    if lines.len() >= limits::LINES && !lines.iter().any(|line| line.value.gear.id == id) {
        let detail =
            format!("This list has {} things on it, the most that are taken. Take some off first.", lines.len());
        return Err(ServiceError::invalid("list", "too_many", detail));
    }
    let line = lists::line_id(c, list, id)?.unwrap_or_else(LineId::fresh);
    recorder.touch(c, [line])?;
    lists::put_line(c, list, id, counts, version, line)?;
    Ok(name.as_str().to_owned())
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
