//! The two ways in: the demo, and a new account.

use crate::Browser;
use kevyt_testbed::Stage;

/// Every screen, and a text that it shows once it has loaded the demo's data.
pub const SCREENS: [(&str, &str); 13] = [
    ("weigh", "Simulated scale"),
    ("gear", "Framed pack, 58 l"),
    ("gear/files", "Import a list"),
    ("gear/history", "What was added, weighed or changed"),
    ("list", "Stays home"),
    ("list/trip", "What it takes, and what the list has"),
    ("list/together", "Links that open this list"),
    ("list/compare", "Comfortable down to"),
    ("swaps", "All swaps as slopes"),
    ("plan", "Buying in rank order"),
    ("pack", "Is it all in, and does the scale agree?"),
    ("trips", "What it taught"),
    ("year", "Buy in this order"),
];

/// The demo, opened on a step that shows a text.
pub async fn demo(step: &str, shown: &str) -> (Stage, Browser) {
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.expect("the page");
    enter_demo(&browser).await;
    browser.follow(&format!("/{step}")).await;
    browser.wait_for(shown).await;
    (stage, browser)
}

/// From the first page into the demo, by somebody who has opened each step before.
pub async fn enter_demo(browser: &Browser) {
    let steps = "['Weigh', 'Gear', 'List', 'Trip', 'Together', 'Swaps', 'Plan', 'Pack', 'Trips', 'Year', 'Compare']";
    let script = format!("localStorage.setItem('kevyt-opened', JSON.stringify({{ demo: {steps} }}))");
    browser.driver.execute(script, Vec::new()).await.expect("a page with a storage");
    browser.click_text("Look around in the demo").await;
    browser.wait_for("What does it really weigh").await;
}

/// From the first page to a new account, where it begins.
pub async fn sign_up(browser: &Browser, name: &str) {
    browser.click_text("I am new here").await;
    browser.type_into("input[name='name']", name).await;
    browser.type_into("input[name='password']", "not a real one").await;
    browser.click_text("Create account").await;
    browser.wait_for("Start with the heavy few").await;
    browser.find("input[aria-label='Weight of Pack']").await;
}
