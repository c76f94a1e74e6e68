//! Where there is no network: every step opens, what is done waits, and each of it is there once when the network is back.

use crate::year::asked;

use diesel::{Connection, MysqlConnection, RunQueryDsl, sql_query};
use kevyt_browser::{Browser, enter_demo};
use kevyt_testbed::Stage;
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
/// Changes of each kind that are made without network.
const EACH: usize = 20;

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

async fn lines_of(browser: &Browser, list: &str) -> Vec<Value> {
    let full = asked(browser, "GET", &format!("/api/lists/{list}"), Value::Null).await;
    full["lines"].as_array().unwrap().clone()
}

fn line_of<'l>(lines: &'l [Value], name: &str) -> &'l Value {
    lines.iter().find(|line| line["gear"]["name"] == name).unwrap()
}

fn name_of(line: &Value) -> String {
    line["gear"]["name"].as_str().unwrap().to_owned()
}

fn waits(changes: usize) -> String {
    if changes == 1 { "1 change waits".to_owned() } else { format!("{changes} changes wait") }
}

/// What an expression gives on the page.
async fn asked_of_page(browser: &Browser, expression: &str) -> Value {
    browser.driver.execute(format!("return {expression}"), Vec::new()).await.unwrap().json().clone()
}

#[tokio::test(flavor = "multi_thread")]
async fn without_network_every_step_opens_and_what_is_done_is_there_once_afterwards() {
    let mut stage = Stage::start(true);
    let browser = Browser::open_for_offline().await;
    browser.driver.goto(&stage.url).await.unwrap();
    enter_demo(&browser).await;
    browser.follow("/list").await;
    browser.wait_for("Stays home").await;
    let list = asked(&browser, "GET", "/api/lists", Value::Null).await[0]["id"].as_str().unwrap().to_owned();
    let before = asked(&browser, "GET", "/api/gear?limit=5000", Value::Null).await["total"].as_u64().unwrap();
    let lines = lines_of(&browser, &list).await;
    kept(&browser).await;
    stage.stop();
    for (step, shown) in STEPS {
        go(&browser, &stage, &list, step, shown).await;
        browser.wait_for("No network. What you see is as of").await;
    }
    // Things are moved on the list, and stay moved when the page is opened again.
    let mut waiting = 0;
    let mut moved = vec!["Camp shoes".to_owned()];
    let singles = lines.iter().filter(|line| line["carried"] == 1 && line["worn"] == 0 && line["used_up"] == 0);
    // The heavy ones: of the light ones some are folded away.
    let mut singles: Vec<&Value> = singles.collect();
    singles.sort_by_key(|line| -line["gear"]["weight"]["unit_mg"].as_i64().unwrap_or_default());
    moved.extend(singles.into_iter().map(name_of).filter(|name| name != "Camp shoes").take(EACH - 1));
    for name in &moved {
        let thing = format!(
            "[...document.querySelectorAll('button.thing')].find((one) => one.textContent.includes({}))",
            json!(name)
        );
        browser.driver.execute(format!("{thing}.focus()"), Vec::new()).await.unwrap();
        browser.press("m").await;
        waiting += 1;
        browser.wait_for(&format!("{} on this device until it is back.", waits(waiting))).await;
    }
    browser.driver.refresh().await.unwrap();
    browser.wait_for(&format!("{} on this device", waits(waiting))).await;
    let on_me = "return document.querySelector('main').innerText.split('On me')[1] ?? ''";
    let worn = browser.driver.execute(on_me, Vec::new()).await.unwrap().json().as_str().unwrap().to_owned();
    assert!(worn.contains("Camp shoes"), "what was moved without network is shown where it was moved to: {worn}");
    // Gear is added by a line each, at full speed.
    go(&browser, &stage, &list, "gear", "Framed pack, 58 l").await;
    for at in 0..EACH {
        browser.type_into("input[name='gear-line']", &format!("whistle no-{at} 5g")).await;
        browser.press(Key::Enter + "").await;
    }
    waiting += EACH;
    browser.wait_for(&format!("{} on this device", waits(waiting))).await;
    // Counts are typed down the table.
    browser.driver.execute("document.querySelector('[aria-label^=\"Count of\"]').focus()", Vec::new()).await.unwrap();
    for _ in 0..EACH {
        browser.press("3").await;
        browser.press("0").await;
        browser.press(Key::Enter + "").await;
    }
    waiting += EACH;
    browser.wait_for(&format!("{} on this device", waits(waiting))).await;
    // Weights are typed down the queue.
    go(&browser, &stage, &list, "weigh", "What does it really weigh?").await;
    for _ in 0..EACH {
        browser.type_into("input[aria-label='What the scale shows']", "77.7").await;
        browser.press(Key::Enter + "").await;
    }
    waiting += EACH;
    browser.wait_for(&format!("{} on this device", waits(waiting))).await;
    // What was used on a trip is said, thing by thing.
    go(&browser, &stage, &list, "trips", "What it taught").await;
    browser.press("d").await;
    browser.wait_for("reviewed").await;
    let trip = asked_of_page(&browser, "location.pathname.split('/').at(-1)").await.as_str().unwrap().to_owned();
    let rows = "[...document.querySelectorAll('.said')].filter((row) => row.querySelector('.use'))";
    for at in 0..EACH {
        browser.driver.execute(format!("{rows}[{at}].querySelector('[data-said]').focus()"), Vec::new()).await.unwrap();
        browser.press("u").await;
    }
    waiting += EACH;
    browser.wait_for(&format!("{} on this device", waits(waiting))).await;
    let all_said = format!("{rows}.slice(0, {EACH}).map((row) => row.querySelector('[data-said]').ariaLabel)");
    let said_of = asked_of_page(&browser, &all_said).await;
    // Things are ticked, and moved to the zone beside.
    go(&browser, &stage, &list, "pack", "Is it all in, and does the scale agree?").await;
    let packed =
        asked_of_page(&browser, "Object.keys(JSON.parse(localStorage.getItem('kevyt-packing demo') ?? '{}'))").await;
    assert_eq!(packed, json!([]));
    for at in 0..EACH {
        let focus = format!(
            "const all = [...document.querySelectorAll('.zone input')].filter((one) => !one.dataset.done); all[0].dataset.done = {at}; all[0].focus()"
        );
        browser.driver.execute(focus, Vec::new()).await.unwrap();
        browser.press(" ").await;
        browser.press(Key::Right + "").await;
    }
    let said = format!("JSON.parse(localStorage.getItem('kevyt-packing demo') ?? '{{}}')['{list}'].lines");
    let packed = asked_of_page(&browser, &said).await;

    // Meanwhile somebody else has left the shoes at home.
    let elsewhere = "UPDATE list_line JOIN gear ON gear.id = gear_id SET carried = 0, left_home = 1, list_line.version = list_line.version + 1 \
        WHERE gear.name = 'Camp shoes'";
    sql_query(elsewhere).execute(&mut MysqlConnection::establish(stage.database_url()).unwrap()).unwrap();
    stage.restart();
    browser.wait_for("It was changed elsewhere meanwhile, so this was not done.").await;
    only(&browser, 1).await;
    assert_eq!(line_of(&lines_of(&browser, &list).await, "Camp shoes")["left"], 1);
    browser.click_xpath("//button[contains(., 'Do it all the same')]").await;
    only(&browser, 0).await;
    // Each is there, once.
    let lines = lines_of(&browser, &list).await;
    for name in &moved {
        let line = line_of(&lines, name);
        assert_eq!((&line["worn"], &line["carried"], &line["left"]), (&json!(1), &json!(0), &json!(0)), "{name}");
    }
    let gear = asked(&browser, "GET", "/api/gear?limit=5000", Value::Null).await;
    let things = gear["items"].as_array().unwrap();
    assert_eq!(gear["total"].as_u64().unwrap(), before + EACH as u64);
    let of = |fits: &dyn Fn(&Value) -> bool| things.iter().filter(|thing| fits(thing)).count();
    assert_eq!(of(&|thing| thing["name"].as_str().unwrap().starts_with("whistle")), EACH);
    assert_eq!(of(&|thing| thing["count"] == 30), EACH);
    assert_eq!(of(&|thing| thing["weight"]["unit_mg"] == 77_700 && thing["weight"]["source"] == "weighed"), EACH);
    go(&browser, &stage, &list, &format!("trips/{trip}"), "reviewed").await;
    assert_eq!(asked_of_page(&browser, &all_said).await, said_of);
    let packing = asked(&browser, "GET", &format!("/api/lists/{list}/packing"), Value::Null).await;
    let packed = packed.as_object().unwrap();
    assert_eq!(packed.len(), EACH);
    for thing in packing["things"].as_array().unwrap() {
        let Some(said) = packed.get(thing["line"].as_str().unwrap()) else { continue };
        assert_eq!((&thing["is_in"], &thing["zone"]), (&said["is_in"], &said["zone"]), "{}", thing["name"]);
    }
    browser.close().await;
}
