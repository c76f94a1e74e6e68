//! Targets of another figure than base weight: the same problem, put so that its base weight is that figure. All else stays as it was: what is
//! allowed, what swaps cost, and what is to be met.

use super::{Problem, ProblemError, Ready, load};
use crate::gear::{Job, Jobs, Known, Tags};
use crate::limits;
use crate::list::{Counts, Line, LineId, Place};
use crate::quantity::{Mass, Money, PriceRange};
use crate::swap::{Addition, Removal, SwapId};
use serde::{Deserialize, Serialize};
use std::collections::{HashMap, HashSet};

/// What a target is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum TargetOf {
    /// Base weight.
    #[default]
    Base,
    /// What the pack weighs at its heaviest start, food, water and gas in it; without a trip, with what is used up as the list has it.
    Loaded,
    /// Pack, shelter and sleep insulation ([`crate::list::is_heavy`]).
    HeavyFew,
}

impl TargetOf {
    /// Whether it is base weight.
    pub fn is_base(&self) -> bool {
        *self == TargetOf::Base
    }
}

/// The heavy few of a problem: of its lines, and of what swaps put on, by position.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct HeavyFew {
    /// Of the list.
    pub lines: HashSet<LineId>,
    /// Of what swaps put on.
    pub additions: HashSet<(SwapId, usize)>,
}

impl Problem {
    /// The problem whose base weight is the heaviest start. What is used up weighs in the pack by a line of its own beside it, which does nothing
    /// else; food, water and gas are one line that nothing takes.
    ///
    /// # Errors
    /// As [`Ready::new`].
    pub fn loaded(&self) -> Result<Problem, ProblemError> {
        let ready = Ready::new(self)?;
        let (totals, taken) = (ready.totals(), self.taken());
        let has_trip = self.heaviest_start.is_some();
        let mut problem = self.clone();
        for line in &mut problem.lines {
            let is_supply = has_trip && load::is_supply(line);
            let gas = self.gas.get(&line.id).copied().filter(|_| has_trip).unwrap_or_default();
            line.weight = match line.weight {
                Some(_) if is_supply => Some(Known::exactly(Mass::ZERO)),
                None if is_supply && !taken.contains(&line.id) => Some(Known::exactly(Mass::ZERO)),
                weight => weight.map(|weight| without(weight, gas)),
            };
        }
        let lighter: HashMap<&LineId, Mass> =
            self.lines.iter().zip(&problem.lines).map(|(was, is)| (&was.id, unit(was) - unit(is))).collect();
        for kit in &mut problem.kits {
            let off = kit.parts.iter().map(|(line, qty)| lighter.get(line).copied().unwrap_or_default().times(*qty));
            kit.weighed = (kit.weighed - off.sum()).max(Mass::ZERO);
        }
        let mut used: HashMap<LineId, LineId> = HashMap::new();
        let mut beside = Vec::new();
        let removals = self.swaps.iter().flat_map(|swap| &swap.remove);
        let from_used: HashSet<&LineId> =
            removals.filter(|removal| removal.from == Place::UsedUp).map(|removal| &removal.line).collect();
        for line in problem.lines.iter().filter(|line| line.counts.used_up > 0 || from_used.contains(&line.id)) {
            let id = self.fresh(&format!("{} in the pack", line.id.0));
            let counts = Counts::in_place(Place::Carried, line.counts.used_up);
            beside.push(Line { counts, weight: line.weight, ..plain(id.clone(), &line.name) });
            used.insert(line.id.clone(), id);
        }
        for swap in &mut problem.swaps {
            let more: Vec<Removal> = swap
                .remove
                .iter()
                .filter(|removal| removal.from == Place::UsedUp)
                .filter_map(|removal| {
                    let line = used.get(&removal.line)?.clone();
                    Some(Removal { line, qty: removal.qty, from: Place::Carried })
                })
                .collect();
            swap.remove.extend(more);
            for addition in swap.add.iter_mut().filter(|addition| load::is_in_the_pack(addition.place)) {
                let gas = std::mem::take(&mut addition.gas);
                addition.weight =
                    addition.weight.map(|weight| without(weight, if has_trip { gas } else { Mass::ZERO }));
            }
            let more: Vec<Addition> = swap
                .add
                .iter()
                .filter(|addition| addition.place == Place::UsedUp)
                .map(|addition| {
                    // Its load is counted where it is used up.
                    let gas = addition.weight.map_or(Mass::ZERO, |weight| weight.unit);
                    Addition { weight: addition.weight, qty: addition.qty, gas, ..nothing(Place::Carried) }
                })
                .collect();
            swap.add.extend(more);
        }
        // The load of what is taken from them is counted where it is used up.
        problem.gas = beside.iter().map(|line| (line.id.clone(), unit(line))).collect();
        problem.lines.extend(beside);
        let start = self.heaviest_start.unwrap_or(totals.pack);
        let supplies = (start - Ready::new(&problem)?.base()).max(Mass::ZERO);
        let counts = Counts::in_place(Place::Carried, 1);
        let weight = Some(Known::exactly(supplies));
        problem.lines.push(Line { counts, weight, ..plain(self.fresh("supplies"), "food, water and gas") });
        Ok(problem)
    }

    /// The problem whose base weight is that of the heavy few. Other things weigh nothing in it; what the pack carries is asked as a job, so that
    /// it is still held against all that is in it. Kits count there as their parts do.
    ///
    /// # Errors
    /// As [`Ready::new`].
    pub fn heavy_few(&self, heavy: &HeavyFew) -> Result<Problem, ProblemError> {
        let ready = Ready::new(self)?;
        let taken = self.taken();
        let mut problem = self.clone();
        problem.kits.clear();
        for line in problem.lines.iter_mut().filter(|line| !heavy.lines.contains(&line.id)) {
            if line.weight.is_some() || !taken.contains(&line.id) {
                line.weight = Some(Known::exactly(Mass::ZERO));
            }
        }
        for swap in &mut problem.swaps {
            let id = swap.id.clone();
            let sides = swap.add.iter_mut().enumerate();
            sides.filter(|(at, _)| !heavy.additions.contains(&(id.clone(), *at))).for_each(|(_, addition)| {
                addition.weight = addition.weight.map(|_| Known::exactly(Mass::ZERO));
            });
        }
        let Some((spare, job)) = load::left(&ready).zip(Job::new(load::JOB)) else { return Ok(problem) };
        problem.heaviest_start = None;
        problem.gas.clear();
        problem.require.remove(&job);
        problem.lines.iter_mut().for_each(|line| remove_job(&job, &mut line.provides, &mut line.needs));
        let mut pack = Line { counts: Counts::in_place(Place::Carried, 1), ..plain(self.fresh("load"), "load") };
        set_job(&job, spare, &mut pack.provides, &mut pack.needs);
        problem.lines.push(Line { weight: Some(Known::exactly(Mass::ZERO)), ..pack });
        for (swap, was) in problem.swaps.iter_mut().zip(&self.swaps) {
            swap.add.iter_mut().for_each(|addition| remove_job(&job, &mut addition.provides, &mut addition.needs));
            let change = load::change(&ready, was);
            if change != 0 {
                let mut all = Addition { weight: Some(Known::exactly(Mass::ZERO)), ..nothing(Place::Carried) };
                set_job(&job, change, &mut all.provides, &mut all.needs);
                swap.add.push(all);
            }
        }
        Ok(problem)
    }

    /// Lines that some swap takes from.
    fn taken(&self) -> HashSet<LineId> {
        self.swaps.iter().flat_map(|swap| &swap.remove).map(|removal| removal.line.clone()).collect()
    }

    /// An id that no line has.
    fn fresh(&self, like: &str) -> LineId {
        let mut id = LineId(like.to_owned());
        while self.lines.iter().any(|line| line.id == id) {
            id.0.push('\'');
        }
        id
    }
}

fn unit(line: &Line) -> Mass {
    line.unit().unwrap_or_default()
}

/// A weight without the gas in it, never below nothing.
fn without(weight: Known, gas: Mass) -> Known {
    let less = |mass: Mass| (mass - gas).max(Mass::ZERO);
    Known { unit: less(weight.unit), stated: less(weight.stated), expected: less(weight.expected), ..weight }
}

/// A line that does nothing.
fn plain(id: LineId, name: &str) -> Line {
    Line {
        id,
        name: name.to_owned(),
        counts: Counts::default(),
        weight: None,
        tags: Tags::default(),
        provides: Jobs::new(),
        needs: Jobs::new(),
    }
}

/// Something that costs nothing and does nothing.
fn nothing(place: Place) -> Addition {
    Addition {
        name: String::new(),
        qty: 1,
        weight: None,
        price: Some(PriceRange::exact(Money::ZERO)),
        place,
        provides: Jobs::new(),
        needs: Jobs::new(),
        gas: Mass::ZERO,
    }
}

fn remove_job(job: &Job, provides: &mut Jobs, needs: &mut Jobs) {
    provides.remove(job);
    needs.remove(job);
}

/// So much of a job is done, or needed where it is below 0.
fn set_job(job: &Job, amount: i64, provides: &mut Jobs, needs: &mut Jobs) {
    let side = if amount > 0 { provides } else { needs };
    side.insert(job.clone(), amount.abs().min(limits::JOB_AMOUNT));
}
