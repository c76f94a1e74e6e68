//! Money in whole minor units of one currency.

use super::number::{Fraction, Quantity, Reason, Refused, Token, grouped, tokens, with_decimals};
use crate::limits;
use serde::{Deserialize, Serialize};

/// Minor units (cents where there are cents), exact. Negative where money comes back.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(transparent)]
pub struct Money(i64);

/// An ISO 4217 currency that is in use for prices.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Currency(iso_currency::Currency);

/// What one piece costs: from `low` to `high`, the same for a single figure.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct PriceRange {
    low: Money,
    high: Money,
}

impl Money {
    /// No money.
    pub const ZERO: Money = Money(0);

    /// From whole minor units.
    pub const fn from_minor(minor: i64) -> Money {
        Money(minor)
    }

    /// Whole minor units.
    pub const fn minor(self) -> i64 {
        self.0
    }

    /// `count` times this amount.
    pub fn times(self, count: u32) -> Money {
        Money(self.0.saturating_mul(i64::from(count)))
    }

    /// Reads one typed amount in the account's currency: `120`, `120.50`, `120,50`, `€120`, `120 EUR`.
    ///
    /// # Errors
    /// [`Refused`] for text that is not one non-negative amount in this currency, or finer than its minor unit.
    pub fn parse(typed: &str, currency: Currency) -> Result<Money, Refused> {
        read_amount(typed, currency).map_err(|reason| refused(typed, reason, currency))
    }

    /// As text with the currency's own number of decimals and its code: `1 249.50 EUR`.
    pub fn format(self, currency: Currency) -> String {
        let minor = i128::from(self.0);
        let scale = currency.scale();
        let text = with_decimals(minor.abs() % scale, currency.decimals());
        let decimals = text.find('.').map_or("", |dot| &text[dot..]);
        let sign = if minor < 0 { "−" } else { "" };
        format!("{sign}{}{decimals} {}", grouped(minor.abs() / scale), currency.code())
    }
}

impl PriceRange {
    /// A single price.
    pub const fn exact(price: Money) -> PriceRange {
        PriceRange { low: price, high: price }
    }

    /// From `low` to `high`; `None` if they are the wrong way round or below zero.
    pub fn new(low: Money, high: Money) -> Option<PriceRange> {
        (Money::ZERO <= low && low <= high).then_some(PriceRange { low, high })
    }

    /// Reads a typed price or range: `120`, `15-20`, `€15 – €20`.
    ///
    /// # Errors
    /// As [`Money::parse`]; a range whose first figure is the larger is refused for its order.
    pub fn parse(typed: &str, currency: Currency) -> Result<PriceRange, Refused> {
        read_range(typed, currency).map_err(|reason| refused(typed, reason, currency))
    }

    /// The lowest price.
    pub fn low(self) -> Money {
        self.low
    }

    /// The highest price.
    pub fn high(self) -> Money {
        self.high
    }

    /// As text: `120.00 EUR`; for a range `15–20 EUR`, or `15.50–20.00 EUR` where an end has decimals.
    pub fn format(self, currency: Currency) -> String {
        if self.low == self.high {
            return self.low.format(currency);
        }
        let is_whole = |price: Money| i128::from(price.0) % currency.scale() == 0;
        let bare = |price: Money| match currency.scale() {
            scale if is_whole(self.low) && is_whole(self.high) => grouped(i128::from(price.0) / scale),
            _ => price.format(currency).trim_end_matches(currency.code()).trim_end().to_owned(),
        };
        format!("{}–{} {}", bare(self.low), bare(self.high), currency.code())
    }

    /// As a field takes it: `120`, `120.50`, `15-20`.
    pub fn typed(self, currency: Currency) -> String {
        let bare = |price: Money| {
            let text = with_decimals(i128::from(price.0), currency.decimals());
            let whole = i128::from(price.0) % currency.scale() == 0;
            if whole { text.split('.').next().unwrap_or_default().to_owned() } else { text }
        };
        if self.low == self.high { bare(self.low) } else { format!("{}-{}", bare(self.low), bare(self.high)) }
    }

    /// What one of `pieces` costs that cost this much together, rounded up to the minor unit.
    #[must_use]
    pub fn shared_by(self, pieces: u32) -> PriceRange {
        let share = |price: Money| {
            let pieces = i64::from(pieces.max(1));
            Money(price.0 / pieces + i64::from(price.0 % pieces != 0))
        };
        PriceRange { low: share(self.low), high: share(self.high) }
    }

    /// The middle of the range, rounded up to the minor unit.
    pub fn expected(self) -> Money {
        Money(self.low.0 + (self.high.0 - self.low.0 + 1) / 2)
    }
}

impl Currency {
    /// The currency of an ISO 4217 code in any case; `None` if there is no such code or it has no minor unit defined
    /// (metals, testing codes).
    pub fn from_code(code: &str) -> Option<Currency> {
        let found = iso_currency::Currency::from_code(&code.trim().to_uppercase())?;
        found.exponent().map(|_| Currency(found))
    }

    /// The ISO 4217 code, upper case.
    pub fn code(self) -> &'static str {
        self.0.code()
    }

    /// How many decimals its amounts have: 0, 2 or 3 (ISO 4217).
    pub fn decimals(self) -> usize {
        usize::from(self.0.exponent().unwrap_or(2))
    }

    /// How many minor units make one: 1, 100 or 1000.
    pub fn minor_per_major(self) -> u32 {
        (0..self.decimals()).fold(1, |scale, _| scale * 10)
    }

    fn scale(self) -> i128 {
        i128::from(self.minor_per_major())
    }

    /// Whether a typed word (code or sign) names this currency. A sign that several currencies share means the account's own.
    pub(crate) fn is_named_by(self, word: &str) -> bool {
        word.eq_ignore_ascii_case(self.code())
            || self.0.symbol().symbol.to_lowercase() == word
            || matches!((word, self.code()), ("euro" | "euros", "EUR"))
            || (word == "$" && self.0.symbol().symbol.ends_with('$'))
    }
}

fn refused(typed: &str, reason: Reason, currency: Currency) -> Refused {
    let mut amount = with_decimals(120 * currency.scale() + currency.scale() / 2, currency.decimals());
    // Three digits behind a mark could be thousands.
    if currency.decimals() > 2 {
        amount.truncate("120.5".len());
    }
    let accepted = format!("an amount in {} such as 120 or {amount}, or a range such as 15-20", currency.code());
    Refused::new(typed.trim(), Quantity::Money, reason, &accepted)
}

fn read_range(typed: &str, currency: Currency) -> Result<PriceRange, Reason> {
    let trimmed = typed.trim();
    let dash = trimmed.char_indices().skip(1).find(|(_, c)| matches!(c, '-' | '–' | '—'));
    let Some((at, dash)) = dash else {
        return read_amount(trimmed, currency).map(PriceRange::exact);
    };
    let low = read_amount(&trimmed[..at], currency)?;
    let high = read_amount(&trimmed[at + dash.len_utf8()..], currency)?;
    PriceRange::new(low, high).ok_or(Reason::Order)
}

fn read_amount(typed: &str, currency: Currency) -> Result<Money, Reason> {
    let mut amount: Option<Fraction> = None;
    let mut named = false;
    for token in tokens(typed)? {
        match token {
            Token::Number(number) if amount.is_none() => amount = Some(number),
            Token::Word { text, .. } if !named => {
                named = true;
                if !currency.is_named_by(&text) {
                    return Err(match Currency::from_code(&text) {
                        Some(other) => Reason::OtherCurrency { currency: other.code().to_owned() },
                        None if amount.is_some() || !text.chars().all(char::is_alphabetic) => {
                            Reason::UnknownUnit { unit: text }
                        }
                        None => Reason::NotANumber,
                    });
                }
            }
            _ => return Err(Reason::NotANumber),
        }
    }
    let number = amount.ok_or(Reason::NotANumber)?;
    let scaled = number.num * currency.scale();
    if scaled > i128::from(limits::MONEY_MINOR) * number.den {
        return Err(Reason::OutOfRange);
    }
    if scaled % number.den != 0 {
        return Err(Reason::TooFine);
    }
    i64::try_from(scaled / number.den).map(Money).map_err(|_| Reason::OutOfRange)
}

impl std::ops::Add for Money {
    type Output = Money;
    fn add(self, other: Money) -> Money {
        Money(self.0.saturating_add(other.0))
    }
}

impl std::ops::Sub for Money {
    type Output = Money;
    fn sub(self, other: Money) -> Money {
        Money(self.0.saturating_sub(other.0))
    }
}

impl std::iter::Sum for Money {
    fn sum<I: Iterator<Item = Money>>(amounts: I) -> Money {
        amounts.fold(Money::ZERO, |total, amount| total + amount)
    }
}
