//! The history, a page at a time: changes by what they touched and what they are about.

use super::{Change, ChangeRow, Kind, Object};
use crate::StoreError;
use crate::access::Access;
use crate::id::{ChangeId, ListId};
use crate::schema::{change_entry, change_item};
use diesel::prelude::*;
use serde::{Deserialize, Serialize};

/// What changes are about, as the history is filtered.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum About {
    /// Things, their weighings and kits.
    Gear,
    /// Lists, what is on them and who walks.
    Lists,
    /// Swaps and plans.
    Swaps,
    /// Trips and what they teach.
    Trips,
    /// Settings.
    Settings,
}

impl About {
    pub(super) fn of(kind: Kind) -> About {
        match kind {
            Kind::Gear | Kind::Weighing | Kind::Kit => About::Gear,
            Kind::List | Kind::Line | Kind::Walker | Kind::Link | Kind::Earlier => About::Lists,
            Kind::Swap | Kind::Plan => About::Swaps,
            Kind::Trip | Kind::TripThing | Kind::Silenced => About::Trips,
            Kind::Account => About::Settings,
        }
    }

    /// As a change has it, which may be about several.
    pub(super) fn bit(self) -> u8 {
        match self {
            About::Gear => 1,
            About::Lists => 2,
            About::Swaps => 4,
            About::Trips => 8,
            About::Settings => 16,
        }
    }

    /// Every mix of bits that has this one, and none at all: a server of the version before doesn't say what its changes are about.
    fn mixes(self) -> impl Iterator<Item = u8> {
        (0..32).filter(move |mix| *mix == 0 || mix & self.bit() != 0)
    }
}

/// Which changes.
#[derive(Debug, Clone, Copy, Default)]
pub struct Which {
    /// That touched this.
    pub of: Option<Object>,
    /// That touched this list or anything on it.
    pub list: Option<ListId>,
    /// That are about this.
    pub about: Option<About>,
    /// Older than this one.
    pub before: Option<ChangeId>,
}

/// Changes, newest first.
pub fn page(c: &mut MysqlConnection, access: Access, which: Which, limit: u32) -> Result<Vec<Change>, StoreError> {
    let mut query = change_entry::table.filter(change_entry::account_id.eq(access.account())).into_boxed();
    if let Some(object) = which.of {
        let touching = change_item::table
            .filter(change_item::object_id.eq(object.id.as_bytes().to_vec()))
            .select(change_item::change_id);
        query = query.filter(change_entry::id.eq_any(touching));
    }
    if let Some(list) = which.list {
        let of_list = change_item::table.filter(change_item::list_id.eq(list)).select(change_item::change_id);
        query = query.filter(change_entry::id.eq_any(of_list));
    }
    if let Some(about) = which.about {
        query = query.filter(change_entry::about.eq_any(about.mixes()));
    }
    if let Some(before) = which.before {
        query = query.filter(change_entry::id.lt(before));
    }
    let rows: Vec<ChangeRow> =
        query.order(change_entry::id.desc()).limit(limit.into()).select(ChangeRow::as_select()).load(c)?;
    rows.into_iter().map(ChangeRow::read).collect()
}
