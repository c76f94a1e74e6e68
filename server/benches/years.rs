//! The pages of an account that was used for a year, among 10 000 that have what the demo has; and how large the tables are by then.
//! Needs KEVYT_TEST_DATABASE_URL; `./kevyt bench` starts a database for it.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

mod walker;

use criterion::{Criterion, criterion_group, criterion_main};
use diesel::sql_types::{BigInt, Text};
use diesel::{Connection, MysqlConnection, QueryableByName, RunQueryDsl};
use kevyt_testbed::{Stage, crowd};
use reqwest::Method;
use serde_json::{Value, json};
use std::time::Instant;
use tokio::runtime::Runtime;
use walker::Walker;

/// Accounts beside that which is used: the demo's two, so many times.
const COPIES: u32 = 5_000;
const DAYS: usize = 365;

/// A day: something is weighed, moved, moved back, noted and pinned; once a month a trip is kept and judged.
async fn one_day(walker: &Walker, day: usize, list: &str, gear: &[Value], swaps: &[Value]) {
    let id = |of: &Value| of["id"].as_str().unwrap().to_owned();
    let thing = id(&gear[day % gear.len()]);
    walker
        .ask(Method::POST, &format!("/api/gear/{thing}/weighings"), &json!({ "total": format!("{} g", 90 + day) }))
        .await;
    let now = walker.get(&format!("/api/gear/{thing}")).await;
    let note = json!({ "note": format!("day {day}") });
    walker.ask(Method::PATCH, &format!("/api/gear/{thing}?version={}", now["version"]), &note).await;
    let lines = walker.get(&format!("/api/lists/{list}")).await["lines"].as_array().unwrap().clone();
    let line = &lines[day % lines.len()];
    let at = format!("/api/lists/{list}/lines/{}", id(&line["gear"]));
    let moved = json!({ "left": 1, "version": line["version"] });
    let moved = walker.ask(Method::PUT, &at, &moved).await;
    let mut back = json!({ "version": moved["version"] });
    for place in ["carried", "worn", "used_up", "apart", "left"] {
        back[place] = line[place].clone();
    }
    walker.ask(Method::PUT, &at, &back).await;
    let swap = walker.get(&format!("/api/swaps/{}", id(&swaps[day % swaps.len()]))).await;
    let state = json!({ "state": if day.is_multiple_of(2) { "pinned" } else { "open" } });
    let swap = format!("/api/swaps/{}/state?version={}", id(&swap), swap["version"]);
    walker.ask(Method::PUT, &swap, &state).await;
    if day.is_multiple_of(30) {
        let trip = json!({ "list": list, "starts_on": format!("2026-{:02}-02", 1 + day / 31), "nights": 2 });
        let trip = id(&walker.ask(Method::POST, "/api/trips", &trip).await);
        walker.ask(Method::POST, &format!("/api/trips/{trip}/keep?version=1"), &json!({})).await;
    }
}

#[derive(QueryableByName)]
struct Table {
    #[diesel(sql_type = Text)]
    name: String,
    #[diesel(sql_type = BigInt)]
    lines: i64,
    #[diesel(sql_type = BigInt)]
    kilobytes: i64,
}

fn years(criterion: &mut Criterion) {
    let stage = Stage::start(true);
    let begun = Instant::now();
    crowd(stage.database_url(), COPIES);
    println!("{} accounts after {:.0?}", 2 * (COPIES + 1), begun.elapsed());
    let runtime = Runtime::new().unwrap();
    let walker = runtime.block_on(Walker::in_demo(&stage));
    let list = runtime.block_on(async {
        let list = walker.get("/api/lists").await[0]["id"].as_str().unwrap().to_owned();
        let gear = walker.get("/api/gear").await["items"].as_array().unwrap().clone();
        let mut swaps = walker.get(&format!("/api/lists/{list}/plan")).await["swaps"].as_array().unwrap().clone();
        swaps.truncate(8);
        let begun = Instant::now();
        for day in 0..DAYS {
            one_day(&walker, day, &list, &gear, &swaps).await;
        }
        println!("{DAYS} days of 9 requests each took {:.0?}", begun.elapsed());
        list
    });
    let tables: Vec<Table> = diesel::sql_query(
        "SELECT table_name AS name, CAST(table_rows AS SIGNED) AS `lines`, \
         CAST((data_length + index_length) DIV 1024 AS SIGNED) AS kilobytes FROM information_schema.tables \
         WHERE table_schema = DATABASE() ORDER BY data_length + index_length DESC LIMIT 20",
    )
    .load(&mut MysqlConnection::establish(stage.database_url()).unwrap())
    .unwrap();
    for Table { name, lines, kilobytes } in tables {
        println!("{name}: {lines} rows, {} MB", kilobytes / 1024);
    }
    let pages = [
        ("gear", "/api/gear".to_owned()),
        ("weigh", format!("/api/weigh?list={list}&since=2026-01-01T00:00:00Z")),
        ("sheet", format!("/api/lists/{list}/sheet")),
        ("plan from memory", format!("/api/lists/{list}/plan")),
        ("lessons", "/api/lessons".to_owned()),
        ("base weight over time", format!("/api/lists/{list}/history")),
        ("changes", "/api/changes".to_owned()),
        ("account file", "/api/files/account.json".to_owned()),
    ];
    let mut group = criterion.benchmark_group("after a year, among 10 000 accounts");
    group.sample_size(20);
    for (name, path) in pages {
        group.bench_function(name, |bencher| bencher.iter(|| runtime.block_on(walker.get(&path))));
    }
    group.finish();
}

criterion_group!(benches, years);
criterion_main!(benches);
