//! `/api/account` and `/api/session`.

use super::guard::{COOKIE, token};
use super::problem::ProblemDoc;
use super::{App, Caller};
use crate::account::{MassSystem, Preferences, Token};
use crate::service::ServiceError;
use crate::service::accounts::SESSION_DAYS;
use crate::service::demo::Demo;
use actix_web::cookie::time::Duration;
use actix_web::cookie::{Cookie, SameSite};
use actix_web::web::{Data, Json};
use actix_web::{HttpRequest, HttpResponse, delete, get, patch, post, put};
use kevyt_core::quantity::Currency;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

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
pub async fn sign_up(app: Data<App>, request: HttpRequest, body: Json<SignUp>) -> Result<HttpResponse, ProblemDoc> {
    let body = body.into_inner();
    let preferences = preferences(body.mass, &body.currency)?;
    let token = app.run_heavy(move |services| services.sign_up(&body.name, &body.password, preferences)).await?;
    Ok(HttpResponse::Created().cookie(cookie(&request, &token)).finish())
}

/// Who is signed in.
#[utoipa::path(get, path = "/api/account", tag = "account", responses((status = 200, body = AccountOut), (status = 401, body = ProblemDoc)))]
#[get("/account")]
pub async fn get(app: Data<App>, caller: Caller) -> Result<Json<AccountOut>, ProblemDoc> {
    let account = app.run(move |services| services.account(caller)).await?;
    let preferences = account.value.preferences;
    Ok(Json(AccountOut {
        name: account.value.name,
        mass: preferences.mass,
        currency: preferences.currency.code().to_owned(),
        currency_decimals: preferences.currency.decimals(),
        version: account.version,
    }))
}

/// Changes units.
#[utoipa::path(patch, path = "/api/account", tag = "account", request_body = PreferencesIn,
    responses((status = 204), (status = 409, body = ProblemDoc), (status = 422, body = ProblemDoc)))]
#[patch("/account")]
pub async fn set_preferences(
    app: Data<App>,
    caller: Caller,
    body: Json<PreferencesIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let preferences = preferences(body.mass, &body.currency)?;
    app.run(move |services| services.set_preferences(caller, body.version, preferences)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Changes the password and ends all other sessions.
#[utoipa::path(put, path = "/api/account/password", tag = "account", request_body = PasswordIn,
    responses((status = 204), (status = 422, body = ProblemDoc)))]
#[put("/account/password")]
pub async fn set_password(
    app: Data<App>,
    caller: Caller,
    request: HttpRequest,
    body: Json<PasswordIn>,
) -> Result<HttpResponse, ProblemDoc> {
    let token = token(&request).ok_or_else(ProblemDoc::not_signed_in)?;
    app.run_heavy(move |services| services.set_password(caller, &body.old_password, &body.new_password, &token))
        .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Signs in.
#[utoipa::path(post, path = "/api/session", tag = "account", request_body = SignIn,
    responses((status = 201), (status = 401, body = ProblemDoc), (status = 429, body = ProblemDoc)))]
#[post("/session")]
pub async fn sign_in(app: Data<App>, request: HttpRequest, body: Json<SignIn>) -> Result<HttpResponse, ProblemDoc> {
    let address = request.peer_addr().map_or_else(String::new, |address| address.ip().to_string());
    let token = app.run_heavy(move |services| services.sign_in(&body.name, &body.password, &address)).await?;
    Ok(HttpResponse::Created().cookie(cookie(&request, &token)).finish())
}

/// Signs out. Nobody signed in is signed out too.
#[utoipa::path(delete, path = "/api/session", tag = "account", responses((status = 204)))]
#[delete("/session")]
pub async fn sign_out(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, ProblemDoc> {
    if let Some(token) = token(&request) {
        app.run(move |services| services.sign_out(&token)).await?;
    }
    let mut gone = Cookie::build(COOKIE, "").path("/").finish();
    gone.make_removal();
    Ok(HttpResponse::NoContent().cookie(gone).finish())
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
pub async fn enter_demo(app: Data<App>, request: HttpRequest, body: Json<DemoIn>) -> Result<HttpResponse, ProblemDoc> {
    let token = app.run(move |services| services.enter_demo(body.demo)).await?;
    Ok(HttpResponse::Created().cookie(cookie(&request, &token)).finish())
}

fn preferences(mass: MassSystem, currency: &str) -> Result<Preferences, ProblemDoc> {
    let found = Currency::from_code(currency).ok_or_else(|| {
        let detail = format!("\"{currency}\" is not a currency. Type an ISO 4217 code such as EUR or USD.");
        ServiceError::invalid("currency", "unknown_currency", detail)
    })?;
    Ok(Preferences { mass, currency: found })
}

fn cookie(request: &HttpRequest, token: &Token) -> Cookie<'static> {
    Cookie::build(COOKIE, token.as_str().to_owned())
        .path("/")
        .http_only(true)
        .same_site(SameSite::Lax)
        .secure(request.connection_info().scheme() == "https")
        .max_age(Duration::days(SESSION_DAYS))
        .finish()
}
