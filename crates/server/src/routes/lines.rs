//! Lines.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, ServiceConfig, delete, get, post, put};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;
use zinc_kite_bag::error::within;
use zinc_kite_bag::need::line::{Line, LineSpec};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::risk::{OpenedLine, opened_line};

use super::body::Sent;
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::{BagId, LineSetting, Store};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/lines", "GET, POST", [get().to(list), post().to(add)]))
        .service(resource("/api/lines/usual", "GET", [get().to(usuals)]))
        .service(resource(
            "/api/lines/{key}",
            "GET, PUT, DELETE",
            [get().to(show), put().to(save), delete().to(remove)],
        ))
        .service(resource("/api/lines/{key}/setting", "PUT", [put().to(set)]))
        .service(resource("/api/bags/{id}/line", "POST", [post().to(tried)]));
}

/// A line as it stands.
fn stands(store: &Store, made: &[Line], key: &str) -> Result<Tagged<Line>, ApiError> {
    let line = store.lines(made.to_vec())?.into_iter().find(|l| l.key == key);
    line.map(Tagged::of).ok_or_else(|| ApiError::NotFound { what: "line", id: key.to_owned() })
}

/// Does something to a line of which they say which version they saw; the line after it.
fn changed(
    app: &App,
    asked: &Asked,
    key: &str,
    yours: &impl Serialize,
    work: impl FnOnce(&mut Store, &Line) -> Result<(), ApiError>,
) -> Result<Option<Tagged<Line>>, ApiError> {
    let made = app.made_lines()?;
    let mut store = asked.store(app);
    let now = stands(&store, &made, key)?;
    asked.saw(&now, yours)?;
    work(&mut store, now.thing())?;
    Ok(stands(&store, &made, key).ok())
}

fn answered(line: Option<Tagged<Line>>) -> HttpResponse {
    line.map_or_else(|| HttpResponse::NoContent().finish(), |line| line.answer(StatusCode::OK))
}

#[utoipa::path(get, path = "/api/lines", operation_id = "list_lines", responses(
    (status = 200, body = [Tagged<Line>]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>) -> Result<Json<Vec<Tagged<Line>>>, ApiError> {
    off_thread(&app, |app| Ok(Json(app.snapshot()?.lines.into_iter().map(Tagged::of).collect()))).await
}

#[utoipa::path(get, path = "/api/lines/{key}", operation_id = "get_line", params(("key" = String, Path)),
    responses((status = 200, body = Tagged<Line>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>, key: Path<String>) -> Result<HttpResponse, ApiError> {
    let line = off_thread(&app, move |app| {
        let made = app.made_lines()?;
        stands(&app.store(), &made, &key)
    })
    .await?;
    Ok(line.answer(StatusCode::OK))
}

#[utoipa::path(get, path = "/api/lines/usual", operation_id = "usual_lines", responses(
    (status = 200, description = "The line that a form for a new one starts from, for each style, and after these a roller, backhand and forehand", body = [LineSpec])))]
pub(super) async fn usuals() -> Json<Vec<LineSpec>> {
    Json(Style::ALL.map(LineSpec::usual).into_iter().chain(Style::ROLLING.map(LineSpec::roller)).collect())
}

#[utoipa::path(post, path = "/api/lines", operation_id = "add_line", request_body = LineSpec, responses(
    (status = 201, body = Tagged<Line>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn add(
    app: Data<App>,
    asked: Asked,
    spec: Sent<LineSpec>,
) -> Result<HttpResponse, ApiError> {
    let line = off_thread(&app, move |app| {
        spec.validate()?;
        let made = app.made_lines()?;
        let mut store = asked.store(app);
        let key = store.add_line(&spec)?;
        stands(&store, &made, &key)
    })
    .await?;
    Ok(line.answer(StatusCode::CREATED))
}

#[utoipa::path(put, path = "/api/lines/{key}", operation_id = "save_line", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("key" = String, Path)),
    request_body = LineSpec, responses((status = 200, body = Tagged<Line>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save(
    app: Data<App>,
    asked: Asked,
    key: Path<String>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let line = off_thread(&app, move |app| {
        let sent = sent.into_inner();
        changed(app, &asked, &key, &sent.clone(), |store, line| {
            let spec = laid_over(&line.spec, sent)?;
            spec.validate()?;
            Ok(store.save_line(&key, &spec)?)
        })
    })
    .await?;
    Ok(answered(line))
}

/// A line that is being drawn, and the day it is tried on.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct Draft {
    /// The line; it may still be without a name.
    line: LineSpec,
    /// The day.
    #[serde(default)]
    day: Conditions,
}

#[utoipa::path(post, path = "/api/bags/{id}/line", operation_id = "try_line", params(("id" = i64, Path)), request_body = Draft, responses(
    (status = 200, description = "The best of the bag on a line that is nowhere kept", body = OpenedLine), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn tried(
    app: Data<App>,
    id: Path<BagId>,
    draft: Sent<Draft>,
) -> Result<Json<OpenedLine>, ApiError> {
    off_thread(&app, move |app| {
        let Draft { mut line, day } = draft.into_inner();
        if line.name.trim().is_empty() {
            line.name = "draft".into();
        }
        let (now, bag) = (app.snapshot()?, app.bag(*id)?);
        let question = now.question(&bag, day);
        let line = Line { key: "draft".into(), generated: false, enabled: true, spared: false, spec: line };
        Ok(Json(app.quickly(|| opened_line(&question, None, &line, &app.memo))?))
    })
    .await
}

#[utoipa::path(delete, path = "/api/lines/{key}", operation_id = "delete_line", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("key" = String, Path)),
    responses(
        (status = 200, description = "The line as it came, which the deleted one had replaced", body = Tagged<Line>, headers(("ETag" = String, description = "Entity tag of this version"))),
        (status = 204, description = "There is no such line any more"), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove(
    app: Data<App>,
    asked: Asked,
    key: Path<String>,
) -> Result<HttpResponse, ApiError> {
    let line =
        off_thread(&app, move |app| changed(app, &asked, &key, &(), |store, _| Ok(store.delete_line(&key)?)))
            .await?;
    Ok(answered(line))
}

#[utoipa::path(put, path = "/api/lines/{key}/setting", operation_id = "set_line", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("key" = String, Path)),
    request_body = LineSetting, responses((status = 200, body = Tagged<Line>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn set(
    app: Data<App>,
    asked: Asked,
    key: Path<String>,
    setting: Sent<LineSetting>,
) -> Result<HttpResponse, ApiError> {
    let line = off_thread(&app, move |app| {
        within("weight", setting.weight.unwrap_or(1.0), 0.1, 10.0)?;
        changed(app, &asked, &key, &*setting, |store, _| Ok(store.set_line(&key, *setting)?))
    })
    .await?;
    Ok(answered(line))
}
