//! Passwords: argon2id with the crate's own (OWASP) parameters.

use argon2::password_hash::rand_core::OsRng;
use argon2::password_hash::{Error, PasswordHash, PasswordHasher, PasswordVerifier, SaltString};
use argon2::{Algorithm, Argon2, Params, Version};

/// The shortest password, in characters (NIST SP 800-63B asks for 8 at least).
const SHORTEST: usize = 10;
/// The longest: more would only cost time.
const LONGEST: usize = 200;

/// Hashes and checks passwords. Holds the hash of nothing, so that an unknown name takes as long as a wrong password.
pub struct Passwords {
    hasher: Argon2<'static>,
    nobody: String,
}

/// The fewest guesses, as a power of ten, that a password must stand for those who know its owner's name. A hundred million is what
/// `zxcvbn` calls somewhat guessable: beyond any number that the rate limit of sign-ins lets through.
const GUESSES_LOG10: f64 = 8.0;

/// Whether a new password will do for an account of this name; if not, why.
pub fn check_new(password: &str, name: &str) -> Result<(), String> {
    let plain = |text: &str| text.to_lowercase().chars().filter(|c| c.is_alphanumeric()).collect::<String>();
    if plain(name).len() > 2 && plain(password).replace(&plain(name), "").chars().count() < SHORTEST / 2 {
        return Err(
            "The password is little more than the name. Choose one that nobody guesses who knows you.".to_owned()
        );
    }
    match password.chars().count() {
        length if length < SHORTEST => Err(format!("The password has {length} characters. Type at least {SHORTEST}.")),
        length if length > LONGEST => Err(format!("The password has {length} characters. Type at most {LONGEST}.")),
        _ if zxcvbn::zxcvbn(password, &[name, "kevyt"]).guesses_log10() < GUESSES_LOG10 => Err(
            "The password is one of those that are guessed first. Choose a longer one, such as four words that don't belong together."
                .to_owned(),
        ),
        _ => Ok(()),
    }
}

impl Passwords {
    /// Ready to check. With `least_work`, what is hashed is not protected.
    pub fn new(least_work: bool) -> Result<Passwords, Error> {
        let work = if least_work { Params::new(Params::MIN_M_COST, 1, 1, None)? } else { Params::default() };
        let mut passwords =
            Passwords { hasher: Argon2::new(Algorithm::Argon2id, Version::V0x13, work), nobody: String::new() };
        passwords.nobody = passwords.hash("nobody has this password")?;
        Ok(passwords)
    }

    /// Hashes a password with a salt of its own.
    pub fn hash(&self, password: &str) -> Result<String, Error> {
        let salt = SaltString::generate(&mut OsRng);
        Ok(self.hasher.hash_password(password.as_bytes(), &salt)?.to_string())
    }

    /// Whether a password is the one that was hashed; takes as long when there is no hash.
    pub fn matches(&self, password: &str, hash: Option<&str>) -> bool {
        let parsed = PasswordHash::new(hash.unwrap_or(&self.nobody));
        let right = parsed.is_ok_and(|parsed| self.hasher.verify_password(password.as_bytes(), &parsed).is_ok());
        right && hash.is_some()
    }
}
