//! The search of the planner: which sets of swaps are allowed, and of those which no other beats in both cost and mass.
//!
//! A [`Model`] has a variable for each swap, which is made or not, and constraints between them. [`by_labels`] finds the whole Pareto frontier where
//! variables are coupled little; else [`sweep`] does by branch and bound ([`Solver`]), which also solves for one answer. Sets are compared, and
//! bounds added up, in whole numbers, so "best" is proved: what the linear relaxation gets wrong in floating point makes a bound weaker, never
//! false. What gear, money and nights have to do with it is `kevyt-core`'s.
//!
//! [`chance_of_sum`] is the planner's other long calculation: how likely a sum of things that err is at or under a limit.
//!
//! A crate of its own, because it alone is built with optimizations for the tests, which search thousands of problems.
#![deny(missing_docs, clippy::float_arithmetic)]

mod blocks;
mod branch_and_bound;
mod by_labels;
mod chance_of_sum;
mod constraint;
mod labels;
mod limits;
mod model;
mod stages;
mod sweep;
mod work;

#[cfg(test)]
mod tests;

pub use branch_and_bound::{Best, Forced, Least, NO_LIMIT, Objective, Solution, Solver};
pub use by_labels::by_labels;
pub use chance_of_sum::chance_of_sum;
pub use constraint::Constraint;
pub use labels::{Labels, bits};
pub use limits::Limits;
pub use model::{Model, Variable};
pub use sweep::{Swept, first, sweep};
pub use work::{Stopped, Work};
