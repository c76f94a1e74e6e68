//! The schema, back to what an older version knows and up again: with data, and wherever it is cut off.

use crate::client::Client;
use crate::command_line::kevyt;
use crate::starting::ups;
use diesel::connection::SimpleConnection;
use diesel::sql_types::{Nullable, Text};
use diesel::{Connection, MysqlConnection, QueryableByName, RunQueryDsl, sql_query};
use diesel_migrations::MigrationHarness;
use insta::assert_snapshot;
use kevyt::open;
use kevyt::store::Migrations;
use kevyt_browser::Stage;
use reqwest::Method;
use serde_json::json;
use std::collections::BTreeMap;

#[derive(QueryableByName)]
struct Said {
    #[diesel(sql_type = Text)]
    name: String,
    #[diesel(sql_type = Nullable<Text>)]
    text: Option<String>,
}

/// Every value of every table, but for the beats of servers.
fn all_of(c: &mut MysqlConnection) -> BTreeMap<String, Vec<Option<String>>> {
    let tables = "SELECT table_name AS name, GROUP_CONCAT('IFNULL(HEX(', column_name, '), 0)' ORDER BY column_name) AS text FROM information_schema.columns \
        WHERE table_schema = DATABASE() AND table_name NOT LIKE '\\_\\_%' AND table_name <> 'server_beat' GROUP BY table_name";
    let tables = sql_query(tables).load::<Said>(c).unwrap();
    let rows = |Said { name, text }: Said| {
        let query = format!("SELECT '' AS name, CONCAT_WS('|', {}) AS text FROM {name} ORDER BY text", text.unwrap());
        (name, sql_query(query).load::<Said>(c).unwrap().into_iter().map(|row| row.text).collect())
    };
    tables.into_iter().map(rows).collect()
}

/// The demo, and something in every table.
async fn furnished(stage: &Stage) -> MysqlConnection {
    let client = Client::new(stage);
    assert_eq!(client.post("/api/session/demo", json!({ "demo": "fell" })).await.status, 201);
    let list = client.get("/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
    assert_eq!(client.post(&format!("/api/lists/{list}/links"), json!({})).await.status, 201);
    let silence = json!({ "lesson": format!("unused {list}") });
    client.post("/api/lessons/silence", silence).await;
    let offer = json!({ "kind": "add", "add": [{ "name": "tarp", "weight": "420 g", "price": "149", "offer": "K1000", "qty": 1 }] });
    let made = client.raw(Method::POST, &format!("/api/lists/{list}/swaps")).header("Idempotency-Key", "a swap");
    assert_eq!(made.json(&offer).send().await.unwrap().status(), 201);
    let wrong = json!({ "name": "nobody", "password": "a long wrong word" });
    assert_eq!(client.post("/api/session", wrong).await.status, 401);
    let mut c = MysqlConnection::establish(stage.database_url()).unwrap();
    c.batch_execute("INSERT INTO offer VALUES ('K1000', NOW(6), NULL); INSERT INTO offer_seen VALUES ('K1000', NOW(6), NOW(6), 'EUR', 9900, NULL, NULL, 3)")
        .unwrap();
    let empty: Vec<_> =
        all_of(&mut c).into_iter().filter(|(_, rows)| rows.is_empty()).map(|(table, _)| table).collect();
    assert_eq!(empty, ["answered"; 0], "nothing is in them");
    c
}

#[tokio::test(flavor = "multi_thread")]
async fn going_back_and_up_again_loses_nothing_wherever_it_is_cut_off() {
    let stage = Stage::start(true);
    let mut c = furnished(&stage).await;
    let before = all_of(&mut c);
    let ups = ups();
    for steps in [1, 2, ups.len()] {
        for _ in 0..steps {
            c.revert_last_migration(Migrations).unwrap();
        }
        // As if going back had been cut off in the last step, and then going up in the same one.
        if steps > 1 {
            let copies = "SELECT MIN(table_name) AS name, NULL AS text FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name LIKE 'later\\_%'";
            let last = sql_query(copies).get_result::<Said>(&mut c).unwrap().name;
            c.batch_execute(&format!("DROP TABLE {last}")).unwrap();
        }
        let up = &ups[ups.len() - steps];
        for statement in &up[..up.len() / 2] {
            c.batch_execute(statement).unwrap();
        }
        c.run_pending_migrations(Migrations).unwrap();
        let now = all_of(&mut c);
        for (table, rows) in &before {
            assert_eq!(&now[table], rows, "{table} after {steps} steps");
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_an_older_version_wrote_meanwhile_stands() {
    let mut stage = Stage::start(true);
    let mut c = furnished(&stage).await;
    let url = stage.database_url().to_owned();
    let back = |step: &str| kevyt(&["back", "--database-url", &url, step], "");
    let unknown = back("2026-11-26");
    assert_eq!(unknown.status.code(), Some(2));
    assert_snapshot!("a step that is not one", String::from_utf8(unknown.stderr).unwrap());

    c.batch_execute("INSERT INTO __diesel_schema_migrations (version) VALUES ('29991231000001')").unwrap();
    let newer = back("2026-11-26-000003_kept");
    assert_snapshot!("a database of a newer version", String::from_utf8(newer.stderr).unwrap());
    c.batch_execute("DELETE FROM __diesel_schema_migrations WHERE version = '29991231000001'").unwrap();

    let one = |c: &mut MysqlConnection, what: &str| {
        let query = format!("SELECT '' AS name, CAST(({what}) AS CHAR) AS text");
        sql_query(query).get_result::<Said>(c).unwrap().text
    };
    let trips = one(&mut c, "SELECT COUNT(*) FROM trip_thing");
    let [changed, removed] = [1, 2].map(|at| {
        let ids =
            format!("SELECT HEX(id) FROM gear WHERE facts <> '{{}}' AND source = 'weighed' ORDER BY id LIMIT {at}, 1");
        one(&mut c, &ids).unwrap()
    });
    let facts = one(&mut c, &format!("SELECT facts FROM gear WHERE id = X'{changed}'"));
    // Before facts and trips, and before a weight could lie farther below its figure than above.
    let used = String::from_utf8(back("2026-11-26-000003_kept").stderr).unwrap();
    assert!(used.contains("Stop every server first"), "{used}");
    stage.stop();
    drop(c);
    let out = back("2026-11-26-000003_kept");
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    let mut c = MysqlConnection::establish(&url).unwrap();
    c.batch_execute(&format!(
        "UPDATE gear SET unit_mg = 50000, half_width_mg = 700, version = version + 1 WHERE id = X'{changed}'; \
        DELETE FROM gear WHERE id = X'{removed}'"
    ))
    .unwrap();
    let gear = one(&mut c, "SELECT COUNT(*) FROM gear");
    drop(open(&stage.settings()).unwrap());
    let now = one(
        &mut c,
        &format!("SELECT CONCAT_WS(' ', unit_mg, below_mg, above_mg, facts) FROM gear WHERE id = X'{changed}'"),
    );
    assert_eq!(now, Some(format!("50000 700 700 {}", facts.unwrap())));
    assert_eq!(one(&mut c, "SELECT COUNT(*) FROM gear"), gear);
    assert_eq!(one(&mut c, "SELECT COUNT(*) FROM trip_thing"), trips);
    assert!(all_of(&mut c).keys().all(|table| !table.starts_with("later_")));
}
