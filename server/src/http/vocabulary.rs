//! `/api/vocabulary`: the words that core has names for.

use super::App;
use actix_web::get;
use actix_web::web::{Data, Json};
use kevyt_core::caution::BODY_PERCENT;
use kevyt_core::gear::{COMFORT_OVER_LIMIT, Guard, JobUnit, KNOWN_JOBS, Kind, MARKS, System, Typical};
use kevyt_core::list::{Switch, Way};
use kevyt_core::trip::{COLD_TENTH_C, Food, Trip};
use serde::Serialize;
use utoipa::ToSchema;

/// Systems and jobs, in the order in which they are shown.
#[derive(Serialize, ToSchema)]
pub struct VocabularyOut {
    systems: Vec<SystemOut>,
    jobs: Vec<JobOut>,
    /// What a thing can be, in order of systems.
    kinds: Vec<KindOut>,
    /// What else can be so of a thing.
    marks: Vec<MarkOut>,
    /// Figures that rules go by, and what is usual where nobody says otherwise.
    rules: RulesOut,
    /// Whether this server has demo accounts to enter.
    demo: bool,
    /// Whether people make accounts by themselves.
    sign_up: bool,
    /// The address of a simulated scale, if this server offers one.
    scale: Option<String>,
    /// Whether this server has a shop that things can be found in.
    shop: bool,
}

/// Figures that rules go by, and what is usual where nobody says otherwise.
#[derive(Serialize, ToSchema)]
#[schema(as = Rules)]
pub struct RulesOut {
    /// The low at which and below a trip asks for a warm layer, in tenths of a degree Celsius.
    cold_tenth_c: i64,
    /// How far comfort lies over the limit where only one of them is known, in tenths of a degree.
    comfort_over_limit_tenth: i64,
    /// The share of body weight above which a load is told, in percent.
    body_percent: u32,
    /// A trip to begin with.
    trip: Trip,
    /// A day's food, said in each way: by weight, by energy, by packed meals.
    food: [Food; 3],
    /// The tags on which ways of counting differ, in the order in which they count, and where each usually counts.
    places: Vec<Switch>,
}

/// A system.
#[derive(Serialize, ToSchema)]
pub struct SystemOut {
    key: &'static str,
    name: &'static str,
}

/// A job.
#[derive(Serialize, ToSchema)]
pub struct JobOut {
    key: &'static str,
    name: &'static str,
    /// What its amounts count: count, tenths_of_r, ml, g or mwh.
    unit: &'static str,
    /// Never proposed for leaving out.
    safety: bool,
}

/// A kind of thing.
#[derive(Serialize, ToSchema)]
pub struct KindOut {
    key: &'static str,
    name: &'static str,
    /// The key of its system.
    system: &'static str,
    /// Whether Kevyt may propose that one stays home.
    guard: Guard,
    /// A light one, a usual one, a heavy one: made up, and plausible. Empty where nothing is typical.
    #[schema(value_type = Vec<Typical>)]
    typical: Vec<Typical>,
}

/// What else can be so of a thing.
#[derive(Serialize, ToSchema)]
pub struct MarkOut {
    key: &'static str,
    /// What is so, and what follows from it.
    name: &'static str,
}

/// The systems and the jobs.
#[utoipa::path(get, path = "/api/vocabulary", tag = "server", responses((status = 200, body = VocabularyOut)))]
#[get("/vocabulary")]
pub async fn get(app: Data<App>) -> Json<VocabularyOut> {
    let unit = |unit: JobUnit| match unit {
        JobUnit::Count => "count",
        JobUnit::TenthsOfR => "tenths_of_r",
        JobUnit::Ml => "ml",
        JobUnit::G => "g",
        JobUnit::Mwh => "mwh",
    };
    Json(VocabularyOut {
        systems: System::ALL.iter().map(|system| system_out(*system)).collect(),
        jobs: KNOWN_JOBS
            .iter()
            .map(|job| JobOut { key: job.key, name: job.name, unit: unit(job.unit), safety: job.safety })
            .collect(),
        kinds: Kind::all()
            .iter()
            .map(|kind| KindOut {
                key: kind.key,
                name: kind.name,
                system: kind.system.key(),
                guard: kind.guard,
                typical: kind.typical.iter().flatten().copied().collect(),
            })
            .collect(),
        marks: MARKS.iter().map(|mark| MarkOut { key: mark.key, name: mark.name }).collect(),
        rules: RulesOut {
            cold_tenth_c: COLD_TENTH_C,
            comfort_over_limit_tenth: COMFORT_OVER_LIMIT,
            body_percent: BODY_PERCENT,
            trip: Trip::mild(),
            food: Food::USUAL,
            places: Way::usual().map(|(tag, place)| Switch { tag: tag.to_owned(), place }).collect(),
        },
        demo: app.services.options.demo,
        sign_up: !app.services.options.sign_up_is_closed,
        scale: app.services.options.scale.clone(),
        shop: app.services.options.shop.is_some(),
    })
}

fn system_out(system: System) -> SystemOut {
    SystemOut { key: system.key(), name: system.name() }
}
