//! A MariaDB of its own on loopback, in a folder of its own.

use crate::free_port;
use rustix::process::{Pid, Signal, kill_process};
use std::fs::File;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

/// What is done first in a new database: an account for Kevyt.
const INIT: &str = "CREATE DATABASE IF NOT EXISTS kevyt CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;\n\
    CREATE OR REPLACE USER kevyt@'127.0.0.1' IDENTIFIED BY 'kevyt';\n\
    GRANT ALL ON *.* TO kevyt@'127.0.0.1';\n";

/// A database server. It is killed when it is dropped.
#[derive(Debug)]
pub struct Mariadb {
    data: PathBuf,
    port: u16,
    settings: Vec<String>,
    child: Option<Child>,
}

impl Mariadb {
    /// Makes a database in a folder, with settings of its own, and starts it.
    pub fn start(folder: &Path, settings: &[&str]) -> Mariadb {
        Mariadb::make(folder);
        let mut database = Mariadb::of(folder, settings.iter().map(|one| (*one).to_owned()).collect());
        database.run(&[]);
        database
    }

    /// Lays the files of a database.
    pub(crate) fn make(folder: &Path) {
        let made = Command::new("mariadb-install-db")
            .args(["--no-defaults", "--auth-root-authentication-method=normal", "--skip-test-db"])
            .args(as_root())
            .arg(format!("--datadir={}", folder.display()))
            .output()
            .expect("mariadb-install-db");
        assert!(made.status.success(), "{}", String::from_utf8_lossy(&made.stdout));
        std::fs::write(folder.with_extension("init"), INIT).expect("a file that can be written");
    }

    /// A database whose files are there already, not running.
    pub(crate) fn of(folder: &Path, settings: Vec<String>) -> Mariadb {
        std::fs::create_dir_all(folder.with_extension("tmp")).expect("a folder that can be made");
        Mariadb { data: folder.to_owned(), port: free_port(), settings, child: None }
    }

    /// Where it listens.
    pub fn host(&self) -> String {
        format!("127.0.0.1:{}", self.port)
    }

    /// The address of the database in it.
    pub fn url(&self) -> String {
        format!("mysql://kevyt:kevyt@{}/kevyt", self.host())
    }

    /// Starts it, and waits until it is ready.
    pub fn run(&mut self, more: &[String]) {
        self.spawn(more);
        let begun = Instant::now();
        while !self.is_ready() {
            assert!(
                self.is_running() && begun.elapsed() < Duration::from_secs(90),
                "it did not start:\n{}",
                self.log()
            );
            std::thread::sleep(Duration::from_millis(50));
        }
    }

    /// Starts it.
    pub(crate) fn spawn(&mut self, more: &[String]) {
        let log = File::create(self.log_file()).expect("a file that can be written");
        self.child = Some(self.command(more).stderr(log).spawn().expect("mariadbd"));
    }

    /// The command that starts it.
    pub(crate) fn command(&self, more: &[String]) -> Command {
        let folder = |extension: &str| self.data.with_extension(extension).display().to_string();
        let mut command = Command::new("mariadbd");
        command
            .args(["--no-defaults", "--bind-address=127.0.0.1", "--skip-name-resolve", "--innodb-buffer-pool-size=64M"])
            .args(as_root())
            .args([format!("--datadir={}", self.data.display()), format!("--port={}", self.port)])
            .args([format!("--tmpdir={}", folder("tmp")), format!("--socket={}", folder("sock"))])
            .arg(format!("--init-file={}", folder("init")))
            .args(&self.settings)
            .args(more)
            .stdout(Stdio::null());
        // What a node of a cluster calls is looked for beside its data.
        let (path, beside) = (std::env::var("PATH").unwrap_or_default(), self.data.parent());
        if let Some(beside) = beside {
            command.env("PATH", format!("{}:{path}", beside.display()));
        }
        command
    }

    fn log_file(&self) -> PathBuf {
        self.data.with_extension("log")
    }

    /// What it has said since it was started.
    pub fn log(&self) -> String {
        String::from_utf8_lossy(&std::fs::read(self.log_file()).unwrap_or_default()).into_owned()
    }

    fn is_ready(&self) -> bool {
        self.log().contains("ready for connections")
    }

    pub(crate) fn is_running(&mut self) -> bool {
        self.child.as_mut().is_some_and(|child| matches!(child.try_wait(), Ok(None)))
    }

    /// Sends it a signal.
    fn signal(&self, signal: Signal) {
        let id = self.child.as_ref().and_then(|child| Pid::from_raw(i32::try_from(child.id()).ok()?));
        kill_process(id.expect("a server that runs"), signal).expect("a server that runs");
    }

    /// Kills it, as a power cut would.
    pub fn kill(&mut self) {
        if let Some(mut child) = self.child.take() {
            // It may have ended by itself.
            let _ = child.kill();
            let _ = child.wait();
        }
    }

    /// Ends it in peace.
    pub fn stop(&mut self) {
        self.signal(Signal::TERM);
        if let Some(mut child) = self.child.take() {
            child.wait().expect("a server that ends");
        }
    }

    /// Lets it do nothing, as a disk that hangs would.
    pub fn pause(&self) {
        self.signal(Signal::STOP);
    }

    /// Lets it go on.
    pub fn go_on(&self) {
        self.signal(Signal::CONT);
    }

    /// What a query says, a row a line. `None` if it isn't answered.
    pub fn ask(&self, query: &str) -> Option<String> {
        ask(self.port, query)
    }
}

impl Drop for Mariadb {
    fn drop(&mut self) {
        self.kill();
    }
}

/// What a query says at a port of loopback, a row a line. `None` if it isn't answered.
pub(crate) fn ask(port: u16, query: &str) -> Option<String> {
    let asked = Command::new("mariadb")
        .args(["--no-defaults", "--connect-timeout=2", "-ukevyt", "-pkevyt", "-h127.0.0.1", "-N", "-B"])
        .args([&format!("-P{port}"), "-e", query, "kevyt"])
        .output()
        .expect("the mariadb client");
    asked.status.success().then(|| String::from_utf8_lossy(&asked.stdout).trim_end().to_owned())
}

/// MariaDB runs as root only if it is told so.
fn as_root() -> Option<&'static str> {
    rustix::process::getuid().is_root().then_some("--user=root")
}
