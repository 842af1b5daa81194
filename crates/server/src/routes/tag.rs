//! Entity tags (RFC 9110 §8.8.3): whoever changes a thing says which version of it they saw, so that two windows never overwrite
//! one another unseen.

use std::future::{Ready, ready};
use std::hash::{DefaultHasher, Hasher};
use std::sync::MutexGuard;

use actix_web::body::{self, BoxBody, MessageBody};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::http::header::{CONTENT_TYPE, ETAG, HeaderValue, IF_MATCH, IF_NONE_MATCH};
use actix_web::http::{Method, StatusCode};
use actix_web::middleware::Next;
use actix_web::{Error, FromRequest, HttpRequest, HttpResponse};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use utoipa::ToSchema;

use super::body::strict;
use crate::app::App;
use crate::error::ApiError;
use crate::store::Store;

/// Header by which a browser window names itself, so that it can tell its own changes from another's.
const WINDOW: &str = "zinc-window";
/// Longest name of a window, bytes.
const LONGEST_WINDOW: usize = 40;

/// A thing with the tag of its version.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Tagged<T> {
    #[serde(flatten)]
    thing: T,
    /// Entity tag of this version: whoever changes the thing sends it as If-Match.
    #[schema(example = "\"9a6c01d2f4b7e813\"")]
    etag: String,
}

impl<T> Tagged<T> {
    /// Without its tag.
    pub fn thing(&self) -> &T {
        &self.thing
    }

    /// Its tag.
    pub fn etag(&self) -> &str {
        &self.etag
    }
}

impl<T: Serialize> Tagged<T> {
    /// Tagged by all there is of it.
    pub fn of(thing: T) -> Tagged<T> {
        Tagged { etag: tag(&thing), thing }
    }

    /// Tagged by what of it can be changed.
    pub fn by(version: &impl Serialize, thing: T) -> Tagged<T> {
        Tagged { etag: tag(version), thing }
    }

    /// As an answer, with its tag as a header too.
    pub fn answer(&self, status: StatusCode) -> HttpResponse {
        HttpResponse::build(status).insert_header((ETAG, self.etag.clone())).json(self)
    }
}

fn tag(version: &impl Serialize) -> String {
    let json =
        serde_json::to_vec(version).unwrap_or_else(|e| unreachable!("only plain data is answered: {e}"));
    tag_of_bytes(&json)
}

fn tag_of_bytes(bytes: &[u8]) -> String {
    let mut hash = DefaultHasher::new();
    hash.write(bytes);
    format!("\"{:016x}\"", hash.finish())
}

/// Who asks for a change, and of which version.
#[derive(Debug)]
pub struct Asked {
    if_match: Option<String>,
    window: Option<String>,
}

impl FromRequest for Asked {
    type Error = Error;
    type Future = Ready<Result<Asked, Error>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let text = |name: &str| {
            let values: Vec<&str> = request.headers().get_all(name).filter_map(|v| v.to_str().ok()).collect();
            (!values.is_empty()).then(|| values.join(","))
        };
        let window = text(WINDOW).filter(|name| name.len() <= LONGEST_WINDOW);
        ready(Ok(Asked { if_match: text(IF_MATCH.as_str()), window }))
    }
}

impl Asked {
    /// The database, told who asks.
    pub fn store<'a>(&self, app: &'a App) -> MutexGuard<'a, Store> {
        let mut store = app.store();
        store.asked_by(self.window.clone());
        store
    }

    /// Whether what is to be changed is what they saw.
    ///
    /// # Errors
    /// [`ApiError::Unconditional`] if they do not say what they saw, [`ApiError::ChangedMeanwhile`] with both versions if it is
    /// not so any more.
    pub fn saw<T: Serialize>(&self, now: &Tagged<T>, yours: &impl Serialize) -> Result<(), ApiError> {
        let Some(seen) = &self.if_match else { return Err(ApiError::Unconditional) };
        if seen.split(',').map(str::trim).any(|tag| tag == "*" || tag == now.etag) {
            return Ok(());
        }
        let json = |value: serde_json::Result<Value>| value.unwrap_or(Value::Null);
        Err(ApiError::ChangedMeanwhile {
            now: json(serde_json::to_value(now)),
            yours: json(serde_json::to_value(yours)),
            etag: now.etag.clone(),
        })
    }
}

/// What was sent laid over what there is: fields that were not sent stay as they are, so that a program that knows fewer of them
/// resets none.
///
/// # Errors
/// [`ApiError::Unreadable`] if that is no thing of the kind.
pub fn laid_over<T: Serialize + DeserializeOwned>(now: &T, sent: Value) -> Result<T, ApiError> {
    let unreadable = |detail: String| ApiError::Unreadable { detail };
    let Value::Object(sent) = sent else {
        return Err(unreadable("a JSON object was expected".into()));
    };
    let mut whole = serde_json::to_value(now).map_err(|e| unreadable(e.to_string()))?;
    if let Value::Object(fields) = &mut whole {
        fields.extend(sent);
    }
    strict(whole)
}

/// Gives every JSON answer to a GET a tag, and answers 304 to who has it already.
///
/// # Errors
/// Those of the service.
pub async fn tagged(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<BoxBody>, Error> {
    let known = request.headers().get(IF_NONE_MATCH).and_then(|v| v.to_str().ok()).map(str::to_owned);
    let reads = request.method() == Method::GET || request.method() == Method::HEAD;
    let response = next.call(request).await?;
    let is_json = response
        .headers()
        .get(CONTENT_TYPE)
        .is_some_and(|kind| kind.as_bytes().starts_with(b"application/json"));
    if !reads || response.status() != StatusCode::OK || !is_json {
        return Ok(response.map_into_boxed_body());
    }
    let (request, response) = response.into_parts();
    let (mut head, content) = response.into_parts();
    let content = body::to_bytes(content).await.map_err(|_| ApiError::Interrupted)?;
    let etag = match head.headers().get(ETAG) {
        Some(tag) => tag.clone(),
        None => HeaderValue::from_str(&tag_of_bytes(&content)).map_err(|_| ApiError::Interrupted)?,
    };
    let has_it =
        known.is_some_and(|known| known.split(',').any(|tag| tag.trim().as_bytes() == etag.as_bytes()));
    head.headers_mut().insert(ETAG, etag);
    if has_it {
        *head.status_mut() = StatusCode::NOT_MODIFIED;
        head.headers_mut().remove(CONTENT_TYPE);
        return Ok(ServiceResponse::new(request, head.set_body(BoxBody::new(()))));
    }
    Ok(ServiceResponse::new(request, head.set_body(BoxBody::new(content))))
}
