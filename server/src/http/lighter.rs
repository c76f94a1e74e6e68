//! `/api/lists/{id}/lighter` and `/api/typical/{kind}`: where light is to be had, and what light things of a kind weigh and cost.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, delete, get, put};
use kevyt_core::gear::Typical;
use kevyt_service::Write;
use kevyt_service::account::TypicalFigure;
use kevyt_service::lighter::{Heavy, TypedTypical};
use kevyt_service::stored::{LineId, ListId};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Something that is heavy for its kind. Figures of kinds are typical: made up, and plausible.
#[derive(Serialize, ToSchema)]
#[schema(as = Lighter)]
pub struct LighterOut {
    line: LineId,
    name: String,
    unit_mg: i64,
    /// The kind's key.
    kind: &'static str,
    /// The kind's name.
    kind_name: &'static str,
    /// What a light one weighs and costs, in whole euros.
    light: Typical,
    /// What you have found instead.
    own: Option<TypicalFigure>,
    /// What a usual one does.
    usual: Typical,
    /// What light ones in the place of all carried pieces would save.
    saving_mg: i64,
}

/// What light things of a kind weigh and cost, as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TypicalIn {
    /// What one weighs; a bare number is in grams or ounces.
    weight: String,
    /// What one costs, in the account's currency; empty if nobody knows.
    #[serde(default)]
    price: String,
}

/// Where light is to be had: what the caller carries of a list that weighs at least a quarter more than a light one of its kind, most grams
/// first. Places to look for swaps, never swaps.
#[utoipa::path(get, path = "/api/lists/{id}/lighter", tag = "swaps",
    responses((status = 200, body = Vec<LighterOut>), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/lighter")]
pub async fn of_list(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
) -> Result<Json<Vec<LighterOut>>, ProblemDoc> {
    let found = app.run(move |services| services.lighter(caller, *id)).await?;
    let out = found.into_iter().filter_map(|Heavy { line, lighter, own }| {
        let gear = &line.line.value.gear.value;
        let [light, ..] = lighter.kind.typical?;
        Some(LighterOut {
            line: line.line.id,
            name: gear.name.as_str().to_owned(),
            unit_mg: gear.weight.as_ref().map_or(0, |weight| weight.unit.mg()),
            kind: lighter.kind.key,
            kind_name: lighter.kind.name,
            light,
            own,
            usual: lighter.usual,
            saving_mg: lighter.saving.mg(),
        })
    });
    Ok(Json(out.collect()))
}

/// Says what light things of a kind weigh and cost, in the place of the typical figures.
#[utoipa::path(put, path = "/api/typical/{kind}", tag = "swaps", request_body = TypicalIn,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/typical/{kind}")]
pub async fn say(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    kind: Path<String>,
    body: Json<TypicalIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let TypicalIn { weight, price } = body.into_inner();
    let typed = TypedTypical { weight, price };
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.set_typical(&kind, Some(&typed)), |()| ()).await
}

/// Goes back to the typical figures of a kind.
#[utoipa::path(delete, path = "/api/typical/{kind}", tag = "swaps",
    responses((status = 204), (status = 404, body = ProblemDoc)))]
#[delete("/typical/{kind}")]
pub async fn unsay(app: Data<App>, SignedIn(caller): SignedIn, kind: Path<String>) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w: &mut Write<'_>| w.set_typical(&kind, None), |()| ()).await
}
