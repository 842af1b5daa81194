//! The body of a request: how much of it is read, how fast it must come, and what it says once it is unpacked and parsed.

use std::future::{Ready, ready};
use std::io::{Read, Write};
use std::path::Path;
use std::sync::Arc;
use std::time::{Duration, Instant};

use actix_web::dev::{Payload, ServiceRequest};
use actix_web::http::header::{CONTENT_ENCODING, CONTENT_TYPE};
use actix_web::rt::time::timeout;
use actix_web::web::{Bytes, BytesMut, Data};
use actix_web::{Error, FromRequest, HttpMessage, HttpRequest, web};
use flate2::read::{MultiGzDecoder, ZlibDecoder};
use futures_util::StreamExt;
use futures_util::future::{FutureExt, LocalBoxFuture};
use serde::de::{DeserializeOwned, Error as _};
use serde::{Deserialize, Deserializer, Serialize};
use serde_json::{Number, Value};
use tempfile::NamedTempFile;

use crate::app::App;
use crate::error::ApiError;
use crate::store::StoreError;

/// How much a resource takes.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Takes {
    /// A few fields: all that is read from somebody who has not logged in.
    Little,
    /// A shelf of thousands of discs as CSV.
    Usual,
    /// A whole backup, which is put into a file as it comes: see [`SentFile`].
    Everything,
}

impl Takes {
    /// Largest body, bytes, packed and unpacked.
    fn limit(self) -> usize {
        match self {
            Takes::Little => 4 << 10,
            Takes::Usual => 4 << 20,
            Takes::Everything => 1 << 30,
        }
    }
}

/// How long a body may take to come. A long one has more time: as much as it takes at [`SLOWEST`].
const BODY_TIME: Duration = Duration::from_secs(10);
/// Bytes a second.
const SLOWEST: f64 = 100e3;
/// Bytes that are written to a file at once.
const PIECE: usize = 1 << 20;

/// How a body is packed (RFC 9110 §8.4).
#[derive(Clone, Copy)]
enum Packing {
    None,
    Gzip,
    Deflate,
}

impl Packing {
    fn of(request: &ServiceRequest) -> Result<Packing, ApiError> {
        let Some(said) = request.headers().get(CONTENT_ENCODING) else { return Ok(Packing::None) };
        match said.to_str().unwrap_or_default().trim().to_ascii_lowercase().as_str() {
            "" | "identity" => Ok(Packing::None),
            "gzip" | "x-gzip" => Ok(Packing::Gzip),
            "deflate" => Ok(Packing::Deflate),
            other => Err(ApiError::Packing { found: other.chars().take(40).collect() }),
        }
    }

    fn unpacking<'a>(self, packed: impl Read + 'a) -> Box<dyn Read + 'a> {
        match self {
            Packing::None => Box::new(packed),
            Packing::Gzip => Box::new(MultiGzDecoder::new(packed)),
            Packing::Deflate => Box::new(ZlibDecoder::new(packed)),
        }
    }
}

/// Reads the body of a request for a resource, so that every route has the same limits. Handlers find it unpacked.
///
/// # Errors
/// [`ApiError::TooLarge`], [`ApiError::TooSlow`], [`ApiError::Packing`], [`ApiError::Unreadable`], or [`ApiError::Disk`] where it
/// is put into a file.
pub(super) async fn read(request: &mut ServiceRequest, takes: Takes) -> Result<(), ApiError> {
    let packing = Packing::of(request)?;
    let coming =
        Coming { payload: request.take_payload(), since: Instant::now(), bytes: 0, limit: takes.limit() };
    if takes == Takes::Everything {
        let app = request.app_data::<Data<App>>().cloned().ok_or(ApiError::Interrupted)?;
        let file = coming.into_file(app, packing).await?;
        request.extensions_mut().insert(SentFile(Arc::new(file)));
    } else {
        let body = unpacked(packing, coming.whole().await?, takes.limit())?;
        request.set_payload(Payload::from(body));
    }
    request.headers_mut().remove(CONTENT_ENCODING);
    Ok(())
}

fn unpacked(packing: Packing, packed: Bytes, limit: usize) -> Result<Bytes, ApiError> {
    if matches!(packing, Packing::None) {
        return Ok(packed);
    }
    let mut body = Vec::new();
    let mut limited = packing.unpacking(&packed[..]).take(limit as u64 + 1);
    limited.read_to_end(&mut body).map_err(|e| ApiError::Unreadable { detail: e.to_string() })?;
    if body.len() > limit { Err(ApiError::TooLarge { limit }) } else { Ok(body.into()) }
}

/// A body on its way.
struct Coming {
    payload: Payload,
    since: Instant,
    bytes: usize,
    limit: usize,
}

impl Coming {
    /// The next piece of it; nothing at its end.
    async fn next(&mut self) -> Result<Option<Bytes>, ApiError> {
        let allowed = BODY_TIME + Duration::from_secs_f64(self.bytes as f64 / SLOWEST);
        let left = allowed.saturating_sub(self.since.elapsed());
        let chunk = timeout(left, self.payload.next()).await;
        let chunk = chunk.map_err(|_| ApiError::TooSlow { limit_s: allowed.as_secs() })?;
        let chunk = chunk.transpose().map_err(|e| ApiError::Unreadable { detail: e.to_string() })?;
        self.bytes += chunk.as_ref().map_or(0, Bytes::len);
        if self.bytes > self.limit { Err(ApiError::TooLarge { limit: self.limit }) } else { Ok(chunk) }
    }

    async fn whole(mut self) -> Result<Bytes, ApiError> {
        let mut body = BytesMut::new();
        while let Some(chunk) = self.next().await? {
            body.extend_from_slice(&chunk);
        }
        Ok(body.freeze())
    }

    async fn into_file(mut self, app: Data<App>, packing: Packing) -> Result<NamedTempFile, ApiError> {
        let made = app.clone();
        let mut file = web::block(move || made.room_for_what_is_sent()).await??;
        let mut piece = BytesMut::new();
        loop {
            let chunk = self.next().await?;
            piece.extend_from_slice(chunk.as_deref().unwrap_or_default());
            if piece.len() >= PIECE || chunk.is_none() {
                let full = piece.split();
                file = web::block(move || file.write_all(&full).map(|()| file).map_err(no_room)).await??;
            }
            if chunk.is_none() {
                break;
            }
        }
        match packing {
            Packing::None => Ok(file),
            packed => web::block(move || unpacked_file(packed, &file, self.limit, &app)).await?,
        }
    }
}

fn no_room(cause: std::io::Error) -> ApiError {
    ApiError::Disk(StoreError::Copy { path: "what was sent".into(), cause: cause.to_string() })
}

fn unpacked_file(
    packing: Packing,
    packed: &NamedTempFile,
    limit: usize,
    app: &App,
) -> Result<NamedTempFile, ApiError> {
    let mut file = app.room_for_what_is_sent()?;
    let mut from = packing.unpacking(packed.reopen().map_err(no_room)?);
    let (mut piece, mut bytes) = (vec![0; PIECE], 0);
    loop {
        let n = from.read(&mut piece).map_err(|e| ApiError::Unreadable { detail: e.to_string() })?;
        bytes += n;
        if n == 0 {
            return Ok(file);
        }
        if bytes > limit {
            return Err(ApiError::TooLarge { limit });
        }
        file.write_all(&piece[..n]).map_err(no_room)?;
    }
}

/// A body that was put into a file as it came; the file goes when the request is answered.
#[derive(Clone)]
pub(super) struct SentFile(Arc<NamedTempFile>);

impl SentFile {
    /// Where it is.
    pub(super) fn path(&self) -> &Path {
        self.0.path()
    }
}

impl FromRequest for SentFile {
    type Error = Error;
    type Future = Ready<Result<SentFile, Error>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        ready(request.extensions().get::<SentFile>().cloned().ok_or_else(|| ApiError::Interrupted.into()))
    }
}

/// What kind of thing a body says it is.
pub(super) struct Kind(String);

impl FromRequest for Kind {
    type Error = Error;
    type Future = Ready<Result<Kind, Error>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let said = request.headers().get(CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
        let kind = said.split(';').next().unwrap_or_default().trim().to_ascii_lowercase();
        ready(Ok(Kind(kind)))
    }
}

impl Kind {
    /// Refuses what does not say that it is of an expected kind: a page of another site can send plain text without asking.
    ///
    /// # Errors
    /// [`ApiError::Kind`].
    pub(super) fn is_among(&self, expected: &[&'static str]) -> Result<(), ApiError> {
        match expected.contains(&self.0.as_str()) {
            true => Ok(()),
            false => Err(ApiError::Kind {
                expected: expected.join(" or "),
                found: self.0.chars().take(80).collect(),
            }),
        }
    }

    /// Whether it is of this kind.
    pub(super) fn is(&self, kind: &str) -> bool {
        self.0 == kind
    }
}

/// A JSON body as what it stands for.
pub(super) struct Sent<T>(pub T);

impl<T> Sent<T> {
    /// By itself.
    pub(super) fn into_inner(self) -> T {
        self.0
    }
}

impl<T> std::ops::Deref for Sent<T> {
    type Target = T;

    fn deref(&self) -> &T {
        &self.0
    }
}

impl<T: Serialize + DeserializeOwned> FromRequest for Sent<T> {
    type Error = Error;
    type Future = LocalBoxFuture<'static, Result<Sent<T>, Error>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let kind = Kind::extract(request).into_inner();
        let body = Bytes::from_request(request, payload);
        async move {
            kind?.is_among(&["application/json"])?;
            let sent = serde_json::from_slice(&body.await?)
                .map_err(|e| ApiError::Unreadable { detail: format!("JSON was expected; {e}") })?;
            Ok(Sent(strict(sent)?))
        }
        .boxed_local()
    }
}

/// Reads a JSON value as it is documented: a whole number is one however it is written (`20.0` is 20), and an object is not written
/// as a bare list of its values.
///
/// # Errors
/// [`ApiError::Unreadable`] with the place of what is wrong.
pub(super) fn strict<T: Serialize + DeserializeOwned>(mut sent: Value) -> Result<T, ApiError> {
    whole_numbers(&mut sent);
    let unreadable = |detail: String| ApiError::Unreadable { detail };
    let thing: T = serde_path_to_error::deserialize(&sent).map_err(|e| {
        let at = e.path().to_string();
        unreadable(if at == "." { e.inner().to_string() } else { format!("{at}: {}", e.inner()) })
    })?;
    let read = serde_json::to_value(&thing).map_err(|e| unreadable(e.to_string()))?;
    match list_for_object(&sent, &read) {
        Some(at) => Err(unreadable(format!("{at}a JSON object was expected, a list came"))),
        None => Ok(thing),
    }
}

/// A whole number of a query, however it is written.
///
/// # Errors
/// If it has a fraction, or is none.
pub(super) fn whole<'de, D: Deserializer<'de>>(query: D) -> Result<Option<i64>, D::Error> {
    let text = String::deserialize(query)?;
    let exact =
        || text.parse::<f64>().ok().filter(|f| f.fract() == 0.0 && f.abs() <= EXACT).map(|f| f as i64);
    let number = text.parse().ok().or_else(exact);
    number.map(Some).ok_or_else(|| D::Error::custom(format!("a whole number was expected, {text:.40} came")))
}

/// Greatest whole number that JSON carries exactly (RFC 8259 §6).
const EXACT: f64 = 9_007_199_254_740_992.0;

/// Writes numbers without a fraction as the whole numbers that they are.
fn whole_numbers(value: &mut Value) {
    match value {
        Value::Number(n) if n.is_f64() => {
            let exact = n.as_f64().filter(|f| f.fract() == 0.0 && f.abs() <= EXACT);
            // Negative zero stays what it is: it is no whole number.
            if let Some(f) = exact.filter(|f| *f != 0.0 || f.is_sign_positive()) {
                *n = Number::from(f as i64);
            }
        }
        Value::Array(all) => all.iter_mut().for_each(whole_numbers),
        Value::Object(fields) => fields.values_mut().for_each(whole_numbers),
        _ => {}
    }
}

/// Where a list was sent for what is an object, if anywhere.
fn list_for_object(sent: &Value, read: &Value) -> Option<String> {
    match (sent, read) {
        (Value::Array(_), Value::Object(_)) => Some(String::new()),
        (Value::Array(sent), Value::Array(read)) => sent
            .iter()
            .zip(read)
            .enumerate()
            .find_map(|(k, (s, r))| list_for_object(s, r).map(|at| format!("[{k}] {at}"))),
        (Value::Object(sent), Value::Object(read)) => sent
            .iter()
            .find_map(|(name, s)| list_for_object(s, read.get(name)?).map(|at| format!("{name}: {at}"))),
        _ => None,
    }
}
