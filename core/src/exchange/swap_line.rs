//! A swap in one line, as gear: `quilt 545g 262eur for mummy bag`, `leave out mug`, `trim towel 48g`.

use super::QuickLine;
use crate::gear::{Acquired, JobUnit, Jobs, Kind, Start, WeightSource, known_job};
use crate::list::Place;
use crate::quantity::{Currency, Money, PriceRange};
use crate::swap::SwapKind;

/// What a swap line is read against: something on the list.
#[derive(Debug, Clone, Copy)]
pub struct Listed<'a> {
    /// Its name.
    pub name: &'a str,
    /// Pieces carried, worn and used up.
    pub counts: [(Place, u32); 3],
    /// What one piece does.
    pub provides: &'a Jobs,
    /// What one piece needs.
    pub needs: &'a Jobs,
    /// What it is.
    pub kind: Option<&'static Kind>,
}

/// What comes off the list.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TakenOff {
    /// Its place in what the line was read against.
    pub at: usize,
    /// Pieces: all that count at one place.
    pub pieces: u32,
    /// That place: the pack if some are in it, else on the walker, else what is used up.
    pub from: Place,
}

/// A swap line as it was understood.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SwapLine {
    /// The kind.
    pub kind: SwapKind,
    /// What goes on, if something does. With the jobs that the line says, else those that its name proposes; what only becomes lighter
    /// goes on doing what it does.
    pub add: Option<QuickLine>,
    /// Where what goes on counts.
    pub place: Place,
    /// What comes off.
    pub remove: Vec<TakenOff>,
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
    pub fn read(line: &str, currency: Currency, typed: WeightSource, on_list: &[Listed<'_>]) -> SwapLine {
        let (kind, rest) = kind_of(line.trim());
        let list = List { all: on_list };
        let (kind, add, place, (gone, question)) = match kind {
            Some(SwapKind::LeaveOut) => (SwapKind::LeaveOut, None, Place::Carried, list.things(rest)),
            Some(kind @ (SwapKind::Trim | SwapKind::Share)) if list.split(rest).is_none() => {
                let (add, place, found) = list.lighter(kind, QuickLine::read(rest, currency, typed));
                (kind, Some(add), place, found)
            }
            kind => {
                let (what, gone) = list.split(rest).map_or((rest, None), |(what, gone)| (what, Some(gone)));
                let gone = gone.map(|gone| list.things(gone));
                let of_it = gone.as_ref().and_then(|(found, _)| list.kind_of(found));
                let mut add = QuickLine::read_else(what, currency, typed, of_it);
                let made = if add.acquired == Acquired::Made { SwapKind::Make } else { SwapKind::Replace };
                let kind = kind.unwrap_or(made);
                let (found, missing) = match gone {
                    Some(found) => found,
                    None if kind == SwapKind::Add => (Vec::new(), None),
                    None => (Vec::new(), Some(list.nothing_named())),
                };
                let place = list.take_over(&mut add, &found);
                let question = asked(&add).or(missing);
                (kind, Some(add), place, (found, question))
            }
        };
        SwapLine { kind, add, place, remove: gone.into_iter().map(|at| list.gone(at)).collect(), question }
    }
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

/// The list that a line is read against.
struct List<'a> {
    all: &'a [Listed<'a>],
}

impl List<'_> {
    /// All pieces of a thing that count at the first place where some do.
    fn gone(&self, at: usize) -> TakenOff {
        let counts = self.all[at].counts.into_iter().find(|(_, pieces)| *pieces > 0);
        let (from, pieces) = counts.unwrap_or((Place::Carried, 1));
        TakenOff { at, pieces, from }
    }

    /// What goes on and what comes off, at the first `for` behind which something of the list stands; else at the last one behind which
    /// no figure stands, so that `tent for 2 1200g` and `3 for 12eur` stay whole.
    fn split<'b>(&self, line: &'b str) -> Option<(&'b str, &'b str)> {
        let lower = line.to_lowercase();
        if lower.len() != line.len() {
            return None;
        }
        let mut places: Vec<(usize, usize)> =
            FOR.iter().flat_map(|word| lower.match_indices(word).map(|(at, word)| (at, at + word.len()))).collect();
        places.sort_unstable();
        let sides = |(from, to): &(usize, usize)| (&line[..*from], &line[*to..]);
        let known = places.iter().map(sides).find(|(_, gone)| self.things(gone).1.is_none());
        let plain = |gone: &str| !gone.contains(|c: char| c.is_ascii_digit());
        known.or_else(|| places.iter().rev().map(sides).find(|(_, gone)| plain(gone)))
    }

    /// Something of the list that becomes lighter: its own name and jobs, all its pieces, with the figures that it will have.
    fn lighter(&self, kind: SwapKind, mut add: QuickLine) -> (QuickLine, Place, (Vec<usize>, Option<String>)) {
        let (remove, missing) = self.things(&add.name);
        let mut place = Place::Carried;
        if let [one] = remove[..] {
            let listed = self.all[one];
            let word = if kind == SwapKind::Trim { "trimmed" } else { "shared" };
            add.name = format!("{}, {word}", listed.name);
            (add.provides, add.needs) = (listed.provides.clone(), listed.needs.clone());
            add.kind = listed.kind;
            (add.count, place) = (self.gone(one).pieces, self.gone(one).from);
        }
        add.price = add.price.or(Some(PriceRange::exact(Money::ZERO)));
        let question = missing.or_else(|| asked(&add)).or_else(|| {
            add.weight
                .is_none()
                .then(|| "How much will it weigh then? Type a weight behind it, such as 48g.".to_owned())
        });
        (add, place, (remove, question))
    }

    /// What the only thing that comes off is.
    fn kind_of(&self, gone: &[usize]) -> Option<&'static Kind> {
        if let [only] = *gone { self.all[only].kind } else { None }
    }

    /// What goes on takes over from what it stands in for: its place, unless the line or another kind says
    /// otherwise. Jobs that are counted go with it; what is measured, it has to say itself.
    fn take_over(&self, add: &mut QuickLine, gone: &[usize]) -> Place {
        let first = gone.first().map(|at| (&self.all[*at], self.gone(*at).from));
        let said = add.start;
        if let (None, &[only]) = (Kind::of_name(&add.name), gone) {
            let listed = &self.all[only];
            for (before, now) in [(listed.provides, &mut add.provides), (listed.needs, &mut add.needs)] {
                let counted =
                    before.iter().filter(|(job, _)| known_job(job).is_none_or(|known| known.unit == JobUnit::Count));
                for (job, amount) in counted {
                    now.entry(job.clone()).or_insert(*amount);
                }
            }
        }
        let of_kind =
            add.kind.filter(|kind| first.is_none_or(|(listed, _)| listed.kind.is_some_and(|other| other != *kind)));
        match (said.or(of_kind.map(|kind| kind.start)), first) {
            (Some(Start::Carried), _) | (None, None) => Place::Carried,
            (Some(Start::Worn | Start::WornOne), _) => Place::Worn,
            (Some(Start::UsedUp), _) => Place::UsedUp,
            (Some(Start::Apart), _) => Place::Apart,
            (None, Some((_, from))) => from,
        }
    }

    /// What of the list a text names, and what to ask if that is not clear.
    fn things(&self, text: &str) -> (Vec<usize>, Option<String>) {
        let text = text.trim();
        if text.is_empty() {
            return (Vec::new(), Some(self.nothing_named()));
        }
        // A name may hold "and" itself.
        if let Ok(at) = self.thing(text) {
            return (vec![at], None);
        }
        let mut found = Vec::new();
        for part in text.split(['+', ',']).flat_map(|part| part.split(" and ")).flat_map(|part| part.split(" und ")) {
            match self.thing(part.trim()) {
                Ok(at) if found.contains(&at) => {}
                Ok(at) => found.push(at),
                Err(question) => return (found, Some(question)),
            }
        }
        (found, None)
    }

    fn thing(&self, text: &str) -> Result<usize, String> {
        let wanted = plain(text);
        let named: Vec<Vec<String>> = self.all.iter().map(|one| plain(one.name)).collect();
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
            [] => Err(format!("Nothing on the list is called \"{text}\". {}", self.some_of(None))),
            ref several => {
                Err(format!("\"{text}\" can be several things on the list. {}", self.some_of(Some(several))))
            }
        }
    }

    fn nothing_named(&self) -> String {
        format!("What does it replace? Type for and a thing on the list. {}", self.some_of(None)).trim_end().to_owned()
    }

    /// A few names of the list, to choose from.
    fn some_of(&self, which: Option<&[usize]>) -> String {
        let names: Vec<&str> = match which {
            Some(which) => which.iter().map(|at| self.all[*at].name).collect(),
            None => self.all.iter().map(|one| one.name).collect(),
        };
        let more = if names.len() > 4 { ", …" } else { "" };
        let first: Vec<&str> = names.iter().take(4).copied().collect();
        if first.is_empty() {
            "There is nothing on it yet.".to_owned()
        } else {
            format!("Type more of one of: {}{more}.", first.join("; "))
        }
    }
}

fn asked(add: &QuickLine) -> Option<String> {
    let name = add.name.is_empty().then(|| "What goes on? Type its name.".to_owned());
    add.refusal().map(str::to_owned).or(name)
}

fn plain(text: &str) -> Vec<String> {
    let words = text.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
    let words = words
        .map(str::to_lowercase)
        .filter(|word| !["the", "my", "a", "der", "die", "das", "le", "la"].contains(&word.as_str()));
    words.collect()
}
