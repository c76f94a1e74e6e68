//! Names read by phrases: which phrase of a list says what a thing is.

/// Words behind which a name says what a thing is for or made of.
const BEHIND: [&str; 12] = ["for", "with", "of", "in", "from", "für", "mit", "aus", "pour", "avec", "en", "without"];

/// A phrase in small letters, and what it says.
pub(crate) struct Phrase<T> {
    words: Vec<String>,
    /// In French what a thing is stands first, in English and German last.
    head_first: bool,
    /// What it says.
    pub says: T,
}

impl<T> Phrase<T> {
    /// A phrase, with a star for the beginning or the end of its last word; `None` without a word.
    pub fn new(text: &str, head_first: bool, says: T) -> Option<Phrase<T>> {
        let words = words_of(text);
        (!words.is_empty()).then_some(Phrase { words, head_first, says })
    }

    /// Where it stands among words.
    fn places(&self, words: &[String]) -> impl Iterator<Item = (usize, usize)> {
        let length = self.words.len();
        let starts = 0..(words.len() + 1).saturating_sub(length);
        starts.filter(move |at| fits(&self.words, &words[*at..at + length])).map(move |at| (at, at + length))
    }

    /// Whether it stands anywhere in a name.
    pub fn is_in(&self, name: &str) -> bool {
        self.places(&words_of(name)).next().is_some()
    }
}

/// Words in small letters; hyphens part them, too. A star stays where it stands.
pub(crate) fn words_of(text: &str) -> Vec<String> {
    let lower = text.to_lowercase().replace('’', "'");
    let parts = lower.split(|c: char| !(c.is_alphanumeric() || matches!(c, '\'' | '*' | '.' | ',')));
    parts.map(|word| word.trim_matches(['.', ',']).to_owned()).filter(|word| !word.is_empty()).collect()
}

/// The phrase that says what a thing of a name is; of equal ones the first.
pub(crate) fn best<'p, T>(phrases: &'p [Phrase<T>], name: &str) -> Option<&'p Phrase<T>> {
    let all = words_of(name);
    let head = all.iter().position(|word| BEHIND.contains(&word.as_str())).filter(|at| *at > 0).unwrap_or(all.len());
    among(phrases, &all[..head]).or_else(|| among(phrases, &all))
}

fn among<'p, T>(phrases: &'p [Phrase<T>], words: &[String]) -> Option<&'p Phrase<T>> {
    let mut found: Vec<(usize, usize, &Phrase<T>)> =
        phrases.iter().flat_map(|one| one.places(words).map(move |(from, to)| (from, to, one))).collect();
    // "tent pole" is no tent: a phrase that holds another one speaks for both.
    let spans: Vec<(usize, usize)> = found.iter().map(|(from, to, _)| (*from, *to)).collect();
    found.retain(|(from, to, _)| !spans.iter().any(|(f, t)| f <= from && to <= t && t - f > to - from));
    found.reverse();
    let last = found.iter().filter(|(_, _, one)| !one.head_first).max_by_key(|(from, to, _)| (*to, to - from));
    last.or_else(|| found.iter().rev().min_by_key(|(from, _, _)| *from)).map(|(_, _, one)| *one)
}

fn fits(phrase: &[String], words: &[String]) -> bool {
    let (last, before) = (phrase.len() - 1, ..phrase.len() - 1);
    if phrase[before] != words[before] {
        return false;
    }
    let word = words[last].as_str();
    if let Some(end) = phrase[last].strip_prefix('*') {
        return word.len() > end.len() && word.ends_with(end);
    }
    if let Some(beginning) = phrase[last].strip_suffix('*') {
        return word.starts_with(beginning);
    }
    word == phrase[last] || ["s", "es"].iter().any(|plural| word.strip_suffix(plural) == Some(&phrase[last]))
}
