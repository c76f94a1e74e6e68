//! The browser application, out of the binary.

use super::App;
use super::problem::ProblemDoc;
use super::sheet::NOT_INDEXED;
use actix_web::http::StatusCode;
use actix_web::http::header::{ACCEPT_ENCODING, CACHE_CONTROL, ContentEncoding, ETAG, IF_NONE_MATCH, VARY};
use actix_web::web::Data;
use actix_web::{HttpRequest, HttpResponse, get};
use rust_embed::{EmbeddedFile, RustEmbed};

#[derive(RustEmbed)]
#[folder = "../web/dist"]
struct Dist;

/// A file of the application, or its page for every address that is one of its own.
pub async fn serve(request: HttpRequest) -> HttpResponse {
    let path = request.path().trim_start_matches('/');
    match Dist::get(path) {
        Some(file) if path != "index.html" => match compressed(&request, path) {
            Some(small) => answer(&request, path, &small, ContentEncoding::Brotli),
            None => answer(&request, path, &file, ContentEncoding::Identity),
        },
        None if path.contains('.') => {
            ProblemDoc::new(StatusCode::NOT_FOUND, "Not there", "not_found", format!("There is no file /{path}."))
                .response()
        }
        _ => match Dist::get("index.html") {
            Some(file) => answer(&request, "index.html", &file, ContentEncoding::Identity),
            None => ProblemDoc::internal("the browser application is not built in").response(),
        },
    }
}

/// The file as it was compressed when it was built, for a client that takes it so.
fn compressed(request: &HttpRequest, path: &str) -> Option<EmbeddedFile> {
    let accepts = request.headers().get(ACCEPT_ENCODING)?.to_str().ok()?;
    let brotli = accepts.split(',').any(|one| {
        let mut parts = one.split(';').map(str::trim);
        parts.next() == Some("br") && parts.next() != Some("q=0")
    });
    if brotli { Dist::get(&format!("{path}.br")) } else { None }
}

/// Answers with a file. It is not compressed on the way any more: what is worth it was when it was built, and fonts are by nature.
fn answer(request: &HttpRequest, path: &str, file: &EmbeddedFile, encoding: ContentEncoding) -> HttpResponse {
    let tag = format!("\"{}\"", hex::encode(file.metadata.sha256_hash()));
    // Files under assets/ have their hash in their name; the page must be asked for each time.
    let caching = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    let mut response = HttpResponse::Ok();
    response.insert_header((CACHE_CONTROL, caching)).insert_header((ETAG, tag.clone())).insert_header(encoding);
    response.insert_header((VARY, "accept-encoding"));
    if request.path().starts_with("/shared/") {
        response.insert_header(NOT_INDEXED);
    }
    if request.headers().get(IF_NONE_MATCH).is_some_and(|asked| asked.as_bytes() == tag.as_bytes()) {
        return response.status(StatusCode::NOT_MODIFIED).finish();
    }
    let kind = mime_guess::from_path(path).first_or_octet_stream();
    let is_text = kind.type_() == "text" || kind.subtype() == "javascript";
    let kind = if is_text { format!("{kind}; charset=utf-8") } else { kind.to_string() };
    response.content_type(kind).body(file.data.to_vec())
}

/// Whether this process and its database answer.
#[utoipa::path(get, path = "/api/health", tag = "server", responses((status = 204), (status = 503, body = ProblemDoc)))]
#[get("/health")]
pub async fn health(app: Data<App>) -> Result<HttpResponse, ProblemDoc> {
    app.run(|services| services.check()).await?;
    Ok(HttpResponse::NoContent().finish())
}
