//! What the operator does with accounts, by command.

use super::accounts::insert_with_list;
use super::{ServiceError, Services};
use crate::passwords::check_new;
use kevyt_store::access::Access;
use kevyt_store::account::{AccountName, Preferences};
use kevyt_store::accounts::{self, Overview};
use kevyt_store::{StoreError, history, sessions};

impl Services {
    /// All accounts by name.
    pub fn accounts(&self) -> Result<Vec<Overview>, ServiceError> {
        Ok(accounts::overview(&mut *self.connection()?)?)
    }

    /// Makes an account, also where nobody may make one by themselves.
    pub fn add_account(&self, name: &str, password: &str, preferences: Preferences) -> Result<(), ServiceError> {
        let name = AccountName::new(name).map_err(|detail| ServiceError::invalid("name", "name", detail))?;
        check_new(password, name.as_str()).map_err(|detail| ServiceError::invalid("password", "password", detail))?;
        let hash = self.hash(password)?;
        self.transaction(|c| insert_with_list(c, &name, hash.clone(), preferences))?;
        Ok(())
    }

    /// Lets nobody into an account and ends its sessions, or lets people in again.
    pub fn set_account_disabled(&self, name: &str, is_disabled: bool) -> Result<(), ServiceError> {
        let access = self.account_named(name)?;
        self.transaction(|c| {
            accounts::lock(c, access)?;
            accounts::set_disabled(c, access, is_disabled)?;
            if is_disabled {
                sessions::end_all(c, access)?;
            }
            Ok(())
        })
    }

    /// Sets the password of an account whose owner has lost it, and ends its sessions.
    pub fn reset_password(&self, name: &str, password: &str) -> Result<(), ServiceError> {
        let access = self.account_named(name)?;
        check_new(password, name).map_err(|detail| ServiceError::invalid("password", "password", detail))?;
        let hash = self.hash(password)?;
        self.transaction(|c| {
            accounts::lock(c, access)?;
            accounts::set_password(c, access, &hash)?;
            Ok(sessions::end_all(c, access)?)
        })
    }

    /// Removes an account with everything in it. Nothing of it can be undone.
    pub fn remove_account(&self, name: &str) -> Result<(), ServiceError> {
        let access = self.account_named(name)?;
        self.transaction(|c| {
            accounts::lock(c, access)?;
            while history::clear_of(c, access)? > 0 {}
            Ok(accounts::remove(c, access)?)
        })
    }

    fn account_named(&self, name: &str) -> Result<Access, ServiceError> {
        let found = accounts::access_of(&mut *self.connection()?, AccountName::sought(name).as_str());
        found.map_err(|error| match error {
            StoreError::NotFound => {
                let detail = format!("There is no account \"{name}\". kevyt account list names all.");
                ServiceError::invalid("name", "not_found", detail)
            }
            other => other.into(),
        })
    }
}
