//! Doubt, the queue, kits and things, on made-up figures worked by hand.
#![allow(clippy::unwrap_used)]

use super::*;
use crate::quantity::{Currency, Mass, PriceRange};
use proptest::prelude::*;

fn g(grams: i64) -> Mass {
    Mass::from_mg(grams * 1000)
}

fn weight(grams: i64, source: WeightSource) -> Weight {
    Weight { unit: g(grams), typed: format!("{grams} g"), source, band: None }
}

/// Pairs of claims of 1 kg and weighings that are off by these millionths.
fn makers(errors: &[i64]) -> Makers {
    Makers::from_pairs(errors.iter().map(|error| (g(1000), Mass::from_mg(1_000_000 + error))), false)
}

#[test]
fn each_source_has_its_band() {
    let none = Makers::default();
    let band = |weight: &Weight| none.band(weight);
    assert_eq!(
        band(&weight(640, WeightSource::Maker)),
        Band { low: Mass::from_mg(-19_200), high: Mass::from_mg(51_200) }
    );
    assert_eq!(band(&weight(310, WeightSource::Estimate)), Band::even(Mass::from_mg(46_500)));
    assert_eq!(band(&weight(98, WeightSource::Weighed)), Band::even(g(1)));
}

#[test]
fn a_weighing_is_as_fine_as_the_scale_and_the_pieces() {
    let stakes = Weighing { total: g(148), pieces: 10, step: g(1) };
    assert_eq!((stakes.unit().mg(), stakes.half_width().mg()), (14_800, 100));
    let two_kilos = Weighing { total: g(2_000), pieces: 1, step: g(1) };
    assert_eq!(two_kilos.half_width(), g(1));
    let heavy = Weighing { total: g(2_400), pieces: 1, step: g(1) };
    assert_eq!(heavy.half_width(), g(12));
    let coarse = Weighing { total: g(2_400), pieces: 1, step: g(50) };
    assert_eq!(coarse.half_width(), g(50));
    // Half of a milligram goes to the even one.
    assert_eq!(Weighing { total: Mass::from_mg(5), pieces: 2, step: Mass::from_mg(1) }.unit().mg(), 2);
}

#[test]
fn makers_are_believed_as_far_as_they_were_right() {
    let four = makers(&[10_000, 20_000, 30_000, 40_000]);
    assert_eq!((four.range(), four.is_own(), four.median()), ((-30_000, 80_000), false, Some(25_000)));
    let six = makers(&[50_000, -10_000, 20_000, 31_000, 40_000, 0]);
    assert!(six.is_own());
    // Sorted: −10 000, 0, 20 000, 31 000, 40 000, 50 000. Rank 0.5 and 4.5 of 0 to 5; the median between the middle two.
    assert_eq!((six.range(), six.median()), ((-5_000, 45_000), Some(25_500)));
    assert_eq!(six.expected(&weight(1_000, WeightSource::Maker)), Mass::from_mg(1_025_500));
    assert_eq!(six.expected(&weight(1_000, WeightSource::Estimate)), g(1_000));
    assert_eq!(four.expected(&weight(1_000, WeightSource::Maker)), g(1_000));
    // One pair that is far off is a slip and rules nothing; the walker may keep it.
    let pairs = |keeps: bool| {
        let weighed = [1_010, 1_020, 1_030, 1_000, 2_500].map(|grams| (g(1_000), g(grams)));
        Makers::from_pairs(weighed, keeps)
    };
    assert_eq!((pairs(false).range(), pairs(false).errors().len(), pairs(false).left_out()), ((-30_000, 80_000), 4, 1));
    assert_eq!((pairs(true).range().1, pairs(true).left_out()), (912_000, 0));
    let edges = Makers::from_pairs([(g(1_000), g(1_400)), (g(1_000), g(600)), (g(1_000), g(599))], false);
    assert_eq!(edges.errors(), [-400_000, 400_000]);
    assert_eq!(Makers::from_pairs([(Mass::ZERO, g(3))], false).median(), None);
}

#[test]
fn totals_say_at_least_and_carry_two_bands() {
    let (a, b) = (weight(300, WeightSource::Estimate), weight(400, WeightSource::Estimate));
    let things = [
        Pieces { count: 1, weight: Some(&a) },
        Pieces { count: 1, weight: Some(&b) },
        Pieces { count: 2, weight: None },
        Pieces { count: 0, weight: None },
    ];
    let total = trust(things, &Makers::default());
    assert_eq!((total.figure, total.unknown), (g(700), 1));
    // 45 g and 60 g: worst 105 g, likely the hypotenuse 75 g.
    assert_eq!(total.worst, Band::even(g(105)));
    assert_eq!(total.likely, Band::even(g(75)));
}

#[test]
fn makers_who_always_run_light_leave_no_doubt_below() {
    let light = makers(&[20_000, 20_000, 30_000, 30_000, 40_000]);
    let tent = weight(1_000, WeightSource::Maker);
    let total = trust([Pieces { count: 1, weight: Some(&tent) }], &light);
    assert_eq!(total.worst, Band { low: g(20), high: g(36) });
    assert_eq!(total.likely, Band { low: Mass::ZERO, high: g(36) });
}

#[test]
fn the_worst_doubt_is_weighed_first() {
    let (guess, maker, known) =
        (weight(310, WeightSource::Estimate), weight(1_680, WeightSource::Maker), weight(98, WeightSource::Weighed));
    let things = [
        Pieces { count: 1, weight: Some(&known) },
        Pieces { count: 1, weight: Some(&guess) },
        Pieces { count: 1, weight: Some(&maker) },
        Pieces { count: 1, weight: None },
        Pieces { count: 3, weight: None },
    ];
    let queue = weigh_queue(&things, &Makers::default());
    assert_eq!(queue, [4, 3, 2, 1, 0]);
    let after = |weighings: usize| weighed_after(&things, &Makers::default(), &queue[..weighings]);
    assert_eq!(after(0), trust(things, &Makers::default()));
    assert_eq!((after(2).unknown, after(2).figure), (0, g(2_088)));
    assert_eq!(after(5).worst, Band::even(g(7)));
}

#[test]
fn the_queue_asks_what_weighing_would_narrow_and_not_how_wide_a_band_is() {
    // A pack of 3 kg that was weighed is known to 15 g, and no weighing makes it better; a maker's 250 g is.
    let pack = Weighing { total: g(3_000), pieces: 1, step: DEFAULT_STEP }.weight("3 kg");
    let (shell, fine) = (
        weight(250, WeightSource::Maker),
        Weight { band: Some(Band::even(Mass::from_mg(100))), ..weight(40, WeightSource::Weighed) },
    );
    let things = [&pack, &shell, &fine].map(|weight| Pieces { count: 1, weight: Some(weight) });
    let queue = weigh_queue(&things, &Makers::default());
    assert_eq!(queue, [1, 0, 2]);
    assert_eq!(worth_weighing(&things, &Makers::default(), &queue), [1]);
    // What is known better than a kitchen scale would show it never gets worse.
    let after = weighed_after(&things, &Makers::default(), &queue);
    assert_eq!(after.worst, Band::even(g(15) + g(1) + Mass::from_mg(100)));
}

#[test]
fn what_is_derived_is_as_doubtful_as_all_that_it_is_derived_from() {
    // A kit of 1000 g (1 g either way) with a maker's 800 g (24 g less to 64 g more): the rest is 200 g, 65 g less to 25 g more.
    let maker = Makers::default().band(&weight(800, WeightSource::Maker));
    let rest = derived_band(Band::even(g(1)), [maker], 1);
    assert_eq!(rest, Band { low: g(-65), high: g(25) });
    // Of three pieces each bears a third, rounded outwards.
    let third = derived_band(Band::even(g(1)), [maker], 3);
    assert_eq!(third, Band { low: Mass::from_mg(-21_667), high: Mass::from_mg(8_334) });
}

#[test]
fn the_newest_of_what_was_weighed_and_said_counts() {
    let mut mug = Gear::named(Name::new("mug").unwrap());
    let (guess, scale) = (weight(100, WeightSource::Estimate), weight(118, WeightSource::Weighed));
    assert_eq!(mug.weight_beside(None), None);
    mug.claimed = Some(Claim { unit: g(110), typed: "110 g".to_owned() });
    assert_eq!(mug.weight_beside(None).map(|weight| weight.source), Some(WeightSource::Maker));
    mug.stated = Some(Stated { weight: Some(guess.clone()), at: 5 });
    assert_eq!(mug.weight_beside(None), Some(guess.clone()));
    assert_eq!(mug.weight_beside(Some((scale.clone(), 9))), Some(scale.clone()));
    assert_eq!(mug.weight_beside(Some((scale.clone(), 3))), Some(guess));
    mug.stated = Some(Stated { weight: None, at: 10 });
    assert_eq!(mug.weight_beside(Some((scale, 9))), None);
}

#[test]
fn what_counts_in_a_kit_needs_no_weighing() {
    let guess = weight(310, WeightSource::Estimate);
    let things = [
        Pieces { count: 0, weight: None },
        Pieces { count: 0, weight: Some(&guess) },
        Pieces { count: 1, weight: Some(&guess) },
        Pieces { count: 1, weight: None },
    ];
    assert_eq!(weigh_queue(&things, &Makers::default())[..2], [3, 2]);
    assert_eq!(trust(things, &Makers::default()).unknown, 1);
}

#[test]
fn pieces_weighed_together_share_figure_and_doubt() {
    let eight = |source| Weight { band: None, ..weight(98, source) }.shared_by(8);
    let stake = eight(WeightSource::Weighed);
    assert_eq!(
        (stake.unit.mg(), stake.band, stake.typed.as_str()),
        (12_250, Some(Band::even(Mass::from_mg(125))), "12.25 g")
    );
    // A guess and a maker's figure are as doubtful for one as for all: a share of the figure.
    for source in [WeightSource::Estimate, WeightSource::Maker] {
        assert_eq!((eight(source).unit.mg(), eight(source).band), (12_250, None));
    }
    let one = weight(98, WeightSource::Weighed);
    assert_eq!(one.clone().shared_by(1), one);
}

#[test]
fn a_makers_figure_is_expected_as_makers_have_been_right() {
    let heavy = makers(&[10_000, 20_000, 30_000, 40_000, 50_000]);
    let expected = |source| heavy.expected(&weight(1_000, source)).mg();
    assert_eq!(expected(WeightSource::Maker), 1_030_000);
    assert_eq!(expected(WeightSource::Weighed), 1_000_000);
    // Four pairs are too few to go by.
    assert_eq!(makers(&[50_000; 4]).expected(&weight(1_000, WeightSource::Maker)), g(1_000));
    assert_eq!(makers(&[]).median(), None);
}

fn part(grams: Option<i64>, source: WeightSource, weighed_at: Option<i64>) -> Part {
    Part { count: 1, weight: grams.map(|grams| (g(grams), source)), weighed_at }
}

#[test]
fn a_kit_stands_against_its_parts() {
    use WeightSource::{Derived, Maker, Weighed};
    // All weighed: both figures and the difference; the newer counts.
    let parts = [part(Some(700), Weighed, Some(10)), part(Some(40), Weighed, Some(20))];
    let newer = kit_figures(Some((g(745), 30)), &parts);
    assert_eq!((newer.own_counts, newer.figure, newer.difference), (true, g(745), Some(g(5))));
    let older = kit_figures(Some((g(745), 20)), &parts);
    assert_eq!((older.own_counts, older.figure, older.difference), (false, g(740), Some(g(5))));
    // One unknown: derived, whether or not an earlier derived figure stands there.
    for unknown in [part(None, Weighed, None), part(Some(1), Derived, None)] {
        let figures = kit_figures(Some((g(1_164), 5)), &[part(Some(1_120), Weighed, Some(9)), unknown]);
        assert_eq!((figures.derived, figures.unknown, figures.own_counts), (Some((1, g(44))), 1, true));
        assert_eq!(figures.difference, None);
    }
    // Two unknown: nothing is derived. Parts heavier than the kit: said, not derived.
    let two = kit_figures(Some((g(100), 5)), &[part(None, Weighed, None), part(None, Weighed, None)]);
    assert_eq!((two.derived, two.figure), (None, g(100)));
    let wrong = kit_figures(Some((g(100), 5)), &[part(Some(120), Weighed, Some(1)), part(None, Weighed, None)]);
    assert!(wrong.contradicts && wrong.derived.is_none());
    // Makers' figures were never weighed: the kit counts, and no difference of weighings is claimed.
    let makers = kit_figures(Some((g(100), 5)), &[part(Some(90), Maker, None)]);
    assert_eq!((makers.own_counts, makers.difference), (true, None));
    // No weighing of its own: the sum, at least.
    let unweighed = kit_figures(None, &[part(Some(90), Maker, None), part(None, Weighed, None)]);
    assert_eq!((unweighed.figure, unweighed.unknown, unweighed.own_counts), (g(90), 1, false));
}

#[test]
fn several_pieces_of_an_unknown_part_share_what_is_left() {
    let stakes = Part { count: 8, weight: None, weighed_at: None };
    let figures = kit_figures(Some((g(1_000), 5)), &[part(Some(900), WeightSource::Weighed, Some(1)), stakes]);
    assert_eq!(figures.derived, Some((1, Mass::from_mg(12_500))));
}

#[test]
fn a_night_costs_its_share_of_the_price() {
    let mut tent = Gear::named(Name::new("tent").unwrap());
    let euro = Currency::from_code("EUR").unwrap();
    tent.paid = Some(PriceRange::parse("100-101", euro).unwrap());
    assert_eq!(tent.cost_per_night(), None);
    tent.nights = 8;
    assert_eq!(tent.cost_per_night().unwrap().minor(), 1_256);
}

#[test]
fn tags_are_words_once_each() {
    let tags = Tags::parse("#Winter, tarp  winter").unwrap();
    assert_eq!((tags.to_string().as_str(), tags.words().len()), ("tarp winter", 2));
    assert!(Tags::parse(&"x".repeat(41)).unwrap_err().contains("at most 40"));
    let many: Vec<String> = (0..21).map(|n| format!("t{n}")).collect();
    assert!(Tags::parse(&many.join(" ")).unwrap_err().contains("21 tags"));
    // A thing with the most tags may still become medicine, and is read again.
    let mut full = Gear::named(Name::new("insulin").unwrap());
    full.tags = Tags::parse(&many[..20].join(" ")).unwrap();
    full.become_kind(Kind::of_name("insulin"));
    assert_eq!(Tags::parse(&full.tags.to_string()).unwrap().words().len(), 22);
}

proptest! {
    #[test]
    fn the_likely_band_lies_in_the_worst(figures in prop::collection::vec((1..5_000_i64, 1..4_u32, 0..3_usize), 1..20)) {
        let sources = [WeightSource::Weighed, WeightSource::Maker, WeightSource::Estimate];
        let weights: Vec<(Weight, u32)> = figures.iter().map(|&(grams, count, source)| (weight(grams, sources[source]), count)).collect();
        let things: Vec<Pieces<'_>> = weights.iter().map(|(weight, count)| Pieces { count: *count, weight: Some(weight) }).collect();
        let total = trust(things.iter().copied(), &Makers::default());
        prop_assert!(total.worst.low <= total.likely.low && total.likely.high <= total.worst.high);
        let sum: i64 = figures.iter().map(|&(grams, count, _)| grams * i64::from(count) * 1000).sum();
        prop_assert_eq!(total.figure.mg(), sum);
        // Weighing the first of the queue narrows the total at least as much as weighing any other.
        let queue = weigh_queue(&things, &Makers::default());
        let width = |weighed: &[usize]| weighed_after(&things, &Makers::default(), weighed).worst.width();
        prop_assert!((0..things.len()).all(|at| width(&queue[..1]) <= width(&[at])));
        let pieces: u32 = things.iter().map(|thing| thing.count).sum();
        let widest: Mass = things.iter().map(|thing| {
            let mg = thing.weight.unwrap().unit.mg();
            Mass::from_mg(if mg > 2_000_000 { mg / 200 } else { 1_000 }).times(thing.count)
        }).sum();
        let all = weighed_after(&things, &Makers::default(), &queue);
        prop_assert!(all.worst.width() <= widest + widest && pieces > 0);
    }

    #[test]
    fn parts_of_a_weighed_kit_add_up_to_it(known in prop::collection::vec(1..2_000_i64, 0..6), rest in 0..2_000_i64) {
        let mut parts: Vec<Part> = known.iter().map(|&grams| part(Some(grams), WeightSource::Weighed, Some(1))).collect();
        parts.push(part(None, WeightSource::Weighed, None));
        let kit = g(known.iter().sum::<i64>() + rest);
        let figures = kit_figures(Some((kit, 2)), &parts);
        prop_assert_eq!(figures.derived, Some((known.len(), g(rest))));
        prop_assert_eq!(figures.figure, kit);
    }

    #[test]
    fn the_half_width_of_pieces_is_that_of_the_scale(total in 0..200_000_000_i64, pieces in 1..1_000_u32) {
        let weighing = Weighing { total: Mass::from_mg(total), pieces, step: DEFAULT_STEP };
        let back = weighing.unit().times(pieces) - weighing.total;
        prop_assert!(back.mg().unsigned_abs() <= u64::from(pieces.div_ceil(2)));
    }
}
