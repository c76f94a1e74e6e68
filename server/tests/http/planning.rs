//! Plans that are hard to work out: they end, they are kept, and a client that leaves gives the place back.

use crate::client::Client;
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};
use std::time::{Duration, Instant};
use tokio::sync::OnceCell;

/// Swaps of a list, and how many others each excludes: no search ends on these within its 3 s.
const SWAPS: usize = 120;
const EXCLUDES: usize = 12;

/// The file of an account that has nothing but an entangled list. It is made once: with two hundred and forty writes that takes long.
static ENTANGLED: OnceCell<String> = OnceCell::const_new();

/// A list with swaps that exclude one another every which way, in place of all that an account has.
async fn entangled(stage: &Stage, client: &Client) -> String {
    let file = ENTANGLED.get_or_init(|| async {
        let maker = Client::signed_up(stage, "maker").await;
        tangle(&maker).await;
        maker.raw(Method::GET, "/api/files/account.json").send().await.unwrap().text().await.unwrap()
    });
    let restored = client.restore(file.await).await;
    assert_eq!(restored.status, 200, "{}", restored.body);
    let lists = client.get("/api/lists").await.body;
    let week = lists.as_array().unwrap().iter().find(|list| list["name"] == "Week").unwrap();
    week["id"].as_str().unwrap().to_owned()
}

/// Makes it, by lines and swaps.
async fn tangle(client: &Client) {
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

/// The plan of a list, and when it was there.
async fn plan(client: &Client, list: &str) -> (Value, Instant) {
    let answer = client.get(&format!("/api/lists/{list}/plan")).await;
    assert_eq!(answer.status, 200, "{}", answer.body);
    (answer.body, Instant::now())
}

/// Waits until a plan is being calculated.
async fn until_planning() {
    let begun = Instant::now();
    while kevyt::metrics::PLANS.get() == 0 {
        assert!(begun.elapsed() < Duration::from_secs(60), "no plan is calculated");
        tokio::time::sleep(Duration::from_millis(10)).await;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_hard_plan_ends_and_is_kept_until_something_is_written() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let hard = entangled(&stage, &client).await;
    let (first, _) = plan(&client, &hard).await;
    assert_eq!(first["proved"], false, "the plan was meant to be hard");
    // Where a search gets to in its time differs from one to the next: the same to the gram, it is the one that was kept.
    assert_eq!(plan(&client, &hard).await.0, first);
    client.line("spoon 18g", Some(&hard)).await;
    let (anew, _) = plan(&client, &hard).await;
    assert_eq!(anew["base_mg"].as_i64(), first["base_mg"].as_i64().map(|before| before + 18_000));
}

#[tokio::test(flavor = "multi_thread")]
async fn near_misses_come_after_their_plan_and_are_of_its_revision() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = easy(&client).await;
    let near = async || {
        let answer = client.get(&format!("/api/lists/{list}/plan/near-misses")).await;
        assert_eq!(answer.status, 200, "{}", answer.body);
        answer.body
    };
    let mut before = Value::Null;
    for round in 0..4 {
        // In any order, and at once.
        let (plan, near) = match round {
            0 => (plan(&client, &list).await.0, near().await),
            1 => {
                let near = near().await;
                (plan(&client, &list).await.0, near)
            }
            _ => {
                let (plan, near) = tokio::join!(plan(&client, &list), near());
                (plan.0, near)
            }
        };
        assert_eq!(near["revision"], plan["revision"], "round {round}");
        assert_ne!(plan["revision"], before, "round {round}");
        before = plan["revision"].clone();
        // Leaving the tent out is free: all that makes it fall out of the plan is to be paid for it.
        assert_eq!(near["near_misses"][0]["swap"], plan["swaps"][0]["id"], "round {round}: {near}");
        client.line("spoon 18g", Some(&list)).await;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_client_that_leaves_gives_the_place_back() {
    let stage = Stage::start(false);
    let (anna, bert) = tokio::join!(Client::signed_up(&stage, "anna"), Client::signed_up(&stage, "bert"));
    let (hard, same) = tokio::join!(entangled(&stage, &anna), entangled(&stage, &bert));
    let easy = easy(&anna).await;
    // An account has one plan calculated at a time. Anna leaves hers and asks for another; Bert stays until the time of his is over.
    let leaving = async {
        let request = anna.raw(Method::GET, &format!("/api/lists/{hard}/plan")).send();
        let left = tokio::time::timeout(Duration::from_millis(300), request).await;
        assert!(left.is_err(), "the plan was meant to be hard");
        plan(&anna, &easy).await.1
    };
    let ((_, stayed), left) = tokio::join!(plan(&bert, &same), leaving);
    assert!(left < stayed, "Anna waited for a plan that nobody wants any more");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_plan_that_waited_is_of_the_settings_of_its_revision() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let hard = entangled(&stage, &client).await;
    let year = async || client.get("/api/year").await.body;
    // The year waits behind the hard plan; its budget is said meanwhile.
    let behind = async {
        until_planning().await;
        let said = async {
            let account = client.get("/api/account").await.body;
            let mut change = json!({ "version": account["version"], "year_budget": "75" });
            for same in ["mass", "currency"] {
                change[same] = account[same].clone();
            }
            assert_eq!(client.patch("/api/account", change).await.status, 204);
        };
        tokio::join!(year(), said).0
    };
    let (_, waited) = tokio::join!(plan(&client, &hard), behind);
    let after = year().await;
    assert_eq!(after["budget_minor"], 7_500, "what is kept under a revision is of it");
    assert!(waited["revision"] != after["revision"] || waited == after, "one revision, two answers: {waited}");
}

#[tokio::test(flavor = "multi_thread")]
async fn eight_accounts_that_plan_at_once_are_all_answered_and_keep_nobody_out() {
    let stage = Stage::start(false);
    let walker = Client::signed_up(&stage, "walker").await;
    walker.line("mug 98g", None).await;
    let planners = futures_util::future::join_all((0..8).map(async |at| {
        let client = Client::new(&stage).sign_up(&format!("planner{at}")).await;
        let list = entangled(&stage, &client).await;
        (client, list)
    }));
    let planners = planners.await;
    let planning = futures_util::future::join_all(planners.iter().map(|(client, list)| plan(client, list)));
    let others = async {
        until_planning().await;
        // These end while the plans are still being calculated: four rounds of 3 s on two cores.
        let gear = walker.get("/api/gear").await;
        let entered = walker.post("/api/session", json!({ "name": "walker", "password": "correct horse" })).await;
        (gear.body["total"].clone(), entered.status, Instant::now())
    };
    let (plans, (total, entered, at)) = tokio::join!(planning, others);
    assert_eq!((total, entered), (json!(1), 201));
    assert!(at < plans.iter().map(|plan| plan.1).max().unwrap(), "others waited for the plans");
    for (plan, _) in plans {
        assert!(plan["plan"]["swaps"].as_array().is_some_and(|swaps| !swaps.is_empty()), "{plan}");
    }
}
