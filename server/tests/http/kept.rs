//! What was written stays written: links, undo, the log over migrations, counts and limits.

use crate::client::Client;
use diesel::connection::SimpleConnection;
use diesel::{Connection, MysqlConnection};
use kevyt_testbed::Stage;
use serde_json::{Value, json};

fn sql(stage: &Stage, statements: &str) {
    MysqlConnection::establish(stage.database_url()).unwrap().batch_execute(statements).unwrap();
}

fn hex(id: &Value) -> String {
    id.as_str().unwrap().replace('-', "")
}

/// A list with a tent on it, a swap that leaves the tent out, and one that adds a tarp and requires the first: list, leave, tarp.
async fn linked(client: &Client) -> (String, String, String) {
    let list = client.list("1 kg", "300").await;
    client.line("tent 1910g", Some(&list)).await;
    let line = client.get(&format!("/api/lists/{list}")).await.body["lines"][0]["id"].clone();
    let swaps = format!("/api/lists/{list}/swaps");
    let leave = client.post(&swaps, json!({ "kind": "leave_out", "remove": [{ "line": line, "qty": 1 }] })).await;
    let tarp = client.post(&swaps, tarp(&json!([leave.id()]), &json!([]), None)).await;
    (list, leave.id().to_owned(), tarp.id().to_owned())
}

fn tarp(requires: &Value, excludes: &Value, candidate: Option<&Value>) -> Value {
    let add = json!({ "name": "tarp", "weight": "400 g", "price": "90", "qty": 1, "candidate": candidate });
    json!({ "kind": "add", "name": "Tarp", "add": [add], "requires": requires, "excludes": excludes })
}

#[tokio::test(flavor = "multi_thread")]
async fn links_between_swaps_are_kept() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, leave, tarp_id) = linked(&client).await;
    let at = format!("/api/swaps/{tarp_id}");
    let read = async || client.get(&at).await.body;
    assert_eq!(read().await["requires"], json!([leave]), "read alone, it has its links");

    // Undoing another change of it, and bringing it back, leaves them; changing them alone is a change.
    let pinned = client.put(&format!("{at}/state?version=1"), json!({ "state": "pinned" })).await;
    assert_eq!(client.undo(&pinned.change()).await.status, 200);
    assert_eq!(read().await["requires"], json!([leave]));
    let removed = client.delete(&format!("{at}?version=3")).await;
    client.undo(&removed.change()).await;
    assert_eq!(read().await["requires"], json!([leave]));
    let now = read().await;
    let candidate = &now["add"][0]["candidate"];
    let candidate = json!({ "id": candidate["id"], "version": candidate["version"] });
    let version = now["version"].clone();
    let turned = tarp(&json!([]), &json!([leave]), Some(&candidate));
    let relinked = client.put(&format!("{at}?version={version}"), turned).await;
    assert_eq!((&relinked.body["requires"], &relinked.body["excludes"]), (&json!([]), &json!([leave])));
    assert_eq!(client.undo(&relinked.change()).await.status, 200);
    assert_eq!(read().await["requires"], json!([leave]));

    // A swap whose required swap is gone can't be made, and that is said; undone, it can.
    let plan = async || client.get(&format!("/api/lists/{list}/plan")).await.body;
    assert_eq!(plan().await["swaps"].as_array().unwrap().len(), 2);
    let gone = client.delete(&format!("/api/swaps/{leave}?version=1")).await;
    let without = plan().await;
    assert_eq!((&without["swaps"], &without["ranking"]), (&json!([]), &json!([])));
    assert_eq!(
        without["unavailable"][0]["unavailable"],
        json!({ "code": "requires_removed", "swap": "Leave out tent" })
    );
    assert_eq!(read().await["unavailable"], json!({ "code": "requires_removed", "swap": "Leave out tent" }));
    client.undo(&gone.change()).await;
    assert_eq!(plan().await["unavailable"], json!([]));

    // Nor can one that takes off what is on the list no more, nor what requires that.
    let tent = client.get("/api/gear").await.body["items"][0]["id"].as_str().unwrap().to_owned();
    let off = client.delete(&format!("/api/lists/{list}/lines/{tent}?version=1")).await;
    let reasons: Vec<Value> =
        plan().await["unavailable"].as_array().unwrap().iter().map(|swap| swap["unavailable"].clone()).collect();
    let wanted = [
        json!({ "code": "off_list", "thing": "tent" }),
        json!({ "code": "requires_unavailable", "swap": "Leave out tent" }),
    ];
    assert_eq!(reasons, wanted);
    client.undo(&off.change()).await;
    assert_eq!(plan().await["swaps"].as_array().unwrap().len(), 2);
}

#[tokio::test(flavor = "multi_thread")]
async fn everything_that_removes_names_its_change() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, leave, _) = linked(&client).await;
    let tent = client.get("/api/gear").await.body["items"][0]["id"].as_str().unwrap().to_owned();
    for path in [
        format!("/api/swaps/{leave}?version=1"),
        format!("/api/lists/{list}/lines/{tent}?version=1"),
        format!("/api/lists/{list}?version=1"),
        format!("/api/gear/{tent}?version=1"),
    ] {
        let removed = client.delete(&path).await;
        assert_eq!(removed.status, 204, "{path}");
        assert_eq!(client.undo(&removed.change()).await.status, 200, "{path}");
    }
    for (path, body) in [
        (format!("/api/lists/{list}?version=3"), json!({ "note": "north" })),
        (format!("/api/gear/{tent}?version=3"), json!({ "nights": 2 })),
    ] {
        client.undo(&client.patch(&path, body).await.change()).await;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn lines_are_written_and_removed_by_version() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    let socks = client.line("spoon x3 60g", Some(&list)).await["id"].as_str().unwrap().to_owned();
    let at = format!("/api/lists/{list}/lines/{socks}");
    let counts = |carried: u32, version: Option<i32>| json!({ "carried": carried, "version": version });
    let stale = client.put(&at, counts(1, None)).await;
    assert_eq!((stale.status, &stale.body["version_now"]), (409, &json!(1)), "somebody put it there meanwhile");
    assert_eq!(client.put(&at, counts(3, None)).await.status, 200, "what is asked for stands already");
    assert_eq!(client.put(&at, counts(2, Some(1))).await.status, 200);
    assert_eq!(client.delete(&format!("{at}?version=1")).await.body["version_now"], 2);
    assert_eq!(client.delete(&at).await.status, 400, "a removal says what it was decided on");
    assert_eq!(client.delete(&format!("{at}?version=2")).await.status, 204);
    assert_eq!(client.put(&at, counts(1, None)).await.status, 200);

    // No fewer can be owned than a list or a kit has, nor can an undo make it so.
    let thing = format!("/api/gear/{socks}");
    let more = client.patch(&format!("{thing}?version=1"), json!({ "count": 5 })).await;
    assert_eq!(client.put(&at, counts(5, Some(4))).await.status, 200);
    let fewer = client.patch(&format!("{thing}?version=2"), json!({ "count": 4 })).await;
    assert_eq!((fewer.status, &fewer.body["code"]), (422, &json!("fewer_than_used")));
    assert_eq!(client.undo(&more.change()).await.body["code"], "fewer_than_used");
    assert_eq!(client.put(&at, counts(3, Some(5))).await.status, 200);
    let mug = client.line("mug 98g", None).await["id"].clone();
    let kit = json!({ "name": "set", "parts": [{ "gear": socks, "count": 4 }, { "gear": mug, "count": 1 }] });
    client.post("/api/kits", kit).await;
    let fewer = client.patch(&format!("{thing}?version=2"), json!({ "count": 3 })).await;
    assert!(fewer.body["detail"].as_str().unwrap().starts_with("The kit set has 4 of spoon"), "{}", fewer.body);
}

#[tokio::test(flavor = "multi_thread")]
async fn derived_weights_follow_whatever_is_undone() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let [bag, sack, cover] = ["bag 1120g", "sack", "cover"].map(|line| client.line(line, None));
    let (bag, sack, cover) = (bag.await["id"].clone(), sack.await["id"].clone(), cover.await["id"].clone());
    let part = |gear: &Value| json!({ "gear": gear, "count": 1 });
    let weight =
        async |id: &Value| client.get(&format!("/api/gear/{}", id.as_str().unwrap())).await.body["weight"].clone();
    let made = client.post("/api/kits", json!({ "name": "sleep", "parts": [part(&bag), part(&sack)] })).await;
    client.post(&format!("/api/kits/{}/weighings", made.id()), json!({ "total": "1164" })).await;
    assert_eq!(weight(&sack).await["unit_mg"], 44_000);

    // A second kit with the same part, made, changed and taken apart, takes nothing from it.
    let second = client.post("/api/kits", json!({ "name": "rain", "parts": [part(&sack), part(&cover)] })).await;
    let at = format!("/api/kits/{}", second.id());
    assert_eq!(weight(&sack).await["unit_mg"], 44_000);
    client.put(&format!("{at}?version=1"), json!({ "name": "wet", "parts": [part(&sack), part(&cover)] })).await;
    client.delete(&format!("{at}?version=2")).await;
    assert_eq!(weight(&sack).await["unit_mg"], 44_000);

    // With the kit undone, nothing tells of it any more; done again, it does.
    let undone = client.undo(&made.change()).await;
    assert_eq!((undone.status, weight(&sack).await), (200, Value::Null));
    assert_eq!(client.undo(&undone.change()).await.status, 200);
    assert_eq!(weight(&sack).await["unit_mg"], 44_000);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_weight_goes_back_to_what_was_known_before() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let mug = client.line("mug ~100g", None).await["id"].as_str().unwrap().to_owned();
    let at = format!("/api/gear/{mug}");
    let weight = async || {
        let weight = client.get(&at).await.body["weight"].clone();
        (weight["unit_mg"].clone(), weight["source"].clone())
    };
    let weigh = async |total: &str| {
        client.post(&format!("{at}/weighings"), json!({ "total": total })).await;
        client.get(&format!("{at}/weighings")).await.body[0]["id"].as_str().unwrap().to_owned()
    };
    let only = weigh("118 g").await;
    client.delete(&format!("/api/weighings/{only}")).await;
    assert_eq!(weight().await, (json!(100_000), json!("estimate")), "the guess that stood before the weighing");

    // A figure said after a weighing stays, whatever is corrected of the weighing.
    let before = weigh("120 g").await;
    let version = client.get(&at).await.body["version"].clone();
    client.patch(&format!("{at}?version={version}"), json!({ "weight": "90 g", "source": "estimate" })).await;
    client.put(&format!("/api/weighings/{before}"), json!({ "total": "121 g" })).await;
    assert_eq!(weight().await, (json!(90_000), json!("estimate")));
    weigh("95 g").await;
    assert_eq!(weight().await, (json!(95_000), json!("weighed")), "the newest counts");

    // The same figure again is the weighing still; another that is merely typed is none.
    let typed = async |typed: &str| {
        let version = client.get(&at).await.body["version"].clone();
        client.patch(&format!("{at}?version={version}"), json!({ "weight": typed })).await;
        weight().await
    };
    let same = client.get(&at).await.body["weight"]["typed"].as_str().unwrap().to_owned();
    assert_eq!(typed(&same).await, (json!(95_000), json!("weighed")));
    assert_eq!(typed("80 g").await, (json!(80_000), json!("maker")));
}

#[tokio::test(flavor = "multi_thread")]
async fn figures_mean_the_same_in_another_unit() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let quilt = client
        .post("/api/gear", json!({ "name": "quilt", "weight": "730", "source": "weighed", "claimed": "700" }))
        .await;
    let list = client.list("4.5", "300").await;
    let units = json!({ "version": 1, "mass": "pounds_and_ounces", "currency": "EUR" });
    assert_eq!(client.patch("/api/account", units).await.status, 204);
    // The figures are sent back as they are shown, with another field changed, as a form does.
    let weight = quilt.body["weight"]["typed"].clone();
    let change = json!({ "weight": weight, "claimed": quilt.body["claimed"]["typed"], "paid": "200" });
    let changed = client.patch(&format!("/api/gear/{}?version=1", quilt.id()), change).await.body;
    assert_eq!((&changed["weight"]["unit_mg"], &changed["claimed"]["unit_mg"]), (&json!(730_000), &json!(700_000)));
    assert_eq!(changed["weight"], quilt.body["weight"], "the same figure is known as it was");
    let target = client.get(&format!("/api/lists/{list}")).await.body["list"]["target_typed"].clone();
    let again = client.patch(&format!("/api/lists/{list}?version=1"), json!({ "target": target })).await;
    assert_eq!(again.body["target_mg"], 4_500_000);
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_typed_comes_from_the_maker_until_the_walker_says_otherwise() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let source = async |line: &str| {
        let line = json!({ "line": line });
        client.post("/api/gear/line", line).await.body["weight"]["source"].clone()
    };
    assert_eq!((source("mug 98g").await, source("pot weighed 210g").await), (json!("maker"), json!("weighed")));
    let unit = json!({ "version": 1, "mass": "metric", "currency": "EUR", "settings": { "typed_weights": "weighed" } });
    assert_eq!(client.patch("/api/account", unit).await.status, 204);
    assert_eq!((source("pan 140g").await, source("lid claimed 50g").await), (json!("weighed"), json!("maker")));
    let file = "name,weight\nspoon,18 g\n";
    let read = client.upload("/api/files/gear/preview", file, json!({})).await.body;
    assert_eq!(read["source"], "weighed");
    client.upload("/api/files/gear", file, json!({ "source": "estimate" })).await;
    let things = client.get("/api/gear").await.body["items"].clone();
    let spoon = things.as_array().unwrap().iter().find(|thing| thing["name"] == "spoon").unwrap();
    assert_eq!(spoon["weight"]["source"], "estimate");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_take_away_weighing_ends_at_its_container() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let quilt = client.line("quilt ~500g", None).await["id"].clone();
    let save = async |readings: Value, left: Option<i64>| {
        let weighing = json!({ "container_mg": 44_000, "readings_mg": readings, "step_mg": 1_000 });
        let body = json!({ "weighing": weighing, "things": [{ "gear": quilt }], "left_mg": left });
        client.post("/api/weigh/take-away/weighings", body).await
    };
    let left_on = save(json!([600_000, 121_000]), None).await;
    assert_eq!((left_on.status, &left_on.body["code"]), (422, &json!("left_over")));
    assert_eq!(save(json!([600_000, 121_000]), Some(70_000)).await.status, 422, "another figure than is there");
    assert_eq!(save(json!([600_000, 121_000]), Some(77_000)).await.status, 201);
    assert_eq!(save(json!([600_000, 45_000]), None).await.status, 201, "within a step it is back");
}

/// States as they were kept before migration 4, and a change of them undone after it.
#[tokio::test(flavor = "multi_thread")]
async fn a_change_from_before_a_migration_is_undone_after_it() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let new = json!({ "name": "mug", "weight": "118 g", "source": "estimate" });
    let mug = client.post("/api/gear", new).await.body["id"].clone();
    let list = client.post("/api/lists", json!({ "name": "Week", "target": "4.5 kg" })).await.body["id"].clone();
    let gear = |name: &str| {
        json!({ "id": mug, "name": name, "system": "other", "count": 1, "unit_mg": 118_000, "unit_typed": "118", "source": "estimate",
            "half_width_mg": null, "claimed_mg": null, "claimed_typed": null, "paid_low_minor": null, "paid_high_minor": null,
            "acquired": "new", "resale_minor": null, "status": "owned", "kept_at": "", "tags": "", "nights": 0, "provides": "{}",
            "needs": "{}", "removed_at": null })
    };
    let of_list = |note: &str| {
        json!({ "id": list, "name": "Week", "note": note, "target_mg": 4_500_000, "target_typed": "4.5", "budget_minor": null,
            "hour_minor": 0, "requires": "{}", "removed_at": null })
    };
    // What the migration did to the rows: the unit that was meant stands behind the figure.
    sql(
        &stage,
        "UPDATE gear SET unit_typed = '118 g', stated_typed = '118 g'; UPDATE pack_list SET target_typed = '4.5 kg'",
    );
    let change = "01900000-0000-7000-8000-000000000001";
    let log = format!(
        "INSERT INTO change_entry (id, account_id, said, changed_at) SELECT UNHEX(REPLACE('{change}', '-', '')), id, 'cup renamed to mug.', NOW() FROM account; \
         INSERT INTO change_item (change_id, kind, object_id, before_state, after_state) VALUES \
         (UNHEX(REPLACE('{change}', '-', '')), 'gear', UNHEX('{}'), '{}', '{}'), (UNHEX(REPLACE('{change}', '-', '')), 'list', UNHEX('{}'), '{}', '{}')",
        hex(&mug),
        gear("cup"),
        gear("mug"),
        hex(&list),
        of_list("south"),
        of_list(""),
    );
    sql(&stage, &log);
    let undone = client.undo(change).await;
    assert_eq!(undone.status, 200, "{}", undone.body);
    let back = client.get(&format!("/api/gear/{}", mug.as_str().unwrap())).await.body;
    assert_eq!(
        (&back["name"], &back["weight"]["typed"], &back["weight"]["source"]),
        (&json!("cup"), &json!("118 g"), &json!("estimate"))
    );
    assert_eq!(client.get(&format!("/api/lists/{}", list.as_str().unwrap())).await.body["list"]["note"], "south");
    // What was stated is still there to go back to.
    client.post(&format!("/api/gear/{}/weighings", mug.as_str().unwrap()), json!({ "total": "120" })).await;
    let weighing = client.get(&format!("/api/gear/{}/weighings", mug.as_str().unwrap())).await.body[0]["id"].clone();
    client.delete(&format!("/api/weighings/{}", weighing.as_str().unwrap())).await;
    assert_eq!(client.get(&format!("/api/gear/{}", mug.as_str().unwrap())).await.body["weight"]["unit_mg"], 118_000);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_list_and_the_kit_too_many_are_refused_with_a_sentence() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let parts = [client.line("mug 98g", None).await, client.line("pot 210g", None).await];
    let parts: Vec<Value> = parts.iter().map(|thing| json!({ "gear": thing["id"], "count": 1 })).collect();
    let numbers = "WITH RECURSIVE n AS (SELECT 1 AS at UNION ALL SELECT at + 1 FROM n WHERE at <";
    let id = "UNHEX(REPLACE(UUID(), '-', ''))";
    let lists = format!(
        "INSERT INTO pack_list (id, account_id, name, note, hour_minor, requires, version) {numbers} 498) SELECT {id}, (SELECT id FROM account), CONCAT('list ', at), '', 0, '{{}}', 1 FROM n"
    );
    let kits = format!(
        "INSERT INTO kit (id, account_id, name, version) {numbers} 999) SELECT {id}, (SELECT id FROM account), CONCAT('kit ', at), 1 FROM n"
    );
    sql(&stage, &format!("{lists}; {kits}"));
    let last = client.post("/api/lists", json!({ "name": "The last" })).await;
    assert_eq!(
        (last.status, client.get("/api/lists").await.body.as_array().unwrap().len()),
        (201, 500),
        "all are shown"
    );
    let refused = client.post("/api/lists", json!({ "name": "One more" })).await;
    assert_eq!((refused.status, &refused.body["code"]), (422, &json!("too_many")));
    assert_eq!(refused.body["detail"], "You have 500 lists, and 500 are the most that are kept. Remove one first.");
    let removed = client.delete(&format!("/api/lists/{}?version=1", last.id())).await;
    assert_eq!(client.post("/api/lists", json!({ "name": "In its place" })).await.status, 201);
    assert_eq!(client.undo(&removed.change()).await.body["code"], "too_many");
    let kit = |name: &str| json!({ "name": name, "parts": parts });
    assert_eq!(client.post("/api/kits", kit("The last")).await.status, 201);
    assert_eq!(client.get("/api/kits").await.body.as_array().unwrap().len(), 1_000);
    assert_eq!(client.post("/api/kits", kit("One more")).await.body["code"], "too_many");
}
