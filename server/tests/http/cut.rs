//! A line to the database that can be cut at the worst moment.

use std::collections::BTreeSet;
use std::io::{Read, Write};
use std::net::{Shutdown, TcpListener, TcpStream};
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering::SeqCst};
use std::sync::{Arc, Mutex};

/// How the command begins that commits.
const COMMIT: &[u8] = b"RELEASE SAVEPOINT whole; COMMIT";
/// How long the database's answer is that all is well.
const OK_BYTES: usize = 11;

/// Passes on what a server and its database say to each other, until it is cut: after the database has committed, before it could
/// say so.
pub struct Cut {
    pub database_url: String,
    state: Arc<State>,
}

#[derive(Default)]
struct State {
    at_commit: AtomicBool,
    cut: AtomicBool,
    stays: AtomicBool,
    statements: AtomicUsize,
    prepared: Mutex<BTreeSet<String>>,
}

impl State {
    /// While the line stays cut, nothing passes.
    fn is_away(&self) -> bool {
        self.stays.load(SeqCst) && self.cut.load(SeqCst)
    }
}

impl Cut {
    pub fn before(database_url: &str) -> Cut {
        let (credentials, rest) = database_url.rsplit_once('@').unwrap();
        let (address, database) = rest.split_once('/').unwrap();
        let address = address.to_owned();
        let listener = TcpListener::bind("127.0.0.1:0").unwrap();
        let database_url = format!("{credentials}@{}/{database}", listener.local_addr().unwrap());
        let state = Arc::new(State::default());
        let shared = Arc::clone(&state);
        std::thread::spawn(move || {
            for client in listener.incoming().flatten() {
                if shared.is_away() {
                    let _ = client.shutdown(Shutdown::Both);
                    continue;
                }
                let Ok(database) = TcpStream::connect(&address) else { continue };
                let state = Arc::clone(&shared);
                std::thread::spawn(move || pass(client, database, &state));
            }
        });
        Cut { database_url, state }
    }

    pub fn at_next_commit(&self) {
        self.state.cut.store(false, SeqCst);
        self.state.at_commit.store(true, SeqCst);
    }

    pub fn was_cut(&self) -> bool {
        self.state.cut.load(SeqCst)
    }

    /// Statements that have been sent to the database so far.
    pub fn statements(&self) -> usize {
        self.state.statements.load(SeqCst)
    }

    /// The statements that have been prepared so far.
    pub fn prepared(&self) -> BTreeSet<String> {
        self.state.prepared.lock().unwrap().clone()
    }

    pub fn stay_cut(&self) {
        self.state.stays.store(true, SeqCst);
    }

    pub fn mend(&self) {
        self.state.stays.store(false, SeqCst);
    }
}

fn pass(client: TcpStream, database: TcpStream, state: &Arc<State>) {
    let (mut from, mut to) = (database.try_clone().unwrap(), client.try_clone().unwrap());
    let committing = Arc::new(AtomicBool::new(false));
    let (seen, answers) = (Arc::clone(&committing), Arc::clone(state));
    let back = std::thread::spawn(move || {
        let mut buffer = [0; 65_536];
        let mut lost = 0;
        while let Ok(n @ 1..) = from.read(&mut buffer) {
            if seen.load(SeqCst) {
                // Once the database has answered for the commit, which is the second of the command's three, it has committed: the answer is
                // lost.
                lost += n;
                if lost < 2 * OK_BYTES {
                    continue;
                }
                answers.cut.store(true, SeqCst);
                break;
            }
            if to.write_all(&buffer[..n]).is_err() {
                break;
            }
        }
        let _ = (from.shutdown(Shutdown::Both), to.shutdown(Shutdown::Both));
    });
    let (mut from, mut to) = (client, database);
    let mut buffer = [0; 65_536];
    let mut packets = Packets::default();
    while let Ok(n @ 1..) = from.read(&mut buffer) {
        state.statements.fetch_add(packets.statements(&buffer[..n]), SeqCst);
        state.prepared.lock().unwrap().append(&mut packets.prepared);
        if buffer[..n].get(5..).is_some_and(|text| text.starts_with(COMMIT)) && state.at_commit.swap(false, SeqCst) {
            committing.store(true, SeqCst);
        }
        if state.is_away() || to.write_all(&buffer[..n]).is_err() {
            break;
        }
    }
    let _ = (from.shutdown(Shutdown::Both), to.shutdown(Shutdown::Both));
    let _ = back.join();
}

/// Finds the statements in what passes, however it is cut into pieces.
#[derive(Default)]
struct Packets {
    head: Vec<u8>,
    left: usize,
    /// The text of a statement that is being prepared, and those that were.
    text: Option<Vec<u8>>,
    prepared: BTreeSet<String>,
}

impl Packets {
    fn statements(&mut self, mut bytes: &[u8]) -> usize {
        let mut found = 0;
        while let [first, rest @ ..] = bytes {
            if self.left > 0 {
                let passed = self.left.min(bytes.len());
                self.left -= passed;
                if let Some(text) = &mut self.text {
                    text.extend_from_slice(&bytes[..passed]);
                }
                bytes = &bytes[passed..];
                if let Some(text) = self.text.take_if(|_| self.left == 0) {
                    self.prepared.insert(String::from_utf8(text).unwrap());
                }
                continue;
            }
            self.head.push(*first);
            bytes = rest;
            // Three bytes of length, one that counts packets, one that says it is a statement, the running of one, or its preparation.
            if let [a, b, c, sequence, kind] = self.head[..] {
                found += usize::from(sequence == 0 && matches!(kind, 0x03 | 0x17));
                self.text = (sequence == 0 && kind == 0x16).then(Vec::new);
                self.left = usize::from_le_bytes([a, b, c, 0, 0, 0, 0, 0]).saturating_sub(1);
                self.head.clear();
            }
        }
        found
    }
}
