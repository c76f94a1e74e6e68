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
/// What such a word stands before where a thing holds food, or is for eating it.
const HOLDERS: [&str; 18] = [
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
    "beutel",
    "dose",
    "topf",
    "sac",
    "boîte",
    "bol",
];

impl Gear {
    /// Whether it is food, where so many pieces of it are used up: by its tag, by its name, or as something of the food store that does nothing
    /// and is no container.
    pub fn is_food(&self, used_up: u32) -> bool {
        if self.tags.has(FOOD) {
            return true;
        }
        if self.facts.contents.is_some() || self.tags.has("container") || !self.provides.is_empty() {
            return false;
        }
        let name = self.name.as_str().to_lowercase();
        let words = || name.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
        if words().any(|word| HOLDERS.contains(&word)) {
            return false;
        }
        let is_named = words().any(|word| WORDS.contains(&word));
        is_named || self.system == System::Food || (used_up > 0 && self.system == System::Kitchen)
    }
}
