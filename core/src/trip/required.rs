//! What a trip requires by its conditions, each with the reason.

use super::{Supplies, Trip};
use crate::gear::{Job, Jobs};
use serde::Serialize;

/// At which low and below a trip asks for a warm layer, in tenths of a degree Celsius: 10 °C, a rule of thumb.
pub const COLD_TENTH_C: i64 = 100;

/// Why a trip requires something.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Why {
    /// Every trip does.
    Always,
    /// A night is spent out.
    Nights,
    /// Rain is expected.
    Rain,
    /// Insects are.
    Insects,
    /// It gets down to [`COLD_TENTH_C`] or lower.
    Cold,
    /// It freezes.
    Freezing,
    /// There is snow underfoot.
    Snow,
    /// Local rules ask for it.
    Compulsory,
    /// Water is boiled.
    Cooking,
    /// Something is charged.
    Charging,
    /// Nobody else could help.
    Alone,
    /// The walker says so.
    Own,
}

/// One job that a trip requires.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Requirement {
    /// The job.
    pub job: Job,
    /// How much of it; 0 where the walker says that it is not needed.
    pub amount: i64,
    /// Why.
    pub why: Why,
    /// How much the conditions alone ask for.
    pub by_default: i64,
}

/// What a trip requires by its conditions, where `own` has what the walker says instead. In the order of the jobs.
pub fn requirements(trip: &Trip, own: &Jobs) -> Vec<Requirement> {
    let mut found: Vec<Requirement> = defaults(trip)
        .into_iter()
        .filter_map(|(job, amount, why)| Some(Requirement { job: Job::new(job)?, amount, why, by_default: amount }))
        .collect();
    for (job, amount) in own {
        match found.iter_mut().find(|required| &required.job == job) {
            Some(required) if required.amount == *amount => {}
            Some(required) => (required.amount, required.why) = (*amount, Why::Own),
            None => found.push(Requirement { job: job.clone(), amount: *amount, why: Why::Own, by_default: 0 }),
        }
    }
    found.sort_by(|a, b| a.job.cmp(&b.job));
    found
}

/// What a trip requires of each job, as plans and cautions count it: what its conditions ask for and what `own` has instead; without a
/// trip, what `own` has.
pub fn required(trip: Option<&Trip>, own: &Jobs) -> Jobs {
    let all: Vec<(Job, i64)> = match trip {
        Some(trip) => requirements(trip, own).into_iter().map(|asked| (asked.job, asked.amount)).collect(),
        None => own.iter().map(|(job, amount)| (job.clone(), *amount)).collect(),
    };
    all.into_iter().filter(|(_, amount)| *amount > 0).collect()
}

/// What a plan, and what Kevyt proposes, leave no shorter than it is: what the trip requires, and containers for the water of its stretch.
pub fn kept(trip: Option<&Trip>, own: &Jobs) -> Jobs {
    let mut kept = required(trip, own);
    let water = trip.map_or(0, |trip| Supplies::of(trip).water_ml);
    if let Some(job) = Job::new("water_carried").filter(|_| water > 0) {
        let asked = kept.entry(job).or_default();
        *asked = water.max(*asked);
    }
    kept
}

fn defaults(trip: &Trip) -> Vec<(&'static str, i64, Why)> {
    let mut asked = vec![
        ("water_treatment", 1, Why::Always),
        ("way_finding", 1, Why::Always),
        ("call_for_help", 1, Why::Always),
        ("first_aid", 1, Why::Always),
        ("light", 1, Why::Always),
    ];
    let mut when = |condition: bool, job: &'static str, why: Why| {
        if condition {
            asked.push((job, 1, why));
        }
    };
    let nights = trip.days > 1;
    when(nights, "shelter", Why::Nights);
    when(nights, "sleep_insulation", Why::Nights);
    // It may rain on any night out, whatever is expected.
    when(nights || trip.rain, "rain_shell", if trip.rain { Why::Rain } else { Why::Nights });
    when(trip.insects, "insect_net", Why::Insects);
    when(trip.low_tenth_c <= COLD_TENTH_C, "warm_layer", Why::Cold);
    when(trip.low_tenth_c <= 0, "gloves", Why::Freezing);
    when(trip.low_tenth_c <= 0, "warm_hat", Why::Freezing);
    when(trip.snow, "traction", Why::Snow);
    when(trip.container_compulsory, "food_store", Why::Compulsory);
    let cooks = trip.boil_ml_per_day > 0;
    when(cooks, "pot", Why::Cooking);
    when(cooks, "heat", Why::Cooking);
    when(cooks || trip.low_tenth_c <= 0, "fire", if cooks { Why::Cooking } else { Why::Freezing });
    when(trip.alone, "repair", Why::Alone);
    // The pad has thresholds of its own: see the caution `cold_ground`.
    asked
}
