use crate::client::Client;
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};

/// What is another account's answers as what is not there at all.
#[tokio::test(flavor = "multi_thread")]
async fn two_accounts_never_see_each_other() {
    let stage = Stage::start(false);
    let anna = Client::signed_up(&stage, "anna").await;
    let list = anna.list("1 kg", "300").await;
    let gear = anna.line("dome 1910g", Some(&list)).await["id"].as_str().unwrap().to_owned();
    let line = anna.get(&format!("/api/lists/{list}")).await.body["lines"][0]["id"].as_str().unwrap().to_owned();
    let leave = json!({ "kind": "leave_out", "remove": [{ "line": line, "qty": 1 }] });
    let swap = anna.post(&format!("/api/lists/{list}/swaps"), leave.clone()).await.id().to_owned();

    let kit = json!({ "name": "set", "parts": [{ "gear": gear, "count": 1 }, { "gear": anna.line("mug 98g", None).await["id"], "count": 1 }] });
    let kit_id = anna.post("/api/kits", kit.clone()).await.id().to_owned();
    let weighed = anna.post(&format!("/api/gear/{gear}/weighings"), json!({ "total": "1900" })).await;
    let change = weighed.change();
    let weighing = anna.get(&format!("/api/gear/{gear}/weighings")).await.body[0]["id"].as_str().unwrap().to_owned();

    let session = anna.get("/api/sessions").await.body[0]["id"].as_str().unwrap().to_owned();

    let (nothing, chosen) = (json!({}), json!({ "swaps": [swap] }));
    let (plan, proposal) = (json!({ "name": "Cheap", "swaps": [] }), json!({ "key": "leave mug" }));
    let kept = anna.post(&format!("/api/lists/{list}/kept-plans"), plan.clone()).await.id().to_owned();

    let coming = json!({ "list": list, "starts_on": "2027-09-04", "nights": 3 });
    let trip = anna.post("/api/trips", coming.clone()).await.id().to_owned();
    assert_eq!(anna.post(&format!("/api/trips/{trip}/keep?version=1"), json!({})).await.status, 200);
    let on_trip = anna.get(&format!("/api/trips/{trip}")).await.body["things"][0]["id"].as_str().unwrap().to_owned();

    let bert = Client::signed_up(&stage, "bert").await;
    for path in ["/api/gear", "/api/candidates"] {
        assert_eq!(bert.get(path).await.body["total"], 0, "{path}");
    }
    assert_ne!(bert.get("/api/lists").await.body[0]["id"], anna.get("/api/lists").await.body[0]["id"]);

    let berts_list = bert.list("1 kg", "300").await;
    let berts_gear = bert.line("mug 118g", None).await["id"].as_str().unwrap().to_owned();
    let berts_mug = bert.line("cup 50g", None).await["id"].clone();
    let own_kit =
        json!({ "name": "set", "parts": [{ "gear": berts_gear, "count": 1 }, { "gear": berts_mug, "count": 1 }] });
    let (state, in_zone) = (json!({ "state": "pinned" }), json!({ "lines": [line] }));
    let name = json!({ "name": "mine now" });
    let total = json!({ "total": "1 g" });
    let several = json!({ "things": [{ "id": gear, "version": 1 }], "status": "sold" });
    let taken = json!({ "weighing": { "readings_mg": [2, 1], "step_mg": 1 }, "things": [{ "gear": gear }] });
    let counts = json!({ "carried": 1 });
    let (usual, carried) =
        (json!({ "way": "usual" }), json!({ "moves": [{ "line": line, "version": 1, "shared": true }] }));
    let (link_in, guessed) = (json!({ "days": 3 }), json!({ "secret": "1".repeat(64) }));
    let walker = anna.post(&format!("/api/lists/{list}/walkers"), json!({ "name": "Cleo" })).await.id().to_owned();
    let link = anna.post(&format!("/api/lists/{list}/links"), json!({})).await.id().to_owned();
    let rows = json!({ "text": "dome\ttarp\t800" });
    let requests: Vec<(Method, String, Option<&Value>)> = vec![
        (Method::DELETE, format!("/api/sessions/{session}"), None),
        (Method::GET, format!("/api/gear/{gear}"), None),
        (Method::PATCH, format!("/api/gear/{gear}?version=1"), Some(&name)),
        (Method::DELETE, format!("/api/gear/{gear}?version=1"), None),
        (Method::GET, format!("/api/gear/{gear}/weighings"), None),
        (Method::POST, format!("/api/gear/{gear}/weighings"), Some(&total)),
        (Method::PUT, format!("/api/weighings/{weighing}"), Some(&total)),
        (Method::DELETE, format!("/api/weighings/{weighing}"), None),
        (Method::POST, "/api/gear/several".to_owned(), Some(&several)),
        (Method::POST, "/api/weigh/take-away/weighings".to_owned(), Some(&taken)),
        (Method::PUT, format!("/api/kits/{kit_id}?version=1"), Some(&own_kit)),
        (Method::DELETE, format!("/api/kits/{kit_id}?version=1"), None),
        (Method::POST, format!("/api/kits/{kit_id}/weighings"), Some(&total)),
        (Method::POST, format!("/api/changes/{change}/undo"), Some(&Value::Null)),
        (Method::GET, format!("/api/weigh?list={list}&since=2026-01-01T00:00:00Z"), None),
        (Method::GET, format!("/api/lists/{list}"), None),
        (Method::PATCH, format!("/api/lists/{list}?version=1"), Some(&name)),
        (Method::DELETE, format!("/api/lists/{list}?version=1"), None),
        (Method::GET, format!("/api/lists/{list}/plan"), None),
        (Method::GET, format!("/api/lists/{list}/plan/near-misses"), None),
        (Method::GET, format!("/api/lists/{list}/sheet"), None),
        (Method::GET, format!("/api/lists/{list}/list.json"), None),
        (Method::GET, format!("/api/lists/{list}/list.csv"), None),
        (Method::GET, format!("/api/lists/{list}/list.md"), None),
        (Method::POST, format!("/api/lists/{list}/copies"), Some(&name)),
        (Method::POST, format!("/api/lists/{list}/count-by?version=1"), Some(&usual)),
        (Method::POST, format!("/api/lists/{list}/walkers"), Some(&name)),
        (Method::PATCH, format!("/api/lists/{list}/walkers/{walker}?version=1"), Some(&name)),
        (Method::DELETE, format!("/api/lists/{list}/walkers/{walker}"), None),
        (Method::POST, format!("/api/lists/{list}/links"), Some(&link_in)),
        (Method::DELETE, format!("/api/lists/{list}/links/{link}"), None),
        (Method::POST, format!("/api/lists/{list}/carry"), Some(&carried)),
        (Method::POST, "/api/joined".to_owned(), Some(&guessed)),
        (Method::GET, format!("/api/shared/{}", "1".repeat(64)), None),
        (Method::GET, format!("/api/lists/{list}/swaps"), None),
        (Method::POST, format!("/api/lists/{list}/swaps/rows"), Some(&rows)),
        (Method::POST, format!("/api/lists/{list}/swaps"), Some(&leave)),
        (Method::GET, format!("/api/lists/{list}/packing"), None),
        (Method::DELETE, format!("/api/lists/{list}/packing"), None),
        (Method::PATCH, format!("/api/lists/{list}/packing"), Some(&nothing)),
        (Method::PUT, format!("/api/lists/{list}/packing/zones/top"), Some(&in_zone)),
        (Method::PUT, format!("/api/lists/{list}/packing/{line}"), Some(&nothing)),
        (Method::PUT, format!("/api/lists/{berts_list}/packing/{line}"), Some(&nothing)),
        (Method::PUT, format!("/api/lists/{list}/lines/{berts_gear}"), Some(&counts)),
        (Method::PUT, format!("/api/lists/{berts_list}/lines/{gear}"), Some(&counts)),
        (Method::DELETE, format!("/api/lists/{list}/lines/{gear}?version=1"), None),
        (Method::GET, format!("/api/swaps/{swap}"), None),
        (Method::PUT, format!("/api/swaps/{swap}?version=1"), Some(&leave)),
        (Method::PUT, format!("/api/swaps/{swap}/state?version=1"), Some(&state)),
        (Method::POST, format!("/api/swaps/{swap}/done?version=1"), Some(&nothing)),
        (Method::DELETE, format!("/api/swaps/{swap}/done?version=1"), None),
        (Method::POST, format!("/api/lists/{list}/after"), Some(&chosen)),
        (Method::GET, format!("/api/lists/{list}/proposals"), None),
        (Method::POST, format!("/api/lists/{list}/proposals/take"), Some(&proposal)),
        (Method::POST, format!("/api/lists/{list}/proposals/silence"), Some(&proposal)),
        (Method::GET, format!("/api/lists/{list}/history"), None),
        (Method::POST, "/api/trips".to_owned(), Some(&coming)),
        (Method::GET, format!("/api/trips/{trip}"), None),
        (Method::PATCH, format!("/api/trips/{trip}?version=2"), Some(&name)),
        (Method::POST, format!("/api/trips/{trip}/keep?version=2"), Some(&nothing)),
        (Method::PATCH, format!("/api/trips/{trip}/things/{on_trip}"), Some(&nothing)),
        (Method::POST, format!("/api/trips/{trip}/things"), Some(&name)),
        (Method::DELETE, format!("/api/trips/{trip}/things/{on_trip}"), None),
        (Method::DELETE, format!("/api/trips/{trip}?version=2"), None),
        (Method::GET, format!("/api/lists/{list}/kept-plans"), None),
        (Method::POST, format!("/api/lists/{list}/kept-plans"), Some(&plan)),
        (Method::DELETE, format!("/api/kept-plans/{kept}?version=1"), None),
        (Method::DELETE, format!("/api/swaps/{swap}?version=1"), None),
    ];
    let nowhere = "01900000-0000-7000-8000-000000000000";
    for (method, path, body) in requests {
        let answer = bert.ask(method.clone(), &path, body.cloned()).await;
        assert_eq!(
            (answer.status, &answer.body["code"]),
            (404, &json!("not_found")),
            "{method} {path}: {}",
            answer.body
        );
        let ids = [&session, &gear, &list, &swap, &kit_id, &weighing, &change, &walker, &link, &kept, &trip, &on_trip];
        let absent = ids.iter().fold(path, |path, id| path.replace(id.as_str(), nowhere));
        assert_eq!(bert.ask(method, &absent, body.cloned()).await.body, answer.body, "{absent}");
    }
    // Nor is there anything of hers in his history, his files or his kits.
    for path in [
        "/api/changes",
        "/api/lessons",
        &format!("/api/gear/{gear}/changes"),
        "/api/kits",
        "/api/files/account.json",
        "/api/files/gear.csv",
    ] {
        let text = bert.get(path).await.body.to_string();
        assert!(!text.contains("dome") && !text.contains(&gear), "{path}: {text}");
    }
    let stolen = bert.post("/api/kits", kit).await;
    assert_eq!((stolen.status, &stolen.body["code"]), (422, &json!("gone")));
    // Nor can a swap of Bert's take Anna's gear off.
    let stolen = bert.post(&format!("/api/lists/{berts_list}/swaps"), leave).await;
    assert_eq!((stolen.status, &stolen.body["code"]), (422, &json!("not_on_list")));
    assert_eq!(anna.get(&format!("/api/swaps/{swap}")).await.body["state"], "open");
    // And without a session there is nothing.
    assert_eq!(Client::new(&stage).get(&format!("/api/gear/{gear}")).await.status, 401);
}
