//! What is too long, too large or too many is refused with the field, and never reaches the database.

use crate::client::{Answer, Client};
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn what_is_too_much_names_its_field() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    let mug = client.line("mug 98g", Some(&list)).await["id"].as_str().unwrap().to_owned();
    let line = client.get(&format!("/api/lists/{list}")).await.body["lines"][0]["id"].clone();
    let figure = format!("{}.5 g", "0".repeat(70));
    let nines = "9".repeat(61);
    let candidate = |field: &str, value: &str| {
        let mut add = json!({ "name": "tarp", "qty": 1 });
        add[field] = json!(value);
        json!({ "kind": "add", "add": [add] })
    };
    let taken = |weighing: Value| json!({ "weighing": weighing, "things": [{ "gear": mug }] });
    let reading = |readings: Value, container: i64, step: i64| json!({ "readings_mg": readings, "container_mg": container, "step_mg": step });
    let gear = format!("/api/gear/{mug}?version=1");
    let list_at = format!("/api/lists/{list}?version=1");
    let swaps = format!("/api/lists/{list}/swaps");
    let weighings = format!("/api/gear/{mug}/weighings");
    let away = "/api/weigh/take-away/weighings";
    let long = |of: usize| json!("x".repeat(of));
    let cases: Vec<(Method, &str, Value, &str)> = vec![
        (Method::PATCH, &gear, json!({ "weight": figure }), "weight"),
        (Method::PATCH, &gear, json!({ "claimed": figure }), "claimed"),
        (Method::PATCH, &gear, json!({ "paid": nines }), "paid"),
        (Method::PATCH, &gear, json!({ "resale": nines }), "resale"),
        (Method::PATCH, &gear, json!({ "name": long(121) }), "name"),
        (Method::PATCH, &gear, json!({ "kept_at": long(121) }), "kept_at"),
        (Method::PATCH, &gear, json!({ "tags": long(41) }), "tags"),
        (Method::PATCH, &gear, json!({ "nights": 100_001 }), "nights"),
        (Method::PATCH, &gear, json!({ "weight": "99999999999999999999 kg 0.0000000000000000001 g" }), "weight"),
        (Method::PATCH, &list_at, json!({ "target": figure }), "target"),
        (Method::PATCH, &list_at, json!({ "note": long(201) }), "note"),
        (Method::PATCH, &list_at, json!({ "budget": nines }), "budget"),
        (Method::POST, &swaps, candidate("weight", &figure), "add[0].weight"),
        (Method::POST, &swaps, candidate("price", &nines), "add[0].price"),
        (
            Method::POST,
            &swaps,
            json!({ "kind": "leave_out", "remove": [{ "line": line, "qty": 1 }], "hours": nines }),
            "hours",
        ),
        (Method::POST, &weighings, json!({ "total": figure }), "total"),
        (Method::POST, &weighings, json!({ "total": "5 g", "scale": long(61) }), "scale"),
        (Method::POST, &weighings, json!({ "total": "5 g", "step_mg": 2_000_000 }), "step_mg"),
        (Method::POST, away, taken(reading(json!([i64::MAX, 0]), 0, 1_000)), "readings_mg"),
        (Method::POST, away, taken(reading(json!([5_000, i64::MIN]), 0, 1_000)), "readings_mg"),
        (Method::POST, away, taken(reading(json!([5_000, 0]), -1, 1_000)), "container_mg"),
        (Method::POST, away, taken(reading(json!([5_000, 0]), 0, 0)), "step_mg"),
        (Method::POST, away, taken(reading(json!((0..501).rev().collect::<Vec<i64>>()), 0, 1)), "readings"),
        (Method::POST, "/api/gear/line", json!({ "line": long(401) }), "line"),
    ];
    for (method, path, body, field) in cases {
        let refused = client.ask(method.clone(), path, Some(body.clone())).await;
        let shown: String = body.to_string().chars().take(80).collect();
        assert_eq!(
            (refused.status, &refused.body["field"]),
            (422, &json!(field)),
            "{method} {path} {shown}: {}",
            refused.body
        );
    }
    let scale =
        json!({ "weighing": reading(json!([5_000, 0]), 0, 1_000), "things": [{ "gear": mug }], "scale": long(61) });
    assert_eq!(client.post(away, scale).await.body["field"], "scale");
    assert_eq!(client.get(&format!("/api/gear/{mug}")).await.body["version"], 1, "nothing was written");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_nobody_means_is_no_fault_of_the_server() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    for since in ["-262143-01-01T00:00:00Z", "%2B262142-12-31T00:00:00Z", "0001-01-01T00:00:00Z"] {
        let refused = client.get(&format!("/api/weigh?since={since}")).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!("since")), "{since}");
    }
    // A year's food at 200 kg a day: nobody carries it, and a plan is made all the same.
    let list = client.list("1 kg", "300").await;
    client.line("tent 1910g", Some(&list)).await;
    let trip = json!({ "days": 365, "food": { "mg_per_day": 200_000_000 }, "low_tenth_c": 0, "high_tenth_c": 100 });
    let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
    let set = client.patch(&format!("/api/lists/{list}?version={version}"), json!({ "trip": trip })).await;
    assert_eq!(set.status, 200, "{}", set.body);
    assert_eq!(client.get(&format!("/api/lists/{list}/plan")).await.status, 200);
}

#[tokio::test(flavor = "multi_thread")]
async fn one_cell_that_is_too_long_refuses_its_line_alone() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let file = format!(
        "name,weight_g,weight_as_typed\nmug,98,98 g\npot,{},\npan,140,{}\n",
        "1".repeat(70),
        "140 g ".repeat(12)
    );
    let read = client.upload("/api/files/gear", &file, json!({})).await;
    assert_eq!(read.body, json!({ "added": 1, "changed": 0, "same": 0, "refused": 2, "list": null }));
    let preview = client.upload("/api/files/gear/preview", &file, json!({})).await.body;
    let lines: Vec<&Value> = preview["refusals"].as_array().unwrap().iter().map(|cell| &cell["line"]).collect();
    assert_eq!(lines, [&json!(3), &json!(4)]);
}

/// Twenty thousand lines of one name against as many things: before it was near-linear this took a quarter of a minute.
#[tokio::test(flavor = "multi_thread")]
async fn equal_names_are_told_apart_without_comparing_each_with_each() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let lines: String =
        (0..20_000).map(|at| format!("stake,{}\n", if at % 2 == 0 { "shelter" } else { "other" })).collect();
    let file = format!("name,system\n{lines}");
    assert_eq!(client.upload("/api/files/gear", &file, json!({})).await.body["added"], 20_000);
    let again = client.upload("/api/files/gear/preview", &file, json!({})).await.body;
    assert_eq!((&again["same"], &again["added"], &again["changed"]), (&json!(20_000), &json!(0), &json!(0)));
    let more = format!("{file}stake,other\n");
    assert_eq!(
        client.upload("/api/files/gear/preview", &more, json!({})).await.status,
        422,
        "a line more than is taken"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn every_answer_comes_in_a_form_that_can_be_read() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    // HEAD is GET without the body.
    for path in ["/", "/api/account", "/api/gear"] {
        let head = client.raw(Method::HEAD, path).send().await.unwrap();
        assert_eq!(head.status(), 200, "{path}");
        assert_eq!(head.text().await.unwrap(), "");
    }
    // An encoding that can't be had is no reason not to answer.
    for encoding in ["identity;q=0", "*;q=0", "compress", "br;q=0, gzip;q=0"] {
        let answer = client.raw(Method::GET, "/api/account").header("Accept-Encoding", encoding).send().await.unwrap();
        let answer = Answer::read(answer).await;
        assert_eq!((answer.status, &answer.body["name"]), (200, &json!("anna")), "{encoding}");
        assert!(!answer.headers.contains_key("content-encoding"));
    }
    let packed = client.raw(Method::GET, "/api/openapi.json").header("Accept-Encoding", "gzip").send().await.unwrap();
    assert_eq!(packed.headers()["content-encoding"], "gzip");
    // Text says in which characters it is.
    let page = client.raw(Method::GET, "/").send().await.unwrap();
    assert_eq!(page.headers()["content-type"], "text/html; charset=utf-8");
}

/// What a file that comes without its length may hold up: before, all room there is.
#[tokio::test(flavor = "multi_thread")]
async fn a_file_that_never_comes_keeps_no_other_from_being_read() {
    use std::io::Write;
    let stage = Stage::start(false);
    let (slow, quick) = (Client::signed_up(&stage, "anna").await, Client::signed_up(&stage, "bert").await);
    let address = stage.url.strip_prefix("http://").unwrap().to_owned();
    let begin = |token: &str| {
        let mut socket = std::net::TcpStream::connect(&address).unwrap();
        let head = format!(
            "POST /api/files/account HTTP/1.1\r\nHost: {address}\r\nCookie: kevyt_session={token}\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n1\r\n{{\r\n"
        );
        socket.write_all(head.as_bytes()).unwrap();
        socket
    };
    let token = slow.token("kevyt_session");
    let open: Vec<_> = (0..6).map(|_| begin(&token)).collect();
    // One of somebody who is nobody is not waited for at all.
    let nobody = begin("0");
    let file = format!("name,weight_g\n{}", "stake,12\n".repeat(10_000));
    let read = quick.upload("/api/files/gear/preview", &file, json!({})).await;
    assert_eq!((read.status, &read.body["added"]), (200, &json!(10_000)));
    drop((open, nobody));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_is_held_to_the_limits_of_what_is_typed() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    let can = client.line("can 196g", Some(&list)).await["id"].as_str().unwrap().to_owned();
    let facts = json!({ "facts": { "contents": "100 g" } });
    assert_eq!(client.patch(&format!("/api/gear/{can}?version=1"), facts).await.status, 200);
    let file = client.get("/api/files/account.json").await.body;
    let mut cases: Vec<(&str, Value)> = Vec::new();
    let facts = |name: &str, value: Value| {
        let mut file = file.clone();
        file["gear"][0]["facts"][name] = value;
        file
    };
    cases.push(("contents", facts("contents_mg", json!(i64::MAX))));
    cases.push(("warms", facts("warms_tenth_c", json!(-4_000))));
    cases.push(("rating", facts("rating", json!({ "kind": "comfort", "tenth_c": -262_143 }))));
    let mut way = file.clone();
    way["lists"][0]["ways"] = json!([{ "key": "w".repeat(61), "places": [] }]);
    cases.push(("ways", way));
    for (what, file) in cases {
        let refused = client.restore(&file.to_string()).await;
        assert_eq!(refused.status, 422, "{what}: {}", refused.body);
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn bodies_that_never_end_are_dropped() {
    use std::io::{Read, Write};
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let token = client.token("kevyt_session");
    let address = stage.url.strip_prefix("http://").unwrap().to_owned();
    for path in ["/api/gear/line", "/api/files/account"] {
        let mut socket = std::net::TcpStream::connect(&address).unwrap();
        let head = format!(
            "POST {path} HTTP/1.1\r\nHost: {address}\r\nCookie: kevyt_session={token}\r\nContent-Type: application/json\r\nContent-Length: 200\r\n\r\n{{"
        );
        socket.write_all(head.as_bytes()).unwrap();
        socket.set_read_timeout(Some(std::time::Duration::from_secs(20))).unwrap();
        let mut answer = [0; 400];
        let n = socket.read(&mut answer).unwrap();
        let answer = String::from_utf8_lossy(&answer[..n]).into_owned();
        assert!(answer.starts_with("HTTP/1.1 408 "), "{path}: {answer}");
    }
}
