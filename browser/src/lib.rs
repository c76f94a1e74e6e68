//! The real interface in a real browser.

mod browser;
mod chromium;
mod visit;

pub use browser::{Browser, Look, until, within};
pub use visit::{SCREENS, demo, enter_demo, sign_up};
