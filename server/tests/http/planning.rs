//! Plans that are hard to work out: they end, they are kept, and whoever leaves gives the place back.

use crate::client::Client;
use kevyt_browser::Stage;
use serde_json::{Value, json};
use std::time::{Duration, Instant};

/// Swaps of a list, and how many others each excludes: no search ends on these within its 3 s.
const SWAPS: usize = 120;
const EXCLUDES: usize = 12;

/// A list with swaps that exclude one another every which way.
async fn entangled(client: &Client) -> String {
    let list = client.list("1 kg", "2000").await;
    for at in 0..SWAPS {
        client.line(&format!("thing number-{at} {}g", 20 + at * 104_729 % 1_201), Some(&list)).await;
    }
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    let mut swaps: Vec<String> = Vec::new();
    for (at, line) in lines.as_array().unwrap().iter().enumerate() {
        let others = (1..=EXCLUDES).map(|step| (at * 31 + step * step * 17) % SWAPS).filter(|other| *other < at);
        let excludes: Vec<Value> = others.map(|other| json!(swaps[other])).collect();
        let price = format!("{}", 1 + at * 7_919 % 401);
        let swap = json!({
            "kind": "replace", "remove": [{ "line": line["id"], "qty": 1 }], "excludes": excludes,
            "add": [{ "name": "lighter", "weight": "5 g", "price": price, "qty": 1 }],
        });
        swaps.push(client.post(&format!("/api/lists/{list}/swaps"), swap).await.id().to_owned());
    }
    list
}

/// A list with one swap, in the same account.
async fn easy(client: &Client) -> String {
    let list = client.list("1 kg", "300").await;
    client.line("tent 1910g", Some(&list)).await;
    let line = client.get(&format!("/api/lists/{list}")).await.body["lines"][0]["id"].clone();
    let leave = json!({ "kind": "leave_out", "remove": [{ "line": line, "qty": 1 }] });
    assert_eq!(client.post(&format!("/api/lists/{list}/swaps"), leave).await.status, 201);
    list
}

async fn timed(client: &Client, list: &str) -> (Duration, Value) {
    let from = Instant::now();
    let answer = client.get(&format!("/api/lists/{list}/plan")).await;
    assert_eq!(answer.status, 200, "{}", answer.body);
    (from.elapsed(), answer.body)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_hard_plan_ends_is_kept_and_is_worked_out_for_nobody_who_has_left() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let hard = entangled(&client).await;
    let easy = easy(&client).await;

    // It ends when its time is over, and says that better may exist: the limit is 3 s, the rest is for a busy machine.
    let (took, plan) = timed(&client, &hard).await;
    assert_eq!(plan["proved"], false, "the plan was meant to be hard");
    assert!(took > Duration::from_secs(1) && took < Duration::from_secs(9), "{took:?}");

    // Asked again with nothing written, it is the same one and not worked out.
    let (took, again) = timed(&client, &hard).await;
    assert_eq!(again, plan);
    assert!(took < Duration::from_secs(1), "{took:?} for what was worked out");

    // Once something is written it is worked out anew, and what was written is in it.
    let before = plan["base_mg"].as_i64().unwrap();
    client.line("spoon 18g", Some(&hard)).await;
    let (took, anew) = timed(&client, &hard).await;
    assert_eq!(anew["base_mg"].as_i64().unwrap(), before + 18_000);
    assert!(took > Duration::from_secs(1), "{took:?}: it can't have been worked out");

    // An account has one plan worked out at a time; whoever leaves lets the next one go on at once, not after 3 s.
    let mut shortest = Duration::MAX;
    for round in 0..3 {
        client.line(&format!("stake number-{round} 8g"), None).await;
        let hard = client.raw(reqwest::Method::GET, &format!("/api/lists/{hard}/plan"));
        let left = tokio::time::timeout(Duration::from_millis(300), hard.send()).await;
        assert!(left.is_err(), "the plan was meant to be hard");
        let t = timed(&client, &easy).await.0;
        shortest = shortest.min(t);
    }
    assert!(shortest < Duration::from_secs(2), "{shortest:?} behind a plan that nobody waits for");
}

#[tokio::test(flavor = "multi_thread")]
async fn eight_accounts_that_plan_at_once_are_all_answered_and_keep_nobody_out() {
    let stage = Stage::start(false);
    let walker = Client::signed_up(&stage, "walker").await;
    walker.line("mug 98g", None).await;
    let planners = futures_util::future::join_all((0..8).map(async |at| {
        let client = Client::new(&stage).sign_up(&format!("planner{at}")).await;
        let list = entangled(&client).await;
        (client, list)
    }));
    let planners = planners.await;
    let planning = futures_util::future::join_all(planners.iter().map(|(client, list)| timed(client, list)));
    let others = async {
        tokio::time::sleep(Duration::from_millis(500)).await;
        // These end while the plans are still being worked out: four rounds of 3 s on two cores.
        let gear = walker.get("/api/gear").await;
        let entered = walker.post("/api/session", json!({ "name": "walker", "password": "correct horse" })).await;
        (gear.body["total"].clone(), entered.status, Instant::now())
    };
    let asked = Instant::now();
    let (plans, (total, entered, at)) = tokio::join!(planning, others);
    assert_eq!((total, entered), (json!(1), 201));
    assert!(at < asked + plans.iter().map(|plan| plan.0).max().unwrap(), "others waited for the plans");
    for (_, plan) in plans {
        assert!(plan["plan"]["swaps"].as_array().is_some_and(|swaps| !swaps.is_empty()), "{plan}");
    }
}
