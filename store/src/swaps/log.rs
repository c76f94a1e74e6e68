//! Swaps as the change log keeps them.

use super::{Done, SwapRecord, SwapRow, replace_sides, row, with_sides};
use crate::access::Access;
use crate::candidates::{self, CandidateRow};
use crate::convert::{GRAMS_OR_OUNCES, name, with_present_keys, with_units};
use crate::id::{CandidateId, GearId, LineId, ListId, SwapId};
use crate::schema::swap;
use crate::state::{AuditSnapshot, Audited, Fields};
use crate::{StoreError, Stored};
use chrono::NaiveDateTime;
use diesel::prelude::*;
use kevyt_core::list::Place;
use kevyt_core::quantity::Money;
use kevyt_core::swap::{SwapKind, SwapState};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use uuid::Uuid;

/// A swap in the change log, with the candidates that are edited with it.
#[derive(Serialize, Deserialize)]
pub struct SwapLog {
    list: ListId,
    name: String,
    kind: SwapKind,
    state: SwapState,
    delivery_minor: i64,
    resale_minor: i64,
    #[serde(default)]
    sells_needed: bool,
    tenth_hours: i64,
    remove: Vec<(LineId, u32, Place)>,
    add: Vec<(CandidateId, u32, Place)>,
    requires: Vec<SwapId>,
    excludes: Vec<SwapId>,
    candidates: Vec<CandidateRow>,
    #[serde(default)]
    done: Option<Done<GearId>>,
}

impl Audited for SwapLog {
    const SCHEMA_VERSION: u64 = 2;

    /// Form 0 had candidates with figures without the unit that was meant, form 1 other keys of jobs.
    fn upgrade(form: u64, fields: &mut Fields) {
        let candidates = fields.get_mut("candidates").and_then(Value::as_array_mut);
        for candidate in candidates.into_iter().flatten().filter_map(Value::as_object_mut) {
            with_present_keys(candidate, &["provides", "needs"]);
            if form == 0 {
                with_units(candidate, &[("unit_typed", "unit_mg")], GRAMS_OR_OUNCES);
            }
        }
    }

    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError> {
        let ids: Vec<SwapId> = ids.iter().copied().map(SwapId).collect();
        let rows: Vec<(SwapRow, Option<NaiveDateTime>)> = swap::table
            .filter(swap::id.eq_any(ids))
            .filter(swap::account_id.eq(access.account()))
            .select((SwapRow::as_select(), swap::removed_at))
            .load(c)?;
        let (rows, removed): (Vec<SwapRow>, Vec<_>) = rows.into_iter().unzip();
        let swaps = with_sides(c, rows)?;
        let used: Vec<CandidateId> = swaps.iter().flat_map(|swap| swap.value.add.iter().map(|side| side.0)).collect();
        let there = candidates::by_id(c, access, &used)?;
        let logged = swaps.into_iter().zip(removed).map(|(Stored { id, value, .. }, removed_at)| {
            let of_swap = value.add.iter().filter_map(|side| there.get(&side.0));
            let log = SwapLog {
                list: value.list,
                name: value.name.as_str().to_owned(),
                kind: value.kind,
                state: value.state,
                delivery_minor: value.delivery.minor(),
                resale_minor: value.resale.minor(),
                sells_needed: value.sells_needed,
                tenth_hours: value.tenth_hours,
                // A version says nothing of how a candidate looks.
                candidates: of_swap.map(|found| CandidateRow::new(access, found.id, 0, &found.value)).collect(),
                remove: value.remove,
                add: value.add,
                requires: value.requires,
                excludes: value.excludes,
                done: value.done,
            };
            (id.0, log, removed_at)
        });
        Ok(logged.collect())
    }

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        for (id, log, removed_at) in objects {
            log.put(c, access, SwapId(id), removed_at)?;
        }
        Ok(())
    }
}

impl SwapLog {
    fn put(
        self,
        c: &mut MysqlConnection,
        access: Access,
        id: SwapId,
        removed_at: Option<NaiveDateTime>,
    ) -> Result<(), StoreError> {
        let mine = || swap::table.filter(swap::id.eq(id)).filter(swap::account_id.eq(access.account()));
        let version: i32 = mine().select(swap::version).first(c)?;
        for row in self.candidates {
            candidates::put_row(c, access, row)?;
        }
        let record = SwapRecord {
            list: self.list,
            name: name("change_item.state", &self.name)?,
            kind: self.kind,
            state: self.state,
            delivery: Money::from_minor(self.delivery_minor),
            resale: Money::from_minor(self.resale_minor),
            sells_needed: self.sells_needed,
            tenth_hours: self.tenth_hours,
            remove: self.remove,
            add: self.add,
            requires: self.requires,
            excludes: self.excludes,
            done: self.done,
        };
        diesel::update(mine())
            .set((row(access, id, version + 1, &record), swap::removed_at.eq(removed_at)))
            .execute(c)?;
        replace_sides(c, id, &record)
    }
}
