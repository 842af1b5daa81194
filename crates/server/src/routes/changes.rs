//! What was changed, and back again.

use actix_web::web::{Data, Json, Path, Query, ServiceConfig, get, post};
use serde::Deserialize;
use utoipa::IntoParams;
use zinc_kite_bag::disc::spec::DiscId;
use zinc_kite_bag::error::within;

use super::body::whole;
use super::resource;
use super::tag::Asked;
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::changes::{Change, Changes};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/changes", "GET", [get().to(list)]))
        .service(resource("/api/changes/undo", "POST", [post().to(undo)]))
        .service(resource("/api/changes/redo", "POST", [post().to(redo)]))
        .service(resource("/api/changes/{id}/undo", "POST", [post().to(undo_one)]))
        .service(resource("/api/changes/{id}/redo", "POST", [post().to(redo_one)]));
}

/// Which part of the record.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Part {
    /// Only steps before this one.
    #[serde(default, deserialize_with = "whole")]
    before: Option<i64>,
    /// So many at most, 1 to 200.
    #[param(minimum = 1, maximum = 200)]
    #[serde(default, deserialize_with = "whole")]
    most: Option<i64>,
    /// Only what was done to this disc.
    #[param(value_type = Option<i64>)]
    disc_id: Option<DiscId>,
}

/// Steps told at once unless the request says how many.
const USUAL: i64 = 50;
const MOST: i64 = 200;

#[utoipa::path(get, path = "/api/changes", operation_id = "list_changes", params(Part), responses(
    (status = 200, body = Changes), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>, asked: Asked, part: Query<Part>) -> Result<Json<Changes>, ApiError> {
    off_thread(&app, move |app| {
        let most = part.most.unwrap_or(USUAL);
        within("most", most as f64, 1.0, MOST as f64)?;
        Ok(Json(asked.store(app).changes(part.before, most, part.disc_id)?))
    })
    .await
}

#[utoipa::path(post, path = "/api/changes/undo", operation_id = "undo", responses(
    (status = 200, description = "The latest step that held, undone", body = Change),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn undo(app: Data<App>, asked: Asked) -> Result<Json<Change>, ApiError> {
    off_thread(&app, move |app| Ok(Json(asked.store(app).undo(None)?))).await
}

#[utoipa::path(post, path = "/api/changes/redo", operation_id = "redo", responses(
    (status = 200, description = "The step undone last, done again", body = Change),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn redo(app: Data<App>, asked: Asked) -> Result<Json<Change>, ApiError> {
    off_thread(&app, move |app| Ok(Json(asked.store(app).redo(None)?))).await
}

#[utoipa::path(post, path = "/api/changes/{id}/undo", operation_id = "undo_change", params(("id" = i64, Path)),
    responses((status = 200, description = "The step, undone", body = Change), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn undo_one(app: Data<App>, asked: Asked, id: Path<i64>) -> Result<Json<Change>, ApiError> {
    off_thread(&app, move |app| Ok(Json(asked.store(app).undo(Some(*id))?))).await
}

#[utoipa::path(post, path = "/api/changes/{id}/redo", operation_id = "redo_change", params(("id" = i64, Path)),
    responses((status = 200, description = "The step, done again", body = Change), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn redo_one(app: Data<App>, asked: Asked, id: Path<i64>) -> Result<Json<Change>, ApiError> {
    off_thread(&app, move |app| Ok(Json(asked.store(app).redo(Some(*id))?))).await
}
