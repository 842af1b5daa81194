//! Where the records are, copies of them, and how to open them from elsewhere.

use std::io::Read;
use std::path::{Path as FilePath, PathBuf};

use actix_web::http::StatusCode;
use actix_web::web::{Bytes, Data, Json, Path, ServiceConfig, get, post};
use actix_web::{HttpResponse, web};
use futures_util::stream::{Stream, unfold};
use qrcode::QrCode;
use qrcode::render::svg;
use serde::Serialize;
use tempfile::NamedTempFile;
use utoipa::ToSchema;

use super::body::SentFile;
use super::tag::{Asked, Tagged};
use super::{resource, resource_for_everything};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::records::{verified, verified_copy};
use crate::store::copies::{Holds, daily_copies};
use crate::store::migrations::VERSION;
use crate::store::{Store, StoreError};

/// Kind of a database file.
const SQLITE: &str = "application/vnd.sqlite3";

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/data", "GET", [get().to(show)]))
        .service(resource("/api/data/backup.db", "GET", [get().to(backup)]))
        .service(resource_for_everything("/api/data/preview", "POST", [post().to(preview)]))
        .service(resource_for_everything("/api/data/restore", "POST", [post().to(restore)]))
        .service(resource("/api/data/copies/{name}", "GET", [get().to(preview_copy)]))
        .service(resource("/api/data/copies/{name}/restore", "POST", [post().to(restore_copy)]))
        .service(resource("/api/data/address.svg", "GET", [get().to(address)]));
}

/// A copy kept beside the database.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Copy {
    /// Name of its file.
    name: String,
    /// Its size, bytes.
    bytes: u64,
}

/// Where the records are.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Records {
    /// The file; null if they are only in memory.
    path: Option<String>,
    /// Its size, bytes.
    bytes: u64,
    /// Version of its format.
    format: usize,
    /// What is in it.
    holds: Holds,
    /// Folder of the daily copies.
    copies_in: Option<String>,
    /// The daily copies, the latest first.
    copies: Vec<Copy>,
    /// Why there are no copies; null if nothing is in their way.
    no_copies: Option<String>,
    /// Where browsers on other machines reach this program, the first the one in the QR code; none if only this machine does.
    addresses: Vec<String>,
}

/// Addresses by which others than this machine come.
fn reachable(app: &App) -> impl Iterator<Item = &String> {
    let own = ["//127.", "//[::1]", "//localhost"];
    app.addresses().iter().filter(move |a| !own.iter().any(|o| a.contains(o)))
}

fn size(path: &FilePath) -> u64 {
    std::fs::metadata(path).map_or(0, |m| m.len())
}

#[utoipa::path(get, path = "/api/data", operation_id = "get_records", responses(
    (status = 200, body = Tagged<Records>, headers(("ETag" = String, description = "Entity tag of this version"))),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let records = off_thread(&app, |app| {
        let (path, holds, version) = {
            let store = app.store();
            (store.file().map(PathBuf::from), store.holds()?, store.version()?)
        };
        let (files, no_copies) = match path.as_deref().map_or(Ok(vec![]), daily_copies) {
            Ok(files) => (files, None),
            Err(cause @ (StoreError::NoFolder { .. } | StoreError::Copy { .. })) => {
                (vec![], Some(cause.to_string()))
            }
            Err(other) => return Err(other.into()),
        };
        let copies_in = files.first().and_then(|f| f.parent()).map(|p| p.display().to_string());
        let copies = files.iter().rev().map(|file| Copy { name: name_of(file), bytes: size(file) }).collect();
        let records = Records {
            bytes: path.as_deref().map_or(0, size),
            path: path.map(|p| p.display().to_string()),
            format: VERSION,
            holds,
            copies_in,
            copies,
            no_copies,
            addresses: reachable(app).cloned().collect(),
        };
        Ok(Tagged::by(&version, records))
    })
    .await?;
    Ok(records.answer(StatusCode::OK))
}

fn name_of(file: &FilePath) -> String {
    file.file_name().map_or(String::new(), |n| n.to_string_lossy().into_owned())
}

#[utoipa::path(get, path = "/api/data/backup.db", operation_id = "back_up", responses(
    (status = 200, description = "Everything, as one database file", body = Vec<u8>, content_type = "application/vnd.sqlite3"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn backup(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let copy = off_thread(&app, |app| Ok(app.store().passing_copy()?)).await?;
    Ok(HttpResponse::Ok()
        .content_type(SQLITE)
        .insert_header(("Content-Disposition", "attachment; filename=\"zinc-kite-backup.db\""))
        .streaming(pieces(copy)))
}

/// Bytes of a file that are in memory at once.
const PIECE: usize = 256 << 10;

/// A file piece by piece, so that it is never in memory whole.
fn pieces(file: NamedTempFile) -> impl Stream<Item = std::io::Result<Bytes>> {
    unfold(Some(file), |file| async move {
        let mut file = file?;
        let read = web::block(move || {
            let mut piece = vec![0; PIECE];
            let n = file.read(&mut piece)?;
            piece.truncate(n);
            Ok((Bytes::from(piece), file))
        });
        match read.await.map_err(std::io::Error::other).flatten() {
            Ok((piece, _)) if piece.is_empty() => None,
            Ok((piece, file)) => Some((Ok(piece), Some(file))),
            Err(cause) => Some((Err(cause), None)),
        }
    })
}

/// What was put in the place of what.
#[derive(Debug, Serialize, ToSchema)]
pub struct Restored {
    /// What there is now.
    holds: Holds,
    /// The file that keeps what there was; null if there was none.
    kept_in: Option<String>,
}

/// Puts a copy in the place of everything.
fn put(app: &App, asked: &Asked, copy: &Store) -> Result<Json<Restored>, ApiError> {
    let mut store = asked.store(app);
    asked.saw(&Tagged::by(&store.version()?, store.holds()?), &copy.holds()?)?;
    let kept = store.replace_by(copy)?;
    Ok(Json(Restored { holds: store.holds()?, kept_in: kept.map(|p| p.display().to_string()) }))
}

/// The copy that came as the body of a request.
fn sent(file: &SentFile) -> Result<Store, ApiError> {
    verified("what was sent", file.path())
}

/// One of the daily copies, in a file of its own.
fn kept(app: &App, name: &str) -> Result<(Store, NamedTempFile), ApiError> {
    let path = app.store().file().map(PathBuf::from);
    let all = path.as_deref().map_or(Ok(vec![]), daily_copies)?;
    let file = all.iter().find(|file| name_of(file) == name);
    let file = file.ok_or_else(|| ApiError::NotFound { what: "copy", id: name.to_owned() })?;
    verified_copy(file, path.as_deref())
}

#[utoipa::path(post, path = "/api/data/preview", operation_id = "preview_backup",
    request_body(content = Vec<u8>, content_type = "application/vnd.sqlite3"), responses(
    (status = 200, description = "What a backup holds; nothing is changed", body = Holds),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn preview(app: Data<App>, file: SentFile) -> Result<Json<Holds>, ApiError> {
    off_thread(&app, move |_| Ok(Json(sent(&file)?.holds()?))).await
}

#[utoipa::path(post, path = "/api/data/restore", operation_id = "restore_backup", params(("If-Match" = String, Header, description = "Entity tag of the records that this replaces")),
    request_body(content = Vec<u8>, content_type = "application/vnd.sqlite3"), responses(
    (status = 200, description = "Everything is as in the backup; what there was is kept in a file", body = Restored),
    (status = 412, description = "Another window has changed something meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn restore(
    app: Data<App>,
    asked: Asked,
    file: SentFile,
) -> Result<Json<Restored>, ApiError> {
    off_thread(&app, move |app| put(app, &asked, &sent(&file)?)).await
}

#[utoipa::path(get, path = "/api/data/copies/{name}", operation_id = "preview_copy", params(("name" = String, Path)),
    responses((status = 200, description = "What a daily copy holds", body = Holds),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn preview_copy(app: Data<App>, name: Path<String>) -> Result<Json<Holds>, ApiError> {
    off_thread(&app, move |app| Ok(Json(kept(app, &name)?.0.holds()?))).await
}

#[utoipa::path(post, path = "/api/data/copies/{name}/restore", operation_id = "restore_copy",
    params(("If-Match" = String, Header, description = "Entity tag of the records that this replaces"), ("name" = String, Path)), responses(
    (status = 200, description = "Everything is as in the copy; what there was is kept in a file", body = Restored),
    (status = 412, description = "Another window has changed something meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn restore_copy(
    app: Data<App>,
    asked: Asked,
    name: Path<String>,
) -> Result<Json<Restored>, ApiError> {
    off_thread(&app, move |app| put(app, &asked, &kept(app, &name)?.0)).await
}

#[utoipa::path(get, path = "/api/data/address.svg", operation_id = "address_code", responses(
    (status = 200, description = "QR code of the first address", body = String, content_type = "image/svg+xml"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn address(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let none = || ApiError::NotFound { what: "address", id: "of this program".into() };
    let address = reachable(&app).next().ok_or_else(none)?;
    let code = QrCode::new(address).map_err(|_| none())?;
    let picture = code.render::<svg::Color>().min_dimensions(240, 240).quiet_zone(true).build();
    Ok(HttpResponse::Ok().content_type("image/svg+xml").body(picture))
}
