//! The night that a set of swaps leaves: never colder than today's, neither in the sleep system nor under the back.
//!
//! *Cold* is how far the warmest bed stays above the low: of the rated things that are no underquilt the least of comfort and the sleeper's
//! offset, less what the other things add. The *floor* is what is between the back and the ground: the pads, or in a hammock with an underquilt
//! that one. What is there is what has a piece carried or worn after the set.
//!
//! As rows, each with choices that follow for the search and are no swaps:
//!
//! | condition | row |
//! | --- | --- |
//! | it is slept in one bed | 1 − Σ slept in ≥ 0, Σ slept in − 1 ≥ 0 |
//! | that is there | there(bed) − slept in(bed) ≥ 0 |
//! | and warm enough with what else is there | Σ adds × there − Σ (lacks + own) × slept in(bed) ≥ 0 |
//! | the pads do, unless one hangs | Σ R × pieces − needed + needed × hangs ≥ 0 |
//! | one hangs only in a hammock, over an underquilt that is warm enough | Σ there − hangs ≥ 0, of each |
//! | and does where both are there | 1 − a hammock is there − an underquilt is there + hangs ≥ 0 |
//!
//! Where nothing adds warmth, no choice is needed: Σ there(bed that is warm enough) − 1 ≥ 0. A thing of one piece is there if no swap takes
//! it; of several, *there* is a choice too, no more than the pieces that are left, and for the last row no less than a share of them.

mod constraints;

use super::{Meet, Ready};
use crate::caution::{HAMMOCK, Sleeper, UNDERQUILT, ground_asked};
use crate::gear::{Facts, Jobs, Rating};
use crate::list::{Carrier, LineId, Place, Thing as ListThing};
use crate::swap::{Swap, SwapId};
use crate::trip::Trip;
use std::collections::{BTreeMap, HashMap};

/// The pads' job, in tenths of R.
pub(super) const GROUND: &str = "ground_insulation";

/// What a thing hangs or is hung under.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Hung {
    /// A hammock.
    Hammock,
    /// What keeps the back warm in one.
    Underquilt,
}

/// What a thing is to the night, beside the job that pads do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Warmth {
    /// How warm it is as a bed.
    pub rating: Option<Rating>,
    /// What it adds to another bed, in tenths of a degree.
    pub adds: i64,
    /// Whether it is a part of a bed that hangs.
    pub hung: Option<Hung>,
}

/// A night to get through.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Night {
    /// The low, in tenths of a degree Celsius.
    pub low: i64,
    /// What is added to ratings for the sleeper, in tenths of a degree; above 0 for who sleeps cold.
    pub offset: i64,
    /// What the low asks of all pads together, in tenths of R.
    pub ground: i64,
    /// What lines are to it, where they are anything.
    pub lines: HashMap<LineId, Warmth>,
    /// What things that swaps put on are to it: by swap and position.
    pub additions: HashMap<(SwapId, usize), Warmth>,
    /// What is there whatever is planned, since another carries it for all, and the job of all its pieces as pads.
    pub beside: Vec<(Warmth, i64)>,
}

impl Warmth {
    /// What a thing on a list is to the night.
    pub fn of(thing: &ListThing) -> Warmth {
        let hung = [(HAMMOCK, Hung::Hammock), (UNDERQUILT, Hung::Underquilt)];
        Warmth {
            rating: thing.facts.rating,
            adds: thing.facts.warms.unwrap_or(0),
            hung: hung.into_iter().find(|(tag, _)| thing.has(tag)).map(|(_, hung)| hung),
        }
    }
}

impl Night {
    /// The night of a trip for one of those who walk it; `None` where nobody sleeps out. What swaps put on is to be added.
    pub fn of_trip(trip: &Trip, sleeper: Sleeper, things: &[ListThing], walker: usize) -> Option<Night> {
        if trip.days < 2 {
            return None;
        }
        let own = things.iter().filter(|thing| thing.carrier.walker() == walker);
        let others = things.iter().filter(|thing| thing.carrier.walker() != walker);
        let there = |thing: &ListThing| i64::from(thing.line.counts.carried) + i64::from(thing.line.counts.worn);
        let shared = others.filter(|thing| matches!(thing.carrier, Carrier::Shared(_)) && there(thing) > 0);
        Some(Night {
            low: trip.low_tenth_c,
            offset: sleeper.offset,
            ground: ground_asked(trip.low_tenth_c, sleeper.offset),
            lines: own.map(|thing| (thing.line.id.clone(), Warmth::of(thing))).collect(),
            additions: HashMap::new(),
            beside: shared.map(|thing| (Warmth::of(thing), thing.provides(GROUND) * there(thing))).collect(),
        })
    }

    /// What a swap puts on is to the night what its own facts say; it hangs where all that it replaces does.
    pub fn add(&mut self, swap: &Swap, facts: &[Facts]) {
        let hung = |line: &LineId| self.lines.get(line).and_then(|warmth| warmth.hung);
        let mut replaced = swap.remove.iter().map(|removal| hung(&removal.line));
        let first = replaced.next().flatten().filter(|first| replaced.all(|other| other == Some(*first)));
        for (at, facts) in facts.iter().enumerate() {
            let warmth = Warmth { rating: facts.rating, adds: facts.warms.unwrap_or(0), hung: first };
            self.additions.insert((swap.id.clone(), at), warmth);
        }
    }
}

/// What is between the back and the ground, and how far it falls short of what the low asks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Floor {
    /// Pads, in tenths of R.
    Ground(i64),
    /// An underquilt, in tenths of a degree; `None` without a rated one.
    Back(Option<i64>),
}

/// How a night is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Felt {
    /// In tenths of a degree above the low; `None` without a rated bed.
    pub cold: Option<i64>,
    pub floor: Floor,
}

impl Felt {
    /// Whether it is no colder than another.
    pub fn is_no_worse(self, today: Felt) -> bool {
        self.shorter_than(today).is_empty()
    }

    /// What it is colder by than another: from above, from below.
    pub fn shorter_than(self, today: Felt) -> Vec<Meet> {
        let is_warm = today.cold.is_none_or(|today| self.cold.is_some_and(|cold| cold <= today));
        let is_lain = match (today.floor, self.floor) {
            (Floor::Ground(today), Floor::Ground(now)) => now <= today,
            (Floor::Back(today), Floor::Back(now)) => today.is_none_or(|today| now.is_some_and(|now| now <= today)),
            (_, Floor::Ground(now)) => now == 0,
            (_, Floor::Back(now)) => now == Some(0),
        };
        [(is_warm, Meet::Warmth), (is_lain, Meet::Ground)]
            .into_iter()
            .filter(|(is_kept, _)| !is_kept)
            .map(|(_, meet)| meet)
            .collect()
    }

    /// Whether it leaves nothing short of what is to be met; jobs aside.
    pub fn meets(self, meet: &Meet) -> bool {
        match meet {
            Meet::Warmth => self.cold == Some(0),
            Meet::Ground => matches!(self.floor, Floor::Ground(0) | Floor::Back(Some(0))),
            Meet::Job(_) => true,
        }
    }
}

/// A thing that is something to the night.
struct Thing {
    warmth: Warmth,
    /// What one piece does under the back.
    ground: i64,
    /// Pieces carried and worn today.
    pieces: i64,
    /// By swap, how many pieces it puts on, or takes off as fewer than none.
    change: BTreeMap<usize, i64>,
}

impl Thing {
    fn is_bed(&self) -> bool {
        self.warmth.hung != Some(Hung::Underquilt)
    }

    /// What it adds to a bed: hammocks and underquilts nothing.
    fn adds(&self) -> i64 {
        if self.warmth.hung.is_none() { self.warmth.adds } else { 0 }
    }

    fn comfort(&self, offset: i64) -> Option<i64> {
        Some(self.warmth.rating?.comfort_and_limit()?.0 + offset)
    }
}

/// All that is something to the night of a problem.
pub(super) struct Nights<'r> {
    night: &'r Night,
    things: Vec<Thing>,
    /// The things that each swap changes, and by how many pieces.
    of_swap: HashMap<usize, Vec<(usize, i64)>>,
    pub today: Felt,
}

impl<'r> Nights<'r> {
    /// `None` where no night is asked about.
    pub fn new(ready: &Ready<'r>) -> Option<Nights<'r>> {
        let problem = ready.problem();
        let night = problem.night.as_ref()?;
        let ground_of =
            |provides: &Jobs| provides.iter().find(|(job, _)| job.as_str() == GROUND).map_or(0, |(_, tenths)| *tenths);
        let mut things = Vec::new();
        let mut of_line: HashMap<&LineId, usize> = HashMap::new();
        for line in &problem.lines {
            let (warmth, ground) = (night.lines.get(&line.id).copied().unwrap_or_default(), ground_of(&line.provides));
            let pieces = i64::from(line.counts.carried) + i64::from(line.counts.worn);
            if pieces > 0 && (warmth != Warmth::default() || ground != 0) {
                of_line.insert(&line.id, things.len());
                things.push(Thing { warmth, ground, pieces, change: BTreeMap::new() });
            }
        }
        things.extend(night.beside.iter().map(|&(warmth, ground)| Thing {
            warmth,
            ground,
            pieces: 1,
            change: BTreeMap::new(),
        }));
        for (index, swap) in problem.swaps.iter().enumerate() {
            for removal in swap.remove.iter().filter(|removal| is_there(removal.from)) {
                if let Some(&at) = of_line.get(&removal.line) {
                    *things[at].change.entry(index).or_default() -= i64::from(removal.qty);
                }
            }
            things.extend(added(night, index, swap, ground_of));
        }
        let mut of_swap: HashMap<usize, Vec<(usize, i64)>> = HashMap::new();
        for (at, thing) in things.iter().enumerate() {
            thing.change.iter().for_each(|(swap, by)| of_swap.entry(*swap).or_default().push((at, *by)));
        }
        let today = Felt { cold: None, floor: Floor::Ground(0) };
        let mut nights = Nights { night, things, of_swap, today };
        nights.today = nights.after(&[]);
        Some(nights)
    }

    /// The night after a set of swaps.
    pub fn after(&self, set: &[usize]) -> Felt {
        let mut pieces: Vec<i64> = self.things.iter().map(|thing| thing.pieces).collect();
        let changes = set.iter().filter_map(|swap| self.of_swap.get(swap)).flatten();
        changes.for_each(|&(at, by)| pieces[at] += by);
        let there = || self.things.iter().zip(&pieces).filter(|(_, pieces)| **pieces > 0).map(|(thing, _)| thing);
        let Night { low, offset, ground, .. } = *self.night;
        let added: i64 = there().map(Thing::adds).sum();
        let beds = there().filter(|thing| thing.is_bed());
        let warmest = beds.filter_map(|bed| Some(bed.comfort(offset)? - (added - bed.adds()))).min();
        let has = |part| there().any(|thing| thing.warmth.hung == Some(part));
        let floor = if has(Hung::Hammock) && has(Hung::Underquilt) {
            let under = there().filter(|thing| thing.warmth.hung == Some(Hung::Underquilt));
            Floor::Back(under.filter_map(|thing| thing.comfort(offset)).min().map(|comfort| (comfort - low).max(0)))
        } else {
            let pads = self.things.iter().zip(&pieces).map(|(thing, pieces)| thing.ground * (*pieces).max(0));
            Floor::Ground((ground - pads.sum::<i64>()).max(0))
        };
        Felt { cold: warmest.map(|warmest| (warmest - low).max(0)), floor }
    }

    /// What a swap by itself leaves colder than today.
    pub fn colder_with(&self, swap: usize) -> Vec<Meet> {
        if !self.of_swap.contains_key(&swap) {
            return Vec::new();
        }
        self.after(&[swap]).shorter_than(self.today)
    }
}

/// Whether what is in a place is there at night.
fn is_there(place: Place) -> bool {
    matches!(place, Place::Carried | Place::Worn)
}

fn added<'s>(
    night: &'s Night,
    index: usize,
    swap: &'s Swap,
    ground_of: impl Fn(&Jobs) -> i64 + 's,
) -> impl Iterator<Item = Thing> + 's {
    swap.add.iter().enumerate().filter(|(_, addition)| is_there(addition.place)).filter_map(move |(at, addition)| {
        let warmth = night.additions.get(&(swap.id.clone(), at)).copied().unwrap_or_default();
        let ground = ground_of(&addition.provides);
        let change = BTreeMap::from([(index, i64::from(addition.qty))]);
        (warmth != Warmth::default() || ground != 0).then_some(Thing { warmth, ground, pieces: 0, change })
    })
}
