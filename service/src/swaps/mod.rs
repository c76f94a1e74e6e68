//! Swaps: make one, edit one with its candidates, pin, rule out, remove, bring back.

mod available;
mod done;
mod draft;
mod typed;

pub use available::{full_swaps, full_swaps_among};
pub use done::Completion;
pub use draft::{AdditionDraft, CandidateRef, RemovalDraft, SwapDraft};

use super::fields::{amount, in_count};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use available::one;
use kevyt_core::exchange::{Listed, SwapLine, swap_lines};
use kevyt_core::gear::{Name, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::Place;
use kevyt_core::swap::{Candidate, Resale, SwapState};
use kevyt_store::account::Preferences;
use kevyt_store::event::Event;
use kevyt_store::id::{CandidateId, LineId, ListId, SwapId};
use kevyt_store::swaps::{self, SwapRecord};
use kevyt_store::{Page, Stored, candidates, lines, lists};
use serde::Serialize;
use std::collections::HashMap;
pub use typed::{assumed_of, marks_of};
use typed::{name_of, read_candidate, tenth_hours};
use utoipa::ToSchema;

/// Why a swap can't be made.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error, Serialize, ToSchema)]
#[serde(tag = "code", rename_all = "snake_case")]
pub enum Unavailable {
    /// It takes off something that is not on the list any more.
    #[error("It takes off {thing}, which is not on this list any more.")]
    OffList {
        /// The thing.
        thing: String,
    },
    /// It takes off something that is to be kept.
    #[error("{thing} is to be kept: its drawer in Gear says so.")]
    Kept {
        /// The thing.
        thing: String,
    },
    /// It requires a swap that was removed.
    #[error("It requires {swap}, which was removed.")]
    RequiresRemoved {
        /// That swap.
        swap: String,
    },
    /// It requires a swap that can't be made itself.
    #[error("It requires {swap}, which can't be made itself.")]
    RequiresUnavailable {
        /// That swap.
        swap: String,
    },
}

/// A swap with the candidates that it puts on.
#[derive(Debug, Clone)]
pub struct FullSwap {
    /// The swap.
    pub swap: Stored<SwapId, SwapRecord>,
    /// Its candidates, beside [`SwapRecord::add`].
    pub candidates: Vec<Stored<CandidateId, Candidate>>,
    /// Why it can't be made, if it can't: what it takes off or requires is gone.
    pub unavailable: Option<Unavailable>,
    /// The result of selling what comes off.
    pub resale: Resale,
}

/// A swap line as it was understood.
#[derive(Debug, Clone)]
pub struct SwapReading {
    /// The line.
    pub line: SwapLine,
    /// Names of what comes off.
    pub gone: Vec<String>,
    /// The swap that it makes, as typed.
    pub draft: SwapDraft,
}

impl Services {
    /// A list's swaps with their candidates, those that can't be made too.
    pub fn swaps(&self, caller: Caller, list: ListId) -> Result<Vec<FullSwap>, ServiceError> {
        self.read(|c| {
            lists::get(c, caller.access, list)?;
            full_swaps(c, caller, list)
        })
    }

    /// Reads a swap line against a list, without making anything.
    pub fn read_swap_line(
        &self,
        caller: Caller,
        list: ListId,
        line: &str,
        source: WeightSource,
    ) -> Result<SwapReading, ServiceError> {
        let lines = self.read(|c| {
            lists::get(c, caller.access, list)?;
            Ok(lines::of_list(c, caller.access, list)?)
        })?;
        let listed: Vec<Listed<'_>> = lines.iter().map(|line| typed::listed(&line.value)).collect();
        let read = SwapLine::read(line, caller.preferences.currency, source, &listed);
        let gone = read.remove.iter().map(|gone| listed[gone.at].name.to_owned()).collect();
        let draft = typed::draft_of(&read, &lines, caller);
        Ok(SwapReading { line: read, gone, draft })
    }

    /// Rows of a spreadsheet as the swap lines that would be typed for them, against a list.
    pub fn swap_lines(&self, caller: Caller, list: ListId, text: &str) -> Result<Vec<String>, ServiceError> {
        let lines = self.read(|c| {
            lists::get(c, caller.access, list)?;
            Ok(lines::of_list(c, caller.access, list)?)
        })?;
        let names: Vec<&str> = lines.iter().map(|line| line.value.gear.value.name.as_str()).collect();
        let Preferences { mass, currency } = caller.preferences;
        swap_lines(text, &names, mass.table_unit(), currency)
            .map_err(|refused| ServiceError::invalid("text", "rows", refused.to_string()))
    }

    /// One swap.
    pub fn swap(&self, caller: Caller, id: SwapId) -> Result<FullSwap, ServiceError> {
        self.read(|c| one(c, caller, id))
    }

    /// One page of candidates and how many there are.
    pub fn candidates(
        &self,
        caller: Caller,
        page: Page,
    ) -> Result<(Vec<Stored<CandidateId, Candidate>>, i64), ServiceError> {
        Ok(candidates::page(&mut *self.connection()?, caller.access, page)?)
    }
}

impl Write<'_> {
    /// Makes a swap on a list.
    pub fn add_swap(&mut self, list: ListId, draft: &SwapDraft) -> Result<FullSwap, ServiceError> {
        let id = SwapId::fresh();
        lists::get(self.c, self.caller.access, list)?;
        check_room(self, list, 1)?;
        self.touch([id])?;
        let record = self.swap_record(list, None, draft)?;
        self.log(Event::SwapMade { swap: record.name.as_str().to_owned() });
        swaps::insert(self.c, self.caller.access, &[(id, record)])?;
        check_entries(self, list)?;
        one(self.c, self.caller, id)
    }

    /// Writes a swap that was read at `version`.
    pub fn write_swap(&mut self, id: SwapId, version: i32, draft: &SwapDraft) -> Result<FullSwap, ServiceError> {
        let now = swaps::get(self.c, self.caller.access, id)?.at(version)?;
        if now.value.done.is_some() {
            let detail = format!("{} is done. Undo that first, then change it.", now.value.name.as_str());
            return Err(ServiceError::invalid("swap", "done", detail));
        }
        self.touch([id])?;
        if draft.requires.contains(&id) || draft.excludes.contains(&id) {
            return Err(link_refused("requires"));
        }
        let record = self.swap_record(now.value.list, Some(&now.value), draft)?;
        swaps::update(self.c, self.caller.access, id, version, &record)?;
        check_entries(self, record.list)?;
        self.log(Event::SwapChanged { swap: record.name.as_str().to_owned() });
        one(self.c, self.caller, id)
    }

    /// Pins, rules out or opens a swap.
    pub fn set_swap_state(&mut self, id: SwapId, version: i32, state: SwapState) -> Result<FullSwap, ServiceError> {
        let name = swaps::get(self.c, self.caller.access, id)?.value.name;
        self.touch([id])?;
        swaps::set_state(self.c, self.caller.access, id, version, state)?;
        self.log(Event::SwapSet { swap: name.as_str().to_owned(), state });
        one(self.c, self.caller, id)
    }

    /// Takes a swap out of sight.
    pub fn remove_swap(&mut self, id: SwapId, version: i32) -> Result<(), ServiceError> {
        let name = swaps::get(self.c, self.caller.access, id)?.value.name;
        self.touch([id])?;
        swaps::remove(self.c, self.caller.access, id, version)?;
        self.log(Event::SwapRemoved { swap: name.as_str().to_owned() });
        Ok(())
    }

    /// Checks a draft against the list, stores its candidates, and gives the swap as it is kept. What it named
    /// `before` it may go on naming though it is gone.
    fn swap_record(
        &mut self,
        list: ListId,
        before: Option<&SwapRecord>,
        draft: &SwapDraft,
    ) -> Result<SwapRecord, ServiceError> {
        let (caller, access) = (self.caller, self.caller.access);
        let currency = caller.preferences.currency;
        let lines: HashMap<LineId, String> = lines::of_list(self.c, access, list)?
            .into_iter()
            .map(|line| (line.id, line.value.gear.value.name.as_str().to_owned()))
            .collect();
        let (on, off) = (draft.remove.len(), draft.add.len());
        check_sides("", on, off)?;
        for (at, RemovalDraft { line, qty, from: place }) in draft.remove.iter().enumerate() {
            in_count(&format!("remove[{at}].qty"), *qty, 1)?;
            counted(&format!("remove[{at}].from"), *place)?;
            let is_kept = before.is_some_and(|before| before.remove.iter().any(|side| side.0 == *line));
            if !lines.contains_key(line) && !is_kept {
                let detail = "What the swap takes off is not on this list. Choose something that is.";
                return Err(ServiceError::invalid(format!("remove[{at}].line"), "not_on_list", detail));
            }
        }
        let named: Vec<SwapId> = draft.requires.iter().chain(&draft.excludes).copied().collect();
        let mut known = swaps::on_list(self.c, access, list, &named)?;
        known.extend(before.into_iter().flat_map(|before| before.requires.iter().chain(&before.excludes)));
        check_links("requires", &draft.requires, |other| known.contains(other))?;
        check_links("excludes", &draft.excludes, |other| known.contains(other))?;
        let mut add = Vec::new();
        for (at, addition) in draft.add.iter().enumerate() {
            counted(&format!("add[{at}].place"), addition.place)?;
            let mut candidate = read_candidate(at, addition, caller)?;
            let is_whole = addition.facts.is_some() && addition.kind.is_some() && addition.marks.is_some();
            if let Some(CandidateRef { id: there, .. }) = addition.candidate.filter(|_| !is_whole)
                && let Some(stored) = candidates::by_id(self.c, access, &[there])?.remove(&there)
            {
                // What is left out is as it was.
                let before = stored.value;
                candidate.facts = if addition.facts.is_some() { candidate.facts } else { before.facts };
                candidate.identity = if addition.kind.is_some() { candidate.identity } else { before.identity };
                candidate.tags = if addition.marks.is_some() { candidate.tags } else { before.tags };
            }
            let candidate_id = match addition.candidate {
                Some(CandidateRef { id: candidate_id, version }) => {
                    candidates::update(self.c, access, candidate_id, version, &candidate)?;
                    candidate_id
                }
                None => {
                    let candidate_id = CandidateId::fresh();
                    candidates::insert(self.c, access, &[(candidate_id, candidate)])?;
                    candidate_id
                }
            };
            add.push((candidate_id, in_count(&format!("add[{at}].qty"), addition.qty, 1)?, addition.place));
        }
        let typed = draft.name.as_deref().filter(|name| !name.trim().is_empty());
        let name = match typed {
            Some(typed) => Name::new(typed).in_field("name")?,
            None => Name::new(&name_of(draft, &lines)).in_field("name")?,
        };
        Ok(SwapRecord {
            list,
            name,
            kind: draft.kind,
            state: draft.state,
            delivery: amount("delivery", &draft.delivery, currency)?,
            resale: amount("resale", &draft.resale, currency)?,
            sells_needed: draft.sells_needed,
            tenth_hours: tenth_hours(&draft.hours)?,
            remove: draft.remove.iter().map(|side| (side.line, side.qty, side.from)).collect(),
            add,
            requires: distinct(&draft.requires),
            excludes: distinct(&draft.excludes),
            done: None,
        })
    }
}

fn distinct(ids: &[SwapId]) -> Vec<SwapId> {
    let mut ids = ids.to_vec();
    ids.sort_unstable();
    ids.dedup();
    ids
}

/// Refuses `more` swaps than a list may have.
pub(super) fn check_room(w: &mut Write<'_>, list: ListId, more: usize) -> Result<(), ServiceError> {
    let there = swaps::count(w.c, w.caller.access, list)?;
    if there + more <= limits::SWAPS {
        return Ok(());
    }
    let detail =
        format!("This list has {there} swaps, and {} are the most that are taken. Remove some first.", limits::SWAPS);
    Err(ServiceError::invalid("list", "too_many", detail))
}

/// Refuses what leaves the swaps of a list with more entries than can be planned.
pub(super) fn check_entries(w: &mut Write<'_>, list: ListId) -> Result<(), ServiceError> {
    let there = swaps::entries(w.c, w.caller.access, list)?;
    if there <= limits::ENTRIES {
        return Ok(());
    }
    let detail = format!(
        "The swaps of this list would have {there} entries in all: what they take off, put on, require and exclude. {} are the most that \
         are taken. Remove some swaps first.",
        limits::ENTRIES
    );
    Err(ServiceError::invalid("list", "too_many", detail))
}

/// Refuses a swap of which nothing comes off and nothing goes on, or too much.
pub(super) fn check_sides(path: &str, off: usize, on: usize) -> Result<(), ServiceError> {
    let field = |name: &str| format!("{path}{name}");
    if off == 0 && on == 0 {
        let detail = "The swap takes nothing off and puts nothing on. Choose what comes off, or name what goes on.";
        return Err(ServiceError::invalid(field("remove"), "empty", detail));
    }
    for (side, entries) in [("remove", off), ("add", on)] {
        if entries > limits::SIDE {
            let detail =
                format!("{entries} entries are too many for one side of a swap. Name at most {}.", limits::SIDE);
            return Err(ServiceError::invalid(field(side), "too_many", detail));
        }
    }
    Ok(())
}

/// Refuses a place that no swap takes from or puts to.
pub(super) fn counted(field: &str, place: Place) -> Result<(), ServiceError> {
    if Place::COUNTED.contains(&place) {
        return Ok(());
    }
    let detail = "A swap takes off what is carried, worn or used up, and puts its new pieces there.";
    Err(ServiceError::invalid(field, "place", detail))
}

/// Refuses too many links, and any to what is no other swap of the list.
pub(super) fn check_links<T>(field: &str, others: &[T], is_known: impl Fn(&T) -> bool) -> Result<(), ServiceError> {
    if others.len() > limits::LINKS || !others.iter().all(is_known) { Err(link_refused(field)) } else { Ok(()) }
}

fn link_refused(field: &str) -> ServiceError {
    let detail = format!("A swap can only require or exclude other swaps of the same list, {} at most.", limits::LINKS);
    ServiceError::invalid(field, "not_on_list", detail)
}
