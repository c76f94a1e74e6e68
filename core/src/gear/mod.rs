//! What gear is for: the jobs it does, the system it belongs to, where its weight comes from and how far to trust it.

mod doubt;
mod facts;
mod food;
mod job;
mod kit;
mod known;
pub(crate) mod phrases;
mod source;
mod spare;
mod suggest;
mod system;
mod thing;
mod weighing;

#[cfg(test)]
mod tests;

pub use doubt::{Band, Makers, Pieces, Trust, trust, weigh_queue, weighed_after, worth_weighing};
pub(crate) use doubt::{root_up, square};
pub use facts::{COMFORT_OVER_LIMIT, Facts, Rating, RatingKind};
pub(crate) use food::FOOD;
pub use job::{Job, JobUnit, Jobs, KNOWN_JOBS, KnownJob, known_job, present_key};
pub use kit::{KitFigures, Part, derived_band, kit_figures, whole};
pub use known::{Counting, Known};
pub use source::WeightSource;
pub use spare::{Spare, spare};
pub use suggest::{Suggestion, suggestions};
pub use system::System;
pub use thing::{Acquired, Claim, Gear, Name, NameError, Stated, Status, Tags, Weight};
pub use weighing::{DEFAULT_STEP, Weighing};
