//! `/api/outfits`: whole lists side by side, by weight, money, warmth, water, load and cautions.

use super::App;
use super::guard::SignedIn;
use super::lists::ListOut;
use super::problem::ProblemDoc;
use actix_web::get;
use actix_web::web::{Data, Json, Query};
use kevyt_core::caution::CautionId;
use kevyt_service::ServiceError;
use kevyt_service::outfits::{Between, Outfit};
use kevyt_service::stored::ListId;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// Which lists.
#[derive(Deserialize, IntoParams)]
pub struct OutfitsQuery {
    /// Ids of up to four lists, with commas between.
    lists: String,
}

/// Lists side by side.
#[derive(Serialize, ToSchema)]
#[schema(as = Outfits)]
pub struct OutfitsOut {
    /// In the order in which they were named.
    outfits: Vec<OutfitOut>,
    /// From each to the next dearer one.
    between: Vec<BetweenOut>,
}

/// A list as an outfit: what of it the caller carries and wears.
#[derive(Serialize, ToSchema)]
#[schema(as = Outfit)]
pub struct OutfitOut {
    list: ListOut,
    base_mg: i64,
    /// Things with an unknown weight; they count as nothing.
    unknown: usize,
    /// What it costs: what was paid, and of what is only wished for what it would.
    costs_minor: i64,
    /// What of that is owned.
    owned_minor: i64,
    /// Things of which no price is known; they count as nothing.
    unpriced: usize,
    /// Nights in the coming twelve months; 0 for lists of others.
    nights: u32,
    /// Base weight times those, in milligrams times nights.
    gram_nights_mg: i64,
    /// The comfort of what is slept in with the sleeper's offset, and the low that is expected, in tenths of a degree Celsius; null where
    /// nothing is rated, or there is no trip.
    comfort_tenth_c: Option<i64>,
    low_tenth_c: Option<i64>,
    /// What drinking containers hold, in millilitres; null without a trip.
    water_ml: Option<i64>,
    /// The heaviest start of a day on the trip; the pack as it is loaded without one.
    heaviest_mg: i64,
    /// What the packs carry comfortably, if any says so.
    comfortable_mg: Option<i64>,
    /// Cautions that are more than reminders, acknowledged or not.
    cautions: Vec<CautionId>,
}

/// From one outfit to the next dearer one.
#[derive(Serialize, ToSchema)]
#[schema(as = Between)]
pub struct BetweenOut {
    /// Their places in `outfits`.
    cheaper: usize,
    dearer: usize,
    more_minor: i64,
    /// How much less it weighs; below 0 where it is heavier.
    lighter_mg: i64,
}

impl From<Outfit> for OutfitOut {
    fn from(outfit: Outfit) -> OutfitOut {
        let Outfit { sheet, costs, owned, unpriced, nights, cautions } = outfit;
        let (base, trip) = (sheet.totals.base, sheet.trip.as_ref());
        OutfitOut {
            base_mg: base.mg(),
            unknown: sheet.totals.unknown,
            costs_minor: costs.minor(),
            owned_minor: owned.minor(),
            unpriced,
            nights,
            gram_nights_mg: base.mg() * i64::from(nights),
            comfort_tenth_c: trip.and_then(|trip| trip.comfort),
            low_tenth_c: sheet.list.value.trip.as_ref().map(|trip| trip.low_tenth_c),
            water_ml: trip.map(|trip| trip.held.water_ml),
            heaviest_mg: trip.map_or(sheet.loaded.total, |trip| trip.days.heaviest).mg(),
            comfortable_mg: trip.and_then(|trip| trip.comfortable).map(|mass| mass.mg()),
            cautions,
            list: ListOut::from(sheet.list),
        }
    }
}

impl From<Between> for BetweenOut {
    fn from(Between { cheaper, dearer, more, lighter }: Between) -> BetweenOut {
        BetweenOut { cheaper, dearer, more_minor: more.minor(), lighter_mg: lighter.mg() }
    }
}

/// Sets up to four lists side by side.
#[utoipa::path(get, path = "/api/outfits", tag = "lists", params(OutfitsQuery),
    responses((status = 200, body = OutfitsOut), (status = 404, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[get("/outfits")]
pub async fn get(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    query: Query<OutfitsQuery>,
) -> Result<Json<OutfitsOut>, ProblemDoc> {
    let id = |id: &str| {
        let named = id.trim().parse().map(ListId);
        named.map_err(|_| ServiceError::invalid("lists", "not_an_id", format!("\"{id}\" is not the id of a list.")))
    };
    let ids: Vec<ListId> = query.lists.split(',').map(id).collect::<Result<_, _>>()?;
    let (outfits, between) = app.run(move |services| services.outfits(caller, &ids)).await?;
    Ok(Json(OutfitsOut {
        outfits: outfits.into_iter().map(OutfitOut::from).collect(),
        between: between.into_iter().map(BetweenOut::from).collect(),
    }))
}
