//! Sign up, sign in, sign out, sessions, preferences, password.

use super::demo::Demo;
use super::{Caller, InField, ServiceError, Services};
use crate::passwords::check_new;
use chrono::{NaiveDateTime, TimeDelta, Utc};
use diesel::MysqlConnection;
use kevyt_core::gear::Name;
use kevyt_store::access::Access;
use kevyt_store::account::{AccountName, Digest, Preferences, Settings, Token, digest};
use kevyt_store::accounts::{self, Account};
use kevyt_store::id::{AccountId, ListId, SessionId};
use kevyt_store::lists::{self, PackList};
use kevyt_store::sessions::{self, Session};
use kevyt_store::{StoreError, Stored, heartbeats, history, idempotency};
use std::time::Duration;

/// The list that a new account begins with.
const FIRST_LIST: &str = "First list";
/// How long an attempt counts, in minutes.
const MINUTES: i64 = 15;
/// Failed sign-ins with one name from one address within [`MINUTES`].
const MOST_OF_NAME: i64 = 10;
/// Failed sign-ins with one name from anywhere within [`MINUTES`] after which further ones are delayed, and by how much for each more.
const MANY_OF_NAME: i64 = 20;
const DELAY: Duration = Duration::from_millis(500);
/// The longest delay.
const LONGEST_DELAY: Duration = Duration::from_secs(8);
/// Demo sessions from one address within [`MINUTES`].
const MOST_DEMOS: i64 = 60;
/// Failed sign-ins with any names from one address: more, since a household may stand behind it.
const MOST_FROM_ADDRESS: i64 = 100;
/// New accounts from one address within an hour.
const MOST_SIGN_UPS: i64 = 300;
/// Wrong old passwords in one session within [`MINUTES`].
const MOST_OLD_PASSWORDS: i64 = 10;

/// Whoever is at the door: known by where they come from only.
#[derive(Debug, Clone)]
pub struct Visitor {
    /// The address that attempts are counted by.
    pub address: String,
    /// What their browser calls itself.
    pub device: String,
    /// The session that they are in already, which a new one replaces.
    pub token: Option<String>,
    /// What their browser was given when it signed in before.
    pub known_by: Option<String>,
}

/// A rate limit on attempts: what they are counted by, how many, within how many minutes.
type RateLimit = (Digest, i64, i64);

impl Visitor {
    fn sign_in_limit(&self, name: &AccountName) -> [RateLimit; 2] {
        let address = &self.address;
        [
            (digest(format!("sign in: {} from {address}", name.as_str())), MOST_OF_NAME, MINUTES),
            (digest(format!("sign in: from {address}")), MOST_FROM_ADDRESS, MINUTES),
        ]
    }

    fn demo_limit(&self) -> RateLimit {
        (digest(format!("demo: from {}", self.address)), MOST_DEMOS, MINUTES)
    }

    fn sign_up_limit(&self) -> RateLimit {
        (digest(format!("sign up: from {}", self.address)), MOST_SIGN_UPS, 60)
    }
}

impl Services {
    /// Makes an account and a session in it.
    pub fn sign_up(
        &self,
        visitor: &Visitor,
        name: &str,
        password: &str,
        preferences: Preferences,
    ) -> Result<Token, ServiceError> {
        let name = AccountName::new(name).map_err(|detail| ServiceError::invalid("name", "name", detail))?;
        if self.options.sign_up_is_closed {
            return Err(ServiceError::SignUpClosed);
        }
        check_new(password, name.as_str()).map_err(|detail| ServiceError::invalid("password", "password", detail))?;
        self.check_limit(&[visitor.sign_up_limit()])?;
        let password_hash = self.hash(password)?;
        let (account, token) = self.transaction(|c| {
            let access = insert_with_list(c, &name, password_hash.clone(), preferences)?;
            sessions::insert_attempt(c, visitor.sign_up_limit().0)?;
            Ok((access.account(), new_session(c, access.account(), visitor)?))
        })?;
        tracing::info!(account = %account, address = visitor.address, "signed up");
        Ok(token)
    }

    /// How long a sign-in with a name waits before it is looked at: longer the more failed of late, from wherever, so that many addresses guess no
    /// faster than a few. A browser that has signed in to the account before does not wait: nobody is locked out by others' attempts.
    pub fn sign_in_delay(&self, visitor: &Visitor, name: &str) -> Result<Duration, ServiceError> {
        let name = AccountName::sought(name);
        let mut c = self.connection()?;
        let failed = sessions::attempts_since(&mut c, of_name(&name), since(MINUTES))?;
        let more = u32::try_from(failed - MANY_OF_NAME).unwrap_or(0);
        if more == 0 {
            return Ok(Duration::ZERO);
        }
        let is_known = match accounts::by_name(&mut c, name.as_str()) {
            Ok(account) => visitor.known_by.as_deref() == Some(known_by(account.id, &account.value).as_str()),
            Err(StoreError::NotFound) => false,
            Err(error) => return Err(error.into()),
        };
        Ok(if is_known { Duration::ZERO } else { DELAY.saturating_mul(more).min(LONGEST_DELAY) })
    }

    /// What a browser is known by that has signed in to the account of the owner of a token; no longer once the password is another.
    pub fn known_by(&self, token: &Token) -> Result<String, ServiceError> {
        let (access, _, account) = self.caller(token.as_str())?;
        Ok(known_by(access.account(), &account))
    }

    /// Makes a session for the right name and password. Failures are counted by the name together with the address, so that nobody locks
    /// somebody else out, and by the address.
    pub fn sign_in(&self, visitor: &Visitor, name: &str, password: &str) -> Result<Token, ServiceError> {
        let name = AccountName::sought(name);
        let limits = visitor.sign_in_limit(&name);
        self.check_limit(&limits)?;
        let found = match accounts::by_name(&mut *self.connection()?, name.as_str()) {
            Ok(account) => Some(account),
            Err(StoreError::NotFound) => None,
            Err(error) => return Err(error.into()),
        };
        let hash = found.as_ref().map(|account| account.value.password_hash.as_str());
        // No connection is held while the password is hashed.
        if !self.passwords.matches(password, hash) {
            let mut c = self.connection()?;
            for subject in limits.into_iter().map(|(subject, ..)| subject).chain([of_name(&name)]) {
                sessions::insert_attempt(&mut c, subject)?;
            }
            tracing::warn!(address = visitor.address, "a sign-in was refused");
            return Err(ServiceError::WrongSignIn);
        }
        let account = found.ok_or(ServiceError::WrongSignIn)?;
        if account.value.is_disabled {
            return Err(ServiceError::Disabled);
        }
        let token = self.transaction(|c| new_session(c, account.id, visitor))?;
        tracing::info!(account = %account.id, address = visitor.address, "signed in");
        Ok(token)
    }

    /// A session in a demo account.
    pub fn enter_demo(&self, visitor: &Visitor, demo: Demo) -> Result<Token, ServiceError> {
        if !self.options.demo {
            return Err(ServiceError::NoDemo);
        }
        let limit = visitor.demo_limit();
        self.check_limit(&[limit])?;
        self.transaction(|c| {
            let account = accounts::by_name(c, demo.account_name()).map_err(|_| ServiceError::NoDemo)?;
            sessions::insert_attempt(c, limit.0)?;
            new_session(c, account.id, visitor)
        })
    }

    /// What a token opens, the session it is of, and the account.
    pub fn caller(&self, token: &str) -> Result<(Access, SessionId, Account), ServiceError> {
        Ok(sessions::enter(&mut *self.connection()?, digest(token))?)
    }

    /// What tells whether anything of the caller's account was written since.
    pub fn account_revision(&self, caller: Caller) -> Result<i64, ServiceError> {
        Ok(accounts::revision(&mut *self.connection()?, caller.access)?)
    }

    /// The account of the caller.
    pub fn account(&self, caller: Caller) -> Result<Stored<AccountId, Account>, ServiceError> {
        Ok(accounts::get(&mut *self.connection()?, caller.access)?)
    }

    /// Ends a session.
    pub fn sign_out(&self, token: &str) -> Result<(), ServiceError> {
        Ok(sessions::end(&mut *self.connection()?, digest(token))?)
    }

    /// The account's sessions, the one used last first; of the demo, which is everybody's, the one that asks alone.
    pub fn sessions(&self, caller: Caller) -> Result<Vec<Session>, ServiceError> {
        let mut all = sessions::all(&mut *self.connection()?, caller.access)?;
        if self.is_demo(caller)? {
            all.retain(|session| session.id == caller.session);
        }
        Ok(all)
    }

    /// Whether the caller is in a demo account.
    fn is_demo(&self, caller: Caller) -> Result<bool, ServiceError> {
        Ok(self.options.demo && Demo::is_account(&self.account(caller)?.value.name))
    }

    /// Ends one session of the account.
    pub fn end_session(&self, caller: Caller, id: SessionId) -> Result<(), ServiceError> {
        if id != caller.session && self.is_demo(caller)? {
            return Err(StoreError::NotFound.into());
        }
        Ok(sessions::end_one(&mut *self.connection()?, caller.access, id)?)
    }

    /// Changes the password and ends all sessions; gives a new one to the caller.
    pub fn set_password(&self, caller: Caller, visitor: &Visitor, old: &str, new: &str) -> Result<Token, ServiceError> {
        let account = self.account(caller)?.value;
        check_new(new, &account.name).map_err(|detail| ServiceError::invalid("new_password", "password", detail))?;
        self.check_own_password(caller, &account, "old_password", old)?;
        let hash = self.hash(new)?;
        let token = self.transaction(|c| {
            accounts::lock(c, caller.access)?;
            accounts::set_password(c, caller.access, &hash)?;
            sessions::end_all(c, caller.access)?;
            new_session(c, caller.access.account(), visitor)
        })?;
        tracing::info!(account = %caller.access.account(), "the password was changed");
        Ok(token)
    }

    /// Removes the account of the caller with everything in it, if they say its password. Nothing of it can be undone.
    pub fn remove_own_account(&self, caller: Caller, password: &str) -> Result<(), ServiceError> {
        let account = self.account(caller)?.value;
        if self.options.demo && Demo::is_account(&account.name) {
            let detail = "The demo account is everybody's. Make an account of your own; that one can be deleted.";
            return Err(ServiceError::invalid("", "demo", detail));
        }
        self.check_own_password(caller, &account, "password", password)?;
        self.transaction(|c| {
            accounts::lock(c, caller.access)?;
            while history::clear_of(c, caller.access)? > 0 {}
            Ok(accounts::remove(c, caller.access)?)
        })?;
        tracing::info!(account = %caller.access.account(), "the account was removed by its owner");
        Ok(())
    }

    /// Refuses a password that is not the account's own; how often one is tried is limited.
    fn check_own_password(
        &self,
        caller: Caller,
        account: &Account,
        field: &str,
        password: &str,
    ) -> Result<(), ServiceError> {
        // By the session: one that was stolen does not keep the others from it.
        let limit = (
            digest(format!("old password: {} in {}", caller.access.account(), caller.session)),
            MOST_OLD_PASSWORDS,
            MINUTES,
        );
        self.check_limit(&[limit])?;
        if self.passwords.matches(password, Some(&account.password_hash)) {
            return Ok(());
        }
        sessions::insert_attempt(&mut *self.connection()?, limit.0)?;
        tracing::warn!(account = %caller.access.account(), "a wrong password of one's own was refused");
        let detail = if field == "password" { "The password is wrong." } else { "The old password is wrong." };
        Err(ServiceError::invalid(field, "wrong_password", detail))
    }

    /// Clears away what is over: sessions, attempts that no longer count, answers that nobody asks for again, changes too old to be undone.
    pub fn tidy(&self) -> Result<(), ServiceError> {
        let mut c = self.connection()?;
        while sessions::clear(&mut c, since(60))? + idempotency::clear(&mut c)? + history::clear(&mut c)? > 0 {}
        heartbeats::clear(&mut c)?;
        Ok(())
    }

    fn check_limit(&self, limits: &[RateLimit]) -> Result<(), ServiceError> {
        let mut c = self.connection()?;
        for (subject, most, minutes) in limits {
            if sessions::attempts_since(&mut c, *subject, since(*minutes))? >= *most {
                tracing::warn!("a rate limit was reached");
                return Err(ServiceError::TooManyAttempts { minutes: *minutes });
            }
        }
        Ok(())
    }

    pub(super) fn hash(&self, password: &str) -> Result<String, ServiceError> {
        self.passwords.hash(password).map_err(|error| ServiceError::Internal(error.to_string()))
    }
}

/// A new account with a list to start with: gear needs somewhere to go.
pub(super) fn insert_with_list(
    c: &mut MysqlConnection,
    name: &AccountName,
    password_hash: String,
    preferences: Preferences,
) -> Result<Access, ServiceError> {
    let (name, settings) = (name.as_str().to_owned(), Settings::default());
    let account = Account { name, password_hash, preferences, settings, is_disabled: false };
    let access = accounts::insert(c, &account).map_err(|error| match error {
        StoreError::Duplicate => {
            let detail = format!("The name \"{}\" is taken. Choose another.", account.name);
            ServiceError::invalid("name", "taken", detail)
        }
        other => other.into(),
    })?;
    let first = Name::new(FIRST_LIST).in_field("name")?;
    lists::insert(c, access, ListId::fresh(), &PackList::empty(first))?;
    Ok(access)
}

/// What failed sign-ins with a name are counted by, wherever they come from.
fn of_name(name: &AccountName) -> Digest {
    digest(format!("sign in: {}", name.as_str()))
}

/// Nobody without the hash of the password can say it.
fn known_by(id: AccountId, account: &Account) -> String {
    hex::encode(digest(format!("known by: {id} {}", account.password_hash)))
}

fn since(minutes: i64) -> NaiveDateTime {
    Utc::now().naive_utc() - TimeDelta::minutes(minutes)
}

/// A new session, in the place of the one that the visitor was in.
fn new_session(c: &mut MysqlConnection, account: AccountId, visitor: &Visitor) -> Result<Token, ServiceError> {
    if let Some(token) = &visitor.token {
        sessions::end(c, digest(token))?;
    }
    let token = Token::new().map_err(|error| ServiceError::Internal(error.to_string()))?;
    sessions::insert(c, digest(token.as_str()), account, &visitor.device)?;
    Ok(token)
}
