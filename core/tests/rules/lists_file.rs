//! Files of several lists: what is refused by name, what an answer says, and that the worst file ends.

use kevyt_core::exchange::{AnyProblem, lists_json, lists_table, read_any_problem, read_problem};
use kevyt_core::plan::lists::{ListsAnswer, ListsProblem, solve_lists};
use kevyt_core::plan::{Limits, Outcome};
use serde_json::{Value, json};
use std::cell::Cell;

/// A tent and a mug on two lists, and a lighter tent.
fn file() -> Value {
    json!({
        "format": "kevyt-problem/3", "currency": "EUR", "budget_minor": 50_000, "hour_minor": 0,
        "lines": [
            { "id": "tent", "name": "Tent", "unit_mg": 1_900_000, "provides": { "shelter": 1 } },
            { "id": "mug", "name": "Mug", "unit_mg": 120_000 },
        ],
        "swaps": [
            { "id": "s1", "name": "Tarp", "kind": "replace", "remove": [{ "line": "tent", "qty": 1 }], "resale_minor": 5_000,
              "add": [{ "name": "Tarp", "qty": 1, "unit_mg": 600_000, "price_minor": [20_000, 20_000], "provides": { "shelter": 1 } }] },
            { "id": "s2", "name": "Leave out mug", "kind": "leave_out", "remove": [{ "line": "mug", "qty": 1 }], "lists": ["week"] },
            { "id": "s3", "name": "Spoon", "kind": "add", "add": [{ "name": "Spoon", "qty": 1, "unit_mg": 9_000 }], "lists": ["week"] },
        ],
        "lists": [
            { "id": "week", "nights": 6, "target_mg": 700_000, "counts": { "tent": { "carried": 1 }, "mug": { "carried": 1 } } },
            { "id": "weekend", "nights": 1, "counts": { "tent": { "carried": 1 }, "mug": { "worn": 1 } }, "require": { "shelter": 1 } },
        ],
    })
}

fn lists(file: &Value) -> ListsProblem {
    match read_any_problem(&file.to_string()).unwrap() {
        AnyProblem::Lists(lists) => *lists,
        AnyProblem::One(..) => panic!("several lists"),
    }
}

/// What is wrong with a file, wherever that is found.
fn refusal(file: &Value) -> String {
    let problem = match read_any_problem(&file.to_string()) {
        Ok(AnyProblem::Lists(problem)) => problem,
        Ok(AnyProblem::One(..)) => return "one list".to_owned(),
        Err(error) => return error.to_string(),
    };
    match problem.expand() {
        Ok(expanded) => expanded.ready().map_or_else(|error| error.to_string(), |_| "nothing".to_owned()),
        Err(error) => error.to_string(),
    }
}

fn answer(problem: &ListsProblem, should_stop: &dyn Fn() -> bool) -> (ListsAnswer, Value, String) {
    let expanded = problem.expand().unwrap();
    let ready = expanded.ready().unwrap();
    let answer = solve_lists(&ready, &Limits::default(), should_stop).unwrap();
    let (json, table) = (lists_json(&ready, &answer), lists_table(&ready, &answer));
    (answer, json, table)
}

#[test]
fn a_file_of_several_lists_is_refused_where_it_is_wrong() {
    assert_eq!(refusal(&file()), "nothing");
    type Spoil = fn(&mut Value);
    let wrong: [(&str, Spoil, &str); 17] = [
        ("a target of its own", |file| file["target_mg"] = json!(5), "target_mg: expected nothing"),
        ("a requirement of its own", |file| file["require"] = json!({ "shelter": 1 }), "require: expected nothing"),
        ("a night of its own", |file| file["sleep"] = json!({ "low_tenth_c": 0 }), "sleep: expected nothing"),
        ("a start of its own", |file| file["heaviest_start_mg"] = json!(1), "heaviest_start_mg: expected nothing"),
        ("counts on a line", |file| file["lines"][1]["worn"] = json!(1), "lines[1]: expected no counts"),
        ("a list that is not there", |file| file["swaps"][1]["lines"] = json!([]), "lines"),
        (
            "an unknown list",
            |file| file["swaps"][1]["lists"] = json!(["week", "year"]),
            "swaps[1].lists[1]: expected the id",
        ),
        (
            "two lists of one id",
            |file| file["lists"][1]["id"] = json!("week"),
            "lists[1].id: expected an id that no other list has",
        ),
        (
            "too many nights",
            |file| file["lists"][0]["nights"] = json!(366),
            "lists[0].nights: expected a whole number from 0 to 365",
        ),
        ("a target below nothing", |file| file["lists"][0]["target_mg"] = json!(-1), "lists[0].target_mg"),
        (
            "an unknown line",
            |file| file["lists"][0]["counts"]["tarp"] = json!({}),
            "lists[0].counts: expected ids of lines",
        ),
        ("too many pieces", |file| file["lists"][1]["counts"]["mug"]["worn"] = json!(1_001), "lists[1].lines[1].worn"),
        ("a field nobody knows", |file| file["lists"][1]["summer"] = json!(true), "lists[1]"),
        ("warmth without a night", |file| file["meet"] = json!(["warmth"]), "meet[0]: expected names of jobs"),
        ("an older format", |file| file["format"] = json!("kevyt-problem/2"), "lists"),
        (
            "a removed line that is not there",
            |file| file["swaps"][0]["remove"][0]["line"] = json!("tarp"),
            "swaps[0].remove[0].line",
        ),
        (
            "no lists, but named ones",
            |file| {
                file["lists"] = Value::Null;
                file["target_mg"] = json!(0);
            },
            "swaps[1].lists: expected nothing",
        ),
    ];
    for (what, spoil, said) in wrong {
        let mut spoilt = file();
        spoil(&mut spoilt);
        let refused = refusal(&spoilt);
        assert!(refused.contains(said), "{what}: {refused}");
    }
    // One list has a target; a reader of one list is told of several.
    let mut one = file();
    (one["lists"], one["swaps"]) = (Value::Null, json!([]));
    assert!(refusal(&one).starts_with("target_mg: expected a mass"), "{}", refusal(&one));
    assert!(read_problem(&file().to_string()).unwrap_err().to_string().starts_with("lists: expected one list"));
}

#[test]
fn one_purchase_lightens_both_lists_and_nothing_is_sold_that_another_carries() {
    let (found, json, table) = answer(&lists(&file()), &|| false);
    assert_eq!(found.plan.outcome, Outcome::TargetMet);
    // The tarp for 200 € less the tent's 50 €, and the mug stays home on the week alone: 6 × 600 g + 600 g.
    assert_eq!(
        json["plan"],
        json!({
            "outcome": "target_met", "swaps": ["s1", "s2"], "net_minor": 15_000, "gram_nights_mg": 4_200_000,
            "bases": [{ "list": "week", "base_mg": 600_000, "short_by_mg": 0 }, { "list": "weekend", "base_mg": 600_000, "short_by_mg": 0 }],
        })
    );
    assert_eq!(
        json["ranking"],
        json!([
            { "swap": "s1", "saves_mg_nights": 9_100_000, "net_minor": 15_000, "acts_on": ["week", "weekend"] },
            { "swap": "s2", "saves_mg_nights": 720_000, "net_minor": 0, "acts_on": ["week"] },
        ]),
        "of the spoon nobody knows the price"
    );
    for line in [
        "every target met",
        "costs 150.00 EUR; base weight times nights: 4.20 kg",
        "week                 6 nights, base 0.60 kg, target 0.70 kg",
        "a weight or a price is missing",
    ] {
        assert!(table.contains(line) || table.replace('\u{202f}', " ").contains(line), "{line} in {table}");
    }
    // The weekend keeps the tent: it is not sold.
    let mut kept = file();
    kept["swaps"][0]["lists"] = json!(["week"]);
    let (_, json, _) = answer(&lists(&kept), &|| false);
    assert_eq!((&json["plan"]["net_minor"], &json["plan"]["bases"][1]["base_mg"]), (&json!(20_000), &json!(1_900_000)));
    // What acts nowhere is ruled out, and pinned a clash.
    kept["swaps"][0]["lists"] = json!([]);
    let (_, json, _) = answer(&lists(&kept), &|| false);
    assert_eq!(json["plan"]["outcome"], "out_of_reach");
    kept["swaps"][0]["state"] = json!("pinned");
    let (_, json, table) = answer(&lists(&kept), &|| false);
    assert_eq!(json["plan"], json!({ "outcome": "pins_clash" }));
    assert!(table.contains("no allowed set has all pinned swaps"), "{table}");
}

/// Twelve lists of 3 000 things with 10 000 swaps, as many as are taken: told to stop, it stops, with what it has.
#[test]
fn the_largest_file_ends_when_it_is_told_to_and_one_more_list_is_refused() {
    let things = 3_000;
    let lines = (0..things)
        .map(|at| json!({ "id": format!("l{at}"), "name": "n", "unit_mg": (at * 7_919 % 900 + 50) * 1_000 }));
    let swaps = (0..10_000).map(|at| json!({ "id": format!("s{at}"), "name": "n", "kind": "replace",
        "remove": [{ "line": format!("l{}", at % things), "qty": 1 }],
        "add": [{ "name": "n", "qty": 1, "unit_mg": (at * 104_729 % 600 + 20) * 1_000, "price_minor": [at * 31 % 9_000 + 100, at * 31 % 9_000 + 100] }] }));
    let list = |at: usize| {
        let counts: serde_json::Map<String, Value> = (0..things)
            .filter(|line| !(line + at).is_multiple_of(7))
            .map(|line| (format!("l{line}"), json!({ "carried": 1 })))
            .collect();
        json!({ "id": format!("list {at}"), "nights": at + 1, "target_mg": 600_000_000, "counts": counts })
    };
    let mut big = file();
    (big["lines"], big["swaps"]) = (lines.collect(), swaps.collect());
    big["lists"] = (0..13).map(list).collect();
    assert!(refusal(&big).starts_with("lists: expected at most 400000 lines and entries"), "{}", refusal(&big));
    big["lists"] = (0..12).map(list).collect();
    let asked = Cell::new(0);
    let should_stop = || asked.replace(asked.get() + 1) > 5;
    let (found, json, _) = answer(&lists(&big), &should_stop);
    // Asked seldom, it stops soon after it is told to.
    assert!(asked.get() < 2_000, "asked {} times", asked.get());
    assert_eq!(
        (found.plan.is_proved, &json["plan"]["proved"], &json["frontier_proved"]),
        (false, &json!(false), &json!(false))
    );
    assert_eq!(found.plan.swaps, Some(Vec::new()), "what there is without anything made is known at least");
}
