//! What buying down the ranking would do, for comparison with the plan.

use super::Ready;
use super::check::Checker;
use super::model::all_constraints;
use super::parcels::Parcels;
use crate::quantity::{Mass, Money};
use crate::swap::{Class, SwapState};

/// What the ranking alone buys: down the list from the pinned swaps, each that is still allowed and fits the money, until
/// the target is reached. Swaps that save nothing are passed over, and so is what is to be met.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RankingAlone {
    /// The swaps bought, in that order, pinned ones first; `None` if the pinned swaps can't be bought without others.
    pub swaps: Option<Vec<usize>>,
    /// What they cost.
    pub net: Money,
    /// The base weight after them.
    pub base: Mass,
    /// Whether it is at or under the target.
    pub met: bool,
}

pub(super) fn buy(ready: &Ready<'_>, target: Mass, budget: Money) -> RankingAlone {
    let problem = ready.problem();
    let mut rows = all_constraints(ready, false);
    let mut terms_of: Vec<Vec<(usize, i64)>> = vec![Vec::new(); problem.swaps.len()];
    for (at, row) in rows.iter().enumerate() {
        row.terms.iter().for_each(|&(swap, coefficient)| terms_of[swap].push((at, coefficient)));
    }
    let mut bought = RankingAlone { swaps: Some(Vec::new()), net: Money::ZERO, base: ready.base(), met: false };
    let checker = Checker::new(ready);
    let (mut made, mut parcels) = (Vec::new(), Parcels::default());
    let mut make = |index: usize, bought: &mut RankingAlone, must_fit: bool| -> bool {
        let Some((_, net)) = ready.worths()[index].complete() else {
            return false;
        };
        let net = net - parcels.spares(&problem.swaps[index]);
        let fits = terms_of[index].iter().all(|&(row, c)| rows[row].slack + c >= 0) && bought.net + net <= budget;
        made.push(index);
        if must_fit && !(fits && checker.carries(&made) && checker.sleeps(&made)) {
            made.pop();
            return false;
        }
        terms_of[index].iter().for_each(|&(row, c)| rows[row].slack += c);
        parcels.order(&problem.swaps[index]);
        (bought.net, bought.base) = (bought.net + net, checker.base_after(&made));
        if let Some(swaps) = bought.swaps.as_mut() {
            swaps.push(index);
        }
        true
    };
    for (index, swap) in problem.swaps.iter().enumerate() {
        if swap.state == SwapState::Pinned {
            make(index, &mut bought, false);
        }
    }
    for row in ready.ranking() {
        let saves = matches!(row.class, Class::Free | Class::Paid);
        if bought.base > target && saves && problem.swaps[row.swap].state == SwapState::Open {
            make(row.swap, &mut bought, true);
        }
    }
    bought.met = bought.base <= target;
    if rows.iter().any(|row| row.slack < 0) || !checker.carries(&made) || !checker.sleeps(&made) || bought.net > budget
    {
        bought.swaps = None;
    }
    bought
}
