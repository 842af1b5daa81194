//! Lines.

use actix_web::HttpResponse;
use actix_web::web::{Data, Json, Path, ServiceConfig, delete, get, post, put};
use zinc_kite_bag::error::within;
use zinc_kite_bag::need::line::{Line, LineSpec};
use zinc_kite_bag::thrower::style::Style;

use super::resource;
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::LineSetting;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/lines", "GET, POST", [get().to(list), post().to(add)]))
        .service(resource("/api/lines/usual", "GET", [get().to(usuals)]))
        .service(resource("/api/lines/{key}", "PUT, DELETE", [put().to(save), delete().to(remove)]))
        .service(resource("/api/lines/{key}/restore", "POST", [post().to(restore)]))
        .service(resource("/api/lines/{key}/setting", "PUT", [put().to(set)]));
}

fn find(app: &App, key: &str) -> Result<Line, ApiError> {
    let lines = app.snapshot()?.lines;
    lines
        .into_iter()
        .find(|l| l.key == key)
        .ok_or_else(|| ApiError::NotFound { what: "line", id: key.to_owned() })
}

#[utoipa::path(get, path = "/api/lines", operation_id = "list_lines", responses(
    (status = 200, body = [Line]), (status = "default", body = Problem)))]
pub(super) async fn list(app: Data<App>) -> Result<Json<Vec<Line>>, ApiError> {
    off_thread(&app, |app| Ok(Json(app.snapshot()?.lines))).await
}

#[utoipa::path(get, path = "/api/lines/usual", operation_id = "usual_lines", responses(
    (status = 200, description = "The line that a form for a new one starts from, for each style", body = [LineSpec])))]
pub(super) async fn usuals() -> Json<[LineSpec; Style::ALL.len()]> {
    Json(Style::ALL.map(LineSpec::usual))
}

#[utoipa::path(post, path = "/api/lines", operation_id = "add_line", request_body = LineSpec, responses(
    (status = 201, body = Line), (status = "default", body = Problem)))]
pub(super) async fn add(app: Data<App>, spec: Json<LineSpec>) -> Result<HttpResponse, ApiError> {
    let line = off_thread(&app, move |app| {
        spec.validate()?;
        let key = app.store().add_line(&spec)?;
        find(app, &key)
    })
    .await?;
    Ok(HttpResponse::Created().json(line))
}

#[utoipa::path(put, path = "/api/lines/{key}", operation_id = "save_line", params(("key" = String, Path)),
    request_body = LineSpec, responses((status = 200, body = Line), (status = "default", body = Problem)))]
pub(super) async fn save(
    app: Data<App>,
    key: Path<String>,
    spec: Json<LineSpec>,
) -> Result<Json<Line>, ApiError> {
    off_thread(&app, move |app| {
        spec.validate()?;
        find(app, &key)?;
        app.store().save_line(&key, &spec)?;
        Ok(Json(find(app, &key)?))
    })
    .await
}

#[utoipa::path(delete, path = "/api/lines/{key}", operation_id = "delete_line", params(("key" = String, Path)),
    responses((status = 204), (status = "default", body = Problem)))]
pub(super) async fn remove(app: Data<App>, key: Path<String>) -> Result<HttpResponse, ApiError> {
    off_thread(&app, move |app| Ok(app.store().delete_line(&key)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[utoipa::path(post, path = "/api/lines/{key}/restore", operation_id = "restore_line",
    params(("key" = String, Path)), responses((status = 200, body = Line), (status = "default", body = Problem)))]
pub(super) async fn restore(app: Data<App>, key: Path<String>) -> Result<Json<Line>, ApiError> {
    off_thread(&app, move |app| {
        app.store().restore_line(&key)?;
        Ok(Json(find(app, &key)?))
    })
    .await
}

#[utoipa::path(put, path = "/api/lines/{key}/setting", operation_id = "set_line", params(("key" = String, Path)),
    request_body = LineSetting, responses((status = 200, body = Line), (status = "default", body = Problem)))]
pub(super) async fn set(
    app: Data<App>,
    key: Path<String>,
    setting: Json<LineSetting>,
) -> Result<Json<Line>, ApiError> {
    off_thread(&app, move |app| {
        within("weight", setting.weight.unwrap_or(1.0), 0.1, 10.0)?;
        find(app, &key)?;
        app.store().set_line(&key, *setting)?;
        Ok(Json(find(app, &key)?))
    })
    .await
}
