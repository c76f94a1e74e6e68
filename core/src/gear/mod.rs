//! What gear is for: the jobs it does, the system it belongs to, where its weight comes from and how far to trust it.

mod doubt;
mod facts;
mod food;
mod identity;
mod job;
pub(crate) mod job_mark;
mod kind;
mod kit;
mod known;
mod mark;
mod phrases;
mod source;
mod system;
mod thing;
mod weighing;

#[cfg(test)]
mod tests;

pub use doubt::{Band, Makers, Pieces, Trust, trust, weigh_queue, weighed_after, worth_weighing};
pub(crate) use doubt::{root_up, square};
pub use facts::{COMFORT_OVER_LIMIT, Facts, Rating, RatingKind};
pub use identity::{Identity, Need};
pub use job::{Job, JobUnit, Jobs, KNOWN_JOBS, KnownJob, known_job, present_key};
pub(crate) use kind::is_guarded;
pub use kind::{Guard, Kind, Start, Typical};
pub use kit::{KitFigures, Part, derived_band, kit_figures, whole};
pub use known::{Counting, Known};
pub(crate) use mark::{EMERGENCY, FOOD, MEDICAL, done_with};
pub use mark::{MARKS, Mark};
pub use source::WeightSource;
pub use system::System;
pub use thing::{Acquired, Claim, Gear, Name, NameError, Stated, Status, Tags, Weight};
pub use weighing::{DEFAULT_STEP, Weighing};
