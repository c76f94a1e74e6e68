//! Which swap first: classes, order within them, places.

use super::{Swap, SwapState, Worth};
use serde::Serialize;
use std::cmp::Ordering;

/// The four classes, in their order.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Class {
    /// Saves grams and costs nothing.
    Free,
    /// Saves grams for money.
    Paid,
    /// Saves nothing.
    NoSaving,
    /// A weight or price is unknown.
    Incomplete,
}

/// A swap's row in the ranking.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Ranked {
    /// Its index in the swaps that were ranked.
    pub swap: usize,
    /// Its class.
    pub class: Class,
    /// Its place, from 1; none for incomplete and ruled-out swaps.
    pub place: Option<usize>,
}

/// The class of a swap's worth.
pub fn class(worth: &Worth) -> Class {
    match worth.complete() {
        None => Class::Incomplete,
        Some((saving, _)) if saving.mg() <= 0 => Class::NoSaving,
        Some((_, net)) if net.minor() <= 0 => Class::Free,
        Some(_) => Class::Paid,
    }
}

/// Ranks swaps; `worths` runs beside `swaps`. Places run through free, paid and no saving.
///
/// Free: most grams, then most money back. Paid: most grams for the money (cross multiplied, exact), then most grams,
/// then lowest net. No saving: most grams, then lowest net. All: then name, then id.
pub fn rank(swaps: &[Swap], worths: &[Worth]) -> Vec<Ranked> {
    let mut order: Vec<usize> = (0..swaps.len()).collect();
    order.sort_by(|&a, &b| {
        class(&worths[a])
            .cmp(&class(&worths[b]))
            .then_with(|| by_worth(&worths[a], &worths[b]))
            .then_with(|| (&swaps[a].name, &swaps[a].id).cmp(&(&swaps[b].name, &swaps[b].id)))
    });
    let mut last = 0;
    order
        .into_iter()
        .map(|swap| {
            let class = class(&worths[swap]);
            let has_place = class != Class::Incomplete && swaps[swap].state != SwapState::RuledOut;
            last += usize::from(has_place);
            Ranked { swap, class, place: has_place.then_some(last) }
        })
        .collect()
}

/// The order within one class.
fn by_worth(a: &Worth, b: &Worth) -> Ordering {
    let (Some((save_a, net_a)), Some((save_b, net_b))) = (a.complete(), b.complete()) else {
        return Ordering::Equal;
    };
    let most_grams = save_b.cmp(&save_a);
    match class(a) {
        Class::Paid => {
            let (save_a, save_b) = (i128::from(save_a.mg()), i128::from(save_b.mg()));
            let ratio = (save_b * i128::from(net_a.minor())).cmp(&(save_a * i128::from(net_b.minor())));
            ratio.then(most_grams).then(net_a.cmp(&net_b))
        }
        _ => most_grams.then(net_a.cmp(&net_b)),
    }
}
