//! `/api/lists/{id}/after`: a list as it would stand after some swaps; and plans that are kept by name.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::sheet::CautionOut;
use super::wire::VersionQuery;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, post};
use kevyt_core::caution::Caution;
use kevyt_core::quantity::Mass;
use kevyt_service::after::{After, CarriedAfter};
use kevyt_service::stored::{KeptPlan, KeptPlanId, ListId, Stored, SwapId};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Which swaps.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AfterIn {
    /// Swaps of the list, each once, to be done in this order.
    swaps: Vec<SwapId>,
}

/// A list before and after some swaps.
#[derive(Serialize, ToSchema)]
#[schema(as = After)]
pub struct AfterOut {
    base_before_mg: i64,
    base_after_mg: i64,
    everything_before_mg: i64,
    everything_after_mg: i64,
    /// What the caller carries after, by system.
    carried: Vec<CarriedAfterOut>,
    /// Jobs of which the list does another amount after.
    jobs: Vec<JobMoved>,
    /// Names of the things by position, as cautions name them.
    names_before: Vec<String>,
    names_after: Vec<String>,
    /// Cautions that are raised, or worse, as they are after; null until somebody says what the trip is.
    raised: Option<Vec<CautionMoved>>,
    /// Cautions that are quieted, or less, as they were before.
    quieted: Vec<CautionMoved>,
}

/// A thing that is carried after some swaps.
#[derive(Serialize, ToSchema)]
#[schema(as = CarriedAfter)]
pub struct CarriedAfterOut {
    /// The line, or the candidate that goes on.
    id: String,
    name: String,
    /// The key of its system.
    system: &'static str,
    /// Pieces that are carried.
    pieces: u32,
    /// What they weigh; null if nobody knows.
    mg: Option<i64>,
}

/// A job of which a list does another amount.
#[derive(Serialize, ToSchema)]
pub struct JobMoved {
    job: String,
    before: i64,
    after: i64,
    /// What the trip and the things ask of it after.
    asked: i64,
}

/// A caution that is raised or quieted.
#[derive(Serialize, ToSchema)]
pub struct CautionMoved {
    caution: CautionOut,
    /// The same on the other side, if it is there too: less before, or less after.
    other: Option<CautionOut>,
}

/// A plan to be kept.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeepPlanIn {
    name: String,
    swaps: Vec<SwapId>,
}

/// A plan that was kept.
#[derive(Serialize, ToSchema)]
#[schema(as = KeptPlan)]
pub struct KeptPlanOut {
    id: KeptPlanId,
    version: i32,
    name: String,
    /// Its swaps; some may have been removed since.
    swaps: Vec<SwapId>,
    /// UTC.
    kept_at: String,
}

/// A list as it would stand after some of its swaps. Nothing is changed.
#[utoipa::path(post, path = "/api/lists/{id}/after", tag = "plan", request_body = AfterIn,
    responses((status = 200, body = AfterOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/after")]
pub async fn read(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<AfterIn>,
) -> Result<Json<AfterOut>, ProblemDoc> {
    let read = app.run(move |services| services.read_after(caller, *id, &body.swaps)).await?;
    Ok(Json(app.work_out(move |_| read.work_out()).await?.into()))
}

/// The kept plans of a list, oldest first.
#[utoipa::path(get, path = "/api/lists/{id}/kept-plans", tag = "plan",
    responses((status = 200, body = Vec<KeptPlanOut>), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/kept-plans")]
pub async fn kept(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
) -> Result<Json<Vec<KeptPlanOut>>, ProblemDoc> {
    let kept = app.run(move |services| services.kept_plans(caller, *id)).await?;
    Ok(Json(kept.into_iter().map(KeptPlanOut::from).collect()))
}

/// Keeps a plan by name.
#[utoipa::path(post, path = "/api/lists/{id}/kept-plans", tag = "plan", request_body = KeepPlanIn,
    responses((status = 201, body = KeptPlanOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/kept-plans")]
pub async fn keep(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<KeepPlanIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let KeepPlanIn { name, swaps } = body.into_inner();
    app.write(caller, StatusCode::CREATED, move |w| w.keep_plan(*id, &name, &swaps), KeptPlanOut::from).await
}

/// Removes a kept plan. It can be brought back.
#[utoipa::path(delete, path = "/api/kept-plans/{id}", tag = "plan", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/kept-plans/{id}")]
pub async fn remove_kept(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<KeptPlanId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_kept_plan(*id, query.version), |()| ()).await
}

impl From<After> for AfterOut {
    fn from(after: After) -> AfterOut {
        let moved = |(caution, other): (Caution, Option<Caution>)| CautionMoved {
            caution: CautionOut::plain(caution),
            other: other.map(CautionOut::plain),
        };
        let (before, then) = after.totals;
        AfterOut {
            base_before_mg: before.base.mg(),
            base_after_mg: then.base.mg(),
            everything_before_mg: before.everything.mg(),
            everything_after_mg: then.everything.mg(),
            carried: after.carried.into_iter().map(CarriedAfterOut::from).collect(),
            jobs: after
                .jobs
                .into_iter()
                .map(|(job, before, after, asked)| JobMoved { job: job.as_str().to_owned(), before, after, asked })
                .collect(),
            names_before: after.names.0,
            names_after: after.names.1,
            raised: after.raised.map(|raised| raised.into_iter().map(moved).collect()),
            quieted: after.quieted.into_iter().map(moved).collect(),
        }
    }
}

impl From<CarriedAfter> for CarriedAfterOut {
    fn from(CarriedAfter { id, name, system, pieces, mass }: CarriedAfter) -> CarriedAfterOut {
        CarriedAfterOut { id, name, system: system.key(), pieces, mg: mass.map(Mass::mg) }
    }
}

impl From<Stored<KeptPlanId, KeptPlan>> for KeptPlanOut {
    fn from(stored: Stored<KeptPlanId, KeptPlan>) -> KeptPlanOut {
        KeptPlanOut {
            id: stored.id,
            version: stored.version,
            name: stored.value.name.as_str().to_owned(),
            swaps: stored.value.swaps,
            kept_at: stored.value.kept_at.and_utc().to_rfc3339(),
        }
    }
}
