//! Who may see or change what.

use super::id::AccountId;

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
