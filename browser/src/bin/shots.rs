//! Takes the pictures in `docs/screenshots/` from the demo data. With arguments, only the views named, into another folder:
//! `./kevyt shots /tmp/look plan swaps-dark`.

use kevyt_browser::{Browser, Look, Stage};
use std::path::PathBuf;
use std::time::Duration;

const WIDE: Look = Look { width: 1280, height: 800, dark: false };
const DARK: Look = Look { dark: true, ..WIDE };
const PHONE: Look = Look { width: 390, height: 844, dark: false };

/// Name, address and look of each picture.
const SHOTS: &[(&str, &str, Look)] = &[
    ("sign-in", "", WIDE),
    ("weigh", "/weigh", WIDE),
    ("weigh-dark", "/weigh", DARK),
    ("weigh-phone", "/weigh", PHONE),
    ("gear", "/gear", WIDE),
    ("gear-dark", "/gear", DARK),
    ("gear-thing", "/gear", WIDE),
    ("files", "/gear/files", WIDE),
    ("history", "/gear/history", WIDE),
    ("gear-phone", "/gear", PHONE),
    ("list", "/list", WIDE),
    ("list-phone", "/list", PHONE),
    ("swaps", "/swaps", WIDE),
    ("swaps-dark", "/swaps", DARK),
    ("swap", "/swaps", WIDE),
    ("plan", "/plan", WIDE),
    ("plan-dark", "/plan", DARK),
];

#[tokio::main]
async fn main() {
    let mut arguments = std::env::args().skip(1);
    let folder = PathBuf::from(arguments.next().unwrap_or_else(|| "docs/screenshots".to_owned()));
    let only: Vec<String> = arguments.collect();
    std::fs::create_dir_all(&folder).expect("a folder for the pictures");
    let stage = Stage::start(true);
    let browser = Browser::open().await;
    let mut entered = false;
    for (name, path, look) in SHOTS {
        if !only.is_empty() && !only.iter().any(|wanted| wanted == name) {
            continue;
        }
        browser.look(*look).await;
        if !path.is_empty() && !entered {
            browser.driver.goto(&stage.url).await.expect("the page");
            browser.find_text("Look around in the demo").await.click().await.expect("the way in");
            browser.wait_for("What does it really weigh").await;
            entered = true;
        }
        browser.driver.goto(format!("{}{path}", stage.url)).await.expect("the page");
        browser.wait_for(if path.is_empty() { "Sign in" } else { "planned" }).await;
        if *name == "swap" {
            browser.find_text("One-skin pole shelter").await.click().await.expect("a swap to open");
        }
        // Fonts and transitions settle.
        tokio::time::sleep(Duration::from_millis(600)).await;
        browser.shoot(&folder.join(format!("{name}.png"))).await;
    }
    let wanted = |name: &str| only.is_empty() || only.iter().any(|wanted| wanted == name);
    browser.look(WIDE).await;
    if wanted("plan-pounds") {
        leave(&browser, &stage.url).await;
        browser.find_text("Look around in pounds, ounces and dollars").await.click().await.expect("the way in");
        browser.wait_for("What does it really weigh").await;
        browser.driver.goto(format!("{}/plan", stage.url)).await.expect("the page");
        browser.wait_for("In this order").await;
        tokio::time::sleep(Duration::from_millis(600)).await;
        browser.shoot(&folder.join("plan-pounds.png")).await;
    }
    if wanted("start") {
        leave(&browser, &stage.url).await;
        start(&browser).await;
        browser.shoot(&folder.join("start.png")).await;
    }
    browser.close().await;
}

/// Signs out, to the first page.
async fn leave(browser: &Browser, url: &str) {
    browser.driver.delete_all_cookies().await.expect("a session to leave");
    browser.driver.goto(url).await.expect("the page");
}

/// A new account, where it begins.
async fn start(browser: &Browser) {
    browser.find_text("I am new here").await.click().await.expect("the way to a new account");
    browser.type_into("input[name='name']", "newcomer").await;
    browser.type_into("input[name='password']", "not a real one").await;
    browser.find_text("Make the account").await.click().await.expect("a button");
    browser.wait_for("Start with the heavy few").await;
}
