//! Use cases: a function each. Who may do it, load, ask core, store, in one transaction.
//! `http → service → store → core`; the crates keep that way.

pub mod accounts;
pub mod administration;
pub mod after;
mod aim;
pub mod backup;
pub mod bases;
mod cautions;
pub mod demo;
pub mod fields;
pub mod files;
pub mod gear;
pub mod history;
pub mod kits;
pub mod lighter;
pub mod lines;
pub mod list_change;
pub mod lists;
pub mod offers;
pub mod outfits;
pub mod packing;
mod passwords;
pub mod plans;
mod points;
pub mod proposals;
pub mod settings;
pub mod sheet;
pub mod stored;
pub mod sure;
pub mod swaps;
mod terms;
pub mod together;
pub mod trips;
pub mod weigh;
mod weights;
mod write;
pub mod year;

pub use backup::schema as account_schema;
pub use kevyt_store::account;
pub use write::{Write, Written};

use account::{Preferences, Settings};
use diesel::MysqlConnection;
use kevyt_core::gear::NameError;
use kevyt_core::quantity::{Quantity, Reason, Refused};
use kevyt_core::trip::FigureError;
use kevyt_core::walked::WalkFigureError;
use kevyt_store::access::Access;
use kevyt_store::accounts::Account;
use kevyt_store::id::SessionId;
use kevyt_store::idempotency::Request;
use kevyt_store::{CONNECTION_WAIT, Connection, Pool, StoreError, connect, heartbeats};
use passwords::Passwords;
use serde::Serialize;
use std::cell::Cell;
use std::sync::atomic::{AtomicU64, Ordering};
use std::time::{Duration, Instant};
use utoipa::ToSchema;
use uuid::Uuid;

/// How long a connection is waited for at least, however long somebody has waited already.
const LEAST_WAIT: Duration = Duration::from_secs(1);

thread_local! {
    /// Until when a connection is waited for by what this thread does.
    static WAITED_UNTIL: Cell<Option<Instant>> = const { Cell::new(None) };
}

/// Does something for which a connection is waited for as long as usual since it was asked for.
pub fn asked_at<T>(asked: Instant, work: impl FnOnce() -> T) -> T {
    WAITED_UNTIL.set(Some(asked + CONNECTION_WAIT));
    let done = work();
    WAITED_UNTIL.set(None);
    done
}

/// What the operator decides.
#[derive(Debug, Clone, Default)]
pub struct Options {
    /// Whether the demo account may be entered with one click.
    pub demo: bool,
    /// Whether nobody but the operator makes accounts.
    pub sign_up_is_closed: bool,
    /// The address of a simulated scale that the Weigh step offers, such as `http://127.0.0.1:8430`.
    pub scale: Option<String>,
    /// The address of a forecast service on this machine, such as `http://127.0.0.1:8440`.
    pub forecast: Option<String>,
    /// The address of a shop on this machine, such as `http://127.0.0.1:8450`.
    pub shop: Option<String>,
    /// Whether passwords are hashed with the least work that argon2id allows, which protects none: only for tests, which make hundreds.
    pub least_password_work: bool,
}

/// All use cases, on one database.
pub struct Services {
    /// What the operator decided.
    pub options: Options,
    pool: Pool,
    /// What this process is known by in the database.
    server: Uuid,
    passwords: Passwords,
    /// Even splits of shared things that were found.
    splits: sheet::Splits,
    /// Transactions that gave way to another one and were tried again.
    retries: AtomicU64,
}

/// Connections to the database.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Connections {
    /// Those in use.
    pub busy: u32,
    /// Those that wait for use.
    pub idle: u32,
}

/// Who asks, and how they count.
#[derive(Debug, Clone, Copy)]
pub struct Caller {
    /// What they may see and change.
    pub access: Access,
    /// Their session.
    pub session: SessionId,
    /// Their units.
    pub preferences: Preferences,
    /// Their settings.
    pub settings: Settings,
    /// What names the request, if its sender did: asked again under this, nothing is done again.
    pub request: Option<Request>,
}

impl Caller {
    /// With units and settings as they are now, in the snapshot that `c` reads: a request that has waited may have older ones.
    fn renewed(self, c: &mut MysqlConnection) -> Result<Caller, ServiceError> {
        let Account { preferences, settings, .. } = kevyt_store::accounts::get(c, self.access)?.value;
        Ok(Caller { preferences, settings, ..self })
    }
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
        /// The same as figures, where it is about a quantity.
        figure: Option<Box<RefusedFigure>>,
    },
    /// The name or the password is wrong; which of them is not said.
    #[error("The name or the password is wrong.")]
    WrongSignIn,
    /// Too many tries: to sign in, to sign up, to say the old password.
    #[error("Too many tries. Try again in {minutes} minutes.")]
    TooManyAttempts {
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
    /// Nobody makes an account by themselves here.
    #[error("New accounts are made by the operator of this server. Ask them for one.")]
    SignUpClosed,
    /// The name and the password are right, but the account is closed for now.
    #[error("This account is disabled. Nothing of it is lost. Ask the operator of this server.")]
    Disabled,
    /// A fault of Kevyt's.
    #[error("internal error: {0}")]
    Internal(String),
}

/// A figure that can't be taken. Those who read it in other units than it is kept in word it anew.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "code", rename_all = "snake_case")]
pub enum RefusedFigure {
    /// The text is no such quantity.
    Unread {
        /// The quantity that it should be.
        quantity: Quantity,
        /// The text as typed.
        typed: String,
        /// Why it is not taken.
        reason: Reason,
    },
    /// The quantity is outside what can be: in milligrams, minor units, tenths of a degree Celsius, millilitres.
    Outside {
        /// What it is.
        quantity: Quantity,
        /// The least that is taken.
        low: i64,
        /// The most that is taken.
        high: i64,
    },
}

impl ServiceError {
    /// A quantity outside what can be, from `low` to `high`.
    pub fn outside(
        field: impl Into<String>,
        quantity: Quantity,
        (low, high): (i64, i64),
        detail: impl Into<String>,
    ) -> ServiceError {
        let figure = Some(Box::new(RefusedFigure::Outside { quantity, low, high }));
        ServiceError::Invalid { field: field.into(), code: "out_of_range", detail: detail.into(), figure }
    }

    /// Typed text that is no such quantity.
    fn unread(field: &str, refused: Refused) -> ServiceError {
        let (code, detail) = (refused.reason.code(), refused.to_string());
        let Refused { typed, quantity, reason, .. } = refused;
        let figure = Some(Box::new(RefusedFigure::Unread { quantity, typed, reason }));
        ServiceError::Invalid { field: field.to_owned(), code, detail, figure }
    }

    /// A value that can't be taken.
    pub fn invalid(field: impl Into<String>, code: &'static str, detail: impl Into<String>) -> ServiceError {
        ServiceError::Invalid { field: field.into(), code, detail: detail.into(), figure: None }
    }

    /// The same error of a field inside something, such as a part of a file.
    #[must_use]
    pub fn under(self, path: &str) -> ServiceError {
        match self {
            ServiceError::Invalid { field, code, detail, .. } => {
                let field = if field.is_empty() { path.to_owned() } else { format!("{path}.{field}") };
                ServiceError::invalid(field.clone(), code, format!("At {field}: {detail}"))
            }
            other => other,
        }
    }
}

/// Names the field that a refusal is about.
pub trait InField<T> {
    /// Turns a refusal into an error that names `field`.
    fn in_field(self, field: &str) -> Result<T, ServiceError>;
}

impl<T> InField<T> for Result<T, Refused> {
    fn in_field(self, field: &str) -> Result<T, ServiceError> {
        self.map_err(|refused| ServiceError::unread(field, refused))
    }
}

impl<T> InField<T> for Result<T, FigureError> {
    fn in_field(self, field: &str) -> Result<T, ServiceError> {
        self.map_err(|error| match error {
            FigureError::Refused(refused) => ServiceError::unread(field, refused),
            other => ServiceError::invalid(field, "not_a_number", other.to_string()),
        })
    }
}

impl<T> InField<T> for Result<T, WalkFigureError> {
    fn in_field(self, field: &str) -> Result<T, ServiceError> {
        self.map_err(|error| match error {
            WalkFigureError::Refused(refused) => ServiceError::unread(field, refused),
            other => ServiceError::invalid(field, "not_a_number", other.to_string()),
        })
    }
}

impl<T> InField<T> for Result<T, NameError> {
    fn in_field(self, field: &str) -> Result<T, ServiceError> {
        self.map_err(|error| ServiceError::invalid(field, "name", error.to_string()))
    }
}

impl Services {
    /// Brings the database up to date and opens the services on it.
    ///
    /// # Errors
    /// A sentence for the operator.
    pub fn open(database_url: &str, options: Options) -> Result<Services, String> {
        let pool = connect(database_url)?;
        let passwords = Passwords::new(options.least_password_work)
            .map_err(|error| format!("Passwords can't be hashed on this machine: {error}"))?;
        let (splits, retries) = (sheet::Splits::default(), AtomicU64::new(0));
        Ok(Services { options, pool, server: Uuid::new_v4(), passwords, splits, retries })
    }

    /// Connections to the database now.
    pub fn connections(&self) -> Connections {
        let state = self.pool.state();
        Connections { busy: state.connections - state.idle_connections, idle: state.idle_connections }
    }

    /// How many transactions gave way to another one and were tried again, since the services were opened.
    pub fn retries(&self) -> u64 {
        self.retries.load(Ordering::Relaxed)
    }

    /// Whether the database can be written.
    pub fn check(&self) -> Result<(), ServiceError> {
        Ok(heartbeats::beat(&mut *self.connection()?, self.server)?)
    }

    /// A connection out of the pool. Whoever has waited for their turn already waits so much shorter for it.
    fn connection(&self) -> Result<Connection, ServiceError> {
        let left = WAITED_UNTIL.get().map_or(CONNECTION_WAIT, |until| until.saturating_duration_since(Instant::now()));
        self.pool.get_timeout(left.max(LEAST_WAIT)).map_err(|error| StoreError::Unavailable(error.to_string()).into())
    }
}

impl From<diesel::result::Error> for ServiceError {
    fn from(error: diesel::result::Error) -> Self {
        StoreError::from(error).into()
    }
}
