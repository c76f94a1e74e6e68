//! A cluster of three nodes with two servers on it: what one has answered the other knows, of two edits one wins, and nothing that was
//! acknowledged is lost when nodes are killed.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::print_stdout)]

use futures_util::future::{join, join_all};
use kevyt_faults::{Answer, Client, Cluster, Server};
use reqwest::Method;
use serde_json::json;
use std::collections::BTreeSet;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering::Relaxed};
use std::time::Duration;

fn start() -> (tempfile::TempDir, Cluster, [Server; 2]) {
    let folder = tempfile::tempdir().unwrap();
    let cluster = Cluster::start(folder.path());
    let servers = [0, 1].map(|at| Server::start(&cluster.url(at), &[]));
    (folder, cluster, servers)
}

async fn line(client: &Client, url: &str, line: &str) -> Answer {
    client.until_answered(Method::POST, url, "/api/gear/line", json!({ "line": line, "source": "weighed" })).await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_one_server_has_answered_the_other_knows_and_of_two_edits_one_wins() {
    let (_folder, _cluster, [here, there]) = start();
    // Sessions.
    for at in 0..30 {
        let client = Client::sign_up(&here.url, &format!("walker{at}")).await;
        assert_eq!(client.get(&there.url, "/api/account").await.status, 200, "session {at} is known on the other node");
    }
    // Reads after a write.
    let client = Client::sign_up(&here.url, "anna").await;
    for at in 0..100 {
        let made = line(&client, &here.url, &format!("thing {at} 100g")).await;
        let path = format!("/api/gear/{}", made.body["id"].as_str().unwrap());
        assert_eq!(client.get(&there.url, &path).await.status, 200, "thing {at} is there on the other node");
    }
    // Edits of one version, on both at once.
    let made = line(&client, &here.url, "tent 1910g").await;
    let (id, mut tries) = (made.body["id"].as_str().unwrap().to_owned(), 0);
    let pairs: i32 = std::env::var("KEVYT_EDITS").map_or(300, |pairs| pairs.parse().unwrap());
    for version in 1..=pairs {
        let path = format!("/api/gear/{id}?version={version}");
        let edit = |url: &str, name: &str| {
            let (client, url, path, body) = (client.clone(), url.to_owned(), path.clone(), json!({ "name": name }));
            async move { client.until_answered(Method::PATCH, &url, &path, body).await }
        };
        let (one, other) =
            join(edit(&here.url, &format!("tent {version} here")), edit(&there.url, &format!("tent {version} there")))
                .await;
        let mut statuses = [one.status, other.status];
        statuses.sort_unstable();
        let now = client.get(&here.url, &format!("/api/gear/{id}")).await.body;
        assert_eq!(statuses, [200, 409], "edit {version}: {one:?}, {other:?}, now {now}");
        tries += i32::try_from(one.tries + other.tries).unwrap();
    }
    println!("{pairs} pairs of edits took {tries} tries");
    assert!(tries <= pairs * 2 + 10, "{tries} tries");
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_acknowledged_is_lost_when_nodes_are_killed() {
    let kills: usize = std::env::var("KEVYT_KILLS").map_or(50, |kills| kills.parse().unwrap());
    let (_folder, mut cluster, servers) = start();
    let urls = servers.each_ref().map(|server| server.url.clone());
    let done = Arc::new(AtomicBool::new(false));
    // Before anything is killed: an account is made once, not until it is answered.
    let names = ["walker0", "walker1", "walker2", "walker3"];
    let clients = join_all(names.map(|name| Client::sign_up(&urls[0], name))).await;
    let writers = clients.into_iter().enumerate().map(|(at, client)| {
        let (urls, done) = (urls.clone(), Arc::clone(&done));
        tokio::spawn(async move {
            let (mut kept, mut longest, mut failed) = (BTreeSet::new(), Duration::ZERO, Vec::new());
            for number in 0.. {
                if done.load(Relaxed) {
                    break;
                }
                let name = format!("thing {at} {number}");
                let answer = line(&client, &urls[number % 2], &format!("{name} 100g")).await;
                longest = longest.max(answer.took);
                if answer.status == 201 {
                    kept.insert(name);
                } else {
                    failed.push(answer);
                }
            }
            (kept, longest, failed)
        })
    });
    let writers: Vec<_> = writers.collect();
    for kill in 0..kills {
        tokio::time::sleep(Duration::from_millis(700)).await;
        let at = (kill * 7 + kill / 3) % 3;
        cluster.node(at).kill();
        // As whatever watches over it would, it is started again once the others have gone on without it.
        tokio::time::sleep(Duration::from_secs(3)).await;
        cluster.start_again(at);
        cluster.wait_until_synced(at);
    }
    done.store(true, Relaxed);
    let mut everything = BTreeSet::new();
    for writer in join_all(writers).await {
        let (kept, longest, failed) = writer.unwrap();
        println!("{} acknowledged, the longest took {longest:?}, {} not answered", kept.len(), failed.len());
        // How long it takes is told, not asserted: beside other work each step is slower. What is not answered is said to be so.
        assert!(failed.iter().all(|answer| answer.status == 503), "{failed:?}");
        everything.extend(kept);
    }
    println!("{kills} kills, {} acknowledged writes", everything.len());
    for at in 0..3 {
        cluster.wait_until_synced(at);
        let names = cluster.node(at).ask("SELECT name FROM gear").unwrap();
        let names: Vec<&str> = names.lines().collect();
        let once: BTreeSet<&str> = names.iter().copied().collect();
        assert_eq!(names.len(), once.len(), "nothing is there twice on node {at}");
        let lost: Vec<_> = everything.iter().filter(|name| !once.contains(name.as_str())).collect();
        assert!(lost.is_empty(), "lost on node {at}: {lost:?}");
    }
}
