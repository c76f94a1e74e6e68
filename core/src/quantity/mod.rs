//! Mass and money: typed text in, exact integers held, text out.

mod mass;
mod money;
mod number;

#[cfg(test)]
mod tests;

pub use mass::{Mass, MassStyle, MassUnit};
pub use money::{Currency, Money, PriceRange};
pub use number::{Reason, Refused, div_half_even};
