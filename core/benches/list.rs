//! A list of 300 things: its sums, ways, days and cautions; what of a shelf of 500 would quiet them; and 30 shared things split evenly.
#![allow(missing_docs, clippy::unwrap_used)]

use criterion::{Criterion, criterion_group, criterion_main};
use kevyt_core::caution::{Situation, Sleeper, cautions, remedies};
use kevyt_core::exchange::{TripList, read_list, sums_json};
use kevyt_core::quantity::Mass;
use kevyt_core::steps::Steps;
use kevyt_core::together::{SPLIT_STEPS, even_split};
use serde_json::json;
use std::hint::black_box;

fn list(things: usize) -> TripList {
    let thing = |at: usize| {
        let job = ["shelter", "light", "ground_insulation", "water_carried", "rain_shell"][at % 5];
        json!({
            "id": format!("t{at}"), "name": format!("thing {at}"), "system": "other",
            "unit_mg": 10_000 + at * 7_919 % 900_000, "low_mg": null, "high_mg": null,
            "counts": { "carried": 1, "worn": at % 7 / 6, "used_up": 0, "apart": 0, "left": 0 },
            "tags": [(["poles", "pocket", "consumables", "spare"][at % 4])], "contents_mg": null,
            "provides": { (job): 1 }, "needs": { "room": 500 }, "rating": null, "warms_tenth_c": null,
        })
    };
    let file = json!({
        "format": "kevyt-list/1",
        "things": (0..things).map(thing).collect::<Vec<_>>(),
        "trip": { "days": 14, "food": { "mg_per_day": 700_000 }, "stretch_m": 30_000, "pace_m_per_hour": 4_000,
            "low_tenth_c": -50, "high_tenth_c": 150, "snow": true, "resupply_days": [5, 9],
            "requires": { "first_aid": 1, "way_finding": 1, "call_for_help": 1 } },
    });
    read_list(&file.to_string()).unwrap()
}

fn lists(criterion: &mut Criterion) {
    let (many, shelf) = (list(300), list(500).things);
    criterion.bench_function("300 things added up", |bench| bench.iter(|| sums_json(black_box(&many))));
    criterion.bench_function("what of 500 things would quiet their cautions", |bench| {
        bench.iter(|| {
            let situation = Situation::new(&many.things, &many.things, &many.trip, Sleeper::default());
            let raised = cautions(&situation);
            remedies(&situation, &raised, black_box(&shelf))
        });
    });
    for walkers in [2, 3] {
        // Masses to the milligram, so that no split is even by chance.
        let shared: Vec<Mass> = (0..30).map(|at| Mass::from_mg(20_011 + at * 48_611 % 1_900_003)).collect();
        let own: Vec<Mass> = (0..walkers).map(|at| Mass::from_mg(6_000_007 + at * 710_009)).collect();
        let bodies: Vec<Option<Mass>> =
            (0..walkers).map(|at| Some(Mass::from_mg(57_000_000 + at * 11_000_000))).collect();
        let split = || even_split(&own, &bodies, black_box(&shared), &mut Steps::up_to(SPLIT_STEPS)).unwrap();
        assert!(split().is_proved);
        criterion.bench_function(&format!("30 shared things between {walkers}"), |bench| {
            bench.iter(split);
        });
    }
}

criterion_group!(benches, lists);
criterion_main!(benches);
