use crate::client::{Answer, Client};
use insta::assert_json_snapshot;
use kevyt_testbed::Stage;
use serde_json::{Value, json};

const PAGE: &str = "/api/weigh?since=2026-01-01T00:00:00Z";

fn names(page: &Value) -> Vec<&str> {
    page["queue"].as_array().unwrap().iter().map(|queued| queued["gear"]["name"].as_str().unwrap()).collect()
}

async fn weigh(client: &Client, id: &Value, total: &str) -> Answer {
    client.post(&format!("/api/gear/{}/weighings", id.as_str().unwrap()), json!({ "total": total })).await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_worst_doubt_is_weighed_first_and_the_claim_is_kept() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    client.line("stakes 14.8g x10", None).await;
    let tent = client.line("tent claimed 1830g", None).await["id"].clone();
    client.line("night set ~310g", None).await;
    client.line("pouch", None).await;

    let page = client.get(PAGE).await.body;
    assert_eq!(names(&page), ["pouch", "tent", "night set", "stakes"]);
    assert_eq!(
        (page["queue"][1]["low_mg"].as_i64(), page["queue"][1]["high_mg"].as_i64()),
        (Some(-54_900), Some(146_400))
    );
    assert_eq!(
        (&page["now"]["unknown"], &page["foretold"], &page["after"]["unknown"]),
        (&json!(1), &json!(3), &json!(0))
    );

    let weighed = weigh(&client, &tent, "1910").await;
    assert_eq!((weighed.status, &weighed.body["weight"]["unit_mg"]), (201, &json!(1_910_000)));
    assert_eq!(weighed.body["claimed"]["typed"], "1830g");
    let page = client.get(PAGE).await.body;
    assert_eq!(page["makers"]["errors"], json!([43_716]));
    assert_eq!((&page["taken"][0]["name"], &page["taken"][0]["claimed_mg"]), (&json!("tent"), &json!(1_830_000)));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_weighing_is_corrected_removed_and_undone() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let mug = client.line("mug claimed 110g", None).await["id"].clone();
    let at = format!("/api/gear/{}", mug.as_str().unwrap());
    let weight = async || client.get(&at).await.body["weight"].clone();
    weigh(&client, &mug, "118").await;
    let slip = weigh(&client, &mug, "1180").await;
    let history = client.get(&format!("{at}/weighings")).await.body;
    assert_eq!(history.as_array().unwrap().len(), 2);
    let newest = format!("/api/weighings/{}", history[0]["id"].as_str().unwrap());

    let corrected = client.put(&newest, json!({ "total": "119" })).await;
    assert_eq!(weight().await["typed"], "119 g");
    // The slip can't be undone under the correction; the correction can, and then the slip.
    let undo = async |change: String| client.post(&format!("/api/changes/{change}/undo"), json!({})).await;
    assert_json_snapshot!("undo under a later change", undo(slip.change()).await.shown());
    assert_eq!(undo(corrected.change()).await.status, 200);
    assert_eq!(weight().await["unit_mg"], 1_180_000);
    assert_eq!(undo(slip.change()).await.status, 200);
    assert_eq!(weight().await["unit_mg"], 118_000);
    assert_eq!(undo(slip.change()).await.body["code"], "undone");

    // Without a weighing the maker's figure counts again.
    let oldest = client.get(&format!("{at}/weighings")).await.body[0]["id"].as_str().unwrap().to_owned();
    assert_eq!(client.delete(&format!("/api/weighings/{oldest}")).await.status, 204);
    assert_eq!((weight().await["source"].clone(), weight().await["typed"].clone()), (json!("maker"), json!("110g")));
    assert_eq!(client.get(PAGE).await.body["taken"], json!([]));
}

#[tokio::test(flavor = "multi_thread")]
async fn counted_pieces_and_containers() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let stakes = client.line("stakes x10", None).await["id"].clone();
    let at = format!("/api/gear/{}/weighings", stakes.as_str().unwrap());
    let reading = json!({ "total": "160 g", "container": "12 g", "pieces": 10, "step_mg": 1000, "scale": "kitchen" });
    let weighed = client.post(&at, reading).await.body;
    assert_eq!((&weighed["weight"]["unit_mg"], &weighed["weight"]["typed"]), (&json!(14_800), &json!("14.8 g")));
    let kept = client.get(&at).await.body[0].clone();
    assert_eq!(
        (&kept["total_mg"], &kept["half_width_mg"], &kept["scale"]),
        (&json!(148_000), &json!(100), &json!("kitchen"))
    );
    for (reading, field) in [
        (json!({ "total": "heavy" }), "total"),
        (json!({ "total": "5 g", "container": "6 g" }), "container"),
        (json!({ "total": "5 g", "pieces": 0 }), "pieces"),
        (json!({ "total": "5 g", "step_mg": 0 }), "step_mg"),
        (json!({ "total": "5 g", "scale": "x".repeat(61) }), "scale"),
    ] {
        let refused = client.post(&at, reading).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!(field)));
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn one_unknown_part_of_a_weighed_kit_is_derived() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let bag = client.line("bag 1120g", None).await["id"].clone();
    let sack = client.line("sack", None).await["id"].clone();
    let parts = json!([{ "gear": bag, "count": 1 }, { "gear": sack, "count": 1 }]);
    let kit = client.post("/api/kits", json!({ "name": "sleep", "parts": parts })).await;
    assert_json_snapshot!("kit before it is weighed", kit.shown());
    let at = format!("/api/kits/{}", kit.id());
    let weighed = client.post(&format!("{at}/weighings"), json!({ "total": "1164" })).await;
    assert_eq!((&weighed.body["figure_mg"], &weighed.body["own_counts"]), (&json!(1_164_000), &json!(true)));
    let sack_weight =
        async || client.get(&format!("/api/gear/{}", sack.as_str().unwrap())).await.body["weight"].clone();
    assert_eq!(sack_weight().await, json!({ "unit_mg": 44_000, "typed": "44 g", "source": "derived" }));
    assert_eq!(client.get(PAGE).await.body["foretold"], 0, "in its kit it is settled");

    // The bag weighed anew: the sack follows. The sack weighed itself: both figures and their difference.
    weigh(&client, &bag, "1122").await;
    assert_eq!(sack_weight().await["unit_mg"], 42_000);
    weigh(&client, &sack, "45").await;
    let kits = client.get("/api/kits").await.body;
    assert_eq!((&kits[0]["difference_mg"], &kits[0]["own_counts"]), (&json!(-3_000), &json!(false)));

    // Weighing it taken back, it is derived again; the kit taken apart, it is unknown; undone, derived.
    let weighing = client.get(&format!("/api/gear/{}/weighings", sack.as_str().unwrap())).await.body[0]["id"].clone();
    client.delete(&format!("/api/weighings/{}", weighing.as_str().unwrap())).await;
    assert_eq!(sack_weight().await["source"], "derived");
    let apart = client.delete(&format!("{at}?version=1")).await;
    assert_eq!((apart.status, sack_weight().await), (204, Value::Null));
    client.post(&format!("/api/changes/{}/undo", apart.change()), json!({})).await;
    assert_eq!(sack_weight().await["unit_mg"], 42_000);

    // Nobody may say a weight is derived, nor make a kit of one thing, of a thing twice, or of more than there are.
    let sack_at = format!("/api/gear/{}", sack.as_str().unwrap());
    let sack_at = format!("{sack_at}?version={}", client.get(&sack_at).await.body["version"]);
    assert_eq!(client.patch(&sack_at, json!({ "source": "derived" })).await.body["code"], "derived");
    let part = |count: u32| json!({ "gear": bag, "count": count });
    for parts in [json!([part(1)]), json!([part(1), part(1)]), json!([part(2), { "gear": sack, "count": 1 }])] {
        let refused = client.post("/api/kits", json!({ "name": "no", "parts": parts })).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!("parts")));
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn pieces_are_taken_away_all_or_none() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let quilt = client.line("quilt ~500g", None).await["id"].clone();
    let stakes = client.line("stakes x8", None).await["id"].clone();
    let weighing = |readings: Value| json!({ "container_mg": 44_000, "readings_mg": readings, "step_mg": 1_000 });
    let readings = json!([600_000, 121_000, 45_000]);
    let read = client.post("/api/weigh/take-away", weighing(readings.clone())).await.body;
    assert_eq!(read, json!({ "pieces_mg": [479_000, 76_000], "left_over_mg": 1_000 }));
    for readings in [json!([]), json!([44_000]), json!([600_000, 600_000]), json!([600_000, 5_000])] {
        let refused = client.post("/api/weigh/take-away", weighing(readings)).await;
        assert_eq!((refused.status, &refused.body["field"]), (422, &json!("readings")));
    }
    let save = |things: Value| json!({ "weighing": weighing(readings.clone()), "things": things, "scale": "kitchen" });
    let url = "/api/weigh/take-away/weighings";
    assert_eq!(client.post(url, save(json!([{ "gear": quilt }]))).await.body["code"], "count");
    let saved = client.post(url, save(json!([{ "gear": quilt }, { "gear": stakes, "count": 8 }]))).await;
    assert_eq!(saved.status, 201);
    let unit = async |id: &Value| {
        client.get(&format!("/api/gear/{}", id.as_str().unwrap())).await.body["weight"]["unit_mg"].clone()
    };
    assert_eq!((unit(&quilt).await, unit(&stakes).await), (json!(479_000), json!(9_500)));
    client.post(&format!("/api/changes/{}/undo", saved.change()), json!({})).await;
    assert_eq!((unit(&quilt).await, unit(&stakes).await), (json!(500_000), Value::Null));
}

#[tokio::test(flavor = "multi_thread")]
async fn reports_are_read_and_judged() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let read = async |bytes: &str, every: i64, count: i64, late: i64| {
        let reports: Vec<Value> = (0..count).map(|n| json!({ "at_ms": n * every, "bytes": bytes })).collect();
        client.post("/api/scale/read", json!({ "reports": reports, "now_ms": (count - 1) * every + late })).await
    };
    let steady = read("030402005101", 100, 6, 0).await.body;
    assert_eq!(
        (&steady["state"], &steady["mass_mg"], &steady["step_mg"]),
        (&json!("steady"), &json!(337_000), &json!(1_000))
    );
    assert_eq!(read("030402005101", 100, 2, 0).await.body["state"], "moving");
    assert_eq!(read("030402005101", 100, 6, 3_000).await.body["state"], "silent");
    assert_eq!(read("030200000000", 100, 6, 0).await.body["state"], "empty");
    assert_json_snapshot!("overload", read("030602000000", 100, 2, 0).await.shown());
    assert_eq!(read("zz", 100, 1, 0).await.body["code"], "not_hex");
    assert_eq!(read("030402005101", 1, 501, 0).await.body["code"], "too_many");
    // A measurement over Bluetooth stands until the next, however long ago it came.
    let measured = async |bytes: &str| {
        let asked = json!({ "reports": [{ "at_ms": 0, "bytes": bytes }], "now_ms": 60_000, "speaks": "bluetooth" });
        let read = client.post("/api/scale/read", asked).await.body;
        (read["state"].clone(), read["mass_mg"].clone(), read["step_mg"].clone())
    };
    assert_eq!(measured("007e01").await, (json!("steady"), json!(1_910_000), json!(5_000)));
    assert_eq!(measured("000000").await, (json!("empty"), json!(0), json!(5_000)));
    assert_eq!(measured("00ffff").await.0, "fault");
    let nothing = json!({ "reports": [], "now_ms": 0, "speaks": "bluetooth" });
    assert_eq!(client.post("/api/scale/read", nothing).await.body["state"], "silent");
}
