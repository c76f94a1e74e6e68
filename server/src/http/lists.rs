//! `/api/lists`.

use super::App;
use super::gear::GearOut;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::terms::TermsOut;
use super::wire::VersionQuery;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, patch, post, put};
use kevyt_core::list::{Counts, Way};
use kevyt_core::plan::Terms;
use kevyt_core::quantity::Money;
use kevyt_core::trip::Trip;
use kevyt_service::Services;
use kevyt_service::fields::JobAmounts;
use kevyt_service::lines::LinePut;
use kevyt_service::list_change::ListChange;
use kevyt_service::stored::{Carried, GearId, LineId, ListId, ListLine, StoredLine, StoredList, WalkerId};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A pack list and its question.
#[derive(Serialize, ToSchema)]
#[schema(as = PackList)]
pub struct ListOut {
    id: ListId,
    version: i32,
    name: String,
    note: String,
    /// The base weight to reach, in milligrams.
    target_mg: Option<i64>,
    target_typed: Option<String>,
    /// The most money to spend, in minor units.
    budget_minor: Option<i64>,
    /// What an hour of making is worth, in minor units.
    hour_minor: i64,
    /// What the trip requires, as far as the walker says so; 0 where it is not needed.
    requires: JobAmounts,
    /// The trip, as in kevyt-list/1; null until somebody says what it is.
    trip: Option<Trip>,
    /// The way of counting that new lines follow; empty for none.
    way: String,
    /// Ways of counting of the walker's own.
    ways: Vec<Way>,
    /// How its plan is asked for, beside target and budget.
    terms: TermsOut,
    /// Nights of the coming twelve months for which it is carried; null where its trips to come say it.
    year_nights: Option<u32>,
    /// Whether it is archived.
    archived: bool,
    /// Whose it is, if it is somebody else's that the caller has joined.
    #[serde(skip_serializing_if = "Option::is_none")]
    of: Option<String>,
}

/// A list with its lines.
#[derive(Serialize, ToSchema)]
pub struct FullList {
    list: ListOut,
    lines: Vec<LineOut>,
}

/// Gear on a list.
#[derive(Serialize, ToSchema)]
#[schema(as = ListLine)]
pub struct LineOut {
    id: LineId,
    version: i32,
    gear: GearOut,
    carried: u32,
    worn: u32,
    used_up: u32,
    /// In no sum, beside the totals.
    apart: u32,
    /// Staying home.
    left: u32,
    /// Whether it serves all walkers.
    shared: bool,
    /// Who carries it; null for its owner.
    walker: Option<WalkerId>,
}

/// How gear counts on a list.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CountsIn {
    #[serde(default)]
    carried: u32,
    #[serde(default)]
    worn: u32,
    #[serde(default)]
    used_up: u32,
    #[serde(default)]
    apart: u32,
    #[serde(default)]
    left: u32,
    /// Who carries it; as it was unless given.
    carried_by: Option<CarriedIn>,
    /// The version of the line as it was read; none for gear that is not on the list.
    version: Option<i32>,
}

/// Who carries a line.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CarriedIn {
    /// Whether it serves all walkers.
    shared: bool,
    /// Null for its owner.
    walker: Option<WalkerId>,
}

/// All lists, oldest first; those of others that the caller has joined at the end.
#[utoipa::path(get, path = "/api/lists", tag = "lists", responses((status = 200, body = Vec<ListOut>)))]
#[get("/lists")]
pub async fn all(app: Data<App>, SignedIn(caller): SignedIn) -> Result<Json<Vec<ListOut>>, ProblemDoc> {
    let (own, joined) = app.run(move |services| services.lists(caller)).await?;
    let joined = joined.into_iter().map(|(list, owner)| ListOut { of: Some(owner), ..ListOut::joined(list) });
    Ok(Json(own.into_iter().map(ListOut::from).chain(joined).collect()))
}

/// Adds a list.
#[utoipa::path(post, path = "/api/lists", tag = "lists", request_body = ListChange,
    responses((status = 201, body = ListOut), (status = 422, body = ProblemDoc)))]
#[post("/lists")]
pub async fn add(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Json<ListChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let asked = body.into_inner();
    let name = asked.name.clone().unwrap_or_default();
    app.write(caller, StatusCode::CREATED, move |w| w.add_list(&name, &asked), ListOut::from).await
}

/// One list with its lines.
#[utoipa::path(get, path = "/api/lists/{id}", tag = "lists", responses((status = 200, body = FullList), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ListId>) -> Result<HttpResponse, ProblemDoc> {
    let list = move |services: &Services| {
        let (list, lines) = services.list(caller, *id)?;
        Ok(FullList { list: list.into(), lines: lines.into_iter().map(LineOut::from).collect() })
    };
    app.run_json(list).await
}

/// Changes a list.
#[utoipa::path(patch, path = "/api/lists/{id}", tag = "lists", params(VersionQuery), request_body = ListChange,
    responses((status = 200, body = ListOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/lists/{id}")]
pub async fn change(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    query: Query<VersionQuery>,
    body: Json<ListChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let asked = body.into_inner();
    app.write(caller, StatusCode::OK, move |w| w.change_list(*id, query.version, &asked), ListOut::from).await
}

/// Removes a list. It can be brought back.
#[utoipa::path(delete, path = "/api/lists/{id}", tag = "lists", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/lists/{id}")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_list(*id, query.version), |()| ()).await
}

/// The name of a copy.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CopyIn {
    name: String,
}

/// Makes a list like this one: the caller's own lines, the trip, the question; not the swaps.
#[utoipa::path(post, path = "/api/lists/{id}/copies", tag = "lists", request_body = CopyIn,
    responses((status = 201, body = ListOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/copies")]
pub async fn copy(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<CopyIn>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::CREATED, move |w| w.copy_list(*id, &body.name), ListOut::from).await
}

/// A way of counting.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CountByIn {
    /// Its key.
    way: String,
}

/// Lays a list out as a way of counting says; new lines follow it.
#[utoipa::path(post, path = "/api/lists/{id}/count-by", tag = "lists", params(VersionQuery), request_body = CountByIn,
    responses((status = 200, body = ListOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/count-by")]
pub async fn count_by(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    query: Query<VersionQuery>,
    body: Json<CountByIn>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::OK, move |w| w.count_by(*id, query.version, &body.way), ListOut::from).await
}

/// Puts gear on a list, or changes how it counts there.
#[utoipa::path(put, path = "/api/lists/{id}/lines/{gear}", tag = "lists", request_body = CountsIn,
    responses((status = 200, body = LineOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/lists/{id}/lines/{gear}")]
pub async fn put_line(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(ListId, GearId)>,
    body: Json<CountsIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, gear) = path.into_inner();
    let CountsIn { carried, worn, used_up, apart, left, carried_by, version } = body.into_inner();
    let counts = Counts { carried, worn, used_up, apart, left };
    let carried = carried_by.map(|by| Carried { shared: by.shared, by: by.walker });
    app.write(
        caller,
        StatusCode::OK,
        move |w| w.put_line(list, gear, LinePut { counts, carried, version }),
        LineOut::from,
    )
    .await
}

/// Takes gear off a list.
#[utoipa::path(delete, path = "/api/lists/{id}/lines/{gear}", tag = "lists", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/lists/{id}/lines/{gear}")]
pub async fn remove_line(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(ListId, GearId)>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, gear) = path.into_inner();
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_line(list, gear, query.version), |()| ()).await
}

impl From<StoredList> for ListOut {
    fn from(stored: StoredList) -> ListOut {
        let list = stored.value;
        ListOut {
            id: stored.id,
            version: stored.version,
            name: list.name.as_str().to_owned(),
            note: list.note,
            target_mg: list.target.as_ref().map(|(mass, _)| mass.mg()),
            target_typed: list.target.map(|(_, typed)| typed),
            budget_minor: list.budget.map(Money::minor),
            hour_minor: list.hour_rate.minor(),
            requires: JobAmounts::from(&list.requires),
            trip: list.trip,
            way: list.way,
            ways: list.ways,
            terms: list.terms.into(),
            year_nights: list.year_nights,
            archived: list.archived,
            of: None,
        }
    }
}

impl ListOut {
    /// A list of somebody else's: the question is the owner's alone.
    pub(super) fn joined(list: StoredList) -> ListOut {
        let out = ListOut::from(list);
        ListOut {
            target_mg: None,
            target_typed: None,
            budget_minor: None,
            hour_minor: 0,
            year_nights: None,
            terms: Terms::default().into(),
            ..out
        }
    }
}

impl From<StoredLine> for LineOut {
    fn from(stored: StoredLine) -> LineOut {
        let ListLine { gear, counts, carried } = stored.value;
        LineOut {
            id: stored.id,
            version: stored.version,
            gear: gear.into(),
            carried: counts.carried,
            worn: counts.worn,
            used_up: counts.used_up,
            apart: counts.apart,
            left: counts.left,
            shared: carried.shared,
            walker: carried.by,
        }
    }
}
