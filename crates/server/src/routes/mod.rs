//! The HTTP interface. One `configure` serves the binary and the tests.

mod assets;
mod bags;
mod build;
mod changes;
mod courses;
mod data;
mod day;
mod discs;
mod field;
mod guard;
mod import;
mod instruments;
mod lines;
mod moulds;
mod openapi;
mod player;
mod range;
mod records;
mod round;
mod rounds;
mod several;
mod tag;
mod year;

use actix_web::middleware::from_fn;
use actix_web::{HttpRequest, HttpResponse, Resource, Route, web};

use crate::app::App;
use crate::door::Door;
use crate::error::ApiError;

pub use openapi::document;
pub use records::records_schema;

/// Everything the program answers to, whom `door` lets in.
pub fn configure(app: web::Data<App>, door: web::Data<Door>) -> impl FnOnce(&mut web::ServiceConfig) {
    move |config| {
        let unreadable = |detail: String| ApiError::Unreadable { detail }.into();
        config
            .app_data(app)
            .app_data(door)
            .app_data(
                web::JsonConfig::default()
                    .limit(usize::MAX)
                    .error_handler(move |e, _| unreadable(e.to_string())),
            )
            .app_data(web::QueryConfig::default().error_handler(move |e, _| unreadable(e.to_string())))
            .app_data(web::PathConfig::default().error_handler(move |e, _| unreadable(e.to_string())))
            .app_data(web::PayloadConfig::new(usize::MAX));
        let everything = web::scope("")
            .wrap(from_fn(tag::tagged))
            .wrap(from_fn(guard::guard))
            .configure(openapi::configure)
            .configure(guard::configure)
            .configure(player::configure)
            .configure(discs::configure)
            .configure(several::configure)
            .configure(moulds::configure)
            .configure(bags::configure)
            .configure(build::configure)
            .configure(year::configure)
            .configure(lines::configure)
            .configure(courses::configure)
            .configure(round::configure)
            .configure(rounds::configure)
            .configure(field::configure)
            .configure(instruments::configure)
            .configure(range::configure)
            .configure(changes::configure)
            .configure(data::configure)
            .configure(records::configure)
            .service(web::resource("/api/{rest:.*}").to(no_such_path))
            .configure(assets::configure);
        config.service(everything);
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
