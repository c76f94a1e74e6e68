//! What the loaded pack weighs at the start, line by line: the one sum that stands wherever a loaded pack is shown.

use super::{Supplies, Trip};
use crate::list::{Place, Thing, WeighedKit, whole_kits};
use crate::quantity::Mass;

/// A part of a loaded pack.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Part {
    /// A thing, by its position: its pieces that are packed, cans with what they hold.
    Thing(usize),
    /// By how much a kit that is in as a whole weighed more than its parts do, by its name.
    Kit(String),
    /// The trip's food, up to where more is fetched.
    Food,
    /// The water that is carried at the start.
    Water,
}

/// A loaded pack.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Loaded {
    /// What lies in it, with what it weighs: things in their order, then kits, food, water.
    pub parts: Vec<(Part, Mass)>,
    /// All of it.
    pub total: Mass,
    /// Things in it of which nobody knows what they weigh: while there are any, the total is "at least".
    pub unknown: usize,
}

/// What a trip loads beside the things of a list: food only where the list has none of its own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Load {
    /// Food.
    pub food: Mass,
    /// Water.
    pub water: Mass,
}

impl Load {
    /// Beside these things, all that a walker carries.
    pub fn beside<'a>(things: impl IntoIterator<Item = &'a Thing>, trip: Option<&Trip>) -> Load {
        let Some(trip) = trip else { return Load::default() };
        let supplies = Supplies::of(trip);
        let has_food = things.into_iter().any(|thing| thing.has("food") && thing.line.counts.packed() > 0);
        let food = supplies.food_by_carry.first().copied().filter(|_| !has_food).unwrap_or_default();
        Load { food, water: Mass::from_mg(supplies.water_on(1, trip).saturating_mul(1_000)) }
    }

    /// Food and water together.
    pub fn total(self) -> Mass {
        self.food + self.water
    }
}

/// A pack with some things in it, by their positions, and what the trip loads. Water on the list is the trip's where that loads any. Kits that
/// are in as a whole count as they were weighed.
pub fn loaded<'a>(things: impl IntoIterator<Item = (usize, &'a Thing)>, kits: &[WeighedKit], load: Load) -> Loaded {
    let is_in = |thing: &Thing| thing.line.counts.packed() > 0 && !(load.water > Mass::ZERO && thing.has("water"));
    let things: Vec<(usize, &Thing)> = things.into_iter().filter(|(_, thing)| is_in(thing)).collect();
    let lines = things.iter().map(|(_, thing)| (&thing.line.id, &thing.line)).collect();
    let whole = whole_kits(&lines, kits).into_iter().filter(|whole| whole.place != Place::Worn);
    let supplies = [(Part::Food, load.food), (Part::Water, load.water)];
    let parts = things
        .iter()
        .map(|(at, thing)| (Part::Thing(*at), thing.load()))
        .chain(whole.map(|whole| (Part::Kit(whole.kit.name.clone()), whole.correction)))
        .chain(supplies.into_iter().filter(|(_, mass)| *mass > Mass::ZERO));
    let parts: Vec<(Part, Mass)> = parts.collect();
    Loaded {
        total: parts.iter().map(|(_, mass)| *mass).sum(),
        unknown: things.iter().filter(|(_, thing)| thing.line.weight.is_none()).count(),
        parts,
    }
}
