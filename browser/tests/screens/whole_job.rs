//! The whole job through the real interface, and what assistive technology makes of each screen.

use kevyt_browser::{Browser, Look, SCREENS, enter_demo, sign_up};
use kevyt_testbed::Stage;
use thirtyfour::prelude::*;

const AXE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../web/node_modules/axe-core/axe.min.js");

async fn add_gear(browser: &Browser, line: &str, chip: &str) {
    browser.type_into("input[aria-label='Add gear by a line']", line).await;
    // Read back before Enter.
    browser.wait_for(chip).await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("added to First list").await;
}

/// Everything that the job has left behind is on the Plan screen.
async fn assert_planned(browser: &Browser) {
    browser.wait_for("Down to 0.73 kg for 289 €").await;
    browser
        .wait_for("The cheapest set that reaches the target. No other set of these swaps does it for less: proved.")
        .await;
    browser.wait_for("Leave out mug").await;
    browser.wait_for("budget 300 €").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn from_an_empty_account_to_a_plan_that_stays() {
    let mut stage = Stage::start(false);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();

    browser.click_text("I am new here").await;
    browser.type_into("input[name='name']", "anna").await;
    browser.type_into("input[name='password']", "short").await;
    browser.click_text("Create account").await;
    browser.wait_for("The password has 5 characters. Type at least 10.").await;
    browser.type_into("input[name='password']", "correct horse").await;
    browser.click_text("Create account").await;
    browser.wait_for("Start with the heavy few").await;
    // The first figure can be typed at once; Esc leaves it.
    browser.find("input[aria-label='Weight of Pack']").await;
    browser.press(Key::Escape + "").await;
    browser.press("2").await;
    browser.wait_for("What do I own").await;

    // A line that can be read two ways says so and is not lost.
    browser.type_into("input[aria-label='Add gear by a line']", "tent 1,910 g").await;
    browser.wait_for("\"1,910 g\" can be 1910 g or 1.91 g. Type 1910 or 1.91.").await;
    add_gear(&browser, "two-skin tent 1910g 320eur #shelter", "weight 1 910 g").await;
    add_gear(&browser, "mug 118g #kitchen", "system Kitchen").await;
    browser.wait_for("2 things, 2.03 kg, 320 € paid").await;

    // Two swaps.
    browser.press(Key::Escape + "").await;
    browser.press("4").await;
    browser.wait_for("Nothing to compare yet").await;
    browser.press("n").await;
    browser.type_into("input[name='swap-line']", "one-skin shelter 730g 379.999eur for tent").await;
    browser.wait_for("can be 379999 eur or 379.999 eur").await;
    browser.type_into("input[name='swap-line']", "one-skin shelter 730g 379eur for tent").await;
    browser.wait_for("replaces two-skin tent").await;
    browser.type_into("input[name='resale']", "90").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("1 180 g").await;
    browser.wait_gone("Add swap").await;
    browser.press("n").await;
    browser.choose("Kind", "leave out").await;
    browser.choose("Replaces", "mug").await;
    browser.click_text("Add swap").await;
    browser.wait_for("do these first").await;
    browser.wait_for("most weight saved for the money first").await;

    // Target and budget in the beam, then the plan.
    for (label, typed, shown) in [("target", "0.8", "0.80"), ("budget", "300", "300")] {
        browser.click(&format!("button[data-figure='{label}']")).await;
        browser.type_into(&format!("header input[aria-label='{label}']"), typed).await;
        browser.press(Key::Enter + "").await;
        browser.find(&format!("button[data-figure='{label}']")).await;
        browser.wait_for(shown).await;
    }
    browser.press("5").await;
    assert_planned(&browser).await;

    // Keys move the budget; the plan follows at once.
    let fence = browser.find("[role='slider'][aria-label='Budget']").await;
    for _ in 0..2 {
        fence.send_keys(Key::Shift + Key::Left).await.unwrap();
    }
    browser.wait_for("Down to 1.91 kg for 0 €").await;
    fence.send_keys(Key::Shift + Key::Right).await.unwrap();
    fence.send_keys(Key::Shift + Key::Right).await.unwrap();
    assert_planned(&browser).await;

    browser.driver.refresh().await.unwrap();
    assert_planned(&browser).await;
    stage.restart();
    browser.driver.goto(format!("{}/plan", stage.url)).await.unwrap();
    assert_planned(&browser).await;

    // The target dragged below what these swaps can do: said in words, and kept.
    let contour = browser.find("[role='slider'][aria-label='Target'] rect").await;
    browser
        .driver
        .action_chain()
        .click_and_hold_element(&contour)
        .move_by_offset(0, 30)
        .release()
        .perform()
        .await
        .unwrap();
    browser.wait_for("At any price, these swaps go down to 0.73 kg: proved.").await;
    browser.driver.refresh().await.unwrap();
    browser.wait_for("At any price, these swaps go down to 0.73 kg: proved.").await;

    // What is removed comes back from the message that reports it.
    browser.press("2").await;
    browser.click("button[aria-label='Remove mug']").await;
    browser.wait_for("1 thing, 1.91 kg").await;
    browser.press("z").await;
    browser.wait_for("2 things, 2.03 kg").await;
    browser.close().await;
}

/// What axe finds of colours: all that differs between light and dark.
const OF_COLOURS: [&str; 2] = ["color-contrast", "link-in-text-block"];

/// Nothing that axe finds, of whatever impact: each screen in light and dark; those of an empty account, drawers and dialogs in one of them.
async fn every_screen_is_open_to_assistive_technology(width: u32, dark: bool) {
    let axe = std::fs::read_to_string(AXE).expect("axe-core is among the npm packages");
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    browser.look(Look { width, height: 800, dark }).await;
    let mut findings = Vec::new();
    let mut look_at = async |what: &str, dark: bool, rules: &[&str]| {
        browser.look(Look { width, height: 800, dark }).await;
        // While things slide in, their text is see-through.
        browser.settled().await;
        let found = browser.axe_findings(&axe, rules).await;
        let small = if width < 700 { browser.small_targets().await } else { Vec::new() };
        findings.extend(
            found
                .into_iter()
                .chain(small)
                .map(|found| format!("{what}, {}: {found}", if dark { "dark" } else { "light" })),
        );
    };
    browser.driver.goto(&stage.url).await.unwrap();
    browser.wait_for("Sign in").await;
    look_at("sign-in", dark, &[]).await;
    look_at("sign-in", !dark, &OF_COLOURS).await;
    sign_up(&browser, "anna").await;
    for (path, _) in SCREENS {
        browser.follow(&format!("/{path}")).await;
        browser.find("main h1").await;
        look_at(&format!("{path}, empty"), dark, &[]).await;
    }
    browser.driver.delete_all_cookies().await.unwrap();
    browser.driver.goto(&stage.url).await.unwrap();
    enter_demo(&browser).await;
    for (path, shown) in SCREENS {
        browser.follow(&format!("/{path}")).await;
        browser.wait_for(shown).await;
        look_at(path, dark, &[]).await;
        look_at(path, !dark, &OF_COLOURS).await;
    }
    let drawers = [
        (
            "gear",
            "//button[@aria-label='Open Two-skin dome' or starts-with(@aria-label,'About Two-skin dome')]",
            "What one piece does and needs",
        ),
        ("swaps", "//button[contains(.,'Sewn quilt, 2 °C')]", "Weight from"),
        ("swaps", "//button[contains(.,'New swap')]", "In one line"),
        ("list", "//button[contains(.,'Counting rule of your own')]", "Walking poles (tag poles)"),
        ("list", "//button[contains(.,'All differences')]", "On this list"),
        ("list", "//button[@data-block][contains(.,'Mug')]", "Take off the list"),
        ("weigh", "//button[contains(.,'New kit')]", "Make the kit"),
        ("swaps", "//button[starts-with(@aria-label,'Export Ranking')]", "Spreadsheet (CSV)"),
        ("plan", "//button[starts-with(@aria-label,'Done: Soft bottles')]", "Paid for"),
        ("trips", "//button[contains(.,'Earlier')]", "What it weighed before"),
        (
            "list",
            "//nav//button[contains(.,'Help')] | //p/button[contains(.,'How List works')]",
            "Everything that comes along is worn",
        ),
        ("weigh", "//nav//button[contains(.,'Account')]", "Save units"),
        ("weigh", "//header//button[contains(.,'Fell week')]", "Rename this list"),
    ];
    for (path, opens, shown) in drawers {
        browser.follow(&format!("/{path}")).await;
        // On a phone, it may lie under the bar at the bottom until the page is scrolled.
        browser.click_under(opens).await;
        browser.wait_for(shown).await;
        look_at(&format!("{shown} on {path}"), dark, &[]).await;
    }
    assert_eq!(findings, Vec::<String>::new());
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn every_wide_screen_is_open_to_assistive_technology() {
    every_screen_is_open_to_assistive_technology(1280, false).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn every_narrow_screen_is_open_to_assistive_technology() {
    every_screen_is_open_to_assistive_technology(390, true).await;
}

/// The shop on the Plan step: a used one brings a near miss in, is planned with by one key and taken back by another; a sale
/// comes with its course; and what is found while a swap is made is followed from then on.
#[tokio::test(flavor = "multi_thread")]
async fn what_the_shop_brings_into_the_plan_is_news() {
    let mut stage = Stage::start(true);
    stage.with_made_up_shop();
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.unwrap();
    enter_demo(&browser).await;
    browser.follow("/plan").await;
    browser.wait_for("Down to 7.29 kg for 612 €").await;
    browser.wait_for("News from the shop").await;
    browser.wait_for("A used one is 220.80 €: at this price the plan buys it.").await;
    let used = browser.find("[aria-label='Plan Frameless pack, 38 l with used 220.80 €']").await;
    used.send_keys(Key::Enter + "").await.unwrap();
    browser.wait_for("Down to 7.26 kg for 508.80 €").await;
    assert_eq!(
        browser.driver.active_element().await.unwrap().tag_name().await.unwrap(),
        "h2",
        "the focus stays in the card"
    );
    browser.press("z").await;
    browser.wait_for("Down to 7.29 kg for 612 €").await;

    // Six weeks on the pack is on sale, and no used one is left.
    stage.days_later(42);
    browser.driver.refresh().await.unwrap();
    browser.wait_for("On sale, was 401.50 €. At this price the plan buys it.").await;
    let course = "[aria-label='Followed in the shop'] svg path";
    let steps = browser.find(course).await.attr("d").await.unwrap().unwrap_or_default();
    assert!(steps.matches('V').count() >= 1, "{steps}");

    browser.follow("/swaps").await;
    browser.wait_for("Kevyt proposes").await;
    browser.press("n").await;
    browser.click_xpath("//button[contains(., 'Find it in the shop')]").await;
    browser.type_into("input[name='shop']", "wind shirt thin nylon").await;
    browser.wait_for("Wind shirt, thin nylon").await;
    let offer = "//ul[@aria-label='Offers']//li[contains(., 'Wind shirt, thin nylon')]//button[not(@disabled)]";
    browser.click_xpath(offer).await;
    browser.wait_for("Its price is followed in the shop").await;
    browser.close().await;
}
