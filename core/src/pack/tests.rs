//! Where things go, what is left to do, and readings against hand-worked sums.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use super::*;
use crate::gear::{Band, Facts, Gear, Identity, Job, Jobs, Known, Makers, Name, System, Tags, WeightSource};
use crate::list::{Carrier, Counts, Line, LineId, Place, Thing, WeighedKit};
use crate::quantity::Mass;
use crate::trip::{Load, Supplies, Trip};
use proptest::prelude::*;
use std::collections::BTreeMap;

fn grams(grams: i64) -> Mass {
    Mass::from_mg(grams * 1_000)
}

fn thing(system: System, tags: &str, jobs: &[(&str, i64)]) -> Thing {
    let line = Line {
        id: LineId("line".to_owned()),
        name: "thing".to_owned(),
        counts: Counts { carried: 1, ..Counts::default() },
        weight: Some(Known::exactly(grams(100))),
        tags: Tags::parse(tags).unwrap(),
        provides: jobs.iter().map(|(job, amount)| (Job::new(job).unwrap(), *amount)).collect(),
        needs: Jobs::new(),
    };
    Thing { line, system, facts: Facts::default(), identity: Identity::default(), carrier: Carrier::Own(0) }
}

fn weighing(mg: Option<(i64, i64, i64)>, source: WeightSource, carried: u32) -> Thing {
    let mut thing = thing(System::Other, "", &[]);
    thing.line.counts.carried = carried;
    thing.line.weight = mg.map(|(unit, low, high)| Known {
        band: Band { low: Mass::from_mg(low), high: Mass::from_mg(high) },
        source: Some(source),
        ..Known::exactly(Mass::from_mg(unit))
    });
    thing
}

fn sized(ml: i64, carried: u32) -> Thing {
    let mut thing = weighing(None, WeightSource::Estimate, carried);
    if ml > 0 {
        thing.line.needs.insert(Job::new("room").unwrap(), ml);
    }
    thing
}

fn packed(things: impl IntoIterator<Item = (Thing, PackingNote)>) -> Packed {
    Packed::new(things, BTreeMap::new())
}

#[test]
fn what_was_not_in_when_something_was_and_was_not_used_was_forgotten() {
    for (was_in, any_in, used, forgotten) in [
        (false, true, None, true),
        (false, true, Some(false), true),
        (false, true, Some(true), false),
        (false, false, None, false),
        (true, true, None, false),
    ] {
        assert_eq!(is_forgotten(was_in, any_in, used), forgotten, "{was_in} {any_in} {used:?}");
    }
}

#[test]
fn things_go_where_they_are_needed() {
    for (system, tags, jobs, zone) in [
        (System::Rain, "", &[("rain_shell", 1)][..], Zone::Top),
        (System::Rain, "", &[], Zone::FrontPocket),
        (System::Way, "", &[], Zone::Top),
        (System::Way, "pocket", &[("way_finding", 1)], Zone::OnMe),
        (System::Sleep, "", &[("sleep_insulation", 1)], Zone::LowerBody),
        (System::Clothes, "", &[("warm_layer", 1)], Zone::LowerBody),
        (System::Clothes, "", &[("gloves", 1)], Zone::Top),
        (System::Shelter, "", &[("shelter", 1), ("stake", 2)], Zone::UpperBody),
        (System::Kitchen, "", &[("pot", 1)], Zone::UpperBody),
        (System::Water, "", &[("water_carried", 1_000)], Zone::LeftSide),
        (System::Water, "", &[("water_treatment", 1)], Zone::UpperBody),
        (System::Wash, "", &[("toilet", 1)], Zone::FrontPocket),
        (System::Other, "", &[("cutting", 1)], Zone::Belt),
        (System::Other, "food", &[], Zone::UpperBody),
        (System::Comfort, "", &[], Zone::Bottom),
    ] {
        assert_eq!(proposed(&thing(system, tags, jobs)), Some(zone), "{system:?} {tags} {jobs:?}");
    }
    assert_eq!(proposed(&thing(System::Pack, "", &[("room", 45_000)])), None);
    let mut shirt = thing(System::Worn, "", &[]);
    shirt.line.counts = Counts { worn: 1, ..Counts::default() };
    assert_eq!(proposed(&shirt), Some(Zone::OnMe));
    shirt.line.counts = Counts { left: 1, ..Counts::default() };
    assert_eq!(proposed(&shirt), None);
}

#[test]
fn what_does_not_fit_is_named_and_what_nobody_measured_makes_it_at_least() {
    let things = [sized(3_000, 1), sized(0, 1), sized(1_500, 2), sized(500, 1)];
    let all: Vec<&Thing> = things.iter().collect();
    assert_eq!(fill(&all, Some(6_000)), Fill { ml: 6_500, unknown: 1, over: vec![3] });
    assert_eq!(fill(&all, Some(5_999)).over, [2, 3]);
    assert_eq!(fill(&all, None).over, Vec::<usize>::new());
    let pack = (thing(System::Pack, "", &[("room", 45_000)]), PackingNote::default());
    assert_eq!(packed([pack.clone()]).room_ml(), 45_000);
    // What the walker says that a zone holds counts, and what stands where they put it fills it first.
    let mut said = [pack, (sized(3_000, 1), PackingNote::default()), (sized(2_000, 1), PackingNote::default())];
    for (one, place) in said.iter_mut().skip(1).zip([2, 1]) {
        one.1 = PackingNote { zone: Some(Zone::Top), place: Some(place), is_in: false };
    }
    let own = Packed::new(said, BTreeMap::from([(Zone::Top, 4_000)]));
    let (_, holds, full) = own.fills().remove(0);
    assert_eq!((own.in_zone(Zone::Top), holds, full.over), (vec![2, 1], Some(4_000), vec![1]));
    let inside: i64 = Zone::ALL[..4].iter().filter_map(|zone| zone.ml_by_default(45_000)).sum();
    assert_eq!(inside, 45_000);
    assert_eq!(Zone::OnMe.ml_by_default(45_000), None);
}

#[test]
fn what_is_to_be_done_comes_from_the_things_and_from_the_trip() {
    let mut lamp = thing(System::Power, "", &[("light", 1)]);
    lamp.line.needs.insert(Job::new("power").unwrap(), 4_000);
    let bottle = thing(System::Water, "", &[("water_carried", 1_000)]);
    let mut can = thing(System::Kitchen, "gas_can", &[]);
    can.facts.contents = Some(grams(100));
    let home = Thing {
        line: Line { counts: Counts { left: 1, ..Counts::default() }, ..sized(0, 0).line },
        ..thing(System::Other, "", &[])
    };
    let things = [lamp, bottle.clone(), bottle.clone(), bottle, can, sized(0, 1), home];
    let task = |task, of, amount| ToDo { task, of, amount };
    let own = [task(Task::Charge, Some(0), None), task(Task::Refill, Some(4), None)];
    let plain = to_do(&things, None);
    assert_eq!(plain.iter().filter(|todo| todo.task == Task::Fill).count(), 3);
    assert!(own.iter().all(|one| plain.contains(one)) && plain.contains(&task(Task::Weigh, Some(5), None)));

    // 1.5 l of water go into the first two bottles; of food all lacks but for nothing that is tagged so; of gas 150 g, and the can has 100.
    let trip = Trip { start_ml: 1_500, boil_ml_per_day: 5_000, gas_mg_per_l: 25_000, ..Trip::plain(1, 100, 200) };
    let supplies = Supplies::of(&trip);
    assert_eq!(supplies.gas, grams(150));
    let all = to_do(&things, Some(&trip));
    let fills: Vec<_> = all.iter().filter(|todo| todo.task == Task::Fill).map(|todo| todo.amount).collect();
    assert_eq!(fills[..2], [Some(1_000), Some(500)]);
    assert!(all.contains(&task(Task::Buy, None, Some(supplies.food_by_carry[0].mg()))));
    assert!(all.contains(&task(Task::OnTheWay, None, Some(50_000))));
    let dry = to_do(&things, Some(&Trip { start_ml: 0, ..Trip::plain(1, 100, 200) }));
    assert!(dry.iter().all(|todo| todo.task != Task::Fill && (todo.task != Task::OnTheWay || todo.of.is_some())));
}

#[test]
fn what_safety_needs_stands_on_top_while_it_is_not_in() {
    let mut worn = thing(System::Worn, "", &[("rain_shell", 1)]);
    worn.line.counts = Counts { worn: 1, ..Counts::default() };
    let things = [
        thing(System::Comfort, "", &[]),
        thing(System::Way, "", &[("call_for_help", 1)]),
        thing(System::Aid, "medical", &[]),
        worn,
        thing(System::Power, "", &[("light", 1)]),
    ];
    let of = |lamp: bool| {
        let said = |at: usize| PackingNote { is_in: lamp && at == 4, ..PackingNote::default() };
        packed(things.iter().cloned().enumerate().map(|(at, thing)| (thing, said(at)))).missing_for_safety()
    };
    assert_eq!((of(true), of(false)), (vec![1, 2, 3], vec![1, 2, 3, 4]));
}

#[test]
fn what_is_in_is_what_is_ticked_and_the_pack_and_kits_count_as_they_were_weighed() {
    let named = |name: &str, thing: Thing| {
        let line = Line { id: LineId(name.to_owned()), ..thing.line };
        Thing { line, ..thing }
    };
    let weighed = |grams: i64| weighing(Some((grams * 1_000, 0, 0)), WeightSource::Weighed, 1);
    let pack = Thing {
        line: Line { weight: Some(Known::exactly(grams(900))), ..thing(System::Pack, "", &[("room", 45_000)]).line },
        ..weighed(0)
    };
    let things = [
        named("pack", pack),
        named("quilt", weighed(500)),
        named("sack", weighing(None, WeightSource::Weighed, 1)),
        named("phone", Thing { system: System::Way, ..thing(System::Way, "pocket", &[]) }),
        named("chair", weighed(400)),
    ];
    let kit = |mg: i64| {
        [WeighedKit {
            name: "bed".to_owned(),
            weighed: Mass::from_mg(mg),
            parts: vec![(LineId("quilt".to_owned()), 1), (LineId("sack".to_owned()), 1)],
        }]
    };
    let of = |ticked: &[usize]| {
        let said = |at: usize| PackingNote { is_in: ticked.contains(&at), ..PackingNote::default() };
        packed(things.iter().cloned().enumerate().map(|(at, thing)| (thing, said(at))))
    };
    let listed = |ticked: &[usize]| of(ticked).reconcile(grams(9_000), Mass::ZERO, &kit(530_000), None);
    // Nothing ticked: all but the phone. 900 + 530 for quilt and sack together + 400.
    assert_eq!(listed(&[]).listed.total, grams(1_830));
    assert!(listed(&[]).causes.iter().all(|cause| cause.why != Why::Unknown));
    assert_eq!(listed(&[1, 2]).listed.total, grams(1_430));
    // Half a kit is no kit.
    assert_eq!(listed(&[1]).listed.total, grams(1_400));
    let sack_alone = listed(&[2]);
    assert_eq!(
        (sack_alone.listed.total, sack_alone.causes[0].of, sack_alone.causes[0].why),
        (grams(900), Some(2), Why::Unknown)
    );
    // Food and water as they are carried on the first day: three quarters of a litre, or the dry stretch if that is walked then.
    let trip = |stretch_day| Trip {
        start_ml: 750,
        stretch_m: 12_000,
        pace_m_per_hour: 3_000,
        stretch_day,
        ..Trip::plain(2, 100, 200)
    };
    let with = |trip: &Trip| of(&[]).reconcile(grams(9_000), Mass::ZERO, &[], Some(trip)).listed.total - grams(1_800);
    let food = Supplies::of(&trip(2)).food_by_carry[0];
    assert_eq!((with(&trip(2)) - food, with(&trip(1)) - food), (grams(750), grams(2_000)));
}

#[test]
fn a_reading_is_explained_by_what_is_least_known() {
    use WeightSource::{Estimate, Maker, Weighed};
    let things = [
        weighing(Some((1_900_000, -1_000, 1_000)), Weighed, 1),
        weighing(Some((500_000, -15_000, 40_000)), Maker, 1),
        weighing(Some((400_000, -60_000, 60_000)), Estimate, 1),
        weighing(Some((50_000, -1_500, 4_000)), Maker, 2),
        weighing(None, Estimate, 1),
        weighing(Some((230_000, -1_000, 1_000)), Weighed, 1),
    ];
    let packed = |out: usize| -> Vec<InPack<'_>> {
        things.iter().enumerate().map(|(at, thing)| InPack { thing, is_in: at != out }).collect()
    };
    // Without the last: 2 900 g, and 2 kg of food and water.
    let of = |reading| reconcile(reading, grams(10), &packed(5), &[], Load { food: grams(1_000), water: grams(1_000) });
    let more = of(grams(5_000));
    assert_eq!((more.listed.total, more.difference), (grams(4_900), grams(100)));
    // √(10² + 300² + 1² + 40² + 60² + 8²) = 309.0 g; all wrong the same way 419 g.
    assert_eq!((more.likely.high.mg() + 999) / 1_000, 309 + i64::from(more.likely.high.mg() > 309_000));
    assert_eq!(
        more.worst,
        Band { low: Mass::ZERO - grams(10 + 300 + 1 + 15 + 60 + 3), high: grams(10 + 300 + 1 + 40 + 60 + 8) }
    );
    assert_eq!(more.explained, Explained::Likely);
    let whys = |found: &Reconciled| found.causes.iter().map(|cause| (cause.of, cause.why)).collect::<Vec<_>>();
    assert_eq!(
        whys(&more),
        [
            (Some(4), Why::Unknown),
            (Some(2), Why::Guess),
            (Some(1), Why::Maker),
            (Some(3), Why::Maker),
            (Some(0), Why::Weighed),
            (Some(5), Why::NotTicked),
            (None, Why::Supplies),
        ]
    );
    assert_eq!(of(grams(5_300)).explained, Explained::AtWorst);
    assert_eq!(of(grams(5_400)).explained, Explained::ByUnknown);
    // Less than listed: neither what is unknown nor what is not ticked can be it.
    let less = of(grams(4_000));
    assert_eq!(less.explained, Explained::No);
    assert_eq!(whys(&less)[0], (Some(2), Why::Guess));
    assert!(less.causes.iter().all(|cause| !matches!(cause.why, Why::Unknown | Why::NotTicked)));
    assert_eq!(of(grams(4_900)).causes, []);
}

proptest! {
    #[test]
    fn what_is_listed_is_the_plain_sum_and_its_own_doubt_explains_it(
        units in prop::collection::vec((0..2_000_000_i64, 0..100_000_i64, 0..100_000_i64, 0..3_u32, any::<bool>()), 0..12),
        supplies in 0..5_000_000_i64, at in 0..=100_i64,
    ) {
        let things: Vec<Thing> = units.iter().map(|(unit, low, high, count, _)| weighing(Some((*unit, -low, *high)), WeightSource::Maker, *count)).collect();
        let packed: Vec<InPack<'_>> = things.iter().zip(&units).map(|(thing, one)| InPack { thing, is_in: one.4 }).collect();
        let of = |reading| reconcile(reading, Mass::ZERO, &packed, &[], Load { food: Mass::from_mg(supplies / 3), water: Mass::from_mg(supplies - supplies / 3) });
        let listed: i64 = supplies + units.iter().filter(|one| one.4).map(|one| one.0 * i64::from(one.3)).sum::<i64>();
        let found = of(Mass::from_mg(listed));
        prop_assert_eq!((found.listed.total.mg(), found.difference.mg()), (listed, 0));
        prop_assert!(found.worst.low <= found.likely.low && found.likely.high <= found.worst.high);
        let high: i64 = supplies * 15 / 100 + units.iter().filter(|one| one.4).map(|one| one.2 * i64::from(one.3)).sum::<i64>();
        prop_assert_eq!(found.worst.high.mg(), high);
        // Anything between is explained one way or the other, and one milligram beyond is not.
        let between = of(Mass::from_mg(listed + high * at / 100));
        prop_assert!(matches!(between.explained, Explained::Likely | Explained::AtWorst));
        prop_assert_eq!(of(Mass::from_mg(listed + high + 1)).explained, Explained::No);
        prop_assert!(between.causes.iter().all(|cause| cause.of.is_none_or(|at| things[at].is_in(&[Place::Carried]))));
    }
}

#[test]
fn food_and_water_are_loaded_once_what_holds_them_is_in() {
    let trip = Trip::plain(1, 100, 200);
    let bottle = thing(System::Water, "", &[("water_carried", 1_000)]);
    let food = thing(System::Food, "food", &[]);
    let listed = |things: &[(&Thing, bool)]| {
        let said = |&(thing, is_in): &(&Thing, bool)| (thing.clone(), PackingNote { is_in, ..PackingNote::default() });
        packed(things.iter().map(said)).reconcile(grams(5_000), Mass::ZERO, &[], Some(&trip)).listed.total
    };
    let mug = thing(System::Kitchen, "", &[]);
    // 100 g each, a litre of water; the list's own food as it is weighed, and none of the trip's beside it.
    assert_eq!(listed(&[(&bottle, true), (&food, true)]), grams(100 + 1_000 + 100));
    assert_eq!(listed(&[(&bottle, false), (&food, true)]), grams(100));
    assert_eq!(listed(&[(&bottle, true), (&food, false)]), grams(1_100));
    assert_eq!(listed(&[(&bottle, false), (&food, false)]), grams(1_200), "nothing is ticked yet");
    assert_eq!(listed(&[(&mug, true)]), grams(100 + 1_700), "nothing on the list holds them");
}

#[test]
fn a_line_is_packed_by_place_what_is_worn_of_it_lies_on_the_walker() {
    let mut socks = thing(System::Clothes, "", &[]);
    socks.line.counts = Counts { carried: 2, worn: 1, ..Counts::default() };
    let packed = packed([(socks, PackingNote { zone: Some(Zone::Bottom), ..PackingNote::default() })]);
    let there = |at: usize| (packed.given(at), packed.things()[at].line.counts, packed.zone(at));
    let (spare, worn) = (Counts { carried: 2, ..Counts::default() }, Counts { worn: 1, ..Counts::default() });
    assert_eq!([there(0), there(1)], [(0, spare, Some(Zone::Bottom)), (0, worn, Some(Zone::OnMe))]);
    assert_eq!(packed.things().len(), 2);
    let listed = packed.reconcile(grams(500), Mass::ZERO, &[], None).listed;
    assert_eq!(listed.total, grams(200));
}

#[test]
fn what_food_is_nobody_has_to_tag() {
    let food = |name: &str, system: System, jobs: &[(&str, i64)], used_up: u32| {
        let line = thing(system, "", jobs).line;
        let gear = Gear {
            name: Name::new(name).unwrap(),
            provides: line.provides,
            system,
            ..Gear::named(Name::new("x").unwrap())
        };
        let counts = Counts { carried: 1 - used_up, used_up, ..Counts::default() };
        let makers = Makers::default();
        Thing::owned(LineId(String::new()), &gear, counts, Carrier::Own(0), &makers).has("food")
    };
    assert!(food("food for six days", System::Food, &[], 0));
    assert!(food("food for six days", System::Other, &[], 1));
    assert!(food("oat bars", System::Food, &[], 1) && food("lunch", System::Kitchen, &[], 1));
    assert!(food("coffee", System::Kitchen, &[], 1), "used up in the kitchen");
    assert!(!food("food bag", System::Food, &[("food_store", 1)], 0) && !food("food bag", System::Food, &[], 0));
    assert!(!food("mug", System::Kitchen, &[], 0) && !food("soap", System::Wash, &[], 1));
    // Taken for food, it would count in place of all the trip's food: the pack would look lighter than it is.
    for name in
        ["spirit fuel, 200 ml", "solid fuel tablets", "matches", "Streichhölzer", "alcool à brûler", "paper towels"]
    {
        assert!(!food(name, System::Kitchen, &[], 1), "{name}");
    }
    assert!(!food("line for hanging food", System::Food, &[], 0) && !food("odour-proof liner", System::Food, &[], 0));
}
