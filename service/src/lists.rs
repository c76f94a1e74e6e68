//! Pack lists, and the question of each.

use super::fields::{Patch, in_jobs, in_nights, in_note, in_trip, in_ways};
use super::list_change::{DeviceDraft, ListChange};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use kevyt_core::gear::{Jobs, Name};
use kevyt_core::limits;
use kevyt_core::list::Way;
use kevyt_core::plan::{Purse, Terms};
use kevyt_core::quantity::{Energy, Mass, Money};
use kevyt_core::trip::{Device, Trip};
use kevyt_store::access::Role;
use kevyt_store::event::{Event, ListField};
use kevyt_store::id::{LineId, ListId};
use kevyt_store::lines::{self, Carried, LineState, ListLine, StoredLine};
use kevyt_store::lists::{self, PackList, StoredList};
use kevyt_store::{Stored, swaps, walkers};

impl Services {
    /// The caller's lists, and those of others that they have joined, each with the owner's name.
    #[allow(clippy::type_complexity, reason = "two lists of what has names")]
    pub fn lists(&self, caller: Caller) -> Result<(Vec<StoredList>, Vec<(StoredList, String)>), ServiceError> {
        self.read(|c| Ok((lists::all(c, caller.access)?, walkers::joined_lists(c, caller.access)?)))
    }

    /// One list with its lines.
    pub fn list(&self, caller: Caller, id: ListId) -> Result<(StoredList, Vec<StoredLine>), ServiceError> {
        self.read(|c| Ok((lists::get(c, caller.access, id)?, lines::of_list(c, caller.access, id)?)))
    }
}

impl Write<'_> {
    /// Adds a list.
    pub fn add_list(&mut self, name: &str, change: &ListChange) -> Result<StoredList, ServiceError> {
        let mut list = PackList::empty(Name::new(name).in_field("name")?);
        apply(&mut list, change, self.caller, Money::ZERO)?;
        check_room(self, 1)?;
        let id = ListId::fresh();
        self.touch([id])?;
        lists::insert(self.c, self.caller.access, id, &list)?;
        self.log(Event::ListMade { list: list.name.as_str().to_owned() });
        Ok(Stored { id, version: 1, value: list })
    }

    /// Changes a list that was read at `version`.
    pub fn change_list(&mut self, id: ListId, version: i32, change: &ListChange) -> Result<StoredList, ServiceError> {
        let mut stored = lists::get(self.c, self.caller.access, id)?;
        self.touch([id])?;
        let spent = swaps::spent(self.c, self.caller.access, id)?;
        apply(&mut stored.value, change, self.caller, spent)?;
        lists::update(self.c, self.caller.access, id, version, &stored.value)?;
        self.log(event_of(&stored.value, change));
        Ok(Stored { version: version + 1, ..stored })
    }

    /// Makes a list like another one, with the lines of the caller's own gear, its trip and its question; not its swaps.
    pub fn copy_list(&mut self, id: ListId, name: &str) -> Result<StoredList, ServiceError> {
        let (from, to) = walkers::open(self.c, self.caller.access, id)?;
        let mut list = PackList { name: Name::new(name).in_field("name")?, archived: false, ..from.value };
        if to.role() != Role::Owner {
            // The question is the owner's alone.
            (list.target, list.budget, list.hour_rate) = (None, None, Money::ZERO);
            (list.terms, list.silenced, list.known) = (Terms::default(), Vec::new(), Vec::new());
            list.year_nights = None;
        }
        // Nothing is done on the copy.
        let spent = swaps::spent(self.c, self.caller.access, id)?;
        list.terms.purse = list.terms.purse.map(|purse| Purse { spent_then: Some(Money::ZERO), ..purse.left(spent) });
        check_room(self, 1)?;
        let copy = ListId::fresh();
        let new: Vec<_> = lines::of_list(self.c, self.caller.access, id)?
            .into_iter()
            .map(|line| (LineId::fresh(), line.value.gear.id, line.value.counts, Carried::default(), true))
            .collect();
        self.touch([copy])?;
        self.touch(new.iter().map(|line| line.0))?;
        lists::insert(self.c, self.caller.access, copy, &list)?;
        lines::insert(self.c, copy, &new)?;
        self.log(Event::ListMade { list: list.name.as_str().to_owned() });
        Ok(Stored { id: copy, version: 1, value: list })
    }

    /// Lays the caller's lines out as a way of counting says, and has new lines follow it.
    pub fn count_by(&mut self, id: ListId, version: i32, key: &str) -> Result<StoredList, ServiceError> {
        let mut stored = lists::get(self.c, self.caller.access, id)?;
        let way = way_of(&stored.value, key).ok_or_else(|| {
            let detail = format!("No way of counting on this list is called {key}. Choose one that is shown.");
            ServiceError::invalid("way", "unknown_way", detail)
        })?;
        self.touch([id])?;
        let recounted = lines::of_list(self.c, self.caller.access, id)?.into_iter().filter_map(|line| {
            let ListLine { gear, counts, carried } = line.value;
            let by_way = way.counts_of(&gear.value.tags, counts);
            let state = LineState { id: line.id, version: line.version, counts, carried, is_on: true };
            (by_way != counts).then_some((state, gear.id, by_way))
        });
        let recounted: Vec<_> = recounted.collect();
        self.touch(recounted.iter().map(|(line, ..)| line.id))?;
        lines::recount(self.c, id, &recounted)?;
        stored.value.way = way.key;
        lists::update(self.c, self.caller.access, id, version, &stored.value)?;
        self.log(Event::ListCountedBy { list: stored.value.name.as_str().to_owned(), way: key.to_owned() });
        Ok(Stored { version: version + 1, ..stored })
    }

    /// Takes a list out of sight.
    pub fn remove_list(&mut self, id: ListId, version: i32) -> Result<(), ServiceError> {
        let list = lists::get(self.c, self.caller.access, id)?.value;
        self.touch([id])?;
        lists::remove(self.c, self.caller.access, id, version)?;
        self.log(Event::ListRemoved { list: list.name.as_str().to_owned() });
        Ok(())
    }
}

/// Refuses `more` lists than an account may have.
pub(super) fn check_room(w: &mut Write<'_>, more: usize) -> Result<(), ServiceError> {
    let there = lists::count(w.c, w.caller.access)?;
    if there + more <= limits::LISTS {
        return Ok(());
    }
    let detail = format!("You have {there} lists, and {} are the most that are kept. Remove one first.", limits::LISTS);
    Err(ServiceError::invalid("name", "too_many", detail))
}

/// The trip of a list with what is typed of it.
fn retyped(trip: Option<Trip>, change: &ListChange, caller: Caller) -> Result<Trip, ServiceError> {
    let mut trip = trip
        .ok_or_else(|| ServiceError::invalid("figures", "no_trip", "This list has no trip yet. Set the trip first."))?;
    let (units, mass) = (caller.preferences.mass.units(), caller.preferences.mass.table_unit());
    for (figure, typed) in &change.figures {
        let key = serde_json::to_value(figure).unwrap_or_default();
        let field = format!("figures.{}", key.as_str().unwrap_or_default());
        trip.take(*figure, typed, units, mass).in_field(&field)?;
    }
    if let Some(devices) = &change.devices {
        let device = |(at, DeviceDraft { name, charge, charges }): (usize, &DeviceDraft)| {
            let mwh = Energy::parse(charge).in_field(&format!("devices[{at}].charge"))?.mwh();
            Ok::<_, ServiceError>(Device {
                name: in_note(&format!("devices[{at}].name"), name)?,
                mwh,
                charges: *charges,
            })
        };
        trip.devices = devices.iter().enumerate().map(device).collect::<Result<_, _>>()?;
    }
    in_trip("trip", trip)
}

/// The way of counting with a key, on a list.
pub(super) fn way_of(list: &PackList, key: &str) -> Option<Way> {
    list.ways.iter().cloned().chain(Way::built_in()).find(|way| way.key == key)
}

/// What a change of a list did.
fn event_of(list: &PackList, change: &ListChange) -> Event {
    let fields = [
        (ListField::Name, change.name.is_some()),
        (ListField::Note, change.note.is_some()),
        (ListField::Target, change.target != Patch::Keep),
        (ListField::Budget, change.budget != Patch::Keep),
        (ListField::HourRate, change.hour_rate.is_some()),
        (ListField::Requires, change.requires.is_some()),
        (ListField::Trip, change.trip != Patch::Keep || !change.figures.is_empty() || change.devices.is_some()),
        (ListField::Ways, change.ways.is_some()),
        (ListField::YearNights, change.year_nights != Patch::Keep),
        (ListField::Archived, change.archived.is_some()),
    ];
    let fields = fields.into_iter().chain(change.terms_fields()).filter(|field| field.1).map(|field| field.0);
    Event::ListChanged { list: list.name.as_str().to_owned(), fields: fields.collect() }
}

/// Refuses what would leave a list with more lines or swaps than it may have.
pub(super) fn check_none_overfull(w: &mut Write<'_>) -> Result<(), ServiceError> {
    let (lines, swaps, entries) = (limits::LINES, limits::SWAPS, limits::ENTRIES);
    match lists::overfull(w.c, w.caller.access, lines, swaps, entries)?.first() {
        None => Ok(()),
        Some(name) => {
            let detail = format!(
                "The list {name} would have more than {lines} things, {swaps} swaps, or {entries} entries in these swaps. Take some off first."
            );
            Err(ServiceError::invalid("list", "too_many", detail))
        }
    }
}

fn apply(list: &mut PackList, change: &ListChange, caller: Caller, spent: Money) -> Result<(), ServiceError> {
    let currency = caller.preferences.currency;
    if let Some(name) = &change.name {
        list.name = Name::new(name).in_field("name")?;
    }
    if let Some(note) = &change.note {
        list.note = in_note("note", note)?;
    }
    match &change.target {
        Patch::Keep => {}
        Patch::Clear => list.target = None,
        Patch::Set(typed) => {
            let unit = caller.preferences.mass.total_unit();
            let mass = Mass::parse(typed, unit).in_field("target")?;
            list.target = Some((mass, Mass::typed_in(typed, unit)));
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
        in_jobs("requires", requires)?;
        list.requires = requires.clone();
    }
    match &change.trip {
        Patch::Keep => {}
        Patch::Clear => list.trip = None,
        Patch::Set(trip) => list.trip = Some(in_trip("trip", Trip { requires: Jobs::new(), ..trip.clone() })?),
    }
    if !change.figures.is_empty() || change.devices.is_some() {
        list.trip = Some(retyped(list.trip.take(), change, caller)?);
    }
    if let Some(ways) = &change.ways {
        list.ways = in_ways("ways", ways)?;
    }
    match change.year_nights {
        Patch::Keep => {}
        Patch::Clear => list.year_nights = None,
        Patch::Set(nights) => list.year_nights = Some(in_nights("year_nights", nights)?),
    }
    change.apply_terms(&mut list.terms, currency, spent)?;
    list.archived = change.archived.unwrap_or(list.archived);
    Ok(())
}
