//! A simulated shop over HTTP: a few hundred made-up things with a code, the maker's weight, a price and stock; sales and second-hand offers that
//! come and go with a seed and a clock that can be moved. The same seed and day give the same shop.

use actix_web::dev::Server;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{App, HttpResponse, HttpServer, get, post};
use serde::{Deserialize, Serialize};
use serde_json::json;
use std::net::TcpListener;
use std::sync::atomic::{AtomicI64, Ordering};
use std::time::Duration;

/// How the shop behaves.
#[derive(Debug, Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
pub enum Mood {
    /// It answers.
    Well,
    /// It takes longer than anybody waits.
    Slow,
    /// It answers what no shop would.
    Nonsense,
    /// It has changed its currency.
    Crowns,
}

/// Name, system, grams and price in minor units.
type Good = (&'static str, &'static str, i64, i64);

/// What things there are: name, system, grams and price in minor units of the plainest, and words for the lighter and dearer ones.
const GOODS: [Good; 24] = [
    ("pole shelter", "shelter", 760, 34_900),
    ("two-skin dome", "shelter", 1_650, 28_900),
    ("tarp", "shelter", 420, 14_900),
    ("ground sheet", "shelter", 160, 1_900),
    ("stake", "shelter", 11, 290),
    ("down quilt", "sleep", 620, 27_900),
    ("synthetic bag", "sleep", 1_050, 13_900),
    ("liner", "sleep", 140, 5_900),
    ("air pad", "sleep", 420, 13_900),
    ("foam pad", "sleep", 310, 3_900),
    ("pillow", "sleep", 75, 3_500),
    ("frameless pack", "pack", 780, 23_900),
    ("framed pack", "pack", 1_400, 19_900),
    ("pack liner", "pack", 60, 900),
    ("rain shell", "rain", 260, 15_900),
    ("rain trousers", "rain", 180, 8_900),
    ("wind shirt", "clothes", 110, 8_500),
    ("fleece", "clothes", 290, 6_900),
    ("pot", "kitchen", 130, 4_200),
    ("spirit burner", "kitchen", 60, 2_400),
    ("soft bottle", "water", 35, 1_200),
    ("squeeze filter", "water", 75, 3_900),
    ("headlamp", "power", 70, 4_500),
    ("power bank 10 Ah", "power", 185, 3_200),
];

/// Materials and cuts: name, weight and price in per cent of the plainest.
const CUTS: [(&str, i64, i64); 8] = [
    ("coated nylon", 100, 100),
    ("coated polyester", 108, 82),
    ("thin nylon", 84, 118),
    ("laminate", 66, 168),
    ("thick weave", 126, 68),
    ("short cut", 90, 96),
    ("wide cut", 114, 108),
    ("thin weave", 76, 140),
];

/// Days that a sale, and what is in stock, stand.
const SALE_DAYS: i64 = 14;
const STOCK_DAYS: i64 = 9;

/// Something that the shop has.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Offer {
    /// What it is known by.
    pub code: String,
    /// What it is.
    pub name: String,
    /// The key of its system.
    pub system: &'static str,
    /// What the maker says that it weighs.
    pub weight_mg: i64,
    /// ISO 4217.
    pub currency: &'static str,
    /// New, now.
    pub price_minor: i64,
    /// What it costs when it is not on sale; absent if it isn't.
    pub was_minor: Option<i64>,
    /// New ones that are there.
    pub stock: i64,
    /// What a used one costs; absent if there is none.
    pub used_minor: Option<i64>,
    /// The shop's day, counted from its first.
    pub day: i64,
}

/// Numbers that are the same for the same seed, thing and time (splitmix64).
fn roll(seed: i64, thing: usize, at: i64, what: i64) -> i64 {
    let thing = i64::try_from(thing).unwrap_or(0);
    let mut x = seed.wrapping_mul(0x9E37)
        ^ thing.wrapping_mul(0x85EB_CA6B)
        ^ at.wrapping_mul(0xC2B2_AE35)
        ^ what.wrapping_mul(0x27D4_EB2F);
    for _ in 0..3 {
        x ^= x >> 30;
        x = x.wrapping_mul(0x4CE4_E5B9_BF58_476D);
        x ^= x >> 27;
        x = x.wrapping_mul(0x133_111E_B94D_049B);
    }
    (x >> 20).rem_euclid(1_000)
}

/// All that the shop has on a day.
pub fn offers(seed: i64, day: i64) -> Vec<Offer> {
    let each = GOODS.iter().flat_map(|good| CUTS.iter().map(move |cut| (good, cut))).enumerate();
    each.map(|(thing, (good, cut))| offer(seed, day, thing, good, cut)).collect()
}

fn offer(seed: i64, day: i64, thing: usize, good: &Good, cut: &(&str, i64, i64)) -> Offer {
    let (name, system, grams, price) = good;
    let (cut, weight, cost) = cut;
    let full = price * cost / 100 / 10 * 10;
    // One in five is on sale, for two weeks, by 15 to 39 per cent.
    let sale = roll(seed, thing, day / SALE_DAYS, 1);
    let price_minor = if sale < 200 { full * (100 - 15 - sale % 25) / 100 / 10 * 10 } else { full };
    let used = roll(seed, thing, day / STOCK_DAYS, 2);
    Offer {
        code: format!("K{:04}", 1_000 + thing),
        name: format!("{}{}, {cut}", name[..1].to_uppercase(), &name[1..]),
        system,
        weight_mg: grams * weight * 10,
        currency: "EUR",
        price_minor,
        was_minor: (price_minor < full).then_some(full),
        stock: if roll(seed, thing, day / STOCK_DAYS, 3) < 120 { 0 } else { 1 + roll(seed, thing, day, 4) % 9 },
        used_minor: (used < 300).then(|| full * (50 + used % 25) / 100 / 10 * 10),
        day,
    }
}

struct Shop {
    mood: Mood,
    seed: i64,
    day: AtomicI64,
}

#[derive(Deserialize)]
struct OfferQuery {
    #[serde(default)]
    q: String,
}

/// The most offers of one answer.
const MOST: usize = 30;

/// Things whose names have every word that is asked for, the lightest first.
#[get("/offers")]
async fn find(shop: Data<Shop>, asked: Query<OfferQuery>) -> HttpResponse {
    if let Some(answer) = moody(&shop).await {
        return answer;
    }
    let words: Vec<String> = asked.q.split_whitespace().map(str::to_lowercase).collect();
    let has_all = |offer: &Offer| words.iter().all(|word| offer.name.to_lowercase().contains(word.as_str()));
    let mut found: Vec<Offer> = now(&shop).into_iter().filter(has_all).collect();
    found.sort_by_key(|offer| (offer.weight_mg, offer.price_minor));
    found.truncate(MOST);
    HttpResponse::Ok().json(found)
}

#[get("/offers/{code}")]
async fn one(shop: Data<Shop>, code: Path<String>) -> HttpResponse {
    if let Some(answer) = moody(&shop).await {
        return answer;
    }
    match now(&shop).into_iter().find(|offer| offer.code == *code) {
        Some(offer) => HttpResponse::Ok().json(offer),
        None => HttpResponse::NotFound().json(json!({ "code": *code })),
    }
}

#[derive(Deserialize)]
struct Clock {
    days: i64,
}

/// Moves the shop's clock on, or back.
#[post("/clock")]
async fn clock(shop: Data<Shop>, by: Json<Clock>) -> HttpResponse {
    let day = shop.day.fetch_add(by.days, Ordering::Relaxed) + by.days;
    HttpResponse::Ok().json(json!({ "day": day }))
}

async fn moody(shop: &Shop) -> Option<HttpResponse> {
    match shop.mood {
        Mood::Slow => {
            actix_web::rt::time::sleep(Duration::from_secs(30)).await;
            None
        }
        Mood::Nonsense => Some(HttpResponse::Ok().json(json!([{ "code": 7, "price_minor": "cheap" }]))),
        Mood::Well | Mood::Crowns => None,
    }
}

fn now(shop: &Shop) -> Vec<Offer> {
    let mut offers = offers(shop.seed, shop.day.load(Ordering::Relaxed));
    if shop.mood == Mood::Crowns {
        offers.iter_mut().for_each(|offer| offer.currency = "SEK");
    }
    offers
}

/// Serves the shop.
///
/// # Errors
/// If the listener can't be used.
pub fn run_shop(mood: Mood, seed: i64, day: i64, listener: TcpListener) -> std::io::Result<Server> {
    let shop = Data::new(Shop { mood, seed, day: AtomicI64::new(day) });
    let server = HttpServer::new(move || App::new().app_data(shop.clone()).service(find).service(one).service(clock));
    Ok(server.workers(1).shutdown_timeout(1).listen(listener)?.run())
}

#[cfg(test)]
mod tests {
    use super::offers;
    use std::collections::HashSet;

    #[test]
    fn a_day_is_the_same_every_time_and_another_day_is_another() {
        let today = offers(7, 0);
        assert_eq!(today, offers(7, 0));
        assert_eq!(today.len(), 192);
        assert_eq!(today.iter().map(|offer| &offer.code).collect::<HashSet<_>>().len(), 192);
        let prices = |day| offers(7, day).into_iter().map(|offer| offer.price_minor).collect::<Vec<_>>();
        assert_ne!(prices(0), prices(20));
    }

    #[test]
    fn some_are_on_sale_some_are_gone_and_some_are_used() {
        for day in [0, 30, 365] {
            let all = offers(7, day);
            let on_sale = all.iter().filter(|offer| offer.was_minor.is_some()).count();
            assert!((15..80).contains(&on_sale), "{on_sale} on sale on day {day}");
            assert!(all.iter().any(|offer| offer.stock == 0) && all.iter().any(|offer| offer.used_minor.is_some()));
            for offer in all {
                assert!(offer.price_minor > 0 && offer.weight_mg > 0);
                assert!(offer.was_minor.is_none_or(|was| was > offer.price_minor), "{offer:?}");
            }
        }
    }
}
