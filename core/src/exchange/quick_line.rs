//! The quick line: one line of text that adds a thing as it is typed, such as `rain shell 212g 149eur #rain x2`.

use crate::gear::System;
use crate::limits;
use crate::quantity::{Currency, Mass, MassUnit, Money};
use serde::Serialize;

/// How a stretch of the line was understood.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case", tag = "kind", content = "why")]
pub enum Read {
    /// Part of the name.
    Name,
    /// The count.
    Count,
    /// The weight of one piece.
    Mass,
    /// The price paid for one piece.
    Price,
    /// The system.
    System,
    /// Not understood, and why.
    Refused(String),
}

/// A stretch of the line and how it was understood.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Chip {
    /// The text.
    pub text: String,
    /// What it was read as.
    pub read: Read,
}

/// A line as it was understood. Nothing is guessed: what can't be read is a refused chip.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct QuickLine {
    /// The line in stretches, in order.
    pub chips: Vec<Chip>,
    /// The name; empty if there is none yet.
    pub name: String,
    /// The count, 1 unless typed.
    pub count: u32,
    /// The weight of one piece and how it was typed.
    pub mass: Option<(Mass, String)>,
    /// The price paid for one piece.
    pub price: Option<Money>,
    /// The system.
    pub system: Option<System>,
}

impl QuickLine {
    /// Reads a line. Weights and prices are known by their units (`212g`, `3 lb 5 oz`, `149eur`, `€149`), counts by `x2`,
    /// systems by `#`; a bare number stays part of the name. Each may stand once.
    pub fn read(line: &str, currency: Currency) -> QuickLine {
        let mut out =
            QuickLine { chips: Vec::new(), name: String::new(), count: 1, mass: None, price: None, system: None };
        let words: Vec<&str> = line.split_whitespace().collect();
        let mut at = 0;
        while at < words.len() {
            // The longest run of words that reads as one figure: `3 lb 5 oz` is four.
            let taken = (1..=4.min(words.len() - at)).rev().find(|&n| out.take(&words[at..at + n].join(" "), currency));
            if taken.is_none() {
                out.push(words[at], Read::Name);
            }
            at += taken.unwrap_or(1);
        }
        let names = out.chips.iter().filter(|chip| chip.read == Read::Name);
        out.name = names.map(|chip| chip.text.as_str()).collect::<Vec<_>>().join(" ");
        out
    }

    /// Whether the line can be added as it stands.
    pub fn is_ready(&self) -> bool {
        let refused = self.chips.iter().any(|chip| matches!(chip.read, Read::Refused(_)));
        !refused && !self.name.is_empty() && self.name.chars().count() <= limits::NAME
    }

    /// Takes `text` if it is a figure or a mark; names are left to the caller.
    fn take(&mut self, text: &str, currency: Currency) -> bool {
        let read = if let Some(word) = text.strip_prefix('#') {
            if word.contains(' ') {
                return false;
            }
            self.system(word)
        } else if let Some(count) = count(text) {
            self.count(count)
        } else if has_mass_unit(text) {
            self.mass(text)
        } else if has_currency(text, currency) {
            self.price(text, currency)
        } else {
            return false;
        };
        self.push(text, read);
        true
    }

    fn system(&mut self, word: &str) -> Read {
        match System::from_word(word) {
            Some(_) if self.system.is_some() => Read::Refused("A system stands here already.".to_owned()),
            Some(system) => {
                self.system = Some(system);
                Read::System
            }
            None => {
                let keys: Vec<&str> = System::ALL.iter().map(|system| system.key()).collect();
                Read::Refused(format!("\"{word}\" is not a system. Systems: {}.", keys.join(", ")))
            }
        }
    }

    fn count(&mut self, count: u32) -> Read {
        if !(1..=limits::COUNT).contains(&count) {
            return Read::Refused(format!("A count goes from x1 to x{}.", limits::COUNT));
        }
        if self.chips.iter().any(|chip| chip.read == Read::Count) {
            return Read::Refused("A count stands here already.".to_owned());
        }
        self.count = count;
        Read::Count
    }

    fn mass(&mut self, text: &str) -> Read {
        match Mass::parse(text, MassUnit::G) {
            Ok(_) if self.mass.is_some() => Read::Refused("A weight stands here already.".to_owned()),
            Ok(mass) => {
                self.mass = Some((mass, text.to_owned()));
                Read::Mass
            }
            Err(refused) => Read::Refused(refused.to_string()),
        }
    }

    fn price(&mut self, text: &str, currency: Currency) -> Read {
        match Money::parse(text, currency) {
            Ok(_) if self.price.is_some() => Read::Refused("A price stands here already.".to_owned()),
            Ok(price) => {
                self.price = Some(price);
                Read::Price
            }
            Err(refused) => Read::Refused(refused.to_string()),
        }
    }

    fn push(&mut self, text: &str, read: Read) {
        if let (Read::Name, Some(Chip { text: before, read: Read::Name })) = (&read, self.chips.last_mut()) {
            before.push(' ');
            before.push_str(text);
            return;
        }
        self.chips.push(Chip { text: text.to_owned(), read });
    }
}

/// `x2` or `2x`.
fn count(text: &str) -> Option<u32> {
    let text = text.to_lowercase();
    let digits = text.strip_prefix(['x', '×']).or_else(|| text.strip_suffix(['x', '×']))?;
    (!digits.is_empty() && digits.bytes().all(|b| b.is_ascii_digit())).then(|| digits.parse().unwrap_or(u32::MAX))
}

/// Whether a text is a figure followed by a unit of mass, perhaps in compound, whatever else is wrong with it.
fn has_mass_unit(text: &str) -> bool {
    let units = letters(text);
    starts_as_figure(text) && !units.is_empty() && units.iter().all(|unit| MassUnit::from_word(unit).is_some())
}

/// Marks of money that are refused rather than taken for a name. Not every ISO code: `top`, `all` and `try` are words.
const OTHER_MONEY: [&str; 14] =
    ["eur", "usd", "gbp", "chf", "sek", "nok", "dkk", "jpy", "cad", "aud", "$", "€", "£", "¥"];

/// Whether a text is a figure with a currency's sign or code before or behind it.
fn has_currency(text: &str, currency: Currency) -> bool {
    let marks: Vec<String> = letters(text);
    let figure = text.chars().any(|c| c.is_ascii_digit());
    let known = |mark: &String| currency.is_named_by(mark) || OTHER_MONEY.contains(&mark.as_str());
    figure && matches!(marks.as_slice(), [mark] if known(mark)) && !text.contains(' ') | starts_as_figure(text)
}

fn starts_as_figure(text: &str) -> bool {
    text.starts_with(|c: char| c.is_ascii_digit() || c.is_numeric() || c == '-')
}

/// The runs of letters and currency signs in a text, lower case.
fn letters(text: &str) -> Vec<String> {
    let is_mark = |c: char| !c.is_whitespace() && !c.is_numeric() && !matches!(c, '.' | ',' | '/' | '-' | '–' | '#');
    text.split(|c| !is_mark(c)).filter(|run| !run.is_empty()).map(str::to_lowercase).collect()
}
