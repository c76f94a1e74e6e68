//! The database's errors, turned into ours.

use diesel::result::{DatabaseErrorKind, Error as DieselError};

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
    /// Another request was carried out under the same name.
    #[error("another request had this idempotency key")]
    OtherRequest,
    /// A row that another one names is gone.
    #[error("names a row that is gone")]
    Dangling,
    /// A value in the database can't be read.
    #[error("the column {0} holds a value that can't be read")]
    Corrupt(&'static str),
    /// The transaction gave way to another one and was rolled back. It may be tried again.
    #[error("the transaction gave way to another: {0}")]
    Deadlock(String),
    /// The database can't be reached, or the connection to it broke.
    #[error("the database can't be reached: {0}")]
    Unavailable(String),
    /// The database has no room left.
    #[error("the database has no room left: {0}")]
    Full(String),
    /// The connection broke while a transaction was being committed: nobody knows whether it was.
    #[error("nobody knows whether the transaction was committed: {0}")]
    CommitUnknown(String),
    /// The database did not take a statement: a fault of Kevyt's.
    #[error("the database refused a statement: {0}")]
    Refused(String),
}

/// What the server says of a transaction that it rolled back for another's sake: a deadlock (1213), a lock that was waited for too
/// long (1205), a row that changed under a snapshot (1020). A cluster says the first of a failed certification too.
const DEADLOCKS: [&str; 4] = [
    "Deadlock found when trying to get lock",
    "Lock wait timeout exceeded",
    "Record has changed since last read",
    "WSREP detected deadlock/conflict",
];

/// What a node says that has lost its cluster, or has not found it yet: another one may answer.
pub(super) const NOT_PRIMARY: &str = "WSREP has not yet prepared node";

/// What the client or the server says when they part, or never met.
const UNAVAILABLE: [&str; 13] = [
    "server has gone away",
    "Lost connection to",
    "Can't connect to",
    "Server shutdown in progress",
    "Connection was killed",
    "Query execution was interrupted",
    "max_statement_time exceeded",
    "Too many connections",
    "read-only",
    NOT_PRIMARY,
    "Not connected to Primary Component",
    "timed out waiting for connection",
    "Got an error reading communication packets",
];

/// What the server says when the disk is full.
const FULL: [&str; 4] = ["is full", "Disk full", "No space left on device", "Error writing file"];

impl StoreError {
    /// From what the database or its client says, in English (every connection asks for that).
    pub(super) fn from_message(message: String) -> StoreError {
        // Client and server don't agree on capitals.
        let lower = message.to_lowercase();
        let says = |known: &[&str]| known.iter().any(|known| lower.contains(&known.to_lowercase()));
        match () {
            () if says(&DEADLOCKS) => StoreError::Deadlock(message),
            () if says(&FULL) => StoreError::Full(message),
            () if says(&UNAVAILABLE) => StoreError::Unavailable(message),
            () => StoreError::Refused(message),
        }
    }
}

impl From<DieselError> for StoreError {
    fn from(error: DieselError) -> Self {
        match error {
            DieselError::NotFound => StoreError::NotFound,
            DieselError::DatabaseError(DatabaseErrorKind::UniqueViolation, _) => StoreError::Duplicate,
            DieselError::DatabaseError(DatabaseErrorKind::ForeignKeyViolation, _) => StoreError::Dangling,
            DieselError::DatabaseError(DatabaseErrorKind::ClosedConnection, about) => {
                StoreError::Unavailable(about.message().to_owned())
            }
            // What can't be rolled back either says no more than that the connection broke.
            DieselError::RollbackErrorOnCommit { commit_error, .. } => StoreError::from(*commit_error),
            DieselError::BrokenTransactionManager => StoreError::Unavailable("the connection broke".to_owned()),
            other => StoreError::from_message(other.to_string()),
        }
    }
}
