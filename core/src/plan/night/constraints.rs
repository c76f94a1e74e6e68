//! The conditions of a night as rows.

use super::{Floor, Hung, Night, Nights, Thing};
use crate::plan::Meet;
use kevyt_solver::Constraint;
use std::collections::BTreeMap;

impl Nights<'_> {
    /// The conditions as rows; choices that follow are numbered from `first` on. How many there are, and the rows.
    pub fn rows(&self, first: usize, meet: &[Meet]) -> (usize, Vec<Constraint>) {
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
    rows: Vec<Constraint>,
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
        self.rows.push(Constraint::new(slack, sums));
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
