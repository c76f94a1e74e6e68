//! Weighings in the database.

use super::StoreError;
use super::access::Access;
use super::convert::{GRAMS_OR_OUNCES, with_units};
use super::id::{AccountId, GearId, KitId, WeighingId};
use super::schema::weighing;
use super::state::{AuditSnapshot, Audited, Fields, rows_of_account};
use super::upsert::{ROWS, upsert};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::gear::Weighing;
use kevyt_core::quantity::Mass;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use uuid::Uuid;

/// What was put on the scale.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Weighed {
    /// A thing.
    Gear(GearId),
    /// A kit.
    Kit(KitId),
}

/// A weighing as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WeighingRecord {
    /// Its id.
    pub id: WeighingId,
    /// What was weighed.
    pub of: Weighed,
    /// What the scale showed.
    pub weighing: Weighing,
    /// As typed, or as the scale showed it.
    pub typed: String,
    /// Which scale.
    pub scale: String,
    /// When (UTC).
    pub at: NaiveDateTime,
}

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = weighing, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct WeighingRow {
    id: WeighingId,
    account_id: AccountId,
    gear_id: Option<GearId>,
    kit_id: Option<KitId>,
    total_mg: i64,
    pieces: u32,
    step_mg: i64,
    typed: String,
    scale: String,
    weighed_at: NaiveDateTime,
}

impl WeighingRow {
    fn new(access: Access, record: &WeighingRecord) -> WeighingRow {
        let (gear_id, kit_id) = match record.of {
            Weighed::Gear(id) => (Some(id), None),
            Weighed::Kit(id) => (None, Some(id)),
        };
        WeighingRow {
            id: record.id,
            account_id: access.account(),
            gear_id,
            kit_id,
            total_mg: record.weighing.total.mg(),
            pieces: record.weighing.pieces,
            step_mg: record.weighing.step.mg(),
            typed: record.typed.clone(),
            scale: record.scale.clone(),
            weighed_at: record.at,
        }
    }

    fn read(self) -> Result<WeighingRecord, StoreError> {
        let of = self.gear_id.map(Weighed::Gear).or(self.kit_id.map(Weighed::Kit));
        Ok(WeighingRecord {
            id: self.id,
            of: of.ok_or(StoreError::Corrupt("weighing.gear_id"))?,
            weighing: Weighing {
                total: Mass::from_mg(self.total_mg),
                pieces: self.pieces,
                step: Mass::from_mg(self.step_mg),
            },
            typed: self.typed,
            scale: self.scale,
            at: self.weighed_at,
        })
    }
}

/// Adds weighings.
pub fn insert(c: &mut MysqlConnection, access: Access, records: &[WeighingRecord]) -> Result<(), StoreError> {
    for records in records.chunks(ROWS) {
        let rows: Vec<WeighingRow> = records.iter().map(|record| WeighingRow::new(access, record)).collect();
        diesel::insert_into(weighing::table).values(rows).execute(c)?;
    }
    Ok(())
}

/// One weighing.
pub fn get(c: &mut MysqlConnection, access: Access, id: WeighingId) -> Result<WeighingRecord, StoreError> {
    let row: WeighingRow = weighing::table
        .filter(weighing::id.eq(id))
        .filter(weighing::account_id.eq(access.account()))
        .filter(weighing::removed_at.is_null())
        .select(WeighingRow::as_select())
        .first(c)?;
    row.read()
}

/// Writes a corrected weighing.
pub fn update(c: &mut MysqlConnection, access: Access, record: &WeighingRecord) -> Result<(), StoreError> {
    diesel::update(
        weighing::table.filter(weighing::id.eq(record.id)).filter(weighing::account_id.eq(access.account())),
    )
    .set(WeighingRow::new(access, record))
    .execute(c)?;
    Ok(())
}

/// Takes a weighing out of sight.
pub fn remove(c: &mut MysqlConnection, access: Access, id: WeighingId) -> Result<(), StoreError> {
    let updated =
        diesel::update(weighing::table.filter(weighing::id.eq(id)).filter(weighing::account_id.eq(access.account())))
            .filter(weighing::removed_at.is_null())
            .set(weighing::removed_at.eq(Some(Utc::now().naive_utc())))
            .execute(c)?;
    if updated == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// What some weighings are of, removed ones too.
pub fn weighed(c: &mut MysqlConnection, access: Access, ids: &[WeighingId]) -> Result<Vec<Weighed>, StoreError> {
    let rows: Vec<(Option<GearId>, Option<KitId>)> = weighing::table
        .filter(weighing::id.eq_any(ids))
        .filter(weighing::account_id.eq(access.account()))
        .select((weighing::gear_id, weighing::kit_id))
        .load(c)?;
    Ok(rows.into_iter().filter_map(|(gear, kit)| gear.map(Weighed::Gear).or(kit.map(Weighed::Kit))).collect())
}

/// The weighings of some things and kits, newest first.
pub fn of(
    c: &mut MysqlConnection,
    access: Access,
    gear: &[GearId],
    kits: &[KitId],
) -> Result<Vec<WeighingRecord>, StoreError> {
    let gear: Vec<Option<GearId>> = gear.iter().copied().map(Some).collect();
    let kits: Vec<Option<KitId>> = kits.iter().copied().map(Some).collect();
    let rows: Vec<WeighingRow> = weighing::table
        .filter(weighing::account_id.eq(access.account()))
        .filter(weighing::removed_at.is_null())
        .filter(weighing::gear_id.eq_any(gear).or(weighing::kit_id.eq_any(kits)))
        .order((weighing::weighed_at.desc(), weighing::id.desc()))
        .select(WeighingRow::as_select())
        .load(c)?;
    rows.into_iter().map(WeighingRow::read).collect()
}

/// When each thing of the account was weighed last.
pub fn last_times(c: &mut MysqlConnection, access: Access) -> Result<HashMap<GearId, NaiveDateTime>, StoreError> {
    let rows: Vec<(Option<GearId>, Option<NaiveDateTime>)> = weighing::table
        .filter(weighing::account_id.eq(access.account()))
        .filter(weighing::removed_at.is_null())
        .group_by(weighing::gear_id)
        .select((weighing::gear_id, diesel::dsl::max(weighing::weighed_at)))
        .load(c)?;
    Ok(rows.into_iter().filter_map(|(gear, at)| gear.zip(at)).collect())
}

/// The account's weighings since a time, newest first.
pub fn since(
    c: &mut MysqlConnection,
    access: Access,
    since: NaiveDateTime,
    limit: i64,
) -> Result<Vec<WeighingRecord>, StoreError> {
    let rows: Vec<WeighingRow> = weighing::table
        .filter(weighing::account_id.eq(access.account()))
        .filter(weighing::removed_at.is_null())
        .filter(weighing::weighed_at.ge(since))
        .order((weighing::weighed_at.desc(), weighing::id.desc()))
        .limit(limit)
        .select(WeighingRow::as_select())
        .load(c)?;
    rows.into_iter().map(WeighingRow::read).collect()
}

impl Audited for WeighingRow {
    const SCHEMA_VERSION: u64 = 1;

    /// Form 0 had figures without the unit that was meant.
    fn upgrade(_: u64, fields: &mut Fields) {
        with_units(fields, &[("typed", "total_mg")], GRAMS_OR_OUNCES);
    }

    rows_of_account!(WeighingRow, weighing, WeighingId);

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        let ids: Vec<WeighingId> = objects.iter().map(|(id, ..)| WeighingId(*id)).collect();
        let mine = weighing::table.filter(weighing::account_id.eq(access.account()));
        let there: i64 = mine.filter(weighing::id.eq_any(&ids)).count().get_result(c)?;
        if usize::try_from(there) != Ok(ids.len()) {
            return Err(StoreError::NotFound);
        }
        let rows = ids.into_iter().zip(objects).map(|(id, (_, row, removed_at))| {
            (WeighingRow { id, account_id: access.account(), ..row }, weighing::removed_at.eq(removed_at))
        });
        upsert(weighing::table, rows.collect()).execute(c)?;
        Ok(())
    }
}
