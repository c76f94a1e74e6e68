//! From an empty year to a purchase that lightens three lists.

use kevyt_browser::{Browser, enter_demo, sign_up};
use kevyt_testbed::Stage;
use serde_json::{Value, json};
use thirtyfour::prelude::*;

/// What the server answers to a request of the page that is signed in.
pub async fn asked(browser: &Browser, method: &str, path: &str, body: Value) -> Value {
    let script = "const done = arguments[3]; fetch(arguments[1], { method: arguments[0], headers: { 'content-type': 'application/json' }, \
        body: arguments[0] === 'GET' ? undefined : JSON.stringify(arguments[2]) }).then(async (answer) => done(await answer.text()))";
    let given = vec![json!(method), json!(path), body];
    let text = browser.driver.execute_async(script, given).await.unwrap();
    serde_json::from_str(text.json().as_str().unwrap()).unwrap_or_default()
}

/// Presses a button, whatever message lies over it.
async fn press(browser: &Browser, label: &str) {
    browser.click_under(&format!("//button[@aria-label='{label}']")).await;
}

async fn bases(browser: &Browser) -> Vec<i64> {
    let year = asked(browser, "GET", "/api/year", Value::Null).await;
    year["lists"].as_array().unwrap().iter().map(|list| list["base_mg"].as_i64().unwrap()).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn one_purchase_lightens_three_lists() {
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();
    sign_up(&browser, "anna").await;
    let mut lists = Vec::new();
    for name in ["Fells", "Coast", "Woods"] {
        lists.push(
            asked(&browser, "POST", "/api/lists", json!({ "name": name })).await["id"].as_str().unwrap().to_owned(),
        );
    }
    asked(&browser, "POST", "/api/gear/line", json!({ "line": "ukulele 1900g", "list": lists[0] })).await;
    let ukulele = asked(&browser, "GET", "/api/gear", Value::Null).await["items"][0]["id"].as_str().unwrap().to_owned();
    for list in &lists[1..] {
        asked(&browser, "PUT", &format!("/api/lists/{list}/lines/{ukulele}"), json!({ "carried": 1 })).await;
    }
    let line = asked(&browser, "GET", &format!("/api/lists/{}", lists[0]), Value::Null).await["lines"][0]["id"].clone();
    let swap = json!({ "kind": "replace", "remove": [{ "line": line, "qty": 1 }],
        "add": [{ "name": "ocarina", "weight": "1000 g", "price": "300", "qty": 1 }] });
    asked(&browser, "POST", &format!("/api/lists/{}/swaps", lists[0]), swap).await;

    // By keys: the eighth step, then the nights of each list.
    browser.driver.goto(format!("{}/lists/{}/list", stage.url, lists[0])).await.unwrap();
    browser.wait_for("On my back").await;
    browser.press("8").await;
    browser.wait_for("A year is made of nights").await;
    for (name, nights, all) in [("Fells", "2", 2), ("Coast", "5", 7), ("Woods", "3", 10)] {
        browser.click_xpath(&format!("//*[@data-cell][starts-with(@aria-label,'Nights of {name}')]")).await;
        browser.type_into(&format!("input[aria-label='Nights of {name}']"), nights).await;
        browser.press(Key::Enter + "").await;
        browser.wait_for(&format!("{name}: {nights} nights in the coming twelve months.")).await;
        // Without a target it is the least that any money makes of it. The list stands further up then, and the others move.
        browser.wait_for(&format!("{all} nights in the coming twelve months. No list has a target")).await;
    }
    browser.click_xpath("//table//tr[contains(.,'ocarina')]//button[starts-with(@aria-label,'Done')]").await;
    browser.wait_for("On these lists too").await;
    browser.click_xpath("//button[@type='submit'][normalize-space()='Done']").await;
    browser.wait_for("ocarina is done.").await;
    browser.wait_for("No list of the year has a swap yet.").await;
    assert_eq!(bases(&browser).await, [1_000_000, 1_000_000, 1_000_000]);
    // One change, taken back at once.
    browser.press("z").await;
    browser.find_xpath("//table//tr[contains(.,'ocarina')]").await;
    assert_eq!(bases(&browser).await, [1_900_000, 1_900_000, 1_900_000]);
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_year_is_planned_for_one_budget() {
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();
    enter_demo(&browser).await;
    browser.press("8").await;
    browser.wait_for("Buy in this order").await;
    let found = asked(&browser, "GET", "/api/year", Value::Null).await;
    assert_eq!(found["lists"].as_array().unwrap().len(), 6, "six lists");
    assert_eq!(found["plan"]["proved"], true);
    let bought = found["plan"]["swaps"].as_array().unwrap();
    let first = &found["swaps"][usize::try_from(bought[0].as_u64().unwrap()).unwrap()];
    let name = first["swap"]["name"].as_str().unwrap();
    // Ruled out it is not bought; allowed again it is.
    press(&browser, &format!("Rule out {name}")).await;
    browser.wait_for(&format!("{name} is ruled out.")).await;
    press(&browser, &format!("Allow again {name}")).await;
    browser.find_xpath(&format!("//button[@aria-label='Done: {name}']")).await;
    // Another budget, another plan: nothing is bought for nothing that costs.
    browser.driver.execute("scrollTo(0, 0)", Vec::new()).await.unwrap();
    browser.click_xpath("//button[@data-figure='year’s budget']").await;
    browser.type_into("input[aria-label='year’s budget']", "0").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Settings changed.").await;
    let found = asked(&browser, "GET", "/api/year", Value::Null).await;
    assert_eq!(found["budget_minor"], 0, "the budget is kept");
    assert!(found["plan"]["net_minor"].as_i64().unwrap() <= 0);
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn outfits_stand_side_by_side() {
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();
    enter_demo(&browser).await;
    let lists = asked(&browser, "GET", "/api/lists", Value::Null).await;
    let list = lists[0]["id"].as_str().unwrap();
    browser.driver.goto(format!("{}/lists/{list}/list/compare", stage.url)).await.unwrap();
    browser.wait_for("Comfortable down to").await;
    browser.choose("Lists to compare with", "Foothills in spring").await;
    browser.wait_for("The price of the grams between").await;
    // Which lists stand there is in the address: a reload shows the same.
    browser.driver.refresh().await.unwrap();
    browser.wait_for("From Foothills in spring to Fell week").await;
    let told =
        asked(&browser, "GET", &format!("/api/outfits?lists={list},{}", lists[3]["id"].as_str().unwrap()), Value::Null)
            .await;
    let step = &told["between"][0];
    assert!(step["more_minor"].as_i64().unwrap() > 0 && step["lighter_mg"].as_i64().unwrap() < 0, "{step}");
    browser.wait_for("heavier").await;
    browser.close().await;
}
