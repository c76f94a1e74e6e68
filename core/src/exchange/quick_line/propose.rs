//! What a name says of a thing: its system, and what one piece usually does and needs. From a list of words, which is data:
//! `words.tsv`. Proposed, to be taken or changed.

use super::jobs::{Marked, read_mark, tenths};
use crate::gear::phrases::{Phrases, words_of};
use crate::gear::{JobUnit, Jobs, System, known_job};
use crate::quantity::{Energy, Volume};
use std::sync::LazyLock;

/// What a name proposes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Proposal {
    /// The system.
    pub system: System,
    /// What one piece usually does, with amounts that the name states (`bottle 0.7 l`).
    pub provides: Jobs,
    /// What one piece usually needs.
    pub needs: Jobs,
}

static LIST: LazyLock<Phrases<Proposal>> =
    LazyLock::new(|| Phrases::new(include_str!("words.tsv").lines().flat_map(known_of)));

fn known_of(line: &str) -> Vec<(&str, bool, Proposal)> {
    let fields: Vec<&str> = line.split('\t').collect();
    let [language, phrases, system, jobs] = fields[..] else { return Vec::new() };
    let Some(system) = System::from_word(system).filter(|_| !line.starts_with('#')) else { return Vec::new() };
    let mut proposal = Proposal { system, provides: Jobs::new(), needs: Jobs::new() };
    for mark in jobs.split_whitespace() {
        // That each mark of the list is one is for its test to say.
        if let Some(Ok(Marked { known, needed, amount })) = mark.strip_prefix('!').map(read_mark) {
            let side = if needed { &mut proposal.needs } else { &mut proposal.provides };
            side.insert(known.job(), amount);
        }
    }
    let phrases = phrases.split(',');
    phrases.map(|text| (text, language == "fr", proposal.clone())).collect()
}

/// What a name proposes; `None` if it holds no known word.
pub fn propose(name: &str) -> Option<Proposal> {
    let all = words_of(name);
    let mut proposal = LIST.best(name)?.clone();
    for (job, amount) in &mut proposal.provides {
        let unit = known_job(job).map_or(JobUnit::Count, |known| known.unit);
        *amount = stated(&all, unit, job.as_str()).unwrap_or(*amount);
    }
    Some(proposal)
}

/// An amount that the name states in the unit of a job: `0.7 l`, `R 3.1`, `10000mAh`; a pack's bare number is its litres.
fn stated(words: &[String], unit: JobUnit, job: &str) -> Option<i64> {
    let pairs = words.windows(2).map(|pair| pair.join(" "));
    let mut texts = words.iter().cloned().chain(pairs);
    let has_unit = |text: &str| text.contains(|c: char| c.is_ascii_digit()) && text.contains(char::is_alphabetic);
    match unit {
        JobUnit::Ml => {
            let typed = texts.find_map(|text| Volume::parse(&text).ok().filter(|_| has_unit(&text)).map(Volume::ml));
            let bare =
                words.iter().filter_map(|word| word.parse::<i64>().ok()).find(|litres| (10..=120).contains(litres));
            typed.or_else(|| bare.filter(|_| job == "room").map(|litres| litres * 1_000))
        }
        JobUnit::Mwh => texts.find_map(|text| Energy::parse(&text).ok().filter(|_| has_unit(&text)).map(Energy::mwh)),
        JobUnit::TenthsOfR => texts.find_map(|text| {
            let figure = text.strip_prefix('r')?.trim_start_matches(" value").trim();
            tenths(figure)
        }),
        JobUnit::Count | JobUnit::G => None,
    }
}

#[cfg(test)]
mod tests {
    use super::super::jobs::read_mark;
    use super::LIST;
    use crate::gear::System;
    use std::collections::BTreeSet;

    #[test]
    fn every_line_of_the_list_is_read_to_its_end() {
        let (mut phrases, mut seen) = (0, BTreeSet::new());
        for line in include_str!("words.tsv").lines().filter(|line| !line.starts_with('#')) {
            let fields: Vec<&str> = line.split('\t').collect();
            assert_eq!(fields.len(), 4, "{line}");
            assert!(System::from_word(fields[2]).is_some(), "{line}");
            for mark in fields[3].split_whitespace() {
                assert!(mark.strip_prefix('!').is_some_and(|mark| read_mark(mark).is_ok()), "{mark} in {line}");
            }
            for phrase in fields[1].split(',') {
                phrases += 1;
                assert!(seen.insert((fields[0].to_owned(), phrase.trim().to_owned())), "{phrase} stands twice");
            }
        }
        assert_eq!(LIST.len(), phrases);
    }
}
