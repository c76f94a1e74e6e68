//! Takes the pictures in `docs/screenshots/` from the demo data. With arguments, only the views named, into another folder:
//! `./kevyt shots /tmp/look plan swaps-dark`.

use kevyt_browser::{Browser, Look, enter_demo, sign_up};
use kevyt_testbed::Stage;
use serde_json::json;
use std::path::PathBuf;
use thirtyfour::prelude::*;

const WIDE: Look = Look { width: 1280, height: 800, dark: false };
const DARK: Look = Look { dark: true, ..WIDE };
const PHONE: Look = Look { width: 390, height: 844, dark: false };

/// Name, address and look of each picture.
const SHOTS: &[(&str, &str, Look)] = &[
    ("gear", "/gear", WIDE),
    ("gear-thing", "/gear", WIDE),
    ("files", "/gear/files", WIDE),
    ("list", "/list", WIDE),
    ("list-phone", "/list", PHONE),
    ("trip", "/list/trip", WIDE),
    ("swaps", "/swaps", WIDE),
    ("swap", "/swaps", WIDE),
    ("plan", "/plan", WIDE),
    ("plan-dark", "/plan", DARK),
    ("pack", "/pack", WIDE),
    ("trips", "/trips", WIDE),
    ("trips-back", "/trips", WIDE),
    // Weighing changes the figures of all others, so it comes last.
    ("weigh", "/weigh", WIDE),
    ("weigh-phone", "/weigh", PHONE),
    ("year", "/year", WIDE),
    // The list for two is the one at hand from here on.
    ("together", "/list/together", WIDE),
];

/// A gear file as somebody else would have written it.
const FOREIGN: &str = "Item;Category;Qty;Weight (g);Cost\n\
    Tarp, coated nylon;Shelter;1;412,5;89-99\n\
    Guy line, 3 m;Shelter;4;11,2;2,50\n\
    Wind trousers;Clothing;1;88;35\n\
    Cup;Bits;1;1,250;9\n\
    Pillow;Sleep;1;98;22\n";

#[tokio::main]
async fn main() {
    let mut arguments = std::env::args().skip(1);
    let folder = PathBuf::from(arguments.next().unwrap_or_else(|| "docs/screenshots".to_owned()));
    let only: Vec<String> = arguments.collect();
    std::fs::create_dir_all(&folder).expect("a folder for the pictures");
    let mut stage = Stage::start(true);
    stage.with_made_up_shop();
    let browser = Browser::open().await;
    let mut entered = false;
    for (name, path, look) in SHOTS {
        if !only.is_empty() && !only.iter().any(|wanted| wanted == name) {
            continue;
        }
        browser.look(*look).await;
        if !entered {
            browser.driver.goto(&stage.url).await.expect("the page");
            enter_demo(&browser).await;
            entered = true;
        }
        browser.driver.goto(format!("{}{path}", stage.url)).await.expect("the page");
        browser.wait_for("planned").await;
        if name.starts_with("weigh") {
            weigh(&stage, &browser).await;
        }
        if *name == "files" {
            let file = std::env::temp_dir().join("bought.csv");
            std::fs::write(&file, FOREIGN).expect("a file to read");
            let chooser = browser.driver.find(By::Css("input[type='file'][accept*='csv']")).await.expect("a chooser");
            chooser.send_keys(file.to_str().expect("a plain path")).await.expect("a file");
            browser.wait_for("new").await;
        }
        if *name == "gear-thing" {
            let about = "//button[starts-with(@aria-label,'About Fleece')]";
            browser.click_xpath(about).await;
            browser.wait_for("What one piece does and needs").await;
        }
        if *name == "pack" {
            browser.wait_for("the list says").await;
        }
        if *name == "year" {
            browser.wait_for("Buy in this order").await;
        }
        if name.starts_with("trips") {
            browser.wait_for("What it taught").await;
        }
        if *name == "trips-back" {
            browser.click_text("Fells at snow melt").await;
            browser.wait_for("46 of 46 reviewed").await;
        }
        if *name == "together" {
            browser.click_xpath("//header//button[contains(.,'Fell week')]").await;
            let two = "//li[normalize-space()='Fell week for two']";
            browser.click_xpath(two).await;
            browser.wait_for("Vesper").await;
        }
        if *name == "swap" {
            browser.click_text("One-skin pole shelter").await;
        }
        // Fonts and transitions settle; what was pressed further down is left.
        browser.settled().await;
        browser.driver.execute("window.scrollTo(0, 0)", Vec::new()).await.expect("a page");
        browser.shoot(&folder.join(format!("{name}.png"))).await;
    }
    let wanted = |name: &str| only.is_empty() || only.iter().any(|wanted| wanted == name);
    browser.look(WIDE).await;
    if wanted("plan-pounds") {
        leave(&browser, &stage.url).await;
        browser.click_text("Look around in pounds, ounces and dollars").await;
        browser.wait_for("What does it really weigh").await;
        browser.driver.goto(format!("{}/plan", stage.url)).await.expect("the page");
        browser.wait_for("In this order").await;
        // What may come of not knowing is worked out last.
        browser.wait_for("9 in 10").await;
        browser.settled().await;
        browser.shoot(&folder.join("plan-pounds.png")).await;
    }
    if wanted("start") {
        leave(&browser, &stage.url).await;
        sign_up(&browser, "newcomer").await;
        browser.shoot(&folder.join("start.png")).await;
    }
    browser.close().await;
}

/// Three things weighed (once), a fourth on the pan.
async fn weigh(stage: &Stage, browser: &Browser) {
    let steady = "//footer//*[@role='status'][normalize-space(.)='steady']";
    let on_the_pan = async |name: &str| {
        stage.at_the_scale(&json!("clear"));
        browser.wait_for("pan empty").await;
        let row = format!("//aside//tr//button[normalize-space(.)='{name}']");
        // On a phone a message may lie over it.
        browser.click_under(&row).await;
        stage.at_the_scale(&json!({ "put": { "name": name } }));
        browser.find_xpath(steady).await;
    };
    let body = browser.driver.find(By::Tag("body")).await.expect("a page").text().await.expect("its text");
    if body.contains("Nothing yet today") {
        for name in ["Framed pack, 58 l", "Self-inflating pad, R 3.1", "Warm jacket, synthetic"] {
            on_the_pan(name).await;
            browser.press(Key::Enter + "").await;
            browser.wait_for("saved: change what is on the pan").await;
        }
    }
    on_the_pan("Night set, wool").await;
    for close in browser.driver.find_all(By::Css("[aria-label='Close this message']")).await.expect("messages") {
        let _ = close.click().await;
    }
}

/// Signs out, to the first page.
async fn leave(browser: &Browser, url: &str) {
    browser.driver.delete_all_cookies().await.expect("a session to leave");
    browser.driver.goto(url).await.expect("the page");
}
