//! A list for a cold trip, made from a summer one: cautions, ways, days, the even split, and a link.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use kevyt_browser::{Browser, demo};
use serde_json::Value;
use thirtyfour::prelude::*;

async fn fetched(browser: &Browser, path: &str) -> Value {
    let script = format!(
        "const done = arguments[arguments.length - 1]; \
         fetch('{path}').then(async answer => done({{ status: answer.status, body: await answer.text() }}))"
    );
    browser.driver.execute_async(&script, Vec::new()).await.unwrap().json().clone()
}

/// The sheet of the list that the page is about.
async fn sheet(browser: &Browser) -> Value {
    let url = browser.driver.current_url().await.unwrap();
    let list = url.path_segments().unwrap().nth(1).unwrap().to_owned();
    let answer = fetched(browser, &format!("/api/lists/{list}/sheet")).await;
    serde_json::from_str(answer["body"].as_str().unwrap()).unwrap()
}

/// Types a figure of the trip under its label.
async fn figure(browser: &Browser, label: &str, typed: &str) {
    let xpath = format!("//div[contains(@class,'el-form-item')][.//label[normalize-space()='{label}']]//input");
    let field = browser.find_xpath(&xpath).await;
    field.send_keys(Key::Control + "a").await.unwrap();
    field.send_keys(typed).await.unwrap();
    field.send_keys(Key::Enter + "").await.unwrap();
    browser.wait_for("Trip changed.").await;
}

fn kg(mg: i64) -> String {
    format!("{}.{:02} kg", (mg + 5_000) / 1_000_000, (mg + 5_000) / 10_000 % 100)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_cold_trip_is_made_of_a_summer_list() {
    let (stage, browser) = demo("list", "Stays home").await;
    browser.click_xpath("//header//button[contains(.,'Fell week')]").await;
    browser.click_xpath("//li[normalize-space()='Summer overnighter']").await;
    browser.wait_for("30 things come along").await;
    browser.click_xpath("//header//button[contains(.,'Summer overnighter')]").await;
    browser.click_text("Copy this list …").await;
    browser.type_into("input[name='list-name']", "Cold trip").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("List Cold trip made.").await;

    // Four cold days with one resupply.
    browser.press("r").await;
    browser.wait_for("What it takes, and what the list has").await;
    figure(&browser, "Days", "4").await;
    figure(&browser, "Resupply on days", "3").await;
    figure(&browser, "Lowest", "6").await;
    // The summer quilt's limit of 6 °C stands for a comfort of 11.5; a cold sleeper adds 5, the liner takes 3.
    browser.wait_for("Cold night: 7.5 °C short").await;
    browser.wait_for("Summer quilt with Silk liner: comfort 13.5 °C, limit 8 °C.").await;
    let worked = sheet(&browser).await;
    let trip = &worked["trip"];
    let heaviest = trip["days_mg"].as_array().unwrap().iter().map(|day| day.as_i64().unwrap()).max().unwrap();
    assert_eq!(trip["days_mg"].as_array().unwrap().len(), 4);
    browser.wait_for(&kg(heaviest)).await;

    // What the caution names is brought along until it is quiet.
    browser.click_xpath("//li[contains(.,'Mummy bag, synthetic adds')]//button").await;
    browser.wait_gone("Cold night").await;

    // Counted with the poles on the back, base weight is more by exactly the poles: twice 231 g.
    browser.click_xpath("//a[normalize-space()='List']").await;
    browser.wait_for("31 things come along").await;
    let before = sheet(&browser).await["totals"]["base_mg"].as_i64().unwrap();
    browser.click_text("Counting rule of your own …").await;
    browser.type_into("input[name='way']", "With poles").await;
    browser.choose("Walking poles (tag poles)", "on my back").await;
    browser.click_text("Save").await;
    browser.click_xpath("//button[contains(@title,'Count it this way: With poles')]").await;
    browser.wait_for("The list is counted another way: with poles.").await;
    assert_eq!(sheet(&browser).await["totals"]["base_mg"], before + 462_000);

    // With a partner: what is shared is split evenly by one key.
    browser.press("g").await;
    browser.type_into("input[name='walker']", "Vesper").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Vesper walks along.").await;
    browser.click("button[aria-label='Share Two-skin dome']").await;
    browser.wait_for("Two-skin dome is shared.").await;
    browser.wait_for("gives Vesper Two-skin dome").await;
    browser.click_xpath("//button[contains(.,'Split evenly')]").await;
    browser.wait_for("Shared things are split as evenly as they go.").await;
    assert_eq!(sheet(&browser).await["walkers"][1]["pack_mg"], 1_910_000);

    // The link opens the list for whoever has it, without an account and without a price.
    browser.click_text("Make a link to read").await;
    let link = browser.find("[data-link], [data-link] input, input[aria-label='The link']").await;
    let address = link.prop("value").await.unwrap().unwrap();
    let reader = Browser::open().await;
    reader.driver.goto(&address).await.unwrap();
    reader.wait_for("Cold trip").await;
    reader.wait_for("Mummy bag, synthetic").await;
    reader.click_xpath("//label[contains(.,'Vesper')]").await;
    reader.wait_for("Two-skin dome").await;
    let page = reader.driver.source().await.unwrap();
    assert!(!page.contains('€') && !page.contains("EUR"), "a price on the page");
    let secret = address.rsplit('/').next().unwrap();
    let answer = fetched(&reader, &format!("/api/shared/{secret}")).await;
    assert_eq!(answer["status"], 200);
    assert!(!answer["body"].as_str().unwrap().contains("paid"), "a price in the answer");
    browser.click_text("Revoke").await;
    browser.wait_for("The link is revoked").await;
    assert_eq!(fetched(&reader, &format!("/api/shared/{secret}")).await["status"], 404);
    reader.driver.refresh().await.unwrap();
    reader.wait_for("This link no longer works").await;
    reader.close().await;
    browser.close().await;
    drop(stage);
}
