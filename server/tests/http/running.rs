//! Running it for others: accounts by command, sign-up closed, an account deleted, requests named and counted.

use crate::client::Client;
use crate::command_line::kevyt;
use crate::starting::Empty;
use diesel::sql_types::{BigInt, Text};
use diesel::{Connection, MysqlConnection, QueryableByName, RunQueryDsl, sql_query};
use kevyt_testbed::Stage;
use reqwest::Method;
use serde_json::{Value, json};
use std::process::Command;

#[derive(QueryableByName)]
struct Table {
    #[diesel(sql_type = Text)]
    name: String,
}

#[derive(QueryableByName)]
struct Count {
    #[diesel(sql_type = BigInt)]
    n: i64,
}

/// `kevyt account …` on the database of a stage: whether it went well, and what it said.
fn account(stage: &Stage, arguments: &[&str], input: &str) -> (bool, String) {
    let url = ["account", "--database-url", stage.database_url()];
    let out = kevyt(&[&url, arguments].concat(), input);
    let said = [out.stdout, out.stderr].concat();
    (out.status.success(), String::from_utf8(said).unwrap())
}

async fn sign_in(stage: &Stage, password: &str) -> (Client, u16, Value) {
    let client = Client::new(stage);
    let answer = client.post("/api/session", json!({ "name": "anna", "password": password })).await;
    (client, answer.status, answer.body["code"].clone())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_operator_makes_disables_and_removes_accounts() {
    let mut stage = Stage::start(false);
    stage.with_sign_up_closed();
    let visitor = Client::new(&stage);
    let sign_up = json!({ "name": "bert", "password": "correct horse", "mass": "metric", "currency": "EUR" });
    let refused = visitor.post("/api/account", sign_up).await;
    assert_eq!((refused.status, &refused.body["code"]), (403, &json!("sign_up_closed")));
    assert_eq!(visitor.get("/api/vocabulary").await.body["sign_up"], false);

    let (made, said) = account(&stage, &["add", "anna", "--currency", "SEK"], "correct horse\n");
    assert!(made, "{said}");
    let (_, said) = account(&stage, &["add", "anna"], "correct horse\n");
    assert!(said.contains("The name \"anna\" is taken"), "{said}");
    let (made, said) = account(&stage, &["add", "carla"], "short\n");
    assert!(!made && said.contains("at least 10"), "{said}");
    let (anna, status, _) = sign_in(&stage, "correct horse").await;
    assert_eq!(status, 201);
    let list = anna.get("/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
    anna.line("tent 1910g", Some(&list)).await;
    let shared = format!("/api/shared/{}", anna.linked(&list, json!({ "days": 14 })).await);
    assert_eq!(visitor.get(&shared).await.status, 200);

    // Disabled: signed out, not let in, and what was shared is closed; all of it is there again after.
    assert!(account(&stage, &["disable", "anna"], "").0);
    assert_eq!(anna.get("/api/account").await.status, 401);
    assert_eq!(sign_in(&stage, "wrong horse").await.2, "wrong_sign_in");
    assert_eq!(sign_in(&stage, "correct horse").await.2, "disabled");
    assert_eq!(visitor.get(&shared).await.status, 404);
    let (_, all) = account(&stage, &["list", "--json"], "");
    let all: Value = serde_json::from_str(&all).unwrap();
    assert_eq!((&all[0]["name"], &all[0]["things"], &all[0]["lists"]), (&json!("anna"), &json!(1), &json!(1)));
    assert!(all[0]["disabled_at"].is_string(), "{all}");
    assert!(account(&stage, &["enable", "anna"], "").0);
    assert_eq!(visitor.get(&shared).await.status, 200);
    // A lost password.
    assert!(account(&stage, &["password", "anna"], "four odd words there\n").0);
    assert_eq!(sign_in(&stage, "correct horse").await.2, "wrong_sign_in");
    let (anna, status, _) = sign_in(&stage, "four odd words there").await;
    assert_eq!((status, anna.get("/api/gear").await.body["total"].clone()), (201, json!(1)));

    // Removed only if that is meant, and by the name of somebody.
    assert!(!account(&stage, &["remove", "anna"], "").0);
    let (removed, said) = account(&stage, &["remove", "nobody", "--yes"], "");
    assert!(!removed && said.contains("There is no account \"nobody\""), "{said}");
    assert!(account(&stage, &["remove", "anna", "--yes"], "").0);
    assert_eq!(anna.get("/api/account").await.status, 401);
    assert!(!account(&stage, &["list"], "").1.contains("anna"));
}

#[tokio::test(flavor = "multi_thread")]
async fn an_account_is_deleted_by_its_owner_with_everything_in_it() {
    let stage = Stage::start(true);
    let demo = Client::new(&stage);
    assert_eq!(demo.post("/api/session/demo", json!({ "demo": "fell" })).await.status, 201);
    let refused = demo.ask(Method::DELETE, "/api/account", Some(json!({ "password": "whatever it is" }))).await;
    assert_eq!((refused.status, &refused.body["code"]), (422, &json!("demo")));

    // Anna's account has something in every table: it is the demo's, restored.
    let file = demo.get("/api/files/account.json").await;
    let (anna, bert) = (Client::signed_up(&stage, "anna").await, Client::signed_up(&stage, "bert").await);
    let mine = bert.line("mug 98g", None).await["id"].clone();
    assert_eq!(anna.restore(&file.body.to_string()).await.status, 200);
    let list = anna.get("/api/lists").await.body[0]["id"].as_str().unwrap().to_owned();
    bert.joins(&anna, &list, "Bert").await;
    let put = format!("/api/lists/{list}/lines/{}", mine.as_str().unwrap());
    assert_eq!(bert.put(&put, json!({ "carried": 1 })).await.status, 200);

    let mut c = MysqlConnection::establish(stage.database_url()).unwrap();
    let of_accounts = "SELECT table_name AS name FROM information_schema.columns \
        WHERE table_schema = DATABASE() AND column_name = 'account_id'";
    let tables: Vec<Table> = sql_query(of_accounts).load(&mut c).unwrap();
    let id = "(SELECT id FROM account WHERE name = 'anna')";
    let count = |c: &mut MysqlConnection, table: &str, id: &str| {
        let rows = format!("SELECT COUNT(*) AS n FROM `{table}` WHERE account_id = {id}");
        sql_query(rows).get_result::<Count>(c).unwrap().n
    };
    let full = tables.iter().filter(|table| count(&mut c, &table.name, id) > 0).count();
    assert!(full + 3 > tables.len(), "{full} of {} tables have something", tables.len());
    let hex: Vec<Table> = sql_query("SELECT HEX(id) AS name FROM account WHERE name = 'anna'").load(&mut c).unwrap();
    let id = format!("UNHEX('{}')", hex[0].name);

    let wrong = anna.ask(Method::DELETE, "/api/account", Some(json!({ "password": "wrong horse" }))).await;
    assert_eq!((wrong.status, &wrong.body["field"]), (422, &json!("password")));
    assert_eq!(
        anna.ask(Method::DELETE, "/api/account", Some(json!({ "password": "correct horse" }))).await.status,
        204
    );
    assert_eq!(anna.get("/api/account").await.status, 401);
    for table in tables {
        assert_eq!(count(&mut c, &table.name, &id), 0, "{}", table.name);
    }
    // What is Bert's stays.
    assert_eq!(bert.get("/api/gear").await.body["total"], 1);
    assert_eq!(bert.get(&format!("/api/lists/{list}")).await.status, 404);
}

#[tokio::test(flavor = "multi_thread")]
async fn requests_are_named_and_counted() {
    let stage = Stage::start(false);
    let client = Client::signed_up(&stage, "anna").await;
    let (one, other) = (client.get("/api/gear").await, client.get("/api/gear").await);
    assert_eq!(one.headers["x-request-id"].len(), 12);
    assert_ne!(one.headers["x-request-id"], other.headers["x-request-id"]);
    // Where the fault is the server's, the answer says what to look for in the log.
    let mut c = MysqlConnection::establish(stage.database_url()).unwrap();
    sql_query("RENAME TABLE gear TO gear_away").execute(&mut c).unwrap();
    let failed = client.get_a_fault("/api/gear?limit=1").await;
    assert_eq!((failed.status, failed.body["request"].as_str()), (500, Some(&*failed.headers["x-request-id"])));
    assert_eq!(client.get("/api/nothing/here").await.body["request"], Value::Null);
    let counted = String::from_utf8(kevyt::metrics::report(&kevyt::open(&stage.settings()).unwrap())).unwrap();
    let answers =
        |status: &str| format!("kevyt_request_seconds_count{{method=\"GET\",route=\"/api/gear\",status=\"{status}\"}}");
    assert!(counted.contains(&answers("200")) && counted.contains(&answers("500")), "{counted}");
    // Methods that anybody can make up are one label, however many there are.
    for at in 0..20 {
        let method = Method::from_bytes(format!("MADEUP{at}").as_bytes()).unwrap();
        client.raw(method, "/api/gear").send().await.unwrap();
    }
    let counted = String::from_utf8(kevyt::metrics::report(&kevyt::open(&stage.settings()).unwrap())).unwrap();
    assert!(counted.contains("method=\"other\"") && !counted.contains("MADEUP"), "{counted}");
    for name in [
        "kevyt_plans ",
        "kevyt_database_connections{state=\"busy\"} 0",
        "kevyt_transactions_tried_again",
        "process_resident_memory_bytes",
    ] {
        assert!(counted.contains(name), "{name} is not in {counted}");
    }
}

/// `./kevyt …` on a database: whether it went well, and what it said.
fn script(database_url: &str, arguments: &[&str]) -> (bool, String) {
    let path = format!("{}/../kevyt", env!("CARGO_MANIFEST_DIR"));
    let out = Command::new(path).args(arguments).env("KEVYT_DATABASE_URL", database_url).output().unwrap();
    (out.status.success(), String::from_utf8([out.stdout, out.stderr].concat()).unwrap())
}

/// Every table with the checksum of its rows.
fn checksums(database_url: &str) -> Vec<(String, i64)> {
    let mut c = MysqlConnection::establish(database_url).unwrap();
    let tables = "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE() \
        AND table_name <> 'server_beat' ORDER BY table_name";
    let tables: Vec<Table> = sql_query(tables).load(&mut c).unwrap();
    let checksum = |table: Table| {
        #[derive(QueryableByName)]
        struct Checksum {
            #[diesel(sql_type = BigInt, column_name = "Checksum")]
            sum: i64,
        }
        let found: Checksum = sql_query(format!("CHECKSUM TABLE `{}`", table.name)).get_result(&mut c).unwrap();
        (table.name, found.sum)
    };
    tables.into_iter().map(checksum).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_backup_that_is_made_while_people_write_is_whole_and_restores_all_of_it() {
    let stage = Stage::start(true);
    let client = Client::signed_up(&stage, "anna").await;
    let (folder, empty) = (tempfile::tempdir().unwrap(), Empty::beside(&stage));
    let file = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();

    // While things are put on a list, each with its line in one transaction, a backup has as many of one as of the other.
    let list = client.list("1 kg", "300").await;
    let url = stage.database_url().to_owned();
    let to = file("meanwhile.sql.gz");
    let backing_up = tokio::task::spawn_blocking(move || script(&url, &["backup", &to]));
    let mut written = 0;
    while !backing_up.is_finished() {
        client.line(&format!("thing {written} 100g"), Some(&list)).await;
        written += 1;
    }
    let (made, said) = backing_up.await.unwrap();
    assert!(made && written > 0, "{said}");
    let (restored, said) = script(&empty.url, &["restore", &file("meanwhile.sql.gz")]);
    assert!(restored, "{said}");
    let mut c = MysqlConnection::establish(&empty.url).unwrap();
    let mut count =
        |rows: &str| sql_query(format!("SELECT COUNT(*) AS n FROM {rows}")).get_result::<Count>(&mut c).unwrap().n;
    let things = count("gear WHERE name LIKE 'thing %'");
    assert_eq!(count("list_line l JOIN gear g ON g.id = l.gear_id WHERE g.name LIKE 'thing %'"), things);
    assert!(things <= written, "{things} of {written}");
    // Into what is not empty nothing is restored.
    let (restored, said) = script(&empty.url, &["restore", &file("meanwhile.sql.gz")]);
    assert!(!restored && said.contains("tables. A backup is restored into an empty one"), "{said}");

    // With nobody writing, every row of every table is the same, and a server runs on it.
    let (made, said) = script(stage.database_url(), &["backup", &file("all.sql.gz")]);
    assert!(made, "{said}");
    let other = Empty::beside(&stage);
    assert!(script(&other.url, &["restore", &file("all.sql.gz")]).0);
    assert_eq!(checksums(&other.url), checksums(stage.database_url()));
    let beside = stage.beside(&other.url);
    let answer = client.elsewhere(&beside.url).get("/api/gear").await;
    assert_eq!((answer.status, answer.body["total"].as_i64()), (200, Some(written)));

    // A file that was cut off is no backup, and none is written over.
    let whole = std::fs::read(file("all.sql.gz")).unwrap();
    std::fs::write(file("cut.sql.gz"), &whole[..whole.len() / 2]).unwrap();
    let (restored, said) = script(&Empty::beside(&stage).url, &["restore", &file("cut.sql.gz")]);
    assert!(!restored && said.contains("is not a whole backup"), "{said}");
    let (made, said) = script(stage.database_url(), &["backup", &file("all.sql.gz")]);
    assert!(!made && said.contains("is there already"), "{said}");
}
