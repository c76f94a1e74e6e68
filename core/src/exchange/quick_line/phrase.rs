//! Phrases of a quick line: runs of words that say one thing together, such as `claimed 3 lb 5 oz each` or `3 for 12eur`.

use super::piece::{Kind, Piece, is_mass, money_marks, pieces};
use crate::gear::{Acquired, WeightSource};
use crate::quantity::Currency;

/// What a run of words says.
#[derive(Debug, PartialEq, Eq)]
pub(super) enum Phrase {
    /// A weight: its figure as typed, and what the words around it say.
    Mass { figure: String, source: Option<WeightSource>, share: Share },
    /// A price, likewise.
    Price { figure: String, made: bool, share: Share },
    /// How many.
    Count(u32),
    /// How the thing was come by.
    Acquired(Acquired),
    /// Where the weight comes from, said apart from it.
    Source(WeightSource),
    /// That figures are for one piece, said apart from them; they are so anyway.
    Each,
}

/// What a figure is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Share {
    /// One piece.
    Each,
    /// All pieces of the line together.
    Together,
    /// So many pieces together, as in `29eur/3`.
    Pieces(u32),
    /// So many, and that is how many there are: `3 for 12eur`.
    For(u32),
}

/// The most words that one phrase has: `claimed 1 lb 3 oz + 2 oz + 3 oz each`.
pub(super) const LONGEST: usize = 12;

/// Where a word that says where a weight comes from may stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Stands {
    /// Right before the figure: `212g about 70€`.
    Before,
    /// Right before or behind it.
    Beside,
    /// Also apart from it.
    Anywhere,
}

/// Words that say where a weight comes from.
const SOURCES: [(&str, WeightSource, Stands); 13] = [
    ("claimed", WeightSource::Maker, Stands::Anywhere),
    ("maker", WeightSource::Maker, Stands::Beside),
    ("spec", WeightSource::Maker, Stands::Beside),
    ("weighed", WeightSource::Weighed, Stands::Anywhere),
    ("guessed", WeightSource::Estimate, Stands::Anywhere),
    ("guess", WeightSource::Estimate, Stands::Beside),
    ("estimated", WeightSource::Estimate, Stands::Beside),
    ("about", WeightSource::Estimate, Stands::Before),
    ("approx", WeightSource::Estimate, Stands::Before),
    ("around", WeightSource::Estimate, Stands::Before),
    ("circa", WeightSource::Estimate, Stands::Before),
    ("ca", WeightSource::Estimate, Stands::Before),
    ("~", WeightSource::Estimate, Stands::Before),
];

/// Words that say how a thing was come by, in the languages of the word list.
const ACQUIRED: [(&str, Acquired); 24] = [
    ("gift", Acquired::Gift),
    ("present", Acquired::Gift),
    ("geschenkt", Acquired::Gift),
    ("cadeau", Acquired::Gift),
    ("used", Acquired::Used),
    ("second hand", Acquired::Used),
    ("second-hand", Acquired::Used),
    ("secondhand", Acquired::Used),
    ("2nd hand", Acquired::Used),
    ("2nd-hand", Acquired::Used),
    ("gebraucht", Acquired::Used),
    ("occasion", Acquired::Used),
    ("d'occasion", Acquired::Used),
    ("sale", Acquired::Sale),
    ("on sale", Acquired::Sale),
    ("diy", Acquired::Made),
    ("homemade", Acquired::Made),
    ("home-made", Acquired::Made),
    ("handmade", Acquired::Made),
    ("self-made", Acquired::Made),
    ("self made", Acquired::Made),
    ("selbstgemacht", Acquired::Made),
    ("selbst gemacht", Acquired::Made),
    ("fait maison", Acquired::Made),
];

/// What a run of words says; `None` if it says nothing, or is more than one thing.
pub(super) fn read(text: &str, currency: Currency) -> Option<Phrase> {
    if let Some((_, how)) = ACQUIRED.iter().find(|(words, _)| *words == text.to_lowercase()) {
        return Some(Phrase::Acquired(*how));
    }
    let pieces = pieces(text);
    count(&pieces).map(Phrase::Count).or_else(|| word_alone(&pieces)).or_else(|| {
        let around = Around::of(&pieces);
        around.mass(text).or_else(|| around.price(text, currency))
    })
}

/// `x2`, `2x`, `x 2`, `2 pcs`.
fn count(pieces: &[Piece<'_>]) -> Option<u32> {
    let times = |piece: &Piece<'_>| piece.is("x") || piece.is("×");
    let named = |piece: &Piece<'_>| {
        ["pc", "pcs", "piece", "pieces", "stk", "stück", "pièce", "pièces"].iter().any(|word| piece.is(word))
    };
    let digits = match pieces {
        [x, figure] if times(x) => figure,
        [figure, x] if times(x) || named(x) => figure,
        _ => return None,
    };
    let whole = digits.text.bytes().all(|b| b.is_ascii_digit());
    (digits.kind == Kind::Figure && whole).then(|| digits.text.parse().unwrap_or(u32::MAX))
}

fn word_alone(pieces: &[Piece<'_>]) -> Option<Phrase> {
    match pieces {
        [each] if is_each(each) => Some(Phrase::Each),
        [per, piece] if per.is("per") && piece.is("piece") => Some(Phrase::Each),
        [word] => source(word, &[Stands::Anywhere]).map(Phrase::Source),
        _ => None,
    }
}

fn is_each(piece: &Piece<'_>) -> bool {
    piece.is("each") || piece.is("apiece") || piece.is("ea")
}

/// What a word that stands in one of these ways says of a weight's source.
fn source(piece: &Piece<'_>, stands: &[Stands]) -> Option<WeightSource> {
    SOURCES.iter().find(|(word, _, of)| piece.is(word) && stands.contains(of)).map(|(_, source, _)| *source)
}

const BEFORE: [Stands; 3] = [Stands::Before, Stands::Beside, Stands::Anywhere];
const BEHIND: [Stands; 2] = [Stands::Beside, Stands::Anywhere];

/// A figure without the words around it that say what it is for and where it comes from.
struct Around<'a> {
    figure: &'a [Piece<'a>],
    source: Option<WeightSource>,
    /// The words say that it is money that was paid.
    paid: bool,
    made: bool,
    share: Share,
}

impl<'a> Around<'a> {
    fn of(pieces: &'a [Piece<'a>]) -> Around<'a> {
        let mut around = Around { figure: pieces, source: None, paid: false, made: false, share: Share::Each };
        while around.strip_before() || around.strip_behind() {}
        around
    }

    fn strip_before(&mut self) -> bool {
        match self.figure {
            [full_stop, rest @ ..] if full_stop.is(".") && self.source.is_some() => self.figure = rest,
            [first, rest @ ..] if self.source.is_none() && source(first, &BEFORE).is_some() => {
                self.source = source(first, &BEFORE);
                self.figure = rest;
            }
            [first, rest @ ..] if ["was", "paid", "cost", "costs"].iter().any(|word| first.is(word)) && !self.paid => {
                self.paid = true;
                self.figure = rest;
            }
            [first, rest @ ..] if first.is("made") && !self.made => {
                self.made = true;
                self.figure = rest;
            }
            [pieces, word, rest @ ..]
                if (word.is("for") || word.is("für") || word.is("pour"))
                    && pieces.kind == Kind::Figure
                    && self.share == Share::Each
                    && pieces.text.bytes().all(|b| b.is_ascii_digit()) =>
            {
                self.share = Share::For(pieces.text.parse().unwrap_or(u32::MAX));
                self.figure = rest;
            }
            _ => return false,
        }
        true
    }

    fn strip_behind(&mut self) -> bool {
        match self.figure {
            [rest @ .., last] if is_each(last) => self.figure = rest,
            [rest @ .., per, piece] if per.is("per") && piece.is("piece") => self.figure = rest,
            [rest @ .., last]
                if ["together", "altogether", "total"].iter().any(|word| last.is(word))
                    && self.share == Share::Each =>
            {
                self.share = Share::Together;
                self.figure = rest;
            }
            [rest @ .., last] if self.source.is_none() && source(last, &BEHIND).is_some() => {
                self.source = source(last, &BEHIND);
                self.figure = rest;
            }
            [rest @ .., slash, pieces]
                if slash.is("/") && pieces.text.bytes().all(|b| b.is_ascii_digit()) && self.share == Share::Each =>
            {
                self.share = Share::Pieces(pieces.text.parse().unwrap_or(u32::MAX));
                self.figure = rest;
            }
            _ => return false,
        }
        true
    }

    fn slice(&self, text: &str) -> String {
        match (self.figure.first(), self.figure.last()) {
            (Some(first), Some(last)) => text[first.from..last.to].to_owned(),
            _ => String::new(),
        }
    }

    fn mass(&self, text: &str) -> Option<Phrase> {
        if self.paid || self.made || !is_mass(self.figure) {
            return None;
        }
        Some(Phrase::Mass { figure: self.slice(text), source: self.source, share: self.share })
    }

    fn price(&self, text: &str, currency: Currency) -> Option<Phrase> {
        // A price has no source; "about 70 €" is as good as "70 €".
        let said = matches!(self.source, Some(WeightSource::Maker | WeightSource::Weighed));
        let marks = money_marks(self.figure, currency)?;
        if said || (marks == 0 && !self.paid) {
            return None;
        }
        Some(Phrase::Price { figure: with_dash(&self.slice(text)), made: self.made, share: self.share })
    }
}

/// `15 to 20 eur` is a range like any other.
fn with_dash(range: &str) -> String {
    range.replace(" to ", " - ").replace(" bis ", " - ").replace(" à ", " - ")
}

/// The figure in a text that holds nothing else, where the words around it say that it comes from, and for how many pieces it is. All
/// of the text if there is no figure in it, for the refusal.
pub(super) fn figure(text: &str) -> (String, Option<WeightSource>, u32) {
    let pieces = pieces(text);
    let around = Around::of(&pieces);
    let count = match around.share {
        Share::Pieces(pieces) | Share::For(pieces) => pieces,
        Share::Each | Share::Together => 1,
    };
    if around.figure.is_empty() || !(1..=crate::limits::COUNT).contains(&count) {
        return (text.to_owned(), None, 1);
    }
    (with_dash(&around.slice(text)), around.source, count)
}
