//! What things are worth as time goes by, and what it costs to keep them or to swap them over the coming twelve months: what their worth falls
//! by, over the nights to come.

use crate::gear::System;
use crate::quantity::{Money, div_half_even};
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::collections::BTreeMap;

/// By how much of itself a worth falls in a year, in per cent, for each system of [`System::ALL`]: rules of thumb until the walker says
/// otherwise.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct FallRates([u32; System::ALL.len()]);

impl Default for FallRates {
    fn default() -> FallRates {
        let usual = |system: &System| match system {
            System::Sleep => 15,
            System::Pack | System::Shelter | System::Kitchen | System::Food => 20,
            System::Way | System::Comfort | System::Other => 25,
            System::Clothes | System::Rain | System::Water => 30,
            System::Power => 35,
            System::Worn => 40,
            System::Wash | System::Aid => 50,
        };
        let mut rates = [0; System::ALL.len()];
        System::ALL.iter().zip(&mut rates).for_each(|(system, rate)| *rate = usual(system));
        FallRates(rates)
    }
}

impl FallRates {
    /// The rate of a system.
    pub fn of(&self, system: System) -> u32 {
        System::ALL.iter().zip(self.0).find(|(one, _)| **one == system).map_or(0, |(_, rate)| rate)
    }

    /// The rates, each with its system.
    pub fn iter(&self) -> impl Iterator<Item = (System, u32)> {
        System::ALL.iter().copied().zip(self.0)
    }
}

impl Serialize for FallRates {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_map(self.iter())
    }
}

impl<'de> Deserialize<'de> for FallRates {
    /// Systems that are not named have their usual rate.
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<FallRates, D::Error> {
        let said: BTreeMap<System, u32> = BTreeMap::deserialize(deserializer)?;
        let mut rates = FallRates::default();
        for (system, rate) in System::ALL.iter().zip(&mut rates.0) {
            *rate = said.get(system).copied().unwrap_or(*rate);
        }
        Ok(rates)
    }
}

/// Days of a year.
const YEAR: u32 = 365;
/// Parts of a minor unit in which worths are held while they fall.
const PARTS: i128 = 1_000_000;
/// After so many years nothing is left to fall.
const MOST_YEARS: u32 = 200;

/// What is left of a worth some days after it was said, at a rate in per cent a year: year by year of what is left, and evenly within a year. Half to
/// even.
pub fn worth_after(said: Money, percent: u32, days: u32) -> Money {
    let percent = i128::from(percent.min(100));
    let mut parts = i128::from(said.minor()) * PARTS;
    for _ in 0..(days / YEAR).min(MOST_YEARS) {
        parts = parts * (100 - percent) / 100;
    }
    let year = i128::from(YEAR) * 100;
    let minor = div_half_even(parts * (year - percent * i128::from(days % YEAR)), year * PARTS);
    i64::try_from(minor).map_or(said, Money::from_minor)
}

/// Pieces of a thing over the coming twelve months.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Holding {
    /// What they are worth today.
    pub now: Money,
    /// What they are worth in a year, if they are carried until then; nothing once they are worn out.
    pub then: Money,
    /// And if they lie at home.
    pub unused: Money,
    /// Nights for which they are carried, until they are worn out.
    pub nights: u32,
    /// Whether that is before the year is over.
    pub wears_out: bool,
}

/// What is known of a thing that is held.
#[derive(Debug, Clone, Copy)]
pub struct Held {
    /// What its pieces were said to be worth.
    pub said: Money,
    /// How many days ago.
    pub days: u32,
    /// By how much of itself that falls in a year, in per cent.
    pub percent: u32,
    /// Nights of use so far.
    pub used: u32,
    /// After how many nights it is worn out; `None` if nobody said.
    pub lasts: Option<u32>,
}

impl Held {
    /// The coming twelve months, in which it is carried for so many nights.
    pub fn over(self, nights: u32) -> Holding {
        let left = self.lasts.map(|lasts| lasts.saturating_sub(self.used));
        let wears_out = left.is_some_and(|left| nights > 0 && nights >= left);
        let unused = worth_after(self.said, self.percent, self.days.saturating_add(YEAR));
        Holding {
            now: worth_after(self.said, self.percent, self.days),
            then: if wears_out { Money::ZERO } else { unused },
            unused,
            nights: left.map_or(nights, |left| nights.min(left)),
            wears_out,
        }
    }
}

impl Holding {
    /// What keeping them costs over the year.
    pub fn costs(&self) -> Money {
        self.now - self.then
    }
}

/// What a swap costs over the year: what is paid for it less what it brings, and what of all that is owned is worth less in the end. `new` is
/// what the new things are worth then; what comes off is sold, or lies at home.
pub fn swap_costs(net: Money, off: Holding, is_sold: bool, new: Money) -> Money {
    let left = if is_sold { Money::ZERO } else { off.unused };
    net + off.now - left - new
}

/// What a night costs of so many; `None` without any. Half to even.
pub fn by_night(costs: Money, nights: u32) -> Option<Money> {
    let each = (nights > 0).then(|| div_half_even(costs.minor().into(), nights.into()))?;
    i64::try_from(each).ok().map(Money::from_minor)
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "worths, recomputed plainly")]
mod tests {
    use super::{FallRates, Held, by_night, swap_costs, worth_after};
    use crate::gear::System;
    use crate::quantity::Money;
    use proptest::prelude::*;

    const fn money(minor: i64) -> Money {
        Money::from_minor(minor)
    }

    #[test]
    fn by_hand() {
        // 100 at 20 % a year: 90 after half a year (182 of 365 days: 9.97 less), 80 after one, 64 after two.
        let left = [0, 182, 365, 730].map(|days| worth_after(money(10_000), 20, days).minor());
        assert_eq!(left, [10_000, 9_003, 8_000, 6_400]);
        // Said a year ago: 80 now, 64 in a year; 16 over eight nights.
        let held = Held { said: money(10_000), days: 365, percent: 20, used: 30, lasts: None };
        let kept = held.over(8);
        assert_eq!((kept.now.minor(), kept.then.minor(), kept.wears_out), (8_000, 6_400, false));
        assert_eq!(by_night(kept.costs(), kept.nights), Some(money(200)));
        assert_eq!(by_night(held.over(0).costs(), 0), None);
        // Worn out after 35 nights, five to come: nothing is left of it.
        let worn = Held { lasts: Some(35), ..held }.over(8);
        assert_eq!((worn.then.minor(), worn.unused.minor(), worn.nights, worn.wears_out), (0, 6_400, 5, true));
        assert_eq!(by_night(worn.costs(), worn.nights), Some(money(1_600)));
        // Not carried it lasts; worn out before, it is carried for no night more.
        assert!(!Held { lasts: Some(30), ..held }.over(0).wears_out);
        assert_eq!(Held { lasts: Some(30), ..held }.over(8).nights, 0);
        // Another for 200, the old one sold for 75: 125 are paid; 80 were there, and 150 are in the end.
        assert_eq!(swap_costs(money(12_500), kept, true, money(15_000)), money(5_500));
        // Or kept: 200 are paid, and what lies at home is worth 64.
        assert_eq!(swap_costs(money(20_000), kept, false, money(15_000)), money(6_600));
    }

    #[test]
    fn rates_that_are_not_said_are_the_usual_ones() {
        let rates: FallRates = serde_json::from_str(r#"{ "sleep": 5 }"#).unwrap();
        assert_eq!((rates.of(System::Sleep), rates.of(System::Worn)), (5, 40));
        let again: FallRates = serde_json::from_str(&serde_json::to_string(&rates).unwrap()).unwrap();
        assert_eq!(again, rates);
        assert!(serde_json::from_str::<FallRates>(r#"{ "hats": 5 }"#).is_err());
    }

    proptest! {
        #[test]
        fn a_worth_falls_as_its_rate_says(minor in 0..1_000_000_000_i64, percent in 0..=100_i64, days in 0..4_500_i64) {
            let worth = |days: i64| worth_after(money(minor), percent.try_into().unwrap(), days.try_into().unwrap()).minor();
            let found = worth(days);
            // As a fraction, whole.
            let years = u32::try_from(days / 365).unwrap();
            let over = 36_500 * 100_i128.pow(years);
            let plain = i128::from(minor) * i128::from(100 - percent).pow(years) * i128::from(36_500 - percent * (days % 365));
            prop_assert!(2 * (i128::from(found) * over - plain).abs() <= over + over / 1_000, "{found} {plain} / {over}");
            prop_assert!(worth(days + 1) <= found);
        }
    }
}
