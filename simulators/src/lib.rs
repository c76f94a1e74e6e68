//! What Kevyt meets outside itself, simulated, for the demo and the tests. They listen on loopback only.

pub mod forecast;
pub mod scale;
mod serve;
pub mod shop;

pub use serve::{Goods, read_goods, run};
