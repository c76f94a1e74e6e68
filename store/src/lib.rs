//! Rows and queries. Every query takes the [`access::Access`] of the caller: what it does not open is not there.

pub mod access;
pub mod account;
pub mod accounts;
pub mod bases;
pub mod candidates;
mod convert;
mod error;
pub mod event;
pub mod gear;
pub mod heartbeats;
pub mod history;
pub mod id;
pub mod idempotency;
pub mod kept_plans;
pub mod kits;
pub mod lessons;
pub mod lines;
pub mod links;
pub mod lists;
mod migrations;
pub mod offers;
pub mod packing;
mod pool;
mod schema;
pub mod sessions;
mod state;
mod stored;
pub mod swaps;
pub mod trips;
mod upsert;
mod versioned;
pub mod walkers;
pub mod weighings;

pub use error::StoreError;
pub use migrations::MIGRATIONS;
pub use pool::{
    CONNECTION_WAIT, CONNECTIONS, Manager, Pool, begin, begin_snapshot, check_address, commit, connect, roll_back,
};

use diesel::r2d2::PooledConnection;
use diesel::result::Error as DieselError;
use std::collections::HashMap;
use std::hash::Hash;

/// A connection out of the pool.
pub type Connection = PooledConnection<Manager>;

/// Something stored: its id, its version and itself.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Stored<I, T> {
    /// Its id.
    pub id: I,
    /// Counted up by every change.
    pub version: i32,
    /// Itself.
    pub value: T,
}

impl<I, T> Stored<I, T> {
    /// Itself, if nothing has changed it since it was read at `version`.
    pub fn at(self, version: i32) -> Result<Self, StoreError> {
        if self.version == version { Ok(self) } else { Err(StoreError::Stale(self.version)) }
    }
}

/// Part of a long list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Page {
    /// The most rows.
    pub limit: u32,
    /// Rows passed over.
    pub offset: u32,
}

/// Tells a row that is gone from one that has changed, after an update of one version touched nothing.
fn changed(updated: usize, version_now: impl FnOnce() -> Result<i32, DieselError>) -> Result<(), StoreError> {
    if updated > 0 { Ok(()) } else { Err(StoreError::Stale(version_now()?)) }
}

/// Refuses rows that are gone, or have another version by now than that at which they were read; `there` are those that are, locked.
fn all_at<I: Copy + Eq + Hash>(there: &[(I, i32)], read: impl Iterator<Item = (I, i32)>) -> Result<(), StoreError> {
    let now: HashMap<I, i32> = there.iter().copied().collect();
    for (id, version) in read {
        match now.get(&id) {
            Some(now) if *now == version => {}
            Some(now) => return Err(StoreError::Stale(*now)),
            None => return Err(StoreError::NotFound),
        }
    }
    Ok(())
}
