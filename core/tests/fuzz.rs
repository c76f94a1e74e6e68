//! Every parser over inputs that nobody would type: none panics, and what is taken is within its limits. `./kevyt test --fuzz` tries a million
//! of each; what was once found stays in `proptest-regressions`.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use kevyt_core::exchange::gear_file::{Mapping, Sheet, read_rows};
use kevyt_core::exchange::{
    Asked, QuickLine, SwapLine, answer_json, lists_json, read_asked, read_list, read_price, read_weight, sums_json,
};
use kevyt_core::gear::{Tags, WeightSource};
use kevyt_core::limits;
use kevyt_core::plan::lists::solve_lists;
use kevyt_core::plan::{Limits, Ready, solve};
use kevyt_core::quantity::{Currency, Distance, Energy, Mass, MassUnit, Money, PriceRange, Temperature, Units, Volume};
use proptest::prelude::*;

/// What parsers take for something, and what looks like it.
const WORDS: &[&str] = &[
    "0",
    "1",
    "9",
    "00",
    "12",
    "1250",
    "9999999999999999999",
    "-1",
    "−3",
    "+4",
    ".",
    ",",
    "'",
    " ",
    "\u{a0}",
    "\u{202f}",
    "\t",
    "\n",
    "\r\n",
    ";",
    "\"",
    "\"\"",
    "½",
    "1/2",
    "1/0",
    "1e9",
    "٣",
    "１",
    "g",
    "kg",
    "oz",
    "lb",
    "lbs",
    "#",
    "°C",
    "°F",
    "K",
    "l",
    "ml",
    "dl",
    "gal",
    "fl oz",
    "km",
    "mi",
    "Wh",
    "mAh",
    "V",
    "%",
    "~",
    "≈",
    "±",
    "?",
    "…",
    "–",
    "—",
    "-",
    "..",
    "to",
    "x",
    "×",
    "*",
    "@",
    "#sleep",
    "#",
    "each",
    "together",
    "3 for",
    "for",
    "instead of",
    "€",
    "$",
    "eur",
    "USD",
    "JPY",
    "used",
    "free",
    "gift",
    "quilt",
    "tent",
    "stake",
    "10 m",
    "R 3.2",
    "5 °C",
    "\u{feff}",
    "\u{0}",
    "\u{200d}",
    "🎒",
    "é",
    "e\u{301}",
    "İ",
    "ﬁ",
    "name",
    "weight",
    "price",
    "system",
    "count",
    "{",
    "}",
    "[",
    "]",
    ":",
    "null",
];

fn text() -> impl Strategy<Value = String> {
    let part = prop_oneof![
        6 => prop::sample::select(WORDS).prop_map(str::to_owned),
        2 => "[0-9]{1,4}([.,][0-9]{1,4})?",
        1 => any::<char>().prop_map(String::from),
    ];
    prop::collection::vec(part, 0..14).prop_map(|parts| parts.concat())
}

/// A document with a few places of it changed.
fn document(from: &'static str) -> impl Strategy<Value = String> {
    let edits = prop::collection::vec((any::<prop::sample::Index>(), 0..6_usize, prop::sample::select(WORDS)), 1..6);
    edits.prop_map(move |edits| {
        let mut bytes = from.as_bytes().to_vec();
        for (at, gone, word) in edits {
            let at = at.index(bytes.len().max(1));
            let end = (at + gone).min(bytes.len());
            bytes.splice(at.min(end)..end, word.bytes());
        }
        String::from_utf8_lossy(&bytes).into_owned()
    })
}

fn euro() -> Currency {
    Currency::from_code("EUR").unwrap()
}

const LIST: &str = include_str!("fuzz/list.json");
const PROBLEM: &str = include_str!("fuzz/problem.json");
const LISTS: &str = include_str!("fuzz/lists.json");

proptest! {
    #![proptest_config(ProptestConfig {
        cases: std::env::var("KEVYT_FUZZ").map_or(1_000, |cases| cases.parse().unwrap()),
        max_shrink_iters: 10_000,
        ..ProptestConfig::default()
    })]

    #[test]
    fn figures(typed in text(), currency in prop::sample::select(&["EUR", "JPY", "KWD"][..])) {
        let currency = Currency::from_code(currency).unwrap();
        for unit in [MassUnit::G, MassUnit::Kg, MassUnit::Oz, MassUnit::Lb] {
            if let Ok(mass) = Mass::parse(&typed, unit) {
                prop_assert!((0..=limits::MASS_MG).contains(&mass.mg()), "{} mg", mass.mg());
            }
            let _ = read_weight(&typed, unit, WeightSource::Weighed);
        }
        if let Ok(money) = Money::parse(&typed, currency) {
            prop_assert!((0..=limits::MONEY_MINOR).contains(&money.minor()), "{}", money.minor());
        }
        for price in [PriceRange::parse(&typed, currency), read_price(&typed, currency)].into_iter().flatten() {
            prop_assert!(price.low() <= price.high() && price.high().minor() <= limits::MONEY_MINOR);
        }
        for units in [Units::Metric, Units::Imperial] {
            let _ = (Temperature::parse(&typed, units), Temperature::parse_difference(&typed, units), Distance::parse(&typed, units));
        }
        let _ = (Volume::parse(&typed), Energy::parse(&typed), Tags::parse(&typed));
    }

    #[test]
    fn lines(typed in text()) {
        let read = QuickLine::read(&typed, euro(), WeightSource::Maker);
        let again = QuickLine::read(&typed, euro(), WeightSource::Maker);
        prop_assert_eq!(format!("{read:?}"), format!("{again:?}"));
        let _ = SwapLine::read(&typed, euro(), WeightSource::Maker, &[]);
    }

    #[test]
    fn gear_files(cells in prop::collection::vec(text(), 0..8), bytes in prop::collection::vec(any::<u8>(), 0..16), head in any::<bool>()) {
        let mut file = if head { b"name;weight;price;system;count\n".to_vec() } else { Vec::new() };
        file.extend(cells.join(";").bytes());
        file.extend(bytes);
        if let Ok(sheet) = Sheet::read(&file) {
            let mapping = Mapping::suggest(&sheet, MassUnit::G, WeightSource::Maker);
            let (rows, refused) = read_rows(&sheet, &mapping, euro());
            prop_assert!(rows.len() <= sheet.lines.len(), "{} rows, {} refused", rows.len(), refused.len());
        }
    }

    #[test]
    fn list_files(file in document(LIST)) {
        if let Ok(list) = read_list(&file) {
            let sums = sums_json(&list);
            prop_assert!(sums.is_object());
        }
    }

    #[test]
    fn problem_files(file in prop_oneof![document(PROBLEM), document(LISTS)]) {
        let (problem, version) = match read_asked(&file) {
            Ok(Asked::One(problem, version)) => (problem, version),
            Ok(Asked::Lists(problem)) => {
                let Ok(laid) = problem.lay_out() else { return Ok(()) };
                let Ok(ready) = laid.ready() else { return Ok(()) };
                let limits = Limits { most_work: 1_000, most_steps: 20_000, ..Limits::default() };
                let answer = solve_lists(&ready, &limits, &|| true);
                prop_assert!(answer.is_ok(), "{:?}", answer.err());
                let _ = lists_json(&ready, &answer.unwrap());
                return Ok(());
            }
            Err(_) => return Ok(()),
        };
        let Ok(ready) = Ready::new(&problem) else { return Ok(()) };
        // A little search does: what it finds is checked against the problem on the way.
        let limits = Limits { most_work: 1_000, most_steps: 20_000, ..Limits::default() };
        let answer = solve(&ready, &limits, &|| true);
        prop_assert!(answer.is_ok(), "{:?}", answer.err());
        let _ = answer_json(&ready, &answer.unwrap(), version, &|| false);
    }
}
