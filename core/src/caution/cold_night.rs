//! The expected low against the sleep system: comfort of the warmest bag or quilt, less what liners and the like add, plus the sleeper's
//! own offset. Comfort and limit are those of a bag tested on a warm pad with base layers on (the usual laboratory standard); an
//! extreme rating is survival and is never planned on; a rating of unknown kind counts as a limit, with comfort 5.5 °C above it.

use super::cold_back::UNDERQUILT;
use super::{AT_HAND, Caution, CautionId, Level, Situation};
use crate::gear::RatingKind;
use crate::list::Thing;

/// The warmest of some things.
pub(super) struct Warmest {
    /// Its position.
    pub at: usize,
    /// Comfort, in tenths of a degree.
    pub comfort: i64,
    /// Limit.
    pub limit: i64,
    /// Whether one of the two was worked out.
    pub assumed: bool,
}

/// The warmest by comfort, then by limit, of the rated things carried or worn.
pub(super) fn warmest(situation: &Situation<'_>, which: impl Fn(&Thing) -> bool) -> Option<Warmest> {
    let rated = situation.positions(&AT_HAND, which).into_iter().filter_map(|at| {
        let rating = situation.things[at].facts.rating?;
        let (comfort, limit) = rating.comfort_and_limit()?;
        Some(Warmest { at, comfort, limit, assumed: rating.kind != RatingKind::Comfort })
    });
    rated.min_by_key(|found| (found.comfort, found.limit))
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

fn is_bag(thing: &Thing) -> bool {
    !thing.has(UNDERQUILT)
}

/// What liners and the like, and the sleeper, change; and the liners.
fn change(situation: &Situation<'_>) -> (i64, Vec<usize>) {
    let liners = situation.positions(&AT_HAND, |thing| thing.facts.warms.is_some_and(|warms| warms != 0));
    let adds: i64 = liners.iter().filter_map(|at| situation.things[*at].facts.warms).sum();
    (situation.sleeper.offset - adds, liners)
}

/// Raised below comfort, red below limit, and where nothing says how warm it is.
pub(super) fn raise(situation: &Situation<'_>) -> Vec<Caution> {
    let (change, liners) = change(situation);
    judge(CautionId::ColdNight, situation, warmest(situation, is_bag), change, liners)
}

/// Comfort of the sleep system.
pub(super) fn found(situation: &Situation<'_>) -> Option<i64> {
    warmest(situation, is_bag).map(|found| found.comfort + change(situation).0)
}

pub(super) fn helps(thing: &Thing) -> bool {
    (thing.facts.rating.is_some() && is_bag(thing)) || thing.facts.warms.is_some_and(|warms| warms > 0)
}
