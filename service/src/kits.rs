//! Kits: things weighed together.

use super::fields::in_count;
use super::weights::{self, load, one, rederive};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use kevyt_core::gear::{Gear, Name};
use kevyt_core::limits;
use kevyt_store::event::Event;
use kevyt_store::id::{GearId, KitId};
use kevyt_store::kits::{self, Kit};
use kevyt_store::{gear, weighings};
use serde::Deserialize;
use std::collections::{HashMap, HashSet};
use utoipa::ToSchema;

pub use weights::KitView;

/// A kit as it is asked for.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = KitIn)]
pub struct KitDraft {
    /// Its name.
    pub name: String,
    /// From 2 to 100 things.
    pub parts: Vec<PartDraft>,
}

/// A part as it is asked for.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = PartIn)]
pub struct PartDraft {
    /// The thing.
    pub gear: GearId,
    /// Pieces of it.
    pub count: u32,
}

impl Services {
    /// All kits with their figures.
    pub fn kits(&self, caller: Caller) -> Result<Vec<KitView>, ServiceError> {
        Ok(load(&mut *self.connection()?, caller, None)?)
    }
}

impl Write<'_> {
    /// Makes a kit.
    pub fn add_kit(&mut self, draft: &KitDraft) -> Result<KitView, ServiceError> {
        let id = KitId::fresh();
        check_room(self, 1)?;
        let kit = self.checked_kit(draft)?;
        self.touch([id])?;
        self.log(Event::KitMade { kit: kit.name.as_str().to_owned(), things: kit.parts.len() });
        kits::insert(self.c, self.caller.access, &[(id, kit)])?;
        one(self.c, self.caller, id)
    }

    /// Rewrites a kit that was read at `version`.
    pub fn change_kit(&mut self, id: KitId, version: i32, draft: &KitDraft) -> Result<KitView, ServiceError> {
        let access = self.caller.access;
        let kit = self.checked_kit(draft)?;
        let before = one(self.c, self.caller, id)?;
        self.touch([id])?;
        kits::update(self.c, access, id, version, &kit)?;
        let sorted = |parts: &[(GearId, u32)]| {
            let mut parts = parts.to_vec();
            parts.sort_unstable();
            parts
        };
        if before.kit.value.gone > 0 || sorted(&before.kit.value.parts) != sorted(&kit.parts) {
            // What was weighed was another set of things.
            for record in weighings::of(self.c, access, &[], &[id])? {
                self.touch([record.id])?;
                weighings::remove(self.c, access, record.id)?;
            }
        }
        let parts = before.kit.value.parts.iter().chain(&kit.parts).map(|part| part.0);
        rederive(self, &parts.collect::<Vec<_>>())?;
        self.log(Event::KitChanged { kit: kit.name.as_str().to_owned() });
        one(self.c, self.caller, id)
    }

    /// Takes a kit apart; its things stay.
    pub fn remove_kit(&mut self, id: KitId, version: i32) -> Result<(), ServiceError> {
        let kit = one(self.c, self.caller, id)?.kit.value;
        self.touch([id])?;
        kits::remove(self.c, self.caller.access, id, version)?;
        let parts: Vec<GearId> = kit.parts.iter().map(|part| part.0).collect();
        rederive(self, &parts)?;
        self.log(Event::KitTakenApart { kit: kit.name.as_str().to_owned() });
        Ok(())
    }

    /// A draft as it will be kept, if it can be.
    pub(super) fn checked_kit(&mut self, draft: &KitDraft) -> Result<Kit, ServiceError> {
        let ids: Vec<GearId> = draft.parts.iter().map(|part| part.gear).collect();
        let there = gear::several(self.c, self.caller.access, &ids)?.into_iter().map(|thing| (thing.id, thing.value));
        checked(draft, &there.collect())
    }
}

/// Refuses `more` kits than an account may have.
pub(super) fn check_room(w: &mut Write<'_>, more: usize) -> Result<(), ServiceError> {
    let there = kits::count(w.c, w.caller.access)?;
    if there + more <= limits::KITS {
        return Ok(());
    }
    let detail =
        format!("You have {there} kits, and {} are the most that are kept. Take one apart first.", limits::KITS);
    Err(ServiceError::invalid("name", "too_many", detail))
}

/// A draft over the account's things as it will be kept, if it can be.
pub(super) fn checked(draft: &KitDraft, things: &HashMap<GearId, Gear>) -> Result<Kit, ServiceError> {
    let name = Name::new(&draft.name).in_field("name")?;
    if !(2..=limits::PARTS).contains(&draft.parts.len()) {
        let detail =
            format!("A kit of {} things can't be made. Choose from 2 to {}.", draft.parts.len(), limits::PARTS);
        return Err(ServiceError::invalid("parts", "out_of_range", detail));
    }
    let mut once = HashSet::new();
    if !draft.parts.iter().all(|part| things.contains_key(&part.gear) && once.insert(part.gear)) {
        let detail = "A thing of the kit is gone, or stands in it twice. Choose the things again.";
        return Err(ServiceError::invalid("parts", "gone", detail));
    }
    for PartDraft { gear: id, count } in &draft.parts {
        in_count("parts", *count, 1)?;
        if let Some(thing) = things.get(id).filter(|thing| *count > thing.count) {
            let (name, owned) = (thing.name.as_str(), thing.count);
            let detail = format!("{count} of {name} are more than the {owned} owned. Type at most {owned}.");
            return Err(ServiceError::invalid("parts", "more_than_owned", detail));
        }
    }
    Ok(Kit { name, parts: draft.parts.iter().map(|part| (part.gear, part.count)).collect(), gone: 0 })
}
