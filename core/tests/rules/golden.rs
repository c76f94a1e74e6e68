//! The golden cases: answers calculated apart from the project. `golden/` is a copy; its figures are not edited.

use kevyt_core::exchange::{
    AnyProblem, answer_json, list_json, lists_json, read_any_problem, read_list, read_problem, sums_json,
};
use kevyt_core::plan::lists::{ListsProblem, solve_lists};
use kevyt_core::plan::{Limits, Ready, solve};
use kevyt_core::quantity::{Mass, MassStyle, MassUnit, Money};
use serde_json::Value;
use std::cell::Cell;
use std::{fs, thread};

fn rows(file: &str) -> Vec<Vec<String>> {
    let text = fs::read_to_string(format!("{}/tests/golden/{file}", env!("CARGO_MANIFEST_DIR"))).unwrap();
    text.lines().skip(1).map(|line| line.split('\t').map(str::to_owned).collect()).collect()
}

#[test]
fn masses_are_read() {
    for row in rows("mass_parse.tsv") {
        let [typed, unit, mg, why] = [0, 1, 2, 3].map(|at| row.get(at).cloned().unwrap_or_default());
        // Settled since by the limit: nobody carries 1250 kg.
        if typed == "1.250 kg" {
            assert_eq!(Mass::parse(&typed, MassUnit::G), Ok(Mass::from_mg(1_250_000)));
            continue;
        }
        let found = Mass::parse(&typed, MassUnit::from_word(&unit).unwrap());
        let found = found.map(Mass::mg).map_err(|refused| refused.reason.code());
        let expected = mg.parse().map_err(|_| why.as_str());
        assert_eq!(found, expected, "{typed:?} in {unit}");
    }
}

#[test]
fn masses_are_shown() {
    let styles = [MassStyle::TableG, MassStyle::TotalKg, MassStyle::TableOz, MassStyle::TotalLbOz, MassStyle::TotalLb];
    for row in rows("mass_format.tsv") {
        let mass = Mass::from_mg(row[0].parse().unwrap());
        let found = styles.map(|style| mass.format(style).replace('\u{202f}', " "));
        assert_eq!(found.as_slice(), &row[1..], "{} mg", row[0]);
    }
}

#[test]
fn problems_are_answered() {
    problems_of("plan", 40, |found, expected, file| {
        for field in ["format", "base_mg", "frontier"] {
            assert_eq!(found[field], expected[field], "{field} of {file}");
        }
    });
}

#[test]
fn problems_of_the_second_format_are_answered() {
    problems_of("plan2", 50, |found, expected, file| {
        for field in ["format", "base_mg", "frontier", "near_misses"] {
            assert_eq!(found[field], expected[field], "{field} of {file}");
        }
    });
}

#[test]
fn problems_of_the_third_format_are_answered() {
    problems_of("plan3", 57, |found, expected, file| {
        for field in ["format", "base_mg", "frontier", "near_misses", "keeps"] {
            assert_eq!(found[field], expected[field], "{field} of {file}");
        }
    });
}

fn problems_of(folder: &str, cases: usize, holds: impl Fn(&Value, &Value, &str)) {
    let folder = format!("{}/tests/golden/{folder}", env!("CARGO_MANIFEST_DIR"));
    let mut files: Vec<_> = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    files.retain(|path| !path.file_name().unwrap().to_string_lossy().starts_with("lists"));
    files.sort();
    assert_eq!(files.len(), cases);
    for path in files {
        let (file, case) = (path.display().to_string(), fs::read_to_string(&path).unwrap());
        let case: Value = serde_json::from_str(&case).unwrap();
        let (problem, version) = read_problem(&case["problem"].to_string()).unwrap();
        let ready = Ready::new(&problem).unwrap();
        let solved = solve(&ready, &Limits::default(), &|| false).unwrap();
        let (answer, expected) = (answer_json(&ready, &solved, version, &|| false).unwrap(), &case["answer"]);
        holds(&answer, expected, &file);
        assert_holds(&answer["plan"], &expected["plan"], &format!("plan of {file}"));
        let (found, wanted) = (answer["ranking"].as_array().unwrap(), expected["ranking"].as_array().unwrap());
        assert_eq!(found.len(), wanted.len());
        for (found, wanted) in found.iter().zip(wanted) {
            let mut wanted = wanted.clone();
            // The words are free; whether something is missing is not.
            let missing = wanted.as_object_mut().unwrap().remove("missing");
            assert_holds(found, &wanted, &format!("ranking of {file}"));
            if let Some(missing) = missing {
                assert_eq!(found["missing"].as_array().unwrap().len(), missing.as_array().unwrap().len());
            }
        }
    }
}

fn lists(problem: &Value) -> ListsProblem {
    match read_any_problem(&problem.to_string()).unwrap() {
        AnyProblem::Lists(lists) => *lists,
        AnyProblem::One(..) => panic!("several lists"),
    }
}

#[test]
fn several_lists_are_answered() {
    let folder = format!("{}/tests/golden/plan3", env!("CARGO_MANIFEST_DIR"));
    let mut files: Vec<_> = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    files.retain(|path| path.file_name().unwrap().to_string_lossy().starts_with("lists"));
    assert_eq!(files.len(), 34);
    for path in files {
        let case: Value = serde_json::from_str(&fs::read_to_string(&path).unwrap()).unwrap();
        let expanded = lists(&case["problem"]).expand().unwrap();
        let ready = expanded.ready().unwrap();
        // By labels, or all of it by branch and bound.
        for most_work in [u64::MAX, 0] {
            let limits = Limits { most_work, ..Limits::default() };
            let found = lists_json(&ready, &solve_lists(&ready, &limits, &|| false).unwrap());
            for (field, expected) in case["answer"].as_object().unwrap() {
                assert_eq!(&found[field], expected, "{field} of {}", path.display());
            }
        }
    }
}

/// Of those with 300 swaps, 60 things and six lists the two answers, proved.
#[test]
fn hard_problems_of_several_lists_are_answered_and_proved() {
    // All at once, as they take longer than all other tests here.
    thread::scope(|scope| {
        for at in 1..=6 {
            scope.spawn(move || {
                let file = format!("{}/tests/golden/hard/lists-{at}.json", env!("CARGO_MANIFEST_DIR"));
                let case: Value = serde_json::from_str(&fs::read_to_string(&file).unwrap()).unwrap();
                let mut problem = lists(&case["problem"]);
                let budget = problem.whole.budget;
                problem.whole.budget = Money::from_minor(999_999_999);
                for question in ["cheapest_to_targets", "fewest_gram_nights_in_budget"] {
                    let expanded = problem.expand().unwrap();
                    let ready = expanded.ready().unwrap();
                    // So much work, wherever it runs, proves both; the rest of the frontier is for the benchmark.
                    let asked = Cell::new(0);
                    let should_stop = || asked.replace(asked.get() + 1) > 800;
                    let limits = Limits { most_work: 0, ..Limits::default() };
                    let plan = solve_lists(&ready, &limits, &should_stop).unwrap().plan;
                    assert!(plan.is_proved, "{question} of {at} is not proved");
                    let found = serde_json::json!([plan.net.minor(), plan.gram_nights.mg()]);
                    assert_eq!(found, case["values"][question], "{question} of {at}");
                    // Without a way to the targets, the budget is what counts.
                    problem.whole.budget = budget;
                    problem.lists[0].target = Some(Mass::ZERO);
                }
            });
        }
    });
}

/// Of the tightly coupled ones the two answers, by the most work that half a second allows; the whole frontier is for the benchmark.
#[test]
fn hard_problems_are_answered_and_proved() {
    for at in 1..=12 {
        let file = format!("{}/tests/golden/hard/{at:02}.json", env!("CARGO_MANIFEST_DIR"));
        let case: Value = serde_json::from_str(&fs::read_to_string(&file).unwrap()).unwrap();
        let (mut problem, _) = read_problem(&case["problem"].to_string()).unwrap();
        let mut found = |question: &str| {
            // Each question by itself: no money to reach a target with, or none to mind.
            let (target, budget) = (problem.target, problem.budget);
            match question {
                "cheapest_to_target" => problem.budget = Money::from_minor(999_999_999),
                _ => problem.target = Mass::ZERO,
            }
            let ready = Ready::new(&problem).unwrap();
            let plan = solve(&ready, &Limits { most_work: 0, ..Limits::default() }, &|| true).unwrap().plan;
            (problem.target, problem.budget) = (target, budget);
            assert_eq!(plan.gap, None, "{question} of {at} is not proved");
            serde_json::json!([plan.net.minor(), plan.base.mg()])
        };
        for question in ["cheapest_to_target", "lightest_in_budget"] {
            assert_eq!(found(question), case["values"][question], "{question} of {at}");
        }
    }
}

/// Whole frontiers, where a case has one; without what labels alone would find.
#[test]
fn hard_frontiers_are_whole() {
    let mut seen = 0;
    for at in 1..=12 {
        let file = format!("{}/tests/golden/hard/{at:02}.json", env!("CARGO_MANIFEST_DIR"));
        let case: Value = serde_json::from_str(&fs::read_to_string(&file).unwrap()).unwrap();
        let Some(wanted) = case["values"]["frontier"].as_array() else { continue };
        let (problem, _) = read_problem(&case["problem"].to_string()).unwrap();
        let ready = Ready::new(&problem).unwrap();
        let found = solve(&ready, &Limits { most_work: 0, ..Limits::default() }, &|| false).unwrap().frontier;
        assert!(found.is_proved(), "{at} is not proved");
        let points = found.points().iter().map(|point| serde_json::json!([point.net.minor(), point.base.mg()]));
        assert_eq!(&points.collect::<Vec<_>>(), wanted, "{at}");
        seen += 1;
    }
    assert_eq!(seen, 3);
}

#[test]
fn lists_are_summed() {
    let folder = format!("{}/tests/golden/list", env!("CARGO_MANIFEST_DIR"));
    let files: Vec<_> = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    assert_eq!(files.len(), 40);
    for file in files {
        let case: Value = serde_json::from_str(&fs::read_to_string(&file).unwrap()).unwrap();
        let list = read_list(&case["list"].to_string()).unwrap();
        let found = sums_json(&list);
        for (field, expected) in case["sums"].as_object().unwrap() {
            assert_eq!(&found[field], expected, "{field} of {}", file.display());
        }
        assert_eq!(
            read_list(&list_json(&list).to_string()).unwrap(),
            list,
            "{} is written as it was read",
            file.display()
        );
    }
}

/// Every field of `expected` has the same value in `found`, which may have more.
fn assert_holds(found: &Value, expected: &Value, what: &str) {
    for (field, value) in expected.as_object().unwrap() {
        // A chance is right within a hundredth.
        if let (Some(found), Some(value)) = (found[field].as_f64(), value.as_f64().filter(|_| field == "chance")) {
            assert!((found - value).abs() < 0.01, "{field} in {what}: {found}, not {value}");
            continue;
        }
        assert_eq!(&found[field], value, "{field} in {what}: {found}");
    }
}
