//! `/api/shop`: what a shop offers, if this server has one. It is asked for two seconds at most, and what is no offer is not passed on.

use super::outside::{Failed, ask};
use super::problem::ProblemDoc;
use super::{App, Caller};
use actix_web::get;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Query};
use kevyt_core::limits;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// What is looked for in a shop.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ShopQuery {
    /// Words of a name, at most 120 characters.
    q: String,
}

/// Something that a shop offers.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[schema(as = Offer)]
pub struct OfferOut {
    /// What the shop knows it by.
    code: String,
    name: String,
    /// What the maker says that one piece weighs.
    weight_mg: i64,
    /// ISO 4217; always the account's.
    currency: String,
    /// New, now.
    price_minor: i64,
    /// What it costs when it is not on sale; null if it isn't.
    was_minor: Option<i64>,
    /// New ones that are there.
    stock: i64,
    /// What a used one costs; null if there is none.
    used_minor: Option<i64>,
}

/// Looks for things in the shop.
#[utoipa::path(get, path = "/api/shop", tag = "shop", params(ShopQuery),
    responses((status = 200, body = Vec<OfferOut>), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc), (status = 502, body = ProblemDoc)))]
#[get("/shop")]
pub async fn find(app: Data<App>, caller: Caller, query: Query<ShopQuery>) -> Result<Json<Vec<OfferOut>>, ProblemDoc> {
    let Some(address) = app.services.shop.clone() else {
        return Err(refused(StatusCode::NOT_FOUND, "no_shop", "This server has no shop. Type weight and price."));
    };
    if query.q.chars().count() > limits::NAME {
        let detail = format!("Type at most {} characters of a name.", limits::NAME);
        return Err(refused(StatusCode::UNPROCESSABLE_ENTITY, "too_long", detail));
    }
    let found: Vec<OfferOut> = ask(format!("{address}/offers"), &[("q", &query.q)]).await.map_err(|failed| {
        away(match failed {
            Failed::Silent => "The shop does not answer.",
            Failed::Nonsense | Failed::Unknown(_) => "The shop answers what can't be offers.",
        })
    })?;
    if !found.iter().all(is_likely) {
        return Err(away("The shop answers what can't be offers."));
    }
    let currency = caller.preferences.currency.code();
    if let Some(other) = found.iter().find(|offer| offer.currency != currency) {
        let detail =
            format!("The shop's prices are in {}, and yours in {currency}. Type weight and price.", other.currency);
        return Err(refused(StatusCode::BAD_GATEWAY, "other_currency", detail));
    }
    Ok(Json(found))
}

fn refused(status: StatusCode, code: &'static str, detail: impl Into<String>) -> ProblemDoc {
    ProblemDoc::new(status, "No offers", code, detail)
}

fn away(what: &str) -> ProblemDoc {
    refused(StatusCode::BAD_GATEWAY, "shop_away", format!("{what} Type weight and price, or ask again later."))
}

/// Whether the figures can be an offer.
fn is_likely(offer: &OfferOut) -> bool {
    let is_short = |text: &str, most: usize| !text.trim().is_empty() && text.chars().count() <= most;
    let is_money = |minor: i64| (1..=limits::MONEY_MINOR).contains(&minor);
    is_short(&offer.code, 40)
        && is_short(&offer.name, limits::NAME)
        && (1..=limits::MASS_MG).contains(&offer.weight_mg)
        && is_money(offer.price_minor)
        && offer.was_minor.is_none_or(|was| is_money(was) && was > offer.price_minor)
        && offer.used_minor.is_none_or(is_money)
        && (0..=1_000_000).contains(&offer.stock)
}
