//! The change log: what was done, and how to take it back.

use super::{Caller, ServiceError, Services};
use crate::store::history::{self, Change, Item, Object, State, UndoError};
use crate::store::id::{AccountId, ChangeId, GearId};
use diesel::MysqlConnection;
use std::collections::{HashMap, HashSet};

/// The outcome of a use case that is in the change log.
#[derive(Debug)]
pub struct Changed<T> {
    /// What it gave.
    pub value: T,
    /// The change, to undo it by; none if nothing was changed.
    pub change: Option<ChangeId>,
}

/// Notes what a use case touches, before it does, and writes the change when it is through.
pub(super) struct Recorder {
    account: AccountId,
    /// In the order in which they were touched.
    touched: Vec<Object>,
    known: HashSet<Object>,
    before: HashMap<Object, State>,
}

impl Recorder {
    pub(super) fn new(account: AccountId) -> Recorder {
        Recorder { account, touched: Vec::new(), known: HashSet::new(), before: HashMap::new() }
    }

    /// Notes how objects stand. To be called before each is changed; those that are to be added stand nowhere yet.
    pub(super) fn touch(
        &mut self,
        c: &mut MysqlConnection,
        objects: impl IntoIterator<Item = impl Into<Object>>,
    ) -> Result<(), ServiceError> {
        let mut new: Vec<Object> = objects.into_iter().map(Into::into).collect();
        new.retain(|object| self.known.insert(*object));
        self.before.extend(history::states(c, self.account, &new)?);
        self.touched.append(&mut new);
        Ok(())
    }

    /// Writes the change, if there is one, with a sentence that says what was done.
    pub(super) fn finish<T>(
        mut self,
        c: &mut MysqlConnection,
        said: &str,
        value: T,
    ) -> Result<Changed<T>, ServiceError> {
        let mut after = history::states(c, self.account, &self.touched)?;
        let items: Vec<Item> = self
            .touched
            .iter()
            .filter_map(|object| Item::new(*object, self.before.remove(object), after.remove(object)))
            .collect();
        let change = if items.is_empty() { None } else { Some(history::insert(c, self.account, said, &items)?) };
        Ok(Changed { value, change })
    }
}

impl Services {
    /// Changes, newest first; of one thing if one is named.
    pub fn changes(
        &self,
        caller: Caller,
        of: Option<GearId>,
        before: Option<ChangeId>,
        limit: u32,
    ) -> Result<Vec<Change>, ServiceError> {
        Ok(history::page(&mut *self.connection()?, caller.account, of.map(Object::from), before, limit)?)
    }

    /// Takes a change back, if nothing that it touched has been changed since.
    pub fn undo(&self, caller: Caller, id: ChangeId) -> Result<Change, ServiceError> {
        self.transaction(|c| Ok(history::undo(c, caller.account, id)?))
    }
}

impl From<UndoError> for ServiceError {
    fn from(error: UndoError) -> ServiceError {
        match error {
            UndoError::Store(error) => error.into(),
            UndoError::Undone => ServiceError::Undone,
            UndoError::Since(name) => ServiceError::ChangedSince(name),
        }
    }
}
