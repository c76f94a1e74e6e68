//! Sums of a list, names and jobs of gear.
#![allow(clippy::unwrap_used, clippy::expect_used)]

use kevyt_core::gear::{Job, Jobs, KNOWN_JOBS, Name, NameError, System, known_job};
use kevyt_core::limits;
use kevyt_core::list::{Line, LineId, Totals, totals};
use kevyt_core::quantity::Mass;
use proptest::prelude::*;

fn line(grams: Option<i64>, carried: u32, worn: u32, used_up: u32) -> Line {
    Line {
        id: LineId(String::new()),
        name: String::new(),
        carried,
        worn,
        used_up,
        unit: grams.map(|grams| Mass::from_mg(grams * 1_000)),
        provides: Jobs::new(),
        needs: Jobs::new(),
    }
}

#[test]
fn base_pack_and_everything_are_told_apart() {
    // Three pairs of socks, one of them worn; gas; something nobody has weighed; something left at home.
    let lines = [line(Some(62), 2, 1, 0), line(Some(378), 0, 0, 1), line(None, 1, 0, 0), line(None, 0, 0, 0)];
    let grams = |grams: i64| Mass::from_mg(grams * 1_000);
    let expected = Totals { base: grams(124), pack: grams(502), everything: grams(564), unknown: 1 };
    assert_eq!(totals(&lines), expected);
    assert_eq!(totals(&[]), Totals::default());
}

proptest! {
    #[test]
    fn totals_do_not_depend_on_the_order(
        counts in prop::collection::vec((prop::option::of(0..200_000_i64), 0..9_u32, 0..9_u32, 0..9_u32), 0..20),
        shift in 0..20_usize,
    ) {
        let mut lines: Vec<Line> = counts.into_iter().map(|(grams, carried, worn, used_up)| line(grams, carried, worn, used_up)).collect();
        let before = totals(&lines);
        if !lines.is_empty() {
            let by = shift % lines.len();
            lines.rotate_left(by);
            lines.swap(0, by);
        }
        prop_assert_eq!(totals(&lines), before);
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
    for key in ["light", "water_ml", "r2"] {
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
