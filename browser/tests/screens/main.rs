//! The application in a real browser: one program for all suites, so that they share the cores.

mod away;
mod by_hand;
mod hands_on;
mod inventory;
mod list;
mod spending;
mod trips;
mod whole_job;
mod year;
