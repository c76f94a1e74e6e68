//! The names that accounts are signed in to with.

use unicode_normalization::UnicodeNormalization;

/// A name as it is kept, compared and counted: in compatibility composition (NFKC), in lower case, without what nobody sees. Names that
/// look alike to people in these ways are the same name, everywhere.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AccountName(String);

/// The fewest and the most characters of a name.
const LENGTH: std::ops::RangeInclusive<usize> = 3..=60;

/// Characters that are drawn as nothing (Default_Ignorable_Code_Point of the Unicode Character Database), as ranges.
const UNSEEN: [(char, char); 14] = [
    ('\u{ad}', '\u{ad}'),
    ('\u{34f}', '\u{34f}'),
    ('\u{61c}', '\u{61c}'),
    ('\u{115f}', '\u{1160}'),
    ('\u{17b4}', '\u{17b5}'),
    ('\u{180b}', '\u{180f}'),
    ('\u{200b}', '\u{200f}'),
    ('\u{202a}', '\u{202e}'),
    ('\u{2060}', '\u{206f}'),
    ('\u{3164}', '\u{3164}'),
    ('\u{fe00}', '\u{fe0f}'),
    ('\u{feff}', '\u{feff}'),
    ('\u{ffa0}', '\u{ffa0}'),
    ('\u{e0000}', '\u{e0fff}'),
];

impl AccountName {
    /// What a typed name is looked for by, whether or not it could be one.
    pub fn sought(typed: &str) -> AccountName {
        let is_seen = |c: &char| !c.is_control() && !UNSEEN.iter().any(|(from, to)| (from..=to).contains(&c));
        let folded = typed.nfkc().flat_map(char::to_lowercase).nfkc().filter(is_seen).collect::<String>();
        AccountName(folded.trim().nfkc().collect())
    }

    /// A typed name as that of a new account; a sentence if it can't be one.
    ///
    /// # Errors
    /// If it has fewer than 3 or more than 60 characters, or a space.
    pub fn new(typed: &str) -> Result<AccountName, String> {
        let name = AccountName::sought(typed);
        if LENGTH.contains(&name.0.chars().count()) && !name.0.contains(char::is_whitespace) {
            return Ok(name);
        }
        Err(format!("\"{}\" can't be a name to sign in with. Type 3 to 60 characters without spaces.", typed.trim()))
    }

    /// The name.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}
