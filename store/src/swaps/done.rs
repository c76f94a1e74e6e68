//! What was done when a swap was made for good.

use crate::id::{GearId, KitId, ListId};
use chrono::NaiveDateTime;
use kevyt_core::gear::{Band, Claim, Gear, Stated, Status, Weight, WeightSource};
use kevyt_core::list::Place;
use kevyt_core::quantity::{Mass, Money};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What becomes of a thing that a swap takes off its list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Fate {
    /// It stays at home.
    Kept,
    /// It is kept for another list.
    Elsewhere,
    /// It is sold.
    Sold,
    /// It is given away.
    Given,
    /// It is worn out.
    WornOut,
    /// It is the thing that goes on, made lighter.
    Trimmed,
}

/// What was done: `G` names a thing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Done<G> {
    /// When, UTC.
    pub at: NaiveDateTime,
    /// What was paid for what goes on, delivery too.
    pub paid_minor: i64,
    /// What was got for what comes off.
    pub got_minor: i64,
    /// The base weight of the list before.
    pub base_before_mg: i64,
    /// And after.
    pub base_after_mg: i64,
    /// What came off.
    pub gone: Vec<TakenOff<G>>,
    /// What went on.
    pub came: Vec<PutOn<G>>,
    /// Kits that were taken apart, since a part of theirs is another thing now. Not in files, where kits are known by no key.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(skip)]
    pub kits: Vec<KitId>,
    /// Other lists on which the same was swapped. Not in files, where a swap knows its own list alone.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(skip)]
    pub also: Vec<Also>,
}

/// What a swap took off another list than its own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Also {
    /// The list.
    pub list: ListId,
    /// Things, pieces, and where they counted.
    pub off: Vec<(GearId, u32, Place)>,
}

impl<G> Done<G> {
    /// What it has taken of the money.
    pub fn spent(&self) -> Money {
        Money::from_minor(self.paid_minor - self.got_minor)
    }
}

/// Something that came off a list.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct TakenOff<G> {
    /// The thing.
    pub gear: G,
    /// Pieces.
    pub qty: u32,
    /// Where they counted: `carried`, `worn` or `used_up`.
    pub place: Place,
    /// What becomes of it.
    pub fate: Fate,
    /// How it stood before, where its fate changed that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub was: Option<PriorState>,
}

/// How a thing stood before a swap was done.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PriorState {
    /// Its status.
    pub status: Status,
    /// Pieces owned.
    pub count: u32,
    /// Of something that was trimmed, what was known of its weight.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub weight: Option<PriorWeight>,
}

/// What was known of a weight before a thing was trimmed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PriorWeight {
    /// The figure, if there was one.
    pub figure: Option<PriorFigure>,
    /// What was said of it last, other than by weighing, and when (microseconds since 1970, UTC).
    pub stated: Option<(Option<PriorFigure>, i64)>,
    /// What its maker said, where that was noted.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub claim: Option<PriorClaim>,
}

/// What a maker said of a thing before it was trimmed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PriorClaim {
    /// As held and as typed; nothing if nobody knew.
    pub figure: Option<(i64, String)>,
}

/// The weight of one piece as it was known.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PriorFigure {
    /// As held.
    mg: i64,
    /// As typed.
    typed: String,
    /// weighed, maker, estimate or derived.
    source: WeightSource,
    /// How far it may lie below and above, where it has a doubt of its own.
    doubt_mg: Option<(i64, i64)>,
}

impl From<&Weight> for PriorFigure {
    fn from(weight: &Weight) -> PriorFigure {
        let doubt_mg = weight.band.map(|band| (band.low.mg(), band.high.mg()));
        PriorFigure { mg: weight.unit.mg(), typed: weight.typed.clone(), source: weight.source, doubt_mg }
    }
}

impl From<&PriorFigure> for Weight {
    fn from(was: &PriorFigure) -> Weight {
        let (unit, typed) = (Mass::from_mg(was.mg), was.typed.clone());
        let band = was.doubt_mg.map(|(low, high)| Band { low: Mass::from_mg(low), high: Mass::from_mg(high) });
        Weight { unit, typed, source: was.source, band }
    }
}

impl PriorWeight {
    /// What is known of a thing's weight.
    pub fn of(thing: &Gear) -> PriorWeight {
        let figure = |weight: &Option<Weight>| weight.as_ref().map(PriorFigure::from);
        let stated = thing.stated.as_ref().map(|stated| (figure(&stated.weight), stated.at));
        let claim = thing.claimed.as_ref().map(|claim| (claim.unit.mg(), claim.typed.clone()));
        PriorWeight { figure: figure(&thing.weight), stated, claim: Some(PriorClaim { figure: claim }) }
    }

    /// The figures in it.
    pub fn figures(&self) -> impl Iterator<Item = Weight> {
        let stated = self.stated.as_ref().and_then(|(was, _)| was.as_ref());
        let claim = self.claim.iter().flat_map(|claim| &claim.figure);
        let claim = claim.map(|(mg, typed)| Weight {
            unit: Mass::from_mg(*mg),
            typed: typed.clone(),
            source: WeightSource::Maker,
            band: None,
        });
        self.figure.iter().chain(stated).map(Weight::from).chain(claim)
    }

    /// Gives a thing what was known of its weight.
    pub fn give_back(&self, thing: &mut Gear) {
        let weight = |was: &Option<PriorFigure>| was.as_ref().map(Weight::from);
        thing.weight = weight(&self.figure);
        thing.stated = self.stated.as_ref().map(|(was, at)| Stated { weight: weight(was), at: *at });
        if let Some(claim) = &self.claim {
            let claim = claim.figure.clone();
            thing.claimed = claim.map(|(mg, typed)| Claim { unit: Mass::from_mg(mg), typed });
        }
    }
}

/// Something that went on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PutOn<G> {
    /// The thing.
    pub gear: G,
    /// Pieces.
    pub qty: u32,
    /// Where they count.
    pub place: Place,
    /// Whether it was owned before, and at home.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub owned: bool,
}

impl<G> Done<G> {
    /// With things named otherwise; those without a name are left out.
    pub fn named<H>(self, name: impl Fn(G) -> Option<H>) -> Done<H> {
        let gone = self.gone.into_iter().filter_map(|TakenOff { gear, qty, place, fate, was }| {
            Some(TakenOff { gear: name(gear)?, qty, place, fate, was })
        });
        let gone = gone.collect();
        let came = self
            .came
            .into_iter()
            .filter_map(|PutOn { gear, qty, place, owned }| Some(PutOn { gear: name(gear)?, qty, place, owned }));
        Done {
            at: self.at,
            paid_minor: self.paid_minor,
            got_minor: self.got_minor,
            base_before_mg: self.base_before_mg,
            base_after_mg: self.base_after_mg,
            gone,
            came: came.collect(),
            kits: Vec::new(),
            also: Vec::new(),
        }
    }
}
