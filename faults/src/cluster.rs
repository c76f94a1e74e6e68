//! Three MariaDB nodes that are one Galera cluster, on loopback, each with a HAProxy beside it.

use crate::{Haproxy, Mariadb, free_port};
use std::fs::Permissions;
use std::os::unix::fs::PermissionsExt;
use std::path::Path;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

/// Debian's Galera.
const PROVIDER: &str = "/usr/lib/galera/libgalera_smm.so";
/// A node that is silent so long is left behind; meanwhile nobody commits. The usual 5 s would be a stall of 6 s.
const TIMEOUTS: &str = "evs.keepalive_period=PT0.3S;evs.inactive_check_period=PT0.3S;evs.suspect_timeout=PT1.5S;\
    evs.inactive_timeout=PT3S;evs.install_timeout=PT3S";

/// What a node calls to hand its state to another one, which here needs no more than to be told where it stands: it began as a copy, and what
/// it lacks it gets as write sets. (Debian has scripts in `mariadb-server` that copy a whole node.)
const HAND_ON: &str = r#"#!/bin/sh
while [ $# -gt 0 ]; do
  case $1 in --role) role=$2 ;; --address) address=$2 ;; --datadir) data=$2 ;; --gtid) gtid=$2 ;; --gtid-domain-id) domain=$2 ;; --bypass) bypass=1 ;; esac
  shift
done
if [ "$role" = joiner ]; then
  state=${data%/}.state
  rm -f "$state"
  echo "ready 127.0.0.1:1/$state"
  while [ ! -s "$state" ]; do sleep 0.1; done
  cat "$state"
elif [ -n "$bypass" ]; then
  echo continue
  state=/${address#*/}
  echo "$gtid $domain" >"$state.part" && mv "$state.part" "$state"
  echo "done $gtid $domain"
else
  echo "the node lacks more than the others have kept" >&2
  exit 1
fi
"#;

/// A cluster. Its nodes and proxies are killed when it is dropped.
#[derive(Debug)]
pub struct Cluster {
    nodes: Vec<Mariadb>,
    proxies: Vec<Haproxy>,
}

impl Cluster {
    /// Makes three nodes in a folder and starts them.
    pub fn start(folder: &Path) -> Cluster {
        let ports: Vec<u16> = (0..3).map(|_| free_port()).collect();
        let peers = ports.iter().map(|port| format!("127.0.0.1:{port}")).collect::<Vec<_>>().join(",");
        let home = |at: usize| folder.join(format!("n{at}"));
        let node = |at: usize| {
            let (port, transfer) = (ports[at], free_port());
            let provider = format!(
                "gmcast.listen_addr=tcp://127.0.0.1:{port};ist.recv_addr=127.0.0.1:{transfer};gcache.size=64M;{TIMEOUTS}"
            );
            let settings = [
                "--binlog-format=ROW".to_owned(),
                "--innodb-autoinc-lock-mode=2".to_owned(),
                "--innodb-flush-log-at-trx-commit=2".to_owned(),
                "--wsrep-on=ON".to_owned(),
                format!("--wsrep-provider={PROVIDER}"),
                "--wsrep-cluster-name=kevyt".to_owned(),
                format!("--wsrep-cluster-address=gcomm://{peers}"),
                format!("--wsrep-node-name=n{at}"),
                format!("--wsrep-node-address=127.0.0.1:{port}"),
                "--wsrep-sst-method=hand_on".to_owned(),
                format!("--wsrep-provider-options={provider}"),
            ];
            Mariadb::of(&home(at), settings.to_vec())
        };
        let script = folder.join("wsrep_sst_hand_on");
        std::fs::write(&script, HAND_ON).expect("a file that can be written");
        std::fs::set_permissions(&script, Permissions::from_mode(0o755)).expect("a file of ours");
        // The first is filled alone; the others begin as copies of it.
        Mariadb::make(&home(0));
        let mut first = node(0);
        first.run(&["--wsrep-new-cluster".to_owned()]);
        first.stop();
        for at in 1..3 {
            let copied = Command::new("cp").arg("-a").args([home(0), home(at)]).status().expect("cp");
            assert!(copied.success(), "a node could not be copied");
            std::fs::copy(home(0).with_extension("init"), home(at).with_extension("init")).expect("a file to copy");
        }
        first.run(&["--wsrep-new-cluster".to_owned()]);
        let nodes = vec![first, node(1), node(2)];
        let hosts = |first: usize| [0, 1, 2].map(|at| nodes[(first + at) % 3].host());
        let proxies = (0..3).map(|at| Haproxy::start(&folder.join(format!("p{at}")), &hosts(at))).collect();
        let mut cluster = Cluster { nodes, proxies };
        for at in 1..3 {
            cluster.nodes[at].spawn(&[]);
            cluster.wait_until_synced(at);
        }
        cluster.proxies.iter().for_each(Haproxy::wait_until_up);
        cluster
    }

    /// One of the nodes.
    pub fn node(&mut self, at: usize) -> &mut Mariadb {
        &mut self.nodes[at]
    }

    /// The address of the database through the proxy that prefers a node.
    pub fn url(&self, preferred: usize) -> String {
        self.proxies[preferred].url()
    }

    /// Starts a node that was killed: where it stood is recovered first, so that it asks the others only for what it lacks.
    ///
    /// Without purging (`innodb-force-recovery=2`): at the end of a recovery MariaDB 10.11.19 waits for ever for the purge, which opens a
    /// table again and again in vain and takes more and more memory.
    pub fn start_again(&mut self, at: usize) {
        let recover = ["--wsrep-recover", "--innodb-force-recovery=2"].map(str::to_owned);
        let recovered = self.nodes[at].command(&recover).stderr(Stdio::piped()).output().expect("mariadbd");
        let said = String::from_utf8_lossy(&recovered.stderr).into_owned();
        let position = said.split("Recovered position:").nth(1).and_then(|rest| rest.split_whitespace().next());
        let position = position.map(|position| format!("--wsrep-start-position={position}"));
        self.nodes[at].spawn(&position.into_iter().collect::<Vec<_>>());
    }

    /// Waits until a node has all that the others have.
    pub fn wait_until_synced(&mut self, at: usize) {
        let begun = Instant::now();
        let state = "SELECT variable_value FROM information_schema.global_status WHERE variable_name = 'wsrep_local_state_comment'";
        while self.nodes[at].ask(state).as_deref() != Some("Synced") {
            let is_joining = self.nodes[at].is_running() && begun.elapsed() < Duration::from_secs(90);
            assert!(is_joining, "node {at} did not join:\n{}", self.nodes[at].log());
            std::thread::sleep(Duration::from_millis(100));
        }
    }
}
