//! Several lists against brute force: every set, list by list, calculated anew.

use super::super::lists::{Acting, ListsOrder, ListsProblem, OneList, solve_lists};
use super::*;
use std::collections::{BTreeSet, HashMap};

prop_compose! {
    fn lists()(problem in problem())(
        of_lists in prop::collection::vec((
            0..4_u32, prop::option::of(0..14_i64),
            prop::collection::vec((0..3_u32, 0..2_u32, 0..2_u32), problem.lines.len()),
            jobs(), prop::option::of((-2..3_i64, 0..4_i64)), prop::option::of(0..30_i64),
        ), 1..4),
        of_swaps in prop::collection::vec((
            prop::option::weighted(0.3, prop::collection::btree_set(0..3_usize, 0..3)), any::<u8>(),
        ), problem.swaps.len()),
        of_lines in prop::collection::vec((warmth(), 0..3_i64), problem.lines.len()),
        meet in prop::collection::btree_set(prop_oneof![
            Just(Meet::Warmth), Just(Meet::Ground), (0..3_usize).prop_map(|at| Meet::Job(Job::new(JOBS[at]).unwrap()))
        ], 0..2),
        problem in Just(problem),
    ) -> ListsProblem {
        let mut whole = Problem { heaviest_start: None, gas: HashMap::new(), require: Jobs::new(), target: Mass::ZERO, ..problem };
        let pads = Job::new("ground_insulation").unwrap();
        let warmths: HashMap<LineId, Warmth> =
            whole.lines.iter().zip(&of_lines).map(|(line, (warmth, _))| (line.id.clone(), *warmth)).collect();
        for (line, (_, r)) in whole.lines.iter_mut().zip(&of_lines) {
            line.counts = Counts::default();
            line.provides.insert(pads.clone(), *r);
        }
        let many = of_lists.len();
        let lists: Vec<OneList> = of_lists.into_iter().enumerate().map(|(at, (nights, target, counts, require, night, heaviest))| OneList {
            id: format!("list {at}"),
            nights,
            target: target.map(|grams| Mass::from_mg(grams * 1_000)),
            counts: whole.lines.iter().zip(counts).map(|(line, (carried, worn, used_up))| {
                (line.id.clone(), Counts { carried, worn, used_up, ..Counts::default() })
            }).collect(),
            require,
            night: night.map(|(low, ground)| Night { low: low * 20, ground, lines: warmths.clone(), ..Night::default() }),
            heaviest_start: heaviest.map(|grams| Mass::from_mg(grams * 1_000)),
        }).collect();
        let acting = whole.swaps.iter().zip(of_swaps).map(|(swap, (named, said))| Acting {
            lists: named.map(|named| named.into_iter().filter(|at| *at < many).collect()),
            // What is said of some sides, and left to the list of others.
            from: swap.remove.iter().enumerate().map(|(at, side)| (said >> at & 1 == 1).then_some(side.from)).collect(),
            to: swap.add.iter().enumerate().map(|(at, side)| (said >> (at + 4) & 1 == 1).then_some(side.place)).collect(),
        }).collect();
        let has_night = lists.iter().any(|list| list.night.is_some());
        whole.terms.meet = meet.into_iter().filter(|meet| has_night || matches!(meet, Meet::Job(_))).collect();
        ListsProblem { whole, lists, acting }
    }
}

/// What a swap takes from a list and where it puts things; `None` where it does not act there.
fn on(problem: &ListsProblem, swap: usize, at: usize) -> Option<Swap> {
    let (entry, acting, list) = (&problem.whole.swaps[swap], &problem.acting[swap], &problem.lists[at]);
    if acting.lists.as_ref().map_or(entry.remove.is_empty(), |named| !named.contains(&at)) {
        return None;
    }
    let there = |line: &LineId| {
        let counts = list.counts[line];
        [(Place::Carried, counts.carried), (Place::Worn, counts.worn), (Place::UsedUp, counts.used_up)]
    };
    let mut remove = Vec::new();
    for (removal, said) in entry.remove.iter().zip(&acting.from) {
        let mut places = there(&removal.line).into_iter();
        let from = match said {
            Some(place) => *place,
            None => places.find(|(_, pieces)| *pieces >= removal.qty)?.0,
        };
        remove.push(Removal { from, ..removal.clone() });
    }
    for removal in &remove {
        let all = remove.iter().filter(|other| (&other.line, other.from) == (&removal.line, removal.from));
        let pieces = there(&removal.line).into_iter().find(|(place, _)| *place == removal.from).unwrap().1;
        if all.map(|other| other.qty).sum::<u32>() > pieces {
            return None;
        }
    }
    let home = remove.first().map_or(Place::Carried, |first| first.from);
    let add =
        entry.add.iter().zip(&acting.to).map(|(one, said)| Addition { place: said.unwrap_or(home), ..one.clone() });
    let add = add.collect();
    Some(Swap { remove, add, requires: Vec::new(), excludes: Vec::new(), state: SwapState::Open, ..entry.clone() })
}

/// A list as a problem of its own, and the swaps that act on it.
fn alone(problem: &ListsProblem, at: usize) -> (Problem, Vec<bool>) {
    let (list, swaps) = (&problem.lists[at], &problem.whole.swaps);
    let sides: Vec<Option<Swap>> = (0..swaps.len()).map(|swap| on(problem, swap, at)).collect();
    let acts = sides.iter().map(Option::is_some).collect();
    let nothing = |swap: &Swap| Swap {
        remove: Vec::new(),
        add: Vec::new(),
        requires: Vec::new(),
        excludes: Vec::new(),
        state: SwapState::Open,
        ..swap.clone()
    };
    let lines = problem.whole.lines.iter().map(|line| Line { counts: list.counts[&line.id], ..line.clone() });
    let mut one = Problem {
        lines: lines.collect(),
        swaps: sides.into_iter().zip(swaps).map(|(side, swap)| side.unwrap_or_else(|| nothing(swap))).collect(),
        require: list.require.clone(),
        night: list.night.clone(),
        heaviest_start: list.heaviest_start,
        ..problem.whole.clone()
    };
    one.terms.meet.retain(|meet| list.night.is_some() || matches!(meet, Meet::Job(_)));
    (one, acts)
}

/// What a set costs and the base weight of each list after it, if it is allowed.
fn allowed(problem: &ListsProblem, set: &[usize]) -> Option<(i64, Vec<i64>)> {
    let swaps = &problem.whole.swaps;
    let (mut bases, mut acts) = (Vec::new(), vec![BTreeSet::new(); swaps.len()]);
    for at in 0..problem.lists.len() {
        let (one, acting) = alone(problem, at);
        for (acts, _) in acts.iter_mut().zip(acting).filter(|(_, acting)| *acting) {
            acts.insert(at);
        }
        bases.push(plainly::allowed(&one, set)?.1);
    }
    let made: BTreeSet<&str> = set.iter().map(|&at| swaps[at].id.0.as_str()).collect();
    let mut whole = problem.whole.clone();
    for (at, swap) in swaps.iter().enumerate() {
        let is_in = set.contains(&at);
        let agrees = swap.requires.iter().all(|id| made.contains(id.0.as_str()))
            && !swap.excludes.iter().any(|id| made.contains(id.0.as_str()));
        if (swap.state == SwapState::Pinned && !is_in)
            || (is_in && (acts[at].is_empty() || swap.state == SwapState::RuledOut || !agrees))
        {
            return None;
        }
        let has = |(list, one): (usize, &OneList)| {
            let pieces = |line: &LineId| one.counts[line].carried + one.counts[line].worn + one.counts[line].used_up;
            swap.remove.iter().any(|side| pieces(&side.line) > 0) && !acts[at].contains(&list)
        };
        if problem.lists.iter().enumerate().any(has) {
            whole.swaps[at].resale = Money::ZERO;
        }
    }
    // Alone, with nothing on the lists, it is only what a set costs.
    whole.swaps.iter_mut().for_each(|swap| swap.state = SwapState::Open);
    Some((plainly::net_of(&whole, set)?, bases))
}

/// Net cost, gram-nights, base weights, set.
type Whole = (i64, i64, Vec<i64>, Vec<usize>);

/// Every allowed set, the cheapest first, then the fewest gram-nights, then by the documented order of ties.
fn all(problem: &ListsProblem) -> Vec<Whole> {
    let swaps = &problem.whole.swaps;
    let mut all: Vec<Whole> = Vec::new();
    for mask in 0..1_usize << swaps.len() {
        let mut set: Vec<usize> = (0..swaps.len()).filter(|at| mask >> at & 1 == 1).collect();
        set.sort_by(|&a, &b| swaps[a].id.cmp(&swaps[b].id));
        if let Some((net, bases)) = allowed(problem, &set) {
            let nights = problem.lists.iter().map(|list| i64::from(list.nights));
            all.push((net, nights.zip(&bases).map(|(nights, base)| nights * base).sum(), bases, set));
        }
    }
    let ids = |set: &[usize]| set.iter().map(|&at| swaps[at].id.0.clone()).collect::<Vec<_>>();
    all.sort_by_key(|(net, gram_nights, _, set)| (*net, *gram_nights, set.len(), ids(set)));
    all
}

fn frontier(all: &[Whole]) -> Vec<&Whole> {
    let mut least = i64::MAX;
    let mut fewer = Vec::new();
    for whole in all {
        if whole.1 < least {
            least = whole.1;
            fewer.push(whole);
        }
    }
    fewer
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, ..ProptestConfig::default() })]

    #[test]
    fn several_lists_are_planned_as_brute_force_does(problem in lists(), most_work in prop_oneof![Just(u64::MAX), Just(0)]) {
        let expanded = problem.expand().unwrap();
        let ready = expanded.ready().unwrap();
        let limits = Limits { most_work, ..Limits::default() };
        let answer = solve_lists(&ready, &limits, &|| false).unwrap();
        let all = all(&problem);
        let expected = frontier(&all);
        let points = answer.frontier.points().iter().enumerate();
        let found: Vec<(i64, i64, Vec<usize>)> =
            points.map(|(at, point)| (point.net.minor(), point.base.mg(), answer.frontier.swaps(at))).collect();
        let wanted: Vec<_> = expected.iter().map(|(net, gram_nights, _, set)| (*net, *gram_nights, set.clone())).collect();
        prop_assert_eq!(found, wanted);
        let (budget, plan) = (problem.whole.budget.minor(), &answer.plan);
        let reaches = |whole: &&Whole| problem.lists.iter().zip(&whole.2).all(|(list, base)| list.target.is_none_or(|target| *base <= target.mg()));
        let is_pinned = problem.whole.swaps.iter().any(|swap| swap.state == SwapState::Pinned);
        let as_it_is = all.iter().find(|whole| whole.3.is_empty()).filter(reaches);
        let to_targets = all.iter().find(reaches);
        let lightest = expected.iter().rev().find(|whole| whole.0 <= budget);
        let wanted = match (as_it_is.filter(|_| !is_pinned), to_targets, lightest) {
            (Some(whole), ..) => Some((Outcome::AlreadyMet, whole)),
            (_, Some(whole), _) if whole.0 <= budget => Some((Outcome::TargetMet, whole)),
            (_, Some(whole), Some(lightest)) => Some((Outcome::OverBudget { more: Money::from_minor(whole.0 - budget) }, *lightest)),
            (_, None, Some(lightest)) => {
                let least = Mass::from_mg(expected.last().unwrap().1);
                Some((Outcome::OutOfReach { lightest: least }, *lightest))
            }
            (.., None) => None,
        };
        let Some((outcome, (net, gram_nights, bases, set))) = wanted else {
            prop_assert!(plan.swaps.is_none());
            let mut without = problem.clone();
            without.whole.terms.meet.clear();
            let cheapest = self::all(&without).first().map(|whole| whole.0);
            let meets = !problem.whole.terms.meet.is_empty();
            let wanted = match (expected.first(), cheapest) {
                (None, Some(_)) if meets => "unmet",
                (Some(_), Some(cheapest)) if meets && cheapest <= budget => "too_dear",
                _ => "pins_clash",
            };
            let found = match &plan.outcome {
                Outcome::Unmet { .. } => "unmet",
                Outcome::TooDear { more } => {
                    prop_assert_eq!(more.minor(), expected[0].0 - budget);
                    "too_dear"
                }
                Outcome::PinsClash { .. } => "pins_clash",
                // Without any work, what it would cost to meet less may stay open.
                Outcome::Unresolved if most_work == 0 && meets && !plan.is_proved => return Ok(()),
                _ => "another",
            };
            prop_assert_eq!(found, wanted);
            return Ok(());
        };
        prop_assert_eq!(&plan.outcome, &outcome);
        prop_assert!(plan.is_proved);
        prop_assert_eq!((plan.net.minor(), plan.gram_nights.mg(), plan.swaps.as_ref()), (*net, *gram_nights, Some(set)));
        prop_assert_eq!(plan.bases.iter().map(|base| base.mg()).collect::<Vec<_>>(), bases.clone());
    }

    #[test]
    fn what_is_stopped_is_allowed_all_the_same_and_proved_only_where_it_is(
        problem in lists(), work in 0..60_u64, steps in 0..60_000_usize, cells in 0..300_usize, stops in any::<bool>(),
    ) {
        let expanded = problem.expand().unwrap();
        let ready = expanded.ready().unwrap();
        let best = solve_lists(&ready, &Limits::default(), &|| false).unwrap();
        let limits = Limits { most_work: work, most_steps: steps, most_cells: cells, ..Limits::default() };
        // That it is no fault says that each set was checked.
        let stopped = solve_lists(&ready, &limits, &|| stops).unwrap();
        if stopped.plan.is_proved {
            prop_assert_eq!(&stopped.plan.outcome, &best.plan.outcome);
            prop_assert_eq!((stopped.plan.net, stopped.plan.gram_nights), (best.plan.net, best.plan.gram_nights));
        }
        if let (Some(set), false) = (&stopped.plan.swaps, stopped.plan.outcome == Outcome::AlreadyMet) {
            let (net, bases) = allowed(&problem, set).unwrap();
            prop_assert_eq!((stopped.plan.net.minor(), stopped.plan.bases.iter().map(|base| base.mg()).collect::<Vec<_>>()), (net, bases));
        }
    }

    #[test]
    fn what_is_told_of_each_swap_is_what_it_does_to_each_list(problem in lists()) {
        let expanded = problem.expand().unwrap();
        let ready = expanded.ready().unwrap();
        let many = problem.whole.swaps.len();
        let saved: Vec<Vec<i64>> = (0..many).map(|swap| {
            let of = |at| {
                let (one, _) = alone(&problem, at);
                plainly::base_after(&one, &[]) - plainly::base_after(&one, &[swap])
            };
            (0..problem.lists.len()).map(of).collect()
        }).collect();
        let mut worths = HashMap::new();
        for (swap, saved) in saved.iter().enumerate() {
            let Some((gram_nights, net)) = ready.worth(swap) else { continue };
            let told: Vec<i64> = ready.savings(swap).into_iter().map(|saving| saving.unwrap().mg()).collect();
            prop_assert_eq!(&told, saved);
            let nights = problem.lists.iter().map(|list| i64::from(list.nights));
            prop_assert_eq!(gram_nights.mg(), nights.zip(saved).map(|(nights, saved)| nights * saved).sum::<i64>());
            worths.insert(swap, (i128::from(gram_nights.mg()), i128::from(net.minor())));
        }
        // Free ones first, then the most gram-nights for the money.
        let class = |(saved, net): (i128, i128)| match (saved > 0, net > 0) { (false, _) => 2, (true, paid) => i32::from(paid) };
        let is_before = |a: (i128, i128), b: (i128, i128)| match class(a).cmp(&class(b)) {
            std::cmp::Ordering::Equal if class(a) == 1 => a.0 * b.1 >= b.0 * a.1,
            std::cmp::Ordering::Equal => a.0 >= b.0,
            other => other.is_lt(),
        };
        let ranked: Vec<(i128, i128)> = ready.ranking().iter().filter_map(|row| worths.get(&row.swap).copied()).collect();
        prop_assert_eq!(ranked.len(), worths.len());
        prop_assert!(ranked.windows(2).all(|pair| is_before(pair[0], pair[1])), "{:?}", ranked);
        let set: Vec<usize> = worths.keys().copied().collect();
        let order = ListsOrder::new(&ready).of(&set);
        prop_assert_eq!(order.len(), set.len());
    }
}
