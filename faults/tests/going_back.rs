//! Going back to an older schema, and up again, killed on the way.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::print_stdout)]

use kevyt_faults::{Mariadb, kevyt};
use std::collections::BTreeSet;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

const KILLS: u32 = 24;
const OLDEST: &str = "2026-11-25-000001_start";

fn command(database: &Mariadb, arguments: &[&str]) -> Command {
    let mut command = kevyt();
    command.args(arguments).env("KEVYT_DATABASE_URL", database.url()).stdout(Stdio::null()).stderr(Stdio::null());
    command
}

/// Lets a command run to its end. How long it took.
fn done(database: &Mariadb, arguments: &[&str]) -> Duration {
    let begun = Instant::now();
    assert!(command(database, arguments).status().unwrap().success(), "{arguments:?}");
    begun.elapsed()
}

fn killed(database: &Mariadb, arguments: &[&str], after: Duration) {
    let mut child = command(database, arguments).spawn().unwrap();
    std::thread::sleep(after);
    // It may have come to its end.
    let _ = child.kill();
    child.wait().unwrap();
}

/// A checksum of every table, but for the beats of servers.
fn checksums(database: &Mariadb) -> String {
    let tables = "SELECT GROUP_CONCAT(table_name ORDER BY table_name) FROM information_schema.tables WHERE table_schema = 'kevyt' \
        AND table_name NOT LIKE '\\_\\_%' AND table_name <> 'server_beat'";
    database.ask(&format!("CHECKSUM TABLE {}", database.ask(tables).unwrap())).unwrap()
}

#[test]
fn nothing_is_lost_when_going_back_is_killed() {
    let folder = tempfile::tempdir().unwrap();
    // The database itself is not killed here, and need not be careful with the disk.
    let database = Mariadb::start(&folder.path().join("db"), &["--innodb-flush-log-at-trx-commit=0"]);
    let (back, up) = (["back", OLDEST], ["account", "list"]);
    done(&database, &["seed"]);
    let before = checksums(&database);
    let (down_takes, up_takes) = (done(&database, &back), done(&database, &up));
    assert_eq!(checksums(&database), before, "not killed at all");
    let mut steps = BTreeSet::new();
    for kill in 1..=KILLS {
        killed(&database, &back, down_takes * kill / KILLS);
        steps.insert(database.ask("SELECT COUNT(*) FROM __diesel_schema_migrations").unwrap());
        // Once on its way up too, at times that fall elsewhere.
        killed(&database, &up, up_takes * (kill * 7 % KILLS) / KILLS);
        done(&database, &up);
        assert_eq!(checksums(&database), before, "killed after {kill} of {KILLS} parts of {down_takes:?}");
    }
    println!("killed with so many steps done: {steps:?}");
    assert!(steps.len() > 4, "it was killed on the way: {steps:?}");
}
