//! How warm what is rated is, and what that does against the low: for bags and quilts above a sleeper and for underquilts below.

use super::{AT_HAND, Caution, CautionId, Level, Situation};
use crate::gear::RatingKind;
use crate::list::Thing;

/// The tag of an underquilt.
pub(crate) const UNDERQUILT: &str = "underquilt";
/// The tag of a hammock.
pub(crate) const HAMMOCK: &str = "hammock";

/// The warmest of some things.
pub(super) struct Warmest {
    /// Its position.
    pub at: usize,
    /// Comfort, in tenths of a degree.
    pub comfort: i64,
    /// Limit.
    pub limit: i64,
    /// Whether one of the two was calculated.
    pub assumed: bool,
}

/// The rated things carried or worn.
pub(super) fn rated(situation: &Situation<'_>, which: impl Fn(&Thing) -> bool) -> impl Iterator<Item = Warmest> {
    situation.positions(&AT_HAND, which).into_iter().filter_map(|at| {
        let rating = situation.things[at].facts.rating?;
        let (comfort, limit) = rating.comfort_and_limit()?;
        Some(Warmest { at, comfort, limit, assumed: rating.kind != RatingKind::Comfort })
    })
}

/// The warmest of them by comfort, then by limit.
pub(super) fn warmest(situation: &Situation<'_>, which: impl Fn(&Thing) -> bool) -> Option<Warmest> {
    rated(situation, which).min_by_key(|found| (found.comfort, found.limit))
}

/// What a bag or quilt does against the low, where `change` is added to its ratings and `beside` changes them.
pub(super) fn judge(
    id: CautionId,
    situation: &Situation<'_>,
    warmest: Option<Warmest>,
    change: i64,
    beside: Vec<usize>,
) -> Vec<Caution> {
    let low = situation.trip.low_tenth_c;
    let Some(found) = warmest else { return vec![Caution::new(id, Level::Unrated)] };
    let (comfort, limit) = (found.comfort + change, found.limit + change);
    if low >= comfort {
        return Vec::new();
    }
    let level = if low < limit { Level::Red } else { Level::Amber };
    let of = std::iter::once(found.at).chain(beside).collect();
    let caution = Caution::new(id, level).figures(comfort, low, comfort - low);
    vec![Caution { limit: Some(limit), assumed: found.assumed, of, ..caution }]
}
