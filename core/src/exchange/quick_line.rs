//! The quick line: one line of text that adds a thing as it is typed, such as `rain shell 212g 149eur #rain !rain_shell`.

use crate::gear::{Acquired, Job, JobUnit, Jobs, KNOWN_JOBS, System, Weight, WeightSource, known_job};
use crate::limits;
use crate::quantity::{Currency, Energy, Mass, MassUnit, Money, PriceRange, Volume};
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
    /// Got as a gift.
    Gift,
    /// The system.
    System,
    /// A job that it does.
    Job,
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
    /// The weight of one piece, and where it comes from.
    pub weight: Option<Weight>,
    /// The price paid for one piece.
    pub price: Option<PriceRange>,
    /// How it was come by.
    pub acquired: Acquired,
    /// The system.
    pub system: Option<System>,
    /// What one piece does.
    pub provides: Jobs,
}

/// Words before a figure that say where it comes from.
const SOURCES: [(&str, WeightSource); 3] =
    [("claimed ", WeightSource::Maker), ("weighed ", WeightSource::Weighed), ("~", WeightSource::Estimate)];
/// Words before a price that say how a thing was come by.
const PRICED: [(&str, Acquired); 3] = [("used ", Acquired::Used), ("sale ", Acquired::Sale), ("made ", Acquired::Made)];

impl QuickLine {
    /// Reads a line, its parts in any order and each once, jobs as often as there are jobs.
    ///
    /// - weight of one piece: `212g`, `3 lb 5 oz`, which comes from `typed`; `~310g` is a guess, `claimed 388g` the maker's figure,
    ///   `weighed 402g` one's own scale's
    /// - price of one piece: `149eur`, `€149`, a range `15-20eur`; `gift`; `used 80eur`, `sale 99eur`, `made 35eur` (the material)
    /// - either of several pieces together: `96g/8`, `29eur/3`
    /// - `x2`: count; `#rain`: system; `!light`, `!pole=2`, `!water_ml=1l`, `!power_mwh=10000mAh`: a job and its amount
    ///
    /// A bare number stays part of the name.
    pub fn read(line: &str, currency: Currency, typed: WeightSource) -> QuickLine {
        let mut out = QuickLine {
            chips: Vec::new(),
            name: String::new(),
            count: 1,
            weight: None,
            price: None,
            acquired: Acquired::New,
            system: None,
            provides: Jobs::new(),
        };
        let words: Vec<&str> = line.split_whitespace().collect();
        let mut at = 0;
        while at < words.len() {
            // The longest run of words that reads as one figure: `3 lb 5 oz` is four.
            let taken =
                (1..=4.min(words.len() - at)).rev().find(|&n| out.take(&words[at..at + n].join(" "), currency, typed));
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
    fn take(&mut self, text: &str, currency: Currency, typed: WeightSource) -> bool {
        let read = if let Some(word) = text.strip_prefix('#') {
            if word.contains(' ') {
                return false;
            }
            self.system(word)
        } else if let Some(word) = text.strip_prefix('!') {
            if word.is_empty() || word.contains(' ') {
                return false;
            }
            self.job(word)
        } else if let Some(count) = count(text) {
            self.count(count)
        } else if text.eq_ignore_ascii_case("gift") {
            self.gift()
        } else {
            let (figure, pieces) = together(text);
            match (mass_of(figure), price_of(figure, currency)) {
                (Some((figure, source)), _) => self.mass(figure, source.unwrap_or(typed), pieces),
                (None, Some((figure, acquired))) => self.price(figure, acquired, pieces, currency),
                (None, None) => return false,
            }
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
        if !is_count(count) {
            return Read::Refused(no_count(count));
        }
        if self.chips.iter().any(|chip| chip.read == Read::Count) {
            return Read::Refused("A count stands here already.".to_owned());
        }
        self.count = count;
        Read::Count
    }

    fn mass(&mut self, text: &str, source: WeightSource, pieces: u32) -> Read {
        match Weight::parse(text, MassUnit::G, source) {
            Ok(_) if self.weight.is_some() => Read::Refused("A weight stands here already.".to_owned()),
            Ok(_) if !is_count(pieces) => Read::Refused(no_count(pieces)),
            Ok(weight) => {
                self.weight = Some(weight.shared_by(pieces));
                Read::Mass
            }
            Err(refused) => Read::Refused(refused.to_string()),
        }
    }

    fn price(&mut self, text: &str, acquired: Acquired, pieces: u32, currency: Currency) -> Read {
        match PriceRange::parse(text, currency) {
            Ok(_) if self.price.is_some() => Read::Refused("A price stands here already.".to_owned()),
            Ok(_) if !is_count(pieces) => Read::Refused(no_count(pieces)),
            Ok(price) => {
                self.price = Some(price.shared_by(pieces));
                self.acquired = acquired;
                Read::Price
            }
            Err(refused) => Read::Refused(refused.to_string()),
        }
    }

    fn gift(&mut self) -> Read {
        if self.price.is_some() {
            return Read::Refused("A price stands here already; a gift has none.".to_owned());
        }
        self.price = Some(PriceRange::exact(Money::ZERO));
        self.acquired = Acquired::Gift;
        Read::Gift
    }

    fn job(&mut self, word: &str) -> Read {
        let (key, amount) = word.split_once('=').map_or((word, None), |(key, amount)| (key, Some(amount)));
        let Some(job) = Job::new(key).filter(|job| known_job(job).is_some()) else {
            let keys: Vec<&str> = KNOWN_JOBS.iter().map(|known| known.key).collect();
            return Read::Refused(format!("\"{key}\" is not a job. Jobs: {}.", keys.join(", ")));
        };
        let unit = known_job(&job).map_or(JobUnit::Count, |known| known.unit);
        match job_amount(amount, unit) {
            Ok(_) if self.provides.contains_key(&job) => Read::Refused("This job stands here already.".to_owned()),
            Ok(amount) => {
                self.provides.insert(job, amount);
                Read::Job
            }
            Err(why) => Read::Refused(why),
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

fn is_count(pieces: u32) -> bool {
    (1..=limits::COUNT).contains(&pieces)
}

fn no_count(pieces: u32) -> String {
    format!("{pieces} is not a count. A count goes from 1 to {}.", limits::COUNT)
}

/// A text without the pieces that it stands for together: `29eur/3` is 29eur for three. One if none are named.
fn together(text: &str) -> (&str, u32) {
    match text.rsplit_once('/') {
        Some((figure, pieces)) if !pieces.is_empty() && pieces.bytes().all(|b| b.is_ascii_digit()) => {
            (figure.trim_end(), pieces.parse().unwrap_or(u32::MAX))
        }
        _ => (text, 1),
    }
}

/// The figure of a mass and where it says that it comes from, if a text is one.
fn mass_of(text: &str) -> Option<(&str, Option<WeightSource>)> {
    let marked = SOURCES.iter().find_map(|(mark, source)| Some((text.strip_prefix(mark)?, Some(*source))));
    let (figure, source) = marked.unwrap_or((text, None));
    has_mass_unit(figure).then_some((figure, source))
}

/// The figure of a price and how the thing was come by, if a text is one.
fn price_of(text: &str, currency: Currency) -> Option<(&str, Acquired)> {
    let marked = PRICED.iter().find_map(|(word, acquired)| Some((text.strip_prefix(word)?, *acquired)));
    let (figure, acquired) = marked.unwrap_or((text, Acquired::New));
    has_currency(figure, currency).then_some((figure, acquired))
}

/// The amount of a job in the unit that the job is counted in; one piece where none is typed.
fn job_amount(typed: Option<&str>, unit: JobUnit) -> Result<i64, String> {
    let Some(typed) = typed else {
        return match unit {
            JobUnit::Count => Ok(1),
            JobUnit::TenthsOfR => Err("How much? Type an R-value behind it, such as =3.2.".to_owned()),
            JobUnit::Ml => Err("How much? Type a volume behind it, such as =1l.".to_owned()),
            JobUnit::G => Err("How much? Type a weight behind it, such as =12kg.".to_owned()),
            JobUnit::Mwh => Err("How much? Type an energy behind it, such as =37Wh.".to_owned()),
        };
    };
    let read = match unit {
        JobUnit::Count => typed.parse().ok().filter(|pieces| (1..=i64::from(limits::COUNT)).contains(pieces)),
        JobUnit::TenthsOfR => tenths(typed),
        JobUnit::Ml => return Volume::parse(typed).map(Volume::ml).map_err(|refused| refused.to_string()),
        JobUnit::G => {
            return Mass::parse(typed, MassUnit::Kg)
                .map(|mass| mass.mg() / 1_000)
                .map_err(|refused| refused.to_string());
        }
        JobUnit::Mwh => return Energy::parse(typed).map(Energy::mwh).map_err(|refused| refused.to_string()),
    };
    read.ok_or_else(|| match unit {
        JobUnit::TenthsOfR => format!("\"{typed}\" is not read as an R-value. Type one from 0.1 to 20, such as 3.2."),
        _ => format!("\"{typed}\" is not read as a count. Type a whole number from 1 to {}.", limits::COUNT),
    })
}

/// An R-value with at most one decimal, in tenths.
fn tenths(typed: &str) -> Option<i64> {
    let (whole, tenth) = typed.split_once(['.', ',']).unwrap_or((typed, "0"));
    let digits = |text: &str| !text.is_empty() && text.bytes().all(|b| b.is_ascii_digit());
    let value = (digits(whole) && digits(tenth) && whole.len() <= 2 && tenth.len() == 1)
        .then(|| format!("{whole}{tenth}").parse::<i64>().ok())??;
    (1..=200).contains(&value).then_some(value)
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
    let one_amount = marks.len() == 1 && (!text.contains(' ') || starts_as_figure(text));
    let range = marks.len() == 2 && text.contains(['-', '–', '—']);
    figure && (one_amount || range) && marks.iter().all(known)
}

fn starts_as_figure(text: &str) -> bool {
    text.starts_with(|c: char| c.is_ascii_digit() || c.is_numeric() || c == '-')
}

/// The runs of letters and currency signs in a text, lower case.
fn letters(text: &str) -> Vec<String> {
    let is_mark = |c: char| !c.is_whitespace() && !c.is_numeric() && !matches!(c, '.' | ',' | '/' | '-' | '–' | '#');
    text.split(|c| !is_mark(c)).filter(|run| !run.is_empty()).map(str::to_lowercase).collect()
}
