//! A thing that somebody owns.

use super::weighing::per_piece;
use super::{Band, DEFAULT_STEP, Facts, Identity, Jobs, Kind, System, Weighing, WeightSource};
use crate::limits;
use crate::quantity::{Mass, MassUnit, Money, PriceRange, Refused, div_half_even};
use serde::{Deserialize, Serialize};

/// A name: 1 to [`limits::NAME`] characters, no control characters, no space at either end.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Name(String);

/// Why a name was not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum NameError {
    /// Nothing was typed.
    #[error("A name is missing. Type what the thing is, such as rain shell.")]
    Empty,
    /// It is too long.
    #[error("The name has {0} characters. Type at most {most}.", most = limits::NAME)]
    TooLong(usize),
    /// It has a line break or another control character in it.
    #[error("The name has a line break or a control character in it. Type it on one line.")]
    Control,
}

impl Name {
    /// Takes a typed name, trimmed.
    ///
    /// # Errors
    /// [`NameError`] if it is empty, too long or has control characters.
    pub fn new(typed: &str) -> Result<Name, NameError> {
        let name = typed.trim();
        match name.chars().count() {
            0 => Err(NameError::Empty),
            length if length > limits::NAME => Err(NameError::TooLong(length)),
            _ if name.chars().any(char::is_control) => Err(NameError::Control),
            _ => Ok(Name(name.to_owned())),
        }
    }

    /// The name.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

/// What one piece weighs, as held and as typed, and where the figure comes from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Weight {
    /// As held.
    pub unit: Mass,
    /// As typed, so that 14.5 oz comes back as 14.5 oz.
    pub typed: String,
    /// Where it comes from.
    pub source: WeightSource,
    /// Its own doubt, where it was weighed or derived; other figures have a share ([`super::Makers`]).
    pub band: Option<Band>,
}

impl Weight {
    /// Reads a typed weight.
    ///
    /// # Errors
    /// As [`Mass::parse`].
    pub fn parse(typed: &str, default: MassUnit, source: WeightSource) -> Result<Weight, Refused> {
        let unit = Mass::parse(typed, default)?;
        Ok(Weight { unit, typed: Mass::typed_in(typed, default), source, band: None })
    }

    /// What one of `pieces` weighs that weigh this much together. On a scale they share its doubt too.
    #[must_use]
    pub fn shared_by(self, pieces: u32) -> Weight {
        let unit = per_piece(self.unit, pieces);
        match self.source {
            _ if pieces == 1 => self,
            WeightSource::Weighed => {
                Weighing { total: self.unit, pieces, step: self.band.map_or(DEFAULT_STEP, |band| band.high) }
                    .weight(&self.typed)
            }
            _ => Weight { unit, typed: unit.in_grams(), ..self },
        }
    }
}

/// A maker's figure, as held and as typed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Claim {
    /// As held.
    pub unit: Mass,
    /// As typed.
    pub typed: String,
}

impl Claim {
    /// Reads a typed figure; a bare number is in `default`.
    ///
    /// # Errors
    /// As [`Mass::parse`].
    pub fn parse(typed: &str, default: MassUnit) -> Result<Claim, Refused> {
        Ok(Claim { unit: Mass::parse(typed, default)?, typed: Mass::typed_in(typed, default) })
    }
}

/// What was said of a weight last, other than by weighing: a maker's figure, an estimate, or that nobody knows it. It counts
/// again when later weighings are taken back.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Stated {
    /// The figure; `None` if it was said to be unknown.
    pub weight: Option<Weight>,
    /// When, on any clock that weighings share.
    pub at: i64,
}

/// How a thing was come by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Acquired {
    /// Bought new.
    #[default]
    New,
    /// Bought used.
    Used,
    /// Bought in a sale.
    Sale,
    /// Given.
    Gift,
    /// Made; the price is that of the material.
    Made,
    /// Borrowed or hired; the price is the fee.
    Borrowed,
}

/// What has become of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema, schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Status {
    /// In use.
    #[default]
    Owned,
    /// Lent to somebody.
    Lent,
    /// To be sold.
    ForSale,
    /// Sold.
    Sold,
    /// Given away.
    Given,
    /// Worn out.
    WornOut,
    /// Wished for; not owned yet.
    Wished,
}

impl Status {
    /// Every status, in the order in which they are offered.
    pub const ALL: &'static [Status] =
        &[Status::Owned, Status::Lent, Status::ForSale, Status::Sold, Status::Given, Status::WornOut, Status::Wished];

    /// Whether the thing is still there to be weighed and carried.
    pub fn is_at_hand(self) -> bool {
        matches!(self, Status::Owned | Status::ForSale)
    }
}

/// Words that a thing is found by: lower case, each once, in order.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Tags(Vec<String>);

impl Tags {
    /// Reads words parted by commas or spaces; a leading `#` is left out.
    ///
    /// # Errors
    /// A sentence, if there are too many or one is too long.
    pub fn parse(typed: &str) -> Result<Tags, String> {
        let words = typed.split([',', ' ', '\t', '\n']).map(|word| word.trim_start_matches('#').to_lowercase());
        let mut tags: Vec<String> = words.filter(|word| !word.is_empty()).collect();
        tags.sort();
        tags.dedup();
        if let Some(long) = tags.iter().find(|tag| tag.chars().count() > limits::TAG) {
            return Err(format!("The tag \"{long}\" is too long. Type at most {} characters.", limits::TAG));
        }
        // Marks come beside one's own words, with the kind.
        let tags = Tags(tags);
        let own = tags.own().count();
        if own > limits::TAGS {
            return Err(format!("{own} tags are too many for one thing. Type at most {}.", limits::TAGS));
        }
        Ok(tags)
    }

    /// These and one more.
    pub(crate) fn with(&self, word: &str) -> Tags {
        let mut words = self.0.clone();
        if let Err(at) = words.binary_search_by(|tag| tag.as_str().cmp(word)) {
            words.insert(at, word.to_owned());
        }
        Tags(words)
    }

    /// These without those.
    #[must_use]
    pub(crate) fn without(&self, those: &Tags) -> Tags {
        Tags(self.0.iter().filter(|word| !those.has(word)).cloned().collect())
    }

    /// Whether `word` is one of them.
    pub fn has(&self, word: &str) -> bool {
        self.0.binary_search_by(|tag| tag.as_str().cmp(word)).is_ok()
    }

    /// The words.
    pub fn words(&self) -> &[String] {
        &self.0
    }
}

impl std::fmt::Display for Tags {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.0.join(" "))
    }
}

/// A thing that somebody owns, in one or more pieces.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Gear {
    /// What it is.
    pub name: Name,
    /// Its system.
    pub system: System,
    /// How many pieces are owned; at least 1.
    pub count: u32,
    /// What one piece weighs, if known.
    pub weight: Option<Weight>,
    /// What was said of the weight last, other than by weighing.
    pub stated: Option<Stated>,
    /// The maker's figure for one piece, kept beside a weighing so that the two can be compared.
    pub claimed: Option<Claim>,
    /// What one piece cost: a figure, or a range where nobody remembers exactly.
    pub paid: Option<PriceRange>,
    /// How it was come by.
    pub acquired: Acquired,
    /// What one piece would bring.
    pub resale: Option<Money>,
    /// When that was said, on the clock of [`Stated::at`]; `None` if nobody knows.
    pub resale_at: Option<i64>,
    /// What has become of it.
    pub status: Status,
    /// Where it is kept.
    pub kept_at: String,
    /// What there is to say of it in words.
    pub note: String,
    /// Words that it is found by.
    pub tags: Tags,
    /// Nights it has been used.
    pub nights: u32,
    /// What one piece does.
    pub provides: Jobs,
    /// What one piece needs.
    pub needs: Jobs,
    /// What a trip asks of it beside.
    pub facts: Facts,
    /// What it is.
    pub identity: Identity,
}

impl Gear {
    /// A thing of which nothing but the name is known.
    pub fn named(name: Name) -> Gear {
        Gear {
            name,
            system: System::Other,
            count: 1,
            weight: None,
            stated: None,
            claimed: None,
            paid: None,
            acquired: Acquired::New,
            resale: None,
            resale_at: None,
            status: Status::Owned,
            kept_at: String::new(),
            note: String::new(),
            tags: Tags::default(),
            nights: 0,
            provides: Jobs::new(),
            needs: Jobs::new(),
            facts: Facts::default(),
            identity: Identity::default(),
        }
    }

    /// Makes it of a kind, with all that comes with that. Its system follows where it was the kind's before, or none.
    pub fn become_kind(&mut self, kind: Option<&'static Kind>) {
        let before = self.identity.kind.map_or(System::Other, |kind| kind.system);
        if let Some(kind) =
            kind.filter(|kind| !kind.is_none() && (self.system == before || self.system == System::Other))
        {
            self.system = kind.system;
        }
        self.identity.become_kind(kind, &mut self.tags, &mut self.provides, &mut self.needs);
    }

    /// The weight that counts, beside the thing's newest weighing with its time: what is newest of that and what was said, or else
    /// the maker's figure.
    pub fn weight_beside(&self, newest: Option<(Weight, i64)>) -> Option<Weight> {
        match (&self.stated, newest) {
            (Some(stated), Some((_, at))) if stated.at > at => stated.weight.clone(),
            (_, Some((weighed, _))) => Some(weighed),
            (Some(stated), None) => stated.weight.clone(),
            (None, None) => self.claimed.clone().map(|claim| Weight {
                unit: claim.unit,
                typed: claim.typed,
                source: WeightSource::Maker,
                band: None,
            }),
        }
    }

    /// What one night of use has cost so far: the expected price over the nights, rounded half to even to the minor
    /// unit; `None` without a price or a night.
    pub fn cost_per_night(&self) -> Option<Money> {
        let paid = i128::from(self.paid?.expected().times(self.count).minor());
        let cost = (self.nights > 0).then(|| div_half_even(paid, i128::from(self.nights)))?;
        i64::try_from(cost).ok().map(Money::from_minor)
    }
}
