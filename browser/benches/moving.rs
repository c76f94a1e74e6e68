//! How quickly the sums follow where a thing of a list of 300 is moved by a key, in a headless browser: from the key to the frame that
//! shows it. Needs KEVYT_TEST_DATABASE_URL; `./kevyt bench` starts a database for it.

use kevyt_browser::{Browser, sign_up};
use kevyt_testbed::Stage;
use serde_json::{Value, json};

const THINGS: usize = 300;

/// Puts a file of gear on a new list, once the page is the application's.
const ADD: &str = "const [file, done] = arguments, form = new FormData();
    form.append('file', new Blob([file]), 'gear.csv');
    form.append('how', new Blob([JSON.stringify({ new_list: 'Long' })], { type: 'application/json' }));
    fetch('/api/files/gear', { method: 'POST', body: form }).then(answer => answer.json()).then(done, done)";

/// Moves the heaviest thing to and fro. Answers with the milliseconds from each key to the frame after next, and whether the sum had
/// changed by then.
const MOVE: &str = "const [times, done] = arguments, waits = []; let late = 0;
    const frame = () => new Promise(requestAnimationFrame);
    const sum = () => document.querySelector('.sum.back').textContent;
    (async () => {
        for (let n = 0; n < times; n++) {
            const row = document.querySelector(n % 2 ? '.on-worn [data-block]' : '.on-back [data-block]'), before = sum();
            row.focus();
            const start = performance.now();
            row.dispatchEvent(new KeyboardEvent('keydown', { key: n % 2 ? 'c' : 'm', bubbles: true, cancelable: true }));
            await frame(); await frame();
            waits.push(performance.now() - start);
            late += sum() === before;
            await new Promise(done => setTimeout(done, 400));
        }
        done({ waits, late });
    })()";

#[tokio::main]
async fn main() {
    let stage = Stage::start(false);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.expect("the page");
    sign_up(&browser, "bench").await;
    let line =
        |at: usize| format!("thing no. {at},{},{}\n", ["shelter", "sleep", "kitchen"][at % 3], 5 + at * 7 % 1_900);
    let file = format!("name,system,weight_g\n{}", (0..THINGS).map(line).collect::<String>());
    let added = ask(&browser, ADD, vec![json!(file)]).await;
    let list = added["list"].as_str().unwrap_or_else(|| panic!("no list in {added}"));
    browser.driver.goto(format!("{}/lists/{list}/list", stage.url)).await.expect("the page");
    browser.wait_for("300 things come along").await;
    let moved = ask(&browser, MOVE, vec![json!(20)]).await;
    let mut sorted: Vec<f64> = moved["waits"].as_array().expect("a list").iter().filter_map(Value::as_f64).collect();
    sorted.sort_by(f64::total_cmp);
    let at = |per_cent: usize| sorted[(sorted.len() - 1) * per_cent / 100];
    println!(
        "moving one of {THINGS} things, from the key to the frame after next: median {:.0} ms, worst {:.0} ms",
        at(50),
        at(100)
    );
    println!("sums that had not followed by then: {}", moved["late"]);
    browser.close().await;
}

async fn ask(browser: &Browser, script: &str, arguments: Vec<Value>) -> Value {
    browser.driver.execute_async(script, arguments).await.expect("a script that ends").json().clone()
}
