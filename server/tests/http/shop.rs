//! A shop from elsewhere.

use crate::client::Client;
use crate::forecast::outside;
use insta::assert_json_snapshot;
use kevyt_browser::Stage;
use serde_json::json;
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
