//! From the floor to the next trip, through the real interface: packed without a network, weighed, walked, looked back on, learnt from.

use kevyt_browser::{Browser, Look, enter_demo, until};
use kevyt_testbed::Stage;
use serde_json::json;
use thirtyfour::prelude::*;

async fn go(browser: &Browser, step: &str, shown: &str) {
    browser.follow(&format!("/{step}")).await;
    browser.wait_for(shown).await;
}

async fn network(browser: &Browser, is_there: bool) {
    let conditions = json!({ "offline": !is_there, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1 });
    let tools = browser.driver.cdp();
    tools.send_raw("Network.enable", json!({})).await.unwrap();
    tools.send_raw("Network.emulateNetworkConditions", conditions).await.unwrap();
    let hears = until(async || {
        let seen = browser.driver.execute("return navigator.onLine", Vec::new()).await.unwrap();
        seen.json().as_bool() == Some(is_there)
    });
    assert!(hears.await, "the browser does not hear of its network");
}

fn box_of(thing: &str) -> String {
    format!("//main//label[contains(@class, 'el-checkbox')][starts-with(normalize-space(), '{thing}')]")
}

async fn is_ticked(browser: &Browser, thing: &str) -> bool {
    let label = browser.find_xpath(&box_of(thing)).await;
    label.class_name().await.unwrap().unwrap_or_default().contains("is-checked")
}

#[tokio::test(flavor = "multi_thread")]
async fn a_trip_is_packed_walked_and_learnt_from() {
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();
    enter_demo(&browser).await;

    // On the floor, with one thumb and without a network: what is ticked stands, and is there once the network is.
    browser.look(Look { width: 390, height: 844, dark: false }).await;
    go(&browser, "pack", "24 of 46 in").await;
    network(&browser, false).await;
    for thing in ["Phone", "Walking poles"] {
        let shown = browser.find_xpath(&box_of(thing)).await;
        let script = "arguments[0].scrollIntoView({ block: 'center' })";
        browser.driver.execute(script, vec![shown.to_json().unwrap()]).await.unwrap();
        browser.click_xpath(&box_of(thing)).await;
    }
    browser.wait_for("26 of 46 in").await;
    browser.wait_for("2 changes kept on this device").await;
    network(&browser, true).await;
    browser.wait_gone("2 changes kept on this device until the server can be reached.").await;
    browser.driver.refresh().await.unwrap();
    browser.wait_for("26 of 46 in").await;
    // By key, too.
    let script = "arguments[0].querySelector('input').focus()";
    let phone = browser.find_xpath(&box_of("Phone")).await.to_json().unwrap();
    browser.driver.execute(script, vec![phone]).await.unwrap();
    browser.press(" ").await;
    browser.wait_for("25 of 46 in").await;
    browser.press(" ").await;
    browser.wait_for("26 of 46 in").await;
    assert!(is_ticked(&browser, "Phone").await && is_ticked(&browser, "Walking poles").await);

    // The scale says more than the list, and something on it was never weighed. Weighed, it explains the rest.
    browser.look(Look { width: 1280, height: 800, dark: false }).await;
    go(&browser, "pack", "+309 g").await;
    browser.wait_for("this is more, and some things were never weighed").await;
    go(&browser, "weigh", "What does it really weigh?").await;
    browser.type_into("input[aria-label='Find what to weigh']", "stuff sacks").await;
    browser.press(Key::Enter + "").await;
    browser.type_into("input[aria-label='What the scale shows']", "250").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("250 g").await;
    go(&browser, "pack", "+59 g").await;
    browser.wait_for("so this can be right").await;

    // Off they go; back again, twelve things by key alone.
    browser.click_xpath("//button[contains(., 'Start the trip: save its list')]").await;
    browser.wait_for("is kept as it is packed now").await;
    go(&browser, "trips", "4 trips walked, 4 to come").await;
    browser.press("d").await;
    browser.wait_for("0 of 47 reviewed").await;
    browser.press(Key::Down + "").await;
    browser.find("[data-said]:focus").await;
    for _ in 0..11 {
        browser.press("u").await;
    }
    browser.press("nf").await;
    browser.wait_for("12 of 47 reviewed").await;
    browser.driver.refresh().await.unwrap();
    browser.wait_for("12 of 47 reviewed").await;

    // Never used on two trips: left out with a key. What calls for help was not used either, and nobody proposes that.
    go(&browser, "trips", "Leave out Camp shoes").await;
    let text = browser.find("main").await.text().await.unwrap();
    assert!(!text.contains("Leave out Satellite messenger"), "{text}");
    browser.press("a").await;
    browser.wait_for("Leave out Camp shoes is a swap now").await;
    go(&browser, "swaps", "Leave out camp shoes").await;
    let text = browser.find("main").await.text().await.unwrap();
    assert!(!text.contains("Leave out Satellite messenger"), "{text}");
    go(&browser, "plan", "Leave out camp shoes").await;
    browser.click("button[aria-label='Done: Leave out camp shoes']").await;
    browser.click_xpath("//div[@role='dialog']//button[@type='submit']").await;
    browser.wait_for("Leave out camp shoes is done.").await;
    // 10.536 kg, and the sacks' 250 g, less the shoes' 304 g.
    go(&browser, "trips", "Swap: Leave out camp shoes done.").await;
    browser.wait_for("10.48 kg, −304 g").await;
    browser.close().await;
}
