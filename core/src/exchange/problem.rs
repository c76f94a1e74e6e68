//! Reading `kevyt-problem/1`, `/2` and `/3`.

use super::path_of;
use crate::gear::{Band, Counting, Jobs, Known, Rating, Tags};
use crate::limits;
use crate::list::{Counts, Line, LineId, Place, WeighedKit};
use crate::plan::lists::{Acting, ListsProblem, OneList};
use crate::plan::{Hung, Meet, Night, Problem, ProblemError, Purse, Terms, Warmth};
use crate::quantity::{Currency, Mass, Money, PriceRange};
use crate::swap::{Addition, RankBy, Removal, Selling, Swap, SwapId, SwapKind, SwapState};
use serde::Deserialize;
use std::collections::{BTreeMap, HashMap};

/// Which of the formats a problem is in; each has all that the one before has.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Version {
    /// `kevyt-problem/1`.
    One,
    /// `kevyt-problem/2`: bands of weights, kits, and more than one way to ask.
    Two,
    /// `kevyt-problem/3`: a night to get through, and what is to be met.
    Three,
}

const FORMATS: [(&str, Version); 3] =
    [("kevyt-problem/1", Version::One), ("kevyt-problem/2", Version::Two), ("kevyt-problem/3", Version::Three)];

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct ProblemFile {
    format: String,
    currency: String,
    lines: Vec<LineFile>,
    #[serde(default)]
    kits: Vec<KitFile>,
    swaps: Vec<SwapFile>,
    #[serde(default)]
    require: Jobs,
    heaviest_start_mg: Option<i64>,
    target_mg: Option<i64>,
    budget_minor: i64,
    #[serde(default)]
    hour_minor: i64,
    counting: Option<Counting>,
    rank_by: Option<RankBy>,
    money: Option<PurseFile>,
    sleep: Option<SleepFile>,
    #[serde(default)]
    meet: Vec<String>,
    lists: Option<Vec<ListFile>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct ListFile {
    id: String,
    nights: u32,
    target_mg: Option<i64>,
    counts: BTreeMap<LineId, CountsFile>,
    #[serde(default)]
    require: Jobs,
    sleep: Option<SleepFile>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct CountsFile {
    #[serde(default)]
    carried: u32,
    #[serde(default)]
    worn: u32,
    #[serde(default)]
    used_up: u32,
}

impl From<&CountsFile> for Counts {
    fn from(file: &CountsFile) -> Counts {
        Counts { carried: file.carried, worn: file.worn, used_up: file.used_up, ..Counts::default() }
    }
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SleepFile {
    low_tenth_c: i64,
    #[serde(default)]
    offset_tenth_c: i64,
    #[serde(default)]
    ground_tenth_r: i64,
}

#[derive(Deserialize, Clone, Copy)]
#[serde(rename_all = "snake_case")]
enum HungFile {
    Hammock,
    Underquilt,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct PurseFile {
    now_minor: i64,
    month_minor: i64,
    resale_after_months: u32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct LineFile {
    id: LineId,
    name: String,
    #[serde(default)]
    carried: u32,
    #[serde(default)]
    worn: u32,
    #[serde(default)]
    used_up: u32,
    unit_mg: Option<i64>,
    low_mg: Option<i64>,
    high_mg: Option<i64>,
    expected_mg: Option<i64>,
    #[serde(default)]
    provides: Jobs,
    #[serde(default)]
    needs: Jobs,
    rating: Option<Rating>,
    warms_tenth_c: Option<i64>,
    is: Option<HungFile>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct KitFile {
    name: String,
    mg: i64,
    parts: Vec<PartFile>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct PartFile {
    line: LineId,
    qty: u32,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SwapFile {
    id: SwapId,
    name: String,
    kind: SwapKind,
    #[serde(default)]
    state: SwapState,
    #[serde(default)]
    remove: Vec<RemovalFile>,
    #[serde(default)]
    add: Vec<AdditionFile>,
    #[serde(default)]
    delivery_minor: i64,
    ordered_from: Option<String>,
    #[serde(default)]
    resale_minor: i64,
    #[serde(default)]
    tenth_hours: i64,
    #[serde(default)]
    requires: Vec<SwapId>,
    #[serde(default)]
    excludes: Vec<SwapId>,
    lists: Option<Vec<String>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct RemovalFile {
    line: LineId,
    qty: u32,
    from: Option<Place>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct AdditionFile {
    name: String,
    qty: u32,
    unit_mg: Option<i64>,
    low_mg: Option<i64>,
    high_mg: Option<i64>,
    expected_mg: Option<i64>,
    price_minor: Option<(i64, i64)>,
    #[serde(rename = "as")]
    place: Option<Place>,
    #[serde(default)]
    provides: Jobs,
    #[serde(default)]
    needs: Jobs,
    rating: Option<Rating>,
    warms_tenth_c: Option<i64>,
    is: Option<HungFile>,
}

/// What a file asks about.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Asked {
    /// One list, in one of the formats.
    One(Box<Problem>, Version),
    /// Several lists.
    Lists(Box<ListsProblem>),
}

/// Reads a problem of one list: as [`read_asked`], which see.
///
/// # Errors
/// Where several lists are asked about, too.
pub fn read_problem(json: &str) -> Result<(Problem, Version), ProblemError> {
    match read_asked(json)? {
        Asked::One(problem, version) => Ok((*problem, version)),
        Asked::Lists(_) => Err(wrong("lists", "one list", "several lists")),
    }
}

/// Reads a problem from its JSON text, and says in which of the formats it is. Unknown fields are refused, since a misspelt one would
/// change the answer in silence. [`crate::plan::Ready::new`] checks what the values say to each other.
///
/// # Errors
/// [`ProblemError`] with the JSON path of the first value that can't be read and what was expected there.
pub fn read_asked(json: &str) -> Result<Asked, ProblemError> {
    let mut reader = serde_json::Deserializer::from_str(json);
    let file: ProblemFile = serde_path_to_error::deserialize(&mut reader).map_err(|error| ProblemError {
        path: path_of(&error.path().to_string()),
        expected: "a value of kevyt-problem/1, /2 or /3".to_owned(),
        found: error.into_inner().to_string(),
    })?;
    reader.end().map_err(|error| wrong(".", "nothing after the problem", &error.to_string()))?;
    let version = FORMATS.into_iter().find(|(name, _)| *name == file.format).map(|(_, version)| version);
    let version = version
        .ok_or_else(|| wrong("format", &FORMATS.map(|(name, _)| format!("\"{name}\"")).join(" or "), &file.format))?;
    if version == Version::One
        && let Some(field) = beyond_one(&file)
    {
        return Err(wrong(&field, "a field of kevyt-problem/1 (it is one of kevyt-problem/2)", &field));
    }
    if version < Version::Three
        && let Some(field) = beyond_two(&file)
    {
        return Err(wrong(&field, "a field of kevyt-problem/1 or /2 (it is one of kevyt-problem/3)", &field));
    }
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
            purse: file.money.map(Purse::from),
            selling: Selling::default(),
            meet,
        },
    };
    let problem = problem.counted(file.counting.unwrap_or_default());
    Ok(match lists {
        Some(lists) => Asked::Lists(Box::new(ListsProblem { whole: problem, lists, acting: acting? })),
        None => Asked::One(Box::new(problem), version),
    })
}

/// What a file of one list must say, and one of several can't.
fn check_lists(file: &ProblemFile) -> Result<(), ProblemError> {
    if file.lists.is_none() {
        let named = file.swaps.iter().position(|swap| swap.lists.is_some());
        return match (file.target_mg, named) {
            (None, _) => Err(wrong("target_mg", "a mass in milligrams", "nothing")),
            (_, Some(at)) => Err(wrong(&format!("swaps[{at}].lists"), "nothing, where there are no lists", "ids")),
            _ => Ok(()),
        };
    }
    let of_one = [
        ("target_mg", file.target_mg.is_some()),
        ("require", !file.require.is_empty()),
        ("sleep", file.sleep.is_some()),
        ("heaviest_start_mg", file.heaviest_start_mg.is_some()),
    ];
    if let Some((field, _)) = of_one.into_iter().find(|(_, is_there)| *is_there) {
        return Err(wrong(field, "nothing: each of the lists has its own", field));
    }
    let counted = file.lines.iter().position(|line| [line.carried, line.worn, line.used_up] != [0; 3]);
    match counted {
        Some(at) => Err(wrong(&format!("lines[{at}]"), "no counts: each of the lists has its own", "counts")),
        None => Ok(()),
    }
}

/// The lists of a file, if it has any.
fn read_lists(file: &ProblemFile) -> Option<Vec<OneList>> {
    let lists = file.lists.as_ref()?.iter().map(|list| OneList {
        id: list.id.clone(),
        nights: list.nights,
        target: list.target_mg.map(Mass::from_mg),
        counts: list.counts.iter().map(|(line, counts)| (line.clone(), Counts::from(counts))).collect(),
        require: list.require.clone(),
        night: list.sleep.as_ref().map(|sleep| read_night(file, sleep)),
    });
    Some(lists.collect())
}

fn read_acting(at: usize, swap: &SwapFile, lists: &Option<Vec<OneList>>) -> Result<Acting, ProblemError> {
    let place = |(named, id): (usize, &String)| {
        let known = lists.iter().flatten().position(|list| list.id == *id);
        known.ok_or_else(|| wrong(&format!("swaps[{at}].lists[{named}]"), "the id of one of the lists", id))
    };
    let named = swap.lists.as_ref().map(|ids| ids.iter().enumerate().map(place).collect::<Result<_, _>>());
    Ok(Acting {
        lists: named.transpose()?,
        from: swap.remove.iter().map(|removal| removal.from).collect(),
        to: swap.add.iter().map(|addition| addition.place).collect(),
    })
}

impl From<PurseFile> for Purse {
    fn from(file: PurseFile) -> Purse {
        Purse {
            now: Money::from_minor(file.now_minor),
            month: Money::from_minor(file.month_minor),
            resale_after: file.resale_after_months,
            spent_then: None,
        }
    }
}

/// The first field of a problem that the first format has not.
fn beyond_one(file: &ProblemFile) -> Option<String> {
    let has_band = |fields: [Option<i64>; 3]| fields.iter().any(Option::is_some);
    let band = |path: String, fields: [Option<i64>; 3]| {
        let names = ["low_mg", "high_mg", "expected_mg"];
        let at = fields.iter().position(Option::is_some)?;
        Some(format!("{path}.{}", names[at]))
    };
    let fields = [
        ("kits", !file.kits.is_empty()),
        ("counting", file.counting.is_some()),
        ("rank_by", file.rank_by.is_some()),
        ("money", file.money.is_some()),
        ("heaviest_start_mg", file.heaviest_start_mg.is_some()),
    ];
    if let Some((field, _)) = fields.into_iter().find(|(_, is_there)| *is_there) {
        return Some(field.to_owned());
    }
    let of_line = |line: &LineFile| [line.low_mg, line.high_mg, line.expected_mg];
    let of_addition = |addition: &AdditionFile| [addition.low_mg, addition.high_mg, addition.expected_mg];
    let mut lines = file.lines.iter().map(of_line).enumerate();
    if let Some((at, fields)) = lines.find(|(_, fields)| has_band(*fields)) {
        return band(format!("lines[{at}]"), fields);
    }
    file.swaps.iter().enumerate().find_map(|(swap, entry)| {
        if entry.ordered_from.is_some() {
            return Some(format!("swaps[{swap}].ordered_from"));
        }
        let (side, fields) = entry.add.iter().map(of_addition).enumerate().find(|(_, fields)| has_band(*fields))?;
        band(format!("swaps[{swap}].add[{side}]"), fields)
    })
}

/// The first field of a problem that only the third format has.
fn beyond_two(file: &ProblemFile) -> Option<String> {
    let of_night = |path: String, [rating, warms, is]: [bool; 3]| {
        let names = [("rating", rating), ("warms_tenth_c", warms), ("is", is)];
        Some(format!("{path}.{}", names.into_iter().find(|(_, is_there)| *is_there)?.0))
    };
    let fields = [("sleep", file.sleep.is_some()), ("meet", !file.meet.is_empty()), ("lists", file.lists.is_some())];
    let own = fields.into_iter().find(|(_, is_there)| *is_there).map(|(field, _)| field.to_owned());
    let lines = file.lines.iter().enumerate().find_map(|(at, line)| {
        let has = [line.rating.is_some(), line.warms_tenth_c.is_some(), line.is.is_some()];
        of_night(format!("lines[{at}]"), has)
    });
    let sides = file.swaps.iter().enumerate().flat_map(|(swap, entry)| {
        entry.add.iter().enumerate().map(move |(side, addition)| (format!("swaps[{swap}].add[{side}]"), addition))
    });
    let mut additions = sides.filter_map(|(path, addition)| {
        of_night(path, [addition.rating.is_some(), addition.warms_tenth_c.is_some(), addition.is.is_some()])
    });
    own.or(lines).or_else(|| additions.next())
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
