//! `/api/lessons`: what trips teach; and `/api/lists/{id}/history`: how its base weight came to be.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::trips::TripOut;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpResponse, get, post, put};
use kevyt_core::gear::System;
use kevyt_core::quantity::Money;
use kevyt_core::walked::{Cause, Mark, Own};
use kevyt_service::Write;
use kevyt_service::bases::BaseHistory;
use kevyt_service::stored::{Entry, GearId, ListId, TripId};
use kevyt_service::trips::{Learnt, OfThing, Wished};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The trips of an account and what they teach.
#[derive(Serialize, ToSchema)]
#[schema(as = Lessons)]
pub struct LessonsOut {
    /// Trips, earliest first.
    trips: Vec<TripSummary>,
    /// Things of which anything was said.
    things: Vec<ThingLesson>,
    /// What was wished for and is not owned.
    wished: Vec<WishedOut>,
    sleeper: SleeperOut,
    rates: RatesOut,
    /// Keys of lessons that are not to be said again.
    silenced: Vec<String>,
}

/// A trip with how far it was looked back on.
#[derive(Serialize, ToSchema)]
pub struct TripSummary {
    trip: TripOut,
    /// Things that came along.
    things: usize,
    /// Those of which somebody said whether they were used.
    judged: usize,
}

/// What trips say of a thing.
#[derive(Serialize, ToSchema)]
pub struct ThingLesson {
    gear: GearId,
    name: String,
    #[schema(value_type = String)]
    system: System,
    /// Trips on which it was used, and on which it came along and was not.
    used_on: Vec<TripId>,
    unused_on: Vec<TripId>,
    /// What else was said of it.
    marks: Vec<MarkedOn>,
    /// On so many trips it was carried and never used: enough to be proposed for leaving out, and nothing of safety, medicine or warmth. Null
    /// otherwise.
    never_used: Option<usize>,
    /// Nights in all, and what one has cost so far.
    nights: u32,
    cost_per_night_minor: Option<i64>,
    /// The nights in it, if it is a bag or quilt.
    slept: Option<SleptOut>,
}

/// A mark, and the trips on which it was made.
#[derive(Serialize, ToSchema)]
pub struct MarkedOn {
    mark: Mark,
    on: Vec<TripId>,
}

/// The nights in a bag or quilt.
#[derive(Serialize, ToSchema)]
#[schema(as = Slept)]
pub struct SleptOut {
    /// Its comfort, in tenths of a degree Celsius; null if nobody knows.
    comfort_tenth_c: Option<i64>,
    comfortable: Option<NightOut>,
    uncomfortable: Option<NightOut>,
}

/// A temperature and the trip on which it was met; or the difference to a rating.
#[derive(Serialize, ToSchema)]
#[schema(as = NightMet)]
pub struct NightOut {
    tenth_c: i64,
    trip: TripId,
}

/// Something that was wished for.
#[derive(Serialize, ToSchema)]
#[schema(as = WishedFor)]
pub struct WishedOut {
    name: String,
    on: Vec<TripId>,
    /// Whether it is owned by now, or a swap would bring it.
    is_seen_to: bool,
}

/// What nights say of the sleeper, in tenths of a degree Celsius to be added to ratings.
#[derive(Serialize, ToSchema)]
#[schema(as = SleeperLesson)]
pub struct SleeperOut {
    /// It is more than this.
    more_than: Option<NightOut>,
    /// And at most this.
    at_most: Option<NightOut>,
    /// The estimate, once some night was too cold; never less than what is set, from cold nights alone.
    estimate_tenth_c: Option<i64>,
    /// Whether the nights contradict each other.
    is_contradicted: bool,
}

/// Rates of one's own: medians over trips.
#[derive(Serialize, ToSchema)]
#[schema(as = OwnRates)]
pub struct RatesOut {
    gas_mg_per_l: Option<OwnOut>,
    food_mg_per_day: Option<OwnOut>,
    kcal_per_day: Option<OwnOut>,
    water_ml_per_hour: Option<OwnOut>,
    power_mwh_per_day: Option<OwnOut>,
}

/// A rate: the median, and what each trip says.
#[derive(Serialize, ToSchema)]
#[schema(as = OwnRate)]
pub struct OwnOut {
    median: i64,
    of: Vec<RateOf>,
}

/// What one trip says of a rate.
#[derive(Serialize, ToSchema)]
pub struct RateOf {
    trip: TripId,
    value: i64,
}

/// Which lesson.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LessonIn {
    lesson: String,
}

/// How the base weight of a list came to be what it is.
#[derive(Serialize, ToSchema)]
#[schema(as = BaseHistory)]
pub struct BaseHistoryOut {
    /// Each base weight that it had, oldest first; the last is the present one.
    points: Vec<BasePointOut>,
    /// What the swaps that are done were to take off it, and took off it as far as what they brought was weighed since.
    promised_mg: i64,
    shed_mg: i64,
    /// What they cost, less what they brought; below zero if more came in.
    net_minor: i64,
}

/// A base weight, and what made it.
#[derive(Serialize, ToSchema)]
#[schema(as = BasePoint)]
pub struct BasePointOut {
    /// When (UTC).
    at: String,
    base_mg: i64,
    /// Things whose weight was unknown: it was "at least" then.
    unknown: u32,
    cause: Cause,
    /// What was done; null where it is not known.
    entry: Option<Entry>,
    /// What the walker says of a day before, or a sentence that was kept before there were entries; empty if there is nothing.
    what: String,
}

/// The trips of an account and what they teach. Nothing is said of leaving out what safety or medicine needs.
#[utoipa::path(get, path = "/api/lessons", tag = "trips", responses((status = 200, body = LessonsOut)))]
#[get("/lessons")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn) -> Result<Json<LessonsOut>, ProblemDoc> {
    Ok(Json(app.run(move |services| services.learnt(caller)).await?.into()))
}

/// Silences a lesson for good. It can be undone from the history.
#[utoipa::path(post, path = "/api/lessons/silence", tag = "trips", request_body = LessonIn,
    responses((status = 204), (status = 422, body = ProblemDoc)))]
#[post("/lessons/silence")]
pub async fn silence(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Json<LessonIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let silenced = move |w: &mut Write<'_>| w.silence_lesson(&body.lesson);
    app.write(caller, StatusCode::NO_CONTENT, silenced, |()| ()).await
}

/// How the base weight of a list came to be what it is.
#[utoipa::path(get, path = "/api/lists/{id}/history", tag = "trips",
    responses((status = 200, body = BaseHistoryOut), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/history")]
pub async fn history(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
) -> Result<Json<BaseHistoryOut>, ProblemDoc> {
    Ok(Json(app.run(move |services| services.base_history(caller, *id)).await?.into()))
}

/// Base weights of earlier days.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct EarlierIn {
    /// A line each: the day (YYYY-MM-DD), the base weight as typed (a bare number is in kilograms or pounds), and what there is to say, parted
    /// by tabs, semicolons or commas; at most 500. All of them: those that were said before go.
    text: String,
}

/// Says what the list weighed on days before Kevyt knew it.
#[utoipa::path(put, path = "/api/lists/{id}/earlier", tag = "trips", request_body = EarlierIn,
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[put("/lists/{id}/earlier")]
pub async fn say_earlier(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
    body: Json<EarlierIn>,
) -> Result<HttpResponse, ProblemDoc> {
    app.write(caller, StatusCode::NO_CONTENT, move |w| w.say_earlier(*id, &body.text), |()| ()).await
}

impl From<Learnt> for LessonsOut {
    fn from(learnt: Learnt) -> LessonsOut {
        let ids: Vec<TripId> = learnt.trips.iter().map(|(trip, ..)| trip.id).collect();
        let on = |at: &[usize]| -> Vec<TripId> { at.iter().map(|at| ids[*at]).collect() };
        let night = |night: Option<(i64, usize)>| night.map(|(tenth_c, at)| NightOut { tenth_c, trip: ids[at] });
        let rate = |own: Option<Own>| {
            own.map(|own| {
                let of = own.of.iter().map(|(at, value)| RateOf { trip: ids[*at], value: *value });
                OwnOut { median: own.median, of: of.collect() }
            })
        };
        let thing = |of: OfThing| {
            let gear = of.gear.value;
            let marks = of.habit.marks.iter().map(|(mark, at)| MarkedOn { mark: *mark, on: on(at) });
            let comfort = gear.facts.rating.and_then(|rating| Some(rating.comfort_and_limit()?.0));
            ThingLesson {
                gear: of.gear.id,
                name: gear.name.as_str().to_owned(),
                system: gear.system,
                used_on: on(&of.habit.used_on),
                unused_on: on(&of.habit.unused_on),
                marks: marks.collect(),
                never_used: of.habit.never_used().filter(|_| of.may_be_left_out),
                nights: gear.nights,
                cost_per_night_minor: gear.cost_per_night().map(Money::minor),
                slept: of.slept.map(|slept| SleptOut {
                    comfort_tenth_c: comfort,
                    comfortable: night(slept.comfortable),
                    uncomfortable: night(slept.uncomfortable),
                }),
            }
        };
        let wished = |Wished { name, on: at, is_seen_to }| WishedOut { name, on: on(&at), is_seen_to };
        let (offset, estimate_tenth_c) = learnt.offset;
        let sleeper = SleeperOut {
            estimate_tenth_c,
            is_contradicted: offset.is_contradicted(),
            more_than: night(offset.more_than),
            at_most: night(offset.at_most),
        };
        let rates = learnt.rates;
        let rates = RatesOut {
            gas_mg_per_l: rate(rates.gas_mg_per_l),
            food_mg_per_day: rate(rates.food_mg_per_day),
            kcal_per_day: rate(rates.kcal_per_day),
            water_ml_per_hour: rate(rates.water_ml_per_hour),
            power_mwh_per_day: rate(rates.power_mwh_per_day),
        };
        LessonsOut {
            things: learnt.things.into_iter().map(thing).collect(),
            wished: learnt.wished.into_iter().map(wished).collect(),
            sleeper,
            rates,
            silenced: learnt.silenced,
            trips: learnt
                .trips
                .into_iter()
                .map(|(trip, things, judged)| TripSummary { trip: trip.into(), things, judged })
                .collect(),
        }
    }
}

impl From<BaseHistory> for BaseHistoryOut {
    fn from(base: BaseHistory) -> BaseHistoryOut {
        let points = base.points.into_iter().map(|point| BasePointOut {
            at: point.at.and_utc().to_rfc3339(),
            base_mg: point.base.mg(),
            unknown: point.unknown,
            cause: point.cause,
            entry: point.entry,
            what: point.what,
        });
        BaseHistoryOut {
            points: points.collect(),
            promised_mg: base.progress.promised.mg(),
            shed_mg: base.progress.shed.mg(),
            net_minor: base.progress.net.minor(),
        }
    }
}
