//! The quick line: one line of text that adds a thing as it is typed, such as `rain shell 212g 149eur #rain !rain_shell`.

mod fact;
mod phrase;
mod piece;
mod reader;
mod words;

pub use crate::gear::job_mark::job_mark;
use crate::gear::{Acquired, Gear, Job, Jobs, Kind, Name, Rating, Start, System, Weight, WeightSource};
use crate::limits;
use crate::quantity::{Currency, MassUnit, PriceRange, Refused};
use fact::Fact;
use serde::Serialize;
use words::words;

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
    /// How it was come by.
    Acquired(Acquired),
    /// Where the weight comes from, said apart from it.
    Source(WeightSource),
    /// That figures are for one piece.
    Each,
    /// The system.
    System,
    /// A job that one piece does.
    Does(Job),
    /// A job that one piece needs.
    Needs(Job),
    /// What it is.
    Kind,
    /// How warm it is rated.
    Rating,
    /// Where its pieces start on a list.
    Start,
    /// How long it took to make.
    Made,
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
    /// What one piece needs.
    pub needs: Jobs,
    /// What it is: as the line says, or as its name does; `None` if neither does.
    pub kind: Option<&'static Kind>,
    /// How warm it is rated.
    pub rating: Option<Rating>,
    /// Where its pieces start on a list, if the line says so.
    pub start: Option<Start>,
    /// How long it took to make, in tenths of an hour.
    pub made_tenth_hours: Option<u32>,
}

impl QuickLine {
    /// Reads a line, its parts in any order and each once, jobs as often as there are jobs. Figures and units stand apart or together.
    ///
    /// - weight of one piece: `212g`, `3 lb 5 oz`, `8 1/2 oz`, a sum `1.5oz + 2oz`, which comes from `typed`; `~310g` is a guess,
    ///   `claimed 388g` or `388g claimed` the maker's figure, `weighed 402g` one's own scale's
    /// - price of one piece: `149eur`, `€149`, a range `15-20eur`, `was 49,90`; `made 35eur` (the material)
    /// - how it was come by: `used`, `second hand`, `sale`, `gift`, `diy`
    /// - either figure of several pieces together: `96g/8`, `96g together`; `3 for 12eur` says how many there are, too
    /// - `x2`: count; `#rain`: system; `!light`, `!shelter_pole=2`, `!water_carried=1l`, `!needs:stake=8`: a job and its amount
    /// - `worn`, `carried`, `used up`, `apart`: where its pieces start on a list; `is:quilt`, `is:none`: what it is
    /// - what a thing of the kind that its name says has: `-5C`, `comfort -2C`, `R4.5`, `45l`, `20Ah`, `for 2`, `9h` of making
    ///
    /// What is left is the name, with its other numbers (`pack 45`); in quotes it is taken as it stands. What has no place, such
    /// as a number behind a figure, is refused rather than slipped into the name.
    pub fn read(line: &str, currency: Currency, typed: WeightSource) -> QuickLine {
        QuickLine::read_else(line, currency, typed, None)
    }

    /// The same, of a kind that is taken where neither the line nor its name says one.
    pub(super) fn read_else(
        line: &str,
        currency: Currency,
        typed: WeightSource,
        otherwise: Option<&'static Kind>,
    ) -> QuickLine {
        let words = words(line);
        // Which facts it has hangs on what it is, and that on its name, where they stand too until it is known.
        let first = reader::read_as(None, &words, currency, typed);
        let said = first.chips.iter().any(|chip| chip.read == Read::Kind);
        let kind = if said { first.kind } else { Kind::of_name(&first.name).or(otherwise) };
        let read = if kind.is_some() { reader::read_as(kind, &words, currency, typed) } else { first };
        QuickLine { kind, ..read }
    }

    /// The thing that the line says, with all that comes with its kind.
    pub fn thing(&self, name: Name) -> Gear {
        let mut thing = Gear {
            system: self.system.unwrap_or(System::Other),
            count: self.count,
            weight: self.weight.clone(),
            paid: self.price,
            acquired: self.acquired,
            provides: self.provides.clone(),
            needs: self.needs.clone(),
            ..Gear::named(name)
        };
        thing.facts.rating = self.rating;
        thing.identity.start = self.start;
        thing.identity.made_tenth_hours = self.made_tenth_hours;
        thing.become_kind(self.kind);
        thing.system = self.system.unwrap_or(thing.system);
        thing
    }

    /// Whether the line can be added as it stands.
    pub fn is_ready(&self) -> bool {
        self.refusal().is_none() && !self.name.is_empty() && self.name.chars().count() <= limits::NAME
    }

    /// Why the first part that has no place was refused.
    pub fn refusal(&self) -> Option<&str> {
        self.chips.iter().find_map(|chip| match &chip.read {
            Read::Refused(why) => Some(why.as_str()),
            _ => None,
        })
    }
}

/// A weight as it is typed in a field of its own: as the quick line takes it, but a bare number is in `default`. What says where it
/// comes from counts before `source`.
///
/// # Errors
/// As [`Weight::parse`].
pub fn read_weight(typed: &str, default: MassUnit, source: WeightSource) -> Result<Weight, Refused> {
    let (figure, said, pieces) = phrase::figure(typed);
    Ok(Weight::parse(&figure, default, said.unwrap_or(source))?.shared_by(pieces))
}

/// A price as it is typed in a field of its own: as the quick line takes it, but the currency may be left out.
///
/// # Errors
/// As [`PriceRange::parse`].
pub fn read_price(typed: &str, currency: Currency) -> Result<PriceRange, Refused> {
    let (figure, _, pieces) = phrase::figure(typed);
    Ok(PriceRange::parse(&figure, currency)?.shared_by(pieces))
}

/// Makes a thing of the kind that its name says, with the facts that the name states; nothing is changed where it says none.
pub fn take_kind_of_name(thing: &mut Gear) {
    let Some(kind) = Kind::of_name(thing.name.as_str()) else { return };
    for fact in fact::stated(thing.name.as_str(), kind) {
        match fact {
            Fact::Rating(rating) => thing.facts.rating = thing.facts.rating.or(Some(rating)),
            Fact::Does(job, amount) => {
                thing.provides.entry(job).or_insert(amount);
            }
            // What a sentence in a name says of these is not for sure.
            Fact::Start(_) | Fact::Made(_) => {}
        }
    }
    thing.become_kind(Some(kind));
}
