//! Sums of a list, names and jobs of gear.

use kevyt_core::gear::{
    Job, Jobs, KNOWN_JOBS, Known, Makers, Name, NameError, System, Tags, Weight, WeightSource, known_job,
};
use kevyt_core::limits;
use kevyt_core::list::{Counts, Line, LineId, Place, Totals, WeighedKit, WholeKit, totals, whole_kits};
use kevyt_core::quantity::Mass;
use proptest::prelude::*;

fn line(grams: Option<i64>, carried: u32, worn: u32, used_up: u32) -> Line {
    Line {
        id: LineId(String::new()),
        name: String::new(),
        counts: Counts { carried, worn, used_up, ..Counts::default() },
        weight: grams.map(|grams| Known::exactly(Mass::from_mg(grams * 1_000))),
        tags: Tags::default(),
        provides: Jobs::new(),
        needs: Jobs::new(),
    }
}

#[test]
fn base_pack_and_everything_are_told_apart() {
    // Three pairs of socks, one of them worn; gas; something nobody has weighed; something left at home.
    let lines = [line(Some(62), 2, 1, 0), line(Some(378), 0, 0, 1), line(None, 1, 0, 0), line(None, 0, 0, 0)];
    let grams = |grams: i64| Mass::from_mg(grams * 1_000);
    let expected = Totals {
        base: grams(124),
        pack: grams(502),
        everything: grams(564),
        apart: Mass::ZERO,
        base_low: grams(124),
        base_high: grams(124),
        unknown: 1,
    };
    assert_eq!(totals(&lines, &[]), expected);
    assert_eq!(totals(&[], &[]), Totals::default());
}

#[test]
fn what_stands_apart_and_what_stays_home_are_in_no_sum() {
    let axe = Line { counts: Counts { apart: 1, left: 1, ..Counts::default() }, ..line(Some(410), 0, 0, 0) };
    let unknown_at_home = Line { counts: Counts { left: 2, ..Counts::default() }, ..line(None, 0, 0, 0) };
    let sums = totals(&[axe, unknown_at_home, line(Some(100), 1, 0, 0)], &[]);
    let grams = |grams: i64| Mass::from_mg(grams * 1_000);
    assert_eq!((sums.base, sums.pack, sums.everything, sums.apart), (grams(100), grams(100), grams(100), grams(410)));
}

#[test]
fn a_base_weight_says_how_light_and_how_heavy_it_may_be() {
    let makers = Makers::default();
    let known = |grams: i64, source| {
        let weight = Weight { unit: Mass::from_mg(grams * 1_000), typed: String::new(), source, band: None };
        Some(makers.known(&weight))
    };
    // Two of a maker's 100 g, less 3 or more 8 g each; a guess of 200 g that is worn; one weighed to a gram.
    let lines = [
        Line { weight: known(100, WeightSource::Maker), ..line(None, 2, 0, 0) },
        Line { weight: known(200, WeightSource::Estimate), ..line(None, 0, 1, 0) },
        Line { weight: known(50, WeightSource::Weighed), ..line(None, 1, 0, 0) },
    ];
    let sums = totals(&lines, &[]);
    let grams = |grams: i64| Mass::from_mg(grams * 1_000);
    assert_eq!((sums.base, sums.base_low, sums.base_high), (grams(250), grams(243), grams(267)));
    assert_eq!((sums.unknown, lines[1].weight.unwrap().source), (0, Some(WeightSource::Estimate)));
}

fn named(id: &str, line: Line) -> Line {
    Line { id: LineId(id.to_owned()), ..line }
}

fn kit(grams: i64, parts: &[(&str, u32)]) -> WeighedKit {
    let parts = parts.iter().map(|(line, count)| (LineId((*line).to_owned()), *count)).collect();
    WeighedKit { name: "kit".to_owned(), weighed: Mass::from_mg(grams * 1_000), parts }
}

/// The sums of a list on which some kits count, with the corrections in grams.
fn sums(lines: &[Line], kits: &[WeighedKit]) -> (Totals, Vec<(Place, i64)>) {
    let whole = whole_kits(&lines.iter().map(|line| (&line.id, line)).collect(), kits);
    let correction = |whole: &WholeKit<'_>| (whole.place, whole.correction.mg() / 1_000);
    (totals(lines, &whole), whole.iter().map(correction).collect())
}

#[test]
fn a_whole_kit_counts_as_it_was_weighed() {
    let lines = [
        named("quilt", line(Some(700), 1, 0, 0)),
        named("sack", line(None, 1, 0, 0)),
        named("stake", line(Some(10), 8, 0, 0)),
        named("poles", line(Some(400), 0, 1, 0)),
    ];
    let known = sums(&lines, &[]).0;
    assert_eq!((known.base, known.unknown), (Mass::from_mg(780_000), 1));
    // The sack's weight is not needed: the quilt in it weighed 745 g.
    let (totals, found) = sums(&lines, &[kit(745, &[("quilt", 1), ("sack", 1)])]);
    assert_eq!((totals.base, totals.unknown, found), (Mass::from_mg(825_000), 0, vec![(Place::Carried, 45)]));
    // A kit may be lighter than its parts; the two stakes that are not in it count by themselves.
    let (totals, found) = sums(&lines, &[kit(57, &[("stake", 6)])]);
    assert_eq!((totals.base, found), (Mass::from_mg(777_000), vec![(Place::Carried, -3)]));
    // A kit that is worn corrects everything, not the base.
    let (totals, _) = sums(&lines, &[kit(410, &[("poles", 1)])]);
    assert_eq!((totals.base, totals.everything - known.everything), (known.base, Mass::from_mg(10_000)));
}

#[test]
fn a_kit_that_is_not_whole_in_one_place_does_not_count() {
    let lines = [named("quilt", line(Some(700), 1, 0, 0)), named("stake", line(Some(10), 4, 4, 0))];
    for parts in [&[("stake", 6)][..], &[("quilt", 1), ("gone", 1)], &[("quilt", 2)], &[]] {
        assert_eq!(sums(&lines, &[kit(900, parts)]), (totals(&lines, &[]), Vec::new()), "{parts:?}");
    }
}

#[test]
fn no_piece_counts_in_two_kits() {
    let lines = [named("stake", line(Some(10), 12, 0, 0)), named("sack", line(Some(5), 1, 0, 0))];
    let kits = [kit(50, &[("stake", 4)]), kit(99, &[("stake", 9)]), kit(90, &[("stake", 8)]), kit(9, &[("sack", 1)])];
    // The first comes first, nine are then not left, eight are.
    assert_eq!(sums(&lines, &kits).1, [(Place::Carried, 10), (Place::Carried, 10), (Place::Carried, 4)]);
    // And no kit counts in two places.
    let lines = [named("stake", line(Some(10), 6, 6, 0))];
    assert_eq!(sums(&lines, &[kit(66, &[("stake", 6)])]).1, [(Place::Carried, 6)]);
}

proptest! {
    #[test]
    fn totals_do_not_depend_on_the_order(
        counts in prop::collection::vec((prop::option::of(0..200_000_i64), 0..9_u32, 0..9_u32, 0..9_u32), 0..20),
        shift in 0..20_usize,
    ) {
        let mut lines: Vec<Line> = counts.into_iter().map(|(grams, carried, worn, used_up)| line(grams, carried, worn, used_up)).collect();
        let before = totals(&lines, &[]);
        if !lines.is_empty() {
            let by = shift % lines.len();
            lines.rotate_left(by);
            lines.swap(0, by);
        }
        prop_assert_eq!(totals(&lines, &[]), before);
        prop_assert!(before.base <= before.pack && before.pack <= before.everything);
    }

    #[test]
    fn a_name_is_kept_as_typed_or_refused(typed in "\\PC{0,130}") {
        match Name::new(&typed) {
            Ok(name) => prop_assert_eq!(name.as_str(), typed.trim()),
            Err(NameError::Empty) => prop_assert!(typed.trim().is_empty()),
            Err(NameError::TooLong(length)) => prop_assert!(length > limits::NAME),
            Err(NameError::Control) => prop_assert!(typed.chars().any(char::is_control)),
        }
    }
}

#[test]
fn names_on_two_lines_are_refused() {
    assert_eq!(Name::new("rain\nshell"), Err(NameError::Control));
}

#[test]
fn job_keys_are_short_and_plain() {
    for key in ["light", "water_carried", "r2"] {
        assert_eq!(Job::new(key).unwrap().as_str(), key);
    }
    for key in ["", "Light", "tent pole", "größe", &"x".repeat(41)] {
        assert!(Job::new(key).is_none(), "{key:?}");
        let json = serde_json::Value::String(key.to_owned());
        assert!(serde_json::from_value::<Job>(json).unwrap_err().to_string().contains("1 to 40"), "{key:?}");
    }
}

#[test]
fn every_known_job_is_a_job_and_stands_once() {
    for (at, known) in KNOWN_JOBS.iter().enumerate() {
        assert_eq!(known_job(&Job::new(known.key).unwrap()), Some(known));
        assert!(KNOWN_JOBS[at + 1..].iter().all(|other| other.key != known.key && other.name != known.name));
    }
    assert_eq!(known_job(&Job::new("whistle").unwrap()), None);
}

#[test]
fn every_system_is_found_by_its_key_in_any_case() {
    for system in System::ALL {
        assert_eq!(System::from_word(&system.key().to_uppercase()), Some(*system));
        assert!(!system.name().is_empty());
    }
    assert_eq!(System::from_word("tarp"), Some(System::Shelter));
    assert_eq!(System::from_word("attic"), None);
}
