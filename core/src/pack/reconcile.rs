//! A packed pack on a scale, against the list: the difference, whether the list's own doubt explains it, and what it most likely is.

use crate::gear::{Band, WeightSource, root_up, square};
use crate::list::{Place, Thing, WeighedKit, in_kits, whole_kits};
use crate::quantity::Mass;
use crate::trip::{Load, Loaded, loaded};
use serde::Serialize;

/// A thing of the list, and whether it is ticked as in the pack.
#[derive(Debug, Clone, Copy)]
pub struct InPack<'a> {
    /// The thing; its pieces that are carried or used up count.
    pub thing: &'a Thing,
    /// Whether it is in.
    pub is_in: bool,
}

/// Whether the doubt of the list alone explains a difference.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Explained {
    /// It lies in the likely band: errors that are independent of one another.
    Likely,
    /// Only in the worst one: everything wrong the same way.
    AtWorst,
    /// The scale shows more, and there are things in the pack that nobody weighed.
    ByUnknown,
    /// No. Something is in it that the list does not know, or the other way round.
    No,
}

/// What a difference may come from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ReadingWhy))]
#[serde(rename_all = "snake_case")]
pub enum Why {
    /// Its weight is unknown.
    Unknown,
    /// It is a guess.
    Guess,
    /// It is a maker's figure.
    Maker,
    /// It is weighed, with the scale's own step.
    Weighed,
    /// It is on the list and not ticked, and may be in all the same.
    NotTicked,
    /// Food and water as they were loaded.
    Supplies,
}

/// One of the causes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Cause {
    /// The thing, by its position; `None` for food and water.
    pub of: Option<usize>,
    /// Why.
    pub why: Why,
    /// How much of the difference it could be, the same way round; `None` if nobody can say.
    pub could_be: Option<Mass>,
}

/// The result.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Reconciled {
    /// What the list says of what is in, line by line; positions are those of the things.
    pub listed: Loaded,
    /// The reading less that.
    pub difference: Mass,
    /// From where to where the difference may likely lie.
    pub likely: Band,
    /// And with everything wrong the same way.
    pub worst: Band,
    /// Whether that explains it.
    pub explained: Explained,
    /// What it may be, the likeliest first: by sort, then by how much.
    pub causes: Vec<Cause>,
}

/// Sets a reading of a scale with a half width of doubt against what is in the pack: things, and food and water as the trip takes them,
/// which are taken for estimates (15 % either way). Water on the list counts for nothing where the trip loads it. A reading of pack and walker
/// is given less the reading of the walker.
///
/// Kits that are in as a whole count as they were weighed.
pub fn reconcile(
    reading: Mass,
    half_width: Mass,
    things: &[InPack<'_>],
    kits: &[WeighedKit],
    load: Load,
) -> Reconciled {
    let doubt = Mass::from_mg(load.total().mg() * 15 / 100);
    let is_in = things.iter().enumerate().filter(|(_, one)| one.is_in).map(|(at, one)| (at, one.thing));
    let listed = loaded(is_in, kits, load);
    let mut sum = Sum::default();
    sum.add(Band::even(half_width));
    sum.add(Band::even(doubt));
    let lines = things.iter().filter(|one| one.is_in).map(|one| (&one.thing.line.id, &one.thing.line)).collect();
    let mut kits = whole_kits(&lines, kits);
    kits.retain(|whole| whole.place != Place::Worn);
    let is_in_kits = |thing: &Thing| {
        [Place::Carried, Place::UsedUp]
            .into_iter()
            .all(|place| in_kits(&thing.line.id, place, &kits) >= thing.line.counts.at(place))
    };
    let mut parts = vec![(None, Why::Supplies, Some(Band::even(doubt)))];
    for (at, InPack { thing, is_in }) in things.iter().enumerate() {
        let pieces = thing.line.counts.packed();
        if pieces == 0 || load.water > Mass::ZERO && thing.has("water") {
            continue;
        }
        let Some(known) = thing.line.weight else {
            if *is_in && !is_in_kits(thing) {
                parts.push((Some(at), Why::Unknown, None));
            }
            continue;
        };
        if !is_in {
            let all = Band { low: Mass::ZERO, high: known.unit.times(pieces) };
            parts.push((Some(at), Why::NotTicked, Some(all)));
            continue;
        }
        let band = known.band.times(pieces);
        sum.add(band);
        let why = match known.source {
            Some(WeightSource::Estimate) => Why::Guess,
            Some(WeightSource::Maker) => Why::Maker,
            _ => Why::Weighed,
        };
        parts.push((Some(at), why, Some(band)));
    }
    let difference = reading - listed.total;
    let (likely, worst) = (sum.likely(), sum.worst);
    let within = |band: Band| (band.low..=band.high).contains(&difference);
    let is_more = difference > Mass::ZERO;
    let has_unknown = parts.iter().any(|(_, why, _)| *why == Why::Unknown);
    let explained = match () {
        () if within(likely) => Explained::Likely,
        () if within(worst) => Explained::AtWorst,
        () if is_more && has_unknown => Explained::ByUnknown,
        () => Explained::No,
    };
    let mut causes: Vec<Cause> = parts
        .into_iter()
        .filter_map(|(of, why, band)| {
            let Some(band) = band else { return is_more.then_some(Cause { of, why, could_be: None }) };
            let could_be = if is_more { band.high } else { Mass::ZERO - band.low };
            (difference != Mass::ZERO && could_be > Mass::ZERO).then_some(Cause { of, why, could_be: Some(could_be) })
        })
        .collect();
    causes.sort_by_key(|cause| (cause.why, std::cmp::Reverse(cause.could_be)));
    Reconciled { listed, difference, likely, worst, explained, causes }
}

/// What is in the pack, with its doubt.
#[derive(Default)]
struct Sum {
    worst: Band,
    below: u128,
    above: u128,
}

impl Sum {
    fn add(&mut self, band: Band) {
        self.worst = Band { low: self.worst.low + band.low, high: self.worst.high + band.high };
        self.below += square(band.low.min(Mass::ZERO));
        self.above += square(band.high.max(Mass::ZERO));
    }

    fn likely(&self) -> Band {
        Band { low: Mass::ZERO - root_up(self.below), high: root_up(self.above) }
    }
}
