//! `/api/lists/{id}/proposals`: what Kevyt proposes of its own.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::swaps::SwapOut;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, get, post};
use kevyt_service::Write;
use kevyt_service::proposals::{ProposalView, ProposalWhy};
use kevyt_service::stored::ListId;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Something that Kevyt proposes for a list.
#[derive(Serialize, ToSchema)]
#[schema(as = Proposal)]
pub struct ProposalLine {
    /// What it is taken up and silenced by.
    key: String,
    /// The thing that it is about.
    thing: String,
    /// What to do with it, and the reason.
    why: ProposalWhy,
    saving_mg: i64,
}

/// Which proposal.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ProposalIn {
    key: String,
}

/// What Kevyt proposes for a list, most grams first. Never what safety or medicine needs.
#[utoipa::path(get, path = "/api/lists/{id}/proposals", tag = "swaps",
    responses((status = 200, body = Vec<ProposalLine>), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/proposals")]
pub async fn of_list(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
) -> Result<Json<Vec<ProposalLine>>, ProblemDoc> {
    let proposals = app.run(move |services| services.proposals(caller, *id)).await?;
    let line = |view: ProposalView| ProposalLine {
        key: view.key,
        thing: view.thing,
        why: view.why,
        saving_mg: view.saving.mg(),
    };
    Ok(Json(proposals.into_iter().map(line).collect()))
}

/// Makes a swap of a proposal.
#[utoipa::path(post, path = "/api/lists/{id}/proposals/take", tag = "swaps", request_body = ProposalIn,
    responses((status = 201, body = SwapOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/proposals/take")]
pub async fn take(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<ProposalIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let made = move |w: &mut Write<'_>| w.take_proposal(*id, &body.key);
    app.write(caller, StatusCode::CREATED, made, |swap| SwapOut::from(&swap)).await
}

/// Silences a proposal for good. It can be undone from the history.
#[utoipa::path(post, path = "/api/lists/{id}/proposals/silence", tag = "swaps", request_body = ProposalIn,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/proposals/silence")]
pub async fn silence(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<ProposalIn>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.silence_proposal(*id, &body.key), |()| ()).await
}
