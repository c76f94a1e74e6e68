//! A server whose clock jumps.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::print_stdout)]

use kevyt_faults::{Client, Mariadb, Server};
use reqwest::Method;
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn a_clock_that_jumps_loses_nothing_and_signs_nobody_out() {
    let folder = tempfile::tempdir().unwrap();
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    let clock = folder.path().join("clock");
    let set = |to: &str| std::fs::write(&clock, to).unwrap();
    set("+0");
    let server = Server::with_clock(&database.url(), &clock);
    let client = Client::sign_up(&server.url, "anna").await;
    let ask = async |method: Method, path: &str, body: Option<Value>| {
        let answer = client.once(method, &server.url, path, body).await;
        assert!((200..300).contains(&answer.status), "{path}: {answer:?}");
        answer.body
    };
    let mug = ask(Method::POST, "/api/gear/line", Some(json!({ "line": "mug 98g", "source": "weighed" }))).await;
    let mug = format!("/api/gear/{}", mug["id"].as_str().unwrap());
    let mut years = Vec::new();
    for (at, to) in ["+0", "-1d", "+2h", "-3h", "+5d", "-20d", "+0"].into_iter().enumerate() {
        set(to);
        // Whatever the clock says, what is weighed last counts, and the server is well.
        let grams = 90 + at;
        ask(Method::POST, &format!("{mug}/weighings"), Some(json!({ "total": format!("{grams} g") }))).await;
        assert_eq!(ask(Method::GET, &mug, None).await["weight"]["unit_mg"], grams * 1_000, "clock {to}");
        assert_eq!(client.get(&server.url, "/api/health").await.status, 204, "clock {to}");
        // A change is undone, whatever the clock said when it was made.
        let line = Some(json!({ "line": format!("thing {at} 100g"), "source": "weighed" }));
        ask(Method::POST, "/api/gear/line", line).await;
        let changes = ask(Method::GET, &format!("{mug}/changes"), None).await;
        years.push(changes[0]["at"].as_str().unwrap()[..10].to_owned());
    }
    let days: std::collections::BTreeSet<_> = years.iter().collect();
    assert!(days.len() > 1, "the clock did jump: {days:?}");
    let things: usize = database.ask("SELECT COUNT(*) FROM gear").unwrap().parse().unwrap();
    assert_eq!(things, 8, "all that was acknowledged");
    let weighings: usize =
        database.ask("SELECT COUNT(*) FROM weighing WHERE removed_at IS NULL").unwrap().parse().unwrap();
    assert_eq!(weighings, 8 + 7, "those of the quick lines, and seven of the mug");
}
