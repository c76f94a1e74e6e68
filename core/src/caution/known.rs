//! Cautions that somebody has acknowledged: they fold to a line until they get worse.

use super::{Caution, Level};
use serde::{Deserialize, Serialize};

/// A caution as it stood when it was acknowledged.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct KnownCaution {
    /// What it is about, and the job if it is about one.
    pub key: String,
    /// How grave it was.
    pub level: Level,
    /// How much was lacking, or too much.
    pub short: Option<i64>,
    /// The main thing behind it, by its name.
    pub main: Option<String>,
    /// How many things were behind it.
    pub things: usize,
}

impl Caution {
    /// What it is known by: what it is about, its job, and the walker it is about.
    pub fn key(&self) -> String {
        let job = self.job.as_ref().map(|job| format!("/{}", job.as_str())).unwrap_or_default();
        let walker = self.found.filter(|_| self.id == super::CautionId::SharedGear).map(|at| format!("/{at}"));
        format!("{}{job}{}", self.id.key(), walker.unwrap_or_default())
    }

    /// The same as it is acknowledged; `main` is the name of the first thing behind it.
    pub fn acknowledged(&self, main: Option<&str>) -> KnownCaution {
        let (key, level, short) = (self.key(), self.level, self.short);
        KnownCaution { key, level, short, main: main.map(str::to_owned), things: self.of.len() }
    }
}

impl KnownCaution {
    /// Whether a caution says no more than this: it is no graver, nothing more is lacking, and the same stands behind it.
    pub fn covers(&self, now: &KnownCaution) -> bool {
        self.key == now.key
            && now.level <= self.level
            && now.short.unwrap_or_default() <= self.short.unwrap_or_default()
            && now.main == self.main
            && now.things <= self.things
    }
}
