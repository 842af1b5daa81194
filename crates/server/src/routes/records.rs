//! Everything as one JSON document: out, and in after a look.

use actix_web::HttpResponse;
use actix_web::http::header::ContentType;
use actix_web::web::{Bytes, Data, Header, Json, ServiceConfig, get, post};
use serde_json::Value;

use super::openapi::document;
use super::resource;
use super::tag::{Asked, Tagged};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::records::{RecordsDocument, read, schema, write};
use crate::store::copies::Holds;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/records.json", "GET", [get().to(export)]))
        .service(resource("/api/records.schema.json", "GET", [get().to(show_schema)]))
        .service(resource("/api/records/preview", "POST", [post().to(preview)]))
        .service(resource("/api/records", "POST", [post().to(import)]));
}

#[utoipa::path(get, path = "/api/records.json", operation_id = "export_records", responses(
    (status = 200, description = "Everything, as one document", body = RecordsDocument),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn export(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let text = off_thread(&app, |app| {
        let records = app.store().records()?;
        write(records).map_err(|e| ApiError::Unreadable { detail: e.to_string() })
    })
    .await?;
    Ok(HttpResponse::Ok()
        .content_type("application/json")
        .insert_header(("Content-Disposition", "attachment; filename=\"zinc-kite-records.json\""))
        .body(text))
}

/// The JSON Schema of the records.
pub fn records_schema() -> Value {
    schema(&serde_json::to_value(document()).unwrap_or_default())
}

#[utoipa::path(get, path = "/api/records.schema.json", operation_id = "records_schema", responses(
    (status = 200, description = "JSON Schema of the records, draft 2020-12", body = Value, content_type = "application/schema+json")))]
pub(super) async fn show_schema() -> HttpResponse {
    HttpResponse::Ok().content_type("application/schema+json").body(records_schema().to_string())
}

/// JSON, said to be that: a page of another site can send plain text here without asking.
fn is_json(kind: &Header<ContentType>) -> Result<(), ApiError> {
    if kind.0.0.essence_str() == "application/json" {
        return Ok(());
    }
    Err(ApiError::Unreadable { detail: format!("records come as application/json, this came as {}", kind.0) })
}

#[utoipa::path(post, path = "/api/records/preview", operation_id = "preview_records", request_body = RecordsDocument, responses(
    (status = 200, description = "What a document holds; nothing is changed", body = Holds),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn preview(
    app: Data<App>,
    kind: Header<ContentType>,
    body: Bytes,
) -> Result<Json<Holds>, ApiError> {
    is_json(&kind)?;
    off_thread(&app, move |_| {
        let records = read(&body).map_err(|problems| ApiError::Records { problems })?;
        Ok(Json(records.holds()))
    })
    .await
}

#[utoipa::path(post, path = "/api/records", operation_id = "import_records",
    params(("If-Match" = String, Header, description = "Entity tag of the records that this replaces")), request_body = RecordsDocument, responses(
    (status = 200, description = "Everything is as in the document; one step of the record, which can be undone", body = Holds),
    (status = 412, description = "Another window has changed something meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn import(
    app: Data<App>,
    asked: Asked,
    kind: Header<ContentType>,
    body: Bytes,
) -> Result<Json<Holds>, ApiError> {
    is_json(&kind)?;
    off_thread(&app, move |app| {
        let records = read(&body).map_err(|problems| ApiError::Records { problems })?;
        let mut store = asked.store(app);
        asked.saw(&Tagged::by(&store.version()?, store.holds()?), &records.holds())?;
        store.replace_records(&records)?;
        Ok(Json(store.holds()?))
    })
    .await
}
