//! The rules of the job as others use them: the golden cases, gear, lists, swaps and files.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::float_arithmetic)]

mod fuzz;
mod golden;
mod kinds;
mod kits;
mod list_and_gear;
mod list_text;
mod lists_file;
mod parcels;
mod proposals;
mod quick_line;
mod trip_list;
