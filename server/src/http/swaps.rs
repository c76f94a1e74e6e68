//! `/api/swaps` and the swaps of a list.

use super::App;
use super::candidates::CandidateOut;
use super::done::DoneOut;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::quick_line::{ChipOut, chips, line_within_limit};
use super::wire::VersionQuery;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, post, put};
use kevyt_core::gear::WeightSource;
use kevyt_core::list::Place;
use kevyt_core::swap::{SwapKind, SwapState, ordered_from, parcel};
use kevyt_service::Write;
use kevyt_service::stored::{ListId, SwapId};
use kevyt_service::swaps::{FullSwap, RemovalDraft, SwapDraft, Unavailable};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A swap with both its sides.
#[derive(Serialize, ToSchema)]
#[schema(as = Swap)]
pub struct SwapOut {
    id: SwapId,
    version: i32,
    list: ListId,
    name: String,
    kind: SwapKind,
    state: SwapState,
    remove: Vec<RemovalDraft>,
    add: Vec<AdditionOut>,
    delivery_minor: i64,
    /// What its delivery is shared by, if what goes on was all seen at one place: of swaps with the same, made together, the dearest delivery
    /// is paid.
    #[serde(skip_serializing_if = "Option::is_none")]
    parcel: Option<String>,
    /// What the removed gear brings, before fees.
    resale_minor: i64,
    /// Whether that counts though another list needs the gear.
    sells_needed: bool,
    /// Other lists that could not do without what comes off; while there are any, the resale counts only if `sells_needed`.
    needed_by: Vec<String>,
    /// What that brings as it counts: after fees, or nothing.
    brings_minor: i64,
    /// Tenths of an hour of making.
    tenth_hours: i64,
    requires: Vec<SwapId>,
    excludes: Vec<SwapId>,
    /// Why it can't be made, if it can't: what it takes off or requires is gone.
    unavailable: Option<Unavailable>,
    /// What was done, if it was made for good.
    #[serde(skip_serializing_if = "Option::is_none")]
    done: Option<DoneOut>,
}

/// Pieces that go on.
#[derive(Serialize, ToSchema)]
#[schema(as = Addition)]
pub struct AdditionOut {
    candidate: CandidateOut,
    qty: u32,
    place: Place,
}

/// Open, pinned or ruled out.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StateIn {
    state: SwapState,
}

/// The swaps of a list, oldest first.
#[utoipa::path(get, path = "/api/lists/{id}/swaps", tag = "swaps", responses((status = 200, body = Vec<SwapOut>), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/swaps")]
pub async fn of_list(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
) -> Result<Json<Vec<SwapOut>>, ProblemDoc> {
    let swaps = app.run(move |services| services.swaps(caller, *id)).await?;
    Ok(Json(swaps.iter().map(SwapOut::from).collect()))
}

/// Makes a swap on a list.
#[utoipa::path(post, path = "/api/lists/{id}/swaps", tag = "swaps", request_body = SwapDraft,
    responses((status = 201, body = SwapOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/swaps")]
pub async fn add(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<SwapDraft>,
) -> Result<HttpResponse, ProblemDoc> {
    let draft = body.into_inner();
    app.write(caller, StatusCode::CREATED, move |w| w.add_swap(*id, &draft), |swap| SwapOut::from(&swap)).await
}

/// A swap in one line.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SwapLineIn {
    /// At most 400 characters.
    line: String,
    /// Where a weight comes from of which the line does not say it; the maker unless given.
    source: Option<WeightSource>,
}

/// A swap line as it was understood.
#[derive(Serialize, ToSchema)]
pub struct SwapLineOut {
    /// What goes on, in stretches.
    chips: Vec<ChipOut>,
    /// Names of what comes off.
    gone: Vec<String>,
    /// What is missing, or could mean several things; null if the swap can be made as it stands.
    question: Option<String>,
    /// The swap, to be made as it is or with changes.
    draft: SwapDraft,
}

/// Reads a swap line against what is on a list, without making anything.
#[utoipa::path(post, path = "/api/lists/{id}/swaps/read", tag = "swaps", request_body = SwapLineIn,
    responses((status = 200, body = SwapLineOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/swaps/read")]
pub async fn read_line(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<SwapLineIn>,
) -> Result<Json<SwapLineOut>, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let source = body.source.unwrap_or(WeightSource::Maker);
    let read = app.run(move |services| services.read_swap_line(caller, *id, &line, source)).await?;
    Ok(Json(SwapLineOut {
        chips: read.line.add.as_ref().map(|goes_on| chips(goes_on, caller)).unwrap_or_default(),
        gone: read.gone,
        question: read.line.question,
        draft: read.draft,
    }))
}

/// Rows of a spreadsheet.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SwapRowsIn {
    /// Rows parted by line ends, cells by tabs; at most 100 rows.
    text: String,
}

/// The swap lines of rows, each to be read like one that is typed.
#[derive(Serialize, ToSchema)]
pub struct SwapRowsOut {
    lines: Vec<String>,
}

/// Turns rows of a spreadsheet into swap lines, without making anything.
#[utoipa::path(post, path = "/api/lists/{id}/swaps/rows", tag = "swaps", request_body = SwapRowsIn,
    responses((status = 200, body = SwapRowsOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/lists/{id}/swaps/rows")]
pub async fn read_rows(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<SwapRowsIn>,
) -> Result<Json<SwapRowsOut>, ProblemDoc> {
    let SwapRowsIn { text } = body.into_inner();
    Ok(Json(SwapRowsOut { lines: app.run(move |services| services.swap_lines(caller, *id, &text)).await? }))
}

/// One swap.
#[utoipa::path(get, path = "/api/swaps/{id}", tag = "swaps", responses((status = 200, body = SwapOut), (status = 404, body = ProblemDoc)))]
#[get("/swaps/{id}")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn, id: Path<SwapId>) -> Result<Json<SwapOut>, ProblemDoc> {
    Ok(Json(SwapOut::from(&app.run(move |services| services.swap(caller, *id)).await?)))
}

/// Writes a swap and its candidates.
#[utoipa::path(put, path = "/api/swaps/{id}", tag = "swaps", params(VersionQuery), request_body = SwapDraft,
    responses((status = 200, body = SwapOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/swaps/{id}")]
pub async fn write(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<SwapId>,
    query: Query<VersionQuery>,
    body: Json<SwapDraft>,
) -> Result<HttpResponse, ProblemDoc> {
    let draft = body.into_inner();
    let write = move |w: &mut Write<'_>| w.write_swap(*id, query.version, &draft);
    app.write(caller, StatusCode::OK, write, |swap| SwapOut::from(&swap)).await
}

/// Pins, rules out or opens a swap.
#[utoipa::path(put, path = "/api/swaps/{id}/state", tag = "swaps", params(VersionQuery), request_body = StateIn,
    responses((status = 200, body = SwapOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[put("/swaps/{id}/state")]
pub async fn set_state(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<SwapId>,
    query: Query<VersionQuery>,
    body: Json<StateIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let state = body.state;
    let set = move |w: &mut Write<'_>| w.set_swap_state(*id, query.version, state);
    app.write(caller, StatusCode::OK, set, |swap| SwapOut::from(&swap)).await
}

/// Removes a swap. It can be brought back.
#[utoipa::path(delete, path = "/api/swaps/{id}", tag = "swaps", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/swaps/{id}")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<SwapId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.remove_swap(*id, query.version), |()| ()).await
}

impl From<&FullSwap> for SwapOut {
    fn from(full: &FullSwap) -> SwapOut {
        let record = &full.swap.value;
        let comes_off = record.remove.iter().map(|&(line, qty, from)| RemovalDraft { line, qty, from });
        let goes_on = record.add.iter().zip(&full.candidates).map(|(&(_, qty, place), candidate)| AdditionOut {
            candidate: candidate.into(),
            qty,
            place,
        });
        SwapOut {
            id: full.swap.id,
            version: full.swap.version,
            list: record.list,
            name: record.name.as_str().to_owned(),
            kind: record.kind,
            state: record.state,
            remove: comes_off.collect(),
            add: goes_on.collect(),
            delivery_minor: record.delivery.minor(),
            parcel: ordered_from(full.candidates.iter().map(|candidate| &candidate.value))
                .and_then(|place| parcel(&place, record.delivery)),
            resale_minor: record.resale.minor(),
            sells_needed: record.sells_needed,
            needed_by: full.resale.needed_by.clone(),
            brings_minor: full.resale.brings.minor(),
            tenth_hours: record.tenth_hours,
            requires: record.requires.clone(),
            excludes: record.excludes.clone(),
            unavailable: full.unavailable.clone(),
            done: record.done.as_ref().map(DoneOut::from),
        }
    }
}
