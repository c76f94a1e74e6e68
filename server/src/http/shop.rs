//! `/api/shop`: what a shop offers, if this server has one, and the prices that are followed there. It is asked for two seconds at most,
//! and what is no offer is not passed on.

use super::App;
use super::guard::SignedIn;
use super::outside::{Failed, ask};
use super::problem::ProblemDoc;
use actix_web::get;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use chrono::NaiveDate;
use futures_util::future::join_all;
use kevyt_core::gear::Kind;
use kevyt_core::limits;
use kevyt_core::quantity::Money;
use kevyt_core::swap::Wait;
use kevyt_service::offers::{AllFollowed, waiting};
use kevyt_service::stored::{CandidateId, Figures, ListId, PriceSeen, SwapId, Trouble};
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
    /// The key of the kind that its name says, if any; whatever the shop says of it.
    #[serde(default)]
    kind: Option<String>,
}

/// Looks for things in the shop.
#[utoipa::path(get, path = "/api/shop", tag = "shop", params(ShopQuery),
    responses((status = 200, body = Vec<OfferOut>), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc), (status = 502, body = ProblemDoc)))]
#[get("/shop")]
pub async fn find(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    query: Query<ShopQuery>,
) -> Result<Json<Vec<OfferOut>>, ProblemDoc> {
    let Some(address) = app.services.options.shop.clone() else {
        return Err(refused(StatusCode::NOT_FOUND, "no_shop", "This server has no shop. Type weight and price."));
    };
    if query.q.chars().count() > limits::NAME {
        let detail = format!("Type at most {} characters of a name.", limits::NAME);
        return Err(refused(StatusCode::UNPROCESSABLE_ENTITY, "too_long", detail));
    }
    let mut found: Vec<OfferOut> = ask(format!("{address}/offers"), &[("q", &query.q)]).await.map_err(|failed| {
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
    for offer in &mut found {
        offer.kind = Kind::of_name(&offer.name).map(|kind| kind.key.to_owned());
    }
    Ok(Json(found))
}

/// A candidate whose price is followed, and what was seen of its offer.
#[derive(Serialize, ToSchema)]
#[schema(as = Followed)]
pub struct FollowedOut {
    swap: SwapId,
    candidate: CandidateId,
    /// What the shop knows it by.
    code: String,
    /// Why there is nothing newer, if asking last gave no figures.
    trouble: Option<Trouble>,
    /// What was seen, the oldest first; only in the account's currency.
    seen: Vec<SeenOut>,
    /// What waiting for another price comes to; null where it is sold out, where no trip of the list is to come, where the list is short today
    /// of what it does, or where too little was seen.
    wait: Option<WaitOut>,
}

/// What waiting comes to if prices that were seen come again, one look a month: a price is taken where it is at most what going on would come to.
#[derive(Serialize, ToSchema)]
#[schema(as = Wait)]
pub struct WaitOut {
    /// Up to which price it is bought: now, in a month, and so on; after the last of these, at any price.
    buy_below_minor: Vec<i64>,
    /// What is paid on average by a buyer who waits so.
    expected_minor: i64,
    /// How often more is paid in the end than it costs now, in per cent.
    dearer_percent: u32,
    /// How much of the time it was sold out, in per cent.
    sold_out_percent: u32,
    /// Until when it is to be there, to be tried for four weeks before the trip.
    by: String,
}

/// Figures of an offer, and from when to when they were seen.
#[derive(Serialize, ToSchema)]
#[schema(as = OfferSeen)]
pub struct SeenOut {
    since: String,
    until: String,
    /// New.
    price_minor: i64,
    /// What it costs when it is not on sale; null if it isn't.
    was_minor: Option<i64>,
    /// What a used one costs; null if there is none.
    used_minor: Option<i64>,
    stock: i64,
}

/// The prices that are followed for a list: of candidates that were taken from the shop. Each offer is asked for once an hour at most,
/// whichever account follows it, and none for longer than two seconds.
#[utoipa::path(get, path = "/api/lists/{id}/offers", tag = "shop",
    responses((status = 200, body = Vec<FollowedOut>), (status = 404, body = ProblemDoc)))]
#[get("/lists/{id}/offers")]
pub async fn followed(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<ListId>,
) -> Result<Json<Vec<FollowedOut>>, ProblemDoc> {
    let list = *id;
    let mut all = app.run(move |services| services.followed(caller, list)).await?;
    if let (Some(address), false) = (app.services.options.shop.clone(), all.followed.is_empty()) {
        let codes = all.followed.iter().map(|followed| followed.code.clone()).collect();
        let to_ask = app.run(move |services| services.offers_to_ask(codes)).await?;
        if !to_ask.is_empty() {
            let asked = join_all(to_ask.into_iter().map(|code| figures(&address, code))).await;
            app.run(move |services| services.note_offers(asked)).await?;
            all = app.run(move |services| services.followed(caller, list)).await?;
        }
    }
    let currency = caller.preferences.currency.code();
    let AllFollowed { followed, known, trip_on } = all;
    let each = followed.into_iter().map(|followed| {
        let known = known.get(&followed.code).cloned().unwrap_or_default();
        let is_other = known.seen.last().is_some_and(|last| last.figures.currency != currency);
        let last = known.seen.last().filter(|last| last.figures.stock > 0 && known.trouble.is_none() && !is_other);
        let now = last.filter(|_| !followed.is_lacking).map(|last| Money::from_minor(last.figures.price));
        let wait = now.and_then(|now| waiting(&known, currency, trip_on, now)).map(WaitOut::from);
        FollowedOut {
            wait,
            swap: followed.swap,
            candidate: followed.candidate,
            code: followed.code,
            trouble: known.trouble.or(is_other.then_some(Trouble::OtherCurrency)),
            seen: known.seen.into_iter().filter(|seen| seen.figures.currency == currency).map(SeenOut::from).collect(),
        }
    });
    Ok(Json(each.collect()))
}

/// What a shop says of one offer now.
async fn figures(address: &str, code: String) -> (String, Result<Figures, Trouble>) {
    let mut url = reqwest::Url::parse(address).ok();
    if let Some(mut path) = url.as_mut().and_then(|url| url.path_segments_mut().ok()) {
        path.pop_if_empty().extend(["offers", &code]);
    }
    let came = match url {
        Some(url) => ask::<OfferOut>(url.into(), &[]).await,
        None => Err(Failed::Silent),
    };
    let came = match came {
        Ok(offer) if is_likely(&offer) && offer.code == code => Ok(Figures {
            currency: offer.currency,
            price: offer.price_minor,
            was: offer.was_minor,
            used: offer.used_minor,
            stock: offer.stock,
        }),
        Ok(_) | Err(Failed::Nonsense) => Err(Trouble::Nonsense),
        Err(Failed::Unknown(_)) => Err(Trouble::Gone),
        Err(Failed::Silent) => Err(Trouble::Silent),
    };
    (code, came)
}

impl From<(Wait, NaiveDate)> for WaitOut {
    fn from((wait, by): (Wait, NaiveDate)) -> WaitOut {
        WaitOut {
            buy_below_minor: wait.buy_below.into_iter().map(Money::minor).collect(),
            expected_minor: wait.expected.minor(),
            dearer_percent: (wait.dearer_permille + 5) / 10,
            sold_out_percent: wait.sold_out_percent,
            by: by.to_string(),
        }
    }
}

impl From<PriceSeen> for SeenOut {
    fn from(seen: PriceSeen) -> SeenOut {
        SeenOut {
            since: seen.since.and_utc().to_rfc3339(),
            until: seen.until.and_utc().to_rfc3339(),
            price_minor: seen.figures.price,
            was_minor: seen.figures.was,
            used_minor: seen.figures.used,
            stock: seen.figures.stock,
        }
    }
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
        && offer.currency.len() == 3
        && (0..=1_000_000).contains(&offer.stock)
}
