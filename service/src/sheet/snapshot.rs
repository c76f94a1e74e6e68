//! A list laid out for core: its lines, who carries each, kits and walkers.

use crate::weights::weighed_kits;
use crate::{Caller, ServiceError, weights};
use diesel::MysqlConnection;
use kevyt_core::exchange::{TripList, Walker};
use kevyt_core::gear::{Gear, Jobs, Makers, Tags, Weight, WeightSource};
use kevyt_core::list::{Carrier, Line, LineId, Place, Thing, Totals, WeighedKit, added_up};
use kevyt_core::quantity::Mass;
use kevyt_core::together::serving;
use kevyt_core::trip::{Trip, required};
use kevyt_store::access::{Role, ToList};
use kevyt_store::id::{AccountId, GearId, ListId};
use kevyt_store::lines::{self, Carried, StoredLine};
use kevyt_store::lists::PackList;
use kevyt_store::walkers::{self, StoredWalker};
use kevyt_store::{Stored, gear};
use std::collections::{HashMap, HashSet};

/// A line with whose gear it is.
#[derive(Debug, Clone)]
pub struct SheetLine {
    /// Whose.
    pub owner: AccountId,
    /// The line.
    pub line: StoredLine,
    /// Whether its price may be shown.
    pub shows_price: bool,
}

/// A list laid out for core.
pub(crate) struct ListSnapshot {
    /// The lines of all who walk, by system.
    pub lines: Vec<SheetLine>,
    /// The same as core has them.
    pub things: Vec<Thing>,
    /// Kits of the caller's that count as they were weighed.
    pub kits: Vec<WeighedKit>,
    /// Who walks, the owner first; none where nobody else does.
    pub walkers: Vec<StoredWalker>,
    /// The caller's place among them.
    pub me: usize,
    /// The caller's own record of makers' figures.
    pub makers: Makers,
}

/// What a list's trip requires, and the trip with that in it, once somebody has said what it is.
pub(crate) fn asked(list: &PackList) -> (Jobs, Option<Trip>) {
    let requires = required(list.trip.as_ref(), &list.requires);
    let trip = list.trip.as_ref().map(|trip| Trip { requires: requires.clone(), ..trip.clone() });
    (requires, trip)
}

/// The place of an account among walkers.
pub(super) fn place_of(walkers: &[StoredWalker], account: AccountId) -> Option<usize> {
    walkers.iter().position(|walker| walker.value.account == Some(account))
}

/// Who carries a line: the walker who is named, or else the owner of its gear.
pub(crate) fn carrier(walkers: &[StoredWalker], owner: AccountId, carried: Carried) -> Carrier {
    let named = carried.by.and_then(|id| walkers.iter().position(|walker| walker.id == id));
    let at = named.or_else(|| place_of(walkers, owner)).unwrap_or_default();
    if carried.shared { Carrier::Shared(at) } else { Carrier::Own(at) }
}

/// What the caller carries of a list, and how much of that has no known weight: as [`ListSnapshot::totals`], without reading the list. The database
/// adds up who carries what; only parts of kits are looked at one by one.
pub(crate) fn base_of(c: &mut MysqlConnection, caller: Caller, list: ListId) -> Result<(Mass, u32), ServiceError> {
    let (_, to) = walkers::open(c, caller.access, list)?;
    let walkers = walkers::of_list(c, to)?;
    let me = place_of(&walkers, caller.access.account()).unwrap_or_default();
    let is_mine = |owner: AccountId, carried: Carried| carrier(&walkers, owner, carried).walker() == me;
    let counting = weights::counting(weights::load(c, caller, None)?);
    let parts: Vec<GearId> = counting.iter().flat_map(|(kit, _)| kit.parts.iter().map(|part| part.0)).collect();
    let loads = lines::loads(c, to, &parts)?;
    let parts = lines::weights(c, to, &parts)?;
    let of_gear: HashMap<GearId, LineId> = parts.iter().map(|line| (line.gear, LineId(line.id.to_string()))).collect();
    let kits = weighed_kits(&counting, |gear| of_gear.get(gear).cloned());
    let makers = Makers::default();
    let mine = parts.into_iter().filter(|line| is_mine(line.owner, line.carried));
    let mine: Vec<Line> = mine
        .map(|line| {
            // Where a weight comes from says nothing of what it adds to a sum.
            let weight = |unit| Weight { unit, typed: String::new(), source: WeightSource::Weighed, band: None };
            Line {
                id: LineId(line.id.to_string()),
                name: String::new(),
                counts: line.counts,
                weight: line.unit.map(|unit| makers.known(&weight(unit))),
                tags: Tags::default(),
                provides: Jobs::new(),
                needs: Jobs::new(),
            }
        })
        .collect();
    let mut totals = added_up(&mine, &kits).0;
    for load in loads.into_iter().filter(|load| is_mine(load.owner, load.carried)) {
        totals.add(load.carried_mass, Place::Carried);
        totals.unknown += load.unknown;
    }
    Ok((totals.base, u32::try_from(totals.unknown).unwrap_or(u32::MAX)))
}

impl ListSnapshot {
    /// Reads a list that the caller may see.
    pub fn load(c: &mut MysqlConnection, caller: Caller, to: ToList) -> Result<ListSnapshot, ServiceError> {
        let walkers = walkers::of_list(c, to)?;
        let makers = weights::makers(c, caller)?;
        let mine = caller.access.account();
        // What an owner's link shows is the owner's: prices of others are theirs to show.
        let shows = |account: AccountId| {
            let is_shown = || place_of(&walkers, account).is_some_and(|at| walkers[at].value.shows_prices);
            match to.role() {
                Role::Reader => to.prices() && (account == to.owner() || is_shown()),
                _ => account == mine || is_shown(),
            }
        };
        let mut all = lines::of_everyone(c, to)?;
        // Stable: within a system by name, as they come.
        all.sort_by_key(|(_, line)| line.value.gear.value.system);
        let things = all.iter().map(|(owner, line)| {
            let carrier = carrier(&walkers, *owner, line.value.carried);
            Thing::owned(LineId(line.id.to_string()), &line.value.gear.value, line.value.counts, carrier, &makers)
        });
        let things: Vec<Thing> = things.collect();
        let lines: Vec<SheetLine> =
            all.into_iter().map(|(owner, line)| SheetLine { owner, line, shows_price: shows(owner) }).collect();
        let of_gear: HashMap<GearId, &LineId> = lines
            .iter()
            .zip(&things)
            .map(|(line, thing): (_, &Thing)| (line.line.value.gear.id, &thing.line.id))
            .collect();
        let counting = weights::counting(weights::load(c, caller, None)?);
        let kits = weighed_kits(&counting, |gear| of_gear.get(gear).copied().cloned());
        Ok(ListSnapshot { lines, things, kits, me: place_of(&walkers, mine).unwrap_or_default(), walkers, makers })
    }

    /// What a walker carries or wears.
    pub fn of(&self, walker: usize) -> impl Iterator<Item = &Thing> + Clone {
        self.things.iter().filter(move |thing| thing.carrier.walker() == walker)
    }

    /// What the caller does.
    pub fn mine(&self) -> Vec<Thing> {
        self.of(self.me).cloned().collect()
    }

    /// The sums of what the caller does.
    pub fn totals(&self) -> Totals {
        added_up(self.of(self.me).map(|thing| &thing.line), &self.kits).0
    }

    /// What does its jobs for the caller, and where each of it stands among all things.
    pub fn serving(&self) -> (Vec<usize>, Vec<Thing>) {
        let at = serving(&self.things, self.me);
        let things = at.iter().map(|at| self.things[*at].clone()).collect();
        (at, things)
    }

    /// Gear of the caller's that is at hand and not on the list.
    pub fn at_home(&self, c: &mut MysqlConnection, caller: Caller) -> Result<Vec<Stored<GearId, Gear>>, ServiceError> {
        let on: HashSet<GearId> = self.lines.iter().map(|line| line.line.value.gear.id).collect();
        let mut owned = gear::shelf(c, caller.access)?;
        owned.retain(|thing| !on.contains(&thing.id));
        Ok(owned)
    }

    /// What the walkers weigh.
    pub fn bodies(&self) -> Vec<Option<Mass>> {
        self.walkers.iter().map(|walker| walker.value.body).collect()
    }

    /// As the open formats have it.
    pub fn file(self, caller: Caller, list: &PackList) -> TripList {
        let trip = list.trip.clone().unwrap_or_else(|| Trip::plain(1, 100, 200));
        let walker =
            |walker: &StoredWalker| Walker { id: walker.id.to_string(), body_mg: walker.value.body.map(Mass::mg) };
        TripList {
            walkers: self.walkers.iter().map(walker).collect(),
            things: self.things,
            kits: self.kits,
            trip: Trip { requires: required(list.trip.as_ref(), &list.requires), ..trip },
            sleeper: caller.settings.sleeper(),
        }
    }
}
