//! `/api/files`: gear files and backups. Bodies here may be large.

use super::guard::SignedIn;
use super::problem::{self, ProblemDoc};
use super::{App, handlers};
use actix_multipart::form::MultipartForm;
use actix_multipart::form::bytes::Bytes as FormBytes;
use actix_multipart::form::json::Json as FormJson;
use actix_web::http::StatusCode;
use actix_web::http::header::{CONTENT_DISPOSITION, CONTENT_TYPE};
use actix_web::web::{Data, Json, scope};
use actix_web::{Error, HttpResponse, Scope, get, post};
use kevyt_core::exchange::gear_file::{Column, Outcome};
use kevyt_core::gear::{Gear, System, WeightSource};
use kevyt_core::quantity::{Currency, MassUnit};
use kevyt_service::Write;
use kevyt_service::files::{Imported, Onto, Preview, Wanted};
use kevyt_service::stored::{GearId, ListId};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// The most lines of a preview that are sent; the counts are of all.
const SHOWN: usize = 200;

macro_rules! register_files {
    ($($module:ident::$handler:ident),* $(,)?) => {
        /// Registers the handlers.
        fn register(scope: Scope) -> Scope {
            scope$(.service(super::$module::$handler))*
        }
    };
}
handlers::files!(register_files);

/// Every route, with room for a file.
pub fn routes() -> Scope {
    register(scope("/files").app_data(problem::form_config(problem::FILE_KB)))
}

/// A gear file and how it is to be read, as a form.
#[derive(MultipartForm)]
pub struct GearFileForm {
    #[multipart(limit = "16 MiB")]
    file: FormBytes,
    how: Option<FormJson<HowIn>>,
}

/// A gear file and how it is to be read, as a form (multipart/form-data).
#[derive(ToSchema)]
#[allow(dead_code, reason = "only described: GearFileForm reads it")]
pub struct GearFileIn {
    /// The file: CSV, at most 16 MiB.
    #[schema(format = Binary, content_media_type = "text/csv")]
    file: String,
    how: Option<HowIn>,
}

/// How a gear file is to be read; what is not said is suggested.
#[derive(Deserialize, ToSchema, Default)]
#[serde(deny_unknown_fields)]
pub struct HowIn {
    /// For each column of the file, the key of a column of ours or null.
    #[schema(value_type = Option<Vec<Option<String>>>)]
    columns: Option<Vec<Option<Column>>>,
    /// The unit of bare weights: g, kg, oz or lb.
    #[schema(value_type = Option<String>)]
    unit: Option<MassUnit>,
    /// Where weights come from of which the line does not say it; as the account has it unless given.
    source: Option<WeightSource>,
    /// Words of the system column and the keys of the systems that they stand for.
    #[serde(default)]
    #[schema(value_type = BTreeMap<String, String>)]
    systems: BTreeMap<String, System>,
    /// Lines that are left out, by their numbers; as proposed unless given.
    leave: Option<Vec<u64>>,
    /// The list that what is read is put on.
    list: Option<ListId>,
    /// The name of a new list that what is read is put on.
    new_list: Option<String>,
}

/// What reading a file would do.
#[derive(Serialize, ToSchema)]
pub struct PreviewOut {
    /// comma, semicolon or tab.
    delimiter: &'static str,
    /// The file's columns and what each holds.
    columns: Vec<ColumnOut>,
    /// Columns that can be chosen.
    choices: Vec<ChoiceOut>,
    /// The unit of bare weights.
    #[schema(value_type = String)]
    unit: MassUnit,
    /// Where weights come from of which the line does not say it.
    source: WeightSource,
    /// What the unit was read from; null if nothing tells it, so that the walker has to.
    unit_from: Option<String>,
    /// Words of the system column that mean no system yet.
    unknown_systems: Vec<String>,
    added: usize,
    changed: usize,
    same: usize,
    /// Lines refused.
    refused: usize,
    /// Lines that are left out, by their numbers.
    leave: Vec<u64>,
    /// What the list would add up to, if all went onto one.
    sums: SumsOut,
    /// What the first lines would do, in the order of the file.
    lines: Vec<LineOutcome>,
    /// The first cells that can't be taken.
    refusals: Vec<RefusalOut>,
}

/// What things from a file would add up to on a list.
#[derive(Serialize, ToSchema, Default)]
pub struct SumsOut {
    carried_mg: i64,
    worn_mg: i64,
    used_up_mg: i64,
    /// Weights that nobody knows yet.
    unknown: usize,
}

/// A column of the file.
#[derive(Serialize, ToSchema)]
pub struct ColumnOut {
    header: String,
    /// The key of the column of ours; null if it is left out.
    holds: Option<&'static str>,
    /// The first cells that are not empty.
    examples: Vec<String>,
}

/// A column of ours.
#[derive(Serialize, ToSchema)]
pub struct ChoiceOut {
    key: &'static str,
    title: String,
    holds: &'static str,
}

/// What a line would do.
#[derive(Serialize, ToSchema)]
pub struct LineOutcome {
    line: u64,
    name: String,
    outcome: OutcomeKind,
    /// What it says; for a change, what was and would be; for a line that is left out, why.
    says: String,
    /// The name of the kind that a new thing is taken as; null if nothing says so.
    kind: Option<&'static str>,
}

/// What becomes of a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum OutcomeKind {
    /// A thing that is not there yet.
    Add,
    /// A thing that is there, changed.
    Change,
    /// A thing that is there just so.
    Same,
    /// Nothing is read of it.
    LeftOut,
}

/// A cell that can't be taken.
#[derive(Serialize, ToSchema)]
pub struct RefusalOut {
    line: u64,
    /// Its column; empty if the line as a whole is refused.
    header: String,
    why: String,
}

/// What reading a file did.
#[derive(Serialize, ToSchema)]
pub struct ImportedOut {
    added: usize,
    changed: usize,
    same: usize,
    refused: usize,
    /// The list that they are on, if they were put on one.
    list: Option<ListId>,
}

impl GearFileForm {
    fn read(self) -> (Vec<u8>, Wanted) {
        let HowIn { columns, unit, source, systems, leave, list, new_list } =
            self.how.map(FormJson::into_inner).unwrap_or_default();
        let onto = list.map(Onto::List).or(new_list.map(Onto::New));
        (self.file.data.to_vec(), Wanted { columns, unit, source, systems, leave, onto })
    }
}

impl PreviewOut {
    fn new(read: &Preview, currency: Currency) -> PreviewOut {
        let refused = read.refused_lines();
        let count = |is: fn(&Outcome<GearId>) -> bool| read.lines.iter().filter(|line| is(&line.outcome)).count();
        let (added, changed) = (
            count(|outcome| matches!(outcome, Outcome::Add(_))),
            count(|outcome| matches!(outcome, Outcome::Change(..))),
        );
        let same = read.lines.len() - added - changed;
        let columns = read.sheet.headers.iter().zip(&read.mapping.columns).enumerate().map(|(at, (header, holds))| {
            let filled = read.sheet.column(at).filter(|cell| !cell.is_empty());
            ColumnOut {
                header: header.clone(),
                holds: holds.map(Column::key),
                examples: filled.take(3).map(str::to_owned).collect(),
            }
        });
        let things = read.lines.iter().map(|line| {
            let (outcome, says) = match &line.outcome {
                Outcome::Add(thing) => (OutcomeKind::Add, in_words(None, thing, currency)),
                Outcome::Change(_, after) => (OutcomeKind::Change, in_words(line.before.as_ref(), after, currency)),
                Outcome::Same(_) => (OutcomeKind::Same, in_words(None, &line.thing, currency)),
            };
            let counts = &line.counts;
            let place = [(counts.worn, "worn"), (counts.used_up, "used up")];
            let place = place.iter().filter(|(pieces, _)| *pieces > 0).map(|(_, word)| *word);
            let says = [says].into_iter().chain(place.map(str::to_owned)).collect::<Vec<_>>().join(", ");
            let kind = line.thing.identity.kind.filter(|_| outcome == OutcomeKind::Add).map(|kind| kind.name);
            LineOutcome { line: line.line, name: line.thing.name.as_str().to_owned(), outcome, says, kind }
        });
        let name_at = read.mapping.place(Column::Name);
        let left =
            read.sheet.lines.iter().filter(|(line, _)| read.mapping.leave.contains(line)).map(|(line, cells)| {
                let name = name_at.and_then(|at| cells.get(at)).filter(|name| !name.is_empty()).cloned();
                let why = read.no_things.iter().find(|(number, _)| number == line);
                LineOutcome {
                    line: *line,
                    name: name.unwrap_or_else(|| cells.join(" ").trim().to_owned()),
                    outcome: OutcomeKind::LeftOut,
                    says: why.map_or("left out by you", |(_, why)| why.reason()).to_owned(),
                    kind: None,
                }
            });
        let mut lines: Vec<LineOutcome> = things.chain(left).collect();
        lines.sort_by_key(|line| line.line);
        lines.truncate(SHOWN);
        let sums = read.lines.iter().fold(SumsOut::default(), |sums, line| {
            let mg = line.thing.weight.as_ref().map_or(0, |weight| weight.unit.mg());
            let counts = &line.counts;
            SumsOut {
                carried_mg: sums.carried_mg + mg * i64::from(counts.carried),
                worn_mg: sums.worn_mg + mg * i64::from(counts.worn),
                used_up_mg: sums.used_up_mg + mg * i64::from(counts.used_up),
                unknown: sums.unknown + usize::from(line.thing.weight.is_none()),
            }
        });
        PreviewOut {
            delimiter: match read.sheet.delimiter {
                b';' => "semicolon",
                b'\t' => "tab",
                _ => "comma",
            },
            columns: columns.collect(),
            choices: Column::ALL
                .iter()
                .map(|column| ChoiceOut { key: column.key(), title: column.title(), holds: column.holds() })
                .collect(),
            unit: read.mapping.unit,
            source: read.mapping.source,
            unit_from: read.mapping.unit_from.clone(),
            unknown_systems: read.unknown_systems.clone(),
            added,
            changed,
            same,
            refused,
            leave: read.mapping.leave.iter().copied().collect(),
            sums,
            lines,
            refusals: read
                .refused
                .iter()
                .take(SHOWN)
                .map(|cell| RefusalOut { line: cell.line, header: cell.header.clone(), why: cell.why.clone() })
                .collect(),
        }
    }
}

/// A thing in a few words; against what it was, only what differs.
fn in_words(before: Option<&Gear>, after: &Gear, currency: Currency) -> String {
    let words = |thing: &Gear| {
        let weight = thing.weight.as_ref().map_or("weight unknown".to_owned(), |weight| weight.unit.in_grams());
        let price = thing.paid.map_or(String::new(), |paid| paid.format(currency));
        [
            format!("{} piece{}", thing.count, if thing.count == 1 { "" } else { "s" }),
            weight,
            thing.system.name().to_owned(),
            price,
        ]
    };
    let now = words(after);
    let Some(before) = before else {
        return now.into_iter().filter(|word| !word.is_empty()).collect::<Vec<_>>().join(", ");
    };
    let changes = words(before).into_iter().zip(now).filter(|(was, is)| was != is);
    let changes: Vec<String> = changes.map(|(was, is)| format!("{was} to {is}")).collect();
    if changes.is_empty() { "other fields".to_owned() } else { changes.join(", ") }
}

/// What reading a gear file would do; nothing is written.
#[utoipa::path(post, path = "/api/files/gear/preview", tag = "files", request_body(content = GearFileIn, content_type = "multipart/form-data"),
    responses((status = 200, body = PreviewOut), (status = 404, body = ProblemDoc), (status = 413, body = ProblemDoc),
        (status = 415, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/gear/preview")]
pub async fn preview(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Result<MultipartForm<GearFileForm>, Error>,
) -> Result<Json<PreviewOut>, ProblemDoc> {
    let (bytes, wanted) = body.map_err(problem::of_form)?.into_inner().read();
    let read = app.run_on_file(move |services| services.preview_gear_file(caller, &bytes, &wanted)).await?;
    Ok(Json(PreviewOut::new(&read, caller.preferences.currency)))
}

/// Reads a gear file into the account: every line that can be taken, in one transaction.
#[utoipa::path(post, path = "/api/files/gear", tag = "files", request_body(content = GearFileIn, content_type = "multipart/form-data"),
    responses((status = 200, body = ImportedOut), (status = 404, body = ProblemDoc), (status = 413, body = ProblemDoc),
        (status = 415, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/gear")]
pub async fn import(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Result<MultipartForm<GearFileForm>, Error>,
) -> Result<HttpResponse, ProblemDoc> {
    let (bytes, wanted) = body.map_err(problem::of_form)?.into_inner().read();
    let import = move |w: &mut Write<'_>| w.import_gear_file(&bytes, &wanted);
    let imported = |done: Imported| ImportedOut {
        added: done.added,
        changed: done.changed,
        same: done.same,
        refused: done.refused,
        list: done.list,
    };
    app.write_much(caller, StatusCode::OK, import, imported).await
}

/// All gear as CSV.
#[utoipa::path(get, path = "/api/files/gear.csv", tag = "files", responses((status = 200, content_type = "text/csv", body = String)))]
#[get("/gear.csv")]
pub async fn gear_csv(app: Data<App>, SignedIn(caller): SignedIn) -> Result<HttpResponse, ProblemDoc> {
    let bytes = app.run(move |services| services.gear_csv(caller)).await?;
    Ok(download("text/csv; charset=utf-8", "kevyt-gear.csv", bytes))
}

/// All gear as a Frictionless Data Package: a ZIP of the CSV and its datapackage.json.
#[utoipa::path(get, path = "/api/files/gear.zip", tag = "files", responses((status = 200, content_type = "application/zip", body = Vec<u8>)))]
#[get("/gear.zip")]
pub async fn gear_package(app: Data<App>, SignedIn(caller): SignedIn) -> Result<HttpResponse, ProblemDoc> {
    let bytes = app.run(move |services| services.gear_package(caller)).await?;
    Ok(download("application/zip", "kevyt-gear.zip", bytes))
}

fn download(kind: &str, name: &str, bytes: Vec<u8>) -> HttpResponse {
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, kind))
        .insert_header((CONTENT_DISPOSITION, format!("attachment; filename=\"{name}\"")))
        .body(bytes)
}
