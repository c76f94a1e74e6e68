//! Open formats, read and written: `kevyt-problem/1`, `/2` and their answers (section 11 of the rules), the ranking and plan
//! as text for a person, the lines that add gear and swaps as they are typed, and gear files (CSV).

mod answer;
pub mod gear_file;
mod list_file;
mod list_text;
mod problem;
mod quick_line;
mod swap_line;
mod swap_rows;
mod table;

#[cfg(test)]
mod tests;

pub use answer::{answer_json, lists_json};
pub use list_file::{LIST_FORMAT, TripList, Walker, list_json, read_list, sums_json, sums_table};
pub use list_text::{Taken, list_csv, list_markdown, place_word};
pub use problem::{AnyProblem, Version, read_any_problem, read_problem};
pub use quick_line::{Chip, QuickLine, Read, job_mark, read_price, read_weight, take_kind_of_name};
pub use swap_line::{Listed, SwapLine, TakenOff};
pub use swap_rows::{RowsError, swap_lines};
pub use table::{lists_table, table};

/// The path of a value as it is told: of the whole file, if it is of no value in it.
fn path_of(path: &str) -> String {
    match path {
        "?" | "." => "the file".to_owned(),
        path => path.to_owned(),
    }
}
