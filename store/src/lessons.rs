//! Lessons that are not to be said again, in the database.

use super::StoreError;
use super::access::Access;
use super::id::{AccountId, SilencedId};
use super::schema::silenced_lesson;
use super::state::{Audited, rows_of_account, rows_put_back};
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = silenced_lesson, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct SilencedRow {
    id: SilencedId,
    account_id: AccountId,
    lesson: String,
    version: i32,
}

/// The lessons that are not said again, by their keys, in the order in which they were silenced.
pub fn silenced(c: &mut MysqlConnection, access: Access) -> Result<Vec<String>, StoreError> {
    Ok(silenced_lesson::table
        .filter(silenced_lesson::account_id.eq(access.account()))
        .filter(silenced_lesson::removed_at.is_null())
        .order(silenced_lesson::id)
        .select(silenced_lesson::lesson)
        .load(c)?)
}

/// The same by their ids.
pub fn silenced_ids(c: &mut MysqlConnection, access: Access) -> Result<Vec<SilencedId>, StoreError> {
    Ok(silenced_lesson::table
        .filter(silenced_lesson::account_id.eq(access.account()))
        .filter(silenced_lesson::removed_at.is_null())
        .select(silenced_lesson::id)
        .load(c)?)
}

/// Has all of them said again.
pub fn say_again(c: &mut MysqlConnection, access: Access) -> Result<(), StoreError> {
    let mine = silenced_lesson::table.filter(silenced_lesson::account_id.eq(access.account()));
    diesel::update(mine.filter(silenced_lesson::removed_at.is_null()))
        .set(silenced_lesson::removed_at.eq(Utc::now().naive_utc()))
        .execute(c)?;
    Ok(())
}

/// Silences lessons.
pub fn silence(c: &mut MysqlConnection, access: Access, lessons: &[(SilencedId, String)]) -> Result<(), StoreError> {
    let row = |(id, lesson): &(SilencedId, String)| SilencedRow {
        id: *id,
        account_id: access.account(),
        lesson: lesson.clone(),
        version: 1,
    };
    let rows: Vec<SilencedRow> = lessons.iter().map(row).collect();
    diesel::insert_into(silenced_lesson::table).values(rows).execute(c)?;
    Ok(())
}

impl Audited for SilencedRow {
    rows_of_account!(SilencedRow, silenced_lesson, SilencedId);

    rows_put_back!(SilencedRow, silenced_lesson, SilencedId);
}
