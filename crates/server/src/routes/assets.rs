//! The front end, embedded in the binary.

use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use actix_web::web::{ServiceConfig, get, head, resource};
use actix_web::{HttpRequest, HttpResponse};
use rust_embed::RustEmbed;

use crate::error::ApiError;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Assets;

const NOT_BUILT: &str = "The front end is not in this build. Run `cargo xtask demo`, which builds it first.";

pub(super) fn configure(config: &mut ServiceConfig) {
    config.service(resource("/{path:.*}").route(get().to(serve)).route(head().to(serve)));
}

/// A file of the front end; any other address without a dot is a page of it and gets its index.
async fn serve(request: HttpRequest) -> Result<HttpResponse, ApiError> {
    let path = request.path().trim_start_matches('/');
    let is_file = path.rsplit('/').next().is_some_and(|name| name.contains('.'));
    let name = if is_file { path } else { "index.html" };
    match Assets::get(name) {
        Some(file) => {
            let mime = mime_guess::from_path(name).first_or_octet_stream();
            let mime = match mime.type_() {
                mime_guess::mime::TEXT => format!("{mime}; charset=utf-8"),
                _ => mime.to_string(),
            };
            // Names of assets carry a hash of their content; the index does not.
            let cache = if name.starts_with("assets/") { "max-age=31536000, immutable" } else { "no-cache" };
            Ok(HttpResponse::Ok()
                .insert_header((CONTENT_TYPE, mime))
                .insert_header((CACHE_CONTROL, cache))
                .body(file.data))
        }
        None if is_file => Err(ApiError::NoSuchPath { path: request.path().to_owned() }),
        None => Ok(HttpResponse::NotFound().content_type("text/plain; charset=utf-8").body(NOT_BUILT)),
    }
}
