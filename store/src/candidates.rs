//! Candidates in the database: what could be bought, made or borrowed.

use super::access::Access;
use super::convert::{jobs, jobs_text, name, no_facts, price, weight, word};
use super::id::{AccountId, CandidateId, ListId};
use super::schema::{candidate, pack_list, swap, swap_add};
use super::stored::StoredAsJson;
use super::upsert::ROWS;
use super::{Page, StoreError, Stored, changed};
use diesel::prelude::*;
use kevyt_core::gear::Tags;
use kevyt_core::swap::Candidate;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = candidate, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct CandidateRow {
    id: CandidateId,
    account_id: AccountId,
    name: String,
    unit_mg: Option<i64>,
    unit_typed: Option<String>,
    source: Option<String>,
    price_low_minor: Option<i64>,
    price_high_minor: Option<i64>,
    #[serde(default)]
    seen: Option<String>,
    #[serde(default)]
    offer: Option<String>,
    provides: String,
    needs: String,
    #[serde(default = "no_facts")]
    facts: String,
    #[serde(default)]
    tags: String,
    #[serde(default = "no_facts")]
    identity: String,
    version: i32,
}

impl CandidateRow {
    pub(super) fn new(access: Access, id: CandidateId, version: i32, candidate: &Candidate) -> CandidateRow {
        let weight = candidate.weight.clone();
        CandidateRow {
            id,
            account_id: access.account(),
            name: candidate.name.as_str().to_owned(),
            unit_mg: weight.as_ref().map(|weight| weight.unit.mg()),
            source: weight.as_ref().map(|weight| word(weight.source)),
            unit_typed: weight.map(|weight| weight.typed),
            price_low_minor: candidate.price.map(|price| price.low().minor()),
            price_high_minor: candidate.price.map(|price| price.high().minor()),
            seen: candidate.seen.as_ref().map(StoredAsJson::text),
            offer: candidate.offer.clone(),
            provides: jobs_text(&candidate.provides),
            needs: jobs_text(&candidate.needs),
            facts: candidate.facts.text(),
            tags: candidate.tags.to_string(),
            identity: candidate.identity.text(),
            version,
        }
    }

    fn read(self) -> Result<Stored<CandidateId, Candidate>, StoreError> {
        let value = Candidate {
            name: name("candidate.name", &self.name)?,
            weight: weight("candidate.unit", self.unit_mg, self.unit_typed, self.source, None)?,
            price: price("candidate.price", self.price_low_minor, self.price_high_minor)?,
            seen: self.seen.map(|text| StoredAsJson::read("candidate.seen", &text)).transpose()?,
            offer: self.offer,
            provides: jobs("candidate.provides", &self.provides)?,
            needs: jobs("candidate.needs", &self.needs)?,
            facts: StoredAsJson::read("candidate.facts", &self.facts)?,
            tags: Tags::parse(&self.tags).map_err(|_| StoreError::Corrupt("candidate.tags"))?,
            identity: StoredAsJson::read("candidate.identity", &self.identity)?,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

/// One page of the candidates that an account's swaps put on, by name. A candidate goes and comes back with its swaps.
pub fn page(
    c: &mut MysqlConnection,
    access: Access,
    page: Page,
) -> Result<(Vec<Stored<CandidateId, Candidate>>, i64), StoreError> {
    let in_use = || {
        let swaps = swap_add::table.inner_join(swap::table.inner_join(pack_list::table));
        swaps
            .filter(swap::account_id.eq(access.account()))
            .filter(swap::removed_at.is_null())
            .filter(pack_list::removed_at.is_null())
            .select(swap_add::candidate_id)
    };
    let mine =
        || candidate::table.filter(candidate::account_id.eq(access.account())).filter(candidate::id.eq_any(in_use()));
    let rows: Vec<CandidateRow> = mine()
        .select(CandidateRow::as_select())
        .order((candidate::name, candidate::id))
        .limit(page.limit.into())
        .offset(page.offset.into())
        .load(c)?;
    let total = mine().count().get_result(c)?;
    Ok((rows.into_iter().map(CandidateRow::read).collect::<Result<_, _>>()?, total))
}

/// The account's candidates among these ids.
pub fn by_id(
    c: &mut MysqlConnection,
    access: Access,
    ids: &[CandidateId],
) -> Result<HashMap<CandidateId, Stored<CandidateId, Candidate>>, StoreError> {
    let rows: Vec<CandidateRow> = candidate::table
        .filter(candidate::account_id.eq(access.account()))
        .filter(candidate::id.eq_any(ids))
        .select(CandidateRow::as_select())
        .load(c)?;
    rows.into_iter().map(|row| row.read().map(|stored| (stored.id, stored))).collect()
}

/// Those of some names that a candidate has that a swap puts on.
pub fn named(c: &mut MysqlConnection, access: Access, names: &[&str]) -> Result<Vec<String>, StoreError> {
    let in_use = swap_add::table
        .inner_join(swap::table.inner_join(pack_list::table))
        .filter(swap::account_id.eq(access.account()))
        .filter(swap::removed_at.is_null())
        .filter(pack_list::removed_at.is_null())
        .select(swap_add::candidate_id);
    Ok(candidate::table
        .filter(candidate::account_id.eq(access.account()))
        .filter(candidate::name.eq_any(names.to_vec()))
        .filter(candidate::id.eq_any(in_use))
        .select(candidate::name)
        .load(c)?)
}

/// Adds candidates.
pub fn insert(
    c: &mut MysqlConnection,
    access: Access,
    candidates: &[(CandidateId, Candidate)],
) -> Result<(), StoreError> {
    for candidates in candidates.chunks(ROWS) {
        let rows: Vec<CandidateRow> =
            candidates.iter().map(|(id, candidate)| CandidateRow::new(access, *id, 1, candidate)).collect();
        diesel::insert_into(candidate::table).values(rows).execute(c)?;
    }
    Ok(())
}

/// Writes a candidate that was read at `version`.
pub fn update(
    c: &mut MysqlConnection,
    access: Access,
    id: CandidateId,
    version: i32,
    value: &Candidate,
) -> Result<(), StoreError> {
    let mine = candidate::table.filter(candidate::id.eq(id)).filter(candidate::account_id.eq(access.account()));
    let updated = diesel::update(mine.filter(candidate::version.eq(version)))
        .set(CandidateRow::new(access, id, version + 1, value))
        .execute(c)?;
    changed(updated, || mine.select(candidate::version).first(c))
}

/// Puts a candidate back as the change log has it.
pub(super) fn put_row(c: &mut MysqlConnection, access: Access, row: CandidateRow) -> Result<(), StoreError> {
    let mine = candidate::table.filter(candidate::id.eq(row.id)).filter(candidate::account_id.eq(access.account()));
    let now: i32 = mine.select(candidate::version).first(c)?;
    let row = CandidateRow { account_id: access.account(), version: now + 1, ..row };
    diesel::update(mine).set(row).execute(c)?;
    Ok(())
}

/// What the swaps of a list put on, that have not been ruled out, by name.
pub fn of_list(c: &mut MysqlConnection, access: Access, list: ListId) -> Result<Vec<Candidate>, StoreError> {
    let in_use = swap_add::table
        .inner_join(swap::table)
        .filter(swap::account_id.eq(access.account()))
        .filter(swap::list_id.eq(list))
        .filter(swap::removed_at.is_null())
        .filter(swap::state.ne("ruled_out"))
        .select(swap_add::candidate_id);
    let rows: Vec<CandidateRow> = candidate::table
        .filter(candidate::account_id.eq(access.account()))
        .filter(candidate::id.eq_any(in_use))
        .order((candidate::name, candidate::id))
        .select(CandidateRow::as_select())
        .load(c)?;
    rows.into_iter().map(|row| row.read().map(|stored| stored.value)).collect()
}
