//! Kevyt's server: accounts, gear, lists, swaps and plans over HTTP. The use cases are in `kevyt-service`, the rules in `kevyt-core`.

pub mod http;
pub mod metrics;
mod run;

pub use run::{Settings, open, run, run_metrics};
