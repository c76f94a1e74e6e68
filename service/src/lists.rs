//! Pack lists: the lists, their lines, the question.

use super::fields::{Patch, in_count, in_jobs, in_nights, in_note, in_trip, in_ways};
use super::list_change::{DeviceDraft, ListChange};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use kevyt_core::gear::{Gear, Jobs, Name, Start};
use kevyt_core::limits;
use kevyt_core::list::{Counts, Place, Way};
use kevyt_core::plan::{Purse, Terms};
use kevyt_core::quantity::{Energy, Mass, Money};
use kevyt_core::trip::{Device, Trip};
use kevyt_store::access::Role;
use kevyt_store::event::{Event, ListField, Pieces};
use kevyt_store::id::{GearId, LineId, ListId};
use kevyt_store::lines::{self, Carried, LineState, ListLine, StoredLine};
use kevyt_store::lists::{self, PackList, StoredList};
use kevyt_store::{StoreError, Stored, gear, kits, swaps, walkers};
use std::collections::HashMap;

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
        let snapshot = lines::of_list(self.c, self.caller.access, id)?.into_iter().filter_map(|line| {
            let ListLine { gear, counts, carried } = line.value;
            let snapshot = way.counts_of(&gear.value.tags, counts);
            let state = LineState { id: line.id, version: line.version, counts, carried, is_on: true };
            (snapshot != counts).then_some((state, gear.id, snapshot))
        });
        let snapshot: Vec<_> = snapshot.collect();
        self.touch(snapshot.iter().map(|(line, ..)| line.id))?;
        lines::recount(self.c, id, &snapshot)?;
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

    /// Puts gear on a list, or changes how it counts there. No more pieces than are owned. `version` is that of the line as it was read;
    /// none for gear that is not on the list. Without any counts, all that is owned starts where such things do.
    pub fn put_line(
        &mut self,
        list: ListId,
        id: GearId,
        counts: Counts,
        carried: Option<Carried>,
        version: Option<i32>,
    ) -> Result<StoredLine, ServiceError> {
        let gear = gear::get(self.c, self.caller.access, id)?;
        check_line("", &counts, &gear.value)?;
        // Without a word of where, all of it starts where such things do.
        let starts = counts == Counts::default() && version.is_none();
        let counts = if starts { starting(self, list, &gear.value, gear.value.count)? } else { counts };
        if let Some(by) = carried.and_then(|carried| carried.by) {
            let (_, to) = walkers::open(self.c, self.caller.access, list)?;
            if walkers::of_list(self.c, to)?.iter().all(|walker| walker.id != by) {
                let detail = "Nobody of that id walks on this list.";
                return Err(ServiceError::invalid("carried_by.walker", "unknown_walker", detail));
            }
        }
        let list_name = place(self, list, id, counts, carried, version)?;
        let thing = gear.value.name.as_str().to_owned();
        self.log(Event::LineChanged { thing, list: list_name, pieces: pieces_of(counts) });
        let line = lines::of_gear(self.c, list, id)?.ok_or(StoreError::NotFound)?;
        Ok(Stored {
            id: line.id,
            version: line.version,
            value: ListLine { gear, counts: line.counts, carried: line.carried },
        })
    }

    /// Takes gear off a list whose line was read at `version`.
    pub fn remove_line(&mut self, list: ListId, id: GearId, version: i32) -> Result<(), ServiceError> {
        let name = walkers::open(self.c, self.caller.access, list)?.0.value.name;
        gear::get(self.c, self.caller.access, id)?;
        let line = lines::of_gear(self.c, list, id)?.filter(|line| line.is_on).ok_or(StoreError::NotFound)?;
        self.touch([line.id])?;
        lines::remove(self.c, line.id, version)?;
        let thing = gear::several(self.c, self.caller.access, &[id])?.pop();
        let thing = thing.ok_or(StoreError::NotFound)?.value.name.as_str().to_owned();
        self.log(Event::LineRemoved { thing, list: name.as_str().to_owned() });
        Ok(())
    }
}

/// Refuses counts outside the limits, and more pieces than are owned.
pub(super) fn check_line(path: &str, counts: &Counts, thing: &Gear) -> Result<(), ServiceError> {
    let field = |name: &str| format!("{path}{name}");
    in_count(&field("carried"), counts.carried, 0)?;
    in_count(&field("worn"), counts.worn, 0)?;
    in_count(&field("used_up"), counts.used_up, 0)?;
    in_count(&field("apart"), counts.apart, 0)?;
    in_count(&field("left"), counts.left, 0)?;
    let pieces = counts.pieces();
    if pieces <= thing.count {
        return Ok(());
    }
    let (name, owned) = (thing.name.as_str(), thing.count);
    let detail = format!(
        "{pieces} of {name} are more than the {owned} owned. Type at most {owned}, or change how many are owned."
    );
    Err(ServiceError::invalid(field("carried"), "more_than_owned", detail))
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

/// Refuses to own fewer of some things than a list or a kit has of them.
pub(super) fn check_counts(w: &mut Write<'_>, things: &[GearId]) -> Result<(), ServiceError> {
    if things.is_empty() {
        return Ok(());
    }
    let access = w.caller.access;
    let owned: HashMap<GearId, Gear> =
        gear::several(w.c, access, things)?.into_iter().map(|thing| (thing.id, thing.value)).collect();
    let on_lists = lines::pieces(w.c, access, things)?.into_iter();
    let in_kits = kits::pieces(w.c, access, things)?.into_iter();
    let holders = on_lists.map(|held| ("list", held)).chain(in_kits.map(|held| ("kit", held)));
    for (kind, (id, holder, pieces)) in holders {
        if let Some(thing) = owned.get(&id).filter(|thing| pieces > thing.count) {
            let (name, count) = (thing.name.as_str(), thing.count);
            let detail = format!(
                "The {kind} {holder} has {pieces} of {name}, so {count} can't be all that are owned. Change the {kind} first, or type at least {pieces}."
            );
            return Err(ServiceError::invalid("count", "fewer_than_used", detail));
        }
    }
    Ok(())
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

/// Where the pieces of a thing start on a list: by its way of counting, as it was said of the thing, as its kind has it, or on the back.
pub(super) fn starting(w: &mut Write<'_>, list: ListId, thing: &Gear, pieces: u32) -> Result<Counts, ServiceError> {
    let list = walkers::open(w.c, w.caller.access, list)?.0.value;
    let place = way_of(&list, &list.way).and_then(|way| way.place_of(&thing.tags));
    let start = thing.identity.start().unwrap_or(Start::Carried);
    Ok(place.map_or(Counts::starting(start, pieces), |place| Counts::in_place(place, pieces)))
}

/// The way of counting with a key, on a list.
pub(super) fn way_of(list: &PackList, key: &str) -> Option<Way> {
    list.ways.iter().cloned().chain(Way::built_in()).find(|way| way.key == key)
}

/// How pieces count.
fn pieces_of(counts: Counts) -> Vec<Pieces> {
    let pieces = Place::ALL.into_iter().map(|place| Pieces { place, pieces: counts.at(place) });
    pieces.filter(|of| of.pieces > 0).collect()
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

/// Puts a thing of the caller's on a list of theirs, while there is room; answers with the list's name.
pub(super) fn place(
    w: &mut Write<'_>,
    list: ListId,
    id: GearId,
    counts: Counts,
    carried: Option<Carried>,
    version: Option<i32>,
) -> Result<String, ServiceError> {
    let name = walkers::open(w.c, w.caller.access, list)?.0.value.name.as_str().to_owned();
    let there = lines::of_gear(w.c, list, id)?;
    if there.is_none_or(|line| !line.is_on) {
        check_lines(w, list, 1)?;
    }
    let Some(line) = there else {
        let line = LineId::fresh();
        w.touch([line])?;
        lines::insert(w.c, list, &[(line, id, counts, carried.unwrap_or_default(), true)])?;
        return Ok(name);
    };
    let carried = carried.unwrap_or(line.carried);
    match version {
        // What is asked for stands already: nothing is written, whoever wrote it.
        _ if line.is_on && line.counts == counts && line.carried == carried => return Ok(name),
        Some(version) if version != line.version => return Err(StoreError::Stale(line.version).into()),
        None if line.is_on => return Err(StoreError::Stale(line.version).into()),
        _ => {}
    }
    w.touch([line.id])?;
    lines::update(w.c, line.id, line.version, counts, carried)?;
    Ok(name)
}

/// Refuses `more` things than a list may have.
pub(super) fn check_lines(w: &mut Write<'_>, list: ListId, more: usize) -> Result<(), ServiceError> {
    let there = lines::count(w.c, w.caller.access, list)?;
    if there + more <= limits::LINES {
        return Ok(());
    }
    let detail = format!(
        "This list has {there} things on it, and {} are the most that are taken. Take some off first.",
        limits::LINES
    );
    Err(ServiceError::invalid("list", "too_many", detail))
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
