//! `/api/changes`: the change log.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, get, post};
use chrono::{DateTime, Utc};
use kevyt_service::stored::{About, Change, ChangeId, Entry, GearId, ListId, Which};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// The most changes of one page.
const MOST: u32 = 200;

/// Something that was done.
#[derive(Serialize, ToSchema)]
#[schema(as = Change)]
pub struct ChangeOut {
    id: ChangeId,
    /// What.
    entry: Entry,
    /// When (UTC).
    #[schema(value_type = String)]
    at: DateTime<Utc>,
    /// When it was undone (UTC); null if it stands.
    #[schema(value_type = Option<String>)]
    undone_at: Option<DateTime<Utc>>,
}

/// Which changes.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ChangesQuery {
    /// Older than this one.
    before: Option<ChangeId>,
    /// That touched this list or anything on it.
    list: Option<ListId>,
    /// What they are about: gear, lists, swaps, trips or settings.
    about: Option<About>,
    /// Rows, 1 to 200; 50 unless given.
    limit: Option<u32>,
}

impl From<Change> for ChangeOut {
    fn from(change: Change) -> ChangeOut {
        ChangeOut {
            id: change.id,
            entry: change.entry,
            at: change.changed_at.and_utc(),
            undone_at: change.undone_at.map(|at| at.and_utc()),
        }
    }
}

fn out(changes: Vec<Change>) -> Json<Vec<ChangeOut>> {
    Json(changes.into_iter().map(ChangeOut::from).collect())
}

/// What was done, newest first.
#[utoipa::path(get, path = "/api/changes", tag = "history", params(ChangesQuery), responses((status = 200, body = Vec<ChangeOut>)))]
#[get("/changes")]
pub async fn page(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    query: Query<ChangesQuery>,
) -> Result<Json<Vec<ChangeOut>>, ProblemDoc> {
    let limit = query.limit.unwrap_or(50).clamp(1, MOST);
    let ChangesQuery { before, list, about, .. } = query.into_inner();
    let which = Which { of: None, list, about, before };
    Ok(out(app.run(move |services| services.changes(caller, which, limit)).await?))
}

/// What was done to one thing, newest first, removed things too.
#[utoipa::path(get, path = "/api/gear/{id}/changes", tag = "history", responses((status = 200, body = Vec<ChangeOut>)))]
#[get("/gear/{id}/changes")]
pub async fn of_gear(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<GearId>,
) -> Result<Json<Vec<ChangeOut>>, ProblemDoc> {
    let which = Which { of: Some((*id).into()), ..Which::default() };
    Ok(out(app.run(move |services| services.changes(caller, which, MOST)).await?))
}

/// Takes a change back, if nothing that it touched has been changed since.
#[utoipa::path(post, path = "/api/changes/{id}/undo", tag = "history",
    responses((status = 200, body = ChangeOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc),
        (status = 422, body = ProblemDoc)))]
#[post("/changes/{id}/undo")]
pub async fn undo(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ChangeId>) -> Result<HttpResponse, ProblemDoc> {
    app.write_much(caller, StatusCode::OK, move |w| w.undo(*id), ChangeOut::from).await
}
