//! A Kevyt server, a process of its own.

use rustix::process::{Pid, Signal, kill_process};
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, ExitStatus, Stdio};

/// How the C library hands out memory, as in `deploy/kevyt@.service`.
const MEMORY: [(&str, &str); 3] =
    [("MALLOC_ARENA_MAX", "2"), ("MALLOC_TRIM_THRESHOLD_", "1000000"), ("MALLOC_MMAP_THRESHOLD_", "262144")];

/// A server. It is killed when it is dropped.
#[derive(Debug)]
pub struct Server {
    /// Where it is.
    pub url: String,
    child: Child,
}

impl Server {
    /// Starts one on a database, with settings of its own (`--metrics`, `127.0.0.1:9420`).
    pub fn start(database_url: &str, settings: &[&str]) -> Server {
        Server::at("127.0.0.1:0", database_url, settings)
    }

    /// Starts one that listens at an address.
    pub fn at(listen: &str, database_url: &str, settings: &[&str]) -> Server {
        Server::run(listen, database_url, settings, &[])
    }

    /// Starts one whose clock is set by what is in a file: `+0`, `-1d`, `+90m`. It needs Debian's `libfaketime`.
    pub fn with_clock(database_url: &str, clock: &Path) -> Server {
        let library = format!("/usr/lib/{}-linux-gnu/faketime/libfaketimeMT.so.1", std::env::consts::ARCH);
        let clock = clock.to_str().expect("a path that is text");
        let clock = [("LD_PRELOAD", library.as_str()), ("FAKETIME_TIMESTAMP_FILE", clock), ("FAKETIME_NO_CACHE", "1")];
        // A clock on the wall is set; what counts the time that passes goes on.
        let clock = clock.into_iter().chain([("FAKETIME_DONT_FAKE_MONOTONIC", "1")]);
        Server::run("127.0.0.1:0", database_url, &[], &clock.collect::<Vec<_>>())
    }

    fn run(listen: &str, database_url: &str, settings: &[&str], around: &[(&str, &str)]) -> Server {
        let mut child = kevyt()
            .args(["serve", "--listen", listen, "--database-url", database_url])
            .args(settings)
            .envs(MEMORY)
            .envs(around.iter().copied())
            .stdout(Stdio::piped())
            .spawn()
            .expect("the server's program, built beside this one");
        let mut said = String::new();
        BufReader::new(child.stdout.take().expect("its output")).read_line(&mut said).expect("its address");
        let url = said.trim().strip_prefix("Kevyt is at ").unwrap_or_else(|| panic!("it says {said:?}")).to_owned();
        Server { url, child }
    }

    /// Its process.
    pub fn id(&self) -> u32 {
        self.child.id()
    }

    /// Kills it.
    pub fn kill(&mut self) {
        // It may have ended by itself.
        let _ = self.child.kill();
        let _ = self.child.wait();
    }

    /// Tells it to stop, and waits until it has.
    pub fn stop(&mut self) -> ExitStatus {
        let id = i32::try_from(self.child.id()).ok().and_then(Pid::from_raw);
        kill_process(id.expect("a process"), Signal::TERM).expect("a server that runs");
        self.child.wait().expect("a server that ends")
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        self.kill();
    }
}

/// A command of the server's program.
pub fn kevyt() -> Command {
    Command::new(program())
}

/// The server's program: beside this one, or beside the folder that test programs are in.
fn program() -> PathBuf {
    let own = std::env::current_exe().expect("a program");
    let beside = own.ancestors().skip(1).map(|folder| folder.join("kevyt")).find(|path| path.is_file());
    beside.expect("the program kevyt: cargo build -p kevyt")
}
