//! What stands in a cell: figures in one reading, counts, and jobs.

use super::Decimal;
use crate::gear::{Job, Jobs, present_key};
use crate::limits;
use crate::quantity::{Mass, MassUnit};

/// A figure with the decimal mark of its column, in the one reading that it then has: marks of thousands left out, and a
/// zero behind three decimals, which could be thousands no more.
pub(super) fn with_decimal(text: &str, decimal: Decimal) -> String {
    let (decimal, thousands) = if decimal == Decimal::Comma { (',', '.') } else { ('.', ',') };
    let text: String = text.chars().filter(|c| *c != thousands).map(|c| if c == decimal { '.' } else { c }).collect();
    let Some(mark) = text.find('.') else { return text };
    let digits = text[mark + 1..].bytes().take_while(u8::is_ascii_digit).count();
    if digits == 3 { format!("{}0{}", &text[..mark + 4], &text[mark + 4..]) } else { text }
}

pub(super) fn mass(text: &str, unit: MassUnit) -> Result<Mass, String> {
    Mass::parse(text, unit).map_err(|refused| refused.to_string())
}

pub(super) fn whole(text: &str, least: u32, most: u32) -> Result<u32, String> {
    let read = text.parse().ok().filter(|number| (least..=most).contains(number));
    read.ok_or_else(|| format!("\"{text}\" is not read as a count. Type a whole number from {least} to {most}."))
}

/// `light=1 shelter_pole=2`; files from before the open formats settled the keys have others.
pub(super) fn read_jobs(text: &str) -> Result<Jobs, String> {
    let pair = |pair: &str| {
        let (key, amount) = pair.split_once('=').unwrap_or((pair, "1"));
        let amount = amount.parse().ok().filter(|amount| (1..=limits::JOB_AMOUNT).contains(amount));
        Job::new(present_key(key))
            .zip(amount)
            .ok_or_else(|| format!("\"{pair}\" is not read as a job. Type pairs such as light=1 shelter_pole=2."))
    };
    let jobs: Jobs = text.split_whitespace().map(pair).collect::<Result<_, _>>()?;
    if jobs.len() > limits::JOBS {
        return Err(format!("{} jobs are too many for one thing. Name at most {}.", jobs.len(), limits::JOBS));
    }
    Ok(jobs)
}
