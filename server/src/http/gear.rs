//! `/api/gear`.

use super::problem::ProblemDoc;
use super::wire::{
    JobAmounts, PageQuery, Source, VersionQuery, WeightOut, changed, job_amounts, read_patch, read_some_jobs,
};
use super::{App, Caller};
use crate::service::gear::{BulkChange, GearChange, Patch};
use crate::store::Stored;
use crate::store::id::{GearId, ListId};
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query};
use actix_web::{HttpResponse, delete, get, patch, post};
use kevyt_core::exchange::Read;
use kevyt_core::gear::{Acquired, Gear, Job, JobUnit, Jobs, KnownJob, Makers, Status, System, WeightSource, known_job};
use kevyt_core::quantity::{Energy, Mass, MassStyle, Money, Units, Vessel, Volume};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A thing that somebody owns.
#[derive(Serialize, ToSchema)]
#[schema(as = Gear)]
pub struct GearOut {
    id: GearId,
    version: i32,
    name: String,
    /// The key of its system.
    system: String,
    /// Pieces owned.
    count: u32,
    /// What one piece weighs; null if unknown.
    weight: Option<WeightOut>,
    /// The maker's figure for one piece, in milligrams, and as typed.
    #[serde(skip_serializing_if = "Option::is_none")]
    claimed: Option<ClaimOut>,
    /// What one piece cost, in minor units: the lower end of a range, or the price.
    #[serde(skip_serializing_if = "Option::is_none")]
    paid_low_minor: Option<i64>,
    /// The upper end of the range; the same as the lower for a price.
    #[serde(skip_serializing_if = "Option::is_none")]
    paid_high_minor: Option<i64>,
    acquired: AcquiredWord,
    status: StatusWord,
    /// Where it is kept.
    #[serde(skip_serializing_if = "String::is_empty")]
    kept_at: String,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    tags: Vec<String>,
    /// Nights of use.
    nights: u32,
    /// What a night of use has cost so far, in minor units; absent without a price or a night.
    #[serde(skip_serializing_if = "Option::is_none")]
    night_minor: Option<i64>,
    /// What one piece would bring, in minor units.
    #[serde(skip_serializing_if = "Option::is_none")]
    resale_minor: Option<i64>,
    provides: JobAmounts,
    needs: JobAmounts,
}

/// A maker's figure.
#[derive(Serialize, ToSchema)]
pub struct ClaimOut {
    unit_mg: i64,
    typed: String,
}

/// One page of gear.
#[derive(Serialize, ToSchema)]
pub struct GearPage {
    items: Vec<GearOut>,
    /// Things in all.
    total: i64,
    makers: MakersOut,
}

/// How makers' figures have compared with the account's scale: (weighed − claimed) / claimed in millionths.
#[derive(Serialize, ToSchema)]
pub struct MakersOut {
    /// Every pair's, lightest first.
    errors: Vec<i64>,
    median: Option<i64>,
    /// Whether there are enough pairs for the account's own range.
    own: bool,
    /// From where a maker's figure may be off.
    low: i64,
    /// To where.
    high: i64,
}

impl From<&Makers> for MakersOut {
    fn from(makers: &Makers) -> MakersOut {
        let (low, high) = makers.range();
        MakersOut { errors: makers.errors().to_vec(), median: makers.median(), own: makers.is_own(), low, high }
    }
}

/// How a thing was come by.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum AcquiredWord {
    New,
    Used,
    Sale,
    Gift,
    /// Made; the price is that of the material.
    Made,
}

/// What has become of a thing.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum StatusWord {
    Owned,
    Lent,
    ForSale,
    Sold,
    WornOut,
    Wished,
}

/// Converts between the words of the wire and core's.
macro_rules! same_words {
    ($wire:ident $core:ident: $($variant:ident),*) => {
        impl From<$wire> for $core {
            fn from(word: $wire) -> $core {
                match word { $($wire::$variant => $core::$variant,)* }
            }
        }
        impl From<$core> for $wire {
            fn from(word: $core) -> $wire {
                match word { $($core::$variant => $wire::$variant,)* }
            }
        }
    };
}

same_words!(AcquiredWord Acquired: New, Used, Sale, Gift, Made);
same_words!(StatusWord Status: Owned, Lent, ForSale, Sold, WornOut, Wished);

/// A change of several things at once, all or none. Absent fields stay.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BulkIn {
    /// The things, each with the version it was read at.
    things: Vec<ThingIn>,
    system: Option<String>,
    status: Option<StatusWord>,
    /// Tags to add, as typed.
    add_tags: Option<String>,
    /// Tags to take off, as typed.
    remove_tags: Option<String>,
    kept_at: Option<String>,
    /// Whether they go.
    #[serde(default)]
    remove: bool,
}

/// A thing and the version it was read at.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ThingIn {
    id: GearId,
    version: i32,
}

/// How many things were changed.
#[derive(Serialize, ToSchema)]
pub struct BulkOut {
    changed: usize,
}

/// A change of a thing: absent fields stay, null clears.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GearIn {
    name: Option<String>,
    system: Option<String>,
    count: Option<u32>,
    /// As typed; a bare number is in the account's unit.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    weight: Patch<String>,
    source: Option<Source>,
    /// The maker's figure, as typed.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    claimed: Patch<String>,
    acquired: Option<AcquiredWord>,
    status: Option<StatusWord>,
    kept_at: Option<String>,
    /// Parted by commas or spaces.
    tags: Option<String>,
    nights: Option<u32>,
    /// A figure or a range, as typed.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    paid: Patch<String>,
    /// As typed.
    #[serde(default, deserialize_with = "read_patch")]
    #[schema(value_type = Option<String>)]
    resale: Patch<String>,
    #[serde(default, deserialize_with = "read_some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    provides: Option<Jobs>,
    #[serde(default, deserialize_with = "read_some_jobs")]
    #[schema(value_type = Option<JobAmounts>)]
    needs: Option<Jobs>,
}

/// A quick line.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LineIn {
    /// At most 400 characters.
    line: String,
    /// The list that the thing is put on, carried.
    list: Option<ListId>,
}

/// A quick line as it was understood.
#[derive(Serialize, ToSchema)]
pub struct LineOut {
    chips: Vec<ChipOut>,
    /// Whether it can be added as it stands.
    ready: bool,
}

/// A stretch of a quick line.
#[derive(Serialize, ToSchema)]
pub struct ChipOut {
    text: String,
    /// name, count, mass, price, gift, system, job or refused.
    kind: &'static str,
    /// What it was read as, or why it was refused.
    meaning: String,
}

/// One page of gear, by system and name.
#[utoipa::path(get, path = "/api/gear", tag = "gear", params(PageQuery), responses((status = 200, body = GearPage)))]
#[get("/gear")]
pub async fn page(app: Data<App>, caller: Caller, query: Query<PageQuery>) -> Result<Json<GearPage>, ProblemDoc> {
    let page = app.run(move |services| services.gear_page(caller, query.page())).await?;
    let items = page.things.into_iter().map(GearOut::from).collect();
    Ok(Json(GearPage { items, total: page.total, makers: MakersOut::from(&page.makers) }))
}

/// Adds a thing.
#[utoipa::path(post, path = "/api/gear", tag = "gear", request_body = GearIn,
    responses((status = 201, body = GearOut), (status = 422, body = ProblemDoc)))]
#[post("/gear")]
pub async fn add(app: Data<App>, caller: Caller, body: Json<GearIn>) -> Result<HttpResponse, ProblemDoc> {
    let asked = change_of(body.into_inner())?;
    let name = asked.name.clone().unwrap_or_default();
    let added = app.run(move |services| services.add_gear(caller, &name, &asked)).await?;
    Ok(changed(StatusCode::CREATED, added, GearOut::from))
}

/// Reads a quick line without adding anything.
#[utoipa::path(post, path = "/api/gear/read", tag = "gear", request_body = LineIn, responses((status = 200, body = LineOut)))]
#[post("/gear/read")]
pub async fn read_line(app: Data<App>, caller: Caller, body: Json<LineIn>) -> Result<Json<LineOut>, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let read = app.services.read_quick_line(caller, &line);
    let currency = caller.preferences.currency;
    let weight = read.weight.as_ref().map(|weight| {
        let said = match weight.source {
            WeightSource::Weighed | WeightSource::Derived => "weighed",
            WeightSource::Maker => "maker's figure",
            WeightSource::Estimate => "a guess",
        };
        format!("{}, {said}", weight.unit.format(MassStyle::TableG))
    });
    let price = read.price.map(|price| match (price.low(), price.high()) {
        (low, high) if low == high => low.format(currency),
        (low, high) => format!(
            "{} to {}, counted as {}",
            low.format(currency),
            high.format(currency),
            price.expected().format(currency)
        ),
    });
    let job = |text: &str| {
        let key = text.trim_start_matches('!').split('=').next().unwrap_or_default();
        let job = Job::new(key).and_then(|job| Some((known_job(&job)?, read.provides.get(&job).copied()?)));
        job.map_or_else(String::new, |(known, amount)| job_said(known, amount))
    };
    let chips = read.chips.iter().map(|chip| {
        let (kind, meaning) = match &chip.read {
            Read::Name => ("name", chip.text.clone()),
            Read::Count => ("count", format!("{} pieces", read.count)),
            Read::Mass => ("mass", weight.clone().unwrap_or_default()),
            Read::Price => ("price", price.clone().unwrap_or_default()),
            Read::Gift => ("gift", "a gift, cost nothing".to_owned()),
            Read::System => ("system", read.system.map_or_else(String::new, |system| system.name().to_owned())),
            Read::Job => ("job", job(&chip.text)),
            Read::Refused(why) => ("refused", why.clone()),
        };
        ChipOut { text: chip.text.clone(), kind, meaning }
    });
    Ok(Json(LineOut { chips: chips.collect(), ready: read.is_ready() }))
}

/// Adds what a quick line says.
#[utoipa::path(post, path = "/api/gear/line", tag = "gear", request_body = LineIn,
    responses((status = 201, body = GearOut), (status = 422, body = ProblemDoc)))]
#[post("/gear/line")]
pub async fn add_line(app: Data<App>, caller: Caller, body: Json<LineIn>) -> Result<HttpResponse, ProblemDoc> {
    let line = line_within_limit(&body.line)?;
    let added = app.run(move |services| services.add_quick_line(caller, &line, body.list)).await?;
    Ok(changed(StatusCode::CREATED, added, GearOut::from))
}

/// One thing.
#[utoipa::path(get, path = "/api/gear/{id}", tag = "gear", responses((status = 200, body = GearOut), (status = 404, body = ProblemDoc)))]
#[get("/gear/{id}")]
pub async fn get(app: Data<App>, caller: Caller, id: Path<GearId>) -> Result<Json<GearOut>, ProblemDoc> {
    Ok(Json(app.run(move |services| services.gear(caller, *id)).await?.into()))
}

/// Changes a thing.
#[utoipa::path(patch, path = "/api/gear/{id}", tag = "gear", params(VersionQuery), request_body = GearIn,
    responses((status = 200, body = GearOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/gear/{id}")]
pub async fn change(
    app: Data<App>,
    caller: Caller,
    id: Path<GearId>,
    query: Query<VersionQuery>,
    body: Json<GearIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let asked = change_of(body.into_inner())?;
    let done = app.run(move |services| services.change_gear(caller, *id, query.version, &asked)).await?;
    Ok(changed(StatusCode::OK, done, GearOut::from))
}

/// Changes or removes several things, all or none.
#[utoipa::path(post, path = "/api/gear/several", tag = "gear", request_body = BulkIn,
    responses((status = 200, body = BulkOut), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[post("/gear/several")]
pub async fn change_several(app: Data<App>, caller: Caller, body: Json<BulkIn>) -> Result<HttpResponse, ProblemDoc> {
    let body = body.into_inner();
    let things: Vec<(GearId, i32)> = body.things.iter().map(|thing| (thing.id, thing.version)).collect();
    let asked = BulkChange {
        system: body.system.map(|key| system(&key)).transpose()?,
        status: body.status.map(Into::into),
        add_tags: body.add_tags,
        remove_tags: body.remove_tags,
        kept_at: body.kept_at,
        remove: body.remove,
    };
    let done = app.run(move |services| services.change_several(caller, &things, &asked)).await?;
    Ok(changed(StatusCode::OK, done, |changed| BulkOut { changed }))
}

/// Removes a thing, with its lines and the swaps that take it off. It can be brought back.
#[utoipa::path(delete, path = "/api/gear/{id}", tag = "gear", params(VersionQuery),
    responses((status = 204), (status = 404, body = ProblemDoc), (status = 409, body = ProblemDoc)))]
#[delete("/gear/{id}")]
pub async fn remove(
    app: Data<App>,
    caller: Caller,
    id: Path<GearId>,
    query: Query<VersionQuery>,
) -> Result<HttpResponse, ProblemDoc> {
    let done = app.run(move |services| services.remove_gear(caller, *id, query.version)).await?;
    Ok(changed(StatusCode::NO_CONTENT, done, |()| ()))
}

/// Brings a removed thing back.
#[utoipa::path(post, path = "/api/gear/{id}/restore", tag = "gear", responses((status = 204), (status = 404, body = ProblemDoc)))]
#[post("/gear/{id}/restore")]
pub async fn restore(app: Data<App>, caller: Caller, id: Path<GearId>) -> Result<HttpResponse, ProblemDoc> {
    app.run(move |services| services.restore_gear(caller, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

fn change_of(body: GearIn) -> Result<GearChange, ProblemDoc> {
    let system = body.system.map(|key| system(&key)).transpose()?;
    Ok(GearChange {
        name: body.name,
        system,
        count: body.count,
        weight: body.weight,
        source: source_asked(body.source)?,
        claimed: body.claimed,
        acquired: body.acquired.map(Into::into),
        status: body.status.map(Into::into),
        kept_at: body.kept_at,
        tags: body.tags,
        nights: body.nights,
        paid: body.paid,
        resale: body.resale,
        provides: body.provides,
        needs: body.needs,
    })
}

/// A derived figure is worked out, never said.
fn source_asked(source: Option<Source>) -> Result<Option<WeightSource>, ProblemDoc> {
    if source == Some(Source::Derived) {
        let detail = "A derived weight comes from a weighed kit. Say weighed, maker or estimate.";
        return Err(crate::service::ServiceError::invalid("source", "derived", detail).into());
    }
    Ok(source.map(Into::into))
}

/// An amount of a job in words: `light`, `2 × shelter pole`, `water carried 1.0 l`.
fn job_said(known: &KnownJob, amount: i64) -> String {
    let name = known.name;
    match known.unit {
        JobUnit::Count if amount == 1 => name.to_owned(),
        JobUnit::Count => format!("{amount} × {name}"),
        JobUnit::TenthsOfR => format!("{name} R {}.{}", amount / 10, amount % 10),
        JobUnit::Ml => format!("{name} {}", Volume::from_ml(amount).format(Units::Metric, Vessel::Bottle)),
        JobUnit::G => format!("{name} {}", Mass::from_mg(amount.saturating_mul(1_000)).format(MassStyle::TotalKg)),
        JobUnit::Mwh => format!("{name} {}", Energy::from_mwh(amount).format()),
    }
}

fn system(key: &str) -> Result<System, ProblemDoc> {
    System::ALL.iter().copied().find(|system| system.key() == key).ok_or_else(|| {
        let keys: Vec<&str> = System::ALL.iter().map(|system| system.key()).collect();
        let detail = format!("\"{key}\" is not a system. Systems: {}.", keys.join(", "));
        crate::service::ServiceError::invalid("system", "unknown_system", detail).into()
    })
}

fn line_within_limit(line: &str) -> Result<String, ProblemDoc> {
    if line.chars().count() <= 400 {
        return Ok(line.to_owned());
    }
    Err(crate::service::ServiceError::invalid("line", "too_long", "The line is too long. Type at most 400 characters.")
        .into())
}

impl From<Stored<GearId, Gear>> for GearOut {
    fn from(stored: Stored<GearId, Gear>) -> GearOut {
        let gear = stored.value;
        GearOut {
            id: stored.id,
            version: stored.version,
            name: gear.name.as_str().to_owned(),
            system: gear.system.key().to_owned(),
            count: gear.count,
            weight: gear.weight.as_ref().map(WeightOut::from),
            night_minor: gear.cost_per_night().map(Money::minor),
            claimed: gear.claimed.map(|claim| ClaimOut { unit_mg: claim.unit.mg(), typed: claim.typed }),
            paid_low_minor: gear.paid.map(|paid| paid.low().minor()),
            paid_high_minor: gear.paid.map(|paid| paid.high().minor()),
            acquired: gear.acquired.into(),
            status: gear.status.into(),
            kept_at: gear.kept_at,
            tags: gear.tags.words().to_vec(),
            nights: gear.nights,
            resale_minor: gear.resale.map(Money::minor),
            provides: job_amounts(&gear.provides),
            needs: job_amounts(&gear.needs),
        }
    }
}
