//! A list as one walker packs it.

use super::before::is_for_safety;
use super::{Fill, InPack, Reconciled, Zone, fill, proposed, reconcile};
use crate::list::{Counts, Place, Thing, WeighedKit, job_sum};
use crate::quantity::Mass;
use crate::trip::{Load, Part, Trip};
use std::collections::BTreeMap;

/// What was said of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct PackingNote {
    /// Where it goes, if somebody said so.
    pub zone: Option<Zone>,
    /// Where it stands among the others there, if somebody said so: what has no place stands behind what has one.
    pub place: Option<i32>,
    /// Whether it is in.
    pub is_in: bool,
}

/// Whether a thing was forgotten when a list was packed: it was not in though something was, and nobody says that it was used.
pub fn is_forgotten(was_in: bool, any_in: bool, used: Option<bool>) -> bool {
    any_in && !was_in && used != Some(true)
}

/// What a walker carries and wears, and what was said of each.
#[derive(Debug, Clone)]
pub struct Packed {
    things: Vec<Thing>,
    /// The position of each among those that were given.
    given: Vec<usize>,
    said: Vec<PackingNote>,
    zones: Vec<Option<Zone>>,
    /// What zones hold, where the walker says so, in millilitres.
    hold: BTreeMap<Zone, i64>,
}

impl Packed {
    /// Of things, each with what was said of it; `hold` is what zones hold, where the walker says so, in millilitres.
    ///
    /// What is worn of a line lies on the walker, whatever of it goes into the pack: of a thing that is both there are two.
    pub fn new(things: impl IntoIterator<Item = (Thing, PackingNote)>, hold: BTreeMap<Zone, i64>) -> Packed {
        let by_place = |(at, (thing, said)): (usize, (Thing, PackingNote))| {
            let Counts { worn, .. } = thing.line.counts;
            let is_both = worn > 0 && thing.line.counts.packed() > 0;
            let on_me = is_both.then(|| {
                let mut on_me = thing.clone();
                on_me.line.counts = Counts { worn, ..Counts::default() };
                (at, (on_me, PackingNote { zone: None, place: None, ..said }))
            });
            let mut packed = (at, (thing, said));
            if is_both {
                packed.1.0.line.counts.worn = 0;
            }
            [Some(packed), on_me].into_iter().flatten()
        };
        let (given, things): (Vec<usize>, Vec<(Thing, PackingNote)>) =
            things.into_iter().enumerate().flat_map(by_place).unzip();
        let (things, said): (Vec<Thing>, Vec<PackingNote>) = things.into_iter().unzip();
        let zone =
            |(thing, said): (&Thing, &PackingNote)| proposed(thing).map(|proposed| said.zone.unwrap_or(proposed));
        let zones = things.iter().zip(&said).map(zone).collect();
        Packed { things, given, said, zones, hold }
    }

    /// The things.
    pub fn things(&self) -> &[Thing] {
        &self.things
    }

    /// The position that the thing at a position had among those that were given.
    pub fn given(&self, at: usize) -> usize {
        self.given[at]
    }

    /// What was said of the thing at a position.
    pub fn said(&self, at: usize) -> PackingNote {
        self.said[at]
    }

    /// Where it goes; `None` for the pack itself and for what stays home.
    pub fn zone(&self, at: usize) -> Option<Zone> {
        self.zones[at]
    }

    /// Positions of what goes into a zone, in its order.
    pub fn in_zone(&self, zone: Zone) -> Vec<usize> {
        let mut at: Vec<usize> = (0..self.things.len()).filter(|&at| self.zones[at] == Some(zone)).collect();
        at.sort_by_key(|&at| (self.said[at].place.is_none(), self.said[at].place, at));
        at
    }

    /// What the packs hold, as far as it is known, in millilitres.
    pub fn room_ml(&self) -> i64 {
        job_sum(&self.things, "room", &Place::COUNTED)
    }

    /// Every zone: what it holds, if that is known, and how full it is. What does not fit is named by its position.
    pub fn fills(&self) -> Vec<(Zone, Option<i64>, Fill)> {
        let room = self.room_ml();
        let of_zone = |zone: Zone| {
            let at = self.in_zone(zone);
            let things: Vec<&Thing> = at.iter().map(|&at| &self.things[at]).collect();
            let holds = self.hold.get(&zone).copied().or_else(|| zone.ml_by_default(room).filter(|_| room > 0));
            let fill = fill(&things, holds);
            (zone, holds, Fill { over: fill.over.iter().map(|&over| at[over]).collect(), ..fill })
        };
        Zone::ALL.into_iter().map(of_zone).collect()
    }

    /// Positions of what safety or medicine needs, goes somewhere, and is not in.
    pub fn missing_for_safety(&self) -> Vec<usize> {
        let is_out = |at: &usize| self.zones[*at].is_some() && !self.said[*at].is_in;
        (0..self.things.len()).filter(is_out).filter(|&at| is_for_safety(&self.things[at])).collect()
    }

    /// A scale's reading of the pack against what is in it: ticked lines whole, food as the list has it or else as the trip takes it, and water as
    /// it is carried at the start, once a bottle is in. What is on the walker is not in it; the pack itself is, whatever is ticked; and while nothing is ticked, all that goes into it.
    pub fn reconcile(&self, reading: Mass, half_width: Mass, kits: &[WeighedKit], trip: Option<&Trip>) -> Reconciled {
        let is_begun = self.said.iter().any(|said| said.is_in);
        let at: Vec<usize> = (0..self.things.len()).filter(|&at| self.zones[at] != Some(Zone::OnMe)).collect();
        let in_pack = |&at: &usize| {
            let is_in = !is_begun || self.said[at].is_in || self.zones[at].is_none();
            InPack { thing: &self.things[at], is_in }
        };
        let things: Vec<InPack<'_>> = at.iter().map(in_pack).collect();
        // Water is taken for loaded once a bottle is in, or where the list has none.
        let is_loaded = |holds: &dyn Fn(&Thing) -> bool| {
            let mut holders = (0..self.things.len()).filter(|&at| holds(&self.things[at])).peekable();
            !is_begun || holders.peek().is_none() || holders.any(|at| self.said[at].is_in)
        };
        let mut load = Load::beside(&self.things, trip);
        if !is_loaded(&|thing| thing.provides("water_carried") > 0) {
            load.water = Mass::ZERO;
        }
        let mut found = reconcile(reading, half_width, &things, kits, load);
        for (part, _) in &mut found.listed.parts {
            if let Part::Thing(of) = part {
                *of = at[*of];
            }
        }
        found.causes.iter_mut().filter_map(|cause| cause.of.as_mut()).for_each(|of| *of = at[*of]);
        found
    }
}
