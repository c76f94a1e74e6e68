//! Three database nodes and two servers on loopback, for a look: `./kevyt cluster`. Ctrl-C ends all of it, and throws it away.
#![allow(clippy::print_stdout, clippy::expect_used, reason = "it tells the operator where things are")]

use kevyt_faults::{Cluster, Server};
use tokio::signal::unix::{SignalKind, signal};

#[tokio::main]
async fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    println!("Making three nodes in {} …", folder.path().display());
    let mut cluster = Cluster::start(folder.path());
    let servers: Vec<Server> = (0..2).map(|at| Server::start(&cluster.url(at), &[])).collect();
    for at in 0..3 {
        println!(
            "node {at}: mariadb -h127.0.0.1 -P{} -ukevyt -pkevyt kevyt",
            cluster.node(at).host().replace("127.0.0.1:", "")
        );
    }
    for server in &servers {
        println!("server: {}", server.url);
    }
    println!("Accounts made at one are there at the other. Kill a node, and both go on. Ctrl-C ends all of it.");
    let mut told_to_end = signal(SignalKind::terminate()).expect("a signal that can be waited for");
    tokio::select! {
        _ = tokio::signal::ctrl_c() => {}
        _ = told_to_end.recv() => {}
    }
}
