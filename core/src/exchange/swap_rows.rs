//! Rows of a spreadsheet as the lines that would be typed for them: `quilt 545g 262eur for sleeping bag`.

use super::gear_file::{SheetError, is_header, rows_of};
use crate::limits;
use crate::quantity::{Currency, MassUnit};

/// Why rows can't be read as swaps.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum RowsError {
    /// They can't be split.
    #[error("{0}")]
    Sheet(#[from] SheetError),
    /// There are too many.
    #[error("These are more than {most} rows. Paste at most {most} at a time.", most = limits::SWAP_ROWS)]
    TooMany,
}

/// Words that a line of headers may have beside those of gear files.
const HEADERS: [&str; 8] = ["old", "new", "for", "replaces", "instead of", "swap", "low", "high"];

/// The line of each row that is not empty, headers left out. What comes off is the cell that names something on the list, or else the first of
/// several words; bare figures are the weight in `unit`, unless a cell has one with its unit, then the price, then its upper end. A row of one
/// cell is a line as it stands.
///
/// # Errors
/// [`RowsError`].
pub fn swap_lines(text: &str, on_list: &[&str], unit: MassUnit, currency: Currency) -> Result<Vec<String>, RowsError> {
    let mut rows: Vec<Vec<String>> = rows_of(text, limits::SWAP_ROWS + 2)?;
    let says_header = |cell: &String| HEADERS.contains(&cell.to_lowercase().as_str()) || is_header(cell);
    if rows
        .first()
        .is_some_and(|row| row.len() > 1 && !row.iter().any(|cell| has_digit(cell)) && row.iter().any(says_header))
    {
        rows.remove(0);
    }
    if rows.len() > limits::SWAP_ROWS {
        return Err(RowsError::TooMany);
    }
    let on_list: Vec<String> = on_list.iter().map(|name| name.to_lowercase()).collect();
    Ok(rows.iter().map(|row| line(row, &on_list, unit, currency)).collect())
}

fn line(row: &[String], on_list: &[String], unit: MassUnit, currency: Currency) -> String {
    let cells: Vec<&String> = row.iter().filter(|cell| !cell.is_empty()).collect();
    if let [only] = cells.as_slice() {
        return (*only).clone();
    }
    let listed = |cell: &&&String| on_list.contains(&cell.to_lowercase());
    let words: Vec<&String> = cells.iter().filter(|cell| !has_digit(cell) || listed(cell)).copied().collect();
    let old = words.iter().find(listed).or(words.first().filter(|_| words.len() > 1)).copied();
    let others: Vec<&String> = cells.into_iter().filter(|cell| Some(*cell) != old).collect();
    let (bare, said): (Vec<&String>, Vec<&String>) = others.into_iter().partition(|cell| is_bare(cell));
    let is_weighed = said.iter().any(|cell| is_weight(cell));
    let (weight, prices) =
        if is_weighed { (None, bare.as_slice()) } else { (bare.first(), bare.get(1..).unwrap_or_default()) };
    // A name with a figure in it is one, where the weight stands in a cell of its own.
    let as_said = |cell: &&String| match has_digit(cell) && !is_weight(cell) && (weight.is_some() || is_weighed) {
        true if !cell.contains('"') => format!("\"{cell}\""),
        _ => (*cell).clone(),
    };
    let mut parts: Vec<String> = said.iter().map(as_said).collect();
    parts.extend(weight.map(|weight| format!("{weight}{}", unit.word())));
    let sign = currency.code().to_lowercase();
    match prices {
        [] => {}
        [price] => parts.push(format!("{price}{sign}")),
        [low, high, ..] => parts.push(format!("{low}-{high}{sign}")),
    }
    parts.extend(old.map(|old| format!("for {old}")));
    parts.join(" ")
}

fn has_digit(cell: &str) -> bool {
    cell.bytes().any(|byte| byte.is_ascii_digit())
}

/// A figure without a unit; a guess has a mark in front.
fn is_bare(cell: &str) -> bool {
    let figure = cell.trim_start_matches(['~', '≈']);
    figure.starts_with(|letter: char| letter.is_ascii_digit())
        && figure
            .chars()
            .all(|letter| letter.is_ascii_digit() || matches!(letter, '.' | ',' | '\'' | '\u{202f}' | '\u{a0}'))
}

/// A figure with a unit of mass behind it.
fn is_weight(cell: &str) -> bool {
    let figure = cell.trim_start_matches(['~', '≈']);
    let word = figure.trim_start_matches(|letter: char| !letter.is_alphabetic());
    figure.starts_with(|letter: char| letter.is_ascii_digit()) && MassUnit::from_word(&word.to_lowercase()).is_some()
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;

    fn lines(text: &str) -> Vec<String> {
        let euro = Currency::from_code("EUR").unwrap();
        swap_lines(text, &["sleeping bag", "two-skin tent", "mug", "bottle, 1 l"], MassUnit::G, euro).unwrap()
    }

    #[test]
    fn what_is_on_the_list_comes_off_whichever_column_it_stands_in() {
        let expected = ["quilt 545g 262eur for Sleeping bag", "quilt 545 g 262eur for sleeping bag"];
        assert_eq!(lines("Sleeping bag\tquilt\t545\t262\nquilt\t545 g\t262\tsleeping bag\n"), expected);
        assert_eq!(lines("old bag\tquilt\t545\t262"), ["quilt 545g 262eur for old bag"]);
        assert_eq!(
            lines("bottle, 1 l\t\"soft bottle, 2 l\"\t38\t~12,50"),
            ["\"soft bottle, 2 l\" 38g ~12,50eur for bottle, 1 l"]
        );
    }

    #[test]
    fn headers_and_empty_rows_are_left_out_and_a_price_has_two_ends() {
        assert_eq!(lines("Old\tNew\tg\tLow\tHigh\n\nmug\tcup\t50\t15\t20\r\n"), ["cup 50g 15-20eur for mug"]);
        // Two words of a row are no headers.
        assert_eq!(lines("mug\tcup"), ["cup for mug"]);
    }

    #[test]
    fn a_row_of_one_cell_is_a_line_as_it_stands() {
        let typed = ["quilt, down 545g 262eur for sleeping bag", "leave out mug"];
        assert_eq!(lines(&typed.join("\n")), typed);
    }

    #[test]
    fn more_rows_than_are_compared_are_refused_and_not_cut() {
        let euro = Currency::from_code("EUR").unwrap();
        let rows = |many: usize| swap_lines(&"mug\tcup\t50\n".repeat(many), &["mug"], MassUnit::G, euro);
        assert_eq!(rows(limits::SWAP_ROWS).unwrap().len(), limits::SWAP_ROWS);
        assert_eq!(rows(limits::SWAP_ROWS + 1), Err(RowsError::TooMany));
        assert!(matches!(
            swap_lines("mug\t\"cup\n", &[], MassUnit::G, euro),
            Err(RowsError::Sheet(SheetError::OpenQuote(1)))
        ));
    }
}
