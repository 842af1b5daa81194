//! The application behind its HTTP interface, without a port.

use actix_web::dev::{Service, ServiceResponse};
use actix_web::http::StatusCode;
use actix_web::{App as HttpApp, test, web};
use serde_json::{Value, json};
use zinc_kite::app::App;
use zinc_kite::demo;
use zinc_kite::routes::configure;
use zinc_kite::store::Store;

pub async fn served(
    filled: bool,
) -> impl Service<actix_http::Request, Response = ServiceResponse, Error = actix_web::Error> {
    let mut store = Store::in_memory().unwrap();
    if filled {
        demo::fill(&mut store).unwrap();
    }
    test::init_service(HttpApp::new().configure(configure(web::Data::new(App::new(store).unwrap())))).await
}

pub struct Answer {
    pub status: StatusCode,
    pub kind: String,
    pub text: String,
}

impl Answer {
    pub fn json(&self) -> Value {
        serde_json::from_str(&self.text).unwrap_or_else(|e| panic!("{e}: {}", self.text))
    }
}

pub async fn ask(
    app: &impl Service<actix_http::Request, Response = ServiceResponse, Error = actix_web::Error>,
    method: &str,
    path: &str,
    body: &str,
) -> Answer {
    let kind = if path.contains("import") { "text/csv" } else { "application/json" };
    let request = test::TestRequest::default()
        .method(method.parse().unwrap())
        .uri(path)
        .insert_header(("content-type", kind))
        .set_payload(body.to_owned())
        .to_request();
    let response = test::call_service(app, request).await;
    let status = response.status();
    let header = response.headers().get("content-type");
    let kind = header.map_or(String::new(), |h| h.to_str().unwrap().to_owned());
    let text = String::from_utf8(test::read_body(response).await.to_vec()).unwrap();
    Answer { status, kind, text }
}

pub fn a_disc(name: &str) -> Value {
    json!({
        "name": name, "maker": "Saltmarsh", "mould": "Teasel", "plastic": "premium",
        "mass_g": 173.5, "reference_mass_g": 175,
        "printed": { "speed": 11, "glide": 5, "turn": -1, "fade": 2 },
        "top": "neutral", "wear": { "grade": "fresh" }, "used_for": "throwing", "colour": "#1976d2"
    })
}
