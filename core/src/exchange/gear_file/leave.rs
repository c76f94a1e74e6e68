//! Lines of a gear file that are no things: totals, headings, what parts groups, headers that come again.

use super::{Column, Mapping, Row, Sheet, read_rows};
use crate::quantity::{Currency, Mass};
use std::collections::BTreeMap;

/// Why a line is proposed to be left out.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LeftOut {
    /// A sum of lines above.
    Total,
    /// The header once more.
    Header,
    /// The name of a group.
    Heading,
    /// Nothing that could be a thing: no name.
    Nameless,
}

impl LeftOut {
    /// In words.
    pub fn reason(self) -> &'static str {
        match self {
            LeftOut::Total => "looks like a total",
            LeftOut::Header => "the header once more",
            LeftOut::Heading => "the name of a group",
            LeftOut::Nameless => "has no name",
        }
    }
}

/// Names that mean a sum, by their first word or as a whole.
const TOTALS: [&str; 14] = [
    "total",
    "totals",
    "subtotal",
    "sum",
    "sub total",
    "grand total",
    "base weight",
    "pack weight",
    "total weight",
    "summe",
    "gesamt",
    "zwischensumme",
    "somme",
    "yhteensä",
];

/// Groups of gear that lists from elsewhere are parted into, beside the names of systems.
const GROUPS: [&str; 12] = [
    "big three",
    "big 3",
    "sleep system",
    "cook kit",
    "cook system",
    "electronics",
    "toiletries",
    "hygiene",
    "essentials",
    "misc",
    "miscellaneous",
    "clothing",
];

/// Which lines are no things, with the reason, in the order of the file.
pub fn propose_leaving(sheet: &Sheet, mapping: &Mapping, currency: Currency) -> Vec<(u64, LeftOut)> {
    let headings: Vec<u64> = mapping.headings.iter().map(|(line, _)| *line).collect();
    let name_at = mapping.place(Column::Name);
    let mut out: BTreeMap<u64, LeftOut> = BTreeMap::new();
    for (line, cells) in &sheet.lines {
        let name = name_at.and_then(|at| cells.get(at)).map_or("", String::as_str);
        let why = if is_header(sheet, cells) {
            LeftOut::Header
        } else if name_at.is_some() && !name.contains(char::is_alphanumeric) {
            LeftOut::Nameless
        } else if headings.contains(line) {
            LeftOut::Heading
        } else if is_total(name) {
            LeftOut::Total
        } else {
            continue;
        };
        out.insert(*line, why);
    }
    let plain = Mapping { leave: out.keys().copied().collect(), ..mapping.clone() };
    for line in sums(&read_rows(sheet, &plain, currency).0, sheet, mapping) {
        out.insert(line, LeftOut::Total);
    }
    out.into_iter().collect()
}

/// Lines that weigh what those above weigh together and name no system.
fn sums(rows: &[Row], sheet: &Sheet, mapping: &Mapping) -> Vec<u64> {
    let system_at = mapping.place(Column::System);
    let names_system = |line: u64| {
        let cells = sheet.lines.iter().find(|(number, _)| *number == line).map(|(_, cells)| cells);
        system_at.zip(cells).and_then(|(at, cells)| cells.get(at)).is_some_and(|cell| !cell.is_empty())
    };
    let (mut found, mut above, mut things) = (Vec::new(), Mass::ZERO, 0);
    for row in rows {
        let weight = row.unit_weight().unwrap_or(Mass::ZERO);
        let gram = (weight - above).mg().abs() <= 1_000;
        if things >= 3 && weight > Mass::ZERO && gram && row.pieces() == 1 && !names_system(row.line) {
            found.push(row.line);
            (above, things) = (Mass::ZERO, 0);
            continue;
        }
        above = above + weight.times(row.pieces());
        things += 1;
    }
    found
}

/// Lines with one cell alone that names a group.
pub(super) fn headings(sheet: &Sheet, mapping: &Mapping) -> Vec<(u64, String)> {
    let heading = |(line, cells): &(u64, Vec<String>)| {
        let mut filled = cells.iter().filter(|cell| !cell.is_empty());
        let (Some(word), None) = (filled.next(), filled.next()) else { return None };
        let bare = word.trim_end_matches(':').trim();
        let shouts = bare.chars().count() > 3 && bare.chars().any(char::is_alphabetic) && bare.to_uppercase() == bare;
        let plain = Mapping { propose: false, ..mapping.clone() };
        let is_group = plain.system(bare).is_some() || GROUPS.contains(&bare.to_lowercase().as_str());
        (sheet.headers.len() > 1 && (word.ends_with(':') || shouts || is_group) && !is_total(bare))
            .then(|| (*line, bare.to_owned()))
    };
    if mapping.propose { sheet.lines.iter().filter_map(heading).collect() } else { Vec::new() }
}

fn is_total(name: &str) -> bool {
    let name = name.trim_end_matches(':').trim().to_lowercase();
    let first = name.split([' ', ':', '(']).next().unwrap_or_default();
    TOTALS.contains(&name.as_str()) || TOTALS.contains(&first)
}

/// Whether most of what stands in a line stands in the header at the same place.
fn is_header(sheet: &Sheet, cells: &[String]) -> bool {
    let filled = cells.iter().zip(&sheet.headers).filter(|(cell, _)| !cell.is_empty());
    let (same, all) = filled.fold((0, 0), |(same, all), (cell, header)| {
        (same + usize::from(cell.to_lowercase() == header.to_lowercase()), all + 1)
    });
    all > 1 && same * 2 > all
}
