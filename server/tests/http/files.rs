use crate::client::Client;
use insta::assert_json_snapshot;
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};

const FOREIGN: &str = "Item;Category;Qty;Weight;Price\n\
    tent;Big things;1;1,5 kg;320\n\
    stakes;shelter;10;0,0148;1,50-2\n\
    ;shelter;1;1;1\n\
    mug;kitchen;0;0,098;9\n\
    pot;kitchen;1;heavy;9\n";

#[tokio::test(flavor = "multi_thread")]
async fn a_foreign_file_is_mapped_previewed_and_read() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let preview = async |how: Value| client.upload("/api/files/gear/preview", FOREIGN, how).await;
    assert_json_snapshot!("preview of a foreign file", preview(json!({})).await.shown());
    let how = json!({ "unit": "kg", "systems": { "Big things": "shelter" } });
    let mapped = preview(how.clone()).await.body;
    assert_eq!((&mapped["added"], &mapped["refused"], &mapped["unknown_systems"]), (&json!(2), &json!(2), &json!([])));
    assert_eq!(client.get("/api/gear").await.body["total"], 0, "nothing is written yet");

    let done = client.upload("/api/files/gear", FOREIGN, how.clone()).await;
    assert_eq!(done.body, json!({ "added": 2, "changed": 0, "same": 0, "refused": 2, "list": null }));
    let page = client.get("/api/gear").await.body;
    let units: Vec<_> =
        page["items"].as_array().unwrap().iter().map(|thing| thing["weight"]["unit_mg"].clone()).collect();
    assert_eq!(units, [json!(14_800), json!(1_500_000)]);
    // Read again it changes nothing, and one undo takes all of it back.
    assert_eq!(client.upload("/api/files/gear", FOREIGN, how).await.body["same"], 2);
    client.post(&format!("/api/changes/{}/undo", done.change()), json!({})).await;
    assert_eq!(client.get("/api/gear").await.body["total"], 0);
}

const COMMAS: [i64; 3] = [5_546_000, 5_924_000, 7_354_000];
const GERMAN: [i64; 3] = [5_457_000, 5_457_000, 7_237_000];
const POUNDS: [i64; 3] = [3_492_661, 3_662_758, 4_414_020];

/// Three lists as walkers keep them in spreadsheets: read without one correction, each ends in a list that adds up as written here by
/// hand, in milligrams.
#[tokio::test(flavor = "multi_thread")]
async fn a_spreadsheet_ends_in_a_list() {
    let stage = Stage::start(false);
    for (name, file, things, left_out, [base, pack, everything]) in [
        ("commas", &include_bytes!("spreadsheets/commas.csv")[..], 25, 2, COMMAS),
        ("german", &include_bytes!("spreadsheets/german.csv")[..], 19, 5, GERMAN),
        ("pounds", &include_bytes!("spreadsheets/pounds.tsv")[..], 16, 2, POUNDS),
    ] {
        let client = Client::signed_up(&stage, name).await;
        let seen = client.upload("/api/files/gear/preview", file, json!({})).await.body;
        assert_eq!(
            (&seen["refused"], seen["leave"].as_array().map(Vec::len)),
            (&json!(0), Some(left_out)),
            "{name}: {seen}"
        );
        let done = client.upload("/api/files/gear", file, json!({ "new_list": "From a file" })).await;
        assert_eq!(done.body["added"], things, "{name}: {}", done.body);
        let list = done.body["list"].as_str().unwrap();
        let plan = client.get(&format!("/api/lists/{list}/plan")).await.body;
        let sums = ["base_mg", "pack_mg", "everything_mg"].map(|sum| plan[sum].as_i64().unwrap());
        assert_eq!(sums, [base, pack, everything], "{name}");
        let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
        let lines = lines.as_array().unwrap();
        assert_eq!(lines.len(), things, "{name}");
        let other: Vec<&Value> = lines
            .iter()
            .map(|line| &line["gear"])
            .filter(|thing| thing["system"] == "other")
            .map(|thing| &thing["name"])
            .collect();
        assert_eq!(other, Vec::<&Value>::new(), "{name}: every thing has a system");
        let notes = lines.iter().filter(|line| line["gear"]["note"].is_string()).count();
        assert_eq!(
            notes,
            [5, 2, 4][["commas", "german", "pounds"].iter().position(|one| *one == name).unwrap()],
            "{name}"
        );
        // One undo takes gear and list back.
        client.undo(&done.change()).await;
        assert_eq!(client.get("/api/gear").await.body["total"], 0, "{name}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn any_line_of_a_file_can_be_left_out_or_taken() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let file = "Item,g\nmug,98\npot,120\nTotal,218\n";
    let outcomes = async |how: Value| {
        let seen = client.upload("/api/files/gear/preview", file, how).await.body;
        let lines = seen["lines"].as_array().unwrap().clone();
        lines.iter().map(|line| line["outcome"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert_eq!(outcomes(json!({})).await, ["add", "add", "left_out"]);
    assert_eq!(outcomes(json!({ "leave": [] })).await, ["add", "add", "add"]);
    assert_eq!(outcomes(json!({ "leave": [2, 4] })).await, ["left_out", "add", "left_out"]);
    // Onto a list that is there, beside what is on it; a thing that is on it already is counted as the file says.
    let list = client.get("/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
    client.line("mug 98g x2", Some(&list)).await;
    let done = client.upload("/api/files/gear", "Item,g\nmug,98\npot,120\n", json!({ "list": list })).await;
    assert_eq!((done.status, &done.body["list"]), (200, &json!(list)), "{}", done.body);
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    let carried: Vec<_> =
        lines.as_array().unwrap().iter().map(|line| (&line["gear"]["name"], &line["carried"])).collect();
    assert_eq!(carried, [(&json!("mug"), &json!(1)), (&json!("pot"), &json!(1))]);
    let stranger = Client::signed_up(&stage, "bert").await;
    let refused = stranger.upload("/api/files/gear", file, json!({ "list": list })).await;
    assert_eq!((refused.status, stranger.get("/api/gear").await.body["total"].clone()), (404, json!(0)));
}

#[tokio::test(flavor = "multi_thread")]
async fn files_that_cannot_be_read_are_refused() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let file = "name,weight\nmug,5 g\n";
    for (text, how, field) in [
        ("", json!({}), "file"),
        ("name\n\"open\n", json!({}), "file"),
        (file, json!({ "columns": ["name"] }), "columns"),
        (file, json!({ "columns": ["name", "name"] }), "columns"),
    ] {
        for path in ["/api/files/gear/preview", "/api/files/gear"] {
            let refused = client.upload(path, text, how.clone()).await;
            assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)), "{text}");
        }
    }
    let large = client.upload("/api/files/gear", "A".repeat(17 * 1024 * 1024), json!({})).await;
    assert_eq!((large.status, &large.body["code"]), (413, &json!("too_large")));
    let no_form = client.post("/api/files/gear", json!({ "file": file })).await;
    assert_eq!((no_form.status, &no_form.body["code"]), (415, &json!("not_a_form")));
    let no_file = client.upload("/api/files/gear", file, json!("how?")).await;
    assert_eq!((no_file.status, &no_file.body["code"]), (400, &json!("bad_form")));
}

#[tokio::test(flavor = "multi_thread")]
async fn gear_is_written_as_csv_and_as_a_data_package() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    client.line("=HYPERLINK(1) 98g gift #kitchen", None).await;
    let csv = client.raw(Method::GET, "/api/files/gear.csv").send().await.unwrap();
    assert_eq!(csv.headers()["content-type"], "text/csv; charset=utf-8");
    let text = csv.text().await.unwrap();
    assert_eq!(
        text.lines().nth(1).unwrap(),
        "'=HYPERLINK(1),kitchen,1,98,98g,weighed,1,,,0.00,gift,,owned,,,,0,,,"
            .split(',')
            .map(|cell| format!("\"{cell}\""))
            .collect::<Vec<_>>()
            .join(",")
    );
    let zip = client.raw(Method::GET, "/api/files/gear.zip").send().await.unwrap().bytes().await.unwrap();
    assert!(zip.starts_with(b"PK") && zip.windows(15).any(|part| part == b"datapackage.jso"));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_changes_many_things_and_one_undo_takes_all_of_it_back() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let bag = client.line("bag 1120g #sleep", None).await["id"].clone();
    let sack = client.line("sack #sleep", None).await["id"].clone();
    client.line("mug 118g 9eur #kitchen", None).await;
    client.line("pot 210g #kitchen", None).await;
    let parts = json!([{ "gear": bag, "count": 1 }, { "gear": sack, "count": 1 }]);
    let kit = client.post("/api/kits", json!({ "name": "sleep", "parts": parts })).await;
    client.post(&format!("/api/kits/{}/weighings", kit.id()), json!({ "total": "1164" })).await;
    let units = async || {
        let page = client.get("/api/gear").await.body;
        let things = page["items"].as_array().unwrap().iter();
        things
            .map(|thing| (thing["name"].as_str().unwrap().to_owned(), thing["weight"]["unit_mg"].as_i64()))
            .collect::<Vec<_>>()
    };
    let before = units().await;

    let text = "name,system,weight_g,source,price\nBag,sleep,1122,weighed,\nmug,kitchen,119,weighed,9\npot,kitchen,210,weighed,\nspoon,kitchen,18,,\n";
    let read = client.upload("/api/files/gear", text, json!({})).await;
    assert_eq!(read.body, json!({ "added": 1, "changed": 2, "same": 1, "refused": 0, "list": null }));
    let now = units().await;
    let unit = |name: &str| now.iter().find(|thing| thing.0 == name).unwrap().1;
    // What the file says was weighed is a weighing, and what hangs on it follows.
    assert_eq!(
        (unit("Bag"), unit("sack"), unit("mug"), unit("spoon")),
        (Some(1_122_000), Some(42_000), Some(119_000), Some(18_000))
    );
    let weighings = client.get(&format!("/api/gear/{}/weighings", bag.as_str().unwrap())).await.body;
    assert_eq!(weighings.as_array().unwrap().len(), 2);

    // Somebody changes one of them after: then the file can't be undone, until that is.
    let mug = client.get("/api/gear").await.body["items"]
        .as_array()
        .unwrap()
        .iter()
        .find(|thing| thing["name"] == "mug")
        .unwrap()
        .clone();
    let at = format!("/api/gear/{}?version={}", mug["id"].as_str().unwrap(), mug["version"]);
    let later = client.patch(&at, json!({ "nights": 3 })).await;
    let undo = async |change: String| client.post(&format!("/api/changes/{change}/undo"), json!({})).await;
    let refused = undo(read.change()).await;
    assert_eq!(
        (refused.status, refused.body["detail"].as_str().unwrap().starts_with("mug has been changed since.")),
        (409, true)
    );
    assert_eq!(undo(later.change()).await.status, 200);
    assert_eq!(undo(read.change()).await.status, 200);
    assert_eq!(units().await, before);
}

#[tokio::test(flavor = "multi_thread")]
async fn an_account_is_backed_up_and_restored() {
    let stage = Stage::start(true);
    let client = Client::new(&stage);
    assert_eq!(client.post("/api/session/demo", json!({ "demo": "fell" })).await.status, 201);
    let backup = async || client.get("/api/files/account.json").await.body;
    let before = backup().await;
    assert_eq!(before["format"], "kevyt-account/1");
    let plan = async || {
        let list = client.get("/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
        let answer = client.get(&format!("/api/lists/{list}/plan")).await.body;
        (
            answer["plan"]["net_minor"].clone(),
            answer["plan"]["base_mg"].clone(),
            answer["ranking"].as_array().unwrap().len(),
        )
    };
    let planned = plan().await;

    let things: Vec<Value> = client.get("/api/gear?limit=1000").await.body["items"]
        .as_array()
        .unwrap()
        .iter()
        .map(|thing| json!({ "id": thing["id"], "version": thing["version"] }))
        .collect();
    assert_eq!(client.post("/api/gear/several", json!({ "things": things, "remove": true })).await.status, 200);
    assert_eq!(client.get("/api/gear").await.body["total"], 0);
    let restored = client.restore(&before.to_string()).await;
    assert_eq!((restored.status, &restored.body["gear"]), (200, &json!(things.len())), "{}", restored.body);
    // Byte for byte as it was.
    assert_eq!(backup().await.to_string(), before.to_string());
    assert_eq!(plan().await, planned);
    // And one undo brings the state before the restore back: no gear.
    assert_eq!(client.post(&format!("/api/changes/{}/undo", restored.change()), json!({})).await.status, 200);
    assert_eq!(client.get("/api/gear").await.body["total"], 0);

    for (path, value, field) in [
        ("/format", json!("kevyt-account/9"), "format"),
        ("/currency", json!("USD"), "currency"),
        ("/gear/0/weight/mg", json!(-5), "gear[0]"),
        ("/gear/1/system", json!("attic"), "gear[1].system"),
        ("/gear/2/name", json!(""), "gear[2]"),
        ("/lists/0/lines/0/gear", json!("nobody"), "lists[0].lines[0]"),
        ("/lists/0/swaps/0/requires", json!(["nobody"]), "lists[0].swaps[0].requires"),
    ] {
        let mut file = before.clone();
        *file.pointer_mut(path).unwrap() = value;
        let refused = client.restore(&file.to_string()).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)), "{path}: {}", refused.body);
    }
    assert_eq!(client.get("/api/gear").await.body["total"], 0, "what is refused writes nothing");
}
