//! Walkers on one list: what each carries, what each would lack alone, and the most even split of what they share.

mod split;

pub use split::{SPLIT_STEPS, Split, even_split};

use crate::gear::{Job, Jobs};
use crate::list::{Carrier, Counts, Line, Thing};
use crate::quantity::Mass;

/// Jobs that each of two needs when they are separated.
const ALONE: [&str; 6] = ["shelter", "sleep_insulation", "ground_insulation", "water_treatment", "light", "first_aid"];
/// Food, by its tag, is the seventh.
const FOOD: &str = "food";

/// Jobs that somebody on the list does and nothing that this walker has does, in order; food by its tag.
pub fn lacks(things: &[Thing], walker: usize) -> Vec<Job> {
    let does = |thing: &Thing, job: &str| {
        thing.line.counts.at_work() > 0 && (thing.provides(job) > 0 || (job == FOOD && thing.has(FOOD)))
    };
    let lacking = ALONE.into_iter().chain([FOOD]).filter(|job| {
        let mut having = things.iter().filter(|thing| does(thing, job)).peekable();
        having.peek().is_some() && having.all(|thing| thing.carrier.walker() != walker)
    });
    lacking.filter_map(Job::new).collect()
}

/// What is to be split: positions of the shared things, what each weighs, and what each of so many walkers carries besides.
pub fn to_split(things: &[Thing], walkers: usize) -> (Vec<usize>, Vec<Mass>, Vec<Mass>) {
    let is_shared = |at: &usize| matches!(things[*at].carrier, Carrier::Shared(_));
    let shared: Vec<usize> = (0..things.len()).filter(is_shared).collect();
    let mut own = vec![Mass::ZERO; walkers];
    for thing in things {
        if let Carrier::Own(at) = thing.carrier
            && let Some(own) = own.get_mut(at)
        {
            *own = *own + thing.load();
        }
    }
    let masses = shared.iter().map(|at| things[*at].load()).collect();
    (shared, masses, own)
}

/// Positions of the things that do their jobs for a walker: what they carry, and what another carries for all.
pub fn serving(things: &[Thing], walker: usize) -> Vec<usize> {
    let serves = |at: &usize| match things[*at].carrier {
        Carrier::Own(by) => by == walker,
        Carrier::Shared(_) => true,
    };
    (0..things.len()).filter(serves).collect()
}

/// The lines of a list as one walker's plan counts them, and what the trip still requires of them. What another carries weighs nothing:
/// its pieces stand apart. What they do for all is required no longer.
pub fn lines_of(things: Vec<Thing>, walker: usize, mut require: Jobs) -> (Vec<Line>, Jobs) {
    let counted = |Thing { mut line, carrier, .. }: Thing| {
        if carrier.walker() == walker {
            return line;
        }
        if let Carrier::Shared(_) = carrier {
            for (job, amount) in &line.provides {
                if let Some(asked) = require.get_mut(job) {
                    *asked = (*asked - amount.saturating_mul(line.counts.at_work())).max(0);
                }
            }
        }
        line.counts =
            Counts { apart: line.counts.pieces() - line.counts.left, left: line.counts.left, ..Counts::default() };
        line
    };
    let lines = things.into_iter().map(counted).collect();
    (lines, require)
}
