//! What breaks, on purpose: a database, a cluster of three and servers, each a process of its own that can be killed, paused and started
//! again. The tests in `tests/` are run by `./kevyt test --faults`; `./kevyt cluster` starts the cluster for a look.
#![allow(clippy::expect_used, reason = "a test bench that can't be set up says why and ends")]

mod client;
mod cluster;
mod haproxy;
mod mariadb;
mod server;

pub use client::{Answer, Client};
pub use cluster::Cluster;
pub use haproxy::Haproxy;
pub use mariadb::Mariadb;
pub use server::{Server, kevyt};

use std::net::TcpListener;
use std::sync::atomic::{AtomicU16, Ordering};

/// A port on loopback that nobody has now, and nobody gets by chance: below those that outgoing connections take.
pub fn free_port() -> u16 {
    static NEXT: AtomicU16 = AtomicU16::new(0);
    let first = 10_000 + u16::try_from(std::process::id() % 20_000).unwrap_or(0);
    let port = || 10_000 + (first - 10_000 + NEXT.fetch_add(1, Ordering::Relaxed)) % 20_000;
    std::iter::repeat_with(port)
        .take(20_000)
        .find(|port| TcpListener::bind(("127.0.0.1", *port)).is_ok())
        .expect("a free port")
}
