//! Twenty people at work for twenty minutes: memory and handles of the server stay as they are. `./kevyt test --soak`; `KEVYT_SOAK` minutes.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::print_stdout)]

use futures_util::future::join_all;
use kevyt_faults::{Client, Mariadb, Server};
use reqwest::Method;
use serde_json::json;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering::Relaxed};
use std::time::{Duration, Instant};

/// Memory in kB, and open handles, of a process.
fn of_process(id: u32) -> (u64, u64) {
    let status = std::fs::read_to_string(format!("/proc/{id}/status")).unwrap();
    let memory = status.lines().find_map(|line| line.strip_prefix("VmRSS:")).unwrap();
    let memory = memory.trim().trim_end_matches(" kB").parse().unwrap();
    let handles = std::fs::read_dir(format!("/proc/{id}/fd")).unwrap().count();
    (memory, u64::try_from(handles).unwrap())
}

#[tokio::test(flavor = "multi_thread")]
#[ignore = "twenty minutes: ./kevyt test --soak"]
async fn memory_and_handles_stay_as_they_are() {
    let minutes: u64 = std::env::var("KEVYT_SOAK").map_or(20, |minutes| minutes.parse().unwrap());
    let folder = tempfile::tempdir().unwrap();
    let database = Mariadb::start(&folder.path().join("db"), &["--innodb-flush-log-at-trx-commit=0"]);
    let server = Server::start(&database.url(), &[]);
    let (done, answers) = (Arc::new(AtomicBool::new(false)), Arc::new(AtomicU64::new(0)));
    let walkers = (0..20).map(|at| {
        let (url, done, answers) = (server.url.clone(), Arc::clone(&done), Arc::clone(&answers));
        tokio::spawn(async move {
            let client = Client::sign_up(&url, &format!("walker{at}")).await;
            let list = client.get(&url, "/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
            let pages = ["/api/gear".to_owned(), "/api/lists".to_owned(), "/api/lessons".to_owned()];
            let pages = pages
                .into_iter()
                .chain(["sheet", "plan", "swaps", "packing"].map(|page| format!("/api/lists/{list}/{page}")));
            let pages: Vec<String> = pages.collect();
            // The account stays as large as it is: what is added is removed.
            while !done.load(Relaxed) {
                let thing = json!({ "line": "tent 1910g 320eur", "source": "weighed", "list": list });
                let made = client.once(Method::POST, &url, "/api/gear/line", Some(thing)).await;
                assert_eq!(made.status, 201, "{made:?}");
                for page in &pages {
                    let answer = client.get(&url, page).await;
                    assert!(answer.status < 300, "{answer:?}");
                }
                let path = format!("/api/gear/{}?version=1", made.body["id"].as_str().unwrap());
                let gone = client.once(Method::DELETE, &url, &path, None).await;
                assert!(gone.status < 300, "{gone:?}");
                answers.fetch_add(2 + u64::try_from(pages.len()).unwrap(), Relaxed);
            }
        })
    });
    let walkers: Vec<_> = walkers.collect();
    let (begun, whole) = (Instant::now(), Duration::from_secs(minutes * 60));
    let mut samples = Vec::new();
    while begun.elapsed() < whole {
        tokio::time::sleep(Duration::from_secs(2)).await;
        samples.push(of_process(server.id()));
    }
    done.store(true, Relaxed);
    join_all(walkers).await.into_iter().for_each(|walker| walker.unwrap());
    let quarter = samples.len() / 4;
    let mean = |samples: &[(u64, u64)]| {
        let sum = samples.iter().fold((0, 0), |sum, sample| (sum.0 + sample.0, sum.1 + sample.1));
        let count = u64::try_from(samples.len()).unwrap();
        (sum.0 / count, sum.1 / count)
    };
    let (early, late) = (mean(&samples[quarter..2 * quarter]), mean(&samples[3 * quarter..]));
    println!("{} answers; kB and handles in the second quarter {early:?}, in the last {late:?}", answers.load(Relaxed));
    assert!(late.0 <= early.0 * 11 / 10, "memory grows: {early:?} to {late:?}");
    assert!(late.1 <= early.1 + 5, "handles grow: {early:?} to {late:?}");
}
