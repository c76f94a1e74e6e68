//! Mass in whole milligrams.

use super::number::{
    Fraction, Quantity, Reason, Refused, Token, div_half_even, grouped, product, tokens, with_decimals,
};
use crate::limits;
use serde::{Deserialize, Serialize};

/// Milligrams, exact. Differences may be negative; what is typed may not.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(transparent)]
pub struct Mass(i64);

/// A unit in which a mass is typed. The pound is 453.59237 g exactly (international yard and pound agreement, 1959),
/// the ounce a sixteenth of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum MassUnit {
    /// Gram.
    G,
    /// Kilogram.
    Kg,
    /// Avoirdupois ounce.
    Oz,
    /// Avoirdupois pound.
    Lb,
}

/// How a mass is shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MassStyle {
    /// Whole grams, one decimal below 9.95 g: `412 g`.
    TableG,
    /// Kilograms with two decimals: `5.96 kg`.
    TotalKg,
    /// Ounces with one decimal: `14.5 oz`.
    TableOz,
    /// Pounds and ounces: `3 lb 5.0 oz`.
    TotalLbOz,
    /// Decimal pounds: `13.14 lb`.
    TotalLb,
}

const ACCEPTED: &str = "a weight such as 412 g, 0.412 kg, 14.5 oz, 2 lb or 3 lb 5 oz, up to 200 kg";

impl MassUnit {
    /// Milligrams in one of this unit, as an exact fraction.
    fn milligrams(self) -> Fraction {
        let (num, den) = match self {
            MassUnit::G => (1_000, 1),
            MassUnit::Kg => (1_000_000, 1),
            MassUnit::Oz => (28_349_523_125, 1_000_000),
            MassUnit::Lb => (45_359_237, 100),
        };
        Fraction { num, den }
    }

    /// The unit of a typed word, lower case; `None` if it is not one.
    pub fn from_word(word: &str) -> Option<MassUnit> {
        Some(match word {
            "g" | "gr" | "gram" | "grams" | "gramme" | "grammes" => MassUnit::G,
            "kg" | "kgs" | "kilo" | "kilos" | "kilogram" | "kilograms" => MassUnit::Kg,
            "oz" | "ounce" | "ounces" => MassUnit::Oz,
            "lb" | "lbs" | "pound" | "pounds" => MassUnit::Lb,
            _ => return None,
        })
    }

    /// The word that it is written as.
    pub fn word(self) -> &'static str {
        match self {
            MassUnit::G => "g",
            MassUnit::Kg => "kg",
            MassUnit::Oz => "oz",
            MassUnit::Lb => "lb",
        }
    }

    /// The smaller unit that may follow this one in a compound, and how many of it make one of this.
    fn minor(self) -> Option<(MassUnit, i128)> {
        match self {
            MassUnit::Kg => Some((MassUnit::G, 1000)),
            MassUnit::Lb => Some((MassUnit::Oz, 16)),
            _ => None,
        }
    }
}

impl Mass {
    /// No mass.
    pub const ZERO: Mass = Mass(0);

    /// From whole milligrams.
    pub const fn from_mg(mg: i64) -> Mass {
        Mass(mg)
    }

    /// Whole milligrams.
    pub const fn mg(self) -> i64 {
        self.0
    }

    /// `count` pieces of this mass. Exact within the limits of one line ([`limits::MASS_MG`] × [`limits::COUNT`]).
    pub fn times(self, count: u32) -> Mass {
        Mass(self.0.saturating_mul(i64::from(count)))
    }

    /// Reads typed text; a bare number is in `default`.
    ///
    /// Units: g, kg, oz, lb and their words; compounds `3 lb 5 oz`, `3lb5`, `1 kg 250 g`; fractions `7 1/2 lb`, `7½ oz`;
    /// one decimal mark, point or comma; sums `1.5 oz + 2 oz`, in which a bare number is in the unit of the last part. Converts once,
    /// half to even, to the milligram. From 0 to 200 kg. `1.250 kg` is settled by that limit: 1250 kg is beyond it.
    ///
    /// # Errors
    /// [`Refused`] with what was typed, why, and what would be accepted. Text in grams or kilograms that is finer than
    /// a milligram is refused; so is anything above zero that would be held as zero.
    pub fn parse(typed: &str, default: MassUnit) -> Result<Mass, Refused> {
        read(typed, default).map_err(|reason| Refused::new(typed.trim(), Quantity::Mass, reason, ACCEPTED))
    }

    /// What was typed, with the unit that a bare number was in: `730` in ounces is kept as `730 oz`, so that it means the same when the
    /// account counts in grams.
    pub fn typed_in(typed: &str, default: MassUnit) -> String {
        let typed = typed.trim();
        if typed.contains(char::is_alphabetic) { typed.to_owned() } else { format!("{typed} {}", default.word()) }
    }

    /// As [`Mass::typed_in`], for a figure of which only the mass that was held tells the unit: the first of `units` in which it is that.
    pub fn typed_as(typed: &str, held: Mass, units: impl IntoIterator<Item = MassUnit>) -> String {
        let meant = units.into_iter().find(|unit| Mass::parse(typed, *unit) == Ok(held));
        meant.map_or_else(|| typed.trim().to_owned(), |unit| Mass::typed_in(typed, unit))
    }

    /// Grams with a point, exact to the milligram, in a form that is read back without a question: `337 g`, `14.8 g`,
    /// `33.3330 g` (three decimals alone could be thousands).
    pub fn in_grams(self) -> String {
        let (whole, rest) = (self.0 / 1_000, self.0 % 1_000);
        match (rest, rest % 10) {
            (0, _) => format!("{whole} g"),
            (_, 0) => format!("{whole}.{} g", format!("{rest:03}").trim_end_matches('0')),
            _ => format!("{whole}.{rest:03}0 g"),
        }
    }

    /// As text. Rounds half to even from the exact value, and carries: never `2 lb 16.0 oz`.
    pub fn format(self, style: MassStyle) -> String {
        let mg = i128::from(self.0);
        match style {
            MassStyle::TableG if mg == 0 => "0 g".to_owned(),
            MassStyle::TableG if mg.abs() < 9_950 => {
                format!("{} g", with_decimals(div_half_even(mg, 100), 1))
            }
            MassStyle::TableG => format!("{} g", grouped(div_half_even(mg, 1_000))),
            MassStyle::TotalKg => format!("{} kg", with_decimals(div_half_even(mg, 10_000), 2)),
            MassStyle::TableOz => format!("{} oz", with_decimals(tenths_of_ounce(mg), 1)),
            MassStyle::TotalLbOz => {
                let tenths = tenths_of_ounce(mg.abs());
                let sign = if mg < 0 { "−" } else { "" };
                format!("{sign}{} lb {} oz", tenths / 160, with_decimals(tenths % 160, 1))
            }
            MassStyle::TotalLb => format!("{} lb", with_decimals(div_half_even(mg * 10_000, 45_359_237), 2)),
        }
    }
}

fn tenths_of_ounce(mg: i128) -> i128 {
    div_half_even(mg * 10_000_000, 28_349_523_125)
}

fn read(typed: &str, default: MassUnit) -> Result<Mass, Reason> {
    if !typed.contains('+') {
        return read_one(typed, default);
    }
    let length = typed.chars().count();
    if length > limits::FIGURE {
        return Err(Reason::TooLong { length });
    }
    let last = typed.rsplit('+').next().unwrap_or_default();
    let word = last.trim_start_matches(|c: char| !c.is_alphabetic()).trim().to_lowercase();
    let unit = MassUnit::from_word(&word).unwrap_or(default);
    let parts = typed.split('+').map(|part| {
        read_one(part, unit).map_err(|reason| match reason {
            Reason::Empty => Reason::NotANumber,
            other => other,
        })
    });
    let sum = parts.sum::<Result<Mass, Reason>>()?;
    if sum.mg() > limits::MASS_MG { Err(Reason::OutOfRange) } else { Ok(sum) }
}

/// One figure. Three digits behind a mark could be thousands, unless that is more than anybody carries.
fn read_one(typed: &str, default: MassUnit) -> Result<Mass, Reason> {
    match read_plainly(typed, default) {
        Err(Reason::Ambiguous { thousands, decimal, rest })
            if read_plainly(&format!("{thousands}{rest}"), default) == Err(Reason::OutOfRange) =>
        {
            // With more decimals than three nothing is left to ask.
            let decimal = if decimal.contains('.') { format!("{decimal}0000") } else { decimal };
            read_plainly(&format!("{decimal}{rest}"), default)
        }
        read => read,
    }
}

fn read_plainly(typed: &str, default: MassUnit) -> Result<Mass, Reason> {
    let mut parts: Vec<(Fraction, Option<MassUnit>)> = Vec::new();
    for token in tokens(typed)? {
        match token {
            Token::Number(number) => parts.push((number, None)),
            Token::Word { text, glued_to_next } => {
                let Some((_, unit @ None)) = parts.last_mut() else {
                    return Err(Reason::NotANumber);
                };
                match MassUnit::from_word(&text) {
                    Some(found) => *unit = Some(found),
                    None if glued_to_next => return Err(Reason::NotANumber),
                    None => return Err(Reason::UnknownUnit { unit: text }),
                }
            }
        }
    }
    match *parts.as_slice() {
        [(number, unit)] => {
            let unit = unit.unwrap_or(default);
            held(number, unit, matches!(unit, MassUnit::G | MassUnit::Kg))
        }
        [(major, Some(unit)), (minor, minor_unit)] => {
            let Some((expected, size)) = unit.minor() else {
                return Err(Reason::Order);
            };
            if minor_unit.is_some_and(|found| found != expected) {
                return Err(Reason::Order);
            }
            if major.den != 1 || minor.num >= size * minor.den {
                return Err(Reason::MinorPart);
            }
            let total = Fraction { num: product(major.num * size, minor.den)? + minor.num, den: minor.den };
            held(total, expected, unit == MassUnit::Kg)
        }
        _ => Err(Reason::Order),
    }
}

fn held(number: Fraction, unit: MassUnit, exact: bool) -> Result<Mass, Reason> {
    let factor = unit.milligrams();
    // The number first against the limit: what is beyond it can be too long to multiply.
    if number.num / number.den > i128::from(limits::MASS_MG) {
        return Err(Reason::OutOfRange);
    }
    let (num, den) = (product(number.num, factor.num)?, product(number.den, factor.den)?);
    if num > product(i128::from(limits::MASS_MG), den)? {
        return Err(Reason::OutOfRange);
    }
    let mg = div_half_even(num, den);
    if (exact && num % den != 0) || (mg == 0 && num > 0) {
        return Err(Reason::TooFine);
    }
    i64::try_from(mg).map(Mass).map_err(|_| Reason::OutOfRange)
}

impl std::ops::Add for Mass {
    type Output = Mass;
    fn add(self, other: Mass) -> Mass {
        Mass(self.0.saturating_add(other.0))
    }
}

impl std::ops::Sub for Mass {
    type Output = Mass;
    fn sub(self, other: Mass) -> Mass {
        Mass(self.0.saturating_sub(other.0))
    }
}

impl std::iter::Sum for Mass {
    fn sum<I: Iterator<Item = Mass>>(masses: I) -> Mass {
        masses.fold(Mass::ZERO, |total, mass| total + mass)
    }
}
