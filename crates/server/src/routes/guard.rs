//! What every request passes: which site it is from, whose it is, and what browsers are told about every answer.

use std::net::{IpAddr, Ipv4Addr, SocketAddr};

use actix_web::body::{BoxBody, MessageBody};
use actix_web::cookie::{Cookie, SameSite, time};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::Method;
use actix_web::http::header::{HOST, HeaderName, HeaderValue, ORIGIN, STRICT_TRANSPORT_SECURITY};
use actix_web::middleware::Next;
use actix_web::web::{Data, Json, ServiceConfig, get, post};
use actix_web::{Error, HttpRequest, HttpResponse, ResponseError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::body::{Sent, Takes, read};
use super::open_resource;
use crate::app::{App, off_thread};
use crate::door::{Door, KNOWN, Refused, SESSION};
use crate::error::{ApiError, Problem};

const SESSION_COOKIE: &str = "zinc-kite-session";
/// By which a browser is known after it has logged out. It opens nothing.
const KNOWN_COOKIE: &str = "zinc-kite-known";

/// What browsers are told about every answer: nothing is loaded from or shown in another site, and nothing runs that is not a
/// file of this program.
const TOLD: [(&str, &str); 6] = [
    (
        "content-security-policy",
        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; \
         worker-src 'self'; manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
    ),
    ("x-content-type-options", "nosniff"),
    ("referrer-policy", "no-referrer"),
    ("permissions-policy", "camera=(), geolocation=(), microphone=(), payment=(), usb=()"),
    ("cross-origin-opener-policy", "same-origin"),
    ("cross-origin-resource-policy", "same-origin"),
];

pub(super) fn configure(config: &mut ServiceConfig) {
    config.service(open_resource(
        "/api/session",
        "GET, POST, DELETE",
        [get().to(session), post().to(enter), actix_web::web::delete().to(leave)],
    ));
}

/// Lets a request of this site in, or answers why not.
///
/// # Errors
/// Those of the service.
pub async fn guard(
    door: Data<Door>,
    mut request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    // Whoever takes GET takes HEAD; what carries the answer leaves its body out.
    if request.method() == Method::HEAD {
        request.head_mut().method = Method::GET;
    }
    let mut response = match from_here(&door, &request) {
        Ok(()) => next.call(request).await?.map_into_boxed_body(),
        Err(refused) => request.into_response(refused.error_response()),
    };
    let headers = response.headers_mut();
    for (name, value) in TOLD {
        headers.insert(HeaderName::from_static(name), HeaderValue::from_static(value));
    }
    if door.https {
        headers.insert(STRICT_TRANSPORT_SECURITY, HeaderValue::from_static("max-age=31536000"));
    }
    Ok(response)
}

fn from_here(door: &Door, request: &ServiceRequest) -> Result<(), ApiError> {
    let header = |name: &str| request.headers().get(name).and_then(|v| v.to_str().ok());
    let host = header(HOST.as_str()).or(request.uri().authority().map(|a| a.as_str())).unwrap_or_default();
    if !door.answers_to(host) {
        return Err(ApiError::Host { host: host.to_owned() });
    }
    if let Some(origin) = header(ORIGIN.as_str()) {
        let same =
            origin.split_once("://").is_some_and(|(_, authority)| authority.eq_ignore_ascii_case(host));
        if !same {
            return Err(ApiError::Origin { origin: origin.to_owned() });
        }
    }
    // A browser that sends no origin with a change still says that it comes from elsewhere.
    let reads = request.method() == Method::GET;
    if let Some(site) = header("sec-fetch-site").filter(|s| !reads && !matches!(*s, "same-origin" | "none")) {
        return Err(ApiError::Origin { origin: site.to_owned() });
    }
    Ok(())
}

/// Whom a resource answers.
#[derive(Clone, Copy)]
pub(super) enum Answers {
    /// Whoever asks.
    Anyone,
    /// Who has logged in, where a password is asked for; they may send so much.
    Admitted(Takes),
}

/// Lets a request through to the resource that was matched, or answers why not. It stands at the resource and not before the
/// router: only the router knows which resource an address means, however it is written.
///
/// # Errors
/// Those of the service.
pub(super) async fn at_resource(
    answers: Answers,
    mut request: ServiceRequest,
    next: Next<BoxBody>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    match let_in(answers, &mut request).await {
        Ok(()) => next.call(request).await,
        Err(refused) => Ok(request.into_response(refused.error_response())),
    }
}

async fn let_in(answers: Answers, request: &mut ServiceRequest) -> Result<(), ApiError> {
    let takes = match answers {
        Answers::Anyone => Takes::Little,
        Answers::Admitted(takes) => {
            // Closed where nothing says who may come in.
            let door = request.app_data::<Data<Door>>().ok_or(ApiError::LoggedOut)?;
            if !door.admits(session_of(request.request()).as_deref()) {
                return Err(ApiError::LoggedOut);
            }
            takes
        }
    };
    read(request, takes).await
}

fn session_of(request: &HttpRequest) -> Option<String> {
    request.cookie(SESSION_COOKIE).map(|c| c.value().to_owned())
}

fn cookie(door: &Door, name: &'static str, value: String, lasts: time::Duration) -> Cookie<'static> {
    Cookie::build(name, value)
        .path("/")
        .http_only(true)
        .same_site(SameSite::Strict)
        .secure(door.https)
        .max_age(lasts)
        .finish()
}

/// Whether a password is asked for, and whether it was given.
#[derive(Debug, Serialize, ToSchema)]
pub struct Session {
    /// Whether this program asks for a password.
    locked: bool,
    /// Whether this browser may come in.
    admitted: bool,
}

#[utoipa::path(get, path = "/api/session", operation_id = "get_session", responses(
    (status = 200, body = Session), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn session(door: Data<Door>, request: HttpRequest) -> Json<Session> {
    Json(Session { locked: door.is_locked(), admitted: door.admits(session_of(&request).as_deref()) })
}

/// What opens the door.
#[derive(Serialize, Deserialize, ToSchema)]
pub struct Password {
    /// The player's password.
    #[schema(max_length = 256)]
    password: String,
}

#[utoipa::path(post, path = "/api/session", operation_id = "log_in", request_body = Password, responses(
    (status = 200, description = "Logged in; the session is a cookie", body = Session),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn enter(
    app: Data<App>,
    door: Data<Door>,
    request: HttpRequest,
    given: Sent<Password>,
) -> Result<HttpResponse, ApiError> {
    let from = whose(&door, &request);
    let known = request.cookie(KNOWN_COOKIE).map(|c| c.value().to_owned());
    let (opened, trying) = (door.clone(), given.into_inner());
    let entered = off_thread(&app, move |_| {
        opened.enter(&trying.password, from, known.as_deref()).map_err(|refused| match refused {
            Refused::Wrong => ApiError::WrongPassword,
            Refused::TooOften { wait_s } => ApiError::TooOften { wait_s },
        })
    })
    .await?;
    let lasting = |time| time::Duration::try_from(time).unwrap_or(time::Duration::DAY);
    Ok(HttpResponse::Ok()
        .cookie(cookie(&door, SESSION_COOKIE, entered.session, lasting(SESSION)))
        .cookie(cookie(&door, KNOWN_COOKIE, entered.known, lasting(KNOWN)))
        .json(Session { locked: true, admitted: true }))
}

/// Whose request it is. Behind a proxy that is trusted all come from its address; the last one that it names is the one that it saw.
fn whose(door: &Door, request: &HttpRequest) -> IpAddr {
    let peer = request.peer_addr().map_or(IpAddr::V4(Ipv4Addr::LOCALHOST), |address| address.ip());
    let named = || {
        let last = request.headers().get_all("x-forwarded-for").last()?.to_str().ok()?;
        let last = last.rsplit(',').next()?.trim();
        last.parse().ok().or_else(|| last.parse::<SocketAddr>().ok().map(|a| a.ip()))
    };
    if door.behind_proxy { named().unwrap_or(peer) } else { peer }
}

#[utoipa::path(delete, path = "/api/session", operation_id = "log_out", responses(
    (status = 204), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn leave(door: Data<Door>, request: HttpRequest) -> HttpResponse {
    if let Some(session) = session_of(&request) {
        door.leave(&session);
    }
    HttpResponse::NoContent()
        .cookie(cookie(&door, SESSION_COOKIE, String::new(), time::Duration::ZERO))
        .finish()
}
