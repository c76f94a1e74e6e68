//! A trip: its conditions, what it uses up, and what the pack weighs day by day.

mod cover;
mod days;
mod figure;
mod loaded;
mod required;
mod supplies;

pub use cover::{COVER_STEPS, Cover, Covers, Holder, covers};
pub use days::{Days, day_by_day};
pub(crate) use figure::water;
pub use figure::{Figure, FigureError};
pub use loaded::{Load, Loaded, Part, loaded};
pub use required::{COLD_TENTH_C, Requirement, Why, kept, required, requirements};
pub use supplies::{ByThePiece, Held, Supplies, by_the_piece};

use crate::gear::Jobs;
use crate::limits;
use serde::{Deserialize, Serialize};

/// Food for a day.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(untagged, deny_unknown_fields)]
pub enum Food {
    /// A plain weight.
    Weight {
        /// Milligrams a day of three meals.
        mg_per_day: i64,
    },
    /// By its energy.
    Energy {
        /// Kilocalories a day of three meals.
        kcal_per_day: i64,
        /// Kilocalories in 100 g of it.
        kcal_per_100g: i64,
    },
    /// Packed meals, counted.
    Meals {
        /// Milligrams of one packed meal.
        mg_per_meal: i64,
    },
}

impl Food {
    /// What a day's food usually is, said in each way.
    pub const USUAL: [Food; 3] = [
        Food::Weight { mg_per_day: 700_000 },
        Food::Energy { kcal_per_day: figure::USUAL_KCAL, kcal_per_100g: figure::USUAL_KCAL_PER_100G },
        Food::Meals { mg_per_meal: 160_000 },
    ];
}

/// Something that is charged on the way.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Device {
    /// What it is; may be empty.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub name: String,
    /// Milliwatt hours of one charge.
    pub mwh: i64,
    /// Charges over the trip.
    pub charges: u32,
}

/// Things that are used by the piece: wipes, tablets.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Counted {
    /// The tag of the things on the list that are counted.
    pub tag: String,
    /// Pieces a day.
    pub per_day: u32,
}

/// The conditions of a trip. Temperatures are in tenths of a degree Celsius.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Trip {
    /// Days, 1 to 365.
    pub days: u32,
    /// Meals of the first day, 1 to 3.
    #[serde(default = "three")]
    pub first_day_meals: u32,
    /// Meals of the last day, 1 to 3. A trip of one day has the first day's.
    #[serde(default = "three")]
    pub last_day_meals: u32,
    /// Days at whose start food is fetched.
    #[serde(default)]
    pub resupply_days: Vec<u32>,
    /// What a day's food weighs.
    pub food: Food,
    /// The longest stretch without water, in metres.
    #[serde(default)]
    pub stretch_m: i64,
    /// Metres walked in an hour.
    #[serde(default)]
    pub pace_m_per_hour: i64,
    /// Millilitres drunk in an hour of walking; if `None`, 500, and 750 where it gets hotter than 25 °C.
    #[serde(default)]
    pub water_ml_per_hour: Option<i64>,
    /// Millilitres for a camp without water.
    #[serde(default)]
    pub camp_ml: i64,
    /// Millilitres carried at the start of any other day.
    #[serde(default)]
    pub start_ml: i64,
    /// The day of the longest stretch.
    #[serde(default = "one")]
    pub stretch_day: u32,
    /// Millilitres boiled in a day.
    #[serde(default)]
    pub boil_ml_per_day: i64,
    /// Milligrams of gas that boil one litre.
    #[serde(default = "usual_gas")]
    pub gas_mg_per_l: i64,
    /// Gas that is kept in reserve, in per cent of what the boiling takes.
    #[serde(default = "usual_reserve")]
    pub gas_reserve_percent: i64,
    /// What is charged.
    #[serde(default)]
    pub devices: Vec<Device>,
    /// What a power bank delivers of its rating, in per cent.
    #[serde(default = "usual_delivery")]
    pub bank_percent: i64,
    /// What is used by the piece.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub counted: Vec<Counted>,
    /// The lowest temperature that is expected.
    pub low_tenth_c: i64,
    /// The highest.
    pub high_tenth_c: i64,
    /// Whether rain is expected.
    #[serde(default, skip_serializing_if = "no")]
    pub rain: bool,
    /// Whether biting insects are.
    #[serde(default, skip_serializing_if = "no")]
    pub insects: bool,
    /// Whether nobody else comes along.
    #[serde(default, skip_serializing_if = "no")]
    pub alone: bool,
    /// Whether there is snow underfoot.
    #[serde(default)]
    pub snow: bool,
    /// Whether an animal-proof container is compulsory.
    #[serde(default)]
    pub container_compulsory: bool,
    /// Whether a flight is part of the way.
    #[serde(default)]
    pub flight: bool,
    /// Whether fires and stoves are banned.
    #[serde(default)]
    pub fire_ban: bool,
    /// What the trip requires of each job.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = std::collections::BTreeMap<String, i64>))]
    pub requires: Jobs,
}

const fn one() -> u32 {
    1
}
const fn three() -> u32 {
    3
}
/// 12 g of gas boil a litre in calm, mild weather: a rule of thumb.
const fn usual_gas() -> i64 {
    12_000
}
/// A fifth is kept in reserve for wind and cold: a rule of thumb.
const fn usual_reserve() -> i64 {
    20
}
/// Banks lose a third in turning voltages and as heat: a rule of thumb.
const fn usual_delivery() -> i64 {
    65
}
#[allow(clippy::trivially_copy_pass_by_ref, reason = "serde asks for a reference")]
const fn no(flag: &bool) -> bool {
    !*flag
}

/// The most days of a trip.
pub const DAYS: u32 = 365;
/// The most devices, and the most things that are counted by the piece.
pub const DEVICES: usize = 50;

/// What is wrong with a trip: the field, and what is accepted there.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{field}: expected {expected}, found {found}")]
pub struct TripError {
    /// The field (`resupply_days[1]`).
    pub field: String,
    /// What would be accepted.
    pub expected: String,
    /// What is there.
    pub found: i64,
}

impl Trip {
    /// A trip to begin with: three mild days, whose first begins with lunch and whose last ends with it.
    pub fn mild() -> Trip {
        Trip { first_day_meals: 2, last_day_meals: 2, boil_ml_per_day: 2_000, ..Trip::plain(3, 50, 180) }
    }

    /// A trip of so many days between two temperatures, with 700 g of food a day and nothing else said.
    pub fn plain(days: u32, low_tenth_c: i64, high_tenth_c: i64) -> Trip {
        Trip {
            days,
            first_day_meals: 3,
            last_day_meals: 3,
            resupply_days: Vec::new(),
            food: Food::USUAL[0],
            stretch_m: 0,
            pace_m_per_hour: 4_000,
            water_ml_per_hour: None,
            camp_ml: 0,
            start_ml: 1_000,
            stretch_day: 1,
            boil_ml_per_day: 0,
            gas_mg_per_l: usual_gas(),
            gas_reserve_percent: usual_reserve(),
            devices: Vec::new(),
            bank_percent: usual_delivery(),
            counted: Vec::new(),
            low_tenth_c,
            high_tenth_c,
            rain: false,
            insects: false,
            alone: false,
            snow: false,
            container_compulsory: false,
            flight: false,
            fire_ban: false,
            requires: Jobs::new(),
        }
    }

    /// Whether every figure is one that a trip can have.
    ///
    /// # Errors
    /// [`TripError`] with the first field that is not, in the order in which they stand.
    pub fn check(&self) -> Result<(), TripError> {
        let in_days = i64::from(self.days);
        within("days", in_days, (1, i64::from(DAYS)), "days, 1 to 365")?;
        within("first_day_meals", i64::from(self.first_day_meals), (1, 3), "1 to 3 meals")?;
        within("last_day_meals", i64::from(self.last_day_meals), (1, 3), "1 to 3 meals")?;
        for (at, day) in self.resupply_days.iter().enumerate() {
            let field = format!("resupply_days[{at}]");
            within(&field, i64::from(*day), (1, in_days), &format!("a day of the trip, 1 to {in_days}"))?;
            if self.resupply_days[..at].contains(day) {
                return Err(wrong(&field, "each day once", i64::from(*day)));
            }
        }
        match self.food {
            Food::Weight { mg_per_day } => within("food.mg_per_day", mg_per_day, (0, limits::MASS_MG), MASS)?,
            Food::Meals { mg_per_meal } => within("food.mg_per_meal", mg_per_meal, (0, limits::MASS_MG), MASS)?,
            Food::Energy { kcal_per_day, kcal_per_100g } => {
                within("food.kcal_per_day", kcal_per_day, (0, 20_000), "kilocalories, up to 20000")?;
                within("food.kcal_per_100g", kcal_per_100g, (1, 900), "kilocalories, 1 to 900; pure fat has 900")?;
            }
        }
        within("stretch_m", self.stretch_m, (0, limits::DISTANCE_M), "metres, not below 0")?;
        within("pace_m_per_hour", self.pace_m_per_hour, (0, 20_000), "metres an hour, up to 20000")?;
        if self.stretch_m > 0 && self.pace_m_per_hour == 0 {
            return Err(wrong("pace_m_per_hour", "a pace above 0 where there is a stretch to walk", 0));
        }
        within("water_ml_per_hour", self.water_ml_per_hour.unwrap_or_default(), (0, 5_000), "ml an hour, up to 5000")?;
        within("camp_ml", self.camp_ml, (0, limits::VOLUME_ML), VOLUME)?;
        within("start_ml", self.start_ml, (0, limits::VOLUME_ML), VOLUME)?;
        within(
            "stretch_day",
            i64::from(self.stretch_day),
            (1, in_days),
            &format!("a day of the trip, 1 to {in_days}"),
        )?;
        within("boil_ml_per_day", self.boil_ml_per_day, (0, limits::VOLUME_ML), VOLUME)?;
        within("gas_mg_per_l", self.gas_mg_per_l, (0, 1_000_000), "milligrams of gas a litre, up to 1000000")?;
        within("gas_reserve_percent", self.gas_reserve_percent, (0, 200), "per cent in reserve, up to 200")?;
        within("bank_percent", self.bank_percent, (1, 100), "per cent of its rating, 1 to 100")?;
        let too_many = |many: usize| i64::try_from(many).unwrap_or(i64::MAX);
        within("devices", too_many(self.devices.len()), (0, too_many(DEVICES)), "50 devices at most")?;
        for (at, device) in self.devices.iter().enumerate() {
            within(&format!("devices[{at}].mwh"), device.mwh, (0, limits::ENERGY_MWH), "mWh, not below 0")?;
            within(&format!("devices[{at}].charges"), i64::from(device.charges), (0, 1_000), "charges, up to 1000")?;
        }
        within("counted", too_many(self.counted.len()), (0, too_many(DEVICES)), "50 things at most")?;
        for (at, counted) in self.counted.iter().enumerate() {
            within(&format!("counted[{at}].per_day"), i64::from(counted.per_day), (0, 1_000), "pieces, up to 1000")?;
        }
        let (coldest, hottest) = limits::TENTHS_OF_DEGREE;
        within("low_tenth_c", self.low_tenth_c, (coldest, hottest), "tenths of a degree, -900 to 600")?;
        within("high_tenth_c", self.high_tenth_c, (coldest, hottest), "tenths of a degree, -900 to 600")?;
        for (job, amount) in &self.requires {
            within(&format!("requires.{}", job.as_str()), *amount, (0, limits::JOB_AMOUNT), "an amount, not below 0")?;
        }
        Ok(())
    }

    /// Meals of a day, 1 being the first.
    fn meals(&self, day: u32) -> u32 {
        match day {
            1 => self.first_day_meals,
            day if day == self.days => self.last_day_meals,
            _ => 3,
        }
    }

    /// Meals of all days.
    pub(crate) fn all_meals(&self) -> u32 {
        (1..=self.days).map(|day| self.meals(day)).sum()
    }

    /// The days on which each carry of food begins, in order.
    fn carries(&self) -> Vec<u32> {
        let mut starts: Vec<u32> = std::iter::once(1).chain(self.resupply_days.iter().copied()).collect();
        starts.sort_unstable();
        starts
    }
}

const MASS: &str = "milligrams, from 0 to 200 kg";
const VOLUME: &str = "millilitres, from 0 to 500 l";

fn within(field: &str, value: i64, (low, high): (i64, i64), expected: &str) -> Result<(), TripError> {
    if (low..=high).contains(&value) { Ok(()) } else { Err(wrong(field, expected, value)) }
}

fn wrong(field: &str, expected: &str, found: i64) -> TripError {
    TripError { field: field.to_owned(), expected: expected.to_owned(), found }
}
