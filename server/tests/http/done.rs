//! Swaps that are done and undone, how a plan is asked for, and what a list would be after.

use crate::client::Client;
use crate::sheet::trip;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

/// A list with a tent of 1 910 g that could be a shelter of 730 g for 379 less 90, and a towel that could be cut; ids of list and swaps.
async fn plans(client: &Client) -> (String, String, String) {
    let list = client.list("1 kg", "300").await;
    client.line("tent 1910g 320eur #shelter", Some(&list)).await;
    client.line("towel 96g", Some(&list)).await;
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    let line =
        |name: &str| lines.as_array().unwrap().iter().find(|line| line["gear"]["name"] == name).unwrap()["id"].clone();
    let shelter = json!({
        "kind": "replace", "remove": [{ "line": line("tent"), "qty": 1 }], "resale": "90",
        "add": [{ "name": "pole shelter", "weight": "730 g", "price": "379", "qty": 1, "provides": { "shelter": 1 } }],
    });
    let cut = json!({ "kind": "trim", "name": "Cut the towel", "remove": [{ "line": line("towel"), "qty": 1 }],
        "add": [{ "name": "towel", "weight": "48 g", "source": "estimate", "price": "0", "qty": 1 }] });
    let swaps = format!("/api/lists/{list}/swaps");
    let shelter = client.post(&swaps, shelter).await.id().to_owned();
    let cut = client.post(&swaps, cut).await.id().to_owned();
    (list, shelter, cut)
}

pub async fn plan(client: &Client, list: &str) -> Value {
    client.get(&format!("/api/lists/{list}/plan")).await.body
}

pub async fn thing(client: &Client, name: &str) -> Value {
    let gear = client.get("/api/gear").await.body["items"].clone();
    gear.as_array().unwrap().iter().find(|thing| thing["name"] == name).cloned().unwrap_or_default()
}

#[tokio::test(flavor = "multi_thread")]
async fn what_selling_takes_is_off_and_what_another_list_needs_brings_nothing() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, _) = plans(&client).await;
    let of_list = format!("/api/lists/{list}");
    let selling = |fee: &str| json!({ "selling": { "fee": fee, "postage": "5" } });
    let fee = client.patch(&format!("{of_list}?version=1"), selling("5,5 %")).await;
    assert_eq!(fee.body["terms"]["selling"], json!({ "fee_tenths": 55, "postage_minor": 500 }), "{}", fee.body);
    // 379 − (90 − 4.95 − 5).
    assert_eq!(plan(&client, &list).await["plan"]["net_minor"], 37_900 - 8_005);
    // What is left out stays.
    let postage = client.patch(&format!("{of_list}?version=2"), json!({ "selling": { "postage": "5" } })).await;
    assert_eq!(postage.body["terms"]["selling"]["fee_tenths"], 55, "{}", postage.body);
    for wrong in ["60", "a third", "1.25"] {
        let refused = client.patch(&format!("{of_list}?version=3"), selling(wrong)).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!("selling.fee")), "{}", refused.body);
    }

    // A second list with the only tent needs it; with two tents there is one for each.
    let other = client.post("/api/lists", json!({ "name": "Winter" })).await.id().to_owned();
    let tent = thing(&client, "tent").await["id"].as_str().unwrap().to_owned();
    let line = format!("/api/lists/{other}/lines/{tent}");
    assert_eq!(client.put(&line, json!({ "carried": 1 })).await.status, 200);
    let of_shelter = async || {
        let planned = plan(&client, &list).await;
        planned["swaps"].as_array().unwrap().iter().find(|swap| swap["id"] == json!(shelter)).unwrap().clone()
    };
    let needed = of_shelter().await;
    assert_eq!((&needed["needed_by"], &needed["brings_minor"]), (&json!(["Winter"]), &json!(0)));
    let gear = format!("/api/gear/{tent}");
    let version = client.get(&gear).await.body["version"].clone();
    assert_eq!(client.patch(&format!("{gear}?version={version}"), json!({ "count": 2 })).await.status, 200);
    let spare = of_shelter().await;
    assert_eq!((&spare["needed_by"], &spare["brings_minor"]), (&json!([]), &json!(8_005)));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_pack_that_the_heaviest_start_is_too_much_for_is_not_planned_unless_the_rest_gets_light_enough() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, _) = plans(&client).await;
    client.line("framed pack 1900g !load=12kg", Some(&list)).await;
    // Three days of 700 g of food and 3 l of water: a start of 1 910 + 96 + 1 900 + 2 100 + 3 000 = 9 006 g.
    let trip = json!({ "trip": trip(json!({ "start_ml": 3_000 })), "target": "0", "budget": "900" });
    let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
    let asked = client.patch(&format!("/api/lists/{list}?version={version}"), trip).await;
    assert_eq!(asked.status, 200, "{}", asked.body);
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    let pack =
        lines.as_array().unwrap().iter().find(|line| line["gear"]["name"] == "framed pack").unwrap()["id"].clone();
    let planned = async |load: i64| {
        let swap = json!({ "kind": "replace", "remove": [{ "line": pack, "qty": 1 }], "add": [{ "name": "light pack",
            "weight": "700 g", "price": "200", "qty": 1, "provides": { "load": load } }] });
        let swap = client.post(&format!("/api/lists/{list}/swaps"), swap).await.id().to_owned();
        let plan = plan(&client, &list).await;
        client.delete(&format!("/api/swaps/{swap}?version=1")).await;
        let chosen: Vec<String> = plan["plan"]["swaps"]
            .as_array()
            .unwrap()
            .iter()
            .map(|at| plan["swaps"][usize::try_from(at.as_u64().unwrap()).unwrap()]["id"].as_str().unwrap().to_owned())
            .collect();
        (chosen.contains(&swap), chosen.contains(&shelter))
    };
    // The lighter pack leaves 7 806 g, with shelter and towel too 6 578 g.
    assert_eq!(planned(7_806).await, (true, true));
    assert_eq!(planned(6_578).await, (true, true));
    assert_eq!(planned(6_577).await, (false, true));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_done_is_gear_and_the_rest_is_planned_with_what_is_left() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, _) = plans(&client).await;
    assert_eq!(plan(&client, &list).await["plan"]["net_minor"], 28_900);

    let done = client
        .post(
            &format!("/api/swaps/{shelter}/done?version=1"),
            json!({ "paid": ["359"], "fates": ["sold"], "got": "100" }),
        )
        .await;
    assert_eq!(done.status, 200, "{}", done.body);
    let record = &done.body["done"];
    assert_eq!(
        [&record["paid_minor"], &record["got_minor"], &record["base_before_mg"], &record["base_after_mg"]],
        [&json!(35_900), &json!(10_000), &json!(2_006_000), &json!(826_000)]
    );
    let new = thing(&client, "pole shelter").await;
    assert_eq!(
        (&new["system"], &new["weight"]["source"], &new["claimed"]["unit_mg"], &new["paid_low_minor"]),
        (&json!("shelter"), &json!("maker"), &json!(730_000), &json!(35_900)),
        "{new}"
    );
    assert_eq!(thing(&client, "tent").await["status"], "sold");
    let after = plan(&client, &list).await;
    assert_eq!((&after["base_mg"], &after["spent_minor"]), (&json!(826_000), &json!(25_900)));
    assert_eq!(after["done"][0]["id"], shelter.as_str());
    assert_eq!(after["swaps"].as_array().unwrap().len(), 1, "what is done is planned no longer");

    // Done twice, or edited while it is done, it is refused by name.
    let again = client.post(&format!("/api/swaps/{shelter}/done?version=2"), json!({})).await;
    assert_eq!((again.status, &again.body["code"]), (422, &json!("done")));
    let stale = client.post(&format!("/api/swaps/{shelter}/done?version=1"), json!({})).await;
    assert_eq!(stale.status, 409);
    // The scale says what it says, and undoing it is possible all the same.
    client.post(&format!("/api/gear/{}/weighings", new["id"].as_str().unwrap()), json!({ "total": "780" })).await;
    assert_eq!(plan(&client, &list).await["base_mg"], 876_000);
    let undone = client.delete(&format!("/api/swaps/{shelter}/done?version=2")).await;
    assert_eq!((undone.status, &undone.body["done"]), (200, &Value::Null), "{}", undone.body);
    let back = plan(&client, &list).await;
    assert_eq!(
        (&back["base_mg"], &back["spent_minor"], back["swaps"].as_array().unwrap().len()),
        (&json!(2_006_000), &json!(0), 2)
    );
    assert_eq!(thing(&client, "tent").await["status"], "owned");
    assert!(thing(&client, "pole shelter").await.is_null());
    // That can be taken back too, and is as it was, weighed.
    assert_eq!(client.undo(&undone.change()).await.status, 200);
    assert_eq!(plan(&client, &list).await["base_mg"], 876_000);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_trim_makes_the_thing_itself_lighter() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, _, cut) = plans(&client).await;
    let towel = thing(&client, "towel").await["id"].clone();
    let claimed = format!("/api/gear/{}?version=1", towel.as_str().unwrap());
    assert_eq!(client.patch(&claimed, json!({ "claimed": "90 g" })).await.status, 200);
    let before = thing(&client, "towel").await;
    let pairs = async || client.get("/api/gear").await.body["makers"]["errors"].clone();
    let pairs_before = pairs().await;
    client.post(&format!("/api/swaps/{cut}/done?version=1"), json!({})).await;
    let trimmed = thing(&client, "towel").await;
    assert_eq!((&trimmed["id"], &trimmed["weight"]["unit_mg"]), (&towel, &json!(48_000)));
    // No maker says what a towel weighs that was cut, and what they said is no pair to a weighing of it.
    assert_eq!((&trimmed["claimed"], trimmed["weight"]["source"] == "maker"), (&Value::Null, false), "{trimmed}");
    assert_eq!(plan(&client, &list).await["base_mg"], 1_958_000);
    client.delete(&format!("/api/swaps/{cut}/done?version=2")).await;
    let mut after = thing(&client, "towel").await;
    after["version"] = before["version"].clone();
    assert_eq!((after, pairs().await), (before, pairs_before), "as it was");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_plan_is_counted_as_asked_and_bought_month_by_month() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, ..) = plans(&client).await;
    let set = async |change: Value| {
        let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
        client.patch(&format!("/api/lists/{list}?version={version}"), change).await
    };
    let clears = |plan: &Value| -> Vec<i64> {
        plan["plan"]["clears"].as_array().unwrap().iter().map(|one| one["mg"].as_i64().unwrap()).collect()
    };
    // 730 g of the maker's may be 8 % more, the weighed towel a gram.
    let stated = plan(&client, &list).await;
    assert_eq!(clears(&stated), [222_000, 222_000, 156_400]);
    assert_eq!(set(json!({ "counting": "worst", "rank_by": "everything" })).await.body["terms"]["counting"], "worst");
    let worst = plan(&client, &list).await;
    assert_eq!((&worst["base_mg"], clears(&worst)), (&json!(2_008_000), clears(&stated)));

    let purse =
        |now: &str, months: u32| json!({ "purse": { "now": now, "month": "100", "resale_after_months": months } });
    set(purse("0", 1)).await;
    assert_eq!(plan(&client, &list).await["plan"]["months"], json!([0, 4]));
    set(purse("379", 1)).await;
    assert_eq!(plan(&client, &list).await["plan"]["months"], json!([0, 0]));
    let refused = set(purse("0", 121)).await;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("purse.resale_after_months")));
    let typed = set(json!({ "purse": { "now": "some", "month": "1", "resale_after_months": 0 } })).await;
    assert_eq!((typed.status, &typed.body["field"]), (422, &json!("purse.now")));
}

#[tokio::test(flavor = "multi_thread")]
async fn money_that_is_spent_buys_nothing_more() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, _) = plans(&client).await;
    let version = async |path: &str| client.get(path).await.body;
    let at = format!("/api/lists/{list}");
    let set = async |change: Value| {
        let version = version(&at).await["list"]["version"].clone();
        client.patch(&format!("{at}?version={version}"), change).await
    };
    set(json!({ "purse": { "now": "779", "month": "100" }, "budget": "1000" })).await;
    let done = client.post(&format!("/api/swaps/{shelter}/done?version=1"), json!({ "fates": ["kept"] })).await;
    assert_eq!(done.status, 200, "{}", done.body);
    let pot = json!({ "kind": "add", "state": "pinned", "add": [{ "name": "pot", "weight": "1 g", "price": "401", "qty": 1 }] });
    assert_eq!(client.post(&format!("{at}/swaps"), pot).await.status, 201);
    // Of 779 there are 400 left: the pot has to wait for the next month's money, until the shelter is not bought after all.
    let last = async || {
        let plan = plan(&client, &list).await;
        let months = plan["plan"]["months"].as_array().unwrap().iter().filter_map(Value::as_i64).max();
        (plan["spent_minor"].as_i64(), months)
    };
    assert_eq!(last().await, (Some(37_900), Some(1)));
    // Said anew, it is what there is now.
    set(json!({ "purse": { "now": "401" } })).await;
    assert_eq!(last().await, (Some(37_900), Some(0)));
    set(json!({ "purse": { "now": "400" } })).await;
    assert_eq!(last().await, (Some(37_900), Some(1)));
    assert_eq!(client.delete(&format!("/api/swaps/{shelter}/done?version=2")).await.status, 200);
    assert_eq!(last().await, (Some(0), Some(0)), "what was paid has come back");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_list_after_some_swaps_is_seen_with_its_cautions_and_plans_are_kept() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, cut) = plans(&client).await;
    // Nobody says that the tent is a shelter.
    let tent = format!("/api/gear/{}?version=1", thing(&client, "tent").await["id"].as_str().unwrap());
    assert_eq!(client.patch(&tent, json!({ "provides": {} })).await.status, 200);
    let after =
        async |swaps: Value| client.post(&format!("/api/lists/{list}/after"), json!({ "swaps": swaps })).await.body;
    assert_eq!(after(json!([shelter])).await["raised"], Value::Null, "nobody has said what the trip is");
    let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
    let trip = json!({ "requires": { "shelter": 1 }, "trip": crate::sheet::trip(json!({})) });
    let said = client.patch(&format!("/api/lists/{list}?version={version}"), trip).await;
    assert_eq!(said.status, 200, "{}", said.body);
    let seen = after(json!([shelter, cut])).await;
    assert_eq!((&seen["base_before_mg"], &seen["base_after_mg"]), (&json!(2_006_000), &json!(778_000)));
    let twice = client.post(&format!("/api/lists/{list}/after"), json!({ "swaps": [cut, cut] })).await;
    assert_eq!((twice.status, &twice.body["code"]), (422, &json!("named_twice")));
    let carried = seen["carried"].as_array().unwrap().iter();
    let carried: Vec<(&Value, i64)> = carried.map(|thing| (&thing["name"], thing["mg"].as_i64().unwrap())).collect();
    assert_eq!(carried.iter().map(|(_, mg)| mg).sum::<i64>(), 778_000, "{carried:?}");
    assert!(carried.iter().all(|(name, _)| **name != "tent"), "{carried:?}");
    // The new one is said to be one.
    let quieted: Vec<_> = seen["quieted"].as_array().unwrap().iter().map(|one| &one["caution"]["job"]).collect();
    assert_eq!((quieted, &seen["raised"]), (vec![&json!("shelter")], &json!([])));
    assert_eq!(seen["jobs"], json!([{ "job": "shelter", "before": 0, "after": 1, "asked": 1 }]));

    let plans = format!("/api/lists/{list}/kept-plans");
    let kept = client.post(&plans, json!({ "name": "Light", "swaps": [shelter, cut] })).await;
    assert_eq!((kept.status, &kept.body["name"]), (201, &json!("Light")));
    let unknown = client.post(&plans, json!({ "name": "No", "swaps": [list] })).await;
    assert_eq!((unknown.status, &unknown.body["field"]), (422, &json!("swaps")));
    let removed = client.delete(&format!("/api/kept-plans/{}?version=1", kept.id())).await;
    assert_eq!((removed.status, client.get(&plans).await.body), (204, json!([])));
    client.undo(&removed.change()).await;
    assert_eq!(client.get(&plans).await.body[0]["swaps"], json!([shelter, cut]));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_proposed_becomes_a_swap_or_is_silenced() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let list = client.list("1 kg", "300").await;
    for line in ["knife 92g !cutting", "blade 21g !cutting", "large bank 348g !power=74Wh"] {
        client.line(line, Some(&list)).await;
    }
    let small = client.line("small bank 180g !power=37Wh", None).await["id"].clone();
    let proposals = format!("/api/lists/{list}/proposals");
    let told = async || client.get(&proposals).await.body;
    assert_eq!(
        told().await,
        json!([
            { "key": "bring small bank for large bank", "thing": "large bank", "saving_mg": 168_000,
              "why": { "code": "lighter_at_home", "other": "small bank" } },
            { "key": "leave knife", "thing": "knife", "saving_mg": 92_000,
              "why": { "code": "done_by_others", "by": ["blade"], "by_own_pieces": false } },
        ])
    );
    let silenced = client.post(&format!("{proposals}/silence"), json!({ "key": "leave knife" })).await;
    assert_eq!((silenced.status, told().await.as_array().unwrap().len()), (204, 1));
    let swap = client.post(&format!("{proposals}/take"), json!({ "key": "bring small bank for large bank" })).await;
    assert_eq!((swap.status, &swap.body["add"][0]["candidate"]["name"]), (201, &json!("small bank")), "{}", swap.body);
    assert_eq!(told().await, json!([]), "what is a swap is proposed no longer");
    // Done, it is the thing at home that goes on, and not another one of its name.
    client.post(&format!("/api/swaps/{}/done?version=1", swap.id()), json!({})).await;
    let on: Vec<Value> = client.get(&format!("/api/lists/{list}")).await.body["lines"]
        .as_array()
        .unwrap()
        .iter()
        .map(|line| line["gear"]["id"].clone())
        .collect();
    assert!(on.contains(&small) && on.len() == 3, "{on:?}");
    client.delete(&format!("/api/swaps/{}/done?version=2", swap.id())).await;
    assert_eq!(thing(&client, "small bank").await["id"], small);
    client.undo(&silenced.change()).await;
    assert_eq!(told().await.as_array().unwrap().len(), 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_part_that_is_trimmed_leaves_the_base_that_was_planned() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, _, cut) = plans(&client).await;
    let part = |thing: &Value| json!({ "gear": thing["id"], "count": 1 });
    let parts = json!([part(&thing(&client, "tent").await), part(&thing(&client, "towel").await)]);
    let kit = client.post("/api/kits", json!({ "name": "camp", "parts": parts })).await;
    client.post(&format!("/api/kits/{}/weighings", kit.id()), json!({ "total": "2100 g" })).await;
    assert_eq!(plan(&client, &list).await["base_mg"], 2_100_000);
    let done = client.post(&format!("/api/swaps/{cut}/done?version=1"), json!({})).await;
    // What they weighed together says nothing of them any more: each counts by itself, as the plan had it.
    assert_eq!(done.body["done"]["base_after_mg"], 1_958_000, "{}", done.body);
    assert_eq!(client.get("/api/kits").await.body, json!([]));
    client.delete(&format!("/api/swaps/{cut}/done?version=2")).await;
    assert_eq!(plan(&client, &list).await["base_mg"], 2_100_000);
}

#[tokio::test(flavor = "multi_thread")]
async fn undoing_puts_back_no_more_than_there_is() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, _) = plans(&client).await;
    client.post(&format!("/api/swaps/{shelter}/done?version=1"), json!({ "fates": ["kept"] })).await;
    let tent = thing(&client, "tent").await;
    // Kept at home, it was put on the list again by hand, and lent since.
    let on = format!("/api/lists/{list}/lines/{}", tent["id"].as_str().unwrap());
    let version = 2;
    let put = client.put(&on, json!({ "worn": 1, "version": version })).await;
    assert!(put.status == 200 || client.put(&on, json!({ "worn": 1, "version": version + 1 })).await.status == 200);
    let undone = client.delete(&format!("/api/swaps/{shelter}/done?version=2")).await;
    assert_eq!(undone.status, 200, "{}", undone.body);
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    let line = lines.as_array().unwrap().iter().find(|line| line["gear"]["id"] == tent["id"]).unwrap();
    assert_eq!((&line["worn"], &line["carried"]), (&json!(1), &json!(0)));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_not_paid_or_not_there_is_refused_by_name_and_nothing_is_done() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, _) = plans(&client).await;
    let done = format!("/api/swaps/{shelter}/done?version=1");
    for (doing, field) in [
        (json!({ "paid": ["much"] }), "paid[0]"),
        (json!({ "delivery": "-5" }), "delivery"),
        (json!({ "fates": ["sold"], "got": "1,250" }), "got"),
    ] {
        let refused = client.post(&done, doing).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)), "{}", refused.body);
    }
    let lines = client.get(&format!("/api/lists/{list}")).await.body["lines"].clone();
    let tent = lines.as_array().unwrap().iter().find(|line| line["gear"]["name"] == "tent").unwrap().clone();
    let on = format!("/api/lists/{list}/lines/{}", tent["gear"]["id"].as_str().unwrap());
    client.put(&on, json!({ "worn": 1, "version": tent["version"] })).await;
    let refused = client.post(&done, json!({})).await;
    assert_eq!((refused.status, &refused.body["code"]), (422, &json!("more_than_there")), "{}", refused.body);
    assert_eq!(plan(&client, &list).await["done"], json!([]));
    assert!(thing(&client, "pole shelter").await.is_null());
    let undone = client.delete(&done).await;
    assert_eq!((undone.status, &undone.body["code"]), (422, &json!("not_done")));
}

/// Bert walks on Anna's list with a quilt of his own, which he would sell from a list of his.
#[tokio::test(flavor = "multi_thread")]
async fn a_joined_list_needs_its_gear_and_a_copy_of_it_takes_no_money_along() {
    let stage = Stage::start(false);
    let (anna, bert) = (Client::signed_up(&stage, "anna").await, Client::signed_up(&stage, "bert").await);
    let joint = anna.list("1 kg", "300").await;
    let terms = json!({ "purse": { "now": "250", "month": "40" }, "selling": { "fee": "10" }, "counting": "worst" });
    let set = anna.patch(&format!("/api/lists/{joint}?version=1"), terms).await;
    assert_eq!(set.status, 200, "{}", set.body);
    bert.joins(&anna, &joint, "Bert").await;

    let own = bert.list("1 kg", "300").await;
    bert.line("quilt 500g 90eur #sleep", Some(&own)).await;
    let line = bert.get(&format!("/api/lists/{own}")).await.body["lines"][0].clone();
    let sold = json!({ "kind": "leave_out", "remove": [{ "line": line["id"], "qty": 1 }], "resale": "60" });
    assert_eq!(bert.post(&format!("/api/lists/{own}/swaps"), sold).await.status, 201);
    let brings = async || {
        let planned = plan(&bert, &own).await["swaps"][0].clone();
        (planned["brings_minor"].clone(), planned["needed_by"].as_array().unwrap().len())
    };
    assert_eq!(brings().await, (json!(6_000), 0));
    let taken_along = format!("/api/lists/{joint}/lines/{}", line["gear"]["id"].as_str().unwrap());
    assert_eq!(bert.put(&taken_along, json!({ "carried": 1 })).await.status, 200);
    assert_eq!(brings().await, (json!(0), 1));

    let copy = bert.post(&format!("/api/lists/{joint}/copies"), json!({ "name": "Mine" })).await;
    assert_eq!(copy.status, 201, "{}", copy.body);
    let terms = &copy.body["terms"];
    assert_eq!(
        (&terms["purse"], &terms["selling"]["fee_tenths"], &terms["counting"]),
        (&Value::Null, &json!(0), &json!("stated")),
        "{terms}"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn a_target_may_be_of_the_loaded_weight_or_of_the_heavy_few() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (list, shelter, _) = plans(&client).await;
    let ask = async |change: Value| {
        let version = client.get(&format!("/api/lists/{list}")).await.body["list"]["version"].clone();
        let changed = client.patch(&format!("/api/lists/{list}?version={version}"), change).await;
        assert_eq!(changed.status, 200, "{}", changed.body);
        let found = plan(&client, &list).await;
        let bought: Vec<Value> = found["plan"]["swaps"]
            .as_array()
            .unwrap()
            .iter()
            .map(|at| found["swaps"][usize::try_from(at.as_u64().unwrap()).unwrap()]["id"].clone())
            .collect();
        (found["aim_mg"].as_i64().unwrap(), found["plan"]["base_mg"].as_i64().unwrap(), bought)
    };
    // Tent 1 910 and towel 96 g: of base weight it takes both swaps to come to 800 g, of the heavy few the shelter's 730 do.
    let (now, then, bought) = ask(json!({ "target": "800 g" })).await;
    assert_eq!((now, then, bought.len()), (2_006_000, 778_000, 2));
    assert_eq!(ask(json!({ "target_of": "heavy_few" })).await, (1_910_000, 730_000, vec![json!(shelter)]));
    // The ranking and the sums stay those of base weight.
    let found = plan(&client, &list).await;
    assert_eq!((&found["base_mg"], &found["ranking"][0]["saving_mg"]), (&json!(2_006_000), &json!(48_000)));
    assert_eq!(found["list"]["terms"]["target_of"], "heavy_few");
    // Loaded, the food of three days is in the pack; the shelter takes 1 180 g off, and the cut towel 48 g more for nothing.
    ask(json!({ "trip": trip(json!({ "days": 3 })) })).await;
    let sheet = client.get(&format!("/api/lists/{list}/sheet")).await.body;
    let heaviest = sheet["trip"]["heaviest_mg"].as_i64().unwrap();
    assert!(heaviest > 3_000_000, "{}", sheet["trip"]);
    let target = format!("{} g", heaviest / 1_000 - 1_180);
    let (now, then, bought) = ask(json!({ "target": target, "target_of": "loaded" })).await;
    assert_eq!((now, then, bought.len()), (heaviest, heaviest - 1_228_000, 2));
    // The year plans base weights.
    ask(json!({ "year_nights": 3 })).await;
    let year = client.get("/api/year").await.body;
    assert_eq!((&year["lists"][0]["base_target_mg"], &year["plan"]["has_target"]), (&Value::Null, &json!(false)));
}
