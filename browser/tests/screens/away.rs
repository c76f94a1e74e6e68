//! Where there is no network: every step opens, what is done waits, and each of it is there once when the network is back.

use crate::year::asked;

use diesel::{Connection, MysqlConnection, RunQueryDsl, sql_query};
use kevyt_browser::{Browser, Stage, demo};
use serde_json::{Value, json};
use thirtyfour::prelude::*;

/// What each step shows of what was read before.
const STEPS: [(&str, &str); 8] = [
    ("weigh", "What does it really weigh?"),
    ("gear", "Framed pack, 58 l"),
    ("swaps", "All swaps as slopes"),
    ("plan", "Buying in rank order"),
    ("pack", "Is it all in, and does the scale agree?"),
    ("trips", "What it taught"),
    ("year", "Keep, sell or swap"),
    ("list", "Stays home"),
];
/// Lines that are added without network.
const LINES: usize = 20;

/// Waits until the application itself is kept on the device, and all that its steps show of a list.
async fn kept(browser: &Browser) {
    let script = "const done = arguments[0]; const look = async () => { \
        const worker = (await navigator.serviceWorker.getRegistration())?.active?.state === 'activated'; \
        const open = await new Promise((found) => { const asked = indexedDB.open('kevyt'); asked.onsuccess = () => found(asked.result) }); \
        const all = open.objectStoreNames.contains('kept') ? await new Promise((found) => { \
            const asked = open.transaction('kept').objectStore('kept').get('queries'); asked.onsuccess = () => found(asked.result) }) : null; \
        open.close(); \
        const names = (all?.clientState?.queries ?? []).map(({ queryKey }) => queryKey[1]); \
        if (worker && names.includes('year') && names.includes('trip')) done(true); else setTimeout(look, 300) }; look()";
    browser.driver.execute_async(script, Vec::new()).await.unwrap();
}

/// Waits until only so many changes wait.
async fn only(browser: &Browser, left: usize) {
    let script = "const [left, done] = arguments; const look = () => \
        JSON.parse(localStorage.getItem('kevyt-waiting demo') ?? '[]').length === left ? done(true) : setTimeout(look, 100); look()";
    browser.driver.execute_async(script, vec![json!(left)]).await.unwrap();
}

async fn go(browser: &Browser, stage: &Stage, list: &str, step: &str, shown: &str) {
    browser.driver.goto(format!("{}/lists/{list}/{step}", stage.url)).await.unwrap();
    browser.wait_for(shown).await;
}

async fn line_of(browser: &Browser, list: &str, name: &str) -> Value {
    let full = asked(browser, "GET", &format!("/api/lists/{list}"), Value::Null).await;
    let lines = full["lines"].as_array().unwrap();
    lines.iter().find(|line| line["gear"]["name"] == name).unwrap().clone()
}

#[tokio::test(flavor = "multi_thread")]
async fn without_network_every_step_opens_and_what_is_done_is_there_once_afterwards() {
    let (mut stage, browser) = demo("list", "Stays home").await;
    let list = asked(&browser, "GET", "/api/lists", Value::Null).await[0]["id"].as_str().unwrap().to_owned();
    let before = asked(&browser, "GET", "/api/gear?limit=5000", Value::Null).await["total"].as_u64().unwrap();
    kept(&browser).await;
    stage.stop();
    for (step, shown) in STEPS {
        go(&browser, &stage, &list, step, shown).await;
        browser.wait_for("No network. What you see is as of").await;
    }
    // A thing is moved on the list.
    let shoes =
        browser.find_xpath("//button[contains(@class,'thing')][starts-with(normalize-space(),'Camp shoes')]").await;
    browser.driver.execute("arguments[0].focus()", vec![shoes.to_json().unwrap()]).await.unwrap();
    browser.press("m").await;
    browser.wait_for("1 change waits on this device until it is back.").await;
    // By one line each, at full speed.
    go(&browser, &stage, &list, "gear", "Framed pack, 58 l").await;
    for at in 0..LINES {
        browser.type_into("input[name='gear-line']", &format!("whistle no-{at} 5g")).await;
        browser.press(Key::Enter + "").await;
    }
    browser.wait_for("21 changes wait on this device").await;
    go(&browser, &stage, &list, "weigh", "What does it really weigh?").await;
    browser.type_into("input[aria-label='Find what to weigh']", "stuff sacks").await;
    browser.press(Key::Enter + "").await;
    browser.type_into("input[aria-label='What the scale shows']", "250").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("22 changes wait on this device").await;
    go(&browser, &stage, &list, "trips", "What it taught").await;
    browser.press("d").await;
    browser.wait_for("reviewed").await;
    for at in 0..3 {
        let row = "[...document.querySelectorAll('.said')].filter((row) => row.querySelector('.use'))";
        let script = format!("{row}[{at}].querySelector('[data-said]').focus()");
        browser.driver.execute(script, Vec::new()).await.unwrap();
        browser.press("u").await;
    }
    browser.wait_for("25 changes wait on this device").await;

    // Meanwhile somebody else has left the shoes at home.
    let elsewhere = "UPDATE list_line JOIN gear ON gear.id = gear_id SET carried = 0, left_home = 1, list_line.version = list_line.version + 1 \
        WHERE gear.name = 'Camp shoes'";
    sql_query(elsewhere).execute(&mut MysqlConnection::establish(stage.database_url()).unwrap()).unwrap();
    stage.restart();
    browser.wait_for("It was changed elsewhere meanwhile, so this was not done.").await;
    only(&browser, 1).await;
    assert_eq!(line_of(&browser, &list, "Camp shoes").await["left"], 1);
    let all_the_same = browser.find_xpath("//button[contains(., 'Do it all the same')]").await;
    all_the_same.click().await.unwrap();
    only(&browser, 0).await;
    let shoes = line_of(&browser, &list, "Camp shoes").await;
    assert_eq!((&shoes["worn"], &shoes["left"]), (&json!(1), &json!(0)));
    let gear = asked(&browser, "GET", "/api/gear?limit=5000", Value::Null).await;
    let things = gear["items"].as_array().unwrap();
    assert_eq!(gear["total"].as_u64().unwrap(), before + LINES as u64);
    let whistles = things.iter().filter(|thing| thing["name"].as_str().unwrap().starts_with("whistle"));
    assert_eq!(whistles.count(), LINES);
    let sacks =
        things.iter().find(|thing| thing["name"].as_str().unwrap().to_lowercase().contains("stuff sacks")).unwrap();
    assert_eq!((&sacks["weight"]["unit_mg"], &sacks["weight"]["source"]), (&json!(250_000), &json!("weighed")));
    browser.close().await;
}
