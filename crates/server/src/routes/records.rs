//! Everything as one JSON document: out, and in after a look.

use std::fs::File;

use actix_web::HttpResponse;
use actix_web::web::{Data, Json, ServiceConfig, get, post};
use serde_json::Value;

use super::body::{Kind, SentFile};
use super::openapi::document;
use super::tag::{Asked, Tagged};
use super::{resource, resource_for_everything};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::records::{RecordsDocument, read_from, schema, write};
use crate::store::Store;
use crate::store::copies::Holds;
use crate::store::records::Records;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/records.json", "GET", [get().to(export)]))
        .service(resource("/api/records.schema.json", "GET", [get().to(show_schema)]))
        .service(resource_for_everything("/api/records/preview", "POST", [post().to(preview)]))
        .service(resource_for_everything("/api/records", "POST", [post().to(import)]));
}

#[utoipa::path(get, path = "/api/records.json", operation_id = "export_records", responses(
    (status = 200, description = "Everything, as one document", body = RecordsDocument),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn export(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let text = off_thread(&app, |app| {
        // From a copy: a long log takes a while, and nobody waits for it.
        let copy = app.store().passing_copy()?;
        let records = Store::read_only(copy.path())?.records()?;
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

/// The records that came as the body of a request: JSON, said to be that.
fn sent(kind: &Kind, file: &SentFile) -> Result<Records, ApiError> {
    kind.is_among(&["application/json"])?;
    read_from(|| File::open(file.path())).map_err(|problems| ApiError::Records { problems })
}

#[utoipa::path(post, path = "/api/records/preview", operation_id = "preview_records", request_body = RecordsDocument, responses(
    (status = 200, description = "What a document holds; nothing is changed", body = Holds),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn preview(app: Data<App>, kind: Kind, file: SentFile) -> Result<Json<Holds>, ApiError> {
    off_thread(&app, move |_| Ok(Json(sent(&kind, &file)?.holds()))).await
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
    kind: Kind,
    file: SentFile,
) -> Result<Json<Holds>, ApiError> {
    off_thread(&app, move |app| {
        let records = sent(&kind, &file)?;
        let mut store = asked.store(app);
        asked.saw(&Tagged::by(&store.version()?, store.holds()?), &records.holds())?;
        store.replace_records(&records)?;
        Ok(Json(store.holds()?))
    })
    .await
}
