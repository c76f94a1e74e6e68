//! A parser of core by libFuzzer: KEVYT_PARSER says which.
#![no_main]

#[path = "../../tests/fuzz/parsers.rs"]
mod parsers;

use libfuzzer_sys::fuzz_target;
use std::sync::LazyLock;

static PARSER: LazyLock<fn(&[u8])> = LazyLock::new(|| match std::env::var("KEVYT_PARSER").as_deref() {
    Ok("figures") => |input| text(input, parsers::figures),
    Ok("lines") => |input| text(input, parsers::lines),
    Ok("gear_file") => parsers::gear_file,
    Ok("list_file") => |input| text(input, parsers::list_file),
    Ok("problem_file") => |input| text(input, parsers::problem_file),
    other => panic!("KEVYT_PARSER is {other:?}, and not one of figures, lines, gear_file, list_file, problem_file"),
});

fn text(input: &[u8], parser: fn(&str)) {
    if let Ok(text) = str::from_utf8(input) {
        parser(text);
    }
}

fuzz_target!(|input: &[u8]| PARSER(input));
