//! Beyond the golden cases: what is shown can be read again, and money.
#![allow(clippy::unwrap_used, clippy::expect_used)]

mod measure;

use super::*;
use proptest::prelude::*;

fn euro() -> Currency {
    Currency::from_code("eur").unwrap()
}

proptest! {
    #[test]
    fn a_mass_that_is_shown_is_read_as_what_is_shown(mg in 0..199_900_000_i64) {
        for style in [MassStyle::TableG, MassStyle::TotalKg, MassStyle::TableOz, MassStyle::TotalLbOz, MassStyle::TotalLb] {
            // Spaces between thousands and three decimals of nothing are for people.
            let shown = Mass::from_mg(mg).format(style).replace('\u{202f}', "");
            let read = Mass::parse(&shown, MassUnit::G).unwrap();
            prop_assert_eq!(read.format(style).replace('\u{202f}', ""), shown);
        }
    }

    #[test]
    fn a_mass_in_grams_is_read_back_exactly(mg in 0..200_000_000_i64) {
        let shown = Mass::from_mg(mg).in_grams();
        prop_assert_eq!(Mass::parse(&shown, MassUnit::Oz).unwrap().mg(), mg, "{}", shown);
    }

    #[test]
    fn any_text_is_read_or_refused(typed in "\\PC{0,12}", digits in "[0-9.,/ ½lbozkg$€-]{0,14}") {
        for text in [typed, digits] {
            for refused in [Mass::parse(&text, MassUnit::Oz).err(), PriceRange::parse(&text, euro()).err()].into_iter().flatten() {
                prop_assert_eq!(&refused.typed, text.trim());
                prop_assert!(!refused.to_string().is_empty() && !refused.accepted.is_empty());
            }
        }
    }

    #[test]
    fn money_that_is_shown_is_read_as_what_is_shown(minor in 0..1_000_000_000_i64) {
        for code in ["EUR", "JPY", "KWD"] {
            let currency = Currency::from_code(code).unwrap();
            let shown = Money::from_minor(minor).format(currency).replace('\u{202f}', "");
            match Money::parse(&shown, currency) {
                Ok(read) => prop_assert_eq!(read, Money::from_minor(minor)),
                // 1.250 dinars may be 1250: asking is right.
                Err(refused) => prop_assert_eq!(refused.reason.code(), "ambiguous"),
            }
        }
    }
}

#[test]
fn amounts_that_are_said_to_be_accepted_are() {
    for code in ["EUR", "JPY", "KWD"] {
        let currency = Currency::from_code(code).unwrap();
        let accepted = PriceRange::parse("much", currency).unwrap_err().accepted;
        let amounts = accepted.split([' ', ',']).filter(|word| word.starts_with(|first: char| first.is_ascii_digit()));
        let amounts: Vec<&str> = amounts.collect();
        assert_eq!(amounts.len(), 3, "{accepted}");
        for amount in amounts {
            assert!(PriceRange::parse(amount, currency).is_ok(), "{amount} in {code}");
        }
    }
}

#[test]
fn figures_that_are_too_long_to_multiply_are_refused_and_not_wrapped() {
    let nines = "9".repeat(20);
    let reason = |typed: &str| Mass::parse(typed, MassUnit::Oz).unwrap_err().reason.code();
    for typed in [
        "99999999999999999999 kg 0.0000000000000000001 g".to_owned(),
        format!("{nines} lb {nines} oz"),
        "99999999999999 9999999999999/99999999999999 oz".to_owned(),
        nines.clone(),
    ] {
        assert!(["out_of_range", "too_fine", "minor_part"].contains(&reason(&typed)), "{typed}: {}", reason(&typed));
    }
    assert_eq!(reason(&"1".repeat(51)), "too_long");
    assert_eq!(reason("1 kg 0.0000000000000000001 g"), "too_fine");
    assert_eq!(
        Energy::parse(&format!("{nines} mAh at 1.0000000000000000001 V")).unwrap_err().reason.code(),
        "out_of_range"
    );
    assert!(PriceRange::parse(&format!("{nines}.{nines}"), euro()).is_err());
}

#[test]
fn a_figure_keeps_the_unit_that_was_meant() {
    for (typed, unit, kept) in [
        ("730", MassUnit::G, "730 g"),
        (" 14.5 ", MassUnit::Oz, "14.5 oz"),
        ("7½", MassUnit::Lb, "7½ lb"),
        ("4,5", MassUnit::Kg, "4,5 kg"),
        ("3 lb 5", MassUnit::G, "3 lb 5"),
        ("98g", MassUnit::Oz, "98g"),
    ] {
        assert_eq!(Mass::typed_in(typed, unit), kept);
        let held = Mass::parse(typed, unit).unwrap();
        // Whatever unit the account has later, it is the same.
        for other in [MassUnit::G, MassUnit::Oz] {
            assert_eq!(Mass::parse(kept, other).unwrap(), held, "{kept}");
        }
        assert_eq!(Mass::typed_as(typed, held, [MassUnit::G, MassUnit::Oz, MassUnit::Kg, MassUnit::Lb]), kept.trim());
    }
    assert_eq!(Mass::typed_as("12", Mass::from_mg(1), [MassUnit::G]), "12", "in none of the units it is that");
}

#[test]
fn a_range_of_prices_is_shown_as_short_as_it_can_be() {
    let shown =
        |low: i64, high: i64| PriceRange::new(Money::from_minor(low), Money::from_minor(high)).unwrap().format(euro());
    assert_eq!((shown(12_000, 15_000), shown(12_000, 12_000)), ("120–150 EUR".to_owned(), "120.00 EUR".to_owned()));
    assert_eq!(shown(1_550, 2_000), "15.50–20.00 EUR");
}

#[test]
fn prices_are_read() {
    let read = |text: &str| PriceRange::parse(text, euro()).map(|price| (price.low().minor(), price.high().minor()));
    for (text, low, high) in [
        ("120", 12_000, 12_000),
        ("120.50", 12_050, 12_050),
        ("120,5", 12_050, 12_050),
        ("€120", 12_000, 12_000),
        ("120 EUR", 12_000, 12_000),
        ("15-20", 1_500, 2_000),
        ("€15 – €20", 1_500, 2_000),
        ("0", 0, 0),
    ] {
        assert_eq!(read(text), Ok((low, high)), "{text}");
    }
    for (text, why) in [
        ("", "empty"),
        ("-5", "negative"),
        ("20-15", "order"),
        ("12.3456", "too_fine"),
        ("1,250", "ambiguous"),
        ("120 USD", "other_currency"),
        ("120 zloty", "unknown_unit"),
        ("9999999999999", "out_of_range"),
        ("1-2-3", "not_a_number"),
        ("twelve", "not_a_number"),
    ] {
        assert_eq!(read(text).map_err(|refused| refused.reason.code()), Err(why), "{text}");
    }
}

#[test]
fn a_range_is_written_with_one_code() {
    let text = |typed: &str| PriceRange::parse(typed, euro()).unwrap().format(euro());
    assert_eq!(text("120"), "120.00 EUR");
    assert_eq!(text("15-20,5"), "15.00–20.50 EUR");
    let yen = Currency::from_code("JPY").unwrap();
    assert_eq!(PriceRange::parse("900-1200", yen).unwrap().format(yen), "900–1\u{202f}200 JPY");
}

#[test]
fn a_set_costs_each_piece_its_share_rounded_up() {
    let share = |typed: &str, pieces: u32| {
        let each = PriceRange::parse(typed, euro()).unwrap().shared_by(pieces);
        (each.low().minor(), each.high().minor())
    };
    assert_eq!(share("29", 3), (967, 967));
    assert_eq!(share("30", 3), (1_000, 1_000));
    assert_eq!(share("15-20", 4), (375, 500));
    assert_eq!(share("0", 7), (0, 0));
    assert_eq!(share("5", 0), (500, 500), "no pieces share as one");
}

#[test]
fn a_range_expects_its_middle_rounded_up() {
    let range =
        |low, high| PriceRange::new(Money::from_minor(low), Money::from_minor(high)).unwrap().expected().minor();
    assert_eq!((range(1_500, 2_000), range(1_500, 2_001), range(7, 7)), (1_750, 1_751, 7));
}

#[test]
fn halves_go_to_the_even_side() {
    let halves: Vec<i128> = [-3, -1, 1, 3, 5].into_iter().map(|num| div_half_even(num, 2)).collect();
    assert_eq!(halves, [-2, 0, 0, 2, 2]);
}

#[test]
fn sums_and_limits_settle_a_mass() {
    let read = |typed: &str| Mass::parse(typed, MassUnit::Oz).map(Mass::mg).map_err(|refused| refused.reason.code());
    // 3.5 oz is 99.2233309375 g, 55 g and 1.25 kg are what they say.
    for (typed, expected) in [
        ("1.5oz + 2oz", Ok(99_223)),
        ("1.5 + 2 oz", Ok(99_223)),
        ("40 g + 15g", Ok(55_000)),
        ("1.250 kg", Ok(1_250_000)),
        ("1,250 lb", Ok(566_990)),
        ("1\u{202f}250 g", Ok(1_250_000)),
        ("1\u{a0}250.5 g", Ok(1_250_500)),
        ("1 250 g", Err("not_a_number")),
        ("1,250 oz", Err("ambiguous")),
        ("150 kg + 51 kg", Err("out_of_range")),
        ("5 g +", Err("not_a_number")),
        ("+ 5 g", Err("not_a_number")),
    ] {
        assert_eq!(read(typed), expected, "{typed}");
    }
}
