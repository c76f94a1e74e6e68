//! Every limit of the rules, once, with its reason. All are inclusive.

/// The heaviest mass that can be typed, in milligrams: 200 kg is more than anybody carries.
pub const MASS_MG: i64 = 200_000_000;
/// The largest amount of money that can be typed, in minor units: ten million euro.
pub const MONEY_MINOR: i64 = 1_000_000_000;
/// The most pieces of one thing on one line or side. With the other limits it keeps every sum of a problem inside `i64`.
pub const COUNT: u32 = 1_000;
/// The largest amount of a job that one piece provides or needs, in the job's unit.
pub const JOB_AMOUNT: i64 = 1_000_000_000;
/// The most jobs one thing provides, or needs.
pub const JOBS: usize = 40;
/// The most lines of one problem.
pub const LINES: usize = 5_000;
/// The most swaps of one problem.
pub const SWAPS: usize = 10_000;
/// The most entries on one side of a swap.
pub const SIDE: usize = 100;
/// The most other swaps that one swap requires or excludes.
pub const LINKS: usize = 100;
/// Tenths of an hour of making that one swap may take: 1 000 hours.
pub const TENTH_HOURS: i64 = 10_000;
/// The longest name, in characters.
pub const NAME: usize = 120;
