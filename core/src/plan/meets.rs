//! What a plan may be asked to leave nothing short of: what that is, how short it is today, and what it would cost to meet it.

use super::model::balance;
use super::night::{Floor, Nights};
use super::{Answer, Limits, Outcome, Problem, Ready, Terms, load, solve};
use crate::gear::Job;
use crate::quantity::{Mass, Money};
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// What a plan must leave nothing short of.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(try_from = "String", into = "String")]
pub enum Meet {
    /// The bed is as warm as the low asks.
    Warmth,
    /// So is what is under the back.
    Ground,
    /// A job.
    Job(Job),
}

impl Meet {
    /// By its key: `warmth`, `ground`, or that of a job.
    pub fn new(key: &str) -> Option<Meet> {
        match key {
            "warmth" => Some(Meet::Warmth),
            "ground" => Some(Meet::Ground),
            job => Job::new(job).map(Meet::Job),
        }
    }

    /// As the problem file has it.
    pub fn key(&self) -> &str {
        match self {
            Meet::Warmth => "warmth",
            Meet::Ground => "ground",
            Meet::Job(job) => job.as_str(),
        }
    }
}

impl From<Meet> for String {
    fn from(meet: Meet) -> String {
        meet.key().to_owned()
    }
}

impl TryFrom<String> for Meet {
    type Error = String;

    fn try_from(key: String) -> Result<Meet, String> {
        Meet::new(&key).ok_or_else(|| format!("\"{key}\" is not warmth, ground or the key of a job"))
    }
}

/// Something that is short on the list as it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Short {
    /// What it is.
    pub meet: Meet,
    /// By how much: warmth in tenths of a degree, the ground in tenths of R, or in a hammock of a degree, a job in its unit. `None` where no
    /// bed, or no underquilt, is rated.
    pub by: Option<i64>,
    /// Whether it is what is under the back in a hammock.
    pub hangs: bool,
}

impl Short {
    fn new(meet: Meet, by: Option<i64>) -> Short {
        Short { meet, by, hangs: false }
    }
}

/// What is short on the list as it stands.
pub fn shorts(ready: &Ready<'_>) -> Vec<Short> {
    let today = Nights::new(ready).map(|nights| nights.today);
    let warmth = today.map(|today| Short::new(Meet::Warmth, today.cold));
    let ground = today.map(|today| match today.floor {
        Floor::Ground(short) => Short::new(Meet::Ground, Some(short)),
        Floor::Back(short) => Short { hangs: true, ..Short::new(Meet::Ground, short) },
    });
    let problem = ready.problem();
    let asked = problem.lines.iter().flat_map(|line| line.needs.keys()).chain(problem.require.keys());
    let mut jobs: BTreeSet<&Job> = asked.collect();
    // Of a pack it is asked that it carries the heaviest start.
    let over = load::over(ready);
    if over.is_some() {
        jobs.retain(|job| job.as_str() != load::JOB);
    }
    let over = over.and_then(|grams| Some(Short::new(Meet::Job(Job::new(load::JOB)?), Some(grams))));
    let of_jobs = jobs.into_iter().map(|job| Short::new(Meet::Job(job.clone()), Some(-balance(ready, job))));
    let all = warmth.into_iter().chain(ground).chain(of_jobs).chain(over);
    all.filter(|short| short.by.is_none_or(|by| by > 0)).collect()
}

/// A plan that meets one thing more.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MeetCost {
    /// What it would meet.
    pub meet: Meet,
    /// What would come of it: no set meets it, or only ones beyond the budget, or there is a plan.
    pub outcome: Outcome,
    /// How much more that plan costs, below nothing if it is cheaper; `None` where there is none.
    pub more: Option<Money>,
    /// How much more its base weight is.
    pub heavier: Option<Mass>,
}

/// Of each thing that is short today and not asked to be met yet, what the plan would cost that meets it beside what is. What is not known before
/// it is to stop is left out.
pub fn meet_costs(
    ready: &Ready<'_>,
    answer: &Answer,
    limits: &Limits,
    should_stop: &dyn Fn() -> bool,
) -> Vec<MeetCost> {
    let problem = ready.problem();
    let mut costs = Vec::new();
    if answer.plan.swaps.is_none() || answer.plan.gap.is_some() {
        return costs;
    }
    for Short { meet, .. } in shorts(ready).into_iter().filter(|short| !problem.terms.meet.contains(&short.meet)) {
        let asked = problem.terms.meet.iter().cloned().chain([meet.clone()]).collect();
        let asked = Problem { terms: Terms { meet: asked, ..problem.terms.clone() }, ..problem.clone() };
        // Each is a problem made ready anew: the question whether to stop comes first.
        if should_stop() {
            break;
        }
        let Ok(ready) = Ready::new(&asked) else { continue };
        let Ok(found) = solve(&ready, limits, should_stop) else { continue };
        if found.plan.gap.is_some() || found.plan.outcome == Outcome::Unresolved {
            continue;
        }
        let is_plan = found.plan.swaps.is_some();
        costs.push(MeetCost {
            meet,
            outcome: found.plan.outcome,
            more: is_plan.then(|| found.plan.net - answer.plan.net),
            heavier: is_plan.then(|| found.plan.base - answer.plan.base),
        });
    }
    costs
}
