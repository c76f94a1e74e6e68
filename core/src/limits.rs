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
/// The coldest and the hottest temperature that can be typed, in tenths of a degree Celsius: weather on Earth.
pub const TENTHS_OF_DEGREE: (i64, i64) = (-900, 600);
/// The largest volume that can be typed, in millilitres.
pub const VOLUME_ML: i64 = 500_000;
/// The largest energy that can be typed, in milliwatt hours.
pub const ENERGY_MWH: i64 = 10_000_000;
/// The longest distance that can be typed, in metres: half the way round the Earth.
pub const DISTANCE_M: i64 = 20_000_000;
/// The most parts of one kit.
pub const PARTS: usize = 100;
/// The most lines of one gear file.
pub const FILE_LINES: usize = 20_000;
/// The longest tag, in characters.
pub const TAG: usize = 40;
/// The most tags of one thing.
pub const TAGS: usize = 20;
/// The longest note of where a thing is kept, in characters.
pub const KEPT_AT: usize = 120;
/// The most nights of use.
pub const NIGHTS: u32 = 100_000;
