//! Pack lists and their lines in the database.

use super::access::Access;
use super::convert::{KILOGRAMS_OR_POUNDS, from_json, jobs, jobs_text, json_text, name, with_present_keys, with_units};
use super::id::{AccountId, ListId};
use super::schema::pack_list;
use super::state::{Audited, Fields, rows_of_account, rows_put_back};
use super::stored::StoredAsJson;
use super::versioned::versioned;
use super::{StoreError, Stored};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::caution::KnownCaution;
use kevyt_core::gear::{Jobs, Name};
use kevyt_core::list::Way;
use kevyt_core::plan::Terms;
use kevyt_core::quantity::{Mass, Money};
use kevyt_core::trip::Trip;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A pack list without its lines.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PackList {
    /// Its name.
    pub name: Name,
    /// A line about the trip.
    pub note: String,
    /// The base weight to reach and how it was typed.
    pub target: Option<(Mass, String)>,
    /// The most money to spend.
    pub budget: Option<Money>,
    /// What an hour of making is worth.
    pub hour_rate: Money,
    /// What the trip requires, as far as the walker says so; its conditions ask for more.
    pub requires: Jobs,
    /// The trip; `None` until somebody says what it is.
    pub trip: Option<Trip>,
    /// The way of counting that new lines follow: its key, or nothing.
    pub way: String,
    /// Ways of counting of the walker's own.
    pub ways: Vec<Way>,
    /// How its plan is asked for, beside target and budget.
    pub terms: Terms,
    /// Keys of proposals that are not to be made again.
    pub silenced: Vec<String>,
    /// Cautions that were acknowledged, as they stood then.
    pub known: Vec<KnownCaution>,
    /// Nights of the coming twelve months for which it is carried; `None` where its trips to come say it.
    pub year_nights: Option<u32>,
    /// Whether it is archived.
    pub archived: bool,
}

impl PackList {
    /// The base weight to reach; `None` without a target, or where it is of another figure.
    pub fn base_target(&self) -> Option<Mass> {
        self.target.as_ref().map(|(mass, _)| *mass).filter(|_| self.terms.target_of.is_base())
    }

    /// A list without a question yet.
    pub fn empty(name: Name) -> PackList {
        PackList {
            name,
            note: String::new(),
            target: None,
            budget: None,
            hour_rate: Money::ZERO,
            requires: Jobs::new(),
            trip: None,
            way: String::new(),
            ways: Vec::new(),
            terms: Terms::default(),
            silenced: Vec::new(),
            known: Vec::new(),
            year_nights: None,
            archived: false,
        }
    }
}

/// A list as it is stored.
pub type StoredList = Stored<ListId, PackList>;
#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = pack_list, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct ListRow {
    id: ListId,
    account_id: AccountId,
    name: String,
    note: String,
    target_mg: Option<i64>,
    target_typed: Option<String>,
    budget_minor: Option<i64>,
    hour_minor: i64,
    requires: String,
    #[serde(default)]
    trip: Option<String>,
    #[serde(default)]
    way: String,
    #[serde(default = "no_ways")]
    ways: String,
    #[serde(default = "no_terms")]
    terms: String,
    #[serde(default = "no_ways")]
    silenced: String,
    #[serde(default = "no_ways")]
    known: String,
    #[serde(default)]
    year_nights: Option<u32>,
    #[serde(default)]
    archived: bool,
    version: i32,
}

fn no_ways() -> String {
    "[]".to_owned()
}

fn no_terms() -> String {
    "{}".to_owned()
}

impl ListRow {
    fn new(access: Access, id: ListId, version: i32, list: &PackList) -> ListRow {
        ListRow {
            id,
            account_id: access.account(),
            name: list.name.as_str().to_owned(),
            note: list.note.clone(),
            target_mg: list.target.as_ref().map(|(mass, _)| mass.mg()),
            target_typed: list.target.as_ref().map(|(_, typed)| typed.clone()),
            budget_minor: list.budget.map(Money::minor),
            hour_minor: list.hour_rate.minor(),
            requires: jobs_text(&list.requires),
            trip: list.trip.as_ref().map(Trip::text),
            way: list.way.clone(),
            ways: list.ways.text(),
            terms: if list.terms == Terms::default() { no_terms() } else { list.terms.text() },
            silenced: json_text(&list.silenced),
            known: list.known.text(),
            year_nights: list.year_nights,
            archived: list.archived,
            version,
        }
    }

    pub(super) fn read(self) -> Result<StoredList, StoreError> {
        let trip = self.trip.map(|text| Trip::read("pack_list.trip", &text));
        let value = PackList {
            name: name("pack_list.name", &self.name)?,
            note: self.note,
            target: self.target_mg.map(Mass::from_mg).zip(self.target_typed),
            budget: self.budget_minor.map(Money::from_minor),
            hour_rate: Money::from_minor(self.hour_minor),
            requires: jobs("pack_list.requires", &self.requires)?,
            trip: trip.transpose()?,
            way: self.way,
            ways: Vec::read("pack_list.ways", &self.ways)?,
            terms: Terms::read("pack_list.terms", &self.terms)?,
            silenced: from_json("pack_list.silenced", &self.silenced)?,
            known: Vec::read("pack_list.known", &self.known)?,
            year_nights: self.year_nights,
            archived: self.archived,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

versioned!(pack_list, ListId);

/// An account's lists, oldest first.
pub fn all(c: &mut MysqlConnection, access: Access) -> Result<Vec<StoredList>, StoreError> {
    let rows: Vec<ListRow> = pack_list::table
        .filter(pack_list::account_id.eq(access.account()))
        .filter(pack_list::removed_at.is_null())
        .select(ListRow::as_select())
        .order(pack_list::id)
        .load(c)?;
    rows.into_iter().map(ListRow::read).collect()
}

/// One list.
pub fn get(c: &mut MysqlConnection, access: Access, id: ListId) -> Result<StoredList, StoreError> {
    let row: ListRow = pack_list::table
        .filter(pack_list::id.eq(id))
        .filter(pack_list::account_id.eq(access.account()))
        .filter(pack_list::removed_at.is_null())
        .select(ListRow::as_select())
        .first(c)?;
    row.read()
}

/// Adds a list.
pub fn insert(c: &mut MysqlConnection, access: Access, id: ListId, list: &PackList) -> Result<(), StoreError> {
    diesel::insert_into(pack_list::table).values(ListRow::new(access, id, 1, list)).execute(c)?;
    Ok(())
}

/// Writes a list that was read at `version`.
pub fn update(
    c: &mut MysqlConnection,
    access: Access,
    id: ListId,
    version: i32,
    list: &PackList,
) -> Result<(), StoreError> {
    write(c, access, (id, version), ListRow::new(access, id, version + 1, list))
}

/// Takes a list out of sight.
pub fn remove(c: &mut MysqlConnection, access: Access, id: ListId, version: i32) -> Result<(), StoreError> {
    take_off(c, access, id, version)
}

/// Takes all lists out of sight.
pub fn remove_all(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    let mine = pack_list::table.filter(pack_list::account_id.eq(access.account()));
    diesel::update(mine.filter(pack_list::removed_at.is_null()))
        .set((pack_list::removed_at.eq(Some(Utc::now().naive_utc())), pack_list::version.eq(pack_list::version + 1)))
        .execute(c)?;
    Ok(())
}

/// How many lists an account has.
pub fn count(c: &mut MysqlConnection, access: Access) -> Result<usize, StoreError> {
    let mine =
        pack_list::table.filter(pack_list::account_id.eq(access.account())).filter(pack_list::removed_at.is_null());
    let count: i64 = mine.count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
}

/// Lists of an account that have more lines or swaps than they may: their names.
pub fn overfull(
    c: &mut MysqlConnection,
    access: Access,
    most_lines: usize,
    most_swaps: usize,
    most_entries: usize,
) -> Result<Vec<String>, StoreError> {
    #[derive(QueryableByName)]
    struct Name {
        #[diesel(sql_type = diesel::sql_types::Text)]
        name: String,
    }
    let shown = "SELECT l.name FROM pack_list l WHERE l.account_id = ? AND l.removed_at IS NULL AND (";
    let lines = "(SELECT COUNT(*) FROM list_line i JOIN gear g ON g.id = i.gear_id \
        WHERE i.list_id = l.id AND i.removed_at IS NULL AND g.removed_at IS NULL) > ?";
    let swaps = "(SELECT COUNT(*) FROM swap s WHERE s.list_id = l.id AND s.removed_at IS NULL) > ?";
    let entries = ["swap_remove", "swap_add", "swap_link"].map(|table| {
        format!("(SELECT COUNT(*) FROM swap s JOIN {table} e ON e.swap_id = s.id WHERE s.list_id = l.id AND s.removed_at IS NULL)")
    });
    let entries = entries.join(" + ");
    let most = |most: usize| i64::try_from(most).unwrap_or(i64::MAX);
    let rows: Vec<Name> = diesel::sql_query(format!("{shown}{lines} OR {swaps} OR {entries} > ?)"))
        .bind::<diesel::sql_types::Binary, _>(access.account())
        .bind::<diesel::sql_types::Bigint, _>(most(most_lines))
        .bind::<diesel::sql_types::Bigint, _>(most(most_swaps))
        .bind::<diesel::sql_types::Bigint, _>(most(most_entries))
        .load(c)?;
    Ok(rows.into_iter().map(|row| row.name).collect())
}

impl Audited for ListRow {
    const SCHEMA_VERSION: u64 = 2;

    /// Form 0 had targets without the unit that was meant, form 1 other keys of jobs.
    fn upgrade(form: u64, fields: &mut Fields) {
        with_present_keys(fields, &["requires"]);
        if form == 0 {
            with_units(fields, &[("target_typed", "target_mg")], KILOGRAMS_OR_POUNDS);
        }
    }

    rows_of_account!(ListRow, pack_list, ListId);

    rows_put_back!(ListRow, pack_list, ListId);
}
