//! Lines of pack lists: what is on them, how many pieces, and where they count.

use super::ServiceError;
use super::fields::in_count;
use super::lists::way_of;
use super::write::Write;
use kevyt_core::gear::{Gear, Start};
use kevyt_core::limits;
use kevyt_core::list::{Counts, Place};
use kevyt_store::event::{Event, Pieces};
use kevyt_store::id::{GearId, LineId, ListId};
use kevyt_store::lines::{self, Carried, ListLine, StoredLine};
use kevyt_store::{StoreError, Stored, gear, kits, walkers};
use std::collections::HashMap;

/// How gear is put on a list, or what of it changes there.
#[derive(Debug, Clone, Copy, Default)]
pub struct LinePut {
    /// Where its pieces count.
    pub counts: Counts,
    /// Who carries it, if that is said.
    pub carried: Option<Carried>,
    /// That of the line as it was read; none for gear that is not on the list.
    pub version: Option<i32>,
}

impl Write<'_> {
    /// Puts gear on a list, or changes how it counts there. No more pieces than are owned. Without any counts, all that is owned starts where
    /// such things do.
    pub fn put_line(&mut self, list: ListId, id: GearId, put: LinePut) -> Result<StoredLine, ServiceError> {
        let LinePut { counts, carried, version } = put;
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
        let list_name = place(self, list, id, LinePut { counts, ..put })?;
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

/// Where the pieces of a thing start on a list: by its way of counting, as it was said of the thing, as its kind has it, or on the back.
pub(super) fn starting(w: &mut Write<'_>, list: ListId, thing: &Gear, pieces: u32) -> Result<Counts, ServiceError> {
    let list = walkers::open(w.c, w.caller.access, list)?.0.value;
    let place = way_of(&list, &list.way).and_then(|way| way.place_of(&thing.tags));
    let start = thing.identity.start().unwrap_or(Start::Carried);
    Ok(place.map_or(Counts::starting(start, pieces), |place| Counts::in_place(place, pieces)))
}

/// How pieces count.
fn pieces_of(counts: Counts) -> Vec<Pieces> {
    let pieces = Place::ALL.into_iter().map(|place| Pieces { place, pieces: counts.at(place) });
    pieces.filter(|of| of.pieces > 0).collect()
}

/// Puts a thing of the caller's on a list of theirs, while there is room; answers with the list's name.
pub(super) fn place(
    w: &mut Write<'_>,
    list: ListId,
    id: GearId,
    LinePut { counts, carried, version }: LinePut,
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
