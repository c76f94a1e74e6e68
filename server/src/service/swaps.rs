//! Swaps: make one, edit one with its candidates, pin, rule out, remove, bring back.

use super::gear::{Patch, in_count, in_jobs, weight};
use super::history::Recorder;
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
}

impl Services {
    /// A list's swaps with their candidates. Those that take off something no longer on the list are left out.
    pub fn swaps(&self, caller: Caller, list: ListId) -> Result<Vec<FullSwap>, ServiceError> {
        let mut c = self.connection()?;
        lists::get(&mut c, caller.account, list)?;
        let lines: HashSet<LineId> =
            lists::lines(&mut c, caller.account, list)?.into_iter().map(|line| line.id).collect();
        full_swaps(&mut c, caller, list, &lines)
    }

    /// One swap.
    pub fn swap(&self, caller: Caller, id: SwapId) -> Result<FullSwap, ServiceError> {
        let mut c = self.connection()?;
        let swap = swaps::get(&mut c, caller.account, id)?;
        with_candidates(&mut c, caller, vec![swap])?.pop().ok_or(StoreError::NotFound.into())
    }

    /// One page of candidates and how many there are.
    pub fn candidates(
        &self,
        caller: Caller,
        page: Page,
    ) -> Result<(Vec<Stored<CandidateId, Candidate>>, i64), ServiceError> {
        Ok(candidates::page(&mut *self.connection()?, caller.account, page)?)
    }

    /// Makes a swap on a list.
    pub fn add_swap(&self, caller: Caller, list: ListId, draft: &SwapDraft) -> Result<FullSwap, ServiceError> {
        let id = SwapId::fresh();
        self.transaction(|c| {
            lists::get(c, caller.account, list)?;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            let record = self.record(c, caller, list, id, draft)?;
            swaps::insert(c, caller.account, id, &record)?;
            recorder.finish(c, &format!("Swap {} made.", record.name.as_str()), ())
        })?;
        self.swap(caller, id)
    }

    /// Writes a swap that was read at `version`.
    pub fn write_swap(
        &self,
        caller: Caller,
        id: SwapId,
        version: i32,
        draft: &SwapDraft,
    ) -> Result<FullSwap, ServiceError> {
        self.transaction(|c| {
            let now = swaps::get(c, caller.account, id)?;
            if now.version != version {
                return Err(StoreError::Stale(now.version).into());
            }
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            let record = self.record(c, caller, now.value.list, id, draft)?;
            swaps::update(c, caller.account, id, version, &record)?;
            recorder.finish(c, &format!("Swap {} changed.", record.name.as_str()), ())
        })?;
        self.swap(caller, id)
    }

    /// Pins, rules out or opens a swap.
    pub fn set_swap_state(
        &self,
        caller: Caller,
        id: SwapId,
        version: i32,
        state: SwapState,
    ) -> Result<FullSwap, ServiceError> {
        self.transaction(|c| {
            let name = swaps::get(c, caller.account, id)?.value.name;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            swaps::set_state(c, caller.account, id, version, state)?;
            let done = match state {
                SwapState::Open => "left to the plan",
                SwapState::Pinned => "pinned",
                SwapState::RuledOut => "ruled out",
            };
            recorder.finish(c, &format!("Swap {} {done}.", name.as_str()), ())
        })?;
        self.swap(caller, id)
    }

    /// Takes a swap out of sight.
    pub fn remove_swap(&self, caller: Caller, id: SwapId, version: i32) -> Result<(), ServiceError> {
        self.transaction(|c| {
            let name = swaps::get(c, caller.account, id)?.value.name;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            swaps::remove(c, caller.account, id, version)?;
            recorder.finish(c, &format!("Swap {} removed.", name.as_str()), ())?;
            Ok(())
        })
    }

    /// Brings a removed swap back.
    pub fn restore_swap(&self, caller: Caller, id: SwapId) -> Result<(), ServiceError> {
        self.transaction(|c| Ok(swaps::restore(c, caller.account, id)?))
    }

    /// Checks a draft against the list, stores its candidates, and gives the swap as it is kept.
    fn record(
        &self,
        c: &mut MysqlConnection,
        caller: Caller,
        list: ListId,
        id: SwapId,
        draft: &SwapDraft,
    ) -> Result<SwapRecord, ServiceError> {
        let currency = caller.preferences.currency;
        let lines: HashMap<LineId, String> = lists::lines(c, caller.account, list)?
            .into_iter()
            .map(|line| (line.id, line.value.gear.value.name.as_str().to_owned()))
            .collect();
        check_sides(draft, &lines)?;
        check_links(c, caller, list, id, draft)?;
        let mut add = Vec::new();
        for (at, addition) in draft.add.iter().enumerate() {
            let candidate = read_candidate(at, addition, caller)?;
            let candidate_id = match addition.candidate {
                Some((candidate_id, version)) => {
                    candidates::update(c, caller.account, candidate_id, version, &candidate)?;
                    candidate_id
                }
                None => {
                    let candidate_id = CandidateId::fresh();
                    candidates::insert(c, caller.account, candidate_id, &candidate)?;
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
            requires: draft.requires.clone(),
            excludes: draft.excludes.clone(),
        })
    }
}

/// A list's swaps whose lines are all there, with their candidates.
pub(super) fn full_swaps(
    c: &mut MysqlConnection,
    caller: Caller,
    list: ListId,
    lines: &HashSet<LineId>,
) -> Result<Vec<FullSwap>, ServiceError> {
    let mut records = swaps::of_list(c, caller.account, list)?;
    records.retain(|swap| swap.value.remove.iter().all(|(line, _, _)| lines.contains(line)));
    let mut there: HashSet<SwapId> = records.iter().map(|swap| swap.id).collect();
    // A swap that requires one that is left out can't be made either.
    while records.iter().any(|swap| !swap.value.requires.iter().all(|other| there.contains(other))) {
        records.retain(|swap| swap.value.requires.iter().all(|other| there.contains(other)));
        there = records.iter().map(|swap| swap.id).collect();
    }
    records.iter_mut().for_each(|swap| swap.value.excludes.retain(|other| there.contains(other)));
    with_candidates(c, caller, records)
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
            Ok(FullSwap { candidates: candidates.collect::<Result<_, _>>()?, swap })
        })
        .collect()
}

fn check_sides(draft: &SwapDraft, lines: &HashMap<LineId, String>) -> Result<(), ServiceError> {
    if draft.remove.is_empty() && draft.add.is_empty() {
        let detail = "The swap takes nothing off and puts nothing on. Choose what comes off, or name what goes on.";
        return Err(ServiceError::invalid("remove", "empty", detail));
    }
    for (side, entries) in [("remove", draft.remove.len()), ("add", draft.add.len())] {
        if entries > limits::SIDE {
            let detail =
                format!("{entries} entries are too many for one side of a swap. Name at most {}.", limits::SIDE);
            return Err(ServiceError::invalid(side, "too_many", detail));
        }
    }
    for (at, (line, qty, _)) in draft.remove.iter().enumerate() {
        in_count(&format!("remove[{at}].qty"), *qty, 1)?;
        if !lines.contains_key(line) {
            let detail = "What the swap takes off is not on this list. Choose something that is.";
            return Err(ServiceError::invalid(format!("remove[{at}].line"), "not_on_list", detail));
        }
    }
    Ok(())
}

fn check_links(
    c: &mut MysqlConnection,
    caller: Caller,
    list: ListId,
    id: SwapId,
    draft: &SwapDraft,
) -> Result<(), ServiceError> {
    let known: HashSet<SwapId> = swaps::of_list(c, caller.account, list)?.into_iter().map(|swap| swap.id).collect();
    if known.len() >= limits::SWAPS && !known.contains(&id) {
        let detail = format!("This list has {} swaps, the most that are taken. Remove some first.", known.len());
        return Err(ServiceError::invalid("list", "too_many", detail));
    }
    for (field, others) in [("requires", &draft.requires), ("excludes", &draft.excludes)] {
        if others.len() > limits::LINKS || others.iter().any(|other| *other == id || !known.contains(other)) {
            let detail = "A swap can only require or exclude other swaps of the same list.";
            return Err(ServiceError::invalid(field, "not_on_list", detail));
        }
    }
    Ok(())
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
