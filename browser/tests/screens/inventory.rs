//! The inventory through the real interface: weighing on the simulated scale, files, backup.

use kevyt_browser::{Browser, demo, sign_up};
use kevyt_testbed::Stage;
use serde_json::json;
use std::path::PathBuf;
use thirtyfour::prelude::*;

async fn steady(browser: &Browser) {
    browser.find_xpath("//footer//*[@role='status'][normalize-space(.)='steady']").await;
}

async fn mark(browser: &Browser, name: &str) {
    browser.click_xpath(&format!("//aside//tr//button[normalize-space(.)='{name}']")).await;
}

/// The text that an address of the application answers with.
async fn fetched(browser: &Browser, path: &str) -> String {
    let script = format!("const done = arguments[0]; fetch('{path}').then(answer => answer.text()).then(done)");
    browser.driver.execute_async(script, Vec::new()).await.unwrap().convert().unwrap()
}

/// A file for a file chooser to take.
fn file(name: &str, text: &str) -> PathBuf {
    let folder = std::env::temp_dir().join(format!("kevyt-{}-{}", std::process::id(), name.len()));
    std::fs::create_dir_all(&folder).unwrap();
    let path = folder.join(name);
    std::fs::write(&path, text).unwrap();
    path
}

async fn choose_file(browser: &Browser, accept: &str, path: &std::path::Path) {
    let field = browser.driver.find(By::Css(format!("input[type='file'][accept*='{accept}']"))).await.unwrap();
    field.send_keys(path.to_str().unwrap()).await.unwrap();
}

const CSV: &str = "Ding;Gruppe;Stk;Masse;Preis\r\n\
    Tarp, gewachst;Dach;1;1,250;39,90\r\n\
    Schnur;Dach;4;0,0125;2-3\r\n\
    ;Dach;1;0,1;1\r\n\
    Kanne;kitchen;0;0,2;8\r\n\
    Topf;kitchen;1;schwer;9\r\n";

#[tokio::test(flavor = "multi_thread")]
async fn weighed_corrected_read_written_removed_and_restored() {
    let (stage, browser) = demo("weigh", "pan empty, at zero").await;
    let first = browser.find("table.grid").await.text().await.unwrap();
    assert!(first.contains("Doubt\nStuff sacks, assorted\nnone ? all of it"), "the worst doubt stands first: {first}");

    // A kit by taking away: three things on, then one after the other off.
    for name in ["Mug", "Spoon", "Lighter"] {
        stage.at_the_scale(&json!({ "put": { "name": name } }));
    }
    browser.press("o").await;
    browser.wait_for("Put everything on the scale").await;
    steady(&browser).await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Now mark what you take off").await;
    browser.click_xpath("//button[starts-with(normalize-space(.),'Show all ')]").await;
    for (name, left) in [("Mug", "39 g"), ("Spoon", "21 g"), ("Lighter", "0 g")] {
        mark(&browser, name).await;
        stage.at_the_scale(&json!({ "take": { "name": name } }));
        // In between the scale is lost, and nothing with it.
        if name == "Spoon" {
            browser.driver.refresh().await.unwrap();
            browser.wait_for("left on the scale").await;
            browser.click_xpath("//button[starts-with(normalize-space(.),'Show all ')]").await;
            mark(&browser, name).await;
        }
        browser.find_xpath(&format!("//output[translate(., '\u{2009}', ' ')='{left}']")).await;
        if left == "0 g" {
            browser.wait_for("pan empty, at zero").await
        } else {
            steady(&browser).await
        }
        browser.press(Key::Enter + "").await;
        browser.find_xpath(&format!("//section[@aria-label='Take away']//li[contains(.,'{name}')]")).await;
    }
    browser.wait_for("unexplained difference 0 g").await;
    browser.press("s").await;
    browser.wait_for("3 things weighed by taking away.").await;

    // One reading corrected, and the correction undone.
    let taken = "//*[@data-cell][starts-with(@aria-label,'Weighing of Mug:')]";
    let was = browser.find_xpath(taken).await.text().await.unwrap();
    browser.find_xpath(taken).await.scroll_into_view().await.unwrap();
    browser.click_xpath(taken).await;
    browser.type_into("input[aria-label='Weighing of Mug']", "181").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Corrected to 181 g.").await;
    browser.find_xpath(&format!("{taken}[contains(.,'181')]")).await;
    browser.press("z").await;
    browser.wait_gone("181 g").await;
    assert_eq!(browser.find_xpath(taken).await.text().await.unwrap(), was);

    // A semicolon file with decimal commas and three bad lines; the mapping is put right by hand.
    browser.follow("/gear/files").await;
    browser.wait_for("Import a list").await;
    choose_file(&browser, "csv", &file("list.csv", CSV)).await;
    browser.wait_for("5 refused").await;
    browser.wait_for("No column is mapped to the name.").await;
    browser.choose("What Ding holds", "name").await;
    browser.choose("What Gruppe holds", "system").await;
    browser.choose("What Stk holds", "count").await;
    browser.choose("What Masse holds", "weight").await;
    browser.wait_for("nothing in the file says so: check it").await;
    browser.choose("Unit of weights without one", "kilograms").await;
    browser.choose("System for Dach", "Shelter").await;
    browser.wait_for("2 new").await;
    browser.wait_for("1 left out").await;
    browser.wait_for("2 refused").await;
    for reason in ["line 5 Stk: \"0\" is not read", "line 6 Masse: \"schwer\" is not read"] {
        browser.wait_for(reason).await;
    }
    browser.wait_for("Tarp, gewachst 1 piece, 1250 g, Shelter, 39.90 EUR").await;
    browser.click_under("//span[normalize-space(.)='only into my gear']").await;
    browser.click_under("//button[normalize-space(.)='Import 2'][not(@disabled)]").await;
    browser.wait_for("list.csv: 2 added, 2 refused.").await;

    // Written out: the new things with exact figures, and the whole account.
    let csv = fetched(&browser, "/api/files/gear.csv").await;
    for line in [r#""Tarp, gewachst","shelter","1","1250","#, r#""Schnur","shelter","4","12.5","#] {
        assert!(csv.contains(line), "{csv}");
    }
    let backup = fetched(&browser, "/api/files/account.json").await;
    browser.follow("/gear").await;
    browser.wait_for("63 things").await;
    let summary = browser.find(".head p").await.text().await.unwrap();
    let table = browser.find("table.gear").await.text().await.unwrap();

    // Everything removed, also what is sold or worn out, then restored: every figure is as it was.
    browser.choose("Which things", "everything").await;
    browser.click_xpath("//thead//label[contains(@class,'el-checkbox')]").await;
    browser.click_text("Remove").await;
    browser.wait_for("64 things removed.").await;
    browser.follow("/gear/files").await;
    browser.wait_for("Restore from a backup").await;
    choose_file(&browser, "json", &file("kevyt-account.json", &backup)).await;
    browser.wait_for("holds 64 things and 6 lists").await;
    browser.click_text("Restore").await;
    browser.wait_for("Restored: 64 things").await;
    // The page goes on with the list of the same name.
    browser.press("2").await;
    browser.wait_for("63 things").await;
    assert_eq!(browser.find(".head p").await.text().await.unwrap(), summary);
    assert_eq!(browser.find("table.gear").await.text().await.unwrap(), table);

    // And after it is loaded again, the history still takes it back.
    browser.press("h").await;
    browser.wait_for("A backup restored: 64 things, 6 lists.").await;
    browser.driver.refresh().await.unwrap();
    browser.click("button[aria-label='Undo: A backup restored: 64 things, 6 lists.']").await;
    browser.wait_for("Undone: A backup restored").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_scale_is_read_live_and_says_what_is_wrong() {
    let (stage, browser) = demo("weigh", "pan empty, at zero").await;
    mark(&browser, "Night set, wool").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("The reading is not steady.").await;
    browser.click_text("Put Night set, wool on").await;
    steady(&browser).await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Night set, wool weighs").await;
    browser.wait_for("saved: change what is on the pan").await;
    // The next thing is marked, and the same reading is not taken for it.
    browser.press(Key::Enter + "").await;
    browser.wait_for("This reading was saved already.").await;
    browser.press("z").await;
    browser.wait_for("Nothing yet today.").await;

    stage.at_the_scale(&json!({ "put": { "name": "stone", "weight": "5 kg" } }));
    browser.wait_for("There is more on the pan than the scale can carry. Take it off.").await;
    stage.at_the_scale(&json!("clear"));
    browser.wait_for("pan empty, at zero").await;
    stage.at_the_scale(&json!({ "plug": { "on": false } }));
    browser.wait_for("nothing comes from the scale").await;
    // Without the scale, what another one shows is typed; ten at a time, divided.
    browser.click_xpath("//button[starts-with(normalize-space(.),'Show all ')]").await;
    mark(&browser, "Stakes, V-shaped × 10").await;
    browser.press("d").await;
    browser.press("w").await;
    browser.press("1,460 g").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("can be 1460 g or 1.46 g").await;
    browser.type_into("input[aria-label='What the scale shows']", "146").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("10 on the pan, 15 g each").await;
    stage.at_the_scale(&json!({ "plug": { "on": true } }));
    browser.wait_for("pan empty, at zero").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_kit_tells_its_unknown_part_and_several_things_change_at_once() {
    let (_stage, browser) = demo("weigh", "pan empty, at zero").await;
    browser.click_xpath("//button[contains(.,'Mummy bag in its sack')]").await;
    browser.wait_for("kit of 2 things").await;
    browser.press("w").await;
    browser.press("1164").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("Stuff sacks, assorted calculated: 44 g").await;

    browser.follow("/gear?find=wool").await;
    browser.wait_for("2 things").await;
    browser.click_xpath("//thead//label[contains(@class,'el-checkbox')]").await;
    browser.choose("Status of the chosen", "for sale").await;
    browser.wait_for("2 things changed.").await;
    browser.type_into("input[aria-label='Tag the chosen']", "spare").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("#spare").await;
    browser.click_xpath("//button[starts-with(@aria-label,'About Night set')]").await;
    browser.wait_for("What was done to it").await;
    browser.wait_for("2 things changed.").await;
    browser.close().await;
}

/// A scale on the page's USB, as far as WebHID shows one: `show(status, grams)` is what it reports from then on, ten times a second.
const USB_SCALE: &str = "
    class Scale extends EventTarget {
        productName = 'Bench scale'; opened = false; collections = [{ usagePage: 0x8d }];
        async open() { this.opened = true }
        async close() { this.opened = false }
    }
    const scale = new Scale(), keyboard = Object.assign(new Scale(), { collections: [{ usagePage: 1 }] });
    let report = null;
    window.show = (status, grams) => report = status && [status, 2, 0, grams & 255, grams >> 8];
    setInterval(() => report && scale.opened && scale.dispatchEvent(Object.assign(new Event('inputreport'),
        { reportId: 3, data: new DataView(new Uint8Array(report).buffer) })), 100);
    Object.defineProperty(navigator, 'hid', { value: Object.assign(new EventTarget(), {
        getDevices: async () => [keyboard],
        requestDevice: async ({ filters }) => filters.some(one => one.usagePage === 0x8d) ? [scale] : [],
    }) });";

#[tokio::test(flavor = "multi_thread")]
async fn a_usb_scale_is_read_where_the_browser_has_one() {
    let stage = Stage::start(false);
    let browser = Browser::open().await;
    let tools = browser.driver.cdp();
    tools.send_raw("Page.addScriptToEvaluateOnNewDocument", json!({ "source": USB_SCALE })).await.unwrap();
    browser.driver.goto(&stage.url).await.unwrap();
    sign_up(&browser, "anna").await;
    browser.press(Key::Escape + "").await;
    browser.press("2").await;
    browser.type_into("input[aria-label='Add gear by a line']", "mug claimed 110g #kitchen").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("mug added").await;
    browser.press(Key::Escape + "").await;
    browser.press("1").await;
    browser.click_text("connect one over USB").await;
    let show = async |status: u8, grams: u16| {
        browser.driver.execute(format!("show({status}, {grams})"), Vec::new()).await.unwrap();
    };
    show(3, 90).await;
    browser.wait_for("moving").await;
    show(4, 118).await;
    steady(&browser).await;
    browser.wait_for("1 g steps, Bench scale").await;
    browser.press(Key::Enter + "").await;
    browser.wait_for("mug weighs 118 g").await;
    browser.wait_for("maker’s figure 110 g").await;
    // Pulled out, it says so; what was taken stays.
    show(0, 0).await;
    browser.wait_for("nothing comes from the scale").await;
    show(6, 0).await;
    browser.wait_for("There is more on the pan than the scale can carry. Take it off.").await;
    browser.wait_for("maker’s figure 110 g").await;
    browser.close().await;
}
