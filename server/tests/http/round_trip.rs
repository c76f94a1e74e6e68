//! Whatever an account comes to hold by being used, its file holds too, and another account made from that file has the same file.

use crate::client::Client;
use insta::assert_json_snapshot;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

/// A small generator of its own (xorshift64*), so that a failure can be looked at again.
struct Dice(u64);

impl Dice {
    fn roll(&mut self, sides: usize) -> usize {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        usize::try_from(self.0.wrapping_mul(0x2545_F491_4F6C_DD1D) >> 33).unwrap() % sides
    }

    fn pick<'a>(&mut self, from: &'a Value) -> &'a Value {
        match from.as_array().filter(|all| !all.is_empty()) {
            Some(all) => &all[self.roll(all.len())],
            None => &Value::Null,
        }
    }

    fn word<'a>(&mut self, words: &[&'a str]) -> &'a str {
        words[self.roll(words.len())]
    }
}

fn id(of: &Value) -> &str {
    of["id"].as_str().unwrap_or("00000000-0000-0000-0000-000000000000")
}

/// Does something to an account, whether or not it can be done.
async fn use_once(client: &Client, dice: &mut Dice) {
    let kind = dice.roll(22);
    // Read only by what needs it: reading is most of the work.
    let read = async |needed: bool, path: String| {
        if needed { client.get(&path).await.body } else { Value::Null }
    };
    let needs_list = (0..=4).contains(&kind) || (12..=20).contains(&kind);
    let gear = read((5..=12).contains(&kind), "/api/gear".to_owned()).await["items"].take();
    let kits = read(kind == 9, "/api/kits".to_owned()).await;
    let list = dice.pick(&read(needs_list, "/api/lists".to_owned()).await).clone();
    let full = read((12..=16).contains(&kind), format!("/api/lists/{}", id(&list))).await;
    let plan = read((14..=20).contains(&kind), format!("/api/lists/{}/plan", id(&list))).await;
    let mut swaps = plan["swaps"].as_array().cloned().unwrap_or_default();
    swaps.extend(plan["unavailable"].as_array().cloned().unwrap_or_default());
    let swaps = Value::Array(swaps);
    let (thing, other, kit) = (dice.pick(&gear).clone(), dice.pick(&gear).clone(), dice.pick(&kits).clone());
    let (line, swap, far) = (dice.pick(&full["lines"]).clone(), dice.pick(&swaps).clone(), dice.pick(&swaps).clone());
    let at = |what: &str, of: &Value| format!("/api/{what}/{}?version={}", id(of), of["version"]);
    let weight = dice.word(&["98", "1.5 oz", "7½ oz", "3 lb 5 oz", "0", "33.3330 g", "730"]);
    let name = dice.word(&["mug", "tent <b>", "🏔 pack", "quilt", "mug", "stakes"]);
    match kind {
        0..=4 => {
            let line = format!(
                "{name} {}",
                dice.word(&["98g", "~310g", "claimed 388g", "x8 98g/8 29eur/3", "gift", "15-20eur #sleep !light", ""])
            );
            let onto = (dice.roll(2) == 0).then(|| list["id"].clone());
            client.post("/api/gear/line", json!({ "line": line, "list": onto })).await;
        }
        5 => {
            let source = dice.word(&["weighed", "maker", "estimate"]);
            let change = json!({ "weight": weight, "source": source, "count": 1 + dice.roll(4), "tags": "old hut", "nights": dice.roll(9) });
            client.patch(&at("gear", &thing), change).await;
        }
        6 => drop(
            client
                .patch(
                    &at("gear", &thing),
                    json!({ "weight": null, "claimed": weight, "resale": "12,50", "kept_at": "attic" }),
                )
                .await,
        ),
        7 => drop(client.delete(&at("gear", &thing)).await),
        8 => {
            let reading = json!({ "total": weight, "pieces": 1 + dice.roll(3), "step_mg": 100, "scale": "kitchen" });
            client.post(&format!("/api/gear/{}/weighings", id(&thing)), reading).await;
        }
        9 => drop(client.post(&format!("/api/kits/{}/weighings", id(&kit)), json!({ "total": "900 g" })).await),
        10 => {
            let parts = json!([{ "gear": thing["id"], "count": 1 }, { "gear": other["id"], "count": 1 }]);
            client.post("/api/kits", json!({ "name": name, "parts": parts })).await;
        }
        11 => drop(
            client
                .post(
                    "/api/lists",
                    json!({ "name": name, "note": "north", "target": weight, "requires": { "light": 1 } }),
                )
                .await,
        ),
        12 => {
            let counts = json!({ "carried": dice.roll(2), "worn": dice.roll(2), "used_up": dice.roll(2), "version": line["version"] });
            client.put(&format!("/api/lists/{}/lines/{}", id(&list), id(&line["gear"])), counts).await;
            client.put(&format!("/api/lists/{}/lines/{}", id(&list), id(&thing)), json!({ "carried": 1 })).await;
        }
        13 => drop(
            client
                .delete(&format!("/api/lists/{}/lines/{}?version={}", id(&list), id(&line["gear"]), line["version"]))
                .await,
        ),
        14..=16 => {
            let remove = json!([{ "line": line["id"], "qty": 1 }]);
            let links = if far.is_null() { json!([]) } else { json!([far["id"]]) };
            let field = dice.word(&["requires", "excludes"]);
            let mut draft = json!({ "kind": dice.word(&["replace", "trim", "make"]), "name": name, "remove": remove, "delivery": "4.90", "resale": "10", "hours": "2.5",
                "add": [{ "name": name, "weight": weight, "price": "15-20", "qty": 1, "provides": { "light": 1 },
                    "seen": { "place": name, "on": "2026-04-18", "sold": "sale" } }] });
            draft[field] = links;
            client.post(&format!("/api/lists/{}/swaps", id(&list)), draft).await;
            if dice.roll(3) == 0 {
                client.delete(&at("swaps", &far)).await;
            }
        }
        17 => drop(
            client
                .put(
                    &format!("/api/swaps/{}/state?version={}", id(&swap), swap["version"]),
                    json!({ "state": "pinned" }),
                )
                .await,
        ),
        18 => drop(client.delete(&at("swaps", &swap)).await),
        19 => {
            let fates = json!([dice.word(&["kept", "sold", "given", "worn_out", "elsewhere"])]);
            client.post(&at("swaps", &swap).replace('?', "/done?"), json!({ "fates": fates, "got": "5" })).await;
            if dice.roll(3) == 0 {
                client.delete(&at("swaps", dice.pick(&plan["done"])).replace('?', "/done?")).await;
            }
        }
        20 => {
            let purse = json!({ "now": "20", "month": "15.50", "resale_after_months": dice.roll(4) });
            let terms = json!({ "counting": dice.word(&["stated", "worst"]), "rank_by": "everything", "purse": purse });
            client.patch(&format!("/api/lists/{}?version={}", id(&list), list["version"]), terms).await;
            let kept = json!({ "name": name, "swaps": if swap.is_null() { json!([]) } else { json!([swap["id"]]) } });
            client.post(&format!("/api/lists/{}/kept-plans", id(&list)), kept).await;
        }
        _ => {
            let changes = client.get("/api/changes?limit=6").await.body;
            client.undo(id(dice.pick(&changes))).await;
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn any_account_is_laid_again_byte_for_byte() {
    let stage = Stage::start(false);
    let text = async |client: &Client| -> String {
        let file = client.raw(reqwest::Method::GET, "/api/files/account.json").send().await.unwrap();
        file.text().await.unwrap()
    };
    let stage = &stage;
    let accounts = (0..6_u64).map(|seed| async move {
        let client = Client::new(stage).sign_up(&format!("anna{seed}")).await;
        let mut dice = Dice(0x5EED + seed * 7_919);
        for _ in 0..70 {
            use_once(&client, &mut dice).await;
        }
        let file = text(&client).await;
        let other = Client::new(stage).sign_up(&format!("bert{seed}")).await;
        let restored = other.restore(&file).await;
        assert_eq!(restored.status, 200, "seed {seed}: {}\n{file}", restored.body);
        let again = text(&other).await;
        let differ = file.lines().zip(again.lines()).find(|(one, two)| one != two);
        assert!(file == again, "seed {seed}: {differ:?}");
        // The plan of each list is the same too.
        for (one, two) in client
            .get("/api/lists")
            .await
            .body
            .as_array()
            .unwrap()
            .iter()
            .zip(other.get("/api/lists").await.body.as_array().unwrap())
        {
            let [one, two] = [(&client, one), (&other, two)].map(|(client, list)| async move {
                let plan = client.get(&format!("/api/lists/{}/plan", id(list))).await.body;
                (
                    plan["base_mg"].clone(),
                    plan["plan"]["net_minor"].clone(),
                    plan["frontier"].clone(),
                    plan["unavailable"].as_array().map(Vec::len),
                )
            });
            assert_eq!(one.await, two.await, "seed {seed}");
        }
        file
    });
    let files = futures_util::future::join_all(accounts).await.concat();
    // Among them is what is hard to keep.
    for held in ["\"off\": true", "requires_gone", "stated", "\"kits\": [\n    {", "\"pieces\": 3", "\"excludes\": [\n"]
    {
        assert!(files.contains(held), "no account came to hold {held}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_no_endpoint_takes_no_file_brings() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    client.line("tent 1910g !shelter", Some(&list)).await;
    let line = client.get(&format!("/api/lists/{list}")).await.body["lines"][0]["id"].clone();
    let leave = json!({ "kind": "leave_out", "remove": [{ "line": line, "qty": 1 }] });
    client.post(&format!("/api/lists/{list}/swaps"), leave).await;
    client.post("/api/gear/line", json!({ "line": "mug weighed 98g" })).await;
    let trip = client.post("/api/trips", json!({ "list": list, "starts_on": "2026-09-04" })).await.id().to_owned();
    assert_eq!(client.post(&format!("/api/trips/{trip}/keep?version=1"), json!({})).await.status, 200);
    let noted = client.patch(&format!("/api/lists/{list}/packing"), json!({ "reading": "3 kg" })).await;
    assert_eq!(noted.status, 204);
    let whole = client.get("/api/files/account.json").await.body;
    // The first list is the one that every account begins with.
    let with = |path: &str, value: Value| {
        let mut file = whole.clone();
        *file.pointer_mut(path).unwrap_or_else(|| panic!("{path} in {whole}")) = value;
        file.to_string()
    };
    let swap = &whole["lists"][1]["swaps"][0];
    let side = |n: usize| Value::Array(vec![json!({ "what": "g1", "qty": 1, "place": "carried" }); n]);
    let others = |n: usize| (0..n).map(|at| format!("x{at}")).collect::<Vec<_>>();
    let mut many = vec![swap.clone()];
    many.extend(others(149).into_iter().map(|key| {
        let mut other = swap.clone();
        other["key"] = json!(key);
        other
    }));
    let mut linked = Value::Array(many);
    linked[0]["requires"] = json!(others(149));
    let twice = |value: &Value| json!([value, value]);
    let weighing = |field: &str, value: Value| {
        let at = whole["gear"].as_array().unwrap().iter().position(|thing| thing["name"] == "mug").unwrap();
        with(&format!("/gear/{at}/weighings/0/{field}"), value)
    };
    let event = json!({ "event": { "code": "sentence", "text": "x".repeat(4_000) }, "turn": "done" });
    let point =
        json!({ "at": "2026-01-05T10:00:00", "base_mg": 5_000_000, "cause": "changed", "what": "", "entry": event });
    let cases = [
        ("a swap that requires itself", with("/lists/1/swaps/0/requires", json!(["s1"]))),
        ("101 entries on a side", with("/lists/1/swaps/0/remove", side(101))),
        ("149 links", with("/lists/1/swaps", linked)),
        ("a swap of nothing", with("/lists/1/swaps/0/remove", json!([]))),
        ("a line twice", with("/lists/1/lines", twice(&whole["lists"][1]["lines"][0]))),
        ("a key twice", with("/lists/1/swaps", twice(swap))),
        ("more pieces than are owned", with("/lists/1/lines/0/carried", json!(9))),
        (
            "5001 things on a list",
            with("/lists/1/lines", Value::Array(vec![whole["lists"][1]["lines"][0].clone(); 5_001])),
        ),
        ("501 lists", with("/lists", Value::Array(vec![whole["lists"][0].clone(); 501]))),
        ("a long note", with("/lists/1/note", json!("x".repeat(201)))),
        ("a long figure", with("/gear/0/weight/typed", json!("1".repeat(61)))),
        ("a time before time", weighing("at", json!("-0001-01-01T00:00:00"))),
        ("a leap second", weighing("at", json!("2026-06-30T23:59:60"))),
        ("a step of nothing", weighing("step_mg", json!(0))),
        ("a long scale", weighing("scale", json!("x".repeat(61)))),
        ("a trip that is colder than cold", with("/trips/0/met/low_tenth_c", json!(-901))),
        ("a trip with endless gas", with("/trips/0/used_up/gas_taken_mg", json!(i64::MAX))),
        ("a trip of no list", with("/trips/0/list", json!(7))),
        ("a thing of a trip that is not there", with("/trips/0/things/0/gear", json!("g9"))),
        ("a reading that is none", with("/lists/1/packing", json!({ "reading": "heavy" }))),
        ("a zone that holds less than nothing", with("/lists/1/packing", json!({ "zones": { "top": -1 } }))),
        ("an entry of the history longer than any is", with("/lists/1/history", json!([point]))),
        ("text after the file", format!("{whole} {{}}")),
        ("a job twice", whole.to_string().replacen("\"shelter\":1", "\"shelter\":1,\"shelter\":2", 1)),
        ("a field twice", whole.to_string().replacen("\"currency\":", "\"currency\":\"EUR\",\"currency\":", 1)),
    ];
    let mut said = Vec::new();
    for (name, file) in cases {
        let refused = client.restore(&file).await;
        assert_eq!(refused.status, 422, "{name}: {}", refused.body);
        said.push(format!("{name}: {}", refused.body["detail"].as_str().unwrap()));
    }
    assert_json_snapshot!("what no file brings", said);
    assert_eq!(client.get("/api/files/account.json").await.body, whole, "nothing was written");
}
