//! Lists on trips against a plain second computation, written from the rules' words over the JSON of `kevyt-list/1`.

use kevyt_core::exchange::{read_list, sums_json};
use kevyt_core::gear::Jobs;
use kevyt_core::list::{Carrier, Counts, Place, Switch, Way, counted_by};
use kevyt_core::quantity::Mass;
use kevyt_core::steps::Steps;
use kevyt_core::together::{SPLIT_STEPS, Split, even_split, lines_of, serving};
use kevyt_core::trip::{COVER_STEPS, Cover, Covers, Holder, Trip, Why, covers, requirements};
use proptest::prelude::*;
use serde_json::{Value, json};

fn thing() -> impl Strategy<Value = Value> {
    let tag = prop::sample::subsequence(
        vec!["poles", "pocket", "container", "gas_can", "consumables", "section_only", "food", "water"],
        0..3,
    );
    let counts = (0..3u32, 0..2u32, 0..2u32, 0..2u32, 0..2u32);
    (prop::option::weighted(0.9, 1..900_000i64), counts, tag, 0..300_000i64, 0..3usize).prop_map(
        |(unit, (carried, worn, used_up, apart, left), tags, contents, whose)| {
            json!({
                "id": "", "name": "thing", "system": "other", "unit_mg": unit, "low_mg": null, "high_mg": null,
                "counts": { "carried": carried, "worn": worn, "used_up": used_up, "apart": apart, "left": left },
                "tags": tags, "contents_mg": (tags.contains(&"gas_can").then_some(contents)),
                "provides": {}, "needs": {}, "rating": null, "warms_tenth_c": null,
                "walker": (["a", "b"].get(whose)), "shared": whose == 2,
            })
        },
    )
}

fn list() -> impl Strategy<Value = Value> {
    let days = (1..9u32)
        .prop_flat_map(|days| (Just(days), 1..=days, prop::collection::btree_set(1..=days, 0..3), 1..4u32, 1..4u32));
    let amounts = (1..1_500_000i64, 0..40_000i64, 1..6_000i64, 0..4_000i64, 0..2_000i64, 0..3_000i64);
    let bodies = (prop::option::of(40_000_000..100_000_000i64), prop::option::of(40_000_000..100_000_000i64));
    (prop::collection::vec(thing(), 0..12), days, amounts, bodies, 0..400i64).prop_map(
        |(
            mut things,
            (days, stretch_day, resupply, first, last),
            (food, stretch, pace, camp, start, boil),
            (a, b),
            high,
        )| {
            things.iter_mut().enumerate().for_each(|(at, thing)| thing["id"] = json!(format!("t{at}")));
            json!({
                "format": "kevyt-list/1", "things": things, "sleeper_offset_tenth_c": 0, "body_mg": a,
                "walkers": [{ "id": "a", "body_mg": a }, { "id": "b", "body_mg": b }],
                "trip": {
                    "days": days, "first_day_meals": first, "last_day_meals": last, "resupply_days": resupply,
                    "food": { "mg_per_day": food }, "stretch_m": stretch, "pace_m_per_hour": pace, "camp_ml": camp,
                    "start_ml": start, "stretch_day": stretch_day, "boil_ml_per_day": boil, "gas_mg_per_l": 11_111,
                    "devices": [], "low_tenth_c": 0, "high_tenth_c": high, "requires": {},
                },
            })
        },
    )
}

/// Counts of a thing: carried, worn, used up, apart.
fn counts(thing: &Value) -> [i64; 4] {
    ["carried", "worn", "used_up", "apart"].map(|place| thing["counts"][place].as_i64().unwrap())
}

fn has(thing: &Value, tag: &str) -> bool {
    thing["tags"].as_array().unwrap().iter().any(|word| word == tag)
}

/// Base, pack, everything and apart, where `place` says which of the four places a tag is moved to.
fn plain_sums(list: &Value, place: Option<[usize; 6]>) -> [i64; 4] {
    let mut at = [0; 4];
    for thing in list["things"].as_array().unwrap() {
        let unit = thing["unit_mg"].as_i64().unwrap_or(0);
        let gas = unit.min(thing["contents_mg"].as_i64().unwrap_or(0));
        let tags = ["poles", "pocket", "container", "gas_can", "consumables", "section_only"];
        let settled = place.and_then(|place| (0..6).find(|tag| has(thing, tags[*tag])).map(|tag| (tag, place[tag])));
        match settled {
            Some((3, to)) => {
                let pieces: i64 = counts(thing).iter().sum();
                at[to] += (unit - gas) * pieces;
                at[2] += gas * pieces;
            }
            Some((_, to)) => at[to] += unit * counts(thing).iter().sum::<i64>(),
            None => counts(thing).iter().enumerate().for_each(|(place, count)| at[place] += unit * count),
        }
    }
    [at[0], at[0] + at[2], at[0] + at[1] + at[2], at[3]]
}

/// What a day starts with, meal by meal.
fn plain_day(list: &Value, day: i64) -> i64 {
    let trip = &list["trip"];
    let get = |field: &str| trip[field].as_i64().unwrap();
    let (days, mut total) = (get("days"), 0);
    for thing in list["things"].as_array().unwrap().iter().filter(|thing| !has(thing, "food") && !has(thing, "water")) {
        let unit = thing["unit_mg"].as_i64().unwrap_or(0);
        let [carried, _, used_up, _] = counts(thing);
        total += (unit - thing["contents_mg"].as_i64().unwrap_or(0)).max(0) * (carried + used_up);
    }
    let mut meals = 0;
    for later in day..=days {
        if later > day && trip["resupply_days"].as_array().unwrap().contains(&json!(later)) {
            break;
        }
        meals += if later == 1 {
            get("first_day_meals")
        } else if later == days {
            get("last_day_meals")
        } else {
            3
        };
    }
    let up = |num: i64, den: i64| (num + den - 1) / den;
    total += up(trip["food"]["mg_per_day"].as_i64().unwrap() * meals, 3);
    let hourly = if get("high_tenth_c") > 250 { 750 } else { 500 };
    let dry = up(get("stretch_m") * hourly, get("pace_m_per_hour")) + get("camp_ml");
    total += 1_000 * if day == get("stretch_day") { dry.max(get("start_ml")) } else { get("start_ml") };
    let gas = up(get("boil_ml_per_day") * days * 11_111 * 12, 10_000);
    let cans = list["things"].as_array().unwrap().iter().filter(|thing| !has(thing, "food") && !has(thing, "water"));
    let held: i64 = cans.map(|can| can["contents_mg"].as_i64().unwrap_or(0) * (counts(can)[0] + counts(can)[2])).sum();
    total + up(gas * (days - day + 1), days) + (held - gas).max(0)
}

/// The largest share of the most even split, by trying all, as numerator and denominator.
fn plain_split(own: &[i64], bodies: &[i64], shared: &[i64]) -> (i64, i64) {
    let tried = own.len().pow(u32::try_from(shared.len()).unwrap());
    let largest = |mut code: usize| {
        let mut loads = own.to_vec();
        for mass in shared {
            loads[code % own.len()] += mass;
            code /= own.len();
        }
        let shares = loads.into_iter().zip(bodies.iter().copied());
        shares.max_by(|a, b| (i128::from(a.0) * i128::from(b.1)).cmp(&(i128::from(b.0) * i128::from(a.1)))).unwrap()
    };
    (0..tried)
        .map(largest)
        .min_by(|a, b| (i128::from(a.0) * i128::from(b.1)).cmp(&(i128::from(b.0) * i128::from(a.1))))
        .unwrap()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    #[test]
    fn sums_ways_days_and_split_are_those_of_a_plain_computation(list in list()) {
        let found = sums_json(&read_list(&list.to_string()).unwrap());
        let four = |sums: &Value| ["base_mg", "pack_mg", "everything_mg", "apart_mg"].map(|key| sums[key].as_i64().unwrap());
        prop_assert_eq!(four(&found["totals"]), plain_sums(&list, None));
        let (back, me, used, apart) = (0, 1, 2, 3);
        let ways = [
            None,
            Some([me, me, back, used, back, apart]),
            Some([back; 6]),
            Some([me, me, apart, used, back, apart]),
            Some([me, me, back, used, used, apart]),
        ];
        for (way, place) in found["ways"].as_array().unwrap().iter().zip(ways) {
            prop_assert_eq!(four(way), plain_sums(&list, place), "{}", &way["way"]);
        }
        let days: Vec<i64> = (1..=list["trip"]["days"].as_i64().unwrap()).map(|day| plain_day(&list, day)).collect();
        prop_assert_eq!(&found["days_mg"], &json!(days));
        let most = *days.iter().max().unwrap();
        prop_assert_eq!(&found["heaviest"]["pack_mg"], &json!(most));
        prop_assert_eq!(&found["heaviest"]["day"], &json!(days.iter().position(|day| *day == most).unwrap() + 1));

        let load = |thing: &Value| thing["unit_mg"].as_i64().unwrap_or(0) * (counts(thing)[0] + counts(thing)[2]);
        let things = list["things"].as_array().unwrap();
        let own = ["a", "b"].map(|id| {
            let is_own = |thing: &&Value| thing["shared"] == false && thing["walker"].as_str().unwrap_or("a") == id;
            things.iter().filter(is_own).map(load).sum::<i64>()
        });
        let shared: Vec<i64> = things.iter().filter(|thing| thing["shared"] == true).map(load).collect();
        let said: Vec<i64> = list["walkers"].as_array().unwrap().iter().filter_map(|w| w["body_mg"].as_i64()).collect();
        let bodies = if said.len() == 2 { said } else { vec![1, 1] };
        let (num, den) = plain_split(&own, &bodies, &shared);
        let split = &found["even_split"];
        prop_assert_eq!(
            i128::from(split["num"].as_i64().unwrap()) * i128::from(den),
            i128::from(num) * i128::from(split["den"].as_i64().unwrap())
        );
    }

    #[test]
    fn three_split_as_evenly_as_can_be(
        own in prop::collection::vec(0..9_000i64, 3), bodies in prop::collection::vec(50..90i64, 3),
        shared in prop::collection::vec(1..3_000i64, 0..8),
    ) {
        let mass = |all: &[i64]| all.iter().copied().map(Mass::from_mg).collect::<Vec<_>>();
        let weighs: Vec<Option<Mass>> = mass(&bodies).into_iter().map(Some).collect();
        let split = even_split(&mass(&own), &weighs, &mass(&shared), &mut Steps::up_to(SPLIT_STEPS)).unwrap();
        let (num, den) = plain_split(&own, &bodies, &shared);
        prop_assert!(split.is_proved);
        prop_assert_eq!(split.load * den, num * split.body);
        let of_that_walker = |walker: usize| own[walker] + shared.iter().zip(&split.carriers).filter(|(_, at)| **at == walker).map(|(mass, _)| mass).sum::<i64>();
        prop_assert!((0..3).any(|walker| of_that_walker(walker) * split.body == split.load * bodies[walker]));
    }

    /// Beyond twelve pieces too, where there are several of a kind.
    #[test]
    fn the_lightest_cans_are_those_of_trying_all(
        kinds in prop::collection::vec((0..500i64, 1..400i64, 0..9u32), 0..5), need in 1..3_000i64,
    ) {
        let holders: Vec<Holder> = kinds.iter().map(|&(amount, mass, count)| holder(amount, mass, count, true)).collect();
        // By so many of each: the lightest, of equals the fewest.
        let mut ways = vec![(0_i64, 0_i64, 0_u32)];
        for &(amount, mass, count) in &kinds {
            ways = ways.iter().flat_map(|&(holds, weighs, many)| {
                (0..=count).map(move |n| (holds + amount * i64::from(n), weighs + mass * i64::from(n), many + n))
            }).collect();
        }
        let best = ways.into_iter().filter(|way| way.0 >= need).map(|way| (way.1, way.2)).min();
        let found = covers(&holders, need, &mut Steps::up_to(COVER_STEPS)).owned;
        let figures = |cover: &Cover| (cover.mass.mg(), cover.pieces.iter().map(|piece| piece.1).sum::<u32>());
        prop_assert_eq!(found.as_ref().map(figures), best);
        if let Some(cover) = found {
            prop_assert!(cover.is_proved);
            prop_assert!(cover.pieces.iter().all(|(at, many)| *many <= kinds[*at].2));
            prop_assert!(cover.pieces.iter().map(|(at, many)| kinds[*at].0 * i64::from(*many)).sum::<i64>() >= need);
            prop_assert_eq!(cover.pieces.iter().map(|(at, many)| kinds[*at].1 * i64::from(*many)).sum::<i64>(), cover.mass.mg());
        }
    }

    /// With more things than a plain search could try: what each walker may have is bounded by the heaviest own load, and every split of
    /// things of one weight is one of counts.
    #[test]
    fn many_things_of_one_weight_are_split_as_counts_are(
        own in prop::collection::vec(0..40_000i64, 2..5), bodies in prop::collection::vec(50..90i64, 4), many in 20..36usize, weight in 1..2_000i64,
    ) {
        let weighs: Vec<Option<Mass>> = bodies[..own.len()].iter().map(|mg| Some(Mass::from_mg(*mg))).collect();
        let own_mass: Vec<Mass> = own.iter().map(|mg| Mass::from_mg(*mg)).collect();
        let split = even_split(&own_mass, &weighs, &vec![Mass::from_mg(weight); many], &mut Steps::up_to(SPLIT_STEPS)).unwrap();
        // Things of one weight go one by one to the walker with the smallest share with it.
        let mut loads = own.clone();
        for _ in 0..many {
            let next = (0..own.len()).min_by_key(|at| num_over((loads[*at] + weight, bodies[*at]))).unwrap();
            loads[next] += weight;
        }
        let largest = loads.iter().zip(&bodies).map(|(load, body)| num_over((*load, *body))).max().unwrap();
        prop_assert!(split.is_proved);
        prop_assert_eq!(num_over((split.load, split.body)), largest);
    }
}

/// A share as a whole number that compares as it does: bodies are from 50 to 89 here.
fn num_over((load, body): (i64, i64)) -> i128 {
    const ALL: i128 = 1_000_000_000_000_000_000;
    i128::from(load) * ALL / i128::from(body)
}

fn holder(amount: i64, mass: i64, count: u32, is_owned: bool) -> Holder {
    Holder { amount, mass: Some(Mass::from_mg(mass)), count, is_owned }
}

#[test]
fn what_a_way_sends_home_counts_nowhere_not_even_its_gas() {
    let can = json!({ "id": "can", "name": "can", "system": "kitchen", "unit_mg": 400, "low_mg": null, "high_mg": null,
        "counts": { "carried": 1, "worn": 0, "used_up": 1, "apart": 0, "left": 2 }, "tags": ["gas_can"], "contents_mg": 230 });
    let trip = json!({ "days": 1, "food": { "mg_per_day": 0 }, "low_tenth_c": 0, "high_tenth_c": 0 });
    let list = read_list(&json!({ "format": "kevyt-list/1", "things": [can], "trip": trip }).to_string()).unwrap();
    let way = |place| Way { key: "own".to_owned(), places: vec![Switch { tag: "gas_can".to_owned(), place }] };
    let sums = |place| {
        let sums = counted_by(&list.things, &[], &way(place));
        [sums.base, sums.pack, sums.everything, sums.apart].map(Mass::mg)
    };
    assert_eq!(sums(Place::Left), [0, 0, 0, 0]);
    assert_eq!(sums(Place::Carried), [340, 800, 800, 0]);
    assert_eq!(sums(Place::Apart), [0, 460, 460, 340]);
    let counts = list.things[0].line.counts;
    assert_eq!(way(Place::Left).counts_of(&list.things[0].line.tags, counts), Counts { left: 4, ..Counts::default() });
    assert_eq!(
        way(Place::Worn).counts_of(&list.things[0].line.tags, counts),
        Counts { worn: 2, left: 2, ..Counts::default() }
    );
}

#[test]
fn a_plan_counts_what_its_walker_carries_and_what_another_does_for_both() {
    let thing = |id: &str, walker: Value, shared: bool, job: &str| {
        json!({ "id": id, "name": id, "system": "other",
        "unit_mg": 100, "low_mg": null, "high_mg": null, "counts": { "carried": 1, "worn": 1, "left": 1 }, "tags": [],
        "provides": { job: 1 }, "walker": walker, "shared": shared })
    };
    let things = json!([
        thing("mine", json!("a"), false, "light"),
        thing("hers", json!("b"), false, "pot"),
        thing("both", Value::Null, true, "shelter")
    ]);
    let trip = json!({ "days": 1, "food": { "mg_per_day": 0 }, "low_tenth_c": 0, "high_tenth_c": 0 });
    let walkers = json!([{ "id": "a", "body_mg": null }, { "id": "b", "body_mg": null }]);
    let file = json!({ "format": "kevyt-list/1", "things": things, "trip": trip, "walkers": walkers });
    let mut list = read_list(&file.to_string()).unwrap();
    list.things[2].carrier = Carrier::Shared(1);
    assert_eq!(serving(&list.things, 0), [0, 2]);
    assert_eq!(serving(&list.things, 1), [1, 2]);
    let require: Jobs = serde_json::from_value(json!({ "light": 1, "pot": 1, "shelter": 3 })).unwrap();
    let (lines, left) = lines_of(list.things, 0, require);
    let counts: Vec<_> =
        lines.iter().map(|line| (line.counts.carried, line.counts.worn, line.counts.apart, line.counts.left)).collect();
    assert_eq!(counts, [(1, 1, 0, 1), (0, 0, 2, 1), (0, 0, 2, 1)]);
    assert_eq!(serde_json::to_value(left).unwrap(), json!({ "light": 1, "pot": 1, "shelter": 1 }));
}

#[test]
fn lighter_cans_are_looked_for_at_home_first_and_then_in_the_shops() {
    let all = [
        holder(230, 378, 1, true),
        holder(100, 198, 2, true),
        holder(220, 300, 1, false),
        Holder { mass: None, ..holder(900, 1, 1, true) },
    ];
    let found = |need: i64| {
        let Covers { owned, with_got } = covers(&all, need, &mut Steps::up_to(COVER_STEPS));
        [owned, with_got].map(|cover| cover.map(|cover| (cover.pieces, cover.mass.mg())))
    };
    assert_eq!(found(0), [None, None]);
    assert_eq!(found(200), [Some((vec![(0, 1)], 378)), Some((vec![(2, 1)], 300))]);
    assert_eq!(found(100), [Some((vec![(1, 1)], 198)), None]);
    assert_eq!(found(440), [None, Some((vec![(0, 1), (2, 1)], 678))]);
}

#[test]
fn twenty_cans_of_a_hundred_grams_are_as_many_as_it_takes() {
    let cover = covers(&[holder(100_000, 180_000, 20, true)], 1_500_000, &mut Steps::up_to(COVER_STEPS)).owned.unwrap();
    assert_eq!((cover.pieces, cover.mass.mg(), cover.is_proved), (vec![(0, 15)], 2_700_000, true));
}

/// Numbers that look like nothing in particular.
fn odd(at: i64, most: i64) -> i64 {
    1 + (at * 1_103_515_245 + 12_345).rem_euclid(most)
}

#[test]
fn a_split_ends_by_its_own_count_whatever_is_shared() {
    let split = |walkers: i64, many: i64, own: &dyn Fn(i64) -> i64, mass: &dyn Fn(i64) -> i64| -> (Split, u64) {
        let own: Vec<Mass> = (0..walkers).map(|at| Mass::from_mg(own(at))).collect();
        let bodies: Vec<Option<Mass>> =
            (0..walkers).map(|at| Some(Mass::from_mg(50_000_000 + odd(at, 40_000_000)))).collect();
        let shared: Vec<Mass> = (0..many).map(|at| Mass::from_mg(mass(at))).collect();
        let mut steps = Steps::up_to(SPLIT_STEPS);
        let split = even_split(&own, &bodies, &shared, &mut steps).unwrap();
        (split, steps.done())
    };
    let heaviest = |at: i64| if at == 0 { 90_000_000 } else { 3_000_000 };
    // One is the heaviest whoever has what: that is known at once.
    for many in [20, 26, 40] {
        let (split, steps) = split(3, many, &heaviest, &|at| odd(at, 900_000));
        assert!(split.is_proved && steps < 10_000, "{many}: {steps}");
    }
    for (walkers, many) in [(8, 40), (8, 5_000), (3, 36), (2, 36), (4, 36)] {
        let of_milligrams = split(walkers, many, &|at| odd(at, 9_000_000), &|at| odd(at, 1_900_003));
        let much_alike = split(walkers, many, &|_| 0, &|at| 1_000_000 + odd(at, 7));
        for (split, steps) in [of_milligrams, much_alike] {
            assert!(steps <= SPLIT_STEPS, "{walkers} {many}: {steps}");
            assert_eq!(split.carriers.len(), usize::try_from(many).unwrap());
        }
    }
}

#[test]
fn covers_end_by_their_own_count_whatever_there_is() {
    let holders: Vec<Holder> =
        (0..5_000).map(|at| holder(odd(at, 1_000_000), odd(at * 7, 1_000_003), 1_000, true)).collect();
    let alike: Vec<Holder> = (0..5_000).map(|at| holder(1_000_000 + at, 1_000_000 + at, 1, true)).collect();
    for (holders, need) in [(&holders, 100_000_000_000), (&holders, 7_654_321), (&alike, 2_222_222_222)] {
        let mut steps = Steps::up_to(COVER_STEPS);
        let cover = covers(holders, need, &mut steps).owned.unwrap();
        assert!(steps.done() <= COVER_STEPS);
        assert!(cover.pieces.iter().map(|(at, many)| holders[*at].amount * i64::from(*many)).sum::<i64>() >= need);
    }
}

#[test]
fn what_a_list_file_may_not_say_is_named() {
    let thing = |more: Value| {
        let mut thing =
            json!({ "id": "a", "name": "a", "system": "other", "unit_mg": 1, "low_mg": null, "high_mg": null });
        thing.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        thing
    };
    let file = |thing: Value, trip: Value| {
        let mut days = json!({ "days": 3, "food": { "mg_per_day": 1 }, "low_tenth_c": 0, "high_tenth_c": 0 });
        days.as_object_mut().unwrap().extend(trip.as_object().unwrap().clone());
        json!({ "format": "kevyt-list/1", "things": [thing], "trip": days, "walkers": [{ "id": "w", "body_mg": null }] })
    };
    let refused = [
        (json!({}), json!({ "stretch_m": 5, "pace_m_per_hour": 0 }), "trip.pace_m_per_hour"),
        (json!({}), json!({ "resupply_days": [2, 4] }), "trip.resupply_days[1]"),
        (json!({}), json!({ "resupply_days": [2, 2] }), "trip.resupply_days[1]"),
        (json!({}), json!({ "stretch_day": 4 }), "trip.stretch_day"),
        (json!({}), json!({ "days": 0 }), "trip.days"),
        (json!({}), json!({ "food": { "kcal_per_day": 3000, "kcal_per_100g": 0 } }), "trip.food.kcal_per_100g"),
        (json!({ "shared": true, "walker": "w" }), json!({}), "things[0].walker"),
        (json!({ "walker": "nobody" }), json!({}), "things[0].walker"),
        (json!({ "system": "sofa" }), json!({}), "things[0].system"),
        (json!({ "counts": { "carried": -1 } }), json!({}), "things[0].counts.carried"),
        (json!({ "unit_mg": -1 }), json!({}), "things[0].unit_mg"),
        (json!({ "colour": "red" }), json!({}), "things[0].colour"),
    ];
    assert!(read_list(&file(thing(json!({})), json!({})).to_string()).is_ok());
    for (of_thing, of_trip, path) in refused {
        let error = read_list(&file(thing(of_thing), of_trip).to_string()).unwrap_err();
        assert_eq!(error.path, path, "{error}");
    }
}

#[test]
fn a_trip_requires_what_its_conditions_ask_for() {
    let asks = |trip: &Trip| {
        let all = requirements(trip, &Jobs::new());
        all.into_iter().map(|asked| (asked.job.as_str().to_owned(), asked.why)).collect::<Vec<_>>()
    };
    let has = |trip: &Trip, job: &str, why: Why| asks(trip).contains(&(job.to_owned(), why));
    let mild = Trip::plain(1, 101, 200);
    assert_eq!(asks(&mild).len(), 5, "{:?}", asks(&mild));
    assert!(has(&Trip::plain(2, 101, 200), "shelter", Why::Nights));
    assert!(has(&Trip::plain(1, 100, 200), "warm_layer", Why::Cold) && !has(&mild, "warm_layer", Why::Cold));
    assert!(
        has(&Trip::plain(1, 0, 200), "gloves", Why::Freezing) && !has(&Trip::plain(1, 1, 9), "gloves", Why::Freezing)
    );
    assert!(has(&Trip { rain: true, ..mild.clone() }, "rain_shell", Why::Rain));
    assert!(has(&Trip { snow: true, ..mild.clone() }, "traction", Why::Snow));
    let own: Jobs = serde_json::from_value(json!({ "light": 0, "chair": 1 })).unwrap();
    let said: Vec<_> = requirements(&mild, &own)
        .into_iter()
        .filter(|asked| asked.why == Why::Own)
        .map(|asked| (asked.job.as_str().to_owned(), asked.amount, asked.by_default))
        .collect();
    assert_eq!(said, [("chair".to_owned(), 1, 0), ("light".to_owned(), 0, 1)]);
}
