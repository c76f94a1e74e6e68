//! The smallest request, the Gear page of 5 000 things over HTTP, and reading them in from a file. Needs KEVYT_TEST_DATABASE_URL; `./kevyt bench`
//! starts a database for it.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use kevyt_testbed::Stage;
use reqwest::header::ACCEPT_ENCODING;
use reqwest::multipart::{Form, Part};
use serde_json::json;
use std::time::Duration;
use tokio::runtime::Runtime;

const THINGS: usize = 5_000;

/// A file of all things, each `more` grams heavier.
fn file(more: usize) -> String {
    let mut text = String::from("name,system,count,weight_g,source,price,worth_now,kept_at,tags,nights,provides\n");
    for at in 0..THINGS {
        let system = ["shelter", "sleep", "kitchen", "rain", "wash"][at % 5];
        let source = ["weighed", "maker", "estimate"][at % 3];
        text += &format!(
            "thing no. {at},{system},1,{}.{},{source},{}.00,{}.00,shelf {},tag{},{},light=1\n",
            5 + at % 1_900 + more,
            at % 10,
            at % 400,
            at % 90,
            at % 20,
            at % 7,
            at % 60
        );
    }
    text
}

fn gear_page(criterion: &mut Criterion) {
    let stage = Stage::start(false);
    let runtime = Runtime::new().unwrap();
    let http = reqwest::Client::builder().cookie_store(true).build().unwrap();
    let url = |path: &str| format!("{}{path}", stage.url);
    let account = json!({ "name": "bench", "password": "correct horse", "mass": "metric", "currency": "EUR" });
    let post = async |path: &str, body: &serde_json::Value| http.post(url(path)).json(body).send().await.unwrap();
    assert_eq!(runtime.block_on(post("/api/account", &account)).status(), 201);
    let upload = async |path: &str, text: String| {
        let form = Form::new().part("file", Part::text(text).file_name("gear.csv"));
        http.post(url(path)).multipart(form).send().await.unwrap()
    };
    let import = file(0);
    let done = runtime
        .block_on(async { upload("/api/files/gear", import.clone()).await.json::<serde_json::Value>().await.unwrap() });
    assert_eq!(done["added"], THINGS);

    // Neither is unpacked by the client: what is measured is what the server does and sends.
    let page = async |encoding: &str| {
        let asked = http.get(url("/api/gear?limit=5000")).header(ACCEPT_ENCODING, encoding);
        asked.send().await.unwrap().bytes().await.unwrap().len()
    };
    for encoding in ["identity", "gzip"] {
        println!("gear page of {THINGS} things, {encoding}: {} bytes", runtime.block_on(page(encoding)));
    }
    let mut group = criterion.benchmark_group("gear page of 5 000 things");
    group.sample_size(20).measurement_time(Duration::from_secs(8));
    let smallest = async || http.get(url("/api/account")).send().await.unwrap().bytes().await.unwrap().len();
    group.bench_function("who is signed in, the smallest request", |b| b.iter(|| runtime.block_on(smallest())));
    for encoding in ["identity", "gzip"] {
        group.bench_function(format!("{encoding}, nothing written since"), |b| {
            b.iter(|| runtime.block_on(page(encoding)));
        });
        // Of one thing, as the walker who has the page open makes it.
        let write = || {
            runtime.block_on(async {
                let first = http.get(url("/api/gear?limit=1")).send().await.unwrap();
                let first = first.json::<serde_json::Value>().await.unwrap()["items"][0].clone();
                let path = format!("/api/gear/{}?version={}", first["id"].as_str().unwrap(), first["version"]);
                let change = json!({ "nights": first["version"] });
                assert_eq!(http.patch(url(&path)).json(&change).send().await.unwrap().status(), 200);
            });
        };
        group.bench_function(format!("{encoding}, after a write"), |b| {
            b.iter_batched(write, |()| runtime.block_on(page(encoding)), BatchSize::PerIteration);
        });
    }
    group.bench_function("preview of the same file", |b| {
        b.iter(|| {
            runtime.block_on(async { upload("/api/files/gear/preview", import.clone()).await.bytes().await.unwrap() })
        });
    });
    let mut heavier = 0;
    group.sample_size(10).bench_function("reading a file in that changes each", |b| {
        b.iter(|| {
            heavier += 1;
            runtime.block_on(async { upload("/api/files/gear", file(heavier)).await.bytes().await.unwrap() })
        });
    });
    group.finish();
}

criterion_group!(benches, gear_page);
criterion_main!(benches);
