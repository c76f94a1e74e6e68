use insta::assert_snapshot;
use serde_json::Value;
use std::collections::BTreeSet;
use std::io::Write;
use std::process::{Command, Output, Stdio};

pub fn kevyt(arguments: &[&str], input: &str) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_kevyt"))
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    child.stdin.take().unwrap().write_all(input.as_bytes()).unwrap();
    child.wait_with_output().unwrap()
}

fn golden(name: &str) -> Value {
    let path = format!("{}/../core/tests/golden/plan/{name}.json", env!("CARGO_MANIFEST_DIR"));
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

#[test]
fn a_problem_is_answered_without_a_database() {
    let case = golden("25-target-met");
    let out = kevyt(&["plan", "-"], &case["problem"].to_string());
    assert!(out.status.success());
    let answer: Value = serde_json::from_slice(&out.stdout).unwrap();
    assert_eq!(answer["plan"]["swaps"], case["answer"]["plan"]["swaps"]);
    let table = kevyt(&["plan", "--table", "-"], &case["problem"].to_string());
    assert_snapshot!("ranking and plan as a table", String::from_utf8(table.stdout).unwrap());
}

#[test]
fn several_lists_are_planned_together() {
    let path = format!("{}/../core/tests/golden/plan3/lists-18-target-met.json", env!("CARGO_MANIFEST_DIR"));
    let case: Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let out = kevyt(&["plan", "-"], &case["problem"].to_string());
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    assert_eq!(serde_json::from_slice::<Value>(&out.stdout).unwrap(), case["answer"]);
    let table = kevyt(&["plan", "--table", "-"], &case["problem"].to_string());
    let table = String::from_utf8(table.stdout).unwrap();
    assert!(table.contains("every target met"), "{table}");
    for list in case["problem"]["lists"].as_array().unwrap() {
        assert!(table.contains(&format!("{} nights", list["nights"])), "{table}");
    }
    let mut wrong = case["problem"].clone();
    wrong["lists"][0]["nights"] = 400.into();
    let refused = kevyt(&["plan", "-"], &wrong.to_string());
    let said = String::from_utf8(refused.stderr).unwrap();
    assert_eq!(refused.status.code(), Some(2));
    assert!(said.contains("-: lists[0].nights: expected a whole number from 0 to 365, found \"400\""), "{said}");
}

#[test]
fn a_list_is_added_up_without_a_database() {
    let path = format!("{}/../core/tests/golden/list/08.json", env!("CARGO_MANIFEST_DIR"));
    let case: Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let out = kevyt(&["list", "-"], &case["list"].to_string());
    assert!(out.status.success());
    assert_eq!(serde_json::from_slice::<Value>(&out.stdout).unwrap(), case["sums"]);
    let table = kevyt(&["list", "--table", "-"], &case["list"].to_string());
    assert_snapshot!("sums as a table", String::from_utf8(table.stdout).unwrap());
    let mut wrong = case["list"].clone();
    wrong["trip"]["stretch_day"] = 99.into();
    let refused = kevyt(&["list", "-"], &wrong.to_string());
    assert_eq!(refused.status.code(), Some(2));
    assert_snapshot!("list with a day outside the trip", String::from_utf8(refused.stderr).unwrap());
}

#[test]
fn bad_problems_end_with_the_path_of_what_is_wrong() {
    let problem = golden("25-target-met")["problem"].clone();
    let with = |change: &dyn Fn(&mut Value)| {
        let mut changed = problem.clone();
        change(&mut changed);
        changed.to_string()
    };
    let cases: [(&str, String); 7] = [
        ("problem that is cut off", "{\"format\": \"kevyt-problem/1\"".to_owned()),
        ("problem of another format", with(&|p| p["format"] = "kevyt-problem/9".into())),
        ("problem with text for a count", with(&|p| p["lines"][1]["carried"] = "two".into())),
        ("problem with an unknown line", with(&|p| p["swaps"][2]["remove"][0]["line"] = "nowhere".into())),
        ("problem with a repeated id", with(&|p| p["swaps"][1]["id"] = p["swaps"][0]["id"].clone())),
        ("problem with a misspelt field", with(&|p| p["swaps"][0]["resale"] = 5.into())),
        ("problem with a weight below zero", with(&|p| p["lines"][0]["unit_mg"] = (-1).into())),
    ];
    for (name, input) in cases {
        let out = kevyt(&["plan", "-"], &input);
        assert_eq!(out.status.code(), Some(2), "{name}");
        assert_snapshot!(name, String::from_utf8(out.stderr).unwrap());
    }
    assert_eq!(kevyt(&["plan", "/nowhere.json"], "").status.code(), Some(2));
}

/// The words of a text that begin with a word, as they stand in it.
fn words(text: &str, begin: &str) -> BTreeSet<String> {
    let ends = |c: char| !(c.is_ascii_alphanumeric() || c == '_');
    text.match_indices(begin)
        .filter_map(|(at, _)| Some(text[at..].split(ends).next()?.to_owned()))
        .filter(|word| word.len() > begin.len())
        .collect()
}

#[test]
fn what_the_guide_to_running_it_names_is_there_and_the_other_way_round() {
    let help = |arguments: &[&str]| String::from_utf8(kevyt(arguments, "").stdout).unwrap();
    let guide = include_str!("../../../docs/running.md");
    let table: String = guide.lines().filter(|line| line.starts_with("| `KEVYT_")).collect();
    let settings = words(&help(&["serve", "--help"]), "KEVYT_");
    assert_eq!(words(&table, "KEVYT_"), settings);

    let accounts = guide.lines().find(|line| line.starts_with("`./kevyt account list`")).unwrap();
    for command in ["list", "add", "disable", "enable", "password", "remove"] {
        assert!(accounts.contains(command), "{command} in {accounts}");
        assert!(help(&["account", "--help"]).lines().any(|line| line.trim().starts_with(command)), "{command}");
    }
    let usage = Command::new(concat!(env!("CARGO_MANIFEST_DIR"), "/../kevyt")).arg("help").output().unwrap();
    let usage = String::from_utf8(usage.stderr).unwrap();
    let docs = [include_str!("../../../CONTRIBUTING.md"), include_str!("../../../docs/testing.md")];
    for text in
        [guide, include_str!("../../../README.md"), include_str!("../../../ARCHITECTURE.md")].into_iter().chain(docs)
    {
        for command in text.split("./kevyt ").skip(1).map(|rest| rest.split(|c: char| !c.is_ascii_lowercase()).next()) {
            assert!(usage.contains(&format!("./kevyt {}", command.unwrap())), "./kevyt {}", command.unwrap());
        }
    }
}
