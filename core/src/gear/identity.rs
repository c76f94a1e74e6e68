//! What a thing is, as its owner says: its kind, whether it is needed, and what of it is only assumed.

use super::{Guard, Job, JobUnit, Jobs, Kind, Start, Tags, known_job};
use crate::limits;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// Whether a thing is needed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Need {
    /// It is.
    Need,
    /// It is brought for the joy of it.
    Want,
    /// Nobody has decided.
    Undecided,
}

/// What a thing is.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(default, deny_unknown_fields)]
pub struct Identity {
    /// Its kind; `None` while nobody has said.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schemars(with = "Option<String>"))]
    pub kind: Option<&'static Kind>,
    /// Whether it is needed, where somebody has said; else its kind says.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub need: Option<Need>,
    /// Whether it stays as it is: never proposed to go, never taken by a plan.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub keep: bool,
    /// Where its pieces start on a list, where somebody has said; else its kind says.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub start: Option<Start>,
    /// Jobs that it does by an amount that came with its kind and that nobody has confirmed.
    #[serde(skip_serializing_if = "BTreeSet::is_empty")]
    pub assumed: BTreeSet<Job>,
    /// How long it took to make, in tenths of an hour.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub made_tenth_hours: Option<u32>,
    /// After how many nights of use it is worn out, where somebody has said.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lasts_nights: Option<u32>,
}

impl Identity {
    /// Whether it is needed: as said, or as its kind has it.
    pub fn need(&self) -> Need {
        self.need.unwrap_or(match self.kind {
            Some(kind) if kind.guard == Guard::Want => Need::Want,
            Some(kind) if kind.guard == Guard::Never && !kind.is_none() => Need::Need,
            _ => Need::Undecided,
        })
    }

    /// Where its pieces start on a list: as said, or as its kind has it; `None` where nothing says so.
    pub fn start(&self) -> Option<Start> {
        self.start.or(self.kind.map(|kind| kind.start))
    }

    /// Makes it of a kind: what came with the kind before goes, what comes with the new one is there, and what was said stays. Amounts that
    /// come with a kind are assumed.
    pub fn become_kind(&mut self, kind: Option<&'static Kind>, tags: &mut Tags, provides: &mut Jobs, needs: &mut Jobs) {
        if let Some(before) = self.kind {
            *tags = tags.without(&before.marks);
            provides.retain(|job, amount| !(before.provides.get(job) == Some(amount) && self.is_kinds(job)));
            needs.retain(|job, amount| before.needs.get(job) != Some(amount));
        }
        self.assumed.clear();
        if let Some(kind) = kind {
            *tags = kind.marks.words().iter().fold(tags.clone(), |tags, mark| tags.with(mark));
            for (job, amount) in &kind.provides {
                if !provides.contains_key(job) && provides.len() < limits::JOBS {
                    provides.insert(job.clone(), *amount);
                    if is_measured(job) {
                        self.assumed.insert(job.clone());
                    }
                }
            }
            for (job, amount) in &kind.needs {
                if needs.len() < limits::JOBS {
                    needs.entry(job.clone()).or_insert(*amount);
                }
            }
        }
        self.kind = kind;
    }

    /// Whether the amount of a job is still the kind's: measured ones are until somebody confirms them.
    fn is_kinds(&self, job: &Job) -> bool {
        !is_measured(job) || self.assumed.contains(job)
    }

    /// Keeps as assumed what one does by the same amount as before.
    pub fn keep_assumed(&mut self, before: &Jobs, now: &Jobs) {
        self.assumed.retain(|job| now.contains_key(job) && before.get(job) == now.get(job));
    }

    /// Whether nothing is said.
    pub fn is_empty(&self) -> bool {
        *self == Identity::default()
    }
}

/// Whether an amount of a job is a measure rather than a count.
fn is_measured(job: &Job) -> bool {
    known_job(job).is_some_and(|known| known.unit != JobUnit::Count)
}
