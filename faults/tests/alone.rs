//! One database, one server: killed, paused, filled up, slow; and servers that are killed or told to stop.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::print_stdout)]

use futures_util::future::join_all;
use kevyt_faults::{Answer, Client, Mariadb, Server, free_port};
use reqwest::Method;
use serde_json::json;
use std::collections::BTreeSet;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering::Relaxed};
use std::time::{Duration, Instant};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};

async fn line(client: &Client, url: &str, line: &str) -> Answer {
    client.until_answered(Method::POST, url, "/api/gear/line", json!({ "line": line, "source": "weighed" })).await
}

/// Four people who write until they are told to stop. What was acknowledged, and the longest wait.
struct Writers {
    done: Arc<AtomicBool>,
    at_work: Vec<tokio::task::JoinHandle<(BTreeSet<String>, Duration)>>,
}

impl Writers {
    async fn start(url: &str) -> Writers {
        let done = Arc::new(AtomicBool::new(false));
        let clients = join_all((0..4).map(async |at| Client::sign_up(url, &format!("walker{at}")).await)).await;
        let writer = |(at, client): (usize, Client)| {
            let (url, done) = (url.to_owned(), Arc::clone(&done));
            tokio::spawn(async move {
                let (mut kept, mut longest) = (BTreeSet::new(), Duration::ZERO);
                for number in 0.. {
                    if done.load(Relaxed) {
                        break;
                    }
                    let name = format!("thing {at} {number}");
                    let answer = line(&client, &url, &format!("{name} 100g")).await;
                    assert_eq!(answer.status, 201, "{answer:?}");
                    longest = longest.max(answer.took);
                    kept.insert(name);
                }
                (kept, longest)
            })
        };
        let at_work = clients.into_iter().enumerate().map(writer).collect();
        Writers { done, at_work }
    }

    /// Stops them, and looks whether the database has all that was acknowledged, once.
    async fn stop(self, database: &Mariadb) {
        self.done.store(true, Relaxed);
        let (mut everything, mut longest) = (BTreeSet::new(), Duration::ZERO);
        for writer in join_all(self.at_work).await {
            let (kept, waited) = writer.unwrap();
            everything.extend(kept);
            longest = longest.max(waited);
        }
        let names = database.ask("SELECT name FROM gear").unwrap();
        let names: Vec<&str> = names.lines().collect();
        let once: BTreeSet<&str> = names.iter().copied().collect();
        println!("{} acknowledged, the longest after {longest:?}", everything.len());
        assert_eq!(names.len(), once.len(), "nothing is there twice");
        let lost: Vec<_> = everything.iter().filter(|name| !once.contains(name.as_str())).collect();
        assert!(lost.is_empty(), "lost: {lost:?}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_acknowledged_is_lost_when_the_database_is_killed() {
    let folder = tempfile::tempdir().unwrap();
    let mut database = Mariadb::start(&folder.path().join("db"), &[]);
    let server = Server::start(&database.url(), &[]);
    let writers = Writers::start(&server.url).await;
    for _ in 0..20 {
        tokio::time::sleep(Duration::from_millis(700)).await;
        database.kill();
        database.run(&[]);
    }
    writers.stop(&database).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_acknowledged_is_lost_when_the_server_is_killed() {
    let folder = tempfile::tempdir().unwrap();
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    let listen = format!("127.0.0.1:{}", free_port());
    let mut server = Server::at(&listen, &database.url(), &[]);
    let writers = Writers::start(&server.url).await;
    for _ in 0..60 {
        tokio::time::sleep(Duration::from_millis(400)).await;
        server.kill();
        server = Server::at(&listen, &database.url(), &[]);
    }
    writers.stop(&database).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_server_that_is_told_to_stop_ends_what_runs() {
    let folder = tempfile::tempdir().unwrap();
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    let mut server = Server::start(&database.url(), &[]);
    let client = Client::sign_up(&server.url, "anna").await;
    let url = server.url.clone();
    // Under way when the order comes: all of it is answered.
    let asked = (0..12).map(|at| {
        let (client, url) = (client.clone(), url.clone());
        let body = json!({ "line": format!("thing {at} 100g"), "source": "weighed" });
        tokio::spawn(async move { client.once(Method::POST, &url, "/api/gear/line", Some(body)).await.status })
    });
    let asked: Vec<_> = asked.collect();
    tokio::time::sleep(Duration::from_millis(15)).await;
    let begun = Instant::now();
    let ended = tokio::task::spawn_blocking(move || server.stop()).await.unwrap();
    println!("ended after {:?}", begun.elapsed());
    assert!(ended.success(), "{ended}");
    let answered = join_all(asked).await.into_iter().filter(|status| *status.as_ref().unwrap() == 201).count();
    let kept: usize = database.ask("SELECT COUNT(*) FROM gear").unwrap().parse().unwrap();
    assert_eq!(answered, kept, "what was written was answered, and the other way round");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_database_that_is_paused_holds_nobody_up() {
    let folder = tempfile::tempdir().unwrap();
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    let server = Server::start(&database.url(), &[]);
    let client = Client::sign_up(&server.url, "anna").await;
    assert_eq!(client.get(&server.url, "/api/health").await.status, 204);
    database.pause();
    let body = || json!({ "line": "tent 1910g", "source": "weighed" });
    let asked = (0..30).map(|at| {
        let (client, url) = (client.clone(), server.url.clone());
        async move {
            match at % 3 {
                0 => client.get(&url, "/api/gear").await,
                1 => client.once(Method::POST, &url, "/api/gear/line", Some(body())).await,
                _ => client.get(&url, "/api/health").await,
            }
        }
    });
    let answers = join_all(asked).await;
    println!("the longest wait was {:?}", answers.iter().map(|answer| answer.took).max());
    for answer in answers {
        assert_eq!(answer.status, 503, "{answer:?}");
        assert!(answer.body["request"].is_string(), "{answer:?}");
    }
    // What needs no database is there meanwhile.
    let vocabulary = client.get(&server.url, "/api/vocabulary").await;
    assert_eq!(vocabulary.status, 200, "{vocabulary:?}");
    println!("what needs no database took {:?}", vocabulary.took);
    database.go_on();
    let begun = Instant::now();
    while client.get(&server.url, "/api/health").await.status != 204 {
        assert!(begun.elapsed() < Duration::from_secs(120), "it does not come back");
    }
    println!("it was back after {:?}", begun.elapsed());
    let things = || database.ask("SELECT COUNT(*) FROM gear").unwrap().parse::<i64>().unwrap();
    let before = things();
    assert_eq!(line(&client, &server.url, "tent 1910g").await.status, 201);
    assert_eq!(things(), before + 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_database_that_is_full_or_may_not_be_written_is_said_so() {
    let folder = tempfile::tempdir().unwrap();
    let full = ["--innodb-file-per-table=0", "--innodb-data-file-path=ibdata1:12M:autoextend:max:24M"];
    let database = Mariadb::start(&folder.path().join("db"), &full);
    let server = Server::start(&database.url(), &[]);
    let client = Client::sign_up(&server.url, "anna").await;
    let note = "x".repeat(400);
    let (mut kept, mut refused) = (0, None);
    for at in 0..60 {
        let rows: Vec<String> = (0..400).map(|row| format!("thing {at} {row},100 g,{note}")).collect();
        let file = format!("name,weight,kept at\n{}\n", rows.join("\n"));
        let answer = client.upload(&server.url, &file).await;
        if answer.status != 200 {
            refused = Some(answer);
            break;
        }
        kept += 400;
    }
    let refused = refused.expect("a database that is full in the end");
    assert_eq!((refused.status, refused.body["code"].as_str()), (507, Some("full")), "{refused:?}");
    println!("full after {kept} things: {}", refused.body["detail"]);
    let things = database.ask("SELECT COUNT(*) FROM gear").unwrap();
    assert_eq!(things, kept.to_string(), "all of a file is there, or nothing");
    assert_eq!(client.get(&server.url, "/api/gear?limit=1").await.status, 200, "reading goes on");
}

/// Passes everything on to a database with a delay in each direction.
async fn slow(to: String, delay: Duration) -> String {
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap().to_string();
    tokio::spawn(async move {
        while let Ok((client, _)) = listener.accept().await {
            let server = TcpStream::connect(&to).await.unwrap();
            let ((read_client, write_client), (read_server, write_server)) = (client.into_split(), server.into_split());
            for (mut from, mut to) in [(read_client, write_server), (read_server, write_client)] {
                tokio::spawn(async move {
                    let mut bytes = vec![0; 16 * 1024];
                    while let Ok(length @ 1..) = from.read(&mut bytes).await {
                        tokio::time::sleep(delay).await;
                        if to.write_all(&bytes[..length]).await.is_err() {
                            break;
                        }
                    }
                });
            }
        }
    });
    address
}

#[tokio::test(flavor = "multi_thread")]
async fn a_slow_network_makes_it_slow_and_nothing_else() {
    let folder = tempfile::tempdir().unwrap();
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    // Brought up to date near by; used from afar.
    drop(Server::start(&database.url(), &[]));
    let far = slow(database.host(), Duration::from_millis(10)).await;
    let url = database.url().replace(&database.host(), &far);
    let server = tokio::task::spawn_blocking(move || Server::start(&url, &[])).await.unwrap();
    let writers = Writers::start(&server.url).await;
    tokio::time::sleep(Duration::from_secs(8)).await;
    writers.stop(&database).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_who_write_one_list_in_either_order_never_block_each_other() {
    let folder = tempfile::tempdir().unwrap();
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    let servers = [Server::start(&database.url(), &[]), Server::start(&database.url(), &[])];
    let [here, there] = servers.each_ref().map(|server| server.url.as_str());
    let (anna, bert) = (Client::sign_up(here, "anna").await, Client::sign_up(there, "bert").await);
    let list = anna.get(here, "/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
    for at in 0..12 {
        let thing = json!({ "line": format!("thing {at} 100g"), "source": "weighed", "list": list });
        assert_eq!(anna.once(Method::POST, here, "/api/gear/line", Some(thing)).await.status, 201);
    }
    let seat =
        anna.once(Method::POST, here, &format!("/api/lists/{list}/walkers"), Some(json!({ "name": "Bert" }))).await;
    let link = json!({ "walker": seat.body["id"], "days": 14 });
    let link = anna.once(Method::POST, here, &format!("/api/lists/{list}/links"), Some(link)).await;
    let secret = &link.body["secret"];
    assert_eq!(bert.once(Method::POST, there, "/api/joined", Some(json!({ "secret": secret }))).await.status, 200);
    let mug = line(&bert, there, "mug 98g").await.body["id"].as_str().unwrap().to_owned();

    // Each moves only what is carried by no other: what is shared.
    let sheet = anna.get(here, &format!("/api/lists/{list}")).await.body;
    let shared = sheet["lines"].as_array().unwrap().iter();
    let shared =
        shared.map(|line| json!({ "line": line["id"], "version": line["version"], "shared": true, "walker": null }));
    let shared = json!({ "moves": shared.collect::<Vec<_>>() });
    let carry = format!("/api/lists/{list}/carry");
    assert_eq!(anna.once(Method::POST, here, &carry, Some(shared)).await.status, 204);

    let packing = anna.get(here, &format!("/api/lists/{list}/packing")).await.body;
    let lines: Vec<String> =
        packing["things"].as_array().unwrap().iter().map(|thing| thing["line"].as_str().unwrap().to_owned()).collect();
    let tick = |client: Client, url: String, order: Vec<String>| {
        let list = list.clone();
        tokio::spawn(async move {
            let mut longest = Duration::ZERO;
            for round in 0..15 {
                for line in &order {
                    let path = format!("/api/lists/{list}/packing/{line}");
                    let answer = client.once(Method::PUT, &url, &path, Some(json!({ "is_in": round % 2 == 0 }))).await;
                    assert!(answer.status < 300, "{answer:?}");
                    longest = longest.max(answer.took);
                }
            }
            longest
        })
    };
    let backwards: Vec<String> = lines.iter().rev().cloned().collect();
    let ticking = [tick(anna.clone(), here.to_owned(), lines), tick(bert.clone(), there.to_owned(), backwards)];
    for round in 0..30 {
        // All lines of the list at once, from the owner; a line of one's own, from the partner; the list itself, copied.
        let (unpacked, put) = (format!("/api/lists/{list}/packing"), format!("/api/lists/{list}/lines/{mug}"));
        let copy = format!("/api/lists/{list}/copies");
        let pieces = json!({ "carried": round % 2, "worn": (round + 1) % 2 });
        let deeds = [
            anna.once(Method::DELETE, here, &unpacked, None),
            bert.once(Method::PUT, there, &put, Some(pieces)),
            anna.once(Method::POST, here, &copy, Some(json!({ "name": "Again" }))),
        ];
        for answer in join_all(deeds).await {
            assert!(answer.status < 300 || answer.status == 409, "{answer:?}");
        }
    }
    for longest in join_all(ticking).await {
        let longest = longest.unwrap();
        println!("the longest wait was {longest:?}");
    }
}
