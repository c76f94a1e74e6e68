//! How sure a plan is, and what keeping costs, against plain second computations.
#![allow(clippy::float_arithmetic, reason = "chances are fractions")]

use super::super::{chance, keeps, loses, meet_costs, shorts, sureness, target_without};
use super::*;
use crate::gear::{Band, Counting};

/// A thing on the back: pieces, the least that one weighs in grams, and how much more is expected and possible.
type Err = (u32, i64, i64, i64);

fn erring((carried, low, more, most): Err, at: usize) -> Line {
    let known = |grams: i64| Mass::from_mg(grams * 1_000);
    let unit = known(low + more);
    let band = Band { low: known(low) - unit, high: known(low + more + most) - unit };
    Line {
        id: LineId(format!("l{at}")),
        name: String::new(),
        counts: Counts { carried, ..Counts::default() },
        weight: Some(Known { band, expected: unit, ..Known::exactly(unit) }),
        tags: Tags::default(),
        provides: Jobs::new(),
        needs: Jobs::new(),
    }
}

/// Every thing at every hundredth of its range: the share of the sums that are at or under the target, tenths of grams as they come.
fn counted(things: &[Err], target: i64) -> f64 {
    let mut sums: std::collections::BTreeMap<i64, f64> = std::collections::BTreeMap::from([(0, 1.0)]);
    for &(pieces, low, more, most) in things {
        let mut next = std::collections::BTreeMap::new();
        for (sum, share) in &sums {
            for at in 0..50 {
                let middle = |from: i64, width: i64| from * 1_000 + width * (20 * at + 10);
                for grams in [middle(low, more), middle(low + more, most)] {
                    *next.entry(sum + grams * i64::from(pieces)).or_insert(0.0) += share / 100.0;
                }
            }
        }
        sums = next;
    }
    sums.range(..=target * 1_000).map(|(_, share)| share).sum()
}

prop_compose! {
    /// Things that err, and swaps that leave some of them out, at a price.
    fn unsure()(
        things in prop::collection::vec((1..3_u32, 1..40_i64, 0..20_i64, 0..20_i64), 1..6), prices in prop::collection::vec(1..90_i64, 6), share in 0..101_i64,
    ) -> Problem {
        let mut problem = cases::two_choices();
        problem.lines = things.iter().enumerate().map(|(at, thing)| erring(*thing, at)).collect();
        let swap = problem.swaps[0].clone();
        problem.swaps = things.iter().zip(prices).enumerate().map(|(at, ((pieces, ..), price))| Swap {
            id: SwapId(format!("s{at}")),
            remove: vec![Removal { line: LineId(format!("l{at}")), qty: *pieces, from: Place::Carried }],
            add: Vec::new(),
            delivery: Money::from_minor(price),
            kind: SwapKind::LeaveOut,
            ..swap.clone()
        }).collect();
        let all: i64 = things.iter().map(|(pieces, low, more, most)| i64::from(*pieces) * (low + more + most)).sum();
        problem.target = Mass::from_mg(all * share * 10);
        problem
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 8, ..ProptestConfig::default() })]

    #[test]
    fn a_chance_rises_with_the_target_from_none_to_all(
        things in prop::collection::vec((1..3_u32, 0..40_i64, 1..20_i64, 1..20_i64), 20..30),
    ) {
        let lowest: i64 = things.iter().map(|(pieces, low, ..)| i64::from(*pieces) * low).sum();
        let widest: i64 = things.iter().map(|(pieces, _, more, most)| i64::from(*pieces) * (more + most)).sum();
        let middle: i64 = things.iter().map(|(pieces, _, more, most)| i64::from(*pieces) * (3 * more + most)).sum::<i64>() / 4;
        let mut problem = cases::two_choices();
        problem.lines = things.iter().enumerate().map(|(at, thing)| erring(*thing, at)).collect();
        problem.swaps.clear();
        let mut at = |target: i64| {
            problem.target = Mass::from_mg(target * 1_000);
            chance(&Ready::new(&problem).unwrap(), &[]).unwrap()
        };
        let chances: Vec<f64> = (0..=6).map(|share| at(lowest + widest * share / 6)).collect();
        prop_assert!(chances.windows(2).all(|pair| pair[0] <= pair[1] + 0.001), "{chances:?}");
        prop_assert!(chances[0] < 0.001 && chances[6] > 0.999, "{chances:?}");
        // Of many that err by themselves about half lie under the mean.
        prop_assert!((0.4..0.6).contains(&at(lowest + middle)), "{}", at(lowest + middle));
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 100, ..ProptestConfig::default() })]

    #[test]
    fn a_chance_is_that_of_counting(
        things in prop::collection::vec((1..3_u32, 0..40_i64, 1..20_i64, 1..20_i64), 1..4), share in 0..101_i64,
    ) {
        let lowest: i64 = things.iter().map(|(pieces, low, ..)| i64::from(*pieces) * low).sum();
        let widest: i64 = things.iter().map(|(pieces, _, more, most)| i64::from(*pieces) * (more + most)).sum();
        let target = lowest + widest * share / 100;
        let mut problem = cases::two_choices();
        problem.lines = things.iter().enumerate().map(|(at, thing)| erring(*thing, at)).collect();
        problem.swaps.clear();
        problem.target = Mass::from_mg(target * 1_000);
        let found = chance(&Ready::new(&problem).unwrap(), &[]).unwrap();
        let expected = counted(&things, target);
        prop_assert!((found - expected).abs() < 0.02, "{} and not {}", found, expected);
    }

    #[test]
    fn each_point_is_as_sure_as_it_is_alone(
        problem in unsure(), counting in prop::sample::select(vec![Counting::Stated, Counting::Expected, Counting::Worst]),
    ) {
        let problem = problem.counted(counting);
        let ready = Ready::new(&problem).unwrap();
        let answer = solve(&ready, &Limits::default(), &|| false).unwrap();
        let sure = sureness(&ready, &answer.frontier, &|| false);
        prop_assert_eq!(sure.points.len(), answer.frontier.points().len());
        let chances: Vec<f64> = (0..sure.points.len()).map(|at| chance(&ready, &answer.frontier.swaps(at)).unwrap()).collect();
        for (at, (found, expected)) in sure.points.iter().zip(&chances).enumerate() {
            prop_assert!((found.chance - expected).abs() < 0.015, "{} and not {}", found.chance, expected);
            // Each thing that is carried errs by so much below and above.
            let set = answer.frontier.swaps(at);
            let errs = problem.lines.iter().filter_map(|line| {
                let taken: i64 = set.iter().flat_map(|&swap| &problem.swaps[swap].remove)
                    .filter(|side| side.line == line.id).map(|side| i64::from(side.qty)).sum();
                let weight = line.weight.unwrap();
                let pieces = i64::from(line.counts.carried) - taken;
                let over = |mass: Mass| (mass - weight.stated).mg() * pieces;
                (pieces > 0).then(|| (over(weight.low()), over(weight.high()), over(weight.unit)))
            });
            let errs: Vec<(i64, i64, i64)> = errs.collect();
            let root = |squares: i64| i64::try_from(u64::try_from(squares).unwrap().isqrt()).unwrap();
            let (below, above) = (errs.iter().map(|(low, ..)| low * low).sum(), errs.iter().map(|(_, high, _)| high * high).sum());
            // As stated, whichever figure counts.
            let base = answer.frontier.points()[at].base.mg() - errs.iter().map(|(.., counted)| counted).sum::<i64>();
            let near = |found: Mass, expected: i64| (found.mg() - expected).abs() <= 1;
            prop_assert!(near(found.likely.0, base - root(below)) && near(found.likely.1, base + root(above)));
            prop_assert_eq!(found.worst.mg(), base + errs.iter().map(|(_, high, _)| high).sum::<i64>());
        }
        // What knowing a thing saves; where a chance is next to nine in ten either answer is right.
        let close = |chance: f64| (chance - 0.9).abs() < 0.02;
        let nine = |chances: &[f64]| chances.iter().position(|chance| *chance >= 0.9);
        let Some(first) = nine(&chances).filter(|_| !chances.iter().any(|chance| close(*chance))) else { return Ok(()) };
        for (at, line) in problem.lines.iter().enumerate() {
            let mut known = problem.clone();
            known.lines[at].weight = Some(Known::exactly(line.weight.unwrap().expected));
            let knowing = Ready::new(&known).unwrap();
            let then: Vec<f64> = (0..chances.len()).map(|at| chance(&knowing, &answer.frontier.swaps(at)).unwrap()).collect();
            if then.iter().any(|chance| close(*chance)) {
                continue;
            }
            let nets = answer.frontier.points();
            let saved = nine(&then).map(|then| (nets[first].net - nets[then].net).minor()).filter(|saved| *saved > 0);
            let found = sure.doubts.iter().find(|(of, _)| *of == line.id).map(|(_, costs)| costs.minor());
            prop_assert_eq!(found, saved);
        }
    }

    #[test]
    fn what_comes_off_the_target_comes_off_every_set_alike(problem in problem(), most in 0..4_usize) {
        let ready = Ready::new(&problem).unwrap();
        let all: Vec<&LineId> = problem.lines.iter().map(|line| &line.id).collect();
        let (lines, target) = target_without(&ready, all, most);
        prop_assert!(lines.len() <= most);
        let mut at_home = problem.clone();
        for line in at_home.lines.iter_mut().filter(|line| lines.contains(&&line.id)) {
            line.counts.carried = 0;
        }
        for mask in 0..1_usize << problem.swaps.len() {
            let set: Vec<usize> = (0..problem.swaps.len()).filter(|at| mask >> at & 1 == 1).collect();
            if plainly::allowed(&problem, &set).is_some() {
                let saved = plainly::base_after(&problem, &set) - plainly::base_after(&at_home, &set);
                prop_assert_eq!(saved, (target - problem.target).mg());
            }
        }
    }

    #[test]
    fn what_keeping_costs_is_what_the_plan_costs_less_without_it(problem in problem()) {
        let ready = Ready::new(&problem).unwrap();
        let answer = solve(&ready, &Limits::default(), &|| false).unwrap();
        let found = keeps(&ready, &answer);
        if answer.plan.outcome != Outcome::TargetMet {
            prop_assert!(found.is_empty());
            return Ok(());
        }
        let (planned, all) = (answer.plan.swaps.unwrap(), plainly::frontier(&problem));
        let is_kept = |line: &&Line| {
            let taken = planned.iter().flat_map(|&swap| &problem.swaps[swap].remove).any(|side| side.line == line.id);
            line.counts.carried > 0 && line.weight.is_some() && !taken
        };
        let expected: Vec<(String, i64)> = problem.lines.iter().filter(is_kept).map(|line| {
            let target = problem.target.mg() + line.weight.unwrap().unit.mg() * i64::from(line.counts.carried);
            let cheapest = all.iter().filter(|point| point.1 <= target).map(|point| point.0).min().unwrap();
            (line.id.0.clone(), answer.plan.net.minor() - cheapest)
        }).collect();
        let found: Vec<(String, i64)> = found.iter().map(|(line, costs)| (line.0.clone(), costs.minor())).collect();
        prop_assert_eq!(found, expected);
    }

    #[test]
    fn what_a_swap_loses_by_itself_is_what_falls_shorter_than_today(problem in night_out()) {
        let problem = Problem { kits: Vec::new(), ..problem };
        let found = loses(&Ready::new(&problem).unwrap());
        let at_most = |now: Option<i64>, then: Option<i64>| now.is_none_or(|now| then.is_some_and(|then| then <= now));
        let loads: i64 = problem.lines.iter().map(|line| line.provides.get("load").unwrap_or(&0) * line.counts.at_work()).sum();
        let weighs = problem.heaviest_start.is_some() && loads > 0;
        for (swap, found) in found.iter().enumerate() {
            let ((cold, floor, hangs), (cold_now, floor_now, hung)) = (plainly::felt(&problem, &[swap]), plainly::felt(&problem, &[]));
            let is_floored = if hangs == hung { at_most(floor_now, floor) } else { floor == Some(0) };
            let today = plainly::shortfalls(&problem, &[]);
            let mut lost: Vec<String> = plainly::shortfalls(&problem, &[swap]).into_iter()
                .filter(|(job, short)| short > today.get(job).unwrap_or(&0) && !(weighs && job == "load"))
                .map(|(job, _)| job).collect();
            if weighs && !plainly::is_carried(&problem, &[swap]) {
                lost.push("load".to_owned());
            }
            lost.extend((!at_most(cold_now, cold)).then(|| "warmth".to_owned()));
            lost.extend((!is_floored).then(|| "ground".to_owned()));
            lost.sort();
            let mut keys: Vec<&str> = found.iter().map(Meet::key).collect();
            keys.sort_unstable();
            prop_assert_eq!(keys, lost);
        }
    }

    #[test]
    fn what_is_short_today_is_what_plain_sums_say(problem in night_out()) {
        let today = plainly::shortfalls(&problem, &[]);
        let loads: i64 = problem.lines.iter().map(|line| line.provides.get("load").unwrap_or(&0) * line.counts.at_work()).sum();
        let weighs = problem.heaviest_start.is_some() && loads > 0;
        let mut expected: Vec<(String, Option<i64>, bool)> = today.into_iter()
            .filter(|(job, short)| *short > 0 && !(weighs && job == "load")).map(|(job, short)| (job, Some(short), false)).collect();
        if let Some(heaviest) = problem.heaviest_start.filter(|start| weighs && start.mg() > loads * 1_000) {
            expected.push(("load".to_owned(), Some((heaviest.mg() - loads * 1_000 + 999) / 1_000), false));
        }
        let (cold, floor, hangs) = plainly::felt(&problem, &[]);
        expected.extend((cold != Some(0)).then(|| ("warmth".to_owned(), cold, false)));
        expected.extend((floor != Some(0)).then(|| ("ground".to_owned(), floor, hangs)));
        let found = shorts(&Ready::new(&problem).unwrap()).into_iter();
        let mut found: Vec<(String, Option<i64>, bool)> = found.map(|short| (short.meet.key().to_owned(), short.by, short.hangs)).collect();
        found.sort();
        expected.sort();
        prop_assert_eq!(found, expected);
    }

    #[test]
    fn meeting_one_thing_more_costs_what_the_plan_with_it_does(problem in night_out()) {
        let ready = Ready::new(&problem).unwrap();
        let answer = solve(&ready, &Limits::default(), &|| false).unwrap();
        let found = meet_costs(&ready, &answer, &Limits::default(), &|| false);
        let Some(now) = planned_plainly(&problem) else {
            prop_assert!(found.is_empty());
            return Ok(());
        };
        // What is over a pack's load is a condition of its own.
        for cost in found.iter().filter(|cost| cost.meet.key() != "load" || problem.heaviest_start.is_none()) {
            let mut with = problem.clone();
            prop_assert!(!with.terms.meet.contains(&cost.meet));
            with.terms.meet.push(cost.meet.clone());
            let then = planned_plainly(&with);
            prop_assert_eq!(cost.more.map(Money::minor), then.map(|then| then.0 - now.0));
            prop_assert_eq!(cost.heavier.map(Mass::mg), then.map(|then| then.1 - now.1));
        }
        let (cold, floor, _) = plainly::felt(&problem, &[]);
        let is_told = |meet: &Meet| found.iter().any(|cost| cost.meet == *meet) || problem.terms.meet.contains(meet);
        prop_assert_eq!(!problem.terms.meet.contains(&Meet::Warmth) && cold != Some(0), found.iter().any(|cost| cost.meet == Meet::Warmth));
        prop_assert!(floor == Some(0) || is_told(&Meet::Ground));
    }
}

/// What a plan costs, and its base weight; none where none is allowed within the budget.
fn planned_plainly(problem: &Problem) -> Option<(i64, i64)> {
    let (target, budget) = (problem.target.mg(), problem.budget.minor());
    let is_pinned = problem.swaps.iter().any(|swap| swap.state == SwapState::Pinned);
    if !is_pinned && plainly::base(problem) <= target && plainly::allowed(problem, &[]).is_some() {
        return Some((0, plainly::base(problem)));
    }
    let all: Vec<(i64, i64)> = plainly::frontier(problem).into_iter().map(|(net, base, _)| (net, base)).collect();
    let within = all.iter().filter(|point| point.0 <= budget).copied();
    within.clone().find(|point| point.1 <= target).or(within.last())
}

#[test]
fn what_is_not_known_has_no_chance_and_a_kit_errs_in_nothing() {
    let mut problem = cases::two_choices();
    problem.swaps.clear();
    problem.lines = vec![erring((1, 100, 10, 10), 0), erring((2, 50, 5, 5), 1)];
    let parts = vec![(LineId("l0".to_owned()), 1), (LineId("l1".to_owned()), 2)];
    problem.kits = vec![WeighedKit { name: "all".to_owned(), weighed: Mass::from_mg(230_000), parts }];
    let chance_at = |problem: &mut Problem, grams: i64| {
        problem.target = Mass::from_mg(grams * 1_000);
        chance(&Ready::new(problem).unwrap(), &[])
    };
    assert_eq!([229, 230].map(|grams| chance_at(&mut problem, grams)), [Some(0.0), Some(1.0)]);
    // One piece of the second beyond the kit errs by itself, from 50 to 60 g.
    problem.lines[1].counts.carried = 3;
    let half = chance_at(&mut problem, 285).unwrap();
    assert!((half - 0.5).abs() < 0.001, "{half}");
    problem.lines[0].weight = None;
    assert_eq!(chance_at(&mut problem, 1_000), None);
}

#[test]
fn of_very_many_things_the_chance_is_that_of_their_sum() {
    let mut problem = cases::two_choices();
    problem.swaps.clear();
    // 2 000 that each lie evenly within 20 g: 10 g in the mean, and 258.2 g of the sum to either side are two thirds of it.
    problem.lines = (0..2_000).map(|at| erring((1, 100, 10, 10), at)).collect();
    let mut chance_at = |grams: i64| {
        problem.target = Mass::from_mg(grams * 1_000);
        chance(&Ready::new(&problem).unwrap(), &[]).unwrap()
    };
    for (grams, expected) in [(220_000, 0.5), (220_258, 0.841), (219_742, 0.159), (220_516, 0.977), (219_000, 0.0)] {
        let found = chance_at(grams);
        assert!((found - expected).abs() < 0.01, "{grams}: {found}, not {expected}");
    }
}
