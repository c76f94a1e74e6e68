//! Jobs that gear does and needs.

use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// The key of a job: 1 to 40 of `a`–`z`, `0`–`9`, `_`.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(try_from = "String", into = "String")]
pub struct Job(String);

/// Amounts of jobs, for one piece.
pub type Jobs = BTreeMap<Job, i64>;

/// What an amount of a job counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum JobUnit {
    /// Pieces.
    Count,
    /// Tenths of R (thermal resistance of a sleeping pad), added up over pads.
    TenthsOfR,
    /// Millilitres.
    Ml,
    /// Grams.
    G,
    /// Milliwatt hours.
    Mwh,
}

/// A job that Kevyt has a name for. Others may be used; they count pieces.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
pub struct KnownJob {
    /// Its key.
    pub key: &'static str,
    /// Its name, as shown.
    pub name: &'static str,
    /// What its amounts count.
    pub unit: JobUnit,
    /// Whether a list without it is unsafe on most trips: never proposed for leaving out.
    pub safety: bool,
}

const fn job(key: &'static str, name: &'static str, unit: JobUnit, safety: bool) -> KnownJob {
    KnownJob { key, name, unit, safety }
}

/// The jobs known by name, in the order in which they are offered.
pub const KNOWN_JOBS: &[KnownJob] = &[
    job("shelter", "shelter", JobUnit::Count, true),
    job("sleep_insulation", "sleep insulation", JobUnit::Count, true),
    job("ground_insulation", "ground insulation", JobUnit::TenthsOfR, true),
    job("rain_shell", "rain shell", JobUnit::Count, true),
    job("insect_net", "insect net", JobUnit::Count, false),
    job("gloves", "gloves", JobUnit::Count, false),
    job("warm_hat", "warm hat", JobUnit::Count, false),
    job("warm_layer", "warm layer", JobUnit::Count, false),
    job("light", "light", JobUnit::Count, true),
    job("way_finding", "way-finding", JobUnit::Count, true),
    job("call_for_help", "call for help", JobUnit::Count, true),
    job("first_aid", "first aid", JobUnit::Count, true),
    job("fire", "fire", JobUnit::Count, true),
    job("water_treatment", "water treatment", JobUnit::Count, true),
    job("water_carried", "water carried", JobUnit::Ml, false),
    job("traction", "traction", JobUnit::Count, true),
    job("ice_axe", "ice axe", JobUnit::Count, true),
    job("shelter_pole", "shelter pole", JobUnit::Count, false),
    job("stake", "stake", JobUnit::Count, false),
    job("tie_out", "tie-out line", JobUnit::Count, false),
    job("pot", "pot", JobUnit::Count, false),
    job("heat", "heat", JobUnit::Count, false),
    job("repair", "repair", JobUnit::Count, false),
    job("cutting", "cutting", JobUnit::Count, false),
    job("toilet", "toilet", JobUnit::Count, false),
    job("food_store", "food store", JobUnit::Count, false),
    job("room", "room in the pack", JobUnit::Ml, false),
    job("load", "load of the pack", JobUnit::G, false),
    job("power", "power", JobUnit::Mwh, false),
];

impl KnownJob {
    /// The job.
    pub fn job(&self) -> Job {
        Job(self.key.to_owned())
    }
}

/// The known job with this key.
pub fn known_job(job: &Job) -> Option<&'static KnownJob> {
    KNOWN_JOBS.iter().find(|known| known.key == job.as_str())
}

impl Job {
    /// The longest key.
    const LONGEST: usize = 40;

    /// A job from its key; `None` if the key has other characters or another length.
    pub fn new(key: &str) -> Option<Job> {
        let fits = (1..=Self::LONGEST).contains(&key.len())
            && key.bytes().all(|b| b.is_ascii_lowercase() || b.is_ascii_digit() || b == b'_');
        fits.then(|| Job(key.to_owned()))
    }

    /// The key.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

/// Amounts are found by the key alone.
impl std::borrow::Borrow<str> for Job {
    fn borrow(&self) -> &str {
        &self.0
    }
}

impl TryFrom<String> for Job {
    type Error = String;
    fn try_from(key: String) -> Result<Job, String> {
        Job::new(&key).ok_or_else(|| format!("\"{key}\" is not a job key; a key has 1 to 40 of a-z, 0-9 and _"))
    }
}

impl From<Job> for String {
    fn from(job: Job) -> String {
        job.0
    }
}

/// The present key of a job whose key was another one before the open formats settled them.
pub fn present_key(key: &str) -> &str {
    match key {
        "insulation" => "sleep_insulation",
        "ground_r" => "ground_insulation",
        "pole" => "shelter_pole",
        "water_ml" => "water_carried",
        "room_ml" => "room",
        "load_g" => "load",
        "power_mwh" => "power",
        key => key,
    }
}
