//! A kitchen scale as far as its reports show it: what lies on the pan, how it comes to rest, and what goes wrong.
//!
//! The scale has a step of 1 g and carries 5 kg. It reads no clock: the caller says what time it is.

use kevyt_core::quantity::{Mass, div_half_even};
use kevyt_core::weigh::{Status, encode};

/// The most it can carry.
pub const LIMIT: Mass = Mass::from_mg(5_000_000);
/// How long the pan swings after something was put on or taken off, in milliseconds.
const SWING_MS: i64 = 900;
/// With a draught, a gram a second.
const DRIFT_MS: i64 = 1_000;
/// "More than the scale can carry", as the standard sends it.
const OVERLOAD: [u8; 6] = [3, 6, 2, 0, 0, 0];

/// A scale and what lies on it.
#[derive(Debug, Clone)]
pub struct Scale {
    pan: Vec<(String, Mass)>,
    zero: Mass,
    /// What the pan carried before the last change, and when that was.
    before: Mass,
    changed_at: i64,
    drifts_since: Option<i64>,
    plugged: bool,
}

impl Default for Scale {
    fn default() -> Scale {
        Scale {
            pan: Vec::new(),
            zero: Mass::ZERO,
            before: Mass::ZERO,
            changed_at: -SWING_MS,
            drifts_since: None,
            plugged: true,
        }
    }
}

impl Scale {
    /// What lies on the pan, in the order in which it was put there.
    pub fn pan(&self) -> &[(String, Mass)] {
        &self.pan
    }

    /// Whether it is plugged in.
    pub fn is_plugged(&self) -> bool {
        self.plugged
    }

    /// Whether a draught makes it drift.
    pub fn drifts(&self) -> bool {
        self.drifts_since.is_some()
    }

    /// Puts something on the pan.
    pub fn put(&mut self, name: &str, mass: Mass, now: i64) {
        self.change(now);
        self.pan.push((name.to_owned(), mass));
    }

    /// Takes something off the pan; says whether it was there.
    pub fn take(&mut self, name: &str, now: i64) -> bool {
        let Some(at) = self.pan.iter().rposition(|thing| thing.0 == name) else { return false };
        self.change(now);
        self.pan.remove(at);
        true
    }

    /// Clears the pan.
    pub fn clear(&mut self, now: i64) {
        self.change(now);
        self.pan.clear();
    }

    /// Takes what lies on the pan for nothing.
    pub fn tare(&mut self) {
        self.zero = self.load();
    }

    /// Lets a draught in, or shuts it out.
    pub fn drift(&mut self, on: bool, now: i64) {
        self.drifts_since = on.then_some(now);
    }

    /// Plugs it in or out. Plugging it in zeroes it, as switching a scale on does.
    pub fn plug(&mut self, on: bool) {
        if on && !self.plugged {
            self.tare();
        }
        self.plugged = on;
    }

    /// The report that it sends now; none while it is unplugged.
    pub fn report(&self, now: i64) -> Option<[u8; 6]> {
        if !self.plugged {
            return None;
        }
        if self.load() > LIMIT {
            return Some(OVERLOAD);
        }
        let moving = now - self.changed_at < SWING_MS;
        let shown = self.swung(now) - self.zero;
        let grams = div_half_even(i128::from(shown.mg()), 1_000);
        let drift = self.drifts_since.map_or(0, |since| (now - since) / DRIFT_MS);
        let grams = i64::try_from(grams).unwrap_or(i64::MAX).saturating_add(drift);
        let status = match grams {
            _ if moving => Status::Moving,
            0 => Status::Zero,
            below if below < 0 => Status::UnderZero,
            _ => Status::Stable,
        };
        // A swing below zero is sent as nothing: the weight itself has no sign.
        let grams = if moving { grams.max(0) } else { grams.abs() };
        Some(encode(status, u32::try_from(grams).unwrap_or(u32::MAX), 0))
    }

    /// What the pan feels now: it swings about the load, less and less.
    fn swung(&self, now: i64) -> Mass {
        let passed = now - self.changed_at;
        let load = self.load();
        if passed >= SWING_MS {
            return load;
        }
        let left = SWING_MS - passed;
        let jump = (load - self.before).mg();
        // Every tenth of a second over and under, by up to a third of the jump.
        let way = if (passed / 100) % 2 == 0 { -1 } else { 1 };
        let swing = i128::from(jump) * i128::from(left) * way / (3 * i128::from(SWING_MS));
        load + Mass::from_mg(i64::try_from(swing).unwrap_or_default())
    }

    fn load(&self) -> Mass {
        self.pan.iter().map(|thing| thing.1).sum()
    }

    fn change(&mut self, now: i64) {
        self.before = self.load();
        self.changed_at = now;
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used)]

    use super::*;
    use kevyt_core::weigh::{Fault, Settled, decode, settle};

    fn g(grams: i64) -> Mass {
        Mass::from_mg(grams * 1000)
    }

    /// What Kevyt makes of ten reports a second from one time to another.
    fn settled(scale: &Scale, from: i64, to: i64) -> Settled {
        let reports: Vec<_> =
            (from..=to).step_by(100).filter_map(|at| Some((at, decode(&scale.report(at)?)))).collect();
        settle(&reports, to)
    }

    #[test]
    fn a_thing_put_on_swings_and_comes_to_rest() {
        let mut scale = Scale::default();
        assert_eq!(settled(&scale, 0, 1_000), Settled::Empty);
        scale.put("mug", Mass::from_mg(118_400), 1_000);
        assert!(matches!(settled(&scale, 0, 1_500), Settled::Moving(_)));
        assert_eq!(settled(&scale, 0, 2_400), Settled::Steady(g(118)));
        assert!(scale.take("mug", 3_000));
        assert!(!scale.take("mug", 3_000), "it is gone");
        assert_eq!(settled(&scale, 2_000, 5_000), Settled::Empty);
    }

    #[test]
    fn tare_takes_what_lies_there_for_nothing() {
        let mut scale = Scale::default();
        scale.put("bag", g(44), 0);
        scale.tare();
        assert_eq!(settled(&scale, 1_000, 2_000), Settled::Empty);
        scale.put("quilt", g(900), 2_000);
        assert_eq!(settled(&scale, 2_000, 4_000), Settled::Steady(g(900)));
        scale.clear(4_000);
        assert_eq!(settled(&scale, 4_000, 6_000), Settled::Under(g(-44)));
    }

    #[test]
    fn what_goes_wrong_is_seen() {
        let mut scale = Scale::default();
        scale.put("stove", g(90), 0);
        scale.drift(true, 2_000);
        assert!(matches!(settled(&scale, 2_000, 8_000), Settled::Drifting(_)));
        scale.drift(false, 8_000);
        assert_eq!(settled(&scale, 8_000, 10_000), Settled::Steady(g(90)));
        scale.put("stone", g(5_000), 10_000);
        assert_eq!(settled(&scale, 10_000, 12_000), Settled::Fault(Fault::Overload));
        scale.clear(12_000);
        scale.plug(false);
        assert_eq!(settled(&scale, 12_000, 20_000), Settled::Silent);
        scale.put("stove", g(90), 20_000);
        scale.plug(true);
        assert_eq!(settled(&scale, 20_000, 22_000), Settled::Empty, "switched on, it zeroes itself");
    }
}
