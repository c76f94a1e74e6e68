//! What things are: where they start, what comes with a kind, what is assumed, kept, needed; and cautions that are known.

use crate::client::Client;
use crate::sheet::{Lists, trip};
use kevyt_testbed::Stage;
use serde_json::{Value, json};

fn counts(line: &Value) -> [i64; 4] {
    ["carried", "worn", "used_up", "apart"].map(|place| line[place].as_i64().unwrap_or_default())
}

async fn line_of(client: &Client, list: &str, name: &str) -> Value {
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    lines.as_array().unwrap().iter().find(|line| line["gear"]["name"] == name).cloned().unwrap_or_default()
}

#[tokio::test(flavor = "multi_thread")]
async fn things_start_on_a_list_where_such_things_do() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("5 kg", "100").await;
    for (line, name, wanted) in [
        ("boots 1.3kg", "boots", [0, 1, 0, 0]),
        ("socks x3 60g", "socks", [2, 1, 0, 0]),
        ("oat bars 500g used up", "oat bars", [0, 0, 1, 0]),
        ("ice axe 350g", "ice axe", [0, 0, 0, 1]),
        ("wool hat 60g worn", "wool hat", [0, 1, 0, 0]),
        ("mug 98g", "mug", [1, 0, 0, 0]),
    ] {
        client.line(line, Some(&list)).await;
        assert_eq!(counts(&line_of(&client, &list, name).await), wanted, "{line}");
    }
    // By hand, without a word of where; and out of a file.
    let cap = client.line("cap 60g", None).await["id"].as_str().unwrap().to_owned();
    let put = client.put(&format!("/api/lists/{list}/lines/{cap}"), json!({})).await;
    assert_eq!((put.status, counts(&put.body)), (200, [0, 1, 0, 0]), "{}", put.body);
    let file = "Item,Weight (g)\ntrail shoes,620\ngas can,360\npillow,80\n";
    assert_eq!(client.upload("/api/files/gear", file, json!({ "list": list })).await.status, 200);
    assert_eq!(counts(&line_of(&client, &list, "trail shoes").await), [0, 1, 0, 0]);
    assert_eq!(counts(&line_of(&client, &list, "gas can").await), [0, 0, 1, 0]);
    assert_eq!(line_of(&client, &list, "pillow").await["gear"]["need"], "want");
    // Onto a list that counts another way, as that says.
    let by = client.post(&format!("/api/lists/{list}/count-by?version=1"), json!({ "way": "all_on_the_back" })).await;
    assert_eq!(by.status, 200, "{}", by.body);
    client.line("walking poles x2 220g", Some(&list)).await;
    assert_eq!(counts(&line_of(&client, &list, "walking poles").await), [2, 0, 0, 0]);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_kind_is_taken_changed_confirmed_and_undone() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let ids = ["pack", "squeeze filter", "heirloom"].map(|name| json!({ "name": name }));
    let mut things = Vec::new();
    for new in ids {
        things.push(client.post("/api/gear", new).await.body);
    }
    let proposed: Vec<&Value> = things.iter().map(|thing| &thing["proposed_kind"]).collect();
    assert_eq!(proposed, [&json!("pack"), &json!("squeeze_filter"), &Value::Null]);
    let named: Vec<Value> = things.iter().map(|thing| json!({ "id": thing["id"], "version": 1 })).collect();
    let all = client.post("/api/gear/several", json!({ "things": named, "take_kinds": true })).await;
    assert_eq!(all.status, 200, "{}", all.body);
    let versions: Vec<&Value> = all.body["things"].as_array().unwrap().iter().map(|thing| &thing["version"]).collect();
    assert_eq!(versions, [2, 2, 1], "what has no kind by its name was not changed");
    let at = |thing: &Value| format!("/api/gear/{}", thing["id"].as_str().unwrap());
    let pack = client.get(&at(&things[0])).await.body;
    assert_eq!((&pack["kind"], &pack["assumed"]), (&json!("pack"), &json!(["load", "room"])));
    assert_eq!(client.get(&at(&things[1])).await.body["marks"], json!(["hollow_fibre"]));
    assert_eq!(client.get(&at(&things[2])).await.body["kind"], Value::Null);

    // What is typed or confirmed is no longer assumed; what is sent again as it is, stays so.
    let change =
        async |version: i32, body: Value| client.patch(&format!("{}?version={version}", at(&things[0])), body).await;
    let typed = change(2, json!({ "provides": { "load": 12_000, "room": 48_000 } })).await;
    assert_eq!(typed.body["assumed"], json!(["load"]), "{}", typed.body);
    let right = change(3, json!({ "confirm": ["load"] })).await;
    assert_eq!((right.status, &right.body["assumed"]), (200, &Value::Null));
    let other = change(4, json!({ "kind": "frameless_pack" })).await;
    assert_eq!(other.body["provides"], json!({ "load": 12_000, "room": 48_000 }), "what was confirmed stays");
    assert_eq!(client.undo(&right.change()).await.body["code"], "changed_since");
    client.undo(&other.change()).await;
    client.undo(&right.change()).await;
    assert_eq!(client.get(&at(&things[0])).await.body["assumed"], json!(["load"]));

    // Marks and own words are two things.
    let filter = format!("{}?version=2", at(&things[1]));
    let marked = client.patch(&filter, json!({ "tags": "summer", "marks": ["emergency"] })).await.body;
    assert_eq!((&marked["tags"], &marked["marks"]), (&json!(["summer"]), &json!(["emergency"])));
    for (body, field) in [
        (json!({ "kind": "sofa" }), "kind"),
        (json!({ "marks": ["blue"] }), "marks"),
        (json!({ "made_hours": "ages" }), "made_hours"),
    ] {
        let refused = client.patch(&format!("{}?version=3", at(&things[1])), body).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)), "{}", refused.body);
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_kept_is_taken_by_no_plan_and_what_is_done_keeps_what_it_is() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("0.5 kg", "300").await;
    let chair = client.line("camp chair 480g 60eur", Some(&list)).await;
    client.line("underquilt 700g 90eur", Some(&list)).await;
    let swaps = format!("/api/lists/{list}/swaps");
    let line = line_of(&client, &list, "camp chair").await["id"].clone();
    let leave = json!({ "kind": "leave_out", "remove": [{ "line": line, "qty": 1 }] });
    assert_eq!(client.post(&swaps, leave).await.status, 201);
    let plan = async || client.get(&format!("/api/lists/{list}/plan")).await.body;
    assert_eq!(plan().await["plan"]["swaps"], json!([0]));
    let kept =
        client.patch(&format!("/api/gear/{}?version=1", chair["id"].as_str().unwrap()), json!({ "keep": true })).await;
    assert_eq!((kept.status, &kept.body["keep"]), (200, &json!(true)));
    let without = plan().await;
    assert_eq!(without["unavailable"][0]["unavailable"], json!({ "code": "kept", "thing": "camp chair" }));

    // A swap line takes over what it replaces, with its own figures; done, it is gear of that kind.
    let read =
        client.post(&format!("{swaps}/read"), json!({ "line": "new one 420g 230eur 2C for underquilt" })).await.body;
    let addition = &read["draft"]["add"][0];
    assert_eq!((&addition["kind"], &addition["name"]), (&json!("underquilt"), &json!("new one")), "{read}");
    assert_eq!(addition["facts"]["rating"], "2 °C");
    let read = client
        .post(&format!("{swaps}/read"), json!({ "line": "down underquilt 420g 230eur 2C for underquilt" }))
        .await
        .body;
    let addition = &read["draft"]["add"][0];
    assert_eq!((&addition["marks"], &addition["facts"]["rating"]), (&json!(["underquilt"]), &json!("2 °C")), "{read}");
    let swap = client.post(&swaps, read["draft"].clone()).await;
    assert_eq!(swap.status, 201, "{}", swap.body);
    let done = client.post(&format!("/api/swaps/{}/done?version=1", swap.id()), json!({})).await;
    assert_eq!(done.status, 200, "{}", done.body);
    let new = line_of(&client, &list, "down underquilt").await["gear"].clone();
    assert_eq!(
        (&new["kind"], &new["marks"], &new["system"]),
        (&json!("underquilt"), &json!(["underquilt"]), &json!("sleep"))
    );
    assert_eq!(new["facts"]["rating"], json!({ "kind": "unknown", "tenth_c": 20 }));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_borrowed_is_not_owned_for_good() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("0.5 kg", "300").await;
    client.line("headlamp 90g", Some(&list)).await;
    let read = client
        .post(
            &format!("/api/lists/{list}/swaps/read"),
            json!({ "line": "borrow small headlamp 38g 5eur for headlamp" }),
        )
        .await
        .body;
    let swap = client.post(&format!("/api/lists/{list}/swaps"), read["draft"].clone()).await;
    let done = format!("/api/swaps/{}/done?version=1", swap.id());
    let refused = client.post(&done, json!({ "lender": "Ruth", "until": "soon" })).await;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("until")));
    assert_eq!(client.post(&done, json!({ "lender": "Ruth", "until": "2027-09-30" })).await.status, 200);
    let lamp = line_of(&client, &list, "small headlamp").await["gear"].clone();
    assert_eq!((&lamp["acquired"], &lamp["note"]), (&json!("borrowed"), &json!("from Ruth, until 2027-09-30")));
    assert_eq!((&lamp["kind"], &lamp["provides"]["light"]), (&json!("headlamp"), &json!(1)));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_caution_that_is_known_is_a_line_until_it_gets_worse() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = Lists { list: client.list("5 kg", "300").await, client: &client };
    list.thing("squeeze filter 70g", json!({})).await;
    list.thing("pack 900g", json!({})).await;
    list.change(json!({ "trip": trip(json!({ "low_tenth_c": -20 })) })).await;
    let known = async || -> Vec<(String, bool)> {
        let cautions = list.sheet().await["trip"]["cautions"].clone();
        let all = cautions.as_array().unwrap().iter();
        all.map(|one| (one["key"].as_str().unwrap().to_owned(), one["known"].as_bool().unwrap())).collect()
    };
    let know =
        async |key: &str, known: bool| client.post(&list.at("cautions"), json!({ "key": key, "known": known })).await;
    let told = known().await;
    for key in ["freezing", "cold_ground", "assumed/load", "assumed/room"] {
        assert!(told.contains(&(key.to_owned(), false)), "{key} in {told:?}");
    }
    assert_eq!(know("cold_ground", true).await.status, 204);
    let said = know("freezing", true).await;
    assert_eq!(said.status, 204, "{}", said.body);
    let is_known = async |key: &str| known().await.contains(&(key.to_owned(), true));
    assert!(is_known("freezing").await && is_known("cold_ground").await);
    // Colder, and the ground is worse; the filter freezes as it did.
    list.change(json!({ "trip": trip(json!({ "low_tenth_c": -60 })) })).await;
    assert!(is_known("freezing").await && !is_known("cold_ground").await);
    // Another thing behind it is another caution.
    list.thing("filter bottle 120g", json!({})).await;
    assert!(!is_known("freezing").await);
    client.undo(&said.change()).await;
    assert_eq!(know("nothing", true).await.body["code"], "not_raised");
    // What the owner knows is still told to who walks along, and to who reads the list.
    assert_eq!(know("assumed/room", true).await.status, 204);
    assert!(is_known("assumed/room").await);
    let carl = Client::signed_up(&stage, "carl").await;
    carl.joins(&client, &list.list, "Carl").await;
    let cautions = carl.get(&list.at("sheet")).await.body["trip"]["cautions"].clone();
    let told = cautions.as_array().unwrap();
    assert!(!told.is_empty() && told.iter().all(|one| one["known"] == false), "{told:?}");
    // Not for others to say.
    let bert = Client::signed_up(&stage, "bert").await;
    assert_eq!(bert.post(&list.at("cautions"), json!({ "key": "freezing", "known": true })).await.status, 404);
}

#[tokio::test(flavor = "multi_thread")]
async fn each_walkers_night_is_judged_by_the_own_bed() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = Lists { list: client.list("5 kg", "300").await, client: &client };
    let bed = |rating: &str| json!({ "facts": { "rating": rating, "rating_kind": "comfort" } });
    list.thing("quilt 700g", bed("-5")).await;
    list.change(json!({ "trip": trip(json!({ "low_tenth_c": -20 })) })).await;
    let carl = Client::signed_up(&stage, "carl").await;
    carl.joins(&client, &list.list, "Carl").await;
    let his = Lists { list: list.list.clone(), client: &carl };
    his.thing("thin quilt 500g", bed("0")).await;
    let cold = async |client: &Client| {
        let cautions = client.get(&list.at("sheet")).await.body["trip"]["cautions"].clone();
        let found = cautions.as_array().unwrap().iter().find(|one| one["id"] == "cold_night").cloned();
        found.map(|one| one["short"].as_i64().unwrap())
    };
    // Hers is warm enough for her; his is 2 °C too cold for him.
    assert_eq!((cold(&client).await, cold(&carl).await), (None, Some(20)));
    let account = client.get("/api/account").await.body;
    let mut settings = account["settings"].clone();
    settings["sleeper_offset_tenth_c"] = json!(50);
    let sleeps_cold =
        json!({ "version": account["version"], "mass": "metric", "currency": "EUR", "settings": settings });
    assert_eq!(client.patch("/api/account", sleeps_cold).await.status, 204);
    assert_eq!((cold(&client).await, cold(&carl).await), (Some(20), Some(20)), "she sleeps 5 °C cold");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_light_ones_weigh_is_typical_until_somebody_says_otherwise() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("5 kg", "300").await;
    client.line("framed pack 1680g", Some(&list)).await;
    let lighter = async || client.get(&format!("/api/lists/{list}/lighter")).await.body;
    let typical = lighter().await[0].clone();
    assert_eq!((&typical["kind"], &typical["own"]), (&json!("framed_pack"), &Value::Null));
    assert_eq!(typical["saving_mg"], 1_680_000 - typical["light"]["mg"].as_i64().unwrap());
    let say = async |typed: Value| client.put("/api/typical/framed_pack", typed).await;
    assert_eq!(say(json!({ "weight": "0.9 kg", "price": "199.90" })).await.status, 204);
    let own = lighter().await[0].clone();
    assert_eq!((&own["own"], &own["saving_mg"]), (&json!({ "mg": 900_000, "minor": 19_990 }), &json!(780_000)));
    let bert = Client::signed_up(&stage, "bert").await;
    let his = bert.list("5 kg", "300").await;
    bert.line("framed pack 1680g", Some(&his)).await;
    assert_eq!(bert.get(&format!("/api/lists/{his}/lighter")).await.body[0]["own"], Value::Null);
    for (typed, field) in [
        (json!({ "weight": "light" }), "weight"),
        (json!({ "weight": "0 g" }), "weight"),
        (json!({ "weight": "1 kg", "price": "cheap" }), "price"),
    ] {
        let refused = say(typed).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)), "{}", refused.body);
    }
    for kind in ["none", "no_such_kind"] {
        assert_eq!(client.put(&format!("/api/typical/{kind}"), json!({ "weight": "1 kg" })).await.status, 404);
    }
    assert_eq!(client.delete("/api/typical/framed_pack").await.status, 204);
    assert_eq!(lighter().await[0], typical);
}
