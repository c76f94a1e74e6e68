//! Ways of counting: hikers differ on what base weight holds, so the same pack is added up by each.

use super::{Counts, Line, Place, Thing, Totals, WeighedKit, added_up};
use crate::gear::Tags;
use crate::quantity::Mass;
use serde::{Deserialize, Serialize};

/// The tag of a food container that animals can't open.
pub const CONTAINER: &str = "container";
/// The tag of a gas can.
pub const GAS_CAN: &str = "gas_can";

/// A way of counting: where all pieces of things with a tag count. What has none of its tags stays as it is laid out.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Way {
    /// The word that it is known by.
    pub key: String,
    /// Its switches; of a thing with several tags the first here counts.
    pub places: Vec<Switch>,
}

/// A switch of a way of counting.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Switch {
    /// The tag.
    pub tag: String,
    /// Where all pieces of things with it count.
    pub place: Place,
}

/// The usual places, in the order in which tags count.
const USUAL: [(&str, Place); 6] = [
    ("poles", Place::Worn),
    ("pocket", Place::Worn),
    (CONTAINER, Place::Carried),
    (GAS_CAN, Place::UsedUp),
    ("consumables", Place::Carried),
    ("section_only", Place::Apart),
];

impl Way {
    /// The tags that the ways built in know, in the order in which they count.
    pub fn tags() -> impl Iterator<Item = &'static str> {
        USUAL.into_iter().map(|(tag, _)| tag)
    }

    /// The tags on which ways differ, each with where it usually counts.
    pub fn usual() -> impl Iterator<Item = (&'static str, Place)> {
        USUAL.into_iter()
    }

    /// The ways built in, beside the list as it is laid out: usual, all on the back, container apart, consumables used up.
    pub fn built_in() -> [Way; 4] {
        let way = |key: &str, place: &dyn Fn(&str, Place) -> Place| Way {
            key: key.to_owned(),
            places: USUAL
                .into_iter()
                .map(|(tag, usual)| Switch { tag: tag.to_owned(), place: place(tag, usual) })
                .collect(),
        };
        [
            way("usual", &|_, usual| usual),
            way("all_on_the_back", &|_, _| Place::Carried),
            way("container_apart", &|tag, usual| if tag == CONTAINER { Place::Apart } else { usual }),
            way("consumables_used_up", &|tag, usual| if tag == "consumables" { Place::UsedUp } else { usual }),
        ]
    }

    /// Where things with these tags count; `None` where they stay as they are laid out.
    pub fn place_of(&self, tags: &Tags) -> Option<Place> {
        self.switch(tags).map(|switch| switch.place)
    }

    /// How the pieces of a thing with these tags count: all that don't stay home in the tag's place.
    pub fn counts_of(&self, tags: &Tags, counts: Counts) -> Counts {
        self.place_of(tags).map_or(counts, |place| counts.moved_to(place))
    }

    fn switch(&self, tags: &Tags) -> Option<&Switch> {
        self.places.iter().find(|switch| tags.has(&switch.tag))
    }
}

/// The sums of the list counted in a way, where `kits` count as they were weighed while all of one stands in one place. Of a gas can
/// only the shell moves; where it comes along, its gas is used up all the same.
pub fn counted_by(things: &[Thing], kits: &[WeighedKit], way: &Way) -> Totals {
    let laid = |line: &Line| Line { counts: way.counts_of(&line.tags, line.counts), ..line.clone() };
    let lines: Vec<Line> = things.iter().map(|thing| laid(&thing.line)).collect();
    let mut sums = added_up(&lines, kits).0;
    for (thing, line) in things.iter().zip(&lines) {
        match way.switch(&line.tags) {
            Some(Switch { tag, place }) if tag == GAS_CAN && ![Place::UsedUp, Place::Left].contains(place) => {
                let gas = (thing.unit() - thing.shell()).times(line.counts.at(*place));
                sums.add(Mass::ZERO - gas, *place);
                sums.add(gas, Place::UsedUp);
            }
            _ => {}
        }
    }
    sums
}
