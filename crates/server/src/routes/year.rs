//! The year ahead of a bag, what it asks to be done, and a lean bag for its cold part.

use actix_web::HttpResponse;
use actix_web::web::{Data, Json, Path, Query, ServiceConfig, get, post};
use serde::Deserialize;
use utoipa::IntoParams;
use zinc_kite_bag::disc::colour::Cover;
use zinc_kite_bag::plan::suppose::Suppose;
use zinc_kite_bag::plan::winter::{LeanWishes, lean_wishes};
use zinc_kite_bag::verdict::aging::Outlook;

use super::body::Sent;
use super::import::csv_file;
use super::resource;
use crate::app::{App, StopWhenDropped, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::year::{calendar, table};
use crate::store::BagId;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/bags/{id}/year", "POST", [post().to(year)]))
        .service(resource("/api/bags/{id}/year.ics", "GET", [get().to(events)]))
        .service(resource("/api/bags/{id}/year.csv", "GET", [get().to(forecast)]))
        .service(resource("/api/bags/{id}/lean", "GET", [get().to(lean)]));
}

/// The year ahead. Who hangs up stops it.
async fn ahead(app: &Data<App>, id: BagId, suppose: Suppose) -> Result<Outlook, ApiError> {
    let work = app.begin();
    let _guard = StopWhenDropped(work.clone());
    off_thread(app, move |app| app.year_ahead(id, &suppose, &work)).await
}

#[utoipa::path(post, path = "/api/bags/{id}/year", operation_id = "year_ahead", params(("id" = i64, Path)), request_body = Suppose,
    responses((status = 200, description = "The year ahead, under what is supposed", body = Outlook), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn year(
    app: Data<App>,
    id: Path<BagId>,
    suppose: Sent<Suppose>,
) -> Result<Json<Outlook>, ApiError> {
    Ok(Json(ahead(&app, *id, suppose.0).await?))
}

#[utoipa::path(get, path = "/api/bags/{id}/year.ics", operation_id = "export_tasks", params(("id" = i64, Path)), responses(
    (status = 200, description = "What there is to do, as iCalendar events", body = String, content_type = "text/calendar"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn events(app: Data<App>, id: Path<BagId>) -> Result<HttpResponse, ApiError> {
    let bag = app.bag(*id)?;
    let outlook = ahead(&app, *id, Suppose::default()).await?;
    let disposition = "attachment; filename=\"zinc-kite-year.ics\"";
    Ok(HttpResponse::Ok()
        .content_type("text/calendar; charset=utf-8")
        .insert_header(("Content-Disposition", disposition))
        .body(calendar(&bag.spec.name, &outlook)))
}

#[utoipa::path(get, path = "/api/bags/{id}/year.csv", operation_id = "export_forecast", params(("id" = i64, Path)), responses(
    (status = 200, description = "How every disc stands in every month", body = String, content_type = "text/csv"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn forecast(app: Data<App>, id: Path<BagId>) -> Result<HttpResponse, ApiError> {
    let outlook = ahead(&app, *id, Suppose::default()).await?;
    let text = table(&outlook).map_err(|e| ApiError::Unreadable { detail: e.to_string() })?;
    Ok(csv_file("zinc-kite-year.csv", text))
}

/// Where the lean bag is thrown.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Ground {
    /// What lies on the ground.
    #[param(inline)]
    cover: Cover,
    /// Whether it is below freezing.
    #[serde(default)]
    frost: bool,
}

#[utoipa::path(get, path = "/api/bags/{id}/lean", operation_id = "lean_wishes", params(("id" = i64, Path), Ground), responses(
    (status = 200, description = "Wishes to the builder for a lean bag", body = LeanWishes), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn lean(
    app: Data<App>,
    id: Path<BagId>,
    on: Query<Ground>,
) -> Result<Json<LeanWishes>, ApiError> {
    off_thread(&app, move |app| {
        let store = app.store();
        let bag = store.bag(*id)?.spec;
        let room = (bag.capacity, bag.event_cap_g);
        Ok(Json(lean_wishes(&store.discs()?, &store.moulds()?, room, on.cover, on.frost)))
    })
    .await
}
