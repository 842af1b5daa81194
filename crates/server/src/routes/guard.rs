//! What every request passes: whose it is, how large and how slow it may be, and what browsers are told about every answer.

use std::net::{IpAddr, Ipv4Addr};
use std::time::Duration;

use actix_web::body::{BoxBody, MessageBody};
use actix_web::cookie::{Cookie, SameSite, time};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::http::Method;
use actix_web::http::header::{HOST, HeaderName, HeaderValue, ORIGIN, STRICT_TRANSPORT_SECURITY};
use actix_web::middleware::Next;
use actix_web::rt::time::timeout;
use actix_web::web::{BytesMut, Data, Json, ServiceConfig, get, post};
use actix_web::{Error, HttpMessage, HttpRequest, HttpResponse, ResponseError};
use futures_util::StreamExt;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::resource;
use crate::app::{App, off_thread};
use crate::door::{Door, Refused, SESSION};
use crate::error::{ApiError, Problem};

/// Largest body accepted, bytes: a shelf of thousands of discs as CSV, and a whole backup.
const LARGEST_BODY: usize = 4 << 20;
const LARGEST_BACKUP: usize = 64 << 20;
/// Where everything comes in at once.
const WHOLE: [&str; 4] = ["/api/data/preview", "/api/data/restore", "/api/records/preview", "/api/records"];
/// How long a body may take to come.
const BODY_TIME: Duration = Duration::from_secs(10);

const SESSION_COOKIE: &str = "zinc-kite-session";

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
    config.service(resource(
        "/api/session",
        "GET, POST, DELETE",
        [get().to(session), post().to(enter), actix_web::web::delete().to(leave)],
    ));
}

/// Lets a request in or answers why not.
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
    let checked = match checked(&door, &request) {
        Ok(()) => read(&mut request).await,
        refused => refused,
    };
    let mut response = match checked {
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

fn checked(door: &Door, request: &ServiceRequest) -> Result<(), ApiError> {
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
    let open = ["/api/session", "/api/health"].contains(&request.path());
    if request.path().starts_with("/api/") && !open && !door.admits(session_of(request.request()).as_deref())
    {
        return Err(ApiError::LoggedOut);
    }
    Ok(())
}

/// Reads the body here, so that every route has the same limits.
async fn read(request: &mut ServiceRequest) -> Result<(), ApiError> {
    let limit = if WHOLE.contains(&request.path()) { LARGEST_BACKUP } else { LARGEST_BODY };
    let mut coming = request.take_payload();
    let mut body = BytesMut::new();
    let whole = async {
        while let Some(chunk) = coming.next().await {
            let chunk = chunk.map_err(|e| ApiError::Unreadable { detail: e.to_string() })?;
            if body.len() + chunk.len() > limit {
                return Err(ApiError::TooLarge { limit });
            }
            body.extend_from_slice(&chunk);
        }
        Ok(())
    };
    timeout(BODY_TIME, whole).await.map_err(|_| ApiError::TooSlow { limit_s: BODY_TIME.as_secs() })??;
    request.set_payload(Payload::from(body.freeze()));
    Ok(())
}

fn session_of(request: &HttpRequest) -> Option<String> {
    request.cookie(SESSION_COOKIE).map(|c| c.value().to_owned())
}

fn cookie(door: &Door, session: String, lasts: time::Duration) -> Cookie<'static> {
    Cookie::build(SESSION_COOKIE, session)
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
#[derive(Debug, Deserialize, ToSchema)]
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
    given: Json<Password>,
) -> Result<HttpResponse, ApiError> {
    let from = request.peer_addr().map_or(IpAddr::V4(Ipv4Addr::LOCALHOST), |address| address.ip());
    let (opened, trying) = (door.clone(), given.into_inner());
    let session = off_thread(&app, move |_| {
        opened.enter(&trying.password, from).map_err(|refused| match refused {
            Refused::Wrong => ApiError::WrongPassword,
            Refused::TooOften { wait_s } => ApiError::TooOften { wait_s },
        })
    })
    .await?;
    let lasts = time::Duration::try_from(SESSION).unwrap_or(time::Duration::DAY);
    Ok(HttpResponse::Ok()
        .cookie(cookie(&door, session, lasts))
        .json(Session { locked: true, admitted: true }))
}

#[utoipa::path(delete, path = "/api/session", operation_id = "log_out", responses(
    (status = 204), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn leave(door: Data<Door>, request: HttpRequest) -> HttpResponse {
    if let Some(session) = session_of(&request) {
        door.leave(&session);
    }
    HttpResponse::NoContent().cookie(cookie(&door, String::new(), time::Duration::ZERO)).finish()
}
