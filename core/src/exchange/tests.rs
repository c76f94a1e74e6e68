//! The quick line: what is understood, and what is not guessed.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use super::{QuickLine, Read};
use crate::gear::{Acquired, Band, System, WeightSource};
use crate::quantity::{Currency, Mass};

fn read(line: &str) -> QuickLine {
    QuickLine::read(line, Currency::from_code("EUR").unwrap(), WeightSource::Weighed)
}

/// Name, count, milligrams, cents.
fn understood(line: &str) -> (String, u32, Option<i64>, Option<i64>) {
    let read = read(line);
    (
        read.name,
        read.count,
        read.weight.map(|weight| weight.unit.mg()),
        read.price.map(|price| price.expected().minor()),
    )
}

#[test]
fn figures_stand_in_any_order() {
    let wanted = ("rain shell".to_owned(), 2, Some(212_000), Some(14_900));
    for line in [
        "rain shell 212g 149eur x2",
        "x2 €149 212 g rain shell",
        "2x rain 149 EUR shell 0.212 kg",
        "rain shell 149€ ×2 212 grams",
    ] {
        assert_eq!(understood(line), wanted, "{line}");
    }
    assert_eq!(understood("tent 3 lb 5 oz"), ("tent".to_owned(), 1, Some(1_502_525), None));
    assert_eq!(read("quilt #sleep").system, Some(System::Sleep));
}

#[test]
fn bare_numbers_and_unknown_units_stay_in_the_name() {
    for name in ["pot 0.9 l", "thermometer -40 C", "quilt 20 K", "pad R 99", "cooler 12h", "12 top all"] {
        assert_eq!(understood(&format!("{name} 300 g")), (name.to_owned(), 1, Some(300_000), None), "{name}");
    }
}

#[test]
fn what_cannot_be_taken_is_refused_with_its_reason() {
    for (line, refused) in [
        ("shell 1,250 g", "1,250 g"),
        ("shell -5g", "-5g"),
        ("shell 5 oz 6 oz", "6 oz"),
        ("5 oz shell 6 oz", "6 oz"),
        ("shell 12 usd", "12 usd"),
        ("shell #nowhere", "#nowhere"),
        ("shell x0", "x0"),
        ("shell 96g/0", "96g/0"),
        ("shell 29eur/1001", "29eur/1001"),
        ("shell x2 x3", "x3"),
        ("shell 20-15eur", "20-15eur"),
        ("shell 15eur gift", "gift"),
        ("shell !jump", "!jump"),
        ("shell !water_carried", "!water_carried"),
        ("shell !ground_insulation=thick", "!ground_insulation=thick"),
        ("shell !light=0", "!light=0"),
        ("shell !light !light", "!light"),
        ("shell ~5g claimed 6g", "claimed 6g"),
    ] {
        let read = read(line);
        let found: Vec<_> = read
            .chips
            .iter()
            .filter(|chip| matches!(chip.read, Read::Refused(_)))
            .map(|chip| chip.text.as_str())
            .collect();
        assert_eq!(found, [refused], "{line}");
        assert!(!read.is_ready(), "{line}");
    }
    assert!(!read("212 g").is_ready(), "no name");
    assert!(read("shell").is_ready());
}

#[test]
fn a_weight_says_where_it_comes_from() {
    let source = |line: &str| read(line).weight.map(|weight| (weight.source, weight.unit.mg()));
    assert_eq!(source("night set ~310 g"), Some((WeightSource::Estimate, 310_000)));
    assert_eq!(source("warm jacket claimed 388g"), Some((WeightSource::Maker, 388_000)));
    assert_eq!(source("tent claimed 3 lb 5 oz"), Some((WeightSource::Maker, 1_502_525)));
    assert_eq!(source("pillow 98g"), Some((WeightSource::Weighed, 98_000)));
    assert_eq!(understood("coat claimed by nobody 98g").0, "coat claimed by nobody");
}

#[test]
fn a_price_is_a_figure_a_range_or_a_gift() {
    let range = |line: &str| read(line).price.map(|price| (price.low().minor(), price.high().minor()));
    assert_eq!(range("pad 15-20eur"), Some((1_500, 2_000)));
    assert_eq!(range("pad €15 – €20"), Some((1_500, 2_000)));
    assert_eq!(range("pad gift"), Some((0, 0)));
    let acquired = |line: &str| (read(line).name, read(line).acquired);
    for (line, how) in [
        ("pad gift", Acquired::Gift),
        ("pad 5eur", Acquired::New),
        ("used 80 eur pad", Acquired::Used),
        ("pad sale €15 – €20", Acquired::Sale),
        ("pad made 35eur", Acquired::Made),
    ] {
        assert_eq!(acquired(line), ("pad".to_owned(), how), "{line}");
    }
    assert_eq!(acquired("used pad made of felt 5eur"), ("pad made of felt".to_owned(), Acquired::Used));
}

#[test]
fn pieces_share_what_they_weigh_and_cost_together() {
    // Three for 29.00 are 9.67 each, rounded up; eight stakes of 98 g are 12.25 g each, and each an eighth of a gram in doubt.
    let stakes = read("stake x8 98g/8 29eur/3 #shelter");
    assert!(stakes.is_ready());
    let weight = stakes.weight.unwrap();
    assert_eq!((stakes.count, weight.unit.mg(), weight.typed.as_str()), (8, 12_250, "12.25 g"));
    assert_eq!(weight.band, Some(Band::even(Mass::from_mg(125))));
    assert_eq!(stakes.price.unwrap().expected().minor(), 967);
    assert_eq!(read("sock claimed 90 g/2").weight.unwrap().unit.mg(), 45_000);
    assert_eq!(understood("pad 7 1/2 oz").2, Some(212_621));
    assert_eq!(understood("pad 1/2").0, "pad 1/2");
}

#[test]
fn jobs_have_their_amounts() {
    let jobs = |line: &str| {
        let read = read(line);
        assert!(read.is_ready(), "{line}: {:?}", read.chips);
        read.provides.iter().map(|(job, amount)| (job.as_str().to_owned(), *amount)).collect::<Vec<_>>()
    };
    assert_eq!(jobs("poles 400g !shelter_pole=2 !light"), [("light".to_owned(), 1), ("shelter_pole".to_owned(), 2)]);
    assert_eq!(jobs("bottle !water_carried=0.75l"), [("water_carried".to_owned(), 750)]);
    assert_eq!(jobs("pad !ground_insulation=3,2"), [("ground_insulation".to_owned(), 32)]);
    assert_eq!(jobs("bank !power=10000mAh"), [("power".to_owned(), 37_000)]);
    assert_eq!(jobs("pack !load=12kg !room=45l"), [("load".to_owned(), 12_000), ("room".to_owned(), 45_000)]);
    assert_eq!(jobs("a thing that ends in !").len(), 0);
}
