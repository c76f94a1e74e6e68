//! What a trip uses up, and what the list holds of it.

use super::{Counted, Food, Trip};
use crate::list::{Place, Thing, job_sum};
use crate::quantity::Mass;

/// What a trip takes. Each figure is rounded up, once.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Supplies {
    /// Food of each carry, from the start and from each resupply.
    pub food_by_carry: Vec<Mass>,
    /// Water for the longest stretch and a dry camp, in millilitres.
    pub water_ml: i64,
    /// Gas, with its reserve.
    pub gas: Mass,
    /// What devices draw from banks, in milliwatt hours of the banks' rating.
    pub power_mwh: i64,
}

/// What a list holds of the same.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Held {
    /// Food, by the tag `food`.
    pub food: Mass,
    /// What the containers take, in millilitres.
    pub water_ml: i64,
    /// Gas in full cans.
    pub gas: Mass,
    /// What the banks are rated, in milliwatt hours.
    pub power_mwh: i64,
}

/// Things used by the piece, against what is on the list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ByThePiece {
    /// Their tag.
    pub tag: String,
    /// Pieces that the trip takes.
    pub takes: i64,
    /// Pieces that come along.
    pub there: i64,
}

/// What a trip uses by the piece, against the things tagged so.
pub fn by_the_piece(trip: &Trip, things: &[Thing]) -> Vec<ByThePiece> {
    let count = |counted: &Counted| ByThePiece {
        tag: counted.tag.clone(),
        takes: i64::from(counted.per_day) * i64::from(trip.days),
        there: things.iter().filter(|thing| thing.has(&counted.tag)).map(|thing| thing.line.counts.at_work()).sum(),
    };
    trip.counted.iter().map(count).collect()
}

/// Places of pieces that come along and do their jobs.
const COMING: [Place; 3] = Place::COUNTED;

impl Supplies {
    /// What a trip takes. Water is the stretch walked at the trip's pace, and the camp. Gas is what boils the water, and the trip's reserve.
    /// Banks deliver the trip's share of their rating.
    pub fn of(trip: &Trip) -> Supplies {
        let starts = trip.carries();
        let ends = starts.iter().skip(1).copied().chain([trip.days + 1]);
        let walked =
            ceil(i128::from(trip.stretch_m) * i128::from(trip.ml_per_hour()), i128::from(trip.pace_m_per_hour.max(1)));
        let boiled = i128::from(trip.boil_ml_per_day) * i128::from(trip.days) * i128::from(trip.gas_mg_per_l);
        let drawn: i128 = trip.devices.iter().map(|d| i128::from(d.mwh) * i128::from(d.charges)).sum();
        Supplies {
            food_by_carry: starts.iter().zip(ends).map(|(from, to)| trip.food_of(*from, to)).collect(),
            water_ml: walked.saturating_add(trip.camp_ml),
            gas: Mass::from_mg(ceil(boiled * i128::from(100 + trip.gas_reserve_percent), 100_000)),
            power_mwh: ceil(drawn * 100, i128::from(trip.bank_percent.max(1))),
        }
    }
}

impl Supplies {
    /// What is carried of water at the start of a day, in millilitres.
    pub fn water_on(&self, day: u32, trip: &Trip) -> i64 {
        if day == trip.stretch_day { trip.start_ml.max(self.water_ml) } else { trip.start_ml }
    }
}

impl Held {
    /// What things hold.
    pub fn by(things: &[&Thing]) -> Held {
        let tagged = things.iter().filter(|thing| thing.has("food"));
        Held {
            food: tagged.map(|thing| thing.load()).sum(),
            water_ml: job_sum(things.iter().copied(), "water_carried", &COMING),
            gas: things.iter().copied().map(Thing::gas).sum(),
            power_mwh: job_sum(things.iter().copied(), "power", &COMING),
        }
    }
}

impl Trip {
    /// Millilitres drunk in an hour of walking: what the walker says, or else half a litre, and three quarters above 25 °C.
    pub fn ml_per_hour(&self) -> i64 {
        self.water_ml_per_hour.unwrap_or(if self.high_tenth_c > 250 { 750 } else { 500 })
    }

    /// Food of the days from `from` to before `to`.
    pub(super) fn food_of(&self, from: u32, to: u32) -> Mass {
        let meals: u32 = (from..to).map(|day| self.meals(day)).sum();
        Mass::from_mg(ceil(i128::from(self.food_mg_per_day()) * i128::from(meals), 3))
    }

    /// Milligrams of a day's food, of three meals.
    fn food_mg_per_day(&self) -> i64 {
        match self.food {
            Food::Weight { mg_per_day } => mg_per_day,
            Food::Meals { mg_per_meal } => mg_per_meal.saturating_mul(3),
            Food::Energy { kcal_per_day, kcal_per_100g } => {
                ceil(i128::from(kcal_per_day) * 100_000, i128::from(kcal_per_100g.max(1)))
            }
        }
    }
}

/// A quotient of what is not negative, rounded up.
pub(super) fn ceil(num: i128, den: i128) -> i64 {
    i64::try_from((num + den - 1).div_euclid(den)).unwrap_or(i64::MAX)
}
