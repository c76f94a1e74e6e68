//! From settings to a running server. Tests enter by the same door, with a listener on port 0.

use crate::http::{
    App, Place, Uploads, asked_for, encoded_or_not, ending_bodies, files_one_by_one, head_as_get, routes, same_origin,
    security_headers, tracked,
};
use crate::metrics::report;
use actix_web::middleware::{Compress, from_fn};
use actix_web::web::{self, Data};
use actix_web::{App as WebApp, HttpResponse, HttpServer, dev::Server};
use kevyt_service::{Options, Services};
use std::net::{SocketAddr, TcpListener};
use std::sync::Arc;
use std::time::Duration;
use tokio::signal::unix::{SignalKind, signal};

/// How often what is over is cleared away.
const TIDYING: Duration = Duration::from_secs(600);

/// How many seconds requests get to finish once the server is told to stop.
const LONGEST_END: u64 = 10;

/// What a server needs to know.
#[derive(Debug, Clone, Default)]
pub struct Settings {
    /// Where the database is.
    pub database_url: String,
    /// What the operator decides.
    pub options: Options,
    /// What it knows of its own place: trusted proxies, and whether people reach it over https.
    pub place: Place,
}

/// Brings the database up to date and opens the services on it.
///
/// # Errors
/// A sentence for the operator.
pub fn open(settings: &Settings) -> Result<Services, String> {
    Services::open(&settings.database_url, settings.options.clone())
}

/// Serves on a listener that is bound already. The server stops on Ctrl-C and SIGTERM: it takes nothing new, tells plans to come to their end
/// and lets requests finish.
///
/// # Errors
/// If the listener can't be used.
pub fn run(services: Arc<Services>, listener: TcpListener, place: Place) -> std::io::Result<Server> {
    let scale = services.options.scale.clone();
    actix_web::rt::spawn(tidy(Arc::clone(&services)));
    let app = App::new(services);
    actix_web::rt::spawn(stop_in_time(app.clone()));
    let uploads = Data::new(Uploads::default());
    let server = HttpServer::new(move || {
        // The last one wrapped is the first to see a request.
        WebApp::new()
            .app_data(uploads.clone())
            .app_data(Data::new(place.clone()))
            .wrap(from_fn(asked_for))
            .wrap(from_fn(files_one_by_one))
            .wrap(from_fn(ending_bodies))
            .wrap(from_fn(same_origin))
            .wrap(security_headers(scale.as_deref(), &place))
            .wrap(Compress::default())
            .wrap(from_fn(encoded_or_not))
            .wrap(from_fn(head_as_get))
            .wrap(from_fn(tracked))
            .configure(routes(app.clone()))
    });
    // An answer goes out whole at once, and a client that has left is noticed, so that nobody works on for it.
    let server = server.tcp_nodelay(true).h1_allow_half_closed(false).shutdown_timeout(LONGEST_END);
    Ok(server.listen(listener)?.run())
}

/// Clears away what is over, now and then. Every process does: what one has cleared away the next doesn't find.
async fn tidy(services: Arc<Services>) {
    let mut every = actix_web::rt::time::interval(TIDYING);
    loop {
        every.tick().await;
        let services = Arc::clone(&services);
        let tidied = actix_web::web::block(move || services.tidy()).await;
        if let Ok(Err(error)) = tidied {
            tracing::warn!("what is over could not be cleared away: {error}");
        }
    }
}

/// Tells what takes long to end when the server is told to.
async fn stop_in_time(app: App) {
    let (Ok(mut interrupt), Ok(mut terminate)) = (signal(SignalKind::interrupt()), signal(SignalKind::terminate()))
    else {
        tracing::warn!("signals can't be listened to: plans are not told when the server ends");
        return;
    };
    tokio::select! { _ = interrupt.recv() => {}, _ = terminate.recv() => {} }
    app.stop();
}

/// Serves what is counted to Prometheus, at an address of this machine.
///
/// # Errors
/// If the address can't be listened on.
pub fn run_metrics(services: &Arc<Services>, address: SocketAddr) -> std::io::Result<Server> {
    let services = Data::from(Arc::clone(services));
    let metrics = |services: Data<Services>| async move {
        HttpResponse::Ok().content_type("text/plain; version=0.0.4").body(report(&services))
    };
    let server =
        HttpServer::new(move || WebApp::new().app_data(services.clone()).route("/metrics", web::get().to(metrics)));
    Ok(server.workers(1).disable_signals().bind(address)?.run())
}
