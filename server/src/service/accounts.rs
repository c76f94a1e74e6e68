//! Sign up, sign in, sign out, preferences, password.

use super::demo::Demo;
use super::{Caller, InField, ServiceError, Services};
use crate::account::{Preferences, Token, check_new, digest};
use crate::store::accounts::{self, Account, Digest};
use crate::store::id::{AccountId, ListId};
use crate::store::lists::{self, PackList};
use crate::store::{StoreError, Stored};
use chrono::{Duration, Utc};
use kevyt_core::gear::Name;

/// How long a session lasts, in days.
pub const SESSION_DAYS: i64 = 30;
/// The list that a new account begins with.
const FIRST_LIST: &str = "First list";
/// Failed sign-ins that are allowed for one name within [`FAILURE_MINUTES`].
const MOST_FAILURES_OF_NAME: i64 = 10;
/// The same from one address: more, since a household or a whole proxy may stand behind it.
const MOST_FAILURES_FROM_ADDRESS: i64 = 100;
/// How long a failed sign-in counts.
const FAILURE_MINUTES: i64 = 15;

impl Services {
    /// Makes an account and a session in it.
    pub fn sign_up(&self, name: &str, password: &str, preferences: Preferences) -> Result<Token, ServiceError> {
        let name = account_name(name)?;
        check_new(password).map_err(|detail| ServiceError::invalid("password", "password", detail))?;
        let password_hash = self.hash(password)?;
        let id = AccountId::fresh();
        self.transaction(|c| {
            accounts::insert(c, id, &Account { name: name.clone(), password_hash, preferences }).map_err(|error| {
                match error {
                    StoreError::Duplicate => {
                        ServiceError::invalid("name", "taken", format!("The name \"{name}\" is taken. Choose another."))
                    }
                    other => other.into(),
                }
            })?;
            // Gear needs somewhere to go: a list to start with.
            let name = Name::new(FIRST_LIST).in_field("name")?;
            lists::insert(c, id, ListId::fresh(), &PackList::empty(name))?;
            new_session(c, id)
        })
    }

    /// Makes a session for the right name and password. Failures are counted by name and by address.
    pub fn sign_in(&self, name: &str, password: &str, address: &str) -> Result<Token, ServiceError> {
        let name = name.trim().to_lowercase();
        let subjects = [
            (digest(&format!("name:{name}")), MOST_FAILURES_OF_NAME),
            (digest(&format!("address:{address}")), MOST_FAILURES_FROM_ADDRESS),
        ];
        let since = Utc::now().naive_utc() - Duration::minutes(FAILURE_MINUTES);
        let mut c = self.connection()?;
        for (subject, most) in subjects {
            if accounts::failures_since(&mut c, subject, since)? >= most {
                return Err(ServiceError::TooManySignIns { minutes: FAILURE_MINUTES });
            }
        }
        let found = match accounts::by_name(&mut c, &name) {
            Ok(account) => Some(account),
            Err(StoreError::NotFound) => None,
            Err(error) => return Err(error.into()),
        };
        let hash = found.as_ref().map(|account| account.value.password_hash.as_str());
        if !self.passwords.matches(password, hash) {
            for (subject, _) in subjects {
                accounts::insert_failure(&mut c, subject, since)?;
            }
            return Err(ServiceError::WrongSignIn);
        }
        let account = found.ok_or(ServiceError::WrongSignIn)?;
        new_session(&mut c, account.id)
    }

    /// A session in a demo account.
    pub fn enter_demo(&self, demo: Demo) -> Result<Token, ServiceError> {
        if !self.demo {
            return Err(ServiceError::NoDemo);
        }
        let mut c = self.connection()?;
        let account = accounts::by_name(&mut c, demo.account_name()).map_err(|_| ServiceError::NoDemo)?;
        new_session(&mut c, account.id)
    }

    /// Who a token is.
    pub fn caller(&self, token: &str) -> Result<Stored<AccountId, Account>, ServiceError> {
        Ok(accounts::session_account(&mut *self.connection()?, digest(token))?)
    }

    /// The account of whoever asks.
    pub fn account(&self, caller: Caller) -> Result<Stored<AccountId, Account>, ServiceError> {
        Ok(accounts::get(&mut *self.connection()?, caller.account)?)
    }

    /// Ends a session.
    pub fn sign_out(&self, token: &str) -> Result<(), ServiceError> {
        Ok(accounts::delete_session(&mut *self.connection()?, digest(token))?)
    }

    /// Changes units. Money is kept as it was typed, in minor units, so the new currency must have as many decimals.
    pub fn set_preferences(&self, caller: Caller, version: i32, preferences: Preferences) -> Result<(), ServiceError> {
        let (old, new) = (caller.preferences.currency, preferences.currency);
        if old.decimals() != new.decimals() {
            let detail = format!(
                "{} has {} decimals and {} has {}: prices kept so far would change their value. Choose a currency with {} decimals.",
                old.code(),
                old.decimals(),
                new.code(),
                new.decimals(),
                old.decimals()
            );
            return Err(ServiceError::invalid("currency", "other_decimals", detail));
        }
        self.transaction(|c| Ok(accounts::set_preferences(c, caller.account, version, preferences)?))
    }

    /// Changes the password and ends all other sessions.
    pub fn set_password(&self, caller: Caller, old: &str, new: &str, token: &str) -> Result<(), ServiceError> {
        check_new(new).map_err(|detail| ServiceError::invalid("new_password", "password", detail))?;
        let account = self.account(caller)?;
        if !self.passwords.matches(old, Some(&account.value.password_hash)) {
            return Err(ServiceError::invalid("old_password", "wrong_password", "The old password is wrong."));
        }
        let hash = self.hash(new)?;
        let kept: Digest = digest(token);
        self.transaction(|c| Ok(accounts::set_password(c, caller.account, &hash, kept)?))
    }

    pub(super) fn hash(&self, password: &str) -> Result<String, ServiceError> {
        self.passwords.hash(password).map_err(|error| ServiceError::Internal(error.to_string()))
    }
}

fn new_session(c: &mut diesel::MysqlConnection, account: AccountId) -> Result<Token, ServiceError> {
    let token = Token::new().map_err(|error| ServiceError::Internal(error.to_string()))?;
    let expires_at = Utc::now().naive_utc() + Duration::days(SESSION_DAYS);
    accounts::insert_session(c, digest(token.as_str()), account, expires_at)?;
    Ok(token)
}

/// Names are compared without case, and kept in lower case so that they look as they are compared.
fn account_name(typed: &str) -> Result<String, ServiceError> {
    let name = typed.trim().to_lowercase();
    let fits = (3..=60).contains(&name.chars().count()) && !name.chars().any(|c| c.is_control() || c.is_whitespace());
    if fits {
        return Ok(name);
    }
    let detail =
        format!("\"{}\" can't be a name to sign in with. Type 3 to 60 characters without spaces.", typed.trim());
    Err(ServiceError::invalid("name", "name", detail))
}
