//! What HTTP asks of every answer, whatever it is about: HEAD, encodings, bodies that end, memory for uploads.

use super::problem::{ACCOUNT_KB, FILE_KB, ProblemDoc};
use actix_web::body::{BoxBody, MessageBody};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::error::PayloadError;
use actix_web::http::header::{ACCEPT_ENCODING, CONTENT_LENGTH, HeaderValue};
use actix_web::http::{Method, StatusCode};
use actix_web::middleware::Next;
use actix_web::web::Data;
use actix_web::{Error, HttpMessage};
use bytes::Bytes;
use futures_core::Stream;
use std::future::Future;
use std::pin::Pin;
use std::sync::Arc;
use std::task::{Context, Poll};
use std::time::Duration;
use tokio::sync::Semaphore;
use tokio::time::{Instant, Sleep, sleep, sleep_until, timeout};

/// How long nothing may come of a body that has begun.
const SILENCE: Duration = Duration::from_secs(5);
/// How long a body may take, and one with a file in it.
const WHOLE: Duration = Duration::from_secs(10);
const WHOLE_FILE: Duration = Duration::from_secs(60);
/// Memory for all files that are on their way at a time, in kB: one account file, or four gear files of the largest.
const UPLOADS_KB: usize = ACCOUNT_KB;
/// How long an upload waits for memory.
const UPLOAD_WAIT: Duration = Duration::from_secs(10);

/// Where the largest comes.
const ACCOUNT_FILE: &str = "/api/files/account";
/// Where the files are that may be large.
const FILES: &str = "/api/files/";

/// Answers HEAD as GET; the server leaves the body out.
pub async fn head_as_get(
    mut request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    if request.method() == Method::HEAD {
        request.head_mut().method = Method::GET;
    }
    Ok(next.call(request).await?.map_into_boxed_body())
}

/// Leaves of the encodings that a client accepts those that can be had. Whoever accepts none of them gets the answer as it is: that is
/// better than none.
pub async fn encoded_or_not(
    mut request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    let asked = request.headers().get(ACCEPT_ENCODING).map(|value| value.to_str().unwrap_or_default().to_owned());
    if let Some(asked) = asked {
        let headers = request.headers_mut();
        match available(&asked).and_then(|some| HeaderValue::from_str(&some).ok()) {
            Some(some) => drop(headers.insert(ACCEPT_ENCODING, some)),
            None => drop(headers.remove(ACCEPT_ENCODING)),
        }
    }
    Ok(next.call(request).await?.map_into_boxed_body())
}

/// Those of the encodings in an `Accept-Encoding` that are there and not refused.
fn available(asked: &str) -> Option<String> {
    let accepted = asked.split(',').filter_map(|entry| {
        let (name, weight) = entry.split_once(';').unwrap_or((entry, "q=1"));
        let weight: f32 = weight.trim().strip_prefix("q=").and_then(|q| q.trim().parse().ok()).unwrap_or(0.0);
        let name = name.trim().to_lowercase();
        (weight > 0.0 && matches!(name.as_str(), "br" | "gzip" | "zstd")).then_some(name)
    });
    let accepted: Vec<String> = accepted.collect();
    (!accepted.is_empty()).then(|| accepted.join(", "))
}

/// Drops a request whose body does not come to its end in time.
pub async fn ending_bodies(
    mut request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    let whole = if request.path().starts_with(FILES) { WHOLE_FILE } else { WHOLE };
    let body = EndingBody {
        body: request.take_payload(),
        silence: Box::pin(sleep(SILENCE)),
        end: Box::pin(sleep_until(Instant::now() + whole)),
    };
    request.set_payload(Payload::Stream { payload: Box::pin(body) });
    Ok(next.call(request).await?.map_into_boxed_body())
}

/// A body that is given up when it takes too long.
struct EndingBody {
    body: Payload,
    silence: Pin<Box<Sleep>>,
    end: Pin<Box<Sleep>>,
}

impl Stream for EndingBody {
    type Item = Result<Bytes, PayloadError>;

    fn poll_next(mut self: Pin<&mut Self>, context: &mut Context<'_>) -> Poll<Option<Self::Item>> {
        if let Poll::Ready(next) = Pin::new(&mut self.body).poll_next(context) {
            self.silence.as_mut().reset(Instant::now() + SILENCE);
            return Poll::Ready(next);
        }
        if self.silence.as_mut().poll(context).is_ready() || self.end.as_mut().poll(context).is_ready() {
            return Poll::Ready(Some(Err(PayloadError::Io(std::io::ErrorKind::TimedOut.into()))));
        }
        Poll::Pending
    }
}

/// Memory for uploads, which all workers of a server share.
#[derive(Clone)]
pub struct UploadMemory(Arc<Semaphore>);

impl Default for UploadMemory {
    fn default() -> Self {
        UploadMemory(Arc::new(Semaphore::new(UPLOADS_KB)))
    }
}

/// Lets a file in only while there is memory for it; until then nothing of it is read.
pub async fn within_memory(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    if !request.path().starts_with(FILES) || request.method() != Method::POST {
        return Ok(next.call(request).await?.map_into_boxed_body());
    }
    let length = request.headers().get(CONTENT_LENGTH).and_then(|value| value.to_str().ok()?.parse::<usize>().ok());
    let most = if request.path() == ACCOUNT_FILE { ACCOUNT_KB } else { FILE_KB };
    let kilobytes = length.map_or(most, |bytes| (bytes / 1024 + 1).min(most));
    let Some(memory) = request.app_data::<Data<UploadMemory>>().map(|memory| Arc::clone(&memory.0)) else {
        return Ok(request.into_response(ProblemDoc::internal("no upload memory").response()));
    };
    let asked = memory.acquire_many_owned(u32::try_from(kilobytes).unwrap_or(u32::MAX));
    let Ok(Ok(_held)) = timeout(UPLOAD_WAIT, asked).await else {
        let detail = "Too many files are being read at once. Nothing was changed. Try again in a moment.";
        let problem = ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Busy", "busy", detail);
        return Ok(request.into_response(problem.response()));
    };
    Ok(next.call(request).await?.map_into_boxed_body())
}

#[cfg(test)]
mod tests {
    use super::available;

    #[test]
    fn of_the_encodings_asked_for_those_are_left_that_are_there() {
        assert_eq!(available("gzip, deflate, br;q=0.5"), Some("gzip, br".to_owned()));
        for none in ["identity;q=0", "*;q=0", "compress", "gzip;q=0", "", "br;q=oops"] {
            assert_eq!(available(none), None, "{none}");
        }
    }
}
