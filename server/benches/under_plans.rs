//! How long other requests and signing in take while eight hard plans are worked out, against when nothing else is done. Needs
//! KEVYT_TEST_DATABASE_URL; `./kevyt bench` starts a database for it.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

mod walker;

use kevyt_browser::Stage;
use serde_json::{Value, json};
use std::time::{Duration, Instant};
use tokio::runtime::Runtime;
use walker::Walker;

/// Accounts that plan, and requests of each kind that are timed.
const PLANS: usize = 8;
const REQUESTS: usize = 120;
/// Swaps of one list and how many others each excludes: no search ends on these.
const SWAPS: usize = 150;
const EXCLUDES: usize = 12;

/// A list with swaps that exclude one another every which way.
async fn entangled(walker: &Walker) -> String {
    let list = walker.post("/api/lists", &json!({ "name": "hard" })).await["id"].as_str().unwrap().to_owned();
    let mut swaps: Vec<Value> = Vec::new();
    for at in 0..SWAPS {
        let line = format!("thing number-{at} {}g", 20 + at * 104_729 % 1_201);
        walker.post("/api/gear/line", &json!({ "line": line, "list": list })).await;
    }
    let lines = walker.get(&format!("/api/lists/{list}")).await["lines"].clone();
    for (at, line) in lines.as_array().unwrap().iter().enumerate() {
        let others = (1..=EXCLUDES).map(|step| (at * 31 + step * step * 17) % SWAPS).filter(|other| *other < at);
        let excludes: Vec<Value> = others.map(|other| swaps[other].clone()).collect();
        let price = format!("{}", 1 + at * 7_919 % 401);
        let add = json!([{ "name": "lighter", "weight": "5 g", "price": price, "qty": 1 }]);
        let remove = json!([{ "line": line["id"], "qty": 1 }]);
        let swap = json!({ "kind": "replace", "remove": remove, "add": add, "excludes": excludes });
        swaps.push(walker.post(&format!("/api/lists/{list}/swaps"), &swap).await["id"].clone());
    }
    list
}

/// The time that 95 of 100 stay under.
fn p95(mut times: Vec<Duration>) -> Duration {
    times.sort_unstable();
    times[times.len() * 95 / 100]
}

async fn timed(account: &Walker) -> (Duration, Duration) {
    let (mut pages, mut doors) = (Vec::new(), Vec::new());
    for _ in 0..REQUESTS {
        let from = Instant::now();
        account.get("/api/gear?limit=100").await;
        pages.push(from.elapsed());
        let from = Instant::now();
        account.post("/api/session", &json!({ "name": "walker", "password": "correct horse" })).await;
        doors.push(from.elapsed());
    }
    (p95(pages), p95(doors))
}

fn main() {
    let stage = Stage::start(false);
    Runtime::new().unwrap().block_on(async {
        let walker = Walker::signed_up(&stage, "walker").await;
        for at in 0..100 {
            walker.post("/api/gear/line", &json!({ "line": format!("thing number-{at} 98g") })).await;
        }
        let mut planners = Vec::new();
        for at in 0..PLANS {
            let account = Walker::signed_up(&stage, &format!("planner{at}")).await;
            let list = entangled(&account).await;
            planners.push((account, list));
        }
        let idle = timed(&walker).await;
        let planning = planners.into_iter().map(|(account, list)| {
            tokio::spawn(async move {
                loop {
                    let plan = account.get(&format!("/api/lists/{list}/plan")).await;
                    assert_eq!(plan["proved"], false, "the plans are hard");
                    // Something is written, so that the next one is worked out anew.
                    account.post("/api/gear/line", &json!({ "line": "spoon 18g" })).await;
                }
            })
        });
        let planning: Vec<_> = planning.collect();
        tokio::time::sleep(Duration::from_secs(1)).await;
        let busy = timed(&walker).await;
        planning.iter().for_each(tokio::task::JoinHandle::abort);
        println!("95 of 100 requests under, idle and beside {PLANS} plans: a page {:.1?} and {:.1?}, signing in {:.1?} and {:.1?}", idle.0, busy.0, idle.1, busy.1);
    });
}
