//! What stands before every handler: who asks, from where, and what the browser may do with the answer.

use super::FILES;
use super::problem;
use super::problem::ProblemDoc;
use super::visitor::{Place, token};
use super::{App, Caller};
use actix_web::body::{BoxBody, MessageBody};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::http::header::{CACHE_CONTROL, HOST, HeaderName, ORIGIN, STRICT_TRANSPORT_SECURITY};
use actix_web::http::{Method, StatusCode};
use actix_web::middleware::{DefaultHeaders, Next};
use actix_web::web::{Bytes, Data};
use actix_web::{Error, FromRequest, HttpMessage, HttpRequest};
use kevyt_service::ServiceError;
use kevyt_service::account::{Digest, digest};
use kevyt_service::stored::{Account, Request, StoreError};
use std::future::Future;
use std::pin::Pin;

/// Nothing from elsewhere but a simulated scale if there is one, nothing inline, nobody frames it.
fn content_security_policy(scale: Option<&str>) -> String {
    let connect = scale.map_or_else(|| "'self'".to_owned(), |scale| format!("'self' {scale}"));
    format!(
        "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; \
         connect-src {connect}; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    )
}

/// Headers for every answer.
pub fn security_headers(scale: Option<&str>, place: &Place) -> DefaultHeaders {
    // A year, as is usual: who has come over https once is never sent elsewhere.
    let https_only = place.https.then_some((STRICT_TRANSPORT_SECURITY, "max-age=31536000; includeSubDomains"));
    let headers = DefaultHeaders::new()
        .add(("Content-Security-Policy", content_security_policy(scale)))
        .add(("X-Content-Type-Options", "nosniff"))
        .add(("Referrer-Policy", "no-referrer"))
        .add(("Cross-Origin-Opener-Policy", "same-origin"))
        .add(("Cross-Origin-Resource-Policy", "same-origin"))
        .add(("Permissions-Policy", "camera=(), geolocation=(), microphone=(), hid=(self)"))
        .add((CACHE_CONTROL, "no-store"));
    https_only.into_iter().fold(headers, DefaultHeaders::add)
}

/// Lets a request that changes something through only if it comes from the application's own pages. Programs that are no
/// browser send neither header and are let through: they hold no cookie that somebody else could misuse.
pub async fn same_origin(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    let changes = !matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    if changes && comes_from_elsewhere(&request) {
        let detail = "The request comes from another site's page, so it was not carried out.";
        let problem = ProblemDoc::new(StatusCode::FORBIDDEN, "From elsewhere", "cross_origin", detail);
        return Ok(request.into_response(problem.response()));
    }
    Ok(next.call(request).await?.map_into_boxed_body())
}

fn comes_from_elsewhere(request: &ServiceRequest) -> bool {
    let text = |name: HeaderName| request.headers().get(name).and_then(|value| value.to_str().ok());
    let host = text(HOST).unwrap_or_default();
    if let Some(origin) = text(ORIGIN) {
        return origin.split_once("://").is_none_or(|(_, origin_host)| origin_host != host);
    }
    let site = text(HeaderName::from_static("sec-fetch-site"));
    site.is_some_and(|site| !matches!(site, "same-origin" | "none"))
}

/// The header by which a client names a request that changes something, so that it may send it again.
const IDEMPOTENCY_KEY: HeaderName = HeaderName::from_static("idempotency-key");

/// What names a request: its address and its idempotency key; and what it asks for.
fn named(request: &HttpRequest) -> Option<Request> {
    let key = request.headers().get(IDEMPOTENCY_KEY)?.to_str().ok()?;
    let asked = request.extensions().get::<BodyDigest>().map(|body| body.0);
    Some(Request { key: digest(format!("{} {} {key}", request.method(), request.uri())), asked })
}

/// A digest of what a request asks for.
#[derive(Clone, Copy)]
struct BodyDigest(Digest);

/// Notes what a request with an idempotency key asks for, so that another one under the same key is told from it. Files are too large for it.
pub async fn asked_for(
    mut request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    if request.headers().contains_key(IDEMPOTENCY_KEY) && !request.path().starts_with(FILES) {
        let body = match request.extract::<Bytes>().await {
            Ok(body) => body,
            Err(error) => return Ok(request.into_response(problem::of_body(&error, problem::BODY_KB).response())),
        };
        request.extensions_mut().insert(BodyDigest(digest(&body)));
        request.set_payload(Payload::from(body));
    }
    Ok(next.call(request).await?.map_into_boxed_body())
}

/// Whoever is signed in.
pub struct SignedIn(pub Caller);

impl FromRequest for SignedIn {
    type Error = ProblemDoc;
    type Future = Pin<Box<dyn Future<Output = Result<SignedIn, ProblemDoc>>>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let app = request.app_data::<Data<App>>().cloned();
        let token = token(request);
        let request = named(request);
        Box::pin(async move {
            let app = app.ok_or_else(|| ProblemDoc::internal("no application state"))?;
            let token = token.ok_or_else(ProblemDoc::not_signed_in)?;
            let found = app.run(move |services| match services.caller(&token) {
                Err(ServiceError::Store(StoreError::NotFound)) => Ok(None),
                other => other.map(Some),
            });
            let (access, session, account) = found.await?.ok_or_else(ProblemDoc::not_signed_in)?;
            let Account { preferences, settings, .. } = account;
            Ok(SignedIn(Caller { access, session, preferences, settings, request }))
        })
    }
}
