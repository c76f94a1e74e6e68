//! One's own rates of what a trip uses up, from what was really used.

use super::{UsedUp, Walk};
use crate::quantity::div_half_even;
use crate::trip::Food;

/// A rate of one's own.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Own {
    /// The median; of an even number of trips the mean of the middle two, rounded half to even.
    pub median: i64,
    /// What each trip says, trips by their positions, in their order.
    pub of: Vec<(usize, i64)>,
}

impl Own {
    fn of(of: Vec<(usize, i64)>) -> Option<Own> {
        let mut values: Vec<i64> = of.iter().map(|(_, value)| *value).collect();
        values.sort_unstable();
        let middle = values.len() / 2;
        let high = *values.get(middle)?;
        let median = if values.len() % 2 == 1 { high } else { ratio(values[middle - 1].checked_add(high)?, 1, 2)? };
        Some(Own { median, of })
    }
}

/// One's own rates, each as far as any trip says something of it.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Rates {
    /// Gas that boils a litre, in milligrams.
    pub gas_mg_per_l: Option<Own>,
    /// Food of a day of three meals, in milligrams.
    pub food_mg_per_day: Option<Own>,
    /// The same in kilocalories, of trips that were planned by energy.
    pub kcal_per_day: Option<Own>,
    /// What is drunk in an hour of walking, in millilitres.
    pub water_ml_per_hour: Option<Own>,
    /// What is drawn from banks in a day, in milliwatt hours of their rating.
    pub power_mwh_per_day: Option<Own>,
}

/// What trips say of one's own rates. A trip of which a figure is missing, or that brought back more than it took, says nothing of it.
pub fn rates<K>(walks: &[Walk<K>]) -> Rates {
    let each = |rate: fn(&Walk<K>) -> Option<i64>| {
        Own::of(walks.iter().enumerate().filter_map(|(at, walk)| Some((at, rate(walk)?))).collect())
    };
    Rates {
        gas_mg_per_l: each(gas),
        food_mg_per_day: each(food),
        kcal_per_day: each(kcal),
        water_ml_per_hour: each(water),
        power_mwh_per_day: each(power),
    }
}

fn gas<K>(walk: &Walk<K>) -> Option<i64> {
    let UsedUp { gas_taken_mg, gas_back_mg, boiled_ml, .. } = walk.used_up;
    let planned = || Some(walk.planned.as_ref()?.boil_ml_per_day.saturating_mul(walk.days()));
    ratio(used(gas_taken_mg, gas_back_mg)?, 1_000, boiled_ml.or_else(planned)?)
}

fn food<K>(walk: &Walk<K>) -> Option<i64> {
    let eaten = used(walk.used_up.food_taken_mg, walk.used_up.food_back_mg)?;
    // Days in which not all is eaten are planned with; of a trip that went on for longer, or shorter, every day is taken for a whole one.
    let planned = walk.planned.as_ref().filter(|planned| i64::from(planned.days) == walk.days());
    let meals = planned.map_or(3 * walk.days(), |planned| i64::from(planned.all_meals()));
    ratio(eaten, 3, meals)
}

fn kcal<K>(walk: &Walk<K>) -> Option<i64> {
    let Food::Energy { kcal_per_100g, .. } = walk.planned.as_ref()?.food else { return None };
    ratio(food(walk)?, kcal_per_100g, 100_000)
}

fn water<K>(walk: &Walk<K>) -> Option<i64> {
    ratio(walk.used_up.drunk_ml?, 60, walk.used_up.walked_min?)
}

fn power<K>(walk: &Walk<K>) -> Option<i64> {
    ratio(used(walk.used_up.power_taken_mwh, walk.used_up.power_back_mwh)?, 1, walk.days())
}

/// What was used, if it is something.
fn used(taken: Option<i64>, back: Option<i64>) -> Option<i64> {
    taken.zip(back).map(|(taken, back)| taken - back).filter(|used| *used > 0)
}

/// `amount` × `by` ÷ `over`, rounded half to even; `None` where that is nothing or too much.
fn ratio(amount: i64, by: i64, over: i64) -> Option<i64> {
    let exact = (over > 0).then(|| div_half_even(i128::from(amount) * i128::from(by), i128::from(over)))?;
    i64::try_from(exact).ok().filter(|rate| *rate > 0)
}
