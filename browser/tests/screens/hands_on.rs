//! The interface under hands that do not wait: over a bad line, with the keyboard alone, and on a phone.

use kevyt_browser::{Browser, Look, SCREENS, demo, enter_demo, sign_up, until};
use kevyt_testbed::Stage;
use serde_json::{Value, json};
use thirtyfour::prelude::*;

/// A line on which every request takes 300 ms and one in twenty fails: it never arrives, or its answer is lost on the way back, or the
/// server is busy. In turn, so that each kind comes up.
const BAD_LINE: &str = "
    const send = window.fetch.bind(window);
    window.plainly = send;
    let sent = 0;
    window.fetch = async (...request) => {
        const kind = ++sent % 20 === 0 ? (sent / 20) % 3 : null;
        await new Promise(resolve => setTimeout(resolve, 300));
        if (kind === 1) throw new TypeError('the line broke');
        const answer = await send(...request);
        if (kind === 2) throw new TypeError('the line broke');
        return kind === 0 ? new Response('{}', { status: 503 }) : answer;
    };";

/// What an address of the application answers with, asked past the bad line.
async fn fetched(browser: &Browser, path: &str) -> Value {
    let script = format!(
        "const done = arguments[0]; (window.plainly ?? fetch)('{path}').then(answer => answer.json()).then(done)"
    );
    browser.driver.execute_async(script, Vec::new()).await.unwrap().json().clone()
}

/// The list that the page is about.
async fn list_of(browser: &Browser) -> String {
    let path = browser.driver.current_url().await.unwrap().path().to_owned();
    path.split('/').nth(2).unwrap_or_default().to_owned()
}

async fn focused(browser: &Browser) -> String {
    let active = browser.driver.active_element().await.unwrap();
    match active.attr("aria-label").await.unwrap() {
        Some(label) => label,
        None => active.text().await.unwrap_or_default(),
    }
}

/// Whether the focus is somewhere; it never falls to the page.
async fn assert_focus(browser: &Browser, when: &str) {
    let tag = browser.driver.active_element().await.unwrap().tag_name().await.unwrap();
    assert_ne!(tag, "body", "the focus fell to the page {when}");
}

#[tokio::test(flavor = "multi_thread")]
async fn typing_over_a_bad_line_loses_and_doubles_nothing() {
    let stage = Stage::start(false);
    let browser = Browser::open().await;
    let tools = browser.driver.cdp();
    tools.send_raw("Page.addScriptToEvaluateOnNewDocument", json!({ "source": BAD_LINE })).await.unwrap();
    browser.driver.goto(&stage.url).await.unwrap();
    sign_up(&browser, "anna").await;

    // Twenty-five lines, each with Enter pressed twice, none waited for.
    browser.press(Key::Escape + "").await;
    browser.press("2").await;
    browser.click("input[aria-label='Add gear by a line']").await;
    for at in 0..25 {
        browser.press(format!("thing {at:02} {}g", 100 + at)).await;
        browser.press(Key::Enter + Key::Enter).await;
    }
    browser.wait_for("thing 24 added").await;
    assert_focus(&browser, "after the lines").await;
    let names = |page: &Value| -> Vec<String> {
        let mut names: Vec<String> =
            page["items"].as_array().unwrap().iter().map(|thing| thing["name"].as_str().unwrap().to_owned()).collect();
        names.sort();
        names
    };
    let wanted: Vec<String> = (0..25).map(|at| format!("thing {at:02}")).collect();
    assert_eq!(names(&fetched(&browser, "/api/gear").await), wanted);

    // Ten cells changed, one after the other, none waited for.
    browser.press(Key::Escape + "").await;
    let first = browser.find_xpath("//*[@data-cell][starts-with(@aria-label,'Weight of thing 00:')]").await;
    browser.driver.execute("arguments[0].focus()", vec![first.to_json().unwrap()]).await.unwrap();
    for at in 0..10 {
        browser.press(format!("{}", 200 + at)).await;
        browser.press(Key::Enter + "").await;
    }
    assert!(focused(&browser).await.starts_with("Weight of thing 10"), "{}", focused(&browser).await);
    let weights = async |browser: &Browser| -> Vec<(String, i64)> {
        let page = fetched(browser, "/api/gear").await;
        let weight =
            |thing: &Value| (thing["name"].as_str().unwrap().to_owned(), thing["weight"]["unit_mg"].as_i64().unwrap());
        page["items"].as_array().unwrap().iter().map(weight).collect()
    };
    until(async || weights(&browser).await.iter().filter(|(_, mg)| *mg >= 200_000).count() == 10).await;
    let now = weights(&browser).await;
    for at in 0..25 {
        let grams = if at < 10 { 200 + at } else { 100 + at };
        let name = format!("thing {at:02}");
        assert!(now.contains(&(name.clone(), grams * 1_000)), "{name}: {now:?}");
    }

    // Ten things weighed by typing what a scale shows.
    browser.press(Key::Escape + "").await;
    browser.press("1").await;
    browser.find("input[aria-label='What the scale shows']").await;
    browser.press("w").await;
    for at in 0..10 {
        browser.press(format!("{}", 300 + at)).await;
        browser.press(Key::Enter + "").await;
    }
    let mut found = Vec::new();
    until(async || {
        let page = fetched(&browser, "/api/weigh?since=2020-01-01T00:00:00Z").await;
        found =
            page["taken"].as_array().unwrap().iter().map(|one| one["weighing"]["total_mg"].as_i64().unwrap()).collect();
        found.len() >= 10
    })
    .await;
    found.sort_unstable();
    assert_eq!(found, (300..310).map(|grams| grams * 1_000).collect::<Vec<_>>());

    // Three swaps, each in one line, with Enter pressed twice.
    browser.press(Key::Escape + "").await;
    browser.press("4").await;
    browser.wait_for("Nothing to compare yet").await;
    for at in ["00", "01", "02"] {
        browser.press("n").await;
        browser.wait_focus("input[name='swap-line']").await;
        browser.press(format!("light {at} 50g 9eur for thing {at}")).await;
        browser.press(Key::Enter + Key::Enter).await;
        browser.wait_for(&format!("Swap light {at} made.")).await;
        browser.wait_gone("In one line").await;
        assert_focus(&browser, "after a swap").await;
    }
    let list = list_of(&browser).await;
    let swaps = fetched(&browser, &format!("/api/lists/{list}/swaps")).await;
    let swaps: Vec<&str> = swaps.as_array().unwrap().iter().map(|swap| swap["name"].as_str().unwrap()).collect();
    assert_eq!(swaps, ["light 00", "light 01", "light 02"]);
    browser.close().await;
}

/// Counts keys.
struct Keys<'a> {
    browser: &'a Browser,
    pressed: usize,
}

impl Keys<'_> {
    async fn text(&mut self, text: &str) {
        self.browser.press(text).await;
        self.pressed += text.chars().count();
    }

    async fn key(&mut self, key: Key) {
        self.browser.press(key + "").await;
        self.pressed += 1;
    }

    /// Tab until the focus is on what has this label.
    async fn tab_to(&mut self, label: &str) {
        for _ in 0..40 {
            if focused(self.browser).await.starts_with(label) {
                return;
            }
            self.key(Key::Tab).await;
        }
        panic!("no Tab leads to {label}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn the_whole_job_is_done_with_the_keyboard_alone() {
    let stage = Stage::start(false);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();
    sign_up(&browser, "anna").await;
    let mut keys = Keys { browser: &browser, pressed: 0 };

    // The first base weight: the three heavy things. The first field has the focus already.
    assert_eq!(focused(&browser).await, "Weight of Pack");
    keys.text("1680").await;
    keys.tab_to("Weight of Tent").await;
    keys.text("1910").await;
    keys.tab_to("Weight of Sleeping bag").await;
    keys.text("1120").await;
    keys.key(Key::Enter).await;
    browser.wait_for("4.71").await;
    assert!(keys.pressed < 40, "{} keys to the first base weight", keys.pressed);
    browser.wait_for("To weigh").await;
    assert_focus(&browser, "after the first three").await;

    // A swap that replaces: in one line.
    keys.pressed = 0;
    keys.text("4").await;
    browser.wait_for("Nothing to compare yet").await;
    keys.text("n").await;
    browser.wait_focus("input[name='swap-line']").await;
    keys.text("quilt 545g 262eur for bag").await;
    keys.key(Key::Enter).await;
    browser.wait_for("Swap quilt made.").await;
    browser.wait_for("most weight saved for the money first").await;
    assert!(keys.pressed < 40, "{} keys to a swap", keys.pressed);
    browser.settled().await;
    assert_focus(&browser, "after a swap").await;

    // More gear, a target and a budget, and the plan.
    keys.text("2").await;
    browser.wait_for("What do I own?").await;
    keys.text("a").await;
    keys.text("mug 118g 9eur").await;
    keys.key(Key::Enter).await;
    browser.wait_for("mug added").await;
    keys.key(Key::Escape).await;
    for (key, typed, shown) in [("t", "4.3", "4.30"), ("b", "300", "300")] {
        keys.text(key).await;
        keys.text(typed).await;
        keys.key(Key::Enter).await;
        browser.wait_for(shown).await;
        assert_focus(&browser, "after a figure of the beam").await;
    }
    keys.text("5").await;
    browser.wait_for("Down to 4.25 kg for 262 €").await;
    keys.text("3").await;
    browser.wait_for("What comes along").await;
    keys.tab_to("Tent").await;
    // The table is one stop: one Tab leaves it.
    keys.key(Key::Down).await;
    assert!(focused(&browser).await.starts_with("Pack"), "{}", focused(&browser).await);
    keys.key(Key::Tab).await;
    assert!(!focused(&browser).await.starts_with("Pack"), "{}", focused(&browser).await);
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_ended_session_asks_for_the_password_and_work_goes_on() {
    let stage = Stage::start(false);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();
    sign_up(&browser, "anna").await;
    browser.press(Key::Escape + "").await;
    browser.press("2").await;
    browser.type_into("input[aria-label='Add gear by a line']", "mug 118g").await;
    // Read back: else it is the reading that finds the session ended, and the Enter goes into the dialog.
    browser.wait_for("weight 118 g").await;
    browser.driver.delete_all_cookies().await.unwrap();
    browser.press(Key::Enter + "").await;
    browser.wait_for("Your session has ended").await;
    browser.type_into("input[name='password-again']", "not this one").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("The name or the password is wrong.").await;
    browser.type_into("input[name='password-again']", "not a real one").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("mug added").await;
    browser.wait_for("1 thing, 0.12 kg").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_tabs_stand_on_two_lists() {
    let (stage, browser) = demo("list", "Stays home").await;
    let first = list_of(&browser).await;
    browser.click_xpath("//header//button[contains(.,'Fell week')]").await;
    browser.click_text("New list …").await;
    browser.type_into("input[name='list-name']", "Hut weekend").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Nothing on this list yet").await;
    let second = list_of(&browser).await;
    assert_ne!(first, second);
    browser.type_into("input[aria-label='Add gear to the list']", "folding knife").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("1 thing comes along").await;
    let tab = browser.driver.window().await.unwrap();
    let other = browser.driver.new_tab().await.unwrap();
    browser.driver.switch_to_window(other).await.unwrap();
    browser.driver.goto(format!("{}/lists/{first}/list", stage.url)).await.unwrap();
    browser.wait_for("47 things come along").await;
    browser.driver.switch_to_window(tab).await.unwrap();
    browser.driver.refresh().await.unwrap();
    browser.wait_for("1 thing comes along").await;

    // Another name, and none of it; its address says so.
    browser.click_xpath("//header//button[contains(.,'Hut weekend')]").await;
    browser.click_text("Rename this list …").await;
    browser.type_into("input[name='list-name']", "Hut night").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Hut weekend is now called Hut night.").await;
    browser.click_xpath("//header//button[contains(.,'Hut night')]").await;
    browser.click_text("Remove this list").await;
    browser.wait_for("List Hut night removed.").await;
    browser.wait_for("47 things come along").await;
    browser.driver.goto(format!("{}/lists/{second}/list", stage.url)).await.unwrap();
    browser.wait_for("This list is not here any more").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_phone_has_room_for_all_of_it() {
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    browser.look(Look { width: 390, height: 800, dark: false }).await;
    browser.driver.goto(&stage.url).await.unwrap();
    enter_demo(&browser).await;
    let list = list_of(&browser).await;
    let narrow = async |what: &str| {
        let width = browser.driver.execute("return document.documentElement.scrollWidth", Vec::new()).await.unwrap();
        let width: u64 = width.convert().unwrap();
        assert!(width <= 390, "{what} is {width} px wide");
    };
    let long = "Bezeichnungohneleerzeichenundohneende".repeat(3);
    let script = format!(
        "const done = arguments[0]; fetch('/api/gear/line', {{ method: 'POST', headers: {{ 'content-type': 'application/json' }},
            body: JSON.stringify({{ line: '{long} 50g #comfort', list: '{list}' }}) }}).then(answer => done(answer.status))"
    );
    let added: u64 = browser.driver.execute_async(script, Vec::new()).await.unwrap().convert().unwrap();
    assert_eq!(added, 201);
    browser.driver.refresh().await.unwrap();
    for (step, shown) in SCREENS {
        browser.follow(&format!("/lists/{list}/{step}")).await;
        browser.wait_for(shown).await;
        narrow(step).await;
    }
    // The budget is set with a thumb.
    browser.follow(&format!("/lists/{list}/plan")).await;
    browser.click("button[data-figure='budget']").await;
    browser.type_into("header input[aria-label='budget']", "400").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("The lightest set within 400 €").await;

    // Price, worth and source of a thing, and its removal, are in its drawer.
    browser.follow(&format!("/lists/{list}/gear")).await;
    browser.find("button[aria-label='Open Pack liner']").await;
    // As tall as a thumb needs.
    let heights =
        "return [...document.querySelectorAll('tbody tr:has(td.name)')].map(row => row.getBoundingClientRect().height)";
    let heights: Vec<f64> = browser.driver.execute(heights, Vec::new()).await.unwrap().convert().unwrap();
    assert!(!heights.is_empty() && heights.iter().all(|height| (44.0..46.0).contains(height)), "{heights:?}");
    // Out from under the bar at the bottom, as a thumb does it.
    let open_liner = async || {
        let button = browser.find("button[aria-label='Open Pack liner']").await.to_json().unwrap();
        browser.driver.execute("arguments[0].scrollIntoView({ block: 'center' })", vec![button]).await.unwrap();
        browser.click("button[aria-label='Open Pack liner']").await;
    };
    open_liner().await;
    browser.wait_for("Paid for one").await;
    narrow("the drawer of a thing").await;
    browser.type_into("input[name='resale']", "2").await;
    browser.click_text("Save").await;
    browser.wait_gone("Paid for one").await;
    let page = fetched(&browser, "/api/gear").await;
    let liner = page["items"].as_array().unwrap().iter().find(|thing| thing["name"] == "Pack liner").unwrap().clone();
    assert_eq!(liner["resale_minor"], 200);
    open_liner().await;
    browser.click_text("Remove this thing").await;
    browser.wait_for("Pack liner removed").await;

    // A swap in one line, and its drawer in the width that there is.
    browser.follow(&format!("/lists/{list}/swaps")).await;
    browser.click_xpath("//button[contains(.,'New swap')]").await;
    browser.type_into("input[name='swap-line']", "leave out knife").await;
    browser.wait_for("replaces Folding knife").await;
    narrow("the drawer of a swap").await;
    browser.click_text("Add swap").await;
    browser.wait_for("made.").await;
    browser.close().await;
}
