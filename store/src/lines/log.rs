//! Lines as the change log keeps them.

use super::elsewhere::joined_by;
use super::{LineRow, carry};
use crate::access::Access;
use crate::id::{AccountId, LineId, ListId};
use crate::schema::{gear, list_line, pack_list};
use crate::state::{AuditSnapshot, Audited};
use crate::upsert::upsert;
use crate::{StoreError, walkers};
use chrono::NaiveDateTime;
use diesel::prelude::*;
use std::collections::HashMap;
use uuid::Uuid;

impl Audited for LineRow {
    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError> {
        let ids: Vec<LineId> = ids.iter().copied().map(LineId).collect();
        // Other walkers' writes do not wait for those of this account: from here on they do, for these lines.
        list_line::table.filter(list_line::id.eq_any(&ids)).select(list_line::id).for_update().load::<LineId>(c)?;
        let rows: Vec<(LineRow, Option<NaiveDateTime>)> = list_line::table
            .inner_join(gear::table)
            .inner_join(pack_list::table)
            .filter(list_line::id.eq_any(ids))
            .filter(
                gear::account_id
                    .eq(access.account())
                    .or(pack_list::account_id.eq(access.account()))
                    .or(list_line::list_id.eq_any(joined_by(access))),
            )
            .select((LineRow::as_select(), list_line::removed_at))
            .load(c)?;
        Ok(rows.into_iter().map(|(row, removed_at)| (row.id.0, row, removed_at)).collect())
    }

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        let ids: Vec<LineId> = objects.iter().map(|(id, ..)| LineId(*id)).collect();
        let there: Vec<(LineId, i32, ListId, AccountId)> = list_line::table
            .inner_join(gear::table)
            .filter(list_line::id.eq_any(ids))
            .select((list_line::id, list_line::version, list_line::list_id, gear::account_id))
            .load(c)?;
        let there: HashMap<LineId, _> =
            there.into_iter().map(|(id, version, list, of)| (id, (version, list, of))).collect();
        let mut rows = Vec::new();
        for (id, row, removed_at) in objects {
            let id = LineId(id);
            let &(version, list, whose) = there.get(&id).ok_or(StoreError::NotFound)?;
            if whose == access.account() {
                rows.push((LineRow { id, version: version + 1, ..row }, list_line::removed_at.eq(removed_at)));
            } else {
                // Of another's gear only who carries it is anybody else's to say.
                let (_, to) = walkers::open(c, access, list)?;
                carry(c, to, id, version, row.carried())?;
            }
        }
        if !rows.is_empty() {
            upsert(list_line::table, rows).execute(c)?;
        }
        Ok(())
    }
}
