//! Links that open a list: to read it without an account, or to join it.

use super::StoreError;
use super::access::{Access, Role, ToList};
use super::id::{AccountId, LinkId, ListId, WalkerId};
use super::lists::{ListRow, StoredList};
use super::schema::{account, list_link, pack_list};
use super::state::{AuditSnapshot, Audited};
use crate::account::Digest;
use chrono::{NaiveDateTime, Utc};
use diesel::prelude::*;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A link that opens a list.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Link {
    /// The seat that it gives; `None` if it is to read only.
    pub walker: Option<WalkerId>,
    /// Whether its reader sees prices.
    pub shows_prices: bool,
    /// Until when it opens; `None` until it is revoked.
    pub expires_at: Option<NaiveDateTime>,
    /// When it was made.
    pub made_at: NaiveDateTime,
}

#[derive(Queryable, Selectable, Insertable, AsChangeset, Serialize, Deserialize)]
#[diesel(table_name = list_link, treat_none_as_null = true, check_for_backend(diesel::mysql::Mysql))]
pub(super) struct LinkRow {
    id: LinkId,
    list_id: ListId,
    walker_id: Option<WalkerId>,
    token_hash: Vec<u8>,
    shows_prices: bool,
    expires_at: Option<NaiveDateTime>,
    made_at: NaiveDateTime,
}

impl LinkRow {
    fn read(&self) -> Link {
        let LinkRow { walker_id, shows_prices, expires_at, made_at, .. } = *self;
        Link { walker: walker_id, shows_prices, expires_at, made_at }
    }
}

/// The links of a list that still open it.
pub fn of_list(c: &mut MysqlConnection, to: ToList) -> Result<Vec<(LinkId, Link)>, StoreError> {
    let rows: Vec<LinkRow> =
        live().filter(list_link::list_id.eq(to.list())).order(list_link::id).select(LinkRow::as_select()).load(c)?;
    Ok(rows.into_iter().map(|row| (row.id, row.read())).collect())
}

#[diesel::dsl::auto_type(no_type_alias)]
fn live() -> _ {
    let now: NaiveDateTime = Utc::now().naive_utc();
    list_link::table
        .filter(list_link::removed_at.is_null())
        .filter(list_link::expires_at.is_null().or(list_link::expires_at.gt(now)))
}

/// Adds a link.
pub fn insert(c: &mut MysqlConnection, to: ToList, id: LinkId, digest: &Digest, link: &Link) -> Result<(), StoreError> {
    let Link { walker, shows_prices, expires_at, made_at } = *link;
    let row = LinkRow {
        id,
        list_id: to.list(),
        walker_id: walker,
        token_hash: digest.to_vec(),
        shows_prices,
        expires_at,
        made_at,
    };
    diesel::insert_into(list_link::table).values(row).execute(c)?;
    Ok(())
}

/// Writes what opens a link of a list that is not revoked.
pub fn set_digest(c: &mut MysqlConnection, to: ToList, id: LinkId, digest: &Digest) -> Result<(), StoreError> {
    let row = list_link::table.filter(list_link::id.eq(id)).filter(list_link::list_id.eq(to.list()));
    let found = diesel::update(row.filter(list_link::removed_at.is_null()))
        .set(list_link::token_hash.eq(digest.to_vec()))
        .execute(c)?;
    if found == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// Revokes a link of a list.
pub fn remove(c: &mut MysqlConnection, to: ToList, id: LinkId) -> Result<(), StoreError> {
    let row = list_link::table.filter(list_link::id.eq(id)).filter(list_link::list_id.eq(to.list()));
    let gone = diesel::update(row.filter(list_link::removed_at.is_null()))
        .set(list_link::removed_at.eq(Utc::now().naive_utc()))
        .execute(c)?;
    if gone == 0 { Err(StoreError::NotFound) } else { Ok(()) }
}

/// The list that a link opens, as it opens it.
pub fn open(c: &mut MysqlConnection, digest: &Digest) -> Result<(LinkId, Link, StoredList, ToList), StoreError> {
    let link: LinkRow =
        live().filter(list_link::token_hash.eq(digest.to_vec())).select(LinkRow::as_select()).first(c)?;
    let (row, owner): (ListRow, AccountId) = pack_list::table
        .inner_join(account::table)
        .filter(account::disabled_at.is_null())
        .filter(pack_list::id.eq(link.list_id))
        .filter(pack_list::removed_at.is_null())
        .select((ListRow::as_select(), pack_list::account_id))
        .first(c)?;
    let to = ToList::new(link.list_id, owner, Role::Reader, link.shows_prices);
    Ok((link.id, link.read(), row.read()?, to))
}

impl Audited for LinkRow {
    fn current(c: &mut MysqlConnection, access: Access, ids: &[Uuid]) -> Result<Vec<AuditSnapshot<Self>>, StoreError> {
        let ids: Vec<LinkId> = ids.iter().copied().map(LinkId).collect();
        let rows: Vec<(LinkRow, Option<NaiveDateTime>)> = list_link::table
            .inner_join(pack_list::table)
            .filter(list_link::id.eq_any(ids))
            .filter(pack_list::account_id.eq(access.account()))
            .select((LinkRow::as_select(), list_link::removed_at))
            .load(c)?;
        Ok(rows.into_iter().map(|(row, removed_at)| (row.id.0, row, removed_at)).collect())
    }

    fn put_back(c: &mut MysqlConnection, access: Access, objects: Vec<AuditSnapshot<Self>>) -> Result<(), StoreError> {
        for (id, _, removed_at) in objects {
            let id = LinkId(id);
            let mine = list_link::table.inner_join(pack_list::table).filter(pack_list::account_id.eq(access.account()));
            mine.filter(list_link::id.eq(id)).select(list_link::id).first::<LinkId>(c)?;
            diesel::update(list_link::table.filter(list_link::id.eq(id)))
                .set(list_link::removed_at.eq(removed_at))
                .execute(c)?;
        }
        Ok(())
    }
}
