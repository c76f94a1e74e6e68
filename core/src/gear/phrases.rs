//! Names read by phrases: which phrase of a list says what a thing is.

use std::collections::HashMap;

/// Words behind which a name says what a thing is for or made of.
const BEHIND: [&str; 12] = ["for", "with", "of", "in", "from", "für", "mit", "aus", "pour", "avec", "en", "without"];

/// A phrase in small letters, and what it says.
struct Phrase<T> {
    words: Vec<String>,
    /// In French what a thing is stands first, in English and German last.
    head_first: bool,
    says: T,
}

/// Phrases, found by their last word, so that a name is read in the time that its own words take.
pub(crate) struct Phrases<T> {
    all: Vec<Phrase<T>>,
    by_last: HashMap<String, Vec<usize>>,
    /// Those whose last word has a star for its beginning or its end.
    starred: Vec<usize>,
}

impl<T> Phrases<T> {
    /// Each with whether its head stands first, and what it says.
    pub fn new<'t>(phrases: impl Iterator<Item = (&'t str, bool, T)>) -> Phrases<T> {
        let mut found = Phrases { all: Vec::new(), by_last: HashMap::new(), starred: Vec::new() };
        for (text, head_first, says) in phrases {
            let words = words_of(text);
            let Some(last) = words.last() else { continue };
            let at = found.all.len();
            if last.contains('*') {
                found.starred.push(at);
            } else {
                found.by_last.entry(last.clone()).or_default().push(at);
            }
            found.all.push(Phrase { words, head_first, says });
        }
        found
    }

    /// Whether one of them stands anywhere in a name.
    pub fn any_in(&self, name: &str) -> bool {
        !self.places(&words_of(name)).is_empty()
    }

    /// What the phrase says that tells what a thing of a name is; of equal ones the first.
    pub fn best(&self, name: &str) -> Option<&T> {
        let all = words_of(name);
        let behind = all.iter().position(|word| BEHIND.contains(&word.as_str())).filter(|at| *at > 0);
        let Some(at) = behind else { return self.among(&all) };
        // "set of stakes" is stakes, but "line for food" is no food.
        self.among(&all[..at]).or_else(|| self.among(&all).filter(|_| all[at] == "of"))
    }

    fn among(&self, words: &[String]) -> Option<&T> {
        let mut found = self.places(words);
        // "tent pole" is no tent: a phrase that holds another one speaks for both.
        let spans: Vec<(usize, usize)> = found.iter().map(|(from, to, _)| (*from, *to)).collect();
        found.retain(|(from, to, _)| !spans.iter().any(|(f, t)| f <= from && to <= t && t - f > to - from));
        // Of equal ones the last is taken: a whole word before the end of one, then the first of the list.
        let is_starred = |at: usize| self.all[at].words.last().is_some_and(|last| last.contains('*'));
        found.sort_by_key(|(_, _, at)| (!is_starred(*at), std::cmp::Reverse(*at)));
        let last = found.iter().filter(|(_, _, at)| !self.all[*at].head_first);
        let last = last.max_by_key(|(from, to, _)| (*to, to - from));
        last.or_else(|| found.iter().rev().min_by_key(|(from, _, _)| *from)).map(|(_, _, at)| &self.all[*at].says)
    }

    /// Where phrases stand among words: from, to, which.
    fn places(&self, words: &[String]) -> Vec<(usize, usize, usize)> {
        let mut found = Vec::new();
        for (at, word) in words.iter().enumerate() {
            let singular = ["s", "es"].iter().filter_map(|plural| word.strip_suffix(plural));
            let known =
                std::iter::once(word.as_str()).chain(singular).filter_map(|last| self.by_last.get(last)).flatten();
            let starred = self.starred.iter().filter(|phrase| {
                let last = self.all[**phrase].words.last().map_or("", String::as_str);
                let ends = last.strip_prefix('*').is_some_and(|end| word.len() > end.len() && word.ends_with(end));
                ends || last.strip_suffix('*').is_some_and(|beginning| word.starts_with(beginning))
            });
            for &phrase in known.chain(starred) {
                let before = &self.all[phrase].words[..self.all[phrase].words.len() - 1];
                if words[..at].ends_with(before) {
                    found.push((at - before.len(), at + 1, phrase));
                }
            }
        }
        found
    }
}

/// Words in small letters; hyphens part them, too. A star stays where it stands.
pub(crate) fn words_of(text: &str) -> Vec<String> {
    let lower = text.to_lowercase().replace('’', "'");
    let parts = lower.split(|c: char| !(c.is_alphanumeric() || matches!(c, '\'' | '*' | '.' | ',')));
    parts.map(|word| word.trim_matches(['.', ',']).to_owned()).filter(|word| !word.is_empty()).collect()
}
