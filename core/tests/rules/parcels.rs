//! What is ordered together: `tests/parcels.json` was calculated apart from core. The browser application is held against it too, as it
//! splits what a plan costs over its swaps (`web/src/domain/golden.test.ts`).

use kevyt_core::exchange::{answer_json, read_problem};
use kevyt_core::plan::{Limits, Ready, solve};
use serde_json::{Value, json};

#[test]
fn the_dearest_delivery_of_what_is_ordered_together_is_paid_once() {
    let case: Value = serde_json::from_str(include_str!("../parcels.json")).unwrap();
    let (problem, version) = read_problem(&case["problem"].to_string()).unwrap();
    let ready = Ready::new(&problem).unwrap();
    let solved = solve(&ready, &Limits::default(), &|| false).unwrap();
    let answer = answer_json(&ready, &solved, version, &|| false).unwrap();
    assert_eq!(answer["frontier"], case["answer"]["frontier"]);
    let ranking = answer["ranking"].as_array().unwrap();
    let mut nets: Vec<Value> =
        ranking.iter().map(|row| json!({ "swap": row["swap"], "net_minor": row["net_minor"] })).collect();
    nets.sort_by_key(|row| row["swap"].as_str().unwrap().to_owned());
    assert_eq!(Value::from(nets), case["answer"]["ranking"]);
}
