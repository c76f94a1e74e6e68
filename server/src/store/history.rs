//! The change log: what a change touched, as it was before and after. Carries undo and history.

use super::id::{AccountId, ChangeId, GearId, KitId, LineId, ListId, SwapId, WeighingId};
use super::schema::{change_entry, change_item};
use super::{StoreError, gear, kits, lists, swaps, weighings};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::HashMap;
use uuid::Uuid;

/// What kind of thing a change touched.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
enum Kind {
    Gear,
    Weighing,
    Kit,
    List,
    Line,
    Swap,
}

impl Kind {
    const ALL: [Kind; 6] = [Kind::Gear, Kind::Weighing, Kind::Kit, Kind::List, Kind::Line, Kind::Swap];

    fn word(self) -> &'static str {
        match self {
            Kind::Gear => "gear",
            Kind::Weighing => "weighing",
            Kind::Kit => "kit",
            Kind::List => "list",
            Kind::Line => "line",
            Kind::Swap => "swap",
        }
    }
}

/// Something that the change log follows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Object {
    kind: Kind,
    id: Uuid,
}

macro_rules! followed {
    ($($id:ident $kind:ident,)*) => {$(
        impl From<$id> for Object {
            fn from(id: $id) -> Object {
                Object { kind: Kind::$kind, id: id.0 }
            }
        }
    )*};
}

followed! {
    GearId Gear,
    WeighingId Weighing,
    KitId Kit,
    ListId List,
    LineId Line,
    SwapId Swap,
}

/// An object as it stood: its row without version and account, and when it was removed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(transparent)]
pub struct State(Value);

/// An object's id and state.
pub(super) type StateRow = (Uuid, State);

impl State {
    /// Of a row.
    pub(super) fn of(row: impl Serialize, removed_at: Option<NaiveDateTime>) -> State {
        let mut value = serde_json::to_value(row).unwrap_or_default();
        if let Value::Object(fields) = &mut value {
            fields.remove("version");
            fields.remove("account_id");
            fields.insert("removed_at".to_owned(), serde_json::to_value(removed_at).unwrap_or_default());
        }
        State(value)
    }

    /// The row; version and account are the caller's to set.
    pub(super) fn row<T: DeserializeOwned>(&self, column: &'static str) -> Result<T, StoreError> {
        let mut value = self.0.clone();
        if let Value::Object(fields) = &mut value {
            fields.insert("version".to_owned(), Value::from(0));
            fields.insert("account_id".to_owned(), Value::from(Uuid::nil().to_string()));
        }
        serde_json::from_value(value).map_err(|_| StoreError::Corrupt(column))
    }

    /// When it was removed.
    pub(super) fn removed_at(&self) -> Option<NaiveDateTime> {
        serde_json::from_value(self.0.get("removed_at")?.clone()).ok()?
    }

    /// The same, removed now: what undoing an addition leaves.
    fn gone(&self) -> State {
        let mut value = self.0.clone();
        if let Value::Object(fields) = &mut value {
            fields.insert("removed_at".to_owned(), serde_json::to_value(Utc::now().naive_utc()).unwrap_or_default());
        }
        State(value)
    }

    /// Whether two states are of an object that looks the same to people: gone is gone, whenever that was.
    fn looks_like(&self, other: &State) -> bool {
        let shown = |state: &State| {
            let mut value = state.0.clone();
            if let Value::Object(fields) = &mut value {
                let gone = fields.get("removed_at").is_some_and(|at| !at.is_null());
                fields.insert("removed_at".to_owned(), Value::from(gone));
            }
            value
        };
        shown(self) == shown(other)
    }

    /// The name in it, for messages.
    fn name(&self) -> Option<&str> {
        self.0.get("name").and_then(Value::as_str)
    }
}

/// One object of a change.
#[derive(Debug, Clone)]
pub struct Item {
    object: Object,
    before: Option<State>,
    after: Option<State>,
}

impl Item {
    /// What a change did to an object; `None` if it left it as it was.
    pub fn new(object: Object, before: Option<State>, after: Option<State>) -> Option<Item> {
        (before != after).then_some(Item { object, before, after })
    }
}

/// A change, for people.
#[derive(Debug, Clone, Queryable, Selectable)]
#[diesel(table_name = change_entry, check_for_backend(diesel::mysql::Mysql))]
pub struct Change {
    /// Its id; later changes have larger ones.
    pub id: ChangeId,
    /// What was done, in a sentence.
    pub said: String,
    /// When.
    pub changed_at: NaiveDateTime,
    /// When it was undone, if it was.
    pub undone_at: Option<NaiveDateTime>,
}

#[derive(Insertable)]
#[diesel(table_name = change_item)]
struct ItemRow {
    change_id: ChangeId,
    kind: &'static str,
    object_id: Vec<u8>,
    before_state: Option<String>,
    after_state: Option<String>,
}

/// Objects as they stand; those that never were are left out.
pub fn states(
    c: &mut MysqlConnection,
    account: AccountId,
    objects: &[Object],
) -> Result<HashMap<Object, State>, StoreError> {
    let mut found = HashMap::new();
    for kind in Kind::ALL {
        let ids: Vec<Uuid> = objects.iter().filter(|object| object.kind == kind).map(|object| object.id).collect();
        for ids in ids.chunks(1_000) {
            let rows = match kind {
                Kind::Gear => gear::states(c, account, &ids.iter().copied().map(GearId).collect::<Vec<_>>())?,
                Kind::Weighing => {
                    weighings::states(c, account, &ids.iter().copied().map(WeighingId).collect::<Vec<_>>())?
                }
                Kind::Kit => kits::states(c, account, &ids.iter().copied().map(KitId).collect::<Vec<_>>())?,
                Kind::List => lists::states(c, account, &ids.iter().copied().map(ListId).collect::<Vec<_>>())?,
                Kind::Line => lists::line_states(c, account, &ids.iter().copied().map(LineId).collect::<Vec<_>>())?,
                Kind::Swap => swaps::states(c, account, &ids.iter().copied().map(SwapId).collect::<Vec<_>>())?,
            };
            found.extend(rows.into_iter().map(|(id, state)| (Object { kind, id }, state)));
        }
    }
    Ok(found)
}

/// Writes a change into the log.
pub fn insert(c: &mut MysqlConnection, account: AccountId, said: &str, items: &[Item]) -> Result<ChangeId, StoreError> {
    let id = ChangeId::fresh();
    diesel::insert_into(change_entry::table)
        .values((
            change_entry::id.eq(id),
            change_entry::account_id.eq(account),
            change_entry::said.eq(said.chars().take(300).collect::<String>()),
            change_entry::changed_at.eq(Utc::now().naive_utc()),
        ))
        .execute(c)?;
    let text = |state: &Option<State>| state.as_ref().map(|state| state.0.to_string());
    for items in items.chunks(500) {
        let rows: Vec<ItemRow> = items
            .iter()
            .map(|item| ItemRow {
                change_id: id,
                kind: item.object.kind.word(),
                object_id: item.object.id.as_bytes().to_vec(),
                before_state: text(&item.before),
                after_state: text(&item.after),
            })
            .collect();
        diesel::insert_into(change_item::table).values(rows).execute(c)?;
    }
    Ok(id)
}

/// Changes, newest first; of one object if one is named, older than `before` if one is named.
pub fn page(
    c: &mut MysqlConnection,
    account: AccountId,
    of: Option<Object>,
    before: Option<ChangeId>,
    limit: u32,
) -> Result<Vec<Change>, StoreError> {
    let mut query = change_entry::table.filter(change_entry::account_id.eq(account)).into_boxed();
    if let Some(object) = of {
        let touching = change_item::table
            .filter(change_item::object_id.eq(object.id.as_bytes().to_vec()))
            .select(change_item::change_id);
        query = query.filter(change_entry::id.eq_any(touching));
    }
    if let Some(before) = before {
        query = query.filter(change_entry::id.lt(before));
    }
    Ok(query.order(change_entry::id.desc()).limit(limit.into()).select(Change::as_select()).load(c)?)
}

/// Why a change can't be undone.
#[derive(Debug)]
pub enum UndoError {
    /// The store failed.
    Store(StoreError),
    /// It was undone already.
    Undone,
    /// Something in it has been changed since; holds its name.
    Since(String),
}

impl<E: Into<StoreError>> From<E> for UndoError {
    fn from(error: E) -> UndoError {
        UndoError::Store(error.into())
    }
}

/// Puts everything that a change touched back as it was, if it still stands as the change left it.
pub fn undo(c: &mut MysqlConnection, account: AccountId, id: ChangeId) -> Result<Change, UndoError> {
    let change: Change = change_entry::table
        .filter(change_entry::id.eq(id))
        .filter(change_entry::account_id.eq(account))
        .select(Change::as_select())
        .for_update()
        .first(c)?;
    if change.undone_at.is_some() {
        return Err(UndoError::Undone);
    }
    let items = items(c, id)?;
    let objects: Vec<Object> = items.iter().map(|item| item.object).collect();
    let now = states(c, account, &objects)?;
    for item in &items {
        let same = match (now.get(&item.object), &item.after) {
            (Some(now), Some(after)) => now.looks_like(after),
            (None, None) => true,
            _ => false,
        };
        if !same {
            // A weighing has no name; the thing that it is of is in the same change.
            let states =
                std::iter::once(item).chain(&items).flat_map(|item| [now.get(&item.object), item.before.as_ref()]);
            let name = states.flatten().find_map(State::name);
            return Err(UndoError::Since(name.unwrap_or("What it changed").to_owned()));
        }
    }
    for Item { object, before, after } in &items {
        let state = before.clone().or_else(|| after.as_ref().map(State::gone));
        let Some(state) = state else { continue };
        match object.kind {
            Kind::Gear => gear::put_state(c, account, GearId(object.id), &state)?,
            Kind::Weighing => weighings::put_state(c, account, WeighingId(object.id), &state)?,
            Kind::Kit => kits::put_state(c, account, KitId(object.id), &state)?,
            Kind::List => lists::put_state(c, account, ListId(object.id), &state)?,
            Kind::Line => lists::put_line_state(c, account, LineId(object.id), &state)?,
            Kind::Swap => swaps::put_state(c, account, SwapId(object.id), &state)?,
        }
    }
    diesel::update(change_entry::table.filter(change_entry::id.eq(id)))
        .set(change_entry::undone_at.eq(Some(Utc::now().naive_utc())))
        .execute(c)?;
    Ok(change)
}

/// Kind, object, before and after.
type ItemColumns = (String, Vec<u8>, Option<String>, Option<String>);

fn items(c: &mut MysqlConnection, change: ChangeId) -> Result<Vec<Item>, StoreError> {
    let rows: Vec<ItemColumns> = change_item::table
        .filter(change_item::change_id.eq(change))
        .order(change_item::id)
        .select((change_item::kind, change_item::object_id, change_item::before_state, change_item::after_state))
        .load(c)?;
    let state = |text: Option<String>| {
        text.map(|text| serde_json::from_str(&text).map_err(|_| StoreError::Corrupt("change_item.state"))).transpose()
    };
    rows.into_iter()
        .map(|(kind, id, before, after)| {
            let kind = Kind::ALL.into_iter().find(|known| known.word() == kind);
            let kind = kind.ok_or(StoreError::Corrupt("change_item.kind"))?;
            let id = Uuid::from_slice(&id).map_err(|_| StoreError::Corrupt("change_item.object_id"))?;
            Ok(Item { object: Object { kind, id }, before: state(before)?, after: state(after)? })
        })
        .collect()
}
