//! Chromium with a ChromeDriver beside it. Starting them takes longer than many a test, so what one test has left another goes on with.

use crate::browser::until;
use std::net::TcpListener;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::{Mutex, PoisonError};

/// A Chromium that runs.
pub struct Chromium {
    /// Where its ChromeDriver listens.
    pub driver_url: String,
    /// Where ChromeDriver finds it.
    pub debugger_address: String,
    /// Ends both, and takes their profile away, once its input ends: when this is dropped, or our process ends in any way.
    _keeper: Child,
}

/// Those that nobody uses.
static IDLE: Mutex<Vec<Chromium>> = Mutex::new(Vec::new());

/// What `$@` is given to, until there is no more input.
const KEEPER: &str = r#"trap '' INT
profile=$1 port=$2; shift 2
chromedriver --port="$port" --silent & driver=$!
chromium --user-data-dir="$profile" --remote-debugging-port=0 "$@" about:blank & browser=$!
read -r _
kill "$driver" "$browser"
wait
# Its helper processes may write a last file meanwhile.
for _ in 1 2 3 4 5 6 7 8 9 10; do rm -rf "$profile" && break; sleep 0.2; done"#;

const ARGUMENTS: [&str; 17] = [
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--hide-scrollbars",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-default-apps",
    "--disable-sync",
    "--disable-dev-shm-usage",
    // What ChromeDriver asks of a Chromium that it starts itself: keys are taken before the first frame, and nothing asks or gives up.
    "--allow-pre-commit-input",
    "--disable-hang-monitor",
    "--disable-prompt-on-repost",
    "--enable-automation",
    "--password-store=basic",
    // No renderer for the pages of the window's own frame, none kept ready, and no page kept that was left.
    "--disable-features=PreloadTopChromeWebUI,SpareRendererForSitePerProcess,BackForwardCache",
];

impl Chromium {
    /// One that nobody uses, or else a new one.
    pub async fn take() -> Chromium {
        let idle = IDLE.lock().unwrap_or_else(PoisonError::into_inner).pop();
        match idle {
            Some(idle) => idle,
            None => Chromium::start().await,
        }
    }

    /// Leaves it for somebody else.
    pub fn leave(self) {
        IDLE.lock().unwrap_or_else(PoisonError::into_inner).push(self);
    }

    async fn start() -> Chromium {
        let port =
            TcpListener::bind("127.0.0.1:0").and_then(|listener| listener.local_addr()).expect("a free port").port();
        let profile = std::env::temp_dir().join(format!("kevyt-browser-{}", uuid::Uuid::now_v7()));
        let keeper = Command::new("sh")
            .args(["-c", KEEPER, "sh"])
            .arg(&profile)
            .arg(port.to_string())
            .args(ARGUMENTS)
            .stdin(Stdio::piped())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .expect("a shell");
        let mut debugger_address = None;
        until(async || {
            debugger_address = listens_at(&profile);
            debugger_address.is_some()
        })
        .await;
        Chromium {
            driver_url: format!("http://127.0.0.1:{port}"),
            debugger_address: debugger_address.expect("chromium is installed: ./kevyt test installs it"),
            _keeper: keeper,
        }
    }
}

/// Where a Chromium listens: it writes so into its profile.
fn listens_at(profile: &Path) -> Option<String> {
    let said = std::fs::read_to_string(profile.join("DevToolsActivePort")).ok()?;
    let port: u16 = said.lines().next()?.parse().ok()?;
    Some(format!("127.0.0.1:{port}"))
}
