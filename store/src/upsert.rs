//! Bulk upsert: many rows written over what they were, by one statement.

use diesel::QuerySource;
use diesel::insertable::Insertable;
use diesel::mysql::Mysql;
use diesel::prelude::*;
use diesel::query_builder::{AstPass, InsertStatement, QueryFragment, QueryId};

/// Rows of one statement: no server has to take a longer one.
pub(super) const ROWS: usize = 500;

/// The columns of a table by name.
pub(super) trait Named {
    fn names() -> Vec<&'static str>;
}

macro_rules! named {
    () => {};
    ($first:ident $($rest:ident)*) => {
        impl<$first: Column, $($rest: Column,)*> Named for ($first, $($rest,)*) {
            fn names() -> Vec<&'static str> {
                vec![$first::NAME, $($rest::NAME,)*]
            }
        }
        named! { $($rest)* }
    };
}

named! { A B C D E F G H I J K L M N O P Q R S T U V W X Y Z Aa Ab Ac Ad Ae Af }

/// An `INSERT` whose rows take the place of those that have their ids.
pub(super) struct Upsert<I> {
    insert: I,
    columns: Vec<&'static str>,
}

/// Writes rows, each with all columns of the table, over those that have their ids. The caller has made sure that these are there, and
/// whose they are.
pub(super) fn upsert<T, R>(table: T, rows: Vec<R>) -> Upsert<InsertStatement<T, <Vec<R> as Insertable<T>>::Values>>
where
    T: Table + QuerySource,
    T::AllColumns: Named,
    Vec<R>: Insertable<T>,
{
    Upsert { insert: diesel::insert_into(table).values(rows), columns: T::AllColumns::names() }
}

impl<I: QueryFragment<Mysql>> QueryFragment<Mysql> for Upsert<I> {
    fn walk_ast<'b>(&'b self, mut out: AstPass<'_, 'b, Mysql>) -> QueryResult<()> {
        self.insert.walk_ast(out.reborrow())?;
        for (at, column) in self.columns.iter().enumerate() {
            out.push_sql(if at == 0 { " ON DUPLICATE KEY UPDATE " } else { ", " });
            out.push_identifier(column)?;
            out.push_sql(" = VALUES(");
            out.push_identifier(column)?;
            out.push_sql(")");
        }
        Ok(())
    }
}

impl<I> QueryId for Upsert<I> {
    type QueryId = ();
    const HAS_STATIC_QUERY_ID: bool = false;
}

impl<I> RunQueryDsl<MysqlConnection> for Upsert<I> {}
