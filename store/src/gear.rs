//! Gear in the database.

use super::access::Access;
use super::convert::{
    GRAMS_OR_OUNCES, from_word, jobs, jobs_text, name, no_facts, price, weight, with_present_keys, with_units, word,
};
use super::id::{AccountId, GearId};
use super::schema::gear;
use super::state::{Audited, Fields, rows_of_account, rows_put_back};
use super::stored::StoredAsJson;
use super::upsert::{ROWS, upsert};
use super::{Page, StoreError, Stored, all_at};
use chrono::{DateTime, NaiveDateTime, Utc};
use diesel::connection::DefaultLoadingMode;
use diesel::prelude::*;
use kevyt_core::gear::{Band, Claim, Gear, Stated, Status, Tags, WeightSource};
use kevyt_core::quantity::{Mass, Money};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use uuid::Uuid;

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
    below_mg: Option<i64>,
    above_mg: Option<i64>,
    stated_mg: Option<i64>,
    stated_typed: Option<String>,
    stated_source: Option<String>,
    stated_at: Option<NaiveDateTime>,
    claimed_mg: Option<i64>,
    claimed_typed: Option<String>,
    paid_low_minor: Option<i64>,
    paid_high_minor: Option<i64>,
    acquired: String,
    resale_minor: Option<i64>,
    /// States of the change log before it was kept have none.
    #[serde(default)]
    resale_at: Option<NaiveDateTime>,
    status: String,
    kept_at: String,
    /// States of the change log before there were notes have none.
    #[serde(default)]
    note: String,
    tags: String,
    nights: u32,
    provides: String,
    needs: String,
    #[serde(default = "no_facts")]
    facts: String,
    #[serde(default = "no_facts")]
    identity: String,
    version: i32,
}

/// A time of core's clock.
fn at(micros: i64) -> Option<NaiveDateTime> {
    DateTime::from_timestamp_micros(micros).map(|at| at.naive_utc())
}

impl GearRow {
    fn new(access: Access, id: GearId, version: i32, gear: &Gear) -> GearRow {
        let weight = gear.weight.clone();
        let claimed = gear.claimed.clone();
        let band = weight.as_ref().and_then(|weight| weight.band);
        let stated = gear.stated.as_ref().and_then(|stated| stated.weight.as_ref());
        GearRow {
            id,
            account_id: access.account(),
            name: gear.name.as_str().to_owned(),
            system: word(gear.system),
            count: gear.count,
            unit_mg: weight.as_ref().map(|weight| weight.unit.mg()),
            source: weight.as_ref().map(|weight| word(weight.source)),
            below_mg: band.map(|band| -band.low.mg()),
            above_mg: band.map(|band| band.high.mg()),
            stated_at: gear.stated.as_ref().and_then(|stated| at(stated.at)),
            stated_mg: stated.map(|stated| stated.unit.mg()),
            stated_typed: stated.map(|stated| stated.typed.clone()),
            stated_source: stated.map(|stated| word(stated.source)),
            unit_typed: weight.map(|weight| weight.typed),
            claimed_mg: claimed.as_ref().map(|claim| claim.unit.mg()),
            claimed_typed: claimed.map(|claim| claim.typed),
            paid_low_minor: gear.paid.map(|paid| paid.low().minor()),
            paid_high_minor: gear.paid.map(|paid| paid.high().minor()),
            acquired: word(gear.acquired),
            resale_minor: gear.resale.map(Money::minor),
            resale_at: gear.resale_at.and_then(at),
            status: word(gear.status),
            kept_at: gear.kept_at.clone(),
            note: gear.note.clone(),
            tags: gear.tags.to_string(),
            nights: gear.nights,
            provides: jobs_text(&gear.provides),
            needs: jobs_text(&gear.needs),
            facts: gear.facts.text(),
            identity: gear.identity.text(),
            version,
        }
    }

    /// Whose it is.
    pub(super) fn account(&self) -> AccountId {
        self.account_id
    }

    pub(super) fn read(self) -> Result<Stored<GearId, Gear>, StoreError> {
        let claimed = self.claimed_mg.zip(self.claimed_typed);
        let band = self.below_mg.zip(self.above_mg);
        let band = band.map(|(below, above)| Band { low: Mass::from_mg(-below), high: Mass::from_mg(above) });
        let stated = weight("gear.stated", self.stated_mg, self.stated_typed, self.stated_source, None)?;
        let value = Gear {
            name: name("gear.name", &self.name)?,
            system: from_word("gear.system", &self.system)?,
            count: self.count,
            weight: weight("gear.unit", self.unit_mg, self.unit_typed, self.source, band)?,
            stated: self.stated_at.map(|at| Stated { weight: stated, at: at.and_utc().timestamp_micros() }),
            claimed: claimed.map(|(mg, typed)| Claim { unit: Mass::from_mg(mg), typed }),
            paid: price("gear.paid", self.paid_low_minor, self.paid_high_minor)?,
            acquired: from_word("gear.acquired", &self.acquired)?,
            resale: self.resale_minor.map(Money::from_minor),
            resale_at: self.resale_at.map(|at| at.and_utc().timestamp_micros()),
            status: from_word("gear.status", &self.status)?,
            kept_at: self.kept_at,
            note: self.note,
            tags: Tags::parse(&self.tags).map_err(|_| StoreError::Corrupt("gear.tags"))?,
            nights: self.nights,
            provides: jobs("gear.provides", &self.provides)?,
            needs: jobs("gear.needs", &self.needs)?,
            facts: StoredAsJson::read("gear.facts", &self.facts)?,
            identity: StoredAsJson::read("gear.identity", &self.identity)?,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

/// One page of an account's gear, by system and name.
pub fn page(c: &mut MysqlConnection, access: Access, page: Page) -> Result<Vec<Stored<GearId, Gear>>, StoreError> {
    let rows = gear::table
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .select(GearRow::as_select())
        .order((gear::system, gear::name, gear::id))
        .limit(page.limit.into())
        .offset(page.offset.into())
        .load_iter::<GearRow, DefaultLoadingMode>(c)?;
    rows.map(|row| row?.read()).collect()
}

/// The things of such a page, each with its version, and how many things there are in all. A version is never that of another state of a thing.
pub fn versions(c: &mut MysqlConnection, access: Access, page: Page) -> Result<(Vec<(GearId, i32)>, i64), StoreError> {
    let mine = || gear::table.filter(gear::account_id.eq(access.account())).filter(gear::removed_at.is_null());
    let things: Vec<(GearId, i32)> = mine()
        .select((gear::id, gear::version))
        .order((gear::system, gear::name, gear::id))
        .limit(page.limit.into())
        .offset(page.offset.into())
        .load(c)?;
    // The count is asked for only where the page doesn't tell it.
    let known = i64::try_from(things.len()).unwrap_or(i64::MAX) + i64::from(page.offset);
    let full = things.len() >= usize::try_from(page.limit).unwrap_or(usize::MAX);
    let total = if full || things.is_empty() { mine().count().get_result(c)? } else { known };
    Ok((things, total))
}

/// All of an account's gear, by system and name.
pub fn all(c: &mut MysqlConnection, access: Access) -> Result<Vec<Stored<GearId, Gear>>, StoreError> {
    page(c, access, Page { limit: u32::MAX, offset: 0 })
}

/// Things that somebody has said are worth something, by system and name.
pub fn with_worth(c: &mut MysqlConnection, access: Access) -> Result<Vec<Stored<GearId, Gear>>, StoreError> {
    let rows: Vec<GearRow> = gear::table
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .filter(gear::resale_minor.gt(0))
        .order((gear::system, gear::name, gear::id))
        .select(GearRow::as_select())
        .load(c)?;
    rows.into_iter().map(GearRow::read).collect()
}

/// Things at hand that do a job, or keep warm, or hold something a trip asks for: what may quiet a caution.
pub fn shelf(c: &mut MysqlConnection, access: Access) -> Result<Vec<Stored<GearId, Gear>>, StoreError> {
    let at_hand: Vec<String> = Status::ALL.iter().filter(|status| status.is_at_hand()).map(word).collect();
    let rows: Vec<GearRow> = gear::table
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .filter(gear::status.eq_any(at_hand))
        .filter(gear::facts.ne("{}").or(gear::provides.ne("{}")).or(gear::tags.like("%container%")))
        .order((gear::system, gear::name, gear::id))
        .limit(SHELF)
        .select(GearRow::as_select())
        .load(c)?;
    rows.into_iter().map(GearRow::read).collect()
}

/// The most things of a shelf that are looked at.
const SHELF: i64 = 2_000;

/// One thing.
pub fn get(c: &mut MysqlConnection, access: Access, id: GearId) -> Result<Stored<GearId, Gear>, StoreError> {
    several(c, access, &[id])?.pop().ok_or(StoreError::NotFound)
}

/// Those of some things that are there, in any order.
pub fn several(
    c: &mut MysqlConnection,
    access: Access,
    ids: &[GearId],
) -> Result<Vec<Stored<GearId, Gear>>, StoreError> {
    let rows: Vec<GearRow> = gear::table
        .filter(gear::id.eq_any(ids))
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .select(GearRow::as_select())
        .load(c)?;
    rows.into_iter().map(GearRow::read).collect()
}

/// Those of some names that a thing has.
pub fn named(c: &mut MysqlConnection, access: Access, names: &[&str]) -> Result<Vec<String>, StoreError> {
    Ok(gear::table
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .filter(gear::name.eq_any(names.to_vec()))
        .select(gear::name)
        .load(c)?)
}

/// Things whose weight is calculated from a kit.
pub fn derived(c: &mut MysqlConnection, access: Access) -> Result<Vec<GearId>, StoreError> {
    Ok(gear::table
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .filter(gear::source.eq(word(WeightSource::Derived)))
        .select(gear::id)
        .load(c)?)
}

/// How many things an account has.
pub fn count(c: &mut MysqlConnection, access: Access) -> Result<usize, StoreError> {
    let mine = gear::table.filter(gear::account_id.eq(access.account())).filter(gear::removed_at.is_null());
    let count: i64 = mine.count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
}

/// Pairs of a maker's figure and a weighing of the same thing, of all that was ever owned and not removed.
pub fn claimed_and_weighed(c: &mut MysqlConnection, access: Access) -> Result<Vec<(Mass, Mass)>, StoreError> {
    let pairs: Vec<(Option<i64>, Option<i64>)> = gear::table
        .filter(gear::account_id.eq(access.account()))
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
pub fn insert(c: &mut MysqlConnection, access: Access, things: &[(GearId, Gear)]) -> Result<(), StoreError> {
    for things in things.chunks(ROWS) {
        let rows: Vec<GearRow> = things.iter().map(|(id, gear)| GearRow::new(access, *id, 1, gear)).collect();
        diesel::insert_into(gear::table).values(rows).execute(c)?;
    }
    Ok(())
}

/// Writes things, each over what was read at its version, all or none.
pub fn update(c: &mut MysqlConnection, access: Access, things: &[(GearId, i32, &Gear)]) -> Result<(), StoreError> {
    for things in things.chunks(ROWS) {
        check_versions(c, access, things.iter().map(|&(id, version, _)| (id, version)))?;
        let rows = things.iter().map(|&(id, version, gear)| {
            let row = GearRow::new(access, id, version + 1, gear);
            (row, gear::removed_at.eq(None::<NaiveDateTime>))
        });
        upsert(gear::table, rows.collect()).execute(c)?;
    }
    Ok(())
}

/// Takes things out of sight, each as it was read at its version, all or none; with their lines and the swaps that take them off.
/// Undoing brings all of it back.
pub fn remove(c: &mut MysqlConnection, access: Access, things: &[(GearId, i32)]) -> Result<(), StoreError> {
    for things in things.chunks(ROWS) {
        check_versions(c, access, things.iter().copied())?;
        diesel::update(gear::table.filter(gear::id.eq_any(things.iter().map(|thing| thing.0))))
            .set((gear::removed_at.eq(Some(Utc::now().naive_utc())), gear::version.eq(gear::version + 1)))
            .execute(c)?;
    }
    Ok(())
}

/// Takes all things out of sight.
pub fn remove_all(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    diesel::update(gear::table.filter(gear::account_id.eq(access.account())).filter(gear::removed_at.is_null()))
        .set((gear::removed_at.eq(Some(Utc::now().naive_utc())), gear::version.eq(gear::version + 1)))
        .execute(c)?;
    Ok(())
}

/// Refuses things that are gone, or have another version by now. Nobody changes them until the transaction ends.
fn check_versions(
    c: &mut MysqlConnection,
    access: Access,
    things: impl Iterator<Item = (GearId, i32)> + Clone,
) -> Result<(), StoreError> {
    let there: Vec<(GearId, i32)> = gear::table
        .filter(gear::id.eq_any(things.clone().map(|thing| thing.0)))
        .filter(gear::account_id.eq(access.account()))
        .filter(gear::removed_at.is_null())
        .select((gear::id, gear::version))
        .for_update()
        .load(c)?;
    all_at(&there, things)
}

impl Audited for GearRow {
    const SCHEMA_VERSION: u64 = 2;

    /// Form 0 was kept before migration 4: one half width, nothing stated, and figures without the unit that was meant. Form 1 had other
    /// keys of jobs.
    fn upgrade(form: u64, fields: &mut Fields) {
        with_present_keys(fields, &["provides", "needs"]);
        if form > 0 {
            return;
        }
        let half_width = fields.remove("half_width_mg").unwrap_or_default();
        fields.insert("below_mg".to_owned(), half_width.clone());
        fields.insert("above_mg".to_owned(), half_width);
        with_units(fields, &[("unit_typed", "unit_mg"), ("claimed_typed", "claimed_mg")], GRAMS_OR_OUNCES);
        let is_stated = matches!(fields.get("source").and_then(Value::as_str), Some("maker" | "estimate"));
        for (stated, from) in [("stated_mg", "unit_mg"), ("stated_typed", "unit_typed"), ("stated_source", "source")] {
            let value = fields.get(from).filter(|_| is_stated).cloned().unwrap_or_default();
            fields.insert(stated.to_owned(), value);
        }
        // What was stated in a log that does not say when is stated now.
        let stated_at = is_stated.then(|| Utc::now().naive_utc());
        fields.insert("stated_at".to_owned(), serde_json::to_value(stated_at).unwrap_or_default());
    }

    rows_of_account!(GearRow, gear, GearId);

    rows_put_back!(GearRow, gear, GearId);
}
