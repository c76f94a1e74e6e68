//! Delivery that is shared: what is ordered together from one place comes in one parcel, and the dearest of its deliveries is paid once.

use super::Ready;
use crate::quantity::Money;
use crate::swap::Swap;
use kevyt_solver::Constraint;
use std::collections::{BTreeMap, HashMap};

/// What has been paid to have things sent from each place, as swaps are ordered one after the other.
#[derive(Debug, Clone, Default)]
pub(super) struct Parcels(HashMap<String, Money>);

impl Parcels {
    /// How much less than its own delivery a swap takes that is ordered with what has been ordered.
    pub fn spares(&self, swap: &Swap) -> Money {
        let paid = swap.parcel().and_then(|place| self.0.get(&place).copied());
        paid.unwrap_or_default().min(swap.delivery)
    }

    /// Orders a swap too.
    pub fn order(&mut self, swap: &Swap) {
        if let Some(place) = swap.parcel() {
            let paid = self.0.entry(place).or_default();
            *paid = (*paid).max(swap.delivery);
        }
    }
}

/// What follows for the search from parcels that may be shared.
#[derive(Debug, Default)]
pub(super) struct Shared {
    /// What each choice *a parcel from a place, for so much* costs; they are numbered from `first` on.
    pub costs: Vec<i64>,
    /// At most one parcel comes from a place, and one for as much as is asked for each swap in it: for each amount, with n swaps that ask for
    /// so much or more, n × Σ parcels for so much or more − Σ such swaps ≥ 0.
    pub rows: Vec<Constraint>,
    /// What is in these choices of a swap's own delivery, by swap.
    pub of_swap: Vec<i64>,
}

/// The parcels that two or more of the swaps wanted could come in. The choices stand behind `first` other variables.
pub(super) fn shared(ready: &Ready<'_>, first: usize, is_wanted: impl Fn(usize) -> bool) -> Shared {
    let swaps = &ready.problem().swaps;
    let mut by_place: BTreeMap<String, Vec<usize>> = BTreeMap::new();
    for index in (0..swaps.len()).filter(|&index| is_wanted(index)) {
        if let Some(place) = swaps[index].parcel() {
            by_place.entry(place).or_default().push(index);
        }
    }
    let mut shared = Shared { of_swap: vec![0; swaps.len()], ..Shared::default() };
    for mut together in by_place.into_values().filter(|together| together.len() > 1) {
        together.sort_by_key(|&index| swaps[index].delivery);
        let mut levels: Vec<(i64, usize)> = Vec::new();
        for (at, &index) in together.iter().enumerate() {
            let delivery = swaps[index].delivery.minor();
            shared.of_swap[index] = delivery;
            if levels.last().is_none_or(|(dearest, _)| *dearest < delivery) {
                levels.push((delivery, at));
            }
        }
        let parcels = first + shared.costs.len();
        for (level, (delivery, at)) in levels.iter().enumerate() {
            let need = &together[*at..];
            let pieces = i64::try_from(need.len()).unwrap_or(i64::MAX);
            let enough = (parcels + level..parcels + levels.len()).map(|parcel| (parcel, pieces));
            shared
                .rows
                .push(Constraint { slack: 0, terms: need.iter().map(|&index| (index, -1)).chain(enough).collect() });
            shared.costs.push(*delivery);
        }
        if levels.len() > 1 {
            let each = (parcels..parcels + levels.len()).map(|parcel| (parcel, -1));
            shared.rows.push(Constraint { slack: 1, terms: each.collect() });
        }
    }
    shared.rows.iter_mut().for_each(|row| row.terms.sort_unstable());
    shared
}
