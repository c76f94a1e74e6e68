//! Rows of an account that are changed by the version at which they were read.

/// For a table with `account_id`, `version` and `removed_at`: `write`, which puts a changeset over a row that was read at a version and is still there, and
/// `take_off`, which takes such a row out of sight. A row that has another version by now is refused with that, one that is gone as not found.
macro_rules! versioned {
    ($table:ident, $id:ty) => {
        #[diesel::dsl::auto_type]
        fn row_of(access: $crate::access::Access, id: $id) -> _ {
            let account: $crate::id::AccountId = access.account();
            let mine = $table::table.filter($table::id.eq(id)).filter($table::account_id.eq(account));
            mine.filter($table::removed_at.is_null())
        }

        #[diesel::dsl::auto_type]
        fn row_at(access: $crate::access::Access, id: $id, version: i32) -> _ {
            let row: row_of = row_of(access, id);
            row.filter($table::version.eq(version))
        }

        fn write<Set>(
            c: &mut diesel::MysqlConnection,
            access: $crate::access::Access,
            (id, version): ($id, i32),
            set: Set,
        ) -> Result<(), $crate::StoreError>
        where
            Set: diesel::AsChangeset<Target = $table::table>,
            diesel::query_builder::UpdateStatement<
                $table::table,
                <row_at as diesel::query_builder::IntoUpdateTarget>::WhereClause,
                Set::Changeset,
            >: diesel::query_dsl::methods::ExecuteDsl<diesel::MysqlConnection>,
        {
            let written = diesel::update(row_at(access, id, version)).set(set).execute(c)?;
            $crate::changed(written, || row_of(access, id).select($table::version).first(c))
        }

        fn take_off(
            c: &mut diesel::MysqlConnection,
            access: $crate::access::Access,
            id: $id,
            version: i32,
        ) -> Result<(), $crate::StoreError> {
            let now = Some(chrono::Utc::now().naive_utc());
            write(c, access, (id, version), ($table::removed_at.eq(now), $table::version.eq(version + 1)))
        }
    };
}

pub(super) use versioned;
