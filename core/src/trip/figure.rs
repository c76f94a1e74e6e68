//! Figures of a trip as they are typed, in the walker's units or with units of their own.

use super::{Device, Food, Trip};
use crate::quantity::{Distance, Energy, Mass, MassUnit, Refused, Temperature, Units, Volume, div_half_even};
use serde::{Deserialize, Serialize};

/// A figure of a trip that is typed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Figure {
    /// Days, a whole number.
    Days,
    /// Meals of the first day.
    FirstDayMeals,
    /// Meals of the last day.
    LastDayMeals,
    /// Days at whose start food is fetched, parted by commas or spaces; nothing for none.
    ResupplyDays,
    /// The lowest temperature.
    Low,
    /// The highest.
    High,
    /// What a day's food weighs.
    FoodPerDay,
    /// What one packed meal weighs.
    FoodPerMeal,
    /// Kilocalories a day.
    KcalPerDay,
    /// Kilocalories in 100 g.
    #[serde(rename = "kcal_per_100g")]
    KcalPer100g,
    /// The longest stretch without water.
    Stretch,
    /// Its day.
    StretchDay,
    /// What is walked in an hour.
    Pace,
    /// What is drunk in an hour; nothing for the usual.
    WaterPerHour,
    /// Water for a dry camp.
    Camp,
    /// Water at the start of any other day.
    Start,
    /// Water boiled in a day.
    Boil,
    /// Gas that boils a litre.
    GasPerLitre,
    /// What is drawn from power banks in a day, of their rating; it takes the place of all devices.
    PowerPerDay,
}

/// Why a figure was not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum FigureError {
    /// It is no such quantity.
    #[error(transparent)]
    Refused(#[from] Refused),
    /// It is no whole number.
    #[error("\"{typed}\" is not read as {what}. Type {accepted}.")]
    NotWhole {
        /// As typed.
        typed: String,
        /// What it should be.
        what: &'static str,
        /// What would be accepted.
        accepted: &'static str,
    },
}

impl Trip {
    /// Takes a typed figure. Bare numbers are in `units`: degrees, kilometres or miles, litres or fluid ounces, and `mass`. Whether a trip
    /// can have the figure is for [`Trip::check`] to say.
    ///
    /// # Errors
    /// [`FigureError`] for text that is no such figure.
    pub fn take(&mut self, figure: Figure, typed: &str, units: Units, mass: MassUnit) -> Result<(), FigureError> {
        let whole = |what, accepted| {
            let refused = || FigureError::NotWhole { typed: typed.trim().to_owned(), what, accepted };
            typed.trim().parse::<u32>().map_err(|_| refused())
        };
        let count = || whole("a number of days or meals", "a whole number such as 3");
        let kcal = || whole("kilocalories", "a whole number such as 2900").map(i64::from);
        let ml = || water(typed, units).map(Volume::ml);
        let weight = || Mass::parse(typed, mass).map(Mass::mg);
        let degrees = || Temperature::parse(typed, units).map(Temperature::tenths);
        match figure {
            Figure::Days => self.days = count()?,
            Figure::FirstDayMeals => self.first_day_meals = count()?,
            Figure::LastDayMeals => self.last_day_meals = count()?,
            Figure::ResupplyDays => self.resupply_days = days(typed)?,
            Figure::Low => self.low_tenth_c = degrees()?,
            Figure::High => self.high_tenth_c = degrees()?,
            Figure::FoodPerDay => self.food = Food::Weight { mg_per_day: weight()? },
            Figure::FoodPerMeal => self.food = Food::Meals { mg_per_meal: weight()? },
            Figure::KcalPerDay => self.food = Food::Energy { kcal_per_day: kcal()?, kcal_per_100g: self.dense() },
            Figure::KcalPer100g => {
                let kcal_per_day = match self.food {
                    Food::Energy { kcal_per_day, .. } => kcal_per_day,
                    _ => USUAL_KCAL,
                };
                self.food = Food::Energy { kcal_per_day, kcal_per_100g: kcal()? };
            }
            Figure::Stretch => self.stretch_m = Distance::parse(typed, units)?.m(),
            Figure::StretchDay => self.stretch_day = count()?,
            Figure::Pace => {
                let in_an_hour = typed.trim().trim_end_matches(['h', '/', ' ']);
                self.pace_m_per_hour = Distance::parse(in_an_hour, units)?.m();
            }
            Figure::WaterPerHour if typed.trim().is_empty() => self.water_ml_per_hour = None,
            Figure::WaterPerHour => self.water_ml_per_hour = Some(ml()?),
            Figure::Camp => self.camp_ml = ml()?,
            Figure::Start => self.start_ml = ml()?,
            Figure::Boil => self.boil_ml_per_day = ml()?,
            Figure::GasPerLitre => self.gas_mg_per_l = weight()?,
            Figure::PowerPerDay => self.devices = vec![self.drawing(Energy::parse(typed)?.mwh())],
        }
        Ok(())
    }

    /// What is charged if so much a day of their rating is drawn from banks.
    fn drawing(&self, mwh_per_day: i64) -> Device {
        let rated = i128::from(mwh_per_day) * i128::from(self.days);
        let delivered = div_half_even(rated * i128::from(self.bank_percent), 100);
        let mwh = i64::try_from(delivered).unwrap_or(i64::MAX);
        Device { name: "as on other trips".to_owned(), mwh, charges: 1 }
    }

    /// Kilocalories in 100 g of the trip's food.
    fn dense(&self) -> i64 {
        match self.food {
            Food::Energy { kcal_per_100g, .. } => kcal_per_100g,
            _ => USUAL_KCAL_PER_100G,
        }
    }
}

/// Kilocalories of a day's walking, and in 100 g of food for it, where nobody says otherwise: rules of thumb.
pub(super) const USUAL_KCAL: i64 = 2_900;
pub(super) const USUAL_KCAL_PER_100G: i64 = 420;

/// A volume of water; a bare number is in litres or in fluid ounces.
pub(crate) fn water(typed: &str, units: Units) -> Result<Volume, Refused> {
    let is_bare = typed.trim().chars().all(|c| !c.is_alphabetic());
    match units {
        Units::Imperial if is_bare => Volume::parse(&format!("{} fl oz", typed.trim())),
        _ => Volume::parse(typed),
    }
}

fn days(typed: &str) -> Result<Vec<u32>, FigureError> {
    let days = typed.split([',', ';', ' ']).filter(|day| !day.is_empty()).map(|day| {
        let (what, accepted) = ("days", "their numbers, such as 3, 6; or nothing");
        day.parse().map_err(|_| FigureError::NotWhole { typed: typed.trim().to_owned(), what, accepted })
    });
    days.collect()
}
