//! Scale reports of the public usage page "Weighing Devices" (0x8D) of the USB HID Point of Sale Usage Tables 1.02: a
//! report id, a status, a unit, a power of ten and a 16-bit weight, low byte first.

use crate::limits;
use crate::quantity::{Mass, div_half_even};
use serde::{Deserialize, Serialize};

/// The report that carries a weight.
const DATA_REPORT: u8 = 3;
/// Its length with the id.
const LENGTH: usize = 6;

/// What the scale says of its reading (usages 0x70 to 0x77 of the page, sent as 1 to 8).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Status {
    /// Steady at zero.
    Zero,
    /// The pan moves.
    Moving,
    /// Steady.
    Stable,
    /// Below zero: less on the pan than when it was zeroed. The weight is how far.
    UnderZero,
}

/// A unit of mass that a scale may send (usages 0x51 to 0x5C, sent as 1 to 12).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Unit {
    /// Milligram.
    Milligram,
    /// Gram.
    Gram,
    /// Kilogram.
    Kilogram,
    /// Metric carat, 0.2 g.
    Carat,
    /// Tael as in Hong Kong, 37.79936375 g: a sixteenth of a catty of 604.7898 g.
    Tael,
    /// Grain, 64.79891 mg.
    Grain,
    /// Pennyweight, 24 grains.
    Pennyweight,
    /// Metric ton.
    MetricTon,
    /// Avoirdupois ton, 2 000 lb.
    AvoirTon,
    /// Troy ounce, 480 grains.
    TroyOunce,
    /// Avoirdupois ounce, 28.349523125 g.
    Ounce,
    /// Avoirdupois pound, 453.59237 g.
    Pound,
}

impl Unit {
    /// Every unit, in the order of their codes, from 1.
    pub const ALL: [Unit; 12] = [
        Unit::Milligram,
        Unit::Gram,
        Unit::Kilogram,
        Unit::Carat,
        Unit::Tael,
        Unit::Grain,
        Unit::Pennyweight,
        Unit::MetricTon,
        Unit::AvoirTon,
        Unit::TroyOunce,
        Unit::Ounce,
        Unit::Pound,
    ];

    fn from_code(code: u8) -> Option<Unit> {
        usize::from(code).checked_sub(1).and_then(|at| Unit::ALL.get(at)).copied()
    }

    /// One of it in picograms, which every factor is a whole number of.
    fn picograms(self) -> i128 {
        const MG: i128 = 1_000_000_000;
        match self {
            Unit::Milligram => MG,
            Unit::Gram => 1_000 * MG,
            Unit::Kilogram => 1_000_000 * MG,
            Unit::Carat => 200 * MG,
            Unit::Tael => 37_799_363_750_000,
            Unit::Grain => 64_798_910_000,
            Unit::Pennyweight => 24 * 64_798_910_000,
            Unit::MetricTon => 1_000_000_000 * MG,
            Unit::AvoirTon => 2_000 * 453_592_370_000_000,
            Unit::TroyOunce => 480 * 64_798_910_000,
            Unit::Ounce => 28_349_523_125_000,
            Unit::Pound => 453_592_370_000_000,
        }
    }
}

/// A reading.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Report {
    /// What the scale says of it.
    pub status: Status,
    /// What lies on the pan; below zero where the scale says so. Rounded once, half to even, to the milligram.
    pub mass: Mass,
    /// The smallest difference that the report can show, at least a milligram.
    pub step: Mass,
}

/// Why a report gives no reading.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, thiserror::Error)]
pub enum Fault {
    /// Not as many bytes as a weight takes.
    #[error("The scale sent {0} bytes where a weight takes {LENGTH}.")]
    Length(usize),
    /// Not as many bytes as a measurement over Bluetooth takes.
    #[error("The scale sent {0} bytes, which is not what its measurement takes.")]
    Measurement(usize),
    /// A measurement over Bluetooth that did not come about.
    #[error("The scale could not measure. Empty the pan, wait for zero, and put it on again.")]
    Failed,
    /// Another kind of report.
    #[error("The scale sent a report of kind {0}; weights come in kind {DATA_REPORT}.")]
    OtherReport(u8),
    /// The scale reports a fault of its own.
    #[error("The scale reports a fault. Switch it off and on again.")]
    Scale,
    /// Too much on the pan.
    #[error("There is more on the pan than the scale can carry. Take it off.")]
    Overload,
    /// The scale wants to be calibrated.
    #[error("The scale asks to be calibrated. Its manual says how.")]
    NeedsCalibration,
    /// The scale wants to be zeroed.
    #[error("The scale asks to be zeroed. Empty the pan and press its zero key.")]
    NeedsZero,
    /// A status that the usage page doesn't have.
    #[error("The scale sent the status {0}, which the standard doesn't have.")]
    UnknownStatus(u8),
    /// A unit that the usage page doesn't have.
    #[error("The scale sent the unit {0}, which the standard doesn't have.")]
    UnknownUnit(u8),
    /// A mass beyond what anybody carries.
    #[error("The scale shows more than 200 kg, which can't be gear.")]
    OutOfRange,
}

impl Fault {
    /// The stable word for this fault.
    pub fn code(self) -> &'static str {
        match self {
            Fault::Length(_) | Fault::Measurement(_) => "length",
            Fault::Failed => "failed",
            Fault::OtherReport(_) => "other_report",
            Fault::Scale => "scale_fault",
            Fault::Overload => "overload",
            Fault::NeedsCalibration => "needs_calibration",
            Fault::NeedsZero => "needs_zero",
            Fault::UnknownStatus(_) => "unknown_status",
            Fault::UnknownUnit(_) => "unknown_unit",
            Fault::OutOfRange => "out_of_range",
        }
    }
}

/// Reads a report with its id in front.
///
/// # Errors
/// [`Fault`], named; every byte pattern is either a reading or one of these.
pub fn decode(report: &[u8]) -> Result<Report, Fault> {
    let &[id, status, unit, exponent, low, high] = report else {
        return Err(match report.first() {
            Some(&id) if id != DATA_REPORT => Fault::OtherReport(id),
            _ => Fault::Length(report.len()),
        });
    };
    if id != DATA_REPORT {
        return Err(Fault::OtherReport(id));
    }
    let status = match status {
        1 => return Err(Fault::Scale),
        2 => Status::Zero,
        3 => Status::Moving,
        4 => Status::Stable,
        5 => Status::UnderZero,
        6 => return Err(Fault::Overload),
        7 => return Err(Fault::NeedsCalibration),
        8 => return Err(Fault::NeedsZero),
        other => return Err(Fault::UnknownStatus(other)),
    };
    let count = i128::from(u16::from_le_bytes([low, high]));
    // A reading of zero is taken whatever its unit: many scales leave the unit out when nothing lies on them.
    let unit = match (Unit::from_code(unit), count) {
        (Some(unit), _) => unit,
        (None, 0) if unit == 0 => Unit::Gram,
        (None, _) => return Err(Fault::UnknownUnit(unit)),
    };
    let exponent = i8::from_le_bytes([exponent]);
    let mass = milligrams(count, unit, exponent)?;
    let step = milligrams(1, unit, exponent).unwrap_or(Mass::from_mg(limits::MASS_MG)).max(Mass::from_mg(1));
    let mass = if status == Status::UnderZero { Mass::ZERO - mass } else { mass };
    Ok(Report { status, mass, step })
}

/// `count` × 10^`exponent` of a unit, half to even.
fn milligrams(count: i128, unit: Unit, exponent: i8) -> Result<Mass, Fault> {
    const PICOGRAMS: i128 = 1_000_000_000;
    let picograms = count * unit.picograms();
    let power = 10_i128.checked_pow(u32::from(exponent.unsigned_abs()));
    let mg = match power {
        // Beyond 10^38 either way: nothing, or far too much.
        None if exponent < 0 || count == 0 => 0,
        None => return Err(Fault::OutOfRange),
        Some(power) if exponent < 0 => match power.checked_mul(PICOGRAMS) {
            Some(den) => div_half_even(picograms, den),
            None => 0,
        },
        Some(power) => div_half_even(picograms.checked_mul(power).ok_or(Fault::OutOfRange)?, PICOGRAMS),
    };
    i64::try_from(mg).ok().filter(|mg| *mg <= limits::MASS_MG).map(Mass::from_mg).ok_or(Fault::OutOfRange)
}

/// A report as a scale in grams sends it, the weight in steps of 10^`exponent` g: what the simulated scale speaks.
/// A weight that does not fit 16 bits is sent as the largest that does.
pub fn encode(status: Status, steps: u32, exponent: i8) -> [u8; LENGTH] {
    let code = match status {
        Status::Zero => 2,
        Status::Moving => 3,
        Status::Stable => 4,
        Status::UnderZero => 5,
    };
    let [low, high] = u16::try_from(steps).unwrap_or(u16::MAX).to_le_bytes();
    let [exponent] = exponent.to_le_bytes();
    [DATA_REPORT, code, 2, exponent, low, high]
}
