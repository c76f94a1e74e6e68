//! Prices that are followed in a shop.

use super::swaps::full_swaps;
use super::{Caller, ServiceError, Services};
use crate::store::id::{CandidateId, ListId, SwapId};
use crate::store::lists;
use crate::store::offers::{self, Figures, Known, Trouble};
use chrono::Utc;
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
}

impl Services {
    /// What is followed for a list: candidates of swaps that are not done; and what is known of their offers.
    pub fn followed(
        &self,
        caller: Caller,
        list: ListId,
    ) -> Result<(Vec<Followed>, HashMap<String, Known>), ServiceError> {
        self.read(|c| {
            lists::get(c, caller.access, list)?;
            let mut followed: Vec<Followed> = Vec::new();
            for full in full_swaps(c, caller, list)?.iter().filter(|swap| swap.swap.value.done.is_none()) {
                let with_offers = full.candidates.iter().filter_map(|candidate| {
                    let code = candidate.value.offer.clone()?;
                    Some(Followed { swap: full.swap.id, candidate: candidate.id, code })
                });
                followed.extend(with_offers);
            }
            let codes: Vec<String> = followed.iter().map(|followed| followed.code.clone()).collect();
            let known = offers::known(c, &codes)?;
            Ok((followed, known))
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
