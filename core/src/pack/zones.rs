//! Zones of a pack: what goes where, and how much of each is full.
//!
//! A proposal goes by when a thing is needed and whether it must stay dry: what is needed while walking on top; what comes out first at
//! camp above what comes out last; bedding and spare clothes low down, in the liner; what is wet or may get so outside. It is a rule of
//! thumb, and the walker's own choice stands before it.

use crate::gear::System;
use crate::list::Thing;
use serde::{Deserialize, Serialize};

/// A part of a pack, or of the walker, where things are kept.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Zone {
    /// Needed while walking.
    Top,
    /// First at camp.
    UpperBody,
    /// In the liner: stays dry.
    LowerBody,
    /// Out last.
    Bottom,
    /// Wet things.
    FrontPocket,
    /// A bottle.
    LeftSide,
    /// Another.
    RightSide,
    /// In reach.
    Belt,
    /// Worn, or in a trouser pocket.
    OnMe,
}

impl Zone {
    /// Every zone, the pack from the top down, then its pockets, then the walker.
    pub const ALL: [Zone; 9] = [
        Zone::Top,
        Zone::UpperBody,
        Zone::LowerBody,
        Zone::Bottom,
        Zone::FrontPocket,
        Zone::LeftSide,
        Zone::RightSide,
        Zone::Belt,
        Zone::OnMe,
    ];

    /// What it holds of a pack of so much room unless the walker says otherwise, in millilitres: parts of the room inside, rounded down,
    /// and pockets by rule of thumb. Nothing is said of what the walker wears.
    pub fn ml_by_default(self, room_ml: i64) -> Option<i64> {
        let tenths = |tenths: i64| Some(room_ml * tenths / 10);
        match self {
            Zone::Top => tenths(1),
            Zone::UpperBody => tenths(3),
            Zone::LowerBody => tenths(4),
            Zone::Bottom => tenths(2),
            Zone::FrontPocket => Some(4_000),
            Zone::LeftSide | Zone::RightSide | Zone::Belt => Some(1_000),
            Zone::OnMe => None,
        }
    }
}

/// Jobs of what is needed while walking, or at once.
const WHILE_WALKING: [&str; 8] =
    ["rain_shell", "first_aid", "way_finding", "call_for_help", "light", "gloves", "warm_hat", "traction"];
/// Jobs of what comes out first at camp.
const FIRST_AT_CAMP: [&str; 10] = [
    "shelter",
    "shelter_pole",
    "stake",
    "tie_out",
    "insect_net",
    "pot",
    "heat",
    "fire",
    "water_treatment",
    "food_store",
];
/// Jobs of what must stay dry.
const DRY: [&str; 3] = ["sleep_insulation", "ground_insulation", "warm_layer"];

/// Where a thing goes unless the walker says otherwise; `None` if none of it comes along, and for the pack itself.
pub fn proposed(thing: &Thing) -> Option<Zone> {
    let counts = thing.line.counts;
    if counts.packed() == 0 {
        return (counts.worn > 0).then_some(Zone::OnMe);
    }
    if thing.provides("room") > 0 {
        return None;
    }
    let does = |jobs: &[&str]| jobs.iter().any(|job| thing.provides(job) > 0);
    Some(if thing.has("pocket") {
        Zone::OnMe
    } else if does(&["water_carried"]) {
        Zone::LeftSide
    } else if does(&["cutting"]) {
        Zone::Belt
    } else if does(&WHILE_WALKING) || thing.system == System::Way {
        Zone::Top
    } else if does(&["toilet"]) || thing.system == System::Rain || thing.has("sit") {
        Zone::FrontPocket
    } else if does(&DRY) || matches!(thing.system, System::Sleep | System::Clothes | System::Worn | System::Pack) {
        Zone::LowerBody
    } else if does(&FIRST_AT_CAMP)
        || thing.has("food")
        || matches!(thing.system, System::Shelter | System::Kitchen | System::Water | System::Food)
    {
        Zone::UpperBody
    } else {
        Zone::Bottom
    })
}

/// How full a zone is.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Fill {
    /// What is in it, as far as packed sizes are known, in millilitres.
    pub ml: i64,
    /// Things in it whose packed size nobody knows: while there are any, it is "at least".
    pub unknown: usize,
    /// Things that no longer fit, in their order: positions among those given.
    pub over: Vec<usize>,
}

/// How full a zone of so many millilitres is with these things in this order; `None` for one that is not measured. Only pieces that are
/// in the pack count.
pub fn fill(things: &[&Thing], holds_ml: Option<i64>) -> Fill {
    let mut fill = Fill::default();
    for (at, thing) in things.iter().enumerate() {
        let size = thing.line.needs.get("room").copied().unwrap_or(0);
        if size == 0 {
            fill.unknown += 1;
            continue;
        }
        fill.ml += size.saturating_mul(i64::from(thing.line.counts.packed()));
        if holds_ml.is_some_and(|holds| fill.ml > holds) {
            fill.over.push(at);
        }
    }
    fill
}
