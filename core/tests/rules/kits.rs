//! Kits on a list: sums, swaps and the problem file, against a count by hand.

use kevyt_core::exchange::{answer_json, read_problem};
use kevyt_core::gear::{Known, Tags, whole};
use kevyt_core::list::{Counts, Line, LineId, Place, WeighedKit, totals, whole_kits, without_overlinked};
use kevyt_core::plan::{BuyingOrder, Limits, Ready, solve};
use kevyt_core::quantity::Mass;
use proptest::prelude::*;
use serde_json::{Value, json};
use std::collections::HashMap;

/// Three lines and a kit of the first two, 12 g heavier than they are.
fn problem() -> Value {
    let line = |id: &str, unit: Value| json!({ "id": id, "name": id, "carried": 1, "unit_mg": unit });
    let leave = |id: &str, lines: &[&str]| {
        let remove: Vec<Value> = lines.iter().map(|line| json!({ "line": line, "qty": 1 })).collect();
        json!({ "id": id, "name": id, "kind": "leave_out", "remove": remove })
    };
    json!({
        "format": "kevyt-problem/2", "currency": "EUR", "target_mg": 0, "budget_minor": 0,
        "lines": [line("quilt", json!(700_000)), line("sack", json!(40_000)), line("mug", json!(118_000))],
        "kits": [{ "name": "sleep set", "mg": 752_000, "parts": [{ "line": "quilt", "qty": 1 }, { "line": "sack", "qty": 1 }] }],
        "swaps": [leave("both", &["quilt", "sack"]), leave("sack alone", &["sack"]), leave("mug", &["mug"])],
    })
}

fn answer(problem: &Value) -> Value {
    let (problem, version) = read_problem(&problem.to_string()).unwrap();
    let ready = Ready::new(&problem).unwrap();
    answer_json(&ready, &solve(&ready, &Limits::default(), &|| false).unwrap(), version, &|| false).unwrap()
}

fn saving(answer: &Value, swap: &str) -> Value {
    let rows = answer["ranking"].as_array().unwrap();
    rows.iter().find(|row| row["swap"] == swap).unwrap()["saving_mg"].clone()
}

#[test]
fn a_kit_counts_in_a_problem_as_it_was_weighed() {
    let found = answer(&problem());
    assert_eq!(found["base_mg"], 752_000 + 118_000);
    assert_eq!(saving(&found, "both"), 752_000);
    // What is left of a broken kit counts by its parts.
    assert_eq!(saving(&found, "sack alone"), 52_000);
    // Everything left out leaves nothing.
    assert_eq!(found["plan"]["base_mg"], 0);

    // Without a kit, and with one of which a part is worn, the parts count.
    let base = |change: fn(&mut Value)| {
        let mut other = problem();
        change(&mut other);
        answer(&other)["base_mg"].clone()
    };
    assert_eq!(base(|without| without["kits"] = json!([])), 858_000);
    assert_eq!(
        base(|worn| {
            worn["lines"][1]["carried"] = json!(0);
            worn["lines"][1]["worn"] = json!(1);
        }),
        818_000
    );
}

#[test]
fn of_kits_that_share_lines_only_so_many_are_taken() {
    // A file has no line in two kits; an account may.
    let (mut many, _) = read_problem(&problem().to_string()).unwrap();
    let older = |at: i64| WeighedKit { weighed: Mass::from_mg(752_000 - at), ..many.kits[0].clone() };
    let kits: Vec<WeighedKit> = (0..9).map(older).collect();
    many.kits = without_overlinked(kits.clone());
    assert_eq!((many.kits.len(), Ready::new(&many).unwrap().base().mg()), (8, 752_000 + 118_000));
    many.kits = kits;
    let refused = Ready::new(&many).unwrap_err().to_string();
    assert!(refused.starts_with("kits[8].parts: expected at most 8 kits that share lines"), "{refused}");
}

#[test]
fn two_that_each_take_a_half_of_a_kit_save_it_once() {
    let mut halves = problem();
    halves["swaps"][0]["remove"] = json!([{ "line": "quilt", "qty": 1 }]);
    let found = answer(&halves);
    assert_eq!((saving(&found, "both"), saving(&found, "sack alone")), (json!(712_000), json!(52_000)));
    assert_eq!(found["plan"]["base_mg"], 0);
    let bases: Vec<_> = found["frontier"].as_array().unwrap().iter().map(|point| point["base_mg"].clone()).collect();
    assert_eq!(bases, [json!(0)]);
    // One after the other: the first breaks the kit, the second saves its own weight alone.
    let (problem, _) = read_problem(&halves.to_string()).unwrap();
    let ready = Ready::new(&problem).unwrap();
    let along = BuyingOrder::new(&ready).bases(&[0, 1, 2]);
    assert_eq!(along.into_iter().map(Mass::mg).collect::<Vec<_>>(), [158_000, 118_000, 0]);
}

#[test]
fn an_unknown_part_is_missing_wherever_it_is_taken_out() {
    let mut unknown = problem();
    unknown["lines"][1]["unit_mg"] = Value::Null;
    let found = answer(&unknown);
    assert_eq!(found["base_mg"], 752_000 + 118_000);
    assert_eq!(saving(&found, "both"), Value::Null);
    assert_eq!(saving(&found, "sack alone"), Value::Null);
}

#[test]
fn kits_that_mean_nothing_are_refused_by_path() {
    let refused = |kit: Value| {
        let mut wrong = problem();
        wrong["kits"][0] = kit;
        match read_problem(&wrong.to_string()) {
            Ok((problem, _)) => Ready::new(&problem).unwrap_err().path,
            Err(error) => error.path,
        }
    };
    let kit = |weighed: i64, parts: Value| json!({ "name": "x", "mg": weighed, "parts": parts });
    let part = |line: &str, qty: u32| json!({ "line": line, "qty": qty });
    for (wrong, path) in [
        (kit(-1, json!([part("quilt", 1)])), "kits[0].mg"),
        (kit(200_000_001, json!([part("quilt", 1)])), "kits[0].mg"),
        (kit(1, json!([part("nobody", 1)])), "kits[0].parts[0].line"),
        (kit(1, json!([part("quilt", 1), part("quilt", 1)])), "kits[0].parts[1].line"),
        (kit(1, json!([part("quilt", 0)])), "kits[0].parts[0].qty"),
        (json!({ "name": "x", "weight": 1, "parts": [] }), "kits[0].weight"),
        (json!({ "name": "x", "mg": 1, "parts": [{ "line": "quilt" }] }), "kits[0].parts[0]"),
    ] {
        assert_eq!(refused(wrong.clone()), path, "{wrong}");
    }
}

#[test]
fn a_piece_is_in_one_kit_only() {
    let stakes: HashMap<&str, u32> = HashMap::from([("stake", 10), ("sack", 1)]);
    let (four, five, six) = ([("stake", 4)], [("stake", 5), ("sack", 1)], [("stake", 6)]);
    assert_eq!(whole(stakes.iter().map(|(id, n)| (id, *n)).collect(), [&four[..], &five, &six]), [0, 1]);
    assert_eq!(whole(stakes.iter().map(|(id, n)| (id, *n)).collect(), [&six[..], &five, &four]), [0, 2]);
    assert_eq!(whole(HashMap::from([(&"stake", 3)]), [&four[..], &[]]), Vec::<usize>::new());
}

prop_compose! {
    fn listed()(
        lines in prop::collection::vec((prop::option::weighted(0.8, 0..900_i64), 0..4_u32, 0..3_u32, 0..2_u32), 1..6),
        kits in prop::collection::vec((0..2_000_i64, prop::collection::btree_map(0..6_usize, 1..3_u32, 1..3)), 0..5),
    ) -> (Vec<Line>, Vec<WeighedKit>) {
        let id = |at: usize| LineId(format!("l{at}"));
        let line = |(at, (unit, carried, worn, used_up)): (usize, (Option<i64>, u32, u32, u32))| Line {
            id: id(at), name: String::new(), counts: Counts { carried, worn, used_up, ..Counts::default() },
            weight: unit.map(|mg| Known::exactly(Mass::from_mg(mg))), tags: Tags::default(), provides: Default::default(), needs: Default::default(),
        };
        let kit = |(weighed, parts): (i64, std::collections::BTreeMap<usize, u32>)| WeighedKit {
            name: String::new(), weighed: Mass::from_mg(weighed), parts: parts.into_iter().map(|(at, n)| (id(at), n)).collect(),
        };
        (lines.into_iter().enumerate().map(line).collect(), kits.into_iter().map(kit).collect())
    }
}

proptest! {
    /// Each sum is what the whole kits weighed, and the pieces that are in none of them by their own weight.
    #[test]
    fn every_piece_counts_once((lines, kits) in listed()) {
        let by_id: HashMap<&LineId, &Line> = lines.iter().map(|line| (&line.id, line)).collect();
        let whole = whole_kits(&by_id, &kits);
        let sum = |place: Place| -> i64 {
            let here: Vec<_> = whole.iter().filter(|kit| kit.place == place).collect();
            let weighed: i64 = here.iter().map(|kit| kit.kit.weighed.mg()).sum();
            let alone: i64 = lines.iter().map(|line| {
                let parts = here.iter().flat_map(|kit| &kit.kit.parts);
                let covered: u32 = parts.filter(|(id, _)| *id == line.id).map(|part| part.1).sum();
                // No piece is in two kits.
                i64::from(line.counts.at(place).checked_sub(covered).unwrap()) * line.unit().unwrap_or_default().mg()
            }).sum();
            weighed + alone
        };
        let found = totals(&lines, &whole);
        prop_assert_eq!(found.base.mg(), sum(Place::Carried));
        prop_assert_eq!(found.pack.mg(), sum(Place::Carried) + sum(Place::UsedUp));
        prop_assert_eq!(found.everything.mg(), sum(Place::Carried) + sum(Place::UsedUp) + sum(Place::Worn));
        prop_assert!(found.unknown <= totals(&lines, &[]).unknown);
    }
}
