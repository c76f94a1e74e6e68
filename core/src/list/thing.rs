//! A line of a list with what a trip asks of its gear, and what the lines do together.

use super::{Counts, Line, LineId, Place};
use crate::gear::{FOOD, Facts, Gear, Identity, Jobs, Makers, System, done_with};
use crate::quantity::Mass;

/// Who carries a line, of walkers in some order.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Carrier {
    /// It is that walker's own, and stays with them.
    Own(usize),
    /// It serves all, and that walker has it now.
    Shared(usize),
}

impl Carrier {
    /// The walker who has it.
    pub fn walker(self) -> usize {
        match self {
            Carrier::Own(walker) | Carrier::Shared(walker) => walker,
        }
    }
}

/// A line of a list with what a trip asks of its gear.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Thing {
    /// The line.
    pub line: Line,
    /// The system of its gear.
    pub system: System,
    /// What a trip asks of one piece.
    pub facts: Facts,
    /// What it is.
    pub identity: Identity,
    /// Who carries it.
    pub carrier: Carrier,
}

impl Thing {
    /// A thing somebody owns, on a list: its weight as far as the account's record of makers' figures trusts it. What is food has the tag.
    pub fn owned(id: LineId, gear: &Gear, counts: Counts, carrier: Carrier, makers: &Makers) -> Thing {
        let line = Line {
            id,
            name: gear.name.as_str().to_owned(),
            counts,
            weight: gear.weight.as_ref().map(|weight| makers.known(weight)),
            tags: if gear.is_food(counts.used_up) { gear.tags.with(FOOD) } else { gear.tags.clone() },
            provides: done_with(&gear.provides, &gear.tags),
            needs: gear.needs.clone(),
        };
        Thing { line, system: gear.system, facts: gear.facts, identity: gear.identity.clone(), carrier }
    }

    /// Whether a piece of it is in one of `places`.
    pub fn is_in(&self, places: &[Place]) -> bool {
        places.iter().any(|place| self.line.counts.at(*place) > 0)
    }

    /// Whether it is tagged with `word`.
    pub fn has(&self, word: &str) -> bool {
        self.line.tags.has(word)
    }

    /// What one piece weighs, nothing if nobody knows.
    pub fn unit(&self) -> Mass {
        self.line.unit().unwrap_or_default()
    }

    /// What one piece weighs without the gas in it; never below nothing.
    pub fn shell(&self) -> Mass {
        (self.unit() - self.facts.contents.unwrap_or_default()).max(Mass::ZERO)
    }

    /// The gas in all pieces that are packed: full cans.
    pub fn gas(&self) -> Mass {
        self.facts.contents.unwrap_or_default().times(self.line.counts.packed())
    }

    /// How much of a job one piece does.
    pub fn provides(&self, job: &str) -> i64 {
        self.line.provides.get(job).copied().unwrap_or_default()
    }

    /// The load in the pack: what is carried and used up.
    pub fn load(&self) -> Mass {
        self.unit().times(self.line.counts.packed())
    }
}

/// How much of a job the pieces in `places` do together.
pub fn job_sum<'a>(things: impl IntoIterator<Item = &'a Thing>, job: &str, places: &[Place]) -> i64 {
    let pieces = |thing: &Thing| places.iter().map(|place| i64::from(thing.line.counts.at(*place))).sum::<i64>();
    things.into_iter().map(|thing| thing.provides(job).saturating_mul(pieces(thing))).fold(0, i64::saturating_add)
}

/// What the lines and `required` ask of each job less what the lines do, over pieces carried, worn and used up: above 0 where
/// something is lacking.
pub fn balance<'a>(things: impl IntoIterator<Item = &'a Thing>, required: &Jobs) -> Jobs {
    let mut balance = required.clone();
    things.into_iter().for_each(|thing| count_jobs(&mut balance, thing));
    balance
}

/// Adds what one more thing asks and does to a balance of jobs.
pub fn count_jobs(balance: &mut Jobs, thing: &Thing) {
    let pieces = thing.line.counts.at_work();
    for (jobs, sign) in [(&thing.line.needs, 1), (&thing.line.provides, -1)] {
        for (job, amount) in jobs {
            let amount = amount.saturating_mul(sign * pieces);
            // A job that stands there already needs no copy of its name.
            match balance.get_mut(job) {
                Some(sum) => *sum = sum.saturating_add(amount),
                None => drop(balance.insert(job.clone(), amount)),
            }
        }
    }
}
