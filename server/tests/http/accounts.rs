use crate::client::{Answer, Client};
use diesel::connection::SimpleConnection;
use diesel::{Connection, MysqlConnection};
use insta::{assert_json_snapshot, assert_snapshot};
use kevyt::http::Place;
use kevyt_service::accounts::Visitor;
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::json;
use std::time::Duration;

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

/// A server behind a proxy that it trusts, over https.
fn behind_a_proxy() -> Stage {
    let place = Place { trusted_proxies: vec!["127.0.0.0/8".parse().unwrap()], https: true };
    Stage::at(false, place)
}

async fn sign_in_from(stage: &Stage, address: &str, name: &str, password: &str) -> Answer {
    let client = Client::new(stage);
    let request = client.raw(Method::POST, "/api/session").header("X-Forwarded-For", address);
    Answer::read(request.json(&json!({ "name": name, "password": password })).send().await.unwrap()).await
}

#[tokio::test(flavor = "multi_thread")]
async fn guesses_slow_down_whoever_makes_them_and_nobody_else() {
    let stage = behind_a_proxy();
    let owner = Client::new(&stage);
    let made = owner.post("/api/account", account("ann\u{e9}", "correct horse")).await;
    assert!(made.headers["set-cookie"].starts_with("__Host-kevyt_session="), "{:?}", made.headers["set-cookie"]);
    assert!(made.headers["set-cookie"].contains("Secure"));
    assert_eq!(made.headers["strict-transport-security"], "max-age=31536000; includeSubDomains");
    // However the name is written, it is one name.
    let written = ["ann\u{e9}", "ANNE\u{301}", "\u{ff21}nn\u{e9}", "an\u{200b}n\u{e9}", " Ann\u{e9} "];
    for at in 0..10 {
        let wrong = sign_in_from(&stage, "203.0.113.9", written[at % written.len()], "wrong horse").await;
        assert_eq!(wrong.status, 401, "guess {at}");
    }
    let limited = sign_in_from(&stage, "203.0.113.9", "AnN\u{c9}", "correct horse").await;
    assert_eq!((limited.status, &limited.body["code"]), (429, &json!("too_many_tries")));
    // The owner comes in from elsewhere, and the session that was there is untouched; other names from there are tried still.
    assert_eq!(sign_in_from(&stage, "198.51.100.1", "ann\u{e9}", "correct horse").await.status, 201);
    assert_eq!(sign_in_from(&stage, "203.0.113.9", "bert", "wrong horse").await.status, 401);
    // What a client made up in front of the proxy's word is not believed.
    assert_eq!(sign_in_from(&stage, "198.51.100.77, 203.0.113.9", "ann\u{e9}", "correct horse").await.status, 429);
}

#[tokio::test(flavor = "multi_thread")]
async fn guesses_from_many_addresses_slow_down_but_for_who_has_been_there_before() {
    let stage = behind_a_proxy();
    let made = Client::new(&stage).post("/api/account", account("anna", "correct horse")).await;
    assert_eq!(made.status, 201);
    let services = kevyt::open(&stage.settings()).unwrap();
    let visitor = |known_by: Option<String>| Visitor {
        address: "192.0.2.1".to_owned(),
        device: String::new(),
        token: None,
        known_by,
    };
    let delay = |known_by: Option<String>, name: &str| services.sign_in_delay(&visitor(known_by), name).unwrap();
    let token = services.sign_in(&visitor(None), "anna", "correct horse").unwrap();
    let known = services.known_by(&token).unwrap();
    let mut c = MysqlConnection::establish(stage.database_url()).unwrap();
    // As if they had come from everywhere: so many failures count for the name alone.
    let fail = |c: &mut MysqlConnection, many: usize| {
        (0..many).for_each(|_| {
            kevyt_store::sessions::insert_attempt(c, kevyt_store::account::digest("sign in: anna")).unwrap()
        });
    };
    fail(&mut c, 20);
    assert_eq!(delay(None, "anna"), Duration::ZERO);
    fail(&mut c, 3);
    assert_eq!(delay(None, "ANNA"), Duration::from_millis(1_500), "three more than many");
    fail(&mut c, 40);
    assert_eq!(delay(None, "anna"), Duration::from_secs(8), "no longer than that");
    assert_eq!(delay(Some("made up".to_owned()), "anna"), Duration::from_secs(8));
    assert_eq!((delay(Some(known.clone()), "anna"), delay(None, "bert")), (Duration::ZERO, Duration::ZERO));
    // With another password nobody is known any more.
    c.batch_execute("UPDATE account SET password_hash = 'another'").unwrap();
    assert_eq!(delay(Some(known), "anna"), Duration::from_secs(8));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stolen_session_keeps_nobody_from_their_account() {
    let stage = Stage::start(false);
    let thief = Client::signed_up(&stage, "anna").await;
    let owner = Client::new(&stage);
    owner.post("/api/session", json!({ "name": "anna", "password": "correct horse" })).await;
    for _ in 0..10 {
        let wrong = thief.ask(Method::DELETE, "/api/account", Some(json!({ "password": "wrong horse" }))).await;
        assert_eq!(wrong.status, 422);
    }
    let guess = thief.ask(Method::DELETE, "/api/account", Some(json!({ "password": "correct horse" }))).await;
    assert_eq!(guess.status, 429);
    let gone = owner.ask(Method::DELETE, "/api/account", Some(json!({ "password": "correct horse" }))).await;
    assert_eq!(gone.status, 204);
}

#[tokio::test(flavor = "multi_thread")]
async fn who_visits_the_demo_sees_and_ends_the_own_session_alone() {
    let stage = Stage::start(true);
    let (one, other) = (Client::new(&stage), Client::new(&stage));
    for client in [&one, &other] {
        assert_eq!(client.post("/api/session/demo", json!({ "demo": "fell" })).await.status, 201);
    }
    let sessions = one.get("/api/sessions").await.body;
    assert_eq!(sessions.as_array().unwrap().len(), 1, "{sessions}");
    let others = other.get("/api/sessions").await.body[0]["id"].as_str().unwrap().to_owned();
    assert_eq!(one.delete(&format!("/api/sessions/{others}")).await.status, 404);
    assert_eq!(other.get("/api/account").await.status, 200);
    for _ in 0..58 {
        one.post("/api/session/demo", json!({ "demo": "fell" })).await;
    }
    assert_eq!(one.post("/api/session/demo", json!({ "demo": "fell" })).await.status, 429);
}

#[tokio::test(flavor = "multi_thread")]
async fn passwords_that_are_guessed_first_are_refused() {
    let stage = Stage::start(false);
    let client = Client::new(&stage);
    for (name, password) in [
        ("anna", "password123"),
        ("anna", "qwertyuiop"),
        ("anna", "1234567890"),
        ("wilhelmina", "wilhelmina"),
        ("wilhelmina", "Wilhelmina1!"),
        ("wilhelmina", "wil-helm-ina"),
    ] {
        let refused = client.post("/api/account", account(name, password)).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!("password")), "{password}");
    }
    assert_eq!(client.post("/api/account", account("wilhelmina", "correct horse")).await.status, 201);
}

#[tokio::test(flavor = "multi_thread")]
async fn sessions_are_renewed_listed_and_ended() {
    let stage = Stage::start(false);
    let here = Client::signed_up(&stage, "anna").await;
    let first = here.token("kevyt_session");
    let sign_in = json!({ "name": "anna", "password": "correct horse" });
    here.post("/api/session", sign_in.clone()).await;
    assert_ne!(here.token("kevyt_session"), first, "a new token for signing in anew");
    let phone = Client::new(&stage);
    phone.post("/api/session", sign_in).await;
    let sessions = here.get("/api/sessions").await.body;
    assert_eq!(sessions.as_array().unwrap().len(), 2, "the one that was replaced is over");
    let other = sessions.as_array().unwrap().iter().find(|session| session["here"] == false).unwrap();
    assert_eq!(here.delete(&format!("/api/sessions/{}", other["id"].as_str().unwrap())).await.status, 204);
    assert_eq!((phone.get("/api/account").await.status, here.get("/api/account").await.status), (401, 200));

    let before = here.token("kevyt_session");
    let change = |old: &str| json!({ "old_password": old, "new_password": "another horse" });
    assert_eq!(here.put("/api/account/password", change("correct horse")).await.status, 204);
    assert_ne!(here.token("kevyt_session"), before, "and for a new password");
    for _ in 0..10 {
        assert_eq!(here.put("/api/account/password", change("wrong horse")).await.status, 422);
    }
    assert_eq!(here.put("/api/account/password", change("another horse")).await.status, 429);
    assert_eq!(here.get("/api/account").await.status, 200, "the session goes on");
}
