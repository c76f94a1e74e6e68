//! The lists of the coming twelve months, planned together.

use crate::client::Client;
use crate::doing::thing;
use kevyt_browser::Stage;
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
    let recount = async |carried: u32, apart: u32| {
        let version = line(&client, &lists[2], "ukulele").await["version"].clone();
        let of = format!("/api/lists/{}/lines/{ukulele}", lists[2]);
        let counts = json!({ "carried": carried, "apart": apart, "version": version });
        assert_eq!(client.put(&of, counts).await.status, 200);
    };
    recount(0, 1).await;
    let found = year(&client).await;
    assert_eq!(
        (&found["swaps"][0]["acts"], &found["plan"]["net_minor"]),
        (&json!([true, true, false]), &json!(30_000))
    );
    recount(1, 0).await;

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
