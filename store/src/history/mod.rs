//! The change log: what a change touched, as it was before and after. Carries undo and history.

mod page;

use super::StoreError;
use super::access::Access;
use super::convert::{from_json, json_text};
use super::event::Entry;
use super::id::{
    AccountId, ChangeId, EarlierId, GearId, KeptPlanId, KitId, LineId, LinkId, ListId, SilencedId, SwapId, TripId,
    TripThingId, WalkerId, WeighingId,
};
use super::schema::{change_entry, change_item};
use super::state::Audited;
pub use super::state::State;
use super::upsert::ROWS;
use super::{accounts, bases, gear, kept_plans, kits, lessons, lines, links, lists, swaps, trips, walkers, weighings};
use chrono::{Duration, NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::list::Counts;
pub use page::{About, Which, page};
use std::collections::HashMap;
use uuid::Uuid;

/// Declares once all that the change log follows: its word in the log, its id, and what its states are read into.
macro_rules! followed {
    ($($kind:ident $word:literal $id:ident $logged:ty;)*) => {
        /// What kind of thing a change touched.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        enum Kind { $($kind,)* }

        impl Kind {
            const ALL: &[Kind] = &[$(Kind::$kind,)*];

            fn word(self) -> &'static str {
                match self { $(Kind::$kind => $word,)* }
            }

            /// Objects of this kind as they stand.
            fn current(self, c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<(Uuid, State)>, StoreError> {
                match self {
                    $(Kind::$kind => {
                        let found = <$logged>::current(c, access, ids)?.into_iter();
                        Ok(found.map(|(id, object, removed_at)| (id, State::of(&object, removed_at))).collect())
                    })*
                }
            }

            fn read(self, text: &str) -> Result<State, StoreError> {
                match self { $(Kind::$kind => State::read::<$logged>(text),)* }
            }

            fn put_back(self, c: &mut MysqlConnection, access: Access, states: &[(Uuid, State)]) -> Result<(), StoreError> {
                match self {
                    $(Kind::$kind => {
                        let stood = |(id, state): &(Uuid, State)| Ok((*id, state.object::<$logged>()?, state.removed_at()));
                        let objects = states.iter().map(stood).collect::<Result<_, StoreError>>()?;
                        <$logged>::put_back(c, access, objects)
                    })*
                }
            }
        }

        $(impl From<$id> for Object {
            fn from(id: $id) -> Object {
                Object { kind: Kind::$kind, id: id.0 }
            }
        }

        impl TryFrom<Object> for $id {
            type Error = ();
            fn try_from(object: Object) -> Result<$id, ()> {
                if object.kind == Kind::$kind { Ok($id(object.id)) } else { Err(()) }
            }
        })*
    };
}

followed! {
    Gear "gear" GearId gear::GearRow;
    Weighing "weighing" WeighingId weighings::WeighingRow;
    Kit "kit" KitId kits::KitState;
    List "list" ListId lists::ListRow;
    Walker "walker" WalkerId walkers::WalkerRow;
    Link "link" LinkId links::LinkRow;
    Line "line" LineId lines::LineRow;
    Swap "swap" SwapId swaps::SwapLog;
    Plan "plan" KeptPlanId kept_plans::KeptPlanRow;
    Trip "trip" TripId trips::TripRow;
    TripThing "trip_thing" TripThingId trips::TripThingRow;
    Silenced "silenced" SilencedId lessons::SilencedRow;
    Earlier "earlier" EarlierId bases::EarlierState;
    Account "account" AccountId accounts::AccountState;
}

/// Something that the change log follows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Object {
    kind: Kind,
    id: Uuid,
}

impl Object {
    /// Those of some objects that are of one kind, by their ids.
    pub fn only<T: TryFrom<Object>>(objects: impl IntoIterator<Item = Object>) -> Vec<T> {
        objects.into_iter().filter_map(|object| object.try_into().ok()).collect()
    }
}

/// One object of a change.
#[derive(Debug, Clone)]
pub struct Item {
    /// What was touched.
    pub object: Object,
    before: Option<State>,
    after: Option<State>,
}

impl Item {
    /// What a change did to an object; `None` if it left it as it was.
    pub fn new(object: Object, before: Option<State>, after: Option<State>) -> Option<Item> {
        (before != after).then_some(Item { object, before, after })
    }

    /// Whether the object still looks as the change left it.
    pub fn is_as_left(&self, now: Option<&State>) -> bool {
        match (now, &self.after) {
            (Some(now), Some(after)) => now.looks_like(after),
            (None, None) => true,
            _ => false,
        }
    }

    /// Whether one of these fields is another than before, or the object came or went.
    pub fn changes(&self, fields: &[&str]) -> bool {
        match (&self.before, &self.after) {
            (Some(before), Some(after)) => {
                before.is_removed() != after.is_removed()
                    || fields.iter().any(|field| before.field(field) != after.field(field))
            }
            _ => true,
        }
    }

    /// The object before and after, where it was there.
    pub(super) fn sides(&self) -> [Option<&State>; 2] {
        [&self.before, &self.after].map(|state| state.as_ref().filter(|state| !state.is_removed()))
    }

    /// Where the pieces of a line stood before a change and stand after it: nowhere while it is not on its list.
    pub fn line_counts(&self) -> (Counts, Counts) {
        let counts = |state: Option<&State>| {
            let row = state.and_then(|state| state.object::<lines::LineRow>().ok());
            row.map_or_else(Counts::default, |row| row.counts())
        };
        let [before, after] = self.sides();
        (counts(before), counts(after))
    }

    /// Whether the object came, or came back.
    pub fn comes(&self) -> bool {
        matches!(self.sides(), [None, Some(_)])
    }

    /// The id that one of its fields has.
    pub fn id_in(&self, field: &str) -> Option<Uuid> {
        let state = self.after.as_ref().or(self.before.as_ref())?;
        state.field(field)?.as_str()?.parse().ok()
    }

    /// The name that it had before or has now.
    pub fn name<'a>(&'a self, now: Option<&'a State>) -> Option<&'a str> {
        now.and_then(State::name).or_else(|| self.before.as_ref().and_then(State::name))
    }

    /// As the object was before the change; one that the change added is removed.
    fn back(&self) -> Option<State> {
        let removed = || self.after.clone().map(|after| after.removed(Utc::now().naive_utc()));
        self.before.clone().or_else(removed)
    }
}

/// Puts objects back as they were before a change; those that it added are removed.
pub fn put_back(c: &mut MysqlConnection, access: Access, items: &[Item]) -> Result<(), StoreError> {
    for kind in Kind::ALL.iter().copied() {
        let of_kind = items.iter().filter(|item| item.object.kind == kind);
        let states: Vec<(Uuid, State)> = of_kind.filter_map(|item| Some((item.object.id, item.back()?))).collect();
        for states in states.chunks(ROWS) {
            kind.put_back(c, access, states)?;
        }
    }
    Ok(())
}

/// A change, for people.
#[derive(Debug, Clone)]
pub struct Change {
    /// Its id; later changes have larger ones.
    pub id: ChangeId,
    /// What was done.
    pub entry: Entry,
    /// When.
    pub changed_at: NaiveDateTime,
    /// When it was undone, if it was.
    pub undone_at: Option<NaiveDateTime>,
    /// The change that it took back, if it is an undo.
    pub undoes: Option<ChangeId>,
}

#[derive(Queryable, Selectable)]
#[diesel(table_name = change_entry, check_for_backend(diesel::mysql::Mysql))]
struct ChangeRow {
    id: ChangeId,
    said: String,
    entry: Option<String>,
    changed_at: NaiveDateTime,
    undone_at: Option<NaiveDateTime>,
    undoes: Option<ChangeId>,
}

impl ChangeRow {
    fn read(self) -> Result<Change, StoreError> {
        let ChangeRow { id, said, entry, changed_at, undone_at, undoes } = self;
        let entry = match entry {
            Some(text) => from_json("change_entry.entry", &text)?,
            None => Entry::of_sentence(&said),
        };
        Ok(Change { id, entry, changed_at, undone_at, undoes })
    }
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
    access: Access,
    objects: &[Object],
) -> Result<HashMap<Object, State>, StoreError> {
    let mut found = HashMap::new();
    for kind in Kind::ALL.iter().copied() {
        let ids: Vec<Uuid> = objects.iter().filter(|object| object.kind == kind).map(|object| object.id).collect();
        for ids in ids.chunks(1_000) {
            let states = kind.current(c, access, ids)?.into_iter();
            found.extend(states.map(|(id, state)| (Object { kind, id }, state)));
        }
    }
    Ok(found)
}

/// Writes a change into the log; `undoes` names the one that it takes back.
pub fn insert(
    c: &mut MysqlConnection,
    access: Access,
    entry: &Entry,
    undoes: Option<ChangeId>,
    items: &[Item],
) -> Result<ChangeId, StoreError> {
    let id = ChangeId::fresh();
    let about = items.iter().fold(0, |mix, item| mix | About::of(item.object.kind).bit());
    diesel::insert_into(change_entry::table)
        .values((
            change_entry::id.eq(id),
            change_entry::account_id.eq(access.account()),
            change_entry::entry.eq(json_text(entry)),
            change_entry::about.eq(about),
            change_entry::changed_at.eq(Utc::now().naive_utc()),
            change_entry::undoes.eq(undoes),
        ))
        .execute(c)?;
    let text = |state: &Option<State>| state.as_ref().map(State::text);
    for items in items.chunks(ROWS) {
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

/// For how many days changes are kept, and can be undone: two years.
const KEPT_DAYS: i64 = 730;

/// Changes that are deleted at a time, and what they hold: no statement takes long, whatever a change touched.
const BATCH: (i64, usize) = (100, 5_000);

/// Deletes changes that are too old to be undone, a batch at a time; how many. Their ids begin with when they were made.
pub fn clear(c: &mut MysqlConnection) -> Result<usize, StoreError> {
    let before = (Utc::now() - Duration::days(KEPT_DAYS)).timestamp_millis().unsigned_abs();
    let oldest = ChangeId(Uuid::from_u128(u128::from(before) << 80));
    let old = change_entry::table.filter(change_entry::id.lt(oldest)).order(change_entry::id);
    let old = old.limit(BATCH.0).select(change_entry::id).load(c)?;
    delete(c, &old)
}

/// Deletes changes of an account, a batch at a time; how many.
pub fn clear_of(c: &mut MysqlConnection, access: Access) -> Result<usize, StoreError> {
    let mine = change_entry::table.filter(change_entry::account_id.eq(access.account()));
    let mine = mine.limit(BATCH.0).select(change_entry::id).load(c)?;
    delete(c, &mine)
}

fn delete(c: &mut MysqlConnection, changes: &[ChangeId]) -> Result<usize, StoreError> {
    for change in changes {
        let some = format!("DELETE FROM change_item WHERE change_id = ? LIMIT {}", BATCH.1);
        while diesel::sql_query(&some).bind::<diesel::sql_types::Binary, _>(change).execute(c)? == BATCH.1 {}
    }
    Ok(diesel::delete(change_entry::table.filter(change_entry::id.eq_any(changes))).execute(c)?)
}

/// One change.
pub fn get(c: &mut MysqlConnection, access: Access, id: ChangeId) -> Result<Change, StoreError> {
    let mine =
        change_entry::table.filter(change_entry::id.eq(id)).filter(change_entry::account_id.eq(access.account()));
    mine.select(ChangeRow::as_select()).first(c)?.read()
}

/// Marks a change as undone, or as standing again.
pub fn mark_undone(
    c: &mut MysqlConnection,
    access: Access,
    id: ChangeId,
    at: Option<NaiveDateTime>,
) -> Result<(), StoreError> {
    let mine =
        change_entry::table.filter(change_entry::id.eq(id)).filter(change_entry::account_id.eq(access.account()));
    diesel::update(mine).set(change_entry::undone_at.eq(at)).execute(c)?;
    Ok(())
}

/// Kind, object, before and after.
type ItemColumns = (String, Vec<u8>, Option<String>, Option<String>);

/// What a change touched, in the order in which it did.
pub fn items(c: &mut MysqlConnection, change: ChangeId) -> Result<Vec<Item>, StoreError> {
    let rows: Vec<ItemColumns> = change_item::table
        .filter(change_item::change_id.eq(change))
        .order(change_item::id)
        .select((change_item::kind, change_item::object_id, change_item::before_state, change_item::after_state))
        .load(c)?;
    rows.into_iter()
        .map(|(word, id, before, after)| {
            let kind = Kind::ALL.iter().copied().find(|known| known.word() == word);
            let kind = kind.ok_or(StoreError::Corrupt("change_item.kind"))?;
            let id = Uuid::from_slice(&id).map_err(|_| StoreError::Corrupt("change_item.object_id"))?;
            let state = |text: Option<String>| text.map(|text| kind.read(&text)).transpose();
            Ok(Item { object: Object { kind, id }, before: state(before)?, after: state(after)? })
        })
        .collect()
}
