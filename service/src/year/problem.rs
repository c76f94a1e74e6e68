//! The lists of a year as one problem: things by what is owned, swaps by the things that they take off.

use crate::Caller;
use crate::plans::problem::core_swaps;
use crate::sheet::ListSnapshot;
use crate::swaps::FullSwap;
use crate::weights::weighed_kits;
use kevyt_core::gear::{Counting, Facts, Jobs, Makers, Weighing};
use kevyt_core::list::{Counts, Line, LineId as CoreLineId, Place, Thing};
use kevyt_core::plan::lists::{Acting, ListsProblem, OneList};
use kevyt_core::plan::{Night, Problem, Terms};
use kevyt_core::quantity::{Mass, Money, PriceRange};
use kevyt_core::swap::{Swap, SwapKind, SwapState};
use kevyt_core::together::lines_of;
use kevyt_core::trip::{Supplies, day_by_day, kept};
use kevyt_store::id::{GearId, LineId, SwapId};
use kevyt_store::kits::Kit;
use kevyt_store::lists::PackList;
use kevyt_store::swaps::SwapRecord;
use std::collections::{BTreeMap, HashMap};

/// Lists that are made into one problem.
pub(super) struct YearBuilder {
    caller: Caller,
    budget: Money,
    /// Things, each once whatever lists have it.
    lines: BTreeMap<CoreLineId, Line>,
    gas: HashMap<CoreLineId, Mass>,
    /// Kits whose own weighing counts, the newest first.
    kits: Vec<(Kit, Weighing)>,
    lists: Vec<OneList>,
    /// The swaps of all lists, each with the place of its own.
    swaps: Vec<(FullSwap, usize)>,
    /// What lines of lists are of.
    thing_of: HashMap<LineId, CoreLineId>,
    makers: Makers,
    hour_rate: Money,
    counting: Counting,
}

impl YearBuilder {
    pub fn new(caller: Caller, budget: Money, kits: Vec<(Kit, Weighing)>) -> YearBuilder {
        YearBuilder {
            caller,
            budget,
            lines: BTreeMap::new(),
            gas: HashMap::new(),
            kits,
            lists: Vec::new(),
            swaps: Vec::new(),
            thing_of: HashMap::new(),
            makers: Makers::default(),
            hour_rate: Money::ZERO,
            counting: Counting::Stated,
        }
    }

    /// Lays one list out beside those before.
    pub fn add_list(&mut self, list: &PackList, nights: u32, snapshot: ListSnapshot, swaps: Vec<FullSwap>) {
        let (me, mut things) = (snapshot.me, snapshot.things);
        for (of, thing) in snapshot.lines.iter().zip(&mut things) {
            let named = CoreLineId(of.line.value.gear.id.to_string());
            self.thing_of.insert(of.line.id, named.clone());
            thing.line.id = named;
        }
        let mine = things.iter().filter(|thing| thing.carrier.walker() == me);
        let heaviest = list.trip.as_ref().map(|trip| day_by_day(mine, trip, &Supplies::of(trip)).heaviest);
        let in_can = |thing: &Thing| Some((thing.line.id.clone(), thing.facts.contents?));
        self.gas.extend(things.iter().filter_map(in_can));
        let night =
            list.trip.as_ref().and_then(|trip| Night::of_trip(trip, self.caller.settings.sleeper(), &things, me));
        let (lines, require) = lines_of(things, me, kept(list.trip.as_ref(), &list.requires));
        let id = self.lists.len();
        self.lists.push(OneList {
            id: id.to_string(),
            nights,
            target: list.base_target(),
            // What stays home is no part of it, and may be sold.
            counts: lines.iter().map(|line| (line.id.clone(), Counts { left: 0, ..line.counts })).collect(),
            require,
            night,
            heaviest_start: heaviest,
        });
        for line in lines {
            self.lines.entry(line.id.clone()).or_insert(Line { counts: Counts::default(), ..line });
        }
        self.swaps.extend(swaps.into_iter().map(|swap| (swap, id)));
        self.makers = snapshot.makers;
        self.hour_rate = self.hour_rate.max(list.hour_rate);
        // The most careful figure that any of them counts by.
        self.counting = self.counting.max(list.terms.counting);
    }

    /// All of it as one problem, and beside its swaps what they are and which of other lists are the same. Where no list has a target, the fewest gram-nights are asked for.
    pub fn problem(mut self) -> (ListsProblem, Vec<(FullSwap, Vec<SwapId>)>) {
        let mut same = self.merge();
        let on_a_list =
            |gear: &GearId| Some(CoreLineId(gear.to_string())).filter(|thing| self.lines.contains_key(thing));
        let kits = weighed_kits(&self.kits, on_a_list);
        let (full, homes): (Vec<FullSwap>, Vec<usize>) = self.swaps.into_iter().unzip();
        let mut swaps = core_swaps(&full, &self.makers);
        for (swap, full) in swaps.iter_mut().zip(&full) {
            for (removal, (line, ..)) in swap.remove.iter_mut().zip(&full.swap.value.remove) {
                if let Some(thing) = self.thing_of.get(line) {
                    removal.line = thing.clone();
                }
            }
        }
        for night in self.lists.iter_mut().filter_map(|list| list.night.as_mut()) {
            for (swap, full) in swaps.iter().zip(&full) {
                let facts: Vec<Facts> = full.candidates.iter().map(|candidate| candidate.value.facts).collect();
                night.add(swap, &facts);
            }
        }
        if self.lists.iter().all(|list| list.target.is_none()) {
            self.lists.iter_mut().for_each(|list| list.target = Some(Mass::ZERO));
        }
        let acting = swaps.iter().zip(homes).map(|(swap, home)| acting(swap, home, &self.lists)).collect();
        let whole = Problem {
            currency: self.caller.preferences.currency,
            lines: self.lines.into_values().collect(),
            kits,
            swaps,
            require: Jobs::new(),
            heaviest_start: None,
            gas: self.gas,
            night: None,
            target: Mass::ZERO,
            budget: self.budget,
            hour_rate: self.hour_rate,
            terms: Terms::default(),
        };
        let full = full.into_iter().map(|full| {
            let same = same.remove(&full.swap.id).unwrap_or_default();
            (full, same)
        });
        (ListsProblem { whole: whole.counted(self.counting), lists: self.lists, acting }, full.collect())
    }

    /// Leaves one of several swaps that are the same on several lists, the same new things in the place of the same old ones: of each that is
    /// left, the others.
    fn merge(&mut self) -> HashMap<SwapId, Vec<SwapId>> {
        let mut first: HashMap<Sides, SwapId> = HashMap::new();
        let mut kept: HashMap<SwapId, SwapId> = HashMap::new();
        let mut others: HashMap<SwapId, Vec<SwapId>> = HashMap::new();
        for (full, _) in &self.swaps {
            let id = full.swap.id;
            let Some(sides) = Sides::of(full, &self.thing_of) else { continue };
            let is_kept = *first.entry(sides).or_insert(id);
            if is_kept != id {
                kept.insert(id, is_kept);
                others.entry(is_kept).or_default().push(id);
            }
        }
        self.swaps.retain(|(full, _)| !kept.contains_key(&full.swap.id));
        for (full, _) in &mut self.swaps {
            let SwapRecord { requires, excludes, .. } = &mut full.swap.value;
            for other in requires.iter_mut().chain(excludes) {
                *other = kept.get(other).copied().unwrap_or(*other);
            }
        }
        others
    }
}

/// What a swap does, whatever list it is of.
#[derive(PartialEq, Eq, Hash)]
struct Sides {
    kind: SwapKind,
    state: SwapState,
    off: Vec<(CoreLineId, u32)>,
    on: Vec<(String, Option<Mass>, Option<PriceRange>, u32)>,
}

impl Sides {
    /// `None` of what is of its own list alone.
    fn of(full: &FullSwap, thing_of: &HashMap<LineId, CoreLineId>) -> Option<Sides> {
        let record = &full.swap.value;
        if is_of_its_list(record.kind, record.remove.is_empty() || record.add.is_empty()) {
            return None;
        }
        let off = record.remove.iter().map(|&(line, qty, _)| Some((thing_of.get(&line)?.clone(), qty)));
        let mut off: Vec<_> = off.collect::<Option<_>>()?;
        off.sort();
        let on = record.add.iter().zip(&full.candidates).map(|(&(_, qty, _), candidate)| {
            let candidate = &candidate.value;
            let weight = candidate.weight.as_ref().map(|weight| weight.unit);
            (candidate.name.as_str().to_lowercase(), weight, candidate.price, qty)
        });
        Some(Sides { kind: record.kind, state: record.state, off, on: on.collect() })
    }
}

/// Whether a swap is of its own list alone: what is left out, put on, shared or borrowed for one trip is no purchase for another.
fn is_of_its_list(kind: SwapKind, has_one_side: bool) -> bool {
    has_one_side || matches!(kind, SwapKind::LeaveOut | SwapKind::Add | SwapKind::Share | SwapKind::Borrow)
}

/// Where a swap acts: on its own list as it says, on others where they have what it takes off.
fn acting(swap: &Swap, home: usize, lists: &[OneList]) -> Acting {
    let counts = |line: &CoreLineId| lists[home].counts.get(line).copied().unwrap_or_default();
    let from = swap.remove.iter().map(|removal| {
        let counts = counts(&removal.line);
        let first = Place::COUNTED.into_iter().find(|place| counts.at(*place) >= removal.qty);
        (first != Some(removal.from)).then_some(removal.from)
    });
    let first = swap.remove.first().map_or(Place::Carried, |removal| removal.from);
    let to = swap.add.iter().map(|addition| (addition.place != first).then_some(addition.place));
    let is_own = is_of_its_list(swap.kind, swap.remove.is_empty() || swap.add.is_empty());
    Acting { lists: is_own.then(|| vec![home]), from: from.collect(), to: to.collect() }
}
