//! Lines with no more than what a sum of weights takes.

use super::{Carried, LineRow, shown};
use crate::store::StoreError;
use crate::store::access::ToList;
use crate::store::id::{AccountId, GearId, LineId};
use crate::store::schema::{gear, list_line};
use diesel::prelude::*;
use kevyt_core::list::Counts;
use kevyt_core::quantity::Mass;

/// A line with no more than what a sum of weights takes.
#[derive(Debug, Clone, Copy)]
pub struct LineWeight {
    /// Its id.
    pub id: LineId,
    /// The gear.
    pub gear: GearId,
    /// Whose that is.
    pub owner: AccountId,
    /// Its counts.
    pub counts: Counts,
    /// Who carries it.
    pub carried: Carried,
    /// What one piece weighs.
    pub unit: Option<Mass>,
}

/// The lines of all who walk on a list, as [`of_everyone`] has them, with no more than what a sum of weights takes.
pub fn weights(c: &mut MysqlConnection, to: ToList) -> Result<Vec<LineWeight>, StoreError> {
    let rows: Vec<(LineRow, AccountId, Option<i64>)> = list_line::table
        .inner_join(gear::table)
        .filter(shown(to))
        .select((LineRow::as_select(), gear::account_id, gear::unit_mg))
        .load(c)?;
    let weight = |(row, owner, unit): (LineRow, AccountId, Option<i64>)| {
        let (counts, carried) = (row.counts(), row.carried());
        LineWeight { id: row.id, gear: row.gear_id, owner, counts, carried, unit: unit.map(Mass::from_mg) }
    };
    Ok(rows.into_iter().map(weight).collect())
}
