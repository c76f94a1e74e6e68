//! `kevyt-standins scale`: a simulated scale on loopback.

use clap::{Parser, Subcommand};
use kevyt_standins::{read_goods, run};
use std::net::TcpListener;
use std::path::PathBuf;
use std::process::ExitCode;

/// Stand-ins for devices, on loopback.
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
}

fn main() -> ExitCode {
    let Command::Scale { port, goods } = Cli::parse().command;
    match scale(port, goods) {
        Ok(()) => ExitCode::SUCCESS,
        Err(message) => {
            eprintln!("kevyt-standins: {message}");
            ExitCode::from(2)
        }
    }
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
