//! Packing: where in the pack each thing goes, what is still to be done before leaving, and whether a scale agrees with the list.

mod before;
mod reconcile;
mod zones;

#[cfg(test)]
mod tests;

pub use before::{Task, ToDo, missing_for_safety, to_do};
pub use reconcile::{Cause, Explained, InPack, Reconciled, Why, reconcile};
pub use zones::{Fill, Room, Zone, fill, proposed};
