//! Who may see or change what.

use super::id::{AccountId, ListId};
use serde::Serialize;

/// What somebody may see and change: all that is of their account, and nothing else. Every query over what people own takes
/// one and none decides for itself. Only the store makes one, where a session is entered or an account is made: an account's
/// id that came in a request opens nothing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Access(AccountId);

impl Access {
    pub(super) fn of_account(account: AccountId) -> Access {
        Access(account)
    }

    /// The account whose things these are.
    pub fn account(self) -> AccountId {
        self.0
    }
}

/// What somebody is to a list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Role {
    /// Whose list it is: changes all of it.
    Owner,
    /// One who has joined: changes what of the own gear is on it, sees the rest.
    Partner,
    /// One who reads by a link, without an account.
    Reader,
}

/// A list that somebody may see, and as what. Only the store makes one, where it has looked whose the list is, who has joined, or which
/// link opens it; every query over what several people have on a list takes one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ToList {
    list: ListId,
    owner: AccountId,
    role: Role,
    prices: bool,
}

impl ToList {
    pub(super) fn new(list: ListId, owner: AccountId, role: Role, prices: bool) -> ToList {
        ToList { list, owner, role, prices }
    }

    /// The list.
    pub fn list(self) -> ListId {
        self.list
    }

    /// Whose it is.
    pub fn owner(self) -> AccountId {
        self.owner
    }

    /// What the caller is to it.
    pub fn role(self) -> Role {
        self.role
    }

    /// Whether prices may be seen at all: a reader's link says so.
    pub fn prices(self) -> bool {
        self.prices
    }

    /// What the owner may see and change, for reading what stands on the list beside it: kits and makers' figures.
    pub fn as_owner(self) -> Access {
        Access(self.owner)
    }
}
