//! Trips: the list kept as it was, what is said of it after, and what that teaches.

use crate::client::Client;
use crate::cut::Cut;
use crate::sheet::trip;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

/// A list with a chair, a messenger, a quilt and a stove, for three days.
async fn list(client: &Client) -> String {
    let list = client.list("5 kg", "100").await;
    for line in [
        "chair 490g 60eur",
        "messenger 101g !call_for_help=1",
        "quilt 600g 180eur !sleep_insulation=1",
        "gas can 378g carried",
        "mug 98g",
    ] {
        client.line(line, Some(&list)).await;
    }
    let quilt = gear(client, "quilt").await;
    let facts = json!({ "facts": { "rating": "4", "rating_kind": "comfort" } });
    assert_eq!(client.patch(&format!("/api/gear/{}?version=1", id(&quilt)), facts).await.status, 200);
    let can = id(&gear(client, "gas can").await).to_owned();
    assert_eq!(client.patch(&format!("/api/gear/{can}?version=1"), json!({ "tags": "gas_can" })).await.status, 200);
    let conditions = json!({ "trip": trip(json!({ "days": 4, "boil_ml_per_day": 2000 })) });
    let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
    assert_eq!(client.patch(&format!("/api/lists/{list}?version={version}"), conditions).await.status, 200);
    list
}

async fn gear(client: &Client, name: &str) -> Value {
    named(&client.get("/api/gear").await.body["items"], name)
}

fn named(things: &Value, name: &str) -> Value {
    let found = things.as_array().unwrap().iter().find(|thing| thing["name"] == name);
    found.unwrap_or_else(|| panic!("{name} in {things}")).clone()
}

fn id(thing: &Value) -> &str {
    thing["id"].as_str().unwrap()
}

/// A trip of the list that is kept as it is.
async fn walked(client: &Client, list: &str, day: &str, nights: u32) -> String {
    let new = json!({ "list": list, "starts_on": day, "nights": nights });
    let trip = client.post("/api/trips", new).await.id().to_owned();
    assert_eq!(client.post(&format!("/api/trips/{trip}/keep?version=1"), json!({})).await.status, 200);
    trip
}

async fn say(client: &Client, trip: &str, name: &str, said: Value) -> Value {
    let things = client.get(&format!("/api/trips/{trip}")).await.body["things"].clone();
    let path = format!("/api/trips/{trip}/things/{}", id(&named(&things, name)));
    let answer = client.patch(&path, said).await;
    assert_eq!(answer.status, 200, "{}", answer.body);
    answer.body
}

#[tokio::test(flavor = "multi_thread")]
async fn a_kept_list_never_changes_when_gear_does() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = list(&client).await;
    let trip = walked(&client, &list, "2026-09-04", 3).await;
    let before = client.get(&format!("/api/trips/{trip}")).await.body;
    assert_eq!(before["trip"]["base_mg"], 490_000 + 101_000 + 600_000 + 378_000 + 98_000);
    assert_eq!(before["trip"]["nights"], 3);

    // Weighed, renamed, taken off, removed; the list itself gone.
    let (quilt, mug, chair) = (gear(&client, "quilt").await, gear(&client, "mug").await, gear(&client, "chair").await);
    let patched = json!({ "name": "old quilt", "weight": "700 g" });
    assert_eq!(client.patch(&format!("/api/gear/{}?version=2", id(&quilt)), patched).await.status, 200);
    let line = named(&client.get(&format!("/api/lists/{list}/sheet")).await.body["lines"], "mug");
    let (mug, version) = (id(&mug), &line["version"]);
    assert_eq!(client.delete(&format!("/api/lists/{list}/lines/{mug}?version={version}")).await.status, 204);
    assert_eq!(client.delete(&format!("/api/gear/{}?version=1", id(&chair))).await.status, 204);
    let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
    assert_eq!(client.delete(&format!("/api/lists/{list}?version={version}")).await.status, 204);
    let after = client.get(&format!("/api/trips/{trip}")).await.body;
    assert_eq!(after["things"], before["things"]);
    assert_eq!(after["trip"]["base_mg"], before["trip"]["base_mg"]);

    // Once only; and a trip to come has none yet.
    let again = client.post(&format!("/api/trips/{trip}/keep?version=2"), json!({})).await;
    assert_eq!((again.status, &again.body["code"]), (422, &json!("kept")));
    for (body, field) in [
        (json!({ "starts_on": "4.9.2026" }), "starts_on"),
        (json!({ "nights": 400 }), "nights"),
        (json!({ "figures": { "low": "cold" } }), "figures.low"),
        (json!({ "figures": { "walked": "2 days" } }), "figures.walked"),
    ] {
        let refused = client.patch(&format!("/api/trips/{trip}?version=2"), body).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)), "{}", refused.body);
    }
    assert_eq!(client.patch(&format!("/api/trips/{trip}?version=1"), json!({ "nights": 2 })).await.status, 409);
}

#[tokio::test(flavor = "multi_thread")]
async fn trips_teach_and_what_they_teach_is_proposed() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = list(&client).await;
    client.line("allergy injector 60g", Some(&list)).await;
    let trips = [walked(&client, &list, "2026-05-01", 2).await, walked(&client, &list, "2026-07-01", 4).await];
    for (trip, low, cold) in [(&trips[0], "8", false), (&trips[1], "5", true)] {
        let met = json!({ "figures": { "low": low, "gas_taken": "378 g", "gas_back": "278 g" } });
        assert_eq!(client.patch(&format!("/api/trips/{trip}?version=2"), met).await.status, 200);
        for name in ["chair", "messenger", "mug", "allergy injector"] {
            say(&client, trip, name, json!({ "used": false })).await;
        }
        say(&client, trip, "quilt", json!({ "used": true, "marks": { "too_cold": cold } })).await;
    }
    // Missed when it stayed home, and something that is not owned, twice.
    let things = format!("/api/trips/{}/things", trips[1]);
    let wish = |body: Value| client.post(&things, body);
    let wished = wish(json!({ "gear": id(&gear(&client, "mug").await) })).await;
    assert_eq!((wished.status, &wished.body["marks"]), (201, &json!(["wished"])));
    let (one, two) = (wish(json!({ "name": "Pillow" })).await, wish(json!({ "name": "pillow" })).await);
    assert_eq!((one.id(), one.status, two.status), (two.id(), 201, 201));

    let lessons = client.get("/api/lessons").await.body;
    let of = |name: &str| named(&lessons["things"], name);
    assert_eq!((&of("chair")["never_used"], &of("chair")["unused_on"]), (&json!(2), &json!(trips)));
    assert_eq!(of("messenger")["never_used"], Value::Null, "safety is never proposed for leaving out");
    assert_eq!(of("allergy injector")["never_used"], Value::Null, "nor what nobody has said anything of");
    assert_eq!(of("mug")["never_used"], Value::Null, "missed is not");
    assert_eq!((&of("quilt")["nights"], &of("quilt")["cost_per_night_minor"]), (&json!(6), &json!(3_000)));
    assert_eq!(of("quilt")["slept"]["uncomfortable"], json!({ "tenth_c": 50, "trip": trips[1] }));
    // Comfort 4 °C: too cold one above it, warm enough four above.
    assert_eq!(lessons["sleeper"]["estimate_tenth_c"], 25);
    // 100 g for two litres a day, on three days and on five.
    assert_eq!(lessons["rates"]["gas_mg_per_l"]["median"], 13_334, "13 333.5 to the even one");
    assert_eq!(lessons["wished"], json!([{ "name": "Pillow", "on": [trips[1]], "is_seen_to": false }]));
    assert_eq!((&lessons["trips"][0]["judged"], &lessons["trips"][0]["things"]), (&json!(5), &json!(6)));

    // Proposed for the list, taken as a swap, silenced for good.
    let proposals = client.get(&format!("/api/lists/{list}/proposals")).await.body;
    let told: Vec<&Value> = proposals.as_array().unwrap().iter().collect();
    assert_eq!(told.len(), 1, "{proposals}");
    assert_eq!((&told[0]["key"], &told[0]["saving_mg"]), (&json!("leave chair"), &json!(490_000)));
    assert_eq!(told[0]["why"], json!({ "code": "never_used", "trips": 2 }));
    let silence = json!({ "lesson": format!("unused {}", id(&gear(&client, "chair").await)) });
    let silenced = client.post("/api/lessons/silence", silence).await;
    assert_eq!(silenced.status, 204);
    assert_eq!(client.get(&format!("/api/lists/{list}/proposals")).await.body, json!([]));
    let undone = client.post(&format!("/api/changes/{}/undo", silenced.change()), Value::Null).await;
    assert_eq!(undone.status, 200, "{}", undone.body);
    let take = json!({ "key": "leave chair" });
    assert_eq!(client.post(&format!("/api/lists/{list}/proposals/take"), take).await.status, 201);

    // Taken back: the nights go, the trip goes, and all of it comes back.
    say(&client, &trips[1], "quilt", json!({ "used": null })).await;
    assert_eq!(gear(&client, "quilt").await["nights"], 2);
    say(&client, &trips[1], "quilt", json!({ "used": true })).await;
    let longer = client.patch(&format!("/api/trips/{}?version=3", trips[1]), json!({ "nights": 5 })).await;
    assert_eq!((longer.status, &gear(&client, "quilt").await["nights"]), (200, &json!(7)));
    let gone = client.delete(&format!("/api/trips/{}?version=4", trips[1])).await;
    assert_eq!((gone.status, &gear(&client, "quilt").await["nights"]), (204, &json!(2)));
    assert_eq!(client.get("/api/lessons").await.body["wished"], json!([]));
    assert_eq!(client.post(&format!("/api/changes/{}/undo", gone.change()), Value::Null).await.status, 200);
    assert_eq!(gear(&client, "quilt").await["nights"], 7);
    assert_eq!(client.get("/api/lessons").await.body["wished"].as_array().unwrap().len(), 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_base_weight_over_time_says_what_changed_it() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = list(&client).await;
    let path = format!("/api/lists/{list}/history");
    let history = || client.get(&path);
    let points = |body: &Value| -> Vec<(i64, String)> {
        let points = body["points"].as_array().unwrap().iter();
        points.map(|at| (at["base_mg"].as_i64().unwrap() / 1_000, at["cause"].as_str().unwrap().to_owned())).collect()
    };
    let so = |base: i64, cause: &str| (base, cause.to_owned());
    let start = history().await.body;
    assert_eq!(points(&start).last().unwrap(), &so(1_667, "added"));

    let chair = gear(&client, "chair").await;
    let weighed = client.post(&format!("/api/gear/{}/weighings", id(&chair)), json!({ "total": "500 g" })).await;
    assert_eq!(weighed.status, 201);
    // A name and a price change no base weight.
    let renamed = json!({ "name": "folding chair", "paid": "55" });
    let version = gear(&client, "chair").await["version"].clone();
    assert_eq!(client.patch(&format!("/api/gear/{}?version={version}", id(&chair)), renamed).await.status, 200);
    let counted = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
    let usual = client.post(&format!("/api/lists/{list}/count-by?version={counted}"), json!({ "way": "usual" })).await;
    assert_eq!(usual.status, 200, "{}", usual.body);
    let line = named(&client.get(&format!("/api/lists/{list}/sheet")).await.body["lines"], "folding chair");
    let leave = json!({ "kind": "leave_out", "remove": [{ "line": line["id"], "qty": 1 }] });
    let swap = client.post(&format!("/api/lists/{list}/swaps"), leave).await;
    let done = client.post(&format!("/api/swaps/{}/done?version=1", swap.id()), json!({ "got": "20" })).await;
    assert_eq!(done.status, 200, "{}", done.body);
    let after = history().await.body;
    assert_eq!(points(&after)[points(&start).len()..], [so(1_677, "weighed"), so(1_299, "counted"), so(799, "swap")]);
    assert_eq!((&after["promised_mg"], &after["shed_mg"]), (&json!(500_000), &json!(500_000)));
    let undone = client.post(&format!("/api/changes/{}/undo", done.change()), Value::Null).await;
    assert_eq!(undone.status, 200, "{}", undone.body);
    let last = history().await.body;
    assert_eq!((points(&last).last().unwrap(), &last["promised_mg"]), (&so(1_299, "swap"), &json!(0)));
    // Left at home, brought again, worn: what moves says which.
    let mug = id(&gear(&client, "mug").await).to_owned();
    for (counts, cause) in
        [(json!({ "left": 1 }), "left_out"), (json!({ "carried": 1 }), "added"), (json!({ "worn": 1 }), "counted")]
    {
        let line = named(&client.get(&format!("/api/lists/{list}/sheet")).await.body["lines"], "mug");
        let mut body = counts;
        body["version"] = line["version"].clone();
        assert_eq!(client.put(&format!("/api/lists/{list}/lines/{mug}"), body).await.status, 200);
        assert_eq!(points(&history().await.body).last().unwrap().1, cause);
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn many_trips_ask_the_database_no_more_than_a_few() {
    let stage = Stage::start(false);
    let anna = Client::signed_up(&stage, "anna").await;
    let list = list(&anna).await;
    let line = Cut::before(stage.database_url());
    let beside = stage.beside(&line.database_url);
    let there = anna.elsewhere(&beside.url);
    let mut asked = Vec::new();
    for month in [1, 2] {
        for day in 1..=if month == 1 { 2 } else { 20 } {
            let trip = walked(&anna, &list, &format!("2026-{month:02}-{day:02}"), 1).await;
            say(&anna, &trip, "chair", json!({ "used": false })).await;
        }
        // A connection that is new says a little more: the fewest of some tries are what the page takes.
        let mut fewest = usize::MAX;
        for _ in 0..8 {
            let before = line.statements();
            assert!(there.get("/api/lessons").await.body["trips"].as_array().unwrap().len() >= 2);
            fewest = fewest.min(line.statements() - before);
        }
        asked.push(fewest);
    }
    assert!(asked[0] > 3 && asked[0] < 20, "{asked:?}");
    assert_eq!(asked[0], asked[1], "statements of 2 and of 22 trips");
}

#[tokio::test(flavor = "multi_thread")]
async fn two_tabs_judge_one_thing_and_a_request_sent_again_is_done_once() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = list(&client).await;
    let trip = walked(&client, &list, "2026-05-01", 3).await;
    let things = client.get(&format!("/api/trips/{trip}")).await.body["things"].clone();
    let quilt = format!("/api/trips/{trip}/things/{}", id(&named(&things, "quilt")));
    // Two at once, each another field; then the same word from both: its nights are given once.
    let (one, other) = (
        client.patch(&quilt, json!({ "used": true })),
        client.patch(&quilt, json!({ "marks": { "too_cold": true }, "note": "awake from three" })),
    );
    let (one, other) = tokio::join!(one, other);
    assert_eq!((one.status, other.status), (200, 200));
    let (one, other) =
        tokio::join!(client.patch(&quilt, json!({ "used": true })), client.patch(&quilt, json!({ "used": true })));
    assert_eq!((one.status, other.status), (200, 200));
    let now = named(&client.get(&format!("/api/trips/{trip}")).await.body["things"], "quilt");
    assert_eq!(
        (&now["used"], &now["marks"], &now["note"]),
        (&json!(true), &json!(["too_cold"]), &json!("awake from three"))
    );
    assert_eq!(gear(&client, "quilt").await["nights"], 3);
    // Words are undone one by one.
    let said = client.patch(&quilt, json!({ "used": false })).await;
    assert_eq!(gear(&client, "quilt").await["nights"], 0);
    assert_eq!(client.post(&format!("/api/changes/{}/undo", said.change()), Value::Null).await.status, 200);
    assert_eq!(gear(&client, "quilt").await["nights"], 3);

    // What came along can't be taken off; what was wished for can.
    let refused = client.delete(&quilt).await;
    assert_eq!((refused.status, &refused.body["code"]), (422, &json!("kept")));
    let wished = client.post(&format!("/api/trips/{trip}/things"), json!({ "name": "mitts" })).await.id().to_owned();
    assert_eq!(client.delete(&format!("/api/trips/{trip}/things/{wished}")).await.status, 204);
    for (path, body, field) in [
        (quilt.clone(), json!({ "note": "x".repeat(501) }), "note"),
        (quilt.clone(), json!({ "marks": { "boring": true } }), ""),
    ] {
        let refused = client.patch(&path, body).await;
        assert!(refused.status == 422 || refused.status == 400, "{}", refused.body);
        assert!(field.is_empty() || refused.body["field"] == field, "{}", refused.body);
    }
    assert_eq!(
        client.post("/api/trips", json!({ "list": list, "starts_on": "soon" })).await.body["field"],
        "starts_on"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn who_walks_along_keeps_what_they_carry() {
    let stage = Stage::start(false);
    let (anna, bert) = (Client::signed_up(&stage, "anna").await, Client::signed_up(&stage, "bert").await);
    let list = list(&anna).await;
    bert.joins(&anna, &list, "Bert").await;
    let mug = bert.line("own mug 98g", None).await["id"].as_str().unwrap().to_owned();
    assert_eq!(bert.put(&format!("/api/lists/{list}/lines/{mug}"), json!({ "carried": 1 })).await.status, 200);

    let trip = walked(&bert, &list, "2026-08-01", 2).await;
    let full = bert.get(&format!("/api/trips/{trip}")).await.body;
    let names: Vec<&Value> = full["things"].as_array().unwrap().iter().map(|thing| &thing["name"]).collect();
    assert_eq!((names, &full["trip"]["base_mg"]), (vec![&json!("own mug")], &json!(98_000)));
    assert_eq!(anna.get("/api/lessons").await.body["trips"], json!([]), "a trip is whoever's walked it");
}
