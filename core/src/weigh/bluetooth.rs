//! Measurements of the Bluetooth Weight Scale service (0x181D): the characteristic Weight Measurement (0x2A9D) of its specification 1.0, a
//! byte of flags and a 16-bit weight, low byte first; what follows (when, whose, a body's height) is none of gear's.

use super::{Fault, Report, Status};
use crate::limits;
use crate::quantity::{Mass, div_half_even};

/// The flag of pounds; without it the weight is in kilograms.
const IN_POUNDS: u8 = 1;
/// What flags say of bytes that follow the weight: the flag, and how many.
const FOLLOWING: [(u8, usize); 3] = [(2, 7), (4, 1), (8, 4)];
/// A measurement that did not come about.
const FAILED: u16 = 0xFFFF;
/// A step of a weight in kilograms, 5 g, and in pounds, a hundredth of one, in picograms.
const STEP_KG: i128 = 5_000_000_000_000;
const STEP_LB: i128 = 4_535_923_700_000;
const PICOGRAMS: i128 = 1_000_000_000;

/// Reads a measurement. A scale sends one once its reading stands still, so that it is steady.
///
/// # Errors
/// [`Fault`], named; every byte pattern is either a reading or one of these.
pub fn measured(bytes: &[u8]) -> Result<Report, Fault> {
    let &[flags, low, high, ..] = bytes else { return Err(Fault::Measurement(bytes.len())) };
    let following: usize = FOLLOWING.iter().filter(|(flag, _)| flags & flag != 0).map(|(_, bytes)| bytes).sum();
    if bytes.len() != 3 + following {
        return Err(Fault::Measurement(bytes.len()));
    }
    let count = u16::from_le_bytes([low, high]);
    if count == FAILED {
        return Err(Fault::Failed);
    }
    let step = if flags & IN_POUNDS == 0 { STEP_KG } else { STEP_LB };
    let mg = |picograms: i128| i64::try_from(div_half_even(picograms, PICOGRAMS)).map_err(|_| Fault::OutOfRange);
    let mass = mg(i128::from(count) * step)?;
    if mass > limits::MASS_MG {
        return Err(Fault::OutOfRange);
    }
    let status = if count == 0 { Status::Zero } else { Status::Stable };
    Ok(Report { status, mass: Mass::from_mg(mass), step: Mass::from_mg(mg(step)?) })
}
