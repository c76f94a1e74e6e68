//! Problems whose base weight is another figure allow what the problem itself allows, at that figure: set by set, plainly.

use super::{night_out, plainly};
use crate::gear::Tags;
use crate::list::{LineId, Place};
use crate::plan::{HeavyFew, Problem};
use crate::quantity::Mass;
use crate::swap::SwapId;
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
