//! The planner against brute force, on random problems with every feature.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::as_conversions)]

mod cases;
mod lists;
mod near;
mod plainly;
mod sure;
mod target_of;

use super::{Hung, Limits, Meet, Night, Outcome, Problem, Ready, Terms, Warmth, solve};
use crate::gear::{Job, Jobs, Known, Rating, RatingKind, Tags};
use crate::list::{Counts, Line, LineId, Place, WeighedKit};
use crate::quantity::{Currency, Mass, Money, PriceRange, Temperature};
use crate::swap::{Addition, Removal, Swap, SwapId, SwapKind, SwapState};
use plainly::Solution;
use proptest::prelude::*;

const JOBS: [&str; 4] = ["light", "stake", "room", "load"];

fn jobs() -> impl Strategy<Value = Jobs> {
    prop::collection::btree_map((0..JOBS.len()).prop_map(|at| Job::new(JOBS[at]).unwrap()), 0..4_i64, 0..=2)
}

fn line(at: usize) -> impl Strategy<Value = Line> {
    let unit = prop::option::weighted(0.9, (0..6_i64).prop_map(|unit| Mass::from_mg(unit * 1_000)));
    ((0..3_u32), (0..2_u32), (0..2_u32), unit, jobs(), jobs()).prop_map(
        move |(carried, worn, used_up, unit, provides, needs)| Line {
            id: LineId(format!("l{at}")),
            name: format!("line {at}"),
            counts: Counts { carried, worn, used_up, ..Counts::default() },
            weight: unit.map(Known::exactly),
            tags: Tags::default(),
            provides,
            needs,
        },
    )
}

fn place() -> impl Strategy<Value = Place> {
    prop_oneof![8 => Just(Place::Carried), 1 => Just(Place::Worn), 1 => Just(Place::UsedUp)]
}

fn addition() -> impl Strategy<Value = Addition> {
    let unit = prop::option::weighted(0.95, (0..5_i64).prop_map(|unit| Mass::from_mg(unit * 1_000)));
    let price = prop::option::weighted(0.95, (0..5_i64, 0..3_i64));
    let gas = prop_oneof![4 => Just(0), 1 => 1..4_i64];
    ((1..3_u32), unit, price, place(), jobs(), jobs(), gas).prop_map(
        |(qty, unit, price, place, provides, needs, gas)| {
            let price = price
                .map(|(low, more)| PriceRange::new(Money::from_minor(low), Money::from_minor(low + more)).unwrap());
            let weight = unit.map(Known::exactly);
            Addition {
                name: "new".to_owned(),
                qty,
                weight,
                price,
                place,
                provides,
                needs,
                gas: Mass::from_mg(gas * 1_000),
            }
        },
    )
}

/// Kits of one line or two, the newest first; some share pieces.
fn kits(lines: usize) -> impl Strategy<Value = Vec<WeighedKit>> {
    let parts = prop::collection::btree_map((0..lines).prop_map(|line| LineId(format!("l{line}"))), 1..3_u32, 1..3);
    let kit = (0..15_i64, parts).prop_map(|(weighed, parts)| WeighedKit {
        name: "kit".to_owned(),
        weighed: Mass::from_mg(weighed * 1_000),
        parts: parts.into_iter().collect(),
    });
    prop::collection::vec(kit, 0..4)
}

/// Ids are scattered so that their order is not the order of the swaps.
fn swap_id(at: usize) -> SwapId {
    SwapId(format!("s{}", (at * 7 + 3) % 11))
}

fn swap(at: usize, lines: usize, swaps: usize) -> impl Strategy<Value = Swap> {
    let removal = ((0..lines), (1..3_u32), place()).prop_map(|(line, qty, from)| Removal {
        line: LineId(format!("l{line}")),
        qty,
        from,
    });
    let state = prop_oneof![8 => Just(SwapState::Open), 1 => Just(SwapState::Pinned), 1 => Just(SwapState::RuledOut)];
    let links = move |weight| {
        prop::collection::vec(0..swaps, 0..=1).prop_flat_map(move |link| {
            prop::bool::weighted(weight).prop_map(move |keep| if keep { link.clone() } else { Vec::new() })
        })
    };
    (
        prop::collection::vec(removal, 0..3),
        prop::collection::vec(addition(), 0..3),
        (0..3_i64, 0..4_i64, 0..3_i64, prop::option::of(0..2_usize)),
        (links(0.2), links(0.2)),
        state,
    )
        .prop_map(move |(remove, add, (delivery, resale, tenth_hours, place), (requires, excludes), state)| {
            let ids = |links: Vec<usize>| links.into_iter().filter(|&other| other != at).map(swap_id).collect();
            Swap {
                id: swap_id(at),
                name: format!("swap {at}"),
                kind: SwapKind::Replace,
                state,
                remove,
                add,
                delivery: Money::from_minor(delivery),
                ordered_from: place.map(|place| ["the shed", "The  Shed", "by post"][place + at % 2].to_owned()),
                resale: Money::from_minor(resale),
                tenth_hours,
                requires: ids(requires),
                excludes: ids(excludes),
            }
        })
}

prop_compose! {
    fn problem()(lines in 1..5_usize, swaps in 0..10_usize)(
        lines in (0..lines).map(line).collect::<Vec<_>>(),
        kits in kits(lines),
        swaps in (0..swaps).map(|at| swap(at, lines, swaps)).collect::<Vec<_>>(),
        require in jobs(),
        heaviest in prop::option::of(0..14_i64),
        gas in prop::collection::hash_map((0..lines).prop_map(|at| LineId(format!("l{at}"))), (0..4_i64).prop_map(|grams| Mass::from_mg(grams * 1_000)), 0..2),
        target in 0..20_i64,
        budget in 0..12_i64,
        hour in 0..30_i64,
    ) -> Problem {
        Problem {
            currency: Currency::from_code("EUR").unwrap(),
            lines, kits, swaps, require, gas, night: None,
            heaviest_start: heaviest.map(|grams| Mass::from_mg(grams * 1_000)),
            target: Mass::from_mg(target * 1_000),
            budget: Money::from_minor(budget),
            hour_rate: Money::from_minor(hour),
            terms: Terms::default(),
        }
    }
}

fn warmth() -> impl Strategy<Value = Warmth> {
    let kind = prop_oneof![
        3 => Just(RatingKind::Comfort),
        2 => Just(RatingKind::Limit),
        1 => Just(RatingKind::Unknown),
        1 => Just(RatingKind::Extreme)
    ];
    let rating = prop::option::weighted(0.6, (kind, -3..4_i64));
    let hung = prop_oneof![3 => Just(None), 1 => Just(Some(Hung::Hammock)), 1 => Just(Some(Hung::Underquilt))];
    (rating, prop_oneof![2 => Just(0), 1 => 1..4_i64], hung).prop_map(|(rating, adds, hung)| Warmth {
        rating: rating.map(|(kind, at)| Rating { kind, at: Temperature::from_tenths(at * 20) }),
        adds: adds * 20,
        hung,
    })
}

prop_compose! {
    /// With a night to get through, and some of what is to be met.
    fn night_out()(problem in problem())(
        of_lines in prop::collection::vec((warmth(), 0..3_i64), problem.lines.len()),
        of_additions in prop::collection::vec((warmth(), 0..3_i64), 20),
        low in -2..3_i64, offset in -1..2_i64, ground in 0..6_i64,
        meet in prop::collection::btree_set(prop_oneof![
            Just(Meet::Warmth), Just(Meet::Ground), (0..JOBS.len()).prop_map(|at| Meet::Job(Job::new(JOBS[at]).unwrap()))
        ], 0..2),
        problem in Just(problem),
    ) -> Problem {
        let mut problem = problem;
        let pads = Job::new("ground_insulation").unwrap();
        let mut night = Night { low: low * 20, offset: offset * 20, ground, ..Night::default() };
        for (line, (warmth, r)) in problem.lines.iter_mut().zip(of_lines) {
            line.provides.insert(pads.clone(), r);
            night.lines.insert(line.id.clone(), warmth);
        }
        let mut of_additions = of_additions.into_iter();
        for swap in &mut problem.swaps {
            for (at, addition) in swap.add.iter_mut().enumerate() {
                let Some((warmth, r)) = of_additions.next() else { continue };
                addition.provides.insert(pads.clone(), r);
                night.additions.insert((swap.id.clone(), at), warmth);
            }
        }
        problem.night = Some(night);
        // What is over a pack's load is a condition of its own.
        problem.terms.meet = meet.into_iter().filter(|meet| meet.key() != "load" || problem.heaviest_start.is_none()).collect();
        problem
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 1_500, ..ProptestConfig::default() })]

    #[test]
    fn the_frontier_is_that_of_brute_force(problem in problem()) {
        let ready = Ready::new(&problem).unwrap();
        let answer = solve(&ready, &Limits::default(), &|| false).unwrap();
        let found: Vec<Solution> = answer
            .frontier
            .points()
            .iter()
            .enumerate()
            .map(|(at, point)| (point.net.minor(), point.base.mg(), answer.frontier.swaps(at)))
            .collect();
        prop_assert_eq!(found, plainly::frontier(&problem));
        prop_assert_eq!(ready.base().mg(), plainly::base(&problem));
        prop_assert!(answer.frontier.is_proved());
    }

    #[test]
    fn no_night_is_colder_and_what_is_asked_is_met(problem in night_out(), most_work in prop_oneof![Just(u64::MAX), Just(0)]) {
        let ready = Ready::new(&problem).unwrap();
        // By labels, or all of it asked.
        let limits = Limits { most_work, ..Limits::default() };
        let answer = solve(&ready, &limits, &|| false).unwrap();
        let points = answer.frontier.points().iter().enumerate();
        let found: Vec<Solution> =
            points.map(|(at, point)| (point.net.minor(), point.base.mg(), answer.frontier.swaps(at))).collect();
        let expected = plainly::frontier(&problem);
        prop_assert_eq!(&found, &expected);
        let without = Problem { terms: Terms::default(), ..problem.clone() };
        let cheapest = plainly::frontier(&without).first().map(|first| first.0);
        let (meets, budget) = (!problem.terms.meet.is_empty(), problem.budget.minor());
        match &answer.plan.outcome {
            Outcome::Unmet { unmet } => {
                prop_assert!(meets && expected.is_empty() && cheapest.is_some());
                let alone = |meet: &Meet| {
                    let terms = Terms { meet: vec![meet.clone()], ..Terms::default() };
                    plainly::frontier(&Problem { terms, ..problem.clone() }).is_empty()
                };
                let mut never: Vec<Meet> = problem.terms.meet.iter().filter(|meet| alone(meet)).cloned().collect();
                if never.is_empty() {
                    never = problem.terms.meet.clone();
                }
                never.sort_by_key(|meet| meet.key().to_owned());
                prop_assert_eq!(unmet, &never);
            }
            Outcome::TooDear { more } => {
                prop_assert!(meets && cheapest.unwrap() <= budget);
                prop_assert_eq!(more.minor(), expected[0].0 - budget);
                prop_assert!(more.minor() > 0);
            }
            Outcome::PinsClash { .. } => prop_assert!(cheapest.is_none_or(|cheapest| cheapest > budget)),
            _ => {}
        }
    }

    #[test]
    fn the_solver_answers_as_brute_force_does(problem in problem()) {
        // Without a label to begin with, all of it is asked.
        let ready = Ready::new(&problem).unwrap();
        let limits = Limits { most_work: 0, ..Limits::default() };
        let answer = solve(&ready, &limits, &|| false).unwrap();
        let points = answer.frontier.points().iter().enumerate();
        let found: Vec<Solution> =
            points.map(|(at, point)| (point.net.minor(), point.base.mg(), answer.frontier.swaps(at))).collect();
        prop_assert_eq!(found, plainly::frontier(&problem));
        prop_assert!(answer.frontier.is_proved());
    }

    #[test]
    fn a_larger_budget_is_never_worse_and_the_plan_is_no_worse_than_the_ranking(problem in problem(), more in 0..9_i64) {
        let ready = Ready::new(&problem).unwrap();
        let answer = solve(&ready, &Limits::default(), &|| false).unwrap();
        let richer = super::plan_for(&ready, &answer.frontier, problem.target, problem.budget + Money::from_minor(more));
        let met = |outcome: &Outcome| matches!(outcome, Outcome::TargetMet | Outcome::AlreadyMet);
        prop_assert!(answer.plan.swaps.is_none() || richer.short_by <= answer.plan.short_by);
        prop_assert!(!met(&answer.plan.outcome) || met(&richer.outcome));
        if answer.ranking_alone.swaps.is_some() && answer.plan.swaps.is_some() {
            prop_assert!(!answer.ranking_alone.met || met(&answer.plan.outcome));
            if answer.ranking_alone.met {
                prop_assert!(answer.plan.net <= answer.ranking_alone.net);
            } else if !met(&answer.plan.outcome) {
                prop_assert!(answer.plan.base <= answer.ranking_alone.base);
            }
        }
    }

    #[test]
    fn a_search_that_is_stopped_says_how_far_it_may_be_from_the_best(problem in problem(), work in 0..60_u64, cells in 0..300_usize, steps in 0..60_000_usize) {
        let ready = Ready::new(&problem).unwrap();
        let best = solve(&ready, &Limits::default(), &|| false).unwrap();
        let limits = Limits { most_work: work, most_cells: cells, most_steps: steps, ..Limits::default() };
        let stopped = solve(&ready, &limits, &|| false).unwrap();
        for (at, point) in stopped.frontier.points().iter().enumerate() {
            let Some(gap) = stopped.frontier.gap(at) else {
                // What has no gap is on the frontier.
                prop_assert!(best.frontier.points().contains(point));
                continue;
            };
            let lightest = best.frontier.lightest_within(point.net).unwrap();
            prop_assert!(point.base - gap.mass <= best.frontier.points()[lightest].base);
            let cheapest = best.frontier.cheapest_at_or_under(point.base).unwrap();
            prop_assert!(point.net - gap.money <= best.frontier.points()[cheapest].net);
        }
    }
}
