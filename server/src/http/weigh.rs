//! `/api/weigh`, `/api/weighings`, `/api/scale`: the Weigh step.

use super::App;
use super::gear::{GearOut, MakersOut};
use super::guard::SignedIn;
use super::kits::KitOut;
use super::problem::ProblemDoc;
use super::wire::WeighingOut;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, post, put};
use chrono::{DateTime, Datelike, Utc};
use kevyt_core::gear::{Band, Trust};
use kevyt_core::limits;
use kevyt_core::quantity::Mass;
use kevyt_service::Write;
use kevyt_service::stored::{GearId, KitId, ListId, WeighingId};
use kevyt_service::weigh::{Reading, TakeAwayDraft, Taken};
use kevyt_service::{InField, ServiceError};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// What the Weigh step shows, but for the live reading.
#[derive(Serialize, ToSchema)]
pub struct WeighOut {
    /// Things to weigh, the widest doubt first.
    queue: Vec<QueuedOut>,
    /// How far the total can be trusted now.
    now: TrustOut,
    /// How many weighings are foretold.
    foretold: usize,
    /// How far the total could be trusted after them.
    after: TrustOut,
    makers: MakersOut,
    /// What was weighed since the time asked for, newest first.
    taken: Vec<TakenOut>,
    kits: Vec<KitOut>,
}

/// A thing in the queue.
#[derive(Serialize, ToSchema)]
pub struct QueuedOut {
    gear: GearOut,
    /// Pieces that count.
    pieces: u32,
    /// Those that count by its own weight; the others are in a kit that counts as it was weighed.
    alone: u32,
    /// The lightest those may be, less the figure.
    low_mg: i64,
    /// The heaviest they may be, less the figure.
    high_mg: i64,
    /// When it was last weighed (UTC).
    #[schema(value_type = Option<String>)]
    weighed_at: Option<DateTime<Utc>>,
}

/// A total and how far to trust it. Bands are differences from the figure.
#[derive(Serialize, ToSchema)]
pub struct TrustOut {
    figure_mg: i64,
    /// Things of unknown weight: while there are any, the figure is "at least".
    unknown: usize,
    /// Everything wrong the same way.
    worst_low_mg: i64,
    worst_high_mg: i64,
    /// Errors that are independent of one another.
    likely_low_mg: i64,
    likely_high_mg: i64,
}

impl From<Trust> for TrustOut {
    fn from(trust: Trust) -> TrustOut {
        let ends = |band: Band| (band.low.mg(), band.high.mg());
        let ((worst_low_mg, worst_high_mg), (likely_low_mg, likely_high_mg)) = (ends(trust.worst), ends(trust.likely));
        let (figure_mg, unknown) = (trust.figure.mg(), trust.unknown);
        TrustOut { figure_mg, unknown, worst_low_mg, worst_high_mg, likely_low_mg, likely_high_mg }
    }
}

/// A weighing with what it was of.
#[derive(Serialize, ToSchema)]
pub struct TakenOut {
    weighing: WeighingOut,
    name: String,
    /// The maker's figure for one piece.
    claimed_mg: Option<i64>,
}

impl From<Taken> for TakenOut {
    fn from(taken: Taken) -> TakenOut {
        TakenOut {
            weighing: WeighingOut::from(&taken.record),
            name: taken.name,
            claimed_mg: taken.claimed.map(Mass::mg),
        }
    }
}

/// Whose queue, and what counts as taken.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WeighQuery {
    /// A list: what is carried on it. All gear at hand unless given.
    list: Option<ListId>,
    /// The beginning of the walker's day, as RFC 3339.
    #[param(value_type = String)]
    since: DateTime<Utc>,
}

/// A reading as it is taken.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReadingIn {
    /// What the scale shows for all pieces, as typed; a bare number is in the account's unit.
    total: String,
    /// What they lie in, if it was not tared; as typed.
    container: Option<String>,
    /// Pieces on the scale.
    #[serde(default = "one")]
    pieces: u32,
    /// The scale's step in milligrams; a gram unless given.
    step_mg: Option<i64>,
    /// Which scale.
    scale: Option<String>,
}

fn one() -> u32 {
    1
}

impl From<ReadingIn> for Reading {
    fn from(reading: ReadingIn) -> Reading {
        let ReadingIn { total, container, pieces, step_mg, scale } = reading;
        Reading { total, container, pieces, step_mg, scale }
    }
}

/// A corrected weighing.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CorrectionIn {
    /// What the scale really showed for all pieces, as typed.
    total: String,
}

/// A take-away weighing.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TakeAwayIn {
    /// The container, if it was not tared.
    #[serde(default)]
    container_mg: i64,
    /// Steady readings: everything first, then one after each piece.
    readings_mg: Vec<i64>,
    step_mg: i64,
}

impl From<TakeAwayIn> for TakeAwayDraft {
    fn from(draft: TakeAwayIn) -> TakeAwayDraft {
        TakeAwayDraft {
            container: Mass::from_mg(draft.container_mg),
            readings: draft.readings_mg.into_iter().map(Mass::from_mg).collect(),
            step: Mass::from_mg(draft.step_mg),
        }
    }
}

/// A take-away weighing as far as it has come.
#[derive(Serialize, ToSchema)]
pub struct TakeAwayOut {
    /// The pieces, in the order in which they were taken.
    pieces_mg: Vec<i64>,
    /// What is still on the scale, less the container; once everything is off, the closing error.
    left_over_mg: i64,
}

/// A take-away weighing and what each piece was.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveTakeAwayIn {
    weighing: TakeAwayIn,
    /// For each piece its thing.
    things: Vec<TakenPieceIn>,
    scale: Option<String>,
    /// What lies on the scale still and is no piece of these, where that is more than a step; less the container.
    left_mg: Option<i64>,
}

/// What a piece was.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TakenPieceIn {
    gear: GearId,
    /// How many pieces of it came off together.
    #[serde(default = "one")]
    count: u32,
}

/// The queue, what was taken, kits and the record of makers' figures.
#[utoipa::path(get, path = "/api/weigh", tag = "weigh", params(WeighQuery),
    responses((status = 200, body = WeighOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[get("/weigh")]
pub async fn page(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    query: Query<WeighQuery>,
) -> Result<Json<WeighOut>, ProblemDoc> {
    let since = query.since.naive_utc();
    if !(limits::YEARS.0..=limits::YEARS.1).contains(&since.year()) {
        let detail = format!(
            "{since} can't be when something was weighed. Name a time from {} to {}.",
            limits::YEARS.0,
            limits::YEARS.1
        );
        return Err(ServiceError::invalid("since", "out_of_range", detail).into());
    }
    let page = app.run(move |services| services.weigh_page(caller, query.list, since)).await?;
    let queue = page.queue.into_iter().map(|queued| QueuedOut {
        gear: queued.thing.into(),
        pieces: queued.pieces,
        alone: queued.alone,
        low_mg: queued.band.low.mg(),
        high_mg: queued.band.high.mg(),
        weighed_at: queued.weighed_at.map(|at| at.and_utc()),
    });
    Ok(Json(WeighOut {
        queue: queue.collect(),
        now: page.now.into(),
        foretold: page.after.0,
        after: page.after.1.into(),
        makers: MakersOut::from(&page.makers),
        taken: page.taken.into_iter().map(TakenOut::from).collect(),
        kits: page.kits.into_iter().map(KitOut::from).collect(),
    }))
}

/// Takes a reading for a thing: its weight from now on.
#[utoipa::path(post, path = "/api/gear/{id}/weighings", tag = "weigh", request_body = ReadingIn,
    responses((status = 201, body = GearOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/gear/{id}/weighings")]
pub async fn weigh_gear(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<GearId>,
    body: Json<ReadingIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let reading = body.into_inner().into();
    app.write(caller, StatusCode::CREATED, move |w| w.weigh_gear(*id, &reading), GearOut::from).await
}

/// Takes a reading for a kit.
#[utoipa::path(post, path = "/api/kits/{id}/weighings", tag = "weigh", request_body = ReadingIn,
    responses((status = 201, body = KitOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/kits/{id}/weighings")]
pub async fn weigh_kit(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<KitId>,
    body: Json<ReadingIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let reading = body.into_inner().into();
    app.write(caller, StatusCode::CREATED, move |w| w.weigh_kit(*id, &reading), KitOut::from).await
}

/// A weight as it is typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TypedIn {
    /// A bare number is in grams or ounces, as the account has it.
    typed: String,
}

/// A weight that was typed.
#[derive(Serialize, ToSchema)]
pub struct TypedOut {
    mass_mg: i64,
}

/// Reads a weight as it is typed; nothing is written.
#[utoipa::path(post, path = "/api/weigh/read", tag = "weigh", request_body = TypedIn,
    responses((status = 200, body = TypedOut), (status = 422, body = ProblemDoc)))]
#[post("/weigh/read")]
pub async fn read(SignedIn(caller): SignedIn, body: Json<TypedIn>) -> Result<Json<TypedOut>, ProblemDoc> {
    let mass = Mass::parse(&body.typed, caller.preferences.mass.table_unit()).in_field("typed")?;
    Ok(Json(TypedOut { mass_mg: mass.mg() }))
}

/// Works out the pieces of a take-away weighing; nothing is written.
#[utoipa::path(post, path = "/api/weigh/take-away", tag = "weigh", request_body = TakeAwayIn,
    responses((status = 200, body = TakeAwayOut), (status = 422, body = ProblemDoc)))]
#[post("/weigh/take-away")]
pub async fn take_away(_: SignedIn, body: Json<TakeAwayIn>) -> Result<Json<TakeAwayOut>, ProblemDoc> {
    let (pieces, left_over) = TakeAwayDraft::from(body.into_inner()).read()?;
    let pieces_mg = pieces.into_iter().map(|piece| piece.mass.mg()).collect();
    Ok(Json(TakeAwayOut { pieces_mg, left_over_mg: left_over.mg() }))
}

/// Takes the pieces of a take-away weighing, each for its thing, all or none.
#[utoipa::path(post, path = "/api/weigh/take-away/weighings", tag = "weigh", request_body = SaveTakeAwayIn,
    responses((status = 201, body = Vec<GearOut>), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/weigh/take-away/weighings")]
pub async fn save_take_away(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Json<SaveTakeAwayIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let SaveTakeAwayIn { weighing, things, scale, left_mg } = body.into_inner();
    let left = left_mg.map(Mass::from_mg);
    let draft = TakeAwayDraft::from(weighing);
    let things: Vec<(GearId, u32)> = things.into_iter().map(|piece| (piece.gear, piece.count)).collect();
    let take = move |w: &mut Write<'_>| w.take_away(&draft, &things, scale.as_deref(), left);
    app.write(caller, StatusCode::CREATED, take, |things| things.into_iter().map(GearOut::from).collect::<Vec<_>>())
        .await
}

/// The weighings of a thing, newest first.
#[utoipa::path(get, path = "/api/gear/{id}/weighings", tag = "weigh",
    responses((status = 200, body = Vec<WeighingOut>), (status = 404, body = ProblemDoc)))]
#[get("/gear/{id}/weighings")]
pub async fn of_gear(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<GearId>,
) -> Result<Json<Vec<WeighingOut>>, ProblemDoc> {
    let records = app.run(move |services| services.weighings(caller, *id)).await?;
    Ok(Json(records.iter().map(WeighingOut::from).collect()))
}

/// Corrects a weighing.
#[utoipa::path(put, path = "/api/weighings/{id}", tag = "weigh", request_body = CorrectionIn,
    responses((status = 200, body = WeighingOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/weighings/{id}")]
pub async fn correct(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<WeighingId>,
    body: Json<CorrectionIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let total = body.into_inner().total;
    let correct = move |w: &mut Write<'_>| w.correct_weighing(*id, &total);
    app.write(caller, StatusCode::OK, correct, |record| WeighingOut::from(&record)).await
}

/// Takes a weighing out: the one before it counts again, or the maker's figure.
#[utoipa::path(delete, path = "/api/weighings/{id}", tag = "weigh", responses((status = 204), (status = 404, body = ProblemDoc)))]
#[delete("/weighings/{id}")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<WeighingId>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_weighing(*id), |()| ()).await
}
