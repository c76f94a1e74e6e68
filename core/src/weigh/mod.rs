//! The scale: its reports, when a reading is steady, and weighing by taking away.

mod bluetooth;
mod report;
mod steady;
mod take_away;

#[cfg(test)]
mod tests;

pub use bluetooth::measured;
pub use report::{Fault, Report, Status, Unit, decode, encode};
pub use steady::{Settled, settle};
pub use take_away::{Piece, TakeAway, TakeAwayError};
