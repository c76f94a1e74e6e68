//! `/api/gear/line`: one line of text that adds a thing.

use super::gear::GearOut;
use super::problem::ProblemDoc;
use super::{App, Caller};
use crate::service::ServiceError;
use crate::store::id::ListId;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json};
use actix_web::{HttpResponse, post};
use kevyt_core::exchange::Read;
use kevyt_core::gear::{Job, JobUnit, KnownJob, WeightSource, known_job};
use kevyt_core::limits;
use kevyt_core::quantity::{Energy, Mass, MassStyle, Units, Vessel, Volume};
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
}

/// A stretch of a quick line.
#[derive(Serialize, ToSchema)]
pub struct ChipOut {
    text: String,
    /// name, count, mass, price, gift, system, job or refused.
    kind: &'static str,
    /// What it was read as, or why it was refused.
    meaning: String,
}

/// Reads a quick line without adding anything.
#[utoipa::path(post, path = "/api/gear/read", tag = "gear", request_body = LineIn, responses((status = 200, body = LineOut)))]
#[post("/gear/read")]
pub async fn read(app: Data<App>, caller: Caller, body: Json<LineIn>) -> Result<Json<LineOut>, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let read = app.services.read_quick_line(caller, &line, body.source);
    let currency = caller.preferences.currency;
    // Where it comes from stands beside it, in `source`.
    let weight = read.weight.as_ref().map(|weight| weight.unit.format(MassStyle::TableG));
    let price = read.price.map(|price| match price.format(currency) {
        one if price.low() == price.high() => one,
        range => format!("{range}, counted as {}", price.expected().format(currency)),
    });
    let job = |text: &str| {
        let key = text.trim_start_matches('!').split('=').next().unwrap_or_default();
        let job = Job::new(key).and_then(|job| Some((known_job(&job)?, read.provides.get(&job).copied()?)));
        job.map_or_else(String::new, |(known, amount)| job_in_words(known, amount))
    };
    let chips = read.chips.iter().map(|chip| {
        let (kind, meaning) = match &chip.read {
            Read::Name => ("name", chip.text.clone()),
            Read::Count => ("count", format!("{} pieces", read.count)),
            Read::Mass => ("mass", weight.clone().unwrap_or_default()),
            Read::Price => ("price", price.clone().unwrap_or_default()),
            Read::Gift => ("gift", "a gift, cost nothing".to_owned()),
            Read::System => ("system", read.system.map_or_else(String::new, |system| system.name().to_owned())),
            Read::Job => ("job", job(&chip.text)),
            Read::Refused(why) => ("refused", why.clone()),
        };
        ChipOut { text: chip.text.clone(), kind, meaning }
    });
    Ok(Json(LineOut {
        chips: chips.collect(),
        source: read.weight.as_ref().map(|weight| weight.source),
        ready: read.is_ready(),
    }))
}

/// Adds what a quick line says.
#[utoipa::path(post, path = "/api/gear/line", tag = "gear", request_body = LineIn,
    responses((status = 201, body = GearOut), (status = 422, body = ProblemDoc)))]
#[post("/gear/line")]
pub async fn add(app: Data<App>, caller: Caller, body: Json<LineIn>) -> Result<HttpResponse, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let (source, list) = (body.source, body.list);
    app.write(caller, StatusCode::CREATED, move |w| w.add_quick_line(&line, source, list), GearOut::from).await
}

/// An amount of a job in words: `light`, `2 × shelter pole`, `water carried 1.0 l`.
fn job_in_words(known: &KnownJob, amount: i64) -> String {
    let name = known.name;
    match known.unit {
        JobUnit::Count if amount == 1 => name.to_owned(),
        JobUnit::Count => format!("{amount} × {name}"),
        JobUnit::TenthsOfR => format!("{name} R {}.{}", amount / 10, amount % 10),
        JobUnit::Ml => format!("{name} {}", Volume::from_ml(amount).format(Units::Metric, Vessel::Bottle)),
        JobUnit::G => format!("{name} {}", Mass::from_mg(amount.saturating_mul(1_000)).format(MassStyle::TotalKg)),
        JobUnit::Mwh => format!("{name} {}", Energy::from_mwh(amount).format()),
    }
}

fn line_within_limit(line: &str) -> Result<String, ProblemDoc> {
    if line.chars().count() <= limits::QUICK_LINE {
        return Ok(line.to_owned());
    }
    Err(ServiceError::invalid("line", "too_long", "The line is too long. Type at most 400 characters.").into())
}
