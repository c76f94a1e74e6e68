//! Planning: how many plans are worked out at a time, for whom, and what is not worked out again.

use super::metrics::PLANS;
use super::plan::PlanOut;
use super::problem::ProblemDoc;
use super::turns::Turns;
use super::{App, Caller};
use crate::service::{ServiceError, Services};
use crate::store::access::Access;
use crate::store::id::ListId;
use actix_web::http::StatusCode;
use bytes::Bytes;
use lru::LruCache;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tokio::sync::{Semaphore, oneshot};
use tokio::time::timeout;

/// The most bytes of answers that are kept.
const KEPT: usize = 24 * 1024 * 1024;
/// How long a plan waits for others before whoever waits is told so.
const WAIT: Duration = Duration::from_secs(60);
/// How much planning gives way to everything else (nice value): it takes what cores have to spare.
const NICE: i32 = 10;

/// Works plans out on threads of its own that give way to everything else: one at a time for an account, and in all no more than there
/// are cores. An answer is kept until something of its account is written.
pub struct Planner {
    seats: Arc<Semaphore>,
    turns: Turns,
    kept: Mutex<Kept>,
    /// Whether the server is about to end.
    stopping: Arc<AtomicBool>,
}

/// Answers by account and list, each with the revision that it is of.
struct Kept {
    answers: LruCache<(Access, ListId), (i64, Bytes)>,
    bytes: usize,
}

/// Says stop when whoever asked has left.
struct Leaving(Arc<AtomicBool>);

impl Drop for Leaving {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

/// A plan that is being worked out, as it is counted, however it ends.
struct Counted;

impl Counted {
    fn new() -> Counted {
        PLANS.inc();
        Counted
    }
}

impl Drop for Counted {
    fn drop(&mut self) {
        PLANS.dec();
    }
}

impl Planner {
    /// With so many plans at a time.
    pub fn new(seats: usize) -> Planner {
        let kept = Mutex::new(Kept { answers: LruCache::unbounded(), bytes: 0 });
        Planner { seats: Arc::new(Semaphore::new(seats)), turns: Turns::default(), kept, stopping: Arc::default() }
    }

    /// Brings every plan that is worked out to its end: whoever waits gets it as far as it came, and nothing of it is kept.
    pub fn stop(&self) {
        self.stopping.store(true, Ordering::Relaxed);
    }

    fn kept(&self, access: Access, list: ListId, revision: i64) -> Option<Bytes> {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        kept.answers.get(&(access, list)).filter(|answer| answer.0 == revision).map(|answer| answer.1.clone())
    }

    fn keep(&self, access: Access, list: ListId, revision: i64, answer: Bytes) {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        kept.bytes += answer.len();
        if let Some((_, (_, old))) = kept.answers.push((access, list), (revision, answer)) {
            kept.bytes -= old.len();
        }
        while kept.bytes > KEPT
            && let Some((_, (_, oldest))) = kept.answers.pop_lru()
        {
            kept.bytes -= oldest.len();
        }
    }
}

impl App {
    /// The plan of a list, as JSON: the one that was worked out, if nothing of the account was written since.
    pub async fn plan(&self, caller: Caller, list: ListId) -> Result<Bytes, ProblemDoc> {
        let planner = Arc::clone(&self.planner);
        let revision = self.run(move |services| services.revision(caller)).await?;
        if let Some(answer) = planner.kept(caller.access, list, revision) {
            return Ok(answer);
        }
        let waiting = async {
            let turn = planner.turns.of(caller.access).lock_owned().await;
            let seat = Arc::clone(&planner.seats).acquire_owned().await;
            seat.ok().map(|seat| (turn, seat))
        };
        let Ok(Some(places)) = timeout(WAIT, waiting).await else {
            let detail = "Too many plans are being worked out at once. Nothing was changed. Try again in a moment.";
            return Err(ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Busy", "busy", detail));
        };
        // Whoever had the turn before may have worked this one out.
        let revision = self.run(move |services| services.revision(caller)).await?;
        if let Some(answer) = planner.kept(caller.access, list, revision) {
            return Ok(answer);
        }
        let left = Arc::new(AtomicBool::new(false));
        let _leaving = Leaving(Arc::clone(&left));
        let (send, receive) = oneshot::channel();
        let services = Arc::clone(&self.services);
        let work = move || {
            // The places are given back when the work has ended, not when whoever asked has left.
            let _places = places;
            give_way();
            let _counted = Counted::new();
            let has_left = || left.load(Ordering::Relaxed) || planner.stopping.load(Ordering::Relaxed);
            let planned = plan(&services, caller, list, &has_left);
            if let Ok((revision, answer)) = &planned
                && !has_left()
            {
                planner.keep(caller.access, list, *revision, answer.clone());
            }
            // Nobody listens any more where whoever asked has left.
            drop(send.send(planned.map(|(_, answer)| answer)));
        };
        std::thread::Builder::new().name("planning".to_owned()).spawn(work).map_err(ProblemDoc::internal)?;
        let planned = receive.await.map_err(|_| ProblemDoc::internal("the planning thread was lost"))?;
        planned.map_err(ProblemDoc::from)
    }
}

fn plan(
    services: &Services,
    caller: Caller,
    list: ListId,
    should_stop: &dyn Fn() -> bool,
) -> Result<(i64, Bytes), ServiceError> {
    let (revision, planned) = services.plan(caller, list, should_stop)?;
    let answer = serde_json::to_vec(&PlanOut::from(planned));
    Ok((revision, answer.map_err(|error| ServiceError::Internal(error.to_string()))?.into()))
}

/// Lets this thread have what cores have to spare.
fn give_way() {
    if let Err(error) = rustix::process::setpriority_process(Some(rustix::thread::gettid()), NICE) {
        tracing::debug!("planning does not give way: {error}");
    }
}
