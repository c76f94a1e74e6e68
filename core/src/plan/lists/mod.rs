//! One budget for several lists: the least gram-nights for the money, and the cheapest set of swaps by which every list reaches its target.
//!
//! A list's conditions are those of a problem of its own ([`super::model`]), over the same choices: the swaps are all lists' together, what follows for
//! kits and nights is each list's own. What a set weighs is Σ nights × base weight. That a list is at or under its target is one more row:
//! target − base weight − Σ change ≥ 0.

mod order;
mod problem;

pub use order::ListsOrder;
pub use problem::{Acting, ExpandedLists, ListsProblem, OneList, ReadyList, ReadyLists};

use super::check::{Broken, Checker, Verified};
use super::model::{OfList, Reduced, assemble, constraints_between_swaps, of_list};
use super::outcome::Outcome;
use super::search::pareto_frontier;
use super::subject::{Subject, check_frontier};
use super::{Fault, Frontier, Meet};
use crate::quantity::{Currency, Mass, Money};
use crate::swap::{Swap, SwapState};
use kevyt_solver::{Constraint, Least, Limits, NO_LIMIT, Objective, Solver, Work, bits, first};

/// The answer for several lists.
#[derive(Debug, Clone)]
pub struct ListsAnswer {
    /// Every allowed set that no other beats in money and gram-nights, cheapest first; the base of a point is its gram-nights.
    pub frontier: Frontier,
    /// The plan.
    pub plan: ListsPlan,
}

/// The plan for several lists.
#[derive(Debug, Clone)]
pub struct ListsPlan {
    /// How it comes out.
    pub outcome: Outcome,
    /// The swaps to make, in the order of their ids; `None` if there is no plan.
    pub swaps: Option<Vec<usize>>,
    /// What they cost.
    pub net: Money,
    /// Σ nights × base weight after them.
    pub gram_nights: Mass,
    /// The base weight of each list after them.
    pub bases: Vec<Mass>,
    /// Whether it is proved to be the best.
    pub is_proved: bool,
}

impl ReadyLists<'_> {
    /// What could be changed.
    pub fn swaps(&self) -> &[Swap] {
        &self.whole.problem().swaps
    }

    /// The currency of all money in it.
    pub fn currency(&self) -> Currency {
        self.whole.problem().currency
    }

    /// The lists.
    pub fn lists(&self) -> &[ReadyList<'_>] {
        &self.lists
    }

    /// What a swap costs, and what it saves over the lists on which it acts, in mass times nights; `None` while a figure is missing.
    pub fn worth(&self, swap: usize) -> Option<(Mass, Money)> {
        let (_, net) = self.whole.worths()[swap].complete()?;
        let saved = self.lists.iter().map(|list| Some(list.ready.worths()[swap].saving?.mg() * list.nights));
        Some((Mass::from_mg(saved.sum::<Option<i64>>()?), net))
    }

    /// Whether a swap acts on a list.
    pub fn acts(&self, swap: usize, list: usize) -> bool {
        self.lists[list].acts[swap]
    }

    fn checkers(&self) -> (Checker<'_, '_>, Vec<(i64, Checker<'_, '_>)>) {
        let of_lists = self.lists.iter().map(|list| (list.nights, Checker::new(&list.ready)));
        (Checker::new(&self.whole), of_lists.collect())
    }

    /// The base weights of the lists after a set.
    pub fn bases_after(&self, set: &[usize]) -> Vec<Mass> {
        self.lists.iter().map(|list| Checker::new(&list.ready).base_after(set)).collect()
    }
}

impl Subject for ReadyLists<'_> {
    fn swaps(&self) -> &[Swap] {
        ReadyLists::swaps(self)
    }

    fn base(&self) -> Mass {
        Mass::from_mg(self.lists.iter().map(|list| list.ready.base().mg() * list.nights).sum())
    }

    fn checker(&self) -> impl Fn(&[usize]) -> Result<Verified, Broken> {
        let (whole, lists) = self.checkers();
        move |set| {
            let net = whole.agreed(set)?;
            let mut base = 0;
            for (nights, list) in &lists {
                base += list.carried_after(set)?.mg() * nights;
            }
            Ok(Verified { net, base: Mass::from_mg(base) })
        }
    }
}

/// Solves a problem of several lists. Once `should_stop` says yes, the best found so far is returned, not proved.
///
/// # Errors
/// [`Fault`] if an answer fails its check against the problem as it was given.
pub fn solve_lists(
    ready: &ReadyLists<'_>,
    limits: &Limits,
    should_stop: &dyn Fn() -> bool,
) -> Result<ListsAnswer, Fault> {
    let mut work = Work::new(limits, should_stop);
    let to_targets = cheapest(ready, true, &mut work);
    let budget = ready.whole.problem().budget;
    let target = to_targets.best.as_ref().map_or(Mass::from_mg(-1), |found| found.gram_nights);
    let frontier = match reduced(ready, false, &mut work) {
        Some(reduced) => pareto_frontier(ready, &reduced, (target, budget), || only_pinned(ready, &reduced), &mut work),
        None => Frontier::none(),
    };
    check_frontier(ready, &frontier).map_err(Fault)?;
    let checker = ready.checker();
    if let Some(found) = &to_targets.best {
        let figures = checker(&found.swaps).map_err(Fault)?;
        if (figures.net, figures.base) != (found.net, found.gram_nights) || !ready.reach_targets(&found.swaps) {
            return Err(Fault(Broken::Figures));
        }
    }
    let is_pinned = ready.swaps().iter().any(|swap| swap.state == SwapState::Pinned) || ready.expanded.pins_nowhere();
    let is_met = !is_pinned && ready.reach_targets(&[]) && checker(&[]).is_ok();
    let plan = if is_met {
        ready.plan(Outcome::AlreadyMet, Some((Vec::new(), Money::ZERO, Subject::base(ready))), true)
    } else {
        read(ready, &frontier, to_targets, &mut work)
    };
    Ok(ListsAnswer { frontier, plan })
}

/// What is pinned alone, if that is allowed: a set to begin with.
fn only_pinned(ready: &ReadyLists<'_>, reduced: &Reduced) -> Option<kevyt_solver::Best> {
    let figures = ready.checker()(&reduced.pinned).ok()?;
    Some(kevyt_solver::Best {
        cost: figures.net.minor() - reduced.pinned_cost,
        mass: (figures.base - Subject::base(ready)).mg() - reduced.pinned_mass,
        made: 0,
        set: vec![0; reduced.model.words()],
    })
}

/// A set, what it costs, and what it weighs over all nights.
type Found = (Vec<usize>, Money, Mass);

/// A cheapest set, as far as it is known.
struct Cheapest {
    best: Option<Best>,
    /// Whether it is proved that there is none cheaper.
    is_proved: bool,
}

struct Best {
    net: Money,
    gram_nights: Mass,
    swaps: Vec<usize>,
}

/// The cheapest allowed set, then the one with the fewest gram-nights; where `targets` are minded, of those by which every list reaches its own.
fn cheapest(ready: &ReadyLists<'_>, targets: bool, work: &mut Work<'_>) -> Cheapest {
    let Some(Reduced { model, pinned, pinned_cost, pinned_mass }) = reduced(ready, targets, work) else {
        return Cheapest { best: None, is_proved: true };
    };
    let solver = Solver::new(&model, model.words());
    let asked = first(&solver, Objective { least: Least::Cost, limit: NO_LIMIT }, None, &mut work.again());
    let swap_of_bit: Vec<usize> = model.swaps.iter().map_while(|variable| variable.swap).collect();
    let is_proved = asked.bound.is_none();
    let best = asked.best.and_then(|best| {
        let made = bits(&best.set).map(|bit| swap_of_bit[bit]).chain(pinned.iter().copied());
        let mut swaps: Vec<usize> = made.collect();
        swaps.sort_by(|&a, &b| ready.swaps()[a].id.cmp(&ready.swaps()[b].id));
        let net = Money::from_minor(best.cost + pinned_cost);
        let gram_nights = Subject::base(ready) + Mass::from_mg(best.mass + pinned_mass);
        if is_proved {
            return Some(Best { net, gram_nights, swaps });
        }
        // What was found by the way may pay for a parcel that nothing comes in: its figures are those of the set.
        let figures = ready.checker()(&swaps).ok()?;
        Some(Best { net: figures.net, gram_nights: figures.base, swaps })
    });
    Cheapest { best, is_proved }
}

/// The conditions of all lists in one model, with their targets or without. `None` if no set is allowed.
fn reduced(ready: &ReadyLists<'_>, targets: bool, work: &mut Work<'_>) -> Option<Reduced> {
    if ready.expanded.pins_nowhere() {
        return None;
    }
    let many = ready.swaps().len();
    let mut savings = vec![0; many];
    let mut rows = constraints_between_swaps(&ready.whole);
    let (mut masses, mut waiting_all) = (Vec::new(), 0);
    for list in &ready.lists {
        let OfList { masses: follow, rows: own, waiting } = of_list(&list.ready);
        let first = masses.len();
        let place = |variable: usize| if variable < many { variable } else { variable + first };
        let moved = |own: Constraint| Constraint {
            slack: own.slack,
            terms: own.terms.into_iter().map(|(variable, by)| (place(variable), by)).collect(),
        };
        rows.extend(own.into_iter().map(moved));
        if let Some(target) = list.target.filter(|_| targets) {
            let of_swaps = list.ready.plain_savings().iter().map(|saving| saving.mg());
            let of_kits = follow.iter().map(|mass| -mass);
            let slack = (target - list.ready.base()).mg() - waiting;
            let terms = of_swaps.chain(of_kits).enumerate().map(|(variable, by)| (place(variable), by));
            rows.push(Constraint::new(slack, terms));
        }
        for (saving, plain) in savings.iter_mut().zip(list.ready.plain_savings()) {
            *saving += plain.mg() * list.nights;
        }
        masses.extend(follow.into_iter().map(|mass| mass * list.nights));
        waiting_all += waiting * list.nights;
    }
    assemble(&ready.whole, &savings, OfList { masses, rows, waiting: waiting_all }, work)
}

/// What no target is minded for: what the frontier and the cheapest set to the targets say.
fn read(ready: &ReadyLists<'_>, frontier: &Frontier, to_targets: Cheapest, work: &mut Work<'_>) -> ListsPlan {
    let budget = ready.whole.problem().budget;
    let meet = ready.expanded.meet();
    let Some(within) = frontier.lightest_within(budget) else {
        if frontier.may_afford(budget) || (frontier.points().is_empty() && !frontier.is_proved()) {
            return ready.plan(Outcome::Unresolved, None, false);
        }
        if meet.is_empty() {
            return ready.plan(Outcome::PinsClash { pins: Vec::new(), least: None, job: None }, None, true);
        }
        let outcome = match (frontier.points().first(), cheapest_meeting(ready, &[], work)) {
            (_, None) => Outcome::Unresolved,
            (None, Some(Some(_))) => match never_met(ready, work) {
                Some(unmet) => Outcome::Unmet { unmet },
                None => Outcome::Unresolved,
            },
            (Some(_), Some(Some(_))) if frontier.gap(0).is_some() => Outcome::Unresolved,
            (Some(first), Some(Some(without))) if without <= budget => Outcome::TooDear { more: first.net - budget },
            _ => Outcome::PinsClash { pins: Vec::new(), least: None, job: None },
        };
        let is_proved = outcome != Outcome::Unresolved;
        return ready.plan(outcome, None, is_proved);
    };
    let least = frontier.points()[within];
    let lightest = (frontier.swaps(within), least.net, least.base);
    match to_targets.best {
        Some(best) if best.net <= budget => {
            ready.plan(Outcome::TargetMet, Some((best.swaps, best.net, best.gram_nights)), to_targets.is_proved)
        }
        Some(best) if to_targets.is_proved => {
            let outcome = Outcome::OverBudget { more: best.net - budget };
            ready.plan(outcome, Some(lightest), frontier.gap(within).is_none())
        }
        None if to_targets.is_proved && !frontier.may_be_lighter() => {
            let gram_nights = frontier.points().last().map_or(least.base, |last| last.base);
            let outcome = Outcome::OutOfReach { lightest: gram_nights };
            ready.plan(outcome, Some(lightest), frontier.gap(within).is_none())
        }
        _ => ready.plan(Outcome::Unresolved, Some(lightest), false),
    }
}

/// What the cheapest set costs that meets all of `meet` and no more, none if there is none; `None` while that is not known.
fn cheapest_meeting(ready: &ReadyLists<'_>, meet: &[Meet], work: &mut Work<'_>) -> Option<Option<Money>> {
    // Each is made ready anew: whether to stop is asked first.
    work.step(1_000_000).ok()?;
    let expanded = ready.expanded.meeting(meet);
    let found = cheapest(&expanded.ready().ok()?, false, work);
    found.is_proved.then(|| found.best.map(|best| best.net))
}

/// What of that which is to be met no set meets even alone, or else all of it, by name; `None` while that is not known.
fn never_met(ready: &ReadyLists<'_>, work: &mut Work<'_>) -> Option<Vec<Meet>> {
    let mut all: Vec<Meet> = ready.expanded.meet().to_vec();
    all.sort_by(|a, b| a.key().cmp(b.key()));
    all.dedup();
    let mut never = Vec::new();
    for meet in &all {
        if cheapest_meeting(ready, std::slice::from_ref(meet), work)?.is_none() {
            never.push(meet.clone());
        }
    }
    Some(if never.is_empty() { all } else { never })
}

impl ReadyLists<'_> {
    /// Whether every list is at or under its target after a set.
    fn reach_targets(&self, set: &[usize]) -> bool {
        let bases = self.bases_after(set);
        self.lists.iter().zip(bases).all(|(list, base)| list.target.is_none_or(|target| base <= target))
    }

    fn plan(&self, outcome: Outcome, found: Option<Found>, is_proved: bool) -> ListsPlan {
        let (swaps, net, gram_nights) = match found {
            Some((swaps, net, gram_nights)) => (Some(swaps), net, gram_nights),
            None => (None, Money::ZERO, Subject::base(self)),
        };
        let bases = self.bases_after(swaps.as_deref().unwrap_or_default());
        ListsPlan { outcome, swaps, net, gram_nights, bases, is_proved }
    }
}
