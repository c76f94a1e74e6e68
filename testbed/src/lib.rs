//! What tests of the real application stand on: a fresh database with a server on it, and a crowd of accounts.

mod crowd;
mod stage;

pub use crowd::crowd;
pub use stage::{Beside, Stage};
