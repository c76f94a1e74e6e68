//! Planning: how many plans are worked out at a time, for whom, and what is not worked out again. A plan is given as soon as it is there;
//! its near misses, which may take longer, are asked for by themselves.

use super::metrics::PLANS;
use super::near_misses::NearMissesOut;
use super::plan::PlanOut;
use super::problem::ProblemDoc;
use super::turns::{Turn, Turns};
use super::{App, Caller};
use crate::service::{ServiceError, Services};
use crate::store::access::Access;
use crate::store::id::ListId;
use actix_web::http::StatusCode;
use bytes::Bytes;
use lru::LruCache;
use serde::Serialize;
use std::cell::Cell;
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

/// What is asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Part {
    /// The plan.
    Plan,
    /// Its near misses.
    NearMisses,
}

/// Works plans out on threads of its own that give way to everything else: one at a time for an account, and in all no more than there
/// are cores. Answers are kept until something is written of anybody whose rows the list has.
pub struct Planner {
    seats: Arc<Semaphore>,
    turns: Turns<Access>,
    kept: Mutex<Kept>,
    /// Whether the server is about to end.
    stopping: Arc<AtomicBool>,
}

/// Answers by account and list, each with the revision that it is of.
struct Kept {
    answers: LruCache<(Access, ListId, Part), (i64, Bytes)>,
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

    fn kept(&self, access: Access, list: ListId, part: Part, revision: i64) -> Option<Bytes> {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        kept.answers.get(&(access, list, part)).filter(|answer| answer.0 == revision).map(|answer| answer.1.clone())
    }

    fn keep(&self, access: Access, list: ListId, part: Part, revision: i64, answer: Bytes) {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        kept.bytes += answer.len();
        if let Some((_, (_, old))) = kept.answers.push((access, list, part), (revision, answer)) {
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
    /// The plan of a list, or its near misses, as JSON: as worked out before, if nothing of the account was written since.
    pub async fn planned(&self, caller: Caller, list: ListId, part: Part) -> Result<Bytes, ProblemDoc> {
        let planner = Arc::clone(&self.planner);
        let revision = self.run(move |services| services.revision(caller, list)).await?;
        if let Some(answer) = planner.kept(caller.access, list, part, revision) {
            return Ok(answer);
        }
        let turn = planner.turns.of(caller.access);
        let waiting = async {
            let place = turn.wait(part == Part::Plan).await;
            let seat = Arc::clone(&planner.seats).acquire_owned().await;
            seat.ok().map(|seat| (place, seat))
        };
        let Ok(Some(places)) = timeout(WAIT, waiting).await else {
            let detail = "Too many plans are being calculated at once. Nothing was changed. Try again in a moment.";
            return Err(ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Busy", "busy", detail));
        };
        // Whoever had the turn before may have worked this one out.
        let revision = self.run(move |services| services.revision(caller, list)).await?;
        if let Some(answer) = planner.kept(caller.access, list, part, revision) {
            return Ok(answer);
        }
        let left = Arc::new(AtomicBool::new(false));
        let _leaving = Leaving(Arc::clone(&left));
        let (send, receive) = oneshot::channel();
        let work = Work { services: Arc::clone(&self.services), planner, turn, caller, list, left };
        let work = move || {
            // The places are given back when the work has ended, not when whoever asked has left.
            let _places = places;
            give_way();
            let _counted = Counted::new();
            work.out(part, send);
        };
        std::thread::Builder::new().name("planning".to_owned()).spawn(work).map_err(ProblemDoc::internal)?;
        let answer = receive.await.map_err(|_| ProblemDoc::internal("the planning thread was lost"))?;
        answer.map_err(ProblemDoc::from)
    }
}

/// A plan to be worked out.
struct Work {
    services: Arc<Services>,
    planner: Arc<Planner>,
    turn: Arc<Turn>,
    caller: Caller,
    list: ListId,
    /// Whether whoever asked has left.
    left: Arc<AtomicBool>,
}

impl Work {
    /// Works it out, and sends the part that was asked for as soon as it is there.
    fn out(self, part: Part, send: oneshot::Sender<Result<Bytes, ServiceError>>) {
        let (mut send, mut of) = (Some(send), 0);
        let mut answer = |of: Part, answer: Result<Bytes, ServiceError>| {
            if of == part
                && let Some(send) = send.take()
            {
                // Nobody listens any more where whoever asked has left.
                drop(send.send(answer));
            }
        };
        let is_ending = || self.planner.stopping.load(Ordering::Relaxed);
        let has_left = || self.left.load(Ordering::Relaxed) || is_ending();
        // Whoever asked for the plan has it by then, and only a plan that is waited for is more urgent; whoever asked for the near misses
        // waits for them.
        let is_left = Cell::new(false);
        let should_leave = || {
            let is_over = match part {
                Part::Plan => self.turn.is_wanted(),
                Part::NearMisses => has_left(),
            };
            is_left.set(is_left.get() || is_over || is_ending());
            is_left.get()
        };
        let tell = |revision, planned| {
            of = revision;
            let plan = json(&PlanOut::new(revision, planned))?;
            if !has_left() {
                self.keep(Part::Plan, revision, &plan);
            }
            answer(Part::Plan, Ok(plan));
            Ok(())
        };
        let near = self.services.plan(self.caller, self.list, &has_left, &should_leave, tell);
        let near = near.and_then(|later| json(&NearMissesOut::new(of, later)));
        if let Ok(near) = &near
            && !is_left.get()
        {
            self.keep(Part::NearMisses, of, near);
        }
        // What went wrong goes to whoever asked, whatever for.
        match near {
            Ok(near) => answer(Part::NearMisses, Ok(near)),
            Err(error) => answer(part, Err(error)),
        }
    }

    fn keep(&self, part: Part, revision: i64, answer: &Bytes) {
        self.planner.keep(self.caller.access, self.list, part, revision, answer.clone());
    }
}

fn json(answer: &impl Serialize) -> Result<Bytes, ServiceError> {
    Ok(serde_json::to_vec(answer).map_err(|error| ServiceError::Internal(error.to_string()))?.into())
}

/// Lets this thread have what cores have to spare.
fn give_way() {
    if let Err(error) = rustix::process::setpriority_process(Some(rustix::thread::gettid()), NICE) {
        tracing::debug!("planning does not give way: {error}");
    }
}
