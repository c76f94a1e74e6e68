//! A quick line in pieces, and whether some of them are a mass or money.

use crate::quantity::{Currency, MassUnit};

/// Signs and codes of money that are refused rather than taken for a name. Codes in capitals are looked up; not every code in small
/// letters: `top`, `all` and `try` are words.
const OTHER_MONEY: [&str; 20] = [
    "eur", "euro", "euros", "usd", "dollar", "dollars", "gbp", "chf", "sek", "nok", "dkk", "jpy", "cad", "aud", "nzd",
    "$", "€", "£", "¥", "fr",
];

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Kind {
    Figure,
    Word,
    Mark,
}

/// A run of digits, a word, or a mark, and where it stands in the text.
#[derive(Debug, Clone, Copy)]
pub(super) struct Piece<'a> {
    pub(super) kind: Kind,
    pub(super) text: &'a str,
    pub(super) from: usize,
    pub(super) to: usize,
}

impl Piece<'_> {
    pub(super) fn is(&self, word: &str) -> bool {
        self.text.to_lowercase() == word
    }

    fn is_mass_unit(&self) -> bool {
        self.kind == Kind::Word && MassUnit::from_word(&self.text.to_lowercase()).is_some()
    }
}

pub(super) fn pieces(text: &str) -> Vec<Piece<'_>> {
    let mut out: Vec<Piece<'_>> = Vec::new();
    let mut at = 0;
    while let Some(c) = text[at..].chars().next() {
        let rest = &text[at..];
        let is_vulgar = |c: char| c.is_numeric() && !c.is_ascii_digit();
        let kind = match c {
            _ if c.is_whitespace() => {
                at += c.len_utf8();
                continue;
            }
            _ if c.is_numeric() => Kind::Figure,
            _ if c.is_alphabetic() || is_sign(c) => Kind::Word,
            _ => Kind::Mark,
        };
        let length = match kind {
            Kind::Figure if is_vulgar(c) => c.len_utf8(),
            Kind::Figure => run(rest, |c| c.is_ascii_digit() || matches!(c, '.' | ',' | '/')),
            Kind::Word if is_sign(c) => c.len_utf8(),
            Kind::Word => run(rest, |c| c.is_alphabetic() || matches!(c, '\'' | '’')),
            Kind::Mark => c.len_utf8(),
        };
        out.push(Piece { kind, text: &text[at..at + length], from: at, to: at + length });
        at += length;
    }
    out
}

fn run(text: &str, holds: impl Fn(char) -> bool) -> usize {
    text.find(|c| !holds(c)).unwrap_or(text.len())
}

fn is_sign(c: char) -> bool {
    matches!(c, '$' | '€' | '£' | '¥' | '₩' | '₹' | '₺' | '₴' | '₪' | '₫' | '₱' | '฿' | '₦' | '₡')
}

/// Whether pieces are one mass: figures with units, perhaps in compound, in a range or a sum, whatever else is wrong with them.
pub(super) fn is_mass(pieces: &[Piece<'_>]) -> bool {
    let mut parts = pieces.split(|piece| piece.is("+"));
    let last = parts.next_back().unwrap_or_default();
    // A bare number in a sum is in the unit of the last: `40 + 15 g`.
    is_one_mass(last) && parts.all(|part| is_one_mass(part) || is_number(part))
}

fn is_one_mass(pieces: &[Piece<'_>]) -> bool {
    let figures = match pieces {
        [minus, rest @ ..] if minus.is("-") || minus.is("−") => rest,
        [low, dash, rest @ ..] if low.kind == Kind::Figure && is_dash(dash) => rest,
        all => all,
    };
    let Some(at) = figures.iter().position(Piece::is_mass_unit) else { return false };
    let (number, unit) = (&figures[..at], &figures[at]);
    let compound = match &figures[at + 1..] {
        [] => true,
        // Glued, as in 3lb5: apart it could be anything else.
        [minor] => minor.kind == Kind::Figure && minor.from == unit.to && minor_of(unit).is_some(),
        [number @ .., minor] => is_number(number) && minor_of(unit).is_some() && unit_of(minor) == minor_of(unit),
    };
    is_number(number) && compound
}

fn unit_of(piece: &Piece<'_>) -> Option<MassUnit> {
    MassUnit::from_word(&piece.text.to_lowercase())
}

/// The unit that may follow in a compound.
fn minor_of(piece: &Piece<'_>) -> Option<MassUnit> {
    match unit_of(piece)? {
        MassUnit::Kg => Some(MassUnit::G),
        MassUnit::Lb => Some(MassUnit::Oz),
        MassUnit::G | MassUnit::Oz => None,
    }
}

/// A figure, or a whole one and a fraction: `8 1/2`, `7½`.
fn is_number(pieces: &[Piece<'_>]) -> bool {
    match pieces {
        [figure] => figure.kind == Kind::Figure,
        [whole, part] => {
            let vulgar = !part.text.starts_with(|c: char| c.is_ascii_digit());
            let proper = part.text.split_once('/').is_some_and(|(num, den)| {
                num.parse::<u32>().ok().zip(den.parse::<u32>().ok()).is_some_and(|(num, den)| num < den)
            });
            whole.text.bytes().all(|b| b.is_ascii_digit()) && part.kind == Kind::Figure && (vulgar || proper)
        }
        _ => false,
    }
}

fn is_dash(piece: &Piece<'_>) -> bool {
    ["-", "–", "—"].iter().any(|dash| piece.is(dash))
}

/// How many marks of money stand at an amount or at the two ends of a range; `None` if pieces are neither.
pub(super) fn money_marks(pieces: &[Piece<'_>], currency: Currency) -> Option<usize> {
    let joins = |piece: &Piece<'_>| is_dash(piece) || piece.is("to") || piece.is("bis") || piece.is("à");
    let mut ends = pieces.split(joins).map(|end| amount_marks(end, currency));
    match (ends.next(), ends.next(), ends.next()) {
        (Some(one), None, None) => one,
        // A minus is refused as one, rather than taken for a name.
        (Some(low), Some(high), None) if pieces.first().is_some_and(joins) => low.or(Some(0)).and(high),
        (Some(low), Some(high), None) => Some(low? + high?),
        _ => None,
    }
}

fn amount_marks(pieces: &[Piece<'_>], currency: Currency) -> Option<usize> {
    let is_money = |piece: &Piece<'_>| {
        let word = piece.text.to_lowercase();
        let code = piece.text.len() == 3 && piece.text.bytes().all(|b| b.is_ascii_uppercase());
        piece.kind == Kind::Word
            && (currency.is_named_by(&word)
                || OTHER_MONEY.contains(&word.as_str())
                || (code && Currency::from_code(piece.text).is_some()))
    };
    match pieces {
        [figure] if figure.kind == Kind::Figure => Some(0),
        [figure, mark] if figure.kind == Kind::Figure && is_money(mark) => Some(1),
        [mark, figure] if figure.kind == Kind::Figure && is_money(mark) => Some(1),
        _ => None,
    }
}

/// Whether a word is a mark of money or a unit of mass that stands alone, or a sign of arithmetic: no part of a name.
pub(super) fn is_stray(word: &str, currency: Currency) -> bool {
    match pieces(word).as_slice() {
        [one] if one.kind == Kind::Mark => matches!(one.text, "+" | "=" | "~" | "%" | "@"),
        [one] => {
            let lower = one.text.to_lowercase();
            one.text.chars().all(is_sign)
                || ["g", "kg", "oz", "lb", "lbs"].contains(&lower.as_str())
                || (lower.len() == 3 && OTHER_MONEY.contains(&lower.as_str()))
                || (one.text.eq(currency.code()))
        }
        _ => false,
    }
}

/// Whether a word is a bare number, and whether it is written as an amount of money: with two decimals.
pub(super) fn bare_number(word: &str) -> Option<bool> {
    let [one] = pieces(word)[..] else { return None };
    let decimals = one.text.split_once([',', '.']).map(|(_, decimals)| decimals.len());
    (one.kind == Kind::Figure && !one.text.contains('/')).then_some(decimals == Some(2))
}
