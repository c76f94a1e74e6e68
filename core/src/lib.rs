//! The rules of the job: what gear weighs, what a swap saves and costs, and which swaps reach a target within a budget.
//!
//! No clock, no I/O, no database, no randomness. Masses and money are whole integers; ratios are compared by cross
//! multiplication. Modules point one way: `quantity ← gear ← list ← swap ← plan` and
//! `list ← trip ← caution`, with `together` (two walkers), `pack` and `walked` (what trips teach) beside these, `exchange` on top and `weigh`, the scale, aside.
#![deny(missing_docs, clippy::float_arithmetic)]

pub mod caution;
pub mod exchange;
pub mod gear;
pub mod limits;
pub mod list;
pub mod pack;
pub mod plan;
pub mod quantity;
pub mod steps;
pub mod swap;
pub mod together;
pub mod trip;
pub mod walked;
pub mod weigh;
