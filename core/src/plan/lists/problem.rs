//! Several lists of the same things, and swaps that act on each of them that has what they take.

use super::super::problem_check::{at_most, error, within};
use super::super::{Meet, Night, Problem, ProblemError, Ready};
use crate::gear::Jobs;
use crate::limits;
use crate::list::{Counts, Line, LineId, Place};
use crate::quantity::{Mass, Money};
use crate::swap::{Addition, Removal, Swap, SwapState};
use std::collections::{HashMap, HashSet};

/// One of the lists.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OneList {
    /// What it is known by.
    pub id: String,
    /// Nights for which it is carried.
    pub nights: u32,
    /// The base weight to reach, if one is asked.
    pub target: Option<Mass>,
    /// What of each line is on it, and where.
    pub counts: HashMap<LineId, Counts>,
    /// What its trip requires.
    pub require: Jobs,
    /// Its night; none if none is asked about.
    pub night: Option<Night>,
    /// What its pack weighs at its heaviest, if that is asked about.
    pub heaviest_start: Option<Mass>,
}

/// Where a swap acts.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Acting {
    /// The lists on which it may, by their places; all that have what it takes if none are named.
    pub lists: Option<Vec<usize>>,
    /// Where each removal takes from; the first of carried, worn and used up in which a list has as many where nobody said.
    pub from: Vec<Option<Place>>,
    /// Where each addition goes; where the first removal was taken from, or else carried, where nobody said.
    pub to: Vec<Option<Place>>,
}

/// Several lists of the same things and one budget.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ListsProblem {
    /// Things without counts, swaps, and the question; no target, requirement or night of its own.
    pub whole: Problem,
    /// The lists.
    pub lists: Vec<OneList>,
    /// Beside each swap where it acts.
    pub acting: Vec<Acting>,
}

/// The same as a problem for each list, of the same swaps in the same order: where one doesn't act it changes nothing.
#[derive(Debug, Clone)]
pub struct ExpandedLists {
    /// What all lists have in common: swaps with what they cost, those that act nowhere ruled out.
    whole: Problem,
    lists: Vec<ExpandedList>,
    /// What is to be met on each of them, as far as it is asked there.
    meet: Vec<Meet>,
    /// Pinned swaps that act nowhere.
    pins_nowhere: bool,
}

/// One list of them.
#[derive(Debug, Clone)]
struct ExpandedList {
    id: String,
    nights: i64,
    target: Option<Mass>,
    problem: Problem,
    acts: Vec<bool>,
}

/// Several lists, checked and ready to be planned.
#[derive(Debug)]
pub struct ReadyLists<'a> {
    pub(super) expanded: &'a ExpandedLists,
    pub(super) whole: Ready<'a>,
    pub(super) lists: Vec<ReadyList<'a>>,
}

/// One list of them.
#[derive(Debug)]
pub struct ReadyList<'a> {
    /// What it is known by.
    pub id: &'a str,
    /// Nights for which it is carried.
    pub nights: i64,
    /// The base weight to reach, if one is asked.
    pub target: Option<Mass>,
    pub(super) ready: Ready<'a>,
    pub(super) acts: &'a [bool],
}

impl ListsProblem {
    /// Expands the lists, into a problem each.
    ///
    /// # Errors
    /// [`ProblemError`] names what a list says that can't be used.
    pub fn expand(&self) -> Result<ExpandedLists, ProblemError> {
        at_most("lists", self.lists.len(), limits::YEAR_LISTS)?;
        let sides = self.whole.swaps.iter().map(|swap| 1 + swap.remove.len() + swap.add.len());
        let entries = (self.whole.lines.len() + sides.sum::<usize>()).saturating_mul(self.lists.len());
        if entries > limits::YEAR_ENTRIES {
            let expected = format!("at most {} lines and entries of swaps over all lists", limits::YEAR_ENTRIES);
            return Err(error("lists".to_owned(), &expected, &entries.to_string()));
        }
        let asks_night = |meet: &Meet| matches!(meet, Meet::Warmth | Meet::Ground);
        let mut whole = self.whole.clone();
        // Warmth and ground are asked of each list that has a night.
        whole.terms.meet.retain(|meet| !asks_night(meet));
        // What is wrong with things and swaps is told as it stands in them.
        Ready::new(&whole)?;
        let lines: HashSet<&LineId> = self.whole.lines.iter().map(|line| &line.id).collect();
        let mut ids = HashSet::new();
        for (at, list) in self.lists.iter().enumerate() {
            if !ids.insert(&list.id) {
                return Err(error(format!("lists[{at}].id"), "an id that no other list has", &list.id));
            }
            within(format_args!("lists[{at}].nights"), [i64::from(list.nights)], limits::TRIP_NIGHTS.into())?;
            within(format_args!("lists[{at}].target_mg"), list.target.map(Mass::mg), i64::MAX)?;
            if let Some(line) = list.counts.keys().find(|line| !lines.contains(*line)) {
                return Err(error(format!("lists[{at}].counts"), "ids of lines", &line.0));
            }
        }
        let has_night = self.lists.iter().any(|list| list.night.is_some());
        if let Some(at) = self.whole.terms.meet.iter().position(asks_night).filter(|_| !has_night) {
            let expected = "names of jobs: without sleep there is no night to be warm in";
            return Err(error(format!("meet[{at}]"), expected, self.whole.terms.meet[at].key()));
        }
        let lists: Vec<ExpandedList> = self.lists.iter().map(|list| self.expand_one(list)).collect();
        let acts_on = |swap: usize, list: &ExpandedList| list.acts[swap];
        let mut pins_nowhere = false;
        for (at, swap) in whole.swaps.iter_mut().enumerate() {
            if !lists.iter().any(|list| acts_on(at, list)) {
                pins_nowhere |= swap.state == SwapState::Pinned;
                swap.state = SwapState::RuledOut;
            }
            // What another list still carries is not sold.
            let is_kept = |removal: &Removal| {
                let has = |(list, expanded): (&OneList, &ExpandedList)| {
                    let counts = list.counts.get(&removal.line).copied().unwrap_or_default();
                    counts.pieces() > 0 && !acts_on(at, expanded)
                };
                self.lists.iter().zip(&lists).any(has)
            };
            if swap.remove.iter().any(is_kept) {
                swap.resale = Money::ZERO;
            }
        }
        Ok(ExpandedLists { whole, lists, meet: self.whole.terms.meet.clone(), pins_nowhere })
    }

    /// A list with the swaps that act on it, and the others with nothing to do.
    fn expand_one(&self, list: &OneList) -> ExpandedList {
        let at = self.lists.iter().position(|other| std::ptr::eq(other, list)).unwrap_or_default();
        let lines = self
            .whole
            .lines
            .iter()
            .map(|line| Line { counts: list.counts.get(&line.id).copied().unwrap_or_default(), ..line.clone() });
        let sides: Vec<Option<(Vec<Removal>, Vec<Addition>)>> =
            self.whole.swaps.iter().zip(&self.acting).map(|(swap, acting)| sides_on(swap, acting, at, list)).collect();
        let acts = sides.iter().map(Option::is_some).collect();
        let swaps = self.whole.swaps.iter().zip(sides).map(|(swap, sides)| {
            let (remove, add) = sides.unwrap_or_default();
            Swap { remove, add, requires: Vec::new(), excludes: Vec::new(), ..swap.clone() }
        });
        let mut problem = Problem {
            lines: lines.collect(),
            swaps: swaps.collect(),
            require: list.require.clone(),
            night: list.night.clone(),
            heaviest_start: list.heaviest_start,
            target: list.target.unwrap_or_default(),
            ..self.whole.clone()
        };
        meet_on(&mut problem, &self.whole.terms.meet);
        ExpandedList { id: list.id.clone(), nights: list.nights.into(), target: list.target, problem, acts }
    }
}

/// What a swap takes off a list and puts on it; `None` where it does not act.
fn sides_on(swap: &Swap, acting: &Acting, at: usize, list: &OneList) -> Option<(Vec<Removal>, Vec<Addition>)> {
    let may = match &acting.lists {
        Some(named) => named.contains(&at),
        None => !swap.remove.is_empty(),
    };
    if !may {
        return None;
    }
    let there = |line: &LineId, place: Place| list.counts.get(line).map_or(0, |counts| counts.at(place));
    let mut taken: HashMap<(&LineId, Place), u32> = HashMap::new();
    let mut remove = Vec::with_capacity(swap.remove.len());
    for (removal, said) in swap.remove.iter().zip(&acting.from) {
        let has = |place: &Place| there(&removal.line, *place) >= removal.qty;
        let from = said.or_else(|| Place::COUNTED.into_iter().find(has))?;
        let all = taken.entry((&removal.line, from)).or_default();
        *all = all.saturating_add(removal.qty);
        if *all > there(&removal.line, from) {
            return None;
        }
        remove.push(Removal { from, ..removal.clone() });
    }
    let home = remove.first().map_or(Place::Carried, |removal: &Removal| removal.from);
    let place =
        |(addition, said): (&Addition, &Option<Place>)| Addition { place: said.unwrap_or(home), ..addition.clone() };
    Some((remove, swap.add.iter().zip(&acting.to).map(place).collect()))
}

/// Asks of a list what of `meet` can be asked there.
fn meet_on(problem: &mut Problem, meet: &[Meet]) {
    let has_night = problem.night.is_some();
    problem.terms.meet = meet.iter().filter(|meet| has_night || matches!(meet, Meet::Job(_))).cloned().collect();
}

impl ExpandedLists {
    /// Whether something is pinned that acts nowhere.
    pub(super) fn pins_nowhere(&self) -> bool {
        self.pins_nowhere
    }

    /// What is to be met.
    pub(super) fn meet(&self) -> &[Meet] {
        &self.meet
    }

    /// The same with something else to be met.
    pub(super) fn meeting(&self, meet: &[Meet]) -> ExpandedLists {
        let mut other = self.clone();
        other.meet = meet.to_vec();
        other.whole.terms.meet = meet.iter().filter(|meet| matches!(meet, Meet::Job(_))).cloned().collect();
        other.lists.iter_mut().for_each(|list| meet_on(&mut list.problem, meet));
        other
    }

    /// Checks all of it.
    ///
    /// # Errors
    /// [`ProblemError`] names the first value that can't be used.
    pub fn ready(&self) -> Result<ReadyLists<'_>, ProblemError> {
        let lists = self.lists.iter().enumerate().map(|(at, list)| {
            let (id, nights, target) = (list.id.as_str(), list.nights, list.target);
            let of_list = |error: ProblemError| ProblemError { path: format!("lists[{at}].{}", error.path), ..error };
            Ok(ReadyList { id, nights, target, ready: Ready::new(&list.problem).map_err(of_list)?, acts: &list.acts })
        });
        let lists: Vec<ReadyList<'_>> = lists.collect::<Result<_, ProblemError>>()?;
        let weight = |list: &ReadyList<'_>| {
            let savings = list.ready.plain_savings().iter().map(|saving| i128::from(saving.mg()).abs()).sum::<i128>();
            (savings + i128::from(list.ready.base().mg())) * i128::from(list.nights)
        };
        let heaviest: i128 = lists.iter().map(weight).sum();
        if heaviest > i128::from(limits::GRAM_NIGHTS_MG) {
            let expected = format!("masses that come to at most {} mg times nights", limits::GRAM_NIGHTS_MG);
            return Err(error("lists".to_owned(), &expected, &heaviest.to_string()));
        }
        Ok(ReadyLists { expanded: self, whole: Ready::new(&self.whole)?, lists })
    }
}
