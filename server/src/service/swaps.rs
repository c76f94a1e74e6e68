//! Swaps: make one, edit one with its candidates, pin, rule out, remove, bring back.

use super::fields::{Patch, in_count, in_jobs, weight};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use crate::store::id::{CandidateId, LineId, ListId, SwapId};
use crate::store::swaps::{self, SwapRecord};
use crate::store::{Page, StoreError, Stored, candidates, lists};
use diesel::MysqlConnection;
use kevyt_core::gear::{Jobs, Name, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::Place;
use kevyt_core::quantity::{Currency, Money, PriceRange};
use kevyt_core::swap::{Candidate, SwapKind, SwapState};
use std::collections::{HashMap, HashSet};

/// A swap as typed.
#[derive(Debug, Clone)]
pub struct SwapDraft {
    /// Its name; made of its sides if none is typed.
    pub name: Option<String>,
    /// Its kind.
    pub kind: SwapKind,
    /// Open, pinned or ruled out.
    pub state: SwapState,
    /// What comes off: line, pieces, from where.
    pub remove: Vec<(LineId, u32, Place)>,
    /// What goes on.
    pub add: Vec<AdditionDraft>,
    /// Delivery, as typed; empty for none.
    pub delivery: String,
    /// What the removed gear brings, as typed; empty for nothing.
    pub resale: String,
    /// Hours of making, as typed with at most one decimal; empty for none.
    pub hours: String,
    /// Swaps that must be made with it.
    pub requires: Vec<SwapId>,
    /// Swaps that can't be made with it.
    pub excludes: Vec<SwapId>,
}

/// A candidate on the adding side, as typed: a new one, or one that is there and may have been edited.
#[derive(Debug, Clone)]
pub struct AdditionDraft {
    /// The candidate and the version it was read at, if it is there already.
    pub candidate: Option<(CandidateId, i32)>,
    /// Its name.
    pub name: String,
    /// Weight of one piece, as typed; empty if unknown.
    pub weight: String,
    /// Where the weight comes from.
    pub source: Option<WeightSource>,
    /// Price of one piece or a range, as typed; empty if unknown.
    pub price: String,
    /// Jobs that it does.
    pub provides: Jobs,
    /// Jobs that it needs.
    pub needs: Jobs,
    /// Pieces.
    pub qty: u32,
    /// Where they will count.
    pub place: Place,
}

/// A swap with the candidates that it puts on.
#[derive(Debug, Clone)]
pub struct FullSwap {
    /// The swap.
    pub swap: Stored<SwapId, SwapRecord>,
    /// Its candidates, beside [`SwapRecord::add`].
    pub candidates: Vec<Stored<CandidateId, Candidate>>,
    /// Why it can't be made, if it can't: what it takes off or requires is gone.
    pub unavailable: Option<String>,
}

impl Services {
    /// A list's swaps with their candidates, those that can't be made too.
    pub fn swaps(&self, caller: Caller, list: ListId) -> Result<Vec<FullSwap>, ServiceError> {
        self.read(|c| {
            lists::get(c, caller.account, list)?;
            full_swaps(c, caller, list)
        })
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
        Ok(candidates::page(&mut *self.connection()?, caller.account, page)?)
    }
}

impl Write<'_> {
    /// Makes a swap on a list.
    pub fn add_swap(&mut self, list: ListId, draft: &SwapDraft) -> Result<FullSwap, ServiceError> {
        let id = SwapId::fresh();
        lists::get(self.c, self.caller.account, list)?;
        check_room(self, list, 1)?;
        self.touch([id])?;
        let record = self.swap_record(list, None, draft)?;
        swaps::insert(self.c, self.caller.account, id, &record)?;
        self.said(format!("Swap {} made.", record.name.as_str()));
        one(self.c, self.caller, id)
    }

    /// Writes a swap that was read at `version`.
    pub fn write_swap(&mut self, id: SwapId, version: i32, draft: &SwapDraft) -> Result<FullSwap, ServiceError> {
        let now = swaps::get(self.c, self.caller.account, id)?;
        if now.version != version {
            return Err(StoreError::Stale(now.version).into());
        }
        self.touch([id])?;
        if draft.requires.contains(&id) || draft.excludes.contains(&id) {
            return Err(link_refused("requires"));
        }
        let record = self.swap_record(now.value.list, Some(&now.value), draft)?;
        swaps::update(self.c, self.caller.account, id, version, &record)?;
        self.said(format!("Swap {} changed.", record.name.as_str()));
        one(self.c, self.caller, id)
    }

    /// Pins, rules out or opens a swap.
    pub fn set_swap_state(&mut self, id: SwapId, version: i32, state: SwapState) -> Result<FullSwap, ServiceError> {
        let name = swaps::get(self.c, self.caller.account, id)?.value.name;
        self.touch([id])?;
        swaps::set_state(self.c, self.caller.account, id, version, state)?;
        let done = match state {
            SwapState::Open => "left to the plan",
            SwapState::Pinned => "pinned",
            SwapState::RuledOut => "ruled out",
        };
        self.said(format!("Swap {} {done}.", name.as_str()));
        one(self.c, self.caller, id)
    }

    /// Takes a swap out of sight.
    pub fn remove_swap(&mut self, id: SwapId, version: i32) -> Result<(), ServiceError> {
        let name = swaps::get(self.c, self.caller.account, id)?.value.name;
        self.touch([id])?;
        swaps::remove(self.c, self.caller.account, id, version)?;
        self.said(format!("Swap {} removed.", name.as_str()));
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
        let (caller, account) = (self.caller, self.caller.account);
        let currency = caller.preferences.currency;
        let lines: HashMap<LineId, String> = lists::lines(self.c, account, list)?
            .into_iter()
            .map(|line| (line.id, line.value.gear.value.name.as_str().to_owned()))
            .collect();
        let (on, off) = (draft.remove.len(), draft.add.len());
        check_sides("", on, off)?;
        for (at, (line, qty, place)) in draft.remove.iter().enumerate() {
            in_count(&format!("remove[{at}].qty"), *qty, 1)?;
            counted(&format!("remove[{at}].from"), *place)?;
            let is_kept = before.is_some_and(|before| before.remove.iter().any(|side| side.0 == *line));
            if !lines.contains_key(line) && !is_kept {
                let detail = "What the swap takes off is not on this list. Choose something that is.";
                return Err(ServiceError::invalid(format!("remove[{at}].line"), "not_on_list", detail));
            }
        }
        let named: Vec<SwapId> = draft.requires.iter().chain(&draft.excludes).copied().collect();
        let mut known = swaps::on_list(self.c, account, list, &named)?;
        known.extend(before.into_iter().flat_map(|before| before.requires.iter().chain(&before.excludes)));
        check_links("requires", &draft.requires, |other| known.contains(other))?;
        check_links("excludes", &draft.excludes, |other| known.contains(other))?;
        let mut add = Vec::new();
        for (at, addition) in draft.add.iter().enumerate() {
            counted(&format!("add[{at}].place"), addition.place)?;
            let candidate = read_candidate(at, addition, caller)?;
            let candidate_id = match addition.candidate {
                Some((candidate_id, version)) => {
                    candidates::update(self.c, account, candidate_id, version, &candidate)?;
                    candidate_id
                }
                None => {
                    let candidate_id = CandidateId::fresh();
                    candidates::insert(self.c, account, candidate_id, &candidate)?;
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
            tenth_hours: tenth_hours(&draft.hours)?,
            remove: draft.remove.clone(),
            add,
            requires: distinct(&draft.requires),
            excludes: distinct(&draft.excludes),
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
    let there = swaps::count(w.c, w.caller.account, list)?;
    if there + more <= limits::SWAPS {
        return Ok(());
    }
    let detail =
        format!("This list has {there} swaps, and {} are the most that are taken. Remove some first.", limits::SWAPS);
    Err(ServiceError::invalid("list", "too_many", detail))
}

/// A list's swaps with their candidates, those that can't be made too.
pub(super) fn full_swaps(c: &mut MysqlConnection, caller: Caller, list: ListId) -> Result<Vec<FullSwap>, ServiceError> {
    let records = swaps::of_list(c, caller.account, list)?;
    let mut full = with_candidates(c, caller, records)?;
    let lines = removal_lines(c, caller, &full)?;
    // What takes off something that was removed from the inventory is out of sight with it.
    full.retain(|swap| swap.swap.value.remove.iter().all(|(line, ..)| lines.contains_key(line)));
    judge(c, caller, &mut full, &lines)?;
    Ok(full)
}

fn one(c: &mut MysqlConnection, caller: Caller, id: SwapId) -> Result<FullSwap, ServiceError> {
    let mut closure = vec![swaps::get(c, caller.account, id)?];
    // What it requires, and what that requires.
    loop {
        let known: HashSet<SwapId> = closure.iter().map(|swap| swap.id).collect();
        let next = closure.iter().flat_map(|swap| swap.value.requires.iter().copied());
        let next: Vec<SwapId> = next.filter(|other| !known.contains(other)).collect();
        let found = swaps::several(c, caller.account, &next)?;
        if found.is_empty() {
            break;
        }
        closure.extend(found);
    }
    let mut full = with_candidates(c, caller, closure)?;
    let lines = removal_lines(c, caller, &full)?;
    let is_shown = |swap: &FullSwap| swap.swap.value.remove.iter().all(|(line, ..)| lines.contains_key(line));
    full.retain(|swap| swap.swap.id == id || is_shown(swap));
    judge(c, caller, &mut full, &lines)?;
    full.into_iter().find(|swap| swap.swap.id == id).ok_or(StoreError::NotFound.into())
}

/// The lines that swaps take off whose gear is there: the gear's name, and whether the line is on its list.
fn removal_lines(
    c: &mut MysqlConnection,
    caller: Caller,
    swaps: &[FullSwap],
) -> Result<HashMap<LineId, (String, bool)>, ServiceError> {
    let ids = swaps.iter().flat_map(|swap| swap.swap.value.remove.iter().map(|side| side.0));
    Ok(lists::standing(c, caller.account, &ids.collect::<Vec<_>>())?)
}

/// Notes which swaps can't be made, and why: a line that one takes off is not on the list, or a swap that it requires is gone or can't
/// be made itself.
fn judge(
    c: &mut MysqlConnection,
    caller: Caller,
    swaps: &mut [FullSwap],
    lines: &HashMap<LineId, (String, bool)>,
) -> Result<(), ServiceError> {
    for swap in swaps.iter_mut() {
        let off = swap.swap.value.remove.iter().filter_map(|(line, ..)| lines.get(line)).find(|(_, is_on)| !is_on);
        swap.unavailable = off.map(|(name, _)| format!("It takes off {name}, which is not on this list any more."));
    }
    let there: HashSet<SwapId> = swaps.iter().map(|swap| swap.swap.id).collect();
    let required = || swaps.iter().flat_map(|swap| swap.swap.value.requires.iter().copied());
    let names = swaps::names(c, caller.account, &required().collect::<Vec<_>>())?;
    let name = |id: &SwapId| names.get(id).map_or("another swap", String::as_str);
    // Whoever requires one of these can't be made either: from each to those that require it.
    let mut requiring: HashMap<SwapId, Vec<usize>> = HashMap::new();
    for (at, swap) in swaps.iter().enumerate() {
        swap.swap.value.requires.iter().for_each(|other| requiring.entry(*other).or_default().push(at));
    }
    let gone = required().filter(|other| !there.contains(other)).collect::<HashSet<_>>();
    let out = swaps.iter().filter(|swap| swap.unavailable.is_some()).map(|swap| swap.swap.id);
    let mut waiting: Vec<SwapId> = gone.iter().copied().chain(out).collect();
    while let Some(other) = waiting.pop() {
        let why = if gone.contains(&other) { "was removed" } else { "can't be made itself" };
        for at in requiring.get(&other).into_iter().flatten() {
            if let Some(swap) = swaps.get_mut(*at).filter(|swap| swap.unavailable.is_none()) {
                swap.unavailable = Some(format!("It requires {}, which {why}.", name(&other)));
                waiting.push(swap.swap.id);
            }
        }
    }
    Ok(())
}

fn with_candidates(
    c: &mut MysqlConnection,
    caller: Caller,
    records: Vec<Stored<SwapId, SwapRecord>>,
) -> Result<Vec<FullSwap>, ServiceError> {
    let ids: Vec<CandidateId> = records.iter().flat_map(|swap| swap.value.add.iter().map(|(id, _, _)| *id)).collect();
    let found = candidates::by_id(c, caller.account, &ids)?;
    records
        .into_iter()
        .map(|swap| {
            let candidates = swap.value.add.iter().map(|(id, _, _)| found.get(id).cloned().ok_or(StoreError::Dangling));
            Ok(FullSwap { candidates: candidates.collect::<Result<_, _>>()?, swap, unavailable: None })
        })
        .collect()
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

fn read_candidate(at: usize, draft: &AdditionDraft, caller: Caller) -> Result<Candidate, ServiceError> {
    let field = |name: &str| format!("add[{at}].{name}");
    let typed = |text: &str| if text.trim().is_empty() { Patch::Clear } else { Patch::Set(text.to_owned()) };
    let source = draft.source.or(Some(WeightSource::Maker));
    let weight =
        weight(&typed(&draft.weight), source, None, caller).map_err(|error| renamed(error, &field("weight")))?;
    let price = match draft.price.trim() {
        "" => None,
        price => Some(PriceRange::parse(price, caller.preferences.currency).in_field(&field("price"))?),
    };
    Ok(Candidate {
        name: Name::new(&draft.name).in_field(&field("name"))?,
        weight,
        price,
        provides: in_jobs(&field("provides"), &draft.provides)?,
        needs: in_jobs(&field("needs"), &draft.needs)?,
    })
}

fn renamed(error: ServiceError, to: &str) -> ServiceError {
    match error {
        ServiceError::Invalid { code, detail, .. } => ServiceError::Invalid { field: to.to_owned(), code, detail },
        other => other,
    }
}

/// A name for a swap that has none: what goes on, or what is done to what comes off.
fn name_of(draft: &SwapDraft, lines: &HashMap<LineId, String>) -> String {
    let name = match draft.add.as_slice() {
        [] => {
            let gone: Vec<&str> =
                draft.remove.iter().filter_map(|(line, _, _)| lines.get(line)).map(String::as_str).collect();
            format!("Leave out {}", gone.into_iter().map(in_sentence).collect::<Vec<_>>().join(", "))
        }
        additions => {
            let pieces = |a: &AdditionDraft| {
                if a.qty > 1 { format!("{} × {}", a.name.trim(), a.qty) } else { a.name.trim().to_owned() }
            };
            additions.iter().map(pieces).collect::<Vec<_>>().join(", ")
        }
    };
    name.chars().take(limits::NAME).collect()
}

/// A name as it stands inside a sentence: `Mug` is `mug`, `SOS beacon` stays.
fn in_sentence(name: &str) -> String {
    let mut letters = name.chars();
    match (letters.next(), letters.clone().next()) {
        (Some(first), Some(second)) if second.is_lowercase() => first.to_lowercase().chain(letters).collect(),
        _ => name.to_owned(),
    }
}

fn amount(field: &str, typed: &str, currency: Currency) -> Result<Money, ServiceError> {
    if typed.trim().is_empty() {
        return Ok(Money::ZERO);
    }
    Money::parse(typed, currency).in_field(field)
}

fn tenth_hours(typed: &str) -> Result<i64, ServiceError> {
    let typed = typed.trim();
    if typed.is_empty() {
        return Ok(0);
    }
    let refuse = || {
        let detail = format!(
            "\"{typed}\" is not read as hours. Type hours with at most one decimal, such as 8 or 2.5, up to {}.",
            limits::TENTH_HOURS / 10
        );
        ServiceError::invalid("hours", "not_a_number", detail)
    };
    let (whole, tenth) = typed.split_once(['.', ',']).unwrap_or((typed, "0"));
    let digits = |text: &str| !text.is_empty() && text.len() <= 4 && text.bytes().all(|b| b.is_ascii_digit());
    if !digits(whole) || !digits(tenth) || tenth.len() != 1 {
        return Err(refuse());
    }
    let tenths: i64 = format!("{whole}{tenth}").parse().map_err(|_| refuse())?;
    if tenths <= limits::TENTH_HOURS { Ok(tenths) } else { Err(refuse()) }
}
