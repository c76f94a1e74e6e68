//! A headless Chromium of one's own, driven through a ChromeDriver of one's own.

use crate::chromium::Chromium;
use std::path::Path;
use std::time::{Duration, Instant};
use thirtyfour::error::WebDriverErrorInner;
use thirtyfour::prelude::*;

/// A browser window.
pub struct Browser {
    /// The session.
    pub driver: WebDriver,
    chromium: Chromium,
}

/// How a page is looked at.
#[derive(Debug, Clone, Copy)]
pub struct Look {
    /// Width of the viewport in CSS pixels.
    pub width: u32,
    /// Height of the viewport.
    pub height: u32,
    /// Whether the system prefers dark.
    pub dark: bool,
}

impl Browser {
    /// Opens a window of 1280 × 800. The application is not kept on the device: that takes as long as opening it, for each test anew.
    pub async fn open() -> Browser {
        let browser = Browser::open_for_offline().await;
        let source = "if (navigator.serviceWorker) navigator.serviceWorker.register = () => new Promise(() => {})";
        let script = serde_json::json!({ "source": source });
        browser.driver.cdp().send_raw("Page.addScriptToEvaluateOnNewDocument", script).await.expect("a script");
        browser
    }

    /// The same, with a service worker that keeps the application on the device.
    pub async fn open_for_offline() -> Browser {
        let chromium = Chromium::take().await;
        let mut wanted = DesiredCapabilities::chrome();
        wanted.set_debugger_address(&chromium.debugger_address).expect("an address");
        // ChromeDriver listens a moment after it starts.
        let mut driver = Err("it was not asked".to_owned());
        until(async || {
            driver = WebDriver::new(&chromium.driver_url, wanted.clone()).await.map_err(|error| error.to_string());
            driver.is_ok()
        })
        .await;
        let driver = driver.expect("a browser session");
        driver.set_implicit_wait_timeout(Duration::ZERO).await.expect("a session");
        let browser = Browser { driver, chromium };
        browser.look(Look { width: 1280, height: 800, dark: false }).await;
        browser
    }

    /// Sets the viewport and the preferred colours; without motion, so that nothing moves away from a click.
    pub async fn look(&self, look: Look) {
        let tools = self.driver.cdp();
        let metrics = serde_json::json!({
            "width": look.width, "height": look.height, "deviceScaleFactor": 1, "mobile": look.width < 700
        });
        tools.send_raw("Emulation.setDeviceMetricsOverride", metrics).await.expect("a viewport");
        // A phone has no mouse: rows are as tall there as a thumb needs.
        let touch = serde_json::json!({ "enabled": look.width < 700, "maxTouchPoints": 1 });
        tools.send_raw("Emulation.setTouchEmulationEnabled", touch).await.expect("a touch screen");
        let scheme = if look.dark { "dark" } else { "light" };
        let media = serde_json::json!({ "features": [
            { "name": "prefers-color-scheme", "value": scheme },
            { "name": "prefers-reduced-motion", "value": "reduce" },
        ] });
        tools.send_raw("Emulation.setEmulatedMedia", media).await.expect("a colour scheme");
    }

    /// Goes to a path of the application as a link in it does: the page is not loaded again.
    pub async fn follow(&self, path: &str) {
        let router = "document.querySelector('#app')?.__vue_app__?.config.globalProperties.$router";
        let is_open = format!("return {router} !== undefined");
        assert!(until(async || self.asks(&is_open).await == Some(true)).await, "no page of the application is open");
        let script = format!(
            "const [path, done] = arguments; {router}.push(path).then(() => requestAnimationFrame(() => done()))"
        );
        self.driver.execute_async(script, vec![path.into()]).await.expect("a page to follow a link on");
    }

    /// The element for a CSS selector, once it is there and shown.
    pub async fn find(&self, css: &str) -> WebElement {
        self.waited(Selector::Css(css), css).await
    }

    /// The element for an XPath, once it is there and shown.
    pub async fn find_xpath(&self, xpath: &str) -> WebElement {
        self.waited(Selector::XPath(xpath), xpath).await
    }

    /// The element that holds exactly this text, once it is there and shown.
    pub async fn find_text(&self, text: &str) -> WebElement {
        self.waited(Selector::XPath(&with_text(text)), text).await
    }

    /// Whether the page's text has `text` in it.
    pub async fn says(&self, text: &str) -> bool {
        squeezed(&self.text().await).contains(&squeezed(text))
    }

    /// Waits until the page's text has `text` in it.
    pub async fn wait_for(&self, text: &str) {
        if !until(async || self.says(text).await).await {
            panic!("{text:?} did not appear within {WAIT_TIMEOUT:?}. The page says:\n{}", self.text().await);
        }
    }

    /// What the page says; nothing while it is on its way.
    async fn text(&self) -> String {
        // The driver's own way of asking takes a second and more on a page with long lists of choices.
        let script = "return document.body?.innerText ?? ''";
        match self.driver.execute(script, Vec::new()).await {
            Ok(said) => said.convert().unwrap_or_default(),
            Err(_) => String::new(),
        }
    }

    /// Waits until nothing shown holds exactly this text.
    pub async fn wait_gone(&self, text: &str) {
        let xpath = format!("//*[normalize-space(.)={}]", quoted(text));
        let gone = until(async || matches!(self.shown(Selector::XPath(&xpath)).await, Ok(None)));
        assert!(gone.await, "{text:?} is still there after {WAIT_TIMEOUT:?}");
    }

    /// Waits until nothing slides, fades or loads any more.
    pub async fn settled(&self) {
        let moves = "return document.getAnimations().some(one => one.playState === 'running' && one.effect?.getTiming().iterations !== Infinity) \
            || document.querySelector('.el-skeleton') !== null";
        assert!(
            until(async || self.asks(moves).await == Some(false)).await,
            "something on the page still moves, or is waited for, after {WAIT_TIMEOUT:?}"
        );
    }

    /// Waits until the element for a CSS selector has the focus.
    pub async fn wait_focus(&self, css: &str) {
        let has = format!("return document.activeElement?.matches({css:?}) ?? false");
        assert!(
            until(async || self.asks(&has).await == Some(true)).await,
            "{css} has not got the focus within {WAIT_TIMEOUT:?}"
        );
    }

    /// What a script answers that says yes or no; nothing while the page is on its way.
    async fn asks(&self, script: &str) -> Option<bool> {
        self.driver.execute(script, Vec::new()).await.ok().and_then(|said| said.json().as_bool())
    }

    /// Clicks the element for a CSS selector.
    pub async fn click(&self, css: &str) {
        self.act(Selector::Css(css), css, WebElement::click).await;
    }

    /// Clicks the element for an XPath.
    pub async fn click_xpath(&self, xpath: &str) {
        self.act(Selector::XPath(xpath), xpath, WebElement::click).await;
    }

    /// Clicks the element that holds exactly this text.
    pub async fn click_text(&self, text: &str) {
        self.act(Selector::XPath(&with_text(text)), text, WebElement::click).await;
    }

    /// Clicks the element for an XPath by a script, whatever lies over it.
    pub async fn click_under(&self, xpath: &str) {
        let by_script = async |element: &WebElement| {
            self.driver.execute("arguments[0].click()", vec![element.to_json()?]).await.map(|_| ())
        };
        self.act(Selector::XPath(xpath), xpath, by_script).await;
    }

    /// Types into the field for a CSS selector, over what is there.
    pub async fn type_into(&self, css: &str, text: &str) {
        let typed = async |field: &WebElement| {
            field.send_keys(Key::Control + "a").await?;
            field.send_keys(text).await
        };
        self.act(Selector::Css(css), css, typed).await;
    }

    /// Sends keys to whatever has the focus.
    pub async fn press(&self, keys: impl Into<thirtyfour::TypingData>) {
        self.driver.active_element().await.expect("a focus").send_keys(keys).await.expect("keys");
    }

    /// Chooses an entry of a select box.
    pub async fn choose(&self, label: &str, entry: &str) {
        let boxed =
            format!("//input[@aria-label={}]/ancestor::div[contains(@class,'el-select__wrapper')]", quoted(label));
        self.act(Selector::XPath(&boxed), label, WebElement::click).await;
        let xpath = format!(
            "//div[contains(@class,'el-select__popper') and not(contains(@style,'display: none'))]//li[contains(.,{})]",
            quoted(entry)
        );
        self.act(Selector::XPath(&xpath), entry, WebElement::click).await;
    }

    /// Saves a picture of the viewport.
    pub async fn shoot(&self, file: &Path) {
        self.driver.screenshot(file).await.expect("a picture");
    }

    /// What can be tapped and is smaller than 44 px either way; a link within a sentence keeps its line.
    pub async fn small_targets(&self) -> Vec<String> {
        let script = "const small = []; for (const one of document.querySelectorAll('button, a[href], input, [role=button], .el-select__wrapper')) { \
            const of = one.matches('input') ? one.closest('.el-checkbox, .el-radio, .el-radio-button, .el-input, .el-select') ?? one : one; \
            if (!of.checkVisibility({ visibilityProperty: true }) || (one.closest('p, small') && one.matches('a, button'))) continue; \
            const { width, height } = of.getBoundingClientRect(); \
            if (width && height && (width < 43.9 || height < 43.9)) small.push(`${Math.round(width)} x ${Math.round(height)}: ${of.textContent.trim() || of.ariaLabel || of.className}`); } \
            return small";
        let found = self.driver.execute(script, Vec::new()).await.expect("a page that can be measured");
        found.convert().expect("texts")
    }

    /// The findings of axe-core, of every impact, on the page as it stands, or on the dialog that lies over it: of the rules that are asked
    /// for, or else of all.
    pub async fn axe_findings(&self, axe_source: &str, rules: &[&str]) -> Vec<String> {
        if self.asks("return window.axe === undefined").await == Some(true) {
            self.driver.execute(axe_source, Vec::new()).await.expect("axe-core loads");
        }
        let script = "const [rules, done] = arguments; const only = rules.length ? { runOnly: rules } : {}; \
            const dialog = [...document.querySelectorAll('[role=dialog]')].filter(one => one.checkVisibility({ visibilityProperty: true })).at(-1); \
            axe.run(dialog ?? document, { ...only, resultTypes: ['violations'], preload: false }).then(found => done(\
            found.violations.map(v => v.id + ': ' + v.help + ' at ' + v.nodes.slice(0, 4).map(n => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')).join(' | '))))";
        let found = self.driver.execute_async(script, vec![rules.into()]).await.expect("axe-core runs");
        found.convert().expect("a list of texts")
    }

    /// Ends the session, and leaves the browser to others as it was: an empty window, and nothing kept of what was open.
    pub async fn close(self) {
        let Browser { driver, chromium } = self;
        let windows = driver.windows().await.expect("a session with windows");
        let empty = driver.new_tab().await.expect("a window");
        for window in windows {
            driver.switch_to_window(window).await.expect("a window that is open");
            let origin = driver.current_url().await.expect("an address").origin().ascii_serialization();
            let kept = serde_json::json!({ "origin": origin, "storageTypes": "all" });
            driver.cdp().send_raw("Storage.clearDataForOrigin", kept).await.expect("a storage that is emptied");
            driver.close_window().await.expect("a window that closes");
        }
        driver.switch_to_window(empty).await.expect("a window that is open");
        // Cookies are of a host, whatever the port.
        driver.cdp().send_raw("Network.clearBrowserCookies", serde_json::json!({})).await.expect("no cookies");
        driver.quit().await.expect("a session to end");
        chromium.leave();
    }

    async fn waited(&self, selector: Selector<'_>, what: &str) -> WebElement {
        let mut found = None;
        until(async || {
            if let Ok(Some(element)) = self.shown(selector).await {
                // What was drawn anew meanwhile is looked for again.
                found = self.is_there(&element).await.then_some(element);
            }
            found.is_some()
        })
        .await;
        match found {
            Some(element) => element,
            None => panic!("{what:?} did not appear within {WAIT_TIMEOUT:?}. The page says:\n{}", self.text().await),
        }
    }

    /// Does something to an element once it lets it be done: until then it may be drawn anew, unfold, or lie under something that goes away.
    async fn act(&self, selector: Selector<'_>, what: &str, act: impl AsyncFn(&WebElement) -> WebDriverResult<()>) {
        let mut refused = None;
        let done = until(async || {
            let Ok(Some(element)) = self.shown(selector).await else { return false };
            match act(&element).await {
                Ok(()) => true,
                Err(error) if not_done(&error) => {
                    refused = Some(error);
                    false
                }
                Err(error) => panic!("{what:?}: {error}"),
            }
        });
        if !done.await {
            let why = refused.map_or("it did not appear".to_owned(), |error| error.to_string());
            panic!("{what:?} within {WAIT_TIMEOUT:?}: {why}. The page says:\n{}", self.text().await);
        }
    }

    /// Whether an element still is part of the page.
    async fn is_there(&self, element: &WebElement) -> bool {
        let Ok(element) = element.to_json() else { return false };
        let said = self.driver.execute("return arguments[0].isConnected", vec![element]).await;
        said.is_ok_and(|said| said.json().as_bool() == Some(true))
    }

    /// The first element of a selector that is shown, in one question to the page: the driver's own way asks for each element by itself, and loads
    /// a script each time. An error while the page is on its way.
    async fn shown(&self, selector: Selector<'_>) -> WebDriverResult<Option<WebElement>> {
        let (kind, what) = match selector {
            Selector::Css(css) => ("css", css),
            Selector::XPath(xpath) => ("xpath", xpath),
        };
        let script = "const [kind, what] = arguments; \
            const isShown = one => one.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && one.getClientRects().length > 0; \
            if (kind === 'css') return [...document.querySelectorAll(what)].find(isShown) ?? null; \
            const found = document.evaluate(what, document, null, XPathResult.ORDERED_NODE_ITERATOR_TYPE, null); \
            for (let one = found.iterateNext(); one; one = found.iterateNext()) if (isShown(one)) return one; \
            return null";
        let said = self.driver.execute(script, vec![kind.into(), what.into()]).await?;
        if said.json().is_null() { Ok(None) } else { said.element().map(Some) }
    }
}

/// What elements are looked for by.
#[derive(Clone, Copy)]
enum Selector<'s> {
    Css(&'s str),
    XPath(&'s str),
}

/// How long anything is waited for: a busy machine takes ten times as long as an idle one.
const WAIT_TIMEOUT: Duration = Duration::from_secs(90);

/// Asks, twenty times a second, until it is so; whether it came to be.
pub async fn until(is_so: impl AsyncFnMut() -> bool) -> bool {
    within(WAIT_TIMEOUT, is_so).await
}

/// The same, for so long.
pub async fn within(limit: Duration, mut is_so: impl AsyncFnMut() -> bool) -> bool {
    let begun = Instant::now();
    while begun.elapsed() < limit {
        if is_so().await {
            return true;
        }
        tokio::time::sleep(Duration::from_millis(50)).await;
    }
    false
}

/// Whether the driver says that it did nothing, so that it may be told once more.
fn not_done(error: &WebDriverError) -> bool {
    matches!(
        error.as_inner(),
        WebDriverErrorInner::ElementNotInteractable(_)
            | WebDriverErrorInner::ElementClickIntercepted(_)
            | WebDriverErrorInner::StaleElementReference(_)
    )
}

/// The XPath of the element that holds exactly this text.
fn with_text(text: &str) -> String {
    let is_it = format!("normalize-space(.)={}", quoted(text));
    format!("//*[{is_it} and not(*[{is_it}])]")
}

/// Text with all its white space, narrow and wide, as single spaces.
fn squeezed(text: &str) -> String {
    text.split(|c: char| c.is_whitespace() || c == '\u{202f}' || c == '\u{2009}')
        .filter(|word| !word.is_empty())
        .collect::<Vec<_>>()
        .join(" ")
}

/// A text as an XPath literal; the texts here have at most one kind of quote.
fn quoted(text: &str) -> String {
    if text.contains('\'') { format!("\"{text}\"") } else { format!("'{text}'") }
}
