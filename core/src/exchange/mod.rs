//! Open formats, read and written: `kevyt-problem/1` and `kevyt-answer/1` (section 11 of the rules), the ranking and plan
//! as text for a person, the lines that add gear and swaps as they are typed, and gear files (CSV).

mod answer;
pub mod gear_file;
mod problem;
mod quick_line;
mod swap_line;
mod table;

#[cfg(test)]
mod tests;

pub use answer::answer_json;
pub use problem::{FORMAT, read_problem};
pub use quick_line::{Chip, Proposal, QuickLine, Read, job_mark, propose, read_price, read_weight};
pub use swap_line::{Gone, Listed, SwapLine};
pub use table::table;
