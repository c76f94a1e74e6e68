//! `kevyt-simulators scale`, `forecast` and `shop`: a simulated scale, made-up weather and a made-up shop, on loopback.

use clap::{Parser, Subcommand};
use kevyt_simulators::forecast::{Mood, run_forecast};
use kevyt_simulators::shop::{self, run_shop};
use kevyt_simulators::{read_goods, run};
use std::net::TcpListener;
use std::path::PathBuf;
use std::process::ExitCode;

/// Simulated devices and services, on loopback.
#[derive(Parser)]
#[command(version)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// A simulated USB scale: its page, and its reports at /reports.
    Scale {
        /// The port on 127.0.0.1.
        #[arg(long, default_value_t = 8430)]
        port: u16,
        /// A JSON list of what can be put on the pan: [{"name": "mug", "weight": "118 g"}].
        #[arg(long)]
        goods: Option<PathBuf>,
    },
    /// A simulated forecast: made-up climate for made-up places, at /forecast?place=&from=&days=.
    Forecast {
        /// The port on 127.0.0.1.
        #[arg(long, default_value_t = 8440)]
        port: u16,
        /// How it behaves.
        #[arg(long, value_enum, default_value_t = Mood::Well)]
        mood: Mood,
    },
    /// A simulated shop: made-up things at /offers?q= and /offers/{code}; POST {"days": 14} to /clock moves its clock.
    Shop {
        /// The port on 127.0.0.1.
        #[arg(long, default_value_t = 8450)]
        port: u16,
        /// What its sales, stock and second-hand offers come from.
        #[arg(long, default_value_t = 7)]
        seed: i64,
        /// The day that it begins on.
        #[arg(long, default_value_t = 0)]
        day: i64,
        /// How it behaves.
        #[arg(long, value_enum, default_value_t = shop::Mood::Well)]
        mood: shop::Mood,
    },
}

fn main() -> ExitCode {
    let done = match Cli::parse().command {
        Command::Scale { port, goods } => scale(port, goods),
        Command::Forecast { port, mood } => forecast(port, mood),
        Command::Shop { port, seed, day, mood } => shop(port, seed, day, mood),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(message) => {
            eprintln!("kevyt-simulators: {message}");
            ExitCode::from(2)
        }
    }
}

fn forecast(port: u16, mood: Mood) -> Result<(), String> {
    let listener =
        TcpListener::bind(("127.0.0.1", port)).map_err(|error| format!("port {port} can't be used: {error}"))?;
    let system = actix_web::rt::System::new();
    system
        .block_on(async { run_forecast(mood, listener)?.await })
        .map_err(|error| format!("the forecast stopped: {error}"))
}

fn shop(port: u16, seed: i64, day: i64, mood: shop::Mood) -> Result<(), String> {
    let listener =
        TcpListener::bind(("127.0.0.1", port)).map_err(|error| format!("port {port} can't be used: {error}"))?;
    let system = actix_web::rt::System::new();
    system
        .block_on(async { run_shop(mood, seed, day, listener)?.await })
        .map_err(|error| format!("the shop stopped: {error}"))
}

fn scale(port: u16, goods: Option<PathBuf>) -> Result<(), String> {
    let goods = match goods {
        None => Vec::new(),
        Some(file) => {
            let name = file.display();
            let text = std::fs::read_to_string(&file).map_err(|error| format!("{name} can't be read: {error}"))?;
            read_goods(&text).map_err(|error| format!("{name}: {error}"))?
        }
    };
    let listener =
        TcpListener::bind(("127.0.0.1", port)).map_err(|error| format!("port {port} can't be used: {error}"))?;
    let system = actix_web::rt::System::new();
    system.block_on(async { run(goods, listener)?.await }).map_err(|error| format!("the scale stopped: {error}"))
}
