//! What is typed of a swap, read and checked.

use super::{AdditionDraft, SwapDraft};
use crate::service::fields::{Patch, in_facts, in_jobs, in_offer, in_seen, tenths, weight};
use crate::service::{Caller, InField, ServiceError};
use crate::store::id::LineId;
use crate::store::lines::{ListLine, StoredLine};
use kevyt_core::exchange::{Listed, QuickLine, SwapLine, read_price};
use kevyt_core::gear::{Name, WeightSource};
use kevyt_core::limits;
use kevyt_core::list::Place;
use kevyt_core::quantity::Currency;
use kevyt_core::swap::{Candidate, SwapState};
use std::collections::HashMap;

/// Something on a list, as a swap line is read against it.
pub(super) fn listed(line: &ListLine) -> Listed<'_> {
    let (thing, counts) = (&line.gear.value, &line.counts);
    Listed {
        name: thing.name.as_str(),
        counts: [(Place::Carried, counts.carried), (Place::Worn, counts.worn), (Place::UsedUp, counts.used_up)],
        provides: &thing.provides,
        needs: &thing.needs,
    }
}

/// A swap line as its fields would be typed.
pub(super) fn draft_of(read: &SwapLine, lines: &[StoredLine], currency: Currency) -> SwapDraft {
    let addition = |add: &QuickLine| AdditionDraft {
        candidate: None,
        name: add.name.clone(),
        weight: add.weight.as_ref().map(|weight| weight.typed.clone()).unwrap_or_default(),
        source: add.weight.as_ref().map(|weight| weight.source),
        price: add.price.map(|price| price.typed(currency)).unwrap_or_default(),
        seen: None,
        offer: None,
        provides: add.provides.clone(),
        needs: add.needs.clone(),
        qty: add.count,
        place: read.place,
        facts: None,
    };
    SwapDraft {
        name: None,
        kind: read.kind,
        state: SwapState::Open,
        remove: read.remove.iter().map(|gone| (lines[gone.at].id, gone.pieces, gone.from)).collect(),
        add: read.add.iter().map(addition).collect(),
        delivery: String::new(),
        resale: String::new(),
        sells_needed: false,
        hours: String::new(),
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
    Ok(Candidate {
        name: Name::new(&draft.name).in_field(&field("name"))?,
        weight,
        price,
        seen: in_seen(&field("seen"), draft.seen.as_ref())?,
        offer: in_offer(&field("offer"), draft.offer.as_deref())?,
        provides: in_jobs(&field("provides"), &draft.provides)?,
        needs: in_jobs(&field("needs"), &draft.needs)?,
        facts: in_facts(&draft.facts.clone().unwrap_or_default(), caller)
            .map_err(|error| error.under(&format!("add[{at}].")))?,
    })
}

fn renamed(error: ServiceError, to: &str) -> ServiceError {
    match error {
        ServiceError::Invalid { code, detail, .. } => ServiceError::Invalid { field: to.to_owned(), code, detail },
        other => other,
    }
}

/// A name for a swap that has none: what goes on, or what is done to what comes off.
pub(super) fn name_of(draft: &SwapDraft, lines: &HashMap<LineId, String>) -> String {
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

/// Hours of making.
pub(super) fn tenth_hours(typed: &str) -> Result<i64, ServiceError> {
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
    tenths(typed).map(i64::from).filter(|tenths| *tenths <= limits::TENTH_HOURS).ok_or_else(refuse)
}
