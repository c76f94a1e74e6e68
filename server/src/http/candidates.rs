//! `/api/candidates`: what swaps put on.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::wire::{FactsOut, PageQuery, WeightOut};
use actix_web::get;
use actix_web::web::{Data, Json, Query};
use kevyt_core::swap::{Candidate, Seen};
use kevyt_service::fields::JobAmounts;
use kevyt_service::stored::{CandidateId, Stored};
use serde::Serialize;
use utoipa::ToSchema;

/// Something that could be got.
#[derive(Serialize, ToSchema)]
#[schema(as = Candidate)]
pub struct CandidateOut {
    id: CandidateId,
    version: i32,
    name: String,
    weight: Option<WeightOut>,
    /// The lowest price of one piece, in minor units; null if unknown.
    price_low_minor: Option<i64>,
    price_high_minor: Option<i64>,
    /// The price that counts: the middle of a range, rounded up.
    price_minor: Option<i64>,
    /// Where and when that was seen, if anybody said.
    #[serde(skip_serializing_if = "Option::is_none")]
    seen: Option<Seen>,
    /// What a shop knows it by, if its price is followed there.
    #[serde(skip_serializing_if = "Option::is_none")]
    offer: Option<String>,
    provides: JobAmounts,
    needs: JobAmounts,
    /// Absent if nothing is known.
    #[serde(skip_serializing_if = "Option::is_none")]
    facts: Option<FactsOut>,
    /// The key of its kind; absent while nobody has said.
    #[serde(skip_serializing_if = "Option::is_none")]
    kind: Option<&'static str>,
    /// What else is so of it, by the keys of marks.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    marks: Vec<&'static str>,
    /// Jobs whose amounts come from its kind and nobody has confirmed.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    assumed: Vec<String>,
}

/// One page of candidates.
#[derive(Serialize, ToSchema)]
pub struct CandidatePage {
    items: Vec<CandidateOut>,
    total: i64,
}

/// One page of candidates, by name.
#[utoipa::path(get, path = "/api/candidates", tag = "swaps", params(PageQuery), responses((status = 200, body = CandidatePage)))]
#[get("/candidates")]
pub async fn candidates(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    query: Query<PageQuery>,
) -> Result<Json<CandidatePage>, ProblemDoc> {
    let (items, total) = app.run(move |services| services.candidates(caller, query.page())).await?;
    Ok(Json(CandidatePage { items: items.iter().map(CandidateOut::from).collect(), total }))
}

impl From<&Stored<CandidateId, Candidate>> for CandidateOut {
    fn from(stored: &Stored<CandidateId, Candidate>) -> CandidateOut {
        let candidate = &stored.value;
        CandidateOut {
            id: stored.id,
            version: stored.version,
            name: candidate.name.as_str().to_owned(),
            weight: candidate.weight.as_ref().map(WeightOut::from),
            price_low_minor: candidate.price.map(|price| price.low().minor()),
            price_high_minor: candidate.price.map(|price| price.high().minor()),
            price_minor: candidate.price.map(|price| price.expected().minor()),
            seen: candidate.seen.clone(),
            offer: candidate.offer.clone(),
            provides: JobAmounts::from(&candidate.provides),
            needs: JobAmounts::from(&candidate.needs),
            facts: (!candidate.facts.is_empty()).then(|| FactsOut::from(&candidate.facts)),
            kind: candidate.identity.kind.map(|kind| kind.key),
            marks: candidate.tags.marks().map(|mark| mark.key).collect(),
            assumed: candidate.identity.assumed.iter().map(|job| job.as_str().to_owned()).collect(),
        }
    }
}
