use crate::client::Client;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

/// A change in short: its turn if it is none that was simply done, its code, and its fields by name.
fn told(change: &Value) -> String {
    let of = |value: &Value| match value {
        Value::Object(pieces) => format!("{} {}", pieces["pieces"], pieces["place"].as_str().unwrap()),
        other => other.as_str().map_or_else(|| other.to_string(), str::to_owned),
    };
    let field = |(name, value): (&String, &Value)| match value {
        Value::Array(all) => format!("{name} {}", all.iter().map(of).collect::<Vec<_>>().join(",")),
        one => format!("{name} {}", of(one)),
    };
    let (event, turn) = (change["entry"]["event"].as_object().unwrap(), change["entry"]["turn"].as_str().unwrap());
    let turn = if turn == "done" { String::new() } else { format!("{turn}: ") };
    let fields: Vec<String> = event.iter().filter(|field| field.0 != "code").map(field).collect();
    [vec![format!("{turn}{}", of(&event["code"]))], fields].concat().join(" ")
}

#[tokio::test(flavor = "multi_thread")]
async fn everything_done_to_gear_is_in_the_history_and_can_be_undone() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let mug = client.line("mug 98g", None).await;
    let at = format!("/api/gear/{}", mug["id"].as_str().unwrap());
    let renamed = client.patch(&format!("{at}?version=1"), json!({ "name": "cup" })).await;
    let priced = client
        .patch(
            &format!("{at}?version=2"),
            json!({ "paid": "5-8", "tags": "#kitchen old", "kept_at": "attic", "nights": 4 }),
        )
        .await;
    assert_eq!((&priced.body["paid_high_minor"], &priced.body["night_minor"]), (&json!(800), &json!(162)));
    assert_eq!(priced.body["tags"], json!(["kitchen", "old"]));
    let removed = client.delete(&format!("{at}?version=3")).await;
    let said = async || {
        let changes = client.get("/api/changes").await.body;
        changes.as_array().unwrap().iter().map(told).collect::<Vec<_>>()
    };
    let wanted = [
        "thing_removed thing cup",
        "thing_changed thing cup fields price,kept_at,tags,nights",
        "thing_renamed from mug to cup",
        "thing_added thing mug",
    ];
    assert_eq!(said().await, wanted);
    assert_eq!(client.get(&format!("{at}/changes")).await.body.as_array().unwrap().len(), 4);
    // A change that changes nothing is none.
    let undo = async |change: &str| client.post(&format!("/api/changes/{change}/undo"), json!({})).await;
    assert_eq!(undo(&renamed.change()).await.body["code"], "changed_since");
    for change in [removed.change(), priced.change(), renamed.change()] {
        assert_eq!(undo(&change).await.status, 200);
    }
    let now = client.get(&at).await.body;
    assert_eq!((&now["name"], &now["paid_low_minor"], &now["nights"]), (&json!("mug"), &Value::Null, &json!(0)));
    let same = client.patch(&format!("{at}?version={}", now["version"]), json!({ "name": "mug" })).await;
    assert!(same.status == 200 && !same.headers.contains_key("kevyt-change"), "{}", same.body);
    // What was undone is marked, and undoing is a change of its own that can be undone: then the other stands again.
    let all = client.get("/api/changes").await.body;
    let marks: Vec<(String, bool)> =
        all.as_array().unwrap().iter().map(|change| (told(change), change["undone_at"].is_null())).collect();
    let wanted = [
        ("undone: thing_renamed from mug to cup", true),
        ("undone: thing_changed thing cup fields price,kept_at,tags,nights", true),
        ("undone: thing_removed thing cup", true),
        ("thing_removed thing cup", false),
        ("thing_changed thing cup fields price,kept_at,tags,nights", false),
        ("thing_renamed from mug to cup", false),
        ("thing_added thing mug", true),
    ];
    assert_eq!(marks, wanted.map(|(told, stands)| (told.to_owned(), stands)));
    assert_eq!(undo(all[0]["id"].as_str().unwrap()).await.status, 200);
    assert_eq!(client.get(&at).await.body["name"], "cup");
    let again = client.get("/api/changes").await.body;
    assert_eq!(
        (told(&again[0]).as_str(), &again[6]["undone_at"]),
        ("done_again: thing_renamed from mug to cup", &Value::Null)
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn the_history_is_read_page_by_page_and_of_one_thing() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    for at in 0..5 {
        client.line(&format!("thing-{at}"), None).await;
    }
    let said = async |path: String| {
        let changes = client.get(&path).await.body;
        let changes = changes.as_array().unwrap().iter();
        changes.map(|change| (told(change), change["id"].as_str().unwrap().to_owned())).collect::<Vec<_>>()
    };
    let first = said("/api/changes?limit=2".to_owned()).await;
    let rest = said(format!("/api/changes?limit=50&before={}", first[1].1)).await;
    let all: Vec<&str> = first.iter().chain(&rest).map(|change| change.0.as_str()).collect();
    assert_eq!(all, [4, 3, 2, 1, 0].map(|at| format!("thing_added thing thing-{at}")));

    let id = client.get("/api/gear").await.body["items"][2]["id"].as_str().unwrap().to_owned();
    client.patch(&format!("/api/gear/{id}?version=1"), json!({ "name": "tarp" })).await;
    let of_it: Vec<String> = said(format!("/api/gear/{id}/changes")).await.into_iter().map(|change| change.0).collect();
    assert_eq!(of_it, ["thing_renamed from thing-2 to tarp", "thing_added thing thing-2"]);
    // Of a list, about something, and both: what is on it and who walks is of it too; gear is not.
    let list = client.list("5 kg", "300").await;
    let other = client.list("6 kg", "200").await;
    let put = json!({ "carried": 1 });
    client.put(&format!("/api/lists/{list}/lines/{id}"), put.clone()).await;
    client.put(&format!("/api/lists/{other}/lines/{id}"), put).await;
    client.put(&format!("/api/lists/{list}/earlier"), json!({ "text": "2021-07-01, 9.4 kg, Coast" })).await;
    let account = client.get("/api/account").await.body;
    let settings = json!({ "version": account["version"], "mass": "metric", "currency": "EUR", "body": "70" });
    assert_eq!(client.patch("/api/account", settings).await.status, 204);
    let only = async |query: &str| -> Vec<String> {
        said(format!("/api/changes?{query}")).await.into_iter().map(|change| change.0).collect()
    };
    let of_list = [
        "earlier_bases_changed list Week",
        "line_changed thing tarp list Week pieces 1 carried",
        "list_made list Week",
    ];
    assert_eq!(only(&format!("list={list}")).await, of_list);
    assert_eq!(only(&format!("list={list}&about=gear")).await, Vec::<String>::new());
    assert_eq!(only("about=settings").await, ["settings_changed"]);
    assert_eq!(only("about=lists").await.len(), 5);
    assert_eq!(only("about=gear&limit=1").await, ["thing_renamed from thing-2 to tarp"]);
    for query in ["limit=none", "before=yesterday", "about=weather", "list=none"] {
        assert_eq!(client.get(&format!("/api/changes?{query}")).await.status, 400, "{query}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn several_things_change_at_once_or_not_at_all() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    let mut ids = Vec::new();
    for line in ["mug 98g", "pot 200g", "spoon 18g"] {
        ids.push(client.line(line, Some(&list)).await["id"].clone());
    }
    let things = |version: u32| ids.iter().map(|id| json!({ "id": id, "version": version })).collect::<Vec<_>>();
    let change = |version: u32, mut change: Value| {
        change["things"] = json!(things(version));
        client.post("/api/gear/several", change)
    };
    let asked = json!({ "system": "kitchen", "status": "for_sale", "add_tags": "spare", "kept_at": "shed" });
    let changed = change(1, asked).await;
    assert_eq!((changed.status, &changed.body["changed"]), (200, &json!(3)));
    let mug = client.get(&format!("/api/gear/{}", ids[0].as_str().unwrap())).await.body;
    assert_eq!(
        (&mug["system"], &mug["status"], &mug["tags"]),
        (&json!("kitchen"), &json!("for_sale"), &json!(["spare"]))
    );
    // One stale version, and none is changed.
    client.patch(&format!("/api/gear/{}?version=2", ids[2].as_str().unwrap()), json!({ "name": "ladle" })).await;
    assert_eq!(change(2, json!({ "remove": true })).await.status, 409);
    assert_eq!(client.get("/api/gear").await.body["total"], 3);
    assert_eq!(change(2, json!({ "add_tags": "x".repeat(50) })).await.body["field"], "add_tags");
    // Removed, they go from the list too; undone, they are back on it.
    let gone = json!({ "remove": true, "things": changed.body["things"].as_array().unwrap()[..2] });
    let gone = client.post("/api/gear/several", gone).await;
    assert_eq!(gone.body, json!({ "changed": 2, "things": [] }));
    let lines = async || client.get(&format!("/api/lists/{list}")).await.body["lines"].as_array().unwrap().len();
    assert_eq!(lines().await, 1);
    assert_eq!(client.post(&format!("/api/changes/{}/undo", gone.change()), json!({})).await.status, 200);
    assert_eq!(lines().await, 3);
}

#[tokio::test(flavor = "multi_thread")]
async fn lists_lines_and_swaps_are_undone_from_the_history() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    let tent = client.line("tent 1910g", Some(&list)).await["id"].as_str().unwrap().to_owned();
    let whole = async || client.get(&format!("/api/lists/{list}")).await.body;
    let line = whole().await["lines"][0]["id"].clone();
    let shelter = json!({ "name": "shelter", "weight": "730 g", "price": "379", "qty": 1 });
    let draft = json!({ "remove": [{ "line": line, "qty": 1 }], "add": [shelter], "kind": "replace" });
    let swap = client.post(&format!("/api/lists/{list}/swaps"), draft.clone()).await;
    let at = format!("/api/swaps/{}", swap.id());
    let mut dearer = draft.clone();
    dearer["add"][0]["price"] = json!("399");
    dearer["add"][0]["candidate"] = json!({ "id": swap.body["add"][0]["candidate"]["id"], "version": 1 });
    assert_eq!(client.put(&format!("{at}?version=1"), dearer).await.status, 200);
    client.put(&format!("{at}/state?version=2"), json!({ "state": "pinned" })).await;
    client.delete(&format!("{at}?version=3")).await;
    client.put(&format!("/api/lists/{list}/lines/{tent}"), json!({ "carried": 0, "worn": 1, "version": 1 })).await;
    client.delete(&format!("/api/lists/{list}/lines/{tent}?version=2")).await;
    client.patch(&format!("/api/lists/{list}?version=1"), json!({ "target": "2 kg", "note": "north" })).await;
    client.delete(&format!("/api/lists/{list}?version=2")).await;

    let changes = client.get("/api/changes").await.body;
    let said: Vec<String> = changes.as_array().unwrap().iter().map(told).collect();
    let wanted = [
        "list_removed list Week",
        "list_changed list Week fields note,target",
        "line_removed thing tent list Week",
        "line_changed thing tent list Week pieces 1 worn",
        "swap_removed swap shelter",
        "swap_set swap shelter state pinned",
        "swap_changed swap shelter",
        "swap_made swap shelter",
        "thing_added thing tent",
        "list_made list Week",
    ];
    assert_eq!(said[..10], wanted);
    // Back from the newest to the one that made the swap dearer.
    for change in &changes.as_array().unwrap()[..7] {
        let undone = client.post(&format!("/api/changes/{}/undo", change["id"].as_str().unwrap()), json!({})).await;
        assert_eq!(undone.status, 200, "{}: {}", told(change), undone.body);
    }
    let back = whole().await;
    assert_eq!((&back["list"]["note"], &back["lines"][0]["carried"]), (&json!(""), &json!(1)));
    let swap = client.get(&at).await.body;
    assert_eq!((&swap["state"], &swap["add"][0]["candidate"]["price_low_minor"]), (&json!("open"), &json!(37_900)));
}
