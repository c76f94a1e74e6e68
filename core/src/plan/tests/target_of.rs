//! Problems whose base weight is another figure allow what the problem itself allows, at that figure: set by set, plainly.

use super::cases::two_choices;
use super::{night_out, plainly};
use crate::gear::{Job, Jobs, Known, Tags};
use crate::list::{Counts, LineId, Place};
use crate::plan::check::Checker;
use crate::plan::{HeavyFew, Problem, Ready};
use crate::quantity::Mass;
use crate::swap::{Removal, SwapId};
use proptest::prelude::*;
use std::collections::HashSet;

/// With few enough swaps for every set of them.
fn few(mut problem: Problem) -> Problem {
    problem.swaps.truncate(5);
    let there: HashSet<SwapId> = problem.swaps.iter().map(|swap| swap.id.clone()).collect();
    for swap in &mut problem.swaps {
        swap.requires.retain(|id| there.contains(id));
        swap.excludes.retain(|id| there.contains(id));
    }
    problem
}

fn sets(problem: &Problem) -> impl Iterator<Item = Vec<usize>> {
    let swaps = problem.swaps.len();
    (0..1_u32 << swaps).map(move |bits| (0..swaps).filter(|at| bits & (1 << at) != 0).collect())
}

fn net(problem: &Problem, set: &[usize]) -> Option<i64> {
    plainly::allowed(problem, set).map(|(net, _)| net)
}

/// What is carried of the heavy few after a set.
fn heavy(problem: &Problem, few: &HeavyFew, set: &[usize]) -> i64 {
    let unit = |id: &LineId| {
        let line = problem.lines.iter().find(|line| line.id == *id).unwrap();
        line.weight.map_or(0, |weight| weight.unit.mg())
    };
    let there = problem.lines.iter().filter(|line| few.lines.contains(&line.id));
    let mut sum: i64 = there.map(|line| unit(&line.id) * i64::from(line.counts.carried)).sum();
    for swap in set.iter().map(|at| &problem.swaps[*at]) {
        let gone = swap.remove.iter().filter(|one| one.from == Place::Carried && few.lines.contains(&one.line));
        sum -= gone.map(|one| unit(&one.line) * i64::from(one.qty)).sum::<i64>();
        for (at, one) in swap.add.iter().enumerate() {
            if one.place == Place::Carried && few.additions.contains(&(swap.id.clone(), at)) {
                sum += one.weight.map_or(0, |weight| weight.unit.mg()) * i64::from(one.qty);
            }
        }
    }
    sum
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 1_500, ..ProptestConfig::default() })]

    #[test]
    fn a_loaded_weight_is_the_heaviest_start_after_every_set(
        problem in night_out(), food in prop::collection::vec(prop::bool::weighted(0.2), 4), supplies in prop::option::of(0..9_i64),
    ) {
        let mut problem = few(problem);
        // A kit weighs at least the food and gas that is in it.
        let in_kits: HashSet<LineId> = problem.kits.iter().flat_map(|kit| &kit.parts).map(|(line, _)| line.clone()).collect();
        problem.gas.retain(|line, _| !in_kits.contains(line));
        for (line, is_food) in problem.lines.iter_mut().zip(food) {
            if is_food && !in_kits.contains(&line.id) {
                line.tags = Tags::parse("food").unwrap();
            }
        }
        let ((_, pack), _) = plainly::loads(&problem, &[]);
        problem.heaviest_start = supplies.map(|more| Mass::from_mg(pack + more * 1_000));
        problem.terms.meet.retain(|meet| meet.key() != "load");
        if supplies.is_none() {
            problem.gas.clear();
            problem.lines.iter_mut().for_each(|line| line.tags = Tags::default());
            problem.swaps.iter_mut().flat_map(|swap| &mut swap.add).for_each(|one| one.gas = Mass::ZERO);
        }
        let ((_, pack), _) = plainly::loads(&problem, &[]);
        let loaded = problem.loaded().unwrap();
        let start = match problem.heaviest_start {
            Some(start) => start.mg(),
            // Kits of what is used up count in the pack too.
            None if !problem.kits.is_empty() => plainly::base_after(&loaded, &[]),
            None => pack,
        };
        for set in sets(&problem) {
            let expected = net(&problem, &set);
            prop_assert_eq!(net(&loaded, &set), expected, "{:?}", set);
            if expected.is_some() {
                let (_, (_, after)) = plainly::loads(&problem, &set);
                prop_assert_eq!(plainly::base_after(&loaded, &set), start + after - pack, "{:?}", set);
            }
        }
    }

    #[test]
    fn the_heavy_few_weigh_what_they_do_after_every_set(problem in night_out(), picked in prop::collection::vec(any::<bool>(), 40)) {
        let problem = Problem { kits: Vec::new(), ..few(problem) };
        let mut picked = picked.into_iter();
        let mut pick = || picked.next().unwrap_or(false);
        let lines = problem.lines.iter().filter(|_| pick()).map(|line| line.id.clone()).collect();
        let sides = problem.swaps.iter().flat_map(|swap| (0..swap.add.len()).map(|at| (swap.id.clone(), at)));
        let few = HeavyFew { lines, additions: sides.filter(|_| pick()).collect() };
        let put = problem.heavy_few(&few).unwrap();
        for set in sets(&problem) {
            let expected = net(&problem, &set);
            prop_assert_eq!(net(&put, &set), expected, "{:?}", set);
            if expected.is_some() {
                prop_assert_eq!(plainly::base_after(&put, &set), heavy(&problem, &few, &set), "{:?}", set);
            }
        }
    }
}

#[test]
fn what_comes_off_of_what_is_used_up_makes_the_pack_lighter_once() {
    let mut problem = two_choices();
    let load = |grams| Jobs::from([(Job::new("load").unwrap(), grams)]);
    // The pack carries ten grams well, and ten are in it. The can of two grams may go, and the thing of one gram may become one of three or four.
    problem.lines[0].provides = load(10);
    problem.swaps.iter_mut().for_each(|swap| swap.add[0].provides = load(10));
    for (swap, mg) in problem.swaps.iter_mut().zip([3_000, 4_000]) {
        swap.add[0].weight = Some(Known::exactly(Mass::from_mg(mg)));
    }
    let mut can = problem.lines[0].clone();
    (can.id, can.counts, can.provides) = (LineId("can".to_owned()), Counts::in_place(Place::UsedUp, 1), Jobs::new());
    can.weight = Some(Known::exactly(Mass::from_mg(2_000)));
    problem.lines.push(can);
    let mut leave = problem.swaps[0].clone();
    (leave.id, leave.add) = (SwapId("leave the can".to_owned()), Vec::new());
    leave.remove = vec![Removal { line: LineId("can".to_owned()), qty: 1, from: Place::UsedUp }];
    problem.swaps.push(leave);
    problem.heaviest_start = Some(Mass::from_mg(10_000));
    let loaded = problem.loaded().unwrap();
    let is_allowed = |set: &[usize]| Checker::new(&Ready::new(&loaded).unwrap()).allowed(set).is_ok();
    assert!(is_allowed(&[0, 2]), "two grams more for two grams less");
    assert!(!is_allowed(&[1, 2]), "three grams more for two grams less");
    assert_eq!(plainly::base_after(&loaded, &[0, 2]), 10_000);
}
