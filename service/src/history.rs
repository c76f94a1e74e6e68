//! The change log: what was done, and how to take it back.

use super::lines::check_counts;
use super::write::Write;
use super::{Caller, ServiceError, Services, lists, weights};
use chrono::Utc;
use kevyt_store::history::{self, Change, Item, Object, Which};
use kevyt_store::id::{ChangeId, GearId, KitId, WeighingId};
use kevyt_store::{kits, weighings};

impl Services {
    /// Changes, newest first.
    pub fn changes(&self, caller: Caller, which: Which, limit: u32) -> Result<Vec<Change>, ServiceError> {
        Ok(history::page(&mut *self.connection()?, caller.access, which, limit)?)
    }
}

impl Write<'_> {
    /// Takes a change back, if nothing that it touched has been changed since. That is a change of its own, and can be taken back too.
    pub fn undo(&mut self, id: ChangeId) -> Result<Change, ServiceError> {
        let access = self.caller.access;
        let change = history::get(self.c, access, id)?;
        if change.undone_at.is_some() {
            return Err(ServiceError::Undone);
        }
        let items = history::items(self.c, id)?;
        self.touch(items.iter().map(|item| item.object))?;
        if let Some(changed) = items.iter().find(|item| !item.is_as_left(self.before(&item.object))) {
            // A weighing has no name; the thing that it is of is in the same change.
            let name = |item: &Item| item.name(self.before(&item.object)).map(str::to_owned);
            let name = std::iter::once(changed).chain(&items).find_map(name);
            return Err(ServiceError::ChangedSince(name.unwrap_or_else(|| "What it changed".to_owned())));
        }
        history::put_back(self.c, access, &items)?;
        self.check_consistency(&items)?;
        history::mark_undone(self.c, access, id, Some(Utc::now().naive_utc()))?;
        if let Some(stands_again) = change.undoes {
            history::mark_undone(self.c, access, stands_again, None)?;
        }
        self.undoes(id);
        self.log_again(change.entry.clone().taken_back());
        Ok(Change { undone_at: Some(Utc::now().naive_utc()), ..change })
    }

    /// Checks what must hold whatever is put back: counts and limits, and weights that are calculated from others.
    fn check_consistency(&mut self, items: &[Item]) -> Result<(), ServiceError> {
        let access = self.caller.access;
        let objects = || items.iter().map(|item| item.object);
        let mut things: Vec<GearId> = Object::only(objects());
        let mut of: Vec<KitId> = Object::only(objects());
        let weighings: Vec<WeighingId> = Object::only(objects());
        for weighed in weighings::weighed(self.c, access, &weighings)? {
            match weighed {
                weighings::Weighed::Gear(id) => things.push(id),
                weighings::Weighed::Kit(id) => of.push(id),
            }
        }
        check_counts(self, &things)?;
        lists::check_room(self, 0)?;
        lists::check_none_overfull(self)?;
        super::kits::check_room(self, 0)?;
        things.extend(kits::parts_of(self.c, access, &of)?);
        weights::rederive(self, &things)
    }
}
