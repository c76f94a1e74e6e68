//! What a problem file may say: every figure within its limits, every id once and there.

use super::Meet;
use super::night::{GROUND, Warmth};
use super::problem::{Problem, ProblemError};
use crate::gear::{Jobs, Known};
use crate::limits;
use crate::list::{Line, LineId, LinkedKits, Place};
use crate::swap::{Swap, SwapId};
use std::collections::HashMap;
use std::fmt::Display;

pub(super) fn index_lines(problem: &Problem) -> Result<HashMap<&LineId, &Line>, ProblemError> {
    at_most("lines", problem.lines.len(), limits::LINES)?;
    let mut lines = HashMap::new();
    for (at, line) in problem.lines.iter().enumerate() {
        let path = format_args!("lines[{at}]");
        if lines.insert(&line.id, line).is_some() {
            return Err(error(format!("{path}.id"), "an id that no other line has", &line.id.0));
        }
        for (field, place) in PLACES {
            within(format_args!("{path}.{field}"), [i64::from(line.counts.at(place))], limits::COUNT.into())?;
        }
        check_weight(path, line.weight)?;
        check_jobs(path, &line.provides, &line.needs)?;
    }
    Ok(lines)
}

pub(super) fn index_swaps(problem: &Problem) -> Result<HashMap<&SwapId, usize>, ProblemError> {
    at_most("swaps", problem.swaps.len(), limits::SWAPS)?;
    let mut swaps = HashMap::new();
    for (at, swap) in problem.swaps.iter().enumerate() {
        if swaps.insert(&swap.id, at).is_some() {
            return Err(error(format!("swaps[{at}].id"), "an id that no other swap has", &swap.id.0));
        }
    }
    let entries = |swap: &Swap| swap.remove.len() + swap.add.len() + swap.requires.len() + swap.excludes.len();
    let found: usize = problem.swaps.iter().map(entries).sum();
    if found > limits::ENTRIES {
        let expected =
            format!("at most {} entries in remove, add, requires and excludes of all swaps", limits::ENTRIES);
        return Err(error("swaps".to_owned(), &expected, &found.to_string()));
    }
    Ok(swaps)
}

pub(super) fn check_night(problem: &Problem) -> Result<(), ProblemError> {
    at_most("meet", problem.terms.meet.len(), limits::JOBS)?;
    let asks_night = |meet: &Meet| matches!(meet, Meet::Warmth | Meet::Ground);
    let Some(night) = &problem.night else {
        return match problem.terms.meet.iter().position(asks_night) {
            Some(at) => {
                let expected = "names of jobs: without sleep there is no night to be warm in";
                Err(error(format!("meet[{at}]"), expected, problem.terms.meet[at].key()))
            }
            None => Ok(()),
        };
    };
    let (coldest, hottest) = limits::TENTHS_OF_DEGREE;
    let widest = hottest - coldest;
    let degrees = |path: String, found: i64, from: i64, to: i64| {
        let is_within = (from..=to).contains(&found);
        let expected = format!("tenths of a degree from {from} to {to}");
        if is_within { Ok(()) } else { Err(error(path, &expected, &found.to_string())) }
    };
    degrees("sleep.low_tenth_c".to_owned(), night.low, coldest, hottest)?;
    degrees("sleep.offset_tenth_c".to_owned(), night.offset, -widest, widest)?;
    within("sleep.ground_tenth_r", [night.ground], limits::JOB_AMOUNT)?;
    let of_lines =
        problem.lines.iter().enumerate().map(|(at, line)| (format!("lines[{at}]"), night.lines.get(&line.id)));
    let of_swaps = problem.swaps.iter().enumerate().flat_map(|(at, swap)| {
        let sides = 0..swap.add.len();
        sides.map(move |side| (format!("swaps[{at}].add[{side}]"), night.additions.get(&(swap.id.clone(), side))))
    });
    for (path, warmth) in of_lines.chain(of_swaps).filter_map(|(path, warmth)| Some((path, warmth?))) {
        degrees(format!("{path}.warms_tenth_c"), warmth.adds, 0, widest)?;
        let rated = warmth.rating.map_or(0, |rating| rating.at.tenths());
        degrees(format!("{path}.rating.tenth_c"), rated, coldest, hottest)?;
    }
    let is_pad = |provides: &Jobs| provides.keys().any(|job| job.as_str() == GROUND);
    let is_warm = |warmth: Option<&Warmth>| warmth.is_some_and(|warmth| *warmth != Warmth::default());
    let lines = problem.lines.iter().filter(|line| is_pad(&line.provides) || is_warm(night.lines.get(&line.id)));
    let added = problem.swaps.iter().flat_map(|swap| {
        let sides = swap.add.iter().enumerate();
        sides.filter(|(at, one)| is_pad(&one.provides) || is_warm(night.additions.get(&(swap.id.clone(), *at))))
    });
    let found = lines.count() + added.count();
    if found > limits::NIGHT_THINGS {
        let expected =
            format!("at most {} things that are rated, warm a bed or lie under the back", limits::NIGHT_THINGS);
        return Err(error("sleep".to_owned(), &expected, &found.to_string()));
    }
    Ok(())
}

pub(super) fn check_kits(problem: &Problem, lines: &HashMap<&LineId, &Line>) -> Result<(), ProblemError> {
    at_most("kits", problem.kits.len(), limits::LINES)?;
    for (at, kit) in problem.kits.iter().enumerate() {
        let path = format_args!("kits[{at}]");
        within(format_args!("{path}.mg"), [kit.weighed.mg()], limits::MASS_MG)?;
        at_most(format_args!("{path}.parts"), kit.parts.len(), limits::PARTS)?;
        for (part, (line, qty)) in kit.parts.iter().enumerate() {
            let twice = kit.parts.iter().take(part).any(|(earlier, _)| earlier == line);
            if twice || !lines.contains_key(line) {
                let expected = "the id of one of the lines, each once";
                return Err(error(format!("{path}.parts[{part}].line"), expected, &line.0));
            }
            count(format_args!("{path}.parts[{part}].qty"), *qty)?;
        }
    }
    let kept = LinkedKits::new(&problem.kits).kept();
    if let Some(at) = (0..problem.kits.len()).find(|at| !kept.contains(at)) {
        let expected = format!("at most {} kits that share lines", limits::LINKED_KITS);
        return Err(error(format!("kits[{at}].parts"), &expected, &problem.kits[at].name));
    }
    Ok(())
}

pub(super) fn check_swap(
    at: usize,
    swap: &Swap,
    lines: &HashMap<&LineId, &Line>,
    swaps: &HashMap<&SwapId, usize>,
) -> Result<(), ProblemError> {
    let path = format_args!("swaps[{at}]");
    at_most(format_args!("{path}.remove"), swap.remove.len(), limits::SIDE)?;
    at_most(format_args!("{path}.add"), swap.add.len(), limits::SIDE)?;
    for (side, removal) in swap.remove.iter().enumerate() {
        if !lines.contains_key(&removal.line) {
            return Err(error(format!("{path}.remove[{side}].line"), "the id of one of the lines", &removal.line.0));
        }
        count(format_args!("{path}.remove[{side}].qty"), removal.qty)?;
        counted(format_args!("{path}.remove[{side}].from"), removal.from)?;
    }
    for (side, addition) in swap.add.iter().enumerate() {
        let path = format_args!("{path}.add[{side}]");
        count(format_args!("{path}.qty"), addition.qty)?;
        check_weight(path, addition.weight)?;
        counted(format_args!("{path}.as"), addition.place)?;
        let high = addition.price.map(|price| price.high().minor());
        within(format_args!("{path}.price_minor"), high, limits::MONEY_MINOR)?;
        check_jobs(path, &addition.provides, &addition.needs)?;
    }
    within(format_args!("{path}.delivery_minor"), [swap.delivery.minor()], limits::MONEY_MINOR)?;
    within(format_args!("{path}.resale_minor"), [swap.resale.minor()], limits::MONEY_MINOR)?;
    within(format_args!("{path}.tenth_hours"), [swap.tenth_hours], limits::TENTH_HOURS)?;
    for (field, links) in [("requires", &swap.requires), ("excludes", &swap.excludes)] {
        at_most(format_args!("{path}.{field}"), links.len(), limits::LINKS)?;
        for (link, id) in links.iter().enumerate() {
            if *id == swap.id || !swaps.contains_key(id) {
                return Err(error(format!("{path}.{field}[{link}]"), "the id of another swap", &id.0));
            }
        }
    }
    Ok(())
}

const PLACES: [(&str, Place); 5] = [
    ("carried", Place::Carried),
    ("worn", Place::Worn),
    ("used_up", Place::UsedUp),
    ("apart", Place::Apart),
    ("left", Place::Left),
];

/// What a swap takes off comes along, and so does what it puts on.
fn counted(path: impl Display, place: Place) -> Result<(), ProblemError> {
    if Place::COUNTED.contains(&place) {
        return Ok(());
    }
    let found = PLACES.iter().find(|known| known.1 == place).map_or("", |known| known.0);
    Err(error(path.to_string(), "carried, worn or used_up", found))
}

fn check_weight(path: impl Display + Copy, weight: Option<Known>) -> Result<(), ProblemError> {
    let Some(weight) = weight else { return Ok(()) };
    within(format_args!("{path}.unit_mg"), [weight.unit.mg()], limits::MASS_MG)?;
    // What is calculated can be a little over what can be typed.
    within(format_args!("{path}.expected_mg"), [weight.expected.mg()], limits::MASS_MG * 2)?;
    within(format_args!("{path}.high_mg"), [weight.high().mg()], limits::MASS_MG * 2)
}

fn check_jobs(path: impl Display + Copy, provides: &Jobs, needs: &Jobs) -> Result<(), ProblemError> {
    for (field, jobs) in [("provides", provides), ("needs", needs)] {
        let path = format_args!("{path}.{field}");
        at_most(path, jobs.len(), limits::JOBS)?;
        within(path, jobs.values().copied(), limits::JOB_AMOUNT)?;
    }
    Ok(())
}

pub(super) fn within(path: impl Display, values: impl IntoIterator<Item = i64>, most: i64) -> Result<(), ProblemError> {
    match values.into_iter().find(|value| !(0..=most).contains(value)) {
        Some(found) => Err(error(path.to_string(), &format!("a whole number from 0 to {most}"), &found.to_string())),
        None => Ok(()),
    }
}

fn count(path: impl Display, qty: u32) -> Result<(), ProblemError> {
    if (1..=limits::COUNT).contains(&qty) {
        return Ok(());
    }
    Err(error(path.to_string(), &format!("a count from 1 to {}", limits::COUNT), &qty.to_string()))
}

pub(super) fn at_most(path: impl Display, found: usize, most: usize) -> Result<(), ProblemError> {
    if found <= most {
        return Ok(());
    }
    Err(error(path.to_string(), &format!("at most {most} entries"), &found.to_string()))
}

pub(super) fn error(path: String, expected: &str, found: &str) -> ProblemError {
    ProblemError { path, expected: expected.to_owned(), found: format!("\"{found}\"") }
}
