//! A simulated forecast over HTTP: made-up climate for made-up places, the same every time it is asked.

use actix_web::dev::Server;
use actix_web::web::{Data, Query};
use actix_web::{App, HttpResponse, HttpServer, get};
use serde::{Deserialize, Serialize};
use serde_json::json;
use std::net::TcpListener;
use std::time::Duration;

/// How the forecast behaves.
#[derive(Debug, Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
pub enum Mood {
    /// It answers.
    Well,
    /// It takes longer than anybody waits.
    Slow,
    /// It answers what no forecast would.
    Nonsense,
}

/// A place and the mean of its year, in tenths of a degree; how far summer and winter lie from it; rain on so many of ten days.
struct Place {
    name: &'static str,
    mean: i64,
    swing: i64,
    rain_in_ten: i64,
}

/// None of these is anywhere.
const PLACES: [Place; 4] = [
    Place { name: "north fells", mean: 30, swing: 110, rain_in_ten: 4 },
    Place { name: "long rim", mean: 110, swing: 120, rain_in_ten: 2 },
    Place { name: "heather coast", mean: 90, swing: 60, rain_in_ten: 6 },
    Place { name: "high basin", mean: 60, swing: 140, rain_in_ten: 1 },
];

/// How far the middle of summer and winter lie from the mean, by month, in per cent.
const SEASON: [i64; 12] = [-100, -90, -60, -15, 30, 70, 100, 90, 45, 0, -50, -85];
/// Hours of light by month in middle latitudes, in tenths.
const LIGHT: [i64; 12] = [80, 97, 118, 138, 156, 165, 160, 144, 125, 106, 88, 77];

#[derive(Deserialize)]
struct ForecastQuery {
    place: String,
    /// `2026-09-04`.
    from: String,
    days: u32,
}

/// What is expected. Temperatures in tenths of a degree Celsius.
#[derive(Debug, PartialEq, Eq, Serialize)]
pub struct Forecast {
    low_tenth_c: i64,
    low_from_tenth_c: i64,
    low_to_tenth_c: i64,
    high_tenth_c: i64,
    high_from_tenth_c: i64,
    high_to_tenth_c: i64,
    rain_days: u32,
    wind_km_per_hour: u32,
    light_tenth_hours: i64,
    based_on: String,
}

/// What is expected at a place from a day on; `None` if the place or the day is none.
pub fn forecast(place: &str, from: &str, days: u32) -> Option<Forecast> {
    let place = PLACES.iter().find(|known| known.name == place.trim().to_lowercase())?;
    let mut parts = from.split('-');
    let (_, month, day): (i64, usize, i64) =
        (parts.next()?.parse().ok()?, parts.next()?.parse().ok()?, parts.next()?.parse().ok()?);
    let season = SEASON.get(month.checked_sub(1)?)?;
    let mean = place.mean + place.swing * season / 100;
    // The longer the trip, the colder its coldest night; the day only stirs it a little.
    let length = i64::from(days.min(14));
    let (low, high) = (mean - 55 - length * 4 - day % 7, mean + 60 + length * 3 + day % 5);
    let (below, above) = (25 + length, 20 + length);
    Some(Forecast {
        low_tenth_c: low,
        low_from_tenth_c: low - below,
        low_to_tenth_c: low + above,
        high_tenth_c: high,
        high_from_tenth_c: high - above,
        high_to_tenth_c: high + below,
        rain_days: u32::try_from((i64::from(days) * place.rain_in_ten + 5) / 10).unwrap_or_default(),
        wind_km_per_hour: u32::try_from(15 + day % 20).unwrap_or_default(),
        light_tenth_hours: LIGHT[month - 1],
        based_on: format!("Made-up climate of {}, 30 years; the spread holds 8 years of 10.", place.name),
    })
}

#[get("/forecast")]
async fn answer(mood: Data<Mood>, asked: Query<ForecastQuery>) -> HttpResponse {
    match **mood {
        Mood::Slow => actix_web::rt::time::sleep(Duration::from_secs(30)).await,
        Mood::Nonsense => return HttpResponse::Ok().json(json!({ "low_tenth_c": "mild", "high_tenth_c": 99_999 })),
        Mood::Well => {}
    }
    match forecast(&asked.place, &asked.from, asked.days) {
        Some(found) => HttpResponse::Ok().json(found),
        None => {
            let known: Vec<&str> = PLACES.iter().map(|place| place.name).collect();
            HttpResponse::NotFound().json(json!({ "places": known }))
        }
    }
}

/// Serves the forecast.
///
/// # Errors
/// If the listener can't be used.
pub fn run_forecast(mood: Mood, listener: TcpListener) -> std::io::Result<Server> {
    let mood = Data::new(mood);
    let server = HttpServer::new(move || App::new().app_data(mood.clone()).service(answer));
    Ok(server.workers(1).shutdown_timeout(1).listen(listener)?.run())
}

#[cfg(test)]
mod tests {
    use super::forecast;

    #[test]
    fn is_colder_in_winter_and_wider_the_longer_the_trip() {
        let low = |from, days| forecast("North fells", from, days).map(|found| found.low_tenth_c);
        assert!(low("2026-01-04", 7) < low("2026-07-04", 7));
        let spread = |days| forecast("long rim", "2026-05-02", days).map(|f| f.low_to_tenth_c - f.low_from_tenth_c);
        assert!(spread(2) < spread(9));
        assert_eq!(low("2026-13-01", 2), None);
        assert_eq!(forecast("somewhere", "2026-05-02", 2), None);
    }
}
