//! Several requests at once: the second tab, the double Enter, the retry, the other process.

use crate::client::{Answer, Client};
use crate::cut::Cut;
use futures_util::future::join_all;
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};

/// A request with a name of its own, so that it may be sent again.
async fn named(client: &Client, key: &str, path: &str, body: &Value) -> Answer {
    let request = client.raw(Method::POST, path).header("Idempotency-Key", key).json(body);
    Answer::read(request.send().await.unwrap()).await
}

#[tokio::test(flavor = "multi_thread")]
async fn sixteen_clients_write_at_once_and_each_is_served() {
    let stage = Stage::start(false);
    let clients = join_all((0..16).map(|n| Client::new(&stage).sign_up(Box::leak(format!("anna{n}").into())))).await;
    let other = stage.beside(stage.database_url());
    // The first lines of sixteen empty accounts, all at once; then each account writes from both servers.
    let work = clients.iter().map(|here| async {
        let there = here.elsewhere(&other.url);
        let list = here.list("1 kg", "300").await;
        let mut statuses = Vec::new();
        for round in 0..15 {
            let line = json!({ "line": format!("mug no{round} 98g #kitchen"), "list": list });
            let (one, two) =
                tokio::join!(here.post("/api/gear/line", line.clone()), there.post("/api/gear/line", line));
            let weighings = format!("/api/gear/{}/weighings", one.id());
            let reading = json!({ "total": format!("{} g", 90 + round) });
            let (three, four) = tokio::join!(here.post(&weighings, reading.clone()), there.post(&weighings, reading));
            let line_at = format!("/api/lists/{list}/lines/{}", two.id());
            let (five, six) = tokio::join!(
                here.put(&line_at, json!({ "worn": 1, "version": 1 })),
                there.put(&line_at, json!({ "used_up": 1, "version": 1 }))
            );
            let mut edits = [five.status, six.status];
            edits.sort_unstable();
            assert_eq!(edits, [200, 409], "one of two edits of one version wins");
            statuses.extend([one, two, three, four].map(|answer| answer.status));
        }
        let page = here.get("/api/gear?limit=5000").await.body;
        let kept = here.get(&format!("/api/gear/{}/weighings", page["items"][0]["id"].as_str().unwrap())).await.body;
        (statuses, page["total"].clone(), kept.as_array().unwrap().len())
    });
    for (statuses, total, weighings) in join_all(work).await {
        assert!(statuses.iter().all(|status| *status == 201), "{statuses:?}");
        assert_eq!((total, weighings <= 1), (json!(30), true), "each thing is there, each weighing once");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn an_edit_is_not_lost_under_an_undo() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    for round in 0..20 {
        let mug = client.line(&format!("mug no{round} 98g"), Some(&list)).await;
        let at = format!("/api/gear/{}", mug["id"].as_str().unwrap());
        let change = client.patch(&format!("{at}?version=1"), json!({ "nights": 3 })).await.change();
        let edited_at = format!("{at}?version=2");
        let (undone, edited) =
            tokio::join!(client.undo(&change), client.patch(&edited_at, json!({ "kept_at": "attic" })));
        let now = client.get(&at).await.body;
        match (undone.status, edited.status) {
            (200, 409) => assert_eq!((&now["nights"], &now["kept_at"]), (&json!(0), &Value::Null)),
            (409, 200) => assert_eq!((&now["nights"], &now["kept_at"]), (&json!(3), &json!("attic"))),
            both => panic!("{both:?}: {now}"),
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_sent_twice_is_done_once() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let line = json!({ "line": "mug 98g" });
    let answers = join_all((0..6).map(|_| named(&client, "first", "/api/gear/line", &line))).await;
    assert!(answers.iter().all(|answer| answer.status == 201 && answer.body == answers[0].body));
    assert!(answers.iter().all(|answer| answer.change() == answers[0].change()));
    assert_eq!(client.get("/api/gear").await.body["total"], 1);
    // Another name is another request, and so is the same one elsewhere or of somebody else.
    assert_ne!(named(&client, "second", "/api/gear/line", &line).await.body["id"], answers[0].body["id"]);
    let bert = Client::signed_up(&stage, "bert").await;
    assert_ne!(named(&bert, "first", "/api/gear/line", &line).await.body["id"], answers[0].body["id"]);
    // What was refused is tried anew.
    let (wrong, right) = (json!({ "line": "1,250 g" }), json!({ "line": "pot 1250 g" }));
    assert_eq!(named(&client, "third", "/api/gear/line", &wrong).await.status, 422);
    assert_eq!(named(&client, "third", "/api/gear/line", &right).await.status, 201);

    // A file that is read in twice at once adds each thing once; a weighing that is sent twice counts once, named or not.
    let file = "name,weight_g\nspoon,18\nspoon,18\npan,140\n";
    let (one, two) = tokio::join!(
        client.upload("/api/files/gear", file, json!({})),
        client.upload("/api/files/gear", file, json!({}))
    );
    let mut added = [one.body["added"].as_i64(), two.body["added"].as_i64()];
    added.sort_unstable();
    assert_eq!(added, [Some(0), Some(3)]);
    let mug = format!("/api/gear/{}/weighings", answers[0].id());
    let reading = json!({ "total": "101 g" });
    let weighed = join_all((0..4).map(|_| client.post(&mug, reading.clone()))).await;
    assert!(weighed.iter().all(|answer| answer.status == 201 && answer.body["weight"]["unit_mg"] == 101_000));
    assert_eq!(client.get(&mug).await.body.as_array().unwrap().len(), 1);
    let taken = json!({ "weighing": { "readings_mg": [90_000, 0], "step_mg": 1_000 }, "things": [{ "gear": answers[0].id() }] });
    let taken = join_all((0..4).map(|_| client.post("/api/weigh/take-away/weighings", taken.clone()))).await;
    assert!(taken.iter().all(|answer| answer.status == 201));
    assert_eq!(client.get(&mug).await.body.as_array().unwrap().len(), 2);
    // The same figure after another one is a weighing of its own.
    client.post(&mug, reading).await;
    assert_eq!(client.get(&mug).await.body.as_array().unwrap().len(), 3);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stale_edit_hears_what_stands_now() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let mug = client.line("mug 98g", None).await;
    let at = format!("/api/gear/{}?version=1", mug["id"].as_str().unwrap());
    let edits = join_all((0..8).map(|n| client.patch(&at, json!({ "nights": n })))).await;
    let stale: Vec<&Answer> = edits.iter().filter(|answer| answer.status == 409).collect();
    assert!(stale.len() >= 6, "an edit to what stands already may be answered too");
    assert!(stale.iter().all(|answer| answer.body["version_now"] == 2), "{}", stale[0].body);
}

/// The connection to the database breaks after it has committed and before it has said so.
#[tokio::test(flavor = "multi_thread")]
async fn a_commit_of_which_nobody_heard_is_found_again() {
    let stage = Stage::start(false);
    let cut = Cut::before(stage.database_url());
    let server = stage.beside(&cut.database_url);
    let client = Client::signed_up(&stage, "anna").await.elsewhere(&server.url);
    for round in 0..5 {
        cut.at_next_commit();
        let added = client.post("/api/gear/line", json!({ "line": format!("mug no{round} 98g") })).await;
        assert_eq!((added.status, cut.was_cut()), (201, true), "{}", added.body);
        added.change();
    }
    assert_eq!(client.get("/api/gear").await.body["total"], 5);
    // While the database is away for good, nobody is told that nothing was changed.
    cut.at_next_commit();
    cut.stay_cut();
    let line = json!({ "line": "pot 210g" });
    let unknown = named(&client, "pot", "/api/gear/line", &line).await;
    assert_eq!((unknown.status, &unknown.body["code"]), (503, &json!("outcome_unknown")));
    cut.mend();
    let again = named(&client, "pot", "/api/gear/line", &line).await;
    assert_eq!((again.status, &client.get("/api/gear").await.body["total"]), (201, &json!(6)));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_two_walkers_say_of_one_line_at_once_both_stands() {
    let stage = Stage::start(false);
    let (anna, bert) = tokio::join!(Client::signed_up(&stage, "anna"), Client::signed_up(&stage, "bert"));
    let list = anna.list("1 kg", "300").await;
    let at = |what: &str| format!("/api/lists/{list}{what}");
    let poles = anna.line("poles 231g", Some(&list)).await["id"].as_str().unwrap().to_owned();
    anna.patch(&format!("/api/gear/{poles}?version=1"), json!({ "tags": "poles" })).await;
    let seat = bert.joins(&anna, &list, "Bert").await;
    let line = anna.get(&at("")).await.body["lines"][0].clone();
    let share = json!({ "line": line["id"], "version": line["version"], "shared": true, "walker": null });
    assert_eq!(anna.post(&at("/carry"), json!({ "moves": [share] })).await.status, 204);
    for round in 0..24 {
        let sheet = anna.get(&at("")).await.body;
        let line = sheet["lines"][0].clone();
        let way = if round % 2 == 0 { "all_on_the_back" } else { "usual" };
        let to = if round % 2 == 0 { json!(seat) } else { Value::Null };
        let moved =
            json!({ "moves": [{ "line": line["id"], "version": line["version"], "shared": true, "walker": to }] });
        let (count_by, carry) = (at(&format!("/count-by?version={}", sheet["list"]["version"])), at("/carry"));
        let (counted, moved) = tokio::join!(anna.post(&count_by, json!({ "way": way })), bert.post(&carry, moved));
        let now = anna.get(&at("")).await.body["lines"][0].clone();
        // Whoever came second over the other's version is told so; nobody who was answered well is written over.
        assert!(
            [200, 409].contains(&counted.status) && [204, 409].contains(&moved.status),
            "{} {}",
            counted.body,
            moved.body
        );
        let walker = if moved.status == 204 { &to } else { &line["walker"] };
        assert_eq!(&now["walker"], walker, "round {round}: {} {}", counted.status, moved.status);
        let place = if way == "usual" { "worn" } else { "carried" };
        assert!(counted.status == 409 || now[place] == 1, "round {round}: {now}");
    }
}
