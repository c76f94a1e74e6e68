//! From settings to a running server. Tests enter by the same door, with a listener on port 0.

use crate::account::Passwords;
use crate::http::{
    App, Place, UploadMemory, encoded_or_not, ending_bodies, head_as_get, routes, same_origin, security_headers,
    within_memory,
};
use crate::service::Services;
use crate::store::connect;
use actix_web::middleware::{Compress, from_fn};
use actix_web::web::Data;
use actix_web::{App as WebApp, HttpServer, dev::Server};
use std::net::TcpListener;
use std::sync::Arc;
use std::time::Duration;

/// How often what is over is cleared away.
const TIDYING: Duration = Duration::from_secs(600);

/// What a server needs to know.
#[derive(Debug, Clone, Default)]
pub struct Settings {
    /// Where the database is.
    pub database_url: String,
    /// Whether the demo account may be entered with one click.
    pub demo: bool,
    /// The address of a simulated scale that the Weigh step offers, such as `http://127.0.0.1:8430`.
    pub scale: Option<String>,
    /// The address of a forecast service on this machine, such as `http://127.0.0.1:8440`.
    pub forecast: Option<String>,
    /// The address of a shop on this machine, such as `http://127.0.0.1:8450`.
    pub shop: Option<String>,
    /// What it knows of its own place: trusted proxies, and whether people reach it over https.
    pub place: Place,
}

/// Brings the database up to date and opens the services on it.
///
/// # Errors
/// A sentence for whoever started the program.
pub fn open(settings: &Settings) -> Result<Services, String> {
    let pool = connect(&settings.database_url)?;
    let passwords = Passwords::new().map_err(|error| format!("Passwords can't be hashed on this machine: {error}"))?;
    Ok(Services {
        pool,
        passwords,
        demo: settings.demo,
        scale: settings.scale.clone(),
        forecast: settings.forecast.clone(),
        shop: settings.shop.clone(),
    })
}

/// Serves on a listener that is bound already. The server stops on Ctrl-C and SIGTERM, letting requests finish.
///
/// # Errors
/// If the listener can't be used.
pub fn run(services: Services, listener: TcpListener, place: Place) -> std::io::Result<Server> {
    let scale = services.scale.clone();
    let services = Arc::new(services);
    actix_web::rt::spawn(tidy(Arc::clone(&services)));
    let app = App::new(services);
    let memory = Data::new(UploadMemory::default());
    let server = HttpServer::new(move || {
        // The last one wrapped is the first to see a request.
        WebApp::new()
            .app_data(memory.clone())
            .app_data(Data::new(place.clone()))
            .wrap(from_fn(within_memory))
            .wrap(from_fn(ending_bodies))
            .wrap(from_fn(same_origin))
            .wrap(security_headers(scale.as_deref(), &place))
            .wrap(Compress::default())
            .wrap(from_fn(encoded_or_not))
            .wrap(from_fn(head_as_get))
            .configure(routes(app.clone()))
    });
    // An answer goes out whole at once, and a client that has left is noticed, so that nobody works on for it.
    let server = server.tcp_nodelay(true).h1_allow_half_closed(false).shutdown_timeout(5);
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
