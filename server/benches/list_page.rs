//! The sheet of lists of 30 and of 300 things over HTTP, with a trip and 500 more things on the shelf; and what 100 trips with one of 50 things
//! teach. Needs KEVYT_TEST_DATABASE_URL;
//! `./kevyt bench` starts a database for it.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

use criterion::{Criterion, criterion_group, criterion_main};
use kevyt_testbed::Stage;
use reqwest::multipart::{Form, Part};
use serde_json::{Value, json};
use tokio::runtime::Runtime;

/// A file of so many things.
fn file(name: &str, things: usize) -> String {
    let jobs = ["shelter=1", "light=1", "ground_insulation=30", "water_carried=1000", "rain_shell=1"];
    let line = |at: usize| format!("{name} no. {at},other,1,{}.5,weighed,{}\n", 5 + at % 900, jobs[at % 5]);
    format!("name,system,count,weight_g,source,provides\n{}", (0..things).map(line).collect::<String>())
}

fn list_page(criterion: &mut Criterion) {
    let stage = Stage::start(false);
    let runtime = Runtime::new().unwrap();
    let http = reqwest::Client::builder().cookie_store(true).build().unwrap();
    let url = |path: &str| format!("{}{path}", stage.url);
    let account = json!({ "name": "bench", "password": "correct horse", "mass": "metric", "currency": "EUR" });
    let lists = runtime.block_on(async {
        assert_eq!(http.post(url("/api/account")).json(&account).send().await.unwrap().status(), 201);
        let mut lists = Vec::new();
        for (name, things, how) in [
            ("spare", 500, json!({})),
            ("few", 30, json!({ "new_list": "Few" })),
            ("walked", 50, json!({ "new_list": "Walked" })),
            ("many", 300, json!({ "new_list": "Many" })),
        ] {
            let how = Part::text(how.to_string()).mime_str("application/json").unwrap();
            let form = Form::new().part("file", Part::text(file(name, things)).file_name("gear.csv")).part("how", how);
            let done = http.post(url("/api/files/gear")).multipart(form).send().await.unwrap();
            let done: Value = done.json().await.unwrap();
            let Some(list) = done["list"].as_str() else { continue };
            let trip = json!({ "trip": { "days": 14, "food": { "mg_per_day": 700_000 }, "low_tenth_c": -50,
                "high_tenth_c": 150, "snow": true, "stretch_m": 30_000, "pace_m_per_hour": 4_000 } });
            let changed = http.patch(url(&format!("/api/lists/{list}?version=1"))).json(&trip).send().await.unwrap();
            assert_eq!(changed.status(), 200);
            lists.push((things, list.to_owned()));
        }
        lists
    });
    runtime.block_on(async {
        let (_, list) = lists.iter().find(|(things, _)| *things == 50).unwrap();
        for at in 0..100 {
            let trip = json!({ "list": list, "starts_on": format!("2025-{:02}-{:02}", 1 + at / 25, 1 + at % 25) });
            let trip: Value = http.post(url("/api/trips")).json(&trip).send().await.unwrap().json().await.unwrap();
            let keep = url(&format!("/api/trips/{}/keep?version=1", trip["id"].as_str().unwrap()));
            assert_eq!(http.post(keep).json(&json!({})).send().await.unwrap().status(), 200);
        }
        let trips: Value = http.get(url("/api/lessons")).send().await.unwrap().json().await.unwrap();
        for trip in trips["trips"].as_array().unwrap() {
            let full = url(&format!("/api/trips/{}", trip["trip"]["id"].as_str().unwrap()));
            let full: Value = http.get(full).send().await.unwrap().json().await.unwrap();
            let thing = full["things"][0]["id"].as_str().unwrap();
            let said = url(&format!("/api/trips/{}/things/{thing}", trip["trip"]["id"].as_str().unwrap()));
            assert_eq!(http.patch(said).json(&json!({ "used": false })).send().await.unwrap().status(), 200);
        }
    });
    let lessons = async || http.get(url("/api/lessons")).send().await.unwrap().bytes().await.unwrap();
    println!("lessons of 100 trips: {} bytes", runtime.block_on(lessons()).len());
    criterion.bench_function("lessons of 100 trips", |b| b.iter(|| runtime.block_on(lessons())));
    for (things, list) in lists {
        let page =
            async || http.get(url(&format!("/api/lists/{list}/sheet"))).send().await.unwrap().bytes().await.unwrap();
        println!("sheet of {things} things: {} bytes", runtime.block_on(page()).len());
        criterion.bench_function(&format!("sheet of {things} things"), |b| b.iter(|| runtime.block_on(page())));
    }
}

criterion_group!(benches, list_page);
criterion_main!(benches);
