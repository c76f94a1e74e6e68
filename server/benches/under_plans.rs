//! How long other requests and signing in take while eight hard plans are calculated, against when nothing else is done. Needs
//! KEVYT_TEST_DATABASE_URL; `./kevyt bench` starts a database for it.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

mod walker;

use kevyt_testbed::Stage;
use serde_json::json;
use std::time::{Duration, Instant};
use tokio::runtime::Runtime;
use walker::{Walker, p95};

/// Accounts that plan, and requests of each kind that are timed.
const PLANS: usize = 8;
const REQUESTS: usize = 120;
/// Swaps of one list and how many others each excludes: no search ends on these.
const SWAPS: usize = 150;
const EXCLUDES: usize = 12;

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
            let list = account.entangled(SWAPS, EXCLUDES).await;
            planners.push((account, list));
        }
        let idle = timed(&walker).await;
        let planning = planners.into_iter().map(|(account, list)| {
            tokio::spawn(async move {
                loop {
                    let plan = account.get(&format!("/api/lists/{list}/plan")).await;
                    assert_eq!(plan["proved"], false, "the plans are hard");
                    // Something is written, so that the next one is calculated anew.
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
