//! A database as it is when many have accounts: everything that is in it, many times over.

use diesel::connection::SimpleConnection;
use diesel::sql_types::Text;
use diesel::{Connection, MysqlConnection, QueryableByName, RunQueryDsl};
use std::collections::BTreeMap;

#[derive(QueryableByName)]
struct Column {
    #[diesel(sql_type = Text)]
    of: String,
    #[diesel(sql_type = Text)]
    name: String,
    #[diesel(sql_type = Text)]
    kind: String,
}

/// What is nobody's, or ends soon.
const NOT_COPIED: [&str; 5] = ["__diesel_schema_migrations", "server_beat", "session", "answered", "sign_in_failure"];
/// Copies of a statement.
const AT_A_TIME: u32 = 200;

/// Copies every account of a database with all that it has, so many times. A copy's id is made of the id that it is copied from, so that
/// all that belongs together stays together.
pub fn crowd(database_url: &str, copies: u32) {
    let mut c = MysqlConnection::establish(database_url).expect("a database address");
    let columns: Vec<Column> = diesel::sql_query(
        "SELECT table_name AS of, column_name AS name, column_type AS kind FROM information_schema.columns \
         WHERE table_schema = DATABASE() AND extra NOT LIKE '%auto_increment%' ORDER BY table_name, ordinal_position",
    )
    .load(&mut c)
    .expect("the columns of every table");
    let mut tables: BTreeMap<String, Vec<Column>> = BTreeMap::new();
    for column in columns {
        tables.entry(column.of.clone()).or_default().push(column);
    }
    tables.retain(|table, _| !NOT_COPIED.contains(&table.as_str()));
    let mut run = |sql: String| c.batch_execute(&sql).unwrap_or_else(|why| panic!("{why}: {sql}"));
    run("SET foreign_key_checks = 0, unique_checks = 0".to_owned());
    for (table, columns) in &tables {
        let names: Vec<String> = columns.iter().map(|column| format!("`{}`", column.name)).collect();
        let copied = columns.iter().map(|Column { name, kind, .. }| match (kind.as_str(), name.as_str()) {
            ("binary(16)", _) => format!("UNHEX(MD5(CONCAT(`{name}`, copy)))"),
            (_, "name") if table == "account" => "CONCAT(name, '-', copy)".to_owned(),
            _ => format!("`{name}`"),
        });
        let (names, copied) = (names.join(", "), copied.collect::<Vec<_>>().join(", "));
        run(format!("CREATE TEMPORARY TABLE source AS SELECT * FROM `{table}`"));
        for from in (1..=copies).step_by(usize::try_from(AT_A_TIME).expect("a small number")) {
            let to = copies.min(from + AT_A_TIME - 1);
            run(format!(
                "INSERT INTO `{table}` ({names}) WITH RECURSIVE copies AS \
                 (SELECT {from} AS copy UNION ALL SELECT copy + 1 FROM copies WHERE copy < {to}) \
                 SELECT {copied} FROM source CROSS JOIN copies"
            ));
        }
        run("DROP TEMPORARY TABLE source".to_owned());
    }
    run(format!(
        "ANALYZE TABLE {}",
        tables.into_keys().map(|table| format!("`{table}`")).collect::<Vec<_>>().join(", ")
    ));
}
