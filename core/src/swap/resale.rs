//! What the gear that a swap takes off brings.

use crate::quantity::Money;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// What selling takes: a part of the price, and postage.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(default)]
pub struct Selling {
    /// The seller's fee in tenths of a per cent of the price; up to [`limits::FEE_TENTHS`].
    pub fee_tenths: u32,
    /// Postage of a parcel.
    #[serde(rename = "postage_minor")]
    pub postage: Money,
}

impl Selling {
    /// What is left of a price, never less than nothing. The fee is rounded up to the minor unit.
    #[must_use]
    pub fn left(self, price: Money) -> Money {
        let fee = (price.minor() * i64::from(self.fee_tenths) + 999).div_euclid(1000);
        (price - Money::from_minor(fee) - self.postage).max(Money::ZERO)
    }
}

/// Gear that a swap takes off and another list has too.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Elsewhere {
    /// The other list.
    pub list: String,
    /// Pieces that it takes along: carried, worn, used up or apart.
    pub pieces: u32,
    /// Pieces that are owned.
    pub owned: u32,
    /// Pieces that the swap takes off.
    pub taken: u32,
}

impl Elsewhere {
    /// Whether the other list could not do without what is taken.
    fn is_short(&self) -> bool {
        self.taken > 0 && self.pieces > self.owned.saturating_sub(self.taken)
    }
}

/// A resale as it counts.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Resale {
    /// What is left of it after fees; nothing while another list needs the gear, unless the walker says that it is sold all the same.
    pub brings: Money,
    /// The lists that need it, by name.
    pub needed_by: Vec<String>,
}

/// The result of selling for a price.
pub fn resale(price: Money, selling: Selling, elsewhere: &[Elsewhere], all_the_same: bool) -> Resale {
    // A list that needs several of the things is named once.
    let short: BTreeSet<&String> = elsewhere.iter().filter(|other| other.is_short()).map(|other| &other.list).collect();
    let counts = short.is_empty() || all_the_same;
    Resale {
        brings: if counts { selling.left(price) } else { Money::ZERO },
        needed_by: short.into_iter().cloned().collect(),
    }
}

#[cfg(test)]
mod tests {
    use super::{Elsewhere, Resale, Selling, resale};
    use crate::quantity::Money;

    const fn money(minor: i64) -> Money {
        Money::from_minor(minor)
    }

    #[test]
    fn fee_and_postage_are_off_and_never_more_than_there_is() {
        // Price, fee in tenths of a per cent, postage, what is left: by hand.
        let cases =
            [(9_000, 0, 0, 9_000), (9_000, 55, 500, 8_005), (999, 125, 0, 874), (1, 1, 0, 0), (500, 100, 700, 0)];
        for (price, fee_tenths, postage, left) in cases {
            let selling = Selling { fee_tenths, postage: money(postage) };
            assert_eq!(selling.left(money(price)), money(left), "{price} {selling:?}");
        }
    }

    #[test]
    fn what_another_list_needs_brings_nothing_unless_it_is_sold_all_the_same() {
        let other = |list: &str, pieces, owned, taken| Elsewhere { list: list.to_owned(), pieces, owned, taken };
        let brings = |elsewhere: &[Elsewhere], all_the_same| {
            let Resale { brings, needed_by } = resale(money(900), Selling::default(), elsewhere, all_the_same);
            (brings.minor(), needed_by.join(","))
        };
        assert_eq!(brings(&[], false), (900, String::new()));
        assert_eq!(brings(&[other("Winter", 1, 1, 1)], false), (0, "Winter".to_owned()));
        assert_eq!(brings(&[other("Winter", 1, 1, 1)], true), (900, "Winter".to_owned()));
        // One of two is left for it; two of three are not enough for two.
        assert_eq!(brings(&[other("Winter", 1, 2, 1)], false), (900, String::new()));
        assert_eq!(brings(&[other("Winter", 2, 3, 2)], false), (0, "Winter".to_owned()));
        // At home on the other list, or not taken.
        assert_eq!(brings(&[other("Winter", 0, 1, 1), other("Alps", 1, 1, 0)], false), (900, String::new()));
        let twice = [other("Winter", 1, 1, 1), other("Alps", 1, 1, 1), other("Winter", 2, 2, 2)];
        assert_eq!(brings(&twice, false), (0, "Alps,Winter".to_owned()));
    }
}
