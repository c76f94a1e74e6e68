//! Jobs and their amounts as lines have them.

use super::{JobUnit, KNOWN_JOBS, KnownJob};
use crate::limits;
use crate::quantity::{Energy, Mass, MassUnit, Volume};

/// A job and its amount as the quick line takes them: `!light`, `!shelter_pole=2`, `!water-carried=1000ml`, `!needs:stake=8`.
pub fn job_mark(known: &KnownJob, amount: i64, needed: bool) -> String {
    let amount = match known.unit {
        JobUnit::Count if amount == 1 => String::new(),
        JobUnit::Count => format!("={amount}"),
        JobUnit::TenthsOfR => format!("={}.{}", amount / 10, amount % 10),
        JobUnit::Ml => format!("={amount}ml"),
        JobUnit::G => format!("={amount}g"),
        // Four decimals: three could be thousands.
        JobUnit::Mwh => format!("={}.{:03}0Wh", amount / 1_000, amount % 1_000),
    };
    format!("!{}{}{amount}", if needed { "needs:" } else { "" }, known.name.replace(' ', "-"))
}

/// The known job that a word means: its key, or its name with hyphens.
fn job_of(word: &str) -> Option<&'static KnownJob> {
    let word = word.to_lowercase();
    KNOWN_JOBS.iter().find(|known| known.key == word.replace('-', "_") || known.name.replace(' ', "-") == word)
}

/// A job as a mark names it.
pub(crate) struct Marked {
    pub known: &'static KnownJob,
    /// Whether it is needed rather than done.
    pub needed: bool,
    pub amount: i64,
}

/// Reads a mark without its exclamation mark: `light`, `pole=2`, `needs:stake=8`.
pub(crate) fn read_mark(mark: &str) -> Result<Marked, String> {
    let (needed, word) = mark.strip_prefix("needs:").map_or((false, mark), |rest| (true, rest));
    let (key, amount) = word.split_once('=').map_or((word, None), |(key, amount)| (key, Some(amount)));
    let Some(known) = job_of(key) else {
        let names: Vec<String> = KNOWN_JOBS.iter().map(|known| known.name.replace(' ', "-")).collect();
        return Err(format!("\"{key}\" is not a job. Jobs: {}.", names.join(", ")));
    };
    Ok(Marked { known, needed, amount: job_amount(amount, known.unit)? })
}

/// The amount of a job in the unit that the job is counted in; one piece where none is typed.
fn job_amount(typed: Option<&str>, unit: JobUnit) -> Result<i64, String> {
    let Some(typed) = typed else {
        return match unit {
            JobUnit::Count => Ok(1),
            JobUnit::TenthsOfR => Err("How much? Type an R-value behind it, such as =3.2.".to_owned()),
            JobUnit::Ml => Err("How much? Type a volume behind it, such as =1l.".to_owned()),
            JobUnit::G => Err("How much? Type a weight behind it, such as =12kg.".to_owned()),
            JobUnit::Mwh => Err("How much? Type an energy behind it, such as =37Wh.".to_owned()),
        };
    };
    let read = match unit {
        JobUnit::Count => typed.parse().ok().filter(|pieces| (1..=i64::from(limits::COUNT)).contains(pieces)),
        JobUnit::TenthsOfR => tenths(typed),
        JobUnit::Ml => return Volume::parse(typed).map(Volume::ml).map_err(|refused| refused.to_string()),
        JobUnit::G => {
            return Mass::parse(typed, MassUnit::Kg)
                .map(|mass| mass.mg() / 1_000)
                .map_err(|refused| refused.to_string());
        }
        JobUnit::Mwh => return Energy::parse(typed).map(Energy::mwh).map_err(|refused| refused.to_string()),
    };
    read.ok_or_else(|| match unit {
        JobUnit::TenthsOfR => format!("\"{typed}\" is not read as an R-value. Type one from 0.1 to 20, such as 3.2."),
        _ => format!("\"{typed}\" is not read as a count. Type a whole number from 1 to {}.", limits::COUNT),
    })
}

/// An R-value with at most one decimal, in tenths.
pub(crate) fn tenths(typed: &str) -> Option<i64> {
    let (whole, tenth) = typed.split_once(['.', ',']).unwrap_or((typed, "0"));
    let digits = |text: &str| !text.is_empty() && text.bytes().all(|b| b.is_ascii_digit());
    let value = (digits(whole) && digits(tenth) && whole.len() <= 2 && tenth.len() == 1)
        .then(|| format!("{whole}{tenth}").parse::<i64>().ok())??;
    (1..=200).contains(&value).then_some(value)
}
