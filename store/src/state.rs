//! What the change log keeps of an object: its state, in a form that outlives the schema.

use super::StoreError;
use super::access::Access;
use chrono::NaiveDateTime;
use diesel::MysqlConnection;
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::{Map, Value};
use uuid::Uuid;

/// The fields of a state.
pub(super) type Fields = Map<String, Value>;

/// An object as it stood: what it holds but its version and account, when it was removed, and the form that it was kept in.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct State(Fields);

/// An object as it stood: its id, itself, and when it was removed.
pub(super) type AuditSnapshot<T> = (Uuid, T, Option<NaiveDateTime>);

/// What the change log follows: how its states are read, kept and put back.
///
/// A state that was kept before a migration is still read after it: columns that came later have a `serde(default)`, and what that
/// can't express is done by [`Audited::upgrade`].
pub(super) trait Audited: Serialize + DeserializeOwned {
    /// The form of the states that are kept now. Counted up when [`Audited::upgrade`] learns something.
    const SCHEMA_VERSION: u64 = 0;

    /// Brings the fields of a state in an older form into the present one.
    fn upgrade(_form: u64, _fields: &mut Fields) {}

    /// Objects of the account as they stand, removed ones too, each with when it was removed.
    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError>;

    /// Puts objects of the account back as they stood.
    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError>;
}

/// Fields that every state has beside those of its kind.
const REMOVED_AT: &str = "removed_at";
const SCHEMA_VERSION_FIELD: &str = "form";
/// Fields that say nothing of how an object looks.
const NOT_KEPT: [&str; 2] = ["version", "account_id"];

/// Fields that nobody sees.
const UNSEEN: [&str; 2] = ["stated_at", "token_hash"];

impl State {
    /// Of an object as it stands.
    pub(super) fn of<T: Audited>(object: &T, removed_at: Option<NaiveDateTime>) -> State {
        let mut fields = match serde_json::to_value(object) {
            Ok(Value::Object(fields)) => fields,
            other => unreachable!("what is logged is a struct of plain fields, not {other:?}"),
        };
        NOT_KEPT.iter().for_each(|field| drop(fields.remove(*field)));
        fields.insert(REMOVED_AT.to_owned(), time(removed_at));
        fields.insert(SCHEMA_VERSION_FIELD.to_owned(), Value::from(T::SCHEMA_VERSION));
        State(fields)
    }

    /// Out of the log, brought into the present form.
    pub(super) fn read<T: Audited>(text: &str) -> Result<State, StoreError> {
        let state = State(serde_json::from_str(text).map_err(|_| StoreError::Corrupt("change_item.state"))?);
        Ok(State::of(&state.object::<T>()?, state.removed_at()))
    }

    /// As the log keeps it.
    pub(super) fn text(&self) -> String {
        Value::Object(self.0.clone()).to_string()
    }

    /// The object; version and account are the caller's to set.
    pub(super) fn object<T: Audited>(&self) -> Result<T, StoreError> {
        let mut fields = self.0.clone();
        let version = fields.get(SCHEMA_VERSION_FIELD).and_then(Value::as_u64).unwrap_or(0);
        if version < T::SCHEMA_VERSION {
            T::upgrade(version, &mut fields);
        }
        fields.insert("version".to_owned(), Value::from(0));
        fields.insert("account_id".to_owned(), Value::from(Uuid::nil().to_string()));
        serde_json::from_value(Value::Object(fields)).map_err(|_| StoreError::Corrupt("change_item.state"))
    }

    /// When it was removed.
    pub(super) fn removed_at(&self) -> Option<NaiveDateTime> {
        serde_json::from_value(self.0.get(REMOVED_AT)?.clone()).ok()?
    }

    /// The same object, removed at a time.
    pub(super) fn removed(mut self, at: NaiveDateTime) -> State {
        self.0.insert(REMOVED_AT.to_owned(), time(Some(at)));
        self
    }

    /// Whether an object in this state looks to people as in the other: removed is removed, whenever that was, a weight that was said
    /// is the same whenever it was said, and a link is the same whatever opens it.
    pub(super) fn looks_like(&self, other: &State) -> bool {
        let shown = |state: &State| {
            let mut fields = state.0.clone();
            fields.insert(REMOVED_AT.to_owned(), Value::from(state.removed_at().is_some()));
            UNSEEN.iter().for_each(|field| drop(fields.remove(*field)));
            fields
        };
        shown(self) == shown(other)
    }

    /// Whether it was removed.
    pub(super) fn is_removed(&self) -> bool {
        self.removed_at().is_some()
    }

    /// One of its fields.
    pub(super) fn field(&self, name: &str) -> Option<&Value> {
        self.0.get(name)
    }

    /// The name in it, for messages.
    pub(super) fn name(&self) -> Option<&str> {
        self.0.get("name").and_then(Value::as_str)
    }
}

fn time(at: Option<NaiveDateTime>) -> Value {
    serde_json::to_value(at).unwrap_or_default()
}

/// The rows of an account by their ids, as the change log reads them: for [`Audited::current`].
macro_rules! rows_of_account {
    ($row:ident, $table:ident, $id:ident) => {
        fn current(
            c: &mut MysqlConnection,
            access: Access,
            ids: &[Uuid],
        ) -> Result<Vec<$crate::state::AuditSnapshot<Self>>, StoreError> {
            let ids: Vec<$id> = ids.iter().copied().map($id).collect();
            let rows: Vec<($row, Option<NaiveDateTime>)> = $table::table
                .filter($table::id.eq_any(ids))
                .filter($table::account_id.eq(access.account()))
                .select(($row::as_select(), $table::removed_at))
                .load(c)?;
            Ok(rows.into_iter().map(|(row, removed_at)| (row.id.0, row, removed_at)).collect())
        }
    };
}

/// Puts rows of an account back as they stood, each at a version of its own: for [`Audited::put_back`].
macro_rules! rows_put_back {
    ($row:ident, $table:ident, $id:ident) => {
        fn put_back(
            c: &mut MysqlConnection,
            access: Access,
            objects: Vec<$crate::state::AuditSnapshot<Self>>,
        ) -> Result<(), StoreError> {
            let ids: Vec<$id> = objects.iter().map(|(id, ..)| $id(*id)).collect();
            let mine = $table::table.filter($table::id.eq_any(ids)).filter($table::account_id.eq(access.account()));
            let there: Vec<($id, i32)> = mine.select(($table::id, $table::version)).load(c)?;
            let versions: std::collections::HashMap<$id, i32> = there.into_iter().collect();
            let row = |(id, row, removed_at): $crate::state::AuditSnapshot<Self>| {
                let id = $id(id);
                let version = versions.get(&id).ok_or(StoreError::NotFound)? + 1;
                let row = $row { id, account_id: access.account(), version, ..row };
                Ok((row, $table::removed_at.eq(removed_at)))
            };
            let rows = objects.into_iter().map(row).collect::<Result<Vec<_>, StoreError>>()?;
            $crate::upsert::upsert($table::table, rows).execute(c)?;
            Ok(())
        }
    };
}

pub(super) use {rows_of_account, rows_put_back};
