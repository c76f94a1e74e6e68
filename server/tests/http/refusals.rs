use crate::client::{Answer, Client};
use insta::assert_json_snapshot;
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::json;

#[tokio::test(flavor = "multi_thread")]
async fn every_error_is_a_problem_document() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let raw = |body: String, kind: &str| {
        client.raw(Method::POST, "/api/lists").header("content-type", kind).body(body).send()
    };
    let read = async |sent: Result<reqwest::Response, reqwest::Error>| Answer::read(sent.unwrap()).await;
    let answers = [
        ("no such address", client.get("/api/nowhere").await),
        ("no id", client.get("/api/gear/12").await),
        ("no version", client.delete("/api/gear/01900000-0000-7000-8000-000000000000").await),
        ("broken JSON", read(raw("{".to_owned(), "application/json").await).await),
        ("not JSON", read(raw("name=x".to_owned(), "text/plain").await).await),
        ("too large", read(raw(format!("\"{}\"", "x".repeat(300_000)), "application/json").await).await),
        ("no demo here", client.post("/api/session/demo", json!({ "demo": "fell" })).await),
    ];
    for (name, answer) in answers {
        assert_eq!(answer.headers["content-type"], "application/problem+json", "{name}");
        assert_json_snapshot!(name, answer.shown());
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn requests_from_other_sites_change_nothing() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = json!({ "name": "Week" });
    let from = |header: &'static str, value: &str| {
        client.raw(Method::POST, "/api/lists").header(header, value).json(&list).send()
    };
    let elsewhere = Answer::read(from("origin", "https://elsewhere.example").await.unwrap()).await;
    assert_json_snapshot!("from another site", elsewhere.shown());
    assert_eq!(from("sec-fetch-site", "cross-site").await.unwrap().status(), 403);
    assert_eq!(client.get("/api/lists").await.body.as_array().unwrap().len(), 1);
    assert_eq!(from("origin", &stage.url).await.unwrap().status(), 201);
}

#[tokio::test(flavor = "multi_thread")]
async fn pages_come_with_strict_headers_and_their_own_files() {
    let stage = Stage::start(false);
    let client = Client::new(&stage);
    let page = client.get("/swaps").await;
    assert_eq!(page.status, 200);
    let wanted = ["content-security-policy", "x-content-type-options", "referrer-policy", "cache-control"];
    let headers: serde_json::Map<_, _> =
        wanted.iter().map(|&name| (name.to_owned(), json!(page.headers[name]))).collect();
    assert_json_snapshot!("headers of a page", headers);
    let html = page.body.as_str().unwrap();
    assert!(!html.contains("<style") && !html.contains("style=") && !html.contains("http"), "{html}");
    let script = html.split("src=\"").nth(1).and_then(|rest| rest.split('"').next()).unwrap();
    let script = client.get(script).await;
    assert_eq!(script.headers["cache-control"], "public, max-age=31536000, immutable");
    assert_eq!(client.get("/assets/nothing.js").await.status, 404);
    assert_eq!(client.get("/api/health").await.status, 204);
}

#[test]
fn the_openapi_document_in_docs_is_current() {
    let path = format!("{}/../docs/openapi.json", env!("CARGO_MANIFEST_DIR"));
    let docs: serde_json::Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    // By value: the order of keys hangs on what else is built.
    assert!(
        docs == serde_json::to_value(kevyt::http::document()).unwrap(),
        "run: target/debug/kevyt openapi > docs/openapi.json && (cd web && npm run api)"
    );
}

#[test]
fn the_schema_of_account_files_in_docs_is_current() {
    let path = format!("{}/../docs/account.schema.json", env!("CARGO_MANIFEST_DIR"));
    let docs: serde_json::Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    assert!(
        docs == kevyt_service::account_schema(),
        "run: target/debug/kevyt account-schema > docs/account.schema.json"
    );
}
