//! `/api/forecast`: what a forecast service expects, if this server has one. It is asked for two seconds at most, and what is no
//! forecast is not passed on.

use super::App;
use super::guard::SignedIn;
use super::outside::{Failed, ask};
use super::problem::ProblemDoc;
use actix_web::get;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Query};
use kevyt_core::limits;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// What is asked of a forecast.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ForecastQuery {
    /// The name of a place, at most 120 characters.
    place: String,
    /// The first day: `2026-09-04`.
    from: String,
    /// Days, 1 to 365.
    days: u32,
}

/// What is expected. Temperatures in tenths of a degree Celsius.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[schema(as = Forecast)]
pub struct ForecastOut {
    low_tenth_c: i64,
    /// The colder end of the spread of the low.
    low_from_tenth_c: i64,
    low_to_tenth_c: i64,
    high_tenth_c: i64,
    high_from_tenth_c: i64,
    /// The hotter end of the spread of the high.
    high_to_tenth_c: i64,
    /// Days with rain.
    rain_days: u32,
    wind_km_per_hour: u32,
    /// Tenths of an hour of light a day.
    light_tenth_hours: i64,
    /// What it is based on and how wide its spread is, in a sentence.
    based_on: String,
}

/// Where a place is not known.
#[derive(Deserialize)]
struct Unknown {
    places: Vec<String>,
}

/// Asks the forecast.
#[utoipa::path(get, path = "/api/forecast", tag = "forecast", params(ForecastQuery),
    responses((status = 200, body = ForecastOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc), (status = 502, body = ProblemDoc)))]
#[get("/forecast")]
pub async fn get(app: Data<App>, _: SignedIn, query: Query<ForecastQuery>) -> Result<Json<ForecastOut>, ProblemDoc> {
    let Some(address) = app.services.options.forecast.clone() else {
        return Err(refused(StatusCode::NOT_FOUND, "no_forecast", "This server has no forecast. Type the figures."));
    };
    let ForecastQuery { place, from, days } = query.into_inner();
    let is_day = chrono::NaiveDate::parse_from_str(&from, "%Y-%m-%d").is_ok();
    if place.chars().count() > limits::NAME || !is_day || !(1..=365).contains(&days) {
        let detail = "A forecast is asked for a place, a first day such as 2026-09-04, and 1 to 365 days.";
        return Err(refused(StatusCode::UNPROCESSABLE_ENTITY, "out_of_range", detail));
    }
    asked(&address, &place, &from, days).await.map(Json).map_err(|failed| match failed {
        Failed::Silent => away("The forecast does not answer."),
        Failed::Nonsense => away("The forecast answers what can't be a forecast."),
        Failed::Unknown(text) => match serde_json::from_slice::<Unknown>(&text) {
            Err(_) => away("The forecast answers what can't be a forecast."),
            Ok(Unknown { places }) => {
                let detail = format!("The forecast does not know {place}. It knows {}.", places.join(", "));
                refused(StatusCode::NOT_FOUND, "unknown_place", detail)
            }
        },
    })
}

fn refused(status: StatusCode, code: &'static str, detail: impl Into<String>) -> ProblemDoc {
    ProblemDoc::new(status, "No forecast", code, detail)
}

fn away(what: &str) -> ProblemDoc {
    refused(StatusCode::BAD_GATEWAY, "forecast_away", format!("{what} Type the figures, or ask again later."))
}

async fn asked(address: &str, place: &str, from: &str, days: u32) -> Result<ForecastOut, Failed> {
    let query = [("place", place), ("from", from), ("days", &days.to_string())];
    let found: ForecastOut = ask(format!("{address}/forecast"), &query).await?;
    if is_likely(&found, days) { Ok(found) } else { Err(Failed::Nonsense) }
}

/// Whether the figures can be weather: in order, on Earth, and no more rain than days.
fn is_likely(found: &ForecastOut, days: u32) -> bool {
    let (coldest, hottest) = limits::TENTHS_OF_DEGREE;
    let order = [
        coldest,
        found.low_from_tenth_c,
        found.low_tenth_c,
        found.low_to_tenth_c,
        // The warmest night may be warmer than the coldest day.
        found.low_to_tenth_c.max(found.high_tenth_c),
        found.high_to_tenth_c.max(found.low_to_tenth_c),
        hottest,
    ];
    let highs = [found.high_from_tenth_c, found.high_tenth_c, found.high_to_tenth_c];
    order.is_sorted()
        && highs.is_sorted()
        && found.low_tenth_c <= found.high_tenth_c
        && highs[0] >= coldest
        && found.rain_days <= days
        && found.wind_km_per_hour <= 400
        && (0..=240).contains(&found.light_tenth_hours)
        && found.based_on.chars().count() <= 500
}
