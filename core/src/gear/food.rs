//! Whether a thing is food, as its mark, its kind, its name or what becomes of it says: so that it is never counted beside the trip's.

use super::{FOOD, Gear, Kind, System};

impl Gear {
    /// Whether it is food, where so many pieces of it are used up: by its mark, as what its name says, or as something that nothing is known of but
    /// that it is of the food store, or used up in the kitchen. What has a kind is what that says.
    pub fn is_food(&self, used_up: u32) -> bool {
        if self.tags.has(FOOD) {
            return true;
        }
        if self.identity.kind.is_some() || self.facts.contents.is_some() || !self.provides.is_empty() {
            return false;
        }
        match Kind::of_name(self.name.as_str()) {
            Some(kind) => kind.has(FOOD),
            None => self.system == System::Food || (used_up > 0 && self.system == System::Kitchen),
        }
    }
}
