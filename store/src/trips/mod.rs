//! Trips, coming and walked, in the database.

mod things;

pub(super) use things::TripThingRow;
pub use things::{TripThing, insert_things, of_account, of_trip, one as thing, remove_thing, update_things};

use super::access::Access;
use super::convert::name;
use super::id::{AccountId, ListId, TripId};
use super::schema::trip;
use super::state::{Audited, rows_of_account, rows_put_back};
use super::stored::StoredAsJson;
use super::versioned::versioned;
use super::{StoreError, Stored};
use chrono::{NaiveDate, NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::gear::Name;
use kevyt_core::quantity::Mass;
use kevyt_core::trip::Trip;
use kevyt_core::walked::{Met, UsedUp};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A trip on its dates.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TripRecord {
    /// The list that it is of, while that is there.
    pub list: Option<ListId>,
    /// Its name.
    pub name: Name,
    /// The first day.
    pub starts_on: NaiveDate,
    /// Nights.
    pub nights: u32,
    /// Who came along, in words.
    pub people: String,
    /// A line about it.
    pub note: String,
    /// When the list was kept as it was, UTC; `None` while the trip is to come.
    pub kept_at: Option<NaiveDateTime>,
    /// The base weight of the list that was kept.
    pub base: Option<Mass>,
    /// What it was planned with, of a list that said so.
    pub planned: Option<Trip>,
    /// What was met.
    pub met: Met,
    /// What was used up.
    pub used_up: UsedUp,
}

/// A trip as it is stored.
pub type StoredTrip = Stored<TripId, TripRecord>;

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = trip, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct TripRow {
    id: TripId,
    account_id: AccountId,
    list_id: Option<ListId>,
    name: String,
    starts_on: NaiveDate,
    nights: u32,
    people: String,
    note: String,
    kept_at: Option<NaiveDateTime>,
    base_mg: Option<i64>,
    planned: Option<String>,
    met: String,
    used_up: String,
    version: i32,
}

impl TripRow {
    fn new(access: Access, id: TripId, version: i32, trip: &TripRecord) -> TripRow {
        TripRow {
            id,
            account_id: access.account(),
            list_id: trip.list,
            name: trip.name.as_str().to_owned(),
            starts_on: trip.starts_on,
            nights: trip.nights,
            people: trip.people.clone(),
            note: trip.note.clone(),
            kept_at: trip.kept_at,
            base_mg: trip.base.map(Mass::mg),
            planned: trip.planned.as_ref().map(Trip::text),
            met: trip.met.text(),
            used_up: trip.used_up.text(),
            version,
        }
    }

    fn read(self) -> Result<StoredTrip, StoreError> {
        let value = TripRecord {
            list: self.list_id,
            name: name("trip.name", &self.name)?,
            starts_on: self.starts_on,
            nights: self.nights,
            people: self.people,
            note: self.note,
            kept_at: self.kept_at,
            base: self.base_mg.map(Mass::from_mg),
            planned: self.planned.map(|text| Trip::read("trip.planned", &text)).transpose()?,
            met: Met::read("trip.met", &self.met)?,
            used_up: UsedUp::read("trip.used_up", &self.used_up)?,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

versioned!(trip, TripId);

/// The trips of an account, earliest first.
pub fn all(c: &mut MysqlConnection, access: Access) -> Result<Vec<StoredTrip>, StoreError> {
    let rows: Vec<TripRow> = trip::table
        .filter(trip::account_id.eq(access.account()))
        .filter(trip::removed_at.is_null())
        .order((trip::starts_on, trip::id))
        .select(TripRow::as_select())
        .load(c)?;
    rows.into_iter().map(TripRow::read).collect()
}

/// One trip.
pub fn get(c: &mut MysqlConnection, access: Access, id: TripId) -> Result<StoredTrip, StoreError> {
    let row: TripRow = trip::table
        .filter(trip::id.eq(id))
        .filter(trip::account_id.eq(access.account()))
        .filter(trip::removed_at.is_null())
        .select(TripRow::as_select())
        .first(c)?;
    row.read()
}

/// The latest trip that a list was kept for.
pub fn last_kept(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<Option<TripId>, StoreError> {
    Ok(trip::table
        .filter(trip::account_id.eq(access.account()))
        .filter(trip::list_id.eq(list))
        .filter(trip::removed_at.is_null())
        .filter(trip::kept_at.is_not_null())
        .order((trip::starts_on.desc(), trip::id.desc()))
        .select(trip::id)
        .first(c)
        .optional()?)
}

/// How many trips an account has.
pub fn count(c: &mut MysqlConnection, access: Access) -> Result<usize, StoreError> {
    let mine = trip::table.filter(trip::account_id.eq(access.account())).filter(trip::removed_at.is_null());
    let count: i64 = mine.count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
}

/// Adds a trip.
pub fn insert(c: &mut MysqlConnection, access: Access, id: TripId, trip: &TripRecord) -> Result<(), StoreError> {
    diesel::insert_into(trip::table).values(TripRow::new(access, id, 1, trip)).execute(c)?;
    Ok(())
}

/// Writes a trip that was read at `version`.
pub fn update(
    c: &mut MysqlConnection,
    access: Access,
    id: TripId,
    version: i32,
    value: &TripRecord,
) -> Result<(), StoreError> {
    write(c, access, (id, version), TripRow::new(access, id, version + 1, value))
}

/// Takes a trip that was read at `version` out of sight.
pub fn remove(c: &mut MysqlConnection, access: Access, id: TripId, version: i32) -> Result<(), StoreError> {
    take_off(c, access, id, version)
}

/// Takes all trips out of sight.
pub fn remove_all(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    diesel::update(trip::table.filter(trip::account_id.eq(access.account())).filter(trip::removed_at.is_null()))
        .set((trip::removed_at.eq(Some(Utc::now().naive_utc())), trip::version.eq(trip::version + 1)))
        .execute(c)?;
    Ok(())
}

impl Audited for TripRow {
    rows_of_account!(TripRow, trip, TripId);

    rows_put_back!(TripRow, trip, TripId);
}
