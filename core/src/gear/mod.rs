//! What gear is for: the jobs it does, the system it belongs to, and where its weight comes from.

mod job;
mod source;
mod system;
mod thing;

pub use job::{Job, JobUnit, Jobs, KNOWN_JOBS, KnownJob, known_job};
pub use source::WeightSource;
pub use system::System;
pub use thing::{Gear, Name, NameError, Weight};
