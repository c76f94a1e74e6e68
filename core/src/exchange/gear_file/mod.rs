//! Gear as CSV (RFC 4180): a file of anybody's is read through a mapping that the walker confirms; ours is written with a
//! Table Schema beside it (Frictionless Data Package).
//!
//! Reading has three steps, none of which writes anything: [`Sheet::read`] splits the file, [`Mapping::suggest`] says what
//! each column seems to hold, [`read_rows`] turns lines into things or refusals. [`compare`] sets them against what
//! is there.

mod cells;
mod column;
mod compare;
mod leave;
mod mapping;
mod row;
pub(super) mod sheet;
mod write;

#[cfg(test)]
mod tests;

pub use column::Column;
pub use compare::{Outcome, compare};
pub use leave::{LeftOut, propose_leaving};
pub(in crate::exchange) use mapping::is_header;
pub use mapping::{Decimal, Mapping};
pub use row::{CellRefused, Row, read_rows};
pub(in crate::exchange) use sheet::rows_of;
pub use sheet::{Sheet, SheetError};
pub use write::{data_package, write_csv};
