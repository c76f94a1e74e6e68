//! The worst inputs that were found, answered as the server does: how long each holds a seat. What `docs/limits.md` says of them is from here.
//! It prints a table; nothing is repeated, since each takes up to its limit.
#![allow(missing_docs, clippy::unwrap_used, clippy::print_stdout)]

use kevyt_core::exchange::{read_list, read_problem, sums_json};
use kevyt_core::plan::{BuyingOrder, Limits, Outcome, Ready, months, near_misses, solve};
use kevyt_core::steps::Steps;
use serde_json::{Value, json};
use std::time::{Duration, Instant};

/// The server's own patience: for a plan, for the soonest months, for near misses.
const PLAN: Duration = Duration::from_millis(2_500);
const MONTHS: Duration = Duration::from_millis(500);
const NEAR: Duration = Duration::from_millis(1_000);

/// Numbers that look like nothing in particular.
struct Odd(u64);

impl Odd {
    fn below(&mut self, most: u64) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) % most
    }

    fn some(&mut self, many: usize, of: u64) -> Vec<u64> {
        (0..many).map(|_| self.below(of)).collect()
    }
}

fn lines(odd: &mut Odd, many: u64) -> Vec<Value> {
    let line = |at: u64| {
        json!({ "id": format!("l{at}"), "name": "thing", "carried": 1, "worn": 0, "used_up": 0,
        "unit_mg": 100_000 + odd.below(800_000), "provides": {}, "needs": {} })
    };
    (0..many).map(line).collect()
}

/// Swaps that each take one thing off, some of the things in turn.
fn swaps(odd: &mut Odd, many: u64, things: u64) -> Vec<Value> {
    let swap = |at: u64| {
        let (price, unit) = (100 + odd.below(40_000), 1_000 + odd.below(500_000));
        json!({ "id": format!("s{at}"), "name": "swap", "kind": "replace", "state": "open",
            "remove": [{ "line": format!("l{}", odd.below(things)), "qty": 1 }],
            "add": [{ "name": "new", "qty": 1, "unit_mg": unit, "price_minor": [price, price], "provides": {}, "needs": {} }],
            "delivery_minor": 0, "resale_minor": 0, "requires": [], "excludes": [] })
    };
    (0..many).map(swap).collect()
}

fn ids(numbers: &[u64], but: usize) -> Value {
    let mut numbers: Vec<u64> = numbers.iter().copied().filter(|at| usize::try_from(*at).unwrap() != but).collect();
    numbers.sort_unstable();
    numbers.dedup();
    json!(numbers.iter().map(|at| format!("s{at}")).collect::<Vec<_>>())
}

fn problem(lines: Vec<Value>, swaps: Vec<Value>, more: &Value) -> Value {
    let base: i64 = lines.iter().map(|line| line["unit_mg"].as_i64().unwrap()).sum();
    let mut file = json!({ "format": "kevyt-problem/2", "currency": "EUR", "lines": lines, "swaps": swaps, "require": {},
        "target_mg": base / 2, "budget_minor": 150_000, "hour_minor": 0 });
    file.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    file
}

fn problems() -> Vec<(&'static str, Value)> {
    let odd = &mut Odd(7);
    let none = json!({});
    let mut all = Vec::new();
    for (name, many, things) in [
        ("1 000 swaps, 5 exclusions each", 1_000, 500),
        ("4 000 swaps, 5 exclusions each", 4_000, 2_000),
        ("10 000 swaps, 5 exclusions each", 10_000, 5_000),
    ] {
        let (lines, mut swaps) = (lines(odd, things), swaps(odd, many, things));
        for (at, swap) in swaps.iter_mut().enumerate() {
            swap["excludes"] = ids(&odd.some(5, many), at);
        }
        all.push((name, problem(lines, swaps, &none)));
    }
    for (name, field) in
        [("10 000 swaps, 18 exclusions each", "excludes"), ("10 000 swaps, each requires 18", "requires")]
    {
        let (lines, mut swaps) = (lines(odd, 5_000), swaps(odd, 10_000, 5_000));
        for (at, swap) in swaps.iter_mut().enumerate() {
            swap[field] = ids(&odd.some(18, 10_000), at);
        }
        all.push((name, problem(lines, swaps, &none)));
    }
    let chain = |swaps: &mut [Value], most: usize| {
        for (at, swap) in swaps.iter_mut().enumerate().take(most).skip(1) {
            swap["requires"] = json!([format!("s{}", at - 1)]);
        }
    };
    let (of_chain, mut chained) = (lines(odd, 5_000), swaps(odd, 10_000, 5_000));
    chain(&mut chained, 10_000);
    for swap in &mut chained {
        swap["remove"] = json!([]);
        swap["add"][0]["unit_mg"] = json!(0);
        swap["add"][0]["price_minor"] = json!([0, 0]);
    }
    all.push(("10 000 swaps in a chain", problem(of_chain, chained, &json!({ "target_mg": 0 }))));
    let (of_chain, mut chained) = (lines(odd, 5_000), swaps(odd, 10_000, 5_000));
    for (at, swap) in chained.iter_mut().enumerate() {
        swap["remove"] = json!([{ "line": format!("l{}", at % 5_000), "qty": 1 }]);
        swap["resale_minor"] = json!(100);
    }
    chain(&mut chained, 5_000);
    let money = json!({ "target_mg": 0, "budget_minor": 1_000_000_000,
        "money": { "now_minor": 0, "month_minor": 600_000, "resale_after_months": 12 } });
    all.push(("a chain of 5 000 bought over months", problem(of_chain, chained, &money)));
    let jobs: Vec<String> = (0..40).map(|at| format!("job_{at}")).collect();
    let amounts = |odd: &mut Odd, jobs: &[String]| -> Value {
        jobs.iter().map(|job| (job.clone(), json!(1 + odd.below(9)))).collect::<serde_json::Map<_, _>>().into()
    };
    let (of_jobs, mut doing) = (lines(odd, 5_000), swaps(odd, 10_000, 5_000));
    for swap in &mut doing {
        swap["add"][0]["provides"] = amounts(odd, &jobs);
        swap["add"][0]["needs"] = amounts(odd, &jobs[..10]);
    }
    let require: Value = jobs.iter().map(|job| (job.clone(), json!(100))).collect::<serde_json::Map<_, _>>().into();
    all.push(("10 000 swaps, 40 jobs each", problem(of_jobs, doing, &json!({ "require": require }))));
    let (mut one, mut taking) = (lines(odd, 1), swaps(odd, 10_000, 1));
    one[0]["carried"] = json!(1_000);
    for swap in &mut taking {
        swap["remove"][0]["qty"] = json!(1 + odd.below(30));
    }
    all.push(("10 000 swaps of one line of 1 000 pieces", problem(one, taking, &none)));
    let (of_sides, mut sides) = (lines(odd, 5_000), swaps(odd, 10_000, 5_000));
    for swap in &mut sides {
        let mut some = odd.some(19, 5_000);
        some.sort_unstable();
        some.dedup();
        swap["remove"] = some.iter().map(|at| json!({ "line": format!("l{at}"), "qty": 1 })).collect();
    }
    all.push(("10 000 swaps of 19 lines each", problem(of_sides, sides, &none)));
    for (name, kits, parts) in [("50 kits of 100 parts", 50, 100), ("2 500 kits of 2 parts", 2_500, 2)] {
        let (lines, swaps) = (lines(odd, 5_000), swaps(odd, 10_000, 5_000));
        let part = |at: u64| json!({ "line": format!("l{at}"), "qty": 1 });
        let kit = |at: u64| {
            json!({ "name": "kit", "mg": 1_000_000 + odd.below(90_000_000),
            "parts": (at * parts..(at + 1) * parts).map(part).collect::<Vec<_>>() })
        };
        let kits: Vec<Value> = (0..kits).map(kit).collect();
        all.push((name, problem(lines, swaps, &json!({ "kits": kits }))));
    }
    for (name, resale) in [("14 purchases, resale after 12 months", 12), ("30 purchases, resale after 24 months", 24)] {
        let many = if resale == 12 { 14 } else { 30 };
        let (lines, mut swaps) = (lines(odd, many), swaps(odd, many, many));
        for (at, swap) in swaps.iter_mut().enumerate() {
            swap["remove"] = json!([{ "line": format!("l{at}"), "qty": 1 }]);
            swap["resale_minor"] = json!(1_000 + odd.below(19_000));
        }
        let money = json!({ "target_mg": 0, "budget_minor": 1_000_000_000,
            "money": { "now_minor": 0, "month_minor": 6_000, "resale_after_months": resale } });
        all.push((name, problem(lines, swaps, &money)));
    }
    all
}

fn lists() -> Vec<(&'static str, Value)> {
    let odd = &mut Odd(11);
    let mut list = |things: u64, walkers: u64, heaviest: bool| {
        let mut all: Vec<Value> = (0..things)
            .map(|at| json!({ "id": format!("t{at}"), "name": "t", "system": "other", "unit_mg": 10_000 + odd.below(1_900_000),
                "low_mg": null, "high_mg": null, "counts": { "carried": 1 }, "shared": true }))
            .collect();
        if heaviest {
            all.push(json!({ "id": "own", "name": "own", "system": "other", "unit_mg": 90_000_000, "low_mg": null,
                "high_mg": null, "counts": { "carried": 1 }, "walker": "w0" }));
        }
        let walkers: Vec<Value> = (0..walkers)
            .map(|at| json!({ "id": format!("w{at}"), "body_mg": 50_000_000 + odd.below(40_000_000) }))
            .collect();
        let trip = json!({ "days": 365, "food": { "mg_per_day": 700_000 }, "low_tenth_c": 0, "high_tenth_c": 100 });
        json!({ "format": "kevyt-list/1", "things": all, "trip": trip, "walkers": walkers })
    };
    vec![
        ("26 things shared by three, one the heaviest", list(26, 3, true)),
        ("40 things shared by eight", list(40, 8, false)),
        ("5 000 things shared by eight, a year", list(5_000, 8, false)),
    ]
}

fn main() {
    let shown = |name: &str, since: Instant, what: &str| {
        println!("| {name} | {:.2} s | {what} |", since.elapsed().as_secs_f64())
    };
    println!("| input | time | result |\n| --- | --- | --- |");
    // One of them alone, where its name is given.
    let only = std::env::args().nth(1).filter(|name| !name.starts_with("--"));
    for (name, file) in problems().into_iter().filter(|(name, _)| only.as_ref().is_none_or(|only| name.contains(only)))
    {
        let (problem, _) = read_problem(&file.to_string()).unwrap();
        let since = Instant::now();
        let until = |patience: Duration| {
            let until = Instant::now() + patience;
            move || Instant::now() > until
        };
        let ready = Ready::new(&problem).unwrap();
        let limits = Limits { most_open: 20_000, ..Limits::default() };
        let answer = solve(&ready, &limits, &until(PLAN)).unwrap();
        let planned = since.elapsed();
        if let (Some(purse), Some(set)) = (problem.terms.purse, &answer.plan.swaps) {
            let is_over = until(MONTHS);
            let mut steps = Steps::new(months::MONTHS_STEPS, &is_over);
            let order = BuyingOrder::new(&ready).of(set);
            months::soonest(&ready, &order, purse, &mut steps);
            months::by_order(&ready, &order, purse);
        }
        let order = BuyingOrder::new(&ready);
        let bases = answer.plan.swaps.as_ref().map(|set| order.bases(&order.of(set)).len());
        let bought = since.elapsed();
        let near = near_misses(&ready, &answer, &limits, &until(NEAR)).len();
        let what = format!(
            "plan {:.2} s ({}, {} points), buying {:.2} s ({} swaps), near misses {near}",
            planned.as_secs_f64(),
            if answer.plan.gap.is_some() || answer.plan.outcome == Outcome::Unresolved {
                "not proved"
            } else {
                "proved"
            },
            answer.frontier.points().len(),
            (bought - planned).as_secs_f64(),
            bases.unwrap_or(0),
        );
        shown(name, since, &what);
    }
    for (name, file) in lists() {
        let list = read_list(&file.to_string()).unwrap();
        let since = Instant::now();
        let sums = sums_json(&list);
        let proved = sums["even_split"]["proved"].is_null();
        shown(name, since, if proved { "split, proved" } else { "split, the best that was found" });
    }
}
