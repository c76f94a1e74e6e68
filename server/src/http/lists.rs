//! `/api/lists`.

use super::gear::GearOut;
use super::problem::ProblemDoc;
use super::wire::{JobAmounts, VersionQuery, job_amounts, read_patch, read_some_jobs};
use super::{App, Caller};
use crate::service::fields::Patch;
use crate::service::lists::ListChange;
use crate::store::id::{GearId, LineId, ListId};
use crate::store::lines::{Counts, ListLine, StoredLine};
use crate::store::lists::StoredList;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, patch, post, put};
use kevyt_core::gear::Jobs;
use kevyt_core::quantity::Money;
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
    /// What the trip requires.
    requires: JobAmounts,
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
}

/// A change of a list: absent fields stay, null clears.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ListIn {
    name: Option<String>,
    note: Option<String>,
    /// As typed; a bare number is in kilograms or pounds.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    target: Patch<String>,
    /// As typed.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    budget: Patch<String>,
    /// As typed.
    hour_rate: Option<String>,
    #[serde(default, deserialize_with = "read_some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    requires: Option<Jobs>,
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
    /// The version of the line as it was read; none for gear that is not on the list.
    version: Option<i32>,
}

/// All lists, oldest first.
#[utoipa::path(get, path = "/api/lists", tag = "lists", responses((status = 200, body = Vec<ListOut>)))]
#[get("/lists")]
pub async fn all(app: Data<App>, caller: Caller) -> Result<Json<Vec<ListOut>>, ProblemDoc> {
    let lists = app.run(move |services| services.lists(caller)).await?;
    Ok(Json(lists.into_iter().map(ListOut::from).collect()))
}

/// Adds a list.
#[utoipa::path(post, path = "/api/lists", tag = "lists", request_body = ListIn,
    responses((status = 201, body = ListOut), (status = 422, body = ProblemDoc)))]
#[post("/lists")]
pub async fn add(app: Data<App>, caller: Caller, body: Json<ListIn>) -> Result<HttpResponse, ProblemDoc> {
    let asked = change_of(body.into_inner());
    let name = asked.name.clone().unwrap_or_default();
    app.write(caller, StatusCode::CREATED, move |w| w.add_list(&name, &asked), ListOut::from).await
}

/// One list with its lines.
#[utoipa::path(get, path = "/api/lists/{id}", tag = "lists", responses((status = 200, body = FullList), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}")]
pub async fn get(app: Data<App>, caller: Caller, id: Path<ListId>) -> Result<Json<FullList>, ProblemDoc> {
    let (list, lines) = app.run(move |services| services.list(caller, *id)).await?;
    Ok(Json(FullList { list: list.into(), lines: lines.into_iter().map(LineOut::from).collect() }))
}

/// Changes a list.
#[utoipa::path(patch, path = "/api/lists/{id}", tag = "lists", params(VersionQuery), request_body = ListIn,
    responses((status = 200, body = ListOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/lists/{id}")]
pub async fn change(
    app: Data<App>,
    caller: Caller,
    id: Path<ListId>,
    query: Query<VersionQuery>,
    body: Json<ListIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let asked = change_of(body.into_inner());
    app.write(caller, StatusCode::OK, move |w| w.change_list(*id, query.version, &asked), ListOut::from).await
}

/// Removes a list. It can be brought back.
#[utoipa::path(delete, path = "/api/lists/{id}", tag = "lists", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/lists/{id}")]
pub async fn remove(
    app: Data<App>,
    caller: Caller,
    id: Path<ListId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_list(*id, query.version), |()| ()).await
}

/// Puts gear on a list, or changes how it counts there.
#[utoipa::path(put, path = "/api/lists/{id}/lines/{gear}", tag = "lists", request_body = CountsIn,
    responses((status = 200, body = LineOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/lists/{id}/lines/{gear}")]
pub async fn put_line(
    app: Data<App>,
    caller: Caller,
    path: Path<(ListId, GearId)>,
    body: Json<CountsIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, gear) = path.into_inner();
    let counts = Counts { carried: body.carried, worn: body.worn, used_up: body.used_up };
    let version = body.version;
    app.write(caller, StatusCode::OK, move |w| w.put_line(list, gear, counts, version), LineOut::from).await
}

/// Takes gear off a list.
#[utoipa::path(delete, path = "/api/lists/{id}/lines/{gear}", tag = "lists", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/lists/{id}/lines/{gear}")]
pub async fn remove_line(
    app: Data<App>,
    caller: Caller,
    path: Path<(ListId, GearId)>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, gear) = path.into_inner();
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_line(list, gear, query.version), |()| ()).await
}

fn change_of(body: ListIn) -> ListChange {
    ListChange {
        name: body.name,
        note: body.note,
        target: body.target,
        budget: body.budget,
        hour_rate: body.hour_rate,
        requires: body.requires,
    }
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
            requires: job_amounts(&list.requires),
        }
    }
}

impl From<StoredLine> for LineOut {
    fn from(stored: StoredLine) -> LineOut {
        let ListLine { gear, counts } = stored.value;
        LineOut {
            id: stored.id,
            version: stored.version,
            gear: gear.into(),
            carried: counts.carried,
            worn: counts.worn,
            used_up: counts.used_up,
        }
    }
}
