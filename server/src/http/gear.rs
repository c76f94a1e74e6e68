//! `/api/gear`.

use super::problem::ProblemDoc;
use super::wire::{JobAmounts, PageQuery, Source, VersionQuery, WeightOut, job_amounts, read_patch, read_some_jobs};
use super::{App, Caller};
use crate::service::gear::{GearChange, Patch};
use crate::store::Stored;
use crate::store::id::{GearId, ListId};
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, patch, post};
use kevyt_core::exchange::Read;
use kevyt_core::gear::{Gear, Jobs, System};
use kevyt_core::quantity::Money;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A thing that somebody owns.
#[derive(Serialize, ToSchema)]
#[schema(as = Gear)]
pub struct GearOut {
    id: GearId,
    version: i32,
    name: String,
    /// The key of its system.
    system: String,
    /// Pieces owned.
    count: u32,
    /// What one piece weighs; null if unknown.
    weight: Option<WeightOut>,
    /// What one piece cost, in minor units.
    paid_minor: Option<i64>,
    /// What one piece would bring, in minor units.
    resale_minor: Option<i64>,
    provides: JobAmounts,
    needs: JobAmounts,
}

/// One page of gear.
#[derive(Serialize, ToSchema)]
pub struct GearPage {
    items: Vec<GearOut>,
    /// Things in all.
    total: i64,
}

/// A change of a thing: absent fields stay, null clears.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GearIn {
    name: Option<String>,
    system: Option<String>,
    count: Option<u32>,
    /// As typed; a bare number is in the account's unit.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    weight: Patch<String>,
    source: Option<Source>,
    /// As typed.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    paid: Patch<String>,
    /// As typed.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    resale: Patch<String>,
    #[serde(default, deserialize_with = "read_some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    provides: Option<Jobs>,
    #[serde(default, deserialize_with = "read_some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    needs: Option<Jobs>,
}

/// A quick line.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LineIn {
    /// At most 400 characters.
    line: String,
    /// The list that the thing is put on, carried.
    list: Option<ListId>,
}

/// A quick line as it was understood.
#[derive(Serialize, ToSchema)]
pub struct LineOut {
    chips: Vec<ChipOut>,
    /// Whether it can be added as it stands.
    ready: bool,
}

/// A stretch of a quick line.
#[derive(Serialize, ToSchema)]
pub struct ChipOut {
    text: String,
    /// name, count, mass, price, system or refused.
    kind: &'static str,
    /// What it was read as, or why it was refused.
    meaning: String,
}

/// One page of gear, by system and name.
#[utoipa::path(get, path = "/api/gear", tag = "gear", params(PageQuery), responses((status = 200, body = GearPage)))]
#[get("/gear")]
pub async fn page(app: Data<App>, caller: Caller, query: Query<PageQuery>) -> Result<Json<GearPage>, ProblemDoc> {
    let (items, total) = app.run(move |services| services.gear_page(caller, query.page())).await?;
    Ok(Json(GearPage { items: items.into_iter().map(GearOut::from).collect(), total }))
}

/// Adds a thing.
#[utoipa::path(post, path = "/api/gear", tag = "gear", request_body = GearIn,
    responses((status = 201, body = GearOut), (status = 422, body = ProblemDoc)))]
#[post("/gear")]
pub async fn add(app: Data<App>, caller: Caller, body: Json<GearIn>) -> Result<HttpResponse, ProblemDoc> {
    let asked = change_of(body.into_inner())?;
    let name = asked.name.clone().unwrap_or_default();
    let added = app.run(move |services| services.add_gear(caller, &name, &asked)).await?;
    Ok(HttpResponse::Created().json(GearOut::from(added)))
}

/// Reads a quick line without adding anything.
#[utoipa::path(post, path = "/api/gear/read", tag = "gear", request_body = LineIn, responses((status = 200, body = LineOut)))]
#[post("/gear/read")]
pub async fn read_line(app: Data<App>, caller: Caller, body: Json<LineIn>) -> Result<Json<LineOut>, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let read = app.services.read_quick_line(caller, &line);
    let mass = read.mass.as_ref().map(|(mass, _)| mass.format(kevyt_core::quantity::MassStyle::TableG));
    let price = read.price.map(|price| price.format(caller.preferences.currency));
    let chips = read.chips.iter().map(|chip| {
        let (kind, meaning) = match &chip.read {
            Read::Name => ("name", chip.text.clone()),
            Read::Count => ("count", format!("{} pieces", read.count)),
            Read::Mass => ("mass", mass.clone().unwrap_or_default()),
            Read::Price => ("price", price.clone().unwrap_or_default()),
            Read::System => ("system", read.system.map_or_else(String::new, |system| system.name().to_owned())),
            Read::Refused(why) => ("refused", why.clone()),
        };
        ChipOut { text: chip.text.clone(), kind, meaning }
    });
    Ok(Json(LineOut { chips: chips.collect(), ready: read.is_ready() }))
}

/// Adds what a quick line says.
#[utoipa::path(post, path = "/api/gear/line", tag = "gear", request_body = LineIn,
    responses((status = 201, body = GearOut), (status = 422, body = ProblemDoc)))]
#[post("/gear/line")]
pub async fn add_line(app: Data<App>, caller: Caller, body: Json<LineIn>) -> Result<HttpResponse, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let added = app.run(move |services| services.add_quick_line(caller, &line, body.list)).await?;
    Ok(HttpResponse::Created().json(GearOut::from(added)))
}

/// One thing.
#[utoipa::path(get, path = "/api/gear/{id}", tag = "gear", responses((status = 200, body = GearOut), (status = 404, body = ProblemDoc)))]
#[get("/gear/{id}")]
pub async fn get(app: Data<App>, caller: Caller, id: Path<GearId>) -> Result<Json<GearOut>, ProblemDoc> {
    Ok(Json(app.run(move |services| services.gear(caller, *id)).await?.into()))
}

/// Changes a thing.
#[utoipa::path(patch, path = "/api/gear/{id}", tag = "gear", params(VersionQuery), request_body = GearIn,
    responses((status = 200, body = GearOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/gear/{id}")]
pub async fn change(
    app: Data<App>,
    caller: Caller,
    id: Path<GearId>,
    query: Query<VersionQuery>,
    body: Json<GearIn>,
) -> Result<Json<GearOut>, ProblemDoc> {
    let asked = change_of(body.into_inner())?;
    Ok(Json(app.run(move |services| services.change_gear(caller, *id, query.version, &asked)).await?.into()))
}

/// Removes a thing, with its lines and the swaps that take it off. It can be brought back.
#[utoipa::path(delete, path = "/api/gear/{id}", tag = "gear", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/gear/{id}")]
pub async fn remove(
    app: Data<App>,
    caller: Caller,
    id: Path<GearId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.run(move |services| services.remove_gear(caller, *id, query.version)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Brings a removed thing back.
#[utoipa::path(post, path = "/api/gear/{id}/restore", tag = "gear", responses((status = 204), (status = 404, body = ProblemDoc)))]
#[post("/gear/{id}/restore")]
pub async fn restore(app: Data<App>, caller: Caller, id: Path<GearId>) -> Result<HttpResponse, ProblemDoc> {
    app.run(move |services| services.restore_gear(caller, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

fn change_of(body: GearIn) -> Result<GearChange, ProblemDoc> {
    let system = body.system.map(|key| system(&key)).transpose()?;
    Ok(GearChange {
        name: body.name,
        system,
        count: body.count,
        weight: body.weight,
        source: body.source.map(Into::into),
        paid: body.paid,
        resale: body.resale,
        provides: body.provides,
        needs: body.needs,
    })
}

fn system(key: &str) -> Result<System, ProblemDoc> {
    System::ALL.iter().copied().find(|system| system.key() == key).ok_or_else(|| {
        let keys: Vec<&str> = System::ALL.iter().map(|system| system.key()).collect();
        let detail = format!("\"{key}\" is not a system. Systems: {}.", keys.join(", "));
        crate::service::ServiceError::invalid("system", "unknown_system", detail).into()
    })
}

fn line_within_limit(line: &str) -> Result<String, ProblemDoc> {
    if line.chars().count() <= 400 {
        return Ok(line.to_owned());
    }
    Err(crate::service::ServiceError::invalid("line", "too_long", "The line is too long. Type at most 400 characters.")
        .into())
}

impl From<Stored<GearId, Gear>> for GearOut {
    fn from(stored: Stored<GearId, Gear>) -> GearOut {
        let gear = stored.value;
        GearOut {
            id: stored.id,
            version: stored.version,
            name: gear.name.as_str().to_owned(),
            system: gear.system.key().to_owned(),
            count: gear.count,
            weight: gear.weight.as_ref().map(WeightOut::from),
            paid_minor: gear.paid.map(Money::minor),
            resale_minor: gear.resale.map(Money::minor),
            provides: job_amounts(&gear.provides),
            needs: job_amounts(&gear.needs),
        }
    }
}
