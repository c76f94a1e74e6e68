//! What tests of the real application stand on: a fresh database with a server on it, and a browser.

mod browser;
mod stage;

pub use browser::{Browser, Look};
pub use stage::Stage;
