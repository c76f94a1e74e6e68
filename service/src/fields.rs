//! Fields as they are typed: read and checked, for every resource that has them.

use super::{Caller, InField, ServiceError};
use chrono::{Datelike, NaiveDate};
use kevyt_core::exchange::read_weight;
use kevyt_core::gear::{
    Acquired, Facts, Identity, Jobs, Kind, MARKS, Name, Rating, RatingKind, System, Tags, Weight, WeightSource,
};
use kevyt_core::limits;
use kevyt_core::list::Way;
use kevyt_core::quantity::{Currency, Mass, Money, Quantity, Temperature};
use kevyt_core::swap::Seen;
use kevyt_core::trip::Trip;
use serde::Deserializer;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A change of one field: left alone, cleared, or set.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub enum Patch<T> {
    /// As it is.
    #[default]
    Keep,
    /// Nothing any more.
    Clear,
    /// This.
    Set(T),
}

/// A field that is absent (kept, by its default), null (cleared) or there (set).
impl<'de, T: Deserialize<'de>> Deserialize<'de> for Patch<T> {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Patch<T>, D::Error> {
        Ok(Option::<T>::deserialize(deserializer)?.map_or(Patch::Clear, Patch::Set))
    }
}

/// Jobs, and how much of each: a count, tenths of R, millilitres, grams or milliwatt hours.
#[derive(Serialize, Deserialize, ToSchema)]
pub struct JobAmounts(BTreeMap<String, i64>);

impl From<&Jobs> for JobAmounts {
    fn from(jobs: &Jobs) -> JobAmounts {
        JobAmounts(jobs.iter().map(|(job, amount)| (job.as_str().to_owned(), *amount)).collect())
    }
}

/// Jobs that may be left out, but are not null.
pub(super) fn some_jobs<'de, D: Deserializer<'de>>(deserializer: D) -> Result<Option<Jobs>, D::Error> {
    Jobs::deserialize(deserializer).map(Some)
}

/// The system with this key.
pub(super) fn in_system(key: &str) -> Result<System, ServiceError> {
    System::ALL.iter().copied().find(|system| system.key() == key).ok_or_else(|| {
        let keys: Vec<&str> = System::ALL.iter().map(|system| system.key()).collect();
        let detail = format!("\"{key}\" is not a system. Systems: {}.", keys.join(", "));
        ServiceError::invalid("system", "unknown_system", detail)
    })
}

/// The value of a field after a change.
pub(super) fn patched<T>(
    patch: &Patch<String>,
    now: Option<T>,
    read: impl FnOnce(&str) -> Result<T, ServiceError>,
) -> Result<Option<T>, ServiceError> {
    match patch {
        Patch::Keep => Ok(now),
        Patch::Clear => Ok(None),
        Patch::Set(typed) => read(typed).map(Some),
    }
}

/// Words that a thing is found by.
pub(super) fn in_tags(field: &str, typed: &str) -> Result<Tags, ServiceError> {
    Tags::parse(typed).map_err(|why| ServiceError::invalid(field, "tags", why))
}

/// The kind with this key.
pub fn in_kind(field: &str, key: &str) -> Result<&'static Kind, ServiceError> {
    Kind::from_key(key).ok_or_else(|| {
        let detail = format!("\"{key}\" is not a kind of thing. Send the key of one of /api/vocabulary, or none.");
        ServiceError::invalid(field, "unknown_kind", detail)
    })
}

/// Tags with these marks and no others; their own words stay.
pub(super) fn in_marks(field: &str, tags: &Tags, marks: &[String]) -> Result<Tags, ServiceError> {
    if let Some(unknown) = marks.iter().find(|mark| MARKS.iter().all(|known| known.key != **mark)) {
        let keys: Vec<&str> = MARKS.iter().map(|mark| mark.key).collect();
        let detail = format!("\"{unknown}\" is not a mark. Marks: {}.", keys.join(", "));
        return Err(ServiceError::invalid(field, "unknown_mark", detail));
    }
    let words: Vec<&str> = tags.own().chain(marks.iter().map(String::as_str)).collect();
    in_tags(field, &words.join(" "))
}

/// Hours of making, in tenths; `None` where nothing is typed.
pub(super) fn in_hours(field: &str, typed: &str) -> Result<Option<i64>, ServiceError> {
    if typed.trim().is_empty() {
        return Ok(None);
    }
    let hours = tenths(typed.trim()).map(i64::from).filter(|tenths| *tenths <= limits::TENTH_HOURS);
    hours.map(Some).ok_or_else(|| {
        let detail = format!(
            "\"{}\" is not read as hours. Type hours with at most one decimal, such as 8 or 2.5, up to {}.",
            typed.trim(),
            limits::TENTH_HOURS / 10
        );
        ServiceError::invalid(field, "not_a_number", detail)
    })
}

/// Refuses what no thing can be, out of a file.
pub(super) fn check_identity(path: &str, identity: &Identity) -> Result<Identity, ServiceError> {
    let field = |name: &str| format!("{path}.identity.{name}");
    if identity.assumed.len() > limits::JOBS {
        let detail =
            format!("{} jobs are too many for one thing. Name at most {}.", identity.assumed.len(), limits::JOBS);
        return Err(ServiceError::invalid(field("assumed"), "too_many", detail));
    }
    if let Some(tenths) = identity.made_tenth_hours.filter(|tenths| i64::from(*tenths) > limits::TENTH_HOURS) {
        let detail = format!("{tenths} tenths of an hour can't be taken. Write at most {}.", limits::TENTH_HOURS);
        return Err(ServiceError::invalid(field("made_tenth_hours"), "out_of_range", detail));
    }
    if let Some(nights) = identity.lasts_nights {
        in_lasts(&field("lasts_nights"), nights)?;
    }
    Ok(identity.clone())
}

/// After how many nights of use a thing is worn out.
pub(super) fn in_lasts(field: &str, nights: u32) -> Result<u32, ServiceError> {
    if (1..=limits::NIGHTS).contains(&nights) {
        return Ok(nights);
    }
    let detail = format!("{nights} nights can't be taken. Type a number from 1 to {}.", limits::NIGHTS);
    Err(ServiceError::invalid(field, "out_of_range", detail))
}

/// Where a thing is kept.
pub(super) fn in_kept_at(typed: &str) -> Result<String, ServiceError> {
    let typed = typed.trim();
    if typed.chars().count() > limits::KEPT_AT {
        let detail = format!("The place is too long. Type at most {} characters.", limits::KEPT_AT);
        return Err(ServiceError::invalid("kept_at", "too_long", detail));
    }
    Ok(typed.to_owned())
}

/// What there is to say of a thing.
pub(super) fn in_thing_note(field: &str, typed: &str) -> Result<String, ServiceError> {
    let typed = typed.trim();
    if typed.chars().count() > limits::THING_NOTE {
        let detail = format!("The note is too long. Type at most {} characters.", limits::THING_NOTE);
        return Err(ServiceError::invalid(field, "too_long", detail));
    }
    Ok(typed.to_owned())
}

/// The weight after a change. A new figure without a source keeps the source that the old one had; one over nothing, over what was weighed
/// or over a derived figure comes from where the account says that typed weights come from: what is typed over a weighing is none.
pub fn weight(
    typed: &Patch<String>,
    source: Option<WeightSource>,
    now: Option<Weight>,
    caller: Caller,
) -> Result<Option<Weight>, ServiceError> {
    let is_measured = |source: &WeightSource| matches!(source, WeightSource::Derived | WeightSource::Weighed);
    let source_now = now.as_ref().map(|weight| weight.source);
    match typed {
        Patch::Clear => Ok(None),
        Patch::Keep => Ok(now.map(|weight| match source {
            Some(source) if source != weight.source => Weight { source, band: None, ..weight },
            _ => weight,
        })),
        Patch::Set(typed) => {
            let read = |source| read_weight(typed, caller.preferences.mass.table_unit(), source).in_field("weight");
            // The figure that is there, sent again, stays as it is known.
            if let Some((now, same)) = now.zip(source.or(source_now).map(read).transpose()?)
                && (now.source, now.unit, &now.typed) == (same.source, same.unit, &same.typed)
            {
                return Ok(Some(now));
            }
            let kept = source_now.filter(|source| !is_measured(source));
            read(source.or(kept).unwrap_or(caller.settings.typed_weights())).map(Some)
        }
    }
}

/// A count between `least` and the limit.
pub fn in_count(field: &str, count: u32, least: u32) -> Result<u32, ServiceError> {
    if (least..=limits::COUNT).contains(&count) {
        return Ok(count);
    }
    let detail = format!("{count} pieces can't be taken. Type a count from {least} to {}.", limits::COUNT);
    Err(ServiceError::invalid(field, "out_of_range", detail))
}

/// Amounts of jobs within the limits; amounts of zero are left out.
pub fn in_jobs(field: &str, jobs: &Jobs) -> Result<Jobs, ServiceError> {
    if jobs.len() > limits::JOBS {
        let detail = format!("{} jobs are too many for one thing. Name at most {}.", jobs.len(), limits::JOBS);
        return Err(ServiceError::invalid(field, "too_many", detail));
    }
    if let Some((job, amount)) = jobs.iter().find(|(_, amount)| !(0..=limits::JOB_AMOUNT).contains(*amount)) {
        let detail = format!("{amount} of {} can't be taken. Type from 0 to {}.", job.as_str(), limits::JOB_AMOUNT);
        return Err(ServiceError::invalid(field, "out_of_range", detail));
    }
    Ok(jobs.iter().filter(|(_, amount)| **amount > 0).map(|(job, amount)| (job.clone(), *amount)).collect())
}

/// What a trip asks of a thing, as typed; bare numbers are in the account's units. Empty fields say nothing.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(default, deny_unknown_fields)]
#[schema(as = FactsIn)]
pub struct FactsDraft {
    /// What the rating stands for; unknown unless given.
    pub rating_kind: Option<RatingKind>,
    /// A temperature, such as -5 or 20 F.
    pub rating: String,
    /// What it adds to the bag or quilt that it is used with: a difference of temperatures, such as 3.
    pub warms: String,
    /// The gas in one full can: a mass.
    pub contents: String,
}

/// Reads what a trip asks of a thing.
pub(super) fn in_facts(draft: &FactsDraft, caller: Caller) -> Result<Facts, ServiceError> {
    let units = caller.preferences.mass.units();
    let there = |typed: &str| !typed.trim().is_empty();
    let rating = there(&draft.rating).then(|| {
        let at = Temperature::parse(&draft.rating, units).in_field("facts.rating")?;
        Ok::<_, ServiceError>(Rating { kind: draft.rating_kind.unwrap_or(RatingKind::Unknown), at })
    });
    let warms = there(&draft.warms)
        .then(|| Temperature::parse_difference(&draft.warms, units).in_field("facts.warms"))
        .transpose()?;
    let contents = there(&draft.contents)
        .then(|| Mass::parse(&draft.contents, caller.preferences.mass.table_unit()).in_field("facts.contents"))
        .transpose()?;
    check_facts("facts", Facts { rating: rating.transpose()?, warms, contents })
}

/// Refuses what no thing can be, typed or out of a file.
pub(super) fn check_facts(path: &str, facts: Facts) -> Result<Facts, ServiceError> {
    let refused = |field: &str, quantity: Quantity, taken: (i64, i64), detail: String| {
        Err(ServiceError::outside(format!("{path}.{field}"), quantity, taken, detail))
    };
    let (coldest, hottest) = limits::TENTHS_OF_DEGREE;
    if let Some(rating) = facts.rating.filter(|rating| !(coldest..=hottest).contains(&rating.at.tenths())) {
        let detail = format!("{} °C can't be a rating. Type from -90 to 60 °C.", rating.at.tenths() / 10);
        return refused("rating", Quantity::Temperature, (coldest, hottest), detail);
    }
    if let Some(warms) = facts.warms.filter(|warms| !(0..=300).contains(warms)) {
        let detail = format!("{} °C can't be what a liner adds. Type from 0 to 30 °C.", warms / 10);
        return refused("warms", Quantity::Warmth, (0, 300), detail);
    }
    if let Some(contents) = facts.contents.filter(|contents| !(0..=limits::MASS_MG).contains(&contents.mg())) {
        let detail = format!("{} mg can't be the gas in a can. Type from 0 to 200 kg.", contents.mg());
        return refused("contents", Quantity::Mass, (0, limits::MASS_MG), detail);
    }
    Ok(facts)
}

/// A line about a trip.
pub(super) fn in_note(field: &str, typed: &str) -> Result<String, ServiceError> {
    if typed.chars().count() > limits::NOTE {
        let detail = format!("The note is too long. Type at most {} characters.", limits::NOTE);
        return Err(ServiceError::invalid(field, "too_long", detail));
    }
    Ok(typed.trim().to_owned())
}

/// The most ways of counting of a walker's own on one list.
const WAYS: usize = 20;

/// Refuses a trip that can't be one.
pub(super) fn in_trip(path: &str, trip: Trip) -> Result<Trip, ServiceError> {
    trip.check().map_err(|error| {
        let detail = format!("{} can't be taken here. Type {}.", error.found, error.expected);
        ServiceError::invalid(format!("{path}.{}", error.field), "out_of_range", detail)
    })?;
    Ok(trip)
}

/// Refuses ways of counting without a name, with one that is taken, or too many.
pub(super) fn in_ways(path: &str, ways: &[Way]) -> Result<Vec<Way>, ServiceError> {
    if ways.len() > WAYS {
        let detail = format!("{} ways are too many for one list. Keep at most {WAYS}.", ways.len());
        return Err(ServiceError::invalid(path, "too_many", detail));
    }
    let mut taken: Vec<String> = Way::built_in().into_iter().map(|way| way.key).collect();
    taken.push("as_laid_out".to_owned());
    for (at, way) in ways.iter().enumerate() {
        let field = format!("{path}[{at}].key");
        if way.key.chars().count() > 60 {
            return Err(ServiceError::invalid(&field, "too_long", "The name is too long. Type at most 60 characters."));
        }
        let name = Name::new(&way.key).in_field(&field)?;
        if taken.iter().any(|other| other.as_str() == name.as_str()) {
            let detail = format!("A way of counting is called {} already. Type another name.", name.as_str());
            return Err(ServiceError::invalid(&field, "taken", detail));
        }
        taken.push(way.key.clone());
    }
    Ok(ways.to_vec())
}

/// What a shop knows an offer by.
pub(super) fn in_offer(field: &str, code: Option<&str>) -> Result<Option<String>, ServiceError> {
    match code.map(str::trim).filter(|code| !code.is_empty()) {
        Some(code) if code.chars().count() > limits::OFFER => {
            let detail = format!("An offer's code has at most {} characters.", limits::OFFER);
            Err(ServiceError::invalid(field, "too_long", detail))
        }
        code => Ok(code.map(str::to_owned)),
    }
}

/// A day, as YYYY-MM-DD.
pub(super) fn in_day(field: &str, typed: &str) -> Result<NaiveDate, ServiceError> {
    let typed = typed.trim();
    let day = NaiveDate::parse_from_str(typed, "%Y-%m-%d").ok().filter(|day| {
        // The format takes fewer digits, too.
        typed.len() == 10 && (limits::YEARS.0..=limits::YEARS.1).contains(&day.year())
    });
    day.ok_or_else(|| {
        let detail = format!("\"{typed}\" is no day. Type it as YYYY-MM-DD, such as 2027-03-14.");
        ServiceError::invalid(field, "not_a_day", detail)
    })
}

/// Where and when a price was seen; none where nothing is said.
pub(super) fn in_seen(field: &str, seen: Option<&Seen>) -> Result<Option<Seen>, ServiceError> {
    let Some(seen) = seen else { return Ok(None) };
    let place = match seen.place.trim() {
        "" => String::new(),
        place => Name::new(place).in_field(&format!("{field}.place"))?.as_str().to_owned(),
    };
    let on = seen.on.as_deref().map(str::trim).filter(|on| !on.is_empty());
    on.map(|on| in_day(&format!("{field}.on"), on)).transpose()?;
    if !matches!(seen.sold, Acquired::New | Acquired::Used | Acquired::Sale) {
        let detail = "A price is that of something new, used, or in a sale.";
        return Err(ServiceError::invalid(format!("{field}.sold"), "unknown", detail));
    }
    let seen = Seen { place, on: on.map(str::to_owned), sold: seen.sold };
    let is_said = !seen.place.is_empty() || seen.on.is_some() || seen.sold != Acquired::New;
    Ok(is_said.then_some(seen))
}

/// Money; none where nothing is typed.
pub(super) fn amount(field: &str, typed: &str, currency: Currency) -> Result<Money, ServiceError> {
    if typed.trim().is_empty() {
        return Ok(Money::ZERO);
    }
    Money::parse(typed, currency).in_field(field)
}

/// A number of at most four digits with at most one decimal, in tenths.
pub(super) fn tenths(typed: &str) -> Option<u32> {
    let (whole, tenth) = typed.split_once(['.', ',']).unwrap_or((typed, "0"));
    let digits = |text: &str| !text.is_empty() && text.len() <= 4 && text.bytes().all(|b| b.is_ascii_digit());
    (digits(whole) && digits(tenth) && tenth.len() == 1).then(|| format!("{whole}{tenth}").parse().ok())?
}

/// Nights of a trip, or of a year.
pub(super) fn in_nights(field: &str, nights: u32) -> Result<u32, ServiceError> {
    if nights <= limits::TRIP_NIGHTS {
        return Ok(nights);
    }
    let detail = format!("{nights} nights can't be taken. Type from 0 to {}.", limits::TRIP_NIGHTS);
    Err(ServiceError::invalid(field, "out_of_range", detail))
}
