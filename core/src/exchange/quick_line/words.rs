//! A line in words, and a name without what parts it from them.

/// A word of a line, or a stretch of it in quotes.
pub(super) struct Word<'a> {
    pub text: &'a str,
    pub quoted: bool,
}

impl Word<'_> {
    /// A comma or semicolon behind it ends whatever it is part of.
    pub fn ends(&self) -> bool {
        self.text.len() > 1 && self.text.ends_with([',', ';'])
    }
}

/// The words of a line.
pub(super) fn words(line: &str) -> Vec<Word<'_>> {
    let mut out = Vec::new();
    // A space that groups the digits of a figure is part of it.
    let is_space = |c: char| c.is_whitespace() && !matches!(c, '\u{a0}' | '\u{202f}' | '\u{2009}');
    let mut rest = line.trim();
    while !rest.is_empty() {
        let quoted = rest.strip_prefix(['"', '“', '”', '„']).and_then(|inner| {
            let end = inner.find(['"', '“', '”'])?;
            Some((&inner[..end], inner[end..].trim_start_matches(['"', '“', '”'])))
        });
        let (text, after) = quoted.unwrap_or_else(|| rest.split_at(rest.find(is_space).unwrap_or(rest.len())));
        if !text.trim().is_empty() {
            out.push(Word { text: text.trim(), quoted: quoted.is_some() });
        }
        rest = after.trim_start();
    }
    out
}

/// A name without what parts it from the figures around it.
pub(super) fn tidy(name: &str) -> &str {
    let parts = |c: char| c.is_whitespace() || matches!(c, ',' | ';' | ':' | '|' | '·' | '–' | '—');
    let mut name = name;
    loop {
        let trimmed = name.trim_matches(parts);
        let trimmed = trimmed.strip_suffix(" -").or_else(|| trimmed.strip_prefix("- ")).unwrap_or(trimmed);
        match trimmed {
            "-" => return "",
            same if same == name => return same,
            shorter => name = shorter,
        }
    }
}
