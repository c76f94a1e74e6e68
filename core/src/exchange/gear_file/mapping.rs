//! What each column of a foreign file holds.

use super::column::UNNAMED;
use super::leave::headings;
use super::{Column, Sheet};
use crate::gear::{Kind, System, WeightSource};
use crate::quantity::MassUnit;
use std::collections::{BTreeMap, BTreeSet};

/// The decimal mark of a column, where something settles it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Decimal {
    /// A point; commas part thousands.
    Point,
    /// A comma; points part thousands.
    Comma,
}

/// What each column holds and how to read it. Suggested, then confirmed by the walker.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Mapping {
    /// For each column of the file, the column of ours; each of ours once at most.
    pub columns: Vec<Option<Column>>,
    /// The unit of bare weights.
    pub unit: MassUnit,
    /// What `unit` was read from: the header, the cells, or nothing (then it is the account's).
    pub unit_from: Option<String>,
    /// Where weights come from of which the line does not say it.
    pub source: WeightSource,
    /// Words of a foreign file's system column and the systems that they stand for.
    pub systems: BTreeMap<String, System>,
    /// Lines that are no things, by their numbers: totals, headings, what parts groups.
    pub leave: BTreeSet<u64>,
    /// Lines that only name a group, and the name: the system of the lines below that name none themselves.
    pub headings: Vec<(u64, String)>,
    /// Whether names propose the system and the jobs of things that are not there yet.
    pub propose: bool,
}

impl Mapping {
    /// What the headers and cells suggest; `account_unit` is for bare weights of which nothing else tells the unit, `source` for those
    /// of which nothing tells where they come from.
    pub fn suggest(sheet: &Sheet, account_unit: MassUnit, source: WeightSource) -> Mapping {
        Mapping::of(sheet, columns_of(sheet), account_unit, source)
    }

    /// What the cells suggest where it is said what each column holds.
    pub fn of(sheet: &Sheet, columns: Vec<Option<Column>>, account_unit: MassUnit, source: WeightSource) -> Mapping {
        let at = columns.iter().position(|column| *column == Some(Column::Weight));
        let found = at.and_then(|at| {
            let header = sheet.headers.get(at)?;
            let ours = (header.trim() == Column::Weight.key()).then_some(MassUnit::G);
            let named = ours.or(words_and_unit(header).1).map(|unit| (unit, format!("the header \"{header}\"")));
            let cells = || sheet.column(at).filter_map(unit_in_cell).next();
            named.or_else(|| cells().map(|(unit, cell)| (unit, format!("cells such as \"{cell}\""))))
        });
        let (unit, unit_from) = found.map_or((account_unit, None), |(unit, from)| (unit, Some(from)));
        let propose = !columns.contains(&Some(Column::Typed));
        let mut mapping = Mapping {
            columns,
            unit,
            unit_from,
            source,
            systems: BTreeMap::new(),
            leave: BTreeSet::new(),
            headings: Vec::new(),
            propose,
        };
        mapping.headings = headings(sheet, &mapping);
        mapping
    }

    /// Where a column of ours stands in the file.
    pub fn place(&self, column: Column) -> Option<usize> {
        self.columns.iter().position(|mapped| *mapped == Some(column))
    }

    /// Words of the system column that mean no system yet, each once.
    pub fn unknown_systems(&self, sheet: &Sheet) -> Vec<String> {
        let Some(at) = self.place(Column::System) else { return Vec::new() };
        let mut words: Vec<String> = sheet
            .column(at)
            .filter(|word| !word.is_empty() && self.system(word).is_none())
            .map(str::to_owned)
            .collect();
        words.sort();
        words.dedup();
        words
    }

    /// The system that a word of the file means.
    pub(super) fn system(&self, word: &str) -> Option<System> {
        let named = || System::ALL.iter().copied().find(|system| system.name().eq_ignore_ascii_case(word));
        let proposed = || self.propose.then(|| Kind::of_name(word)).flatten().map(|kind| kind.system);
        self.systems.get(word).copied().or_else(|| System::from_word(word)).or_else(named).or_else(proposed)
    }

    /// The system of the group that a line stands in.
    pub(super) fn group(&self, line: u64) -> Option<System> {
        let above = self.headings.iter().rev().find(|(heading, _)| *heading < line)?;
        self.system(&above.1)
    }

    /// The decimal mark of a column: that of Kevyt's own files, or the one that some cell settles for all of them.
    pub(super) fn decimal(sheet: &Sheet, at: usize) -> Option<Decimal> {
        // Only a file that says how each weight was typed is ours; others may call a column what they like.
        let is_ours = sheet.headers.iter().any(|header| header == Column::Typed.key());
        let ours = is_ours && sheet.headers.get(at).is_some_and(|header| header.ends_with("_g"));
        if ours && sheet.column(at).all(|cell| !cell.contains(',')) {
            return Some(Decimal::Point);
        }
        let mut marks = sheet.column(at).filter_map(decimal_of);
        let first = marks.next()?;
        // Where cells disagree, nothing is settled and each is read by itself.
        marks.all(|mark| mark == first).then_some(first)
    }
}

/// What the headers suggest. Of a weight in two units the finer one is taken; pounds and ounces that are parts of one are both taken.
fn columns_of(sheet: &Sheet) -> Vec<Option<Column>> {
    if sheet.headers.iter().all(|header| header.starts_with(UNNAMED)) {
        return columns_of_cells(sheet);
    }
    let mut columns: Vec<Option<Column>> = Vec::new();
    let mut weights: Vec<(usize, MassUnit)> = Vec::new();
    for (at, header) in sheet.headers.iter().enumerate() {
        let column = meaning(header);
        if let (Some(Column::Weight), Some(unit)) = (column, words_and_unit(header).1) {
            weights.push((at, unit));
        }
        columns.push(column.filter(|column| !columns.contains(&Some(*column))));
    }
    if let [(first, a), (second, b)] = weights[..] {
        let (major, minor, size) = match (a, b) {
            (MassUnit::Lb, MassUnit::Oz) => (first, second, 16),
            (MassUnit::Oz, MassUnit::Lb) => (second, first, 16),
            (MassUnit::Kg, MassUnit::G) => (first, second, 1_000),
            (MassUnit::G, MassUnit::Kg) => (second, first, 1_000),
            _ => return columns,
        };
        let are_parts = are_parts(sheet, major, minor, size);
        columns[major] = are_parts.then_some(Column::Weight);
        columns[minor] = Some(if are_parts { Column::Minor } else { Column::Weight });
    }
    columns
}

/// The column that a header means, if it means one.
fn meaning(header: &str) -> Option<Column> {
    let (words, unit) = words_and_unit(header);
    let named = Column::from_header(&header.trim().to_lowercase()).or_else(|| Column::from_header(&words));
    // "Grams" or "oz" alone is a weight.
    named.or_else(|| (words.is_empty() && unit.is_some()).then_some(Column::Weight))
}

/// Whether a cell is a header that means a column.
pub(in crate::exchange) fn is_header(cell: &str) -> bool {
    meaning(cell).is_some()
}

/// What columns that nobody named hold, as far as their cells tell: the first of words is the name; of those of figures the one with units
/// is the weight, or else the one with the longest figures; the first other one of small whole figures is how many.
fn columns_of_cells(sheet: &Sheet) -> Vec<Option<Column>> {
    let is_figure = |cell: &str| cell.starts_with(|letter: char| letter.is_ascii_digit());
    let all = |at: usize, fits: &dyn Fn(&str) -> bool| {
        let mut cells = sheet.column(at).filter(|cell| !cell.is_empty()).peekable();
        cells.peek().is_some() && cells.all(fits)
    };
    let width = 0..sheet.headers.len();
    let name = width.clone().find(|at| all(*at, &|cell| !is_figure(cell)));
    let digits =
        |at: usize| sheet.column(at).map(|cell| cell.bytes().filter(u8::is_ascii_digit).count()).sum::<usize>();
    let likely = |at: &usize| (sheet.column(*at).any(|cell| unit_in_cell(cell).is_some()), digits(*at));
    let weight = width.clone().filter(|at| all(*at, &is_figure)).max_by_key(likely);
    let is_count = |cell: &str| cell.len() <= 2 && cell.bytes().all(|byte| byte.is_ascii_digit());
    let count = width.clone().find(|at| Some(*at) != weight && all(*at, &is_count));
    let of = |at| match at {
        at if Some(at) == name => Some(Column::Name),
        at if Some(at) == weight => Some(Column::Weight),
        at if Some(at) == count => Some(Column::Count),
        _ => None,
    };
    width.map(of).collect()
}

/// Whether two columns hold the parts of one weight: whole pounds, and ounces that make no pound.
fn are_parts(sheet: &Sheet, major: usize, minor: usize, size: u32) -> bool {
    let whole = |cell: &str| cell.bytes().all(|b| b.is_ascii_digit());
    let less = |cell: &str| {
        let int = cell.split(['.', ',']).next().unwrap_or_default();
        cell.is_empty() || int.parse::<u32>().is_ok_and(|int| int < size)
    };
    sheet.column(major).all(whole)
        && sheet.column(minor).filter(|cell| cell.starts_with(|c: char| c.is_ascii_digit())).all(less)
}

/// The decimal mark that a cell settles: one mark with other than three digits behind it, or the last of two kinds.
fn decimal_of(cell: &str) -> Option<Decimal> {
    let figure = cell.trim_matches(|c: char| !c.is_ascii_digit());
    let last = figure.rfind(['.', ','])?;
    let mark = if figure[last..].starts_with(',') { Decimal::Comma } else { Decimal::Point };
    let both = figure.contains(',') && figure.contains('.');
    let digits = figure[last + 1..].bytes().take_while(u8::is_ascii_digit).count();
    (both || digits != 3 || figure.starts_with('0')).then_some(mark)
}

/// A header in lower case without its unit, and the unit: `Weight (g)`, `weight_oz`, `Mass [kg]`, `grams`.
fn words_and_unit(header: &str) -> (String, Option<MassUnit>) {
    let lower = header.to_lowercase();
    let parts = lower.split(|c: char| !c.is_alphanumeric()).filter(|part| !part.is_empty());
    let (mut words, mut unit) = (Vec::new(), None);
    for part in parts {
        match MassUnit::from_word(part) {
            Some(found) => unit = unit.or(Some(found)),
            None if part == "in" => {}
            None => words.push(part),
        }
    }
    (words.join(" "), unit)
}

/// The unit behind the figure of a cell.
fn unit_in_cell(cell: &str) -> Option<(MassUnit, &str)> {
    let word = cell.trim_start_matches(|c: char| !c.is_alphabetic());
    let is_figure = cell.starts_with(|c: char| c.is_ascii_digit());
    MassUnit::from_word(&word.to_lowercase()).filter(|_| is_figure).map(|unit| (unit, cell))
}
