//! Rows and queries. Every query takes the account it is for: what belongs to another account is not there.

pub mod accounts;
pub mod candidates;
mod convert;
pub mod gear;
pub mod history;
pub mod id;
pub mod kits;
pub mod lists;
mod pool;
mod schema;
pub mod swaps;
pub mod weighings;

pub use pool::{MIGRATIONS, Pool, connect};

use diesel::MysqlConnection;
use diesel::r2d2::{ConnectionManager, PooledConnection};
use diesel::result::{DatabaseErrorKind, Error as DieselError};

/// A connection out of the pool.
pub type Connection = PooledConnection<ConnectionManager<MysqlConnection>>;

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

/// Part of a long list.
#[derive(Debug, Clone, Copy)]
pub struct Page {
    /// The most rows.
    pub limit: u32,
    /// Rows passed over.
    pub offset: u32,
}

/// Why a query failed.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// There is no such row for this account.
    #[error("not found")]
    NotFound,
    /// The row has changed since it was read; holds its version now.
    #[error("changed since it was read")]
    Stale(i32),
    /// A name or pair that may stand once stands already.
    #[error("stands already")]
    Duplicate,
    /// A row that another one names is gone.
    #[error("names a row that is gone")]
    Dangling,
    /// A value in the database can't be read.
    #[error("the column {0} holds a value that can't be read")]
    Corrupt(&'static str),
    /// The database did not answer as it should.
    #[error("the database failed: {0}")]
    Database(String),
}

impl From<DieselError> for StoreError {
    fn from(error: DieselError) -> Self {
        match error {
            DieselError::NotFound => StoreError::NotFound,
            DieselError::DatabaseError(DatabaseErrorKind::UniqueViolation, _) => StoreError::Duplicate,
            DieselError::DatabaseError(DatabaseErrorKind::ForeignKeyViolation, _) => StoreError::Dangling,
            other => StoreError::Database(other.to_string()),
        }
    }
}

/// Tells a row that is gone from one that has changed, after an update of one version touched nothing.
fn changed(updated: usize, version_now: impl FnOnce() -> Result<i32, DieselError>) -> Result<(), StoreError> {
    if updated > 0 { Ok(()) } else { Err(StoreError::Stale(version_now()?)) }
}
