//! Packing: where in the pack each thing goes, what is still to be done before leaving, and whether a scale agrees with the list.

mod before;
mod packed;
mod reconcile;
mod zones;

#[cfg(test)]
mod tests;

pub use before::{Noted, Task, ToDo, to_do};
pub use packed::{Packed, PackingNote, is_forgotten};
pub use reconcile::{Cause, Explained, InPack, Reconciled, Why, reconcile};
pub use zones::{Fill, Zone, fill, proposed};
