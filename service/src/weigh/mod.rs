//! The Weigh step: what it shows, taking a reading, correcting it, weighing by taking away.

mod page;

pub use page::{Queued, Taken, WeighPage};

use super::fields::in_count;
use super::weights::{self, KitView, TYPED, record};
use super::write::Write;
use super::{Caller, InField, ServiceError, Services};
use chrono::{Duration, Utc};
use kevyt_core::gear::{DEFAULT_STEP, Gear, Weighing};
use kevyt_core::limits;
use kevyt_core::quantity::{Mass, Quantity};
use kevyt_core::weigh::{Piece, TakeAway};
use kevyt_store::event::Event;
use kevyt_store::id::{GearId, KitId, WeighingId};
use kevyt_store::weighings::{self, Weighed, WeighingRecord};
use kevyt_store::{StoreError, Stored, gear, kits as kits_store};
use std::collections::HashSet;

/// The same reading of the same things within so many seconds is the same weighing, sent twice.
const SENT_TWICE_S: i64 = 10;

/// A reading as it is taken.
#[derive(Debug, Clone)]
pub struct Reading {
    /// What the scale showed, as typed or as read.
    pub total: String,
    /// What the pieces lie in, if it was not tared; as typed.
    pub container: Option<String>,
    /// Pieces on the scale.
    pub pieces: u32,
    /// The scale's step in milligrams, if known.
    pub step_mg: Option<i64>,
    /// Which scale; "typed" if none is named.
    pub scale: Option<String>,
}

impl Reading {
    /// The weighing and how it reads, within the limits.
    fn checked(&self, caller: Caller) -> Result<(Weighing, String), ServiceError> {
        let unit = caller.preferences.mass.table_unit();
        let shown = Mass::parse(&self.total, unit).in_field("total")?;
        let container = self.container.as_deref().map(|typed| Mass::parse(typed, unit).in_field("container"));
        let container = container.transpose()?.unwrap_or_default();
        if container > shown {
            let detail = format!(
                "The container ({}) is heavier than all that is on the scale ({}).",
                caller.preferences.mass.text(container),
                caller.preferences.mass.text(shown)
            );
            return Err(ServiceError::invalid("container", "out_of_range", detail));
        }
        let pieces = in_count("pieces", self.pieces, 1)?;
        let step = in_step("step_mg", self.step_mg.map_or(DEFAULT_STEP, Mass::from_mg))?;
        in_scale("scale", self.scale.as_deref().unwrap_or(TYPED))?;
        let total = shown - container;
        let typed = if container == Mass::ZERO { Mass::typed_in(&self.total, unit) } else { total.in_grams() };
        Ok((Weighing { total, pieces, step }, typed))
    }

    fn scale(&self) -> String {
        self.scale.clone().unwrap_or_else(|| TYPED.to_owned())
    }
}

/// A take-away weighing as the screen knows it.
#[derive(Debug, Clone)]
pub struct TakeAwayDraft {
    /// What everything lies in; nothing if it was tared.
    pub container: Mass,
    /// Steady readings: everything first, then one after each piece.
    pub readings: Vec<Mass>,
    /// The scale's step.
    pub step: Mass,
}

/// The step of a scale, within the limits.
pub(super) fn in_step(field: &str, step: Mass) -> Result<Mass, ServiceError> {
    let (finest, coarsest) = limits::STEP_MG;
    if (finest..=coarsest).contains(&step.mg()) {
        return Ok(step);
    }
    let detail = format!("A step of {} can't be taken. Give one from 1 mg to 1 kg.", step.in_grams());
    Err(ServiceError::outside(field, Quantity::Mass, limits::STEP_MG, detail))
}

/// The name of a scale, within the limits.
pub(super) fn in_scale(field: &str, name: &str) -> Result<(), ServiceError> {
    if name.chars().count() <= limits::SCALE {
        return Ok(());
    }
    let detail = format!("The name of the scale is too long. Type at most {} characters.", limits::SCALE);
    Err(ServiceError::invalid(field, "too_long", detail))
}

impl TakeAwayDraft {
    /// Refuses figures that no scale shows, and more of them than anybody takes.
    fn check(&self) -> Result<(), ServiceError> {
        in_step("step_mg", self.step)?;
        let most = limits::MASS_MG;
        let figures = std::iter::once(("container_mg", &self.container));
        for (field, figure) in figures.chain(self.readings.iter().map(|reading| ("readings_mg", reading))) {
            // A tared scale shows less than nothing once its container is taken off.
            let taken = if field == "container_mg" { (0, most) } else { (-most, most) };
            if !(taken.0..=taken.1).contains(&figure.mg()) {
                let detail = format!("A reading of {} can't be taken. Weigh at most 200 kg.", figure.in_grams());
                return Err(ServiceError::outside(field, Quantity::Mass, taken, detail));
            }
        }
        if self.readings.len() > limits::READINGS {
            let (read, most) = (self.readings.len(), limits::READINGS);
            let detail = format!("{read} readings are too many for one weighing. Take at most {most}.");
            return Err(ServiceError::invalid("readings", "too_many", detail));
        }
        Ok(())
    }

    /// The pieces so far, and what is still on the scale: at the end, the closing error.
    pub fn read(&self) -> Result<(Vec<Piece>, Mass), ServiceError> {
        self.check()?;
        let refused =
            |error: kevyt_core::weigh::TakeAwayError| ServiceError::invalid("readings", "take_away", error.to_string());
        let mut readings = self.readings.iter().copied();
        let everything = readings.next().ok_or_else(|| {
            ServiceError::invalid("readings", "empty", "No reading has been taken. Put everything on the scale first.")
        })?;
        let mut weighing = TakeAway::start(everything, self.container).map_err(refused)?;
        for reading in readings {
            weighing.take(reading, self.step).map_err(refused)?;
        }
        Ok((weighing.pieces(), weighing.left_over()))
    }
}

impl Services {
    /// The weighings of a thing, newest first.
    pub fn weighings(&self, caller: Caller, id: GearId) -> Result<Vec<WeighingRecord>, ServiceError> {
        let mut c = self.connection()?;
        gear::get(&mut c, caller.access, id)?;
        Ok(weighings::of(&mut c, caller.access, &[id], &[])?)
    }
}

impl Write<'_> {
    /// A mass as the walker reads it.
    fn mass_text(&self, mass: Mass) -> String {
        self.caller.preferences.mass.text(mass)
    }

    /// Takes a reading for a thing: its weight from now on.
    pub fn weigh_gear(&mut self, id: GearId, reading: &Reading) -> Result<Stored<GearId, Gear>, ServiceError> {
        let (weighing, typed) = reading.checked(self.caller)?;
        let thing = gear::get(self.c, self.caller.access, id)?;
        self.weigh(vec![record(Weighed::Gear(id), weighing, typed, reading.scale())])?;
        let weighed = thing.value.name.as_str().to_owned();
        self.log(Event::Weighed { weighed, mass_mg: weighing.unit().mg() });
        Ok(gear::get(self.c, self.caller.access, id)?)
    }

    /// Takes a reading for a kit.
    pub fn weigh_kit(&mut self, id: KitId, reading: &Reading) -> Result<KitView, ServiceError> {
        let (weighing, typed) = reading.checked(self.caller)?;
        if weighing.pieces != 1 {
            return Err(ServiceError::invalid("pieces", "out_of_range", "A kit is weighed whole: one piece."));
        }
        let kit = weights::one(self.c, self.caller, id)?.kit.value;
        self.weigh(vec![record(Weighed::Kit(id), weighing, typed, reading.scale())])?;
        self.log(Event::Weighed { weighed: kit.name.as_str().to_owned(), mass_mg: weighing.total.mg() });
        weights::one(self.c, self.caller, id)
    }

    /// Takes the pieces of a take-away weighing, each for its thing, all or none. At its end the scale must be back at the container,
    /// within a step; `left` is what the walker said lies on it still, if they did.
    pub fn take_away(
        &mut self,
        draft: &TakeAwayDraft,
        things: &[(GearId, u32)],
        scale: Option<&str>,
        left: Option<Mass>,
    ) -> Result<Vec<Stored<GearId, Gear>>, ServiceError> {
        let (pieces, left_over) = draft.read()?;
        if pieces.len() != things.len() {
            let detail = format!("{} pieces were taken off for {} things.", pieces.len(), things.len());
            return Err(ServiceError::invalid("things", "count", detail));
        }
        let is_back = (Mass::ZERO - draft.step..=draft.step).contains(&left_over);
        if !is_back && left != Some(left_over) {
            let detail = format!(
                "{} is still on the scale. Take the rest off, or say that it stays there and is no piece of these.",
                self.mass_text(left_over)
            );
            return Err(ServiceError::invalid("readings", "left_over", detail));
        }
        let scale = scale.unwrap_or(TYPED);
        in_scale("scale", scale)?;
        let records = pieces.iter().zip(things).map(|(piece, (id, count))| {
            let count = in_count("things", *count, 1)?;
            // Each drop is the difference of two readings, so it is half as well known as one.
            let weighing = Weighing { total: piece.mass, pieces: count, step: draft.step + draft.step };
            Ok(record(Weighed::Gear(*id), weighing, piece.mass.in_grams(), scale.to_owned()))
        });
        let records: Vec<WeighingRecord> = records.collect::<Result<_, ServiceError>>()?;
        self.weigh(records)?;
        let ids: Vec<GearId> = things.iter().map(|thing| thing.0).collect();
        self.log(Event::WeighedByTakingAway { things: ids.len(), left_mg: left_over.mg() });
        Ok(gear::several(self.c, self.caller.access, &ids)?)
    }

    /// Corrects a weighing.
    pub fn correct_weighing(&mut self, id: WeighingId, total: &str) -> Result<WeighingRecord, ServiceError> {
        let unit = self.caller.preferences.mass.table_unit();
        let total_mass = Mass::parse(total, unit).in_field("total")?;
        let mut record = weighings::get(self.c, self.caller.access, id)?;
        self.touch([id])?;
        record.weighing.total = total_mass;
        record.typed = Mass::typed_in(total, unit);
        weighings::update(self.c, self.caller.access, &record)?;
        let weighed = self.weighed_anew(record.of)?;
        self.log(Event::WeighingCorrected { weighed, mass_mg: total_mass.mg() });
        Ok(record)
    }

    /// Takes a weighing out: what was weighed or said before counts again.
    pub fn remove_weighing(&mut self, id: WeighingId) -> Result<(), ServiceError> {
        let record = weighings::get(self.c, self.caller.access, id)?;
        self.touch([id])?;
        weighings::remove(self.c, self.caller.access, id)?;
        let weighed = self.weighed_anew(record.of)?;
        self.log(Event::WeighingRemoved { weighed, mass_mg: record.weighing.total.mg() });
        Ok(())
    }

    /// Keeps weighings and lets each thing have its figure. All of them taken just now already are kept once.
    fn weigh(&mut self, mut records: Vec<WeighingRecord>) -> Result<(), ServiceError> {
        let access = self.caller.access;
        let things = records.iter().filter_map(|record| match record.of {
            Weighed::Gear(id) => Some(id),
            Weighed::Kit(_) => None,
        });
        let things: Vec<GearId> = things.collect();
        let kits = records.iter().filter_map(|record| match record.of {
            Weighed::Kit(id) => Some(id),
            Weighed::Gear(_) => None,
        });
        let kits: Vec<KitId> = kits.collect();
        if gear::several(self.c, access, &things)?.len() < HashSet::<&GearId>::from_iter(&things).len() {
            return Err(StoreError::NotFound.into());
        }
        let since = Utc::now().naive_utc() - Duration::seconds(SENT_TWICE_S);
        let mut recent = weighings::of(self.c, access, &things, &kits)?;
        for record in &mut records {
            // Wherever clocks stand, or go back to: what is weighed last is the newest.
            if let Some(newest) = recent.iter().find(|kept| kept.of == record.of) {
                record.at = record.at.max(newest.at + Duration::microseconds(1));
            }
        }
        recent.retain(|kept| kept.at > since);
        let is_kept = |record: &WeighingRecord| {
            let same = |kept: &&WeighingRecord| {
                kept.of == record.of && kept.weighing == record.weighing && kept.scale == record.scale
            };
            // The newest of each: something weighed in between makes it another weighing.
            recent.iter().find(|kept| kept.of == record.of).filter(same).is_some()
        };
        if records.iter().all(is_kept) {
            return Ok(());
        }
        self.touch(records.iter().map(|record| record.id))?;
        weighings::insert(self.c, access, &records)?;
        self.reweigh(&things)?;
        let parts = kits_store::parts_of(self.c, access, &kits)?;
        weights::rederive(self, &parts)
    }

    /// Works out again what hangs on the weighings of something; gives its name.
    fn weighed_anew(&mut self, of: Weighed) -> Result<String, ServiceError> {
        match of {
            Weighed::Gear(id) => {
                self.reweigh(&[id])?;
                Ok(gear::get(self.c, self.caller.access, id)?.value.name.as_str().to_owned())
            }
            Weighed::Kit(id) => {
                let kit = weights::one(self.c, self.caller, id)?.kit.value;
                weights::rederive(self, &kit.parts.iter().map(|part| part.0).collect::<Vec<_>>())?;
                Ok(kit.name.as_str().to_owned())
            }
        }
    }
}
