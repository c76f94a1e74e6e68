//! Reading `kevyt-problem/1`.

use super::path_of;
use crate::gear::{Jobs, Known, Tags};
use crate::list::{Counts, Line, LineId, Place, WeighedKit};
use crate::plan::{Problem, ProblemError};
use crate::quantity::{Currency, Mass, Money, PriceRange};
use crate::swap::{Addition, Removal, Swap, SwapId, SwapKind, SwapState};
use serde::Deserialize;

/// The name of the format, as it stands in the file.
pub const FORMAT: &str = "kevyt-problem/1";

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
    target_mg: i64,
    budget_minor: i64,
    #[serde(default)]
    hour_minor: i64,
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
    #[serde(default)]
    provides: Jobs,
    #[serde(default)]
    needs: Jobs,
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
    #[serde(default)]
    resale_minor: i64,
    #[serde(default)]
    tenth_hours: i64,
    #[serde(default)]
    requires: Vec<SwapId>,
    #[serde(default)]
    excludes: Vec<SwapId>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct RemovalFile {
    line: LineId,
    qty: u32,
    #[serde(default)]
    from: Place,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct AdditionFile {
    name: String,
    qty: u32,
    unit_mg: Option<i64>,
    price_minor: Option<(i64, i64)>,
    #[serde(default, rename = "as")]
    place: Place,
    #[serde(default)]
    provides: Jobs,
    #[serde(default)]
    needs: Jobs,
}

/// Reads a problem from its JSON text. Unknown fields are refused, since a misspelt one would change the answer in silence.
/// [`crate::plan::Ready::new`] checks what the values say to each other.
///
/// # Errors
/// [`ProblemError`] with the JSON path of the first value that can't be read and what was expected there.
pub fn read_problem(json: &str) -> Result<Problem, ProblemError> {
    let mut reader = serde_json::Deserializer::from_str(json);
    let file: ProblemFile = serde_path_to_error::deserialize(&mut reader).map_err(|error| ProblemError {
        path: path_of(&error.path().to_string()),
        expected: format!("a value of {FORMAT}"),
        found: error.into_inner().to_string(),
    })?;
    reader.end().map_err(|error| wrong(".", "nothing after the problem", &error.to_string()))?;
    if file.format != FORMAT {
        return Err(wrong("format", &format!("\"{FORMAT}\""), &file.format));
    }
    let currency = Currency::from_code(&file.currency)
        .ok_or_else(|| wrong("currency", "an ISO 4217 code such as \"EUR\"", &file.currency))?;
    let swaps = file.swaps.into_iter().enumerate().map(|(at, swap)| read_swap(at, swap)).collect::<Result<_, _>>()?;
    Ok(Problem {
        currency,
        lines: file.lines.into_iter().map(read_line).collect(),
        kits: file.kits.into_iter().map(read_kit).collect(),
        swaps,
        require: file.require,
        target: Mass::from_mg(file.target_mg),
        budget: Money::from_minor(file.budget_minor),
        hour_rate: Money::from_minor(file.hour_minor),
    })
}

fn read_line(line: LineFile) -> Line {
    Line {
        id: line.id,
        name: line.name,
        counts: Counts { carried: line.carried, worn: line.worn, used_up: line.used_up, ..Counts::default() },
        weight: line.unit_mg.map(|mg| Known::exactly(Mass::from_mg(mg))),
        tags: Tags::default(),
        provides: line.provides,
        needs: line.needs,
    }
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
        Ok(Addition {
            name: addition.name,
            qty: addition.qty,
            weight: addition.unit_mg.map(|mg| Known::exactly(Mass::from_mg(mg))),
            price,
            place: addition.place,
            provides: addition.provides,
            needs: addition.needs,
        })
    });
    Ok(Swap {
        add: add.collect::<Result<_, _>>()?,
        id: swap.id,
        name: swap.name,
        kind: swap.kind,
        state: swap.state,
        remove: swap.remove.into_iter().map(|r| Removal { line: r.line, qty: r.qty, from: r.from }).collect(),
        delivery: Money::from_minor(swap.delivery_minor),
        resale: Money::from_minor(swap.resale_minor),
        tenth_hours: swap.tenth_hours,
        requires: swap.requires,
        excludes: swap.excludes,
    })
}

fn wrong(path: &str, expected: &str, found: &str) -> ProblemError {
    ProblemError { path: path.to_owned(), expected: expected.to_owned(), found: format!("\"{found}\"") }
}
