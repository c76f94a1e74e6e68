//! Single cases of rules, outcomes and refusals, on one line with two choices.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use super::super::{Answer, BuyingOrder, Limits, Outcome, Problem, Ready, Terms, solve};
use super::swap_id;
use crate::gear::{Job, Jobs, Known, Tags};
use crate::list::{Counts, Line, LineId, Place};
use crate::quantity::{Currency, Mass, Money, PriceRange};
use crate::swap::{Addition, Removal, Swap, SwapId, SwapKind, SwapState};
use std::collections::HashMap;

#[test]
fn pins_that_clash_are_named() {
    let mut problem = two_choices();
    problem.swaps.iter_mut().for_each(|swap| swap.state = SwapState::Pinned);
    let ready = Ready::new(&problem).unwrap();
    let plan = solve(&ready, &Limits::default(), &|| false).unwrap().plan;
    assert_eq!(plan.outcome, Outcome::PinsClash { pins: vec![0, 1], least: None, job: None });

    problem.swaps[1].state = SwapState::RuledOut;
    problem.budget = Money::from_minor(1);
    let ready = Ready::new(&problem).unwrap();
    let plan = solve(&ready, &Limits::default(), &|| false).unwrap().plan;
    assert_eq!(plan.outcome, Outcome::PinsClash { pins: vec![0], least: Some(Money::from_minor(2)), job: None });

    let light = Job::new("light").unwrap();
    problem.lines[0].provides.insert(light.clone(), 1);
    problem.require.insert(light.clone(), 1);
    let ready = Ready::new(&problem).unwrap();
    let plan = solve(&ready, &Limits::default(), &|| false).unwrap().plan;
    assert_eq!(plan.outcome, Outcome::PinsClash { pins: vec![0], least: None, job: Some(light) });
}

#[test]
fn a_stop_at_once_still_gives_an_allowed_set() {
    let problem = two_choices();
    let ready = Ready::new(&problem).unwrap();
    let answer = solve(&ready, &Limits::default(), &|| true).unwrap();
    // A first look is enough for the two answers here, and says nothing of what else there is.
    assert_eq!((answer.plan.outcome, answer.plan.swaps, answer.plan.gap), (Outcome::TargetMet, Some(vec![1]), None));
    assert!(!answer.frontier.is_proved());
}

/// Many swaps that exclude many others, so that hardly two sets compare: no search ends on these in the lifetime of a walker.
fn entangled(swaps: usize, excludes: usize) -> Problem {
    let mut problem = two_choices();
    let swap = problem.swaps.remove(0);
    problem.swaps = (0..swaps)
        .map(|at| {
            let others =
                (1..=excludes).map(|step| (at * 31 + step * step * 17 + 7) % swaps).filter(|other| *other != at);
            let price = Money::from_minor(i64::try_from(at * 7_919 % 40_009).unwrap());
            Swap {
                id: SwapId(format!("s{at}")),
                add: vec![Addition {
                    weight: Some(Known::exactly(Mass::from_mg(1_000))),
                    price: Some(PriceRange::exact(price)),
                    ..swap.add[0].clone()
                }],
                remove: vec![Removal { line: LineId(format!("l{at}")), ..swap.remove[0].clone() }],
                excludes: others.map(|other| SwapId(format!("s{other}"))).collect(),
                ..swap.clone()
            }
        })
        .collect();
    let line = problem.lines.remove(0);
    problem.lines = (0..swaps)
        .map(|at| {
            let mg = i64::try_from(2_000 + at * 104_729 % 700_001).unwrap();
            Line { id: LineId(format!("l{at}")), weight: Some(Known::exactly(Mass::from_mg(mg))), ..line.clone() }
        })
        .collect();
    problem
}

#[test]
fn what_cannot_be_searched_to_its_end_ends_all_the_same() {
    for (swaps, excludes) in [(100, 10), (1_000, 50)] {
        let problem = entangled(swaps, excludes);
        let ready = Ready::new(&problem).unwrap();
        // Stopped at once, and after some work: each time with allowed sets (the answer is checked) and a gap.
        for patience in [0, 20] {
            let asked = std::cell::Cell::new(0);
            let stop = || asked.replace(asked.get() + 1) >= patience;
            let answer = solve(&ready, &Limits::default(), &stop).unwrap();
            assert!(!answer.frontier.is_proved() && !answer.frontier.points().is_empty(), "{swaps} swaps");
            for gap in (0..answer.frontier.points().len()).filter_map(|at| answer.frontier.gap(at)) {
                assert!(gap.mass >= Mass::ZERO && gap.money >= Money::ZERO);
            }
        }
        // Where memory or the steps are what ends it, nobody has to say stop.
        let small = Limits { most_cells: 100_000, most_steps: 50_000_000, ..Limits::default() };
        assert!(!solve(&ready, &small, &|| false).unwrap().frontier.is_proved());
    }
}

/// One line, two ways to replace it.
pub fn two_choices() -> Problem {
    let choice = |at: usize, mg: i64, price: i64| Swap {
        id: swap_id(at),
        name: format!("choice {at}"),
        kind: SwapKind::Replace,
        state: SwapState::Open,
        remove: vec![Removal { line: LineId("l0".to_owned()), qty: 1, from: Place::Carried }],
        add: vec![Addition {
            name: "new".to_owned(),
            qty: 1,
            weight: Some(Known::exactly(Mass::from_mg(mg))),
            price: Some(PriceRange::exact(Money::from_minor(price))),
            place: Place::Carried,
            provides: Jobs::new(),
            needs: Jobs::new(),
            gas: Mass::ZERO,
        }],
        delivery: Money::ZERO,
        ordered_from: None,
        resale: Money::ZERO,
        tenth_hours: 0,
        requires: Vec::new(),
        excludes: Vec::new(),
    };
    let line = Line {
        id: LineId("l0".to_owned()),
        name: "old".to_owned(),
        counts: Counts { carried: 1, ..Counts::default() },
        tags: Tags::default(),
        weight: Some(Known::exactly(Mass::from_mg(1_000))),
        provides: Jobs::new(),
        needs: Jobs::new(),
    };
    Problem {
        currency: Currency::from_code("EUR").unwrap(),
        lines: vec![line],
        kits: Vec::new(),
        swaps: vec![choice(0, 600, 2), choice(1, 500, 3)],
        require: Jobs::new(),
        target: Mass::from_mg(500),
        budget: Money::from_minor(3),
        hour_rate: Money::ZERO,
        heaviest_start: None,
        gas: HashMap::new(),
        night: None,
        terms: Terms::default(),
    }
}

fn solved(problem: &Problem) -> Answer {
    solve(&Ready::new(problem).unwrap(), &Limits::default(), &|| false).unwrap()
}

#[test]
fn what_another_thing_needs_is_not_dropped() {
    let mut problem = two_choices();
    let pole = |amount| Jobs::from([(Job::new("shelter_pole").unwrap(), amount)]);
    // Both choices need poles. Two are worn; a third choice would leave them at home.
    problem.swaps[0].add[0].needs = pole(2);
    problem.swaps[1].add[0].needs = pole(2);
    let mut poles = problem.lines[0].clone();
    (poles.id, poles.name) = (LineId("poles".to_owned()), "poles".to_owned());
    (poles.counts.carried, poles.counts.worn, poles.provides) = (0, 2, pole(1));
    problem.lines.push(poles);
    let mut leave = problem.swaps[0].clone();
    (leave.id, leave.name, leave.add) = (swap_id(2), "leave the poles".to_owned(), Vec::new());
    leave.remove = vec![Removal { line: LineId("poles".to_owned()), qty: 1, from: Place::Worn }];
    leave.resale = Money::from_minor(50);
    problem.swaps.push(leave);
    let frontier = solved(&problem).frontier;
    let sets: Vec<Vec<usize>> = (0..frontier.points().len()).map(|at| frontier.swaps(at)).collect();
    assert_eq!(sets, [vec![2], vec![0], vec![1]], "the poles may go only while nothing needs them");

    // What is short already may stay as short as it is.
    problem.require = pole(5);
    let frontier = solved(&problem).frontier;
    assert_eq!(frontier.points().len(), 1, "nothing may make five missing poles more");
}

#[test]
fn a_thing_that_does_two_jobs_stands_in_for_two() {
    let mut problem = two_choices();
    let does = |jobs: &[&str]| jobs.iter().map(|job| (Job::new(job).unwrap(), 1)).collect::<Jobs>();
    problem.lines[0].provides = does(&["pot"]);
    let mut mug = problem.lines[0].clone();
    (mug.id, mug.provides) = (LineId("mug".to_owned()), does(&["cup"]));
    problem.lines.push(mug);
    problem.require = does(&["pot", "cup"]);
    problem.swaps[0].remove.push(Removal { line: LineId("mug".to_owned()), qty: 1, from: Place::Carried });
    problem.swaps[0].add[0].provides = does(&["pot", "cup"]);
    let frontier = solved(&problem).frontier;
    let sets: Vec<Vec<usize>> = (0..frontier.points().len()).map(|at| frontier.swaps(at)).collect();
    assert_eq!(sets, [vec![], vec![0]], "the other choice is no pot");
}

#[test]
fn ties_go_to_fewer_swaps_and_then_to_the_first_ids() {
    let mut problem = two_choices();
    // Equal figures: the smaller id wins, though it stands second.
    problem.swaps[1].add = problem.swaps[0].add.clone();
    (problem.swaps[0].id, problem.swaps[1].id) = (SwapId("b".to_owned()), SwapId("a".to_owned()));
    // A swap that changes nothing is never made.
    let mut idle = problem.swaps[0].clone();
    (idle.id, idle.remove, idle.add) = (SwapId("0".to_owned()), Vec::new(), Vec::new());
    problem.swaps.push(idle);
    let frontier = solved(&problem).frontier;
    let sets: Vec<Vec<usize>> = (0..frontier.points().len()).map(|at| frontier.swaps(at)).collect();
    assert_eq!(sets, [vec![], vec![1]]);
}

#[test]
fn the_outcome_follows_target_and_budget() {
    let mut problem = two_choices();
    let mut outcome = |target: i64, budget: i64| {
        (problem.target, problem.budget) = (Mass::from_mg(target), Money::from_minor(budget));
        let plan = solved(&problem).plan;
        (plan.outcome, plan.base.mg(), plan.net.minor(), plan.short_by.mg())
    };
    assert_eq!(outcome(1_000, 0), (Outcome::AlreadyMet, 1_000, 0, 0));
    assert_eq!(outcome(600, 9), (Outcome::TargetMet, 600, 2, 0));
    assert_eq!(outcome(599, 9), (Outcome::TargetMet, 500, 3, 0));
    assert_eq!(outcome(500, 2), (Outcome::OverBudget { more: Money::from_minor(1) }, 600, 2, 100));
    assert_eq!(outcome(500, 1), (Outcome::OverBudget { more: Money::from_minor(2) }, 1_000, 0, 500));
    assert_eq!(outcome(499, 9), (Outcome::OutOfReach { lightest: Mass::from_mg(500) }, 500, 3, 1));
}

#[test]
fn the_ranking_alone_buys_down_the_list_and_may_miss() {
    let mut problem = two_choices();
    // The first choice is the better buy, and stands in the way of the one that would do.
    let answer = solved(&problem);
    assert_eq!(answer.ranking_alone.swaps, Some(vec![0]));
    assert!(!answer.ranking_alone.met);
    assert_eq!(answer.plan.swaps, Some(vec![1]));

    // Pinned ones are bought first, whatever they cost; if that breaks a rule, there is nothing to compare with.
    problem.swaps[1].state = SwapState::Pinned;
    assert_eq!(solved(&problem).ranking_alone.swaps, Some(vec![1]));
    problem.swaps[1].requires = vec![problem.swaps[0].id.clone()];
    assert_eq!(solved(&problem).ranking_alone.swaps, None);
}

#[test]
fn a_set_is_bought_by_rank_and_never_before_what_it_requires() {
    let mut problem = two_choices();
    let mut other = problem.swaps[1].clone();
    (other.id, other.remove, other.requires) = (SwapId("z".to_owned()), Vec::new(), vec![problem.swaps[1].id.clone()]);
    other.add[0].weight = Some(Known::exactly(Mass::from_mg(1)));
    problem.swaps.push(other);
    let mut free = problem.swaps[0].clone();
    (free.id, free.add) = (SwapId("y".to_owned()), Vec::new());
    problem.swaps.push(free);
    let ready = Ready::new(&problem).unwrap();
    let order = BuyingOrder::new(&ready);
    assert_eq!(order.of(&[0, 1, 2, 3]), [3, 0, 1, 2]);
    assert_eq!(order.of(&[2, 1]), [1, 2]);
    assert!(order.of(&[]).is_empty());
    // Two that require each other come together.
    problem.swaps[1].requires = vec![SwapId("z".to_owned())];
    let ready = Ready::new(&problem).unwrap();
    assert_eq!(BuyingOrder::new(&ready).of(&[2, 1]), [1, 2]);
}

#[test]
fn a_problem_that_cannot_be_says_where() {
    let wrong = |change: &dyn Fn(&mut Problem)| {
        let mut problem = two_choices();
        change(&mut problem);
        Ready::new(&problem).map(|_| ()).unwrap_err()
    };
    type Change<'a> = &'a dyn Fn(&mut Problem);
    let job = |amount| Jobs::from([(Job::new("shelter_pole").unwrap(), amount)]);
    let cases: [(&str, Change<'_>); 13] = [
        ("lines[1].id", &|p| p.lines.push(p.lines[0].clone())),
        ("lines[0].carried", &|p| p.lines[0].counts.carried = 1_001),
        ("lines[0].unit_mg", &|p| p.lines[0].weight = Some(Known::exactly(Mass::from_mg(-1)))),
        ("lines[0].needs", &|p| p.lines[0].needs = job(1_000_000_001)),
        ("swaps[1].id", &|p| p.swaps[1].id = p.swaps[0].id.clone()),
        ("swaps[0].remove[0].line", &|p| p.swaps[0].remove[0].line = LineId("?".to_owned())),
        ("swaps[0].remove[0].qty", &|p| p.swaps[0].remove[0].qty = 0),
        ("swaps[1].add[0].qty", &|p| p.swaps[1].add[0].qty = 1_001),
        ("swaps[1].add[0].provides", &|p| p.swaps[1].add[0].provides = job(-1)),
        ("swaps[0].resale_minor", &|p| p.swaps[0].resale = Money::from_minor(-1)),
        ("swaps[0].tenth_hours", &|p| p.swaps[0].tenth_hours = 10_001),
        ("swaps[0].requires[0]", &|p| p.swaps[0].requires = vec![p.swaps[0].id.clone()]),
        ("budget_minor", &|p| p.budget = Money::from_minor(-1)),
    ];
    for (path, change) in cases {
        let error = wrong(change);
        assert_eq!(error.path, path);
        assert!(error.to_string().contains("expected"), "{error}");
    }
}

#[test]
fn the_largest_problem_that_is_taken_stays_inside_its_integers() {
    use crate::limits;
    let mut problem = two_choices();
    problem.lines[0].weight = Some(Known::exactly(Mass::from_mg(limits::MASS_MG)));
    problem.lines[0].counts.carried = limits::COUNT;
    let most = Jobs::from([(Job::new("load").unwrap(), limits::JOB_AMOUNT)]);
    problem.lines[0].provides = most.clone();
    let addition = Addition {
        qty: limits::COUNT,
        weight: Some(Known::exactly(Mass::from_mg(limits::MASS_MG))),
        price: Some(PriceRange::exact(Money::from_minor(limits::MONEY_MINOR))),
        needs: most,
        ..problem.swaps[0].add[0].clone()
    };
    problem.swaps[0].add = vec![addition; limits::SIDE];
    let template = problem.swaps[0].clone();
    let entries = limits::SIDE + template.remove.len() + template.requires.len() + template.excludes.len();
    let most = limits::ENTRIES / entries;
    problem.swaps = (0..most).map(|at| Swap { id: SwapId(format!("s{at}")), ..template.clone() }).collect();
    let ready = Ready::new(&problem).unwrap();
    let (saving, net) = ready.worths()[0].complete().unwrap();
    let pieces = i128::from(limits::COUNT) * i128::try_from(limits::SIDE).unwrap();
    assert_eq!(i128::from(net.minor()), pieces * i128::from(limits::MONEY_MINOR));
    assert_eq!(i128::from(saving.mg()), i128::from(limits::MASS_MG) * (1 - pieces));
    // All of them together, in money and in a job, still fit.
    let all = i128::try_from(limits::SWAPS).unwrap() * pieces;
    assert!(all * i128::from(limits::MONEY_MINOR.max(limits::JOB_AMOUNT)) < i128::from(i64::MAX));
    assert_eq!(solve(&ready, &Limits::default(), &|| false).unwrap().frontier.points().len(), 1);
    problem.swaps.extend((most..=most + entries).map(|at| Swap { id: SwapId(format!("s{at}")), ..template.clone() }));
    let error = Ready::new(&problem).unwrap_err();
    assert_eq!((error.path.as_str(), error.found), ("swaps", format!("\"{}\"", problem.swaps.len() * entries)));
}
