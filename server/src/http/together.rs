//! `/api/lists/{id}/walkers`, `/links`, `/carry`, and `/api/joined`.

use super::guard::SignedIn;
use super::lists::ListOut;
use super::problem::ProblemDoc;
use super::sheet::LinkOut;
use super::wire::{VersionQuery, changed};
use super::{App, DEADLINE};
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, patch, post};
use kevyt_core::quantity::Mass;
use kevyt_service::Written;
use kevyt_service::stored::{Carried, LineId, LinkId, ListId, StoredWalker, WalkerId};
use kevyt_service::together::{LinkDraft, WalkerChange};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A walker as kept.
#[derive(Serialize, ToSchema)]
pub struct SeatOut {
    id: WalkerId,
    version: i32,
    name: String,
    body_mg: Option<i64>,
    shows_prices: bool,
}

/// A link that was made, and what opens it.
#[derive(Serialize, ToSchema)]
pub struct LinkMadeOut {
    #[serde(flatten)]
    link: LinkOut,
    /// The last part of the link's address, 64 hexadecimal digits: told this once, and drawn anew if the request is sent again.
    secret: String,
}

/// A seat to be taken.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct JoinIn {
    /// The last part of the link's address.
    secret: String,
}

/// Who carries lines.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CarryIn {
    moves: Vec<CarryMove>,
}

/// Who carries a line.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CarryMove {
    line: LineId,
    /// As it was read.
    version: i32,
    shared: bool,
    /// Null for its owner.
    walker: Option<WalkerId>,
}

/// Adds a walker to a list; the first time, its owner too.
#[utoipa::path(post, path = "/api/lists/{id}/walkers", tag = "lists", request_body = WalkerChange,
    responses((status = 201, body = SeatOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/walkers")]
pub async fn add(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<WalkerChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let asked = body.into_inner();
    app.write(caller, StatusCode::CREATED, move |w| w.add_walker(*id, &asked), SeatOut::from).await
}

/// Changes a walker.
#[utoipa::path(patch, path = "/api/lists/{id}/walkers/{walker}", tag = "lists", params(VersionQuery), request_body = WalkerChange,
    responses((status = 200, body = SeatOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/lists/{id}/walkers/{walker}")]
pub async fn change(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(ListId, WalkerId)>,
    query: Query<VersionQuery>,
    body: Json<WalkerChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let ((list, id), asked) = (path.into_inner(), body.into_inner());
    app.write(caller, StatusCode::OK, move |w| w.change_walker(list, id, query.version, &asked), SeatOut::from).await
}

/// Takes a walker off a list; one's own seat: leaves it.
#[utoipa::path(delete, path = "/api/lists/{id}/walkers/{walker}", tag = "lists",
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[delete("/lists/{id}/walkers/{walker}")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(ListId, WalkerId)>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, id) = path.into_inner();
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_walker(list, id), |()| ()).await
}

/// Makes a link that opens a list: to read it, or to join it.
#[utoipa::path(post, path = "/api/lists/{id}/links", tag = "lists", request_body = LinkDraft,
    responses((status = 201, body = LinkMadeOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/links")]
pub async fn make_link(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<LinkDraft>,
) -> Result<HttpResponse, ProblemDoc> {
    let (draft, list) = (body.into_inner(), *id);
    let written = app.written(DEADLINE, caller, move |w| w.make_link(list, &draft), LinkOut::from).await?;
    let link: LinkOut = serde_json::from_str(&written.body).map_err(ProblemDoc::internal)?;
    let id = link.id;
    let secret = app.run(move |services| services.draw_secret(caller, list, id)).await?;
    let made = LinkMadeOut { link, secret: secret.as_str().to_owned() };
    let body = serde_json::to_string(&made).map_err(ProblemDoc::internal)?;
    Ok(changed(StatusCode::CREATED, Written { body, ..written }))
}

/// Revokes a link.
#[utoipa::path(delete, path = "/api/lists/{id}/links/{link}", tag = "lists", responses((status = 204), (status = 404, body = ProblemDoc)))]
#[delete("/lists/{id}/links/{link}")]
pub async fn revoke_link(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(ListId, LinkId)>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, id) = path.into_inner();
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.revoke_link(list, id), |()| ()).await
}

/// Takes the seat that a link gives.
#[utoipa::path(post, path = "/api/joined", tag = "lists", request_body = JoinIn,
    responses((status = 200, body = ListOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/joined")]
pub async fn join(app: Data<App>, SignedIn(caller): SignedIn, body: Json<JoinIn>) -> Result<HttpResponse, ProblemDoc> {
    let secret = body.into_inner().secret;
    app.write(caller, StatusCode::OK, move |w| w.join(&secret), ListOut::joined).await
}

/// Says who carries lines, all or none.
#[utoipa::path(post, path = "/api/lists/{id}/carry", tag = "lists", request_body = CarryIn,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/carry")]
pub async fn carry(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<CarryIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let moves: Vec<_> = body
        .into_inner()
        .moves
        .into_iter()
        .map(|one| (one.line, one.version, Carried { shared: one.shared, by: one.walker }))
        .collect();
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.carry(*id, &moves), |()| ()).await
}

impl From<StoredWalker> for SeatOut {
    fn from(stored: StoredWalker) -> SeatOut {
        SeatOut {
            id: stored.id,
            version: stored.version,
            name: stored.value.name,
            body_mg: stored.value.body.map(Mass::mg),
            shows_prices: stored.value.shows_prices,
        }
    }
}
