//! `/api/gear/line`: one line of text that adds a thing.

use super::gear::GearOut;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::{App, Caller};
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json};
use actix_web::{HttpResponse, post};
use kevyt_core::exchange::{Chip, QuickLine, Read};
use kevyt_core::gear::{
    Acquired, Gear, Job, JobUnit, Jobs, KnownJob, Name, Rating, RatingKind, Start, System, WeightSource, known_job,
};
use kevyt_core::limits;
use kevyt_core::quantity::{Energy, Mass, MassStyle, MassUnit, Units, Vessel, Volume};
use kevyt_service::ServiceError;
use kevyt_service::stored::ListId;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A quick line.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LineIn {
    /// At most 400 characters.
    line: String,
    /// The list that the thing is put on, carried.
    list: Option<ListId>,
    /// Where a weight comes from of which the line does not say it; as the account has it unless given.
    source: Option<WeightSource>,
}

/// A quick line as it was understood.
#[derive(Serialize, ToSchema)]
pub struct LineOut {
    chips: Vec<ChipOut>,
    /// Where its weight comes from; null without one.
    source: Option<WeightSource>,
    /// Whether it can be added as it stands.
    ready: bool,
    /// What it is, as the line or its name says: taken with the line. Null if neither says.
    kind: Option<LineKindOut>,
}

/// A stretch of a quick line.
#[derive(Serialize, ToSchema)]
pub struct ChipOut {
    text: String,
    kind: ChipKind,
    /// What it was read as, or why it was not understood.
    meaning: String,
    /// Of a weight, the milligrams of one piece.
    #[serde(skip_serializing_if = "Option::is_none")]
    mg: Option<i64>,
    /// Of a price, the lowest of one piece in minor units.
    #[serde(skip_serializing_if = "Option::is_none")]
    low_minor: Option<i64>,
    /// The highest.
    #[serde(skip_serializing_if = "Option::is_none")]
    high_minor: Option<i64>,
    /// How the thing was come by, if the stretch says so.
    #[serde(skip_serializing_if = "Option::is_none")]
    acquired: Option<Acquired>,
    /// Where the weight comes from, if the stretch says so by itself.
    #[serde(skip_serializing_if = "Option::is_none")]
    source: Option<WeightSource>,
}

/// What a stretch of a quick line is.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ChipKind {
    /// Part of the name.
    Name,
    /// The count.
    Count,
    /// The weight of one piece.
    Mass,
    /// The price of one piece.
    Price,
    /// How it was come by.
    Acquired,
    /// Where the weight comes from.
    Source,
    /// The system.
    System,
    /// A job that it does.
    Does,
    /// A job that it needs.
    Needs,
    /// What it is.
    Kind,
    /// How warm it is rated.
    Rating,
    /// Where its pieces start on a list.
    Start,
    /// How long it took to make.
    Made,
    /// Not understood.
    Refused,
}

/// The kind that a line is of.
#[derive(Serialize, ToSchema)]
#[schema(as = LineKind)]
pub struct LineKindOut {
    key: &'static str,
    name: &'static str,
    /// Whether the line says so itself (`is:quilt`); else its name does.
    said: bool,
    /// What comes with it that the line doesn't say, in words: its system, where it starts, jobs, marks.
    brings: Vec<String>,
}

/// Reads a quick line without adding anything.
#[utoipa::path(post, path = "/api/gear/read", tag = "gear", request_body = LineIn, responses((status = 200, body = LineOut)))]
#[post("/gear/read")]
pub async fn read(app: Data<App>, SignedIn(caller): SignedIn, body: Json<LineIn>) -> Result<Json<LineOut>, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let line = app.services.read_quick_line(caller, &line, body.source);
    Ok(Json(LineOut {
        chips: chips(&line, caller),
        source: line.weight.as_ref().map(|weight| weight.source),
        ready: line.is_ready(),
        kind: kind_of(&line),
    }))
}

/// The stretches of a line with what they were read as.
pub fn chips(line: &QuickLine, caller: Caller) -> Vec<ChipOut> {
    let currency = caller.preferences.currency;
    // Where it comes from stands beside it, in `source`.
    let style = match caller.preferences.mass.table_unit() {
        MassUnit::G => MassStyle::TableG,
        _ => MassStyle::TableOz,
    };
    let weight = || line.weight.as_ref().map(|weight| weight.unit.format(style)).unwrap_or_default();
    let price = || match line.price {
        Some(one) if one.low() == one.high() => one.format(currency),
        Some(range) => format!("{}, counted as {}", range.format(currency), range.expected().format(currency)),
        None => String::new(),
    };
    let chip = |chip: &Chip| {
        let (kind, meaning) = match &chip.read {
            Read::Name => (ChipKind::Name, chip.text.clone()),
            Read::Count => {
                (ChipKind::Count, if line.count == 1 { "1 piece".to_owned() } else { format!("{} pieces", line.count) })
            }
            Read::Each => (ChipKind::Count, "for each piece".to_owned()),
            Read::Mass => (ChipKind::Mass, weight()),
            Read::Price => (ChipKind::Price, price()),
            Read::Acquired(_) => (ChipKind::Acquired, chip.text.clone()),
            Read::Source(_) => (ChipKind::Source, chip.text.clone()),
            Read::System => (ChipKind::System, line.system.map_or_else(String::new, |system| system.name().to_owned())),
            Read::Does(job) => (ChipKind::Does, amount_in_words(job, &line.provides)),
            Read::Needs(job) => (ChipKind::Needs, amount_in_words(job, &line.needs)),
            Read::Kind => (ChipKind::Kind, line.kind.map_or_else(String::new, |kind| kind.name.to_owned())),
            Read::Rating => (ChipKind::Rating, line.rating.map(|rating| rated(rating, caller)).unwrap_or_default()),
            Read::Start => (ChipKind::Start, line.start.map_or_else(String::new, |start| starts(start).to_owned())),
            Read::Made => (ChipKind::Made, line.made_tenth_hours.map(hours).unwrap_or_default()),
            Read::Refused(why) => (ChipKind::Refused, why.clone()),
        };
        let is_price = chip.read == Read::Price;
        ChipOut {
            text: chip.text.clone(),
            kind,
            meaning,
            mg: line.weight.as_ref().filter(|_| chip.read == Read::Mass).map(|weight| weight.unit.mg()),
            low_minor: line.price.filter(|_| is_price).map(|price| price.low().minor()),
            high_minor: line.price.filter(|_| is_price).map(|price| price.high().minor()),
            acquired: if let Read::Acquired(how) = chip.read { Some(how) } else { None },
            source: if let Read::Source(source) = chip.read { Some(source) } else { None },
        }
    };
    line.chips.iter().map(chip).collect()
}

fn amount_in_words(job: &Job, jobs: &Jobs) -> String {
    known_job(job).zip(jobs.get(job)).map(|(known, amount)| job_in_words(known, *amount)).unwrap_or_default()
}

/// The kind of a line, and what comes with it.
fn kind_of(line: &QuickLine) -> Option<LineKindOut> {
    let kind = line.kind?;
    let thing = line.thing(Name::new(&line.name).ok()?);
    let said = line.chips.iter().any(|chip| chip.read == Read::Kind);
    Some(LineKindOut { key: kind.key, name: kind.name, said, brings: brought(line, &thing) })
}

/// What a thing has of its kind that its line does not say.
fn brought(line: &QuickLine, thing: &Gear) -> Vec<String> {
    let mut brings = Vec::new();
    if line.system.is_none() && thing.system != System::Other {
        brings.push(thing.system.name().to_owned());
    }
    if let Some(start) = thing.identity.start().filter(|start| line.start.is_none() && *start != Start::Carried) {
        brings.push(starts(start).to_owned());
    }
    let assumed = |job: &Job| if thing.identity.assumed.contains(job) { " assumed" } else { "" };
    let words = |job: &Job, amount: &i64| known_job(job).map(|known| job_in_words(known, *amount) + assumed(job));
    brings.extend(
        thing
            .provides
            .iter()
            .filter(|(job, _)| !line.provides.contains_key(*job))
            .filter_map(|(job, amount)| words(job, amount)),
    );
    let needs = thing.needs.iter().filter(|(job, _)| !line.needs.contains_key(*job));
    brings.extend(needs.filter_map(|(job, amount)| words(job, amount).map(|words| format!("needs {words}"))));
    brings.extend(thing.tags.marks().map(|mark| mark.name.to_owned()));
    brings
}

/// Where pieces start on a list.
fn starts(start: Start) -> &'static str {
    match start {
        Start::Carried => "starts carried",
        Start::Worn => "starts worn",
        Start::WornOne => "one starts worn",
        Start::UsedUp => "starts as used up",
        Start::Apart => "starts apart",
    }
}

fn rated(rating: Rating, caller: Caller) -> String {
    let at = rating.at.format(caller.preferences.mass.units());
    match rating.kind {
        RatingKind::Comfort => format!("comfort {at}"),
        RatingKind::Limit => format!("limit {at}"),
        RatingKind::Extreme => format!("extreme {at}: survival, never planned on"),
        RatingKind::Unknown => format!("rated {at}, taken as the limit"),
    }
}

fn hours(tenths: u32) -> String {
    format!(
        "{} h of making",
        if tenths.is_multiple_of(10) { (tenths / 10).to_string() } else { format!("{}.{}", tenths / 10, tenths % 10) }
    )
}

/// Adds what a quick line says.
#[utoipa::path(post, path = "/api/gear/line", tag = "gear", request_body = LineIn,
    responses((status = 201, body = GearOut), (status = 422, body = ProblemDoc)))]
#[post("/gear/line")]
pub async fn add(app: Data<App>, SignedIn(caller): SignedIn, body: Json<LineIn>) -> Result<HttpResponse, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let (source, list) = (body.source, body.list);
    app.write(caller, StatusCode::CREATED, move |w| w.add_quick_line(&line, source, list), GearOut::from).await
}

/// An amount of a job in words: `light`, `2 × shelter pole`, `water carried 1.0 l`.
fn job_in_words(known: &KnownJob, amount: i64) -> String {
    let name = known.name;
    match known.unit {
        JobUnit::Count if amount == 1 => name.to_owned(),
        JobUnit::Count if known.key == "shelter" => format!("{name} for {amount}"),
        JobUnit::Count => format!("{amount} × {name}"),
        JobUnit::TenthsOfR => format!("{name} R {}.{}", amount / 10, amount % 10),
        JobUnit::Ml => format!("{name} {}", Volume::from_ml(amount).format(Units::Metric, Vessel::Bottle)),
        JobUnit::G => format!("{name} {}", Mass::from_mg(amount.saturating_mul(1_000)).format(MassStyle::TotalKg)),
        JobUnit::Mwh => format!("{name} {}", Energy::from_mwh(amount).format()),
    }
}

/// The line, if it is not too long.
pub fn line_within_limit(line: &str) -> Result<String, ProblemDoc> {
    if line.chars().count() <= limits::QUICK_LINE {
        return Ok(line.to_owned());
    }
    Err(ServiceError::invalid("line", "too_long", "The line is too long. Type at most 400 characters.").into())
}
