//! The web side: read the request, ask a service, answer. No rule, no query.

mod account;
mod account_file;
mod after;
mod assets;
mod candidates;
mod cautions;
mod completion;
mod done;
mod files;
mod forecast;
mod gear;
mod guard;
#[macro_use]
mod handlers;
mod history;
mod kept;
mod kits;
mod lessons;
mod lighter;
mod lists;
mod locks;
mod near_misses;
mod openapi;
mod outfits;
mod outside;
mod packing;
mod plan;
mod plan_key;
mod planner;
mod problem;
mod proposals;
mod quick_line;
mod ranking;
mod scale;
mod sheet;
mod shop;
mod sure;
mod swaps;
mod terms;
mod together;
mod tracked;
mod transport;
mod trips;
mod visitor;
mod vocabulary;
mod weigh;
mod wire;
mod year;

pub use openapi::document;

use actix_web::HttpResponse;
use actix_web::Scope;
use actix_web::http::StatusCode;
use actix_web::http::header::ContentType;
use actix_web::web::{self, Data, ServiceConfig};
use bytes::Bytes;
pub use kept::Kept;
use kevyt_service::account::{Digest, digest};
use kevyt_service::stored::{Access, CONNECTIONS, GearId, Page, StoreError};
use kevyt_service::{Caller, ServiceError, Services, Write, Written, asked_at};
use locks::Locks;
use planner::Planner;
use problem::ProblemDoc;
use serde::Serialize;
use std::sync::Arc;
use std::time::{Duration, Instant};
use tokio::sync::Semaphore;
use tokio::time::{timeout, timeout_at};
use tracing::Span;

/// When the client is told that there is no answer: a database that hangs says nothing, and a client library waits for it for ever.
const DEADLINE: Duration = Duration::from_millis(5_800);
/// The same for what may be much: files, and what changes thousands of things.
const LONG_DEADLINE: Duration = Duration::from_secs(30);

/// How long a turn at the database is waited for; with a connection that is waited for after that, the client has an answer within 6 s.
const PERMIT_WAIT: Duration = Duration::from_millis(4_500);

/// What handlers share.
#[derive(Clone)]
pub struct App {
    services: Arc<Services>,
    /// Hashing a password uses a core: no more of it at a time than there are cores, and nothing else waits for the same turn.
    hashing: Arc<Semaphore>,
    /// Reading a large file does too.
    files: Arc<Semaphore>,
    /// And working out what was read.
    working: Arc<Semaphore>,
    planner: Arc<Planner>,
    /// Pages of gear.
    pages: Arc<Kept<(Access, Page), Bytes>>,
    /// Things on such pages, each by its version: of a page that has changed, most have not.
    things: Arc<Kept<GearId, gear::ThingJson>>,
    /// The writes of one account, one at a time: what waits holds no connection.
    writing: Arc<Locks<Access>>,
    /// Sign-ins with one name, where many have failed, one at a time.
    signing_in: Arc<Locks<Digest>>,
    /// Connections to the database, in the order in which they are asked for: a request that waited for one at the pool would hold a thread,
    /// and have it by chance.
    connections: Arc<Semaphore>,
}

/// The most bytes of pages that are kept, and of things on them: they push no plan out, which took longer to make.
const PAGES_BYTES: usize = 12 * 1024 * 1024;

/// Where the files are that may be large.
const FILES: &str = "/api/files/";

/// A use case that writes, and gives its answer as JSON.
type UseCase = Box<dyn Fn(&mut Write<'_>) -> Result<String, ServiceError> + Send>;

impl App {
    /// Over these services.
    pub fn new(services: Arc<Services>) -> App {
        let cores = std::thread::available_parallelism().map_or(2, std::num::NonZero::get);
        let seats = || Arc::new(Semaphore::new(cores));
        App {
            services,
            hashing: seats(),
            files: seats(),
            working: seats(),
            planner: Arc::new(Planner::new(cores)),
            pages: Arc::new(Kept::new(PAGES_BYTES, Bytes::len)),
            things: Arc::new(Kept::new(PAGES_BYTES, |json: &gear::ThingJson| json.get().len())),
            writing: Arc::default(),
            signing_in: Arc::default(),
            connections: Arc::new(Semaphore::new(CONNECTIONS.try_into().unwrap_or(1))),
        }
    }

    /// Ends what takes long and would hold up the end of the server: the plans that are calculated say how far they came.
    pub fn stop(&self) {
        self.planner.stop();
    }

    /// Runs a use case that reads, off the async threads.
    async fn run<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Services) -> Result<T, ServiceError> + Send + 'static,
    ) -> Result<T, ProblemDoc> {
        self.run_within(DEADLINE, StoreError::Unavailable, work).await
    }

    /// As [`App::run`], and writes its answer as JSON there too: of a large one that takes as long as reading it.
    async fn run_json<T: Serialize>(
        &self,
        work: impl FnOnce(&Services) -> Result<T, ServiceError> + Send + 'static,
    ) -> Result<HttpResponse, ProblemDoc> {
        let body = self.run(move |services| wire::json(&work(services)?)).await?;
        Ok(HttpResponse::Ok().insert_header(ContentType::json()).body(body))
    }

    /// As [`App::run_json`], of a page that hangs on the caller's account alone: as it was answered before, if nothing was written since.
    /// What is read says of which revision it is.
    async fn run_kept<T: Serialize>(
        &self,
        caller: Caller,
        page: Page,
        work: impl FnOnce(&Services) -> Result<(i64, T), ServiceError> + Send + 'static,
    ) -> Result<HttpResponse, ProblemDoc> {
        let pages = Arc::clone(&self.pages);
        let work = move |services: &Services| {
            if let Some(before) = pages.get(&(caller.access, page), services.account_revision(caller)?) {
                return Ok(before);
            }
            let (revision, answer) = work(services)?;
            let answer = wire::json(&answer)?;
            pages.put((caller.access, page), revision, answer.clone());
            Ok(answer)
        };
        let body = self.run(work).await?;
        Ok(HttpResponse::Ok().insert_header(ContentType::json()).body(body))
    }

    /// Runs a use case off the async threads; `late` is the error if it does not come to its end by the deadline. It goes on
    /// all the same, and keeps its permit until it ends.
    async fn run_within<T: Send + 'static>(
        &self,
        deadline: Duration,
        late: impl FnOnce(String) -> StoreError,
        work: impl FnOnce(&Services) -> Result<T, ServiceError> + Send + 'static,
    ) -> Result<T, ProblemDoc> {
        let (services, span, asked) = (Arc::clone(&self.services), Span::current(), Instant::now());
        let permit = timeout(PERMIT_WAIT, Arc::clone(&self.connections).acquire_owned()).await;
        let permit = permit.map_err(|_| StoreError::Unavailable(format!("no connection within {PERMIT_WAIT:?}")))?;
        let work = move || {
            // Given back when the work has ended, not when the client has left.
            let _permit = permit;
            span.in_scope(|| asked_at(asked, || work(&services)))
        };
        let done = timeout_at((asked + deadline).into(), web::block(work)).await;
        done.map_err(|_| late(format!("no answer within {deadline:?}")))?
            .map_err(|_| ProblemDoc::internal("a worker was lost"))?
            .map_err(ProblemDoc::from)
    }

    /// Works something out of what was read: off the async threads, without a connection, no more at a time than there are cores.
    async fn work_out<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Services) -> T + Send + 'static,
    ) -> Result<T, ProblemDoc> {
        let seat = timeout(LONG_DEADLINE, Arc::clone(&self.working).acquire_owned()).await;
        let seat = seat.ok().and_then(Result::ok).ok_or_else(ProblemDoc::busy)?;
        let (services, span) = (Arc::clone(&self.services), Span::current());
        let work = move || {
            // Given back when the work has ended, not when the client has left.
            let _seat = seat;
            span.in_scope(|| work(&services))
        };
        web::block(work).await.map_err(|_| ProblemDoc::internal("a worker was lost"))
    }

    /// Carries out a use case that changes something, and answers with `status`, the change in `Kevyt-Change`, and what `body` makes of
    /// its outcome; with nothing where that is nothing.
    async fn write<T, B: Serialize>(
        &self,
        caller: Caller,
        status: StatusCode,
        use_case: impl Fn(&mut Write<'_>) -> Result<T, ServiceError> + Send + 'static,
        body: impl Fn(T) -> B + Send + 'static,
    ) -> Result<HttpResponse, ProblemDoc> {
        Ok(wire::changed(status, self.written(DEADLINE, caller, use_case, body).await?))
    }

    /// As [`App::write`], for what may be much.
    async fn write_much<T, B: Serialize>(
        &self,
        caller: Caller,
        status: StatusCode,
        use_case: impl Fn(&mut Write<'_>) -> Result<T, ServiceError> + Send + 'static,
        body: impl Fn(T) -> B + Send + 'static,
    ) -> Result<HttpResponse, ProblemDoc> {
        Ok(wire::changed(status, self.written(LONG_DEADLINE, caller, use_case, body).await?))
    }

    /// As [`App::write`], with the answer left to be given.
    async fn written<T, B: Serialize>(
        &self,
        deadline: Duration,
        caller: Caller,
        use_case: impl Fn(&mut Write<'_>) -> Result<T, ServiceError> + Send + 'static,
        body: impl Fn(T) -> B + Send + 'static,
    ) -> Result<Written, ProblemDoc> {
        let answer = move |write: &mut Write<'_>| {
            let value = use_case(write)?;
            Ok(serde_json::to_string(&body(value)).unwrap_or_default())
        };
        self.carry_out(deadline, caller, Box::new(answer)).await
    }

    /// The same for all use cases alike, so that it is compiled once.
    async fn carry_out(&self, deadline: Duration, caller: Caller, use_case: UseCase) -> Result<Written, ProblemDoc> {
        let lock = self.writing.of(caller.access);
        let _mine = lock.wait(false).await;
        let work = move |services: &Services| services.write(caller, &use_case);
        self.run_within(deadline, StoreError::CommitUnknown, work).await
    }

    /// Waits before a sign-in with a name is looked at, one after the other: one that waits behind too many others is refused.
    async fn wait_to_sign_in(&self, name: &str, delay: Duration) -> Result<(), ProblemDoc> {
        let lock = self.signing_in.of(digest(name));
        let waiting = async {
            let _mine = lock.wait(false).await;
            tokio::time::sleep(delay).await;
        };
        timeout(LONG_DEADLINE, waiting).await.map_err(|_| {
            let detail = "Many sign-ins with this name have failed of late. Try again in a moment, or from a browser in which you have signed in before.";
            ProblemDoc::new(StatusCode::TOO_MANY_REQUESTS, "Too many tries", "too_many_tries", detail)
        })
    }

    /// As [`App::run`], for work that hashes a password.
    async fn run_hashing<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Services) -> Result<T, ServiceError> + Send + 'static,
    ) -> Result<T, ProblemDoc> {
        let _turn = self.hashing.acquire().await.map_err(|_| ProblemDoc::internal("the server is stopping"))?;
        self.run_within(LONG_DEADLINE, StoreError::Unavailable, work).await
    }

    /// As [`App::run`], for work on a file.
    async fn run_on_file<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Services) -> Result<T, ServiceError> + Send + 'static,
    ) -> Result<T, ProblemDoc> {
        let _turn = self.files.acquire().await.map_err(|_| ProblemDoc::internal("the server is stopping"))?;
        self.run_within(LONG_DEADLINE, StoreError::Unavailable, work).await
    }
}

macro_rules! register_all {
    ($($module:ident::$handler:ident),* $(,)?) => {
        /// Registers the handlers.
        fn register(scope: Scope) -> Scope {
            scope$(.service($module::$handler))*
        }
    };
}
handlers::all!(register_all);

/// Every route.
pub fn routes(app: App) -> impl FnOnce(&mut ServiceConfig) + Clone {
    move |config| {
        config
            .app_data(Data::new(app))
            .app_data(problem::json_config(problem::BODY_KB))
            .app_data(problem::path_config())
            .app_data(problem::query_config())
            .service(
                register(web::scope("/api"))
                    .service(files::routes())
                    .service(openapi::get)
                    .default_service(web::to(problem::no_such_address)),
            )
            .default_service(web::to(assets::serve));
    }
}

pub use account_file::Utf8;
pub use guard::{asked_for, same_origin, security_headers};
pub use tracked::tracked;
pub use transport::{Uploads, available, encoded_or_not, ending_bodies, files_one_by_one, head_as_get};
pub use visitor::{Place, counted};
