//! What docs/running.md tells the operator, done as it says: the unit, the proxy, the script's commands. It builds what the script
//! builds, once.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use kevyt_faults::{Mariadb, Server, free_port};
use rustix::process::{Pid, Signal, kill_process};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Output, Stdio};
use std::time::{Duration, Instant};

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().unwrap().to_owned()
}

fn text(bytes: &[u8]) -> String {
    String::from_utf8_lossy(bytes).into_owned()
}

/// Asks by curl, and gives what it says with the status last.
fn curl(arguments: &[&str]) -> String {
    let out = Command::new("curl").args(["-sk", "-m", "20", "-w", "\n%{http_code}"]).args(arguments).output().unwrap();
    text(&out.stdout)
}

fn until(what: &str, is_so: impl Fn() -> bool) {
    let begun = Instant::now();
    while !is_so() {
        assert!(begun.elapsed() < Duration::from_secs(600), "{what}");
        std::thread::sleep(Duration::from_millis(200));
    }
}

/// A process with its children; it is told to end when it is dropped.
struct Running(Child);

impl Running {
    fn end(&mut self) {
        if self.0.try_wait().unwrap().is_none() {
            let id = Pid::from_raw(i32::try_from(self.0.id()).unwrap()).unwrap();
            kill_process(id, Signal::TERM).unwrap();
        }
        self.0.wait().unwrap();
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        self.end();
    }
}

#[test]
#[ignore = "./kevyt test --recipes"]
fn the_unit_is_one_that_systemd_takes() {
    let folder = tempfile::tempdir().unwrap();
    let unit = std::fs::read_to_string(root().join("deploy/kevyt@.service")).unwrap();
    // systemd asks for the program and the settings to be there.
    let unit = unit.replace("/usr/local/bin/kevyt", "/bin/true").replace("EnvironmentFile=/", "EnvironmentFile=-/");
    let path = folder.path().join("kevyt@8420.service");
    std::fs::write(&path, unit).unwrap();
    let said = Command::new("systemd-analyze").arg("verify").arg(&path).output().unwrap();
    assert!(said.status.success() && said.stderr.is_empty(), "{}", text(&said.stderr));
}

#[test]
#[ignore = "./kevyt test --recipes"]
fn the_proxy_passes_on_what_it_should_and_passes_over_a_process_that_is_gone() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name).display().to_string();
    let database = Mariadb::start(&folder.path().join("db"), &[]);
    let settings = ["--public-url", "https://kevyt.example", "--trusted-proxies", "127.0.0.1"];
    let mut servers = [0, 1].map(|_| Server::start(&database.url(), &settings));
    let (secure, plain) = (free_port().to_string(), free_port().to_string());

    let (key, certificate) = (at("key.pem"), at("fullchain.pem"));
    let made = Command::new("openssl")
        .args(["req", "-x509", "-newkey", "ec", "-pkeyopt", "ec_paramgen_curve:P-256", "-nodes", "-days", "2"])
        .args(["-subj", "/CN=kevyt.example", "-keyout", &key, "-out", &certificate])
        .output();
    assert!(made.unwrap().status.success());
    let mut proxy = std::fs::read_to_string(root().join("deploy/nginx.conf")).unwrap();
    let replaced = [
        ("127.0.0.1:8420", servers[0].url.replace("http://", "")),
        ("127.0.0.1:8421", servers[1].url.replace("http://", "")),
        ("listen 443", format!("listen 127.0.0.1:{secure}")),
        ("listen 80", format!("listen 127.0.0.1:{plain}")),
        ("/etc/kevyt/tls/fullchain.pem", certificate),
        ("/etc/kevyt/tls/key.pem", key),
    ];
    for (what, with) in replaced {
        assert!(proxy.contains(what), "{what} is in it");
        proxy = proxy.replace(what, &with);
    }
    let (site, whole) = (at("site"), at("nginx.conf"));
    std::fs::write(&site, proxy).unwrap();
    let folders = ["client_body", "proxy", "fastcgi", "uwsgi", "scgi"]
        .map(|name| format!("{name}_temp_path {};\n", at(name)))
        .concat();
    let user = if rustix::process::getuid().is_root() { "user root;" } else { "" };
    std::fs::write(
        &whole,
        format!(
            "{user} daemon off; pid {};\nevents {{}}\nhttp {{ access_log off;\n{folders} include {site}; }}",
            at("pid")
        ),
    )
    .unwrap();
    let proxy = Command::new("/usr/sbin/nginx").args(["-c", &whole, "-e", &at("log")]).spawn().unwrap();
    let _proxy = Running(proxy);

    let resolve = format!("kevyt.example:443:127.0.0.1:{secure}");
    let ask = |path: &str, more: &[&str]| {
        let url = format!("https://kevyt.example{path}");
        let mut all = vec!["--connect-to", &resolve, url.as_str()];
        all.extend(more);
        curl(&all)
    };
    until("the proxy answers", || ask("/api/health", &[]).ends_with("204"));
    let account = r#"{"name":"anna","password":"correct horse","mass":"metric","currency":"EUR"}"#;
    let jar = at("jar");
    let json = ["-H", "Content-Type: application/json", "-H", "Origin: https://kevyt.example", "-b", &jar, "-c", &jar];
    let made = ask("/api/account", &[&json[..], &["-i", "-d", account]].concat());
    assert!(made.ends_with("201"), "{made}");
    let made = made.to_lowercase();
    assert!(made.contains("set-cookie: __host-") && made.contains("; secure"), "{made}");
    assert!(made.contains("strict-transport-security:"), "{made}");
    // What comes from another origin is refused: the proxy passes on the name that was asked for.
    let strange = ["-H", "Content-Type: application/json", "-H", "Origin: https://elsewhere.example", "-d", account];
    assert!(ask("/api/account", &strange).ends_with("403"));

    // A large file gets as far as Kevyt.
    let large = at("large");
    std::fs::write(&large, format!("{{\"format\":\"{}", "x".repeat(40_000_000))).unwrap();
    let file = format!("@{large}");
    let said = ask("/api/files/account", &[&json[..], &["--data-binary", &file]].concat());
    assert!(said.contains("\"code\"") && said.ends_with("422"), "{said}");

    let to_plain = format!("kevyt.example:80:127.0.0.1:{plain}");
    assert!(curl(&["--connect-to", &to_plain, "http://kevyt.example/list"]).ends_with("301"));

    servers[0].kill();
    for _ in 0..20 {
        assert!(ask("/api/account", &json).ends_with("200"), "after one process is gone");
    }
}

/// The script in a folder of its own, with nothing said of a database.
fn kevyt(var: &Path, arguments: &[&str]) -> Command {
    let mut command = Command::new(root().join("kevyt"));
    command.args(arguments).env("KEVYT_VAR", var).stdin(Stdio::null());
    // As the operator does it: on no database of ours, and built as it is for everybody.
    command.env_remove("KEVYT_DATABASE_URL").env_remove("RUSTC_WORKSPACE_WRAPPER");
    command
}

fn done(var: &Path, arguments: &[&str]) -> Output {
    kevyt(var, arguments).output().unwrap()
}

#[test]
#[ignore = "./kevyt test --recipes"]
fn the_commands_of_the_script_do_what_the_guide_says() {
    let folder = tempfile::tempdir().unwrap();
    let var = folder.path().join("var");
    let at = |name: &str| folder.path().join(name).display().to_string();
    let listen = format!("127.0.0.1:{}", free_port());
    let health = format!("http://{listen}/api/health");
    let demo = || {
        let demo = kevyt(&var, &["demo"]).env("KEVYT_LISTEN", &listen).stdout(Stdio::null()).spawn().unwrap();
        let demo = Running(demo);
        until("the demo answers", || curl(&[&health]).ends_with("204"));
        demo
    };
    let accounts = || {
        let out = done(&var, &["account", "list"]);
        assert!(out.status.success(), "{}", text(&out.stderr));
        text(&out.stdout)
    };
    let refused = |arguments: &[&str], why: &str| {
        let out = done(&var, arguments);
        assert!(!out.status.success() && text(&out.stderr).contains(why), "{}", text(&out.stderr));
    };

    refused(&["account", "list"], "there is no demo database here");
    let mut running = demo();
    let added = kevyt(&var, &["account", "add", "anna"]).stdin(Stdio::piped()).spawn().and_then(|mut child| {
        use std::io::Write;
        child.stdin.take().unwrap().write_all(b"correct horse\n")?;
        child.wait()
    });
    assert!(added.unwrap().success());
    let told = accounts();
    assert!(told.contains("anna"), "{told}");
    let file = at("kevyt.sql.gz");
    assert!(done(&var, &["backup", &file]).status.success(), "while it runs");
    refused(&["backup", &file], "is there already");
    refused(&["restore", &file], "Kevyt is running");
    refused(&["reset"], "Kevyt is running");
    refused(&["demo"], "already running");

    // Stopped, nothing is left running; the same commands start the database by themselves.
    running.end();
    assert!(!curl(&[&health]).ends_with("204"));
    assert_eq!(accounts(), told);
    assert!(done(&var, &["account", "remove", "anna", "--yes"]).status.success());
    assert!(!accounts().contains("anna"));
    let restored = done(&var, &["restore", &file]);
    assert!(restored.status.success(), "{}", text(&restored.stderr));
    assert_eq!(accounts(), told, "as it was");
    let aside = std::fs::read_dir(&var)
        .unwrap()
        .filter(|entry| entry.as_ref().unwrap().file_name().to_str().unwrap().starts_with("db-before-"));
    assert_eq!(aside.count(), 1, "what was there is kept");
    drop(demo());
    assert!(done(&var, &["reset"]).status.success());
    assert!(!var.exists());
}

#[test]
#[ignore = "./kevyt test --recipes"]
fn a_cluster_for_a_look_starts_and_ends() {
    use std::io::{BufRead, BufReader};
    let folder = tempfile::tempdir().unwrap();
    let mut cluster = kevyt(folder.path(), &["cluster"]);
    let mut cluster = Running(cluster.stdout(Stdio::piped()).spawn().unwrap());
    // It is listened to until it ends.
    let mut said = BufReader::new(cluster.0.stdout.take().unwrap()).lines().map_while(Result::ok);
    let told: Vec<String> = said.by_ref().take_while(|line| !line.starts_with("Accounts")).collect();
    let servers: Vec<&str> = told.iter().filter_map(|line| line.strip_prefix("server: ")).collect();
    for server in &servers {
        until("a server answers", || curl(&[&format!("{server}/api/health")]).ends_with("204"));
    }
    cluster.end();
    assert_eq!(servers.len(), 2);
    assert!(servers.iter().all(|server| !curl(&[&format!("{server}/api/health")]).ends_with("204")));
}
