//! The systems by which a list is read.

use serde::{Deserialize, Serialize};

/// Declares the systems once: variant, key, name, and other words that mean it in the quick line.
macro_rules! systems {
    ($($variant:ident $key:literal $name:literal [$($word:literal),*],)*) => {
        /// A system of gear, in the order in which lists show them.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
        #[serde(rename_all = "snake_case")]
        pub enum System { $(#[doc = $name] $variant,)* }

        impl System {
            /// Every system, in order.
            pub const ALL: &'static [System] = &[$(System::$variant,)*];

            /// The word it is kept and sent as.
            pub fn key(self) -> &'static str {
                match self { $(System::$variant => $key,)* }
            }

            /// Its name, as shown.
            pub fn name(self) -> &'static str {
                match self { $(System::$variant => $name,)* }
            }

            /// The system that is kept as a word.
            pub fn from_key(key: &str) -> Option<System> {
                System::ALL.iter().copied().find(|system| system.key() == key)
            }

            /// The system that a typed word means.
            pub fn from_word(word: &str) -> Option<System> {
                match word.to_lowercase().as_str() {
                    $($key $(| $word)* => Some(System::$variant),)*
                    _ => None,
                }
            }
        }
    };
}

systems! {
    Pack "pack" "Pack" ["packing"],
    Shelter "shelter" "Shelter" ["tent", "tarp"],
    Sleep "sleep" "Sleep" ["sleeping", "quilt", "pad"],
    Worn "worn" "Worn clothes" ["wear"],
    Clothes "clothes" "Carried clothes" ["clothing"],
    Rain "rain" "Rain" ["shell"],
    Kitchen "kitchen" "Kitchen" ["cook", "cooking"],
    Water "water" "Water" [],
    Power "power" "Light and power" ["light", "electronics"],
    Way "way" "Way and help" ["help", "navigation", "map"],
    Wash "wash" "Washing and toilet" ["toilet", "washing"],
    Aid "aid" "First aid and repair" ["repair", "first_aid"],
    Food "food" "Food store" ["food_store"],
    Comfort "comfort" "Comfort" [],
    Other "other" "Other" [],
}
