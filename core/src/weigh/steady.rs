//! When a reading may be taken: by what the scale says, and by how far its figures lie apart over time.

use super::{Fault, Report, Status};
use crate::quantity::Mass;

/// What the last few seconds of a scale amount to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Settled {
    /// Nothing has come from the scale for a while.
    Silent,
    /// The pan is empty and at zero.
    Empty,
    /// Still moving: the newest figure, not to be taken.
    Moving(Mass),
    /// Creeping one way, as with a draught, a leaning thing or a cold scale: not to be taken.
    Drifting(Mass),
    /// Steady: this figure may be taken.
    Steady(Mass),
    /// Less than nothing on the pan: something was on it when it was zeroed.
    Under(Mass),
    /// No reading, and why.
    Fault(Fault),
}

/// A figure is silent after this many milliseconds.
const SILENT_MS: i64 = 2_000;
/// What the scale calls stable has to hold this long.
const STABLE_MS: i64 = 400;
/// Figures have to keep within one step for this long where the scale never says stable.
const QUIET_MS: i64 = 1_500;
/// A creep shows over this long.
const DRIFT_MS: i64 = 4_000;
/// More steps than this one way are a creep.
const DRIFT_STEPS: i64 = 2;

/// Judges reports with their times in milliseconds, oldest first, as of `now`. Times may be of any clock; reports out
/// of order are read as they stand.
pub fn settle(reports: &[(i64, Result<Report, Fault>)], now: i64) -> Settled {
    let Some(&(last, newest)) = reports.last() else { return Settled::Silent };
    if now.saturating_sub(last) > SILENT_MS {
        return Settled::Silent;
    }
    let report = match newest {
        Ok(report) => report,
        Err(fault) => return Settled::Fault(fault),
    };
    match report.status {
        Status::Zero => return Settled::Empty,
        Status::UnderZero => return Settled::Under(report.mass),
        Status::Moving | Status::Stable => {}
    }
    let step = report.step.mg().max(1);
    let since = |span: i64| reports.iter().rev().take_while(move |(at, _)| last.saturating_sub(*at) <= span);
    // A span is only judged where reports cover it.
    let covers = |span: i64| reports.iter().any(|(at, _)| last.saturating_sub(*at) >= span);
    let within_a_step = |span: i64| {
        since(span).all(|(_, other)| other.is_ok_and(|other| (other.mass - report.mass).mg().abs() <= step))
    };
    if creeps(since(DRIFT_MS).filter_map(|(_, other)| other.ok().map(|other| other.mass.mg())), step)
        && covers(DRIFT_MS)
    {
        return Settled::Drifting(report.mass);
    }
    let says_stable =
        since(STABLE_MS).all(|(_, other)| other.is_ok_and(|other| other.status == Status::Stable)) && covers(STABLE_MS);
    if (says_stable && within_a_step(STABLE_MS)) || (covers(QUIET_MS) && within_a_step(QUIET_MS)) {
        Settled::Steady(report.mass)
    } else {
        Settled::Moving(report.mass)
    }
}

/// Whether figures, newest first, go only one way, a step at a time, and further than noise would: something put on or
/// taken off jumps, and what comes to rest swings back.
fn creeps(newest_first: impl Iterator<Item = i64>, step: i64) -> bool {
    let figures: Vec<i64> = newest_first.collect();
    let (Some(newest), Some(oldest)) = (figures.first(), figures.last()) else { return false };
    let way = (newest - oldest).signum();
    let one_way = figures.windows(2).all(|pair| match pair {
        [later, earlier] => (later - earlier) * way >= 0 && (later - earlier).abs() <= step,
        _ => true,
    });
    way != 0 && one_way && (newest - oldest).abs() > DRIFT_STEPS * step
}
