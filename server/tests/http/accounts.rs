use crate::client::{Answer, Client};
use insta::{assert_json_snapshot, assert_snapshot};
use kevyt_browser::Stage;
use reqwest::Method;
use serde_json::json;

fn account(name: &str, password: &str) -> serde_json::Value {
    json!({ "name": name, "password": password, "mass": "metric", "currency": "EUR" })
}

#[tokio::test(flavor = "multi_thread")]
async fn an_account_is_made_entered_and_left() {
    let stage = Stage::start(false);
    let client = Client::new(&stage);
    assert_json_snapshot!("nobody is signed in", client.get("/api/account").await.shown());

    let made = client.post("/api/account", account(" Anna ", "correct horse")).await;
    let cookie = &made.headers["set-cookie"];
    let token = cookie.split(['=', ';']).nth(1).unwrap();
    assert_eq!(token.len(), 64);
    assert_snapshot!("session cookie", cookie.replace(token, "TOKEN"));
    assert_json_snapshot!("who is signed in", client.get("/api/account").await.shown());

    assert_eq!(client.delete("/api/session").await.status, 204);
    assert_eq!(client.get("/api/account").await.status, 401);
    let signed_in = client.post("/api/session", json!({ "name": "ANNA", "password": "correct horse" })).await;
    assert_eq!(signed_in.status, 201);
    assert_eq!(client.get("/api/account").await.status, 200);

    // Nobody but a trusted proxy is believed that a request came over https.
    let over_https = client.raw(Method::POST, "/api/session").header("x-forwarded-proto", "https");
    let sent = over_https.json(&json!({ "name": "anna", "password": "correct horse" })).send().await.unwrap();
    assert!(!Answer::read(sent).await.headers["set-cookie"].contains("Secure"));
}

#[tokio::test(flavor = "multi_thread")]
async fn accounts_that_cannot_be_made_say_why() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    assert_json_snapshot!("name taken", client.post("/api/account", account("Anna", "correct horse")).await.shown());
    assert_json_snapshot!("short password", client.post("/api/account", account("bert", "short")).await.shown());
    assert_json_snapshot!(
        "name with a space",
        client.post("/api/account", account("b ert", "correct horse")).await.shown()
    );
    let unknown = json!({ "name": "bert", "password": "correct horse", "mass": "metric", "currency": "XYZ" });
    assert_json_snapshot!("unknown currency", client.post("/api/account", unknown).await.shown());
}

#[tokio::test(flavor = "multi_thread")]
async fn a_wrong_sign_in_does_not_say_what_is_wrong_and_is_limited() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let wrong_password = client.post("/api/session", json!({ "name": "anna", "password": "wrong horse" })).await;
    let unknown_name = client.post("/api/session", json!({ "name": "nobody", "password": "wrong horse" })).await;
    assert_eq!(wrong_password.shown(), unknown_name.shown());
    assert_json_snapshot!("wrong sign-in", wrong_password.shown());

    for _ in 0..9 {
        client.post("/api/session", json!({ "name": "anna", "password": "wrong horse" })).await;
    }
    let limited = client.post("/api/session", json!({ "name": "anna", "password": "correct horse" })).await;
    assert_json_snapshot!("too many sign-ins", limited.shown());
    assert_eq!(limited.headers["retry-after"], "900");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_new_password_ends_other_sessions() {
    let stage = Stage::start(false);
    let here = Client::signed_up(&stage, "anna").await;
    let elsewhere = Client::new(&stage);
    elsewhere.post("/api/session", json!({ "name": "anna", "password": "correct horse" })).await;

    let change = |old: &str| json!({ "old_password": old, "new_password": "another horse" });
    assert_json_snapshot!("wrong old password", here.put("/api/account/password", change("wrong horse")).await.shown());
    assert_eq!(here.put("/api/account/password", change("correct horse")).await.status, 204);
    assert_eq!(here.get("/api/account").await.status, 200);
    assert_eq!(elsewhere.get("/api/account").await.status, 401);
    let again = Client::new(&stage);
    assert_eq!(again.post("/api/session", json!({ "name": "anna", "password": "another horse" })).await.status, 201);
}

#[tokio::test(flavor = "multi_thread")]
async fn units_change_and_money_keeps_its_value() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let units =
        |version: i32, currency: &str| json!({ "version": version, "mass": "pounds_and_ounces", "currency": currency });
    assert_eq!(client.patch("/api/account", units(1, "USD")).await.status, 204);
    assert_json_snapshot!("units changed", client.get("/api/account").await.shown());
    assert_json_snapshot!("stale units", client.patch("/api/account", units(1, "GBP")).await.shown());
    assert_json_snapshot!("currency without decimals", client.patch("/api/account", units(2, "JPY")).await.shown());
}
