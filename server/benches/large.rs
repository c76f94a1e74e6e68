//! A large account: 5 000 things with 11 weighings each, all on one list with 1 000 swaps; its file read in, taken back and given out; its
//! plan, and a line of it moved. Needs KEVYT_TEST_DATABASE_URL; `./kevyt bench` starts a database for it.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

mod walker;

use criterion::{Criterion, criterion_group, criterion_main};
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};
use std::time::Instant;
use tokio::runtime::Runtime;
use walker::Walker;

const THINGS: usize = 5_000;
const WEIGHINGS: usize = 11;
const SWAPS: usize = 1_000;
/// Things of the second list, with as many swaps.
const FEW: usize = 100;

/// The file of an account: `empty` is one with nothing in it but a list.
fn account(empty: &Value) -> Value {
    // Figures that repeat nowhere near each other.
    let grams = |at: usize| 5 + at * 7_919 % 35;
    let weight =
        |grams: usize, source: &str| json!({ "mg": grams * 1_000, "typed": format!("{grams} g"), "source": source });
    let gear: Vec<Value> = (0..THINGS)
        .map(|at| {
            let weighing = |time: usize| {
                let day = format!("2026-{:02}-{:02}T08:00:00", 1 + time, 1 + at % 28);
                json!({ "total_mg": (grams(at) + time) * 1_000, "pieces": 1, "step_mg": 1_000,
                    "typed": format!("{} g", grams(at) + time), "scale": "kitchen", "at": day })
            };
            json!({ "key": format!("g{}", at + 1), "name": format!("thing no. {at}"), "system": "other", "count": 1,
                "weight": weight(grams(at), "weighed"), "acquired": "new", "status": "owned", "kept_at": "", "tags": [], "nights": 0,
                "provides": {}, "needs": {}, "facts": {}, "weighings": (0..WEIGHINGS).map(weighing).collect::<Vec<_>>() })
        })
        .collect();
    let list = |name: &str, things: usize, first: usize| {
        let lines: Vec<Value> = (0..things)
            .map(|at| json!({ "gear": format!("g{}", at + 1), "carried": 1, "worn": 0, "used_up": 0, "off": false }))
            .collect();
        let swap = |at: usize| {
            let side = |what: String| json!([{ "what": what, "qty": 1, "place": "carried" }]);
            json!({ "key": format!("s{}", at + 1), "name": format!("swap no. {at}"), "kind": "replace", "state": "open",
                "delivery_minor": 0, "resale_minor": 0, "tenth_hours": 0, "remove": side(format!("g{}", 1 + at * 104_729 % things)),
                "add": side(format!("c{}", first + at + 1)), "requires": [], "excludes": [] })
        };
        let mut list = empty["lists"][0].clone();
        let target = things * 17;
        list["name"] = json!(name);
        list["target"] = json!({ "mg": target * 1_000, "typed": format!("{target} g") });
        list["budget_minor"] = json!(100_000);
        list["lines"] = json!(lines);
        list["swaps"] = json!((0..SWAPS).map(swap).collect::<Vec<_>>());
        list
    };
    let candidate = |at: usize| {
        let price = 400 + at * 6_151 % 39_600 / 50 * 50;
        json!({ "key": format!("c{}", at + 1), "name": format!("candidate no. {at}"), "weight": weight(1 + at * 3_571 % 34, "maker"),
            "price": { "low_minor": price, "high_minor": price }, "provides": {}, "needs": {}, "facts": {} })
    };
    let mut file = empty.clone();
    file["gear"] = json!(gear);
    file["candidates"] = json!((0..2 * SWAPS).map(candidate).collect::<Vec<_>>());
    file["lists"] = json!([list("All", THINGS, 0), list("Few", FEW, SWAPS)]);
    file
}

/// Moves the first thing of a list from one place to another, so that its plan is calculated anew.
async fn moved(walker: &Walker, list: &str, line: &Value) -> Value {
    let (carried, left) = if line["carried"] == 1 { (0, 1) } else { (1, 0) };
    let counts = json!({ "carried": carried, "left": left, "version": line["version"] });
    let at = format!("/api/lists/{list}/lines/{}", line["gear"]["id"].as_str().unwrap());
    walker.ask(Method::PUT, &at, &counts).await
}

fn large(criterion: &mut Criterion) {
    let stage = Stage::start(false);
    let runtime = Runtime::new().unwrap();
    let walker = runtime.block_on(Walker::signed_up(&stage, "large"));
    let lists = runtime.block_on(async {
        let file = account(&walker.get("/api/files/account.json").await);
        let begun = Instant::now();
        let (_, change) = walker.changing(Method::POST, "/api/files/account", &file).await;
        println!("the file read in: {:.2?}", begun.elapsed());
        let begun = Instant::now();
        let whole = walker.get("/api/files/account.json").await;
        println!(
            "given out: {:.2?}, {} MB",
            begun.elapsed(),
            serde_json::to_vec_pretty(&whole).unwrap().len() / 1_000_000
        );
        let begun = Instant::now();
        let (_, undone) = walker.changing(Method::POST, &format!("/api/changes/{change}/undo"), &json!({})).await;
        println!("taken back: {:.2?}", begun.elapsed());
        walker.post(&format!("/api/changes/{undone}/undo"), &json!({})).await;
        assert_eq!(walker.get("/api/files/account.json").await, whole, "the same after undo and redo");
        walker.get("/api/lists").await
    });
    let mut group = criterion.benchmark_group("5000 things");
    group.sample_size(10);
    for list in lists.as_array().unwrap() {
        let (id, name) = (list["id"].as_str().unwrap(), list["name"].as_str().unwrap());
        let mut line = runtime.block_on(walker.get(&format!("/api/lists/{id}")))["lines"][0].clone();
        group.bench_function(format!("{name}: a line moved"), |bencher| {
            bencher.iter(|| line = runtime.block_on(moved(&walker, id, &line)));
        });
        let plan = format!("/api/lists/{id}/plan");
        group.bench_function(format!("{name}: a line moved and 1000 swaps planned"), |bencher| {
            bencher.iter(|| {
                line = runtime.block_on(moved(&walker, id, &line));
                runtime.block_on(walker.bytes(&plan))
            });
        });
        group.bench_function(format!("{name}: the plan from memory"), |bencher| {
            bencher.iter(|| runtime.block_on(walker.bytes(&plan)));
        });
    }
    group.finish();
}

criterion_group!(benches, large);
criterion_main!(benches);
