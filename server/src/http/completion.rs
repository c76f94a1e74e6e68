//! `/api/swaps/{id}/done`: swaps that are done for good.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::swaps::SwapOut;
use super::wire::VersionQuery;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, post};
use kevyt_service::Write;
use kevyt_service::stored::SwapId;
use kevyt_service::swaps::Completion;

/// Does a swap: what goes on becomes gear to be weighed, what comes off is off the list.
#[utoipa::path(post, path = "/api/swaps/{id}/done", tag = "swaps", params(VersionQuery), request_body = Completion,
    responses((status = 200, body = SwapOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/swaps/{id}/done")]
pub async fn do_it(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<SwapId>,
    query: Query<VersionQuery>,
    body: Json<Completion>,
) -> Result<HttpResponse, ProblemDoc> {
    let done = move |w: &mut Write<'_>| w.do_swap(*id, query.version, &body);
    app.write(caller, StatusCode::OK, done, |swap| SwapOut::from(&swap)).await
}

/// Takes back that a swap was done: what came off is on the list again, what went on is out of the inventory.
#[utoipa::path(delete, path = "/api/swaps/{id}/done", tag = "swaps", params(VersionQuery),
    responses((status = 200, body = SwapOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[delete("/swaps/{id}/done")]
pub async fn undo_it(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<SwapId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::OK, move |w| w.undo_swap(*id, query.version), |swap| SwapOut::from(&swap)).await
}
