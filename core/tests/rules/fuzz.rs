//! Every parser over inputs that nobody would type: none panics, and what is taken is within its limits. Random inputs, more of them with KEVYT_FUZZ;
//! `./kevyt test --fuzz` is led by coverage. What was once found stays in `proptest-regressions`.

#[path = "../fuzz/parsers.rs"]
mod parsers;

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

const LIST: &str = include_str!("../fuzz/list.json");
const PROBLEM: &str = include_str!("../fuzz/problem.json");
const LISTS: &str = include_str!("../fuzz/lists.json");

proptest! {
    #![proptest_config(ProptestConfig {
        cases: std::env::var("KEVYT_FUZZ").map_or(1_000, |cases| cases.parse().unwrap()),
        max_shrink_iters: 10_000,
        ..ProptestConfig::default()
    })]

    #[test]
    fn figures(typed in text()) {
        parsers::figures(&typed);
    }

    #[test]
    fn lines(typed in text()) {
        parsers::lines(&typed);
    }

    #[test]
    fn gear_files(cells in prop::collection::vec(text(), 0..8), bytes in prop::collection::vec(any::<u8>(), 0..16), head in any::<bool>()) {
        let mut file = if head { b"name;weight;price;system;count\n".to_vec() } else { Vec::new() };
        file.extend(cells.join(";").bytes());
        file.extend(bytes);
        parsers::gear_file(&file);
    }

    #[test]
    fn list_files(file in document(LIST)) {
        parsers::list_file(&file);
    }

    #[test]
    fn problem_files(file in prop_oneof![document(PROBLEM), document(LISTS)]) {
        parsers::problem_file(&file);
    }
}
