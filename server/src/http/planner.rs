//! Planning: how many plans are calculated at a time, for whom, and what is not calculated again. A plan is given as soon as it is there;
//! its near misses, which may take longer, are asked for by themselves, and so is the plan of a year's lists.

use super::kept::Kept;
use super::locks::{Lock, Locks};
use super::near_misses::NearMissesOut;
use super::plan::PlanOut;
use super::plan_key::PlanKey;
use super::problem::ProblemDoc;
use super::wire::json;
use super::year::YearOut;
use super::{App, Caller};
use crate::metrics::PLANS;
use actix_web::http::StatusCode;
use bytes::Bytes;
use kevyt_service::plans::Stops;
use kevyt_service::stored::{Access, ListId};
use kevyt_service::{ServiceError, Services};
use std::cell::Cell;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;
use tokio::sync::{Semaphore, oneshot};
use tokio::time::timeout;

/// The most bytes of plans that are kept.
const KEPT_BYTES: usize = 24 * 1024 * 1024;
/// How long a plan waits for others before the client is told so.
const WAIT: Duration = Duration::from_secs(60);
/// How much planning gives way to everything else (nice value): it takes what cores have to spare.
const NICE: i32 = 10;

/// Works plans out on threads of its own that give way to everything else: one at a time for an account, and in all no more than there
/// are cores. Answers are kept until something is written of anybody whose rows the list has.
pub struct Planner {
    seats: Arc<Semaphore>,
    locks: Locks<Access>,
    kept: Kept<(Access, PlanKey), Bytes>,
    /// Whether the server is about to end.
    stopping: Arc<AtomicBool>,
}

/// Says stop when the client has left.
struct Leaving(Arc<AtomicBool>);

impl Drop for Leaving {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

/// A plan that is being calculated, as it is counted, however it ends.
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
        let kept = Kept::new(KEPT_BYTES, Bytes::len);
        Planner { seats: Arc::new(Semaphore::new(seats)), locks: Locks::default(), kept, stopping: Arc::default() }
    }

    /// Brings every plan that is calculated to its end: the client gets it as far as it came, and nothing of it is kept.
    pub fn stop(&self) {
        self.stopping.store(true, Ordering::Relaxed);
    }
}

impl App {
    /// What is asked for, as JSON: as calculated before, if nothing that it hangs on was written since.
    pub async fn planned(&self, caller: Caller, key: PlanKey) -> Result<Bytes, ProblemDoc> {
        let planner = Arc::clone(&self.planner);
        let revision = self.run(move |services| key.revision(services, caller)).await?;
        if let Some(answer) = planner.kept.get(&(caller.access, key), revision) {
            return Ok(answer);
        }
        let lock = planner.locks.of(caller.access);
        let waiting = async {
            let place = lock.wait(matches!(key, PlanKey::Plan(_))).await;
            let seat = Arc::clone(&planner.seats).acquire_owned().await;
            seat.ok().map(|seat| (place, seat))
        };
        let Ok(Some(places)) = timeout(WAIT, waiting).await else {
            let detail = "Too many plans are being calculated at once. Nothing was changed. Try again in a moment.";
            return Err(ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Busy", "busy", detail));
        };
        // Whatever held the lock before may have calculated this one.
        let revision = self.run(move |services| key.revision(services, caller)).await?;
        if let Some(answer) = planner.kept.get(&(caller.access, key), revision) {
            return Ok(answer);
        }
        let left = Arc::new(AtomicBool::new(false));
        let _leaving = Leaving(Arc::clone(&left));
        let (send, receive) = oneshot::channel();
        let work = Work { services: Arc::clone(&self.services), planner, lock, caller, left };
        let work = move || {
            // The places are given back when the work has ended, not when the client has left.
            let _places = places;
            give_way();
            let _counted = Counted::new();
            match key {
                PlanKey::Plan(list) | PlanKey::NearMisses(list) => work.of_list(list, key, send),
                PlanKey::Year => work.of_year(send),
            }
        };
        std::thread::Builder::new().name("planning".to_owned()).spawn(work).map_err(ProblemDoc::internal)?;
        let answer = receive.await.map_err(|_| ProblemDoc::internal("the planning thread was lost"))?;
        answer.map_err(ProblemDoc::from)
    }
}

/// A plan to be calculated.
struct Work {
    services: Arc<Services>,
    planner: Arc<Planner>,
    lock: Arc<Lock>,
    caller: Caller,
    /// Whether the client has left.
    left: Arc<AtomicBool>,
}

impl Work {
    /// Works the plan of a list out with its near misses, and sends what was asked for as soon as it is there.
    fn of_list(self, list: ListId, key: PlanKey, send: oneshot::Sender<Result<Bytes, ServiceError>>) {
        let (mut send, mut of) = (Some(send), 0);
        let mut answer = |of: PlanKey, answer: Result<Bytes, ServiceError>| {
            if of == key
                && let Some(send) = send.take()
            {
                // Nobody listens any more where the client has left.
                drop(send.send(answer));
            }
        };
        let is_ending = || self.planner.stopping.load(Ordering::Relaxed);
        let has_left = || self.left.load(Ordering::Relaxed) || is_ending();
        // The client that asked for the plan has it by then, and only a plan that is waited for is more urgent; the one that asked for the near misses
        // waits for them.
        let is_left = Cell::new(false);
        let should_leave = || {
            let is_over = match key {
                PlanKey::NearMisses(_) => has_left(),
                _ => self.lock.is_wanted(),
            };
            is_left.set(is_left.get() || is_over || is_ending());
            is_left.get()
        };
        let tell = |revision, planned| {
            of = revision;
            let plan = json(&PlanOut::new(revision, planned))?;
            if !has_left() {
                self.keep(PlanKey::Plan(list), revision, &plan);
            }
            answer(PlanKey::Plan(list), Ok(plan));
            Ok(())
        };
        let near = self.services.plan(self.caller, list, Stops { plan: &has_left, rest: &should_leave }, tell);
        let near = near.and_then(|later| json(&NearMissesOut::new(of, later)));
        if let Ok(near) = &near
            && !is_left.get()
        {
            self.keep(PlanKey::NearMisses(list), of, near);
        }
        // What went wrong goes to the client, whatever it asked for.
        match near {
            Ok(near) => answer(PlanKey::NearMisses(list), Ok(near)),
            Err(error) => answer(key, Err(error)),
        }
    }

    /// Works the plan of the year's lists out.
    fn of_year(self, send: oneshot::Sender<Result<Bytes, ServiceError>>) {
        let is_over = || self.left.load(Ordering::Relaxed) || self.planner.stopping.load(Ordering::Relaxed);
        let year = self.services.year(self.caller, &is_over);
        let year = year.and_then(|year| Ok((year.revision, json(&YearOut::from(year))?)));
        if let Ok((revision, answer)) = &year
            && !is_over()
        {
            self.keep(PlanKey::Year, *revision, answer);
        }
        // Nobody listens any more where the client has left.
        drop(send.send(year.map(|(_, answer)| answer)));
    }

    fn keep(&self, key: PlanKey, revision: i64, answer: &Bytes) {
        self.planner.kept.put((self.caller.access, key), revision, answer.clone());
    }
}

/// Lets this thread have what cores have to spare.
fn give_way() {
    if let Err(error) = rustix::process::setpriority_process(Some(rustix::thread::gettid()), NICE) {
        tracing::debug!("planning does not give way: {error}");
    }
}
