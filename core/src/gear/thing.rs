//! A thing that somebody owns.

use super::{Jobs, System, WeightSource};
use crate::limits;
use crate::quantity::{Mass, MassUnit, Money, Refused};

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
}

impl Weight {
    /// Reads a typed weight.
    ///
    /// # Errors
    /// As [`Mass::parse`].
    pub fn parse(typed: &str, default: MassUnit, source: WeightSource) -> Result<Weight, Refused> {
        let unit = Mass::parse(typed, default)?;
        Ok(Weight { unit, typed: typed.trim().to_owned(), source })
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
    /// What one piece cost.
    pub paid: Option<Money>,
    /// What one piece would bring.
    pub resale: Option<Money>,
    /// What one piece does.
    pub provides: Jobs,
    /// What one piece needs.
    pub needs: Jobs,
}
