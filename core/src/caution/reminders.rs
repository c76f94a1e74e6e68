//! What is said whatever the figures: of gear that was made or is new, of medicine, of what one of two would lack, and of local rules.

use super::{Caution, CautionId, Level, Situation};
use crate::gear::Job;
use crate::list::Place;

/// What is known of a thing beside its line: whether it was made at home, and the nights it has behind it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Behind {
    /// Whether it was made at home.
    pub is_made: bool,
    /// Nights of use.
    pub nights: u32,
}

/// Jobs that a night depends on: what does them is tried near home first.
const TRIED_FIRST: [&str; 4] = ["shelter", "sleep_insulation", "ground_insulation", "load"];

/// Reminders for a list; `behind` stands beside its things, `lacking` is what each walker would lack alone.
pub fn reminders(situation: &Situation<'_>, behind: &[Behind], lacking: &[Vec<Job>]) -> Vec<Caution> {
    let new = |made: bool| {
        situation
            .positions(&[Place::Carried], |thing| TRIED_FIRST.iter().any(|job| thing.provides(job) > 0))
            .into_iter()
            .filter(move |at| behind.get(*at).is_some_and(|behind| behind.nights == 0 && behind.is_made == made))
    };
    let note = |id: CautionId, of: Vec<usize>| {
        (!of.is_empty()).then(|| Caution { of, ..Caution::new(id, Level::Note) }).into_iter()
    };
    let medical = situation.positions(&Place::ALL, |thing| thing.has("medical"));
    let apart = lacking.iter().enumerate().flat_map(|(walker, jobs)| jobs.iter().map(move |job| (walker, job)));
    let shared = apart.map(|(walker, job)| Caution {
        job: Some(job.clone()),
        found: i64::try_from(walker).ok(),
        ..Caution::new(CautionId::SharedGear, Level::Amber)
    });
    let mut all: Vec<Caution> = note(CautionId::MadeGear, new(true).collect()).collect();
    all.extend(note(CautionId::Medical, medical));
    all.push(Caution::new(CautionId::Rules, Level::Note));
    all.extend(shared);
    all.extend(note(CautionId::Untested, new(false).collect()));
    all
}
