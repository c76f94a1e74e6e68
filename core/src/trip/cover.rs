//! The lightest cans, banks or bottles that hold enough.

use crate::quantity::Mass;
use crate::steps::{OutOfSteps, Steps};

/// A thing that holds something, in some pieces.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Holder {
    /// How much one piece holds.
    pub amount: i64,
    /// What one piece weighs; one of which nobody knows is not tried.
    pub mass: Option<Mass>,
    /// Pieces there are.
    pub count: u32,
    /// Whether it is owned; it could be got otherwise.
    pub is_owned: bool,
}

/// A way to hold enough.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cover {
    /// Holders by position, in order, with so many pieces of each.
    pub pieces: Vec<(usize, u32)>,
    /// What they weigh together.
    pub mass: Mass,
    /// Whether it is proved that none is lighter.
    pub is_proved: bool,
}

/// The lightest ways to hold enough.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Covers {
    /// Of what is owned; `None` where that is not enough.
    pub owned: Option<Cover>,
    /// With what could be got, where that is lighter.
    pub with_got: Option<Cover>,
}

/// Steps after which a search answers with the lightest way that it has: some hundredths of a second.
pub const COVER_STEPS: u64 = 1_000_000;

/// The lightest of what is owned that holds `need`, and of that and what could be got. Nothing where nothing is needed.
pub fn covers(holders: &[Holder], need: i64, steps: &mut Steps<'_>) -> Covers {
    let mut cover = |tried: &dyn Fn(&Holder) -> bool| {
        let kinds = holders.iter().enumerate().filter(|(_, holder)| tried(holder) && holder.amount > 0);
        let kinds = kinds.filter_map(|(at, holder)| {
            Some(Kind { at, amount: holder.amount, mass: holder.mass?.mg(), count: holder.count })
        });
        lightest_cover(kinds.collect(), need, steps)
    };
    if need <= 0 {
        return Covers::default();
    }
    let owned = cover(&|holder| holder.is_owned);
    let with_got = cover(&|_| true);
    let is_lighter = |with: &Cover| owned.as_ref().is_none_or(|owned| with.mass < owned.mass);
    Covers { with_got: with_got.filter(is_lighter), owned }
}

/// Pieces that are alike.
#[derive(Debug, Clone, Copy)]
struct Kind {
    at: usize,
    amount: i64,
    mass: i64,
    count: u32,
}

/// What pieces weigh, and of what weighs the same how many there are: fewer is better.
type Cost = (i64, u32);

/// Some pieces: what they hold, up to the need, and what they cost.
#[derive(Debug, Clone, Copy)]
struct State {
    amount: i64,
    cost: Cost,
    /// The state before the last pieces came, those, and how many.
    before: usize,
    kind: usize,
    pieces: u32,
}

/// The lightest pieces that hold `need`, of equals the fewest; `None` if all don't.
///
/// Kind by kind, what holds most for its weight first: of all that can be taken so far, what neither holds more than nor costs as little as
/// something else is dropped, and so is what can't become lighter than the lightest way known.
fn lightest_cover(mut kinds: Vec<Kind>, need: i64, steps: &mut Steps<'_>) -> Option<Cover> {
    kinds.retain(|kind| kind.count > 0);
    let all = kinds.iter().map(|kind| kind.amount.saturating_mul(i64::from(kind.count)));
    if all.fold(0, i64::saturating_add) < need {
        return None;
    }
    // The last of the first answer may be more than it takes: of the others one that is lighter does as well.
    let per_mass = |a: &Kind, b: &Kind| {
        (i128::from(b.amount) * i128::from(a.mass)).cmp(&(i128::from(a.amount) * i128::from(b.mass)))
    };
    kinds.sort_by(|a, b| per_mass(a, b).then(a.at.cmp(&b.at)));
    let mut search = Search { kinds: &kinds, need, states: Vec::new(), best: None };
    search.greedy();
    let is_proved = search.run(steps).is_ok();
    let mut at = search.best?;
    let mass = Mass::from_mg(search.states[at].cost.0);
    let mut pieces: Vec<(usize, u32)> = Vec::new();
    while at != 0 {
        let state = search.states[at];
        let holder = kinds[state.kind].at;
        match pieces.iter_mut().find(|(other, _)| *other == holder) {
            Some((_, count)) => *count += state.pieces,
            None => pieces.push((holder, state.pieces)),
        }
        at = state.before;
    }
    pieces.sort_unstable();
    Some(Cover { pieces, mass, is_proved })
}

struct Search<'k> {
    kinds: &'k [Kind],
    need: i64,
    /// All states that were ever kept; the first is nothing taken.
    states: Vec<State>,
    /// The lightest that holds the need.
    best: Option<usize>,
}

impl Search<'_> {
    fn more(&self, before: usize, kind: usize, pieces: u32) -> State {
        let (from, of) = (self.states[before], self.kinds[kind]);
        let amount = from.amount.saturating_add(of.amount.saturating_mul(i64::from(pieces))).min(self.need);
        let cost = (from.cost.0 + of.mass * i64::from(pieces), from.cost.1 + pieces);
        State { amount, cost, before, kind, pieces }
    }

    fn keep(&mut self, state: State) -> usize {
        self.states.push(state);
        let at = self.states.len() - 1;
        if state.amount >= self.need && self.best.is_none_or(|best| state.cost < self.states[best].cost) {
            self.best = Some(at);
        }
        at
    }

    /// What holds most for its weight, as far as it goes.
    fn greedy(&mut self) {
        let mut at = self.keep(State { amount: 0, cost: (0, 0), before: 0, kind: 0, pieces: 0 });
        for (kind, of) in self.kinds.iter().enumerate() {
            let lacks = self.need - self.states[at].amount;
            let pieces = u32::try_from((lacks + of.amount - 1) / of.amount).unwrap_or(u32::MAX).min(of.count);
            if pieces > 0 {
                let next = self.more(at, kind, pieces);
                at = self.keep(next);
            }
        }
    }

    fn run(&mut self, steps: &mut Steps<'_>) -> Result<(), OutOfSteps> {
        let mut open = vec![0];
        for (kind, of) in self.kinds.iter().enumerate() {
            let most = u32::try_from((self.need + of.amount - 1) / of.amount).unwrap_or(u32::MAX).min(of.count);
            // So many pieces as are wanted, as sums of some of 1, 2, 4 … and a rest.
            let (mut left, mut next) = (most, 1);
            while left > 0 {
                let pieces = next.min(left);
                (left, next) = (left - pieces, next.saturating_mul(2));
                open = self.with(&open, kind, pieces, steps)?;
            }
            // What is left may take from the kinds to come, which hold no more for their weight than the first of them.
            let to_come = self.kinds.get(kind + 1);
            open.retain(|&at| self.may_be_best(at, to_come));
        }
        Ok(())
    }

    /// The states with and without so many pieces of a kind, the cheapest first, each holding more than those before.
    fn with(
        &mut self,
        open: &[usize],
        kind: usize,
        pieces: u32,
        steps: &mut Steps<'_>,
    ) -> Result<Vec<usize>, OutOfSteps> {
        steps.take(2 * open.len() + 1)?;
        let added: Vec<State> = open.iter().map(|&at| self.more(at, kind, pieces)).collect();
        let mut added = added.into_iter().peekable();
        let mut merged: Vec<usize> = Vec::with_capacity(open.len());
        let mut most = -1;
        for &at in open.iter().chain([&usize::MAX]) {
            let without = self.states.get(at).copied();
            while let Some(with) = added.next_if(|with| without.is_none_or(|without| with.cost < without.cost)) {
                if with.amount > most {
                    most = with.amount;
                    merged.push(self.keep(with));
                }
            }
            if let Some(without) = without.filter(|without| without.amount > most) {
                most = without.amount;
                merged.push(at);
            }
        }
        Ok(merged)
    }

    fn may_be_best(&self, at: usize, to_come: Option<&Kind>) -> bool {
        let Some(best) = self.best.map(|best| self.states[best].cost) else { return true };
        let state = self.states[at];
        let lacks = i128::from(self.need - state.amount);
        if lacks <= 0 {
            return false;
        }
        let Some(next) = to_come else { return false };
        let takes = (lacks * i128::from(next.mass)).div_euclid(i128::from(next.amount));
        i128::from(state.cost.0) + takes <= i128::from(best.0)
    }
}
