//! Lists side by side, and what a list weighed before Kevyt knew it.

use crate::client::Client;
use crate::done::thing;
use crate::sheet::trip;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn outfits_stand_side_by_side_with_the_price_of_the_grams_between() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = async |name: &str, nights: u32| {
        let id = client.post("/api/lists", json!({ "name": name })).await.id().to_owned();
        let change = json!({ "year_nights": nights, "trip": trip(json!({ "days": 3, "low_tenth_c": 20 })) });
        assert_eq!(client.patch(&format!("/api/lists/{id}?version=1"), change).await.status, 200);
        id
    };
    let (cheap, dear) = (list("Cheap", 4).await, list("Dear", 10).await);
    client.line("ukulele 1900g 40eur", Some(&cheap)).await;
    client.line("drum 300g", Some(&cheap)).await;
    client.line("ocarina 700g 340eur", Some(&dear)).await;
    client.line("quilt 800g -2C 250eur", Some(&dear)).await;
    let quilt = thing(&client, "quilt").await;
    let of = format!("/api/gear/{}?version={}", quilt["id"].as_str().unwrap(), quilt["version"]);
    assert_eq!(client.patch(&of, json!({ "status": "wished" })).await.status, 200);

    let both = client.get(&format!("/api/outfits?lists={cheap},{dear}")).await;
    assert_eq!(both.status, 200, "{}", both.body);
    let figures = |at: usize| {
        let of = &both.body["outfits"][at];
        ["base_mg", "costs_minor", "owned_minor", "unpriced", "gram_nights_mg"].map(|key| of[key].as_i64().unwrap())
    };
    assert_eq!(figures(0), [2_200_000, 4_000, 4_000, 1, 8_800_000]);
    assert_eq!(figures(1), [1_500_000, 59_000, 34_000, 0, 15_000_000]);
    assert_eq!(
        both.body["between"],
        json!([{ "cheaper": 0, "dearer": 1, "more_minor": 55_000, "lighter_mg": 700_000 }])
    );
    let (cold, warm) = (&both.body["outfits"][0], &both.body["outfits"][1]);
    assert_eq!((&cold["comfort_tenth_c"], &cold["low_tenth_c"]), (&Value::Null, &json!(20)));
    // A rating that says no more counts as a limit; comfort is 5.5 °C above it.
    assert_eq!(warm["comfort_tenth_c"], 35);
    let cautions = |of: &Value| of["cautions"].as_array().unwrap().contains(&json!("cold_night"));
    assert!(cautions(cold) && cautions(warm));

    let five = [cheap.as_str(); 5].join(",");
    for (asked, status) in [(five.as_str(), 422), ("x", 422), ("00000000-0000-7000-8000-000000000000", 404)] {
        assert_eq!(client.get(&format!("/api/outfits?lists={asked}")).await.status, status, "{asked}");
    }
    let other = Client::signed_up(&stage, "bert").await;
    assert_eq!(other.get(&format!("/api/outfits?lists={cheap}")).await.status, 404);
}

#[tokio::test(flavor = "multi_thread")]
async fn base_weights_of_earlier_days_stand_before_what_was_noted() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.post("/api/lists", json!({ "name": "Fells" })).await.id().to_owned();
    client.line("ukulele 1900g", Some(&list)).await;
    let (of, history) = (format!("/api/lists/{list}/earlier"), format!("/api/lists/{list}/history"));
    let points = async || {
        let points = client.get(&history).await.body["points"].clone();
        let told = points.as_array().unwrap().iter().map(|point| {
            let day = point["at"].as_str().unwrap()[..10].to_owned();
            (
                day,
                point["base_mg"].as_i64().unwrap(),
                point["cause"].as_str().unwrap().to_owned(),
                point["what"].clone(),
            )
        });
        told.collect::<Vec<_>>()
    };
    let say = async |text: &str| client.put(&of, json!({ "text": text })).await;
    let text = "day\tweight\twhat\n2022-08-01\t9,4\t\"Coast\"\n\n2019-06-30\t12.1 kg\n";
    assert_eq!(say(text).await.status, 204);
    let told = points().await;
    let earlier = |at: usize| (told[at].0.as_str(), told[at].1, told[at].2.as_str(), told[at].3.as_str().unwrap());
    assert_eq!(earlier(0), ("2019-06-30", 12_100_000, "earlier", ""));
    assert_eq!(earlier(1), ("2022-08-01", 9_400_000, "earlier", "Coast"));
    assert_eq!(told.last().unwrap().1, 1_900_000);
    // What is refused is named by its line, and what was said stays.
    let refused = [
        ("2022-08-01; 9 kg\nyesterday; 9 kg", "not_a_day"),
        ("2022-08-01; heavy", "not_a_mass"),
        ("2099-08-01; 9 kg", "not_earlier"),
        ("2022-08-01, 9,4 kg", "two_readings"),
    ];
    for (text, code) in refused {
        let answer = say(text).await;
        assert_eq!((answer.status, &answer.body["code"]), (422, &json!(code)), "{text}: {}", answer.body);
        let line = if text.contains('\n') { "Line 2" } else { "Line 1" };
        assert!(answer.body["detail"].as_str().unwrap().starts_with(line), "{}", answer.body);
    }
    assert_eq!(points().await, told);
    assert_eq!(say("").await.status, 204);
    assert!(points().await.iter().all(|point| point.2 != "earlier"));
    let other = Client::signed_up(&stage, "bert").await;
    assert_eq!(other.put(&of, json!({ "text": "2019-06-30; 12 kg" })).await.status, 404);
}
