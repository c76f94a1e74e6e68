//! A list as text to take elsewhere: CSV for a spreadsheet, Markdown to paste.

use super::gear_file::sheet::guarded;
use super::list_file::{TripList, list_totals};
use crate::list::{Place, Thing};
use crate::quantity::MassStyle;
use std::fmt::Write;

/// Places in the order of the equation: what is on the back, used up, on me; then what is apart, and at home.
const PLACES: [Place; 5] = [Place::Carried, Place::UsedUp, Place::Worn, Place::Apart, Place::Left];

/// Places by the words that people know them by.
pub fn place_word(place: Place) -> &'static str {
    match place {
        Place::Carried => "on my back",
        Place::UsedUp => "used up",
        Place::Worn => "on me",
        Place::Apart => "apart",
        Place::Left => "stays home",
    }
}

/// A list as CSV: a line a thing, the weight of one piece in grams, its pieces in each place.
///
/// # Errors
/// None that text in memory can have; the writer's are passed on.
pub fn list_csv(list: &TripList) -> Result<String, csv::Error> {
    let mut rows = csv::Writer::from_writer(Vec::new());
    rows.write_record(["name", "system", "weight_g", "carried", "used_up", "worn", "apart", "left"])?;
    for Thing { line, system, .. } in &list.things {
        let grams = line.unit().map(|unit| unit.in_grams().trim_end_matches(" g").to_owned());
        let mut row = vec![guarded(&line.name), system.name().to_owned(), grams.unwrap_or_default()];
        row.extend(PLACES.map(|place| line.counts.at(place).to_string()));
        rows.write_record(row)?;
    }
    let bytes = rows.into_inner().map_err(|error| csv::Error::from(error.into_error()))?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}

/// A list as Markdown: its sums, and a table for each place that has something in it.
pub fn list_markdown(name: &str, list: &TripList, table: MassStyle, total: MassStyle) -> String {
    let mut out = String::new();
    // Writing to a String can't fail.
    let _ = write_markdown(&mut out, name, list, table, total);
    out
}

fn write_markdown(
    out: &mut String,
    name: &str,
    list: &TripList,
    table: MassStyle,
    total: MassStyle,
) -> std::fmt::Result {
    let sums = list_totals(list);
    let least = if sums.unknown > 0 { "at least " } else { "" };
    writeln!(out, "# {}\n", plain(name))?;
    writeln!(out, "- On my back (base): {least}{}", sums.base.format(total))?;
    writeln!(out, "- With what is used up: {least}{}", sums.pack.format(total))?;
    writeln!(out, "- Everything: {least}{}", sums.everything.format(total))?;
    writeln!(out, "- Apart: {}", sums.apart.format(total))?;
    for place in PLACES {
        let there: Vec<&Thing> = list.things.iter().filter(|thing| thing.line.counts.at(place) > 0).collect();
        if there.is_empty() {
            continue;
        }
        writeln!(out, "\n## {}\n\n| thing | pieces | weight |\n| --- | ---: | ---: |", capital(place_word(place)))?;
        for Thing { line, .. } in there {
            let count = line.counts.at(place);
            let mass = line.unit().map_or_else(|| "unknown".to_owned(), |unit| unit.times(count).format(table));
            writeln!(out, "| {} | {count} | {mass} |", plain(&line.name))?;
        }
    }
    Ok(())
}

fn capital(word: &str) -> String {
    let mut letters = word.chars();
    letters.next().map(|first| first.to_uppercase().collect::<String>() + letters.as_str()).unwrap_or_default()
}

/// A text in which Markdown sees no marks.
fn plain(name: &str) -> String {
    const MARKS: &str = "\\`*_[]<>|#";
    name.chars().flat_map(|c| MARKS.contains(c).then_some('\\').into_iter().chain([c])).collect()
}
