//! Reading `kevyt-problem/1`, `/2` and `/3`.

mod file;
mod lists;
mod version;

pub use version::Version;

use super::path_of;
use crate::gear::{Band, Counting, Known, Rating, Tags};
use crate::limits;
use crate::list::{Counts, Line, LineId, WeighedKit};
use crate::plan::lists::ListsProblem;
use crate::plan::{Hung, Meet, Night, Problem, ProblemError, Purse, TargetOf, Terms, Warmth};
use crate::quantity::{Currency, Mass, Money, PriceRange};
use crate::swap::{Addition, Removal, Selling, Swap};
use file::{HungFile, KitFile, LineFile, PartFile, ProblemFile, SleepFile, SwapFile};
use lists::{check_lists, read_acting, read_lists};
use std::collections::HashMap;
use version::read_version;

/// What a file asks about.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum AnyProblem {
    /// One list, in one of the formats.
    One(Box<Problem>, Version),
    /// Several lists.
    Lists(Box<ListsProblem>),
}

/// Reads a problem of one list: as [`read_any_problem`], which see.
///
/// # Errors
/// Where several lists are asked about, too.
pub fn read_problem(json: &str) -> Result<(Problem, Version), ProblemError> {
    match read_any_problem(json)? {
        AnyProblem::One(problem, version) => Ok((*problem, version)),
        AnyProblem::Lists(_) => Err(wrong("lists", "one list", "several lists")),
    }
}

/// Reads a problem from its JSON text, and says in which of the formats it is. Unknown fields are refused, since a misspelt one would
/// change the answer in silence. [`crate::plan::Ready::new`] checks what the values say to each other.
///
/// # Errors
/// [`ProblemError`] with the JSON path of the first value that can't be read and what was expected there.
pub fn read_any_problem(json: &str) -> Result<AnyProblem, ProblemError> {
    let mut reader = serde_json::Deserializer::from_str(json);
    let file: ProblemFile = serde_path_to_error::deserialize(&mut reader).map_err(|error| ProblemError {
        path: path_of(&error.path().to_string()),
        expected: "a value of kevyt-problem/1, /2 or /3".to_owned(),
        found: error.into_inner().to_string(),
    })?;
    reader.end().map_err(|error| wrong(".", "nothing after the problem", &error.to_string()))?;
    let version = read_version(&file)?;
    check_lists(&file)?;
    let (night, lists) = (file.sleep.as_ref().map(|sleep| read_night(&file, sleep)), read_lists(&file));
    let acting =
        file.swaps.iter().enumerate().map(|(at, swap)| read_acting(at, swap, &lists)).collect::<Result<_, _>>();
    let meet = file.meet.iter().enumerate().map(|(at, meet)| read_meet(at, meet)).collect::<Result<_, _>>()?;
    let currency = Currency::from_code(&file.currency)
        .ok_or_else(|| wrong("currency", "an ISO 4217 code such as \"EUR\"", &file.currency))?;
    one_kit_each(&file.kits)?;
    let lines = file.lines.into_iter().enumerate().map(|(at, line)| read_line(at, line)).collect::<Result<_, _>>()?;
    let swaps = file.swaps.into_iter().enumerate().map(|(at, swap)| read_swap(at, swap)).collect::<Result<_, _>>()?;
    let problem = Problem {
        currency,
        lines,
        kits: file.kits.into_iter().map(read_kit).collect(),
        swaps,
        require: file.require,
        heaviest_start: file.heaviest_start_mg.map(Mass::from_mg),
        gas: HashMap::new(),
        night,
        target: Mass::from_mg(file.target_mg.unwrap_or_default()),
        budget: Money::from_minor(file.budget_minor),
        hour_rate: Money::from_minor(file.hour_minor),
        terms: Terms {
            counting: Counting::Stated,
            rank_by: file.rank_by.unwrap_or_default(),
            target_of: TargetOf::Base,
            purse: file.money.map(Purse::from),
            selling: Selling::default(),
            meet,
        },
    };
    let problem = problem.counted(file.counting.unwrap_or_default());
    Ok(match lists {
        Some(lists) => AnyProblem::Lists(Box::new(ListsProblem { whole: problem, lists, acting: acting? })),
        None => AnyProblem::One(Box::new(problem), version),
    })
}

/// A night, with what the things of a file are to it.
fn read_night(file: &ProblemFile, sleep: &SleepFile) -> Night {
    let warmth = |rating: Option<Rating>, adds: Option<i64>, is: Option<HungFile>| {
        let hung = is.map(|is| match is {
            HungFile::Hammock => Hung::Hammock,
            HungFile::Underquilt => Hung::Underquilt,
        });
        Warmth { rating, adds: adds.unwrap_or(0), hung }
    };
    let lines = file.lines.iter().map(|line| (line.id.clone(), warmth(line.rating, line.warms_tenth_c, line.is)));
    let additions = file.swaps.iter().flat_map(|swap| {
        let sides = swap.add.iter().enumerate();
        sides.map(|(at, one)| ((swap.id.clone(), at), warmth(one.rating, one.warms_tenth_c, one.is)))
    });
    Night {
        low: sleep.low_tenth_c,
        offset: sleep.offset_tenth_c,
        ground: sleep.ground_tenth_r,
        lines: lines.filter(|(_, warmth)| *warmth != Warmth::default()).collect(),
        additions: additions.filter(|(_, warmth)| *warmth != Warmth::default()).collect(),
        beside: Vec::new(),
    }
}

fn read_meet(at: usize, meet: &str) -> Result<Meet, ProblemError> {
    Meet::new(meet).ok_or_else(|| wrong(&format!("meet[{at}]"), "warmth, ground or the name of a job", meet))
}

/// No line is in two kits.
fn one_kit_each(kits: &[KitFile]) -> Result<(), ProblemError> {
    let mut kit_of: HashMap<&LineId, usize> = HashMap::new();
    for (at, kit) in kits.iter().enumerate() {
        for (part, PartFile { line, .. }) in kit.parts.iter().enumerate() {
            if kit_of.insert(line, at).is_some_and(|other| other != at) {
                return Err(wrong(&format!("kits[{at}].parts[{part}].line"), "a line of no other kit", &line.0));
            }
        }
    }
    Ok(())
}

/// A weight with its band.
fn read_weight(
    path: &str,
    unit: Option<i64>,
    [low, high, expected]: [Option<i64>; 3],
) -> Result<Option<Known>, ProblemError> {
    let Some(unit) = unit else {
        let fields = [("low_mg", low), ("high_mg", high), ("expected_mg", expected)];
        return match fields.into_iter().find_map(|(field, mg)| Some((field, mg?))) {
            Some((field, mg)) => {
                Err(wrong(&format!("{path}.{field}"), "nothing beside an unknown unit_mg", &mg.to_string()))
            }
            None => Ok(None),
        };
    };
    let (low, high, expected) = (low.unwrap_or(unit), high.unwrap_or(unit), expected.unwrap_or(unit));
    let most = limits::MASS_MG * 2;
    for (field, mg, (from, to)) in
        [("low_mg", low, (0, unit)), ("high_mg", high, (unit, most)), ("expected_mg", expected, (0, most))]
    {
        if !(from..=to).contains(&mg) && (0..=limits::MASS_MG).contains(&unit) {
            return Err(wrong(
                &format!("{path}.{field}"),
                &format!("a whole number from {from} to {to}"),
                &mg.to_string(),
            ));
        }
    }
    let unit = Mass::from_mg(unit);
    let band = Band { low: Mass::from_mg(low) - unit, high: Mass::from_mg(high) - unit };
    Ok(Some(Known { band, expected: Mass::from_mg(expected), ..Known::exactly(unit) }))
}

fn read_line(at: usize, line: LineFile) -> Result<Line, ProblemError> {
    let band = [line.low_mg, line.high_mg, line.expected_mg];
    Ok(Line {
        weight: read_weight(&format!("lines[{at}]"), line.unit_mg, band)?,
        id: line.id,
        name: line.name,
        counts: Counts { carried: line.carried, worn: line.worn, used_up: line.used_up, ..Counts::default() },
        tags: Tags::default(),
        provides: line.provides,
        needs: line.needs,
    })
}

fn read_kit(kit: KitFile) -> WeighedKit {
    WeighedKit {
        name: kit.name,
        weighed: Mass::from_mg(kit.mg),
        parts: kit.parts.into_iter().map(|part| (part.line, part.qty)).collect(),
    }
}

fn read_swap(at: usize, swap: SwapFile) -> Result<Swap, ProblemError> {
    let add = swap.add.into_iter().enumerate().map(|(side, addition)| {
        let price = match addition.price_minor {
            None => None,
            Some((low, high)) => {
                let price = PriceRange::new(Money::from_minor(low), Money::from_minor(high));
                let path = format!("swaps[{at}].add[{side}].price_minor");
                Some(
                    price
                        .ok_or_else(|| wrong(&path, "[low, high], neither below zero", &format!("[{low}, {high}]")))?,
                )
            }
        };
        let band = [addition.low_mg, addition.high_mg, addition.expected_mg];
        Ok(Addition {
            weight: read_weight(&format!("swaps[{at}].add[{side}]"), addition.unit_mg, band)?,
            name: addition.name,
            qty: addition.qty,
            price,
            place: addition.place.unwrap_or_default(),
            provides: addition.provides,
            needs: addition.needs,
            gas: Mass::ZERO,
        })
    });
    Ok(Swap {
        add: add.collect::<Result<_, _>>()?,
        id: swap.id,
        name: swap.name,
        kind: swap.kind,
        state: swap.state,
        remove: swap
            .remove
            .into_iter()
            .map(|r| Removal { line: r.line, qty: r.qty, from: r.from.unwrap_or_default() })
            .collect(),
        delivery: Money::from_minor(swap.delivery_minor),
        ordered_from: swap.ordered_from,
        resale: Money::from_minor(swap.resale_minor),
        tenth_hours: swap.tenth_hours,
        requires: swap.requires,
        excludes: swap.excludes,
    })
}

fn wrong(path: &str, expected: &str, found: &str) -> ProblemError {
    ProblemError { path: path.to_owned(), expected: expected.to_owned(), found: format!("\"{found}\"") }
}
