//! The interface as hands use it: keys, two tabs, odd names, units, undo.

use kevyt_browser::{Browser, demo};
use thirtyfour::prelude::*;

/// The cell that is changed in place under this label.
fn cell(label: &str) -> String {
    format!("//*[@data-cell][starts-with(@aria-label,'{label}:')]")
}

async fn focus(browser: &Browser, label: &str) {
    let found = browser.find_xpath(&cell(label)).await;
    browser.driver.execute("arguments[0].focus()", vec![found.to_json().unwrap()]).await.unwrap();
}

async fn focused(browser: &Browser) -> String {
    let active = browser.driver.active_element().await.unwrap();
    active.attr("aria-label").await.unwrap().unwrap_or_default()
}

#[tokio::test(flavor = "multi_thread")]
async fn gear_is_changed_with_the_keyboard_alone() {
    let (_stage, browser) = demo("gear", "Pack liner").await;
    focus(&browser, "Weight of Framed pack, 58 l").await;
    browser.press("1").await;
    browser.press("702 g").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("1 702 g").await;
    browser.wait_for("10.56").await; // the beam moves at once: 22 g more
    // Enter goes on to the next row; arrows walk from there.
    assert!(focused(&browser).await.starts_with("Weight of Pack liner"), "{}", focused(&browser).await);
    browser.press(Key::Left + "").await;
    assert!(focused(&browser).await.starts_with("Count of Pack liner"));
    browser.press(Key::Down + "").await;
    browser.press(Key::Down + "").await;
    assert!(focused(&browser).await.starts_with("Count of Ground sheet"), "{}", focused(&browser).await);

    // What is refused stays as it was typed, with the reason; Esc lets it go.
    browser.press(Key::Right + "").await;
    browser.press(Key::Enter + "").await;
    browser.press("1,250 g").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("\"1,250 g\" can be 1250 g or 1.25 g. Type 1250 or 1.25.").await;
    // The next row has the focus; back up, it stands as it was typed.
    assert!(focused(&browser).await.starts_with("Weight of Stakes"), "{}", focused(&browser).await);
    browser.press(Key::Up + "").await;
    let field = browser.driver.active_element().await.unwrap();
    assert_eq!(field.prop("value").await.unwrap().unwrap(), "1,250 g");
    browser.press(Key::Escape + "").await;
    browser.wait_gone("\"1,250 g\" can be 1250 g or 1.25 g. Type 1250 or 1.25.").await;
    browser.wait_for("212 g").await;

    // A cleared weight is unknown, and the totals say so.
    browser.press(Key::Enter + "").await;
    browser.press(Key::Backspace + "").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("2 weights are unknown").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stale_edit_in_another_tab_loses_nothing() {
    let (stage, browser) = demo("gear", "Pack liner").await;
    let first = browser.driver.window().await.unwrap();
    let second = browser.driver.new_tab().await.unwrap();
    browser.driver.switch_to_window(second).await.unwrap();
    browser.driver.goto(format!("{}/gear", stage.url)).await.unwrap();
    browser.wait_for("Pack liner").await;
    focus(&browser, "Weight of Pack liner").await;
    browser.press("6").await;
    browser.press("1 g").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("61 g").await;

    browser.driver.switch_to_window(first).await.unwrap();
    focus(&browser, "Weight of Pack liner").await;
    browser.press("5").await;
    browser.press("8 g").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("It was changed somewhere else since you opened it.").await;
    browser.press(Key::Up + "").await;
    let field = browser.driver.active_element().await.unwrap();
    assert_eq!(field.prop("value").await.unwrap().unwrap(), "58 g");
    // The list behind it is asked for again, so the same Enter now decides on what is there.
    browser.wait_for("at least 22.27 kg").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("58 g").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn odd_names_are_shown_as_they_are() {
    let (_stage, browser) = demo("gear", "Pack liner").await;
    browser.type_into("input[aria-label='Add gear by a line']", "<b>bold</b> \u{26f0} & 'co' 12g").await;
    browser.wait_for("weight 12 g").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("<b>bold</b> \u{26f0} & 'co' added to Fell week.").await;
    assert!(browser.driver.find_all(By::Css("main b")).await.unwrap().len() < 200);
    let bold = browser.driver.find_all(By::XPath("//b[text()='bold']")).await.unwrap();
    assert!(bold.is_empty(), "markup in a name is text");
    // The line's own message takes it back.
    browser.press(Key::Escape + "").await;
    browser.press("z").await;
    browser.wait_for("61 things").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn swaps_are_pinned_ruled_out_and_unfolded() {
    let (_stage, browser) = demo("swaps", "All swaps as slopes").await;
    let row = browser.find_text("Bank 10 Ah").await;
    browser.driver.execute("arguments[0].closest('button').focus()", vec![row.to_json().unwrap()]).await.unwrap();
    browser.press("x").await;
    browser.wait_for("Bank 10 Ah is ruled out.").await;
    browser.press("z").await;
    browser.wait_gone("Bank 10 Ah is ruled out.").await;
    browser.press("p").await;
    browser.wait_for("Bank 10 Ah is pinned: every plan includes it.").await;
    browser.press("p").await;
    browser.wait_for("Bank 10 Ah is left to the plan.").await;

    browser.click_text("1 more choice").await;
    browser.click_text("Fold").await;

    // Taking the only shelter off is cautioned where it is decided.
    browser.press("n").await;
    browser.choose("Replaces", "Two-skin dome").await;
    browser.press(Key::Escape + "").await;
    browser.wait_for("No new item does: shelter.").await;
    browser.click("button[aria-label='Close this dialog']").await;
    browser.wait_gone("Add swap").await;

    // Esc leaves the drawer; what was typed in it is there again, also when the page was loaded anew.
    browser.click_text("Bank 10 Ah").await;
    // It is read before it is edited: before and after, and what it does to cautions.
    browser.wait_for("Weight from").await;
    browser.click_xpath("//button[normalize-space(.)='Edit']").await;
    browser.type_into("input[name='delivery']", "4").await;
    browser.press(Key::Escape + "").await;
    browser.wait_gone("Save").await;
    browser.driver.refresh().await.unwrap();
    browser.click_text("Bank 10 Ah").await;
    browser.wait_for("What you typed before is still here, not saved yet.").await;
    assert_eq!(browser.find("input[name='delivery']").await.prop("value").await.unwrap().unwrap(), "4");
    browser.click_text("Save").await;
    browser.wait_for("28 €").await;
    browser.close().await;
}

/// Focuses the thing of a name on the list.
async fn focus_thing(browser: &Browser, name: &str) {
    let thing = browser.find_xpath(&format!("//button[@data-block][contains(.,'{name}')]")).await;
    browser.driver.execute("arguments[0].focus()", vec![thing.to_json().unwrap()]).await.unwrap();
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_worn_is_no_base_weight_and_things_come_and_go() {
    let (_stage, browser) = demo("list", "Stays home").await;
    focus_thing(&browser, "Mug").await;
    browser.press("m").await;
    browser.wait_for("10.42").await; // 118 g less
    browser.wait_for("Mug: on me.").await;
    browser.press("z").await;
    browser.wait_for("10.54").await;
    // With Shift one piece of two.
    focus_thing(&browser, "Socks, wool × 2").await;
    browser.press("X").await;
    browser.wait_for("10.47").await;
    browser.press("z").await;
    browser.wait_for("10.54").await;

    browser.type_into("input[aria-label='Add gear to the list']", "head net").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Head net is on the list.").await;
    browser.wait_for("48 things come along").await;
    browser.click("input[aria-label='Add gear to the list']").await;
    browser.press(Key::Escape + "").await;
    focus_thing(&browser, "Towel").await;
    browser.press(Key::Delete + "").await;
    browser.wait_for("Towel taken off the list.").await;
    browser.wait_for("47 things come along").await;
    browser.press("z").await;
    browser.wait_for("48 things come along").await;

    // What the trip requires is said with its reason; what is typed wrongly stays, with what would be taken.
    browser.press("r").await;
    browser.wait_for("What it requires, and why").await;
    focus(&browser, "Value of an hour").await;
    browser.press(Key::Enter + "").await;
    browser.press("five").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("\"five\" is not read as a figure.").await;
    browser.find("input[aria-label='Value of an hour']").await.send_keys(Key::Escape + "").await.unwrap();
    browser.wait_gone("\"five\" is not read as a figure.").await;
    browser.choose("Require more", "ice axe").await;
    browser.wait_for("What the trip requires is changed.").await;
    browser.wait_for("set by you").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn units_change_for_all_that_is_shown_and_nothing_comes_from_elsewhere() {
    let (stage, browser) = demo("plan", "In this order").await;
    // Without what Weigh read of the simulated scale.
    browser.driver.refresh().await.unwrap();
    browser.click_xpath("//nav//button[contains(.,'Account')]").await;
    browser.choose("Weights in", "ounces and decimal pounds").await;
    browser.click_text("Save units").await;
    browser.wait_for("lb target").await;
    browser.wait_for("from 23.23 lb").await;
    let script = "return performance.getEntriesByType('resource').map(entry => entry.name)";
    let loaded: Vec<String> = browser.driver.execute(script, Vec::new()).await.unwrap().convert().unwrap();
    assert!(loaded.len() > 5);
    for address in loaded {
        assert!(address.starts_with(&stage.url), "{address}");
    }
    browser.click_text("Sign out").await;
    browser.wait_for("How many grams does your money buy?").await;
    browser.close().await;
}
