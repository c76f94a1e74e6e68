//! How smoothly the Gear step scrolls and finds among 5 000 things, in a headless browser: the time between two frames while it is
//! scrolled, and from a key to the frame that shows its answer. Needs KEVYT_TEST_DATABASE_URL; `./kevyt bench` starts a database for it.

use kevyt_browser::{Browser, sign_up};
use kevyt_testbed::Stage;
use serde_json::{Value, json};

const THINGS: usize = 5_000;

/// Adds a gear file, once the page is the application's.
const ADD: &str = "const [file, done] = arguments;
    fetch('/api/files/gear', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ file: btoa(file) }) })
        .then(answer => answer.json()).then(done, done)";

/// Scrolls by so many pixels a frame for 240 frames. Answers with the milliseconds of each frame and the most rows that were drawn.
const SCROLL: &str = "const [by, done] = arguments, frames = []; let before = performance.now(), rows = 0;
    function step(now) {
        frames.push(now - before); before = now;
        rows = Math.max(rows, document.querySelectorAll('table.gear tbody tr').length);
        if (frames.length > 240) return done({ frames: frames.slice(1), rows });
        window.scrollBy(0, by); requestAnimationFrame(step);
    }
    requestAnimationFrame(step)";

/// Types letters one after another into the finder. Answers with the milliseconds from each to the frame after next.
const FIND: &str = "const [text, done] = arguments, finder = document.querySelector('input[type=search]'), waits = [];
    window.scrollTo(0, 0);
    const frame = () => new Promise(requestAnimationFrame);
    (async () => {
        for (let n = 1; n <= text.length; n++) {
            const start = performance.now();
            finder.value = text.slice(0, n); finder.dispatchEvent(new Event('input'));
            await frame(); await frame();
            waits.push(performance.now() - start);
        }
        done({ waits, summary: document.querySelector('.head p').textContent });
    })()";

#[tokio::main]
async fn main() {
    let stage = Stage::start(false);
    let browser = Browser::open().await;
    browser.driver.goto(&stage.url).await.expect("the page");
    sign_up(&browser, "bench").await;
    let added = ask(&browser, ADD, vec![json!(file())]).await;
    assert_eq!(added["added"], THINGS, "{added}");

    browser.driver.goto(format!("{}/gear", stage.url)).await.expect("the page");
    browser.wait_for("5000 things").await;
    // A wheel turned briskly, and one that is spun: four rows a frame, and most of a screen.
    for by in [120, 600] {
        browser.driver.execute("window.scrollTo(0, 0)", Vec::new()).await.expect("a page to scroll");
        let scrolled = ask(&browser, SCROLL, vec![json!(by)]).await;
        say(&format!("scrolling {by} px a frame: from frame to frame"), &scrolled["frames"]);
        println!("at most {} rows of {THINGS} were drawn", scrolled["rows"]);
    }
    let found = ask(&browser, FIND, vec![json!("thing no. 49")]).await;
    say("finding: from a key to its frame", &found["waits"]);
    println!("finding: {}", found["summary"]);
    browser.close().await;
}

fn file() -> String {
    let mut text = String::from("name,system,count,weight_g,source,price,kept_at\n");
    for at in 0..THINGS {
        let system = ["shelter", "sleep", "kitchen", "rain", "wash"][at % 5];
        text += &format!("thing no. {at},{system},1,{},maker,{}.00,shelf {}\n", 5 + at % 1_900, at % 400, at % 20);
    }
    text
}

async fn ask(browser: &Browser, script: &str, arguments: Vec<Value>) -> Value {
    browser.driver.execute_async(script, arguments).await.expect("a script that ends").json().clone()
}

/// Prints median, 95th percentile and worst of some milliseconds.
fn say(what: &str, milliseconds: &Value) {
    let mut sorted: Vec<f64> = milliseconds.as_array().expect("a list").iter().filter_map(Value::as_f64).collect();
    sorted.sort_by(f64::total_cmp);
    let at = |per_cent: usize| sorted[(sorted.len() - 1) * per_cent / 100];
    println!("{what}: median {:.0} ms, 95 of 100 within {:.0} ms, worst {:.0} ms", at(50), at(95), at(100));
}
