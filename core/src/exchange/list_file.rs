//! Reading `kevyt-list/1` and writing `kevyt-sums/1`.

use super::path_of;
use crate::caution::{Caution, CautionId, Level, Situation, Sleeper, cautions};
use crate::gear::{Band, Facts, Identity, Jobs, Known, Rating, System, Tags};
use crate::limits;
use crate::list::{Carrier, Counts, Line, LineId, Thing, Totals, Way, WeighedKit, added_up, counted_by};
use crate::plan::ProblemError;
use crate::quantity::{Mass, MassStyle};
use crate::steps::Steps;
use crate::together::{SPLIT_STEPS, even_split, to_split};
use crate::trip::Trip;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use std::collections::{HashMap, HashSet};
use std::fmt::Write;

/// The name of the format, as it stands in the file.
pub const LIST_FORMAT: &str = "kevyt-list/1";
const SUMS_FORMAT: &str = "kevyt-sums/1";

/// A list with its trip and its walkers.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TripList {
    /// What is on it.
    pub things: Vec<Thing>,
    /// Kits whose own weighing counts; the file has none.
    pub kits: Vec<WeighedKit>,
    /// The trip.
    pub trip: Trip,
    /// Whose list it is.
    pub sleeper: Sleeper,
    /// Who walks; may be empty.
    pub walkers: Vec<Walker>,
}

/// One who walks.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Walker {
    /// Its id.
    pub id: String,
    /// What the walker weighs, in milligrams; `None` if nobody said.
    pub body_mg: Option<i64>,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct ListFile {
    format: String,
    things: Vec<ThingFile>,
    trip: Trip,
    #[serde(default)]
    sleeper_offset_tenth_c: i64,
    body_mg: Option<i64>,
    #[serde(default)]
    walkers: Vec<Walker>,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct ThingFile {
    id: LineId,
    name: String,
    system: String,
    unit_mg: Option<i64>,
    low_mg: Option<i64>,
    high_mg: Option<i64>,
    #[serde(default)]
    counts: Counts,
    #[serde(default)]
    tags: Vec<String>,
    contents_mg: Option<i64>,
    #[serde(default)]
    provides: Jobs,
    #[serde(default)]
    needs: Jobs,
    rating: Option<Rating>,
    warms_tenth_c: Option<i64>,
    walker: Option<String>,
    #[serde(default)]
    shared: bool,
}

/// Reads a list from its JSON text. Unknown fields are refused, since a misspelt one would change the answer in silence.
///
/// # Errors
/// [`ProblemError`] with the JSON path of the first value that can't be read and what was expected there.
pub fn read_list(json: &str) -> Result<TripList, ProblemError> {
    let mut reader = serde_json::Deserializer::from_str(json);
    let file: ListFile = serde_path_to_error::deserialize(&mut reader).map_err(|error| ProblemError {
        path: path_of(&error.path().to_string()),
        expected: format!("a value of {LIST_FORMAT}"),
        found: error.into_inner().to_string(),
    })?;
    reader.end().map_err(|error| wrong(".", "nothing after the list", &error))?;
    if file.format != LIST_FORMAT {
        return Err(wrong("format", &format!("\"{LIST_FORMAT}\""), &file.format));
    }
    if file.things.len() > limits::LINES {
        return Err(wrong("things", &format!("at most {} things", limits::LINES), &file.things.len()));
    }
    file.trip.check().map_err(|error| ProblemError {
        path: format!("trip.{}", error.field),
        expected: error.expected,
        found: error.found.to_string(),
    })?;
    in_range("sleeper_offset_tenth_c", file.sleeper_offset_tenth_c, (-300, 300))?;
    let body = |path: &str, mg: Option<i64>| mg.map_or(Ok(()), |mg| in_range(path, mg, (1, 1_000_000_000)));
    body("body_mg", file.body_mg)?;
    if file.walkers.len() > limits::WALKERS {
        return Err(wrong("walkers", &format!("at most {} walkers", limits::WALKERS), &file.walkers.len()));
    }
    let mut at_walker: HashMap<&str, usize> = HashMap::new();
    for (at, walker) in file.walkers.iter().enumerate() {
        body(&format!("walkers[{at}].body_mg"), walker.body_mg)?;
        if at_walker.insert(&walker.id, at).is_some() {
            return Err(wrong(&format!("walkers[{at}].id"), "an id that no other walker has", &walker.id));
        }
    }
    let mut ids = HashSet::new();
    let mut things = Vec::with_capacity(file.things.len());
    for (at, thing) in file.things.into_iter().enumerate() {
        if !ids.insert(thing.id.clone()) {
            return Err(wrong(&format!("things[{at}].id"), "an id that no other thing has", &thing.id.0));
        }
        things.push(read_thing(&format!("things[{at}]"), thing, &at_walker)?);
    }
    let sleeper =
        Sleeper { offset: file.sleeper_offset_tenth_c, body: file.body_mg.map(Mass::from_mg), body_percent: None };
    Ok(TripList { things, kits: Vec::new(), trip: file.trip, sleeper, walkers: file.walkers })
}

fn read_thing(path: &str, thing: ThingFile, walkers: &HashMap<&str, usize>) -> Result<Thing, ProblemError> {
    let at = |field: &str| format!("{path}.{field}");
    let mass = |field: &str, mg: Option<i64>| match mg {
        Some(mg) => in_range(&at(field), mg, (0, limits::MASS_MG)).map(|()| Some(Mass::from_mg(mg))),
        None => Ok(None),
    };
    let system = System::from_key(&thing.system)
        .ok_or_else(|| wrong(&at("system"), "the key of a system such as \"sleep\"", &thing.system))?;
    let unit = mass("unit_mg", thing.unit_mg)?;
    let (low, high) = (mass("low_mg", thing.low_mg)?, mass("high_mg", thing.high_mg)?);
    let weight = unit.map(|unit| {
        let band = Band { low: low.unwrap_or(unit) - unit, high: high.unwrap_or(unit) - unit };
        Known { band, ..Known::exactly(unit) }
    });
    let Counts { carried, worn, used_up, apart, left } = thing.counts;
    let counts = [("carried", carried), ("worn", worn), ("used_up", used_up), ("apart", apart), ("left", left)];
    for (field, count) in counts {
        in_range(&at(&format!("counts.{field}")), i64::from(count), (0, i64::from(limits::COUNT)))?;
    }
    for (field, jobs) in [("provides", &thing.provides), ("needs", &thing.needs)] {
        for (job, amount) in jobs {
            in_range(&at(&format!("{field}.{}", job.as_str())), *amount, (0, limits::JOB_AMOUNT))?;
        }
    }
    let (coldest, hottest) = limits::TENTHS_OF_DEGREE;
    if let Some(rating) = thing.rating {
        in_range(&at("rating.tenth_c"), rating.at.tenths(), (coldest, hottest))?;
    }
    in_range(&at("warms_tenth_c"), thing.warms_tenth_c.unwrap_or_default(), (coldest, hottest))?;
    let carrier = match &thing.walker {
        Some(walker) if thing.shared => {
            return Err(wrong(&at("walker"), "no walker for a thing that is shared", walker));
        }
        Some(walker) => Carrier::Own(
            *walkers
                .get(walker.as_str())
                .ok_or_else(|| wrong(&at("walker"), "the id of one of the walkers", walker))?,
        ),
        None if thing.shared => Carrier::Shared(0),
        None => Carrier::Own(0),
    };
    let tags = Tags::parse(&thing.tags.join(" ")).map_err(|expected| wrong(&at("tags"), &expected, &""))?;
    let facts =
        Facts { rating: thing.rating, warms: thing.warms_tenth_c, contents: mass("contents_mg", thing.contents_mg)? };
    let line = Line {
        id: thing.id,
        name: thing.name,
        counts: thing.counts,
        weight,
        tags,
        provides: thing.provides,
        needs: thing.needs,
    };
    Ok(Thing { line, system, facts, identity: Identity::default(), carrier })
}

/// A list as `kevyt-list/1`.
pub fn list_json(list: &TripList) -> Value {
    let things = list.things.iter().map(|thing| {
        let Thing { line, facts, .. } = thing;
        let known = line.weight;
        let walker = match thing.carrier {
            Carrier::Own(at) => list.walkers.get(at).map(|walker| walker.id.clone()),
            Carrier::Shared(_) => None,
        };
        ThingFile {
            id: line.id.clone(),
            name: line.name.clone(),
            system: thing.system.key().to_owned(),
            unit_mg: known.map(|known| known.unit.mg()),
            low_mg: known.map(|known| known.low().mg()),
            high_mg: known.map(|known| known.high().mg()),
            counts: line.counts,
            tags: line.tags.words().to_vec(),
            contents_mg: facts.contents.map(Mass::mg),
            provides: line.provides.clone(),
            needs: line.needs.clone(),
            rating: facts.rating,
            warms_tenth_c: facts.warms,
            walker,
            shared: matches!(thing.carrier, Carrier::Shared(_)),
        }
    });
    let file = ListFile {
        format: LIST_FORMAT.to_owned(),
        things: things.collect(),
        trip: list.trip.clone(),
        sleeper_offset_tenth_c: list.sleeper.offset,
        body_mg: list.sleeper.body.map(Mass::mg),
        walkers: list.walkers.clone(),
    };
    serde_json::to_value(file).unwrap_or_default()
}

/// The sums of a list as it is laid out, its weighed kits counting as they were weighed.
fn list_totals(list: &TripList) -> Totals {
    added_up(list.things.iter().map(|thing| &thing.line), &list.kits).0
}

/// The sums of a list as `kevyt-sums/1`.
pub fn sums_json(list: &TripList) -> Value {
    let situation = Situation::new(&list.things, &list.things, &list.trip, list.sleeper);
    let (supplies, held, days) = (situation.supplies(), situation.held(), situation.days());
    let mg = |masses: &[Mass]| masses.iter().map(|mass| mass.mg()).collect::<Vec<_>>();
    let sums = list_totals(list);
    let way = |key: &str, sums: &Totals| {
        json!({ "way": key, "base_mg": sums.base.mg(), "pack_mg": sums.pack.mg(),
            "everything_mg": sums.everything.mg(), "apart_mg": sums.apart.mg() })
    };
    let others = Way::built_in().map(|other| way(&other.key, &counted_by(&list.things, &list.kits, &other)));
    let ways: Vec<Value> = [way("as_laid_out", &sums)].into_iter().chain(others).collect();
    json!({
        "format": SUMS_FORMAT,
        "totals": {
            "base_mg": sums.base.mg(), "pack_mg": sums.pack.mg(), "everything_mg": sums.everything.mg(),
            "apart_mg": sums.apart.mg(), "base_low_mg": sums.base_low.mg(), "base_high_mg": sums.base_high.mg(),
            "unknown": sums.unknown,
        },
        "ways": ways,
        "supplies": {
            "food_by_carry_mg": mg(&supplies.food_by_carry),
            "water_ml": supplies.water_ml, "water_held_ml": held.water_ml,
            "gas_mg": supplies.gas.mg(), "gas_held_mg": held.gas.mg(),
            "power_mwh": supplies.power_mwh, "power_held_mwh": held.power_mwh,
        },
        "days_mg": mg(&days.starts),
        "heaviest": { "day": days.heaviest_day, "pack_mg": days.heaviest.mg() },
        "mean_mg": days.mean.mg(),
        "shortfalls": situation.shortfalls(),
        "cautions": cautions(&situation).iter().map(caution_json).collect::<Vec<_>>(),
        "even_split": split_json(list),
    })
}

/// The most even split as a reduced fraction.
fn split_json(list: &TripList) -> Value {
    let bodies: Vec<Option<Mass>> = list.walkers.iter().map(|walker| walker.body_mg.map(Mass::from_mg)).collect();
    let (_, shared, own) = to_split(&list.things, bodies.len());
    even_split(&own, &bodies, &shared, &mut Steps::up_to(SPLIT_STEPS)).map_or(Value::Null, |split| {
        let common = common_divisor(split.load, split.body);
        let mut fraction = json!({ "num": split.load / common, "den": split.body / common });
        if !split.is_proved {
            // The most even that was found: whether there is a more even one is not known.
            fraction["proved"] = json!(false);
        }
        fraction
    })
}

fn common_divisor(a: i64, b: i64) -> i64 {
    if b == 0 { a.max(1) } else { common_divisor(b, a % b) }
}

fn caution_json(caution: &Caution) -> Value {
    let mut fields = json!({ "id": caution.id, "level": caution.level });
    let short = match caution.id {
        CautionId::ColdNight | CautionId::ColdBack => "short_tenth_c",
        CautionId::ColdGround => "short_tenth_r",
        CautionId::DryStretch => "short_ml",
        CautionId::Load | CautionId::BodyLoad => "over_mg",
        CautionId::Room => "over_ml",
        _ => "short",
    };
    let shown = caution.id != CautionId::WaterTreatment;
    if let Some(amount) = caution.short.filter(|_| shown) {
        fields[short] = json!(amount);
    }
    if let Some(job) = &caution.job {
        fields["job"] = json!(job);
    }
    fields
}

/// The sums of a list as text for a person at a terminal.
pub fn sums_table(list: &TripList) -> String {
    let mut out = String::new();
    // Writing to a String can't fail.
    let _ = write_table(&mut out, list);
    out
}

fn write_table(out: &mut String, list: &TripList) -> std::fmt::Result {
    let kg = |mass: Mass| mass.format(MassStyle::TotalKg);
    let sums = list_totals(list);
    let at_least = if sums.unknown > 0 { format!(", at least: {} unknown", sums.unknown) } else { String::new() };
    writeln!(out, "base {} ({} to {}{at_least})", kg(sums.base), kg(sums.base_low), kg(sums.base_high))?;
    writeln!(out, "pack {}, everything {}, apart {}\n", kg(sums.pack), kg(sums.everything), kg(sums.apart))?;
    let grams = |mass: Mass| mass.format(MassStyle::TableG);
    writeln!(out, "{:<24} {:>10} {:>10} {:>12} {:>10}", "counted", "base", "pack", "everything", "apart")?;
    let mut row = |name: &str, sums: &Totals| {
        let [base, pack, everything, apart] = [sums.base, sums.pack, sums.everything, sums.apart].map(grams);
        writeln!(out, "{:<24} {base:>10} {pack:>10} {everything:>12} {apart:>10}", name.replace('_', " "))
    };
    row("as_laid_out", &sums)?;
    for way in Way::built_in() {
        row(&way.key, &counted_by(&list.things, &list.kits, &way))?;
    }
    let situation = Situation::new(&list.things, &list.things, &list.trip, list.sleeper);
    let days = situation.days();
    writeln!(out, "\nheaviest start {}, day {}; mean {}", kg(days.heaviest), days.heaviest_day, kg(days.mean))?;
    for (day, mass) in (1..).zip(&days.starts) {
        writeln!(out, "{:>6} {day:>3} {:>10}", "day", grams(*mass))?;
    }
    writeln!(out)?;
    for caution in cautions(&situation) {
        let level = match caution.level {
            Level::Red => "red",
            Level::Unrated => "unrated",
            Level::Amber | Level::Note => "amber",
        };
        let fields = caution_json(&caution);
        let figures = fields.as_object().into_iter().flatten().filter(|(field, _)| *field != "id" && *field != "level");
        let figures: Vec<String> =
            figures.map(|(field, value)| format!("{} {value}", field.replace('_', " "))).collect();
        writeln!(out, "{:<16} {level:<8} {}", caution.id.key().replace('_', " "), figures.join(", "))?;
    }
    Ok(())
}

fn in_range(path: &str, value: i64, (low, high): (i64, i64)) -> Result<(), ProblemError> {
    if (low..=high).contains(&value) {
        return Ok(());
    }
    Err(ProblemError { path: path.to_owned(), expected: format!("{low} to {high}"), found: value.to_string() })
}

fn wrong(path: &str, expected: &str, found: &impl std::fmt::Display) -> ProblemError {
    ProblemError { path: path.to_owned(), expected: expected.to_owned(), found: format!("\"{found}\"") }
}
