//! A server of its own on a database of its own, with a simulated scale beside the demo and, where it is wanted, a made-up shop; gone when
//! it is dropped.

use actix_web::dev::{Server, ServerHandle};
use diesel::connection::SimpleConnection;
use diesel::{Connection, MysqlConnection};
use kevyt::http::Place;
use kevyt::{Settings, open, run};
use kevyt_service::Options;
use kevyt_simulators::read_goods;
use kevyt_simulators::shop::Mood;
use std::io::{Read, Write};
use std::net::TcpListener;
use std::sync::Arc;
use std::thread::JoinHandle;

/// A running application.
pub struct Stage {
    admin_url: String,
    database: String,
    settings: Settings,
    /// Where it is served.
    pub url: String,
    running: Option<Running>,
    scale: Option<Running>,
    shop: Option<Running>,
}

type Running = (ServerHandle, JoinHandle<()>);

impl Stage {
    /// Starts the application on a fresh database; with `demo`, the demo data are in it.
    pub fn start(demo: bool) -> Stage {
        Stage::at(demo, Place::default())
    }

    /// The same, in a place of which the server knows something: proxies, https.
    pub fn at(demo: bool, place: Place) -> Stage {
        let admin_url = std::env::var("KEVYT_TEST_DATABASE_URL").expect(
            "KEVYT_TEST_DATABASE_URL is not set: run the tests with ./kevyt test, which starts a database for them",
        );
        let database = format!("kevyt_test_{}", uuid::Uuid::now_v7().simple());
        sql(&admin_url, &format!("CREATE DATABASE {database} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci"));
        let base = admin_url.rsplit_once('/').expect("a database address ends in /name").0;
        let (scale, scale_url) = if demo { start_scale() } else { (None, None) };
        let settings = Settings {
            database_url: format!("{base}/{database}"),
            // Benchmarks, which are built without debug assertions, measure what signing in takes.
            options: Options {
                demo,
                scale: scale_url,
                least_password_work: cfg!(debug_assertions),
                ..Options::default()
            },
            place,
        };
        let mut stage = Stage { admin_url, database, settings, url: String::new(), running: None, scale, shop: None };
        if demo {
            open(&stage.settings)
                .expect("a database that was just made")
                .seed_demo()
                .expect("demo data that are right");
        }
        stage.serve();
        stage
    }

    /// Stops the server and starts it again on the same data, at the same address.
    pub fn restart(&mut self) {
        self.stop();
        self.serve();
    }

    /// Starts the server again; nobody makes accounts by themselves any more.
    pub fn with_sign_up_closed(&mut self) {
        self.settings.options.sign_up_is_closed = true;
        self.restart();
    }

    /// Starts the server again, with a shop at an address.
    pub fn with_shop(&mut self, url: &str) {
        self.settings.options.shop = Some(url.to_owned());
        self.restart();
    }

    /// Starts the server again, with a made-up shop on its first day.
    pub fn with_made_up_shop(&mut self) {
        let (shop, url) = start(|listener| kevyt_simulators::shop::run_shop(Mood::Well, 7, 0, listener));
        self.shop = Some(shop);
        self.with_shop(&url);
    }

    /// Days go by in the made-up shop, and for what was asked of it.
    pub fn days_later(&self, days: i64) {
        let url = self.settings.options.shop.as_deref().expect("a shop");
        post(url, "/clock", &serde_json::json!({ "days": days }));
        for column in
            ["offer SET asked_at = asked_at", "offer_seen SET since = since", "offer_seen SET seen_until = seen_until"]
        {
            sql(self.database_url(), &format!("UPDATE {column} - INTERVAL {days} DAY"));
        }
    }

    /// Starts the server again, with a forecast at an address.
    pub fn with_forecast(&mut self, url: &str) {
        self.settings.options.forecast = Some(url.to_owned());
        self.restart();
    }

    /// Does something to the simulated scale of the demo: `{"put": {"name": "Mug"}}`, `"clear"`.
    pub fn at_the_scale(&self, deed: &serde_json::Value) {
        let url = self.settings.options.scale.as_deref().expect("the demo, which has a scale");
        post(url, "/do", deed);
    }

    /// The same data served by another process, as far as the database can tell.
    pub fn beside(&self, database_url: &str) -> Beside {
        let settings = Settings { database_url: database_url.to_owned(), ..self.settings.clone() };
        let (url, running) = serve(settings, "");
        Beside { url, running: Some(running) }
    }

    /// What the server knows.
    pub fn settings(&self) -> Settings {
        self.settings.clone()
    }

    /// The address of the database.
    pub fn database_url(&self) -> &str {
        &self.settings.database_url
    }

    fn serve(&mut self) {
        let (url, running) = serve(self.settings.clone(), &self.url);
        (self.url, self.running) = (url, Some(running));
    }

    /// Stops the server.
    pub fn stop(&mut self) {
        self.running.take().into_iter().for_each(end);
    }
}

impl Drop for Stage {
    fn drop(&mut self) {
        self.stop();
        self.scale.take().into_iter().chain(self.shop.take()).for_each(end);
        sql(&self.admin_url, &format!("DROP DATABASE IF EXISTS {}", self.database));
    }
}

/// Another server on the data of a stage.
pub struct Beside {
    /// Where it serves.
    pub url: String,
    running: Option<Running>,
}

impl Drop for Beside {
    fn drop(&mut self) {
        self.running.take().into_iter().for_each(end);
    }
}

/// A server at an address, or on a free port where there is none yet, and where it is.
fn serve(settings: Settings, url: &str) -> (String, Running) {
    let address = url.strip_prefix("http://").unwrap_or("127.0.0.1:0");
    let listener = TcpListener::bind(address).expect("a port on loopback");
    let url = format!("http://{}", listener.local_addr().expect("a bound listener"));
    let (send, receive) = std::sync::mpsc::channel();
    let thread = std::thread::spawn(move || {
        actix_web::rt::System::new().block_on(async move {
            let services = open(&settings).expect("a database");
            let server = run(Arc::new(services), listener, settings.place).expect("a listener");
            send.send(server.handle()).expect("the test that waits");
            server.await.expect("a server that stops in peace");
        });
    });
    (url, (receive.recv().expect("a server that starts"), thread))
}

fn end((handle, thread): Running) {
    // The order to stop goes out when the future is made; the thread's end says that it was followed.
    drop(handle.stop(false));
    let _ = thread.join();
}

/// The simulated scale with the demo's things on offer, and its address.
fn start_scale() -> (Option<Running>, Option<String>) {
    let goods = read_goods(include_str!("../../demo/on-the-pan.json")).expect("goods that are right");
    let (scale, url) = start(|listener| kevyt_simulators::run(goods, listener));
    (Some(scale), Some(url))
}

/// A simulator on a free port, and its address.
fn start(run: impl FnOnce(TcpListener) -> std::io::Result<Server> + Send + 'static) -> (Running, String) {
    let listener = TcpListener::bind("127.0.0.1:0").expect("a free port on loopback");
    let url = format!("http://{}", listener.local_addr().expect("a bound listener"));
    let (send, receive) = std::sync::mpsc::channel();
    let thread = std::thread::spawn(move || {
        actix_web::rt::System::new().block_on(async move {
            let server = run(listener).expect("a listener");
            send.send(server.handle()).expect("the test that waits");
            server.await.expect("a simulator that stops in peace");
        });
    });
    ((receive.recv().expect("a simulator that starts"), thread), url)
}

/// Tells a simulator to do something.
fn post(url: &str, path: &str, deed: &serde_json::Value) {
    let address = url.strip_prefix("http://").expect("an address on loopback");
    let body = deed.to_string();
    let mut simulator = std::net::TcpStream::connect(address).expect("a simulator that listens");
    let head = format!("POST {path} HTTP/1.1\r\nHost: {address}\r\nConnection: close\r\n");
    let kind = format!("Content-Type: application/json\r\nContent-Length: {}\r\n\r\n", body.len());
    simulator.write_all(format!("{head}{kind}{body}").as_bytes()).expect("a simulator that takes orders");
    let mut answer = String::new();
    simulator.read_to_string(&mut answer).expect("a simulator that answers");
    assert!(answer.starts_with("HTTP/1.1 200"), "{deed}: {answer}");
}

fn sql(url: &str, statement: &str) {
    let mut connection = MysqlConnection::establish(url).expect("the test database answers");
    connection.batch_execute(statement).expect("a statement that is right");
}
