//! What several resources say and hear in the same way.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::http::header::ContentType;
use bytes::Bytes;
use chrono::{DateTime, Utc};
use kevyt_core::gear::{Facts, RatingKind, Weight, WeightSource};
use kevyt_core::quantity::Mass;
use kevyt_core::trip::{Loaded, Part};
use kevyt_service::stored::{GearId, KitId, Page, Weighed, WeighingId, WeighingRecord};
use kevyt_service::{ServiceError, Written};
use serde::{Deserialize, Serialize};
use serde_json::value::{RawValue, to_raw_value};
use std::sync::Arc;
use utoipa::{IntoParams, ToSchema};

/// The most rows of one page: all of a large inventory, so that it is one request.
pub const MOST_ROWS: u32 = 5000;

/// Which part of a long list.
#[derive(Debug, Clone, Copy, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PageQuery {
    /// Rows, 1 to 5000; 200 unless given.
    pub limit: Option<u32>,
    /// Rows passed over; 0 unless given.
    pub offset: Option<u32>,
}

impl PageQuery {
    /// Within the limits.
    pub fn page(self) -> Page {
        Page { limit: self.limit.unwrap_or(200).clamp(1, MOST_ROWS), offset: self.offset.unwrap_or(0) }
    }
}

/// The version that a change or removal was decided on.
#[derive(Debug, Clone, Copy, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct VersionQuery {
    /// As it was read.
    pub version: i32,
}

/// An answer as JSON.
pub fn json(answer: &impl Serialize) -> Result<Bytes, ServiceError> {
    Ok(serde_json::to_vec(answer).map_err(|error| ServiceError::Internal(error.to_string()))?.into())
}

/// A part of an answer as JSON, which is put in as it is.
pub fn raw_json(part: &impl Serialize) -> Result<Arc<RawValue>, ServiceError> {
    Ok(to_raw_value(part).map_err(|error| ServiceError::Internal(error.to_string()))?.into())
}

/// The header that names the change a request made, to undo it by.
const CHANGE: &str = "Kevyt-Change";

/// An answer to a request that changed something.
pub fn changed(status: StatusCode, written: Written) -> HttpResponse {
    let mut response = HttpResponse::build(status);
    if let Some(change) = written.change {
        response.insert_header((CHANGE, change.to_string()));
    }
    if status == StatusCode::NO_CONTENT {
        return response.finish();
    }
    response.insert_header(ContentType::json()).body(written.body)
}

/// What a trip asks of one piece of a thing.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = Facts)]
pub struct FactsOut {
    /// How warm it is rated.
    #[serde(skip_serializing_if = "Option::is_none")]
    rating: Option<RatingOut>,
    /// What it adds to the bag or quilt that it is used with, in tenths of a degree Celsius.
    #[serde(skip_serializing_if = "Option::is_none")]
    warms_tenth_c: Option<i64>,
    /// The gas in one full can, in milligrams.
    #[serde(skip_serializing_if = "Option::is_none")]
    contents_mg: Option<i64>,
}

/// A rating of warmth.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = Rating)]
pub struct RatingOut {
    kind: RatingKind,
    /// Tenths of a degree Celsius.
    tenth_c: i64,
}

impl From<&Facts> for FactsOut {
    fn from(facts: &Facts) -> FactsOut {
        FactsOut {
            rating: facts.rating.map(|rating| RatingOut { kind: rating.kind, tenth_c: rating.at.tenths() }),
            warms_tenth_c: facts.warms,
            contents_mg: facts.contents.map(Mass::mg),
        }
    }
}

/// What one piece weighs.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct WeightOut {
    /// Milligrams.
    pub unit_mg: i64,
    /// As it was typed.
    pub typed: String,
    /// Where it comes from.
    pub source: WeightSource,
}

impl From<&Weight> for WeightOut {
    fn from(weight: &Weight) -> WeightOut {
        WeightOut { unit_mg: weight.unit.mg(), typed: weight.typed.clone(), source: weight.source }
    }
}

/// A pack as it is loaded at the start, line by line.
#[derive(Serialize, ToSchema)]
#[schema(as = LoadedPack)]
pub struct LoadedOut {
    total_mg: i64,
    /// Things in it of unknown weight: while there are any, the total is "at least".
    unknown: usize,
    parts: Vec<LoadedPartOut>,
}

/// A part of a loaded pack.
#[derive(Serialize, ToSchema)]
#[schema(as = LoadedPart)]
pub struct LoadedPartOut {
    part: PartWord,
    /// A thing's position.
    of: Option<usize>,
    /// A kit's name.
    kit: Option<String>,
    mass_mg: i64,
}

/// What a part of a loaded pack is.
#[derive(Serialize, ToSchema)]
#[schema(as = LoadedPartKind)]
#[serde(rename_all = "snake_case")]
pub enum PartWord {
    /// A thing's packed pieces, cans with what they hold.
    Thing,
    /// By how much a kit weighed more than its parts.
    Kit,
    /// The trip's food up to where more is fetched; the list has none of its own.
    Food,
    /// Water at the start.
    Water,
}

impl From<Loaded> for LoadedOut {
    fn from(loaded: Loaded) -> LoadedOut {
        let part = |(part, mass): (Part, Mass)| {
            let (part, of, kit) = match part {
                Part::Thing(of) => (PartWord::Thing, Some(of), None),
                Part::Kit(name) => (PartWord::Kit, None, Some(name)),
                Part::Food => (PartWord::Food, None, None),
                Part::Water => (PartWord::Water, None, None),
            };
            LoadedPartOut { part, of, kit, mass_mg: mass.mg() }
        };
        LoadedOut {
            total_mg: loaded.total.mg(),
            unknown: loaded.unknown,
            parts: loaded.parts.into_iter().map(part).collect(),
        }
    }
}

/// A weighing.
#[derive(Serialize, ToSchema)]
#[schema(as = Weighing)]
pub struct WeighingOut {
    id: WeighingId,
    /// The thing, if it was one.
    gear: Option<GearId>,
    /// The kit, if it was one.
    kit: Option<KitId>,
    total_mg: i64,
    pieces: u32,
    /// One piece.
    unit_mg: i64,
    /// Half the width of the doubt of one piece.
    half_width_mg: i64,
    /// As typed or shown.
    typed: String,
    scale: String,
    /// When (UTC).
    #[schema(value_type = String)]
    at: DateTime<Utc>,
}

impl From<&WeighingRecord> for WeighingOut {
    fn from(record: &WeighingRecord) -> WeighingOut {
        let (gear, kit) = match record.of {
            Weighed::Gear(id) => (Some(id), None),
            Weighed::Kit(id) => (None, Some(id)),
        };
        WeighingOut {
            id: record.id,
            gear,
            kit,
            total_mg: record.weighing.total.mg(),
            pieces: record.weighing.pieces,
            unit_mg: record.weighing.unit().mg(),
            half_width_mg: record.weighing.half_width().mg(),
            typed: record.typed.clone(),
            scale: record.scale.clone(),
            at: record.at.and_utc(),
        }
    }
}
