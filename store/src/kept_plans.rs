//! Plans that were kept by name, in the database.

use super::access::Access;
use super::convert::name;
use super::id::{AccountId, KeptPlanId, ListId, SwapId};
use super::schema::kept_plan;
use super::state::{Audited, rows_of_account, rows_put_back};
use super::versioned::versioned;
use super::{StoreError, Stored};
use chrono::NaiveDateTime;
use diesel::prelude::*;
use kevyt_core::gear::Name;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A plan that was kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptPlan {
    /// The list that it is of.
    pub list: ListId,
    /// Its name.
    pub name: Name,
    /// Its swaps; those that were removed since stay named.
    pub swaps: Vec<SwapId>,
    /// When it was kept, UTC.
    pub kept_at: NaiveDateTime,
}

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = kept_plan, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct KeptPlanRow {
    id: KeptPlanId,
    account_id: AccountId,
    list_id: ListId,
    name: String,
    swaps: String,
    kept_at: NaiveDateTime,
    version: i32,
}

impl KeptPlanRow {
    fn read(self) -> Result<Stored<KeptPlanId, KeptPlan>, StoreError> {
        let value = KeptPlan {
            list: self.list_id,
            name: name("kept_plan.name", &self.name)?,
            swaps: serde_json::from_str(&self.swaps).map_err(|_| StoreError::Corrupt("kept_plan.swaps"))?,
            kept_at: self.kept_at,
        };
        Ok(Stored { id: self.id, version: self.version, value })
    }
}

versioned!(kept_plan, KeptPlanId);

/// The kept plans of a list, oldest first.
pub fn of_list(
    c: &mut MysqlConnection,
    access: Access,
    list: ListId,
) -> Result<Vec<Stored<KeptPlanId, KeptPlan>>, StoreError> {
    let rows: Vec<KeptPlanRow> = kept_plan::table
        .filter(kept_plan::list_id.eq(list))
        .filter(kept_plan::account_id.eq(access.account()))
        .filter(kept_plan::removed_at.is_null())
        .order(kept_plan::id)
        .select(KeptPlanRow::as_select())
        .load(c)?;
    rows.into_iter().map(KeptPlanRow::read).collect()
}

/// One kept plan.
pub fn get(
    c: &mut MysqlConnection,
    access: Access,
    id: KeptPlanId,
) -> Result<Stored<KeptPlanId, KeptPlan>, StoreError> {
    let row: KeptPlanRow = kept_plan::table
        .filter(kept_plan::id.eq(id))
        .filter(kept_plan::account_id.eq(access.account()))
        .filter(kept_plan::removed_at.is_null())
        .select(KeptPlanRow::as_select())
        .first(c)?;
    row.read()
}

/// Keeps a plan.
pub fn insert(c: &mut MysqlConnection, access: Access, id: KeptPlanId, plan: &KeptPlan) -> Result<(), StoreError> {
    let row = KeptPlanRow {
        id,
        account_id: access.account(),
        list_id: plan.list,
        name: plan.name.as_str().to_owned(),
        swaps: serde_json::to_string(&plan.swaps).unwrap_or_default(),
        kept_at: plan.kept_at,
        version: 1,
    };
    diesel::insert_into(kept_plan::table).values(row).execute(c)?;
    Ok(())
}

/// Takes a kept plan that was read at `version` out of sight.
pub fn remove(c: &mut MysqlConnection, access: Access, id: KeptPlanId, version: i32) -> Result<(), StoreError> {
    take_off(c, access, id, version)
}

impl Audited for KeptPlanRow {
    rows_of_account!(KeptPlanRow, kept_plan, KeptPlanId);

    rows_put_back!(KeptPlanRow, kept_plan, KeptPlanId);
}
