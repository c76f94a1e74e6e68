//! How anything of an account is written: one use case, one transaction, one entry of the change log, once.

use super::{Caller, ServiceError, Services};
use diesel::{Connection as _, MysqlConnection};
use kevyt_store::event::{Entry, Event};
use kevyt_store::history::{self, Item, Object, State};
use kevyt_store::id::ChangeId;
use kevyt_store::idempotency::{self, KeptAnswer, Request};
use kevyt_store::{self as store, Connection, StoreError, accounts};
use std::collections::{HashMap, HashSet};
use std::sync::atomic::Ordering;
use std::time::{Duration, Instant};

/// How often a use case is tried whose transaction gave way to another one, or whose end nobody knows.
const TRIES: u32 = 6;
/// How long it is asked what has become of a commit before the client is told that nobody knows.
const COMMIT_CHECK_TIMEOUT: Duration = Duration::from_secs(4);
/// The longest wait before the second try; it doubles with each.
const FIRST_WAIT: Duration = Duration::from_millis(8);

/// A use case that changes something, under way. Nobody else changes anything of the account meanwhile.
pub struct Write<'c> {
    /// The connection of its transaction.
    pub(super) c: &'c mut MysqlConnection,
    /// Who asks.
    pub(super) caller: Caller,
    /// What it touches, in the order in which it does.
    touched: Vec<Object>,
    known: HashSet<Object>,
    before: HashMap<Object, State>,
    entry: Option<Entry>,
    undoes: Option<ChangeId>,
}

/// What a use case did.
#[derive(Debug)]
pub struct Written {
    /// The change, to undo it by; none if nothing was changed.
    pub change: Option<ChangeId>,
    /// What it gave, as JSON.
    pub body: String,
}

/// What writes and gives its answer as JSON.
pub type UseCase<'u> = dyn Fn(&mut Write<'_>) -> Result<String, ServiceError> + 'u;

impl<'c> Write<'c> {
    /// Over a transaction in which nobody else can change anything of the account.
    pub(super) fn new(c: &'c mut MysqlConnection, caller: Caller) -> Write<'c> {
        let (touched, known, before) = (Vec::new(), HashSet::new(), HashMap::new());
        Write { c, caller, touched, known, before, entry: None, undoes: None }
    }

    /// Notes how objects stand. To be called before each is changed; those that are to be added stand nowhere yet.
    pub(super) fn touch(&mut self, objects: impl IntoIterator<Item = impl Into<Object>>) -> Result<(), ServiceError> {
        let mut new: Vec<Object> = objects.into_iter().map(Into::into).collect();
        new.retain(|object| self.known.insert(*object));
        self.before.extend(history::states(self.c, self.caller.access, &new)?);
        self.touched.append(&mut new);
        Ok(())
    }

    /// How an object stood when it was touched; `None` if it stood nowhere.
    pub(super) fn before(&self, object: &Object) -> Option<&State> {
        self.before.get(object)
    }

    /// What this does, for the change log.
    pub(super) fn log(&mut self, event: Event) {
        self.entry = Some(Entry::done(event));
    }

    /// What this takes back or does again, for the change log.
    pub(super) fn log_again(&mut self, entry: Entry) {
        self.entry = Some(entry);
    }

    /// Names the change that this takes back.
    pub(super) fn undoes(&mut self, change: ChangeId) {
        self.undoes = Some(change);
    }

    /// Writes the change, if there is one.
    fn finish(mut self) -> Result<Option<ChangeId>, ServiceError> {
        let mut after = history::states(self.c, self.caller.access, &self.touched)?;
        let items: Vec<Item> = self
            .touched
            .iter()
            .filter_map(|object| Item::new(*object, self.before.remove(object), after.remove(object)))
            .collect();
        if items.is_empty() {
            return Ok(None);
        }
        let unlogged = || ServiceError::Internal("a change that says nothing for the change log".to_owned());
        let entry = self.entry.take().ok_or_else(unlogged)?;
        self.note_bases(&items, &entry)?;
        Ok(Some(history::insert(self.c, self.caller.access, &entry, self.undoes, &items)?))
    }
}

impl Services {
    /// Carries a use case out, and keeps what it answers by what names the request: asked again, it is not carried out again.
    ///
    /// The writes of one account wait for one another at its row, so that whatever a use case looks at still stands when it writes.
    /// A transaction that gave way to another one is tried again; so is one of which nobody knows whether it was committed, since the
    /// answer that it kept says whether it was.
    pub fn write(&self, caller: Caller, use_case: &UseCase<'_>) -> Result<Written, ServiceError> {
        // A request that nothing names is named here, for the tries that follow.
        let named = |key| Request { key, asked: None };
        let request = caller.request.map_or_else(|| random().map(named), Ok)?;
        let caller = Caller { request: Some(request), ..caller };
        let begun = Instant::now();
        let (mut tries, mut unknown) = (1, None);
        loop {
            match self.attempt(caller, use_case) {
                Err(ServiceError::Store(StoreError::CommitUnknown(why))) => unknown = Some(why),
                Err(ServiceError::Store(StoreError::Unavailable(why))) if unknown.is_some() => unknown = Some(why),
                Err(ServiceError::Store(StoreError::Deadlock(why))) if tries < TRIES => {
                    self.retries.fetch_add(1, Ordering::Relaxed);
                    tracing::debug!("{why}: again");
                }
                other => return other,
            }
            if let Some(why) = unknown.take_if(|_| tries >= TRIES || begun.elapsed() > COMMIT_CHECK_TIMEOUT) {
                return Err(StoreError::CommitUnknown(why).into());
            }
            wait_before(&mut tries)?;
        }
    }

    fn attempt(&self, caller: Caller, use_case: &UseCase<'_>) -> Result<Written, ServiceError> {
        let Caller { access, request, .. } = caller;
        self.once(|c| {
            accounts::lock(c, access)?;
            if let Some((change, body)) =
                request.map(|request| idempotency::find(c, access, request)).transpose()?.flatten()
            {
                return Ok(Written { change, body });
            }
            let mut write = Write::new(c, caller);
            let body = use_case(&mut write)?;
            let done: KeptAnswer = (write.finish()?, body);
            request.map(|request| idempotency::insert(c, access, request, &done)).transpose()?;
            Ok(Written { change: done.0, body: done.1 })
        })
    }

    /// One transaction, tried again if it gave way to another one.
    pub(super) fn transaction<T>(
        &self,
        work: impl Fn(&mut MysqlConnection) -> Result<T, ServiceError>,
    ) -> Result<T, ServiceError> {
        let mut tries = 1;
        loop {
            match self.once(&work) {
                Err(ServiceError::Store(StoreError::Deadlock(_))) if tries < TRIES => {
                    self.retries.fetch_add(1, Ordering::Relaxed);
                    wait_before(&mut tries)?;
                }
                other => return other,
            }
        }
    }

    /// One transaction, tried once. If the connection breaks while it is being committed, nobody knows whether it was:
    /// [`StoreError::CommitUnknown`].
    fn once<T>(&self, work: impl FnOnce(&mut MysqlConnection) -> Result<T, ServiceError>) -> Result<T, ServiceError> {
        let mut c = self.connection()?;
        store::begin(&mut c)?;
        let done = work(&mut c).and_then(|value| Ok(store::commit(&mut c).map(|()| value)?));
        if done.is_err() {
            store::roll_back(&mut c);
        }
        done
    }

    /// Several reads that see one state of the database.
    pub(super) fn read<T>(
        &self,
        work: impl FnOnce(&mut Connection) -> Result<T, ServiceError>,
    ) -> Result<T, ServiceError> {
        let mut c = self.connection()?;
        store::begin_snapshot(&mut c)?;
        c.transaction(work)
    }
}

/// Waits for a moment before the next try: some part of a span that doubles with each, so that two that met don't meet again.
fn wait_before(tries: &mut u32) -> Result<(), ServiceError> {
    let [part] = random::<1>()?;
    std::thread::sleep((FIRST_WAIT * (1 << *tries)).mul_f64(f64::from(part) / 255.0));
    *tries += 1;
    Ok(())
}

fn random<const N: usize>() -> Result<[u8; N], ServiceError> {
    let mut bytes = [0; N];
    getrandom::fill(&mut bytes).map_err(|error| ServiceError::Internal(error.to_string()))?;
    Ok(bytes)
}
