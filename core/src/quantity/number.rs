//! Numbers as people type them, read exactly, and the reasons for refusing them.

use crate::limits;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// What a figure is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Quantity {
    /// A mass.
    Mass,
    /// An amount of money, or a range of amounts.
    Money,
    /// A temperature.
    Temperature,
    /// How much warmer or colder.
    Warmth,
    /// A volume.
    Volume,
    /// An energy.
    Energy,
    /// A distance.
    Distance,
}

/// Why typed text was not taken.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "code", rename_all = "snake_case")]
pub enum Reason {
    /// Nothing was typed.
    Empty,
    /// More characters than any figure has.
    TooLong {
        /// Its characters.
        length: usize,
    },
    /// The text is not a number, or a mark stands where it can't.
    NotANumber,
    /// One mark followed by exactly three digits: thousands or decimals, nothing settles it. Holds both readings.
    Ambiguous {
        /// The reading in which the mark groups thousands, as digits.
        thousands: String,
        /// The reading in which the mark is the decimal mark.
        decimal: String,
        /// What stood behind the number, with a space before it, or nothing.
        rest: String,
    },
    /// A unit that is not known here.
    UnknownUnit {
        /// The unit as typed.
        unit: String,
    },
    /// Below zero, where that makes no sense.
    Negative,
    /// Parts or ends in the wrong order (`5 oz 2 lb`, a range from 20 to 15).
    Order,
    /// The smaller part of a compound is not less than one of the larger (`2 lb 17 oz`), or the larger one is not whole.
    MinorPart,
    /// Outside what can be held.
    OutOfRange,
    /// Finer than what can be held.
    TooFine,
    /// Money in another currency than the account's.
    OtherCurrency {
        /// Its code.
        currency: String,
    },
}

impl Reason {
    /// The stable word for this reason, used in files and in problem documents.
    pub fn code(&self) -> &'static str {
        match self {
            Reason::Empty => "empty",
            Reason::TooLong { .. } => "too_long",
            Reason::NotANumber => "not_a_number",
            Reason::Ambiguous { .. } => "ambiguous",
            Reason::UnknownUnit { .. } => "unknown_unit",
            Reason::Negative => "negative",
            Reason::Order => "order",
            Reason::MinorPart => "minor_part",
            Reason::OutOfRange => "out_of_range",
            Reason::TooFine => "too_fine",
            Reason::OtherCurrency { .. } => "other_currency",
        }
    }
}

/// A refusal: what was typed, why it was not taken, and what would be.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("{}", self.sentence())]
pub struct Refused {
    /// The text as typed.
    pub typed: String,
    /// What it should be.
    pub quantity: Quantity,
    /// Why.
    pub reason: Reason,
    /// What would be accepted, as examples.
    pub accepted: Box<str>,
}

impl Refused {
    pub(super) fn new(typed: &str, quantity: Quantity, reason: Reason, accepted: &str) -> Self {
        Refused { typed: typed.to_owned(), quantity, reason, accepted: accepted.into() }
    }

    fn sentence(&self) -> String {
        let Refused { typed, reason, accepted, .. } = self;
        match reason {
            Reason::Empty => format!("Nothing was typed. Type {accepted}."),
            Reason::TooLong { length } => {
                let start: String = typed.chars().take(20).collect();
                format!(
                    "\"{start}…\" has {length} characters; a figure has at most {}. Type {accepted}.",
                    limits::FIGURE
                )
            }
            Reason::NotANumber => format!("\"{typed}\" is not read as a figure. Type {accepted}."),
            Reason::Ambiguous { thousands, decimal, rest } => {
                format!("\"{typed}\" can be {thousands}{rest} or {decimal}{rest}. Type {thousands} or {decimal}.")
            }
            Reason::UnknownUnit { unit } => {
                format!("\"{unit}\" in \"{typed}\" is not a unit known here. Type {accepted}.")
            }
            Reason::Negative => {
                format!("\"{typed}\" is below zero. Type {accepted}.")
            }
            Reason::Order => format!("\"{typed}\" has its parts in an order that can't be read. Type {accepted}."),
            Reason::MinorPart => {
                format!(
                    "\"{typed}\" has a smaller part that is a whole larger one or more, or a larger part that is not whole. Type {accepted}."
                )
            }
            Reason::OutOfRange => format!("\"{typed}\" is more than can be held. Type {accepted}."),
            Reason::TooFine => format!("\"{typed}\" is finer than can be held. Type {accepted}."),
            Reason::OtherCurrency { currency } => format!("\"{typed}\" is in {currency}. Type {accepted}."),
        }
    }
}

/// An exact fraction, never negative; `den` is at least 1.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Fraction {
    pub num: i128,
    pub den: i128,
}

/// `num / den` rounded half to even. `den` must be positive.
pub fn div_half_even(num: i128, den: i128) -> i128 {
    let (floor, rest) = (num.div_euclid(den), num.rem_euclid(den));
    match (2 * rest).cmp(&den) {
        std::cmp::Ordering::Less => floor,
        std::cmp::Ordering::Greater => floor + 1,
        std::cmp::Ordering::Equal => floor + floor.rem_euclid(2),
    }
}

/// A piece of typed text: a number or a word (letters or a currency sign), and whether a space stood before it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Token {
    Number(Fraction),
    Word { text: String, glued_to_next: bool },
}

/// More digits than this are out of range whatever the unit.
const MOST_DIGITS: usize = 20;
/// The largest whole number that is read: beyond every limit in every unit.
const LARGEST: i128 = 10_000_000_000;

/// A product of figures that were read. Whole numbers are bounded, so what is too long for it has too many decimals.
pub(super) fn product(a: i128, b: i128) -> Result<i128, Reason> {
    a.checked_mul(b).ok_or(Reason::TooFine)
}

/// Splits text into numbers and words. A whole number followed by a fraction (`7 1/2`, `7½`) is one number.
///
/// Minus signs are refused as negative, and exponents, two marks and anything else as not a number.
pub(super) fn tokens(text: &str) -> Result<Vec<Token>, Reason> {
    let chars: Vec<char> = text.trim().chars().collect();
    if chars.is_empty() {
        return Err(Reason::Empty);
    }
    if chars.len() > limits::FIGURE {
        return Err(Reason::TooLong { length: chars.len() });
    }
    let mut out: Vec<Token> = Vec::new();
    let mut at = 0;
    while let Some(&c) = chars.get(at) {
        let from = at;
        if c.is_whitespace() {
            at += 1;
        } else if c.is_ascii_digit() {
            while chars
                .get(at)
                .is_some_and(|c| c.is_ascii_digit() || matches!(c, '.' | ',' | '/') || is_group(&chars, at))
            {
                at += 1;
            }
            let piece: String = chars[from..at].iter().filter(|c| !c.is_whitespace()).collect();
            let rest: String = chars[at..].iter().collect();
            push_number(&mut out, number(&piece, &rest)?, piece.contains('/'))?;
        } else if let Some(part) = vulgar(c) {
            at += 1;
            push_number(&mut out, part, true)?;
        } else if c.is_alphabetic() || is_currency_sign(c) {
            while chars.get(at).is_some_and(|c| c.is_alphabetic() || is_currency_sign(*c)) {
                at += 1;
            }
            let glued_to_next = chars.get(at).is_some_and(char::is_ascii_digit);
            out.push(Token::Word { text: chars[from..at].iter().collect::<String>().to_lowercase(), glued_to_next });
        } else if matches!(c, '-' | '−') && from == 0 {
            return Err(Reason::Negative);
        } else {
            return Err(Reason::NotANumber);
        }
    }
    Ok(out)
}

/// Whether a space that does not break stands between groups of three digits, as figures are shown here and in many languages.
fn is_group(chars: &[char], at: usize) -> bool {
    let digit = |at: usize| chars.get(at).is_some_and(char::is_ascii_digit);
    matches!(chars[at], '\u{a0}' | '\u{202f}' | '\u{2009}') && (1..=3).all(|by| digit(at + by)) && !digit(at + 4)
}

/// Adds a number; a proper fraction right after a whole number completes it.
fn push_number(out: &mut Vec<Token>, found: Fraction, is_fraction: bool) -> Result<(), Reason> {
    match out.last_mut() {
        Some(Token::Number(whole)) if is_fraction && whole.den == 1 && found.num < found.den => {
            *whole = Fraction { num: product(whole.num, found.den)? + found.num, den: found.den };
            Ok(())
        }
        Some(Token::Number(_)) => Err(Reason::NotANumber),
        _ => {
            out.push(Token::Number(found));
            Ok(())
        }
    }
}

fn number(piece: &str, rest: &str) -> Result<Fraction, Reason> {
    if piece.chars().filter(char::is_ascii_digit).count() > MOST_DIGITS {
        return Err(Reason::OutOfRange);
    }
    if let Some((num, den)) = piece.split_once('/') {
        let (num, den) = (whole(num)?, whole(den)?);
        return if den == 0 { Err(Reason::NotANumber) } else { Ok(Fraction { num, den }) };
    }
    let Some(mark) = piece.find(['.', ',']) else {
        return Ok(Fraction { num: whole(piece)?, den: 1 });
    };
    let (int, decimals) = (&piece[..mark], &piece[mark + 1..]);
    let (int_value, decimal_value) = (whole(int)?, digits(decimals)?);
    if decimals.len() == 3 && int.len() <= 3 && !int.starts_with('0') {
        let rest = rest.trim();
        return Err(Reason::Ambiguous {
            thousands: format!("{int}{decimals}"),
            decimal: format!("{int}.{decimals}").trim_end_matches('0').trim_end_matches('.').to_owned(),
            rest: if rest.is_empty() { String::new() } else { format!(" {rest}") },
        });
    }
    let den = decimals.chars().fold(1_i128, |den, _| den * 10);
    Ok(Fraction { num: product(int_value, den)? + decimal_value, den })
}

fn whole(text: &str) -> Result<i128, Reason> {
    digits(text).and_then(|value| if value <= LARGEST { Ok(value) } else { Err(Reason::OutOfRange) })
}

fn digits(digits: &str) -> Result<i128, Reason> {
    if digits.is_empty() || !digits.bytes().all(|b| b.is_ascii_digit()) {
        return Err(Reason::NotANumber);
    }
    digits.parse().map_err(|_| Reason::OutOfRange)
}

fn vulgar(c: char) -> Option<Fraction> {
    let (num, den) = match c {
        '½' => (1, 2),
        '⅓' => (1, 3),
        '⅔' => (2, 3),
        '¼' => (1, 4),
        '¾' => (3, 4),
        '⅛' => (1, 8),
        '⅜' => (3, 8),
        '⅝' => (5, 8),
        '⅞' => (7, 8),
        _ => return None,
    };
    Some(Fraction { num, den })
}

fn is_currency_sign(c: char) -> bool {
    matches!(c, '$' | '€' | '£' | '¥' | '₩' | '₹' | '₺' | '₴' | '₪' | '₫' | '₱' | '฿' | '₦' | '₡')
}

/// Digits in groups of three with a narrow no-break space.
pub(super) fn grouped(value: i128) -> String {
    let digits = value.unsigned_abs().to_string();
    let mut out = String::from(if value < 0 { "−" } else { "" });
    for (i, c) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i).is_multiple_of(3) {
            out.push('\u{202f}');
        }
        out.push(c);
    }
    out
}

/// A value given in 10^-`decimals` units, as text with exactly that many decimals.
pub(super) fn with_decimals(value: i128, decimals: usize) -> String {
    let scale = (0..decimals).fold(1_i128, |scale, _| scale * 10);
    let (int, rest) = (value.abs() / scale, value.abs() % scale);
    let sign = if value < 0 { "−" } else { "" };
    if decimals == 0 { format!("{sign}{int}") } else { format!("{sign}{int}.{rest:0decimals$}") }
}
