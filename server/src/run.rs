//! From settings to a running server. Tests enter by the same door, with a listener on port 0.

use crate::account::Passwords;
use crate::http::{App, routes, same_origin, security_headers};
use crate::service::Services;
use crate::store::connect;
use actix_web::middleware::{Compress, from_fn};
use actix_web::{App as WebApp, HttpServer, dev::Server};
use std::net::TcpListener;

/// What a server needs to know.
#[derive(Debug, Clone)]
pub struct Settings {
    /// Where the database is.
    pub database_url: String,
    /// Whether the demo account may be entered with one click.
    pub demo: bool,
    /// The address of a simulated scale that the Weigh step offers, such as `http://127.0.0.1:8430`.
    pub scale: Option<String>,
}

/// Brings the database up to date and opens the services on it.
///
/// # Errors
/// A sentence for whoever started the program.
pub fn open(settings: &Settings) -> Result<Services, String> {
    let pool = connect(&settings.database_url)?;
    let passwords = Passwords::new().map_err(|error| format!("Passwords can't be hashed on this machine: {error}"))?;
    Ok(Services { pool, passwords, demo: settings.demo, scale: settings.scale.clone() })
}

/// Serves on a listener that is bound already. The server stops on Ctrl-C and SIGTERM, letting requests finish.
///
/// # Errors
/// If the listener can't be used.
pub fn run(services: Services, listener: TcpListener) -> std::io::Result<Server> {
    let scale = services.scale.clone();
    let app = App::new(services);
    let server = HttpServer::new(move || {
        WebApp::new()
            .wrap(from_fn(same_origin))
            .wrap(security_headers(scale.as_deref()))
            .wrap(Compress::default())
            .configure(routes(app.clone()))
    });
    Ok(server.shutdown_timeout(5).listen(listener)?.run())
}
