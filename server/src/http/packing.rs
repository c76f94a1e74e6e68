//! `/api/lists/{id}/packing`: a list as it is packed.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::wire::LoadedOut;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, delete, get, patch, put};
use kevyt_core::gear::Band;
use kevyt_core::pack::{Explained, Noted, Reconciled, Task, Why, Zone};
use kevyt_service::packing::{PackChange, Packing, PackingChange};
use kevyt_service::stored::{LineId, ListId};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A list as it is packed by the caller.
#[derive(Serialize, ToSchema)]
#[schema(as = Packing)]
pub struct PackingOut {
    list: ListId,
    /// What they carry and wear.
    things: Vec<PackedOut>,
    /// What the packs hold, in millilitres; 0 if nobody knows.
    room_ml: i64,
    zones: Vec<ZoneOut>,
    to_do: Vec<ToDoOut>,
    /// What the walker has written down to do.
    noted: Vec<Noted>,
    /// What was forgotten when the list was packed for a trip last, and is not in now: positions in `things`.
    forgotten: Vec<usize>,
    /// What the scale shows, as typed; empty for nothing.
    reading: String,
    /// What it shows of the walker alone.
    of_me: String,
    /// What safety or medicine needs and is not in: positions in `things`.
    missing: Vec<usize>,
    /// The reading against the list, if there is one.
    reconciled: Option<ReconciledOut>,
}

/// A thing as it is packed.
#[derive(Serialize, ToSchema)]
#[schema(as = PackedThing)]
pub struct PackedOut {
    line: LineId,
    name: String,
    /// Pieces in the pack or on the walker.
    pieces: i64,
    /// What they weigh; null if nobody knows.
    mass_mg: Option<i64>,
    /// Where it goes; null for the pack itself and what stays home.
    zone: Option<Zone>,
    /// Whether that is Kevyt's proposal.
    proposed: bool,
    is_in: bool,
}

/// A zone.
#[derive(Serialize, ToSchema)]
#[schema(as = PackZone)]
pub struct ZoneOut {
    zone: Zone,
    /// What it holds, in millilitres; null if nobody knows.
    holds_ml: Option<i64>,
    /// Whether the walker said so.
    is_own: bool,
    /// What goes into it, in its order: positions in `things`.
    things: Vec<usize>,
    /// What is in it, as far as packed sizes are known.
    ml: i64,
    /// Things in it without a packed size: while there are any, `ml` is "at least".
    unknown: usize,
    /// What no longer fits: positions in `things`.
    over: Vec<usize>,
}

/// What is to be done before leaving.
#[derive(Serialize, ToSchema)]
#[schema(as = PackToDo)]
pub struct ToDoOut {
    task: Task,
    /// The thing, by its position; null for what the trip takes beyond what the list has.
    of: Option<usize>,
    /// Millilitres to fill; milligrams of food or gas to get.
    amount: Option<i64>,
}

/// A reading against the list.
#[derive(Serialize, ToSchema)]
#[schema(as = Reconciled)]
pub struct ReconciledOut {
    /// What the list says of what is in (of all of it while nothing is ticked), with its own food or else the trip's, and water at the start.
    listed_mg: i64,
    /// The same, line by line; positions are those of the things.
    listed: LoadedOut,
    /// The reading less that.
    difference_mg: i64,
    likely: BandOut,
    worst: BandOut,
    explained: Explained,
    causes: Vec<CauseOut>,
}

/// From where to where.
#[derive(Serialize, ToSchema)]
#[schema(as = MassBand)]
pub struct BandOut {
    low_mg: i64,
    high_mg: i64,
}

/// What a difference may come from, the likeliest first.
#[derive(Serialize, ToSchema)]
#[schema(as = ReadingCause)]
pub struct CauseOut {
    /// The thing; null for food and water.
    of: Option<usize>,
    why: Why,
    /// How much of it it could be, the same way round; null if nobody can say.
    could_be_mg: Option<i64>,
}

/// What goes into a zone, in its order.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ZoneIn {
    lines: Vec<LineId>,
}

/// A list as it is packed by the caller, and a scale's reading against it.
#[utoipa::path(get, path = "/api/lists/{id}/packing", tag = "packing",
    responses((status = 200, body = PackingOut), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/packing")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ListId>) -> Result<Json<PackingOut>, ProblemDoc> {
    Ok(Json(app.run(move |services| services.packing(caller, *id)).await?.into()))
}

/// Notes something of how the caller packs the list: the scale's reading, what zones hold, what is to be done. It can be sent again: the
/// last word counts, field by field.
#[utoipa::path(patch, path = "/api/lists/{id}/packing", tag = "packing", request_body = PackingChange,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/lists/{id}/packing")]
pub async fn note(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<PackingChange>,
) -> Result<HttpResponse, ProblemDoc> {
    app.run(move |services| services.note_packing(caller, *id, &body)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Puts things into a zone, in this order. It can be sent again.
#[utoipa::path(put, path = "/api/lists/{id}/packing/zones/{zone}", tag = "packing", request_body = ZoneIn,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/lists/{id}/packing/zones/{zone}")]
pub async fn order(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(ListId, Zone)>,
    body: Json<ZoneIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, zone) = path.into_inner();
    app.run(move |services| services.order_zone(caller, list, zone, &body.lines)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Ticks a line as in or out, or says where it goes. It can be sent again: the last word counts, field by field.
#[utoipa::path(put, path = "/api/lists/{id}/packing/{line}", tag = "packing", request_body = PackChange,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/lists/{id}/packing/{line}")]
pub async fn put(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    path: Path<(ListId, LineId)>,
    body: Json<PackChange>,
) -> Result<HttpResponse, ProblemDoc> {
    let (list, line) = path.into_inner();
    app.run(move |services| services.pack(caller, list, line, &body)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Takes the ticks of what the caller carries away; where things go stays, and so do others' ticks.
#[utoipa::path(delete, path = "/api/lists/{id}/packing", tag = "packing",
    responses((status = 204), (status = 404, body = ProblemDoc)))]
#[delete("/lists/{id}/packing")]
pub async fn unpack(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ListId>) -> Result<HttpResponse, ProblemDoc> {
    app.run(move |services| services.unpack(caller, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

impl From<Packing> for PackingOut {
    fn from(packing: Packing) -> PackingOut {
        let packed = &packing.packed;
        let things = packed.things().iter().enumerate().map(|(at, thing)| {
            let pieces = thing.line.counts.at_work();
            PackedOut {
                line: packing.lines[packed.given(at)],
                name: thing.line.name.clone(),
                pieces,
                mass_mg: thing.line.unit().map(|unit| unit.mg().saturating_mul(pieces)),
                zone: packed.zone(at),
                proposed: packed.zone(at).is_some() && packed.said(at).zone.is_none(),
                is_in: packed.said(at).is_in,
            }
        });
        let zones = packed.fills().into_iter().map(|(zone, holds_ml, fill)| ZoneOut {
            zone,
            holds_ml,
            is_own: packing.run.zones.contains_key(&zone),
            things: packed.in_zone(zone),
            ml: fill.ml,
            unknown: fill.unknown,
            over: fill.over,
        });
        PackingOut {
            list: packing.list.id,
            things: things.collect(),
            room_ml: packed.room_ml(),
            zones: zones.collect(),
            missing: packed.missing_for_safety(),
            noted: packing.run.to_do,
            reading: packing.run.reading,
            of_me: packing.run.of_me,
            forgotten: packing.forgotten,
            to_do: packing
                .to_do
                .into_iter()
                .map(|todo| ToDoOut { task: todo.task, of: todo.of, amount: todo.amount })
                .collect(),
            reconciled: packing.reconciled.map(ReconciledOut::from),
        }
    }
}

impl From<Reconciled> for ReconciledOut {
    fn from(found: Reconciled) -> ReconciledOut {
        ReconciledOut {
            listed_mg: found.listed.total.mg(),
            listed: found.listed.into(),
            difference_mg: found.difference.mg(),
            likely: found.likely.into(),
            worst: found.worst.into(),
            explained: found.explained,
            causes: found
                .causes
                .into_iter()
                .map(|cause| CauseOut {
                    of: cause.of,
                    why: cause.why,
                    could_be_mg: cause.could_be.map(|mass| mass.mg()),
                })
                .collect(),
        }
    }
}

impl From<Band> for BandOut {
    fn from(band: Band) -> BandOut {
        BandOut { low_mg: band.low.mg(), high_mg: band.high.mg() }
    }
}
