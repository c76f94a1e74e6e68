//! Where a request comes from, behind whatever proxies stand before the server.

use super::problem::ProblemDoc;
use actix_web::dev::Payload;
use actix_web::http::header::USER_AGENT;
use actix_web::web::Data;
use actix_web::{FromRequest, HttpRequest};
use ipnet::IpNet;
use kevyt_service::accounts::Visitor;
use std::future::{Ready, ready};
use std::net::IpAddr;

/// The cookie that says that a browser has signed in before.
pub const KNOWN_BY: &str = "kevyt_known";

/// The cookie that holds the session token. Over https its name makes browsers refuse it from anybody but this very host.
pub fn cookie_name(https: bool) -> &'static str {
    if https { "__Host-kevyt_session" } else { "kevyt_session" }
}

/// Whether a request travelled over https.
pub fn is_https(request: &HttpRequest) -> bool {
    request.app_data::<Data<Place>>().is_some_and(|place| place.is_https(request))
}

/// The session token of a request.
pub fn token(request: &HttpRequest) -> Option<String> {
    request.cookie(cookie_name(is_https(request))).map(|cookie| cookie.value().to_owned())
}

/// What the server knows of its own place in the world.
#[derive(Debug, Clone, Default)]
pub struct Place {
    /// Proxies whose word is taken for where a request comes from.
    pub trusted_proxies: Vec<IpNet>,
    /// Whether people reach it over https only: its public address says so.
    pub https: bool,
}

impl Place {
    fn trusts(&self, address: IpAddr) -> bool {
        self.trusted_proxies.iter().any(|net| net.contains(&address))
    }

    /// The address that a request comes from: the peer's, or if that is a trusted proxy, the last address that it and other trusted
    /// ones were passed (`X-Forwarded-For`, appended to by each).
    pub fn address(&self, peer: Option<IpAddr>, forwarded: &str) -> Option<IpAddr> {
        let mut address = peer?;
        let mut passed = forwarded.rsplit(',').map(|text| text.trim().parse::<IpAddr>());
        while self.trusts(address) {
            match passed.next() {
                Some(Ok(before)) => address = before,
                // Nothing more is said, or nothing that can be read: what is trusted so far.
                _ => break,
            }
        }
        Some(address)
    }

    /// Whether a request travelled over https.
    pub fn is_https(&self, request: &HttpRequest) -> bool {
        let forwarded = || header(request, "x-forwarded-proto").eq_ignore_ascii_case("https");
        self.https || (request.peer_addr().is_some_and(|peer| self.trusts(peer.ip())) && forwarded())
    }
}

fn header<'r>(request: &'r HttpRequest, name: &str) -> &'r str {
    request.headers().get(name).and_then(|value| value.to_str().ok()).unwrap_or_default()
}

/// What tries are counted by: an address, or of a long one the half that a household has.
pub fn counted(address: IpAddr) -> String {
    match address.to_canonical() {
        IpAddr::V4(address) => address.to_string(),
        IpAddr::V6(address) => {
            let [a, b, c, d, ..] = address.segments();
            format!("{a:x}:{b:x}:{c:x}:{d:x}::/64")
        }
    }
}

/// Where a request comes from, signed in or not.
pub struct Peer(pub Visitor);

impl FromRequest for Peer {
    type Error = ProblemDoc;
    type Future = Ready<Result<Peer, ProblemDoc>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let Some(place) = request.app_data::<Data<Place>>() else {
            return ready(Err(ProblemDoc::internal("no place")));
        };
        let peer = request.peer_addr().map(|peer| peer.ip());
        let address = place.address(peer, header(request, "x-forwarded-for"));
        ready(Ok(Peer(Visitor {
            address: address.map_or_else(String::new, counted),
            device: header(request, USER_AGENT.as_str()).to_owned(),
            token: token(request),
            known_by: request.cookie(KNOWN_BY).map(|cookie| cookie.value().to_owned()),
        })))
    }
}
