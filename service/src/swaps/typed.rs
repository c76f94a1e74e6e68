//! What is typed of a swap, read and checked.

use super::RemovalDraft;
use super::{AdditionDraft, SwapDraft};
use crate::fields::{FactsDraft, Patch, in_facts, in_hours, in_jobs, in_kind, in_marks, in_offer, in_seen, weight};
use crate::{Caller, InField, ServiceError};
use kevyt_core::exchange::{Listed, QuickLine, SwapLine, read_price, take_kind_of_name};
use kevyt_core::gear::{Gear, Identity, Job, Name, Rating, Tags, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::Place;
use kevyt_core::swap::{Candidate, SwapState};
use kevyt_store::id::LineId;
use kevyt_store::lines::{ListLine, StoredLine};
use std::collections::HashMap;

/// Something on a list, as a swap line is read against it.
pub(super) fn listed(line: &ListLine) -> Listed<'_> {
    let (thing, counts) = (&line.gear.value, &line.counts);
    Listed {
        name: thing.name.as_str(),
        counts: [(Place::Carried, counts.carried), (Place::Worn, counts.worn), (Place::UsedUp, counts.used_up)],
        provides: &thing.provides,
        needs: &thing.needs,
        kind: thing.identity.kind,
    }
}

/// A swap line as its fields would be typed.
pub(super) fn draft_of(read: &SwapLine, lines: &[StoredLine], caller: Caller) -> SwapDraft {
    let currency = caller.preferences.currency;
    let units = caller.preferences.mass.units();
    let rated = |rating: Rating| FactsDraft {
        rating_kind: Some(rating.kind),
        rating: rating.at.format(units),
        ..FactsDraft::default()
    };
    let addition = |add: &QuickLine| {
        // All that comes with its kind; a line without a name says no thing yet.
        let thing = Name::new(&add.name).ok().map(|name| add.thing(name));
        let (provides, needs) = thing.as_ref().map_or_else(
            || (add.provides.clone(), add.needs.clone()),
            |thing| (thing.provides.clone(), thing.needs.clone()),
        );
        AdditionDraft {
            candidate: None,
            name: add.name.clone(),
            weight: add.weight.as_ref().map(|weight| weight.typed.clone()).unwrap_or_default(),
            source: add.weight.as_ref().map(|weight| weight.source),
            price: add.price.map(|price| price.typed(currency)).unwrap_or_default(),
            seen: None,
            offer: None,
            provides,
            needs,
            qty: add.count,
            place: read.place,
            facts: add.rating.map(rated),
            marks: thing.as_ref().map(marks_of),
            assumed: thing.as_ref().map(|thing| assumed_of(&thing.identity)).unwrap_or_default(),
            kind: thing.and_then(|thing| thing.identity.kind).map(|kind| kind.key.to_owned()),
        }
    };
    let hours = read.add.as_ref().and_then(|add| add.made_tenth_hours);
    SwapDraft {
        name: None,
        kind: read.kind,
        state: SwapState::Open,
        remove: read
            .remove
            .iter()
            .map(|gone| RemovalDraft { line: lines[gone.at].id, qty: gone.pieces, from: gone.from })
            .collect(),
        add: read.add.iter().map(addition).collect(),
        delivery: String::new(),
        resale: String::new(),
        sells_needed: false,
        hours: hours.map_or_else(String::new, |tenths| format!("{}.{}", tenths / 10, tenths % 10)),
        requires: Vec::new(),
        excludes: Vec::new(),
    }
}

/// A candidate.
pub(super) fn read_candidate(at: usize, draft: &AdditionDraft, caller: Caller) -> Result<Candidate, ServiceError> {
    let field = |name: &str| format!("add[{at}].{name}");
    let typed = |text: &str| if text.trim().is_empty() { Patch::Clear } else { Patch::Set(text.to_owned()) };
    let source = draft.source.or(Some(WeightSource::Maker));
    let weight =
        weight(&typed(&draft.weight), source, None, caller).map_err(|error| renamed(error, &field("weight")))?;
    let price = match draft.price.trim() {
        "" => None,
        price => Some(read_price(price, caller.preferences.currency).in_field(&field("price"))?),
    };
    let tags = match &draft.marks {
        Some(marks) => in_marks(&field("marks"), &Tags::default(), marks)?,
        None => Tags::default(),
    };
    let candidate = Candidate {
        name: Name::new(&draft.name).in_field(&field("name"))?,
        weight,
        price,
        seen: in_seen(&field("seen"), draft.seen.as_ref())?,
        offer: in_offer(&field("offer"), draft.offer.as_deref())?,
        provides: in_jobs(&field("provides"), &draft.provides)?,
        needs: in_jobs(&field("needs"), &draft.needs)?,
        facts: in_facts(&draft.facts.clone().unwrap_or_default(), caller)
            .map_err(|error| error.under(&format!("add[{at}].")))?,
        tags,
        identity: identity_of(&field("kind"), draft)?,
    };
    let says_jobs = !candidate.provides.is_empty() || !candidate.needs.is_empty();
    Ok(if says_jobs { candidate } else { with_kind(candidate, draft.candidate.is_none()) })
}

/// What a candidate is; of nothing where its kind is left out.
fn identity_of(field: &str, draft: &AdditionDraft) -> Result<Identity, ServiceError> {
    let Some(key) = &draft.kind else { return Ok(Identity::default()) };
    let assumed = draft.assumed.iter().filter_map(|job| Job::new(job)).collect();
    Ok(Identity { kind: Some(in_kind(field, key)?), assumed, ..Identity::default() })
}

/// Jobs of a thing whose amounts are assumed, by their keys.
pub fn assumed_of(identity: &Identity) -> Vec<String> {
    identity.assumed.iter().map(|job| job.as_str().to_owned()).collect()
}

/// A candidate of which nobody says what it does, with all that comes with its kind; a new one without one is what its name says.
fn with_kind(candidate: Candidate, is_new: bool) -> Candidate {
    let mut thing = Gear::named(candidate.name.clone());
    (thing.facts, thing.tags) = (candidate.facts, candidate.tags.clone());
    match candidate.identity.kind {
        Some(kind) => thing.become_kind(Some(kind)),
        None if is_new => take_kind_of_name(&mut thing),
        None => return candidate,
    }
    let Gear { facts, tags, provides, needs, identity, .. } = thing;
    Candidate { facts, tags, provides, needs, identity, ..candidate }
}

fn renamed(error: ServiceError, to: &str) -> ServiceError {
    match error {
        ServiceError::Invalid { code, detail, figure, .. } => {
            ServiceError::Invalid { field: to.to_owned(), code, detail, figure }
        }
        other => other,
    }
}

/// A name for a swap that has none: what goes on, or what is done to what comes off.
pub(super) fn name_of(draft: &SwapDraft, lines: &HashMap<LineId, String>) -> String {
    let name = match draft.add.as_slice() {
        [] => {
            let gone: Vec<&str> =
                draft.remove.iter().filter_map(|side| lines.get(&side.line)).map(String::as_str).collect();
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

/// Hours of making.
pub(super) fn tenth_hours(typed: &str) -> Result<i64, ServiceError> {
    Ok(in_hours("hours", typed)?.unwrap_or_default())
}

/// The marks of a thing.
pub fn marks_of(thing: &Gear) -> Vec<String> {
    thing.tags.marks().map(|mark| mark.key.to_owned()).collect()
}
