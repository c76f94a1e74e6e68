//! Buy now, or wait below which price: as the prices that were seen would come again, one look a month.
//!
//! Whoever still has one look takes what they find, on average the mean. With one look more they take what is below that, and else go on: so
//! what waiting comes to is E₁ = mean, Eₙ = mean of min(price, Eₙ₋₁), and a price is taken where it is at most what going on comes to. Prices
//! count by how long they stood.

use super::Candidate;
use crate::caution::{CautionId, KnownCaution};
use crate::gear::Jobs;
use crate::quantity::Money;

/// A price, and for how many hours it stood.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PriceSpell {
    /// What one piece cost.
    pub price: Money,
    /// For how long it was seen.
    pub hours: u32,
    /// Whether there were any left.
    pub is_there: bool,
}

/// What waiting comes to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Wait {
    /// Up to which price it is bought: now, in a month, and so on; after the last of these, at whatever it costs then.
    pub buy_below: Vec<Money>,
    /// What is paid on average by a buyer who waits so, rounded up to the minor unit.
    pub expected: Money,
    /// How often, of a thousand times, more is paid in the end than it costs now.
    pub dearer_permille: u32,
    /// How much of the time it was sold out, in per cent.
    pub sold_out_percent: u32,
}

/// How long new gear is tried before a trip, in days.
pub const TRIED_DAYS: i64 = 28;
/// From one look at a price to the next, in days.
const LOOK_DAYS: i64 = 30;
/// Prices that were seen for fewer hours say nothing of those to come.
const SEEN_HOURS: i128 = 30 * 24;

/// The most looks ahead: further on nothing changes.
const MOST_LOOKS: u32 = 24;

/// Parts of a minor unit in which averages are held.
const PARTS: i128 = 1_000_000;
/// Parts of a chance.
const CHANCE: i128 = 1_000_000_000;

/// What waiting comes to where it costs `now` and a trip begins in so many days. `None` where there is no time to wait and try it, where too
/// little was seen, or where the price never moved.
pub fn wait(seen: &[PriceSpell], now: Money, days_to_trip: i64) -> Option<Wait> {
    let looks = u32::try_from((days_to_trip - TRIED_DAYS).div_euclid(LOOK_DAYS)).ok().filter(|looks| *looks > 0)?;
    let all: i128 = seen.iter().map(|stood| i128::from(stood.hours)).sum();
    let seen: Vec<&PriceSpell> = seen.iter().filter(|stood| stood.is_there).collect();
    let hours: i128 = seen.iter().map(|stood| i128::from(stood.hours)).sum();
    if hours < SEEN_HOURS || !seen.iter().any(|stood| stood.price != seen[0].price) {
        return None;
    }
    let mean_of = |worth: &dyn Fn(i128) -> i128| {
        let sum = |stood: &&PriceSpell| worth(i128::from(stood.price.minor()) * PARTS) * i128::from(stood.hours);
        seen.iter().map(sum).sum::<i128>().div_euclid(hours)
    };
    let now_parts = i128::from(now.minor()) * PARTS;
    let is = |does: bool| if does { CHANCE } else { 0 };
    let mut going_on = mean_of(&|price| price);
    let mut dearer = mean_of(&|price| is(price > now_parts));
    let mut below = vec![going_on];
    for _ in 1..looks.min(MOST_LOOKS) {
        let (last, later) = (going_on, dearer);
        dearer = mean_of(&|price| if price > last { later } else { is(price > now_parts) });
        going_on = mean_of(&|price| price.min(last));
        below.push(going_on);
    }
    let minor = |parts: i128| Money::from_minor(i64::try_from(parts.div_euclid(PARTS)).unwrap_or(i64::MAX));
    Some(Wait {
        buy_below: below.iter().rev().map(|parts| minor(*parts)).collect(),
        expected: minor(going_on + PARTS - 1),
        dearer_permille: u32::try_from((dearer * 1_000 + CHANCE / 2) / CHANCE).unwrap_or(1_000),
        sold_out_percent: u32::try_from((all - hours) * 100 / all).unwrap_or(100),
    })
}

/// Whether a candidate does something of which a list is short today, by the jobs that it lacks and the cautions that are raised: that is not
/// waited with.
pub fn does_what_is_short(candidate: &Candidate, lacking: &Jobs, raised: &[KnownCaution]) -> bool {
    let does = |job: &str| candidate.provides.iter().any(|(done, amount)| done.as_str() == job && *amount > 0);
    let is_warm = candidate.facts.rating.is_some();
    let is_raised = |ids: &[CautionId]| raised.iter().any(|caution| ids.iter().any(|id| caution.key == id.key()));
    lacking.iter().any(|(job, amount)| *amount > 0 && does(job.as_str()))
        || (is_warm || candidate.facts.warms.is_some()) && is_raised(&[CautionId::ColdNight, CautionId::ColdBack])
        || (is_warm || does("ground_insulation")) && is_raised(&[CautionId::ColdGround])
}

#[cfg(test)]
#[allow(
    clippy::unwrap_used,
    clippy::float_arithmetic,
    clippy::as_conversions,
    clippy::cast_precision_loss,
    reason = "averages, recomputed plainly"
)]
mod tests {
    use super::{LOOK_DAYS, PriceSpell, TRIED_DAYS, wait};
    use crate::quantity::Money;
    use proptest::prelude::*;

    fn stood(prices: &[(i64, u32)]) -> Vec<PriceSpell> {
        prices
            .iter()
            .map(|&(price, hours)| PriceSpell { price: Money::from_minor(price), hours, is_there: true })
            .collect()
    }

    /// So many looks ahead.
    fn days(looks: u32) -> i64 {
        TRIED_DAYS + LOOK_DAYS * i64::from(looks)
    }

    #[test]
    fn by_hand() {
        // Half the time 100, half the time 60: one look comes to 80, two to (60 + 80) / 2, three to (60 + 70) / 2.
        let seen = stood(&[(10_000, 500), (6_000, 500)]);
        let found = wait(&seen, Money::from_minor(10_000), days(3)).unwrap();
        assert_eq!(found.buy_below, [6_500, 7_000, 8_000].map(Money::from_minor));
        assert_eq!((found.expected.minor(), found.dearer_permille), (6_500, 0));
        // At 60 it is paid more in the end where all three looks find 100.
        assert_eq!(wait(&seen, Money::from_minor(6_000), days(3)).unwrap().dearer_permille, 125);
        // No month is left to wait and then to try it; a price that never moved, or was seen for less than a month.
        assert_eq!(wait(&seen, Money::from_minor(6_000), days(1) - 1), None);
        for seen in [vec![], vec![(10_000, 1_000)], vec![(10_000, 300), (6_000, 400)]] {
            assert_eq!(wait(&stood(&seen), Money::from_minor(6_000), days(3)), None, "{seen:?}");
        }
        // What nobody could buy is no price that comes again.
        let sold_out = PriceSpell { price: Money::from_minor(1), hours: 250, is_there: false };
        let found = wait(&[seen[0], sold_out, seen[1]], Money::from_minor(10_000), days(3)).unwrap();
        assert_eq!((found.expected.minor(), found.sold_out_percent), (6_500, 20));
    }

    /// Every course of prices, each with its chance: what is paid where the thresholds are kept to.
    fn courses(seen: &[(i64, u32)], below: &[i64], now: i64) -> (f64, f64) {
        let hours: f64 = seen.iter().map(|(_, hours)| f64::from(*hours)).sum();
        let mut all = (0.0, 0.0);
        for &(price, stood) in seen {
            let chance = f64::from(stood) / hours;
            // The first threshold is for now; this look is a month later.
            let is_taken = below.len() <= 1 || price <= below[1];
            let (paid, dearer) = if is_taken {
                (price as f64, f64::from(u8::from(price > now)))
            } else {
                courses(seen, &below[1..], now)
            };
            all = (all.0 + chance * paid, all.1 + chance * dearer);
        }
        all
    }

    proptest! {
        #[test]
        fn waiting_comes_to_what_every_course_of_prices_comes_to(
            seen in prop::collection::vec((1..20_000_i64, 400..2_000_u32), 2..4), now in 1..20_000_i64, looks in 1..6_u32,
        ) {
            prop_assume!(seen.iter().any(|(price, _)| *price != seen[0].0));
            let found = wait(&stood(&seen), Money::from_minor(now), days(looks)).unwrap();
            let below: Vec<i64> = found.buy_below.iter().map(|below| below.minor()).collect();
            prop_assert_eq!(below.len(), looks as usize);
            prop_assert!(below.windows(2).all(|pair| pair[0] <= pair[1]), "the fewer looks, the more is paid");
            let (paid, dearer) = courses(&seen, &below, now);
            prop_assert!((found.expected.minor() as f64 - paid).abs() <= 1.0 + 1e-6, "{} {paid}", found.expected.minor());
            prop_assert!((f64::from(found.dearer_permille) - dearer * 1_000.0).abs() <= 0.51, "{} {dearer}", found.dearer_permille);
        }
    }
}
