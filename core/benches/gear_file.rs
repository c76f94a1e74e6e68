//! Reading a gear file of 10 000 lines: split, mapped, understood, and set against as many things that are there.
#![allow(missing_docs, clippy::unwrap_used)]

use criterion::{Criterion, criterion_group, criterion_main};
use kevyt_core::exchange::gear_file::{Mapping, Outcome, Sheet, compare, read_rows};
use kevyt_core::gear::Gear;
use kevyt_core::quantity::{Currency, MassUnit};
use std::hint::black_box;

const LINES: usize = 10_000;

/// Semicolons and decimal commas, each line another thing.
fn file() -> String {
    let mut text = String::from("Item;Category;Qty;Weight (g);Price;Tags\r\n");
    for at in 0..LINES {
        let system = ["shelter", "sleep", "kitchen", "rain", "wash"][at % 5];
        let (grams, cents, euros) = (5 + at % 1_900, at % 100, at % 400);
        text +=
            &format!("thing no. {at};{system};{};{grams},{};{euros},{cents:02};tag{}\r\n", 1 + at % 4, at % 10, at % 7);
    }
    text
}

fn gear_file(criterion: &mut Criterion) {
    let text = file();
    let euro = Currency::from_code("EUR").unwrap();
    let read = |there: &[(usize, Gear)]| {
        let sheet = Sheet::read(black_box(text.as_bytes())).unwrap();
        let (rows, refused) =
            read_rows(&sheet, &Mapping::suggest(&sheet, MassUnit::G, kevyt_core::gear::WeightSource::Estimate), euro);
        assert!(rows.len() == LINES && refused.is_empty());
        compare(there, &rows)
    };
    let things: Vec<(usize, Gear)> = read(&[])
        .into_iter()
        .enumerate()
        .filter_map(|(at, outcome)| match outcome {
            Outcome::Add(thing) => Some((at, thing)),
            _ => None,
        })
        .collect();
    let mut group = criterion.benchmark_group("gear file of 10 000 lines");
    group.bench_function("onto nothing", |b| b.iter(|| read(&[])));
    group.bench_function("onto the same things", |b| b.iter(|| read(&things)));
    group.finish();
}

criterion_group!(benches, gear_file);
criterion_main!(benches);
