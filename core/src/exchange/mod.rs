//! Open formats, read and written: `kevyt-problem/1` and `kevyt-answer/1` (section 11 of the rules), the ranking and plan
//! as text for a person, the quick line that adds gear as it is typed, and gear files (CSV).

mod answer;
pub mod gear_file;
mod problem;
mod quick_line;
mod table;

#[cfg(test)]
mod tests;

pub use answer::answer_json;
pub use problem::{FORMAT, read_problem};
pub use quick_line::{Chip, Proposal, QuickLine, Read, job_mark, propose};
pub use table::table;
