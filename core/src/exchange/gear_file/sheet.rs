//! A CSV file split into cells.

use super::column::UNNAMED;
use crate::limits;
use csv::{ReaderBuilder, StringRecord};
use encoding_rs::{Encoding, UTF_8, UTF_16BE, UTF_16LE, WINDOWS_1252};

/// A file as lines of cells; nothing has been understood yet.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Sheet {
    /// What parts the cells: comma, semicolon or tab.
    pub delimiter: u8,
    /// The first line that is not empty; names of our own where it has a figure and no header, as rows that are pasted.
    pub headers: Vec<String>,
    /// The other lines, each with its number in the file, from 1.
    pub lines: Vec<(u64, Vec<String>)>,
}

/// Why a file can't be split.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum SheetError {
    /// It is not text.
    #[error("The file is not text. Save the list as CSV in your spreadsheet, then choose that file.")]
    NotText,
    /// It has no header.
    #[error("The file is empty. A gear file has a line of headers, then a line for each thing.")]
    Empty,
    /// It has too many columns.
    #[error("The file has more than {most} columns. Keep those that say something of the gear.", most = limits::FILE_COLUMNS)]
    TooWide,
    /// It has too many lines.
    #[error("The file has more than {most} lines. Split it.", most = limits::FILE_LINES)]
    TooLong,
    /// A quote is opened and never closed.
    #[error(
        "The quote that is opened in line {0} is never closed. Close it, or double a quote that belongs to the text."
    )]
    OpenQuote(u64),
}

impl Sheet {
    /// Splits a file: UTF-8 or UTF-16, with or without a byte order mark, else Windows-1252, as spreadsheets write them; comma,
    /// semicolon or tab, whichever splits the first lines most evenly; LF, CRLF or CR; quotes as in RFC 4180.
    ///
    /// # Errors
    /// [`SheetError`], with the line.
    pub fn read(bytes: &[u8]) -> Result<Sheet, SheetError> {
        let text = encoding_of(bytes).decode(bytes).0;
        if text.contains('\0') {
            return Err(SheetError::NotText);
        }
        // One end of line, so that lines are counted as an editor counts them.
        let text = &text.replace("\r\n", "\n").replace('\r', "\n");
        if let Some(line) = open_quote(text) {
            return Err(SheetError::OpenQuote(line));
        }
        let delimiter = delimiter_of(text);
        let mut records = records(text, delimiter);
        let first = records.next().ok_or(SheetError::Empty)?;
        let (headers, first) = if is_data(&first.1) { (unnamed(first.1.len()), Some(first)) } else { (first.1, None) };
        if headers.len() > limits::FILE_COLUMNS {
            return Err(SheetError::TooWide);
        }
        let lines: Vec<(u64, Vec<String>)> = first.into_iter().chain(records).take(limits::FILE_LINES + 1).collect();
        if lines.len() > limits::FILE_LINES {
            return Err(SheetError::TooLong);
        }
        Ok(Sheet { delimiter, headers, lines })
    }

    /// The cells of a column, top to bottom; a line that is too short has an empty one.
    pub fn column(&self, at: usize) -> impl Iterator<Item = &str> {
        self.lines.iter().map(move |(_, cells)| cells.get(at).map_or("", String::as_str))
    }
}

/// Rows that are parted by tabs, the first `most` of those that are not empty.
///
/// # Errors
/// [`SheetError::OpenQuote`].
pub(in crate::exchange) fn rows_of(text: &str, most: usize) -> Result<Vec<Vec<String>>, SheetError> {
    let text = &text.replace("\r\n", "\n").replace('\r', "\n");
    if let Some(line) = open_quote(text) {
        return Err(SheetError::OpenQuote(line));
    }
    Ok(records(text, b'\t').take(most).map(|(_, cells)| cells).collect())
}

/// Whether a first line is a line of data: it has a figure in it, and no header that means a column of ours.
fn is_data(cells: &[String]) -> bool {
    let is_figure = |cell: &String| cell.starts_with(|letter: char| letter.is_ascii_digit());
    cells.iter().any(is_figure) && cells.iter().all(|cell| !super::mapping::is_header(cell))
}

/// Headers of columns that nobody has named.
fn unnamed(columns: usize) -> Vec<String> {
    (1..=columns).map(|at| format!("{UNNAMED}{at}")).collect()
}

/// How a file is encoded. A byte order mark says it; zeros beside letters are UTF-16; what is not UTF-8 is Windows-1252, in which every
/// byte is something.
fn encoding_of(bytes: &[u8]) -> &'static Encoding {
    if let Some((encoding, _)) = Encoding::for_bom(bytes) {
        return encoding;
    }
    let start = &bytes[..bytes.len().min(2_000)];
    let zeros = |odd: usize| start.iter().skip(odd).step_by(2).filter(|byte| **byte == 0).count();
    let most = start.len() * 2 / 5;
    match (zeros(0), zeros(1)) {
        (_, high) if start.len() > 3 && high > most => UTF_16LE,
        (high, _) if start.len() > 3 && high > most => UTF_16BE,
        _ if std::str::from_utf8(bytes).is_ok() => UTF_8,
        _ => WINDOWS_1252,
    }
}

fn records(text: &str, delimiter: u8) -> impl Iterator<Item = (u64, Vec<String>)> {
    let reader = ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        .delimiter(delimiter)
        .from_reader(std::io::Cursor::new(text.as_bytes().to_vec()));
    // The text is decoded and records may have any length, so that nothing is left to fail.
    let records = reader.into_records().filter_map(Result::ok);
    records
        .map(|record| (line_of(&record), cells(&record)))
        .filter(|(_, cells)| cells.iter().any(|cell| !cell.is_empty()))
}

fn line_of(record: &StringRecord) -> u64 {
    record.position().map_or(0, csv::Position::line)
}

/// The cells, trimmed, and freed of the mark that keeps a spreadsheet from running them.
fn cells(record: &StringRecord) -> Vec<String> {
    record.iter().map(|cell| unguarded(cell.trim())).collect()
}

/// The one of comma, semicolon and tab by which most of the first lines have as many cells as the header, of those the
/// one with the most cells; a comma if nothing splits.
fn delimiter_of(text: &str) -> u8 {
    let evenness = |delimiter: u8| {
        let rows: Vec<usize> = records(text, delimiter).take(20).map(|(_, cells)| cells.len()).collect();
        let width = rows.first().copied().unwrap_or(0);
        (width > 1).then(|| (rows.iter().filter(|&&cells| cells == width).count(), width))
    };
    // The last of equal ones wins, so that a comma wins.
    *b"\t;,".iter().max_by_key(|delimiter| evenness(**delimiter)).unwrap_or(&b',')
}

/// The line in which a quote is opened that nothing closes.
fn open_quote(text: &str) -> Option<u64> {
    let (mut line, mut opened, mut at_start) = (1, None, true);
    let mut chars = text.chars().peekable();
    while let Some(c) = chars.next() {
        match (c, opened) {
            ('"', Some(_)) if chars.peek() == Some(&'"') => {
                chars.next();
            }
            ('"', Some(_)) => opened = None,
            ('"', None) if at_start => opened = Some(line),
            _ => {}
        }
        line += u64::from(c == '\n');
        at_start = opened.is_none() && matches!(c, ',' | ';' | '\t' | '\n');
    }
    opened
}

/// What a spreadsheet would run as a formula; also the full-width signs that some take for the plain ones.
const RUN: [char; 10] = ['=', '+', '-', '@', '\t', '\r', '＝', '＋', '－', '＠'];

/// A cell that no spreadsheet runs. What would be, and what looks as if it had been guarded, gets an apostrophe in front; so does what
/// stands behind a semicolon, at which some spreadsheets begin another cell.
pub(in crate::exchange) fn guarded(cell: &str) -> String {
    let part = |part: &str| if would_run(part) { format!("'{part}") } else { part.to_owned() };
    cell.split(';').map(part).collect::<Vec<_>>().join(";")
}

/// Undoes [`guarded`].
fn unguarded(cell: &str) -> String {
    let part = |part: &str| part.strip_prefix('\'').filter(|rest| would_run(rest)).unwrap_or(part).to_owned();
    cell.split(';').map(part).collect::<Vec<_>>().join(";")
}

fn would_run(part: &str) -> bool {
    part.trim_start_matches(['\'', ' ']).starts_with(RUN)
}
