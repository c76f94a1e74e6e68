//! `/api/lists/{id}/proposals`: what Kevyt proposes of its own.

use super::problem::ProblemDoc;
use super::swaps::SwapOut;
use super::{App, Caller};
use crate::service::Write;
use crate::service::proposals::Told;
use crate::service::sheet::SheetLine;
use crate::store::id::{LineId, ListId};
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, get, post};
use kevyt_core::gear::Typical;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Something that Kevyt proposes for a list.
#[derive(Serialize, ToSchema)]
#[schema(as = Proposal)]
pub struct ProposalLine {
    /// What it is taken up and silenced by.
    key: String,
    /// What to do.
    name: String,
    /// The reason, in a sentence.
    why: String,
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
pub async fn of_list(app: Data<App>, caller: Caller, id: Path<ListId>) -> Result<Json<Vec<ProposalLine>>, ProblemDoc> {
    let told = app.run(move |services| services.proposals(caller, *id)).await?;
    let line = |told: Told| ProposalLine { key: told.key, name: told.name, why: told.why, saving_mg: told.saving.mg() };
    Ok(Json(told.into_iter().map(line).collect()))
}

/// Something that is heavy for its kind. Figures of kinds are typical: made up, and plausible.
#[derive(Serialize, ToSchema)]
#[schema(as = Lighter)]
pub struct LighterOut {
    line: LineId,
    name: String,
    unit_mg: i64,
    /// The kind's name.
    kind: &'static str,
    /// What a light one weighs and costs, in whole euros.
    light: Typical,
    /// What a usual one does.
    usual: Typical,
    /// What light ones in the place of all carried pieces would save.
    saving_mg: i64,
}

/// Where light is to be had: what the caller carries of a list that weighs at least a quarter more than a light one of its kind, most grams
/// first. Places to look for swaps, never swaps.
#[utoipa::path(get, path = "/api/lists/{id}/lighter", tag = "swaps",
    responses((status = 200, body = Vec<LighterOut>), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/lighter")]
pub async fn lighter(app: Data<App>, caller: Caller, id: Path<ListId>) -> Result<Json<Vec<LighterOut>>, ProblemDoc> {
    let found = app.run(move |services| services.lighter(caller, *id)).await?;
    let out = found.into_iter().map(|(SheetLine { line, .. }, lighter)| {
        let gear = &line.value.gear.value;
        LighterOut {
            line: line.id,
            name: gear.name.as_str().to_owned(),
            unit_mg: gear.weight.as_ref().map_or(0, |weight| weight.unit.mg()),
            kind: gear.identity.kind.map_or("", |kind| kind.name),
            light: lighter.light,
            usual: lighter.usual,
            saving_mg: lighter.saving.mg(),
        }
    });
    Ok(Json(out.collect()))
}

/// Makes a swap of a proposal.
#[utoipa::path(post, path = "/api/lists/{id}/proposals/take", tag = "swaps", request_body = ProposalIn,
    responses((status = 201, body = SwapOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/proposals/take")]
pub async fn take(
    app: Data<App>,
    caller: Caller,
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
    caller: Caller,
    id: Path<ListId>,
    body: Json<ProposalIn>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.silence_proposal(*id, &body.key), |()| ()).await
}
