//! Two hundred people who never wait, for half a minute: how many answers a second, how long they take, and what memory the server needs at most.
//! `./kevyt bench` runs it last.
#![allow(
    clippy::print_stdout,
    clippy::expect_used,
    clippy::unwrap_used,
    reason = "it measures, and tells the operator"
)]

use kevyt_faults::{Client, Mariadb, Server};
use reqwest::Method;
use serde_json::json;
use std::time::{Duration, Instant};

/// How many.
const PEOPLE: usize = 200;
/// For how long.
const TIME: Duration = Duration::from_secs(30);

/// Memory of a process in MB: now, and at most so far.
fn memory(id: u32) -> [u64; 2] {
    let status = std::fs::read_to_string(format!("/proc/{id}/status")).unwrap();
    ["VmRSS:", "VmHWM:"].map(|name| {
        let line = status.lines().find_map(|line| line.strip_prefix(name)).unwrap();
        line.trim().trim_end_matches(" kB").parse::<u64>().unwrap() / 1024
    })
}

#[tokio::main]
async fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    let server = Server::start(&database.url(), &[]);
    tokio::time::sleep(Duration::from_secs(2)).await;
    println!("with nothing to do: {} MB", memory(server.id())[0]);
    let mut people = Vec::new();
    for at in 0..PEOPLE {
        let client = Client::sign_up(&server.url, &format!("walker{at}")).await;
        let list = client.get(&server.url, "/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
        people.push((client, list));
    }
    let begun = Instant::now();
    let at_work = people.into_iter().map(|(client, list)| {
        let url = server.url.clone();
        tokio::spawn(async move {
            let pages = ["sheet", "plan", "swaps", "packing"].map(|page| format!("/api/lists/{list}/{page}"));
            let (mut took, mut failed) = (Vec::new(), 0);
            for turn in 0.. {
                if begun.elapsed() > TIME {
                    break;
                }
                let answer = match turn % 10 {
                    0 => {
                        let thing = json!({ "line": format!("thing {turn} 100g"), "source": "weighed", "list": list });
                        client.once(Method::POST, &url, "/api/gear/line", Some(thing)).await
                    }
                    1..=4 => client.get(&url, "/api/gear").await,
                    other => client.get(&url, &pages[other % 4]).await,
                };
                if !(200..300).contains(&answer.status) {
                    println!("{}: {}", answer.status, answer.body);
                    failed += 1;
                }
                took.push(answer.took);
            }
            (took, failed)
        })
    });
    let (mut took, mut failed) = (Vec::new(), 0);
    for person in futures_util::future::join_all(at_work).await {
        let (of_one, failures) = person.expect("somebody who ends");
        took.extend(of_one);
        failed += failures;
    }
    took.sort();
    let part = |percent: usize| took[took.len() * percent / 100];
    println!(
        "{PEOPLE} people: {} answers in {TIME:?}, {failed} failed; half within {:?}, 95 of 100 within {:?}; {} MB at most",
        took.len(),
        part(50),
        part(95),
        memory(server.id())[1]
    );
}
