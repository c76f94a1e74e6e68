//! Every limit of the rules, once, with its reason. All are inclusive.

/// The most characters of what a shop knows an offer by.
pub const OFFER: usize = 40;
/// The most of a seller's fee, in tenths of a per cent: half of the price.
pub const FEE_TENTHS: u32 = 500;
/// The heaviest mass that can be typed, in milligrams: 200 kg is more than anybody carries.
pub const MASS_MG: i64 = 200_000_000;
/// The longest figure that is read, in characters.
pub const FIGURE: usize = 50;
/// The longest figure that is kept as it was typed, with the unit that was meant, in characters.
pub const TYPED: usize = 60;
/// The longest name of a scale, in characters.
pub const SCALE: usize = 60;
/// The finest and the coarsest step of a scale, in milligrams.
pub const STEP_MG: (i64, i64) = (1, 1_000_000);
/// The most readings of one take-away weighing.
pub const READINGS: usize = 500;
/// The first and the last year that something was weighed in.
pub const YEARS: (i32, i32) = (1970, 2200);
/// The most pack lists of one account.
pub const LISTS: usize = 500;
/// Lists that are planned together.
pub const YEAR_LISTS: usize = 60;
/// Things on all lists that are planned together.
pub const YEAR_LINES: usize = 20_000;
/// Lines, swaps and what those take off and put on, times lists that are planned together.
pub const YEAR_ENTRIES: usize = 400_000;
/// What lists that are planned together, and all that swaps change of them, may come to, in milligrams times nights: far from what could overflow.
pub const GRAM_NIGHTS_MG: i64 = 100_000_000_000_000_000;
/// The most plans of one list that are kept by name.
pub const KEPT_PLANS: usize = 100;
/// The most proposals of one list that are silenced.
pub const SILENCED: usize = 500;
/// The most kits of one account.
pub const KITS: usize = 1_000;
/// Kits of a list that share lines, or that others between them link: more say nothing more, and each may count where newer ones are broken.
pub const LINKED_KITS: usize = 8;
/// The most things of one account.
pub const THINGS: usize = 50_000;
/// The longest note of a list, in characters.
pub const NOTE: usize = 200;
/// The longest quick line, in characters.
pub const QUICK_LINE: usize = 400;
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
/// The most entries on all sides of the swaps of one problem and links between them, together: what is made of them before a search begins
/// takes a second or two.
pub const ENTRIES: usize = 200_000;
/// The most things of a problem that are something to its night, on the list and put on by swaps: beds, what warms them, pads.
pub const NIGHT_THINGS: usize = 2_000;
/// Tenths of an hour of making that one swap may take: 1 000 hours.
pub const TENTH_HOURS: i64 = 10_000;
/// The last month that buying is planned for: five years on.
pub const LAST_MONTH: u32 = 60;
/// The most months that a resale may take to be paid.
pub const MONTHS: u32 = 120;
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
/// Columns of a gear file.
pub const FILE_COLUMNS: usize = 200;
/// Rows that are pasted as swaps at a time.
pub const SWAP_ROWS: usize = 100;
/// The longest tag, in characters.
pub const TAG: usize = 40;
/// The most tags of one thing.
pub const TAGS: usize = 20;
/// The longest note of where a thing is kept, in characters.
pub const KEPT_AT: usize = 120;
/// The longest note of a thing, in characters.
pub const THING_NOTE: usize = 500;
/// The most nights of use.
pub const NIGHTS: u32 = 100_000;
/// The most trips of an account.
pub const TRIPS: usize = 1_000;
/// The most nights of one trip.
pub const TRIP_NIGHTS: u32 = 365;
/// The most things that a trip has, wished ones too.
pub const TRIP_THINGS: usize = LINES + 500;
/// The most lessons that are silenced.
pub const SILENCED_LESSONS: usize = 2_000;
/// The most minutes walked on a trip.
pub const WALKED_MIN: i64 = 365 * 24 * 60;
/// The most cautions of a list that are acknowledged: each at most once for each job and walker.
pub const KNOWN_CAUTIONS: usize = 200;
/// The most walkers of one list.
pub const WALKERS: usize = 8;
/// The heaviest that a pack can be with all that a list and a trip may have in it, in milligrams: more than all lines of the most pieces of the
/// heaviest things, and a year's food.
pub const PACK_MG: i64 = 2_000_000_000_000_000;
