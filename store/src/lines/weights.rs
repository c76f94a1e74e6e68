//! What lines add up to, and lines with no more than what that takes.

use super::{Carried, LineRow, shown};
use crate::StoreError;
use crate::access::ToList;
use crate::id::{AccountId, GearId, LineId, WalkerId};
use crate::schema::{gear, list_line};
use diesel::dsl::sql;
use diesel::prelude::*;
use diesel::sql_types::{BigInt, Unsigned};
use kevyt_core::list::Counts;
use kevyt_core::quantity::Mass;

diesel::allow_columns_to_appear_in_same_group_by_clause!(gear::account_id, list_line::walker_id, list_line::shared);

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

/// The lines of all who walk on a list, as [`of_everyone`](super::of_everyone) has them, that have one of these things.
pub fn weights(c: &mut MysqlConnection, to: ToList, things: &[GearId]) -> Result<Vec<LineWeight>, StoreError> {
    let rows: Vec<(LineRow, AccountId, Option<i64>)> = list_line::table
        .inner_join(gear::table)
        .filter(shown(to))
        .filter(list_line::gear_id.eq_any(things))
        .select((LineRow::as_select(), gear::account_id, gear::unit_mg))
        .load(c)?;
    let weight = |(row, owner, unit): (LineRow, AccountId, Option<i64>)| {
        let (counts, carried) = (row.counts(), row.carried());
        LineWeight { id: row.id, gear: row.gear_id, owner, counts, carried, unit: unit.map(Mass::from_mg) }
    };
    Ok(rows.into_iter().map(weight).collect())
}

/// What lines add up to that are carried alike.
#[derive(Debug, Clone, Copy)]
pub struct Load {
    /// Whose the things are.
    pub owner: AccountId,
    /// Who carries them.
    pub carried: Carried,
    /// What the pieces weigh that are carried.
    pub carried_mass: Mass,
    /// How many lines have no known weight.
    pub unknown: usize,
}

/// What the lines of all who walk on a list add up to, but for those with one of these things, by who carries them.
pub fn loads(c: &mut MysqlConnection, to: ToList, without: &[GearId]) -> Result<Vec<Load>, StoreError> {
    let mass = sql::<BigInt>("CAST(COALESCE(SUM(list_line.carried * gear.unit_mg), 0) AS SIGNED)");
    let unknown = sql::<Unsigned<BigInt>>("CAST(SUM(gear.unit_mg IS NULL) AS UNSIGNED)");
    let rows: Vec<(AccountId, Option<WalkerId>, bool, i64, u64)> = list_line::table
        .inner_join(gear::table)
        .filter(shown(to))
        .filter(list_line::gear_id.ne_all(without))
        .group_by((gear::account_id, list_line::walker_id, list_line::shared))
        .select((gear::account_id, list_line::walker_id, list_line::shared, mass, unknown))
        .load(c)?;
    let load = |(owner, by, shared, mass, unknown)| Load {
        owner,
        carried: Carried { shared, by },
        carried_mass: Mass::from_mg(mass),
        unknown: usize::try_from(unknown).unwrap_or(usize::MAX),
    };
    Ok(rows.into_iter().map(load).collect())
}
