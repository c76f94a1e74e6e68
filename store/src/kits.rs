//! Kits in the database.

use super::access::Access;
use super::convert::name;
use super::id::{AccountId, GearId, KitId};
use super::schema::{gear, kit, kit_part};
use super::state::{AuditSnapshot, Audited};
use super::upsert::ROWS;
use super::versioned::versioned;
use super::{StoreError, Stored};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use kevyt_core::gear::Name;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use uuid::Uuid;

/// Things weighed together.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Kit {
    /// Its name.
    pub name: Name,
    /// Its parts and how many pieces of each.
    pub parts: Vec<(GearId, u32)>,
    /// Parts that are removed from the inventory. What was weighed with them says nothing of the rest.
    pub gone: usize,
}

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = kit, check_for_backend(diesel::mysql::Mysql))]
struct KitRow {
    id: KitId,
    account_id: AccountId,
    name: String,
    version: i32,
}

/// A kit in the change log.
#[derive(Serialize, Deserialize)]
pub(super) struct KitState {
    name: String,
    parts: Vec<(GearId, u32)>,
}

versioned!(kit, KitId);

/// An account's kits, by name; of `ids` alone if some are named. Parts that are removed are counted only.
pub fn all(
    c: &mut MysqlConnection,
    access: Access,
    ids: Option<&[KitId]>,
) -> Result<Vec<Stored<KitId, Kit>>, StoreError> {
    let mut query = kit::table
        .filter(kit::account_id.eq(access.account()))
        .filter(kit::removed_at.is_null())
        .select(KitRow::as_select())
        .order((kit::name, kit::id))
        .into_boxed();
    if let Some(ids) = ids {
        query = query.filter(kit::id.eq_any(ids));
    }
    let rows: Vec<KitRow> = query.load(c)?;
    let found: Vec<KitId> = rows.iter().map(|row| row.id).collect();
    let parts: Vec<(KitId, GearId, u32, Option<NaiveDateTime>)> = kit_part::table
        .inner_join(gear::table)
        .filter(kit_part::kit_id.eq_any(&found))
        .order((gear::name, gear::id))
        .select((kit_part::kit_id, kit_part::gear_id, kit_part::count, gear::removed_at))
        .load(c)?;
    let mut of: HashMap<KitId, (Vec<(GearId, u32)>, usize)> = HashMap::new();
    for (kit, gear, count, removed_at) in parts {
        let (there, gone) = of.entry(kit).or_default();
        match removed_at {
            None => there.push((gear, count)),
            Some(_) => *gone += 1,
        }
    }
    rows.into_iter()
        .map(|row| {
            let (parts, gone) = of.remove(&row.id).unwrap_or_default();
            let value = Kit { name: name("kit.name", &row.name)?, parts, gone };
            Ok(Stored { id: row.id, version: row.version, value })
        })
        .collect()
}

/// How many kits an account has.
pub fn count(c: &mut MysqlConnection, access: Access) -> Result<usize, StoreError> {
    let mine = kit::table.filter(kit::account_id.eq(access.account())).filter(kit::removed_at.is_null());
    let count: i64 = mine.count().get_result(c)?;
    Ok(usize::try_from(count).unwrap_or_default())
}

/// Puts a kit that was taken apart together again; nothing happens to one that stands.
pub fn bring_back(c: &mut MysqlConnection, access: Access, id: KitId) -> Result<(), StoreError> {
    diesel::update(kit::table.filter(kit::id.eq(id)).filter(kit::account_id.eq(access.account())))
        .filter(kit::removed_at.is_not_null())
        .set((kit::removed_at.eq(None::<chrono::NaiveDateTime>), kit::version.eq(kit::version + 1)))
        .execute(c)?;
    Ok(())
}

/// The pieces of some things in each kit that has them: thing, name of the kit, pieces.
pub fn pieces(
    c: &mut MysqlConnection,
    access: Access,
    things: &[GearId],
) -> Result<Vec<(GearId, String, u32)>, StoreError> {
    Ok(kit_part::table
        .inner_join(kit::table)
        .filter(kit_part::gear_id.eq_any(things))
        .filter(kit::account_id.eq(access.account()))
        .filter(kit::removed_at.is_null())
        .select((kit_part::gear_id, kit::name, kit_part::count))
        .load(c)?)
}

/// Things that some kits have or had as parts, removed kits too.
pub fn parts_of(c: &mut MysqlConnection, access: Access, kits: &[KitId]) -> Result<Vec<GearId>, StoreError> {
    Ok(kit_part::table
        .inner_join(kit::table)
        .filter(kit_part::kit_id.eq_any(kits))
        .filter(kit::account_id.eq(access.account()))
        .select(kit_part::gear_id)
        .distinct()
        .load(c)?)
}

/// The kits that some things are parts of.
pub fn containing(c: &mut MysqlConnection, access: Access, things: &[GearId]) -> Result<Vec<KitId>, StoreError> {
    Ok(kit_part::table
        .inner_join(kit::table)
        .filter(kit_part::gear_id.eq_any(things))
        .filter(kit::account_id.eq(access.account()))
        .filter(kit::removed_at.is_null())
        .select(kit_part::kit_id)
        .distinct()
        .load(c)?)
}

/// Adds kits. The caller has made sure that their parts are the account's.
pub fn insert(c: &mut MysqlConnection, access: Access, kits: &[(KitId, Kit)]) -> Result<(), StoreError> {
    let account_id = access.account();
    let row = |(id, kit): &(KitId, Kit)| KitRow { id: *id, account_id, name: kit.name.as_str().to_owned(), version: 1 };
    for kits in kits.chunks(ROWS) {
        diesel::insert_into(kit::table).values(kits.iter().map(row).collect::<Vec<_>>()).execute(c)?;
    }
    insert_parts(c, kits.iter().flat_map(|(id, kit)| kit.parts.iter().map(|part| (*id, *part))))
}

/// Writes a kit that was read at `version`.
pub fn update(c: &mut MysqlConnection, access: Access, id: KitId, version: i32, value: &Kit) -> Result<(), StoreError> {
    let row = KitRow { id, account_id: access.account(), name: value.name.as_str().to_owned(), version: version + 1 };
    write(c, access, (id, version), row)?;
    put_parts(c, id, &value.parts)
}

/// Takes all kits out of sight; their things stay.
pub fn remove_all(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    diesel::update(kit::table.filter(kit::account_id.eq(access.account())).filter(kit::removed_at.is_null()))
        .set((kit::removed_at.eq(Some(Utc::now().naive_utc())), kit::version.eq(kit::version + 1)))
        .execute(c)?;
    Ok(())
}

/// Takes a kit out of sight; its things stay.
pub fn remove(c: &mut MysqlConnection, access: Access, id: KitId, version: i32) -> Result<(), StoreError> {
    take_off(c, access, id, version)
}

fn put_parts(c: &mut MysqlConnection, id: KitId, parts: &[(GearId, u32)]) -> Result<(), StoreError> {
    diesel::delete(kit_part::table.filter(kit_part::kit_id.eq(id))).execute(c)?;
    insert_parts(c, parts.iter().map(|part| (id, *part)))
}

fn insert_parts(
    c: &mut MysqlConnection,
    parts: impl Iterator<Item = (KitId, (GearId, u32))>,
) -> Result<(), StoreError> {
    let rows: Vec<_> = parts
        .map(|(kit, (gear, count))| (kit_part::kit_id.eq(kit), kit_part::gear_id.eq(gear), kit_part::count.eq(count)))
        .collect();
    for rows in rows.chunks(ROWS) {
        diesel::insert_into(kit_part::table).values(rows.to_vec()).execute(c)?;
    }
    Ok(())
}

impl Audited for KitState {
    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError> {
        let ids: Vec<KitId> = ids.iter().copied().map(KitId).collect();
        let rows: Vec<(KitId, String, Option<NaiveDateTime>)> = kit::table
            .filter(kit::id.eq_any(&ids))
            .filter(kit::account_id.eq(access.account()))
            .select((kit::id, kit::name, kit::removed_at))
            .load(c)?;
        let parts: Vec<(KitId, GearId, u32)> = kit_part::table
            .filter(kit_part::kit_id.eq_any(&ids))
            .order((kit_part::kit_id, kit_part::gear_id))
            .select((kit_part::kit_id, kit_part::gear_id, kit_part::count))
            .load(c)?;
        let state = |(id, name, removed_at): (KitId, String, _)| {
            let parts = parts.iter().filter(|part| part.0 == id).map(|part| (part.1, part.2)).collect();
            (id.0, KitState { name, parts }, removed_at)
        };
        Ok(rows.into_iter().map(state).collect())
    }

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        for (id, state, removed_at) in objects {
            let id = KitId(id);
            diesel::update(kit::table.filter(kit::id.eq(id)).filter(kit::account_id.eq(access.account())))
                .set((kit::name.eq(state.name), kit::removed_at.eq(removed_at), kit::version.eq(kit::version + 1)))
                .execute(c)?;
            put_parts(c, id, &state.parts)?;
        }
        Ok(())
    }
}
