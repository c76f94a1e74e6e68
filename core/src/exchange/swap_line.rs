//! A swap in one line, as gear: `quilt 545g 262eur for mummy bag`, `leave out mug`, `trim towel 48g`.

use super::QuickLine;
use crate::gear::{Acquired, WeightSource};
use crate::quantity::Currency;
use crate::swap::SwapKind;

/// A swap line as it was understood.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SwapLine {
    /// The kind.
    pub kind: SwapKind,
    /// What goes on, if something does.
    pub add: Option<QuickLine>,
    /// What comes off: places in the names that the line was read against.
    pub remove: Vec<usize>,
    /// What is missing, or could mean several things, as a sentence; nothing if the swap can be made as it stands.
    pub question: Option<String>,
}

/// Words that a line begins with, and the kind that they mean.
const KINDS: [(&str, SwapKind); 22] = [
    ("leave out", SwapKind::LeaveOut),
    ("leave", SwapKind::LeaveOut),
    ("without", SwapKind::LeaveOut),
    ("drop", SwapKind::LeaveOut),
    ("ohne", SwapKind::LeaveOut),
    ("sans", SwapKind::LeaveOut),
    ("trim", SwapKind::Trim),
    ("cut down", SwapKind::Trim),
    ("cut", SwapKind::Trim),
    ("shorten", SwapKind::Trim),
    ("decant", SwapKind::Trim),
    ("make", SwapKind::Make),
    ("sew", SwapKind::Make),
    ("combine", SwapKind::Combine),
    ("share", SwapKind::Share),
    ("borrow", SwapKind::Borrow),
    ("hire", SwapKind::Borrow),
    ("rent", SwapKind::Borrow),
    ("add", SwapKind::Add),
    ("replace with", SwapKind::Replace),
    ("swap in", SwapKind::Replace),
    ("buy", SwapKind::Replace),
];

/// Words between what goes on and what comes off.
const FOR: [&str; 10] = [
    " instead of ",
    " in place of ",
    " replacing ",
    " replaces ",
    " statt ",
    " au lieu de ",
    " for ",
    " für ",
    " pour ",
    " vs ",
];

impl SwapLine {
    /// Reads a line against the names of what is on the list. A name is meant by the beginnings of any of its words.
    ///
    /// With a kind in front (`leave out`, `trim`, `make`, `combine`, `share`, `borrow`, `add`), else something stands in for something.
    /// What goes on is read as the quick line reads it; what comes off stands behind `for` or `instead of`, several with `and`. What is
    /// trimmed or shared stays what it is, with the figures behind it.
    pub fn read(line: &str, currency: Currency, typed: WeightSource, on_list: &[&str]) -> SwapLine {
        let (marks, rest) = leading_marks(line.trim());
        let (kind, rest) = kind_of(rest);
        match kind {
            Some(SwapKind::LeaveOut) => {
                let (remove, question) = things(rest, on_list);
                SwapLine { kind: SwapKind::LeaveOut, add: None, remove, question }
            }
            Some(kind @ (SwapKind::Trim | SwapKind::Share)) if split(rest, on_list).is_none() => {
                lighter(kind, &format!("{rest} {marks}"), currency, typed, on_list)
            }
            kind => {
                let (what, gone) = split(rest, on_list).unwrap_or((rest, None));
                let add = QuickLine::read(&format!("{what} {marks}"), currency, typed);
                let kind =
                    kind.unwrap_or(if add.acquired == Acquired::Made { SwapKind::Make } else { SwapKind::Replace });
                let (remove, missing) = match gone {
                    Some(gone) => things(gone, on_list),
                    None if kind == SwapKind::Add => (Vec::new(), None),
                    None => (Vec::new(), Some(nothing_named(on_list))),
                };
                let question = asked(&add).or(missing);
                SwapLine { kind, add: Some(add), remove, question }
            }
        }
    }
}

/// Marks that stand in front of everything, such as jobs that were proposed and taken.
fn leading_marks(line: &str) -> (&str, &str) {
    let mut rest = line;
    while rest.starts_with(['!', '#']) {
        rest = rest.find(' ').map_or("", |at| rest[at..].trim_start());
    }
    (line[..line.len() - rest.len()].trim_end(), rest)
}

fn kind_of(line: &str) -> (Option<SwapKind>, &str) {
    let lower = line.to_lowercase();
    for (words, kind) in KINDS {
        // The small letters of these words are as long as the capitals.
        if lower.strip_prefix(words).is_some_and(|rest| rest.starts_with(' ')) && line.is_char_boundary(words.len()) {
            return (Some(kind), line[words.len()..].trim_start());
        }
    }
    (None, line)
}

/// What goes on and what comes off, at the first `for` behind which something of the list stands; else at the last one behind which
/// no figure stands, so that `tent for 2 1200g` and `3 for 12eur` stay whole.
fn split<'a>(line: &'a str, on_list: &[&str]) -> Option<(&'a str, Option<&'a str>)> {
    let lower = line.to_lowercase();
    if lower.len() != line.len() {
        return None;
    }
    let mut places: Vec<(usize, usize)> =
        FOR.iter().flat_map(|word| lower.match_indices(word).map(|(at, word)| (at, at + word.len()))).collect();
    places.sort_unstable();
    let sides = |(from, to): &(usize, usize)| (&line[..*from], &line[*to..]);
    let known = places.iter().map(sides).find(|(_, gone)| things(gone, on_list).1.is_none());
    let plain = |gone: &str| !gone.contains(|c: char| c.is_ascii_digit());
    known
        .or_else(|| places.iter().rev().map(sides).find(|(_, gone)| plain(gone)))
        .map(|(what, gone)| (what, Some(gone)))
}

/// Something of the list that becomes lighter: its own name with the figures that it will have.
fn lighter(kind: SwapKind, text: &str, currency: Currency, typed: WeightSource, on_list: &[&str]) -> SwapLine {
    let mut add = QuickLine::read(text, currency, typed);
    let (remove, missing) = things(&add.name, on_list);
    let word = if kind == SwapKind::Trim { "trimmed" } else { "shared" };
    if let [one] = remove[..] {
        add.name = format!("{}, {word}", on_list[one]);
    }
    if add.price.is_none() {
        add.price = Some(crate::quantity::PriceRange::exact(crate::quantity::Money::ZERO));
    }
    let question = missing.or_else(|| asked(&add)).or_else(|| {
        add.weight.is_none().then(|| "How much will it weigh then? Type a weight behind it, such as 48g.".to_owned())
    });
    SwapLine { kind, add: Some(add), remove, question }
}

fn asked(add: &QuickLine) -> Option<String> {
    let name = add.name.is_empty().then(|| "What goes on? Type its name.".to_owned());
    add.refusal().map(str::to_owned).or(name)
}

/// What of the list a text names, and what to ask if that is not clear.
fn things(text: &str, on_list: &[&str]) -> (Vec<usize>, Option<String>) {
    let text = text.trim();
    if text.is_empty() {
        return (Vec::new(), Some(nothing_named(on_list)));
    }
    // A name may hold "and" itself.
    if let Ok(at) = thing(text, on_list) {
        return (vec![at], None);
    }
    let mut found = Vec::new();
    for part in text.split(['+', ',']).flat_map(|part| part.split(" and ")).flat_map(|part| part.split(" und ")) {
        match thing(part.trim(), on_list) {
            Ok(at) if found.contains(&at) => {}
            Ok(at) => found.push(at),
            Err(question) => return (found, Some(question)),
        }
    }
    (found, None)
}

fn thing(text: &str, on_list: &[&str]) -> Result<usize, String> {
    let wanted = plain(text);
    let named: Vec<Vec<String>> = on_list.iter().map(|name| plain(name)).collect();
    let all = |fits: &dyn Fn(&[String]) -> bool| -> Vec<usize> {
        named.iter().enumerate().filter(|(_, name)| fits(name)).map(|(at, _)| at).collect()
    };
    let same = all(&|name| name == wanted);
    let whole = all(&|name| !wanted.is_empty() && wanted.iter().all(|word| name.contains(word)));
    let begun = all(&|name| {
        !wanted.is_empty() && wanted.iter().all(|word| name.iter().any(|of| of.starts_with(word.as_str())))
    });
    match [same, whole, begun].into_iter().find(|found| !found.is_empty()).unwrap_or_default()[..] {
        [one] => Ok(one),
        [] => Err(format!("Nothing on the list is called \"{text}\". {}", some_of(on_list, None))),
        ref several => {
            Err(format!("\"{text}\" can be several things on the list. {}", some_of(on_list, Some(several))))
        }
    }
}

fn nothing_named(on_list: &[&str]) -> String {
    format!("What does it replace? Type for and a thing on the list. {}", some_of(on_list, None)).trim_end().to_owned()
}

/// A few names of the list, to choose from.
fn some_of(on_list: &[&str], which: Option<&[usize]>) -> String {
    let names: Vec<&str> = match which {
        Some(which) => which.iter().map(|at| on_list[*at]).collect(),
        None => on_list.to_vec(),
    };
    let more = if names.len() > 4 { ", …" } else { "" };
    let first: Vec<&str> = names.iter().take(4).copied().collect();
    if first.is_empty() {
        "There is nothing on it yet.".to_owned()
    } else {
        format!("Type more of one of: {}{more}.", first.join("; "))
    }
}

fn plain(text: &str) -> Vec<String> {
    let words = text.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
    let words = words
        .map(str::to_lowercase)
        .filter(|word| !["the", "my", "a", "der", "die", "das", "le", "la"].contains(&word.as_str()));
    words.collect()
}
