//! `/api/gear`.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::wire::{FactsOut, PageQuery, VersionQuery, WeightOut, raw_json};
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, patch, post};
use chrono::DateTime;
use kevyt_core::gear::{Acquired, Gear, Kind, Makers, Need, Start, Status};
use kevyt_core::quantity::Money;
use kevyt_service::Services;
use kevyt_service::fields::JobAmounts;
use kevyt_service::gear::{BulkChange, GearChange, ThingAt};
use kevyt_service::stored::{GearId, Stored};
use serde::{Serialize, Serializer};
use serde_json::value::RawValue;
use std::sync::Arc;
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
    /// The maker's figure for one piece, in milligrams, and as typed.
    #[serde(skip_serializing_if = "Option::is_none")]
    claimed: Option<ClaimOut>,
    /// What one piece cost, in minor units: the lower end of a range, or the price.
    #[serde(skip_serializing_if = "Option::is_none")]
    paid_low_minor: Option<i64>,
    /// The upper end of the range; the same as the lower for a price.
    #[serde(skip_serializing_if = "Option::is_none")]
    paid_high_minor: Option<i64>,
    /// The expected price, which counts in sums: the middle of the range, rounded up.
    #[serde(skip_serializing_if = "Option::is_none")]
    paid_minor: Option<i64>,
    acquired: Acquired,
    status: Status,
    /// Where it is kept.
    #[serde(skip_serializing_if = "String::is_empty")]
    kept_at: String,
    /// What there is to say of it in words.
    #[serde(skip_serializing_if = "String::is_empty")]
    note: String,
    /// The walker's own words.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    tags: Vec<String>,
    /// What else is so of it, by the keys of marks.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    marks: Vec<&'static str>,
    /// The key of its kind; null while nobody has said.
    kind: Option<&'static str>,
    /// The kind that its name says; absent once it has one, or where the name says none.
    #[serde(skip_serializing_if = "Option::is_none")]
    proposed_kind: Option<&'static str>,
    /// Whether it is needed: as said, or as its kind has it.
    need: Need,
    /// Whether it stays as it is: never proposed to go, never taken by a plan.
    keep: bool,
    /// Where its pieces start on a list, as said or as its kind has it; absent where nothing says so.
    #[serde(skip_serializing_if = "Option::is_none")]
    start: Option<Start>,
    /// Jobs that it does by amounts that come from its kind and nobody has confirmed.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    assumed: Vec<String>,
    /// How long it took to make, in tenths of an hour.
    #[serde(skip_serializing_if = "Option::is_none")]
    made_tenth_hours: Option<u32>,
    /// Nights of use.
    nights: u32,
    /// After how many of them it is worn out, if somebody said.
    #[serde(skip_serializing_if = "Option::is_none")]
    lasts_nights: Option<u32>,
    /// What a night of use has cost so far, in minor units; absent without a price or a night.
    #[serde(skip_serializing_if = "Option::is_none")]
    night_minor: Option<i64>,
    /// What one piece would bring, in minor units, as it was said.
    #[serde(skip_serializing_if = "Option::is_none")]
    resale_minor: Option<i64>,
    /// The day on which that was said, as YYYY-MM-DD (UTC).
    #[serde(skip_serializing_if = "Option::is_none")]
    resale_on: Option<String>,
    provides: JobAmounts,
    needs: JobAmounts,
    /// Absent if nothing is known.
    #[serde(skip_serializing_if = "Option::is_none")]
    facts: Option<FactsOut>,
}

/// A maker's figure.
#[derive(Serialize, ToSchema)]
pub struct ClaimOut {
    unit_mg: i64,
    typed: String,
}

/// A thing as JSON.
pub type ThingJson = Arc<RawValue>;

/// One page of gear.
#[derive(Serialize, ToSchema)]
pub struct GearPage {
    #[serde(serialize_with = "as_written")]
    #[schema(value_type = Vec<GearOut>)]
    items: Vec<ThingJson>,
    /// Things in all.
    total: i64,
    makers: MakersOut,
}

/// Things, put in as they are.
fn as_written<S: Serializer>(items: &[ThingJson], serializer: S) -> Result<S::Ok, S::Error> {
    serializer.collect_seq(items.iter().map(|json| &**json))
}

/// How makers' figures have compared with the account's scale: (weighed − claimed) / claimed in millionths.
#[derive(Serialize, ToSchema)]
pub struct MakersOut {
    /// Every pair's, lightest first.
    errors: Vec<i64>,
    /// Pairs that are left out, since they are over 40 % apart.
    left_out: usize,
    median: Option<i64>,
    /// Whether there are enough pairs for the account's own range.
    own: bool,
    /// From where a maker's figure may be off.
    low: i64,
    /// To where.
    high: i64,
}

impl From<&Makers> for MakersOut {
    fn from(makers: &Makers) -> MakersOut {
        let (low, high) = makers.range();
        MakersOut {
            errors: makers.errors().to_vec(),
            left_out: makers.left_out(),
            median: makers.median(),
            own: makers.is_own(),
            low,
            high,
        }
    }
}

/// What came of a change of several things.
#[derive(Serialize, ToSchema)]
pub struct BulkOut {
    /// How many things were changed or removed.
    changed: usize,
    /// The things as they are now, for the next change of them; none if they were removed.
    things: Vec<ThingAt>,
}

/// One page of gear, by system and name.
#[utoipa::path(get, path = "/api/gear", tag = "gear", params(PageQuery), responses((status = 200, body = GearPage)))]
#[get("/gear")]
pub async fn page(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    query: Query<PageQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    let which = query.page();
    let kept = Arc::clone(&app.things);
    let page = move |services: &Services| {
        let written = |thing: &Stored<GearId, Gear>| {
            let json = raw_json(&GearOut::from(thing))?;
            kept.put(thing.id, thing.version.into(), Arc::clone(&json));
            Ok(json)
        };
        let page = services.gear_page(caller, which, |id, version| kept.get(&id, version.into()), written)?;
        let makers = MakersOut::from(&page.makers);
        Ok((page.revision, GearPage { items: page.things, total: page.total, makers }))
    };
    app.run_kept(caller, which, page).await
}

/// Adds a thing.
#[utoipa::path(post, path = "/api/gear", tag = "gear", request_body = GearChange,
    responses((status = 201, body = GearOut), (status = 422, body = ProblemDoc)))]
#[post("/gear")]
pub async fn add(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Json<GearChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let asked = body.into_inner();
    let name = asked.name.clone().unwrap_or_default();
    app.write(caller, StatusCode::CREATED, move |w| w.add_gear(&name, &asked), GearOut::from).await
}

/// One thing.
#[utoipa::path(get, path = "/api/gear/{id}", tag = "gear", responses((status = 200, body = GearOut), (status = 404, body = ProblemDoc)))]
#[get("/gear/{id}")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn, id: Path<GearId>) -> Result<Json<GearOut>, ProblemDoc> {
    Ok(Json(app.run(move |services| services.gear(caller, *id)).await?.into()))
}

/// Changes a thing.
#[utoipa::path(patch, path = "/api/gear/{id}", tag = "gear", params(VersionQuery), request_body = GearChange,
    responses((status = 200, body = GearOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/gear/{id}")]
pub async fn change(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<GearId>,
    query: Query<VersionQuery>,
    body: Json<GearChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let asked = body.into_inner();
    app.write(caller, StatusCode::OK, move |w| w.change_gear(*id, query.version, &asked), GearOut::from).await
}

/// Changes or removes several things, all or none.
#[utoipa::path(post, path = "/api/gear/several", tag = "gear", request_body = BulkChange,
    responses((status = 200, body = BulkOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/gear/several")]
pub async fn change_several(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Json<BulkChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let changed = body.things.len();
    let out = move |things| BulkOut { changed, things };
    app.write_much(caller, StatusCode::OK, move |w| w.change_several(&body), out).await
}

/// Removes a thing, with its lines and the swaps that take it off. It can be brought back.
#[utoipa::path(delete, path = "/api/gear/{id}", tag = "gear", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/gear/{id}")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<GearId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_gear(*id, query.version), |()| ()).await
}

impl From<Stored<GearId, Gear>> for GearOut {
    fn from(stored: Stored<GearId, Gear>) -> GearOut {
        GearOut::from(&stored)
    }
}

impl From<&Stored<GearId, Gear>> for GearOut {
    fn from(stored: &Stored<GearId, Gear>) -> GearOut {
        let gear = &stored.value;
        GearOut {
            id: stored.id,
            version: stored.version,
            name: gear.name.as_str().to_owned(),
            system: gear.system.key().to_owned(),
            count: gear.count,
            weight: gear.weight.as_ref().map(WeightOut::from),
            night_minor: gear.cost_per_night().map(Money::minor),
            claimed: gear
                .claimed
                .as_ref()
                .map(|claim| ClaimOut { unit_mg: claim.unit.mg(), typed: claim.typed.clone() }),
            paid_low_minor: gear.paid.map(|paid| paid.low().minor()),
            paid_high_minor: gear.paid.map(|paid| paid.high().minor()),
            paid_minor: gear.paid.map(|paid| paid.expected().minor()),
            acquired: gear.acquired,
            status: gear.status,
            kept_at: gear.kept_at.clone(),
            note: gear.note.clone(),
            tags: gear.tags.own().map(str::to_owned).collect(),
            marks: gear.tags.marks().map(|mark| mark.key).collect(),
            kind: gear.identity.kind.map(|kind| kind.key),
            proposed_kind: gear
                .identity
                .kind
                .is_none()
                .then(|| Kind::of_name(gear.name.as_str()))
                .flatten()
                .map(|kind| kind.key),
            need: gear.identity.need(),
            keep: gear.identity.keep,
            start: gear.identity.start(),
            assumed: gear.identity.assumed.iter().map(|job| job.as_str().to_owned()).collect(),
            made_tenth_hours: gear.identity.made_tenth_hours,
            nights: gear.nights,
            lasts_nights: gear.identity.lasts_nights,
            resale_minor: gear.resale.map(Money::minor),
            resale_on: gear.resale_at.and_then(DateTime::from_timestamp_micros).map(|at| at.date_naive().to_string()),
            provides: JobAmounts::from(&gear.provides),
            needs: JobAmounts::from(&gear.needs),
            facts: (!gear.facts.is_empty()).then(|| FactsOut::from(&gear.facts)),
        }
    }
}
