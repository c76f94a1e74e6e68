//! A change of a thing as it is typed: read, checked, applied, told.

use crate::fields::{
    FactsDraft, JobAmounts, Patch, in_count, in_facts, in_hours, in_jobs, in_kept_at, in_kind, in_lasts, in_marks,
    in_system, in_tags, in_thing_note, patched, some_jobs, weight,
};
use crate::{Caller, InField, ServiceError};
use chrono::Utc;
use kevyt_core::exchange::read_price;
use kevyt_core::gear::{Acquired, Claim, Gear, Jobs, Name, Need, Start, Status, Weight, WeightSource};
use kevyt_core::limits;
use kevyt_core::quantity::Money;
use kevyt_store::event::{Event, ThingField};
use serde::Deserialize;
use utoipa::ToSchema;

/// A change of a thing, as typed: absent fields stay, null clears.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = GearIn)]
pub struct GearChange {
    /// Its name.
    pub name: Option<String>,
    /// The key of its system.
    pub system: Option<String>,
    /// Pieces owned.
    pub count: Option<u32>,
    /// Weight of one piece; a bare number is in the account's unit.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub weight: Patch<String>,
    /// Where the weight comes from.
    pub source: Option<WeightSource>,
    /// The maker's figure for one piece.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub claimed: Patch<String>,
    /// Price paid for one piece: a figure or a range.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub paid: Patch<String>,
    /// How it was come by.
    pub acquired: Option<Acquired>,
    /// What one piece would bring.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub resale: Patch<String>,
    /// What has become of it.
    pub status: Option<Status>,
    /// Where it is kept.
    pub kept_at: Option<String>,
    /// What there is to say of it in words, at most 500 characters.
    pub note: Option<String>,
    /// Words of one's own, parted by commas or spaces.
    pub tags: Option<String>,
    /// Nights of use.
    pub nights: Option<u32>,
    /// After how many nights of use it is worn out; null if nobody knows.
    #[serde(default)]
    #[schema(value_type = Option<u32>)]
    pub lasts_nights: Patch<u32>,
    /// Jobs that it does.
    #[serde(default, deserialize_with = "some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    pub provides: Option<Jobs>,
    /// Jobs that it needs.
    #[serde(default, deserialize_with = "some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    pub needs: Option<Jobs>,
    /// What a trip asks of it; taken as a whole.
    pub facts: Option<FactsDraft>,
    /// The key of its kind, `none` if it is of no kind; null if nobody has said. What comes with a kind is set before the other fields are.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub kind: Patch<String>,
    /// Its marks, all of them.
    pub marks: Option<Vec<String>>,
    /// Whether it is needed.
    pub need: Option<Need>,
    /// Whether it stays as it is.
    pub keep: Option<bool>,
    /// Where its pieces start on a list.
    pub start: Option<Start>,
    /// How long it took to make: hours with at most one decimal; empty for none.
    pub made_hours: Option<String>,
    /// Jobs whose assumed amounts are right.
    #[serde(default)]
    pub confirm: Vec<String>,
}

/// What a change of a thing did.
pub(super) fn event_of(before: &Gear, after: &Gear) -> Event {
    let thing = after.name.as_str().to_owned();
    if before.name != after.name {
        return Event::ThingRenamed { from: before.name.as_str().to_owned(), to: thing };
    }
    let mg = |weight: &Option<Weight>| weight.as_ref().map(|weight| weight.unit.mg());
    if mg(&before.weight) != mg(&after.weight) {
        return Event::ThingReweighed { thing, from_mg: mg(&before.weight), to_mg: mg(&after.weight) };
    }
    let fields = [
        (ThingField::Weight, before.weight != after.weight),
        (ThingField::System, before.system != after.system),
        (ThingField::Count, before.count != after.count),
        (ThingField::Price, before.paid != after.paid || before.acquired != after.acquired),
        (ThingField::Worth, before.resale != after.resale),
        (ThingField::Status, before.status != after.status),
        (ThingField::KeptAt, before.kept_at != after.kept_at),
        (ThingField::Note, before.note != after.note),
        (ThingField::Tags, before.tags != after.tags),
        (ThingField::Nights, before.nights != after.nights),
        (ThingField::Lasts, before.identity.lasts_nights != after.identity.lasts_nights),
        (ThingField::Claimed, before.claimed != after.claimed),
        (ThingField::Jobs, before.provides != after.provides || before.needs != after.needs),
        (ThingField::Facts, before.facts != after.facts),
        (ThingField::Kind, before.identity.kind != after.identity.kind),
        (ThingField::Need, before.identity.need != after.identity.need),
        (ThingField::Keep, before.identity.keep != after.identity.keep),
        (ThingField::Start, before.identity.start != after.identity.start),
        (ThingField::MadeHours, before.identity.made_tenth_hours != after.identity.made_tenth_hours),
        (ThingField::Assumed, before.identity.assumed != after.identity.assumed),
    ];
    let fields = fields.into_iter().filter(|field| field.1).map(|field| field.0).collect();
    Event::ThingChanged { thing, fields }
}

pub(super) fn apply(thing: &mut Gear, change: &GearChange, caller: Caller) -> Result<(), ServiceError> {
    let currency = caller.preferences.currency;
    if let Some(name) = &change.name {
        thing.name = Name::new(name).in_field("name")?;
    }
    if let Some(key) = &change.system {
        thing.system = in_system(key)?;
    }
    if let Some(count) = change.count {
        thing.count = in_count("count", count, 1)?;
    }
    thing.paid = patched(&change.paid, thing.paid.take(), |typed| read_price(typed, currency).in_field("paid"))?;
    thing.acquired = change.acquired.unwrap_or(thing.acquired);
    thing.resale =
        patched(&change.resale, thing.resale.take(), |typed| Money::parse(typed, currency).in_field("resale"))?;
    if let Patch::Set(_) = change.resale {
        thing.resale_at = Some(Utc::now().timestamp_micros());
    }
    thing.claimed = patched(&change.claimed, thing.claimed.take(), |typed| {
        Claim::parse(typed, caller.preferences.mass.table_unit()).in_field("claimed")
    })?;
    if change.source == Some(WeightSource::Derived) {
        let detail = "A derived weight comes from a weighed kit. Say weighed, maker or estimate.";
        return Err(ServiceError::invalid("source", "derived", detail));
    }
    thing.weight = weight(&change.weight, change.source, thing.weight.take(), caller)?;
    thing.status = change.status.unwrap_or(thing.status);
    if let Some(kept_at) = &change.kept_at {
        thing.kept_at = in_kept_at(kept_at)?;
    }
    if let Some(note) = &change.note {
        thing.note = in_thing_note("note", note)?;
    }
    if let Patch::Set(key) = &change.kind {
        thing.become_kind(Some(in_kind("kind", key)?));
    } else if change.kind == Patch::Clear {
        thing.become_kind(None);
    }
    if let Some(tags) = &change.tags {
        // Marks have switches of their own; a word that means one switches it on.
        let marks: Vec<String> = thing.tags.marks().map(|mark| mark.key.to_owned()).collect();
        let typed = in_tags("tags", tags)?;
        let all = typed.words().iter().chain(&marks).cloned().collect::<Vec<_>>();
        thing.tags = in_tags("tags", &all.join(" "))?;
    }
    if let Some(marks) = &change.marks {
        thing.tags = in_marks("marks", &thing.tags, marks)?;
    }
    thing.identity.need = change.need.or(thing.identity.need);
    thing.identity.keep = change.keep.unwrap_or(thing.identity.keep);
    thing.identity.start = change.start.or(thing.identity.start);
    if let Some(typed) = &change.made_hours {
        thing.identity.made_tenth_hours = in_hours("made_hours", typed)?.and_then(|tenths| u32::try_from(tenths).ok());
    }
    thing.identity.assumed.retain(|job| !change.confirm.iter().any(|confirmed| confirmed == job.as_str()));
    if let Some(nights) = change.nights {
        if nights > limits::NIGHTS {
            let detail = format!("{nights} nights can't be taken. Type a number from 0 to {}.", limits::NIGHTS);
            return Err(ServiceError::invalid("nights", "out_of_range", detail));
        }
        thing.nights = nights;
    }
    thing.identity.lasts_nights = match change.lasts_nights {
        Patch::Keep => thing.identity.lasts_nights,
        Patch::Clear => None,
        Patch::Set(nights) => Some(in_lasts("lasts_nights", nights)?),
    };
    if let Some(provides) = &change.provides {
        let before = std::mem::replace(&mut thing.provides, in_jobs("provides", provides)?);
        thing.identity.keep_assumed(&before, &thing.provides);
    }
    if let Some(needs) = &change.needs {
        thing.needs = in_jobs("needs", needs)?;
    }
    if let Some(facts) = &change.facts {
        thing.facts = in_facts(facts, caller)?;
    }
    Ok(())
}
