//! The server as its clients meet it: real requests to a real server on a real MariaDB.
#![allow(clippy::unwrap_used, clippy::expect_used)]

mod accounts;
mod client;
mod command_line;
mod cut;
mod database;
mod doing;
mod files;
mod forecast;
mod gear;
mod history;
mod kept;
mod limits;
mod packing;
mod planning;
mod plans;
mod refusals;
mod round_trip;
mod running;
mod sheet;
mod shop;
mod starting;
mod strangers;
mod together;
mod trips;
mod weigh;
