//! However many have accounts, no page and no change goes through a whole table.

use crate::client::Client;
use crate::cut::Cut;
use diesel::sql_types::{Nullable, Text};
use diesel::{Connection, MysqlConnection, QueryableByName, RunQueryDsl};
use kevyt_testbed::{Stage, crowd};
use serde_json::json;

#[derive(QueryableByName, Debug)]
struct Explained {
    #[diesel(sql_type = Nullable<Text>)]
    table: Option<String>,
    #[diesel(sql_type = Nullable<Text>, column_name = "type")]
    way: Option<String>,
    #[diesel(sql_type = Nullable<Text>)]
    rows: Option<String>,
}

impl Explained {
    /// Whether a table is gone through that is more than a few rows.
    fn is_whole(&self) -> bool {
        let rows: u64 = self.rows.as_ref().and_then(|rows| rows.parse().ok()).unwrap_or(0);
        let is_table = self.table.as_ref().is_some_and(|table| !table.starts_with('<'));
        is_table && rows > 30 && matches!(self.way.as_deref(), Some("ALL" | "index"))
    }
}

/// How a statement is carried out, with something in the places of what is given with it; `None` if that can't be given.
fn explained(c: &mut MysqlConnection, statement: &str, given: &str) -> Option<Vec<Explained>> {
    let mut text = statement.to_owned();
    for word in ["LIMIT", "OFFSET"] {
        text = text.replace(&format!("{word} ?"), &format!("{word} 5"));
    }
    diesel::sql_query(format!("EXPLAIN {}", text.replace('?', given))).load(c).ok()
}

#[tokio::test(flavor = "multi_thread")]
async fn no_statement_goes_through_a_whole_table() {
    let stage = Stage::start(true);
    crowd(stage.database_url(), 40);
    let line = Cut::before(stage.database_url());
    let beside = stage.beside(&line.database_url);
    let client = Client::at(&beside.url);
    assert_eq!(client.post("/api/session/demo", json!({ "demo": "fell" })).await.status, 201);
    let lists = client.get("/api/lists").await.body;
    let list = lists[0]["id"].as_str().unwrap();
    let swaps = client.get(&format!("/api/lists/{list}/swaps")).await.body;
    let gear = client.get("/api/gear").await.body["items"][0].clone();
    let id = gear["id"].as_str().unwrap();
    let trip = client.get("/api/lessons").await.body["trips"][0]["trip"]["id"].as_str().unwrap().to_owned();
    let mut pages = vec![
        "/api/account".to_owned(),
        "/api/sessions".to_owned(),
        "/api/kits".to_owned(),
        "/api/candidates".to_owned(),
        "/api/changes".to_owned(),
        "/api/changes?about=settings".to_owned(),
        format!("/api/changes?list={list}"),
        format!("/api/changes?list={list}&about=swaps"),
        "/api/files/account.json".to_owned(),
        "/api/weigh?since=2026-01-01T00:00:00Z".to_owned(),
        format!("/api/weigh?list={list}&since=2026-01-01T00:00:00Z"),
        format!("/api/gear/{id}/weighings"),
        format!("/api/gear/{id}/changes"),
        format!("/api/trips/{trip}"),
        "/api/year".to_owned(),
    ];
    let parts =
        ["", "/sheet", "/plan", "/plan/near-misses", "/proposals", "/kept-plans", "/offers", "/packing", "/history"];
    pages.extend(parts.map(|part| format!("/api/lists/{list}{part}")));
    for page in pages {
        assert_eq!(client.get(&page).await.status, 200, "{page}");
    }
    let changed =
        client.patch(&format!("/api/gear/{id}?version={}", gear["version"]), json!({ "weight": "1 g" })).await;
    assert_eq!(client.undo(&changed.change()).await.status, 200);
    let added = client.line("mug 98g", Some(list)).await;
    assert_eq!(
        client
            .post(&format!("/api/gear/{}/weighings", added["id"].as_str().unwrap()), json!({ "total": "97" }))
            .await
            .status,
        201
    );
    let state = json!({ "state": "pinned" });
    let swap = &swaps[0];
    client
        .patch(&format!("/api/swaps/{}/state?version={}", swap["id"].as_str().unwrap(), swap["version"]), state)
        .await;
    let removed = client.delete("/api/session").await;
    assert_eq!(removed.status, 204);

    let mut c = MysqlConnection::establish(stage.database_url()).unwrap();
    let id = format!("x'{}'", added["id"].as_str().unwrap().replace('-', ""));
    let none = explained(&mut c, "SELECT id FROM gear WHERE note = ?", "'x'").unwrap();
    assert!(none.iter().any(Explained::is_whole), "what has no index is found: {none:?}");
    let (mut looked_at, mut whole) = (0, Vec::new());
    for statement in line.prepared() {
        if !["SELECT", "UPDATE", "DELETE"].iter().any(|verb| statement.starts_with(verb))
            || statement.contains("information_schema")
        {
            continue;
        }
        looked_at += 1;
        // What is given is an id, a text or a number: an index that takes one of them is there.
        let ways: Vec<_> =
            [id.as_str(), "'x'", "5"].iter().filter_map(|given| explained(&mut c, &statement, given)).collect();
        if ways.iter().all(|way| way.iter().any(Explained::is_whole)) {
            whole.push(format!("{statement}\n{ways:?}"));
        }
    }
    assert!(looked_at > 80, "{looked_at} statements");
    assert!(whole.is_empty(), "{} of {looked_at}:\n{}", whole.len(), whole.join("\n"));
}
