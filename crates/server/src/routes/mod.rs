//! The HTTP interface. One `configure` serves the binary and the tests.

mod assets;
mod bags;
mod day;
mod discs;
mod lines;
mod openapi;
mod player;
mod range;

use actix_web::{HttpRequest, HttpResponse, Resource, Route, web};

use crate::app::App;
use crate::error::ApiError;

pub use openapi::document;

/// Largest body accepted, bytes: a shelf of thousands of discs as CSV.
const LARGEST_BODY: usize = 4 << 20;

/// Everything the program answers to.
pub fn configure(app: web::Data<App>) -> impl FnOnce(&mut web::ServiceConfig) {
    move |config| {
        let unreadable = |detail: String| ApiError::Unreadable { detail }.into();
        config
            .app_data(app)
            .app_data(
                web::JsonConfig::default()
                    .limit(LARGEST_BODY)
                    .error_handler(move |e, _| unreadable(e.to_string())),
            )
            .app_data(web::QueryConfig::default().error_handler(move |e, _| unreadable(e.to_string())))
            .app_data(web::PathConfig::default().error_handler(move |e, _| unreadable(e.to_string())))
            .app_data(web::PayloadConfig::new(LARGEST_BODY));
        openapi::configure(config);
        player::configure(config);
        discs::configure(config);
        bags::configure(config);
        lines::configure(config);
        range::configure(config);
        config.service(web::resource("/api/{rest:.*}").to(no_such_path));
        assets::configure(config);
    }
}

/// A resource that answers other methods with 405 and the methods there are.
fn resource(path: &str, allowed: &'static str, routes: impl IntoIterator<Item = Route>) -> Resource {
    let mut resource = web::resource(path);
    for route in routes {
        resource = resource.route(route);
    }
    resource.default_service(web::to(move |request: HttpRequest| async move {
        Err::<HttpResponse, ApiError>(ApiError::Method { method: request.method().to_string(), allowed })
    }))
}

async fn no_such_path(request: HttpRequest) -> Result<HttpResponse, ApiError> {
    Err(ApiError::NoSuchPath { path: request.path().to_owned() })
}
