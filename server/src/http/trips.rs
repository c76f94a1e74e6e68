//! `/api/trips`: trips, coming and walked, with what was said of their things.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::wire::VersionQuery;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, patch, post};
use kevyt_core::gear::{System, WeightSource};
use kevyt_core::quantity::Mass;
use kevyt_core::walked::{Mark, Met, UsedUp};
use kevyt_service::Write;
use kevyt_service::stored::{GearId, ListId, Stored, StoredTrip, TripId, TripThing, TripThingId};
use kevyt_service::trips::{FullTrip, ThingDebrief, TripChange, Wish};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A trip.
#[derive(Serialize, ToSchema)]
#[schema(as = TripLine)]
pub struct TripOut {
    id: TripId,
    version: i32,
    /// The list that it is of; null if that is gone.
    list: Option<ListId>,
    name: String,
    /// The first day, YYYY-MM-DD.
    starts_on: String,
    nights: u32,
    people: String,
    note: String,
    /// When its list was kept as it was (UTC); null while the trip is to come.
    kept_at: Option<String>,
    /// The base weight of that list.
    base_mg: Option<i64>,
    met: Met,
    used_up: UsedUp,
    /// What it was planned to boil, in millilitres a day; null if nothing was planned.
    boil_ml_per_day: Option<i64>,
}

/// A trip with its things.
#[derive(Serialize, ToSchema)]
#[schema(as = WalkedTrip)]
pub struct FullTripOut {
    trip: TripOut,
    things: Vec<TripThingOut>,
}

/// A thing on a trip, as it was then.
#[derive(Serialize, ToSchema)]
#[schema(as = TripThing)]
pub struct TripThingOut {
    id: TripThingId,
    /// The gear; null for what is not owned.
    gear: Option<GearId>,
    name: String,
    #[schema(value_type = String)]
    system: System,
    /// Pieces that came along.
    pieces: i64,
    /// Pieces that stayed home though they were on the list.
    left: u32,
    /// What one piece weighed.
    unit_mg: Option<i64>,
    source: Option<WeightSource>,
    /// Whether it was ticked as in the pack.
    is_in: bool,
    /// Whether it was used; null until somebody says so.
    used: Option<bool>,
    /// What else is said of it.
    marks: Vec<Mark>,
    note: String,
}

/// A new trip.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewTripIn {
    /// The list that it is of.
    list: ListId,
    /// The first day, YYYY-MM-DD.
    starts_on: String,
    /// Its name; that of the list unless given.
    name: Option<String>,
    /// Nights; those of the list's trip unless given.
    nights: Option<u32>,
    people: Option<String>,
    note: Option<String>,
}

/// Something that was wished for: gear that stayed at home, or what is not owned, by its name.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WishIn {
    gear: Option<GearId>,
    #[serde(default)]
    name: String,
}

/// One trip with its things.
#[utoipa::path(get, path = "/api/trips/{id}", tag = "trips",
    responses((status = 200, body = FullTripOut), (status = 404, body = ProblemDoc)))]
#[get("/trips/{id}")]
pub async fn get(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<TripId>,
) -> Result<Json<FullTripOut>, ProblemDoc> {
    Ok(Json(app.run(move |services| services.trip(caller, *id)).await?.into()))
}

/// Adds a trip of a list, to come until its list is kept.
#[utoipa::path(post, path = "/api/trips", tag = "trips", request_body = NewTripIn,
    responses((status = 201, body = TripOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/trips")]
pub async fn add(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Json<NewTripIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let NewTripIn { list, starts_on, name, nights, people, note } = body.into_inner();
    let typed = TripChange { name, starts_on: Some(starts_on), nights, people, note, ..TripChange::default() };
    app.write(caller, StatusCode::CREATED, move |w| w.add_trip(list, &typed), TripOut::from).await
}

/// Changes a trip.
#[utoipa::path(patch, path = "/api/trips/{id}", tag = "trips", params(VersionQuery), request_body = TripChange,
    responses((status = 200, body = TripOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc),
        (status = 422, body = ProblemDoc)))]
#[patch("/trips/{id}")]
pub async fn change(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<TripId>,
    query: Query<VersionQuery>,
    body: Json<TripChange>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::OK, move |w| w.change_trip(*id, query.version, &body), TripOut::from).await
}

/// Keeps the list of a trip as it is now, with what is ticked as in the pack. From then on the trip can be looked back on.
#[utoipa::path(post, path = "/api/trips/{id}/keep", tag = "trips", params(VersionQuery),
    responses((status = 200, body = TripOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc),
        (status = 422, body = ProblemDoc)))]
#[post("/trips/{id}/keep")]
pub async fn keep(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<TripId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::OK, move |w| w.keep_trip(*id, query.version), TripOut::from).await
}

/// Removes a trip. It can be brought back from the history.
#[utoipa::path(delete, path = "/api/trips/{id}", tag = "trips", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/trips/{id}")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<TripId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_trip(*id, query.version), |()| ()).await
}

/// Says something of a thing of a trip. It can be sent again: the last word counts, field by field.
#[utoipa::path(patch, path = "/api/trips/{id}/things/{thing}", tag = "trips", request_body = ThingDebrief,
    responses((status = 200, body = TripThingOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/trips/{id}/things/{thing}")]
pub async fn say(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(TripId, TripThingId)>,
    body: Json<ThingDebrief>,
) -> Result<HttpResponse, ProblemDoc> {
    let (trip, thing) = path.into_inner();
    let say = move |w: &mut Write<'_>| w.say_of(trip, thing, &body);
    app.write(caller, StatusCode::OK, say, |thing| TripThingOut::from(&thing)).await
}

/// Notes something that was wished for on a trip.
#[utoipa::path(post, path = "/api/trips/{id}/things", tag = "trips", request_body = WishIn,
    responses((status = 201, body = TripThingOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/trips/{id}/things")]
pub async fn wish(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<TripId>,
    body: Json<WishIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let WishIn { gear, name } = body.into_inner();
    let wish = gear.map_or(Wish::Named(name), Wish::Owned);
    let wish = move |w: &mut Write<'_>| w.wish(*id, &wish);
    app.write(caller, StatusCode::CREATED, wish, |thing| TripThingOut::from(&thing)).await
}

/// Takes something that was only wished for off a trip.
#[utoipa::path(delete, path = "/api/trips/{id}/things/{thing}", tag = "trips",
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[delete("/trips/{id}/things/{thing}")]
pub async fn unwish(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(TripId, TripThingId)>,
) -> Result<HttpResponse, ProblemDoc> {
    let (trip, thing) = path.into_inner();
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.unwish(trip, thing), |()| ()).await
}

impl From<StoredTrip> for TripOut {
    fn from(stored: StoredTrip) -> TripOut {
        let trip = stored.value;
        TripOut {
            id: stored.id,
            version: stored.version,
            list: trip.list,
            name: trip.name.as_str().to_owned(),
            starts_on: trip.starts_on.to_string(),
            nights: trip.nights,
            people: trip.people,
            note: trip.note,
            kept_at: trip.kept_at.map(|at| at.and_utc().to_rfc3339()),
            base_mg: trip.base.map(Mass::mg),
            met: trip.met,
            used_up: trip.used_up,
            boil_ml_per_day: trip.planned.map(|planned| planned.boil_ml_per_day),
        }
    }
}

impl From<FullTrip> for FullTripOut {
    fn from((trip, things): FullTrip) -> FullTripOut {
        FullTripOut { trip: trip.into(), things: things.iter().map(TripThingOut::from).collect() }
    }
}

impl From<&Stored<TripThingId, TripThing>> for TripThingOut {
    fn from(stored: &Stored<TripThingId, TripThing>) -> TripThingOut {
        let thing = &stored.value;
        TripThingOut {
            id: stored.id,
            gear: thing.gear,
            name: thing.name.as_str().to_owned(),
            system: thing.system,
            pieces: thing.along(),
            left: thing.counts.left,
            unit_mg: thing.unit.map(|(mass, _)| mass.mg()),
            source: thing.unit.map(|(_, source)| source),
            is_in: thing.is_in,
            used: thing.verdict.used,
            marks: thing.verdict.marks.iter().copied().collect(),
            note: thing.note.clone(),
        }
    }
}
