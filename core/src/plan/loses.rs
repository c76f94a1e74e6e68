//! What a swap by itself leaves shorter than today, of what the trip asks.

use super::model::{balance, job_changes};
use super::night::Nights;
use super::{Meet, Ready, load};
use crate::gear::Job;
use std::collections::HashMap;

/// Of each swap, in the problem's order, what falls shorter of what is asked with it alone: warmth, the ground, the packs' load, then
/// other jobs by their keys.
pub fn loses(ready: &Ready<'_>) -> Vec<Vec<Meet>> {
    let nights = Nights::new(ready);
    let load_spare = load::spare(ready);
    let mut balances: HashMap<&Job, i64> = HashMap::new();
    let mut all = Vec::with_capacity(ready.problem().swaps.len());
    for (index, swap) in ready.problem().swaps.iter().enumerate() {
        let mut lost = nights.as_ref().map_or_else(Vec::new, |nights| nights.colder_with(index));
        let mut jobs = job_changes(ready, swap);
        // Of packs it is asked that they carry what is in them.
        if let Some(spare) = load_spare {
            jobs.retain(|job, _| job.as_str() != load::JOB);
            let is_over = spare.saturating_add(load::change(ready, swap)) < spare.min(0);
            lost.extend(Job::new(load::JOB).filter(|_| is_over).map(Meet::Job));
        }
        for (job, by) in jobs {
            let today = *balances.entry(job).or_insert_with(|| balance(ready, job));
            if today.saturating_add(by) < today.min(0) {
                lost.push(Meet::Job(job.clone()));
            }
        }
        all.push(lost);
    }
    all
}
