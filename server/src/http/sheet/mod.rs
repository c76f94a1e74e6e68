//! `/api/lists/{id}/sheet` and what is read of a list otherwise: by a link, as a file.

mod out;
mod trip;

pub use out::{LinkOut, SheetOut};
pub(super) use trip::CautionOut;

use super::problem::ProblemDoc;
use super::{App, Caller};
use crate::http::guard::SignedIn;
use actix_web::http::header::{CONTENT_DISPOSITION, HeaderName};
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, get};
use kevyt_core::exchange::{LIST_FORMAT, Taken, list_csv, list_json, list_markdown};
use kevyt_core::quantity::MassStyle;
use kevyt_service::account::{MassSystem, digest};
use kevyt_service::sheet::ListFile;
use kevyt_service::stored::ListId;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// A list that a link opened.
#[derive(Serialize, ToSchema)]
#[schema(as = SharedSheet)]
pub struct SharedOut {
    sheet: SheetOut,
    /// The units of whose it is.
    mass: MassSystem,
    currency: String,
    currency_decimals: usize,
    /// The name of the seat that the link gives; null if it is to read only.
    seat: Option<String>,
}

/// A list with all that is calculated of it.
#[utoipa::path(get, path = "/api/lists/{id}/sheet", tag = "lists", responses((status = 200, body = SheetOut), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/sheet")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ListId>) -> Result<Json<SheetOut>, ProblemDoc> {
    let read = app.run(move |services| services.sheet(caller, *id)).await?;
    let sheet = app.work_out(move |services| services.worked_out(read)).await?;
    Ok(Json(SheetOut::new(sheet, Some(caller))))
}

/// Keeps search engines from what a link opens.
pub(super) const NOT_INDEXED: (HeaderName, &str) = (HeaderName::from_static("x-robots-tag"), "noindex, nofollow");

/// The list that a link opens, for anybody who has the link.
#[utoipa::path(get, path = "/api/shared/{secret}", tag = "lists", responses((status = 200, body = SharedOut), (status = 404, body = ProblemDoc)))]
#[get("/shared/{secret}")]
pub async fn by_link(app: Data<App>, secret: Path<String>) -> Result<HttpResponse, ProblemDoc> {
    let (read, link, preferences) = app.run(move |services| services.shared_sheet(&digest(secret.as_str()))).await?;
    let sheet = app.work_out(move |services| services.worked_out(read)).await?;
    let seat = link.walker.and_then(|id| sheet.walkers.iter().find(|walker| walker.walker.id == id));
    let out = SharedOut {
        seat: seat.map(|walker| walker.walker.value.name.clone()),
        mass: preferences.mass,
        currency: preferences.currency.code().to_owned(),
        currency_decimals: preferences.currency.decimals(),
        sheet: SheetOut::new(sheet, None),
    };
    Ok(HttpResponse::Ok().insert_header(NOT_INDEXED).json(out))
}

/// A list as `kevyt-list/1`.
#[utoipa::path(get, path = "/api/lists/{id}/list.json", tag = "lists", responses((status = 200, content_type = "application/json"), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/list.json")]
pub async fn as_json(app: Data<App>, SignedIn(caller): SignedIn, id: Path<ListId>) -> Result<HttpResponse, ProblemDoc> {
    let list = app.run(move |services| services.list_file(caller, *id)).await?.list;
    let name = format!("attachment; filename=\"{}.json\"", LIST_FORMAT.replace('/', "-"));
    Ok(HttpResponse::Ok().insert_header((CONTENT_DISPOSITION, name)).json(list_json(&list)))
}

/// What of a list is taken elsewhere.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
pub struct TakenQuery {
    /// Whether what one piece of each thing cost comes along, as far as the caller sees it.
    #[serde(default)]
    prices: bool,
}

fn taken<'f>(file: &'f ListFile, query: &TakenQuery, caller: Caller) -> Taken<'f> {
    let prices = query.prices.then_some((file.prices.as_slice(), caller.preferences.currency));
    Taken { name: &file.name, list: &file.list, walkers: &file.walkers, prices }
}

fn attached(content_type: &str, name: &str, text: String) -> HttpResponse {
    let disposition = (CONTENT_DISPOSITION, format!("attachment; filename=\"{name}\""));
    HttpResponse::Ok().content_type(content_type.to_owned()).insert_header(disposition).body(text)
}

/// A list as CSV: a line a thing, masses in grams, by system. Where several walk: who carries it, and whether it is shared.
#[utoipa::path(get, path = "/api/lists/{id}/list.csv", tag = "lists", params(TakenQuery), responses((status = 200, content_type = "text/csv"), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/list.csv")]
pub async fn as_csv(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    query: Query<TakenQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    let file = app.run(move |services| services.list_file(caller, *id)).await?;
    let text = list_csv(&taken(&file, &query, caller)).map_err(|error| ProblemDoc::internal(error.to_string()))?;
    Ok(attached("text/csv; charset=utf-8", "list.csv", text))
}

/// A list as Markdown, to paste elsewhere. Where several walk: a section for each.
#[utoipa::path(get, path = "/api/lists/{id}/list.md", tag = "lists", params(TakenQuery), responses((status = 200, content_type = "text/markdown"), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/list.md")]
pub async fn as_markdown(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    query: Query<TakenQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    let file = app.run(move |services| services.list_file(caller, *id)).await?;
    let (table, total) = styles(caller.preferences.mass);
    let text = list_markdown(&taken(&file, &query, caller), table, total);
    Ok(attached("text/markdown; charset=utf-8", "list.md", text))
}

fn styles(mass: MassSystem) -> (MassStyle, MassStyle) {
    match mass {
        MassSystem::Metric => (MassStyle::TableG, MassStyle::TotalKg),
        MassSystem::PoundsAndOunces => (MassStyle::TableOz, MassStyle::TotalLbOz),
        MassSystem::DecimalPounds => (MassStyle::TableOz, MassStyle::TotalLb),
    }
}
