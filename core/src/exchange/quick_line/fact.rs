//! Facts that a name states beside its words, read where its kind has them: `-5C` of a quilt, `R4.5` of a pad, `45l` of a pack, `for 2` of a
//! tent; and where its pieces start on a list.

use crate::gear::job_mark::tenths;
use crate::gear::{Job, Kind, Rating, RatingKind, Start, System};
use crate::limits;
use crate::quantity::{Energy, Temperature, Units, Volume};

/// A fact.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Fact {
    /// How warm it is rated.
    Rating(Rating),
    /// A job that it does, and how much of it.
    Does(Job, i64),
    /// Where its pieces start on a list.
    Start(Start),
    /// How long it took to make, in tenths of an hour.
    Made(u32),
}

const STARTS: [(&str, Start); 15] = [
    ("worn", Start::Worn),
    ("angezogen", Start::Worn),
    ("getragen", Start::Worn),
    ("porté", Start::Worn),
    ("portée", Start::Worn),
    ("carried", Start::Carried),
    ("im rucksack", Start::Carried),
    ("dans le sac", Start::Carried),
    ("used up", Start::UsedUp),
    ("consumed", Start::UsedUp),
    ("consumable", Start::UsedUp),
    ("verbraucht", Start::UsedUp),
    ("consommé", Start::UsedUp),
    ("counted apart", Start::Apart),
    ("apart", Start::Apart),
];

/// What a run of words states of a thing of some kind; `None` if they are none of its facts.
pub(super) fn read(text: &str, kind: Option<&Kind>) -> Option<Fact> {
    let text = text.to_lowercase();
    if let Some((_, start)) = STARTS.iter().find(|(words, _)| *words == text) {
        return Some(Fact::Start(*start));
    }
    let kind = kind?;
    if kind.is_rated()
        && let Some(rating) = rating(&text)
    {
        return Some(Fact::Rating(rating));
    }
    let does = |job: &str| kind.provides.get_key_value(job).map(|(job, _)| job.clone());
    let stated = |job: &str, amount: Option<i64>| Some(Fact::Does(does(job)?, amount.filter(|amount| *amount > 0)?));
    let has_unit = text.contains(|c: char| c.is_ascii_digit()) && text.contains(char::is_alphabetic);
    let litres = || Volume::parse(&text).ok().filter(|_| has_unit).map(Volume::ml);
    let energy = || Energy::parse(&text).ok().filter(|_| has_unit).map(Energy::mwh);
    stated("ground_insulation", r_value(&text))
        .or_else(|| stated("room", litres()))
        .or_else(|| stated("water_carried", litres()))
        .or_else(|| stated("power", energy()))
        .or_else(|| stated("shelter", persons(&text)))
        .or_else(|| tenth_hours(&text).filter(|_| is_made(kind)).map(Fact::Made))
}

/// What the words of a whole name state that stays in it, as of a thing out of a file. A pack's bare number is its litres.
pub(super) fn stated(name: &str, kind: &Kind) -> Vec<Fact> {
    let words: Vec<&str> = name.split_whitespace().map(|word| word.trim_matches([',', ';', '(', ')'])).collect();
    let runs = (1..=3).rev().flat_map(|length| words.windows(length));
    let mut facts: Vec<Fact> = Vec::new();
    for fact in runs.filter_map(|run| read(&run.join(" "), Some(kind))) {
        let is_there = facts.iter().any(|other| match (&fact, other) {
            (Fact::Does(job, _), Fact::Does(other, _)) => job == other,
            (one, other) => std::mem::discriminant(one) == std::mem::discriminant(other),
        });
        if !is_there {
            facts.push(fact);
        }
    }
    facts.extend(bare_litres(name, kind).filter(|_| !facts.iter().any(|fact| matches!(fact, Fact::Does(..)))));
    facts
}

/// A pack's litres, as a bare number of its name.
pub(super) fn bare_litres(name: &str, kind: &Kind) -> Option<Fact> {
    let (room, _) = kind.provides.get_key_value("room")?;
    let litres = name.split_whitespace().filter_map(|word| word.parse::<i64>().ok()).find(|at| (10..=120).contains(at));
    litres.map(|litres| Fact::Does(room.clone(), litres * 1_000))
}

/// `-5C`, `20 °F`, `comfort -2C`, `limit -7 °C`.
fn rating(text: &str) -> Option<Rating> {
    let kinds = [
        ("comfort", RatingKind::Comfort),
        ("komfort", RatingKind::Comfort),
        ("confort", RatingKind::Comfort),
        ("limit", RatingKind::Limit),
        ("limite", RatingKind::Limit),
        ("extreme", RatingKind::Extreme),
        ("extrem", RatingKind::Extreme),
        ("extrême", RatingKind::Extreme),
        ("rated", RatingKind::Unknown),
    ];
    let said = kinds.into_iter().find_map(|(word, kind)| {
        let rest = text.strip_prefix(word).and_then(|rest| rest.strip_prefix([' ', ':'])).or(text.strip_suffix(word))?;
        Some((rest.trim(), kind))
    });
    let (figure, kind) = said.unwrap_or((text, RatingKind::Unknown));
    let unit = figure.trim_end().chars().last().filter(|unit| matches!(unit, 'c' | 'f'))?;
    let digits = figure.trim_end_matches(unit).trim_end_matches(['°', ' ', 'º']);
    let is_figure = digits.ends_with(|c: char| c.is_ascii_digit());
    let at = is_figure.then(|| Temperature::parse(&format!("{digits} {unit}"), Units::Metric).ok())??;
    Some(Rating { kind, at })
}

/// `R4.5`, `R 4.5`, `R-value 4.5`, in tenths.
fn r_value(text: &str) -> Option<i64> {
    let rest = text.strip_prefix("r-value").or(text.strip_prefix("r-wert")).or(text.strip_prefix('r'))?;
    tenths(
        rest.trim_start_matches([' ', '=', ':', '-'])
            .strip_prefix("value ")
            .unwrap_or(rest.trim_start_matches([' ', '=', ':', '-'])),
    )
}

/// `for 2`, `for two`, `2p`, `2-person`.
fn persons(text: &str) -> Option<i64> {
    let number = |word: &str| {
        let words = ["one", "two", "three", "four", "five", "six"];
        let named = words.iter().position(|known| *known == word).map(|at| at + 1);
        named
            .or_else(|| word.parse().ok())
            .filter(|persons| (1..=12).contains(persons))
            .and_then(|n| i64::try_from(n).ok())
    };
    if let Some(rest) = ["for ", "für ", "pour "].iter().find_map(|word| text.strip_prefix(word)) {
        let rest = [" people", " persons", " personen", " personnes"]
            .iter()
            .find_map(|word| rest.strip_suffix(word))
            .unwrap_or(rest);
        return number(rest);
    }
    let behind = ["person", "persons", "people", "man", "personen", "personnes", "places", "p"];
    let figure = behind.iter().find_map(|word| text.strip_suffix(word))?;
    number(figure.trim_end_matches(['-', ' ']))
}

/// `9h`, `1.5 hours`, `90 min`, in tenths of an hour, rounded up.
fn tenth_hours(text: &str) -> Option<u32> {
    let of = |units: &[&str]| units.iter().find_map(|unit| text.strip_suffix(unit)).map(str::trim_end);
    let (figure, parts) = match (
        of(&["minutes", "minute", "mins", "min"]),
        of(&["hours", "hour", "hrs", "hr", "h", "stunden", "heures"]),
    ) {
        (Some(figure), _) => (figure, 60),
        (None, Some(figure)) => (figure, 1),
        _ => return None,
    };
    let (whole, tenth) = figure.split_once(['.', ',']).unwrap_or((figure, "0"));
    let digits = |text: &str| !text.is_empty() && text.len() <= 4 && text.bytes().all(|b| b.is_ascii_digit());
    let tenths: u32 =
        (digits(whole) && digits(tenth) && tenth.len() == 1).then(|| format!("{whole}{tenth}").parse().ok())??;
    let hours = tenths.div_ceil(parts);
    (hours > 0 && i64::from(hours) <= limits::TENTH_HOURS).then_some(hours)
}

/// Whether hours in a name are those of making: those of a lamp or a flask are how long it lasts.
fn is_made(kind: &Kind) -> bool {
    !matches!(kind.system, System::Power | System::Kitchen | System::Water | System::Way | System::Food)
}
