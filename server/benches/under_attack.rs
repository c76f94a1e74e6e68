//! How long the requests of others take while one account does all at once that once stopped the server: an even split of 40 things among
//! eight walkers (signed in and by a link), purchases over months, swaps that exclude one another, and files that never come. And the most memory that
//! three imports of 20 000 lines take at once. Needs KEVYT_TEST_DATABASE_URL; `./kevyt bench` starts a database for it.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

mod walker;

use kevyt_testbed::Stage;
use reqwest::Method;
use reqwest::multipart::{Form, Part};
use serde_json::{Value, json};
use std::io::Write;
use std::net::TcpStream;
use std::time::{Duration, Instant};
use tokio::runtime::Runtime;
use tokio::task::JoinHandle;
use walker::{Walker, p95};

const REQUESTS: usize = 300;
/// Things that eight walkers share, swaps that are bought over months, swaps that exclude five others each.
const SHARED: usize = 40;
const BOUGHT: usize = 14;
const EXCLUSIVE: usize = 400;
const LINES: usize = 20_000;

async fn page(account: &Walker) -> Duration {
    let mut pages = Vec::new();
    for _ in 0..REQUESTS {
        let from = Instant::now();
        account.get("/api/gear?limit=100").await;
        pages.push(from.elapsed());
    }
    p95(pages)
}

/// A list whose things eight walkers share; and a link that opens it.
async fn shared(walker: &Walker) -> (String, String) {
    let list = walker.post("/api/lists", &json!({ "name": "shared" })).await["id"].as_str().unwrap().to_owned();
    for at in 0..SHARED {
        let line = format!("shared number-{at} {}g", 20 + at * 104_729 % 1_201);
        walker.post("/api/gear/line", &json!({ "line": line, "list": list })).await;
    }
    for at in 0..7 {
        walker.post(&format!("/api/lists/{list}/walkers"), &json!({ "name": format!("walker {at}") })).await;
    }
    let lines = walker.get(&format!("/api/lists/{list}/sheet")).await["lines"].clone();
    let moves = lines.as_array().unwrap().iter();
    let moves =
        moves.map(|line| json!({ "line": line["id"], "version": line["version"], "shared": true, "walker": null }));
    walker.post(&format!("/api/lists/{list}/carry"), &json!({ "moves": moves.collect::<Vec<_>>() })).await;
    let link = walker.post(&format!("/api/lists/{list}/links"), &json!({})).await;
    (list, link["secret"].as_str().unwrap().to_owned())
}

/// A list whose swaps sell what they replace, with a little money a month.
async fn monthly(walker: &Walker) -> String {
    let new = json!({ "name": "monthly", "target": "1 g", "budget": "9000" });
    let list = walker.post("/api/lists", &new).await;
    let (id, version) = (list["id"].as_str().unwrap().to_owned(), list["version"].clone());
    for at in 0..BOUGHT {
        let line = format!("bought number-{at} {}g", 400 + at * 104_729 % 1_201);
        walker.post("/api/gear/line", &json!({ "line": line, "list": id })).await;
    }
    for (at, line) in walker.get(&format!("/api/lists/{id}")).await["lines"].as_array().unwrap().iter().enumerate() {
        let add = json!([{ "name": "lighter", "weight": "5 g", "price": format!("{}", 90 + at * 37 % 101), "qty": 1 }]);
        let resale = format!("{}", 20 + at * 29 % 67);
        let swap =
            json!({ "kind": "replace", "remove": [{ "line": line["id"], "qty": 1 }], "add": add, "resale": resale });
        walker.post(&format!("/api/lists/{id}/swaps"), &swap).await;
    }
    let purse = json!({ "purse": { "now": "0", "month": "60", "resale_after_months": 12 } });
    walker.ask(Method::PATCH, &format!("/api/lists/{id}?version={version}"), &purse).await;
    id
}

/// Asks for all of it at once, whatever the answers; then writes something, so that all of it is calculated anew, and asks again.
fn again(clients: Vec<(reqwest::Client, String)>, writing: reqwest::RequestBuilder) -> JoinHandle<()> {
    tokio::spawn(async move {
        loop {
            let asked = clients.iter().map(|(http, url)| tokio::spawn(http.get(url).send()));
            for answer in asked.collect::<Vec<_>>() {
                drop(answer.await);
            }
            drop(writing.try_clone().unwrap().send().await);
        }
    })
}

/// The most memory that this process has had, server and all, in MB.
fn most_memory() -> u64 {
    let status = std::fs::read_to_string("/proc/self/status").unwrap();
    let line = status.lines().find(|line| line.starts_with("VmHWM")).unwrap();
    line.split_whitespace().nth(1).unwrap().parse::<u64>().unwrap() / 1_024
}

async fn import(walker: Walker) -> Value {
    let file = (0..LINES).map(|at| format!("imported number-{at},{},sleep,{}\n", 20 + at % 900, at % 300));
    let file = format!("name,weight_g,system,price\n{}", file.collect::<String>());
    let how = Part::text("{}").mime_str("application/json").unwrap();
    let form = Form::new().part("file", Part::bytes(file.into_bytes()).file_name("gear.csv")).part("how", how);
    let sent = walker.http.post(walker.at_path("/api/files/gear")).multipart(form).send().await.unwrap();
    sent.json().await.unwrap()
}

fn main() {
    let stage = Stage::start(false);
    Runtime::new().unwrap().block_on(async {
        let other = Walker::signed_up(&stage, "other").await;
        for at in 0..100 {
            other.post("/api/gear/line", &json!({ "line": format!("thing number-{at} 98g") })).await;
        }
        let walker = Walker::signed_up(&stage, "walker").await;
        let (list, secret) = shared(&walker).await;
        let (months, hard) = (monthly(&walker).await, walker.entangled(EXCLUSIVE, 5).await);
        let idle = page(&other).await;
        let at = |path: String| walker.at_path(&path);
        let mut all = Vec::new();
        for path in
            [format!("/api/lists/{list}/sheet"), format!("/api/lists/{months}/plan"), format!("/api/lists/{hard}/plan")]
        {
            all.push((walker.http.clone(), at(path)));
        }
        all.extend((0..12).map(|_| (reqwest::Client::new(), at(format!("/api/shared/{secret}")))));
        let writing = walker.http.post(at("/api/gear/line".to_owned())).json(&json!({ "line": "spoon 18g" }));
        let attack = again(all, writing);
        let address = stage.url.strip_prefix("http://").unwrap().to_owned();
        let open: Vec<TcpStream> = (0..6)
            .map(|_| {
                let mut socket = TcpStream::connect(&address).unwrap();
                let head = format!("POST /api/files/account HTTP/1.1\r\nHost: {address}\r\nTransfer-Encoding: chunked\r\n\r\n1\r\n{{\r\n");
                socket.write_all(head.as_bytes()).unwrap();
                socket
            })
            .collect();
        let busy = page(&other).await;
        attack.abort();
        drop(open);
        println!("95 of 100 pages of another account under {idle:.1?} with nothing else to do, {busy:.1?} beside all of it");

        let before = most_memory();
        let mut imports = Vec::new();
        for at in 0..3 {
            imports.push(tokio::spawn(import(Walker::signed_up(&stage, &format!("importer{at}")).await)));
        }
        for import in imports {
            assert_eq!(import.await.unwrap()["added"], LINES);
        }
        println!("the most memory: {before} MB before, {} MB after three imports of {LINES} lines at once", most_memory());
    });
}
