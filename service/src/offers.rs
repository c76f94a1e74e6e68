//! Prices that are followed in a shop.

use super::sheet::{ListSnapshot, raised};
use super::swaps::full_swaps;
use super::{Caller, ServiceError, Services};
use chrono::{NaiveDate, TimeDelta, Utc};
use kevyt_core::list::balance;
use kevyt_core::quantity::Money;
use kevyt_core::swap::{PriceSpell, TRIED_DAYS, Wait, does_what_is_short, wait};
use kevyt_core::trip::kept;
use kevyt_store::id::{CandidateId, ListId, SwapId};
use kevyt_store::lists;
use kevyt_store::offers::{self, Figures, OfferState, Trouble};
use kevyt_store::{trips, walkers};
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
    pub known: HashMap<String, OfferState>,
    /// The first day of the list's next trip.
    pub trip_on: Option<NaiveDate>,
}

/// What waiting for a price comes to, and until when the thing is to be there to be tried before the trip; `None` where nothing can be said of it.
pub fn waiting(
    known: &OfferState,
    currency: &str,
    trip_on: Option<NaiveDate>,
    now: Money,
) -> Option<(Wait, NaiveDate)> {
    let trip_on = trip_on?;
    let seen = known.seen.iter().filter(|seen| seen.figures.currency == currency).map(|seen| PriceSpell {
        price: Money::from_minor(seen.figures.price),
        hours: u32::try_from((seen.until - seen.since).num_hours()).unwrap_or(0),
        is_there: seen.figures.stock > 0,
    });
    let days = (trip_on - Utc::now().date_naive()).num_days();
    let wait = wait(&seen.collect::<Vec<_>>(), now, days)?;
    Some((wait, trip_on.checked_sub_signed(TimeDelta::days(TRIED_DAYS))?))
}

impl Services {
    /// What is followed for a list: candidates of swaps that are not done; and what is known of their offers.
    pub fn followed(&self, caller: Caller, list: ListId) -> Result<AllFollowed, ServiceError> {
        self.read(|c| {
            let (of, to) = walkers::open(c, caller.access, list)?;
            lists::get(c, caller.access, list)?;
            let snapshot = ListSnapshot::load(c, caller, to)?;
            let lacking = balance(&snapshot.serving().1, &kept(of.value.trip.as_ref(), &of.value.requires));
            let raised = raised(&snapshot, &of.value, caller);
            let mut followed: Vec<Followed> = Vec::new();
            for full in full_swaps(c, caller, list)?.iter().filter(|swap| swap.swap.value.done.is_none()) {
                let with_offers = full.candidates.iter().filter_map(|candidate| {
                    let code = candidate.value.offer.clone()?;
                    let is_lacking = does_what_is_short(&candidate.value, &lacking, &raised);
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

    /// Notes the result of asking.
    pub fn note_offers(&self, asked: Vec<(String, Result<Figures, Trouble>)>) -> Result<(), ServiceError> {
        let c = &mut *self.connection()?;
        let now = Utc::now().naive_utc();
        for (code, came) in asked {
            offers::note(c, &code, came, now)?;
        }
        Ok(())
    }
}
