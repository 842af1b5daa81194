//! The application behind its HTTP interface, without a port.

use std::sync::{Arc, LazyLock};

use actix_web::dev::{Service, ServiceResponse};
use actix_web::http::StatusCode;
use actix_web::http::header::HeaderMap;
use actix_web::{App as HttpApp, test, web};
use serde_json::{Value, json};
use zinc_kite::app::App;
use zinc_kite::demo;
use zinc_kite::door::Door;
use zinc_kite::routes::configure;
use zinc_kite::store::Store;
use zinc_kite_bag::chance::memo::Memo;

pub trait Served: Service<actix_http::Request, Response = ServiceResponse, Error = actix_web::Error> {}
impl<S: Service<actix_http::Request, Response = ServiceResponse, Error = actix_web::Error>> Served for S {}

pub async fn served(filled: bool) -> impl Served {
    behind(filled, Door::of_this_machine()).await
}

pub async fn behind(filled: bool, door: Door) -> impl Served {
    let mut store = Store::in_memory().unwrap();
    if filled {
        demo::fill(&mut store).unwrap();
    }
    on(store, door).await
}

/// What one test has worked out the next need not: a chance depends on nothing but its question.
static WORKED_OUT: LazyLock<Arc<Memo>> = LazyLock::new(Arc::default);

/// An application on a store.
pub async fn on(store: Store, door: Door) -> impl Served {
    let app = App::new(store).unwrap().remembering(WORKED_OUT.clone());
    let app = web::Data::new(app.at(vec!["http://192.168.1.7:4817/".into()]));
    test::init_service(HttpApp::new().configure(configure(app, web::Data::new(door)))).await
}

pub struct Answer {
    pub status: StatusCode,
    pub kind: String,
    pub text: String,
    pub headers: HeaderMap,
}

impl Answer {
    pub fn json(&self) -> Value {
        serde_json::from_str(&self.text).unwrap_or_else(|e| panic!("{e}: {}", self.text))
    }

    pub fn header(&self, name: &str) -> Option<&str> {
        self.headers.get(name).map(|v| v.to_str().unwrap())
    }
}

/// The thing that a change at this address changes, if that is there before it.
fn changes(method: &str, path: &str) -> Option<String> {
    let path = path.split('?').next().unwrap();
    match method {
        "PUT" | "DELETE" => Some(path.trim_end_matches("/setting").to_owned()),
        "POST" if path == "/api/records" => Some("/api/data".into()),
        "POST" if path.starts_with("/api/data/") && path.ends_with("/restore") => Some("/api/data".into()),
        "POST" => path.strip_suffix("/moves").map(str::to_owned),
        _ => None,
    }
}

/// Asks, changing things as they are at that moment.
pub async fn ask(app: &impl Served, method: &str, path: &str, body: &str) -> Answer {
    let tag = match changes(method, path) {
        Some(thing) => ask_with(app, "GET", &thing, "", &[]).await.header("etag").map(str::to_owned),
        None => None,
    };
    // What is not there has no tag; that it is not is what is asked then.
    let tag = tag.unwrap_or_else(|| "*".into());
    ask_with(app, method, path, body, &[("if-match", &tag)]).await
}

/// Asks with these headers and no others.
pub async fn ask_with(
    app: &impl Served,
    method: &str,
    path: &str,
    body: &str,
    headers: &[(&str, &str)],
) -> Answer {
    let kind = if path.contains("import") { "text/csv" } else { "application/json" };
    let mut request = test::TestRequest::default()
        .method(method.parse().unwrap())
        .uri(path)
        .insert_header(("host", "localhost"))
        .insert_header(("content-type", kind))
        .set_payload(body.to_owned());
    for (name, value) in headers {
        request = request.insert_header((*name, *value));
    }
    let response = test::call_service(app, request.to_request()).await;
    let (status, headers) = (response.status(), response.headers().clone());
    let kind = headers.get("content-type").map_or(String::new(), |h| h.to_str().unwrap().to_owned());
    let text = String::from_utf8_lossy(&test::read_body(response).await).into_owned();
    Answer { status, kind, text, headers }
}

pub fn a_disc(name: &str) -> Value {
    json!({
        "name": name, "maker": "Saltmarsh", "mould": "Teasel", "plastic": "premium",
        "mass_g": 173.5, "reference_mass_g": 175,
        "printed": { "speed": 11, "glide": 5, "turn": -1, "fade": 2 },
        "top": "neutral", "wear": { "grade": "fresh" }, "used_for": "throwing", "colour": "#1976d2"
    })
}
