//! Ids: UUIDv7, made by the application, one type a table.

use diesel::backend::Backend;
use diesel::deserialize::{FromSql, FromSqlRow, Result as FromResult};
use diesel::expression::AsExpression;
use diesel::mysql::Mysql;
use diesel::serialize::{Output, Result as ToResult, ToSql};
use diesel::sql_types::Binary;
use serde::{Deserialize, Serialize};
use std::io::Write;
use uuid::Uuid;

macro_rules! ids {
    ($($(#[$doc:meta])* $name:ident,)*) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, AsExpression, FromSqlRow, utoipa::ToSchema)]
        #[diesel(sql_type = Binary)]
        #[serde(transparent)]
        pub struct $name(pub Uuid);

        impl $name {
            /// A new id.
            pub fn fresh() -> Self {
                $name(Uuid::now_v7())
            }
        }

        impl std::fmt::Display for $name {
            fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                self.0.fmt(f)
            }
        }

        impl ToSql<Binary, Mysql> for $name {
            fn to_sql<'b>(&'b self, out: &mut Output<'b, '_, Mysql>) -> ToResult {
                out.write_all(self.0.as_bytes())?;
                Ok(diesel::serialize::IsNull::No)
            }
        }

        impl FromSql<Binary, Mysql> for $name {
            fn from_sql(bytes: <Mysql as Backend>::RawValue<'_>) -> FromResult<Self> {
                let bytes = <Vec<u8> as FromSql<Binary, Mysql>>::from_sql(bytes)?;
                Ok($name(Uuid::from_slice(&bytes)?))
            }
        }
    )*};
}

ids! {
    /// A trip.
    TripId,
    /// A thing on a trip, as it was then.
    TripThingId,
    /// A lesson that is not to be said again.
    SilencedId,
    /// An account.
    AccountId,
    /// What is said of the earlier base weights of a list: it has the list's id.
    EarlierId,
    /// A session.
    SessionId,
    /// A thing somebody owns.
    GearId,
    /// A kit: things weighed together.
    KitId,
    /// One weighing of a thing or a kit.
    WeighingId,
    /// A change in the change log.
    ChangeId,
    /// A pack list.
    ListId,
    /// A thing on a pack list.
    LineId,
    /// One who walks, on a list.
    WalkerId,
    /// A link that opens a list.
    LinkId,
    /// Something that could be got.
    CandidateId,
    /// A plan that was kept.
    KeptPlanId,
    /// A swap.
    SwapId,
}
