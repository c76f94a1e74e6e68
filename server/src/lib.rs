//! Kevyt's server: accounts, gear, lists, swaps and plans over HTTP. `http → service → store`; the rules are in `kevyt-core`.

pub mod account;
pub mod http;
pub mod metrics;
mod run;
pub mod service;
pub mod store;

pub use run::{Settings, open, run, run_metrics};
pub use service::backup::schema as account_schema;
