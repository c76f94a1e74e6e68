//! Gear in the database.

use super::convert::{from_word, jobs, jobs_text, name, price, weight, word};
use super::history::{State, StateRow};
use super::id::{AccountId, GearId};
use super::schema::gear;
use super::{Page, StoreError, Stored, changed};
use chrono::Utc;
use diesel::prelude::*;
use kevyt_core::gear::{Claim, Gear, Tags, WeightSource};
use kevyt_core::quantity::{Mass, Money};
use serde::{Deserialize, Serialize};

/// A row; its public columns become a [`Gear`].
#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
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
    half_width_mg: Option<i64>,
    claimed_mg: Option<i64>,
    claimed_typed: Option<String>,
    paid_low_minor: Option<i64>,
    paid_high_minor: Option<i64>,
    acquired: String,
    resale_minor: Option<i64>,
    status: String,
    kept_at: String,
    tags: String,
    nights: u32,
    provides: String,
    needs: String,
    version: i32,
}

impl GearRow {
    fn new(account: AccountId, id: GearId, version: i32, gear: &Gear) -> GearRow {
        let weight = gear.weight.clone();
        let claimed = gear.claimed.clone();
        GearRow {
            id,
            account_id: account,
            name: gear.name.as_str().to_owned(),
            system: word(gear.system),
            count: gear.count,
            unit_mg: weight.as_ref().map(|weight| weight.unit.mg()),
            source: weight.as_ref().map(|weight| word(weight.source)),
            half_width_mg: weight.as_ref().and_then(|weight| weight.half_width).map(Mass::mg),
            unit_typed: weight.map(|weight| weight.typed),
            claimed_mg: claimed.as_ref().map(|claim| claim.unit.mg()),
            claimed_typed: claimed.map(|claim| claim.typed),
            paid_low_minor: gear.paid.map(|paid| paid.low().minor()),
            paid_high_minor: gear.paid.map(|paid| paid.high().minor()),
            acquired: word(gear.acquired),
            resale_minor: gear.resale.map(Money::minor),
            status: word(gear.status),
            kept_at: gear.kept_at.clone(),
            tags: gear.tags.to_string(),
            nights: gear.nights,
            provides: jobs_text(&gear.provides),
            needs: jobs_text(&gear.needs),
            version,
        }
    }

    pub(super) fn read(self) -> Result<Stored<GearId, Gear>, StoreError> {
        let claimed = self.claimed_mg.zip(self.claimed_typed);
        let value = Gear {
            name: name("gear.name", &self.name)?,
            system: from_word("gear.system", &self.system)?,
            count: self.count,
            weight: weight("gear.unit", self.unit_mg, self.unit_typed, self.source, self.half_width_mg)?,
            claimed: claimed.map(|(mg, typed)| Claim { unit: Mass::from_mg(mg), typed }),
            paid: price("gear.paid", self.paid_low_minor, self.paid_high_minor)?,
            acquired: from_word("gear.acquired", &self.acquired)?,
            resale: self.resale_minor.map(Money::from_minor),
            status: from_word("gear.status", &self.status)?,
            kept_at: self.kept_at,
            tags: Tags::parse(&self.tags).map_err(|_| StoreError::Corrupt("gear.tags"))?,
            nights: self.nights,
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
    // The count is asked for only where the page doesn't tell it.
    let known = i64::try_from(rows.len()).unwrap_or(i64::MAX) + i64::from(page.offset);
    let full = rows.len() >= usize::try_from(page.limit).unwrap_or(usize::MAX);
    let total = if full || rows.is_empty() { mine().count().get_result(c)? } else { known };
    Ok((rows.into_iter().map(GearRow::read).collect::<Result<_, _>>()?, total))
}

/// All of an account's gear, by system and name.
pub fn all(c: &mut MysqlConnection, account: AccountId) -> Result<Vec<Stored<GearId, Gear>>, StoreError> {
    Ok(page(c, account, Page { limit: u32::MAX, offset: 0 })?.0)
}

/// One thing.
pub fn get(c: &mut MysqlConnection, account: AccountId, id: GearId) -> Result<Stored<GearId, Gear>, StoreError> {
    several(c, account, &[id])?.pop().ok_or(StoreError::NotFound)
}

/// Those of some things that are there, in any order.
pub fn several(
    c: &mut MysqlConnection,
    account: AccountId,
    ids: &[GearId],
) -> Result<Vec<Stored<GearId, Gear>>, StoreError> {
    let rows: Vec<GearRow> = gear::table
        .filter(gear::id.eq_any(ids))
        .filter(gear::account_id.eq(account))
        .filter(gear::removed_at.is_null())
        .select(GearRow::as_select())
        .load(c)?;
    rows.into_iter().map(GearRow::read).collect()
}

/// Pairs of a maker's figure and a weighing of the same thing, of all that was ever owned and not removed.
pub fn claimed_and_weighed(c: &mut MysqlConnection, account: AccountId) -> Result<Vec<(Mass, Mass)>, StoreError> {
    let pairs: Vec<(Option<i64>, Option<i64>)> = gear::table
        .filter(gear::account_id.eq(account))
        .filter(gear::removed_at.is_null())
        .filter(gear::source.eq(word(WeightSource::Weighed)))
        .filter(gear::claimed_mg.is_not_null())
        .select((gear::claimed_mg, gear::unit_mg))
        .load(c)?;
    Ok(pairs
        .into_iter()
        .filter_map(|(claimed, weighed)| claimed.zip(weighed))
        .map(|(a, b)| (Mass::from_mg(a), Mass::from_mg(b)))
        .collect())
}

/// Adds things.
pub fn insert(c: &mut MysqlConnection, account: AccountId, things: &[(GearId, Gear)]) -> Result<(), StoreError> {
    for things in things.chunks(500) {
        let rows: Vec<GearRow> = things.iter().map(|(id, gear)| GearRow::new(account, *id, 1, gear)).collect();
        diesel::insert_into(gear::table).values(rows).execute(c)?;
    }
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

/// Takes a thing out of sight, with its lines and the swaps that take it off; undoing brings all of it back.
pub fn remove(c: &mut MysqlConnection, account: AccountId, id: GearId, version: i32) -> Result<(), StoreError> {
    let updated = diesel::update(gear::table.filter(gear::id.eq(id)).filter(gear::account_id.eq(account)))
        .filter(gear::version.eq(version))
        .filter(gear::removed_at.is_null())
        .set((gear::removed_at.eq(Some(Utc::now().naive_utc())), gear::version.eq(version + 1)))
        .execute(c)?;
    changed(updated, || version_of(c, account, id))
}

/// Takes things out of sight, whatever their versions.
pub fn remove_several(c: &mut MysqlConnection, account: AccountId, ids: &[GearId]) -> Result<(), StoreError> {
    diesel::update(gear::table.filter(gear::id.eq_any(ids)).filter(gear::account_id.eq(account)))
        .filter(gear::removed_at.is_null())
        .set((gear::removed_at.eq(Some(Utc::now().naive_utc())), gear::version.eq(gear::version + 1)))
        .execute(c)?;
    Ok(())
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

/// Things as the change log keeps them, removed ones too.
pub(super) fn states(c: &mut MysqlConnection, account: AccountId, ids: &[GearId]) -> Result<Vec<StateRow>, StoreError> {
    let rows: Vec<(GearRow, Option<chrono::NaiveDateTime>)> = gear::table
        .filter(gear::id.eq_any(ids))
        .filter(gear::account_id.eq(account))
        .select((GearRow::as_select(), gear::removed_at))
        .load(c)?;
    Ok(rows.into_iter().map(|(row, removed)| (row.id.0, State::of(row, removed))).collect())
}

/// Puts a thing back as the change log has it.
pub(super) fn put_state(
    c: &mut MysqlConnection,
    account: AccountId,
    id: GearId,
    state: &State,
) -> Result<(), StoreError> {
    let version: i32 = gear::table
        .filter(gear::id.eq(id))
        .filter(gear::account_id.eq(account))
        .select(gear::version)
        .for_update()
        .first(c)?;
    let row = GearRow { id, account_id: account, version: version + 1, ..state.row("change_item.state")? };
    diesel::update(gear::table.filter(gear::id.eq(id)).filter(gear::account_id.eq(account)))
        .set((row, gear::removed_at.eq(state.removed_at())))
        .execute(c)?;
    Ok(())
}
