//! Lists as people look at them: ways, trip, cautions, walkers, links, files, forecast.

use crate::client::{Answer, Client};
use crate::cut::Cut;
use insta::{assert_json_snapshot, assert_snapshot};
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};

/// A trip of three days that asks for nothing special, with some fields otherwise.
pub fn trip(some: Value) -> Value {
    let mut trip = json!({
        "days": 3, "food": { "mg_per_day": 700_000 }, "start_ml": 0, "low_tenth_c": 110, "high_tenth_c": 200,
    });
    trip.as_object_mut().unwrap().extend(some.as_object().unwrap().clone());
    trip
}

pub struct Lists<'a> {
    pub client: &'a Client,
    pub list: String,
}

impl Lists<'_> {
    pub fn at(&self, path: &str) -> String {
        format!("/api/lists/{}/{path}", self.list)
    }

    pub async fn sheet(&self) -> Value {
        self.client.get(&self.at("sheet")).await.body
    }

    pub async fn version(&self) -> i64 {
        self.sheet().await["list"]["version"].as_i64().unwrap()
    }

    pub async fn change(&self, change: Value) -> Answer {
        self.client.patch(&format!("/api/lists/{}?version={}", self.list, self.version().await), change).await
    }

    /// Adds gear by a line, then what a line has no word for.
    pub async fn thing(&self, line: &str, more: Value) -> String {
        let gear = self.client.line(line, Some(&self.list)).await;
        let id = gear["id"].as_str().unwrap().to_owned();
        if more != json!({}) {
            let changed = self.client.patch(&format!("/api/gear/{id}?version={}", gear["version"]), more).await;
            assert_eq!(changed.status, 200, "{}", changed.body);
        }
        id
    }

    /// Every caution but the reminder of local rules: what it is, how grave, and its figures.
    async fn cautions(&self) -> Vec<String> {
        let sheet = self.sheet().await;
        let all = sheet["trip"]["cautions"].as_array().unwrap();
        let told = all.iter().filter(|caution| caution["id"] != "rules").map(|caution| {
            let field = |key: &str| caution[key].as_i64().map(|n| format!(" {key} {n}")).unwrap_or_default();
            let remedies = caution["remedies"].as_array().unwrap().iter();
            let remedies: Vec<&str> = remedies.map(|remedy| remedy["name"].as_str().unwrap()).collect();
            let word = |key: &str| caution[key].as_str().unwrap_or_default().to_owned();
            format!(
                "{} {}{}{}{}{}{}",
                word("id"),
                word("level"),
                if caution["job"].is_null() { String::new() } else { format!(" {}", word("job")) },
                field("found"),
                field("against"),
                field("short"),
                if remedies.is_empty() { String::new() } else { format!("; {}", remedies.join(", ")) },
            )
        });
        told.collect()
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn every_caution_is_raised_and_quieted() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = Lists { list: client.list("1 kg", "300").await, client: &client };
    let account = json!({ "mass": "metric", "currency": "EUR", "version": 1, "settings": { "body_mg": 50_000_000 } });
    assert_eq!(client.patch("/api/account", account).await.status, 204);
    let pack = list.thing("pack 900g #pack !load=8kg !room=20l", json!({})).await;
    list.thing(
        "bag 1000g #sleep !sleep-insulation",
        json!({ "facts": { "rating_kind": "comfort", "rating": "4 C" }, "needs": { "room": 25_000 } }),
    )
    .await;
    list.thing("air pad 400g #sleep !ground_insulation=3", json!({})).await;
    list.thing("fibre filter 90g #water !water-treatment", json!({ "tags": "hollow_fibre" })).await;
    list.thing("burner 90g #kitchen !heat", json!({})).await;
    list.thing("tarp 500g #shelter !shelter", json!({ "acquired": "made" })).await;
    list.thing("inhaler 60g #aid", json!({ "tags": "medical" })).await;
    let hard = trip(json!({
        "low_tenth_c": -20, "stretch_m": 12_000, "pace_m_per_hour": 3_000, "food": { "mg_per_day": 3_000_000 },
        "rain": true, "snow": true, "container_compulsory": true, "flight": true,
    }));
    assert_eq!(list.change(json!({ "trip": hard })).await.status, 200);
    assert_json_snapshot!("cautions raised", list.cautions().await);

    // What quiets them, of the walker's own: some of it named beforehand, all of it brought along.
    let home = |line: &'static str| client.line(line, None);
    let mut brought = vec![
        home("silk liner 120g #sleep").await,
        home("foam pad 400g #sleep !ground_insulation=2").await,
        home("tablets 14g #water !water-treatment").await,
        home("bottles 40g #water !water_carried=2l").await,
        home("spikes 300g #other !traction").await,
        home("bear box 900g #food !food-store").await,
        home("rain jacket 230g #rain !rain-shell").await,
        home("lamp 90g #power !light").await,
        home("map 80g #way !way-finding").await,
        home("messenger 100g #way !call-for-help").await,
        home("aid kit 160g #aid !first-aid").await,
        home("lighter 20g #kitchen !fire").await,
        home("winter bag 1500g #sleep !sleep-insulation").await,
    ];
    let facts = [
        (0, json!({ "facts": { "warms": "3" } })),
        (5, json!({ "tags": "container" })),
        (12, json!({ "facts": { "rating_kind": "comfort", "rating": "-10" } })),
    ];
    for (at, change) in facts {
        let path = format!("/api/gear/{}?version=1", brought[at]["id"].as_str().unwrap());
        brought[at] = client.patch(&path, change).await.body;
    }
    assert_json_snapshot!("cautions with what is at home", list.cautions().await);
    for thing in &brought {
        client.put(&list.at(&format!("lines/{}", thing["id"].as_str().unwrap())), json!({ "carried": 1 })).await;
    }
    let stronger = json!({ "provides": { "load": 40_000, "room": 60_000 }, "nights": 3 });
    let version = client.get(&format!("/api/gear/{pack}")).await.body["version"].clone();
    assert_eq!(client.patch(&format!("/api/gear/{pack}?version={version}"), stronger).await.status, 200);
    let gentle = trip(json!({
        "low_tenth_c": 1, "stretch_m": 12_000, "pace_m_per_hour": 3_000, "rain": true, "snow": true, "container_compulsory": true,
    }));
    list.change(json!({ "trip": gentle })).await;
    let heavier = json!({ "mass": "metric", "currency": "EUR", "version": 2, "settings": { "body_mg": 80_000_000 } });
    assert_eq!(client.patch("/api/account", heavier).await.status, 204);
    assert_json_snapshot!("cautions quieted", list.cautions().await);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_list_is_counted_every_way_and_laid_out_by_one() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = Lists { list: client.list("1 kg", "300").await, client: &client };
    list.thing("tent 1910g #shelter", json!({})).await;
    let poles = list.thing("poles x2 231g #worn carried", json!({ "tags": "poles" })).await;
    list.thing("gas can 378g #kitchen carried", json!({ "tags": "gas_can", "facts": { "contents": "230 g" } })).await;
    let base = |sheet: &Value| sheet["totals"]["base_mg"].as_i64().unwrap();
    let before = list.sheet().await;
    assert_json_snapshot!("ways", before["ways"]);
    let own = json!([{ "key": "Club", "places": [{ "tag": "poles", "place": "apart" }] }]);
    assert_eq!(list.change(json!({ "ways": own })).await.status, 200);
    let taken = json!([{ "key": "usual", "places": [] }]);
    assert_eq!(list.change(json!({ "ways": taken })).await.body["code"], "taken");

    let count_by = async |way: &str, version: i64| {
        let path = list.at(&format!("count-by?version={version}"));
        client.post(&path, json!({ "way": way })).await
    };
    let counted = count_by("Club", list.version().await).await;
    assert_eq!(counted.status, 200, "{}", counted.body);
    let after = list.sheet().await;
    assert_eq!((base(&before) - base(&after), after["totals"]["apart_mg"].as_i64()), (462_000, Some(462_000)));
    // A new thing with the tag starts where the way says.
    let spare = client.line("spare pole 200g #worn", None).await;
    let tagged = client
        .patch(&format!("/api/gear/{}?version=1", spare["id"].as_str().unwrap()), json!({ "tags": "poles" }))
        .await;
    assert_eq!(tagged.status, 200);
    assert_eq!(count_by("nobody", list.version().await).await.body["code"], "unknown_way");
    assert_eq!(client.undo(&counted.change()).await.status, 200);
    assert_eq!(base(&list.sheet().await), base(&before));

    // A copy has the lines and the way, and is a list of its own; what is archived is still there.
    let copy = client.post(&list.at("copies"), json!({ "name": "Cold week" })).await;
    assert_eq!(copy.status, 201);
    let copied = Lists { list: copy.id().to_owned(), client: &client };
    client.put(&copied.at(&format!("lines/{poles}")), json!({ "carried": 0, "worn": 2, "version": 1 })).await;
    assert_eq!((base(&copied.sheet().await), base(&list.sheet().await)), (base(&before) - 462_000, base(&before)));
    assert_eq!(copied.change(json!({ "archived": true })).await.body["archived"], true);

    let text = |answer: Answer| answer.body.as_str().unwrap().to_owned();
    assert_snapshot!("list as text", text(client.get(&list.at("list.md")).await));
    assert_snapshot!("list as a spreadsheet", text(client.get(&list.at("list.csv")).await));
    let file = client.get(&list.at("list.json")).await.body;
    assert_eq!((&file["format"], file["things"].as_array().unwrap().len()), (&json!("kevyt-list/1"), 3));
}

#[tokio::test(flavor = "multi_thread")]
async fn figures_of_a_trip_are_taken_as_they_are_typed() {
    let stage = Stage::start(false);
    let anna = Client::signed_up(&stage, "anna").await;
    let list = Lists { list: anna.list("1 kg", "300").await, client: &anna };
    assert_eq!(list.change(json!({ "figures": { "days": "3" } })).await.body["code"], "no_trip");
    list.change(json!({ "trip": trip(json!({})) })).await;
    let typed = json!({
        "days": "6", "first_day_meals": "2", "resupply_days": "5, 3", "low": "28 F", "high": "-1,5", "stretch": "10 mi",
        "stretch_day": "4", "pace": "4.5 km/h", "water_per_hour": "20 fl oz", "camp": "2", "start": "750 ml", "boil": "1.5",
        "gas_per_litre": "0.5 oz", "food_per_meal": "160",
    });
    let devices = json!([{ "name": "phone", "charge": "4000 mAh", "charges": 2 }, { "charge": "5", "charges": 1 }]);
    let changed = list.change(json!({ "figures": typed, "devices": devices })).await;
    assert_eq!(changed.status, 200, "{}", changed.body);
    assert_json_snapshot!("trip as typed", changed.body["trip"]);
    let usual =
        list.change(json!({ "figures": { "water_per_hour": "", "resupply_days": "", "kcal_per_day": "3000" } })).await;
    let trip = &usual.body["trip"];
    assert_eq!((&trip["water_ml_per_hour"], &trip["resupply_days"]), (&Value::Null, &json!([])));
    assert_eq!(trip["food"], json!({ "kcal_per_day": 3_000, "kcal_per_100g": 420 }));
    let mut refused = Vec::new();
    for (figure, typed) in [
        ("days", "a week"),
        ("days", "0"),
        ("low", "cold"),
        ("stretch", "12 kg"),
        ("camp", "1,250 l"),
        ("stretch_day", "9"),
        ("resupply_days", "3 4x"),
        ("pace", ""),
        ("kcal_per_100g", "2000"),
        ("food_per_day", "-3"),
    ] {
        let answer = list.change(json!({ "figures": { figure: typed } })).await;
        assert_eq!(answer.status, 422, "{figure} {typed}: {}", answer.body);
        refused.push(format!(
            "{}: {}",
            answer.body["field"].as_str().unwrap(),
            answer.body["detail"].as_str().unwrap()
        ));
    }
    assert_json_snapshot!("figures refused", refused);
    assert_eq!(list.sheet().await["list"]["trip"], *trip, "what is refused changes nothing");
    // What the walker weighs, and the classes of base weight, are typed too.
    let account = json!({ "mass": "pounds_and_ounces", "currency": "EUR", "version": 1, "body": "150", "classes": ["5", "10 lb", "9 kg"] });
    assert_eq!(anna.patch("/api/account", account).await.status, 204);
    let settings = anna.get("/api/account").await.body["settings"].clone();
    assert_eq!(
        (&settings["body_mg"], &settings["class_mg"]),
        (&json!(68_038_856), &json!([2_267_962, 4_535_924, 9_000_000]))
    );
    for wrong in [json!({ "body": "3 kg" }), json!({ "body": "heavy" }), json!({ "classes": ["5", "4", "9"] })] {
        let mut account = json!({ "mass": "metric", "currency": "EUR", "version": 2 });
        account.as_object_mut().unwrap().extend(wrong.as_object().unwrap().clone());
        assert_eq!(anna.patch("/api/account", account).await.status, 422, "{wrong}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn two_walk_on_one_list_each_with_their_own_gear() {
    let stage = Stage::start(false);
    let anna = Client::signed_up(&stage, "anna").await;
    let bert = Client::signed_up(&stage, "bert").await;
    let list = Lists { list: anna.list("1 kg", "300").await, client: &anna };
    let tent = list.thing("tent 2000g 300eur #shelter !shelter", json!({})).await;
    list.thing("bag 1000g 200eur #sleep !sleep-insulation", json!({})).await;
    let berts = anna.post(&list.at("walkers"), json!({ "name": "Bert", "body": "80" })).await;
    let seat = berts.id().to_owned();
    let secret = anna.linked(&list.list, json!({ "walker": seat, "days": 14 })).await;
    let door = Client::new(&stage).get(&format!("/api/shared/{secret}")).await;
    assert_eq!((door.status, &door.body["seat"]), (200, &json!("Bert")));
    assert_eq!(bert.post("/api/joined", json!({ "secret": secret })).await.status, 200);
    // The link is used up; the list is among his, without the question that is hers.
    assert_eq!(bert.post("/api/joined", json!({ "secret": secret })).await.status, 404);
    let joined = bert.get("/api/lists").await.body.as_array().unwrap().last().unwrap().clone();
    assert_eq!((&joined["of"], &joined["target_mg"]), (&json!("anna"), &Value::Null));

    let his = Lists { list: list.list.clone(), client: &bert };
    bert.line("quilt 500g 90eur #sleep !sleep-insulation", Some(&list.list)).await;
    let sheet = his.sheet().await;
    let names = |sheet: &Value| {
        let of = |line: &Value| format!("{} {} {}", line["name"].as_str().unwrap(), line["mine"], line["paid_minor"]);
        sheet["lines"].as_array().unwrap().iter().map(of).collect::<Vec<_>>()
    };
    assert_eq!(names(&sheet), ["tent false null", "bag false null", "quilt true 9000"]);
    assert_eq!((&sheet["role"], &sheet["totals"]["base_mg"]), (&json!("partner"), &json!(500_000)));
    // He may say who carries what is shared, and may not touch her list or her counts.
    let line_of = |sheet: &Value, name: &str| {
        sheet["lines"].as_array().unwrap().iter().find(|line| line["name"] == name).unwrap().clone()
    };
    let to_share = line_of(&list.sheet().await, "tent");
    let share = json!({ "line": to_share["id"], "version": to_share["version"], "shared": true, "walker": null });
    assert_eq!(anna.post(&list.at("carry"), json!({ "moves": [share] })).await.status, 204);
    let hers = line_of(&his.sheet().await, "tent");
    let moved =
        json!({ "moves": [{ "line": hers["id"], "version": hers["version"], "shared": true, "walker": seat }] });
    let carried = bert.post(&list.at("carry"), moved.clone()).await;
    assert_eq!(carried.status, 204, "{}", carried.body);
    assert_eq!(bert.post(&list.at("carry"), moved).await.status, 409);
    let after = list.sheet().await;
    assert_json_snapshot!("walkers", after["walkers"], { "[].id" => "[id]" });
    assert_json_snapshot!("split", after["split"]);
    assert_eq!(after["totals"]["base_mg"], 1_000_000);
    // What one would lack alone is held against all that the other has, not against what serves the caller.
    assert_eq!(list.change(json!({ "trip": trip(json!({})) })).await.status, 200);
    for sheet in [list.sheet().await, his.sheet().await] {
        let cautions = sheet["trip"]["cautions"].as_array().unwrap().iter();
        let lacking = cautions.filter(|caution| caution["id"] == "shared_gear");
        let lacking: Vec<_> = lacking.map(|caution| (&caution["found"], &caution["job"])).collect();
        assert_eq!(lacking, [(&json!(0), &json!("shelter"))]);
    }
    for (method, path, body) in [
        (Method::PATCH, format!("/api/lists/{}?version=1", list.list), Some(json!({ "name": "Mine" }))),
        (Method::PUT, list.at(&format!("lines/{tent}")), Some(json!({ "worn": 1, "version": 2 }))),
        (Method::DELETE, list.at(&format!("lines/{tent}?version=2")), None),
        (Method::GET, list.at("plan"), None),
        (Method::POST, list.at("links"), Some(json!({}))),
    ] {
        assert_eq!(bert.ask(method.clone(), &path, body).await.status, 404, "{method} {path}");
    }
    // Taken elsewhere, each walker's is told apart; of prices each sees their own.
    let text = async |client: &Client, file: &str| client.get(&list.at(file)).await.body.as_str().unwrap().to_owned();
    assert_snapshot!("list of two as text", text(&bert, "list.md?prices=true").await);
    assert_snapshot!("list of two as a spreadsheet", text(&anna, "list.csv?prices=true").await);
    assert!(!text(&anna, "list.csv").await.contains("300"));
    assert_eq!(anna.get(&list.at("list.csv?price=true")).await.status, 400);
    // Prices only where they are shown.
    let me = after["walkers"][0].clone();
    let shown = anna
        .patch(
            &list.at(&format!("walkers/{}?version={}", me["id"].as_str().unwrap(), me["version"])),
            json!({ "shows_prices": true }),
        )
        .await;
    assert_eq!(shown.status, 200, "{}", shown.body);
    assert_eq!(names(&his.sheet().await)[0], "tent false 30000");
    // What he says of his own seat he can take back; his copy has his own gear, and nothing of her question.
    let seat_now = list.sheet().await["walkers"][1].clone();
    let own = format!("walkers/{seat}?version={}", seat_now["version"]);
    let hidden = bert.patch(&list.at(&own), json!({ "name": "Berti" })).await;
    assert_eq!((hidden.status, bert.undo(&hidden.change()).await.status), (200, 200));
    assert_eq!(list.sheet().await["walkers"][1]["name"], "Bert");
    let copy = bert.post(&list.at("copies"), json!({ "name": "My own" })).await;
    assert_eq!((&copy.body["target_mg"], &copy.body["budget_minor"]), (&Value::Null, &Value::Null));
    let copied = Lists { list: copy.id().to_owned(), client: &bert };
    assert_eq!(names(&copied.sheet().await), ["quilt true 9000"]);
    // He undoes what he did with her tent, then leaves: he sees nothing any more, and she nothing of his.
    assert_eq!(bert.undo(&carried.change()).await.status, 200);
    assert_eq!(line_of(&list.sheet().await, "tent")["walker"], 0);
    let left = bert.delete(&list.at(&format!("walkers/{seat}"))).await;
    assert_eq!(left.status, 204);
    assert_ne!(bert.undo(&left.change()).await.status, 200, "who has left comes back by an invitation");
    for path in ["sheet", "list.csv", "list.json"] {
        assert_eq!(bert.get(&list.at(path)).await.status, 404, "{path}");
    }
    assert!(!bert.get("/api/files/account.json").await.body.to_string().contains("\"tent\""));
    assert_eq!(names(&list.sheet().await), ["tent true 30000", "bag true 20000"]);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_link_opens_a_list_without_prices_until_it_is_revoked() {
    let stage = Stage::start(false);
    let anna = Client::signed_up(&stage, "anna").await;
    let list = Lists { list: anna.list("1 kg", "300").await, client: &anna };
    list.thing("tent 2000g 123.45eur #shelter !shelter", json!({ "kept_at": "attic" })).await;
    list.change(json!({ "trip": trip(json!({})) })).await;
    // The server draws the secret and tells it once; asked again for the same link, the one before opens nothing.
    assert_eq!(anna.post(&list.at("links"), json!({ "secret": "a".repeat(64) })).await.status, 400);
    let ask = || anna.raw(Method::POST, &list.at("links")).header("Idempotency-Key", "one link").json(&json!({}));
    let lost = Answer::read(ask().send().await.unwrap()).await;
    let made = Answer::read(ask().send().await.unwrap()).await;
    let drawn = |made: &Answer| made.body["secret"].as_str().unwrap().to_owned();
    let secret = drawn(&made);
    assert_eq!((lost.id(), secret.len()), (made.id(), 64));
    assert_ne!(drawn(&lost), secret);
    assert_eq!(Client::new(&stage).get(&format!("/api/shared/{}", drawn(&lost))).await.status, 404);
    let other = ask().json(&json!({ "days": 3 })).send().await.unwrap();
    assert_eq!(Answer::read(other).await.body["code"], "idempotency_key_reused");
    let reader = Client::new(&stage);
    let opened = reader.get(&format!("/api/shared/{secret}")).await;
    assert_eq!(
        (opened.status, &opened.headers["x-robots-tag"], &opened.headers["referrer-policy"]),
        (200, &"noindex, nofollow".to_owned(), &"no-referrer".to_owned())
    );
    let text = opened.body.to_string();
    for hidden in ["12345", "paid_minor", "budget_minor\":3", "attic", "resale"] {
        assert!(!text.contains(hidden), "{hidden} in {text}");
    }
    assert_eq!(
        (&opened.body["sheet"]["role"], &opened.body["sheet"]["lines"][0]["name"]),
        (&json!("reader"), &json!("tent"))
    );
    // Who signs in by which name is nothing to a reader; a walker is known by the name that the others see.
    let owner = async || reader.get(&format!("/api/shared/{secret}")).await.body["sheet"]["owner"].clone();
    assert_eq!(owner().await, json!(""));
    anna.post(&list.at("walkers"), json!({ "name": "Bert" })).await;
    let me = list.sheet().await["walkers"][0].clone();
    let named = list.at(&format!("walkers/{}?version={}", me["id"].as_str().unwrap(), me["version"]));
    assert_eq!(anna.patch(&named, json!({ "name": "Anna of the hut" })).await.status, 200);
    assert_eq!(owner().await, json!("Anna of the hut"));
    let page = reader.get(&format!("/shared/{secret}")).await;
    assert_eq!((page.status, &page.headers["x-robots-tag"]), (200, &"noindex, nofollow".to_owned()));
    // With prices, where the owner says so.
    let priced = anna.linked(&list.list, json!({ "shows_prices": true, "days": 1 })).await;
    assert_eq!(reader.get(&format!("/api/shared/{priced}")).await.body["sheet"]["lines"][0]["paid_minor"], 12_345);
    let revoked = anna.delete(&list.at(&format!("links/{}", made.id()))).await;
    assert_eq!(revoked.status, 204);
    assert_eq!(reader.get(&format!("/api/shared/{secret}")).await.status, 404);
    assert_eq!(anna.undo(&revoked.change()).await.status, 200);
    assert_eq!(reader.get(&format!("/api/shared/{secret}")).await.status, 200);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_link_with_prices_shows_nobody_elses() {
    let stage = Stage::start(false);
    let (anna, bert) = (Client::signed_up(&stage, "anna").await, Client::signed_up(&stage, "bert").await);
    let list = Lists { list: anna.list("1 kg", "300").await, client: &anna };
    list.thing("tent 2000g 300eur #shelter", json!({})).await;
    let seat = bert.joins(&anna, &list.list, "Bert").await;
    let his = Lists { list: list.list.clone(), client: &bert };
    his.thing("quilt 500g 90eur #sleep", json!({})).await;
    let secret = anna.linked(&list.list, json!({ "shows_prices": true })).await;
    let prices = async || {
        let shared = Client::new(&stage).get(&format!("/api/shared/{secret}")).await.body;
        let lines = shared["sheet"]["lines"].as_array().unwrap().clone();
        lines.iter().map(|line| line["paid_minor"].clone()).collect::<Vec<_>>()
    };
    assert_eq!(prices().await, [json!(30_000), Value::Null]);
    // Once he shows them, they are to be seen.
    let version = his.sheet().await["walkers"][1]["version"].clone();
    let own = list.at(&format!("walkers/{seat}?version={version}"));
    assert_eq!(bert.patch(&own, json!({ "shows_prices": true })).await.status, 200);
    assert_eq!(prices().await, [json!(30_000), json!(9_000)]);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_plan_is_of_what_a_partner_wrote_last() {
    let stage = Stage::start(false);
    let (anna, bert) = (Client::signed_up(&stage, "anna").await, Client::signed_up(&stage, "bert").await);
    let list = Lists { list: anna.list("1 kg", "300").await, client: &anna };
    list.thing("tent 2000g 300eur #shelter", json!({})).await;
    bert.joins(&anna, &list.list, "Bert").await;
    let sheet = list.sheet().await;
    let share = json!({ "line": sheet["lines"][0]["id"], "version": 1, "shared": true, "walker": null });
    assert_eq!(anna.post(&list.at("carry"), json!({ "moves": [share] })).await.status, 204);
    let plan = async || anna.get(&list.at("plan")).await.body;
    let before = plan().await;
    assert_eq!(before["base_mg"], 2_000_000);
    let seat = list.sheet().await["walkers"][1]["id"].clone();
    let take = json!({ "line": sheet["lines"][0]["id"], "version": 2, "shared": true, "walker": seat });
    assert_eq!(bert.post(&list.at("carry"), json!({ "moves": [take] })).await.status, 204);
    let after = plan().await;
    assert_eq!((&after["base_mg"], &list.sheet().await["totals"]["base_mg"]), (&json!(0), &json!(0)));
    assert_ne!(after["revision"], before["revision"]);
}

/// Forty things that eight share: the most even split can't be proved within its steps.
#[tokio::test(flavor = "multi_thread")]
async fn a_split_that_is_not_proved_says_so_and_holds_nobody_up() {
    let stage = Stage::start(false);
    let anna = Client::signed_up(&stage, "anna").await;
    let list = Lists { list: anna.list("1 kg", "300").await, client: &anna };
    for name in ["Bo", "Cy", "Di", "Ed", "Fe", "Gus"] {
        anna.post(&list.at("walkers"), json!({ "name": name })).await;
    }
    for at in 0..40_u64 {
        list.thing(&format!("thing {at} {}.{:03}0g", 100 + at * 7_919 % 900, at * 104_729 % 1_000), json!({})).await;
    }
    let lines = list.sheet().await["lines"].as_array().unwrap().clone();
    let share =
        |line: &Value| json!({ "line": line["id"], "version": line["version"], "shared": true, "walker": null });
    let moves: Vec<Value> = lines.iter().map(share).collect();
    assert_eq!(anna.post(&list.at("carry"), json!({ "moves": moves })).await.status, 204);
    let secret = anna.linked(&list.list, json!({})).await;
    let shared = format!("/api/shared/{secret}");
    let readers: Vec<Client> = (0..24).map(|_| Client::new(&stage)).collect();
    let asked = futures_util::future::join_all(readers.iter().map(|reader| reader.get(&shared)));
    let other = Client::new(&stage);
    let (read, signed_in) = tokio::join!(asked, other.sign_up("bert"));
    assert!(read.iter().all(|one| one.status == 200 && one.body["sheet"]["split"]["proved"] == false));
    // One search does for all of them.
    assert!(read.iter().all(|one| one.body["sheet"]["split"] == read[0].body["sheet"]["split"]));
    assert_eq!(signed_in.get("/api/account").await.status, 200);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_long_list_asks_the_database_no_more_than_a_short_one() {
    let stage = Stage::start(false);
    let anna = Client::signed_up(&stage, "anna").await;
    let line = Cut::before(stage.database_url());
    let beside = stage.beside(&line.database_url);
    let there = anna.elsewhere(&beside.url);
    let mut asked = Vec::new();
    for things in [30, 300] {
        let rows: String = (0..things).map(|at| format!("thing {things} {at},50,light=1\n")).collect();
        let how = json!({ "new_list": format!("List of {things}") });
        let added = anna.upload("/api/files/gear", format!("name,weight_g,provides\n{rows}"), how).await;
        let list = Lists { list: added.body["list"].as_str().unwrap().to_owned(), client: &there };
        assert_eq!(list.change(json!({ "trip": trip(json!({ "snow": true })) })).await.status, 200);
        assert_eq!(list.sheet().await["lines"].as_array().unwrap().len(), things);
        // A connection that is new says a little more: the fewest of some tries are what the page takes.
        let mut fewest = usize::MAX;
        for _ in 0..8 {
            let before = line.statements();
            list.sheet().await;
            fewest = fewest.min(line.statements() - before);
        }
        asked.push(fewest);
    }
    assert!(asked[0] > 3 && asked[0] < 40, "{asked:?}");
    assert_eq!(asked[0], asked[1], "statements of 30 and of 300 things");
}
