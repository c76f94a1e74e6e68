//! The trip of a list, calculated, on the wire.

use kevyt_core::caution::{Caution, CautionId, CautionWithRemedies, Level, Measure, Remedy};
use kevyt_core::gear::Job;
use kevyt_core::quantity::Mass;
use kevyt_core::trip::{ByThePiece, Cover, Covers, Why};
use kevyt_service::fields::JobAmounts;
use kevyt_service::sheet::{OnShelf, TripSheet};
use kevyt_service::stored::GearId;
use serde::Serialize;
use utoipa::ToSchema;

/// The trip, calculated.
#[derive(Serialize, ToSchema)]
#[schema(as = TripSheet)]
pub struct TripOut {
    food_by_carry_mg: Vec<i64>,
    /// By the tag `food`.
    food_on_list_mg: i64,
    water_ml: i64,
    water_held_ml: i64,
    /// Millilitres drunk in an hour of walking.
    water_ml_per_hour: i64,
    gas_mg: i64,
    gas_held_mg: i64,
    power_mwh: i64,
    power_held_mwh: i64,
    counted: Vec<CountedOut>,
    gas_cover: CoversOut,
    power_cover: CoversOut,
    days_mg: Vec<i64>,
    heaviest_day: u32,
    heaviest_mg: i64,
    mean_mg: i64,
    /// What the packs carry comfortably; null if none says so.
    comfortable_mg: Option<i64>,
    /// The share of body weight above which a load is told; null where nobody says what they weigh.
    body_limit_mg: Option<i64>,
    requirements: Vec<RequirementOut>,
    shortfalls: JobAmounts,
    cautions: Vec<CautionOut>,
}

/// Things used by the piece.
#[derive(Serialize, ToSchema)]
#[schema(as = CountedHere)]
pub struct CountedOut {
    tag: String,
    needed: i64,
    there: i64,
}

/// The lightest that holds enough.
#[derive(Serialize, ToSchema)]
#[schema(as = Covers)]
pub struct CoversOut {
    /// Of what is owned; null where it is not enough, or nothing is needed.
    owned: Option<CoverOut>,
    /// With candidates of the list's swaps, where that is lighter.
    with_candidates: Option<CoverOut>,
}

/// Pieces that hold enough together.
#[derive(Serialize, ToSchema)]
#[schema(as = Cover)]
pub struct CoverOut {
    pieces: Vec<CoverPieceOut>,
    mass_mg: i64,
    /// Whether it is proved that none is lighter.
    proved: bool,
}

/// Pieces of one thing.
#[derive(Serialize, ToSchema)]
#[schema(as = CoverPieces)]
pub struct CoverPieceOut {
    name: String,
    count: u32,
}

/// What the trip requires.
#[derive(Serialize, ToSchema)]
#[schema(as = Requirement)]
pub struct RequirementOut {
    job: String,
    amount: i64,
    why: Why,
    /// What the conditions alone ask for.
    by_default: i64,
    /// How much of it is lacking.
    short: i64,
}

/// A caution.
#[derive(Serialize, ToSchema)]
#[schema(as = Caution)]
pub struct CautionOut {
    id: CautionId,
    level: Level,
    measure: Measure,
    /// Where the rule comes from.
    source: &'static str,
    job: Option<String>,
    found: Option<i64>,
    against: Option<i64>,
    short: Option<i64>,
    limit: Option<i64>,
    /// Whether comfort or limit was calculated by a rule of thumb.
    assumed: bool,
    /// What it is acknowledged by.
    key: String,
    /// Whether it was acknowledged, and is no worse than then.
    known: bool,
    /// Positions of the things behind it.
    of: Vec<usize>,
    remedies: Vec<RemedyOut>,
}

/// What would quiet a caution.
#[derive(Serialize, ToSchema)]
#[schema(as = Remedy)]
pub struct RemedyOut {
    name: String,
    /// The gear, if it is owned; a candidate otherwise.
    gear: Option<GearId>,
    unit_mg: Option<i64>,
    /// What the figure would be.
    found: Option<i64>,
    /// By how much that is another.
    gain: Option<i64>,
    /// Whether it would be quiet; otherwise it would be less.
    quiets: bool,
}

impl From<TripSheet> for TripOut {
    fn from(trip: TripSheet) -> TripOut {
        let TripSheet { supplies, held, days, shortfalls, holders, shelf, .. } = trip;
        let short = |job: &Job| shortfalls.get(job).copied().unwrap_or_default();
        let requirements = trip.requirements.into_iter().map(|asked| RequirementOut {
            short: short(&asked.job),
            job: asked.job.as_str().to_owned(),
            amount: asked.amount,
            why: asked.why,
            by_default: asked.by_default,
        });
        TripOut {
            requirements: requirements.collect(),
            food_by_carry_mg: supplies.food_by_carry.iter().map(|mass| mass.mg()).collect(),
            food_on_list_mg: held.food.mg(),
            water_ml: supplies.water_ml,
            water_held_ml: held.water_ml,
            water_ml_per_hour: trip.ml_per_hour,
            gas_mg: supplies.gas.mg(),
            gas_held_mg: held.gas.mg(),
            power_mwh: supplies.power_mwh,
            power_held_mwh: held.power_mwh,
            counted: trip.counted.into_iter().map(CountedOut::from).collect(),
            gas_cover: covers_out(trip.gas, &holders),
            power_cover: covers_out(trip.power, &holders),
            days_mg: days.starts.iter().map(|mass| mass.mg()).collect(),
            heaviest_day: days.heaviest_day,
            heaviest_mg: days.heaviest.mg(),
            mean_mg: days.mean.mg(),
            comfortable_mg: trip.comfortable.map(Mass::mg),
            body_limit_mg: trip.body_limit.map(Mass::mg),
            shortfalls: JobAmounts::from(&shortfalls),
            cautions: trip
                .cautions
                .into_iter()
                .zip(trip.known)
                .map(|(caution, known)| caution_out(caution, known, &shelf))
                .collect(),
        }
    }
}

/// Covers with the names of their pieces.
fn covers_out(covers: Covers, names: &[String]) -> CoversOut {
    let out = |Cover { pieces, mass, is_proved }: Cover| CoverOut {
        pieces: pieces.into_iter().map(|(at, count)| CoverPieceOut { name: names[at].clone(), count }).collect(),
        mass_mg: mass.mg(),
        proved: is_proved,
    };
    CoversOut { owned: covers.owned.map(out), with_candidates: covers.with_got.map(out) }
}

impl CautionOut {
    /// A caution alone, without what would quiet it.
    pub(in crate::http) fn plain(caution: Caution) -> CautionOut {
        caution_out(CautionWithRemedies { caution, remedies: Vec::new() }, false, &[])
    }
}

fn caution_out(raised: CautionWithRemedies, known: bool, shelf: &[OnShelf]) -> CautionOut {
    let key = raised.caution.key();
    let Caution { id, level, job, found, against, short, limit, assumed, of } = raised.caution;
    let remedy = |remedy: Remedy| {
        let thing = &shelf[remedy.thing];
        RemedyOut {
            name: thing.name.clone(),
            gear: thing.gear,
            unit_mg: thing.unit.map(Mass::mg),
            found: remedy.found,
            gain: remedy.gain,
            quiets: remedy.quiets,
        }
    };
    CautionOut {
        id,
        level,
        measure: id.measure(),
        source: id.source(),
        job: job.map(|job| job.as_str().to_owned()),
        found,
        against,
        short,
        limit,
        assumed,
        key,
        known,
        of,
        remedies: raised.remedies.into_iter().map(remedy).collect(),
    }
}

impl From<ByThePiece> for CountedOut {
    fn from(ByThePiece { tag, takes, there }: ByThePiece) -> CountedOut {
        CountedOut { tag, needed: takes, there }
    }
}
