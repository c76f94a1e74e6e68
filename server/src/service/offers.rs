//! Prices that are followed in a shop.

use super::sheet::{Laid, raised};
use super::swaps::full_swaps;
use super::{Caller, ServiceError, Services};
use crate::store::id::{CandidateId, ListId, SwapId};
use crate::store::lists::{self, PackList};
use crate::store::offers::{self, Figures, Known, Trouble};
use crate::store::{trips, walkers};
use chrono::{NaiveDate, TimeDelta, Utc};
use kevyt_core::caution::CautionId;
use kevyt_core::gear::Job;
use kevyt_core::list::balance;
use kevyt_core::quantity::Money;
use kevyt_core::swap::{Candidate, Stood, Wait, wait};
use kevyt_core::trip::kept;
use std::collections::HashMap;

/// A candidate whose price is followed.
#[derive(Debug, Clone)]
pub struct Followed {
    /// The swap that it is of.
    pub swap: SwapId,
    /// The candidate.
    pub candidate: CandidateId,
    /// What the shop knows it by.
    pub code: String,
    /// Whether it does something of which the list is short today: that is not waited with.
    pub is_lacking: bool,
}

/// What is followed for a list, and until when there is time.
pub struct AllFollowed {
    /// Candidates of swaps that are not done.
    pub followed: Vec<Followed>,
    /// What is known of their offers.
    pub known: HashMap<String, Known>,
    /// The first day of the list's next trip.
    pub trip_on: Option<NaiveDate>,
}

/// What waiting for a price comes to.
pub struct Waiting {
    /// By the prices that were seen.
    pub wait: Wait,
    /// How much of the time it was sold out, in per cent.
    pub sold_out_percent: i64,
    /// Until when it is to be there, so that it is tried before the trip.
    pub by: NaiveDate,
}

/// How long new gear is tried before a trip.
const TRIED: TimeDelta = TimeDelta::days(28);
/// From one look at a price to the next.
const LOOK: i64 = 30;
/// Prices that were seen for less than this say nothing of those to come.
const SEEN_ENOUGH: TimeDelta = TimeDelta::days(30);

/// What waiting comes to for something that costs so much now; `None` where there is no trip to be in time for, too little was seen, or the
/// price never moved.
pub fn waiting(known: &Known, currency: &str, trip_on: Option<NaiveDate>, now: Money) -> Option<Waiting> {
    let seen: Vec<&offers::Seen> = known.seen.iter().filter(|seen| seen.figures.currency == currency).collect();
    let (first, last) = (seen.first()?, seen.last()?);
    let by = trip_on?.checked_sub_signed(TRIED)?;
    let looks = u32::try_from((by - Utc::now().date_naive()).num_days() / LOOK).ok()?;
    let hours = |seen: &offers::Seen| u32::try_from((seen.until - seen.since).num_hours()).unwrap_or(0).max(1);
    let stood: Vec<Stood> = seen
        .iter()
        .filter(|seen| seen.figures.stock > 0)
        .map(|seen| Stood { price: Money::from_minor(seen.figures.price), hours: hours(seen) })
        .collect();
    let moved = stood.windows(2).any(|pair| pair[0].price != pair[1].price);
    if last.until - first.since < SEEN_ENOUGH || !moved {
        return None;
    }
    let all: i64 = seen.iter().map(|seen| i64::from(hours(seen))).sum();
    let there: i64 = stood.iter().map(|stood| i64::from(stood.hours)).sum();
    Some(Waiting { wait: wait(&stood, now, looks)?, sold_out_percent: (all - there) * 100 / all, by })
}

impl Services {
    /// What is followed for a list: candidates of swaps that are not done; and what is known of their offers.
    pub fn followed(&self, caller: Caller, list: ListId) -> Result<AllFollowed, ServiceError> {
        self.read(|c| {
            let (of, to) = walkers::open(c, caller.access, list)?;
            lists::get(c, caller.access, list)?;
            let laid = Laid::out(c, caller, to)?;
            let lacking = lacking(&laid, &of.value, caller);
            let mut followed: Vec<Followed> = Vec::new();
            for full in full_swaps(c, caller, list)?.iter().filter(|swap| swap.swap.value.done.is_none()) {
                let with_offers = full.candidates.iter().filter_map(|candidate| {
                    let code = candidate.value.offer.clone()?;
                    let is_lacking = lacking.iter().any(|lacks| lacks.is_done_by(&candidate.value));
                    Some(Followed { swap: full.swap.id, candidate: candidate.id, code, is_lacking })
                });
                followed.extend(with_offers);
            }
            let codes: Vec<String> = followed.iter().map(|followed| followed.code.clone()).collect();
            let known = offers::known(c, &codes)?;
            let today = Utc::now().date_naive();
            let coming = trips::all(c, caller.access)?.into_iter().map(|trip| trip.value);
            let trip_on = coming
                .filter(|trip| trip.list == Some(list) && trip.kept_at.is_none() && trip.starts_on >= today)
                .map(|trip| trip.starts_on)
                .min();
            Ok(AllFollowed { followed, known, trip_on })
        })
    }

    /// Those of some offers that are to be asked for now: nobody did within the hour.
    pub fn offers_to_ask(&self, mut codes: Vec<String>) -> Result<Vec<String>, ServiceError> {
        codes.sort_unstable();
        codes.dedup();
        Ok(offers::claim(&mut *self.connection()?, &codes, Utc::now().naive_utc())?)
    }

    /// Notes what came of asking.
    pub fn note_offers(&self, asked: Vec<(String, Result<Figures, Trouble>)>) -> Result<(), ServiceError> {
        let c = &mut *self.connection()?;
        let now = Utc::now().naive_utc();
        for (code, came) in asked {
            offers::note(c, &code, came, now)?;
        }
        Ok(())
    }
}

/// Something of which a list is short.
enum Lacking {
    /// A job that is not done.
    Job(Job),
    /// Warmth at night.
    Warmth,
    /// Warmth from below.
    Ground,
}

impl Lacking {
    fn is_done_by(&self, candidate: &Candidate) -> bool {
        let does = |job: &str| candidate.provides.iter().any(|(done, amount)| done.as_str() == job && *amount > 0);
        match self {
            Lacking::Job(job) => does(job.as_str()),
            Lacking::Warmth => candidate.facts.rating.is_some() || candidate.facts.warms.is_some(),
            Lacking::Ground => candidate.facts.rating.is_some() || does("ground_insulation"),
        }
    }
}

/// What a list is short of today.
fn lacking(laid: &Laid, list: &PackList, caller: Caller) -> Vec<Lacking> {
    let (_, serving) = laid.serving();
    let asked = kept(list.trip.as_ref(), &list.requires);
    let short = balance(&serving, &asked).into_iter().filter(|(_, amount)| *amount > 0);
    let is = |key: &str, id: CautionId| key == id.key();
    let cautions = raised(laid, list, caller).into_iter().filter_map(|raised| match raised.key.as_str() {
        key if is(key, CautionId::ColdNight) || is(key, CautionId::ColdBack) => Some(Lacking::Warmth),
        key if is(key, CautionId::ColdGround) => Some(Lacking::Ground),
        _ => None,
    });
    short.map(|(job, _)| Lacking::Job(job)).chain(cautions).collect()
}
