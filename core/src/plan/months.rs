//! In which month what is bought: with money of so much now and so much a month, and resale that comes months after its swap.
//!
//! What is bought costs its expected price and delivery in its month (hours are not money); what comes from one place in one month is sent
//! together, and in another month once more. At the end of no month is less than nothing left.
//! Swaps that require each other are bought together.

mod stages;

use super::order::{Group, each_after, in_turn};
use super::{Purse, Ready};
use crate::limits::LAST_MONTH;
use crate::quantity::Money;
use crate::steps::{OutOfSteps, Steps};
use std::collections::BTreeMap;

/// Steps after which a search for the soonest month is left: about half a second.
pub const MONTHS_STEPS: u64 = 100_000_000;
/// The most that are bought apart, and bring something, for which every way to buy them is weighed up.
const EXACT: usize = 18;

/// A swap and the month in which it is bought; 0 is now.
pub type Bought = (usize, u32);

/// How soon all of a set can be bought.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Soonest {
    /// When each swap is bought, the last of them as early as is known; `None` if no way is known within [`LAST_MONTH`] months.
    pub bought: Option<Vec<Bought>>,
    /// Whether it is proved that there is no sooner way; or none at all.
    pub is_proved: bool,
}

impl Soonest {
    /// The month by whose end all are bought, 0 being now.
    pub fn last(&self) -> Option<u32> {
        self.bought.as_ref().map(|bought| bought.last().map_or(0, |(_, month)| *month))
    }
}

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
    /// What it takes of a month in which so much was paid to have things sent.
    fn takes(&self, sent: &Sent) -> i64 {
        self.cost + self.parcels.iter().map(|&(place, delivery)| (delivery - sent[place]).max(0)).sum::<i64>()
    }

    /// What it takes of a month in which nothing was sent.
    fn takes_alone(&self) -> i64 {
        self.cost + self.parcels.iter().map(|(_, delivery)| delivery).sum::<i64>()
    }

    /// Has it sent.
    fn send(&self, sent: &mut Sent) {
        for &(place, delivery) in &self.parcels {
            sent[place] = sent[place].max(delivery);
        }
    }
}

/// Places that things are sent from.
fn places<'p>(purchases: impl IntoIterator<Item = &'p Purchase>) -> usize {
    let all = purchases.into_iter().flat_map(|purchase| &purchase.parcels);
    all.map(|(place, _)| place + 1).max().unwrap_or(0)
}

/// Buys the swaps of `order` one after the other, each as soon as there is money for it and everything before it is bought. `None` if that
/// takes more than [`LAST_MONTH`] months.
pub fn by_order(ready: &Ready<'_>, order: &[usize], purse: Purse) -> Option<Vec<Bought>> {
    let purchases = purchases(ready, order);
    let all: Vec<usize> = (0..purchases.len()).collect();
    one_by_one(&purchases, &all, purse).map(|months| bought(&purchases, &months))
}

/// Buys the swaps of a set so that the last of them is bought as early as can be; `order` is how they would be bought else.
pub fn soonest(ready: &Ready<'_>, order: &[usize], purse: Purse, steps: &mut Steps<'_>) -> Soonest {
    let purchases = purchases(ready, order);
    let all = |months: Option<Vec<u32>>| months.map(|months| bought(&purchases, &months));
    if purse.resale_after == 0 {
        return Soonest { bought: all(at_once(&purchases, purse)), is_proved: true };
    }
    // The order as it is, what costs least first, what brings most for its cost first.
    let after: Vec<Vec<usize>> = purchases.iter().map(|purchase| purchase.after.clone()).collect();
    let keys: [&dyn Fn(&Purchase) -> i64; 3] = [&|_| 0, &|one| one.cost, &|one| one.cost - one.brings];
    let ways = keys.map(|key| one_by_one(&purchases, &each_after(&after, |at| key(&purchases[at])), purse));
    let known = ways.into_iter().flatten().min_by_key(|months| last(months));
    match stages::soonest(&purchases, purse, known.as_deref().map(last), steps) {
        Ok(sooner) => Soonest { bought: all(sooner.or(known)), is_proved: true },
        Err(OutOfSteps) => Soonest { bought: all(known), is_proved: false },
    }
}

/// The month by whose end all are bought.
fn last(months: &[u32]) -> u32 {
    months.iter().copied().max().unwrap_or(0)
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
    let mut numbers: BTreeMap<String, usize> = BTreeMap::new();
    let mut purchase = |Group { swaps: together, after }: Group| {
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
        Purchase {
            cost: together.iter().map(cost).sum(),
            parcels: parcels.into_iter().collect(),
            brings: together.iter().map(|&swap| swaps[swap].resale.minor()).sum(),
            swaps: together,
            after,
        }
    };
    in_turn(ready, order).into_iter().map(&mut purchase).collect()
}

/// The month of each purchase if they are bought one after the other, each as soon as there is money for it.
fn one_by_one(purchases: &[Purchase], turns: &[usize], purse: Purse) -> Option<Vec<u32>> {
    let mut months = vec![0; purchases.len()];
    // Resale that has come by each month.
    let mut come = vec![0_i64; income_months()];
    let mut sent: Sent = vec![0; places(purchases)];
    let (mut month, mut spent) = (0_u32, 0_i64);
    for &turn in turns {
        let purchase = &purchases[turn];
        let own = if purse.resale_after == 0 { purchase.brings } else { 0 };
        let left = |month: u32, come: &[i64]| income(purse, month) + come[at(month)] + own - spent;
        if left(month, &come) < purchase.takes(&sent) {
            month = (month + 1..=LAST_MONTH).find(|&then| left(then, &come) >= purchase.takes_alone())?;
            sent.fill(0);
        }
        spent += purchase.takes(&sent);
        purchase.send(&mut sent);
        months[turn] = month;
        come.iter_mut().skip(at(month.saturating_add(purse.resale_after))).for_each(|come| *come += purchase.brings);
    }
    Some(months)
}

/// Months that are planned for, this one too.
fn income_months() -> usize {
    at(LAST_MONTH) + 1
}

/// A month as a position.
fn at(month: u32) -> usize {
    usize::try_from(month).unwrap_or(usize::MAX)
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
        cost += purchase.takes(&sent) - purchase.brings;
        purchase.send(&mut sent);
    }
    let month = (0..=LAST_MONTH).find(|&month| income(purse, month) >= cost)?;
    Some(vec![month; purchases.len()])
}
