//! Names every request, logs it, and counts it.

use crate::metrics::REQUESTS;
use actix_web::Error;
use actix_web::body::MessageBody;
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::Method;
use actix_web::http::header::{HeaderName, HeaderValue};
use actix_web::middleware::Next;
use std::time::Instant;
use tracing::Instrument;
use uuid::Uuid;

/// The header that says what a request is named in the log.
const REQUEST_ID: HeaderName = HeaderName::from_static("x-request-id");

/// What a method is counted as: anybody can make more of them up.
fn label(method: &Method) -> &str {
    const KNOWN: [Method; 7] =
        [Method::GET, Method::HEAD, Method::POST, Method::PUT, Method::PATCH, Method::DELETE, Method::OPTIONS];
    if KNOWN.contains(method) { method.as_str() } else { "other" }
}

tokio::task_local! {
    static REQUEST: String;
}

/// The name of the request that is being answered.
pub fn current() -> Option<String> {
    REQUEST.try_with(Clone::clone).ok()
}

/// Gives a request its name, under which everything is logged that happens for it. Of its address only the pattern is logged: addresses may
/// hold secrets.
pub async fn tracked(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<impl MessageBody + 'static>, Error> {
    let id = Uuid::new_v4().simple().to_string()[..12].to_owned();
    let route = request.match_pattern().unwrap_or_else(|| "(page)".to_owned());
    let method = request.method().clone();
    let begun = Instant::now();
    let span = tracing::error_span!("request", id, method = label(&method), route);
    let answered = REQUEST.scope(id.clone(), next.call(request)).instrument(span.clone()).await;
    let status = match &answered {
        Ok(response) => response.status(),
        Err(error) => error.as_response_error().status_code(),
    };
    let took = begun.elapsed();
    REQUESTS.with_label_values(&[label(&method), &route, status.as_str()]).observe(took.as_secs_f64());
    span.in_scope(|| tracing::debug!(status = status.as_u16(), ms = took.as_millis(), "answered"));
    answered.map(|mut response| {
        if let Ok(id) = HeaderValue::from_str(&id) {
            response.headers_mut().insert(REQUEST_ID, id);
        }
        response
    })
}
