//! The distribution of a sum of things that err, each by itself.
//!
//! It is held as a table of values, to which things are added one by one; between two values it is a straight line. Right within a hundredth.
#![allow(
    clippy::float_arithmetic,
    clippy::as_conversions,
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "a chance is told in tenths; no other figure comes of it"
)]

/// Of more things than these, the ones that err least are taken together, as [`TOGETHER`] that err as much: a table of each would take longer
/// than anybody waits.
const APART: usize = 300;
/// What stands for many that err little.
const TOGETHER: usize = 12;

/// The mean and the variance of a sum.
fn moments(errs: &[[f64; 3]]) -> (f64, f64) {
    let (mut mean, mut variance) = (0.0, 0.0);
    for [low, expected, high] in errs {
        let own = (low + 2.0 * expected + high) / 4.0;
        let square = |a: f64, b: f64| (a * a + a * b + b * b) / 3.0;
        mean += own;
        variance += f64::midpoint(square(*low, *expected), square(*expected, *high)) - own * own;
    }
    (mean, variance)
}

/// A chance below this is none.
const NONE: f64 = 0.0005;

/// The chance of a sum that lies far from its mean, 0 or 1 within [`NONE`], by Bernstein's inequality; `None` where it takes a table.
fn far_off(errs: &[[f64; 3]], left: f64) -> Option<f64> {
    let (mean, variance) = moments(errs);
    let widest = errs.iter().flatten().copied().fold(0.0, f64::max);
    let off = (left - mean).abs();
    let beyond = (-off * off / (2.0 * variance + 2.0 * widest * off / 3.0)).exp();
    (beyond < NONE).then_some(if left < mean { 0.0 } else { 1.0 })
}

/// Those that err least of too many, as a few that have their mean and their variance.
fn few(mut errs: Vec<[f64; 3]>) -> Vec<[f64; 3]> {
    if errs.len() <= APART {
        return errs;
    }
    let width = |ends: &[f64; 3]| ends.iter().copied().fold(0.0, f64::max);
    errs.sort_by(|a, b| width(b).total_cmp(&width(a)));
    let (mean, variance) = moments(&errs.split_off(APART));
    // A thing that lies evenly within a width has a twelfth of its square as variance; none may lie below nothing.
    let each = TOGETHER as f64;
    let half = f64::min((3.0 * variance / each).sqrt(), mean / each);
    let middle = mean / each;
    errs.extend(std::iter::repeat_n([middle - half, middle, middle + half], TOGETHER));
    errs
}

/// The chance that a sum is `left` or less, by a table of so many values. Each thing lies with one chance in two evenly between its first and its
/// second value, else evenly between that and its third; none lies below nothing.
pub fn chance_of_sum(errs: Vec<[f64; 3]>, left: f64, cells: usize) -> f64 {
    let errs = few(errs.into_iter().filter(|ends| ends.iter().any(|end| *end > 0.0)).collect());
    let widest: f64 = errs.iter().map(|ends| ends.iter().copied().fold(0.0, f64::max)).sum();
    if left < 0.0 || left >= widest {
        return if left < 0.0 { 0.0 } else { 1.0 };
    }
    if let Some(chance) = far_off(&errs, left) {
        return chance;
    }
    let cell = widest / (cells - 1) as f64;
    let mut table = Table { under: vec![1.0; cells] };
    let mut steps = 1.0;
    for [low, expected, high] in errs {
        let halves = [(low, expected), (expected, high)].map(|(from, to)| (from.min(to) / cell, from.max(to) / cell));
        steps += if halves.iter().any(|(from, to)| from == to) { 1.0 } else { 0.0 };
        table = table.plus(halves);
    }
    // What weighs just so much with a chance of its own is smeared over a cell each time it is moved by part of one.
    table.at(left / cell + steps - 1.0)
}

/// The chance of being at or under so many cells.
struct Table {
    under: Vec<f64>,
}

impl Table {
    fn at(&self, x: f64) -> f64 {
        if x <= -1.0 {
            return 0.0;
        }
        // Below nothing there is nothing; a step at nothing is a steep line.
        let value = |at: i64| match usize::try_from(at) {
            Ok(at) => self.under[at.min(self.under.len() - 1)],
            Err(_) => 0.0,
        };
        let from = x.floor();
        value(from as i64) + (x - from) * (value(from as i64 + 1) - value(from as i64))
    }

    /// With something more that lies evenly in one of two ranges.
    fn plus(&self, halves: [(f64, f64); 2]) -> Table {
        // What lies under the line from -1 on, up to each value.
        let cells = self.under.len();
        let mut area = vec![0.0; cells + 1];
        let mut before = 0.0;
        for (at, under) in self.under.iter().enumerate() {
            area[at + 1] = area[at] + (before + under) / 2.0;
            before = *under;
        }
        let area_to = |x: f64| {
            if x <= -1.0 {
                return 0.0;
            }
            let last = (cells - 1) as f64;
            if x >= last {
                return area[cells] + (x - last) * self.under[cells - 1];
            }
            let from = x.floor();
            let start = area[(from as i64 + 1).max(0) as usize];
            start + (x - from) * (self.at(from) + self.at(x)) / 2.0
        };
        let of_half = |x: f64, (from, to): (f64, f64)| {
            if to - from < 1e-9 { self.at(x - from) } else { (area_to(x - from) - area_to(x - to)) / (to - from) }
        };
        let under = (0..cells).map(|at| halves.iter().map(|half| of_half(at as f64, *half)).sum::<f64>() / 2.0);
        Table { under: under.collect() }
    }
}
