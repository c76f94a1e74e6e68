//! `/api/lists/{id}/cautions`: those that are acknowledged.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, post};
use kevyt_service::Write;
use kevyt_service::stored::ListId;
use serde::Deserialize;
use utoipa::ToSchema;

/// A caution that is acknowledged, or told again.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KnowIn {
    /// What it is acknowledged by, as its list's sheet has it.
    key: String,
    /// Whether it is acknowledged; false tells it again.
    known: bool,
}

/// Acknowledges a caution as it stands now: it folds to a line until its figure gets worse or something else stands behind it. Its owner's to
/// say. It can be undone from the history.
#[utoipa::path(post, path = "/api/lists/{id}/cautions", tag = "lists", request_body = KnowIn,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/cautions")]
pub async fn know(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<KnowIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let know = move |w: &mut Write<'_>| w.know_caution(*id, &body.key, body.known);
    app.write(caller, StatusCode::NO_CONTENT, know, |()| ()).await
}
