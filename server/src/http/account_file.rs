//! `/api/files/account…`: the whole account as one file, there and back. It lies on disk while it is under way, so that no file is ever
//! whole in memory.

use super::guard::SignedIn;
use super::problem::{self, ProblemDoc};
use super::{App, LONG_DEADLINE};
use actix_web::body::SizedStream;
use actix_web::dev::Payload;
use actix_web::http::StatusCode;
use actix_web::http::header::{CONTENT_DISPOSITION, CONTENT_TYPE};
use actix_web::web::{Bytes, Data};
use actix_web::{Error, FromRequest, HttpRequest, HttpResponse, get, post};
use futures_util::StreamExt;
use futures_util::stream::try_unfold;
use kevyt_service::ServiceError;
use kevyt_service::backup::{AccountFile, Restored};
use kevyt_service::stored::StoreError;
use serde::Serialize;
use std::fs::File;
use std::future::Future;
use std::io::{self, BufReader, BufWriter, Seek, Write};
use std::pin::Pin;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use utoipa::ToSchema;

/// What is read of a file at a time, in bytes.
const PIECE: usize = 64 * 1024;

/// What a restore brought.
#[derive(Serialize, ToSchema)]
pub struct RestoredOut {
    gear: usize,
    kits: usize,
    lists: usize,
    swaps: usize,
}

/// The whole account as one file, kevyt-account/1 (its JSON Schema is docs/account.schema.json).
#[utoipa::path(get, path = "/api/files/account.json", tag = "files", responses((status = 200, body = serde_json::Value, description = "kevyt-account/1, as docs/account.schema.json says")))]
#[get("/account.json")]
pub async fn backup(app: Data<App>, SignedIn(caller): SignedIn) -> Result<HttpResponse, ProblemDoc> {
    let (file, length) = app
        .run_within(LONG_DEADLINE, StoreError::Unavailable, move |services| {
            let account = services.backup(caller)?;
            Ok(spool(&account).map_err(not_kept)?)
        })
        .await?;
    let pieces = try_unfold(tokio::fs::File::from_std(file), |mut file| async move {
        let mut piece = Vec::with_capacity(PIECE);
        file.read_buf(&mut piece).await?;
        Ok::<_, io::Error>((!piece.is_empty()).then(|| (Bytes::from(piece), file)))
    });
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "application/json"))
        .insert_header((CONTENT_DISPOSITION, "attachment; filename=\"kevyt-account.json\""))
        .body(SizedStream::new(length, pieces)))
}

/// Puts what a backup holds in the place of all gear, kits and lists, in one transaction. At most 64 MB.
#[utoipa::path(post, path = "/api/files/account", tag = "files", request_body(content = String, description = "The file as it is", content_type = "application/json"),
    responses((status = 200, body = RestoredOut), (status = 413, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/account")]
pub async fn restore(app: Data<App>, SignedIn(caller): SignedIn, file: Spooled) -> Result<HttpResponse, ProblemDoc> {
    let restored =
        |done: Restored| RestoredOut { gear: done.gear, kits: done.kits, lists: done.lists, swaps: done.swaps };
    let Spooled(file) = file;
    app.write_much(
        caller,
        StatusCode::OK,
        move |w| {
            // From its beginning: a use case may be tried again.
            (&file).rewind().map_err(|error| ServiceError::Internal(format!("the file is lost: {error}")))?;
            w.restore(BufReader::with_capacity(PIECE, &file))
        },
        restored,
    )
    .await
}

/// An account in a file without a name, from its beginning, and how long it is.
fn spool(account: &AccountFile) -> io::Result<(File, u64)> {
    let mut out = BufWriter::with_capacity(PIECE, tempfile::tempfile()?);
    serde_json::to_writer_pretty(&mut out, account)?;
    out.write_all(b"\n")?;
    let mut file = out.into_inner()?;
    let length = file.stream_position()?;
    file.rewind()?;
    Ok((file, length))
}

/// A body that is text, in a file without a name; with our own answers where it is none, or too long.
pub struct Spooled(File);

impl FromRequest for Spooled {
    type Error = ProblemDoc;
    type Future = Pin<Box<dyn Future<Output = Result<Spooled, ProblemDoc>>>>;

    fn from_request(_: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let mut body = payload.take();
        Box::pin(async move {
            let mut file = tokio::fs::File::from_std(tempfile::tempfile().map_err(not_kept)?);
            let (mut length, mut text) = (0, Utf8::default());
            while let Some(piece) = body.next().await {
                let piece = piece.map_err(|error| problem::of_body(&Error::from(error), problem::ACCOUNT_KB))?;
                length += piece.len();
                if length > problem::ACCOUNT_KB * 1024 {
                    return Err(ProblemDoc::too_large(problem::ACCOUNT_KB));
                }
                text.take(&piece).map_err(not_utf8)?;
                file.write_all(&piece).await.map_err(not_kept)?;
            }
            text.end().map_err(not_utf8)?;
            file.flush().await.map_err(not_kept)?;
            Ok(Spooled(file.into_std().await))
        })
    }
}

/// A file that the disk does not take.
fn not_kept(error: io::Error) -> StoreError {
    let said = format!("a file can't be kept: {error}");
    let is_full = matches!(error.kind(), io::ErrorKind::StorageFull | io::ErrorKind::QuotaExceeded);
    if is_full { StoreError::Full(said) } else { StoreError::Refused(said) }
}

fn not_utf8(at: usize) -> ProblemDoc {
    ServiceError::invalid("text", "not_utf8", format!("The file is not UTF-8: byte {at} can't be read.")).into()
}

/// Looks whether text that comes in pieces is UTF-8; errors are where it is not.
#[derive(Default)]
pub struct Utf8 {
    /// Bytes that are.
    good: usize,
    /// The beginning of a character whose end has not come yet.
    begun: Vec<u8>,
}

impl Utf8 {
    pub fn take(&mut self, piece: &[u8]) -> Result<(), usize> {
        self.begun.extend_from_slice(piece);
        let good = match std::str::from_utf8(&self.begun) {
            Ok(_) => self.begun.len(),
            Err(error) if error.error_len().is_none() => error.valid_up_to(),
            Err(error) => return Err(self.good + error.valid_up_to()),
        };
        self.begun.drain(..good);
        self.good += good;
        Ok(())
    }

    pub fn end(&self) -> Result<(), usize> {
        if self.begun.is_empty() { Ok(()) } else { Err(self.good) }
    }
}
