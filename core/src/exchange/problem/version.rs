//! Which of the formats a problem is in, and which fields each has.

use super::file::{AdditionFile, LineFile, ProblemFile};
use super::wrong;
use crate::plan::ProblemError;

/// Which of the formats a problem is in; each has all that the one before has.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Version {
    /// `kevyt-problem/1`.
    One,
    /// `kevyt-problem/2`: bands of weights, kits, and more than one way to ask.
    Two,
    /// `kevyt-problem/3`: a night to get through, and what is to be met.
    Three,
}

const FORMATS: [(&str, Version); 3] =
    [("kevyt-problem/1", Version::One), ("kevyt-problem/2", Version::Two), ("kevyt-problem/3", Version::Three)];

/// Which of the formats a file is in.
///
/// # Errors
/// Where it is none, or has a field of a later one.
pub(super) fn read_version(file: &ProblemFile) -> Result<Version, ProblemError> {
    let version = FORMATS.into_iter().find(|(name, _)| *name == file.format).map(|(_, version)| version);
    let version = version
        .ok_or_else(|| wrong("format", &FORMATS.map(|(name, _)| format!("\"{name}\"")).join(" or "), &file.format))?;
    let beyond = match version {
        Version::One => beyond_one(file).map(|field| (field, "kevyt-problem/1 (it is one of kevyt-problem/2)")),
        _ => None,
    };
    let beyond = beyond.or_else(|| {
        let field = beyond_two(file).filter(|_| version < Version::Three)?;
        Some((field, "kevyt-problem/1 or /2 (it is one of kevyt-problem/3)"))
    });
    match beyond {
        Some((field, formats)) => Err(wrong(&field, &format!("a field of {formats}"), &field)),
        None => Ok(version),
    }
}

/// The first field of a problem that the first format has not.
fn beyond_one(file: &ProblemFile) -> Option<String> {
    let has_band = |fields: [Option<i64>; 3]| fields.iter().any(Option::is_some);
    let band = |path: String, fields: [Option<i64>; 3]| {
        let names = ["low_mg", "high_mg", "expected_mg"];
        let at = fields.iter().position(Option::is_some)?;
        Some(format!("{path}.{}", names[at]))
    };
    let fields = [
        ("kits", !file.kits.is_empty()),
        ("counting", file.counting.is_some()),
        ("rank_by", file.rank_by.is_some()),
        ("money", file.money.is_some()),
        ("heaviest_start_mg", file.heaviest_start_mg.is_some()),
    ];
    if let Some((field, _)) = fields.into_iter().find(|(_, is_there)| *is_there) {
        return Some(field.to_owned());
    }
    let of_line = |line: &LineFile| [line.low_mg, line.high_mg, line.expected_mg];
    let of_addition = |addition: &AdditionFile| [addition.low_mg, addition.high_mg, addition.expected_mg];
    let mut lines = file.lines.iter().map(of_line).enumerate();
    if let Some((at, fields)) = lines.find(|(_, fields)| has_band(*fields)) {
        return band(format!("lines[{at}]"), fields);
    }
    file.swaps.iter().enumerate().find_map(|(swap, entry)| {
        if entry.ordered_from.is_some() {
            return Some(format!("swaps[{swap}].ordered_from"));
        }
        let (side, fields) = entry.add.iter().map(of_addition).enumerate().find(|(_, fields)| has_band(*fields))?;
        band(format!("swaps[{swap}].add[{side}]"), fields)
    })
}

/// The first field of a problem that only the third format has.
fn beyond_two(file: &ProblemFile) -> Option<String> {
    let of_night = |path: String, [rating, warms, is]: [bool; 3]| {
        let names = [("rating", rating), ("warms_tenth_c", warms), ("is", is)];
        Some(format!("{path}.{}", names.into_iter().find(|(_, is_there)| *is_there)?.0))
    };
    let fields = [("sleep", file.sleep.is_some()), ("meet", !file.meet.is_empty()), ("lists", file.lists.is_some())];
    let own = fields.into_iter().find(|(_, is_there)| *is_there).map(|(field, _)| field.to_owned());
    let lines = file.lines.iter().enumerate().find_map(|(at, line)| {
        let has = [line.rating.is_some(), line.warms_tenth_c.is_some(), line.is.is_some()];
        of_night(format!("lines[{at}]"), has)
    });
    let sides = file.swaps.iter().enumerate().flat_map(|(swap, entry)| {
        entry.add.iter().enumerate().map(move |(side, addition)| (format!("swaps[{swap}].add[{side}]"), addition))
    });
    let mut additions = sides.filter_map(|(path, addition)| {
        of_night(path, [addition.rating.is_some(), addition.warms_tenth_c.is_some(), addition.is.is_some()])
    });
    own.or(lines).or_else(|| additions.next())
}
