//! Asking services outside: for a while at most, and for no more than a little.

use serde::de::DeserializeOwned;
use std::time::Duration;

/// How long a service outside may take: less than the two seconds after which somebody is told.
const OUTSIDE_TIMEOUT: Duration = Duration::from_millis(1_800);
/// The longest answer that is read, in bytes.
const LONGEST: usize = 60_000;

/// Why there is no answer.
pub enum Failed {
    /// Nothing came, or too late.
    Silent,
    /// What came is nothing that such a service would say.
    Nonsense,
    /// It does not know what it was asked for; what it said to that.
    Unknown(Vec<u8>),
}

/// Asks for JSON.
pub async fn ask<T: DeserializeOwned>(url: String, query: &[(&str, &str)]) -> Result<T, Failed> {
    let asked = async {
        // Whoever is asked answers: nobody sends this server elsewhere.
        let client = reqwest::Client::builder().redirect(reqwest::redirect::Policy::none()).build();
        let client = client.map_err(|_| Failed::Silent)?;
        let mut response = client.get(url).query(query).send().await.map_err(|_| Failed::Silent)?;
        if response.status().is_redirection() {
            return Err(Failed::Nonsense);
        }
        let is_unknown = response.status() == reqwest::StatusCode::NOT_FOUND;
        let mut text = Vec::new();
        while let Some(more) = response.chunk().await.map_err(|_| Failed::Silent)? {
            text.extend_from_slice(&more);
            if text.len() > LONGEST {
                return Err(Failed::Nonsense);
            }
        }
        if is_unknown {
            Err(Failed::Unknown(text))
        } else {
            serde_json::from_slice(&text).map_err(|_| Failed::Nonsense)
        }
    };
    tokio::time::timeout(OUTSIDE_TIMEOUT, asked).await.unwrap_or(Err(Failed::Silent))
}
