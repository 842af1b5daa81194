//! The shelf.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Bytes, Data, Json, Path, Query, ServiceConfig, delete, get, post, put};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use zinc_kite_bag::disc::feel::off;
use zinc_kite_bag::disc::plastic::{PLASTICS, PlasticFacts};
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec};
use zinc_kite_bag::disc::standard::{StandardCheck, checks};
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::verdict::sheet::{Sheet, sheet};

use super::body::{Kind, Sent};
use super::day::Day;
use super::import::{ImportChoice, ImportReport, csv_file};
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::shelf_csv::{read_bytes, write};
use crate::store::{Library, Store};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/plastics", "GET", [get().to(plastics)]))
        .service(resource("/api/discs", "GET, POST", [get().to(list), post().to(add)]))
        .service(resource(
            "/api/discs/{id}",
            "GET, PUT, DELETE",
            [get().to(show), put().to(save), delete().to(remove)],
        ))
        .service(resource("/api/discs/{id}/sheet", "GET", [get().to(disc_sheet)]))
        .service(resource("/api/shelf.csv", "GET", [get().to(export)]))
        .service(resource("/api/shelf/import", "POST", [post().to(import)]));
}

#[utoipa::path(get, path = "/api/plastics", operation_id = "list_plastics", responses(
    (status = 200, body = [PlasticFacts])))]
pub(super) async fn plastics() -> Json<&'static [PlasticFacts]> {
    Json(&PLASTICS)
}

/// A disc's sheet, with what the technical standards ask of it.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DiscSheet {
    #[serde(flatten)]
    sheet: Sheet,
    /// Every check of the technical standards.
    standard: Vec<StandardCheck>,
    /// What of it does not feel as the player likes, in words.
    feels_off: Vec<String>,
}

/// A disc with what follows from what is known of it.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ShelfDisc {
    #[serde(flatten)]
    disc: Disc,
    /// The lane it belongs to.
    slot: Slot,
    /// Share of all possible wear, 0 to 1.
    wear_share: f64,
    /// Whether it could be carried to the next round.
    at_hand: bool,
    /// What the technical standards would not allow of it, in words.
    against_standard: Vec<String>,
    /// What of it does not feel as the player likes, in words.
    feels_off: Vec<String>,
}

/// A disc as every answer gives it: what follows from the player is no part of its version.
fn shown(player: &Player, library: &Library, disc: Disc) -> Tagged<ShelfDisc> {
    let mould = library.mould_of(&disc.spec);
    let feels_off = off(player, &disc.spec, mould);
    let broken = checks(&disc.spec, mould).into_iter().filter(|c| c.ok == Some(false));
    let against_standard = broken.map(|c| format!("{}: {}", c.what, c.words)).collect();
    let wear_share = disc.spec.wear_share();
    let at_hand = disc.spec.keeping.status.is_at_hand();
    Tagged::by(
        &disc.clone(),
        ShelfDisc {
            slot: player.lane(disc.spec.slot()),
            wear_share,
            at_hand,
            against_standard,
            feels_off,
            disc,
        },
    )
}

/// A disc as it stands.
fn stands(store: &Store, id: DiscId) -> Result<Tagged<ShelfDisc>, ApiError> {
    Ok(shown(&store.player()?.unwrap_or_default(), &store.library()?, store.disc(id)?))
}

#[utoipa::path(get, path = "/api/discs", operation_id = "list_discs", responses(
    (status = 200, body = [Tagged<ShelfDisc>]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>) -> Result<Json<Vec<Tagged<ShelfDisc>>>, ApiError> {
    off_thread(&app, |app| {
        let store = app.store();
        let (player, library) = (store.player()?.unwrap_or_default(), store.library()?);
        Ok(Json(store.discs()?.into_iter().map(|disc| shown(&player, &library, disc)).collect()))
    })
    .await
}

#[utoipa::path(post, path = "/api/discs", operation_id = "add_disc", request_body = DiscSpec, responses(
    (status = 201, body = Tagged<ShelfDisc>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn add(
    app: Data<App>,
    asked: Asked,
    spec: Sent<DiscSpec>,
) -> Result<HttpResponse, ApiError> {
    let disc = off_thread(&app, move |app| {
        spec.validate()?;
        let mut store = asked.store(app);
        let id = store.add_disc(&spec)?;
        stands(&store, id)
    })
    .await?;
    Ok(disc.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/discs/{id}", operation_id = "get_disc", params(("id" = i64, Path)), responses(
    (status = 200, body = Tagged<ShelfDisc>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>, id: Path<DiscId>) -> Result<HttpResponse, ApiError> {
    let disc = off_thread(&app, move |app| stands(&app.store(), *id)).await?;
    Ok(disc.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/discs/{id}", operation_id = "save_disc", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    request_body = DiscSpec, responses((status = 200, body = Tagged<ShelfDisc>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save(
    app: Data<App>,
    asked: Asked,
    id: Path<DiscId>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let disc = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let now = stands(&store, *id)?;
        let spec = laid_over(&now.thing().disc.spec, sent.into_inner())?;
        spec.validate()?;
        asked.saw(&now, &spec)?;
        store.save_disc(*id, &spec)?;
        stands(&store, *id)
    })
    .await?;
    Ok(disc.answer(StatusCode::OK))
}

#[utoipa::path(delete, path = "/api/discs/{id}", operation_id = "delete_disc", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    responses((status = 204), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove(app: Data<App>, asked: Asked, id: Path<DiscId>) -> Result<HttpResponse, ApiError> {
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&stands(&store, *id)?, &())?;
        Ok(store.delete_disc(*id)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

#[utoipa::path(get, path = "/api/discs/{id}/sheet", operation_id = "disc_sheet",
    params(("id" = i64, Path), Day), responses((status = 200, body = DiscSheet), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn disc_sheet(
    app: Data<App>,
    id: Path<DiscId>,
    day: Query<Day>,
) -> Result<Json<DiscSheet>, ApiError> {
    off_thread(&app, move |app| {
        let (disc, library) = {
            let store = app.store();
            (store.disc(*id)?, store.library()?)
        };
        let mould = library.mould_of(&disc.spec);
        let standard = checks(&disc.spec, mould);
        let now = app.snapshot()?;
        let feels_off = off(&now.player, &disc.spec, mould);
        let conditions = day.conditions();
        let work = || sheet(&now.player, &conditions, day.style, &disc, &now.shelf, &now.lines, &app.memo);
        Ok(Json(DiscSheet { sheet: app.quickly(work)?, standard, feels_off }))
    })
    .await
}

#[utoipa::path(get, path = "/api/shelf.csv", operation_id = "export_shelf", responses(
    (status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn export(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let text = off_thread(&app, |app| {
        let discs = app.store().discs()?;
        write(&discs).map_err(|e| ApiError::Unreadable { detail: e.to_string() })
    })
    .await?;
    Ok(csv_file("zinc-kite-shelf.csv", text))
}

#[utoipa::path(post, path = "/api/shelf/import", operation_id = "import_shelf", params(ImportChoice),
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
        // Read with the database free for others: that takes a while.
        let taken: Vec<String> = app.store().discs()?.into_iter().map(|d| d.spec.name).collect();
        let reading = read_bytes(&body, &taken);
        let disc_ids = match choice.wants(&reading) {
            true => asked.store(app).add_discs(&reading.things, None, "imported")?,
            false => vec![],
        };
        Ok(Json(ImportReport::of(reading, disc_ids.len(), disc_ids)))
    })
    .await
}
