//! Whether a thing is food, as its tag, its system, its name or what becomes of it says: so that it is never counted beside the trip's.

use super::{Gear, System};

/// The tag that food has.
pub(crate) const FOOD: &str = "food";

/// Words for food, in English, German and French.
const WORDS: [&str; 36] = [
    "food",
    "meal",
    "meals",
    "breakfast",
    "lunch",
    "dinner",
    "snack",
    "snacks",
    "oats",
    "oat",
    "muesli",
    "bread",
    "nuts",
    "noodles",
    "rice",
    "chocolate",
    "cheese",
    "essen",
    "proviant",
    "mahlzeit",
    "mahlzeiten",
    "haferflocken",
    "müsli",
    "brot",
    "nüsse",
    "nudeln",
    "reis",
    "schokolade",
    "käse",
    "nourriture",
    "repas",
    "avoine",
    "pain",
    "noix",
    "riz",
    "chocolat",
];
/// What such a word stands before where a thing holds food, or keeps it out of reach.
const HOLDERS: [&str; 26] = [
    "bag",
    "sack",
    "box",
    "can",
    "canister",
    "container",
    "pot",
    "bowl",
    "mug",
    "jar",
    "pouch",
    "cozy",
    "liner",
    "line",
    "cord",
    "rope",
    "hook",
    "beutel",
    "dose",
    "topf",
    "seil",
    "leine",
    "sac",
    "boîte",
    "bol",
    "corde",
];
/// What is used up in a kitchen and is no food: fuel above all, which no trip's food stands for.
const BESIDE: [&str; 52] = [
    "fuel",
    "gas",
    "spirit",
    "spirits",
    "alcohol",
    "ethanol",
    "methanol",
    "petrol",
    "gasoline",
    "paraffin",
    "kerosene",
    "wood",
    "match",
    "matches",
    "lighter",
    "firelighter",
    "tinder",
    "candle",
    "tablet",
    "tablets",
    "soap",
    "wipe",
    "wipes",
    "towel",
    "paper",
    "foil",
    "brennstoff",
    "spiritus",
    "alkohol",
    "benzin",
    "petroleum",
    "holz",
    "streichhölzer",
    "feuerzeug",
    "anzünder",
    "kerze",
    "tabletten",
    "seife",
    "tücher",
    "papier",
    "folie",
    "combustible",
    "alcool",
    "essence",
    "pétrole",
    "bois",
    "allumettes",
    "briquet",
    "bougie",
    "pastilles",
    "savon",
    "lingettes",
];

impl Gear {
    /// Whether it is food, where so many pieces of it are used up: by its tag, by its name, or as something that does nothing, of the food store, or
    /// used up in the kitchen. What holds food is none, nor is fuel.
    pub fn is_food(&self, used_up: u32) -> bool {
        if self.tags.has(FOOD) {
            return true;
        }
        if self.facts.contents.is_some() || self.tags.has("container") || !self.provides.is_empty() {
            return false;
        }
        let name = self.name.as_str().to_lowercase();
        let words = || name.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
        if words().any(|word| HOLDERS.contains(&word) || BESIDE.contains(&word)) {
            return false;
        }
        let is_named = words().any(|word| WORDS.contains(&word));
        is_named || self.system == System::Food || (used_up > 0 && self.system == System::Kitchen)
    }
}
