//! `/api/kits`.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::wire::{VersionQuery, WeighingOut, WeightOut};
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, post, put};
use kevyt_core::quantity::Mass;
use kevyt_service::kits::{KitDraft, KitView};
use kevyt_service::stored::{GearId, KitId};
use serde::Serialize;
use utoipa::ToSchema;

/// Things weighed together.
#[derive(Serialize, ToSchema)]
#[schema(as = Kit)]
pub struct KitOut {
    id: KitId,
    version: i32,
    name: String,
    parts: Vec<PartOut>,
    /// Its own newest weighing.
    own: Option<WeighingOut>,
    /// The sum of the parts that are known.
    parts_mg: i64,
    /// Parts without a figure of their own.
    unknown: usize,
    /// What counts: its own weighing or the sum.
    figure_mg: i64,
    /// Whether its own weighing counts: newer than every weighing of a part, or a part is unknown.
    own_counts: bool,
    /// Its own weighing less the sum, where every part was weighed.
    difference_mg: Option<i64>,
    /// The known parts weigh more than the kit: one of the figures is wrong.
    contradicts: bool,
}

/// A part of a kit.
#[derive(Serialize, ToSchema)]
pub struct PartOut {
    gear: GearId,
    name: String,
    count: u32,
    weight: Option<WeightOut>,
}

impl From<KitView> for KitOut {
    fn from(view: KitView) -> KitOut {
        let counts = view.kit.value.parts.iter().map(|part| part.1);
        let parts = view.things.iter().zip(counts).map(|(thing, count)| PartOut {
            gear: thing.id,
            name: thing.value.name.as_str().to_owned(),
            count,
            weight: thing.value.weight.as_ref().map(WeightOut::from),
        });
        KitOut {
            id: view.kit.id,
            version: view.kit.version,
            name: view.kit.value.name.as_str().to_owned(),
            parts: parts.collect(),
            own: view.own.as_ref().map(WeighingOut::from),
            parts_mg: view.figures.parts.mg(),
            unknown: view.figures.unknown,
            figure_mg: view.figures.figure.mg(),
            own_counts: view.figures.own_counts,
            difference_mg: view.figures.difference.map(Mass::mg),
            contradicts: view.figures.contradicts,
        }
    }
}

/// All kits, by name.
#[utoipa::path(get, path = "/api/kits", tag = "kits", responses((status = 200, body = Vec<KitOut>)))]
#[get("/kits")]
pub async fn all(app: Data<App>, SignedIn(caller): SignedIn) -> Result<Json<Vec<KitOut>>, ProblemDoc> {
    let kits = app.run(move |services| services.kits(caller)).await?;
    Ok(Json(kits.into_iter().map(KitOut::from).collect()))
}

/// Makes a kit.
#[utoipa::path(post, path = "/api/kits", tag = "kits", request_body = KitDraft,
    responses((status = 201, body = KitOut), (status = 422, body = ProblemDoc)))]
#[post("/kits")]
pub async fn add(app: Data<App>, SignedIn(caller): SignedIn, body: Json<KitDraft>) -> Result<HttpResponse, ProblemDoc> {
    let draft = body.into_inner();
    app.write(caller, StatusCode::CREATED, move |w| w.add_kit(&draft), KitOut::from).await
}

/// Rewrites a kit.
#[utoipa::path(put, path = "/api/kits/{id}", tag = "kits", params(VersionQuery), request_body = KitDraft,
    responses((status = 200, body = KitOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/kits/{id}")]
pub async fn change(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<KitId>,
    query: Query<VersionQuery>,
    body: Json<KitDraft>,
) -> Result<HttpResponse, ProblemDoc> {
    let draft = body.into_inner();
    app.write(caller, StatusCode::OK, move |w| w.change_kit(*id, query.version, &draft), KitOut::from).await
}

/// Takes a kit apart; its things stay.
#[utoipa::path(delete, path = "/api/kits/{id}", tag = "kits", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/kits/{id}")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<KitId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_kit(*id, query.version), |()| ()).await
}
