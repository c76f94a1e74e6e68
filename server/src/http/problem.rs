//! Errors as RFC 9457 problem documents.

use super::tracked;
use actix_multipart::MultipartError;
use actix_multipart::form::MultipartFormConfig;
use actix_web::error::{JsonPayloadError, PathError, PayloadError, QueryPayloadError};
use actix_web::http::StatusCode;
use actix_web::http::header::{ContentType, RETRY_AFTER};
use actix_web::web::{JsonConfig, PathConfig, QueryConfig};
use actix_web::{HttpRequest, HttpResponse, ResponseError};
use kevyt_service::stored::StoreError;
use kevyt_service::{RefusedFigure, ServiceError};
use serde::Serialize;
use std::io::ErrorKind;
use utoipa::ToSchema;

/// A problem document: `code` is stable, `detail` is a sentence for a person.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = Problem)]
pub struct ProblemDoc {
    /// The HTTP status.
    pub status: u16,
    /// What sort of problem it is, in few words.
    pub title: &'static str,
    /// A stable word to tell problems apart by.
    pub code: &'static str,
    /// What happened, to what, and what would be accepted.
    pub detail: String,
    /// The field that it is about, if it is about one (`add[0].price`).
    #[serde(skip_serializing_if = "Option::is_none")]
    pub field: Option<String>,
    /// What was refused as figures, where it is about a quantity, to be worded in the reader's units.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<RefusedFigure>)]
    pub figure: Option<Box<RefusedFigure>>,
    /// After a stale edit: the version that stands now.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub version_now: Option<i32>,
    /// What names the request in the server's log, where the fault was the server's.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<String>)]
    pub request: Option<Box<str>>,
}

impl ProblemDoc {
    /// A problem without a field.
    pub fn new(status: StatusCode, title: &'static str, code: &'static str, detail: impl Into<String>) -> ProblemDoc {
        // Where somebody else is away (a shop, a forecast) there is nothing to look for in the log.
        let is_ours = status.is_server_error() && status != StatusCode::BAD_GATEWAY;
        let request = is_ours.then(tracked::current).flatten().map(Into::into);
        let (status, detail) = (status.as_u16(), detail.into());
        ProblemDoc { status, title, code, detail, field: None, figure: None, version_now: None, request }
    }

    /// A fault of Kevyt's; what it was stays in the log.
    pub fn internal(what: impl std::fmt::Display) -> ProblemDoc {
        tracing::error!("{what}");
        let detail =
            "Something went wrong on the server. Nothing was changed. Try again; if it stays, tell the operator.";
        ProblemDoc::new(StatusCode::INTERNAL_SERVER_ERROR, "Internal error", "internal", detail)
    }

    /// A body of more kB than are taken.
    pub fn too_large(most_kb: usize) -> ProblemDoc {
        let detail = format!("The request is larger than {most_kb} kB, the most that is taken.");
        ProblemDoc::new(StatusCode::PAYLOAD_TOO_LARGE, "Too large", "too_large", detail)
    }

    /// A body that did not come to its end.
    pub fn too_slow() -> ProblemDoc {
        let detail = "The request did not come to its end in time, so it was not carried out. Send it again.";
        ProblemDoc::new(StatusCode::REQUEST_TIMEOUT, "Too slow", "too_slow", detail)
    }

    /// There is more to do at once than is done.
    pub fn busy() -> ProblemDoc {
        let detail = "Too much is being calculated at once. Nothing was changed. Try again in a moment.";
        ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Busy", "busy", detail)
    }

    /// There is no room for a file.
    pub fn no_room_for_files() -> ProblemDoc {
        let detail = "Too many files are being read at once. Nothing was changed. Try again in a moment.";
        ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Busy", "busy", detail)
    }

    /// Nobody is signed in.
    pub fn not_signed_in() -> ProblemDoc {
        ProblemDoc::new(StatusCode::UNAUTHORIZED, "Not signed in", "not_signed_in", "Sign in first.")
    }

    /// The document as a response.
    pub fn response(&self) -> HttpResponse {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        let mut response = HttpResponse::build(status);
        if status == StatusCode::TOO_MANY_REQUESTS || status == StatusCode::SERVICE_UNAVAILABLE {
            response.insert_header((RETRY_AFTER, if status == StatusCode::TOO_MANY_REQUESTS { "900" } else { "5" }));
        }
        let body = serde_json::to_string(self).unwrap_or_default();
        response
            .insert_header(ContentType("application/problem+json".parse().unwrap_or(actix_web::mime::APPLICATION_JSON)))
            .body(body)
    }
}

impl std::fmt::Display for ProblemDoc {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.detail)
    }
}

impl ResponseError for ProblemDoc {
    fn status_code(&self) -> StatusCode {
        StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR)
    }

    fn error_response(&self) -> HttpResponse {
        self.response()
    }
}

impl From<ServiceError> for ProblemDoc {
    fn from(error: ServiceError) -> ProblemDoc {
        match error {
            ServiceError::Invalid { field, code, detail, figure } => {
                let problem = ProblemDoc::new(StatusCode::UNPROCESSABLE_ENTITY, "Can't be taken", code, detail);
                ProblemDoc { field: Some(field), figure, ..problem }
            }
            ServiceError::WrongSignIn => {
                ProblemDoc::new(StatusCode::UNAUTHORIZED, "Not signed in", "wrong_sign_in", error.to_string())
            }
            ServiceError::TooManyAttempts { .. } => {
                ProblemDoc::new(StatusCode::TOO_MANY_REQUESTS, "Too many tries", "too_many_tries", error.to_string())
            }
            ServiceError::Undone => ProblemDoc::new(StatusCode::CONFLICT, "Undone", "undone", error.to_string()),
            ServiceError::ChangedSince(_) => {
                ProblemDoc::new(StatusCode::CONFLICT, "Changed since", "changed_since", error.to_string())
            }
            ServiceError::NoDemo => ProblemDoc::new(StatusCode::NOT_FOUND, "Not there", "no_demo", error.to_string()),
            ServiceError::SignUpClosed => {
                ProblemDoc::new(StatusCode::FORBIDDEN, "Closed", "sign_up_closed", error.to_string())
            }
            ServiceError::Disabled => ProblemDoc::new(StatusCode::FORBIDDEN, "Disabled", "disabled", error.to_string()),
            ServiceError::Internal(what) => ProblemDoc::internal(what),
            ServiceError::Store(error) => ProblemDoc::from(error),
        }
    }
}

impl From<StoreError> for ProblemDoc {
    fn from(error: StoreError) -> ProblemDoc {
        match error {
            StoreError::NotFound => ProblemDoc::new(
                StatusCode::NOT_FOUND,
                "Not there",
                "not_found",
                "There is nothing here with this id. It may have been removed.",
            ),
            StoreError::Stale(now) => {
                let detail = "It was changed somewhere else since you opened it. Nothing of yours was written: look at it as it is now, and change it again.";
                let problem = ProblemDoc::new(StatusCode::CONFLICT, "Changed meanwhile", "stale", detail);
                ProblemDoc { version_now: Some(now), ..problem }
            }
            StoreError::OtherRequest => {
                let detail = "This Idempotency-Key was used for a request that asked for something else. Nothing was changed. Send this one under a key of its own.";
                let title = "Another request";
                ProblemDoc::new(StatusCode::UNPROCESSABLE_ENTITY, title, "idempotency_key_reused", detail)
            }
            StoreError::Duplicate => {
                ProblemDoc::new(StatusCode::CONFLICT, "Stands already", "duplicate", "This stands already.")
            }
            StoreError::Dangling => ProblemDoc::new(
                StatusCode::CONFLICT,
                "Gone meanwhile",
                "dangling",
                "Something that this names was removed meanwhile. Load it again.",
            ),
            StoreError::Corrupt(column) => ProblemDoc::internal(format!("unreadable value in {column}")),
            StoreError::Refused(what) => ProblemDoc::internal(format!("database: {what}")),
            StoreError::Deadlock(what) => {
                tracing::warn!("database: {what}");
                let detail = "Too much is being written at once. Nothing was changed. Try again in a moment.";
                ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Busy", "busy", detail)
            }
            StoreError::Unavailable(what) => {
                tracing::error!("database: {what}");
                let detail = "The database does not answer. Nothing was changed. Try again in a moment.";
                ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Not available", "unavailable", detail)
            }
            StoreError::Full(what) => {
                tracing::error!("database: {what}");
                let detail = "The server has no room left to keep anything more. Nothing was changed, and what there is can be read. Tell the operator.";
                ProblemDoc::new(StatusCode::INSUFFICIENT_STORAGE, "No room", "full", detail)
            }
            StoreError::CommitUnknown(what) => {
                tracing::error!("database: {what}");
                let detail = "The connection to the database broke while this was being kept, so nobody knows whether it was. \
                    Look before you do it again; a request sent again with the same Idempotency-Key is not done twice.";
                ProblemDoc::new(StatusCode::SERVICE_UNAVAILABLE, "Not known", "outcome_unknown", detail)
            }
        }
    }
}

/// The largest body of most requests, in kB.
pub const BODY_KB: usize = 256;
/// The largest body with a file in it, in kB.
pub const FILE_KB: usize = 16 * 1024;

/// The largest account file, in kB.
pub const ACCOUNT_KB: usize = 64 * 1024;

/// Bodies: JSON, at most so many kB.
pub fn json_config(most_kb: usize) -> JsonConfig {
    JsonConfig::default().limit(most_kb * 1024).error_handler(move |error, _| {
        let problem = match &error {
            JsonPayloadError::OverflowKnownLength { .. } | JsonPayloadError::Overflow { .. } => {
                ProblemDoc::too_large(most_kb)
            }
            JsonPayloadError::Payload(PayloadError::Io(why)) if let Some(early) = ended_early(why) => early,
            JsonPayloadError::ContentType => ProblemDoc::new(
                StatusCode::UNSUPPORTED_MEDIA_TYPE,
                "Not JSON",
                "not_json",
                "The request must be JSON, with the content type application/json.",
            ),
            _ => ProblemDoc::new(
                StatusCode::BAD_REQUEST,
                "Can't be read",
                "bad_json",
                format!("The request can't be read: {error}."),
            ),
        };
        problem.into()
    })
}

/// Why a body was not read to its end: too slow, or no room for it.
fn ended_early(why: &std::io::Error) -> Option<ProblemDoc> {
    match why.kind() {
        ErrorKind::TimedOut => Some(ProblemDoc::too_slow()),
        ErrorKind::ResourceBusy => Some(ProblemDoc::no_room_for_files()),
        _ => None,
    }
}

/// What is wrong with a body as such: it is too long, or does not come to its end.
pub fn of_body(error: &actix_web::Error, most_kb: usize) -> ProblemDoc {
    match error.as_error::<PayloadError>() {
        Some(PayloadError::Io(why)) if let Some(early) = ended_early(why) => early,
        Some(PayloadError::Overflow) => ProblemDoc::too_large(most_kb),
        _ => ProblemDoc::new(
            StatusCode::BAD_REQUEST,
            "Can't be read",
            "bad_body",
            format!("The request can't be read: {error}."),
        ),
    }
}

/// Forms with a file in them, at most so many kB.
pub fn form_config(most_kb: usize) -> MultipartFormConfig {
    let most = most_kb * 1024;
    MultipartFormConfig::default().total_limit(most).memory_limit(most).error_handler(move |error, _| {
        let problem = match &error {
            MultipartError::Payload(PayloadError::Io(why)) if let Some(early) = ended_early(why) => early,
            MultipartError::Payload(PayloadError::Overflow) => ProblemDoc::too_large(most_kb),
            _ => ProblemDoc::new(
                StatusCode::BAD_REQUEST,
                "Can't be read",
                "bad_form",
                format!("The form can't be read: {error}."),
            ),
        };
        problem.into()
    })
}

/// What is wrong with a form: what its reader says, or that it is none.
pub fn of_form(error: actix_web::Error) -> ProblemDoc {
    error.as_error::<ProblemDoc>().cloned().unwrap_or_else(|| {
        let detail = "The request must be a form with the file in it, with the content type multipart/form-data.";
        ProblemDoc::new(StatusCode::UNSUPPORTED_MEDIA_TYPE, "Not a form", "not_a_form", detail)
    })
}

/// Ids in addresses.
pub fn path_config() -> PathConfig {
    PathConfig::default().error_handler(|error: PathError, _| {
        let detail = format!("The address has an id that can't be one: {error}.");
        ProblemDoc::new(StatusCode::NOT_FOUND, "Not there", "not_found", detail).into()
    })
}

/// What follows the question mark.
pub fn query_config() -> QueryConfig {
    QueryConfig::default().error_handler(|error: QueryPayloadError, _| {
        ProblemDoc::new(
            StatusCode::BAD_REQUEST,
            "Can't be read",
            "bad_query",
            format!("The address can't be read: {error}."),
        )
        .into()
    })
}

/// The answer under `/api` where nothing is.
pub async fn no_such_address(request: HttpRequest) -> HttpResponse {
    let detail =
        format!("There is nothing at {} {}. The addresses are in /api/openapi.json.", request.method(), request.path());
    ProblemDoc::new(StatusCode::NOT_FOUND, "Not there", "no_such_address", detail).response()
}
