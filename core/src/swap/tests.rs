//! Worth, ranking and choices on a small list.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use super::*;
use crate::gear::{Facts, Identity, System, Tags};
use crate::list::{Carrier, Counts, Line, LinkedKits, Thing, WeighedKit};
use std::collections::HashMap;

fn line(id: &str, grams: Option<i64>, carried: u32) -> Line {
    Line {
        id: LineId(id.to_owned()),
        name: id.to_owned(),
        counts: Counts { carried, worn: 1, ..Counts::default() },
        weight: grams.map(|grams| Known::exactly(Mass::from_mg(grams * 1_000))),
        tags: Tags::default(),
        provides: Jobs::new(),
        needs: Jobs::new(),
    }
}

/// Replaces one carried `from` by something of `grams` for `price`.
fn swap(id: &str, from: &str, grams: i64, price: i64) -> Swap {
    Swap {
        id: SwapId(id.to_owned()),
        name: id.to_owned(),
        kind: SwapKind::Replace,
        state: SwapState::Open,
        remove: vec![Removal { line: LineId(from.to_owned()), qty: 1, from: Place::Carried }],
        add: vec![Addition {
            name: format!("new {id}"),
            qty: 1,
            weight: Some(Known::exactly(Mass::from_mg(grams * 1_000))),
            price: Some(PriceRange::exact(Money::from_minor(price))),
            place: Place::Carried,
            provides: Jobs::new(),
            needs: Jobs::new(),
            gas: Mass::ZERO,
        }],
        delivery: Money::ZERO,
        ordered_from: None,
        resale: Money::ZERO,
        tenth_hours: 0,
        requires: Vec::new(),
        excludes: Vec::new(),
    }
}

#[test]
fn a_kit_that_is_broken_counts_as_its_parts() {
    let lines = [line("quilt", Some(700), 1), line("sack", Some(40), 1)];
    let by_id: HashMap<_, _> = lines.iter().map(|line| (&line.id, line)).collect();
    let kits = [WeighedKit {
        name: "quilt in its sack".to_owned(),
        weighed: Mass::from_mg(745_000),
        parts: lines.iter().map(|line| (line.id.clone(), 1)).collect(),
    }];
    let saving =
        |swap: &Swap| worth(swap, &by_id, &LinkedKits::new(&kits), Money::ZERO, RankBy::Base).saving.map(Mass::mg);
    let mut lighter = swap("lighter", "quilt", 500, 100);
    assert_eq!(saving(&lighter), Some(205_000));
    assert_eq!(saving(&swap("no sack", "sack", 0, 0)), Some(45_000));
    lighter.remove.push(Removal { line: LineId("sack".to_owned()), qty: 1, from: Place::Carried });
    assert_eq!(saving(&lighter), Some(245_000));
    // What takes off more than there is breaks nothing.
    lighter.remove[1].qty = 2;
    assert_eq!(saving(&lighter), Some(280_000));
}

#[test]
fn an_older_kit_takes_the_place_of_a_newer_one_that_is_broken() {
    let lines = [line("quilt", Some(700), 1), line("sack", Some(40), 1), line("strap", Some(10), 1)];
    let by_id: HashMap<_, _> = lines.iter().map(|line| (&line.id, line)).collect();
    let kit = |weighed: i64, parts: &[&str]| WeighedKit {
        name: "kit".to_owned(),
        weighed: Mass::from_mg(weighed * 1_000),
        parts: parts.iter().map(|part| (LineId((*part).to_owned()), 1)).collect(),
    };
    // 745 + 10 today; without the strap the same; without the sack the quilt with its strap, 715; without the quilt 40 + 10.
    let kits = [kit(745, &["quilt", "sack"]), kit(715, &["quilt", "strap"])];
    let linked = LinkedKits::new(&kits);
    let saving = |line: &str| {
        let swap = swap("away", line, 0, 0);
        worth(&swap, &by_id, &linked, Money::ZERO, RankBy::Base).saving.map(Mass::mg)
    };
    assert_eq!([saving("strap"), saving("sack"), saving("quilt")], [Some(10_000), Some(40_000), Some(705_000)]);
}

fn worths(swaps: &[Swap], lines: &[Line], hour: i64) -> Vec<Worth> {
    let lines: HashMap<_, _> = lines.iter().map(|line| (&line.id, line)).collect();
    swaps.iter().map(|swap| worth(swap, &lines, &LinkedKits::new(&[]), Money::from_minor(hour), RankBy::Base)).collect()
}

#[test]
fn net_is_price_delivery_resale_and_hours_rounded_up() {
    let mut made = swap("made", "tent", 700, 0);
    made.add[0].price = PriceRange::new(Money::from_minor(1_500), Money::from_minor(2_001));
    made.add[0].qty = 2;
    (made.delivery, made.resale, made.tenth_hours) = (Money::from_minor(490), Money::from_minor(900), 25);
    let found = &worths(&[made], &[line("tent", Some(1_900), 1)], 333)[0];
    // The middle of 15.00 and 20.01 is 17.51; 2.5 hours of 3.33 are 8.325, so 8.33.
    assert_eq!(found.net, Some(Money::from_minor(2 * 1_751 + 490 - 900 + 833)));
    assert_eq!(found.saving, Some(Mass::from_mg(1_900_000 - 2 * 700_000)));
}

#[test]
fn only_what_is_carried_saves_base_weight() {
    let mut worn = swap("worn", "shirt", 100, 0);
    worn.remove[0].from = Place::Worn;
    worn.add[0].place = Place::Worn;
    let found = &worths(&[worn], &[line("shirt", Some(164), 0)], 0)[0];
    assert_eq!((found.saving, found.saving_everything), (Some(Mass::ZERO), Some(Mass::from_mg(64_000))));
}

#[test]
fn what_is_missing_is_listed_and_never_guessed() {
    let mut unpriced = swap("a", "sack", 10, 0);
    unpriced.add[0].price = None;
    let found = &worths(&[unpriced], &[line("sack", None, 1)], 0)[0];
    assert_eq!(found.missing, [Missing::Weight("sack".to_owned()), Missing::Price("new a".to_owned())]);
    assert_eq!((class(found), found.complete()), (Class::Incomplete, None));
}

#[test]
fn free_ones_come_first_then_grams_for_money_then_the_rest() {
    let lines = [line("tent", Some(1_900), 9)];
    let mut swaps = vec![
        swap("heavier", "tent", 2_000, 10),
        swap("dear", "tent", 900, 2_000),
        swap("b same", "tent", 1_400, 500),
        swap("a same", "tent", 1_400, 500),
        swap("twice as much for twice the money", "tent", 900, 1_000),
        swap("free", "tent", 1_890, 0),
        swap("ruled out", "tent", 100, 1),
    ];
    swaps[6].state = SwapState::RuledOut;
    let ranked = rank(&swaps, &worths(&swaps, &lines, 0));
    let order: Vec<_> =
        ranked.iter().map(|row| (swaps[row.swap].name.as_str(), row.place.map(|places| places.place))).collect();
    assert_eq!(
        order,
        [
            ("free", Some(1)),
            ("ruled out", None),
            ("twice as much for twice the money", Some(2)),
            ("a same", Some(3)),
            ("b same", Some(4)),
            ("dear", Some(5)),
            ("heavier", Some(6)),
        ]
    );
}

#[test]
fn choices_are_steps_beaten_or_never_the_best_step() {
    let lines = [line("tent", Some(2_000), 1), line("mug", Some(100), 1), line("bottle", Some(170), 2)];
    let swaps = [
        swap("light", "tent", 1_000, 30_000),
        swap("a bit lighter", "tent", 1_600, 10_000),
        swap("beaten", "tent", 1_700, 12_000),
        swap("under the line", "tent", 1_450, 20_000),
        swap("lightest", "tent", 950, 60_000),
        swap("heavier", "tent", 2_100, 5_000),
        swap("alone", "mug", 50, 100),
        // Two bottles are carried: both of these can be done.
        swap("one bottle", "bottle", 40, 100),
        swap("the other bottle", "bottle", 50, 90),
    ];
    let worths = worths(&swaps, &lines, 0);
    let by_id: HashMap<_, _> = lines.iter().map(|line| (&line.id, line)).collect();
    let groups = choices(&swaps, &worths, &by_id);
    let step = |grams: i64, minor: i64| {
        Standing::Step(Step { extra_saving: Mass::from_mg(grams * 1_000), extra_net: Money::from_minor(minor) })
    };
    assert_eq!(groups.len(), 1);
    assert_eq!(
        groups[0].choices,
        [
            (1, step(400, 10_000)),
            (0, step(600, 20_000)),
            (4, step(50, 30_000)),
            (3, Standing::NeverBestStep),
            (2, Standing::BeatenBy(1)),
            (5, Standing::BeatenByKeeping),
        ]
    );
}

#[test]
fn swaps_take_pieces_off_one_after_another_and_put_things_on() {
    let thing = |line: Line| Thing {
        line,
        system: System::Other,
        facts: Facts::default(),
        identity: Identity::default(),
        carrier: Carrier::Own(0),
    };
    let stakes = Line { counts: Counts { carried: 8, ..Counts::default() }, ..line("stakes", Some(12), 0) };
    let things = [thing(line("pack", Some(900), 1)), thing(stakes)];
    let off = |id: &str, qty| [Removal { line: LineId(id.to_owned()), qty, from: Place::Carried }];
    let [first, second, unknown] = [off("stakes", 6), off("stakes", 6), off("tent", 1)];
    let on = thing(Line { counts: Counts { carried: 4, ..Counts::default() }, ..line("light stakes", Some(6), 0) });
    let left = |swaps: &[&[Removal]]| {
        let after = applied(&things, swaps.iter().map(|remove| (*remove, vec![on.clone()])));
        after.iter().map(|thing| (thing.line.name.clone(), thing.line.counts.carried)).collect::<Vec<_>>()
    };
    let named =
        |names: &[(&str, u32)]| names.iter().map(|(name, left)| ((*name).to_owned(), *left)).collect::<Vec<_>>();
    assert_eq!(left(&[&first]), named(&[("pack", 1), ("stakes", 2), ("light stakes", 4)]));
    assert_eq!(
        left(&[&first, &second]),
        named(&[("pack", 1), ("light stakes", 4), ("light stakes", 4)]),
        "never under 0"
    );
    assert_eq!(left(&[&unknown]), named(&[("pack", 1), ("stakes", 8), ("light stakes", 4)]));
}
