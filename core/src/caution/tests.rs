//! Every caution at its edge and just beside it.
#![allow(clippy::unwrap_used)]

use super::*;
use crate::gear::{Facts, Identity, Known, Rating, RatingKind, System, Tags};
use crate::list::{Carrier, Counts, Line, LineId};
use crate::quantity::Temperature;
use crate::together::lacks;

/// A thing of which one piece is carried: tags, then jobs with their amounts.
fn thing(name: &str, tags: &str, jobs: &[(&str, i64)]) -> Thing {
    let line = Line {
        id: LineId(name.to_owned()),
        name: name.to_owned(),
        counts: Counts { carried: 1, ..Counts::default() },
        weight: Some(Known::exactly(Mass::from_mg(100_000))),
        tags: Tags::parse(tags).unwrap(),
        provides: jobs.iter().map(|(job, amount)| (Job::new(job).unwrap(), *amount)).collect(),
        needs: Jobs::new(),
    };
    Thing {
        line,
        system: System::Other,
        facts: Facts::default(),
        identity: Identity::default(),
        carrier: Carrier::Own(0),
    }
}

fn rated(name: &str, tags: &str, kind: RatingKind, tenths: i64) -> Thing {
    let rating = Some(Rating { kind, at: Temperature::from_tenths(tenths) });
    Thing { facts: Facts { rating, ..Facts::default() }, ..thing(name, tags, &[]) }
}

fn warm(name: &str, tenths: i64) -> Thing {
    Thing { facts: Facts { warms: Some(tenths), ..Facts::default() }, ..thing(name, "", &[]) }
}

fn needing(mut thing: Thing, job: &str, amount: i64) -> Thing {
    thing.line.needs.insert(Job::new(job).unwrap(), amount);
    thing
}

/// The levels and shortfalls of one caution, for a trip and a sleeper.
fn raised_for(id: CautionId, things: &[Thing], trip: &Trip, sleeper: Sleeper) -> Vec<(Level, Option<i64>)> {
    let all = cautions(&Situation::new(things, things, trip, sleeper));
    all.into_iter().filter(|caution| caution.id == id).map(|caution| (caution.level, caution.short)).collect()
}

fn raised(id: CautionId, things: &[Thing], trip: &Trip) -> Vec<(Level, Option<i64>)> {
    raised_for(id, things, trip, Sleeper::default())
}

fn at(low: i64) -> Trip {
    Trip { start_ml: 0, food: crate::trip::Food::Weight { mg_per_day: 0 }, ..Trip::plain(2, low, low + 100) }
}

#[test]
fn an_assumed_figure_says_what_it_quiets() {
    let mut pad = thing("foam pad", "", &[("ground_insulation", 20)]);
    pad.identity.assumed.insert(Job::new("ground_insulation").unwrap());
    let mut things = vec![pad, thing("air pad", "", &[("ground_insulation", 18)])];
    let told = |things: &[Thing]| {
        let trip = at(0);
        let all = reminders(&Situation::new(things, things, &trip, Sleeper::default()), &[], &[]);
        all.into_iter().find(|one| one.id == CautionId::Assumed).map(|one| (one.found, one.short, one.level))
    };
    // At 0 °C the ground asks R 3.5: the air pad alone leaves 1.7 short of it.
    assert_eq!(told(&things), Some((Some(20), Some(17), Level::Note)));
    things[1].line.provides.insert(Job::new("ground_insulation").unwrap(), 35);
    assert_eq!(told(&things), Some((Some(20), None, Level::Note)), "it quiets nothing");
    things[1].line.provides.insert(Job::new("ground_insulation").unwrap(), 10);
    assert_eq!(told(&things), Some((Some(20), None, Level::Note)), "the caution is raised with it too");
    things[0].identity.assumed.clear();
    assert_eq!(told(&things), None);
}

const QUIET: [(Level, Option<i64>); 0] = [];

#[test]
fn a_night_is_cold_below_comfort_and_red_below_the_limit() {
    use RatingKind::{Comfort, Extreme, Limit, Unknown};
    let night = |things: &[Thing], low| raised(CautionId::ColdNight, things, &at(low));
    let bag = [rated("bag", "", Comfort, 0)];
    assert_eq!(night(&bag, 0), QUIET);
    assert_eq!(night(&bag, -1), [(Level::Amber, Some(1))]);
    assert_eq!(night(&bag, -55), [(Level::Amber, Some(55))]);
    assert_eq!(night(&bag, -56), [(Level::Red, Some(56))]);
    for kind in [Limit, Unknown] {
        let bag = [rated("bag", "", kind, 0)];
        assert_eq!(night(&bag, 55), QUIET);
        assert_eq!(
            (night(&bag, 54), night(&bag, 0), night(&bag, -1)),
            (vec![(Level::Amber, Some(1))], vec![(Level::Amber, Some(55))], vec![(Level::Red, Some(56))])
        );
    }
    // Nothing is planned on survival, and an underquilt is not lain under.
    assert_eq!(
        night(&[rated("bag", "", Extreme, -200), rated("u", "underquilt", Comfort, -200)], 0),
        [(Level::Unrated, None)]
    );
    // Of two the warmer; liners add up, once a thing; who sleeps cold needs more.
    let system =
        [rated("bag", "", Comfort, 40), rated("quilt", "", Comfort, 60), warm("liner", 30), warm("jacket", 10)];
    assert_eq!(night(&system, 0), QUIET);
    assert_eq!(night(&system, -1), [(Level::Amber, Some(1))]);
    // What warms does not warm itself; hammocks and what hangs below add nothing.
    let padded = |mut thing: Thing, warms: i64| {
        thing.facts.warms = Some(warms);
        thing
    };
    let itself = [padded(rated("bag", "", Comfort, 40), 30), padded(thing("hammock", "hammock", &[]), 90)];
    assert_eq!(night(&itself, 40), QUIET);
    assert_eq!(night(&itself, 39), [(Level::Amber, Some(1))]);
    let two = [padded(rated("bag", "", Comfort, 40), 30), rated("quilt", "", Comfort, 50)];
    assert_eq!((night(&two, 20), night(&two, 19)), (vec![], vec![(Level::Amber, Some(1))]));
    let cold = Sleeper { offset: 50, ..Sleeper::default() };
    assert_eq!(raised_for(CautionId::ColdNight, &system, &at(0), cold), [(Level::Amber, Some(50))]);
}

#[test]
fn the_ground_asks_for_more_the_colder_it_is() {
    let ground = |tenths: i64, low: i64| {
        raised(CautionId::ColdGround, &[thing("pad", "", &[("ground_insulation", tenths)])], &at(low)).len()
    };
    for (low, asked) in [
        (200, 10),
        (150, 10),
        (149, 11),
        (100, 15),
        (99, 16),
        (50, 25),
        (0, 35),
        (-1, 36),
        (-35, 40),
        (-70, 45),
        (-150, 55),
        (-249, 65),
        (-400, 65),
    ] {
        assert_eq!((ground(asked, low), ground(asked - 1, low)), (0, 1), "{low}");
    }
    // Who sleeps five degrees cold is asked for what five degrees less ask for; what is used up is not lain on.
    let cold = Sleeper { offset: 50, ..Sleeper::default() };
    let pad = thing("pad", "", &[("ground_insulation", 34)]);
    assert_eq!(raised_for(CautionId::ColdGround, std::slice::from_ref(&pad), &at(50), cold), [(Level::Amber, Some(1))]);
    assert_eq!(raised(CautionId::ColdGround, std::slice::from_ref(&pad), &at(50)), QUIET);
    let mut used_up = pad;
    used_up.line.counts = Counts { used_up: 1, ..Counts::default() };
    assert_eq!(raised(CautionId::ColdGround, &[used_up], &at(50)), [(Level::Amber, Some(25))]);
    let hung =
        [thing("hammock", "hammock", &[]), rated("under", "underquilt", RatingKind::Comfort, 0), warm("liner", 90)];
    assert_eq!(raised(CautionId::ColdGround, &hung, &at(-1)), QUIET);
    assert_eq!(raised(CautionId::ColdBack, &hung, &at(-1)), [(Level::Amber, Some(1))]);
    assert_eq!(raised(CautionId::ColdBack, &hung, &at(0)), QUIET);
}

#[test]
fn water_load_and_room_are_held_against_what_is_there() {
    let dry = Trip { stretch_m: 8_000, pace_m_per_hour: 4_000, ..at(100) };
    let bottle = |ml| [thing("bottle", "", &[("water_carried", ml)])];
    assert_eq!(raised(CautionId::DryStretch, &bottle(1_000), &dry), QUIET);
    assert_eq!(raised(CautionId::DryStretch, &bottle(999), &dry), [(Level::Amber, Some(1))]);
    // 900 g of water on 100 g of pack.
    let pack = |grams| [thing("pack", "", &[("load", grams)])];
    let one = Trip { start_ml: 900, ..at(100) };
    assert_eq!(raised(CautionId::Load, &pack(1), &one), [(Level::Amber, Some(999_000))]);
    let heavier = Trip { start_ml: 901, ..at(100) };
    assert_eq!(raised(CautionId::Load, &pack(1), &heavier), [(Level::Amber, Some(1_000_000))]);
    assert_eq!(raised(CautionId::Load, &pack(1_000), &Trip { start_ml: 0, ..at(100) }), QUIET);
    let body = |mg| Sleeper { body: Some(Mass::from_mg(mg)), ..Sleeper::default() };
    assert_eq!(raised_for(CautionId::BodyLoad, &pack(1), &one, body(5_000_000)), QUIET);
    assert_eq!(raised_for(CautionId::BodyLoad, &pack(1), &one, body(4_999_999)), [(Level::Amber, Some(1))]);
    let full = |ml| [thing("pack", "", &[("room", 5_000)]), needing(thing("quilt", "", &[]), "room", ml)];
    assert_eq!(raised(CautionId::Room, &full(5_000), &at(100)), QUIET);
    assert_eq!(raised(CautionId::Room, &full(5_001), &at(100)), [(Level::Amber, Some(1))]);
}

#[test]
fn what_is_lacking_or_forbidden_is_named() {
    let filter = || thing("filter", "hollow_fibre", &[("water_treatment", 1)]);
    let treat = |things: &[Thing]| raised(CautionId::WaterTreatment, things, &at(100)).first().map(|found| found.0);
    assert_eq!(treat(&[]), Some(Level::Red));
    assert_eq!(treat(&[filter()]), Some(Level::Amber));
    assert_eq!(treat(&[filter(), thing("tablets", "", &[("water_treatment", 1)])]), None);
    // Boiling is a way where there is heat and a pot; a strip of tablets is as many as it treats.
    let (stove, pot) = (thing("stove", "", &[("heat", 1)]), thing("pot", "", &[("pot", 1)]));
    assert_eq!(treat(std::slice::from_ref(&stove)), Some(Level::Red));
    assert_eq!(treat(&[stove.clone(), pot.clone()]), Some(Level::Amber));
    assert_eq!(treat(&[stove, pot, filter()]), None);
    assert_eq!(treat(&[thing("tablets", "", &[("water_treatment", 10)])]), None);
    assert_eq!(raised(CautionId::Freezing, &[filter()], &at(1)), QUIET);
    assert_eq!(raised(CautionId::Freezing, &[filter()], &at(0)), [(Level::Amber, None)]);
    let bears = Trip { container_compulsory: true, ..at(100) };
    assert_eq!(raised(CautionId::Animals, &[thing("bag", "", &[("food_store", 1)])], &bears), [(Level::Red, None)]);
    assert_eq!(raised(CautionId::Animals, &[thing("box", "container", &[])], &bears), QUIET);
    let snow = Trip { snow: true, ..at(100) };
    assert_eq!(raised(CautionId::Snow, &[], &snow), [(Level::Red, None)]);
    assert_eq!(raised(CautionId::Snow, &[thing("spikes", "", &[("traction", 1)])], &snow), QUIET);
    let can = [thing("can", "gas_can", &[])];
    assert_eq!(raised(CautionId::Flame, &can, &Trip { flight: true, ..at(100) }), [(Level::Amber, None)]);
    assert_eq!(raised(CautionId::Flame, &can, &at(100)), QUIET);
    let mut asked = at(100);
    asked.requires = [(Job::new("light").unwrap(), 1), (Job::new("pot").unwrap(), 1)].into();
    assert_eq!(raised(CautionId::Essentials, &[], &asked), [(Level::Red, Some(1))]);
    let whistle: Trip = Trip { requires: [(Job::new("call_for_help").unwrap(), 1)].into(), ..at(100) };
    assert_eq!(raised(CautionId::Essentials, &[], &whistle), [(Level::Amber, Some(1))]);
    assert_eq!(raised(CautionId::Essentials, &[thing("lamp", "", &[("light", 1)])], &asked), QUIET);
}

#[test]
fn what_is_at_hand_is_named_where_it_would_quiet_a_caution() {
    let things = [rated("bag", "", RatingKind::Comfort, 40), thing("pad", "", &[("ground_insulation", 30)])];
    let shelf = [
        warm("silk liner", 30),
        warm("vapour liner", 60),
        thing("foam pad", "", &[("ground_insulation", 21)]),
        rated("winter bag", "", RatingKind::Comfort, -100),
        thing("chair", "", &[]),
    ];
    let trip = at(-20);
    let situation = Situation::new(&things, &things, &trip, Sleeper::default());
    let raised = cautions(&situation);
    let told = remedies(&situation, &raised, &shelf);
    let of = |id: CautionId| {
        let at = raised.iter().position(|caution| caution.id == id).unwrap();
        told[at].iter().map(|r| (shelf[r.thing].line.name.as_str(), r.found, r.gain, r.quiets)).collect::<Vec<_>>()
    };
    assert_eq!(
        of(CautionId::ColdNight),
        [
            ("vapour liner", Some(-20), Some(60), true),
            ("winter bag", Some(-100), Some(140), true),
            ("silk liner", Some(10), Some(30), false),
        ]
    );
    assert_eq!(of(CautionId::ColdGround), [("foam pad", Some(51), Some(21), true)]);
}

#[test]
fn reminders_name_what_is_untried_and_what_one_would_lack() {
    let mut things = [thing("quilt", "medical", &[("sleep_insulation", 1)]), thing("tarp", "", &[("shelter", 1)])];
    things[1].carrier = Carrier::Shared(1);
    let trip = at(100);
    let situation = Situation::new(&things, &things, &trip, Sleeper::default());
    let behind = [Behind { is_made: true, nights: 0 }, Behind { is_made: false, nights: 3 }];
    let told: Vec<_> = reminders(&situation, &behind, &[lacks(&things, 0), lacks(&things, 1)])
        .into_iter()
        .map(|found| (found.id.key(), found.job.map(|job| job.as_str().to_owned()), found.found))
        .collect();
    assert_eq!(
        told,
        [
            ("made_gear", None, None),
            ("medical", None, None),
            ("rules", None, None),
            ("shared_gear", Some("shelter".to_owned()), Some(0)),
            ("shared_gear", Some("sleep_insulation".to_owned()), Some(1)),
        ]
    );
}
