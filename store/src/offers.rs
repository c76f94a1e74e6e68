//! Offers of a shop that somebody follows, in the database: what was seen of them and when, shared by all who follow one.

use super::StoreError;
use super::convert::{from_word, word};
use super::schema::{offer, offer_seen};
use chrono::{NaiveDateTime, TimeDelta};
use diesel::prelude::*;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::ToSchema;

/// An offer is asked for once in so long, whichever accounts follow it.
const POLITE: TimeDelta = TimeDelta::hours(1);
/// What was seen longer ago is forgotten.
const REMEMBERED: TimeDelta = TimeDelta::days(400);

/// Offers that are asked for at once: those that wait longest come first, the others have their turn the next time.
const AT_ONCE: usize = 20;

/// Why a shop's answer is none.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
#[schema(as = OfferTrouble)]
pub enum Trouble {
    /// The shop did not answer.
    Silent,
    /// It answered what can't be an offer.
    Nonsense,
    /// It has no such offer any more.
    Gone,
    /// Its price is in another currency than the account's.
    OtherCurrency,
}

/// Figures of an offer.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Figures {
    /// ISO 4217.
    pub currency: String,
    /// New.
    pub price: i64,
    /// When it is not on sale; `None` if it isn't.
    pub was: Option<i64>,
    /// Used, if there is one.
    pub used: Option<i64>,
    /// New ones that are there.
    pub stock: i64,
}

/// Figures, and from when to when they were seen.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PriceSeen {
    /// Seen first.
    pub since: NaiveDateTime,
    /// Seen last.
    pub until: NaiveDateTime,
    /// What was seen.
    pub figures: Figures,
}

/// What is known of an offer.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct OfferState {
    /// The result of the last request, if it was no figures.
    pub trouble: Option<Trouble>,
    /// What was seen, the oldest first.
    pub seen: Vec<PriceSeen>,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = offer_seen, check_for_backend(diesel::mysql::Mysql))]
struct SeenRow {
    code: String,
    since: NaiveDateTime,
    seen_until: NaiveDateTime,
    currency: String,
    price_minor: i64,
    was_minor: Option<i64>,
    used_minor: Option<i64>,
    stock: i64,
}

impl SeenRow {
    fn figures(&self) -> Figures {
        Figures {
            currency: self.currency.clone(),
            price: self.price_minor,
            was: self.was_minor,
            used: self.used_minor,
            stock: self.stock,
        }
    }
}

/// Those of some offers that nobody asked for within the hour, as many as are asked for at once. They count as asked for now: whoever else
/// wants them has what is known.
pub fn claim(c: &mut MysqlConnection, codes: &[String], now: NaiveDateTime) -> Result<Vec<String>, StoreError> {
    let asked: HashMap<String, NaiveDateTime> = offer::table
        .filter(offer::code.eq_any(codes))
        .select((offer::code, offer::asked_at))
        .load(c)?
        .into_iter()
        .collect();
    let mut stale: Vec<&String> =
        codes.iter().filter(|code| asked.get(*code).is_none_or(|at| *at <= now - POLITE)).collect();
    stale.sort_by_key(|code| asked.get(*code));
    let mut claimed = Vec::new();
    for code in stale.into_iter().take(AT_ONCE) {
        let row = (offer::code.eq(code), offer::asked_at.eq(now - POLITE));
        diesel::insert_or_ignore_into(offer::table).values(row).execute(c)?;
        let unasked = offer::table.filter(offer::code.eq(code)).filter(offer::asked_at.le(now - POLITE));
        if diesel::update(unasked).set(offer::asked_at.eq(now)).execute(c)? == 1 {
            claimed.push(code.clone());
        }
    }
    Ok(claimed)
}

/// Notes the result of asking for an offer: figures, or why there are none. What is known of it stays.
pub fn note(
    c: &mut MysqlConnection,
    code: &str,
    came: Result<Figures, Trouble>,
    now: NaiveDateTime,
) -> Result<(), StoreError> {
    let trouble = came.as_ref().err().map(|trouble| word(*trouble));
    diesel::update(offer::table.filter(offer::code.eq(code))).set(offer::trouble.eq(trouble)).execute(c)?;
    let Ok(figures) = came else { return Ok(()) };
    let last: Option<SeenRow> = offer_seen::table
        .filter(offer_seen::code.eq(code))
        .order(offer_seen::since.desc())
        .select(SeenRow::as_select())
        .first(c)
        .optional()?;
    if let Some(last) = last.filter(|last| last.figures() == figures) {
        let same = offer_seen::table.filter(offer_seen::code.eq(code)).filter(offer_seen::since.eq(last.since));
        diesel::update(same).set(offer_seen::seen_until.eq(now)).execute(c)?;
        return Ok(());
    }
    let Figures { currency, price, was, used, stock } = figures;
    let row = SeenRow {
        code: code.to_owned(),
        since: now,
        seen_until: now,
        currency,
        price_minor: price,
        was_minor: was,
        used_minor: used,
        stock,
    };
    // Two that saw it in the same instant saw the same.
    diesel::insert_or_ignore_into(offer_seen::table).values(row).execute(c)?;
    let old = offer_seen::table.filter(offer_seen::code.eq(code)).filter(offer_seen::seen_until.lt(now - REMEMBERED));
    diesel::delete(old).execute(c)?;
    Ok(())
}

/// What is known of some offers.
pub fn known(c: &mut MysqlConnection, codes: &[String]) -> Result<HashMap<String, OfferState>, StoreError> {
    let troubles: Vec<(String, Option<String>)> =
        offer::table.filter(offer::code.eq_any(codes)).select((offer::code, offer::trouble)).load(c)?;
    let mut known: HashMap<String, OfferState> = HashMap::new();
    for (code, trouble) in troubles {
        let trouble = trouble.map(|trouble| from_word("offer.trouble", &trouble)).transpose()?;
        known.insert(code, OfferState { trouble, seen: Vec::new() });
    }
    let rows: Vec<SeenRow> = offer_seen::table
        .filter(offer_seen::code.eq_any(codes))
        .order((offer_seen::code, offer_seen::since))
        .select(SeenRow::as_select())
        .load(c)?;
    for row in rows {
        let (since, until, figures) = (row.since, row.seen_until, row.figures());
        known.entry(row.code).or_default().seen.push(PriceSeen { since, until, figures });
    }
    Ok(known)
}
