//! Mass, money, temperature, volume, energy and distance: typed text in, exact integers held, text out.

mod mass;
mod measure;
mod money;
mod number;

#[cfg(test)]
mod tests;

pub use mass::{Mass, MassStyle, MassUnit};
pub use measure::{Distance, Energy, Temperature, Units, Vessel, Volume};
pub use money::{Currency, Money, PriceRange};
pub use number::{Quantity, Reason, Refused, div_half_even};
