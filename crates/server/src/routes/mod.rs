//! The HTTP interface. One `configure` serves the binary and the tests.

mod assets;
mod bags;
mod body;
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

use actix_web::body::BoxBody;
use actix_web::dev::{HttpServiceFactory, ServiceRequest};
use actix_web::middleware::{Next, from_fn};
use actix_web::{HttpRequest, HttpResponse, Route, web};

use crate::app::App;
use crate::door::Door;
use crate::error::ApiError;

use body::Takes;
use guard::Answers;

pub use openapi::document;
pub use records::records_schema;

/// Everything the program answers to, whom `door` lets in.
pub fn configure(app: web::Data<App>, door: web::Data<Door>) -> impl FnOnce(&mut web::ServiceConfig) {
    move |config| {
        let unreadable = |detail: String| ApiError::Unreadable { detail }.into();
        config
            .app_data(app)
            .app_data(door)
            .app_data(web::QueryConfig::default().error_handler(move |e, _| unreadable(e.to_string())))
            .app_data(web::PathConfig::default().error_handler(move |e, _| unreadable(e.to_string())))
            // Bodies are bounded where they are read: see `body`.
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
            .service(answering("/api/{rest:.*}", Answers::Admitted(Takes::Little), web::to(no_such_path), []))
            .configure(assets::configure);
        config.service(everything);
    }
}

/// A resource for who may come in. It answers other methods with 405 and the methods there are.
fn resource(
    path: &str,
    allowed: &'static str,
    routes: impl IntoIterator<Item = Route>,
) -> impl HttpServiceFactory + 'static {
    answering(path, Answers::Admitted(Takes::Usual), other_methods(allowed), routes)
}

/// The same for everything at once, which is put into a file as it comes.
fn resource_for_everything(
    path: &str,
    allowed: &'static str,
    routes: impl IntoIterator<Item = Route>,
) -> impl HttpServiceFactory + 'static {
    answering(path, Answers::Admitted(Takes::Everything), other_methods(allowed), routes)
}

/// The same for whoever asks, logged in or not.
fn open_resource(
    path: &str,
    allowed: &'static str,
    routes: impl IntoIterator<Item = Route>,
) -> impl HttpServiceFactory + 'static {
    answering(path, Answers::Anyone, other_methods(allowed), routes)
}

fn other_methods(allowed: &'static str) -> Route {
    web::to(move |request: HttpRequest| async move {
        Err::<HttpResponse, ApiError>(ApiError::Method { method: request.method().to_string(), allowed })
    })
}

fn answering(
    path: &str,
    answers: Answers,
    others: Route,
    routes: impl IntoIterator<Item = Route>,
) -> impl HttpServiceFactory + 'static {
    let resource = routes.into_iter().fold(web::resource(path), |resource, route| resource.route(route));
    resource.default_service(others).wrap(from_fn(move |request: ServiceRequest, next: Next<BoxBody>| {
        guard::at_resource(answers, request, next)
    }))
}

async fn no_such_path(request: HttpRequest) -> Result<HttpResponse, ApiError> {
    Err(ApiError::NoSuchPath { path: request.path().to_owned() })
}
