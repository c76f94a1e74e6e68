use crate::client::Client;
use insta::assert_json_snapshot;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn a_quick_line_is_read_back_and_added() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let read = |line: &str| json!({ "line": line });
    let line = "rain shell 212g 149eur #rain x2";
    assert_json_snapshot!("line read", client.post("/api/gear/read", read(line)).await.shown());
    let refused = client.post("/api/gear/read", read("rain shell 1,250 g #kitchenette")).await;
    assert_json_snapshot!("line with two refusals", refused.shown());
    assert_eq!(client.get("/api/gear").await.body["total"], 0);

    let added = client.post("/api/gear/line", read(line)).await;
    assert_json_snapshot!("line added", added.shown());
    assert_json_snapshot!("line not added", client.post("/api/gear/line", read("212g")).await.shown());
    assert_json_snapshot!("page of gear", client.get("/api/gear?limit=1").await.shown());
}

#[tokio::test(flavor = "multi_thread")]
async fn a_quick_line_knows_sets_sales_gifts_and_material() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    for (line, each, paid, acquired) in [
        ("stakes x8 98g/8 24eur/8 #shelter", Some(12_250), Some((300, 300)), "new"),
        ("bottle x3 29eur/3", None, Some((967, 967)), "new"),
        ("pack used 80-95eur", None, Some((8_000, 9_500)), "used"),
        ("jacket sale 99eur ~388g", Some(388_000), Some((9_900, 9_900)), "sale"),
        ("pouch made 3,50eur", None, Some((350, 350)), "made"),
        ("pillow gift 98g", Some(98_000), Some((0, 0)), "gift"),
        ("used towel", None, None, "used"),
    ] {
        let thing = client.line(line, None).await;
        let minor = |end: &str| thing[format!("paid_{end}_minor")].as_i64();
        assert_eq!(thing["weight"]["unit_mg"].as_i64(), each, "{line}");
        assert_eq!(minor("low").zip(minor("high")), paid, "{line}");
        assert_eq!(thing["acquired"], acquired, "{line}");
    }
    // Eight on the scale are an eighth in doubt each, and the weighing says so.
    let page = client.get("/api/gear").await.body;
    let stakes =
        page["items"].as_array().unwrap().iter().find(|thing| thing["name"] == "stakes").unwrap()["id"].clone();
    let weighing = client.get(&format!("/api/gear/{}/weighings", stakes.as_str().unwrap())).await.body[0].clone();
    assert_eq!((&weighing["unit_mg"], &weighing["half_width_mg"]), (&json!(12_250), &json!(125)));
    let refused = client.post("/api/gear/line", json!({ "line": "stakes 98g/0" })).await;
    assert_eq!(
        (refused.status, &refused.body["detail"]),
        (422, &json!("0 is not a count. A count goes from 1 to 1000."))
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn a_line_is_of_the_kind_that_its_name_says() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let read = client.post("/api/gear/read", json!({ "line": "quilt 545g 262eur" })).await.body;
    let brings = json!(["Sleep", "sleep insulation"]);
    assert_eq!(read["kind"], json!({ "key": "quilt", "name": "quilt", "said": false, "brings": brings }));
    let taken = client.line("quilt 545g", None).await;
    assert_eq!((&taken["kind"], &taken["system"], &taken["need"]), (&json!("quilt"), &json!("sleep"), &json!("need")));
    assert_eq!(taken["provides"]["sleep_insulation"], 1);
    let said = client.post("/api/gear/read", json!({ "line": "quilt #comfort -5C" })).await.body;
    assert_eq!(said["kind"]["brings"], json!(["sleep insulation"]), "what the line says needn't come with it");
    assert_eq!(said["chips"][2]["meaning"], "rated −5 °C, taken as the limit");
    let other = client.line("quilt 545g is:none", None).await;
    assert_eq!((&other["kind"], &other["system"], &other["provides"]), (&json!("none"), &json!("other"), &json!({})));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_swap_line_is_read_against_the_list() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.get("/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
    client.line("towel 64g !pot x2", Some(&list)).await;
    client.line("mummy bag 1120g !sleep_insulation", Some(&list)).await;
    let at = format!("/api/lists/{list}/swaps/read");
    let read = client.post(&at, json!({ "line": "quilt ~545g 262eur for mummy" })).await.body;
    assert_eq!((&read["gone"], &read["question"]), (&json!(["mummy bag"]), &Value::Null));
    assert_eq!(read["draft"]["add"][0]["weight"], "545g");
    let made = client.post(&format!("/api/lists/{list}/swaps"), read["draft"].clone()).await;
    assert_eq!((made.status, &made.body["add"][0]["candidate"]["weight"]["source"]), (201, &json!("estimate")));
    // What is trimmed goes on doing what it does, all pieces of it.
    let trim = client.post(&at, json!({ "line": "trim towel 48g" })).await.body["draft"].clone();
    assert_eq!((&trim["add"][0]["provides"], &trim["add"][0]["qty"]), (&json!({ "pot": 1 }), &json!(2)));
    let asked = client.post(&at, json!({ "line": "leave out poncho" })).await.body["question"].clone();
    assert!(asked.as_str().unwrap().starts_with("Nothing on the list is called \"poncho\"."), "{asked}");
    // Rows of a spreadsheet are such lines, in the account's units and money.
    let rows = format!("/api/lists/{list}/swaps/rows");
    let lines = client.post(&rows, json!({ "text": "for\tnew\tg\tprice\nmummy bag\tquilt\t545\t262" })).await;
    assert_eq!(lines.body["lines"], json!(["quilt 545g 262eur for mummy bag"]));
    let many = client.post(&rows, json!({ "text": "mummy bag\tquilt\n".repeat(101) })).await;
    assert_eq!((many.status, &many.body["field"]), (422, &json!("text")));
    let stranger = Client::signed_up(&stage, "bert").await;
    assert_eq!(stranger.post(&at, json!({ "line": "leave out towel" })).await.status, 404);
}

#[tokio::test(flavor = "multi_thread")]
async fn gear_is_changed_cleared_removed_and_brought_back() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let id = client.line("quilt 14.5oz", None).await["id"].as_str().unwrap().to_owned();
    let at = |version: i32| format!("/api/gear/{id}?version={version}");

    let change = json!({ "weight": "412", "source": "maker", "paid": "120,50", "provides": { "sleep_insulation": 1 } });
    assert_json_snapshot!("gear changed", client.patch(&at(1), change).await.shown());
    assert_json_snapshot!("stale edit", client.patch(&at(1), json!({ "name": "mine" })).await.shown());
    assert_json_snapshot!("weight cleared", client.patch(&at(2), json!({ "weight": null })).await.shown());

    assert_eq!(client.delete(&at(2)).await.status, 409);
    let removed = client.delete(&at(3)).await;
    assert_eq!(removed.status, 204);
    assert_eq!(client.get(&format!("/api/gear/{id}")).await.status, 404);
    assert_eq!(client.undo(&removed.change()).await.status, 200);
    assert_eq!(client.get(&format!("/api/gear/{id}")).await.body["paid_low_minor"], 12_050);
}

#[tokio::test(flavor = "multi_thread")]
async fn what_cannot_be_taken_is_named_with_what_can() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let id = client.line("quilt 412g", None).await["id"].as_str().unwrap().to_owned();
    let changes = [
        ("weight of two readings", json!({ "weight": "1,250 g" })),
        ("weight below zero", json!({ "weight": "-5 g" })),
        ("price in another currency", json!({ "paid": "120 usd" })),
        ("price too fine", json!({ "paid": "12.3456" })),
        ("empty name", json!({ "name": "  " })),
        ("name too long", json!({ "name": "x".repeat(121) })),
        ("no pieces", json!({ "count": 0 })),
        ("unknown system", json!({ "system": "kitchenette" })),
        ("job amount below zero", json!({ "needs": { "stake": -1 } })),
        ("job that is no key", json!({ "needs": { "Tent Stake": 1 } })),
        ("unknown field", json!({ "wheight": "412 g" })),
    ];
    for (name, change) in changes {
        let answer = client.patch(&format!("/api/gear/{id}?version=1"), change).await;
        assert_json_snapshot!(name, answer.shown());
    }
    // Nothing of it was written.
    assert_eq!(client.get(&format!("/api/gear/{id}")).await.body["version"], 1);
    let odd = "🏔 <b>pack</b> 'quoted' \\ %";
    let named = client.patch(&format!("/api/gear/{id}?version=1"), json!({ "name": odd })).await;
    assert_eq!(named.body["name"], odd);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_inventory_is_answered_as_it_stands_whichever_server_was_written_to() {
    let stage = Stage::start(false);
    let other = stage.beside(stage.database_url());
    let here = Client::signed_up(&stage, "anna").await;
    let there = here.elsewhere(&other.url);
    let page = async |client: &Client, which: &str| client.get(&format!("/api/gear{which}")).await.body;
    let named =
        |page: &Value| page["items"].as_array().unwrap().iter().map(|thing| thing["name"].clone()).collect::<Vec<_>>();
    let mug = here.line("mug 98g", None).await;
    // Each has answered once, and answers the same again.
    for client in [&here, &there, &here, &there] {
        assert_eq!(named(&page(client, "").await), ["mug"]);
    }
    let quilt = there.line("quilt 412g", None).await;
    assert_eq!(named(&page(&here, "").await).len(), 2);
    // Another part of it is another answer, and so is another account's.
    let parts = [page(&here, "?limit=1").await, page(&here, "?limit=1&offset=1").await];
    assert_ne!(named(&parts[0]), named(&parts[1]));
    assert_eq!(parts[0]["total"], 2);
    let bert = Client::signed_up(&stage, "bert").await;
    assert_eq!(page(&bert, "").await["total"], 0);
    // What a kit or an undo writes, and settings that its makers' figures hang on.
    let gone = there.delete(&format!("/api/gear/{}?version=1", mug["id"].as_str().unwrap())).await;
    assert_eq!(named(&page(&here, "").await), ["quilt"]);
    assert_eq!(here.undo(&gone.change()).await.status, 200);
    assert_eq!(page(&there, "").await["total"], 2);
    let path = format!("/api/gear/{}?version=1", quilt["id"].as_str().unwrap());
    assert_eq!(
        here.patch(&path, json!({ "claimed": "200 g", "source": "weighed", "weight": "412 g" })).await.status,
        200
    );
    assert_eq!(page(&there, "").await["makers"]["left_out"], 1);
    let account = here.get("/api/account").await.body;
    let mut settings = account["settings"].clone();
    settings["keeps_far_pairs"] = json!(true);
    let change = json!({ "version": account["version"], "mass": "metric", "currency": "EUR", "settings": settings });
    assert_eq!(here.patch("/api/account", change).await.status, 204);
    assert_eq!(page(&there, "").await["makers"]["left_out"], 0);
}

/// A page is put together of what is kept of each thing; a server that has just started has nothing.
#[tokio::test(flavor = "multi_thread")]
async fn a_page_of_what_is_kept_is_the_page_that_is_read() {
    let mut stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let mut things = Vec::new();
    for line in ["mug 98g", "pot 180g", "spoon 12g"] {
        things.push(client.line(line, None).await["id"].as_str().unwrap().to_owned());
    }
    let thing = |at: usize, version: i32| format!("/api/gear/{}?version={version}", things[at]);
    let mut names = Vec::new();
    let mut change = String::new();
    for step in 0..5 {
        client.get("/api/gear").await;
        change = match step {
            0 => client.patch(&thing(0, 1), json!({ "name": "zinc mug" })).await.change(),
            1 => client.patch(&thing(1, 1), json!({ "weight": "175 g" })).await.change(),
            2 | 4 => client.undo(&change).await.change(),
            _ => client.delete(&thing(2, 1)).await.change(),
        };
        let kept = client.get("/api/gear").await.body;
        stage.restart();
        assert_eq!(kept, client.get("/api/gear").await.body, "after step {step}");
        let named = kept["items"].as_array().unwrap().iter().map(|thing| thing["name"].as_str().unwrap().to_owned());
        names.push(named.collect::<Vec<_>>().join(", "));
    }
    let whole = "pot, spoon, zinc mug";
    assert_eq!(names, [whole, whole, whole, "pot, zinc mug", whole]);
}
