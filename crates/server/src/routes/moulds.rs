//! The library of moulds.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Bytes, Data, Json, Path, Query, ServiceConfig, delete, get, post, put};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use zinc_kite_bag::disc::mould::{Mould, MouldId, MouldSpec};
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::slot::Slot;

use super::body::{Kind, Sent};
use super::import::{ImportChoice, ImportReport, csv_file};
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::mould_csv::{read_bytes, write};
use crate::store::{Counts, Store};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/moulds", "GET, POST", [get().to(list), post().to(add)]))
        .service(resource("/api/moulds.csv", "GET", [get().to(export)]))
        .service(resource("/api/moulds/import", "POST", [post().to(import)]))
        .service(resource(
            "/api/moulds/{id}",
            "GET, PUT, DELETE",
            [get().to(show), put().to(save), delete().to(remove)],
        ));
}

/// A mould with what follows from it.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct LibraryMould {
    #[serde(flatten)]
    mould: Mould,
    /// The lane its discs belong to.
    slot: Slot,
    /// How many of it are on the shelf.
    discs: usize,
}

/// A mould as every answer gives it: how many discs there are is no part of its version.
fn shown(player: &Player, counts: &Counts, mould: Mould) -> Tagged<LibraryMould> {
    let discs = counts.of_mould(&mould.spec);
    let class = mould.spec.class.unwrap_or(Slot::of_speed(mould.spec.printed.speed));
    Tagged::by(&mould.clone(), LibraryMould { slot: player.lane(class), discs, mould })
}

fn stands(store: &Store, id: MouldId) -> Result<Tagged<LibraryMould>, ApiError> {
    let player = store.player()?.unwrap_or_default();
    Ok(shown(&player, &Counts::of(&store.discs()?), store.mould(id)?))
}

#[utoipa::path(get, path = "/api/moulds", operation_id = "list_moulds", responses(
    (status = 200, body = [Tagged<LibraryMould>]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>) -> Result<Json<Vec<Tagged<LibraryMould>>>, ApiError> {
    off_thread(&app, |app| {
        let store = app.store();
        let (player, counts) = (store.player()?.unwrap_or_default(), Counts::of(&store.discs()?));
        Ok(Json(store.moulds()?.into_iter().map(|m| shown(&player, &counts, m)).collect()))
    })
    .await
}

#[utoipa::path(post, path = "/api/moulds", operation_id = "add_mould", request_body = MouldSpec, responses(
    (status = 201, body = Tagged<LibraryMould>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn add(
    app: Data<App>,
    asked: Asked,
    spec: Sent<MouldSpec>,
) -> Result<HttpResponse, ApiError> {
    let mould = off_thread(&app, move |app| {
        spec.validate()?;
        let mut store = asked.store(app);
        let id = store.add_mould(&spec)?;
        stands(&store, id)
    })
    .await?;
    Ok(mould.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/moulds/{id}", operation_id = "get_mould", params(("id" = i64, Path)), responses(
    (status = 200, body = Tagged<LibraryMould>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>, id: Path<MouldId>) -> Result<HttpResponse, ApiError> {
    let mould = off_thread(&app, move |app| stands(&app.store(), *id)).await?;
    Ok(mould.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/moulds/{id}", operation_id = "save_mould", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    request_body = MouldSpec, responses((status = 200, body = Tagged<LibraryMould>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save(
    app: Data<App>,
    asked: Asked,
    id: Path<MouldId>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let mould = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let now = stands(&store, *id)?;
        let spec = laid_over(&now.thing().mould.spec, sent.into_inner())?;
        spec.validate()?;
        asked.saw(&now, &spec)?;
        store.save_mould(*id, &spec)?;
        stands(&store, *id)
    })
    .await?;
    Ok(mould.answer(StatusCode::OK))
}

#[utoipa::path(delete, path = "/api/moulds/{id}", operation_id = "delete_mould", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    responses((status = 204), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove(
    app: Data<App>,
    asked: Asked,
    id: Path<MouldId>,
) -> Result<HttpResponse, ApiError> {
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&stands(&store, *id)?, &())?;
        Ok(store.delete_mould(*id)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

#[utoipa::path(get, path = "/api/moulds.csv", operation_id = "export_moulds", responses(
    (status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn export(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let text = off_thread(&app, |app| {
        let moulds = app.store().moulds()?;
        write(&moulds).map_err(|e| ApiError::Unreadable { detail: e.to_string() })
    })
    .await?;
    Ok(csv_file("zinc-kite-moulds.csv", text))
}

#[utoipa::path(post, path = "/api/moulds/import", operation_id = "import_moulds", params(ImportChoice),
    request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = ImportReport), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn import(
    app: Data<App>,
    asked: Asked,
    choice: Query<ImportChoice>,
    kind: Kind,
    body: Bytes,
) -> Result<Json<ImportReport>, ApiError> {
    kind.is_among(&["text/csv"])?;
    off_thread(&app, move |app| {
        let known = app.store().moulds()?;
        let reading = read_bytes(&body, &known);
        let imported = match choice.wants(&reading) {
            true => asked.store(app).import_moulds(&reading.things)?,
            false => 0,
        };
        Ok(Json(ImportReport::of(reading, imported, vec![])))
    })
    .await
}
