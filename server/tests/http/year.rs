//! The lists of the coming twelve months, planned together.

use crate::client::Client;
use crate::done::thing;
use diesel::{Connection, MysqlConnection, RunQueryDsl, sql_query};
use kevyt_testbed::Stage;
use serde_json::{Value, json};

/// A list with a target and nights in the year.
async fn list(client: &Client, name: &str, target: Option<&str>, nights: u32) -> String {
    let list = client.post("/api/lists", json!({ "name": name })).await.id().to_owned();
    let change = json!({ "target": target, "year_nights": nights });
    assert_eq!(client.patch(&format!("/api/lists/{list}?version=1"), change).await.status, 200);
    list
}

async fn put(client: &Client, list: &str, name: &str) {
    let id = thing(client, name).await["id"].as_str().unwrap().to_owned();
    assert_eq!(client.put(&format!("/api/lists/{list}/lines/{id}"), json!({ "carried": 1 })).await.status, 200);
}

async fn line(client: &Client, list: &str, name: &str) -> Value {
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    lines.as_array().unwrap().iter().find(|line| line["gear"]["name"] == name).unwrap().clone()
}

async fn year(client: &Client) -> Value {
    let year = client.get("/api/year").await;
    assert_eq!(year.status, 200, "{}", year.body);
    year.body
}

async fn bases(client: &Client) -> Vec<i64> {
    year(client).await["lists"].as_array().unwrap().iter().map(|list| list["base_mg"].as_i64().unwrap()).collect()
}

/// Three lists with one ukulele, of 2, 5 and 3 nights, and a swap of the first that takes 900 g off for 300 less 100.
async fn three(client: &Client) -> ([String; 3], String) {
    let lists = [
        list(client, "Fells", Some("2 kg"), 2).await,
        list(client, "Coast", Some("1.5 kg"), 5).await,
        list(client, "Woods", None, 3).await,
    ];
    client.line("ukulele 1900g", Some(&lists[0])).await;
    client.line("quilt 700g", Some(&lists[0])).await;
    client.line("mat 400g", Some(&lists[1])).await;
    for other in &lists[1..] {
        put(client, other, "ukulele").await;
    }
    let swap = json!({ "kind": "replace", "resale": "100",
        "remove": [{ "line": line(client, &lists[0], "ukulele").await["id"], "qty": 1 }],
        "add": [{ "name": "ocarina", "weight": "1000 g", "price": "300", "qty": 1 }] });
    let swap = client.post(&format!("/api/lists/{}/swaps", lists[0]), swap).await.id().to_owned();
    (lists, swap)
}

#[tokio::test(flavor = "multi_thread")]
async fn one_purchase_serves_every_list_that_has_what_it_replaces() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    assert_eq!(year(&client).await["lists"], json!([]), "an empty year");
    let (lists, swap) = three(&client).await;
    let found = year(&client).await;
    let plan = &found["plan"];
    assert_eq!(
        (&plan["outcome"], &plan["swaps"], &plan["proved"]),
        (&json!("target_met"), &json!([0]), &json!(true)),
        "{plan}"
    );
    // The ukulele comes off all three, so that it can be sold: 300 − 100.
    assert_eq!(plan["net_minor"], 20_000);
    let one = &found["swaps"][0];
    assert_eq!((&one["acts"], &one["savings_mg"]), (&json!([true, true, true]), &json!([900_000, 900_000, 900_000])));
    assert_eq!((&one["saves_mg_nights"], &one["place"]), (&json!(9_000_000), &json!(1)), "ten nights");
    assert_eq!(found["gram_nights_mg"], 2_600_000 * 2 + 2_300_000 * 5 + 1_900_000 * 3);
    assert_eq!(plan["gram_nights_mg"], found["gram_nights_mg"].as_i64().unwrap() - 9_000_000);
    let planned = |at: usize| found["lists"][at]["planned_mg"].as_i64().unwrap();
    assert_eq!([planned(0), planned(1), planned(2)], [1_700_000, 1_400_000, 1_000_000]);

    // What one of them keeps is not sold: on the third list it stands apart, and stays.
    let ukulele = thing(&client, "ukulele").await["id"].as_str().unwrap().to_owned();
    let recount = async |carried: u32, apart: u32, left: u32| {
        let version = line(&client, &lists[2], "ukulele").await["version"].clone();
        let of = format!("/api/lists/{}/lines/{ukulele}", lists[2]);
        let counts = json!({ "carried": carried, "apart": apart, "left": left, "version": version });
        assert_eq!(client.put(&of, counts).await.status, 200);
    };
    recount(0, 1, 0).await;
    let found = year(&client).await;
    assert_eq!(
        (&found["swaps"][0]["acts"], &found["plan"]["net_minor"]),
        (&json!([true, true, false]), &json!(30_000))
    );
    // What it leaves at home may be.
    recount(0, 0, 1).await;
    assert_eq!(year(&client).await["plan"]["net_minor"], 20_000);
    recount(1, 0, 0).await;

    // Done on all of them at once, taken back at once.
    let before = bases(&client).await;
    let done = json!({ "paid": ["290"], "fates": ["sold"], "got": "100", "lists": [lists[1], lists[2]] });
    assert_eq!(
        client
            .patch("/api/account", json!({ "version": 1, "mass": "metric", "currency": "EUR", "year_budget": "500" }))
            .await
            .status,
        204
    );
    let twice = json!({ "lists": [lists[1], lists[1]] });
    let refused = client.post(&format!("/api/swaps/{swap}/done?version=1"), twice).await;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("lists")));
    let answer = client.post(&format!("/api/swaps/{swap}/done?version=1"), done).await;
    assert_eq!(answer.status, 200, "{}", answer.body);
    let lighter: Vec<i64> = before.iter().map(|base| base - 900_000).collect();
    assert_eq!(bases(&client).await, lighter);
    let found = year(&client).await;
    assert_eq!((&found["budget_minor"], &found["spent_minor"]), (&json!(50_000), &json!(19_000)));
    assert_eq!(found["plan"]["outcome"], "already_met");
    let undone = client.delete(&format!("/api/swaps/{swap}/done?version=2")).await;
    assert_eq!(undone.status, 200, "{}", undone.body);
    assert_eq!(bases(&client).await, before);
    assert_eq!(thing(&client, "ukulele").await["status"], "owned");
}

#[tokio::test(flavor = "multi_thread")]
async fn nights_are_those_of_the_trips_to_come_unless_they_are_said() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.post("/api/lists", json!({ "name": "Fells" })).await.id().to_owned();
    client.line("ukulele 1900g", Some(&list)).await;
    let day = |ahead: i64| (chrono::Utc::now().date_naive() + chrono::TimeDelta::days(ahead)).to_string();
    for (ahead, nights) in [(40, 3), (90, 2), (-3, 4), (400, 7)] {
        let trip = json!({ "list": list, "starts_on": day(ahead), "nights": nights });
        assert_eq!(client.post("/api/trips", trip).await.status, 201);
    }
    let of = year(&client).await["lists"][0].clone();
    assert_eq!((&of["nights"], &of["trip_nights"], &of["first_on"]), (&json!(5), &json!(5), &json!(day(40))));
    // Without a target the fewest gram-nights are asked for.
    assert_eq!(year(&client).await["plan"]["has_target"], false);
    let say = async |version: i32, nights: Value| {
        client.patch(&format!("/api/lists/{list}?version={version}"), json!({ "year_nights": nights })).await
    };
    assert_eq!(say(1, json!(12)).await.body["year_nights"], 12);
    assert_eq!(year(&client).await["lists"][0]["nights"], 12);
    assert_eq!(say(2, json!(0)).await.status, 200);
    let found = year(&client).await;
    assert_eq!((&found["lists"], &found["others"][0]["trip_nights"]), (&json!([]), &json!(5)), "not this year");
    assert_eq!(say(3, Value::Null).await.status, 200);
    assert_eq!(year(&client).await["lists"][0]["nights"], 5);
    let refused = say(4, json!(366)).await;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("year_nights")));
    let other = Client::signed_up(&stage, "bert").await;
    assert_eq!(year(&other).await["lists"], json!([]), "nobody else's");
}

/// A swap of a list, in the place of one thing, or of nothing.
async fn swap(client: &Client, list: &str, old: &str, new: Option<(&str, &str, &str)>) -> String {
    let add = new.map(|(name, weight, price)| json!({ "name": name, "weight": weight, "price": price, "qty": 1 }));
    let kind = if add.is_some() { "replace" } else { "leave_out" };
    let remove = json!([{ "line": line(client, list, old).await["id"], "qty": 1 }]);
    let swap = json!({ "kind": kind, "remove": remove, "add": add.into_iter().collect::<Vec<_>>() });
    client.post(&format!("/api/lists/{list}/swaps"), swap).await.id().to_owned()
}

/// The swaps of a year by name: on which lists each acts, and whether it is planned.
fn told(year: &Value) -> Vec<(String, Vec<bool>, bool)> {
    let planned: Vec<usize> = serde_json::from_value(year["plan"]["swaps"].clone()).unwrap_or_default();
    let swaps = year["swaps"].as_array().unwrap().iter().enumerate();
    let mut all: Vec<_> = swaps
        .map(|(at, swap)| {
            let acts = serde_json::from_value(swap["acts"].clone()).unwrap();
            (swap["swap"]["name"].as_str().unwrap().to_owned(), acts, planned.contains(&at))
        })
        .collect();
    all.sort();
    all
}

#[tokio::test(flavor = "multi_thread")]
async fn the_same_swap_of_two_lists_stands_once_and_what_is_left_out_stays_of_its_own_list() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let lists = [list(&client, "Fells", Some("1 kg"), 2).await, list(&client, "Coast", Some("1 kg"), 5).await];
    client.line("ukulele 1900g", Some(&lists[0])).await;
    client.line("drum 300g", Some(&lists[0])).await;
    put(&client, &lists[1], "ukulele").await;
    put(&client, &lists[1], "drum").await;
    let ocarina = Some(("Ocarina", "700 g", "300"));
    let first = swap(&client, &lists[0], "ukulele", ocarina).await;
    swap(&client, &lists[1], "ukulele", Some(("ocarina", "700 g", "300"))).await;
    swap(&client, &lists[0], "drum", None).await;
    let (named, both) = ("Ocarina".to_owned(), vec![true, true]);
    let left_out = ("Leave out drum".to_owned(), vec![true, false], true);
    // The drum stays on the second list, which is at its target with it: 700 g and 300 g.
    let found = year(&client).await;
    assert_eq!(told(&found)[0].1, [true, false], "{found}");
    assert_eq!(told(&found).iter().filter(|swap| swap.0.eq_ignore_ascii_case("ocarina")).count(), 1);
    assert_eq!(told(&found).iter().find(|swap| swap.0 == named).unwrap(), &(named.clone(), both.clone(), true));
    assert_eq!((&found["plan"]["outcome"], &found["plan"]["net_minor"]), (&json!("target_met"), &json!(30_000)));
    let same = found["swaps"].as_array().unwrap().iter().map(|swap| swap["same"].as_array().unwrap().len());
    assert_eq!(same.sum::<usize>(), 1, "the one of the other list is named beside it");
    // With less of a target on the first the drum stays at home there, too.
    let version = client.get(&format!("/api/lists/{}", lists[0])).await.body["list"]["version"].clone();
    let lower = json!({ "target": "0.8 kg" });
    assert_eq!(client.patch(&format!("/api/lists/{}?version={version}", lists[0]), lower).await.status, 200);
    assert_eq!(told(&year(&client).await)[0], left_out);

    // Ruled out it stands, with no place and no plan; the one of the other list takes its turn.
    let state = json!({ "state": "ruled_out" });
    assert_eq!(client.put(&format!("/api/swaps/{first}/state?version=1"), state).await.status, 200);
    let found = year(&client).await;
    let ocarinas: Vec<_> = told(&found).into_iter().filter(|swap| swap.0.eq_ignore_ascii_case("ocarina")).collect();
    assert_eq!(ocarinas, [(named, both.clone(), false), ("ocarina".to_owned(), both, true)]);
    let ruled_out =
        found["swaps"].as_array().unwrap().iter().find(|swap| swap["swap"]["state"] == "ruled_out").unwrap();
    assert_eq!(ruled_out["place"], Value::Null);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_year_counts_as_its_most_careful_list_does_and_minds_the_night_of_each() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let night = |low: i64| json!({ "trip": crate::sheet::trip(json!({ "days": 3, "low_tenth_c": low })) });
    let lists = [list(&client, "Warm", Some("0.9 kg"), 2).await, list(&client, "Cold", None, 5).await];
    for (list, low) in lists.iter().zip([150, -10]) {
        assert_eq!(client.patch(&format!("/api/lists/{list}?version=2"), night(low)).await.status, 200);
    }
    client.line("quilt ~1000g -5C", Some(&lists[0])).await;
    put(&client, &lists[1], "quilt").await;
    let thin = json!({ "kind": "replace", "remove": [{ "line": line(&client, &lists[0], "quilt").await["id"], "qty": 1 }],
        "add": [{ "name": "thin quilt", "weight": "500 g", "price": "90", "qty": 1,
            "facts": { "rating": "10", "rating_kind": "comfort" } }] });
    assert_eq!(client.post(&format!("/api/lists/{}/swaps", lists[0]), thin).await.status, 201);
    let found = year(&client).await;
    // On the warm list it would do; the cold one has the same quilt, and a night that it is too thin for.
    let alone = client.get(&format!("/api/lists/{}/plan", lists[0])).await.body["plan"]["outcome"].clone();
    assert_eq!((&alone, &found["plan"]["outcome"]), (&json!("target_met"), &json!("out_of_reach")), "{found}");
    assert_eq!(found["swaps"][0]["loses"], json!([{ "list": 1, "meet": "warmth" }]));
    assert_eq!(found["counting"], "stated");
    let careful = json!({ "counting": "worst" });
    assert_eq!(client.patch(&format!("/api/lists/{}?version=3", lists[1]), careful).await.status, 200);
    let found = year(&client).await;
    // An estimate may be 15 % more than it says.
    assert_eq!((&found["counting"], &found["lists"][0]["base_mg"]), (&json!("worst"), &json!(1_150_000)));
}

#[tokio::test(flavor = "multi_thread")]
async fn more_than_is_planned_together_is_refused_by_its_number() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let c = &mut MysqlConnection::establish(stage.database_url()).unwrap();
    let many = |from: u32, to: u32| {
        format!(
            "INSERT INTO pack_list (id, account_id, name, note, hour_minor, requires, year_nights, version) \
             WITH RECURSIVE n (at) AS (SELECT {from} UNION ALL SELECT at + 1 FROM n WHERE at < {to}) \
             SELECT UNHEX(LPAD(HEX(at), 32, '0')), (SELECT id FROM account), CONCAT('list ', at), '', 0, '{{}}', 1, 1 FROM n"
        )
    };
    sql_query(many(1, 60)).execute(c).unwrap();
    assert_eq!(year(&client).await["lists"].as_array().unwrap().len(), 60);
    sql_query(many(61, 61)).execute(c).unwrap();
    // What was written past the application is seen with the next write of the account's own.
    list(&client, "Fells", None, 0).await;
    let refused = client.get("/api/year").await;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("year")), "{}", refused.body);
    assert!(refused.body["detail"].as_str().unwrap().contains("61 have nights, and 60 are the most"));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_keeping_costs_a_night_stands_beside_the_swap_in_its_place() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (_, swap) = three(&client).await;
    client.line("kazoo 30g", None).await;
    assert_eq!(year(&client).await["holdings"], json!([]), "nobody said what anything is worth");
    let change = async |name: &str, change: Value| {
        let thing = thing(&client, name).await;
        let of = format!("/api/gear/{}?version={}", thing["id"].as_str().unwrap(), thing["version"]);
        client.patch(&of, change).await
    };
    assert_eq!(change("ukulele", json!({ "resale": "100" })).await.status, 200);
    assert_eq!(change("kazoo", json!({ "resale": "10", "system": "kitchen" })).await.status, 200);
    let c = &mut MysqlConnection::establish(stage.database_url()).unwrap();
    sql_query("UPDATE gear SET resale_at = UTC_TIMESTAMP() - INTERVAL 365 DAY").execute(c).unwrap();
    let system = thing(&client, "ukulele").await["system"].as_str().unwrap().to_owned();
    let rate = async |version: i32, percent: u32| {
        let settings = json!({ "worth_falls_percent": { &system: percent, "kitchen": 50 } });
        let body = json!({ "version": version, "mass": "metric", "currency": "EUR", "settings": settings });
        client.patch("/api/account", body).await
    };
    let refused = rate(1, 101).await;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("settings.worth_falls_percent")));
    assert_eq!(rate(1, 20).await.status, 204);
    let holding = async |name: &str| {
        let found = year(&client).await["holdings"].clone();
        found.as_array().unwrap().iter().find(|one| one["name"] == name).cloned().unwrap_or_default()
    };
    let figures = |of: &Value| {
        ["now_minor", "then_minor", "nights", "per_night_minor"].map(|key| of[key].as_i64().unwrap_or(-1)).to_vec()
    };
    // 100 a year ago: 80 now, 64 in a year; 16 over ten nights.
    let kept = holding("ukulele").await;
    assert_eq!((figures(&kept), &kept["lists"]), (vec![8_000, 6_400, 10, 160], &json!([0, 1, 2])));
    // 200 are paid, the 80 are gone, and 240 of the new one are left: 40 over ten nights.
    assert_eq!(kept["swap"], json!({ "swap": 0, "costs_minor": 4_000, "per_night_minor": 400 }));
    // On no list it may go.
    let idle = holding("kazoo").await;
    assert_eq!((figures(&idle), &idle["may_go"]), (vec![500, 250, 0, -1], &json!(true)));
    // Worn out after five nights more.
    assert_eq!(change("ukulele", json!({ "nights": 25, "lasts_nights": 30 })).await.status, 200);
    let worn = holding("ukulele").await;
    assert_eq!((figures(&worn), &worn["wears_out"]), (vec![8_000, 0, 5, 1_600], &json!(true)));
    let refused = change("ukulele", json!({ "lasts_nights": 0 })).await;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("lasts_nights")));
    // Said anew it counts from today; what nobody would make is not beside it.
    assert_eq!(change("ukulele", json!({ "resale": "100", "lasts_nights": null })).await.status, 200);
    let out = client.put(&format!("/api/swaps/{swap}/state?version=1"), json!({ "state": "ruled_out" })).await;
    assert_eq!(out.status, 200, "{}", out.body);
    let kept = holding("ukulele").await;
    assert_eq!((figures(&kept), &kept["swap"]), (vec![10_000, 8_000, 10, 200], &Value::Null));
}
