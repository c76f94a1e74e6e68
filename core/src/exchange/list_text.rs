//! A list as text to take elsewhere: CSV for a spreadsheet, Markdown to paste.

use super::gear_file::sheet::guarded;
use super::list_file::TripList;
use crate::list::{Carrier, Place, Thing, added_up};
use crate::quantity::{Currency, MassStyle, PriceRange};
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

/// A list to take elsewhere.
#[derive(Debug, Clone, Copy)]
pub struct Taken<'a> {
    /// What it is called.
    pub name: &'a str,
    /// The list.
    pub list: &'a TripList,
    /// What its walkers are called, in their order. Where there are several, it is told who carries what.
    pub walkers: &'a [String],
    /// What one piece of each thing costs, in the things' order, and in what, if prices are asked for.
    pub prices: Option<(&'a [Option<PriceRange>], Currency)>,
}

impl Taken<'_> {
    /// Who has a thing, if there are several.
    fn carrier(&self, thing: &Thing) -> Option<&str> {
        (self.walkers.len() > 1).then(|| self.walkers.get(thing.carrier.walker()).map_or("", String::as_str))
    }

    fn price(&self, at: usize) -> Option<String> {
        let (prices, currency) = self.prices?;
        Some(prices.get(at).copied().flatten().map(|price| price.typed(currency)).unwrap_or_default())
    }
}

/// A list as CSV: a line a thing, the weight of one piece in grams, its pieces in each place; who carries it, where several walk; what one
/// piece costs, if that is asked for.
///
/// # Errors
/// None that text in memory can have; the writer's are passed on.
pub fn list_csv(taken: &Taken<'_>) -> Result<String, csv::Error> {
    let mut rows = csv::Writer::from_writer(Vec::new());
    let mut titles = vec!["name", "system", "weight_g", "carried", "used_up", "worn", "apart", "left"];
    if taken.walkers.len() > 1 {
        titles.extend(["carrier", "shared"]);
    }
    if taken.prices.is_some() {
        titles.extend(["price", "currency"]);
    }
    rows.write_record(titles)?;
    for (at, thing) in taken.list.things.iter().enumerate() {
        let Thing { line, system, carrier, .. } = thing;
        let grams = line.unit().map(|unit| unit.in_grams().trim_end_matches(" g").to_owned());
        let mut row = vec![guarded(&line.name), system.name().to_owned(), grams.unwrap_or_default()];
        row.extend(PLACES.map(|place| line.counts.at(place).to_string()));
        if let Some(name) = taken.carrier(thing) {
            let is_shared = matches!(carrier, Carrier::Shared(_));
            row.extend([guarded(name), if is_shared { "yes" } else { "" }.to_owned()]);
        }
        if let Some((price, (_, currency))) = taken.price(at).zip(taken.prices) {
            let is_known = !price.is_empty();
            row.extend([price, if is_known { currency.code() } else { "" }.to_owned()]);
        }
        rows.write_record(row)?;
    }
    let bytes = rows.into_inner().map_err(|error| csv::Error::from(error.into_error()))?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}

/// A list as Markdown: sums, and a table for each place that has something in it; all of it by walker, where there are several.
pub fn list_markdown(taken: &Taken<'_>, table: MassStyle, total: MassStyle) -> String {
    let mut out = format!("# {}\n", plain(taken.name));
    // Writing to a String can't fail.
    if taken.walkers.len() > 1 {
        for (walker, name) in taken.walkers.iter().enumerate() {
            let _ = writeln!(out, "\n## {}", plain(name));
            let _ = write_section(&mut out, taken, Some(walker), table, total);
        }
    } else {
        let _ = write_section(&mut out, taken, None, table, total);
    }
    out
}

/// What a walker carries and wears, or all there is.
fn write_section(
    out: &mut String,
    taken: &Taken<'_>,
    walker: Option<usize>,
    table: MassStyle,
    total: MassStyle,
) -> std::fmt::Result {
    let is_theirs = |thing: &Thing| walker.is_none_or(|walker| thing.carrier.walker() == walker);
    let things: Vec<(usize, &Thing)> =
        taken.list.things.iter().enumerate().filter(|(_, thing)| is_theirs(thing)).collect();
    let sums = added_up(things.iter().map(|(_, thing)| &thing.line), &taken.list.kits).0;
    let least = if sums.unknown > 0 { "at least " } else { "" };
    writeln!(out, "\n- On my back (base): {least}{}", sums.base.format(total))?;
    writeln!(out, "- With what is used up: {least}{}", sums.pack.format(total))?;
    writeln!(out, "- Everything: {least}{}", sums.everything.format(total))?;
    writeln!(out, "- Apart: {}", sums.apart.format(total))?;
    let level = if walker.is_some() { "###" } else { "##" };
    for place in PLACES {
        let mut there = things.iter().filter(|(_, thing)| thing.line.counts.at(place) > 0).peekable();
        if there.peek().is_none() {
            continue;
        }
        let (title, line) = if taken.prices.is_some() { (" price of one |", " ---: |") } else { ("", "") };
        writeln!(out, "\n{level} {}\n", capital(place_word(place)))?;
        writeln!(out, "| thing | pieces | weight |{title}\n| --- | ---: | ---: |{line}")?;
        for &(at, Thing { line, carrier, .. }) in there {
            let count = line.counts.at(place);
            let mass = line.unit().map_or_else(|| "unknown".to_owned(), |unit| unit.times(count).format(table));
            let shared = if walker.is_some() && matches!(carrier, Carrier::Shared(_)) { ", shared" } else { "" };
            write!(out, "| {}{shared} | {count} | {mass} |", plain(&line.name))?;
            if let Some((price, (_, currency))) = taken.price(at).zip(taken.prices) {
                write!(out, " {} |", if price.is_empty() { price } else { format!("{price} {}", currency.code()) })?;
            }
            writeln!(out)?;
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
