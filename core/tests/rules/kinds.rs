//! What a line as a walker types it makes of a thing: kind, system, where it starts, marks, facts; written down by hand.

use kevyt_core::exchange::QuickLine;
use kevyt_core::gear::{Gear, Name, Need, WeightSource};
use kevyt_core::list::Counts;
use kevyt_core::quantity::Currency;

fn typed(line: &str) -> (QuickLine, Gear) {
    let read = QuickLine::read(line, Currency::from_code("EUR").unwrap(), WeightSource::Maker);
    assert!(read.is_ready(), "{line}: {:?}", read.refusal());
    let thing = read.thing(Name::new(&read.name).unwrap());
    (read, thing)
}

/// Name, kind, system, counts on a list where it differs from carried, marks and jobs, rating, hours.
fn told(line: &str) -> String {
    let (_, thing) = typed(line);
    let start = thing.identity.start().map(|start| Counts::starting(start, thing.count)).unwrap_or_default();
    let places = [(start.worn, "worn"), (start.used_up, "used up"), (start.apart, "apart")];
    let places: Vec<String> = places.iter().filter(|(n, _)| *n > 0).map(|(n, place)| format!("{n} {place}")).collect();
    let jobs = |jobs: &kevyt_core::gear::Jobs, sign: &str| -> Vec<String> {
        let assumed = |job| if thing.identity.assumed.contains(job) { "?" } else { "" };
        jobs.iter().map(|(job, amount)| format!("{sign}{} {amount}{}", job.as_str(), assumed(job))).collect()
    };
    let rating = thing.facts.rating.map(|rating| format!("{:?} {}", rating.kind, rating.at.tenths()));
    let hours = thing.identity.made_tenth_hours.map(|tenths| format!("{tenths} tenth hours"));
    let words = thing.tags.words().iter().map(|word| format!("#{word}"));
    let parts = [
        thing.name.as_str().to_owned(),
        thing.identity.kind.map_or("-", |kind| kind.key).to_owned(),
        thing.system.key().to_owned(),
    ];
    let rest = places
        .into_iter()
        .chain(words)
        .chain(jobs(&thing.provides, ""))
        .chain(jobs(&thing.needs, "-"))
        .chain(rating)
        .chain(hours);
    parts.into_iter().chain(rest).collect::<Vec<_>>().join(", ")
}

#[test]
fn a_line_makes_the_thing_that_a_walker_means() {
    for (line, expected) in [
        ("quilt 700g -5C", "quilt, quilt, sleep, sleep_insulation 1, Unknown -50"),
        ("down quilt 20F 545g", "down quilt, quilt, sleep, sleep_insulation 1, Unknown -67"),
        ("sleeping bag comfort -2 °C 980g", "sleeping bag, sleeping_bag, sleep, sleep_insulation 1, Comfort -20"),
        ("Daunenschlafsack Limit -7C 800 g", "Daunenschlafsack, sleeping_bag, sleep, sleep_insulation 1, Limit -70"),
        ("underquilt 480g 0C", "underquilt, underquilt, sleep, #underquilt, Unknown 0"),
        ("quilt 9h 480g diy", "quilt, quilt, sleep, sleep_insulation 1, 90 tenth hours"),
        ("pad R4.5 440g", "pad, mat, sleep, ground_insulation 45"),
        ("air pad 480g", "air pad, air_pad, sleep, ground_insulation 30?"),
        ("matelas gonflable R 3,2 480 g", "matelas gonflable, air_pad, sleep, ground_insulation 32"),
        ("pack 45l 900g", "pack, pack, pack, load 12000?, room 45000"),
        ("frameless pack 38 540g", "frameless pack 38, frameless_pack, pack, load 9000?, room 38000"),
        ("bank 20Ah 350g", "bank, power_bank, power, power 74000"),
        ("Powerbank 180g", "Powerbank, power_bank, power, power 37000?"),
        ("bottle 1l 38g", "bottle, bottle, water, water_carried 1000"),
        ("tent for 2 1.9kg", "tent, tent, shelter, shelter 2"),
        ("hammock 320g", "hammock, hammock, shelter, #hammock"),
        ("pyramid 2p 620g", "pyramid, pole_shelter, shelter, shelter 2, -shelter_pole 1, -stake 8"),
        ("tent pegs x8 12g", "tent pegs, stake, shelter, stake 1"),
        ("trail shoes 620g", "trail shoes, trail_shoes, worn, 1 worn"),
        ("boots 1.3kg #clothes", "boots, boots, clothes, 1 worn"),
        ("Wanderschuhe 1.1 kg", "Wanderschuhe, trail_shoes, worn, 1 worn"),
        ("socks x3 60g", "socks, socks, worn, 1 worn"),
        ("cap 60g worn", "cap, cap, worn, 1 worn"),
        ("wool hat 60g worn", "wool hat, warm_hat, clothes, 1 worn, warm_hat 1"),
        ("trekking poles x2 220g", "trekking poles, walking_poles, worn, 2 worn, #poles, shelter_pole 1"),
        ("tent pole 80g", "tent pole, tent_pole, shelter, shelter_pole 1"),
        ("oat bars 500g used up", "oat bars, snack, food, 1 used up, #food"),
        ("dry food 2.4kg", "dry food, food, food, 1 used up, #food"),
        ("food bag 45g", "food bag, food_bag, food, food_store 1"),
        ("bear can 950g", "bear can, bear_container, food, #container, food_store 1"),
        ("gas can 230g", "gas can, gas_can, kitchen, 1 used up, #gas_can"),
        ("squeeze filter 70g", "squeeze filter, squeeze_filter, water, #hollow_fibre, water_treatment 1"),
        ("Wasserfilter 90g", "Wasserfilter, water_filter, water, #hollow_fibre, water_treatment 1"),
        ("pee bottle 30g", "pee bottle, pee_bottle, wash, #not_for_drinking"),
        ("ice axe 350g", "ice axe, ice_axe, way, 1 apart, #section_only, ice_axe 1"),
        ("allergy injector 60g", "allergy injector, allergy_injector, aid, #emergency, #medical"),
        ("insuline 40 g", "insuline, insulin, aid, #emergency, #medical"),
        ("Rettungsdecke 55g", "Rettungsdecke, emergency_blanket, aid, #emergency"),
        ("phone 180g", "phone, phone, way, #pocket, way_finding 1"),
        ("sunscreen 50g", "sunscreen, sunscreen, wash, #consumables"),
        ("camp chair 480g", "camp chair, camp_chair, comfort"),
        ("chair 480g is:none", "chair, none, other"),
        ("blue thing 90g is:camp-chair", "blue thing, camp_chair, comfort"),
        ("heirloom 90g", "heirloom, -, other"),
        ("headlamp 60g carried", "headlamp, headlamp, power, light 1"),
        ("worn out fleece 300g", "worn out fleece, fleece, clothes, warm_layer 1"),
        ("vacuum flask 12h 300g", "vacuum flask 12h, vacuum_flask, water, water_carried 500?"),
    ] {
        assert_eq!(told(line), expected, "{line}");
    }
}

#[test]
fn what_a_line_refuses_is_named() {
    for (line, refused) in [
        ("quilt -5C 0C", "How warm it is rated stands here already."),
        ("cap worn carried", "Where it starts on a list stands here already."),
        ("quilt is:sofa", "\"sofa\" is not a kind of thing. Choose one from the list, or type is:none."),
        ("quilt is:quilt is:none", "What it is stands here already."),
        ("pad R3 R4", "This job stands here already."),
    ] {
        let read = QuickLine::read(line, Currency::from_code("EUR").unwrap(), WeightSource::Maker);
        assert_eq!(read.refusal(), Some(refused), "{line}");
    }
}

#[test]
fn need_and_want_come_from_the_kind_unless_said() {
    for (line, need) in [
        ("camp chair", Need::Want),
        ("pillow", Need::Want),
        ("mug", Need::Undecided),
        ("fleece", Need::Need),
        ("allergy injector", Need::Need),
        ("heirloom", Need::Undecided),
    ] {
        assert_eq!(typed(line).1.identity.need(), need, "{line}");
    }
    let mut chair = typed("camp chair").1;
    chair.identity.need = Some(Need::Need);
    assert_eq!(chair.identity.need(), Need::Need);
}

#[test]
fn another_kind_takes_back_what_came_with_the_one_before() {
    let kind = |key: &str| kevyt_core::gear::Kind::from_key(key);
    let (_, mut thing) = typed("filter 90g #comfort !light");
    thing.become_kind(kind("mug"));
    assert_eq!(
        (thing.system.key(), thing.tags.words().len(), thing.provides.len()),
        ("comfort", 0, 1),
        "light was said"
    );
    let (_, mut pack) = typed("pack 900g");
    pack.become_kind(kind("frameless_pack"));
    let amounts: Vec<i64> = pack.provides.values().copied().collect();
    assert_eq!((amounts, pack.identity.assumed.len()), (vec![9_000, 40_000], 2));
    // What was confirmed stays.
    let (_, mut pack) = typed("pack 45l 900g");
    pack.become_kind(kind("frameless_pack"));
    assert_eq!(pack.provides.values().copied().collect::<Vec<_>>(), [9_000, 45_000]);
    pack.become_kind(None);
    assert_eq!(pack.provides.values().copied().collect::<Vec<_>>(), [45_000]);
}
