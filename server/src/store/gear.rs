//! Gear in the database.

use super::convert::{from_word, jobs, jobs_text, name, weight, word};
use super::id::{AccountId, GearId};
use super::schema::gear;
use super::{Page, StoreError, Stored, changed};
use chrono::Utc;
use diesel::prelude::*;
use kevyt_core::gear::Gear;
use kevyt_core::quantity::Money;

/// A row; its public columns become a [`Gear`].
#[derive(Queryable, Selectable, Insertable, AsChangeset)]
#[diesel(table_name = gear, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct GearRow {
    id: GearId,
    account_id: AccountId,
    name: String,
    system: String,
    count: u32,
    unit_mg: Option<i64>,
    unit_typed: Option<String>,
    source: Option<String>,
    paid_minor: Option<i64>,
    resale_minor: Option<i64>,
    provides: String,
    needs: String,
    version: i32,
}

impl GearRow {
    fn new(account: AccountId, id: GearId, version: i32, gear: &Gear) -> GearRow {
        let weight = gear.weight.clone();
        GearRow {
            id,
            account_id: account,
            name: gear.name.as_str().to_owned(),
            system: word(gear.system),
            count: gear.count,
            unit_mg: weight.as_ref().map(|weight| weight.unit.mg()),
            source: weight.as_ref().map(|weight| word(weight.source)),
            unit_typed: weight.map(|weight| weight.typed),
            paid_minor: gear.paid.map(Money::minor),
            resale_minor: gear.resale.map(Money::minor),
            provides: jobs_text(&gear.provides),
            needs: jobs_text(&gear.needs),
            version,
        }
    }

    pub(super) fn read(self) -> Result<Stored<GearId, Gear>, StoreError> {
        let value = Gear {
            name: name("gear.name", &self.name)?,
            system: from_word("gear.system", &self.system)?,
            count: self.count,
            weight: weight("gear.unit", self.unit_mg, self.unit_typed, self.source)?,
            paid: self.paid_minor.map(Money::from_minor),
            resale: self.resale_minor.map(Money::from_minor),
            provides: jobs("gear.provides", &self.provides)?,
            needs: jobs("gear.needs", &self.needs)?,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

/// One page of an account's gear, by system and name, and how many things there are in all.
pub fn page(
    c: &mut MysqlConnection,
    account: AccountId,
    page: Page,
) -> Result<(Vec<Stored<GearId, Gear>>, i64), StoreError> {
    let mine = || gear::table.filter(gear::account_id.eq(account)).filter(gear::removed_at.is_null());
    let rows: Vec<GearRow> = mine()
        .select(GearRow::as_select())
        .order((gear::system, gear::name, gear::id))
        .limit(page.limit.into())
        .offset(page.offset.into())
        .load(c)?;
    let total = mine().count().get_result(c)?;
    Ok((rows.into_iter().map(GearRow::read).collect::<Result<_, _>>()?, total))
}

/// One thing.
pub fn get(c: &mut MysqlConnection, account: AccountId, id: GearId) -> Result<Stored<GearId, Gear>, StoreError> {
    let row: GearRow = gear::table
        .filter(gear::id.eq(id))
        .filter(gear::account_id.eq(account))
        .filter(gear::removed_at.is_null())
        .select(GearRow::as_select())
        .first(c)?;
    row.read()
}

/// Adds things.
pub fn insert(c: &mut MysqlConnection, account: AccountId, things: &[(GearId, Gear)]) -> Result<(), StoreError> {
    let rows: Vec<GearRow> = things.iter().map(|(id, gear)| GearRow::new(account, *id, 1, gear)).collect();
    diesel::insert_into(gear::table).values(rows).execute(c)?;
    Ok(())
}

/// Writes a thing that was read at `version`.
pub fn update(
    c: &mut MysqlConnection,
    account: AccountId,
    id: GearId,
    version: i32,
    value: &Gear,
) -> Result<(), StoreError> {
    let updated = diesel::update(gear::table.filter(gear::id.eq(id)).filter(gear::account_id.eq(account)))
        .filter(gear::version.eq(version))
        .filter(gear::removed_at.is_null())
        .set(GearRow::new(account, id, version + 1, value))
        .execute(c)?;
    changed(updated, || version_of(c, account, id))
}

/// Takes a thing out of sight, with its lines and the swaps that take it off; [`restore`] brings all of it back.
pub fn remove(c: &mut MysqlConnection, account: AccountId, id: GearId, version: i32) -> Result<(), StoreError> {
    let updated = diesel::update(gear::table.filter(gear::id.eq(id)).filter(gear::account_id.eq(account)))
        .filter(gear::version.eq(version))
        .filter(gear::removed_at.is_null())
        .set((gear::removed_at.eq(Some(Utc::now().naive_utc())), gear::version.eq(version + 1)))
        .execute(c)?;
    changed(updated, || version_of(c, account, id))
}

/// Brings a removed thing back.
pub fn restore(c: &mut MysqlConnection, account: AccountId, id: GearId) -> Result<(), StoreError> {
    let updated = diesel::update(gear::table.filter(gear::id.eq(id)).filter(gear::account_id.eq(account)))
        .set((gear::removed_at.eq(None::<chrono::NaiveDateTime>), gear::version.eq(gear::version + 1)))
        .execute(c)?;
    if updated == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

fn version_of(c: &mut MysqlConnection, account: AccountId, id: GearId) -> Result<i32, diesel::result::Error> {
    gear::table
        .filter(gear::id.eq(id))
        .filter(gear::account_id.eq(account))
        .filter(gear::removed_at.is_null())
        .select(gear::version)
        .first(c)
}
