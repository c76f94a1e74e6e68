//! A shop from elsewhere.

use crate::client::Client;
use crate::forecast::outside;
use diesel::{Connection, MysqlConnection, RunQueryDsl, sql_query};
use insta::assert_json_snapshot;
use kevyt_testbed::Stage;
use serde_json::{Value, json};
use std::time::{Duration, Instant};

const OFFER: &str = r#"{"code":"K1000","name":"Tarp, coated nylon","system":"shelter","weight_mg":420000,"currency":"EUR","price_minor":9900,"was_minor":14900,"stock":3,"used_minor":null,"day":0}"#;

#[tokio::test(flavor = "multi_thread")]
async fn what_a_shop_says_is_passed_on_or_refused_within_two_seconds() {
    let mut stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    assert_eq!(client.get("/api/shop?q=tarp").await.body["code"], "no_shop");
    let of = |offer: String| Some(&*Box::leak(format!("[{offer}]").into_boxed_str()));
    let answers = [
        of(OFFER.to_owned()),
        of(OFFER.replace("EUR", "SEK")),
        of(OFFER.replace("9900", "-1")),
        of(OFFER.replace("420000", "\"light\"")),
        None,
    ];
    let mut told = Vec::new();
    for answer in answers {
        stage.with_shop(&outside(answer));
        let client = client.elsewhere(&stage.url);
        let asked = Instant::now();
        told.push(client.get("/api/shop?q=tarp").await.shown());
        assert!(asked.elapsed() < Duration::from_secs(5), "{:?}", asked.elapsed());
    }
    assert_json_snapshot!("offers", told);
    let client = client.elsewhere(&stage.url);
    assert_eq!(client.get(&format!("/api/shop?q={}", "x".repeat(121))).await.status, 422);
    assert_eq!(json!(client.get("/api/vocabulary").await.body["shop"]), true);
}

/// An hour goes by for everything that was asked for.
fn an_hour_later(stage: &Stage) {
    let c = &mut MysqlConnection::establish(stage.database_url()).unwrap();
    sql_query("UPDATE offer SET asked_at = asked_at - INTERVAL 61 MINUTE").execute(c).unwrap();
}

#[tokio::test(flavor = "multi_thread")]
async fn a_price_is_followed_politely_and_the_last_one_stays_whatever_the_shop_says() {
    let mut stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    let swap = json!({ "kind": "add", "add": [{ "name": "tarp", "weight": "420 g", "price": "149", "offer": "K1000", "qty": 1 }] });
    let made = client.post(&format!("/api/lists/{list}/swaps"), swap).await;
    assert_eq!(made.body["add"][0]["candidate"]["offer"], "K1000", "{}", made.body);
    let path = format!("/api/lists/{list}/offers");
    assert_eq!(client.get(&path).await.body[0]["seen"], json!([]));

    let leaked = |offer: String| Some(&*Box::leak(offer.into_boxed_str()));
    // What the shop says, whether an hour has gone by, and what is known then: prices, and the trouble.
    let cases = [
        (leaked(OFFER.to_owned()), true, json!([9_900]), json!(null)),
        (leaked(OFFER.replace("9900", "8900")), false, json!([9_900]), json!(null)),
        (leaked(OFFER.to_owned()), true, json!([9_900]), json!(null)),
        (leaked(OFFER.replace("9900", "8900")), true, json!([9_900, 8_900]), json!(null)),
        (leaked(OFFER.replace("9900", "-1")), true, json!([9_900, 8_900]), json!("nonsense")),
        (leaked(OFFER.replace("K1000", "K1001")), true, json!([9_900, 8_900]), json!("nonsense")),
        (None, true, json!([9_900, 8_900]), json!("silent")),
        (leaked(OFFER.replace("EUR", "SEK")), true, json!([9_900, 8_900]), json!("other_currency")),
        (leaked(OFFER.to_owned()), true, json!([9_900, 8_900, 9_900]), json!(null)),
    ];
    for (answer, is_later, prices, trouble) in cases {
        stage.with_shop(&outside(answer));
        let client = client.elsewhere(&stage.url);
        if is_later {
            an_hour_later(&stage);
        }
        // Two at once ask once.
        let (known, _) = tokio::join!(client.get(&path), client.get(&path));
        let known = if is_later { client.get(&path).await } else { known };
        let seen = known.body[0]["seen"].as_array().unwrap();
        let found: Vec<&Value> = seen.iter().map(|seen| &seen["price_minor"]).collect();
        assert_eq!((json!(found), &known.body[0]["trouble"]), (prices, &trouble), "{answer:?}: {}", known.body);
    }
    let client = client.elsewhere(&stage.url);
    let stranger = Client::signed_up(&stage, "bea").await;
    assert_eq!(stranger.get(&path).await.status, 404);
    let long = json!({ "kind": "add", "add": [{ "name": "tarp", "offer": "K".repeat(41), "qty": 1 }] });
    assert_eq!(client.post(&format!("/api/lists/{list}/swaps"), long).await.body["field"], "add[0].offer");
}

#[tokio::test(flavor = "multi_thread")]
async fn waiting_for_a_price_comes_to_what_prices_that_were_seen_come_to_and_is_not_said_of_what_is_lacking() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    let swap = json!({ "kind": "add", "add": [{ "name": "tarp", "weight": "420 g", "price": "149", "offer": "K1000", "qty": 1,
        "provides": { "shelter": 1 } }] });
    assert_eq!(client.post(&format!("/api/lists/{list}/swaps"), swap).await.status, 201);
    let quilt = json!({ "kind": "add", "add": [{ "name": "quilt", "weight": "700 g", "price": "200", "offer": "K1001", "qty": 1,
        "facts": { "rating": "-5", "rating_kind": "comfort" } }] });
    assert_eq!(client.post(&format!("/api/lists/{list}/swaps"), quilt).await.status, 201);
    let c = &mut MysqlConnection::establish(stage.database_url()).unwrap();
    let asked = "INSERT INTO offer (code, asked_at) VALUES ('K1000', UTC_TIMESTAMP()), ('K1001', UTC_TIMESTAMP())";
    sql_query(asked).execute(c).unwrap();
    // 45 days at 100, 45 at 60, with fifteen between that it was sold out.
    for (from, until, price, stock) in [(105, 60, 10_000, 3), (60, 45, 10_000, 0), (45, 0, 6_000, 2)] {
        for code in ["K1000", "K1001"] {
            let row = format!(
                "INSERT INTO offer_seen (code, since, seen_until, currency, price_minor, stock) VALUES ('{code}', \
                 UTC_TIMESTAMP() - INTERVAL {from} DAY, UTC_TIMESTAMP() - INTERVAL {until} DAY, 'EUR', {price}, {stock})"
            );
            sql_query(row).execute(c).unwrap();
        }
    }
    let wait = async |code: &str| {
        let followed = client.get(&format!("/api/lists/{list}/offers")).await.body;
        followed.as_array().unwrap().iter().find(|one| one["code"] == code).unwrap()["wait"].clone()
    };
    assert_eq!(wait("K1000").await, Value::Null, "no trip to be in time for");
    let day = |ahead: i64| chrono::Utc::now().date_naive() + chrono::TimeDelta::days(ahead);
    let trip = json!({ "list": list, "starts_on": day(190).to_string(), "nights": 5 });
    assert_eq!(client.post("/api/trips", trip).await.status, 201);
    // Five months: 80, then (60 + 80) / 2 and so on.
    let expected = json!({ "buy_below_minor": [6_125, 6_250, 6_500, 7_000, 8_000], "expected_minor": 6_125,
        "dearer_percent": 3, "sold_out_percent": 14, "by": day(162).to_string() });
    assert_eq!((wait("K1000").await, wait("K1001").await), (expected.clone(), expected.clone()));
    // A list without a shelter that needs one is not told to wait for it, nor one with a cold night for what is warm.
    let change = async |change: Value| {
        let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
        assert_eq!(client.patch(&format!("/api/lists/{list}?version={version}"), change).await.status, 200);
    };
    change(json!({ "requires": { "shelter": 1 } })).await;
    assert_eq!((wait("K1000").await, wait("K1001").await), (Value::Null, expected));
    change(json!({ "trip": crate::sheet::trip(json!({ "days": 3, "low_tenth_c": 0 })) })).await;
    assert_eq!((wait("K1000").await, wait("K1001").await), (Value::Null, Value::Null));
}
