//! The simulated scale over HTTP: a page to lay things on its pan, and its reports as server-sent events.

use crate::scale::Scale;
use actix_web::dev::Server;
use actix_web::http::header::{ACCESS_CONTROL_ALLOW_HEADERS, ACCESS_CONTROL_ALLOW_ORIGIN, CACHE_CONTROL};
use actix_web::middleware::DefaultHeaders;
use actix_web::web::{self, Bytes, Data, Json};
use actix_web::{App, HttpResponse, HttpServer, get, post};
use futures_util::stream;
use kevyt_core::quantity::{Mass, MassUnit};
use serde::{Deserialize, Serialize};
use std::convert::Infallible;
use std::net::TcpListener;
use std::sync::{Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

/// Between two reports: ten a second, as kitchen scales send them.
const REPORT_EVERY: Duration = Duration::from_millis(100);

/// Something that can be put on the pan, and what it really weighs.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Goods {
    /// What it is.
    pub name: String,
    /// As typed, such as `118 g`.
    pub weight: String,
}

/// Reads what is on offer: a JSON list of names and weights.
///
/// # Errors
/// A sentence that says what can't be read.
pub fn read_goods(text: &str) -> Result<Vec<Goods>, String> {
    let goods: Vec<Goods> = serde_json::from_str(text).map_err(|error| error.to_string())?;
    for one in &goods {
        Mass::parse(&one.weight, MassUnit::G).map_err(|refused| format!("{}: {refused}", one.name))?;
    }
    Ok(goods)
}

struct Bench {
    scale: Mutex<Scale>,
    goods: Vec<Goods>,
    began: Instant,
}

impl Bench {
    fn now(&self) -> i64 {
        i64::try_from(self.began.elapsed().as_millis()).unwrap_or(i64::MAX)
    }

    fn scale(&self) -> MutexGuard<'_, Scale> {
        // A panic elsewhere leaves the scale as it stood.
        self.scale.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// What stands on the bench.
#[derive(Serialize)]
struct State {
    goods: Vec<String>,
    pan: Vec<String>,
    plugged: bool,
    drifts: bool,
}

fn state(bench: &Bench) -> Json<State> {
    let scale = bench.scale();
    Json(State {
        goods: bench.goods.iter().map(|one| one.name.clone()).collect(),
        pan: scale.pan().iter().map(|thing| thing.0.clone()).collect(),
        plugged: scale.is_plugged(),
        drifts: scale.drifts(),
    })
}

/// What is done to the scale.
#[derive(Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
enum Deed {
    /// Something on offer, or anything with a weight.
    Put {
        name: String,
        weight: Option<String>,
    },
    Take {
        name: String,
    },
    Clear,
    Tare,
    Drift {
        on: bool,
    },
    Plug {
        on: bool,
    },
}

#[get("/")]
async fn page() -> HttpResponse {
    HttpResponse::Ok().content_type("text/html; charset=utf-8").body(include_str!("page.html"))
}

#[get("/state")]
async fn see(bench: Data<Bench>) -> Json<State> {
    state(&bench)
}

#[post("/do")]
async fn act(bench: Data<Bench>, deed: Json<Deed>) -> HttpResponse {
    let now = bench.now();
    match deed.into_inner() {
        Deed::Put { name, weight } => {
            let offered = bench.goods.iter().find(|one| one.name == name).map(|one| one.weight.clone());
            let Some(weight) = weight.or(offered) else {
                return HttpResponse::NotFound().body(format!("\"{name}\" is not on offer; give its weight."));
            };
            match Mass::parse(&weight, MassUnit::G) {
                Ok(mass) => bench.scale().put(&name, mass, now),
                Err(refused) => return HttpResponse::UnprocessableEntity().body(refused.to_string()),
            }
        }
        Deed::Take { name } => {
            if !bench.scale().take(&name, now) {
                return HttpResponse::NotFound().body(format!("\"{name}\" is not on the pan."));
            }
        }
        Deed::Clear => bench.scale().clear(now),
        Deed::Tare => bench.scale().tare(),
        Deed::Drift { on } => bench.scale().drift(on, now),
        Deed::Plug { on } => bench.scale().plug(on),
    }
    HttpResponse::Ok().json(state(&bench).into_inner())
}

/// The reports from now on, each as hexadecimal digits. The stream ends when the scale is unplugged.
#[get("/reports")]
async fn reports(bench: Data<Bench>) -> HttpResponse {
    let ticks = tokio::time::interval(REPORT_EVERY);
    let events = stream::unfold((bench, ticks), |(bench, mut ticks)| async {
        ticks.tick().await;
        let report = bench.scale().report(bench.now())?;
        let event = Bytes::from(format!("data: {}\n\n", hex::encode(report)));
        Some((Ok::<_, Infallible>(event), (bench, ticks)))
    });
    HttpResponse::Ok().content_type("text/event-stream").insert_header((CACHE_CONTROL, "no-store")).streaming(events)
}

/// Serves the scale with these things on offer.
///
/// # Errors
/// If the listener can't be used.
pub fn run(goods: Vec<Goods>, listener: TcpListener) -> std::io::Result<Server> {
    let bench = Data::new(Bench { scale: Mutex::new(Scale::default()), goods, began: Instant::now() });
    let server = HttpServer::new(move || {
        // Any page may play with a toy on one's own machine.
        let headers = DefaultHeaders::new()
            .add((ACCESS_CONTROL_ALLOW_ORIGIN, "*"))
            .add((ACCESS_CONTROL_ALLOW_HEADERS, "content-type"));
        let allowed = web::route().method(actix_web::http::Method::OPTIONS).to(HttpResponse::NoContent);
        App::new()
            .app_data(bench.clone())
            .wrap(headers)
            .service(page)
            .service(see)
            .service(act)
            .service(reports)
            .default_service(allowed)
    });
    // Streams never finish by themselves.
    Ok(server.workers(1).shutdown_timeout(0).listen(listener)?.run())
}
