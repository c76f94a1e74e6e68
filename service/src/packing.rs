//! A list as it is packed by the caller: zones, what is in, what is left to do, and a scale's reading against it.

use super::fields::Patch;
use super::sheet::ListSnapshot;
use super::together::Hands;
use super::{Caller, InField, ServiceError, Services};
use diesel::MysqlConnection;
use kevyt_core::gear::DEFAULT_STEP;
use kevyt_core::limits;
use kevyt_core::pack::{Noted, Packed, Reconciled, Task, ToDo, Zone, is_forgotten, to_do};
use kevyt_core::quantity::{Mass, Quantity, Volume};
use kevyt_store::access::ToList;
use kevyt_store::id::{GearId, LineId, ListId};
use kevyt_store::lists::StoredList;
use kevyt_store::packing::{self, Run};
use kevyt_store::{lines, trips, walkers};
use serde::Deserialize;
use std::collections::{BTreeMap, HashSet};
use utoipa::ToSchema;

/// A list as it is packed.
pub struct Packing {
    /// The list.
    pub list: StoredList,
    /// The lines of what the caller carries and wears, in the order in which the things were given.
    pub lines: Vec<LineId>,
    /// The things, and what was said of each.
    pub packed: Packed,
    /// What is left to do.
    pub to_do: Vec<ToDo>,
    /// What the caller has noted beside.
    pub run: Run,
    /// What was forgotten when the list was packed for a trip last, and is not in now: positions of things.
    pub forgotten: Vec<usize>,
    /// The reading against the list, if there is one.
    pub reconciled: Option<Reconciled>,
}

/// What is noted of the packing of a list; what is left out stays.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = PackingNotes)]
pub struct PackingChange {
    /// What a scale shows, as typed; empty for nothing.
    pub reading: Option<String>,
    /// What it shows of the walker alone, if they stood on it with the pack.
    pub of_me: Option<String>,
    /// What zones hold, as typed (`5 l`); null for what Kevyt proposes.
    #[serde(default)]
    #[schema(value_type = BTreeMap<String, Option<String>>)]
    pub zones: BTreeMap<Zone, Option<String>>,
    /// What is written down to do, by what it is known by; null to cross it out.
    #[serde(default)]
    #[schema(value_type = BTreeMap<String, NotedChange>)]
    pub to_do: BTreeMap<String, Option<NotedChange>>,
}

/// Something to be done; what is left out stays.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = NotedIn)]
pub struct NotedChange {
    /// What sort it is.
    pub task: Option<Task>,
    /// What is to be done.
    pub what: Option<String>,
    /// Who does it.
    pub by: Option<String>,
    /// Whether it is done.
    pub done: Option<bool>,
}

/// What is said of a line; what is left out stays.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = PackIn)]
pub struct PackChange {
    is_in: Option<bool>,
    /// Where it goes; null for where Kevyt proposes.
    #[serde(default)]
    #[schema(value_type = Option<Zone>)]
    zone: Patch<Zone>,
}

impl Services {
    /// A list as the caller packs it.
    pub fn packing(&self, caller: Caller, id: ListId) -> Result<Packing, ServiceError> {
        self.read(|c| {
            let (list, to) = walkers::open(c, caller.access, id)?;
            let (snapshot, said, run) =
                (ListSnapshot::load(c, caller, to)?, packing::of_list(c, to)?, packing::run(c, caller.access, to)?);
            let was_forgotten = forgotten_last(c, caller, id)?;
            let (lines, of_gear): (Vec<LineId>, Vec<GearId>) = mine(&snapshot).into_iter().unzip();
            let said = lines.iter().map(|line| said.get(line).copied().unwrap_or_default());
            let packed = Packed::new(snapshot.mine().into_iter().zip(said), run.zones.clone());
            let is_out = |at: &usize| packed.zone(*at).is_some() && !packed.said(*at).is_in;
            let things = 0..packed.things().len();
            let forgotten = things.filter(is_out).filter(|at| was_forgotten.contains(&of_gear[packed.given(*at)]));
            let forgotten = forgotten.collect();
            let trip = list.value.trip.as_ref();
            let reading = read(caller, &run)?;
            let reconciled = reading.map(|reading| packed.reconcile(reading, DEFAULT_STEP, &snapshot.kits, trip));
            Ok(Packing { to_do: to_do(packed.things(), trip), list, lines, packed, run, forgotten, reconciled })
        })
    }

    /// Says of a line whether it is in, or where it goes, or both.
    pub fn pack(&self, caller: Caller, list: ListId, line: LineId, change: &PackChange) -> Result<(), ServiceError> {
        let zone = match &change.zone {
            Patch::Keep => None,
            Patch::Clear => Some(None),
            Patch::Set(zone) => Some(Some(*zone)),
        };
        self.transaction(|c| {
            let (_, to) = walkers::open(c, caller.access, list)?;
            in_hand(c, caller, to, "line", &[line])?;
            Ok(packing::put(c, to, line, change.is_in, zone)?)
        })
    }

    /// Puts lines into a zone, in this order.
    pub fn order_zone(&self, caller: Caller, list: ListId, zone: Zone, lines: &[LineId]) -> Result<(), ServiceError> {
        let once: HashSet<&LineId> = lines.iter().collect();
        if lines.is_empty() || once.len() != lines.len() {
            let detail = "Name each thing of the zone once, in its order.";
            return Err(ServiceError::invalid("lines", "not_once", detail));
        }
        self.transaction(|c| {
            let (_, to) = walkers::open(c, caller.access, list)?;
            in_hand(c, caller, to, "lines", lines)?;
            Ok(packing::order(c, to, zone, lines)?)
        })
    }

    /// Takes the ticks of what the caller carries away; others go on with theirs.
    pub fn unpack(&self, caller: Caller, list: ListId) -> Result<(), ServiceError> {
        let c = &mut *self.connection()?;
        let (_, to) = walkers::open(c, caller.access, list)?;
        let lines: Vec<LineId> = mine(&ListSnapshot::load(c, caller, to)?).into_iter().map(|(line, _)| line).collect();
        Ok(packing::unpack(c, to, &lines)?)
    }

    /// Notes something of how the caller packs a list, field by field.
    pub fn note_packing(&self, caller: Caller, list: ListId, change: &PackingChange) -> Result<(), ServiceError> {
        self.transaction(|c| {
            let (_, to) = walkers::open(c, caller.access, list)?;
            packing::lock_run(c, caller.access, to)?;
            let mut run = packing::run(c, caller.access, to)?;
            apply(&mut run, change)?;
            read(caller, &run)?;
            Ok(packing::write_run(c, caller.access, to, &run)?)
        })
    }
}

/// Refuses lines that others carry: they pack them.
fn in_hand(
    c: &mut MysqlConnection,
    caller: Caller,
    to: ToList,
    field: &str,
    lines: &[LineId],
) -> Result<(), ServiceError> {
    let walkers = walkers::of_list(c, to)?;
    let hands = Hands::new(to, &walkers, caller.access.account());
    for (owner, name, carried) in lines::carriers(c, to, lines)? {
        if !hands.hold(owner, carried) {
            return Err(hands.refused(field.to_owned(), &name, owner, carried));
        }
    }
    Ok(())
}

/// What the scale shows of the pack.
fn read(caller: Caller, run: &Run) -> Result<Option<Mass>, ServiceError> {
    let typed = |field: &str, text: &str| match text {
        "" => Ok(None),
        text => Mass::parse(text, caller.preferences.mass.total_unit()).in_field(field).map(Some),
    };
    let shows = typed("reading", &run.reading)?;
    let of_me = typed("of_me", &run.of_me)?.unwrap_or_default();
    if shows.is_some_and(|shows| shows < of_me) {
        let detail = "The pack and you weigh less than you alone. Type both as the same scale shows them.";
        return Err(ServiceError::invalid("of_me", "out_of_range", detail));
    }
    Ok(shows.map(|shows| shows - of_me))
}

/// Refuses what can't have been noted, out of a file.
pub(super) fn check(caller: Caller, run: &Run) -> Result<(), ServiceError> {
    let mut own = Run::default();
    let noted = |noted: &Noted| NotedChange {
        task: Some(noted.task),
        what: Some(noted.what.clone()),
        by: Some(noted.by.clone()),
        done: Some(noted.done),
    };
    let change = PackingChange {
        reading: Some(run.reading.clone()),
        of_me: Some(run.of_me.clone()),
        zones: BTreeMap::new(),
        to_do: run.to_do.iter().map(|one| (one.id.clone(), Some(noted(one)))).collect(),
    };
    apply(&mut own, &change)?;
    if let Some((_, ml)) = run.zones.iter().find(|(_, ml)| !(0..=limits::VOLUME_ML).contains(*ml)) {
        let detail = format!("{ml} ml can't be what a zone holds.");
        return Err(ServiceError::outside("zones", Quantity::Volume, (0, limits::VOLUME_ML), detail));
    }
    read(caller, run).map(|_| ())
}

/// The most that is written down to do.
const NOTED: usize = 100;

fn apply(run: &mut Run, change: &PackingChange) -> Result<(), ServiceError> {
    let figure = |field: &str, typed: &str| {
        let typed = typed.trim();
        if typed.chars().count() <= limits::TYPED { Ok(typed.to_owned()) } else { Err(too_long(field, limits::TYPED)) }
    };
    if let Some(reading) = &change.reading {
        run.reading = figure("reading", reading)?;
    }
    if let Some(of_me) = &change.of_me {
        run.of_me = figure("of_me", of_me)?;
    }
    for (zone, typed) in &change.zones {
        match typed.as_deref().map(str::trim).filter(|typed| !typed.is_empty()) {
            None => drop(run.zones.remove(zone)),
            Some(typed) => drop(run.zones.insert(*zone, Volume::parse(typed).in_field("zones")?.ml())),
        }
    }
    for (id, noted) in &change.to_do {
        let at = run.to_do.iter().position(|known| known.id == *id);
        match (noted, at) {
            (None, None) => {}
            (None, Some(at)) => drop(run.to_do.remove(at)),
            (Some(change), Some(at)) => note(&mut run.to_do[at], change)?,
            (Some(change), None) => {
                if run.to_do.len() >= NOTED || id.is_empty() || id.len() > 60 {
                    let detail = format!("At most {NOTED} things to do are kept. Cross one out first.");
                    return Err(ServiceError::invalid("to_do", "too_many", detail));
                }
                let mut new =
                    Noted { id: id.clone(), task: Task::Other, what: String::new(), by: String::new(), done: false };
                note(&mut new, change)?;
                run.to_do.push(new);
            }
        }
    }
    Ok(())
}

fn note(noted: &mut Noted, change: &NotedChange) -> Result<(), ServiceError> {
    let words = |field: &str, typed: &str| {
        let typed = typed.trim();
        if typed.chars().count() <= limits::NAME { Ok(typed.to_owned()) } else { Err(too_long(field, limits::NAME)) }
    };
    noted.task = change.task.unwrap_or(noted.task);
    if let Some(what) = &change.what {
        noted.what = words("to_do.what", what)?;
    }
    if let Some(by) = &change.by {
        noted.by = words("to_do.by", by)?;
    }
    noted.done = change.done.unwrap_or(noted.done);
    if noted.what.is_empty() {
        return Err(ServiceError::invalid("to_do.what", "empty", "Type what is to be done."));
    }
    Ok(())
}

fn too_long(field: &str, most: usize) -> ServiceError {
    ServiceError::invalid(field, "too_long", format!("That is too long. Type at most {most} characters."))
}

/// Gear that was forgotten when the list was packed for a trip last.
fn forgotten_last(c: &mut MysqlConnection, caller: Caller, list: ListId) -> Result<HashSet<GearId>, ServiceError> {
    let Some(trip) = trips::last_kept(c, caller.access, list)? else { return Ok(HashSet::new()) };
    let things = trips::of_trip(c, caller.access, trip)?;
    let any_in = things.iter().any(|thing| thing.value.is_in);
    let forgotten = things.into_iter().map(|thing| thing.value);
    let forgotten =
        forgotten.filter(|thing| thing.along() > 0 && is_forgotten(thing.is_in, any_in, thing.verdict.used));
    Ok(forgotten.filter_map(|thing| thing.gear).collect())
}

/// The lines of what the caller carries with their gear, in the order of [`ListSnapshot::mine`].
fn mine(snapshot: &ListSnapshot) -> Vec<(LineId, GearId)> {
    let all = snapshot.lines.iter().zip(&snapshot.things);
    let mine = all.filter(|(_, thing)| thing.carrier.walker() == snapshot.me);
    mine.map(|(line, _)| (line.line.id, line.line.value.gear.id)).collect()
}
