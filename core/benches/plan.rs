//! How long a whole frontier takes, at the sizes that docs/benchmarks.md names; with `--features milp`, beside one single-target
//! answer by a general solver. Weights are whole grams, as a kitchen scale gives them; prices end in .00, .50 or .90.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::as_conversions, clippy::print_stdout, missing_docs)]

use criterion::{Criterion, criterion_group, criterion_main};
use kevyt_core::gear::{Job, Jobs, Known, Rating, RatingKind, Tags};
use kevyt_core::list::{Counts, Line, LineId, Place};
use kevyt_core::plan::lists::{Acting, ListsProblem, OneList, solve_lists};
use kevyt_core::plan::{Limits, Meet, Night, Problem, Ready, Terms, Warmth, near_misses, solve};
use kevyt_core::quantity::{Currency, Mass, Money, PriceRange, Temperature};
use kevyt_core::swap::{Addition, Removal, Swap, SwapId, SwapKind, SwapState};
use std::cell::Cell;
use std::collections::HashMap;
use std::hint::black_box;
use std::time::{Duration, Instant};

/// Name, things on the list, swaps, and whether six jobs couple them.
const SIZES: [(&str, usize, usize, bool); 4] = [
    ("60 swaps, 20 things", 20, 60, false),
    ("1000 swaps, 100 things", 100, 1000, false),
    ("300 swaps, 60 things, six jobs", 60, 300, true),
    ("4000 swaps, 400 things", 400, 4000, false),
];

/// A small generator of its own (xorshift64*), so that the problems are the same everywhere.
struct Dice(u64);

impl Dice {
    fn roll(&mut self, from: i64, to: i64) -> i64 {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        let number = self.0.wrapping_mul(0x2545_F491_4F6C_DD1D) >> 33;
        from + (number as i64).rem_euclid(to - from + 1)
    }
}

fn jobs<const N: usize>(amounts: [(&str, i64); N]) -> Jobs {
    amounts.into_iter().map(|(job, amount)| (Job::new(job).unwrap(), amount)).collect()
}

/// `things` on the list and `swaps` that replace one each; with `coupled`, six jobs run between them: room in the pack and
/// its load over all of them, stakes, poles, water and power over some.
fn problem(things: usize, swaps: usize, coupled: bool, seed: u64) -> Problem {
    let mut dice = Dice(0x5EED ^ things as u64 ^ seed << 32);
    let weight = |dice: &mut Dice| dice.roll(20, 60) * dice.roll(1, 30);
    let weights: Vec<i64> = (0..things).map(|_| weight(&mut dice)).collect();
    let some_jobs = |dice: &mut Dice, at: usize, grams: i64| -> (Jobs, Jobs) {
        if !coupled {
            return (Jobs::new(), Jobs::new());
        }
        let mut needs = jobs([("room", grams * dice.roll(2, 6)), ("load", grams)]);
        let mut provides = Jobs::new();
        match at % 10 {
            0 => needs.extend(jobs([("stake", dice.roll(4, 10)), ("shelter_pole", dice.roll(0, 2))])),
            1 => provides.extend(jobs([("stake", dice.roll(4, 10))])),
            2 => provides.extend(jobs([("shelter_pole", dice.roll(1, 2))])),
            3 => provides.extend(jobs([("water_carried", dice.roll(1, 4) * 500)])),
            4 => needs.extend(jobs([("power", dice.roll(1, 6) * 500)])),
            5 => provides.extend(jobs([("power", dice.roll(4, 10) * 1000)])),
            6 => provides.extend(jobs([("room", dice.roll(20, 30) * 1000), ("load", dice.roll(4, 9) * 1000)])),
            _ => {}
        }
        (provides, needs)
    };
    let lines = weights.iter().enumerate().map(|(at, &grams)| {
        let (provides, needs) = some_jobs(&mut dice, at, grams);
        let (id, name) = (LineId(format!("l{at:03}")), format!("thing {at}"));
        Line {
            id,
            name,
            counts: Counts { carried: 1, ..Counts::default() },
            weight: Some(Known::exactly(Mass::from_mg(grams * 1000))),
            tags: Tags::default(),
            provides,
            needs,
        }
    });
    let lines: Vec<Line> = lines.collect();
    let swaps = (0..swaps).map(|at| {
        let thing = at % things;
        let grams = weights[thing] * dice.roll(30, 105) / 100;
        let price = dice.roll(4, 400) * 100 + [0, 50, 90][dice.roll(0, 2) as usize];
        let resale = if dice.roll(0, 3) == 0 { dice.roll(5, 60) * 100 } else { 0 };
        let (provides, needs) = some_jobs(&mut dice, thing, grams);
        Swap {
            id: SwapId(format!("s{at:04}")),
            name: format!("swap {at}"),
            kind: SwapKind::Replace,
            state: SwapState::Open,
            remove: vec![Removal { line: LineId(format!("l{thing:03}")), qty: 1, from: Place::Carried }],
            add: vec![Addition {
                name: format!("choice {at}"),
                qty: 1,
                weight: Some(Known::exactly(Mass::from_mg(grams * 1000))),
                price: Some(PriceRange::exact(Money::from_minor(price))),
                place: Place::Carried,
                provides,
                needs,
                gas: Mass::ZERO,
            }],
            delivery: Money::ZERO,
            ordered_from: None,
            resale: Money::from_minor(resale),
            tenth_hours: 0,
            requires: Vec::new(),
            excludes: Vec::new(),
        }
    });
    let swaps: Vec<Swap> = swaps.collect();
    let base: i64 = weights.iter().sum();
    Problem {
        currency: Currency::from_code("EUR").unwrap(),
        lines,
        kits: Vec::new(),
        swaps,
        require: if coupled { jobs([("water_carried", 3000), ("power", 9000)]) } else { Jobs::new() },
        target: Mass::from_mg(base * 800),
        budget: Money::from_minor(things as i64 * 6_000),
        hour_rate: Money::ZERO,
        heaviest_start: None,
        gas: HashMap::new(),
        night: None,
        terms: Terms::default(),
    }
}

fn frontiers(c: &mut Criterion) {
    let mut group = c.benchmark_group("frontier");
    group.sample_size(10);
    for (name, things, swaps, coupled) in SIZES {
        let problem = problem(things, swaps, coupled, 0);
        let ready = Ready::new(&problem).unwrap();
        let answer = solve(&ready, &Limits::default(), &|| false).unwrap();
        println!(
            "{name}: {} points, proved: {}, {:?}",
            answer.frontier.points().len(),
            answer.frontier.is_proved(),
            answer.plan.outcome
        );
        group.bench_function(name, |b| {
            b.iter(|| {
                let ready = Ready::new(black_box(&problem)).unwrap();
                solve(&ready, &Limits::default(), &|| false).unwrap()
            });
        });
    }
    group.finish();
}

/// What it takes for each open swap to come into the plan or to fall out, the frontier being known.
fn near(c: &mut Criterion) {
    let mut group = c.benchmark_group("near misses");
    group.sample_size(10);
    let problem = problem(60, 300, true, 0);
    let ready = Ready::new(&problem).unwrap();
    let answer = solve(&ready, &Limits::default(), &|| false).unwrap();
    let all = || near_misses(&ready, &answer, &Limits::default(), &|| false);
    println!("{} near misses, {:?}", all().len(), answer.plan.outcome);
    group.bench_function("300 swaps, jobs coupled", |b| b.iter(all));
    group.finish();
}

/// One of the tightly coupled problems in `tests/golden/hard/`.
fn hard(at: usize) -> Problem {
    let file = format!("{}/tests/golden/hard/{at:02}.json", env!("CARGO_MANIFEST_DIR"));
    let case: serde_json::Value = serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap();
    kevyt_core::exchange::read_problem(&case["problem"].to_string()).unwrap().0
}

/// Both answers of the tightly coupled problems in `tests/golden/hard/`, proved, without their frontiers.
fn hard_answers(c: &mut Criterion) {
    let mut group = c.benchmark_group("both answers");
    group.sample_size(10);
    for at in 1..=12 {
        let problem = hard(at);
        let ready = Ready::new(&problem).unwrap();
        // Told to stop at once, it still takes a first look: on these that is both answers.
        let both = || solve(&ready, &Limits::default(), &|| true).unwrap();
        assert!(both().plan.gap.is_none(), "{at} is not proved");
        group.bench_function(format!("{at:02}"), |b| b.iter(both));
    }
    group.finish();
}

/// The same with a night to get through at 0 °C, in a bed that is too cold, on a pad that is too thin, and three things to meet. Every other
/// line that swaps replace is a bed, a liner or a pad, and so is what they put on, warmer or colder.
fn hard_night(at: usize) -> Problem {
    let mut problem = hard(at);
    let mut dice = Dice(0xC01D ^ at as u64);
    let pads = Job::new("ground_insulation").unwrap();
    let mut night = Night { ground: 35, ..Night::default() };
    let bed = |tenths: i64| Warmth {
        rating: Some(Rating { kind: RatingKind::Comfort, at: Temperature::from_tenths(tenths) }),
        ..Warmth::default()
    };
    let mut parts: HashMap<LineId, usize> = HashMap::new();
    for (at, line) in problem.lines.iter_mut().enumerate().filter(|(at, _)| at % 2 == 0).take(24) {
        let part = at / 2 % 3;
        parts.insert(line.id.clone(), part);
        match part {
            0 => drop(night.lines.insert(line.id.clone(), bed(dice.roll(40, 90)))),
            1 => drop(night.lines.insert(line.id.clone(), Warmth { adds: dice.roll(0, 4), ..Warmth::default() })),
            _ => drop(line.provides.insert(pads.clone(), dice.roll(0, 4))),
        }
    }
    for swap in &mut problem.swaps {
        let part = swap.remove.first().and_then(|removal| parts.get(&removal.line)).copied();
        let (Some(part), Some(added)) = (part, swap.add.first_mut()) else { continue };
        match part {
            0 => drop(night.additions.insert((swap.id.clone(), 0), bed(dice.roll(0, 90)))),
            1 => drop(
                night.additions.insert((swap.id.clone(), 0), Warmth { adds: dice.roll(0, 8), ..Warmth::default() }),
            ),
            _ => drop(added.provides.insert(pads.clone(), dice.roll(0, 12))),
        }
    }
    problem.night = Some(night);
    problem.terms.meet = vec![Meet::Warmth, Meet::Ground, Meet::Job(Job::new("water_ml").unwrap())];
    problem
}

/// Both answers of those, proved.
fn hard_night_answers(c: &mut Criterion) {
    let mut group = c.benchmark_group("both answers with a night and three things to meet");
    group.sample_size(10);
    for at in 1..=12 {
        let problem = hard_night(at);
        let ready = Ready::new(&problem).unwrap();
        let both = || solve(&ready, &Limits::default(), &|| true).unwrap();
        let plan = both().plan;
        println!("{at:02}: {:?}, proved: {}", plan.outcome, plan.gap.is_none());
        group.bench_function(format!("{at:02}"), |b| b.iter(both));
    }
    group.finish();
}

/// Six lists of 60 things that jobs couple, with 300 swaps: each has most of the things, nights of its own and a target of nine tenths.
fn year(seed: u64) -> ListsProblem {
    let mut whole = problem(60, 300, true, seed);
    let mut dice = Dice(0x0EA2 ^ seed << 8);
    let require = std::mem::take(&mut whole.require);
    let lists = (0..6).map(|at| {
        let on: Vec<&Line> = whole.lines.iter().filter(|_| dice.roll(0, 9) < 8).collect();
        let base: i64 = on.iter().map(|line| line.unit().unwrap().mg()).sum();
        let one = Counts { carried: 1, ..Counts::default() };
        OneList {
            id: format!("list {at}"),
            nights: dice.roll(1, 14) as u32,
            target: Some(Mass::from_mg(base * 9 / 10)),
            counts: on.into_iter().map(|line| (line.id.clone(), one)).collect(),
            require: require.clone(),
            night: None,
            heaviest_start: None,
        }
    });
    let lists = lists.collect();
    whole.lines.iter_mut().for_each(|line| line.counts = Counts::default());
    let acting = whole.swaps.iter().map(|_| Acting { lists: None, from: vec![None], to: vec![None] }).collect();
    ListsProblem { whole, lists, acting }
}

/// Both answers for twelve of those, and their whole frontiers.
fn years(c: &mut Criterion) {
    let mut group = c.benchmark_group("six lists together");
    group.sample_size(10);
    for seed in 1..=12 {
        let problem = year(seed);
        let expanded = problem.expand().unwrap();
        let ready = expanded.ready().unwrap();
        let both = || {
            // Until the plan is proved, or after a while.
            let mut steps = 20;
            loop {
                let asked = Cell::new(0);
                let stop = || asked.replace(asked.get() + 1) > steps;
                let plan = solve_lists(&ready, &Limits::default(), &stop).unwrap().plan;
                if plan.is_proved || steps > 2_000 {
                    return plan.is_proved;
                }
                steps *= 3;
            }
        };
        let begun = Instant::now();
        let stop = || begun.elapsed() > Duration::from_secs(15);
        let answer = solve_lists(&ready, &Limits::default(), &stop).unwrap();
        println!(
            "{seed:02}: {:?}, proved: {}; {} points in {:.1} s, whole: {}",
            answer.plan.outcome,
            both(),
            answer.frontier.points().len(),
            begun.elapsed().as_secs_f64(),
            answer.frontier.is_proved()
        );
        group.bench_function(format!("both answers of {seed:02}"), |b| b.iter(both));
    }
    group.finish();
}

/// Whole frontiers of the same problems.
fn hard_frontiers(c: &mut Criterion) {
    let mut group = c.benchmark_group("whole frontier");
    group.sample_size(10);
    for at in 1..=12 {
        let problem = hard(at);
        let ready = Ready::new(&problem).unwrap();
        let whole = || solve(&ready, &Limits::default(), &|| false).unwrap().frontier;
        let points = whole();
        assert!(points.is_proved(), "{at} is not proved");
        println!("{at}: {} points", points.points().len());
        group.bench_function(format!("{at:02}"), |b| b.iter(whole));
    }
    group.finish();
}

/// One answer (cheapest set at or under the target) by a general MILP solver, for the size that couples jobs and for the
/// large one. Its optimum must be the planner's.
#[cfg(feature = "milp")]
fn one_answer_by_milp(c: &mut Criterion) {
    use highs::{HighsModelStatus, RowProblem, Sense};
    use std::collections::BTreeMap;
    let mut group = c.benchmark_group("one answer by a MILP solver");
    group.sample_size(10);
    for (name, things, swaps, coupled) in SIZES {
        let problem = problem(things, swaps, coupled, 0);
        let ready = Ready::new(&problem).unwrap();
        let cheapest = || {
            let mut model = RowProblem::default();
            let mut columns = Vec::new();
            let mut per_line: BTreeMap<&LineId, Vec<(highs::Col, f64)>> = BTreeMap::new();
            let mut per_job: BTreeMap<&Job, Vec<(usize, f64)>> = BTreeMap::new();
            let mut mass = Vec::new();
            for (swap, worth) in problem.swaps.iter().zip(ready.worths()) {
                let (saving, net) = worth.complete().unwrap();
                let column = model.add_integer_column(net.minor() as f64, 0..=1);
                columns.push(column);
                mass.push((column, saving.mg() as f64 / 1000.0));
                per_line.entry(&swap.remove[0].line).or_default().push((column, 1.0));
                let line = ready.lines()[&swap.remove[0].line];
                let added = &swap.add[0];
                for (jobs, sign) in
                    [(&added.provides, 1.0), (&added.needs, -1.0), (&line.provides, -1.0), (&line.needs, 1.0)]
                {
                    for (job, amount) in jobs {
                        per_job.entry(job).or_default().push((columns.len() - 1, sign * *amount as f64));
                    }
                }
            }
            for terms in per_line.into_values() {
                model.add_row(..=1, terms);
            }
            for (job, terms) in per_job {
                let balance: i64 = problem
                    .lines
                    .iter()
                    .map(|line| line.provides.get(job).unwrap_or(&0) - line.needs.get(job).unwrap_or(&0))
                    .sum();
                let spare = (balance - problem.require.get(job).unwrap_or(&0)).max(0);
                // A column may stand in a job's row several times; the solver wants one factor each.
                let mut factors: BTreeMap<usize, (highs::Col, f64)> = BTreeMap::new();
                for (column, factor) in terms {
                    factors.entry(column).or_insert((columns[column], 0.0)).1 += factor;
                }
                model.add_row(-(spare as f64).., factors.into_values().collect::<Vec<_>>());
            }
            model.add_row((ready.base() - problem.target).mg() as f64 / 1000.0.., mass);
            let mut model = model.optimise(Sense::Minimise);
            model.set_option("mip_rel_gap", 0.0);
            model.set_option("mip_abs_gap", 0.5);
            let solved = model.solve();
            assert_eq!(solved.status(), HighsModelStatus::Optimal);
            solved.objective_value()
        };
        let exact = solve(&ready, &Limits::default(), &|| false).unwrap();
        let at = exact.frontier.cheapest_at_or_under(problem.target).unwrap();
        assert!((cheapest() - exact.frontier.points()[at].net.minor() as f64).abs() < 1.0, "{name}");
        group.bench_function(name, |b| b.iter(cheapest));
    }
    group.finish();
}

#[cfg(not(feature = "milp"))]
criterion_group!(benches, frontiers, hard_answers, hard_night_answers, years, hard_frontiers, near);
#[cfg(feature = "milp")]
criterion_group!(benches, frontiers, hard_answers, hard_night_answers, years, hard_frontiers, near, one_answer_by_milp);
criterion_main!(benches);
