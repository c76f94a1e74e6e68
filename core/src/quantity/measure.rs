//! Temperature, volume, energy and distance: one figure and its unit, read exactly and held whole.

use super::number::{
    Fraction, Quantity, Reason, Refused, Token, div_half_even, grouped, product, tokens, with_decimals,
};
use crate::limits;
use serde::{Deserialize, Serialize};

/// The system of units in which figures are shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Units {
    /// Celsius, litres, kilometres.
    Metric,
    /// Fahrenheit, cubic inches or fluid ounces, miles.
    Imperial,
}

/// Tenths of a degree Celsius.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(transparent)]
pub struct Temperature(i64);

/// Millilitres.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(transparent)]
pub struct Volume(i64);

/// Milliwatt hours.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(transparent)]
pub struct Energy(i64);

/// Metres.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(transparent)]
pub struct Distance(i64);

/// What is measured, which settles how an imperial volume is shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Vessel {
    /// A pack: cubic inches.
    Pack,
    /// A bottle or a pot: fluid ounces.
    Bottle,
}

/// Millivolts of the lithium cells by which a bank's charge is rated, where no voltage is typed.
const CELL_MILLIVOLTS: i128 = 3_700;

impl Temperature {
    /// From tenths of a degree Celsius.
    pub const fn from_tenths(tenths: i64) -> Temperature {
        Temperature(tenths)
    }

    /// Tenths of a degree Celsius.
    pub const fn tenths(self) -> i64 {
        self.0
    }

    /// Reads `-5`, `-5 C`, `20 °F`; a bare number is in the given system's unit. From −90 °C to 60 °C; converts once,
    /// half to even.
    ///
    /// # Errors
    /// [`Refused`] for text that is no such figure.
    pub fn parse(typed: &str, units: Units) -> Result<Temperature, Refused> {
        let accepted = "a temperature such as -5, -5 C or 20 F, from -90 C to 60 C";
        Self::read(typed, units).map_err(|reason| Refused::new(typed.trim(), Quantity::Temperature, reason, accepted))
    }

    fn read(typed: &str, units: Units) -> Result<Temperature, Reason> {
        let text = typed.trim().replace('°', " ");
        let (below, text) = match text.strip_prefix(['-', '−']) {
            Some(rest) => (true, rest),
            None => (false, text.strip_prefix('+').unwrap_or(&text)),
        };
        let (Fraction { num, den }, unit) = one_figure(text)?;
        let num = if below { -num } else { num };
        let fahrenheit = match unit.as_deref() {
            None => units == Units::Imperial,
            Some("c" | "celsius") => false,
            Some("f" | "fahrenheit") => true,
            Some(other) => return Err(Reason::UnknownUnit { unit: other.to_owned() }),
        };
        // (F − 32) × 5/9 degrees, in tenths.
        let tenths =
            if fahrenheit { div_half_even((num - 32 * den) * 50, 9 * den) } else { div_half_even(num * 10, den) };
        within(tenths, limits::TENTHS_OF_DEGREE.0, limits::TENTHS_OF_DEGREE.1).map(Temperature)
    }

    /// Reads a difference, `3`, `3 C`, `5 F`, in tenths of a degree Celsius: a bare number is in the given system's unit.
    ///
    /// # Errors
    /// [`Refused`] for text that is no such figure.
    pub fn parse_difference(typed: &str, units: Units) -> Result<i64, Refused> {
        let zero = |text: &str| Self::parse(text, units);
        let far = Self::parse(typed, units)?;
        // 0 °F is no difference of 0 °C: what 0 of the same unit stands for is taken away.
        let in_fahrenheit =
            typed.to_lowercase().contains('f') || (units == Units::Imperial && !typed.to_lowercase().contains('c'));
        let from = if in_fahrenheit { zero("0 F")? } else { zero("0 C")? };
        Ok(far.tenths() - from.tenths())
    }

    /// As text: `−5 °C`, `2.5 °C`, `23 °F`. Fahrenheit in whole degrees, half to even.
    pub fn format(self, units: Units) -> String {
        let tenths = i128::from(self.0);
        match units {
            Units::Metric if tenths % 10 == 0 => format!("{} °C", with_decimals(tenths / 10, 0)),
            Units::Metric => format!("{} °C", with_decimals(tenths, 1)),
            Units::Imperial => format!("{} °F", with_decimals(div_half_even(tenths * 9 + 1_600, 50), 0)),
        }
    }
}

impl Volume {
    /// From whole millilitres.
    pub const fn from_ml(ml: i64) -> Volume {
        Volume(ml)
    }

    /// Whole millilitres.
    pub const fn ml(self) -> i64 {
        self.0
    }

    /// Reads `2 L`, `750 ml`, `3100 cu in`, `20 fl oz`; a bare number is litres. 1 in³ is 16.387064 ml and one US fluid
    /// ounce 29.5735295625 ml, exactly. Up to 500 l.
    ///
    /// # Errors
    /// [`Refused`] for text that is no such figure.
    pub fn parse(typed: &str) -> Result<Volume, Refused> {
        let accepted = "a volume such as 2 L, 750 ml, 3100 cu in or 20 fl oz, up to 500 L";
        let read = || {
            let (number, unit) = one_figure(&typed.replace("in³", "cu in").replace("in^3", "cu in"))?;
            let millilitres = match unit.as_deref() {
                None | Some("l" | "litre" | "litres" | "liter" | "liters") => (1_000, 1),
                Some("dl") => (100, 1),
                Some("cl") => (10, 1),
                Some("ml") => (1, 1),
                Some("cu in" | "cuin" | "ci") => (16_387_064, 1_000_000),
                Some("fl oz" | "floz") => (295_735_295_625, 10_000_000_000),
                Some(other) => return Err(Reason::UnknownUnit { unit: other.to_owned() }),
            };
            scaled(number, millilitres, limits::VOLUME_ML).map(Volume)
        };
        read().map_err(|reason| Refused::new(typed.trim(), Quantity::Volume, reason, accepted))
    }

    /// As text: `45 l`, `0.75 l`, `2 746 cu in`, `20 fl oz`. Rounds half to even, litres to two decimals at most.
    pub fn format(self, units: Units, vessel: Vessel) -> String {
        let ml = i128::from(self.0);
        match (units, vessel) {
            (Units::Metric, _) => {
                let text = with_decimals(div_half_even(ml, 10), 2);
                format!("{} l", text.trim_end_matches('0').trim_end_matches('.'))
            }
            (Units::Imperial, Vessel::Pack) => format!("{} cu in", grouped(div_half_even(ml * 1_000_000, 16_387_064))),
            (Units::Imperial, Vessel::Bottle) => {
                format!("{} fl oz", grouped(div_half_even(ml * 10_000_000_000, 295_735_295_625)))
            }
        }
    }
}

impl Energy {
    /// From whole milliwatt hours.
    pub const fn from_mwh(mwh: i64) -> Energy {
        Energy(mwh)
    }

    /// Whole milliwatt hours.
    pub const fn mwh(self) -> i64 {
        self.0
    }

    /// Reads `37 Wh`, `10000 mAh`, `5 Ah`, and a charge with its voltage (`10000 mAh 5 V`, `10000 mAh at 5 V`). A charge
    /// without one is at 3.7 V; a bare number is watt hours. Up to 10 kWh.
    ///
    /// # Errors
    /// [`Refused`] for text that is no such figure.
    pub fn parse(typed: &str) -> Result<Energy, Refused> {
        let accepted = "an energy such as 37 Wh, 10000 mAh or 10000 mAh at 5 V, up to 10000 Wh";
        Self::read(typed).map_err(|reason| Refused::new(typed.trim(), Quantity::Energy, reason, accepted))
    }

    fn read(typed: &str) -> Result<Energy, Reason> {
        let lower = typed.to_lowercase();
        let (figure, volts) = match lower.find("ah") {
            Some(at) => lower.split_at(at + 2),
            None => (lower.as_str(), ""),
        };
        let (number, unit) = one_figure(figure)?;
        let milliwatt_hours = match unit.as_deref() {
            None | Some("wh") => (1_000, 1),
            Some("mwh") => (1, 1),
            Some("kwh") => (1_000_000, 1),
            Some(charge @ ("mah" | "ah")) => {
                let per_milliamp_hour = if charge == "ah" { 1_000 } else { 1 };
                let Fraction { num, den } = millivolts(volts)?;
                (num * per_milliamp_hour, den * 1_000)
            }
            Some(other) => return Err(Reason::UnknownUnit { unit: other.to_owned() }),
        };
        scaled(number, milliwatt_hours, limits::ENERGY_MWH).map(Energy)
    }

    /// As text, the charge at 3.7 V beside it: `37 Wh (10 000 mAh)`. Watt hours to one decimal, half to even.
    pub fn format(self) -> String {
        let mwh = i128::from(self.0);
        let watt_hours = with_decimals(div_half_even(mwh, 100), 1);
        let charge = grouped(div_half_even(mwh * 1_000, CELL_MILLIVOLTS));
        format!("{} Wh ({charge} mAh)", watt_hours.trim_end_matches(".0"))
    }
}

/// The voltage behind a charge, in millivolts; 3.7 V where none is typed.
fn millivolts(typed: &str) -> Result<Fraction, Reason> {
    let typed = typed.trim().trim_start_matches("at ").trim_start_matches('@');
    if typed.is_empty() {
        return Ok(Fraction { num: CELL_MILLIVOLTS, den: 1 });
    }
    let (Fraction { num, den }, unit) = one_figure(typed)?;
    match unit.as_deref() {
        Some("v") if num > 0 && num <= 100 * den => Ok(Fraction { num: num * 1_000, den }),
        Some("v") => Err(Reason::OutOfRange),
        _ => Err(Reason::NotANumber),
    }
}

impl Distance {
    /// From whole metres.
    pub const fn from_m(m: i64) -> Distance {
        Distance(m)
    }

    /// Whole metres.
    pub const fn m(self) -> i64 {
        self.0
    }

    /// Reads `12 km`, `11 mi`, `800 m`; a bare number is in the given system's unit. One mile is 1609.344 m. Up to 20 000 km.
    ///
    /// # Errors
    /// [`Refused`] for text that is no such figure.
    pub fn parse(typed: &str, units: Units) -> Result<Distance, Refused> {
        let accepted = "a distance such as 12 km, 11 mi or 800 m, up to 20000 km";
        let read = || {
            let (number, unit) = one_figure(typed)?;
            let metres = match (unit.as_deref(), units) {
                (Some("km"), _) | (None, Units::Metric) => (1_000, 1),
                (Some("mi" | "mile" | "miles"), _) | (None, Units::Imperial) => (1_609_344, 1_000),
                (Some("m"), _) => (1, 1),
                (Some(other), _) => return Err(Reason::UnknownUnit { unit: other.to_owned() }),
            };
            scaled(number, metres, limits::DISTANCE_M).map(Distance)
        };
        read().map_err(|reason| Refused::new(typed.trim(), Quantity::Distance, reason, accepted))
    }

    /// As text, to one decimal, half to even: `12.0 km`, `7.5 mi`.
    pub fn format(self, units: Units) -> String {
        let m = i128::from(self.0);
        match units {
            Units::Metric => format!("{} km", with_decimals(div_half_even(m, 100), 1)),
            Units::Imperial => format!("{} mi", with_decimals(div_half_even(m * 10_000, 1_609_344), 1)),
        }
    }
}

/// One number and the words behind it, joined by a space.
fn one_figure(typed: &str) -> Result<(Fraction, Option<String>), Reason> {
    let mut number = None;
    let mut words: Vec<String> = Vec::new();
    for token in tokens(typed)? {
        match token {
            Token::Number(found) if number.is_none() => number = Some(found),
            Token::Word { text, .. } if number.is_some() => words.push(text),
            _ => return Err(Reason::NotANumber),
        }
    }
    let number = number.ok_or(Reason::NotANumber)?;
    Ok((number, (!words.is_empty()).then(|| words.join(" "))))
}

/// A figure times its unit, rounded once, half to even, from zero to `most`.
fn scaled(number: Fraction, (num, den): (i128, i128), most: i64) -> Result<i64, Reason> {
    // The number first against the limit: what is beyond it can be too long to multiply.
    if number.num / number.den > i128::from(most) {
        return Err(Reason::OutOfRange);
    }
    let held = div_half_even(product(number.num, num)?, product(number.den, den)?);
    if held == 0 && number.num > 0 {
        return Err(Reason::TooFine);
    }
    within(held, 0, most)
}

fn within(held: i128, least: i64, most: i64) -> Result<i64, Reason> {
    i64::try_from(held).ok().filter(|held| (least..=most).contains(held)).ok_or(Reason::OutOfRange)
}
