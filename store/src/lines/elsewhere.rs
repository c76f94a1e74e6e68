//! What gear is on several lists.

use super::LineRow;
use crate::StoreError;
use crate::access::Access;
use crate::id::{AccountId, GearId, LineId, ListId};
use crate::schema::{gear, list_line, list_walker, pack_list};
use diesel::prelude::*;

/// Lists that somebody has joined.
#[diesel::dsl::auto_type(no_type_alias)]
pub(super) fn joined_by(access: Access) -> _ {
    let account: AccountId = access.account();
    list_walker::table
        .filter(list_walker::account_id.eq(account))
        .filter(list_walker::removed_at.is_null())
        .select(list_walker::list_id)
}

/// Gear of a line that another list has too.
#[derive(Debug, Clone)]
pub struct Need {
    /// The line.
    pub line: LineId,
    /// The other list.
    pub of: ListId,
    /// Its name.
    pub list: String,
    /// Pieces that are carried, worn, used up or apart on it.
    pub pieces: u32,
    /// Pieces that are owned.
    pub owned: u32,
}

/// A line, its pieces by where they count, pieces owned, and the list.
type NeedRow = (LineId, u32, u32, u32, u32, u32, ListId, String);

/// What other lists need of an account's gear on some lines: lists of its own that aren't archived, and those that it has joined.
pub fn needed_elsewhere(c: &mut MysqlConnection, access: Access, lines: &[LineId]) -> Result<Vec<Need>, StoreError> {
    if lines.is_empty() {
        return Ok(Vec::new());
    }
    let other = diesel::alias!(list_line as other);
    let rows: Vec<NeedRow> = list_line::table
        .inner_join(gear::table)
        .inner_join(other.on(other.field(list_line::gear_id).eq(list_line::gear_id)))
        .inner_join(pack_list::table.on(pack_list::id.eq(other.field(list_line::list_id))))
        .filter(list_line::id.eq_any(lines))
        .filter(other.field(list_line::list_id).ne(list_line::list_id))
        .filter(other.field(list_line::removed_at).is_null())
        .filter(gear::account_id.eq(access.account()))
        .filter(pack_list::account_id.eq(access.account()).or(pack_list::id.eq_any(joined_by(access))))
        .filter(pack_list::removed_at.is_null())
        .filter(pack_list::archived.eq(false))
        .select((
            list_line::id,
            other.field(list_line::carried),
            other.field(list_line::worn),
            other.field(list_line::used_up),
            other.field(list_line::apart),
            gear::count,
            pack_list::id,
            pack_list::name,
        ))
        .load(c)?;
    let need = |(line, carried, worn, used_up, apart, owned, of, list)| {
        let pieces = [carried, worn, used_up, apart].into_iter().fold(0, u32::saturating_add);
        Need { line, of, list, pieces, owned }
    };
    Ok(rows.into_iter().map(need).collect())
}

/// The pieces of some things on each list that has them: thing, name of the list, pieces.
pub fn pieces(
    c: &mut MysqlConnection,
    access: Access,
    things: &[GearId],
) -> Result<Vec<(GearId, String, u32)>, StoreError> {
    let rows: Vec<(LineRow, String)> = list_line::table
        .inner_join(gear::table)
        .inner_join(pack_list::table)
        .filter(list_line::gear_id.eq_any(things))
        .filter(list_line::removed_at.is_null())
        .filter(gear::account_id.eq(access.account()))
        .filter(pack_list::removed_at.is_null())
        .select((LineRow::as_select(), pack_list::name))
        .load(c)?;
    Ok(rows.into_iter().map(|(line, list)| (line.gear_id, list, line.counts().pieces())).collect())
}

/// The account's own lists with some things on them.
pub fn lists_with(c: &mut MysqlConnection, access: Access, things: &[GearId]) -> Result<Vec<ListId>, StoreError> {
    Ok(list_line::table
        .inner_join(pack_list::table)
        .filter(list_line::gear_id.eq_any(things))
        .filter(list_line::removed_at.is_null())
        .filter(pack_list::account_id.eq(access.account()))
        .filter(pack_list::removed_at.is_null())
        .select(list_line::list_id)
        .distinct()
        .load(c)?)
}
