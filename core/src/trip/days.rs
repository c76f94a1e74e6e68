//! What the pack weighs at the start of each day.

use super::supplies::ceil;
use super::{Supplies, Trip};
use crate::list::Thing;
use crate::quantity::Mass;

/// The pack day by day.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Days {
    /// Its weight at the start of each day, after a resupply of that day.
    pub starts: Vec<Mass>,
    /// The day of the heaviest start, 1 being the first; the first of equals.
    pub heaviest_day: u32,
    /// That start.
    pub heaviest: Mass,
    /// The mean of the starts, rounded down.
    pub mean: Mass,
}

/// What the pack with `things` in it weighs at the start of each day. Food, water and gas are what the trip takes, whatever the list
/// says of them: things tagged `food` or `water` count for nothing, gas cans as their shells. What the cans hold beyond the need comes along
/// to the end.
pub fn day_by_day<'a>(things: impl IntoIterator<Item = &'a Thing>, trip: &Trip, supplies: &Supplies) -> Days {
    let (mut dry, mut held) = (Mass::ZERO, Mass::ZERO);
    for thing in things.into_iter().filter(|thing| !thing.has("food") && !thing.has("water")) {
        dry = dry + thing.shell().times(thing.line.counts.packed());
        held = held + thing.gas();
    }
    let beyond = (held - supplies.gas).max(Mass::ZERO);
    let carries = trip.carries();
    let start = |day: u32| {
        let next = carries.iter().copied().find(|start| *start > day).unwrap_or(trip.days + 1);
        let water = supplies.water_on(day, trip);
        let days_left = i128::from(trip.days - day + 1);
        let gas = ceil(i128::from(supplies.gas.mg()) * days_left, i128::from(trip.days));
        dry + beyond + trip.food_of(day, next) + Mass::from_mg(water.saturating_mul(1_000)) + Mass::from_mg(gas)
    };
    let starts: Vec<Mass> = (1..=trip.days).map(start).collect();
    let (mut heaviest_day, mut heaviest) = (1, Mass::ZERO);
    for (day, mass) in (1..).zip(&starts) {
        if *mass > heaviest {
            (heaviest_day, heaviest) = (day, *mass);
        }
    }
    let sum: Mass = starts.iter().copied().sum();
    let mean = Mass::from_mg(sum.mg() / i64::from(trip.days.max(1)));
    Days { starts, heaviest_day, heaviest, mean }
}
