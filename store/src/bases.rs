//! The base weight of lists over time, in the database.

use super::StoreError;
use super::access::Access;
use super::convert::{from_json, from_word, json_text, word};
use super::event::Entry;
use super::id::{AccountId, ListId};
use super::schema::base_point;
use super::state::{AuditSnapshot, Audited};
use chrono::NaiveDateTime;
use diesel::prelude::*;
use kevyt_core::quantity::Mass;
use kevyt_core::walked::Cause;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A base weight, and what made it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BasePoint {
    /// When, UTC.
    pub at: NaiveDateTime,
    /// The base weight.
    pub base: Mass,
    /// Things whose weight was unknown: it was "at least" then.
    pub unknown: u32,
    /// What changed it.
    pub cause: Cause,
    /// What was done; none of what was there before it was noted, or is only seen now.
    pub entry: Option<Entry>,
    /// What the walker says of a day before, or a sentence that was kept before there were entries.
    pub what: String,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = base_point, check_for_backend(diesel::mysql::Mysql))]
struct BaseRow {
    id: Vec<u8>,
    account_id: AccountId,
    list_id: ListId,
    at: NaiveDateTime,
    base_mg: i64,
    unknown: u32,
    cause: String,
    what: String,
    entry: Option<String>,
}

impl BaseRow {
    fn read(self) -> Result<(ListId, BasePoint), StoreError> {
        let BaseRow { at, unknown, what, .. } = self;
        let cause = from_word("base_point.cause", &self.cause)?;
        let entry = self.entry.map(|text| from_json("base_point.entry", &text)).transpose()?;
        Ok((self.list_id, BasePoint { at, base: Mass::from_mg(self.base_mg), unknown, cause, entry, what }))
    }
}

/// The newest points of a list, at most so many, oldest first.
pub fn of_list(c: &mut MysqlConnection, access: Access, list: ListId, most: i64) -> Result<Vec<BasePoint>, StoreError> {
    let mut rows: Vec<BaseRow> = base_point::table
        .filter(base_point::list_id.eq(list))
        .filter(base_point::account_id.eq(access.account()))
        .order((base_point::at.desc(), base_point::id.desc()))
        .limit(most)
        .select(BaseRow::as_select())
        .load(c)?;
    rows.reverse();
    rows.into_iter().map(|row| Ok(row.read()?.1)).collect()
}

/// Takes away what was said of earlier days, to be said anew.
pub fn remove_earlier(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<(), StoreError> {
    let said = base_point::table
        .filter(base_point::list_id.eq(list))
        .filter(base_point::account_id.eq(access.account()))
        .filter(base_point::cause.eq(word(Cause::Earlier)));
    diesel::delete(said).execute(c)?;
    Ok(())
}

/// What is said of the earlier base weights of a list, as the change log follows it.
#[derive(Serialize, Deserialize)]
pub(super) struct EarlierState {
    list_id: ListId,
    /// When, in milligrams, and what there is to say.
    points: Vec<(NaiveDateTime, i64, String)>,
}

impl Audited for EarlierState {
    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError> {
        let rows: Vec<BaseRow> = base_point::table
            .filter(base_point::list_id.eq_any(ids.iter().copied().map(ListId)))
            .filter(base_point::account_id.eq(access.account()))
            .filter(base_point::cause.eq(word(Cause::Earlier)))
            .order((base_point::at, base_point::id))
            .select(BaseRow::as_select())
            .load(c)?;
        let of = |id: &Uuid| {
            let points = rows.iter().filter(|row| row.list_id.0 == *id);
            let points = points.map(|row| (row.at, row.base_mg, row.what.clone())).collect();
            (*id, EarlierState { list_id: ListId(*id), points }, None)
        };
        Ok(ids.iter().map(of).collect())
    }

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        for (_, EarlierState { list_id, points }, _) in objects {
            remove_earlier(c, access, list_id)?;
            let point = |(at, mg, what)| {
                let (base, cause) = (Mass::from_mg(mg), Cause::Earlier);
                (list_id, BasePoint { at, base, unknown: 0, cause, entry: None, what })
            };
            insert(c, access, &points.into_iter().map(point).collect::<Vec<_>>())?;
        }
        Ok(())
    }
}

/// Adds points.
pub fn insert(c: &mut MysqlConnection, access: Access, points: &[(ListId, BasePoint)]) -> Result<(), StoreError> {
    for points in points.chunks(500) {
        let row = |(list, point): &(ListId, BasePoint)| BaseRow {
            id: Uuid::now_v7().as_bytes().to_vec(),
            account_id: access.account(),
            list_id: *list,
            at: point.at,
            base_mg: point.base.mg(),
            unknown: point.unknown,
            cause: word(point.cause),
            what: point.what.chars().take(300).collect(),
            entry: point.entry.as_ref().map(json_text),
        };
        let rows: Vec<BaseRow> = points.iter().map(row).collect();
        diesel::insert_into(base_point::table).values(rows).execute(c)?;
    }
    Ok(())
}
