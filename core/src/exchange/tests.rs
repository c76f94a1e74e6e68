//! The quick line: what is understood, and what is not guessed.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use super::{QuickLine, Read};
use crate::gear::System;
use crate::quantity::Currency;

fn read(line: &str) -> QuickLine {
    QuickLine::read(line, Currency::from_code("EUR").unwrap())
}

/// Name, count, milligrams, cents.
fn understood(line: &str) -> (String, u32, Option<i64>, Option<i64>) {
    let read = read(line);
    (read.name, read.count, read.mass.map(|(mass, _)| mass.mg()), read.price.map(|price| price.minor()))
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
    for name in ["frameless pack 45 l", "bank 10000 mAh", "quilt 20 F", "2 person tent", "12 top all"] {
        assert_eq!(understood(&format!("{name} 300 g")), (name.to_owned(), 1, Some(300_000), None), "{name}");
    }
}

#[test]
fn what_cannot_be_taken_is_refused_with_its_reason() {
    for (line, refused) in [
        ("shell 1,250 g", "1,250 g"),
        ("shell -5g", "-5g"),
        ("shell 5 oz 6 oz", "5 oz 6 oz"),
        ("5 oz shell 6 oz", "6 oz"),
        ("shell 12 usd", "12 usd"),
        ("shell #nowhere", "#nowhere"),
        ("shell x0", "x0"),
        ("shell x2 x3", "x3"),
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
