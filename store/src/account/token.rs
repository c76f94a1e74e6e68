//! Session tokens: 256 random bits in the cookie, only their digest in the database.

use sha2::{Digest as _, Sha256};

/// A SHA-256 digest of a token, or of what tries are counted by.
pub type Digest = [u8; 32];

/// A token as the cookie has it: 64 hexadecimal digits.
#[derive(Clone)]
pub struct Token(String);

impl Token {
    /// A new token.
    pub fn new() -> Result<Token, getrandom::Error> {
        let mut bytes = [0_u8; 32];
        getrandom::fill(&mut bytes)?;
        Ok(Token(hex::encode(bytes)))
    }

    /// The text for the cookie.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

/// What the database knows a text by.
pub fn digest(text: impl AsRef<[u8]>) -> Digest {
    Sha256::digest(text.as_ref()).into()
}
