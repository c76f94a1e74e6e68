//! What the server counts, for Prometheus: all of it here, with labels of a bounded set.

use kevyt_service::Services;
use prometheus::{
    Encoder, HistogramVec, IntCounter, IntGauge, IntGaugeVec, TextEncoder, register_histogram_vec,
    register_int_counter, register_int_gauge, register_int_gauge_vec,
};
use std::sync::LazyLock;

/// A metric that is registered once; that can fail only where two have one name.
#[allow(clippy::expect_used, reason = "two metrics of one name are a fault of the program, found by the first request")]
mod registered {
    use super::*;

    pub fn requests() -> HistogramVec {
        let help = "Seconds from a request to its answer, by method, route and status";
        let seconds = vec![0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0, 30.0];
        register_histogram_vec!("kevyt_request_seconds", help, &["method", "route", "status"], seconds)
            .expect("no other metric has this name")
    }

    pub fn retries() -> IntCounter {
        let help = "Transactions that gave way to another and were tried again";
        register_int_counter!("kevyt_transactions_tried_again", help).expect("no other metric has this name")
    }

    pub fn connections() -> IntGaugeVec {
        register_int_gauge_vec!("kevyt_database_connections", "Connections to the database, busy and idle", &["state"])
            .expect("no other metric has this name")
    }

    pub fn plans() -> IntGauge {
        register_int_gauge!("kevyt_plans", "Plans that are being calculated").expect("no other metric has this name")
    }
}

/// Requests that were answered, by method (`other` where it is none of HTTP's), pattern of the address, and status.
pub static REQUESTS: LazyLock<HistogramVec> = LazyLock::new(registered::requests);
/// Plans that are being calculated.
pub static PLANS: LazyLock<IntGauge> = LazyLock::new(registered::plans);
/// Transactions that gave way to another one and were tried again.
static RETRIES: LazyLock<IntCounter> = LazyLock::new(registered::retries);
static CONNECTIONS: LazyLock<IntGaugeVec> = LazyLock::new(registered::connections);

/// All metrics in the text format of Prometheus.
pub fn report(services: &Services) -> Vec<u8> {
    let connections = services.connections();
    let gauge = |of: &str, number: u32| CONNECTIONS.with_label_values(&[of]).set(number.into());
    gauge("idle", connections.idle);
    gauge("busy", connections.busy);
    // Those that nothing has counted yet are there too.
    LazyLock::force(&REQUESTS);
    LazyLock::force(&PLANS);
    RETRIES.inc_by(services.retries().saturating_sub(RETRIES.get()));
    let mut text = Vec::new();
    if let Err(error) = TextEncoder::new().encode(&prometheus::gather(), &mut text) {
        tracing::warn!("metrics could not be written: {error}");
    }
    text
}
