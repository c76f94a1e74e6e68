//! The whole account as one file, `kevyt-account/1`, and back.

mod file;
mod lay;
mod read;

pub use file::{AccountFile, FORMAT, schema};
pub(super) use lay::Laid;

use super::history::{Changed, Recorder};
use super::{Caller, ServiceError, Services, counted};
use crate::store::id::GearId;
use crate::store::{gear, kits, lists};
use diesel::MysqlConnection;

/// What a restore brought.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Restored {
    /// Things.
    pub gear: usize,
    /// Kits.
    pub kits: usize,
    /// Pack lists.
    pub lists: usize,
    /// Swaps.
    pub swaps: usize,
}

impl Services {
    /// The account as a file.
    pub fn backup(&self, caller: Caller) -> Result<AccountFile, ServiceError> {
        self.transaction(|c| read::account(c, caller))
    }

    /// Puts what a file holds in the place of all gear, kits and lists, in one transaction, undone as one change.
    pub fn restore(&self, caller: Caller, text: &str) -> Result<Changed<Restored>, ServiceError> {
        let mut json = serde_json::Deserializer::from_str(text);
        let file: AccountFile = serde_path_to_error::deserialize(&mut json).map_err(|error| {
            let (path, why) = (error.path().to_string(), error.inner().to_string());
            ServiceError::invalid(path.clone(), "unreadable", format!("At {path}: {why}. A {FORMAT} file is expected."))
        })?;
        if file.format != FORMAT {
            let detail = format!("\"{}\" is not a format known here. A {FORMAT} file is expected.", file.format);
            return Err(ServiceError::invalid("format", "unknown_format", detail));
        }
        let own = caller.preferences.currency.code();
        if file.currency != own {
            let detail = format!(
                "The file counts in {}, this account in {own}. Set the account to {} first.",
                file.currency, file.currency
            );
            return Err(ServiceError::invalid("currency", "other_currency", detail));
        }
        self.transaction(|c| {
            let mut recorder = Recorder::new(caller.account);
            clear(c, caller, &mut recorder)?;
            let restored = Laid::default().lay(c, caller, &mut recorder, &file)?;
            let (things, lists) = (counted(restored.gear, "thing"), counted(restored.lists, "list"));
            let said = format!("A backup restored: {things}, {lists}.");
            recorder.finish(c, &said, restored)
        })
    }
}

/// Takes all gear, kits and lists out of sight.
fn clear(c: &mut MysqlConnection, caller: Caller, recorder: &mut Recorder) -> Result<(), ServiceError> {
    let things: Vec<GearId> = gear::all(c, caller.account)?.into_iter().map(|thing| thing.id).collect();
    recorder.touch(c, things.iter().copied())?;
    gear::remove_several(c, caller.account, &things)?;
    for kit in kits::all(c, caller.account, None)? {
        recorder.touch(c, [kit.id])?;
        kits::remove(c, caller.account, kit.id, kit.version)?;
    }
    for list in lists::all(c, caller.account)? {
        recorder.touch(c, [list.id])?;
        lists::remove(c, caller.account, list.id, list.version)?;
    }
    Ok(())
}
