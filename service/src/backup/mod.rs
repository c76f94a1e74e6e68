//! The whole account as one file, `kevyt-account/1`, and back.

mod file;
mod import;
mod import_swaps;
mod import_trips;
mod keys;
mod read;
mod read_list;
mod read_trips;
mod trips_file;

pub use file::{AccountFile, FORMAT, schema};
pub(super) use import::Import;

use super::write::Write;
use super::{Caller, ServiceError, Services};
use kevyt_store::event::Event;
use kevyt_store::id::GearId;
use kevyt_store::{gear, kits, lists, trips};
use std::io::Read;

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
        self.read(|c| read::account(c, caller))
    }
}

impl Write<'_> {
    /// Puts what a file holds in the place of all gear, kits, lists and trips, undone as one change.
    pub fn restore(&mut self, text: impl Read) -> Result<Restored, ServiceError> {
        let mut json = serde_json::Deserializer::from_reader(text);
        let file: AccountFile = serde_path_to_error::deserialize(&mut json).map_err(|error| {
            let (path, why) = (error.path().to_string(), error.inner().to_string());
            ServiceError::invalid(path.clone(), "unreadable", format!("At {path}: {why}. A {FORMAT} file is expected."))
        })?;
        json.end().map_err(|error| {
            let detail =
                format!("Something stands after the end of the file: {error}. A {FORMAT} file is one JSON document.");
            ServiceError::invalid("text", "unreadable", detail)
        })?;
        if file.format != FORMAT {
            let detail = format!("\"{}\" is not a format known here. A {FORMAT} file is expected.", file.format);
            return Err(ServiceError::invalid("format", "unknown_format", detail));
        }
        let own = self.caller.preferences.currency.code();
        if file.currency != own {
            let detail = format!(
                "The file counts in {}, this account in {own}. Set the account to {} first.",
                file.currency, file.currency
            );
            return Err(ServiceError::invalid("currency", "other_currency", detail));
        }
        self.clear()?;
        let restored = Import::default().run(self, &file)?;
        self.log(Event::BackupRestored { things: restored.gear, lists: restored.lists });
        Ok(restored)
    }

    /// Takes all gear, kits, lists and trips out of sight, and the swaps with their lists.
    fn clear(&mut self) -> Result<(), ServiceError> {
        let access = self.caller.access;
        let things: Vec<GearId> = gear::all(self.c, access)?.into_iter().map(|thing| thing.id).collect();
        self.touch(things.iter().copied())?;
        gear::remove_all(self.c, access)?;
        let kits = kits::all(self.c, access, None)?;
        self.touch(kits.iter().map(|kit| kit.id))?;
        kits::remove_all(self.c, access)?;
        let lists = lists::all(self.c, access)?;
        self.touch(lists.iter().map(|list| list.id))?;
        lists::remove_all(self.c, access)?;
        let trips = trips::all(self.c, access)?;
        self.touch(trips.iter().map(|trip| trip.id))?;
        trips::remove_all(self.c, access)?;
        self.forget_silenced()?;
        Ok(())
    }
}
