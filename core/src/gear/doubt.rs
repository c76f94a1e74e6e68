//! How far a figure can be trusted, and what to weigh first (section 2 of the rules).

use super::{DEFAULT_STEP, Weighing, Weight, WeightSource};
use crate::quantity::{Mass, div_half_even};

/// Where the true mass may lie, against the figure: from `low` (mostly below zero) to `high`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Band {
    /// The lightest it may be, less the figure.
    pub low: Mass,
    /// The heaviest it may be, less the figure.
    pub high: Mass,
}

impl Band {
    /// As far below as above.
    pub fn even(half_width: Mass) -> Band {
        Band { low: Mass::ZERO - half_width, high: half_width }
    }

    /// For `count` pieces, which are all wrong in the same way.
    pub fn times(self, count: u32) -> Band {
        Band { low: self.low.times(count), high: self.high.times(count) }
    }

    /// From end to end.
    pub fn width(self) -> Mass {
        self.high - self.low
    }
}

/// How makers' figures have compared with the account's own scale.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Makers {
    /// (weighed − claimed) / claimed in millionths, lightest first.
    errors: Vec<i64>,
    /// Pairs that are left out, since they lie too far apart to be of the same thing.
    left_out: usize,
}

/// A maker's figure without pairs of one's own: 3 % less to 8 % more, in millionths.
const MAKER: (i64, i64) = (-30_000, 80_000);
/// An estimate: 15 % either way, in millionths.
const ESTIMATE: i64 = 150_000;
/// Pairs that lie further apart are taken for a slip, or for a thing that was changed since, in millionths.
const FAR: i64 = 400_000;
/// Pairs from which the account's own experience takes over.
const ENOUGH: usize = 5;
const MILLION: i128 = 1_000_000;

impl Makers {
    /// From pairs of a maker's figure and a weighing of the same thing. A claim of nothing says nothing. Pairs of which one is over 40 % off are
    /// left out, unless the walker keeps them.
    pub fn from_pairs(pairs: impl IntoIterator<Item = (Mass, Mass)>, keeps_far: bool) -> Makers {
        let pairs = pairs.into_iter().filter(|(claimed, _)| *claimed > Mass::ZERO);
        let mut errors: Vec<i64> = pairs
            .map(|(claimed, weighed)| {
                let over = i128::from((weighed - claimed).mg()) * MILLION;
                i64::try_from(div_half_even(over, i128::from(claimed.mg()))).unwrap_or(i64::MAX)
            })
            .collect();
        let all = errors.len();
        errors.retain(|error| keeps_far || (-FAR..=FAR).contains(error));
        errors.sort_unstable();
        Makers { left_out: all - errors.len(), errors }
    }

    /// How many pairs are left out.
    pub fn left_out(&self) -> usize {
        self.left_out
    }

    /// Each pair's (weighed − claimed) / claimed in millionths, lightest first.
    pub fn errors(&self) -> &[i64] {
        &self.errors
    }

    /// The median error in millionths; `None` without a pair.
    pub fn median(&self) -> Option<i64> {
        (!self.errors.is_empty()).then(|| self.percentile(50))
    }

    /// From where to where a maker's figure may be off, in millionths of it: the 10th and 90th percentile of one's own
    /// pairs once there are five, until then −3 % and +8 %.
    pub fn range(&self) -> (i64, i64) {
        if self.errors.len() < ENOUGH { MAKER } else { (self.percentile(10), self.percentile(90)) }
    }

    /// Whether the range comes from one's own pairs.
    pub fn is_own(&self) -> bool {
        self.errors.len() >= ENOUGH
    }

    /// A percentile, on the straight line between the two nearest ranks; half to even.
    fn percentile(&self, per_cent: usize) -> i64 {
        let last = self.errors.len().saturating_sub(1);
        let (at, rest) = (last * per_cent / 100, last * per_cent % 100);
        let from = self.errors.get(at).copied().unwrap_or_default();
        let to = self.errors.get(at + 1).copied().unwrap_or(from);
        let part = div_half_even(i128::from(to - from) * i128::try_from(rest).unwrap_or_default(), 100);
        from + i64::try_from(part).unwrap_or_default()
    }

    /// The band of one piece.
    pub fn band(&self, weight: &Weight) -> Band {
        let share = |millionths: i64| share_of(weight.unit, millionths);
        match weight.source {
            WeightSource::Weighed | WeightSource::Derived => weight.band.unwrap_or(Band::even(DEFAULT_STEP)),
            WeightSource::Estimate => Band::even(share(ESTIMATE)),
            WeightSource::Maker => {
                let (low, high) = self.range();
                Band { low: share(low), high: share(high) }
            }
        }
    }

    /// The figure as expected: a maker's is moved by the account's own median, once there are five pairs.
    pub fn expected(&self, weight: &Weight) -> Mass {
        match self.median() {
            Some(median) if self.is_own() && weight.source == WeightSource::Maker => {
                weight.unit + share_of(weight.unit, median)
            }
            _ => weight.unit,
        }
    }
}

fn share_of(mass: Mass, millionths: i64) -> Mass {
    let mg = div_half_even(i128::from(mass.mg()) * i128::from(millionths), MILLION);
    Mass::from_mg(i64::try_from(mg).unwrap_or(i64::MAX))
}

/// Pieces of one thing in a total.
#[derive(Debug, Clone, Copy)]
pub struct Pieces<'a> {
    /// How many count.
    pub count: u32,
    /// What one weighs, if known.
    pub weight: Option<&'a Weight>,
}

/// A total and how far to trust it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Trust {
    /// The exact sum of what is known.
    pub figure: Mass,
    /// Things in it whose weight is unknown: while there are any, the figure is "at least".
    pub unknown: usize,
    /// Everything wrong the same way: the sum of the bands.
    pub worst: Band,
    /// Errors that are independent of one another: the root of the sum of squares, rounded up to the milligram. A
    /// side without doubt is zero.
    pub likely: Band,
}

/// Adds things up with their doubt.
pub fn trust<'a>(things: impl IntoIterator<Item = Pieces<'a>>, makers: &Makers) -> Trust {
    let mut total = Trust::default();
    let (mut below, mut above) = (0_u128, 0_u128);
    for Pieces { count, weight } in things {
        let Some(weight) = weight else {
            total.unknown += usize::from(count > 0);
            continue;
        };
        let band = makers.band(weight).times(count);
        total.figure = total.figure + weight.unit.times(count);
        total.worst.low = total.worst.low + band.low;
        total.worst.high = total.worst.high + band.high;
        // A band that lies wholly on one side (makers who always run light) still counts on that side alone.
        below += square(band.low.min(Mass::ZERO));
        above += square(band.high.max(Mass::ZERO));
    }
    total.likely = Band { low: Mass::ZERO - root_up(below), high: root_up(above) };
    total
}

/// The square of a mass, for the root of a sum of them.
pub(crate) fn square(mass: Mass) -> u128 {
    let mg = u128::from(mass.mg().unsigned_abs());
    mg * mg
}

/// The root of a sum of squares, rounded up to the milligram.
pub(crate) fn root_up(sum: u128) -> Mass {
    let floor = sum.isqrt();
    let root = if floor * floor == sum { floor } else { floor + 1 };
    Mass::from_mg(i64::try_from(root).unwrap_or(i64::MAX))
}

/// How a thing of this weight would be known once a piece of it had been on a scale with the default step: no worse than it is.
fn once_weighed(weight: Option<&Weight>, makers: &Makers) -> Weight {
    let unit = weight.map_or(Mass::ZERO, |weight| weight.unit);
    let weighed = Weighing { total: unit, pieces: 1, step: DEFAULT_STEP }.weight("");
    match weight {
        Some(known) if makers.band(known).width() <= makers.band(&weighed).width() => known.clone(),
        _ => weighed,
    }
}

/// By how much weighing a thing would narrow the band of its pieces; `None` if its weight is unknown.
fn narrowing(thing: Pieces<'_>, makers: &Makers) -> Option<Mass> {
    let weight = thing.weight?;
    let width = |weight: &Weight| makers.band(weight).times(thing.count).width();
    Some(width(weight) - width(&once_weighed(Some(weight), makers)))
}

/// Positions of things in the order in which weighing them narrows the total most: unknown ones first (most pieces
/// first), then by what a scale with the default step would take off their bands. Those that it would not narrow stand last, the
/// widest first, and behind them those of which no piece counts.
pub fn weigh_queue(things: &[Pieces<'_>], makers: &Makers) -> Vec<usize> {
    let mut order: Vec<usize> = (0..things.len()).collect();
    order.sort_by_key(|&at| {
        let Some(thing) = things.get(at).copied() else { return (true, true, 0, 0) };
        let width = thing.weight.map_or(0, |weight| makers.band(weight).times(thing.count).width().mg());
        match narrowing(thing, makers) {
            None => (thing.count == 0, false, -i64::from(thing.count), 0),
            Some(narrowing) => (thing.count == 0, true, -narrowing.mg(), -width),
        }
    });
    order
}

/// The first of the queue that weighing would tell something of: whose weight is unknown, or whose band it would narrow.
pub fn worth_weighing(things: &[Pieces<'_>], makers: &Makers, queue: &[usize]) -> Vec<usize> {
    let tells = |at: &usize| {
        let thing = things.get(*at).copied();
        thing.is_some_and(|thing| thing.count > 0 && narrowing(thing, makers).is_none_or(|mass| mass > Mass::ZERO))
    };
    queue.iter().copied().filter(tells).collect()
}

/// The total once the things at these positions have been put on a scale with the default step. What is unknown counts as
/// nothing even then, since nobody knows what it will show.
pub fn weighed_after(things: &[Pieces<'_>], makers: &Makers, weighed: &[usize]) -> Trust {
    let weights: Vec<Option<Weight>> = things
        .iter()
        .enumerate()
        .map(
            |(at, thing)| {
                if weighed.contains(&at) { Some(once_weighed(thing.weight, makers)) } else { thing.weight.cloned() }
            },
        )
        .collect();
    let things = things.iter().zip(&weights);
    trust(things.map(|(thing, weight)| Pieces { count: thing.count, weight: weight.as_ref() }), makers)
}
