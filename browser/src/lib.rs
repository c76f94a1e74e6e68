//! What tests of the real application stand on: a fresh database with a server on it, and a browser.

mod browser;
mod crowd;
mod stage;
mod visit;

pub use browser::{Browser, Look};
pub use crowd::crowd;
pub use stage::{Beside, Stage};
pub use visit::{SCREENS, demo, enter_demo, sign_up};
