//! In which month what is bought: with money of so much now and so much a month, and resale that comes months after its swap.
//!
//! What is bought costs its expected price and delivery in its month (hours are not money); what comes from one place in one month is sent
//! together, and in another month once more. At the end of no month is less than nothing left.
//! Swaps that require each other are bought together.

use super::{Purse, Ready};
use crate::limits::LAST_MONTH;
use crate::quantity::Money;
use std::collections::BTreeMap;

/// The most that are bought apart for which every way to buy them is weighed up.
const EXACT: usize = 12;

/// A swap and the month in which it is bought; 0 is now.
pub type Bought = (usize, u32);

/// Swaps that are bought at once, what they cost, and what they bring later.
#[derive(Debug, Clone)]
struct Purchase {
    swaps: Vec<usize>,
    /// What it costs, but for parcels that may be shared.
    cost: i64,
    /// What it takes to have it sent, by place; at most one from each.
    parcels: Vec<(usize, i64)>,
    brings: i64,
    /// The purchases before which it can't be, by number.
    after: Vec<usize>,
}

/// What has been paid this month to have things sent, by place.
type Sent = Vec<i64>;

impl Purchase {
    /// What it takes of a month in which so much was paid to have things sent, and what is paid then.
    fn takes(&self, sent: &Sent) -> (i64, Sent) {
        let (mut takes, mut sent) = (self.cost, sent.clone());
        for &(place, delivery) in &self.parcels {
            takes += (delivery - sent[place]).max(0);
            sent[place] = sent[place].max(delivery);
        }
        (takes, sent)
    }
}

/// Places that things are sent from.
fn places(purchases: &[Purchase]) -> usize {
    let all = purchases.iter().flat_map(|purchase| &purchase.parcels);
    all.map(|(place, _)| place + 1).max().unwrap_or(0)
}

/// Buys the swaps of `order` one after the other, each as soon as there is money for it and everything before it is bought. `None` if that
/// takes more than [`LAST_MONTH`] months.
pub fn by_order(ready: &Ready<'_>, order: &[usize], purse: Purse) -> Option<Vec<Bought>> {
    let purchases = purchases(ready, order);
    let all: Vec<usize> = (0..purchases.len()).collect();
    in_turn(&purchases, &all, purse).map(|months| bought(&purchases, &months))
}

/// Buys the swaps of a set so that the last of them is bought as early as can be; `order` is how they would be bought else. Exact for
/// up to 12 that are bought apart; for more it is never later than by the order. `None` if they can't all be bought in [`LAST_MONTH`]
/// months.
pub fn soonest(ready: &Ready<'_>, order: &[usize], purse: Purse) -> Option<Vec<Bought>> {
    let purchases = purchases(ready, order);
    let months = if purse.resale_after == 0 {
        at_once(&purchases, purse)
    } else if purchases.len() <= EXACT {
        weighed_up(&purchases, purse)
    } else {
        // The order as it is, what costs least first, what brings most for its cost first.
        let by = |key: &dyn Fn(&Purchase) -> i64| {
            let mut left: Vec<usize> = (0..purchases.len()).collect();
            left.sort_by_key(|&at| key(&purchases[at]));
            let mut turns = Vec::with_capacity(left.len());
            while let Some(next) = left.iter().position(|&at| purchases[at].after.iter().all(|one| turns.contains(one)))
            {
                turns.push(left.remove(next));
            }
            in_turn(&purchases, &turns, purse)
        };
        let ways = [by(&|_| 0), by(&|purchase| purchase.cost), by(&|purchase| purchase.cost - purchase.brings)];
        ways.into_iter().flatten().min_by_key(|months| months.iter().max().copied())
    };
    months.map(|months| bought(&purchases, &months))
}

fn bought(purchases: &[Purchase], months: &[u32]) -> Vec<Bought> {
    let each = purchases.iter().zip(months);
    let mut bought: Vec<Bought> =
        each.flat_map(|(purchase, month)| purchase.swaps.iter().map(|swap| (*swap, *month))).collect();
    bought.sort_by_key(|(_, month)| *month);
    bought
}

/// What is bought apart, in this order, none before what it requires.
fn purchases(ready: &Ready<'_>, order: &[usize]) -> Vec<Purchase> {
    let swaps = &ready.problem().swaps;
    let required = |swap: usize| {
        let ids = swaps[swap].requires.iter().filter_map(|id| ready.swap_index(id));
        ids.filter(|other| order.contains(other))
    };
    // All that has to be bought no later than each, itself too.
    let with: BTreeMap<usize, Vec<usize>> = order
        .iter()
        .map(|&swap| {
            let mut all = vec![swap];
            let mut next = 0;
            while let Some(&one) = all.get(next) {
                next += 1;
                let more: Vec<usize> = required(one).filter(|other| !all.contains(other)).collect();
                all.extend(more);
            }
            (swap, all)
        })
        .collect();
    let (mut purchases, mut number): (Vec<Purchase>, BTreeMap<usize, usize>) = (Vec::new(), BTreeMap::new());
    let mut numbers: BTreeMap<String, usize> = BTreeMap::new();
    let mut left = order.to_vec();
    while let Some(&first) =
        left.iter().find(|swap| with[swap].iter().all(|other| number.contains_key(other) || with[other].contains(swap)))
    {
        let together: Vec<usize> =
            left.iter().copied().filter(|other| with[other].contains(&first) && with[&first].contains(other)).collect();
        left.retain(|swap| !together.contains(swap));
        let after = with[&first].iter().filter_map(|swap| number.get(swap).copied()).collect();
        let cost = |&swap: &usize| {
            let additions = swaps[swap].add.iter();
            let prices = additions.filter_map(|addition| Some(addition.price?.expected().times(addition.qty)));
            let alone = if swaps[swap].parcel().is_some() { Money::ZERO } else { swaps[swap].delivery };
            (prices.sum::<Money>() + alone).minor()
        };
        let mut parcels: BTreeMap<usize, i64> = BTreeMap::new();
        for &swap in &together {
            if let Some(place) = swaps[swap].parcel() {
                let next = numbers.len();
                let dearest = parcels.entry(*numbers.entry(place).or_insert(next)).or_default();
                *dearest = (*dearest).max(swaps[swap].delivery.minor());
            }
        }
        together.iter().for_each(|swap| _ = number.insert(*swap, purchases.len()));
        purchases.push(Purchase {
            cost: together.iter().map(cost).sum(),
            parcels: parcels.into_iter().collect(),
            brings: together.iter().map(|&swap| swaps[swap].resale.minor()).sum(),
            swaps: together,
            after,
        });
    }
    purchases
}

/// The month of each purchase if they are bought in this order.
fn in_turn(purchases: &[Purchase], turns: &[usize], purse: Purse) -> Option<Vec<u32>> {
    let mut months = vec![0; purchases.len()];
    let nothing: Sent = vec![0; places(purchases)];
    let (mut month, mut spent, mut sent) = (0, 0, nothing.clone());
    for (done, &turn) in turns.iter().enumerate() {
        let left = |month: u32| {
            let come = turns[..=done].iter().filter(|&&at| {
                let bought = if at == turn { month } else { months[at] };
                bought + purse.resale_after <= month
            });
            income(purse, month) - spent + come.map(|&at| purchases[at].brings).sum::<i64>()
        };
        let takes = |then: u32| purchases[turn].takes(if then == month { &sent } else { &nothing });
        let then = (month..=LAST_MONTH).find(|&then| left(then) >= takes(then).0)?;
        let (cost, now_sent) = takes(then);
        (month, spent, sent) = (then, spent + cost, now_sent);
        months[turn] = month;
    }
    Some(months)
}

/// What has come in by the end of a month, resale aside.
fn income(purse: Purse, month: u32) -> i64 {
    purse.now.minor() + i64::from(month) * purse.month.minor()
}

/// Where resale comes at once, all are bought in the first month that has the money for them together.
fn at_once(purchases: &[Purchase], purse: Purse) -> Option<Vec<u32>> {
    let mut sent = vec![0; places(purchases)];
    let mut cost = 0;
    for purchase in purchases {
        let takes;
        (takes, sent) = purchase.takes(&sent);
        cost += takes - purchase.brings;
    }
    let month = (0..=LAST_MONTH).find(|&month| income(purse, month) >= cost)?;
    Some(vec![month; purchases.len()])
}

/// A way to have bought some by the end of a month.
#[derive(Clone)]
struct Way {
    /// What is there now, one month later, … by the resale that is on its way alone.
    left: Vec<i64>,
    /// What has been spent on it.
    spent: i64,
    sent: Sent,
    months: Vec<u32>,
}

/// Every way to buy them, month by month: of two ways to have bought the same, one that has no less now and later is kept, if no less has
/// been paid for parcels that may be shared.
fn weighed_up(purchases: &[Purchase], purse: Purse) -> Option<Vec<u32>> {
    let cost: i64 = purchases.iter().map(|purchase| purchase.cost).sum();
    let brings: i64 = purchases.iter().map(|purchase| purchase.brings).sum();
    if cost > income(purse, LAST_MONTH) + brings {
        return None;
    }
    let after: Vec<usize> = purchases.iter().map(|purchase| purchase.after.iter().map(|at| 1 << at).sum()).collect();
    let all = (1_usize << purchases.len()) - 1;
    // What resale comes later than the last month is of no use.
    let later = usize::try_from(purse.resale_after.min(LAST_MONTH + 1)).unwrap_or(1);
    let mut ways: Vec<Vec<Way>> = vec![Vec::new(); all + 1];
    let nothing: Sent = vec![0; places(purchases)];
    ways[0].push(Way {
        left: vec![income(purse, 0); later],
        spent: 0,
        sent: nothing.clone(),
        months: vec![0; purchases.len()],
    });
    for month in 0..=LAST_MONTH {
        // What is bought first has the smaller number.
        for done in 0..=all {
            let from = std::mem::take(&mut ways[done]);
            for (at, purchase) in purchases.iter().enumerate() {
                if done & (1 << at) != 0 || after[at] & !done != 0 {
                    continue;
                }
                for way in &from {
                    let (cost, sent) = purchase.takes(&way.sent);
                    if way.left[0] < cost {
                        continue;
                    }
                    let mut next = Way { spent: way.spent + cost, sent, ..way.clone() };
                    next.left.iter_mut().for_each(|left| *left -= cost);
                    next.months[at] = month;
                    keep(&mut ways[done | (1 << at)], next);
                }
            }
            ways[done] = from;
        }
        if let Some(way) = ways[all].iter().min_by_key(|way| way.spent) {
            return Some(way.months.clone());
        }
        for (done, ways) in ways.iter_mut().enumerate() {
            let bought = purchases.iter().enumerate().filter(|(at, _)| done & (1 << at) != 0);
            let brings: i64 = bought.map(|(_, purchase)| purchase.brings).sum();
            for way in std::mem::take(ways) {
                let mut next = Way { sent: nothing.clone(), ..way };
                next.left.remove(0);
                next.left.push(income(purse, month) - next.spent + brings);
                next.left.iter_mut().for_each(|left| *left += purse.month.minor());
                keep(ways, next);
            }
        }
    }
    None
}

fn keep(ways: &mut Vec<Way>, way: Way) {
    let no_less = |one: &[i64], than: &[i64]| one.iter().zip(than).all(|(one, than)| one >= than);
    let is_no_worse = |one: &Way, than: &Way| {
        one.spent <= than.spent && no_less(&one.left, &than.left) && no_less(&one.sent, &than.sent)
    };
    if ways.iter().any(|other| is_no_worse(other, &way)) {
        return;
    }
    ways.retain(|other| !is_no_worse(&way, other));
    ways.push(way);
}
