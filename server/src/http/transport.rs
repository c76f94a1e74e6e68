//! What HTTP asks of every answer, whatever it is about: HEAD, encodings, bodies that end, memory for uploads.

use super::FILES;
use super::guard::SignedIn;
use super::locks::Locks;
use super::problem::{ACCOUNT_KB, ProblemDoc};
use actix_web::body::{BoxBody, MessageBody};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::error::PayloadError;
use actix_web::http::Method;
use actix_web::http::header::{ACCEPT_ENCODING, HeaderValue};
use actix_web::middleware::Next;
use actix_web::web::Data;
use actix_web::{Error, HttpMessage};
use bytes::Bytes;
use futures_core::Stream;
use kevyt_service::stored::Access;
use std::future::Future;
use std::io::ErrorKind;
use std::pin::Pin;
use std::sync::{Arc, Mutex, PoisonError};
use std::task::{Context, Poll};
use std::time::Duration;
use tokio::sync::{OwnedSemaphorePermit, Semaphore};
use tokio::time::{Instant, Sleep, sleep, sleep_until, timeout};

/// How long nothing may come of a body that has begun.
const SILENCE: Duration = Duration::from_secs(5);
/// How long a body may take, and one with a file in it.
const WHOLE: Duration = Duration::from_secs(10);
const WHOLE_FILE: Duration = Duration::from_secs(60);
/// Room for all files that are on their way at a time, in kB: two account files, or eight gear files, of the largest.
const UPLOADS_KB: usize = 2 * ACCOUNT_KB;
/// How long a piece of a file waits for room.
const UPLOAD_WAIT: Duration = Duration::from_secs(10);
/// What of a file comes in a second at least, in kB, once it has had time to begin.
const LEAST_KB_A_SECOND: usize = 16;

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
pub fn available(asked: &str) -> Option<String> {
    let accepted = asked.split(',').filter_map(|entry| {
        let (name, weight) = entry.split_once(';').unwrap_or((entry, "q=1"));
        let weight: f32 = weight.trim().strip_prefix("q=").and_then(|q| q.trim().parse().ok()).unwrap_or(0.0);
        let name = name.trim().to_lowercase();
        (weight > 0.0 && matches!(name.as_str(), "br" | "gzip")).then_some(name)
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
            return Poll::Ready(Some(Err(PayloadError::Io(ErrorKind::TimedOut.into()))));
        }
        Poll::Pending
    }
}

/// Room for uploads, which all workers of a server share, and the turn of each account: one at a time.
#[derive(Clone)]
pub struct Uploads {
    room: Arc<Semaphore>,
    locks: Arc<Locks<Access>>,
}

impl Default for Uploads {
    fn default() -> Self {
        Uploads { room: Arc::new(Semaphore::new(UPLOADS_KB)), locks: Arc::default() }
    }
}

/// Lets files in of signed-in accounts, one at a time of an account, each piece while there is room for it.
pub async fn files_one_by_one(
    mut request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    if !request.path().starts_with(FILES) || request.method() != Method::POST {
        return Ok(next.call(request).await?.map_into_boxed_body());
    }
    let caller = match request.extract::<SignedIn>().await {
        Ok(SignedIn(caller)) => caller,
        Err(refused) => return Ok(request.into_response(refused.response())),
    };
    let Some(uploads) = request.app_data::<Data<Uploads>>().map(|uploads| uploads.as_ref().clone()) else {
        return Ok(request.into_response(ProblemDoc::internal("no room for uploads").response()));
    };
    // Until its turn comes nothing of it is read.
    let lock = uploads.locks.of(caller.access);
    let Ok(_mine) = timeout(UPLOAD_WAIT, lock.wait(false)).await else {
        return Ok(request.into_response(ProblemDoc::no_room_for_files().response()));
    };
    let held = Arc::new(Mutex::new(Vec::new()));
    let body = Charged {
        body: request.take_payload(),
        room: uploads.room,
        held: Arc::clone(&held),
        waiting: None,
        begun: Instant::now(),
        bytes: 0,
    };
    request.set_payload(Payload::Stream { payload: Box::pin(body) });
    let answered = next.call(request).await;
    // What was read is done with.
    drop(held);
    Ok(answered?.map_into_boxed_body())
}

/// What a body has been given room for.
type Held = Arc<Mutex<Vec<OwnedSemaphorePermit>>>;
/// A piece that waits for room.
type Waiting = Pin<Box<dyn Future<Output = Result<OwnedSemaphorePermit, ()>>>>;

/// A body that takes room as it comes, and that is given up when it comes too slowly to be let hold any.
struct Charged {
    body: Payload,
    room: Arc<Semaphore>,
    held: Held,
    waiting: Option<(Bytes, Waiting)>,
    begun: Instant,
    bytes: usize,
}

impl Charged {
    /// Whether it has come slower than a file may, time to begin aside.
    fn is_slow(&self) -> bool {
        let since = self.begun.elapsed().saturating_sub(SILENCE).as_secs();
        self.bytes / 1024 < usize::try_from(since).unwrap_or(usize::MAX).saturating_mul(LEAST_KB_A_SECOND)
    }
}

impl Stream for Charged {
    type Item = Result<Bytes, PayloadError>;

    fn poll_next(mut self: Pin<&mut Self>, context: &mut Context<'_>) -> Poll<Option<Self::Item>> {
        let given_up = |kind: ErrorKind| Poll::Ready(Some(Err(PayloadError::Io(kind.into()))));
        if self.waiting.is_none() {
            let piece = match Pin::new(&mut self.body).poll_next(context) {
                Poll::Ready(Some(Ok(piece))) => piece,
                other => return other,
            };
            self.bytes += piece.len();
            if self.is_slow() {
                return given_up(ErrorKind::TimedOut);
            }
            let kilobytes = u32::try_from(piece.len().div_ceil(1024)).unwrap_or(u32::MAX);
            let asked = timeout(UPLOAD_WAIT, Arc::clone(&self.room).acquire_many_owned(kilobytes));
            let asked = async move { asked.await.map_err(|_| ())?.map_err(|_| ()) };
            self.waiting = Some((piece, Box::pin(asked)));
        }
        let Some((_, asked)) = self.waiting.as_mut() else { return Poll::Pending };
        match asked.as_mut().poll(context) {
            Poll::Pending => Poll::Pending,
            Poll::Ready(Err(())) => given_up(ErrorKind::ResourceBusy),
            Poll::Ready(Ok(permit)) => {
                self.held.lock().unwrap_or_else(PoisonError::into_inner).push(permit);
                let waited = self.waiting.take();
                Poll::Ready(waited.map(|(piece, _)| Ok(piece)))
            }
        }
    }
}
