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

use super::rows::{Row, balance, row};
use super::{Ready, load};
use crate::caution::{HAMMOCK, Sleeper, UNDERQUILT, ground_asked};
use crate::gear::{Facts, Job, Jobs, Rating};
use crate::list::{Carrier, LineId, Place, Thing as ListThing};
use crate::swap::{Swap, SwapId};
use crate::trip::Trip;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet, HashMap};

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

/// What a plan must leave nothing short of.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub enum Meet {
    /// The bed is as warm as the low asks.
    Warmth,
    /// So is what is under the back.
    Ground,
    /// A job.
    Job(Job),
}

impl Meet {
    /// By its key: `warmth`, `ground`, or that of a job.
    pub fn new(key: &str) -> Option<Meet> {
        match key {
            "warmth" => Some(Meet::Warmth),
            "ground" => Some(Meet::Ground),
            job => Job::new(job).map(Meet::Job),
        }
    }

    /// As the problem file has it.
    pub fn key(&self) -> &str {
        match self {
            Meet::Warmth => "warmth",
            Meet::Ground => "ground",
            Meet::Job(job) => job.as_str(),
        }
    }
}

impl From<Meet> for String {
    fn from(meet: Meet) -> String {
        meet.key().to_owned()
    }
}

impl TryFrom<String> for Meet {
    type Error = String;

    fn try_from(key: String) -> Result<Meet, String> {
        Meet::new(&key).ok_or_else(|| format!("\"{key}\" is not warmth, ground or the key of a job"))
    }
}

/// What is short on the list as it stands, and by how much: warmth in tenths of a degree, `None` without a rated bed; the ground in tenths of R,
/// or of a degree under a hammock; jobs in their unit.
pub fn shorts(ready: &Ready<'_>) -> Vec<(Meet, Option<i64>)> {
    let today = Nights::new(ready).map(|nights| nights.today);
    let warmth = today.map(|today| (Meet::Warmth, today.cold));
    let ground = today.map(|today| match today.floor {
        Floor::Ground(short) => (Meet::Ground, Some(short)),
        Floor::Back(short) => (Meet::Ground, short),
    });
    let problem = ready.problem();
    let asked = problem.lines.iter().flat_map(|line| line.needs.keys()).chain(problem.require.keys());
    let mut jobs: BTreeSet<&Job> = asked.collect();
    // Of a pack it is asked that it carries the heaviest start.
    let over = load::over(ready);
    if over.is_some() {
        jobs.retain(|job| job.as_str() != load::JOB);
    }
    let over = over.and_then(|grams| Some((Meet::Job(Job::new(load::JOB)?), Some(grams))));
    let jobs = jobs.into_iter().map(|job| (Meet::Job(job.clone()), Some(-balance(ready, job)))).chain(over);
    warmth.into_iter().chain(ground).chain(jobs).filter(|(_, short)| short.is_none_or(|short| short > 0)).collect()
}

/// What is between the back and the ground, and how far it falls short of what the low asks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Floor {
    /// Pads, in tenths of R.
    Ground(i64),
    /// An underquilt, in tenths of a degree; `None` without a rated one.
    Back(Option<i64>),
}

/// How a night is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Felt {
    /// In tenths of a degree above the low; `None` without a rated bed.
    cold: Option<i64>,
    floor: Floor,
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

    /// The conditions as rows; choices that follow are numbered from `first` on. How many there are, and the rows.
    pub fn rows(&self, first: usize, meet: &[Meet]) -> (usize, Vec<Row>) {
        let mut rows = Rows { nights: self, next: first, rows: Vec::new() };
        let is_met = |what: &Meet| meet.contains(what);
        rows.keep_warm(if is_met(&Meet::Warmth) { Some(0) } else { self.today.cold });
        let (ground, back) = match self.today.floor {
            _ if is_met(&Meet::Ground) => (0, Some(0)),
            Floor::Ground(today) => (today, Some(0)),
            Floor::Back(today) => (0, today),
        };
        rows.keep_floor(ground, back);
        (rows.next - first, rows.rows)
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

/// Whether a thing is there after a set: a sum of choices.
#[derive(Debug, Clone, Default)]
struct There {
    sure: i64,
    terms: Vec<(usize, i64)>,
}

impl There {
    fn times(&self, by: i64) -> impl Iterator<Item = (usize, i64)> {
        self.terms.iter().map(move |(variable, c)| (*variable, c * by))
    }
}

struct Rows<'n, 'r> {
    nights: &'n Nights<'r>,
    next: usize,
    rows: Vec<Row>,
}

impl Rows<'_, '_> {
    /// One more choice.
    fn choice(&mut self) -> usize {
        self.next += 1;
        self.next - 1
    }

    /// slack + Σ terms ≥ 0, terms of one variable added up.
    fn push(&mut self, slack: i64, terms: impl IntoIterator<Item = (usize, i64)>) {
        let mut sums: BTreeMap<usize, i64> = BTreeMap::new();
        terms.into_iter().for_each(|(variable, c)| *sums.entry(variable).or_default() += c);
        self.rows.push(row(slack, sums));
    }

    /// Whether a thing is there, no more than it is: of several pieces a choice, which the search takes where it helps.
    fn there(&mut self, at: usize) -> There {
        let thing = &self.nights.things[at];
        if thing.pieces == 0 {
            // Put on by one swap, as many pieces as that has.
            return There { sure: 0, terms: thing.change.keys().map(|swap| (*swap, 1)).collect() };
        }
        let taken: i64 = thing.change.values().map(|by| -by).sum();
        if taken < thing.pieces {
            return There { sure: 1, terms: Vec::new() };
        }
        let left: Vec<(usize, i64)> = thing.change.iter().map(|(swap, by)| (*swap, *by)).collect();
        if thing.pieces == 1 {
            return There { sure: 1, terms: left };
        }
        let pieces = thing.pieces;
        let there = self.choice();
        self.push(pieces, left.into_iter().chain([(there, -1)]));
        There { sure: 0, terms: vec![(there, 1)] }
    }

    /// A choice that is taken where one of the things is there.
    fn any_there(&mut self, things: &[usize]) -> There {
        let any = self.choice();
        for &at in things {
            let thing = &self.nights.things[at];
            if thing.pieces == 0 {
                let put: Vec<(usize, i64)> = thing.change.keys().map(|swap| (*swap, -1)).collect();
                self.push(0, put.into_iter().chain([(any, 1)]));
            } else {
                let left: Vec<(usize, i64)> = thing.change.iter().map(|(swap, by)| (*swap, -by)).collect();
                let pieces = thing.pieces;
                self.push(-pieces, left.into_iter().chain([(any, pieces)]));
            }
        }
        There { sure: 0, terms: vec![(any, 1)] }
    }

    /// The bed stays at most so far above the low; anything goes if there is none today.
    fn keep_warm(&mut self, most: Option<i64>) {
        let Some(most) = most else { return };
        let Night { low, offset, .. } = *self.nights.night;
        let things = &self.nights.things;
        let all: i64 = things.iter().map(Thing::adds).sum();
        // What each bed lacks of warmth that others have to add; those that can't be warm enough are none.
        let beds = things.iter().enumerate().filter(|(_, thing)| thing.is_bed());
        let beds = beds.filter_map(|(at, bed)| Some((at, bed.comfort(offset)? - low - most, bed.adds())));
        let beds: Vec<(usize, i64, i64)> = beds.filter(|(_, lacks, own)| *lacks <= all - own).collect();
        let adding: Vec<usize> = (0..things.len()).filter(|&at| things[at].adds() != 0).collect();
        if beds.iter().all(|(_, lacks, _)| *lacks <= 0) {
            // Each does by itself.
            let there: Vec<There> = beds.iter().map(|(at, ..)| self.there(*at)).collect();
            let sure: i64 = there.iter().map(|there| there.sure).sum();
            self.push(sure - 1, there.iter().flat_map(|there| there.times(1)).collect::<Vec<_>>());
            return;
        }
        let mut sure = 0;
        let (mut warm, mut one) = (Vec::new(), Vec::new());
        for at in adding {
            let adds = self.nights.things[at].adds();
            let there = self.there(at);
            sure += there.sure * adds;
            warm.extend(there.times(adds));
        }
        for (at, lacks, own) in beds {
            let there = self.there(at);
            let slept_in = self.choice();
            self.push(there.sure, there.times(1).chain([(slept_in, -1)]).collect::<Vec<_>>());
            warm.push((slept_in, -(lacks + own)));
            one.push(slept_in);
        }
        self.push(sure, warm);
        self.push(1, one.iter().map(|&bed| (bed, -1)).collect::<Vec<_>>());
        self.push(-1, one.iter().map(|&bed| (bed, 1)).collect::<Vec<_>>());
    }

    /// The floor: pads that lack at most `ground`, or an underquilt that lacks at most `back`, any if that is `None`.
    fn keep_floor(&mut self, ground: i64, back: Option<i64>) {
        let Night { low, offset, ground: asked, .. } = *self.nights.night;
        let things = &self.nights.things;
        let of = |part| (0..things.len()).filter(|&at| things[at].warmth.hung == Some(part)).collect::<Vec<_>>();
        let (hammocks, under) = (of(Hung::Hammock), of(Hung::Underquilt));
        let needed = asked - ground;
        let (mut sure, mut pads) = (-needed, Vec::new());
        for thing in things.iter().filter(|thing| thing.ground != 0) {
            sure += thing.ground * thing.pieces;
            pads.extend(thing.change.iter().map(|(swap, by)| (*swap, thing.ground * by)));
        }
        if hammocks.is_empty() || under.is_empty() {
            return self.push(sure, pads);
        }
        let is_warm = |at: &usize| {
            back.is_none_or(|back| things[*at].comfort(offset).is_some_and(|comfort| comfort - low <= back))
        };
        let warm: Vec<usize> = under.iter().copied().filter(is_warm).collect();
        let hangs = self.choice();
        if needed > 0 {
            self.push(sure, pads.into_iter().chain([(hangs, needed)]).collect::<Vec<_>>());
        }
        for parts in [&hammocks, &warm] {
            let there: Vec<There> = parts.iter().map(|at| self.there(*at)).collect();
            let sure: i64 = there.iter().map(|there| there.sure).sum();
            self.push(sure, there.iter().flat_map(|there| there.times(1)).chain([(hangs, -1)]).collect::<Vec<_>>());
        }
        let (a_hammock, an_underquilt) = (self.any_there(&hammocks), self.any_there(&under));
        let both = a_hammock.times(-1).chain(an_underquilt.times(-1)).chain([(hangs, 1)]);
        self.push(1, both.collect::<Vec<_>>());
    }
}
