//! What could be bought, made or borrowed.

use super::{Addition, SwapKind};
use crate::gear::{
    Acquired, Claim, Facts, Gear, Identity, Jobs, Kind, Makers, Name, System, Tags, Weight, WeightSource, done_with,
};
use crate::list::{Carrier, Counts, Line, LineId, Place, Thing};
use crate::quantity::PriceRange;
use serde::{Deserialize, Serialize};

/// Where and when a price was seen, and how the thing is sold.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Seen {
    /// The place: a shop, a fair, a neighbour. Empty if nobody said.
    #[serde(default)]
    pub place: String,
    /// The day, as YYYY-MM-DD.
    #[serde(default)]
    pub on: Option<String>,
    /// New, used or in a sale.
    #[serde(default)]
    pub sold: Acquired,
}

/// Where a swap is ordered that puts these on: at the place of them all, if they have one in common.
pub fn ordered_from<'c>(candidates: impl IntoIterator<Item = &'c Candidate>) -> Option<String> {
    let mut places = candidates.into_iter().map(|candidate| candidate.seen.as_ref().map_or("", |seen| &seen.place));
    let first = places.next().filter(|place| !place.is_empty())?;
    places.all(|place| place == first).then(|| first.to_owned())
}

/// Something that could be bought, made or borrowed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Candidate {
    /// What it is.
    pub name: Name,
    /// What one piece weighs, if known.
    pub weight: Option<Weight>,
    /// What one piece costs, if known.
    pub price: Option<PriceRange>,
    /// Where and when that was seen, if anybody said.
    pub seen: Option<Seen>,
    /// What a shop knows it by, if its price is followed there.
    pub offer: Option<String>,
    /// What one piece does.
    pub provides: Jobs,
    /// What one piece needs.
    pub needs: Jobs,
    /// What a trip asks of it beside.
    pub facts: Facts,
    /// Words that it is found by, and marks.
    pub tags: Tags,
    /// What it is.
    pub identity: Identity,
}

impl Candidate {
    /// Makes it of a kind, with all that comes with that.
    pub fn become_kind(&mut self, kind: Option<&'static Kind>) {
        self.identity.become_kind(kind, &mut self.tags, &mut self.provides, &mut self.needs);
    }

    /// The thing that it is once it was got: its weight as it was said, to be weighed. The maker's word stays beside what a scale will say.
    pub fn got(&self, pieces: u32, paid: PriceRange, kind: SwapKind, system: System) -> Gear {
        let claim = self.weight.as_ref().filter(|weight| weight.source == WeightSource::Maker);
        Gear {
            system,
            count: pieces,
            weight: self.weight.clone(),
            claimed: claim.map(|weight| Claim { unit: weight.unit, typed: weight.typed.clone() }),
            paid: Some(paid),
            acquired: match &self.seen {
                _ if kind == SwapKind::Make => Acquired::Made,
                _ if kind == SwapKind::Borrow => Acquired::Borrowed,
                Some(seen) => seen.sold,
                None => Acquired::New,
            },
            provides: self.provides.clone(),
            needs: self.needs.clone(),
            facts: self.facts,
            tags: self.tags.clone(),
            identity: self.identity.clone(),
            ..Gear::named(self.name.clone())
        }
    }

    /// One piece of it, as if it were carried by a walker.
    pub fn brought_by(&self, walker: usize, makers: &Makers) -> Thing {
        let line = Line {
            id: LineId(String::new()),
            name: self.name.as_str().to_owned(),
            counts: Counts::in_place(Place::Carried, 1),
            weight: self.weight.as_ref().map(|weight| makers.known(weight)),
            tags: self.tags.clone(),
            provides: done_with(&self.provides, &self.tags),
            needs: self.needs.clone(),
        };
        let system = self.identity.kind.map_or(System::Other, |kind| kind.system);
        Thing { line, system, facts: self.facts, identity: self.identity.clone(), carrier: Carrier::Own(walker) }
    }

    /// `qty` pieces of it on a list, its weight as far as the account's record of makers' figures trusts it.
    pub fn on_list(&self, qty: u32, place: Place, makers: &Makers) -> Addition {
        Addition {
            name: self.name.as_str().to_owned(),
            qty,
            weight: self.weight.as_ref().map(|weight| makers.known(weight)),
            price: self.price,
            place,
            provides: done_with(&self.provides, &self.tags),
            needs: self.needs.clone(),
            gas: self.facts.contents.unwrap_or_default(),
        }
    }
}
