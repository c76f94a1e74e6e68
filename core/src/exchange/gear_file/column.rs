//! What a column of a gear file can hold.

use serde::{Deserialize, Serialize};

/// How a header begins that was made up, for columns that nobody has named.
pub(super) const UNNAMED: &str = "Column ";

/// Declares the columns once: variant, key, what it holds, and headers that mean it.
macro_rules! columns {
    ($($variant:ident $key:literal $holds:literal [$($word:literal),*],)*) => {
        /// A column of ours.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
        pub enum Column { $(#[doc = $holds] #[serde(rename = $key)] $variant,)* }

        impl Column {
            /// Every column, in the order in which they are written.
            pub const ALL: &'static [Column] = &[$(Column::$variant,)*];

            /// Its header in a file of ours.
            pub fn key(self) -> &'static str {
                match self { $(Column::$variant => $key,)* }
            }

            /// What it holds, for the Table Schema and the walker.
            pub fn holds(self) -> &'static str {
                match self { $(Column::$variant => $holds,)* }
            }

            /// The column that a foreign header seems to mean, its unit left out.
            pub(super) fn from_header(words: &str) -> Option<Column> {
                match words {
                    $($key $(| $word)* => Some(Column::$variant),)*
                    _ => None,
                }
            }
        }
    };
}

columns! {
    Name "name" "What the thing is." ["item", "thing", "gear", "item name", "gear item", "title", "what", "ausrüstung", "artikel", "équipement", "article", "nimi", "gegenstand", "bezeichnung", "nom", "objet", "nombre"],
    System "system" "The key of its system." ["category", "group", "section", "type", "kategorie", "ryhmä", "catégorie", "categoria"],
    Count "count" "Pieces owned." ["qty", "quantity", "how many", "pieces", "x", "pcs", "number", "amount", "n", "anzahl", "stück", "määrä", "kpl", "quantité", "nombre de pièces", "cantidad"],
    Weight "weight_g" "What one piece weighs, in grams; empty if unknown." ["weight", "mass", "unit weight", "weight each", "each", "item weight", "gewicht", "paino", "poids", "peso"],
    Unit "unit" "The unit of the weight in this line." ["units", "weight unit", "mass unit", "einheit", "yksikkö", "unité", "unidad"],
    Typed "weight_as_typed" "The weight as it was typed." [],
    Source "source" "Where the weight comes from: weighed, maker, estimate or derived." ["weight source", "quelle"],
    HalfWidth "half_width_g" "Half the width of the doubt of a weighing, in grams." [],
    Claimed "claimed_g" "The maker's figure for one piece, in grams." ["claimed", "claimed weight", "stated weight", "spec weight", "manufacturer weight", "maker weight", "herstellerangabe"],
    ClaimedTyped "claimed_as_typed" "The maker's figure as it was typed." [],
    Price "price" "What one piece cost: a figure or a range, in the account's currency." ["paid", "cost", "price paid", "price low", "low price", "lowest price", "min price", "price min", "price from", "preis", "hinta", "prix", "precio"],
    Acquired "acquired" "How it was come by: new, used, sale, gift, made or borrowed." ["condition", "bought"],
    Resale "worth_now" "What one piece would bring, in the account's currency." ["worth", "value", "resale", "worth now", "resale value", "wert", "arvo"],
    Status "status" "owned, lent, for_sale, sold, given, worn_out or wished." ["state", "zustand", "tila"],
    KeptAt "kept_at" "Where it is kept." ["where", "place", "location", "storage", "kept", "ort", "paikka"],
    Note "note" "What there is to say of it in words." ["notes", "comment", "comments", "remark", "remarks", "notiz", "notizen", "bemerkung", "bemerkungen", "remarque", "remarques", "huomio"],
    Tags "tags" "Words that it is found by, parted by spaces." ["tag", "labels", "label", "keywords", "schlagworte"],
    Nights "nights" "Nights of use." ["nights used", "nächte", "yöt", "nuits"],
    Lasts "lasts_nights" "After how many nights of use it is worn out." ["lasts", "lifetime", "lifetime nights"],
    Provides "provides" "Jobs that one piece does, as key=amount, parted by spaces." [],
    Needs "needs" "Jobs that one piece needs, as key=amount, parted by spaces." [],
    Minor "weight_minor" "The smaller part of a weight that stands in two columns: ounces beside pounds, grams beside kilograms." [],
    PriceHigh "price_high" "The most that one piece may cost, where a range stands in two columns." ["price high", "high price", "highest price", "max price", "price max", "price to", "price up to"],
    Worn "worn" "Whether it is worn: yes, x or 1, or how many pieces." ["wearing", "is worn", "worn?", "getragen", "porté", "päällä"],
    UsedUp "used_up" "Whether it is used up on the way: yes, x or 1, or how many pieces." ["consumable", "consumables", "consumed", "used up", "consumable?", "is consumable", "verbrauch", "consommable"],
}

impl Column {
    /// The columns of a file of ours. The others are of lists from elsewhere: how pieces count is the list's, not the thing's.
    pub fn ours() -> impl Iterator<Item = Column> {
        let foreign = [Column::Unit, Column::Minor, Column::PriceHigh, Column::Worn, Column::UsedUp];
        Column::ALL.iter().copied().filter(move |column| !foreign.contains(column))
    }

    /// What it is called, where it is chosen.
    pub fn title(self) -> String {
        let words = match self {
            Column::Weight => "weight",
            Column::Typed => "weight as typed",
            Column::HalfWidth => "doubt of the weight",
            Column::Claimed => "maker's figure",
            Column::ClaimedTyped => "maker's figure as typed",
            Column::Acquired => "how I got it",
            Column::Provides => "what it does",
            Column::Needs => "what it needs",
            Column::Minor => "weight, smaller part",
            Column::Price => "price paid",
            Column::PriceHigh => "price, upper end",
            other => return other.key().replace('_', " "),
        };
        words.to_owned()
    }

    /// Whether its figures are masses, which a header or a unit column gives a unit.
    pub(super) fn is_mass(self) -> bool {
        matches!(self, Column::Weight | Column::Minor | Column::Claimed | Column::HalfWidth)
    }

    /// Whether its figures may have decimals.
    pub(super) fn has_decimals(self) -> bool {
        self.is_mass() || matches!(self, Column::Price | Column::PriceHigh | Column::Resale)
    }
}
