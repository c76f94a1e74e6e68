//! The Weigh step: what it shows, taking a reading, correcting it, weighing by taking away.

mod page;

pub use page::{Queued, Taken, WeighPage};

use super::gear::in_count;
use super::history::{Changed, Recorder};
use super::kits::{self, KitView};
use super::{Caller, InField, ServiceError, Services, counted};
use crate::store::id::{GearId, KitId, WeighingId};
use crate::store::weighings::{self, Weighed, WeighingRecord};
use crate::store::{Stored, gear};
use chrono::Utc;
use diesel::MysqlConnection;
use kevyt_core::gear::{Claim, DEFAULT_STEP, Gear, Makers, Weighing, Weight, WeightSource};
use kevyt_core::quantity::Mass;
use kevyt_core::weigh::{Piece, TakeAway};

/// What a figure that was typed is said to come from.
pub(super) const TYPED: &str = "typed";
/// The longest name of a scale, in characters.
const SCALE: usize = 60;

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
                container.in_grams(),
                shown.in_grams()
            );
            return Err(ServiceError::invalid("container", "out_of_range", detail));
        }
        let pieces = in_count("pieces", self.pieces, 1)?;
        let step = self.step_mg.map_or(DEFAULT_STEP, Mass::from_mg);
        if !(Mass::from_mg(1)..=Mass::from_mg(1_000_000)).contains(&step) {
            let detail = format!("A step of {} can't be taken. Give one from 1 mg to 1 kg.", step.in_grams());
            return Err(ServiceError::invalid("step_mg", "out_of_range", detail));
        }
        if self.scale.as_ref().is_some_and(|scale| scale.chars().count() > SCALE) {
            let detail = format!("The name of the scale is too long. Type at most {SCALE} characters.");
            return Err(ServiceError::invalid("scale", "too_long", detail));
        }
        let total = shown - container;
        let typed = if container == Mass::ZERO { self.total.trim().to_owned() } else { total.in_grams() };
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

impl TakeAwayDraft {
    /// The pieces so far, and what is still on the scale: at the end, the closing error.
    pub fn read(&self) -> Result<(Vec<Piece>, Mass), ServiceError> {
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
    /// Takes a reading for a thing: its weight from now on.
    pub fn weigh_gear(
        &self,
        caller: Caller,
        id: GearId,
        reading: &Reading,
    ) -> Result<Changed<Stored<GearId, Gear>>, ServiceError> {
        let (weighing, typed) = reading.checked(caller)?;
        self.transaction(|c| {
            let thing = gear::get(c, caller.account, id)?;
            let mut recorder = Recorder::new(caller.account);
            let record = record(Weighed::Gear(id), weighing, typed, reading.scale());
            let said = format!("{} weighed: {}.", thing.value.name.as_str(), weighing.unit().in_grams());
            weigh(c, caller, &mut recorder, &[record])?;
            let thing = gear::get(c, caller.account, id)?;
            recorder.finish(c, &said, thing)
        })
    }

    /// Takes a reading for a kit.
    pub fn weigh_kit(&self, caller: Caller, id: KitId, reading: &Reading) -> Result<Changed<KitView>, ServiceError> {
        let (weighing, typed) = reading.checked(caller)?;
        if weighing.pieces != 1 {
            return Err(ServiceError::invalid("pieces", "out_of_range", "A kit is weighed whole: one piece."));
        }
        self.transaction(|c| {
            let kit = kits::one(c, caller, id)?.kit.value;
            let mut recorder = Recorder::new(caller.account);
            let record = record(Weighed::Kit(id), weighing, typed, reading.scale());
            weigh(c, caller, &mut recorder, &[record])?;
            let said = format!("{} weighed: {}.", kit.name.as_str(), weighing.total.in_grams());
            let view = kits::one(c, caller, id)?;
            recorder.finish(c, &said, view)
        })
    }

    /// Takes the pieces of a take-away weighing, each for its thing, all or none.
    pub fn take_away(
        &self,
        caller: Caller,
        draft: &TakeAwayDraft,
        things: &[(GearId, u32)],
        scale: Option<&str>,
    ) -> Result<Changed<Vec<Stored<GearId, Gear>>>, ServiceError> {
        let (pieces, left_over) = draft.read()?;
        if pieces.len() != things.len() {
            let detail = format!("{} pieces were taken off for {} things.", pieces.len(), things.len());
            return Err(ServiceError::invalid("things", "count", detail));
        }
        let scale = scale.unwrap_or(TYPED);
        let records = pieces.iter().zip(things).map(|(piece, (id, count))| {
            let count = in_count("things", *count, 1)?;
            // Each drop is the difference of two readings, so it is half as well known as one.
            let weighing = Weighing { total: piece.mass, pieces: count, step: draft.step + draft.step };
            Ok(record(Weighed::Gear(*id), weighing, piece.mass.in_grams(), scale.to_owned()))
        });
        let records: Vec<WeighingRecord> = records.collect::<Result<_, ServiceError>>()?;
        self.transaction(|c| {
            let mut recorder = Recorder::new(caller.account);
            weigh(c, caller, &mut recorder, &records)?;
            let ids: Vec<GearId> = things.iter().map(|thing| thing.0).collect();
            let (weighed, left_over) = (counted(ids.len(), "thing"), left_over.in_grams());
            let said = format!("{weighed} weighed by taking away; {left_over} left over.");
            let weighed = gear::several(c, caller.account, &ids)?;
            recorder.finish(c, &said, weighed)
        })
    }

    /// The weighings of a thing, newest first.
    pub fn weighings(&self, caller: Caller, id: GearId) -> Result<Vec<WeighingRecord>, ServiceError> {
        let mut c = self.connection()?;
        gear::get(&mut c, caller.account, id)?;
        Ok(weighings::of(&mut c, caller.account, &[id], &[])?)
    }

    /// Corrects a weighing.
    pub fn correct_weighing(
        &self,
        caller: Caller,
        id: WeighingId,
        total: &str,
    ) -> Result<Changed<WeighingRecord>, ServiceError> {
        let total_mass = Mass::parse(total, caller.preferences.mass.table_unit()).in_field("total")?;
        self.transaction(|c| {
            let mut record = weighings::get(c, caller.account, id)?;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            record.weighing.total = total_mass;
            record.typed = total.trim().to_owned();
            weighings::update(c, caller.account, &record)?;
            let name = reweigh(c, caller, &mut recorder, record.of)?;
            recorder.finish(c, &format!("A weighing of {name} corrected to {}.", total_mass.in_grams()), record)
        })
    }

    /// Takes a weighing out: the one before it counts again, or the maker's figure.
    pub fn remove_weighing(&self, caller: Caller, id: WeighingId) -> Result<Changed<()>, ServiceError> {
        self.transaction(|c| {
            let record = weighings::get(c, caller.account, id)?;
            let mut recorder = Recorder::new(caller.account);
            recorder.touch(c, [id])?;
            weighings::remove(c, caller.account, id)?;
            let name = reweigh(c, caller, &mut recorder, record.of)?;
            recorder.finish(c, &format!("A weighing of {name} removed: {}.", record.weighing.total.in_grams()), ())
        })
    }
}

/// The account's own record of makers' figures.
pub(super) fn makers(c: &mut MysqlConnection, caller: Caller) -> Result<Makers, ServiceError> {
    Ok(Makers::from_pairs(gear::claimed_and_weighed(c, caller.account)?))
}

/// A weighing of now.
pub(super) fn record(of: Weighed, weighing: Weighing, typed: String, scale: String) -> WeighingRecord {
    WeighingRecord { id: WeighingId::fresh(), of, weighing, typed, scale, at: Utc::now().naive_utc() }
}

/// Keeps weighings and lets each thing have its figure.
fn weigh(
    c: &mut MysqlConnection,
    caller: Caller,
    recorder: &mut Recorder,
    records: &[WeighingRecord],
) -> Result<(), ServiceError> {
    recorder.touch(c, records.iter().map(|record| record.id))?;
    weighings::insert(c, caller.account, records)?;
    for record in records {
        reweigh(c, caller, recorder, record.of)?;
    }
    Ok(())
}

/// Gives a thing the figure of its newest weighing; without one, the maker's figure again. A maker's figure that a weighing
/// replaces is kept beside it. Answers with the name of what was weighed.
fn reweigh(
    c: &mut MysqlConnection,
    caller: Caller,
    recorder: &mut Recorder,
    of: Weighed,
) -> Result<String, ServiceError> {
    let id = match of {
        Weighed::Kit(id) => {
            let kit = kits::one(c, caller, id)?.kit.value;
            let parts: Vec<GearId> = kit.parts.iter().map(|part| part.0).collect();
            kits::rederive(c, caller, recorder, &parts)?;
            return Ok(kit.name.as_str().to_owned());
        }
        Weighed::Gear(id) => id,
    };
    let Stored { version, value: mut thing, .. } = gear::get(c, caller.account, id)?;
    let newest = weighings::of(c, caller.account, &[id], &[])?.into_iter().next();
    recorder.touch(c, [id])?;
    if let Some(weight) = thing.weight.as_ref().filter(|weight| weight.source == WeightSource::Maker) {
        thing.claimed.get_or_insert_with(|| Claim { unit: weight.unit, typed: weight.typed.clone() });
    }
    thing.weight = match newest {
        Some(record) => Some(record.weighing.weight(&record.typed)),
        None => thing.claimed.clone().map(|claim| Weight {
            unit: claim.unit,
            typed: claim.typed,
            source: WeightSource::Maker,
            half_width: None,
        }),
    };
    gear::update(c, caller.account, id, version, &thing)?;
    kits::rederive(c, caller, recorder, &[id])?;
    Ok(thing.name.as_str().to_owned())
}
