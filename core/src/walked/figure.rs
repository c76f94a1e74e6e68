//! Figures of a trip that was walked, as they are typed, in the walker's units or with units of their own.

use super::{Met, UsedUp};
use crate::limits;
use crate::quantity::{Distance, Energy, Mass, MassUnit, Refused, Temperature, Units};
use crate::trip::water;
use serde::{Deserialize, Serialize};

/// A figure that is typed; nothing typed is nothing known.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum WalkFigure {
    /// The lowest temperature.
    Low,
    /// The longest stretch without water.
    Stretch,
    /// What the gas cans weighed before.
    GasTaken,
    /// And after.
    GasBack,
    /// What was boiled in all.
    Boiled,
    /// Food that was taken.
    FoodTaken,
    /// What came back of it.
    FoodBack,
    /// What was drunk while walking.
    Drunk,
    /// Hours walked: `21`, `21.5 h`, `21 h 30`, `21:30`.
    Walked,
    /// What the power banks held.
    PowerTaken,
    /// What was left, or how much of it in per cent: `40 %`.
    PowerBack,
}

/// Why a figure was not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum WalkFigureError {
    /// It is no such quantity.
    #[error(transparent)]
    Refused(#[from] Refused),
    /// It is no number of hours.
    #[error("\"{0}\" is not read as hours. Type 21, 21.5 or 21:30.")]
    NotHours(String),
    /// It is no share of what was taken.
    #[error("\"{0}\" can't be told: type what the banks held first, and from 0 to 100 %.")]
    NoShare(String),
}

/// Takes a typed figure into what was met and used up. Bare numbers are in `units`: degrees, kilometres or miles, litres or fluid ounces, `mass`,
/// and watt hours.
///
/// # Errors
/// [`WalkFigureError`] for text that is no such figure.
pub fn take(
    (met, used): (&mut Met, &mut UsedUp),
    figure: WalkFigure,
    typed: &str,
    units: Units,
    mass: MassUnit,
) -> Result<(), WalkFigureError> {
    let text = typed.trim();
    let weight = || Ok(Mass::parse(text, mass)?.mg());
    let water = || Ok(water(text, units)?.ml());
    let power = || Ok(Energy::parse(text)?.mwh());
    let held = |read: &dyn Fn() -> Result<i64, WalkFigureError>| (!text.is_empty()).then(read).transpose();
    match figure {
        WalkFigure::Low => met.low_tenth_c = held(&|| Ok(Temperature::parse(text, units)?.tenths()))?,
        WalkFigure::Stretch => met.stretch_m = held(&|| Ok(Distance::parse(text, units)?.m()))?,
        WalkFigure::GasTaken => used.gas_taken_mg = held(&weight)?,
        WalkFigure::GasBack => used.gas_back_mg = held(&weight)?,
        WalkFigure::Boiled => used.boiled_ml = held(&water)?,
        WalkFigure::FoodTaken => used.food_taken_mg = held(&weight)?,
        WalkFigure::FoodBack => used.food_back_mg = held(&weight)?,
        WalkFigure::Drunk => used.drunk_ml = held(&water)?,
        WalkFigure::Walked => used.walked_min = held(&|| minutes(text))?,
        WalkFigure::PowerTaken => used.power_taken_mwh = held(&power)?,
        WalkFigure::PowerBack => {
            let share = text.strip_suffix('%').map(str::trim_end);
            used.power_back_mwh = match share {
                Some(share) => {
                    Some(part(used.power_taken_mwh, share).ok_or(WalkFigureError::NoShare(text.to_owned()))?)
                }
                None => held(&power)?,
            };
        }
    }
    Ok(())
}

/// So many per cent of an amount.
fn part(of: Option<i64>, share: &str) -> Option<i64> {
    let share: i64 = share.parse().ok().filter(|share| (0..=100).contains(share))?;
    of?.checked_mul(share).map(|product| product / 100)
}

/// Hours and minutes, or hours with at most two decimals, in minutes.
fn minutes(text: &str) -> Result<i64, WalkFigureError> {
    let refused = || WalkFigureError::NotHours(text.to_owned());
    let whole = |digits: &str| -> Result<i64, WalkFigureError> {
        let digits = digits.trim();
        let is_number = !digits.is_empty() && digits.len() <= 5 && digits.bytes().all(|byte| byte.is_ascii_digit());
        if is_number { digits.parse().map_err(|_| refused()) } else { Err(refused()) }
    };
    let text = text.strip_suffix("min").unwrap_or(text).trim();
    let found = if let Some((hours, minutes)) = text.split_once([':', 'h']).filter(|(_, rest)| !rest.trim().is_empty())
    {
        let minutes = whole(minutes)?;
        if minutes > 59 {
            return Err(refused());
        }
        whole(hours)? * 60 + minutes
    } else {
        let hours = text.strip_suffix('h').unwrap_or(text).trim();
        match hours.split_once(['.', ',']) {
            None => whole(hours)? * 60,
            Some((hours, decimals)) if decimals.len() <= 2 => {
                let hundredths = whole(decimals)? * if decimals.len() == 1 { 10 } else { 1 };
                whole(hours)? * 60 + hundredths * 60 / 100
            }
            Some(_) => return Err(refused()),
        }
    };
    if found <= limits::WALKED_MIN { Ok(found) } else { Err(refused()) }
}
