//! Which swap first: classes, order within them, places.

use super::{Range, Swap, SwapState, Worth};
use crate::quantity::{Mass, Money};
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
    /// Its place; none for incomplete and ruled-out swaps.
    pub place: Option<Places>,
}

/// The place of a swap, from 1, and from where to where it may be once weights and prices are known.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Places {
    /// By the figures as they count.
    pub place: usize,
    /// 1 + the swaps that are surely better.
    pub best: usize,
    /// 1 + the swaps that could be better.
    pub worst: usize,
}

/// A saving and a net cost.
type Figures = (Mass, Money);

/// The class of a swap's worth.
pub fn class(worth: &Worth) -> Class {
    worth.complete().map_or(Class::Incomplete, class_of)
}

fn class_of((saving, net): Figures) -> Class {
    match (saving > Mass::ZERO, net > Money::ZERO) {
        (false, _) => Class::NoSaving,
        (true, false) => Class::Free,
        (true, true) => Class::Paid,
    }
}

/// Ranks swaps; `worths` runs beside `swaps`. Places run through free, paid and no saving.
///
/// Free: most grams, then most money back. Paid: most grams for the money (cross multiplied, exact), then most grams,
/// then lowest net. No saving: most grams, then lowest net. All: then name, then id.
pub fn rank(swaps: &[Swap], worths: &[Worth]) -> Vec<Ranked> {
    let mut order: Vec<usize> = (0..swaps.len()).collect();
    order.sort_by(|&a, &b| {
        let by_worth = match (worths[a].complete(), worths[b].complete()) {
            (Some(a), Some(b)) => before(&a, &b),
            (a, b) => a.is_none().cmp(&b.is_none()),
        };
        by_worth.then_with(|| (&swaps[a].name, &swaps[a].id).cmp(&(&swaps[b].name, &swaps[b].id)))
    });
    let range_of = |swap: usize| worths[swap].range.filter(|_| swaps[swap].state != SwapState::RuledOut);
    let (surely, perhaps) = (sorted(swaps.len(), range_of, poorest), sorted(swaps.len(), range_of, finest));
    let better = |sorted: &[Figures], than: Figures| sorted.partition_point(|other| before(other, &than).is_lt());
    let mut last = 0;
    let row = |swap: usize| {
        let place = range_of(swap).map(|range| {
            last += 1;
            // At its finest it comes before itself at its poorest, unless there is no doubt.
            let itself = usize::from(before(&finest(range), &poorest(range)).is_lt());
            let worst = 1 + better(&perhaps, poorest(range)) - itself;
            Places { place: last, best: 1 + better(&surely, finest(range)), worst }
        });
        Ranked { swap, class: class(&worths[swap]), place }
    };
    order.into_iter().map(row).collect()
}

fn poorest(range: Range) -> Figures {
    (range.saving_low, range.net_high)
}

fn finest(range: Range) -> Figures {
    (range.saving_high, range.net_low)
}

/// One end of every range, in the order of the ranking.
fn sorted(swaps: usize, range_of: impl Fn(usize) -> Option<Range>, end: fn(Range) -> Figures) -> Vec<Figures> {
    let mut ends: Vec<Figures> = (0..swaps).filter_map(range_of).map(end).collect();
    ends.sort_by(before);
    ends
}

/// Which figures come first, by class, ratio, grams and money.
fn before(a: &Figures, b: &Figures) -> Ordering {
    let ((save_a, net_a), (save_b, net_b)) = (*a, *b);
    let most_grams = save_b.cmp(&save_a);
    class_of(*a).cmp(&class_of(*b)).then_with(|| match class_of(*a) {
        Class::Paid => {
            let (save_a, save_b) = (i128::from(save_a.mg()), i128::from(save_b.mg()));
            let ratio = (save_b * i128::from(net_a.minor())).cmp(&(save_a * i128::from(net_b.minor())));
            ratio.then(most_grams).then(net_a.cmp(&net_b))
        }
        _ => most_grams.then(net_a.cmp(&net_b)),
    })
}
