//! Use cases: a function each. Who may do it, load, ask core, store, in one transaction.

pub mod accounts;
pub mod backup;
pub mod demo;
pub mod files;
pub mod gear;
pub mod history;
pub mod kits;
pub mod lists;
pub mod plans;
pub mod swaps;
pub mod weigh;

use crate::account::Passwords;
use crate::account::Preferences;
use crate::store::id::AccountId;
use crate::store::{Connection, Pool, StoreError};
use diesel::{Connection as _, RunQueryDsl};
use kevyt_core::gear::NameError;
use kevyt_core::quantity::Refused;

/// What the services stand on.
pub struct Services {
    /// Database connections.
    pub pool: Pool,
    /// The password hasher.
    pub passwords: Passwords,
    /// Whether the demo account may be entered with one click.
    pub demo: bool,
    /// The address of a simulated scale, if there is one.
    pub scale: Option<String>,
}

/// Who asks, and how they count.
#[derive(Debug, Clone, Copy)]
pub struct Caller {
    /// Their account.
    pub account: AccountId,
    /// Their units.
    pub preferences: Preferences,
}

/// Why a use case failed.
#[derive(Debug, thiserror::Error)]
pub enum ServiceError {
    /// The store failed.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// A value that was sent can't be taken.
    #[error("{detail}")]
    Invalid {
        /// Where it was.
        field: String,
        /// A stable word.
        code: &'static str,
        /// A sentence: what was sent and what would be accepted.
        detail: String,
    },
    /// The name or the password is wrong; which of them is not said.
    #[error("The name or the password is wrong.")]
    WrongSignIn,
    /// Too many failed sign-ins.
    #[error("Too many sign-ins have failed. Try again in {minutes} minutes.")]
    TooManySignIns {
        /// Until the count is down.
        minutes: i64,
    },
    /// A change was undone already.
    #[error("This change was undone already.")]
    Undone,
    /// Something that a change touched has been changed since.
    #[error("{0} has been changed since. Undo the later change first; the history shows it.")]
    ChangedSince(String),
    /// No demo on this server.
    #[error("This server has no demo.")]
    NoDemo,
    /// A fault of Kevyt's.
    #[error("internal error: {0}")]
    Internal(String),
}

impl ServiceError {
    /// A value that can't be taken.
    pub fn invalid(field: impl Into<String>, code: &'static str, detail: impl Into<String>) -> ServiceError {
        ServiceError::Invalid { field: field.into(), code, detail: detail.into() }
    }
}

/// Names the field that a refusal is about.
pub trait InField<T> {
    /// Turns a refusal into an error that names `field`.
    fn in_field(self, field: &str) -> Result<T, ServiceError>;
}

impl<T> InField<T> for Result<T, Refused> {
    fn in_field(self, field: &str) -> Result<T, ServiceError> {
        self.map_err(|refused| ServiceError::invalid(field, refused.reason.code(), refused.to_string()))
    }
}

impl<T> InField<T> for Result<T, NameError> {
    fn in_field(self, field: &str) -> Result<T, ServiceError> {
        self.map_err(|error| ServiceError::invalid(field, "name", error.to_string()))
    }
}

impl Services {
    /// Whether the database answers.
    pub fn check(&self) -> Result<(), ServiceError> {
        diesel::sql_query("SELECT 1").execute(&mut *self.connection()?)?;
        Ok(())
    }

    /// A connection out of the pool.
    fn connection(&self) -> Result<Connection, ServiceError> {
        self.pool.get().map_err(|error| StoreError::Database(error.to_string()).into())
    }

    /// One connection, one transaction.
    fn transaction<T>(&self, work: impl FnOnce(&mut Connection) -> Result<T, ServiceError>) -> Result<T, ServiceError> {
        self.connection()?.transaction(work)
    }
}

impl From<diesel::result::Error> for ServiceError {
    fn from(error: diesel::result::Error) -> Self {
        StoreError::from(error).into()
    }
}

/// A number of things in words: `1 list`, `54 things`.
fn counted(number: usize, one: &str) -> String {
    if number == 1 { format!("1 {one}") } else { format!("{number} {one}s") }
}
