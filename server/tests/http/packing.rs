//! A list as it is packed: ticks, zones, what is left to do, and a reading of the scale.

use crate::client::{Answer, Client};
use crate::sheet::trip;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

/// A list of a pack, a shelter, a guess, an unknown thing and a bottle, for three days with 700 g of food and half a litre at the start.
async fn packs(client: &Client) -> String {
    let list = client.list("5 kg", "100").await;
    for line in [
        "pack 900g !room=45l",
        "shelter 1200g #shelter !shelter=1",
        "chair 400g",
        "mystery",
        "bottle 40g !water_carried=1l",
        "headlamp 80g #power !light=1",
    ] {
        client.line(line, Some(&list)).await;
    }
    let trip = json!({ "trip": trip(json!({ "start_ml": 500 })) });
    let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
    assert_eq!(client.patch(&format!("/api/lists/{list}?version={version}"), trip).await.status, 200);
    list
}

async fn packing(client: &Client, list: &str) -> Value {
    client.get(&format!("/api/lists/{list}/packing")).await.body
}

async fn note(client: &Client, list: &str, notes: Value) -> Answer {
    client.patch(&format!("/api/lists/{list}/packing"), notes).await
}

fn at(packing: &Value, name: &str) -> Value {
    let things = packing["things"].as_array().unwrap();
    things.iter().find(|thing| thing["name"] == name).unwrap_or_else(|| panic!("{name} in {packing}")).clone()
}

#[tokio::test(flavor = "multi_thread")]
async fn things_are_ticked_and_moved_field_by_field_by_all_who_walk() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = packs(&client).await;
    let before = packing(&client, &list).await;
    let (shelter, pack) = (at(&before, "shelter"), at(&before, "pack"));
    assert_eq!(
        (&shelter["zone"], &shelter["proposed"], &shelter["is_in"]),
        (&json!("upper_body"), &json!(true), &json!(false))
    );
    assert_eq!((&pack["zone"], &before["room_ml"]), (&Value::Null, &json!(45_000)));
    let names = |packing: &Value| -> Vec<String> {
        let missing = packing["missing"].as_array().unwrap().iter();
        missing
            .map(|at| {
                packing["things"][usize::try_from(at.as_u64().unwrap()).unwrap()]["name"].as_str().unwrap().to_owned()
            })
            .collect()
    };
    assert_eq!(names(&before), ["shelter", "headlamp"]);

    // Twice, and two at once: each field as it was said last.
    let line = format!("/api/lists/{list}/packing/{}", shelter["line"].as_str().unwrap());
    for body in [json!({ "is_in": true }), json!({ "is_in": true }), json!({ "zone": "bottom" })] {
        assert_eq!(client.put(&line, body).await.status, 204);
    }
    let (one, other) = (client.put(&line, json!({ "is_in": false })), client.put(&line, json!({ "zone": "top" })));
    assert_eq!(tokio::join!(async { one.await.status }, async { other.await.status }), (204, 204));
    let after = at(&packing(&client, &list).await, "shelter");
    assert_eq!((&after["zone"], &after["proposed"], &after["is_in"]), (&json!("top"), &json!(false), &json!(false)));
    client.put(&line, json!({ "is_in": true, "zone": null })).await;
    let after = packing(&client, &list).await;
    assert_eq!((&at(&after, "shelter")["zone"], &at(&after, "shelter")["is_in"]), (&json!("upper_body"), &json!(true)));
    assert_eq!(names(&after), ["headlamp"]);
    assert_eq!(client.delete(&format!("/api/lists/{list}/packing")).await.status, 204);
    assert_eq!(at(&packing(&client, &list).await, "shelter")["is_in"], false);

    let refused = client.put(&line, json!({ "zone": "attic" })).await;
    assert_eq!(refused.status, 400, "{}", refused.body);
    assert!(refused.body["detail"].as_str().unwrap().contains("attic"), "{}", refused.body);
    let other = Client::signed_up(&stage, "ben").await;
    let foreign = other.list("5 kg", "1").await;
    assert_eq!(other.put(&line, json!({ "is_in": true })).await.status, 404);
    let elsewhere = line.replace(&list, &foreign);
    assert_eq!(other.put(&elsewhere, json!({ "is_in": true })).await.status, 404);
    assert_eq!(at(&packing(&client, &list).await, "shelter")["is_in"], false);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_reading_is_set_against_what_is_in() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = packs(&client).await;
    let all = packing(&client, &list).await;
    for thing in all["things"].as_array().unwrap().iter().filter(|thing| thing["name"] != "chair") {
        let line = thing["line"].as_str().unwrap();
        client.put(&format!("/api/lists/{list}/packing/{line}"), json!({ "is_in": true })).await;
    }
    // 900 + 1 200 + 40 + 80 g, 2 100 g of food for three days and half a litre; a kilogram more is in it.
    assert_eq!(note(&client, &list, json!({ "reading": "75.82 kg", "of_me": "70" })).await.status, 204);
    let read = packing(&client, &list).await;
    let found = &read["reconciled"];
    assert_eq!((&found["listed_mg"], &found["difference_mg"]), (&json!(4_820_000), &json!(1_000_000)), "{found}");
    assert_eq!(found["explained"], "by_unknown");
    let first = usize::try_from(found["causes"][0]["of"].as_u64().unwrap()).unwrap();
    assert_eq!((&read["things"][first]["name"], &found["causes"][0]["why"]), (&json!("mystery"), &json!("unknown")));
    let chair = found["causes"].as_array().unwrap().iter().find(|cause| cause["why"] == "not_ticked").unwrap();
    assert_eq!(chair["could_be_mg"], 400_000);

    // It opens line by line, to the milligram.
    let parts = found["listed"]["parts"].as_array().unwrap();
    let part = |what: &str| {
        parts.iter().filter(|part| part["part"] == what).map(|part| part["mass_mg"].as_i64().unwrap()).sum::<i64>()
    };
    assert_eq!((part("thing"), part("food"), part("water")), (2_220_000, 2_100_000, 500_000));

    // With nothing ticked it is set against all of it, which is what the list and the walkers' page say of the loaded pack.
    client.delete(&format!("/api/lists/{list}/packing")).await;
    assert_eq!(packing(&client, &list).await["reconciled"]["listed_mg"], 5_220_000);
    let sheet = client.get(&format!("/api/lists/{list}/sheet")).await.body;
    assert_eq!((&sheet["loaded"]["total_mg"], &sheet["loaded"]["unknown"]), (&json!(5_220_000), &json!(1)));
    // Food of the list's own is the food that lies in it, and the trip's is not beside it.
    client.line("food for three days 2kg", Some(&list)).await;
    let sheet = client.get(&format!("/api/lists/{list}/sheet")).await.body;
    assert_eq!(
        (&sheet["loaded"]["total_mg"], &sheet["trip"]["food_on_list_mg"]),
        (&json!(5_120_000), &json!(2_000_000))
    );
    assert_eq!(packing(&client, &list).await["reconciled"]["listed_mg"], 5_120_000);
    client.post(&format!("/api/lists/{list}/walkers"), json!({ "name": "Bert" })).await;
    let sheet = client.get(&format!("/api/lists/{list}/sheet")).await.body;
    assert_eq!(sheet["walkers"][0]["loaded"]["total_mg"], 5_120_000);

    for (reading, of_me, field) in [("heavy", "", "reading"), ("60 kg", "70 kg", "of_me"), ("5 kg", "1,250 g", "of_me")]
    {
        let refused = note(&client, &list, json!({ "reading": reading, "of_me": of_me })).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)), "{}", refused.body);
    }
    let tasks: Vec<&str> =
        read["to_do"].as_array().unwrap().iter().map(|todo| todo["task"].as_str().unwrap()).collect();
    assert!(tasks.contains(&"fill") && tasks.contains(&"buy") && tasks.contains(&"weigh"), "{tasks:?}");
}

#[tokio::test(flavor = "multi_thread")]
async fn two_who_walk_tick_one_list_and_each_begins_again_alone() {
    let stage = Stage::start(false);
    let (anna, bert) = (Client::signed_up(&stage, "anna").await, Client::signed_up(&stage, "bert").await);
    let list = packs(&anna).await;
    let seat = bert.joins(&anna, &list, "Bert").await;
    let mug = bert.line("mug 98g", None).await["id"].as_str().unwrap().to_owned();
    assert_eq!(bert.put(&format!("/api/lists/{list}/lines/{mug}"), json!({ "carried": 1 })).await.status, 200);

    // Each packs what they carry; what the other carries alone is theirs to tick, to lay and to hand on.
    let berts = packing(&bert, &list).await;
    assert_eq!(berts["things"].as_array().unwrap().len(), 1);
    let annas = packing(&anna, &list).await;
    let line_of = |thing: Value| thing["line"].as_str().unwrap().to_owned();
    let (mug_line, chair) = (line_of(at(&berts, "mug")), line_of(at(&annas, "chair")));
    let tick = |line: &str| format!("/api/lists/{list}/packing/{line}");
    assert_eq!(bert.put(&tick(&mug_line), json!({ "is_in": true })).await.status, 204);
    let top = format!("/api/lists/{list}/packing/zones/top");
    let carry = format!("/api/lists/{list}/carry");
    let to_bert = json!({ "moves": [{ "line": chair, "version": 1, "shared": false, "walker": seat }] });
    for refused in [
        bert.put(&tick(&chair), json!({ "is_in": true })).await,
        bert.put(&top, json!({ "lines": [mug_line, chair] })).await,
        bert.post(&carry, to_bert).await,
    ] {
        assert_eq!((refused.status, &refused.body["code"]), (422, &json!("carried_by_another")), "{}", refused.body);
    }
    assert_eq!(anna.put(&tick(&chair), json!({ "is_in": true })).await.status, 204);
    // What is shared either may.
    let shared = json!({ "moves": [{ "line": chair, "version": 1, "shared": true, "walker": null }] });
    assert_eq!(anna.post(&carry, shared).await.status, 204);
    assert_eq!(bert.put(&tick(&chair), json!({ "is_in": true })).await.status, 204);
    // A line goes to nobody but those who walk here.
    let elsewhere = anna.list("1 kg", "300").await;
    let stranger =
        anna.post(&format!("/api/lists/{elsewhere}/walkers"), json!({ "name": "Cleo" })).await.id().to_owned();
    let put = json!({ "carried": 1, "version": 1, "carried_by": { "shared": false, "walker": stranger } });
    let refused = bert.put(&format!("/api/lists/{list}/lines/{mug}"), put).await;
    assert_eq!((refused.status, &refused.body["code"]), (422, &json!("unknown_walker")), "{}", refused.body);
    assert_eq!(bert.delete(&format!("/api/lists/{list}/packing")).await.status, 204);
    assert_eq!(at(&packing(&bert, &list).await, "mug")["is_in"], false);
    assert_eq!(at(&packing(&anna, &list).await, "chair")["is_in"], true);
}

#[tokio::test(flavor = "multi_thread")]
async fn zones_have_an_order_and_litres_of_ones_own_and_things_to_do_are_written_down() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = packs(&client).await;
    let before = packing(&client, &list).await;
    let line = |name: &str| at(&before, name)["line"].clone();
    let top = format!("/api/lists/{list}/packing/zones/top");
    let ordered = json!({ "lines": [line("mystery"), line("headlamp"), line("chair")] });
    assert_eq!(client.put(&top, ordered).await.status, 204);
    let shown = |packing: &Value| -> Vec<String> {
        let top = packing["zones"].as_array().unwrap()[0]["things"].as_array().unwrap().iter();
        top.map(|at| packing["things"][usize::try_from(at.as_u64().unwrap()).unwrap()]["name"].to_string()).collect()
    };
    assert_eq!(shown(&packing(&client, &list).await), ["\"mystery\"", "\"headlamp\"", "\"chair\""]);
    // Moved away and back it stands last.
    for zone in ["bottom", "top"] {
        let path = format!("/api/lists/{list}/packing/{}", line("mystery").as_str().unwrap());
        assert_eq!(client.put(&path, json!({ "zone": zone })).await.status, 204);
    }
    assert_eq!(shown(&packing(&client, &list).await)[2], "\"mystery\"");
    let twice = client.put(&top, json!({ "lines": [line("chair"), line("chair")] })).await;
    assert_eq!((twice.status, &twice.body["field"]), (422, &json!("lines")));

    // Two notes at once, each of another field: both stand.
    let item = |what: &str| json!({ "to_do": { what: { "what": what, "by": "Vesper", "task": "buy" } } });
    let (one, two) = (note(&client, &list, item("wipes")), note(&client, &list, item("tape")));
    let (one, two) = tokio::join!(one, two);
    assert_eq!((one.status, two.status), (204, 204));
    let sized = json!({ "zones": { "top": "6 l" }, "to_do": { "tape": { "done": true }, "wipes": null } });
    assert_eq!(note(&client, &list, sized).await.status, 204);
    let after = packing(&client, &list).await;
    assert_eq!(after["noted"], json!([{ "id": "tape", "task": "buy", "what": "tape", "by": "Vesper", "done": true }]));
    let top = &after["zones"][0];
    assert_eq!((&top["holds_ml"], &top["is_own"]), (&json!(6_000), &json!(true)));
    assert_eq!(note(&client, &list, json!({ "zones": { "top": "roomy" } })).await.body["field"], "zones");
    assert_eq!(note(&client, &list, json!({ "to_do": { "x": { "by": "me" } } })).await.body["field"], "to_do.what");

    // Kept for a trip with the headlamp alone in; the chair, used all the same, was not forgotten.
    let path = format!("/api/lists/{list}/packing/{}", line("headlamp").as_str().unwrap());
    assert_eq!(client.put(&path, json!({ "is_in": true })).await.status, 204);
    let trip = client.post("/api/trips", json!({ "list": list, "starts_on": "2026-09-04" })).await.id().to_owned();
    assert_eq!(client.post(&format!("/api/trips/{trip}/keep?version=1"), json!({})).await.status, 200);
    let things = client.get(&format!("/api/trips/{trip}")).await.body["things"].clone();
    let chair = things.as_array().unwrap().iter().find(|thing| thing["name"] == "chair").unwrap()["id"].clone();
    let path = format!("/api/trips/{trip}/things/{}", chair.as_str().unwrap());
    assert_eq!(client.patch(&path, json!({ "used": true })).await.status, 200);
    let next = packing(&client, &list).await;
    let forgotten = next["forgotten"].as_array().unwrap().iter();
    let forgotten: Vec<String> = forgotten
        .map(|at| next["things"][usize::try_from(at.as_u64().unwrap()).unwrap()]["name"].to_string())
        .collect();
    assert_eq!(forgotten, ["\"shelter\"", "\"bottle\"", "\"mystery\""]);
}
