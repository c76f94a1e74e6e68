//! Every write can be undone, or it is said here why not: the operations are those of docs/openapi.json.

use crate::client::{Answer, Client};
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};

/// Writes that make no change of the change log, and why.
const WITHOUT_A_CHANGE: &[(&str, &str)] = &[
    ("post /api/account", "nobody is there yet who could undo it"),
    ("delete /api/account", "it goes with everything in it; the password is asked for"),
    ("put /api/account/password", "a password that was given up must not come back"),
    ("post /api/session", "signing out is its undo"),
    ("post /api/session/demo", "signing out is its undo"),
    ("delete /api/session", "signing in is its undo"),
    ("delete /api/sessions/{id}", "who has the password signs in again"),
    ("post /api/changes/{id}/undo", "tried with every other one: an undo is undone like them"),
    ("post /api/joined", "the link is used up by it; leaving, which is in the log, gives the seat back"),
    ("post /api/files/gear/preview", "it changes nothing"),
    ("post /api/gear/read", "it changes nothing"),
    ("post /api/lists/{id}/after", "it changes nothing"),
    ("post /api/lists/{id}/swaps/read", "it changes nothing"),
    ("post /api/lists/{id}/swaps/rows", "it changes nothing"),
    ("post /api/scale/read", "it changes nothing"),
    ("post /api/weigh/read", "it changes nothing"),
    ("post /api/weigh/take-away", "it changes nothing"),
    ("put /api/lists/{id}/packing/{line}", "ticks are taken without network; the page sends back what stood before"),
    ("put /api/lists/{id}/packing/zones/{zone}", "as a tick"),
    ("patch /api/lists/{id}/packing", "as a tick"),
    ("delete /api/lists/{id}/packing", "as a tick"),
];

#[tokio::test(flavor = "multi_thread")]
async fn every_write_is_undone_whole_or_says_why_not() {
    let stage = Stage::start(false);
    let world = World::made(&stage).await;
    let document: Value = serde_json::from_str(include_str!("../../../docs/openapi.json")).unwrap();
    let mut faults = Vec::new();
    let mut undone = 0;
    for (path, item) in document["paths"].as_object().unwrap() {
        for method in ["post", "put", "patch", "delete"].into_iter().filter(|method| item.get(method).is_some()) {
            let operation = format!("{method} {path}");
            if WITHOUT_A_CHANGE.iter().any(|(without, _)| *without == operation) {
                continue;
            }
            undone += 1;
            if let Err(why) = there_and_back(&world, &operation, path).await {
                faults.push(format!("{operation}: {why}"));
            }
        }
    }
    assert_eq!(faults, Vec::<String>::new());
    assert!(undone > 40, "{undone} writes were looked at");
}

/// Carries an operation out, undoes it, does it again and undoes that: all that is seen of the account is as it was each time.
async fn there_and_back(world: &World, operation: &str, path: &str) -> Result<(), String> {
    world.prepare(operation, path).await;
    let before = world.stands().await;
    let answer = world.write(operation, path).await;
    if !(200..300).contains(&answer.status) {
        return Err(answer.body.to_string());
    }
    let mut change = answer.headers.get("kevyt-change").cloned().ok_or("it makes no change that could be undone")?;
    let after = world.stands().await;
    if after == before {
        return Err("nothing was seen to change".to_owned());
    }
    for stands in [&before, &after, &before] {
        let undone = world.anna.undo(&change).await;
        change = undone.headers.get("kevyt-change").cloned().ok_or_else(|| undone.body.to_string())?;
        let now = world.stands().await;
        let other = stands.as_object().unwrap().iter().find(|(what, then)| now[what] != **then);
        if let Some((what, then)) = other {
            return Err(format!("{what} is {} and was {then}", now[what]));
        }
    }
    Ok(())
}

/// An account with something of everything.
struct World {
    anna: Client,
    list: String,
    gear: String,
    mug: String,
    spare: String,
    kit: String,
    line: String,
    swap: String,
    done: String,
    weighing: String,
    walker: String,
    link: String,
    plan: String,
    trip: String,
    coming: String,
    thing: String,
}

impl World {
    async fn made(stage: &Stage) -> World {
        let anna = Client::signed_up(stage, "anna").await;
        let list = anna.list("5 kg", "300").await;
        let text = |value: &Value| value.as_str().unwrap_or_else(|| panic!("no text: {value}")).to_owned();
        let gear = text(&anna.line("dome tent 1910g 200eur", Some(&list)).await["id"]);
        let mug = text(&anna.line("mug 98g", Some(&list)).await["id"]);
        let spare = text(&anna.line("camp chair 650g", None).await["id"]);
        for line in [
            "sleeping bag 1400g",
            "pack 1800g",
            "knife 92g !cutting",
            "blade 21g !cutting",
            "large bank 348g !power=74Wh",
        ] {
            anna.line(line, Some(&list)).await;
        }
        anna.line("small bank 180g !power=37Wh", None).await;
        let conditions = json!({ "trip": crate::sheet::trip(json!({ "low_tenth_c": -20 })) });
        assert_eq!(anna.patch(&format!("/api/lists/{list}?version=1"), conditions).await.status, 200);
        let lines = anna.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
        let of = |gear: &str| {
            lines.as_array().unwrap().iter().find(|line| line["gear"]["id"] == gear).unwrap()["id"].clone()
        };
        let swaps = format!("/api/lists/{list}/swaps");
        let replace = |name: &str, line: &Value| {
            json!({ "kind": "replace", "name": name, "remove": [{ "line": line, "qty": 1 }],
            "add": [{ "name": name, "weight": "800", "price": "150", "qty": 1 }] })
        };
        let swap = anna.post(&swaps, replace("tarp", &of(&gear))).await.id().to_owned();
        let done = anna.post(&swaps, replace("titanium mug", &of(&mug))).await.id().to_owned();
        let parts = json!([{ "gear": mug, "count": 1 }, { "gear": spare, "count": 1 }]);
        let kit = anna.post("/api/kits", json!({ "name": "set", "parts": parts })).await.id().to_owned();
        anna.post(&format!("/api/gear/{gear}/weighings"), json!({ "total": "1900" })).await;
        let weighing = text(&anna.get(&format!("/api/gear/{gear}/weighings")).await.body[0]["id"]);
        let seats = format!("/api/lists/{list}/walkers");
        let walker = anna.post(&seats, json!({ "name": "Cleo" })).await.id().to_owned();
        let links = format!("/api/lists/{list}/links");
        let link = anna.post(&links, json!({})).await.body["id"].clone();
        let plan = json!({ "name": "Cheap", "swaps": [swap] });
        let plan = anna.post(&format!("/api/lists/{list}/kept-plans"), plan).await.id().to_owned();
        let mut trips = Vec::new();
        for day in ["2026-09-04", "2027-09-04"] {
            let trip = json!({ "list": list, "starts_on": day, "nights": 3 });
            trips.push(anna.post("/api/trips", trip).await.id().to_owned());
        }
        let [trip, coming] = trips.try_into().unwrap();
        assert_eq!(anna.post(&format!("/api/trips/{trip}/keep?version=1"), json!({})).await.status, 200);
        let wish = json!({ "name": "sit pad" });
        assert_eq!(anna.post(&format!("/api/trips/{trip}/things"), wish).await.status, 201);
        let things = anna.get(&format!("/api/trips/{trip}")).await.body["things"].clone();
        let thing = things.as_array().unwrap().iter().find(|thing| thing["name"] == "sit pad").unwrap()["id"].clone();
        let (line, link, thing) = (text(&of(&mug)), text(&link), text(&thing));
        World { anna, list, gear, mug, spare, kit, line, swap, done, weighing, walker, link, plan, trip, coming, thing }
    }

    /// All that stands in the account, but for what counts on: versions, and the base weights that each change notes.
    async fn stands(&self) -> Value {
        let mut file = self.anna.get("/api/files/account.json").await.body;
        for list in file["lists"].as_array_mut().unwrap() {
            if let Some(history) = list["history"].as_array_mut() {
                history.retain(|point| point["cause"] == "earlier");
            }
            let has_none = list["history"].as_array().is_none_or(Vec::is_empty);
            list.as_object_mut().unwrap().retain(|field, _| field != "history" || !has_none);
        }
        let mut sheet = self.anna.get(&format!("/api/lists/{}/sheet", self.list)).await.body;
        let lighter = self.anna.get(&format!("/api/lists/{}/lighter", self.list)).await.body;
        let mut account = self.anna.get("/api/account").await.body;
        for counted in [&mut sheet, &mut account] {
            unversioned(counted);
        }
        let lists = self.anna.get("/api/lists").await.body.as_array().unwrap().len();
        json!({ "file": file, "sheet": sheet, "lighter": lighter, "account": account, "lists": lists })
    }

    /// Where an operation is done here, with the version that it asks for.
    async fn address(&self, path: &str) -> String {
        let World { list, gear, mug, kit, swap, done, weighing, walker, link, plan, trip, coming, thing, .. } = self;
        let id = match path {
            _ if path.starts_with("/api/lists/") => list,
            "/api/gear/{id}" => &self.spare,
            _ if path.starts_with("/api/gear/") => gear,
            _ if path.starts_with("/api/kits/") => kit,
            "/api/swaps/{id}/done" => done,
            _ if path.starts_with("/api/swaps/") => swap,
            _ if path.starts_with("/api/weighings/") => weighing,
            _ if path.starts_with("/api/kept-plans/") => plan,
            "/api/trips/{id}/keep" => coming,
            _ => trip,
        };
        let path = path.replace("{id}", id).replace("{gear}", mug).replace("{walker}", walker).replace("{link}", link);
        path.replace("{thing}", thing).replace("{kind}", "tent")
    }

    async fn version(&self, path: &str) -> i64 {
        let World { list, walker, .. } = self;
        let read = |at: String| async move { self.anna.get(&at).await.body };
        let found = match path {
            _ if path.contains("/walkers/") => {
                let sheet = read(format!("/api/lists/{list}/sheet")).await;
                let found = sheet["walkers"].as_array().unwrap().iter().find(|one| one["id"] == **walker);
                found.map(|one| one["version"].clone()).unwrap_or_default()
            }
            _ if path.contains("/lines/") => {
                let lines = read(format!("/api/lists/{list}")).await["lines"].clone();
                let found = lines.as_array().unwrap().iter().find(|one| one["id"] == *self.line);
                found.map(|one| one["version"].clone()).unwrap_or_default()
            }
            _ if path.contains("/kits/") => read("/api/kits".to_owned()).await[0]["version"].clone(),
            _ if path.contains("/kept-plans/") => {
                read(format!("/api/lists/{list}/kept-plans")).await[0]["version"].clone()
            }
            _ => {
                let end = path.match_indices('/').nth(3).map_or(path.len(), |(at, _)| at);
                let found = read(path[..end].to_owned()).await;
                let within = ["list", "trip"].iter().find_map(|part| found[*part].get("version"));
                found.get("version").or(within).cloned().unwrap_or_default()
            }
        };
        found.as_i64().unwrap_or_default()
    }

    /// Does what an operation takes back.
    async fn prepare(&self, operation: &str, path: &str) {
        let (anna, at) = (&self.anna, self.address(path).await);
        if operation == "delete /api/swaps/{id}/done" {
            let version = self.version(&at).await;
            let doing = json!({ "paid": ["20"], "fates": ["kept"] });
            assert_eq!(anna.post(&format!("{at}?version={version}"), doing).await.status, 200);
        }
        if operation == "delete /api/typical/{kind}" {
            assert_eq!(anna.put(&at, json!({ "weight": "900" })).await.status, 204);
        }
    }

    /// Carries an operation out.
    async fn write(&self, operation: &str, path: &str) -> Answer {
        let World { anna, list, gear, mug, spare, line, .. } = self;
        let (method, _) = operation.split_once(' ').unwrap();
        let at = self.address(path).await;
        if operation == "post /api/files/gear" {
            return anna.upload(&at, "name,weight g\nhatchet,700\n", json!({})).await;
        }
        if operation == "post /api/files/account" {
            let mut file = anna.get("/api/files/account.json").await.body;
            file["gear"][0]["note"] = json!("restored");
            return anna.restore(&file.to_string()).await;
        }
        let asks = [
            "patch /api/gear/{id}",
            "delete /api/gear/{id}",
            "put /api/kits/{id}",
            "delete /api/kits/{id}",
            "patch /api/lists/{id}",
            "delete /api/lists/{id}",
            "post /api/lists/{id}/count-by",
            "delete /api/lists/{id}/lines/{gear}",
            "delete /api/kept-plans/{id}",
            "patch /api/lists/{id}/walkers/{walker}",
            "put /api/swaps/{id}",
            "delete /api/swaps/{id}",
            "post /api/swaps/{id}/done",
            "delete /api/swaps/{id}/done",
            "put /api/swaps/{id}/state",
            "delete /api/trips/{id}",
            "patch /api/trips/{id}",
            "post /api/trips/{id}/keep",
        ];
        let at_version =
            if asks.contains(&operation) { format!("{at}?version={}", self.version(&at).await) } else { at.clone() };
        let leave_out = json!({ "kind": "leave_out", "remove": [{ "line": line, "qty": 1 }] });
        let version = self.version(&format!("/api/lists/{list}/lines/{mug}")).await;
        let body = match operation {
            "patch /api/account" => {
                let account = anna.get("/api/account").await.body;
                json!({ "version": account["version"], "mass": "decimal_pounds", "currency": "USD", "body": "150 lb", "year_budget": "400" })
            }
            "post /api/gear" => json!({ "name": "spoon", "weight": "12" }),
            "post /api/gear/line" => json!({ "line": "spoon 12g", "list": list }),
            "post /api/gear/several" => {
                let version = self.version(&format!("/api/gear/{spare}")).await;
                json!({ "things": [{ "id": spare, "version": version }], "kept_at": "attic" })
            }
            "patch /api/gear/{id}" => json!({ "name": "folding chair", "weight": "700", "resale": "12" }),
            "post /api/gear/{id}/weighings" | "post /api/kits/{id}/weighings" => json!({ "total": "1890" }),
            "post /api/kits" => {
                json!({ "name": "two", "parts": [{ "gear": gear, "count": 1 }, { "gear": spare, "count": 1 }] })
            }
            "put /api/kits/{id}" => {
                json!({ "name": "pair", "parts": [{ "gear": gear, "count": 1 }, { "gear": spare, "count": 1 }] })
            }
            "post /api/lessons/silence" => json!({ "lesson": format!("unused {gear}") }),
            "post /api/lists" => json!({ "name": "Winter", "target": "8 kg" }),
            "patch /api/lists/{id}" => {
                json!({ "target": "4 kg", "budget": "200", "figures": { "low": "-3" }, "year_nights": 4, "hour_rate": "12" })
            }
            "post /api/lists/{id}/carry" => json!({ "moves": [{ "line": line, "version": version, "shared": true }] }),
            "post /api/lists/{id}/cautions" => {
                let sheet = anna.get(&format!("/api/lists/{list}/sheet")).await.body;
                json!({ "key": sheet["trip"]["cautions"][0]["key"], "known": true })
            }
            "post /api/lists/{id}/copies" => json!({ "name": "Copy" }),
            "post /api/lists/{id}/count-by" => json!({ "way": "all_on_the_back" }),
            "put /api/lists/{id}/earlier" => json!({ "text": "2021-07-01, 9.4 kg, Coast path" }),
            "post /api/lists/{id}/kept-plans" => json!({ "name": "Dear", "swaps": [self.swap] }),
            "put /api/lists/{id}/lines/{gear}" => json!({ "worn": 1, "version": version }),
            "post /api/lists/{id}/links" => json!({ "days": 3 }),
            "post /api/lists/{id}/proposals/silence" | "post /api/lists/{id}/proposals/take" => {
                let told = anna.get(&format!("/api/lists/{list}/proposals")).await.body;
                json!({ "key": told[0]["key"] })
            }
            "post /api/lists/{id}/swaps" => leave_out,
            "put /api/swaps/{id}" => {
                let swap = anna.get(&format!("/api/swaps/{}", self.swap)).await.body;
                let remove = json!([{ "line": swap["remove"][0]["line"], "qty": 1 }]);
                json!({ "kind": "replace", "name": "tarp", "remove": remove, "delivery": "5", "add": [{ "name": "tarp", "weight": "750", "price": "160", "qty": 1 }] })
            }
            "put /api/swaps/{id}/state" => json!({ "state": "pinned" }),
            "post /api/swaps/{id}/done" => json!({ "paid": ["20"], "fates": ["kept"] }),
            "post /api/lists/{id}/walkers" => json!({ "name": "Dora" }),
            "patch /api/lists/{id}/walkers/{walker}" => json!({ "name": "Clea" }),
            "post /api/trips" => json!({ "list": list, "starts_on": "2027-10-01", "nights": 2 }),
            "patch /api/trips/{id}" => json!({ "name": "Autumn", "nights": 4, "figures": { "low": "-2" } }),
            "post /api/trips/{id}/things" => json!({ "name": "pillow" }),
            "patch /api/trips/{id}/things/{thing}" => json!({ "note": "missed it" }),
            "put /api/typical/{kind}" => json!({ "weight": "950", "price": "300" }),
            "post /api/weigh/take-away/weighings" => {
                json!({ "weighing": { "readings_mg": [650_000, 0], "step_mg": 1000 }, "things": [{ "gear": spare }] })
            }
            "put /api/weighings/{id}" => json!({ "total": "1905" }),
            _ if method == "delete" || operation == "post /api/trips/{id}/keep" => Value::Null,
            _ => panic!("{operation} is new: say how it is done, or why it makes no change."),
        };
        let method = Method::from_bytes(method.to_uppercase().as_bytes()).unwrap();
        anna.ask(method, &at_version, (!body.is_null()).then_some(body)).await
    }
}

/// Leaves out what each change counts up.
fn unversioned(value: &mut Value) {
    match value {
        Value::Object(fields) => {
            fields.remove("version");
            fields.values_mut().for_each(unversioned);
        }
        Value::Array(items) => items.iter_mut().for_each(unversioned),
        _ => {}
    }
}
