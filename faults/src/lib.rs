//! What breaks, on purpose: a database, a cluster of three and servers, each a process of its own that can be killed, paused and started
//! again. The tests in `tests/` are run by `./kevyt test --faults`; `./kevyt cluster` starts the cluster for a look.
#![allow(clippy::expect_used, reason = "a test bench that can't be set up says why and ends")]

mod client;
mod cluster;
mod mariadb;
mod server;

pub use client::{Answer, Client};
pub use cluster::Cluster;
pub use mariadb::Mariadb;
pub use server::Server;

use std::net::TcpListener;

/// A port on loopback that nobody has now.
pub fn free_port() -> u16 {
    TcpListener::bind("127.0.0.1:0").and_then(|listener| listener.local_addr()).expect("a free port").port()
}
