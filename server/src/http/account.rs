//! `/api/account` and `/api/session`.

use super::App;
use super::guard::SignedIn;
use super::problem::ProblemDoc;
use super::visitor::{KNOWN_BY, Peer, cookie_name, is_https, token};
use kevyt_service::account::{MassSystem, Preferences, Settings, Token};

use actix_web::cookie::time::Duration;
use actix_web::cookie::{Cookie, SameSite};
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path};
use actix_web::{HttpRequest, HttpResponse, delete, get, patch, post, put};
use chrono::{DateTime, Utc};
use kevyt_core::quantity::Currency;
use kevyt_service::demo::Demo;
use kevyt_service::fields::Patch;
use kevyt_service::settings::TypedSettings;
use kevyt_service::stored::{LONGEST_DAYS, SessionId};
use kevyt_service::{ServiceError, Services, Write};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How long a browser is known that has signed in.
const KNOWN_DAYS: i64 = 365;

/// A new account.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SignUp {
    /// 3 to 60 characters without spaces; compared without case.
    name: String,
    /// 10 to 200 characters.
    password: String,
    /// Units of mass.
    mass: MassSystem,
    /// ISO 4217 code.
    currency: String,
}

/// A name and a password.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SignIn {
    name: String,
    password: String,
}

/// Who is signed in.
#[derive(Serialize, ToSchema)]
pub struct AccountOut {
    name: String,
    mass: MassSystem,
    /// ISO 4217 code.
    currency: String,
    /// Decimals that amounts in this currency have.
    currency_decimals: usize,
    settings: Settings,
    version: i32,
}

/// New units.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PreferencesIn {
    version: i32,
    mass: MassSystem,
    /// ISO 4217 code; must have as many decimals as the one before.
    currency: String,
    /// Those of now unless given.
    settings: Option<Settings>,
    /// What the walker weighs, as typed, in the place of what the settings have; a bare number is in kilograms or pounds.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    body: Patch<String>,
    /// The classes of base weight, as typed, in the place of what the settings have.
    classes: Option<[String; 3]>,
    /// The most money to spend over all lists of the coming twelve months, as typed; null for no limit.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    year_budget: Patch<String>,
}

/// A new password.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PasswordIn {
    old_password: String,
    new_password: String,
}

/// Makes an account and signs in.
#[utoipa::path(post, path = "/api/account", tag = "account", request_body = SignUp,
    responses((status = 201), (status = 422, body = ProblemDoc)))]
#[post("/account")]
pub async fn sign_up(
    app: Data<App>,
    request: HttpRequest,
    Peer(visitor): Peer,
    body: Json<SignUp>,
) -> Result<HttpResponse, ProblemDoc> {
    let body = body.into_inner();
    let preferences = preferences(body.mass, &body.currency)?;
    let sign_up = move |services: &Services| services.sign_up(&visitor, &body.name, &body.password, preferences);
    let token = app.run_hashing(sign_up).await?;
    entered(&app, &request, token).await
}

/// The answer to who has come in: the session, and what the browser is known by from now on.
async fn entered(app: &App, request: &HttpRequest, token: Token) -> Result<HttpResponse, ProblemDoc> {
    let signed_in = token.clone();
    let known_by = app.run(move |services| services.known_by(&signed_in)).await?;
    let known_by = Cookie::build(KNOWN_BY, known_by)
        .path("/api/session")
        .http_only(true)
        .same_site(SameSite::Strict)
        .secure(is_https(request))
        .max_age(Duration::days(KNOWN_DAYS))
        .finish();
    Ok(HttpResponse::Created().cookie(known_by).cookie(cookie(request, token.as_str())).finish())
}

/// Who is signed in.
#[utoipa::path(get, path = "/api/account", tag = "account", responses((status = 200, body = AccountOut), (status = 401, body = ProblemDoc)))]
#[get("/account")]
pub async fn get(app: Data<App>, SignedIn(caller): SignedIn) -> Result<Json<AccountOut>, ProblemDoc> {
    let account = app.run(move |services| services.account(caller)).await?;
    let preferences = account.value.preferences;
    Ok(Json(AccountOut {
        name: account.value.name,
        mass: preferences.mass,
        currency: preferences.currency.code().to_owned(),
        currency_decimals: preferences.currency.decimals(),
        settings: account.value.settings,
        version: account.version,
    }))
}

/// Changes units.
#[utoipa::path(patch, path = "/api/account", tag = "account", request_body = PreferencesIn,
    responses((status = 204), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/account")]
pub async fn set_preferences(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    body: Json<PreferencesIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let body = body.into_inner();
    let preferences = preferences(body.mass, &body.currency)?;
    let typed = TypedSettings { body: body.body, classes: body.classes, year_budget: body.year_budget };
    let set = move |w: &mut Write<'_>| w.set_preferences(body.version, preferences, body.settings, &typed);
    app.write(caller, StatusCode::NO_CONTENT, set, |()| ()).await
}

/// Changes the password, ends all sessions and begins a new one.
#[utoipa::path(put, path = "/api/account/password", tag = "account", request_body = PasswordIn,
    responses((status = 204), (status = 422, body = ProblemDoc), (status = 429, body = ProblemDoc)))]
#[put("/account/password")]
pub async fn set_password(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    request: HttpRequest,
    Peer(visitor): Peer,
    body: Json<PasswordIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let PasswordIn { old_password, new_password } = body.into_inner();
    let set = move |services: &Services| services.set_password(caller, &visitor, &old_password, &new_password);
    let token = app.run_hashing(set).await?;
    Ok(HttpResponse::NoContent().cookie(cookie(&request, token.as_str())).finish())
}

/// The password once more, for what can't be undone.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RemoveIn {
    password: String,
}

/// Removes the account with everything in it. Nothing of it can be undone.
#[utoipa::path(delete, path = "/api/account", tag = "account", request_body = RemoveIn,
    responses((status = 204), (status = 422, body = ProblemDoc), (status = 429, body = ProblemDoc)))]
#[delete("/account")]
pub async fn remove(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    request: HttpRequest,
    body: Json<RemoveIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let RemoveIn { password } = body.into_inner();
    app.run_hashing(move |services| services.remove_own_account(caller, &password)).await?;
    Ok(HttpResponse::NoContent().cookie(gone(&request)).finish())
}

/// Signs in.
#[utoipa::path(post, path = "/api/session", tag = "account", request_body = SignIn,
    responses((status = 201), (status = 401, body = ProblemDoc), (status = 429, body = ProblemDoc)))]
#[post("/session")]
pub async fn sign_in(
    app: Data<App>,
    request: HttpRequest,
    Peer(visitor): Peer,
    body: Json<SignIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let SignIn { name, password } = body.into_inner();
    let (known, sought) = (visitor.clone(), name.clone());
    let delay = app.run(move |services| services.sign_in_delay(&known, &sought)).await?;
    if delay > std::time::Duration::ZERO {
        app.wait_to_sign_in(&name, delay).await?;
    }
    let token = app.run_hashing(move |services| services.sign_in(&visitor, &name, &password)).await?;
    entered(&app, &request, token).await
}

/// A session of the account.
#[derive(Serialize, ToSchema)]
pub struct SessionOut {
    id: SessionId,
    /// What the browser called itself.
    device: String,
    /// When it was begun (UTC).
    #[schema(value_type = String)]
    started_at: DateTime<Utc>,
    /// When it was used last, to some minutes (UTC).
    #[schema(value_type = String)]
    seen_at: DateTime<Utc>,
    /// Whether it is the one that asks.
    here: bool,
}

/// The account's sessions, the one used last first.
#[utoipa::path(get, path = "/api/sessions", tag = "account", responses((status = 200, body = Vec<SessionOut>)))]
#[get("/sessions")]
pub async fn sessions(app: Data<App>, SignedIn(caller): SignedIn) -> Result<Json<Vec<SessionOut>>, ProblemDoc> {
    let sessions = app.run(move |services| services.sessions(caller)).await?;
    let out = sessions.into_iter().map(|session| SessionOut {
        here: session.id == caller.session,
        id: session.id,
        device: session.device,
        started_at: session.started_at.and_utc(),
        seen_at: session.seen_at.and_utc(),
    });
    Ok(Json(out.collect()))
}

/// Ends one session of the account.
#[utoipa::path(delete, path = "/api/sessions/{id}", tag = "account", responses((status = 204), (status = 404, body = ProblemDoc)))]
#[delete("/sessions/{id}")]
pub async fn end_session(
    app: Data<App>,
    SignedIn(caller): SignedIn,
    id: Path<SessionId>,
) -> Result<HttpResponse, ProblemDoc> {
    app.run(move |services| services.end_session(caller, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Signs out. Nobody signed in is signed out too.
#[utoipa::path(delete, path = "/api/session", tag = "account", responses((status = 204)))]
#[delete("/session")]
pub async fn sign_out(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, ProblemDoc> {
    if let Some(token) = token(&request) {
        app.run(move |services| services.sign_out(&token)).await?;
    }
    Ok(HttpResponse::NoContent().cookie(gone(&request)).finish())
}

/// Takes the cookie away.
fn gone(request: &HttpRequest) -> Cookie<'static> {
    let mut gone = cookie(request, "");
    gone.make_removal();
    gone
}

/// Which demo.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DemoIn {
    demo: Demo,
}

/// Enters a demo account, where this server has one.
#[utoipa::path(post, path = "/api/session/demo", tag = "account", request_body = DemoIn, responses((status = 201), (status = 404, body = ProblemDoc)))]
#[post("/session/demo")]
pub async fn enter_demo(
    app: Data<App>,
    request: HttpRequest,
    Peer(visitor): Peer,
    body: Json<DemoIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let token = app.run(move |services| services.enter_demo(&visitor, body.demo)).await?;
    Ok(HttpResponse::Created().cookie(cookie(&request, token.as_str())).finish())
}

fn preferences(mass: MassSystem, currency: &str) -> Result<Preferences, ProblemDoc> {
    let found = Currency::from_code(currency).ok_or_else(|| {
        let detail = format!("\"{currency}\" is not a currency. Type an ISO 4217 code such as EUR or USD.");
        ServiceError::invalid("currency", "unknown_currency", detail)
    })?;
    Ok(Preferences { mass, currency: found })
}

fn cookie(request: &HttpRequest, token: &str) -> Cookie<'static> {
    let secure = is_https(request);
    Cookie::build(cookie_name(secure), token.to_owned())
        .path("/")
        .http_only(true)
        .same_site(SameSite::Lax)
        .secure(secure)
        .max_age(Duration::days(LONGEST_DAYS))
        .finish()
}
