//! The OpenAPI document, out of the handlers.

use super::{
    account, account_file, after, assets, candidates, cautions, completion, files, forecast, gear, handlers, history,
    kits, lessons, lighter, lists, near_misses, outfits, packing, plan, problem, proposals, quick_line, scale, sheet,
    shop, swaps, together, trips, vocabulary, weigh, year,
};
use actix_web::get;
use actix_web::web::Json;
use utoipa::OpenApi;
use utoipa::openapi::path::{Parameter, ParameterBuilder, ParameterIn};
use utoipa::openapi::schema::{KnownFormat, ObjectBuilder, SchemaFormat, Type};
use utoipa::openapi::{OpenApi as Document, RefOr, Required};

macro_rules! document_all {
    ($($module:ident::$handler:ident),* $(,)?) => {
        #[derive(OpenApi)]
        #[openapi(
            info(
                title = "Kevyt",
                description = "Weighed, priced gear and the swaps that lighten it. Masses are whole milligrams (`_mg`), money whole minor units (`_minor`) of the account's currency. What people type (`weight`, `price`, `target`) is sent as text and read by the server. Every error is a problem document (RFC 9457). Beside what is said of each path, any may answer 400 (not JSON as it is asked for), 401 (not signed in), 403 (from another origin), 413 (too large), 429 (too many), 500 (a fault of the server, with the name of the request), 503 (the database is away, or busy) and 507 (its disk is full).",
                license(name = "AGPL-3.0-or-later")
            ),
            paths($($module::$handler),*),
            components(schemas(problem::ProblemDoc, kevyt_core::trip::Figure, kevyt_service::stored::About))
        )]
        struct Api;
    };
}
handlers::all!(document_all);

macro_rules! document_files {
    ($($module:ident::$handler:ident),* $(,)?) => {
        #[derive(OpenApi)]
        #[openapi(paths($($module::$handler),*))]
        struct FilesApi;
    };
}
handlers::files!(document_files);

/// The document. Operations are named by method and address, since handlers of several resources share names.
pub fn document() -> Document {
    let mut document = Api::openapi();
    document.merge(FilesApi::openapi());
    for (path, item) in &mut document.paths.paths {
        let operations = [
            ("get", &mut item.get),
            ("post", &mut item.post),
            ("put", &mut item.put),
            ("patch", &mut item.patch),
            ("delete", &mut item.delete),
        ];
        for (method, operation) in operations {
            if let Some(operation) = operation {
                operation.operation_id = Some(format!("{method} {path}"));
                operation.parameters.get_or_insert_default().extend(ids_in(path).map(RefOr::T));
            }
        }
    }
    document
}

/// Every part of an address in braces is an id.
fn ids_in(path: &str) -> impl Iterator<Item = Parameter> {
    let names = path.split('/').filter_map(|part| part.strip_prefix('{')?.strip_suffix('}'));
    names.map(|name| {
        let id =
            ObjectBuilder::new().schema_type(Type::String).format(Some(SchemaFormat::KnownFormat(KnownFormat::Uuid)));
        ParameterBuilder::new()
            .name(name)
            .parameter_in(ParameterIn::Path)
            .required(Required::True)
            .schema(Some(id))
            .build()
    })
}

/// The document, served.
#[get("/openapi.json")]
pub async fn get() -> Json<Document> {
    Json(document())
}
