//! Lessons against a plain recount over random trips, and figures worked by hand.
#![allow(clippy::unwrap_used)]

use super::*;
use crate::gear::RatingKind;
use crate::list::Counts;
use crate::quantity::{Mass, MassUnit, Money, Temperature, Units};
use crate::trip::{Figure, Food, Supplies};
use proptest::prelude::*;
use std::collections::BTreeMap;

fn taken(gear: u8, pieces: i64, used: Option<bool>, marks: &[Mark]) -> Taken<u8> {
    let verdict = Verdict { used, marks: marks.iter().copied().collect() };
    Taken { gear: Some(gear), pieces, is_bed: false, facts: Facts::default(), verdict }
}

fn walk(nights: u32, things: Vec<Taken<u8>>) -> Walk<u8> {
    Walk { nights, met: Met::default(), used_up: UsedUp::default(), planned: None, things }
}

/// Three nights in a quilt of a comfort, with what a liner adds, at a low.
fn night(comfort: i64, liner: i64, low: i64, was_cold: bool) -> Walk<u8> {
    let marks: &[Mark] = if was_cold { &[Mark::TooCold] } else { &[] };
    let rating = Rating { kind: RatingKind::Comfort, at: Temperature::from_tenths(comfort) };
    let quilt = Taken {
        is_bed: true,
        facts: Facts { rating: Some(rating), ..Facts::default() },
        ..taken(1, 1, Some(true), marks)
    };
    let liner = Taken { facts: Facts { warms: Some(liner), ..Facts::default() }, ..taken(2, 1, Some(liner != 0), &[]) };
    let met = Met { low_tenth_c: Some(low), ..Met::default() };
    Walk { met, ..walk(3, vec![quilt, liner]) }
}

#[test]
fn nights_tell_how_cold_the_sleeper_is() {
    // Comfort +4 °C. Warm enough at 8; too cold at 5, one degree above the rating.
    let walks = [night(40, 0, 80, false), night(40, 0, 50, true), night(40, 0, 90, false)];
    let found = offset(&walks);
    assert_eq!((found.more_than, found.at_most), (Some((10, 1)), Some((40, 0))));
    assert_eq!((found.estimate(0), found.is_contradicted()), (Some(25), false));
    let slept = slept(&walks);
    assert_eq!(slept[&1], Slept { comfortable: Some((80, 0)), uncomfortable: Some((50, 1)) });
    assert!(!slept.contains_key(&2), "a liner is no bed");

    // A liner that adds 3 °C: comfort is 1 °C, and 2 °C is one above that.
    assert_eq!(offset(&[night(40, 30, 20, true)]).more_than, Some((10, 0)));
    let cold = offset(&[night(40, 30, 20, true)]);
    // Cold alone: at least so much, and never less than what is set.
    assert_eq!((cold.estimate(0), cold.estimate(50)), (Some(10), Some(50)));
    assert_eq!(offset(&[night(40, 0, -30, true)]).estimate(0), Some(0));
    // Only warm nights say nothing of how cold it may get.
    assert_eq!(offset(&[night(40, 0, 80, false)]).estimate(0), None);
    // Cold at 9 and warm at 6: half way, marked; 35 tenths, and of 25 and 26 the even one.
    let both = offset(&[night(40, 0, 90, true), night(40, 0, 60, false)]);
    assert_eq!((both.estimate(0), both.is_contradicted()), (Some(35), true));
    assert_eq!(offset(&[night(40, 0, 50, true), night(40, 0, 81, false)]).estimate(0), Some(26));
}

#[test]
fn own_rates_come_from_what_was_used() {
    let mut planned = Trip::plain(4, 0, 100);
    // Meals: 2 + 3 + 3 + 2.
    (planned.first_day_meals, planned.last_day_meals, planned.boil_ml_per_day) = (2, 2, 2_000);
    planned.food = Food::Energy { kcal_per_day: 2_900, kcal_per_100g: 450 };
    let used_up = UsedUp {
        gas_taken_mg: Some(378_000),
        gas_back_mg: Some(290_000),
        food_taken_mg: Some(2_400_000),
        food_back_mg: Some(150_000),
        drunk_ml: Some(9_000),
        walked_min: Some(20 * 60),
        power_taken_mwh: Some(74_000),
        power_back_mwh: Some(34_000),
        boiled_ml: None,
    };
    let first = Walk { used_up, planned: Some(planned.clone()), ..walk(3, Vec::new()) };
    // A night longer than planned, and more boiled than planned: 5 days, 15 meals, 6.4 l.
    let longer = UsedUp { boiled_ml: Some(6_400), ..used_up };
    let second = Walk { used_up: longer, planned: Some(planned), ..walk(4, Vec::new()) };
    let found = rates(&[first.clone(), walk(2, Vec::new()), second.clone()]);
    let of = |own: &Option<Own>| own.clone().unwrap();
    // 88 g of gas on 8 l, and on 6.4 l; 12.375 is half way between 11 and 13.75.
    assert_eq!(of(&found.gas_mg_per_l), Own { median: 12_375, of: vec![(0, 11_000), (2, 13_750)] });
    // 2 250 g in ten meals, and in fifteen.
    assert_eq!(of(&found.food_mg_per_day).of, [(0, 675_000), (2, 450_000)]);
    assert_eq!(of(&found.kcal_per_day).of, [(0, 3_038), (2, 2_025)], "3 037.5 to the even one");
    assert_eq!(of(&found.water_ml_per_hour), Own { median: 450, of: vec![(0, 450), (2, 450)] });
    assert_eq!(of(&found.power_mwh_per_day).of, [(0, 10_000), (2, 8_000)]);
    // Of three the middle one.
    let third = Walk { used_up: UsedUp { boiled_ml: Some(20_000), ..used_up }, ..first.clone() };
    assert_eq!(rates(&[third, second, first.clone()]).gas_mg_per_l.unwrap().median, 11_000);
    // More back than taken, or nothing boiled: nothing.
    let odd = Walk { used_up: UsedUp { gas_back_mg: Some(400_000), ..used_up }, ..first.clone() };
    let cold = Walk { used_up: UsedUp { boiled_ml: Some(0), ..used_up }, ..first };
    assert_eq!((rates(&[odd]).gas_mg_per_l, rates(&[cold]).gas_mg_per_l), (None, None));
}

#[test]
fn progress_counts_what_the_scale_said_since() {
    let grams = |grams: i64| Mass::from_mg(grams * 1_000);
    let came =
        |pieces, stated, now: Option<i64>| PutOnWeight { pieces, stated: Some(grams(stated)), now: now.map(grams) };
    let swap = |before, after, came, net| Shed {
        before: grams(before),
        after: grams(after),
        came,
        net: Money::from_minor(net),
    };
    // Two bottles of 38 g that weigh 44 g each; a quilt 5 g lighter than claimed; something that is gone since.
    let bottles = swap(10_200, 9_800, vec![came(2, 38, Some(44)), came(1, 90, None)], 12_000);
    let quilt = swap(9_800, 9_700, vec![came(1, 550, Some(545))], -2_000);
    let done = progress([bottles, quilt]);
    assert_eq!(done, Progress { promised: grams(500), shed: grams(500 - 12 + 5), net: Money::from_minor(10_000) });
    // What nobody knew counted as nothing, and counts now.
    let unknown = PutOnWeight { pieces: 1, stated: None, now: Some(grams(30)) };
    assert_eq!(progress([swap(900, 800, vec![unknown], 0)]).shed, grams(70));
}

#[test]
fn a_line_that_moves_is_left_out_added_or_counted_elsewhere() {
    let counts = |carried, worn, left| Counts { carried, worn, left, ..Counts::default() };
    let none = Counts::default();
    for (before, after, cause) in [
        (counts(1, 0, 0), none, Cause::LeftOut),
        (counts(2, 0, 0), counts(1, 0, 1), Cause::LeftOut),
        (none, counts(1, 0, 0), Cause::Added),
        (counts(0, 0, 1), counts(1, 0, 0), Cause::Added),
        (counts(1, 0, 0), counts(0, 1, 0), Cause::Counted),
        (counts(0, 1, 0), counts(1, 0, 0), Cause::Counted),
        (counts(1, 1, 0), counts(1, 0, 0), Cause::Changed),
    ] {
        assert_eq!(Cause::of_move(before, after), cause, "{before:?} to {after:?}");
    }
}

#[test]
fn figures_are_taken_as_they_are_typed() {
    let (mut met, mut used) = (Met::default(), UsedUp::default());
    let mut typed = |figure, text: &str, units| take((&mut met, &mut used), figure, text, units, MassUnit::G);
    for (figure, text) in [
        (WalkFigure::Low, "-4"),
        (WalkFigure::Stretch, "12"),
        (WalkFigure::GasTaken, "378"),
        (WalkFigure::GasBack, "0.25 kg"),
        (WalkFigure::Drunk, "9 l"),
        (WalkFigure::Walked, "21.5 h"),
        (WalkFigure::PowerTaken, "10000 mAh"),
        (WalkFigure::PowerBack, "40 %"),
    ] {
        typed(figure, text, Units::Metric).unwrap();
    }
    typed(WalkFigure::Boiled, "100", Units::Imperial).unwrap();
    for (text, refused) in
        [("21:75", true), ("21:30", false), ("2 days", true), ("1.255", true), ("21 h 30 min", false)]
    {
        assert_eq!(typed(WalkFigure::Walked, text, Units::Metric).is_err(), refused, "{text}");
    }
    assert!(typed(WalkFigure::PowerBack, "140 %", Units::Metric).is_err());
    assert!(typed(WalkFigure::GasBack, "1,250 g", Units::Metric).unwrap_err().to_string().contains("1250"));
    typed(WalkFigure::GasTaken, " ", Units::Metric).unwrap();
    assert_eq!(met, Met { low_tenth_c: Some(-40), rain: None, stretch_m: Some(12_000) });
    let held = (used.gas_taken_mg, used.gas_back_mg, used.drunk_ml, used.walked_min);
    assert_eq!(held, (None, Some(250_000), Some(9_000), Some(1_290)));
    // 10 Ah at 3.7 V are 37 Wh; 40 % of that; 100 fl oz are 2 957 ml.
    assert_eq!((used.power_taken_mwh, used.power_back_mwh, used.boiled_ml), (Some(37_000), Some(14_800), Some(2_957)));
}

#[test]
fn an_own_rate_of_power_asks_of_a_trip_what_it_came_from() {
    let mut trip = Trip::plain(4, 0, 100);
    trip.take(Figure::PowerPerDay, "8 Wh", Units::Metric, MassUnit::G).unwrap();
    // 32 Wh of the banks' rating, of which they deliver 65 %.
    assert_eq!((trip.devices[0].mwh, trip.devices[0].charges), (20_800, 1));
    assert_eq!(Supplies::of(&trip).power_mwh, 32_000);
}

fn any_thing() -> impl Strategy<Value = Taken<u8>> {
    let mark = prop_oneof![Just(Mark::Wished), Just(Mark::TooCold), Just(Mark::Failed)];
    (0..4u8, 0..3i64, prop::option::of(any::<bool>()), prop::collection::vec(mark, 0..2))
        .prop_map(|(gear, pieces, used, marks)| taken(gear, pieces, used, &marks))
}

proptest! {
    /// Thing by thing, trip by trip, each line looked at on its own.
    #[test]
    fn habits_are_a_plain_recount(
        trips in prop::collection::vec((0..9u32, prop::collection::vec(any_thing(), 0..4)), 0..6)
    ) {
        // A list has a thing once.
        let once = |things: Vec<Taken<u8>>| -> Vec<Taken<u8>> {
            things.into_iter().map(|thing| (thing.gear, thing)).collect::<BTreeMap<_, _>>().into_values().collect()
        };
        let walks: Vec<Walk<u8>> = trips.into_iter().map(|(nights, things)| walk(nights, once(things))).collect();
        let habits = habits(&walks);
        for gear in 0..4u8 {
            let lines: Vec<(usize, &Walk<u8>, &Taken<u8>)> = walks.iter().enumerate()
                .flat_map(|(at, walk)| walk.things.iter().map(move |thing| (at, walk, thing)))
                .filter(|(.., thing)| thing.gear == Some(gear))
                .collect();
            let Some(habit) = habits.get(&gear) else {
                prop_assert!(lines.is_empty());
                continue;
            };
            let came = |used: bool| lines.iter()
                .filter(move |(.., thing)| thing.pieces > 0 && thing.verdict.used == Some(used));
            let trips_of = |used: bool| came(used).map(|(at, ..)| *at).collect::<Vec<_>>();
            prop_assert_eq!(&habit.used_on, &trips_of(true));
            prop_assert_eq!(&habit.unused_on, &trips_of(false));
            prop_assert_eq!(habit.nights, came(true).map(|(_, walk, _)| walk.nights).sum::<u32>());
            let missed = lines.iter().filter(|(.., thing)| thing.verdict.marks.contains(&Mark::Wished)).count();
            let unused = came(false).count();
            let never = unused >= 2 && came(true).count() == 0 && missed == 0;
            prop_assert_eq!(habit.never_used(), never.then_some(unused));
        }
    }

    /// What a sleeper is said to add lies between what the nights allow, if they agree.
    #[test]
    fn the_offset_lies_between_warm_and_cold_nights(nights in prop::collection::vec((-100..200i64, any::<bool>()), 1..8)) {
        let walks: Vec<Walk<u8>> = nights.iter().map(|&(low, was_cold)| night(40, 0, low, was_cold)).collect();
        let cold = nights.iter().filter(|night| night.1).map(|night| night.0 - 40).max();
        let warm = nights.iter().filter(|night| !night.1).map(|night| night.0 - 40).min();
        match (cold, warm, offset(&walks).estimate(0)) {
            (None, _, found) => prop_assert_eq!(found, None),
            (Some(cold), None, found) => prop_assert_eq!(found, Some(cold.max(0))),
            (Some(cold), Some(warm), found) => {
                let found = found.unwrap();
                prop_assert!((2 * found - cold - warm).abs() <= 1, "{} from {} and {}", found, cold, warm);
            }
        }
    }
}
