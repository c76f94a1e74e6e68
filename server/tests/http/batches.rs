//! What is done to many things at once asks the database no more for many than for few.

use crate::client::{Answer, Client};
use crate::cut::Cut;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

/// Statements that something took, and what it answered.
async fn counted(line: &Cut, asking: impl Future<Output = Answer>) -> (usize, Answer) {
    let before = line.statements();
    let answer = asking.await;
    assert!([200, 204].contains(&answer.status), "{}", answer.body);
    (line.statements() - before, answer)
}

/// The things of an account without their ids and versions.
async fn things(client: &Client) -> Vec<Value> {
    let mut things = client.get("/api/gear?limit=1000").await.body["items"].as_array().unwrap().clone();
    for thing in &mut things {
        for field in ["id", "version"] {
            thing.as_object_mut().unwrap().remove(field);
        }
    }
    things
}

#[tokio::test(flavor = "multi_thread")]
async fn many_things_take_no_more_statements_than_few() {
    let stage = Stage::start(false);
    let line = Cut::before(stage.database_url());
    let beside = stage.beside(&line.database_url);
    let mut asked = Vec::new();
    for things_in_all in [20, 200] {
        let client = Client::signed_up(&stage, &format!("anna{things_in_all}")).await;
        let there = client.elsewhere(&beside.url);
        let file = |grams: usize, away: usize| {
            let rows = (0..things_in_all).map(|at| format!("thing {at},{} g,{}\n", at + grams, (at + away) % 2));
            format!("name,weight,carried\n{}", rows.collect::<String>())
        };
        there.get("/api/gear").await;
        let (first, added) = counted(
            &line,
            there.upload("/api/files/gear", file(50, 0), json!({ "new_list": "All", "source": "weighed" })),
        )
        .await;
        let list = added.body["list"].as_str().unwrap().to_owned();
        let before = things(&client).await;
        // All weigh something else, and count elsewhere.
        let how = json!({ "list": list, "source": "weighed" });
        let (import, changed) = counted(&line, there.upload("/api/files/gear", file(60, 1), how)).await;
        assert_eq!(changed.body["changed"], things_in_all, "{}", changed.body);
        let after = things(&client).await;
        assert_ne!(after, before);
        let (undo, undone) = counted(&line, there.undo(&changed.change())).await;
        assert_eq!(things(&client).await, before);
        let (redo, _) = counted(&line, there.undo(&undone.change())).await;
        assert_eq!(things(&client).await, after);
        let there_now = client.get("/api/gear?limit=1000").await.body["items"].as_array().unwrap().clone();
        let named: Vec<_> = there_now.iter().map(|t| json!({ "id": t["id"], "version": t["version"] })).collect();
        let tagged = json!({ "things": named, "add_tags": "seen" });
        let (bulk, _) = counted(&line, there.post("/api/gear/several", tagged)).await;
        let account = client.raw(reqwest::Method::GET, "/api/files/account.json").send().await.unwrap();
        let account = account.text().await.unwrap();
        let (restore, _) = counted(&line, there.restore(&account)).await;
        let again = client.raw(reqwest::Method::GET, "/api/files/account.json").send().await.unwrap();
        assert_eq!(again.text().await.unwrap(), account, "the file of what was restored");
        asked.push([first, import, undo, redo, bulk, restore]);
    }
    for (few, many) in asked[0].into_iter().zip(asked[1]) {
        assert!(few > 10 && many <= few + 8, "{asked:?}");
    }
}
