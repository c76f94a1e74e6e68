//! `/api/scale`: what a scale's reports amount to.

use super::guard::SignedIn;
use super::problem::ProblemDoc;
use actix_web::post;
use actix_web::web::Json;
use kevyt_core::quantity::Mass;
use kevyt_core::weigh::{Fault, Report, Settled, decode, measured, settle};
use kevyt_service::ServiceError;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The most reports that are judged together: some seconds of a quick scale.
const MOST_REPORTS: usize = 500;

/// Reports of a scale, oldest first.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ScaleIn {
    reports: Vec<ReportIn>,
    /// The time now, on the clock of the reports.
    now_ms: i64,
    /// usb unless given.
    #[serde(default)]
    speaks: Speaks,
}

/// One report.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReportIn {
    /// When it came, in milliseconds.
    at_ms: i64,
    /// Its bytes, as hexadecimal digits: of a report over USB with its id in front, of a measurement over Bluetooth as they are.
    bytes: String,
}

/// How the scale speaks.
#[derive(Clone, Copy, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Speaks {
    /// USB HID Point of Sale Usage Tables, page 0x8D: reports all the while.
    #[default]
    Usb,
    /// Bluetooth Weight Scale service (0x181D): one measurement (0x2A9D) each time that the reading stands still.
    Bluetooth,
}

/// What the reports amount to.
#[derive(Serialize, ToSchema)]
pub struct ScaleOut {
    /// silent, empty, moving, drifting, steady, under or fault. Only a steady reading may be taken.
    state: &'static str,
    /// The newest figure, if there is one.
    mass_mg: Option<i64>,
    /// The smallest difference that the scale shows.
    step_mg: Option<i64>,
    /// The stable word of a fault.
    fault: Option<&'static str>,
    /// What is the matter and what to do, if something is.
    why: Option<String>,
}

/// Reads scale reports and judges whether the newest is steady. The browser sends the last seconds of a scale's reports, whether they come
/// over WebHID, from the simulated scale, or over Web Bluetooth, where the newest measurement stands until the next.
#[utoipa::path(post, path = "/api/scale/read", tag = "weigh", request_body = ScaleIn,
    responses((status = 200, body = ScaleOut), (status = 422, body = ProblemDoc)))]
#[post("/scale/read")]
pub async fn read(_: SignedIn, body: Json<ScaleIn>) -> Result<Json<ScaleOut>, ProblemDoc> {
    let ScaleIn { reports, now_ms, speaks } = body.into_inner();
    if reports.len() > MOST_REPORTS {
        let detail = format!("{} reports are too many at a time. Send at most {MOST_REPORTS}.", reports.len());
        return Err(ServiceError::invalid("reports", "too_many", detail).into());
    }
    let decoded = reports.iter().map(|report| {
        let bytes = hex::decode(&report.bytes).map_err(|_| {
            let detail = format!("\"{}\" is not a report in hexadecimal digits.", report.bytes);
            ServiceError::invalid("bytes", "not_hex", detail)
        })?;
        Ok(match speaks {
            Speaks::Usb => (report.at_ms, decode(&bytes)),
            Speaks::Bluetooth => (report.at_ms, measured(&bytes)),
        })
    });
    let decoded: Vec<(i64, Result<Report, Fault>)> = decoded.collect::<Result<_, ServiceError>>()?;
    let step_mg = decoded.iter().rev().find_map(|(_, report)| report.ok()).map(|report| report.step.mg());
    let settled = match (speaks, decoded.last()) {
        (Speaks::Usb, _) => settle(&decoded, now_ms),
        (Speaks::Bluetooth, None) => Settled::Silent,
        (Speaks::Bluetooth, Some((_, Err(fault)))) => Settled::Fault(*fault),
        (Speaks::Bluetooth, Some((_, Ok(report)))) if report.mass == Mass::ZERO => Settled::Empty,
        (Speaks::Bluetooth, Some((_, Ok(report)))) => Settled::Steady(report.mass),
    };
    let (state, mass, fault) = match settled {
        Settled::Silent => ("silent", None, None),
        Settled::Empty => ("empty", Some(Mass::ZERO), None),
        Settled::Moving(mass) => ("moving", Some(mass), None),
        Settled::Drifting(mass) => ("drifting", Some(mass), None),
        Settled::Steady(mass) => ("steady", Some(mass), None),
        Settled::Under(mass) => ("under", Some(mass), None),
        Settled::Fault(fault) => ("fault", None, Some(fault)),
    };
    Ok(Json(ScaleOut {
        state,
        mass_mg: mass.map(Mass::mg),
        step_mg,
        fault: fault.map(Fault::code),
        why: fault.map(|fault| fault.to_string()),
    }))
}
