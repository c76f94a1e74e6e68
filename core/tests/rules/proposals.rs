//! What Kevyt proposes of its own, and what it never does.

use kevyt_core::gear::{Facts, Gear, Identity, Job, Jobs, Kind, Known, Name, System, Tags};
use kevyt_core::list::{Carrier, Counts, Line, LineId, Place, Thing, WeighedKit, whole_kits};
use kevyt_core::quantity::Mass;
use kevyt_core::steps::Steps;
use kevyt_core::swap::{Learnt, Looked, PROPOSAL_STEPS, Proposal, Why, lighter_of_their_kind, proposals};
use proptest::prelude::*;
use std::collections::HashMap;

fn jobs(of: &[(&str, i64)]) -> Jobs {
    of.iter().map(|(job, amount)| (Job::new(job).unwrap(), *amount)).collect()
}

fn thing(name: &str, grams: i64, pieces: u32, tags: &str, provides: &[(&str, i64)]) -> Thing {
    let line = Line {
        id: LineId(name.to_owned()),
        name: name.to_owned(),
        counts: Counts::in_place(Place::Carried, pieces),
        weight: Some(Known::exactly(Mass::from_mg(grams * 1_000))),
        tags: Tags::parse(tags).unwrap(),
        provides: jobs(provides),
        needs: Jobs::new(),
    };
    let identity = Identity { kind: Kind::of_name(name), ..Identity::default() };
    Thing { line, system: System::Other, facts: Facts::default(), identity, carrier: Carrier::Own(0) }
}

fn can(name: &str, grams: i64, gas: i64) -> Thing {
    let facts = Facts { contents: Some(Mass::from_mg(gas * 1_000)), ..Facts::default() };
    Thing { facts, ..thing(name, grams, 1, "gas_can", &[]) }
}

/// Thing, reason, and grams saved.
fn found(things: &[Thing], shelf: &[Thing], required: &[(&str, i64)], gas: i64) -> Vec<(String, String, i64)> {
    after_trips(things, &[], shelf, required, gas)
}

fn after_trips(
    things: &[Thing],
    learnt: &[Learnt],
    shelf: &[Thing],
    required: &[(&str, i64)],
    gas: i64,
) -> Vec<(String, String, i64)> {
    let own: Vec<usize> = (0..things.len()).collect();
    let (required, gas) = (&jobs(required), Mass::from_mg(gas * 1_000));
    let all = proposals(
        &Looked { things, own: &own, learnt, shelf, required, gas, kits: &[] },
        &mut Steps::up_to(PROPOSAL_STEPS),
    );
    let why = |why: &Why| match why {
        Why::NeverUsed(trips) => format!("unused on {trips}"),
        Why::DoneByOthers(by) => {
            format!("done by {}", by.iter().map(|at| things[*at].line.name.as_str()).collect::<Vec<_>>().join(", "))
        }
        Why::LighterAtHome(at) | Why::SmallerCanAtHome(at) => format!("{} is at home", shelf[*at].line.name),
        Why::KitOverParts(over) => format!("{} over", over.mg()),
    };
    all.iter()
        .map(|Proposal { thing, why: reason, saving }| {
            (things[*thing].line.name.clone(), why(reason), saving.mg() / 1_000)
        })
        .collect()
}

fn told(thing: &str, why: &str, grams: i64) -> (String, String, i64) {
    (thing.to_owned(), why.to_owned(), grams)
}

#[test]
fn of_two_that_do_one_job_the_heavier_stays_home() {
    let knife = [("cutting", 1)];
    let things =
        [thing("knife", 92, 1, "", &knife), thing("blade", 21, 1, "", &knife), thing("pot", 300, 1, "", &[("pot", 1)])];
    assert_eq!(found(&things, &[], &[], 0), [told("knife", "done by blade", 92)]);
    // Asked for both, neither can stay; the only pot never.
    assert_eq!(found(&things, &[], &[("cutting", 2)], 0), []);
    let bottles = [thing("bottle", 40, 3, "", &[("water_carried", 1_000)])];
    assert_eq!(found(&bottles, &[], &[("water_carried", 2_000)], 0), [told("bottle", "done by bottle", 40)]);
    assert_eq!(found(&bottles, &[], &[("water_carried", 2_001)], 0), []);
}

#[test]
fn what_is_lighter_and_does_the_job_is_brought_from_home() {
    let bank = |name: &str, grams: i64, wh: i64| thing(name, grams, 1, "", &[("power", wh * 1_000)]);
    let (things, shelf) = ([bank("20 Ah", 348, 74)], [bank("5 Ah", 120, 18), bank("10 Ah", 180, 37)]);
    assert_eq!(found(&things, &shelf, &[("power", 30_000)], 0), [told("20 Ah", "10 Ah is at home", 168)]);
    assert_eq!(found(&things, &shelf, &[("power", 50_000)], 0), []);
    // What does the same is not always the same: it is of the same system, and has all of its marks.
    let store = [("food_store", 1)];
    let container = [thing("container", 1_100, 1, "container", &store)];
    assert_eq!(found(&container, &[thing("food bag", 60, 1, "", &store)], &[], 0), []);
    let pole =
        |name: &str, grams: i64, system: System| Thing { system, ..thing(name, grams, 1, "", &[("shelter_pole", 1)]) };
    let (walking, tent) = (pole("walking pole", 240, System::Worn), pole("tent pole", 80, System::Shelter));
    assert_eq!(found(std::slice::from_ref(&walking), &[tent], &[], 0), []);
    let lighter = pole("carbon pole", 150, System::Worn);
    assert_eq!(found(&[walking], &[lighter], &[], 0), [told("walking pole", "carbon pole is at home", 90)]);
    let (things, shelf) = ([can("large can", 380, 230)], [can("small can", 195, 100)]);
    assert_eq!(found(&things, &shelf, &[], 90), [told("large can", "small can is at home", 185)]);
    assert_eq!(found(&things, &shelf, &[], 101), []);
    assert_eq!(found(&things, &shelf, &[], 0), [], "a trip that takes no gas says nothing of cans");
}

#[test]
fn nothing_of_safety_or_medicine_is_proposed() {
    let light = [("light", 1)];
    let things = [thing("headlamp", 90, 1, "", &light), thing("torch", 30, 1, "", &light)];
    assert_eq!(found(&things, &things[1..], &[], 0), []);
    let warm = [thing("jacket", 388, 1, "", &[("warm_layer", 1)]), thing("fleece", 280, 1, "", &[("warm_layer", 1)])];
    let packs = [thing("pack", 1_900, 1, "", &[("room", 58_000), ("load", 14_000)])];
    let smaller = [thing("small pack", 900, 1, "", &[("room", 48_000), ("load", 9_000)])];
    assert_eq!((found(&warm, &[], &[], 0), found(&packs, &smaller, &[], 0)), (vec![], vec![]));
    let spoons = |tags| [thing("spoon", 20, 1, tags, &[("spoon", 1)]), thing("fork", 10, 1, "", &[("spoon", 1)])];
    assert_eq!(found(&spoons("medical"), &[], &[], 0), [told("fork", "done by spoon", 10)]);
    assert_eq!(found(&spoons("emergency"), &[], &[], 0).len(), 1);
}

#[test]
fn a_kit_that_weighs_more_than_its_parts_is_trimmed() {
    let things = [thing("stakes", 14, 6, "", &[("stake", 1)]), thing("cord", 20, 1, "", &[])];
    let lines: HashMap<_, _> = things.iter().map(|thing| (&thing.line.id, &thing.line)).collect();
    let parts = vec![(LineId("stakes".to_owned()), 6), (LineId("cord".to_owned()), 1)];
    let kits = [WeighedKit { name: "stakes in their bag".to_owned(), weighed: Mass::from_mg(118_000), parts }];
    let whole = whole_kits(&lines, &kits);
    let (own, required) = (&[0, 1], &jobs(&[("stake", 6)]));
    let looked = Looked { things: &things, own, learnt: &[], shelf: &[], required, gas: Mass::ZERO, kits: &whole };
    let all = proposals(&looked, &mut Steps::up_to(PROPOSAL_STEPS));
    assert_eq!(
        all,
        [Proposal { thing: 1, why: Why::KitOverParts(Mass::from_mg(14_000)), saving: Mass::from_mg(14_000) }]
    );
}

#[test]
fn what_was_never_used_stays_home_unless_it_is_needed_or_was_missed() {
    let never = Learnt { never_used: Some(3), is_missed: false };
    let things = [
        thing("chair", 490, 1, "", &[]),
        thing("messenger", 101, 1, "", &[("call_for_help", 1)]),
        thing("pills", 20, 1, "medical", &[]),
        thing("bank", 180, 1, "", &[("power", 37_000)]),
        thing("pot", 260, 1, "", &[("pot", 1)]),
        thing("mug", 118, 2, "", &[]),
    ];
    let learnt = [never; 6];
    // The trip asks for power; for a pot nobody does.
    let told_all = after_trips(&things, &learnt, &[], &[("power", 9_000)], 0);
    let unused = |thing, grams| told(thing, "unused on 3", grams);
    assert_eq!(told_all, [unused("chair", 490), unused("pot", 260), unused("mug", 236)]);

    // A bottle of which nobody said what it holds stays while the trip is short of water.
    let bottle = [thing("soft bottle", 38, 1, "", &[])];
    assert_eq!(after_trips(&bottle, &[never], &[], &[("water_carried", 1_000)], 0), []);
    assert_eq!(after_trips(&bottle, &[never], &[], &[], 0), [unused("soft bottle", 38)]);

    // Of two that do one job, neither used, one stays.
    let pots = [thing("pot", 260, 1, "", &[("pot", 1)]), thing("kettle", 150, 1, "", &[("pot", 1)])];
    assert_eq!(after_trips(&pots, &[never; 2], &[], &[], 0), [unused("pot", 260)]);
    // What was missed is never proposed, though another does its job.
    let missed = [Learnt { never_used: None, is_missed: true }, Learnt::default()];
    assert_eq!(after_trips(&pots, &missed, &[], &[], 0), [told("kettle", "done by pot", 150)]);
}

#[test]
fn a_list_too_long_to_be_looked_through_has_its_heaviest_looked_at() {
    let name = |at: i64| format!("knife {at}");
    let things: Vec<Thing> = (0..5_000).map(|at| thing(&name(at), 10 + at, 1, "", &[("cutting", 1)])).collect();
    let shelf: Vec<Thing> = (0..5_000).map(|at| thing(&name(at), 9, 1, "", &[("cutting", 1), ("pot", 1)])).collect();
    let own: Vec<usize> = (0..things.len()).collect();
    let (required, gas) = (&Jobs::new(), Mass::ZERO);
    let looked = Looked { things: &things, own: &own, learnt: &[], shelf: &shelf, required, gas, kits: &[] };
    let mut steps = Steps::up_to(PROPOSAL_STEPS);
    let all = proposals(&looked, &mut steps);
    assert_eq!(things[all[0].thing].line.name, name(4_999));
    assert_eq!(steps.done(), PROPOSAL_STEPS, "10 000 steps a thing: 500 things");
}

#[test]
fn what_is_heavy_for_its_kind_is_a_place_to_look() {
    // A light framed pack weighs 800 g, a light air pad 330, a light mug 25, a light headlamp 30.
    let mut things =
        vec![thing("mug", 118, 2, "", &[]), thing("framed pack", 1_680, 1, "", &[]), thing("air pad", 400, 1, "", &[])];
    things.extend([thing("heirloom", 5_000, 1, "", &[]), thing("headlamp", 79, 1, "", &[])]);
    let found = |things: &[Thing]| -> Vec<(usize, i64, i64)> {
        let own: Vec<usize> = (0..things.len()).collect();
        // Somebody has found a mug of 28 g, and no light headlamp at all.
        let said = |kind: &Kind| match kind.key {
            "mug" => Some(Mass::from_mg(28_000)),
            "headlamp" => Some(Mass::from_mg(79_000)),
            _ => None,
        };
        let all = lighter_of_their_kind(things, &own, said).into_iter();
        all.map(|one| (one.thing, one.saving.mg() / 1_000, one.light.mg() / 1_000)).collect()
    };
    assert_eq!(found(&things), [(1, 880, 800), (0, 180, 28)]);
    things[1].identity.keep = true;
    assert_eq!(found(&things), [(0, 180, 28)]);
}

/// The table as it is written: words, jobs, marks, and whether a kind may be spared.
fn table() -> Vec<(Vec<&'static str>, &'static str, &'static str, bool)> {
    let lines = include_str!("../../src/gear/kinds.tsv").lines().filter(|line| !line.starts_with('#'));
    let kinds = lines.map(|line| {
        let fields: Vec<&str> = line.split('\t').collect();
        let words = fields[1..4].iter().flat_map(|words| words.split(',')).map(str::trim);
        let words = words.filter(|word| !word.is_empty() && !word.contains('*')).collect();
        (words, fields[6], fields[7], fields[8] != "never")
    });
    kinds.collect()
}

const SAFETY: [&str; 12] = [
    "shelter",
    "sleep_insulation",
    "ground_insulation",
    "rain_shell",
    "water_treatment",
    "light",
    "way_finding",
    "call_for_help",
    "first_aid",
    "fire",
    "traction",
    "ice_axe",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 4_000, failure_persistence: None, ..ProptestConfig::default() })]

    /// Whatever lies unused on a list, in the plain words of three languages: nothing of safety, medicine, warmth or hygiene is ever proposed to
    /// stay home, and no drinking water that the trip asks for.
    #[test]
    fn only_what_may_be_spared_is_proposed(
        picks in prop::collection::vec((0..1_000_usize, 0..1_000_usize, 1..3_u32, 20..900_i64), 1..14),
        water in 0..4_000_i64,
    ) {
        let table = table();
        let things: Vec<Thing> = picks.iter().filter(|pick| !table[pick.0 % table.len()].0.is_empty()).map(|&(at, word, pieces, grams)| {
            let words = &table[at % table.len()].0;
            let mut gear = Gear::named(Name::new(words[word % words.len()]).unwrap());
            gear.become_kind(Kind::of_name(gear.name.as_str()));
            let mut one = thing(gear.name.as_str(), grams, pieces, &gear.tags.to_string(), &[]);
            (one.line.provides, one.line.needs, one.system, one.identity) = (gear.provides, gear.needs, gear.system, gear.identity);
            one
        }).collect();
        let own: Vec<usize> = (0..things.len()).collect();
        let learnt = vec![Learnt { never_used: Some(2), is_missed: false }; things.len()];
        let required = jobs(&[("water_carried", water)]);
        let looked = Looked { things: &things, own: &own, learnt: &learnt, shelf: &[], required: &required, gas: Mass::ZERO, kits: &[] };
        let mut held: i64 = things.iter().map(|one| one.provides("water_carried") * one.line.counts.at_work()).sum();
        for proposal in proposals(&looked, &mut Steps::up_to(PROPOSAL_STEPS)) {
            let one = &things[proposal.thing];
            // What two languages call by one word is read as one of its kinds: the rule is that of the kind that it has.
            let (_, does, marks, may_go) = table.iter().find(|kind| kind.0.first() == one.identity.kind.map(|kind| &kind.name)).unwrap();
            prop_assert!(*may_go, "{}", one.line.name);
            prop_assert!(!SAFETY.iter().any(|job| does.split([' ', '=']).any(|word| word == *job)), "{}", one.line.name);
            prop_assert!(!marks.contains("medical") && !marks.contains("emergency"), "{}", one.line.name);
            if let Why::NeverUsed(_) = proposal.why {
                held -= one.provides("water_carried") * i64::from(one.line.counts.carried);
            }
        }
        let before: i64 = things.iter().map(|one| one.provides("water_carried") * one.line.counts.at_work()).sum();
        prop_assert!(held >= water.min(before), "{held} ml of {before} left, {water} asked");
    }
}
